package evidence

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/day"
)

// R. G. Newcombe, Two-sided confidence intervals for the single proportion, Statistics in Medicine 17 (1998), table I,
// method 3.
func TestWilsonAgreesWithNewcombe(t *testing.T) {
	for _, c := range []struct {
		x, n      int
		low, high float64
	}{{81, 263, 0.2553, 0.3662}, {15, 148, 0.0624, 0.1605}, {0, 20, 0, 0.1611}, {1, 29, 0.0061, 0.1718},
		{8, 10, 0.4902, 0.9433}, // exact arithmetic, not in the table
	} {
		low, high := Wilson(c.x, c.n)
		if math.Abs(low-c.low) > 5e-5 || math.Abs(high-c.high) > 5e-5 {
			t.Errorf("%d of %d: %.4f–%.4f, want %.4f–%.4f", c.x, c.n, low, high, c.low, c.high)
		}
	}
}

var now = time.Date(2026, 11, 24, 19, 30, 0, 0, time.UTC)

func weeksAgo(w float64) time.Time { return now.Add(-time.Duration(w * 7 * 24 * float64(time.Hour))) }

func makes(x, of int, weeks float64, by string) coach.Mark {
	return coach.Mark{CriterionID: "c", Figure: float64(x), Tries: of, At: weeksAgo(weeks), By: by}
}

func TestMeets(t *testing.T) {
	crit := func(m coach.Measure, want, of float64) coach.Criterion {
		return coach.Criterion{Measure: m, Want: want, Of: of, Tolerance: 10, Points: []string{"heel", "elbow"}}
	}
	for _, c := range []struct {
		name string
		crit coach.Criterion
		mark coach.Mark
		want bool
	}{
		{"8 of 10 made 8", crit(coach.Makes, 8, 10), makes(8, 10, 0, ""), true},
		{"8 of 10 made 7", crit(coach.Makes, 8, 10), makes(7, 10, 0, ""), false},
		{"17 of 20 is better than 8 of 10", crit(coach.Makes, 8, 10), makes(17, 20, 0, ""), true},
		{"a shorter try is practice", crit(coach.Makes, 8, 10), makes(5, 5, 0, ""), false},
		{"streak reached", crit(coach.Streak, 10, 0), coach.Mark{Figure: 12}, true},
		{"count in a time short", crit(coach.Count, 60, 30), coach.Mark{Figure: 59}, false},
		{"hold", crit(coach.Hold, 20, 0), coach.Mark{Figure: 20}, true},
		{"one fault allowed, one made", crit(coach.Faults, 1, 0), coach.Mark{Figure: 1}, true},
		{"one fault allowed, two made", crit(coach.Faults, 1, 0), coach.Mark{Figure: 2}, false},
		{"slower than asked", crit(coach.Time, 9.5, 0), coach.Mark{Figure: 9.6}, false},
		{"angle inside the tolerance", crit(coach.Angle, 45, 0), coach.Mark{Figure: 36}, true},
		{"angle outside", crit(coach.Angle, 45, 0), coach.Mark{Figure: 34}, false},
		{"grade", crit(coach.Grade, 3, 0), coach.Mark{Figure: 3}, true},
		{"every point yes", crit(coach.Check, 0, 0), coach.Mark{Points: []bool{true, true}}, true},
		{"one point no", crit(coach.Check, 0, 0), coach.Mark{Points: []bool{true, false}}, false},
		{"struck out", crit(coach.Hold, 20, 0), coach.Mark{Figure: 30, Struck: true}, false},
	} {
		if Meets(c.crit, c.mark) != c.want {
			t.Errorf("%s: %v", c.name, !c.want)
		}
	}
}

func TestStatus(t *testing.T) {
	c := coach.Criterion{
		ID:      "c",
		Measure: coach.Makes,
		Want:    8,
		Of:      10,
		Rule:    coach.EvidenceRule{Good: 2, Last: 3, Days: 2, Weeks: 6, People: 1},
	}
	two := c
	two.Rule.People = 2
	single := c
	single.Rule = coach.EvidenceRule{Good: 1}
	sides := c
	sides.BothSides = true
	left := func(m coach.Mark) coach.Mark { m.Side = coach.Left; return m }
	right := func(m coach.Mark) coach.Mark { m.Side = coach.Right; return m }
	for _, k := range []struct {
		name    string
		crit    coach.Criterion
		marks   []coach.Mark
		want    State
		missing string
	}{
		{"nobody has looked", c, nil, Unseen, "not seen yet"},
		{"nobody has looked, and once would do", single, nil, Unseen, "not seen yet"},
		{"tried once where once would do", single, []coach.Mark{makes(4, 10, 1, "a")}, Nearly, "one more good mark"},
		{"tried and missed", c, []coach.Mark{makes(4, 10, 1, "a")}, Seen, "2 more good marks"},
		{"one good mark", c, []coach.Mark{makes(8, 10, 1, "a")}, Nearly, "one more good mark on another day"},
		{"two on one lucky day", c, []coach.Mark{makes(9, 10, 1, "a"), makes(10, 10, 1, "a")}, Nearly, "on another day"},
		{"two days", c, []coach.Mark{makes(9, 10, 1, "a"), makes(8, 10, 2, "a")}, Shown, ""},
		{"but seven weeks ago", c, []coach.Mark{makes(9, 10, 7, "a"), makes(8, 10, 8, "a")}, Stale, "too long ago"},
		{"good ones pushed out of the last three", c, []coach.Mark{makes(9, 10, 4, "a"), makes(9, 10, 3, "a"), makes(2, 10, 2, "a"), makes(3, 10, 1, "a")}, Seen, ""},
		{"practice does not push them out", c, []coach.Mark{makes(9, 10, 4, "a"), makes(9, 10, 3, "a"), makes(2, 5, 2, "a"), makes(1, 5, 1, "a")}, Shown, ""},
		{"one pair of eyes where two are asked", two, []coach.Mark{makes(9, 10, 1, "a"), makes(8, 10, 2, "a")}, Nearly, "by another person"},
		{"the worse side counts", sides, []coach.Mark{right(makes(9, 10, 1, "a")), right(makes(8, 10, 2, "a")), left(makes(9, 10, 1, "a"))}, Nearly, "on the left"},
		{"both sides", sides, []coach.Mark{right(makes(9, 10, 1, "a")), right(makes(8, 10, 2, "a")), left(makes(9, 10, 1, "a")), left(makes(8, 10, 2, "b"))}, Shown, ""},
	} {
		s := Of(k.crit, k.marks, now)
		if s.State != k.want || !strings.Contains(s.Missing, k.missing) {
			t.Errorf("%s: %s, %q; want %s, %q", k.name, s.State, s.Missing, k.want, k.missing)
		}
	}
	struck := []coach.Mark{makes(9, 10, 1, "a"), makes(8, 10, 2, "a")}
	struck[0].Struck = true
	if s := Of(c, struck, now); s.State != Nearly {
		t.Errorf("with one struck out: %s, want nearly", s.State)
	}
}

func TestReadinessSaysWhatIsMissing(t *testing.T) {
	rule := coach.EvidenceRule{Good: 2, Days: 2, Weeks: 6}
	stage := coach.Stage{StepUp: coach.StepUp{Choose: 1, Visits: 3, Weeks: 4}, Criteria: []coach.Criterion{
		{ID: "must", Wording: "Catch on the move", Measure: coach.Hold, Want: 1, Must: true, Rule: rule},
		{ID: "a", Wording: "Feint", Measure: coach.Hold, Want: 1, Rule: rule},
		{ID: "b", Wording: "Lob", Measure: coach.Hold, Want: 1, Rule: rule},
	}}
	on := func(id string, weeks float64) coach.Mark {
		return coach.Mark{CriterionID: id, Figure: 1, At: weeksAgo(weeks), By: "a"}
	}
	marks := []coach.Mark{on("must", 1), on("must", 2), on("b", 1)}
	r := Ready(stage, marks, 2, day.Of(weeksAgo(3)), now)
	if r.Ready || math.Abs(r.Progress-0.75) > 1e-12 {
		t.Errorf("ready %v at %v, want not ready at 0.75", r.Ready, r.Progress)
	}
	said := strings.Join(r.Missing, " | ")
	for _, want := range []string{"1 more of: Lob and Feint", "1 more visit", "asked are 4 weeks"} {
		if !strings.Contains(said, want) {
			t.Errorf("missing list %q lacks %q", said, want)
		}
	}
	r = Ready(stage, append(marks, on("b", 3)), 3, day.Of(weeksAgo(4)), now)
	if !r.Ready || r.Progress != 1 || len(r.Missing) != 0 {
		t.Errorf("everything shown: %+v", r)
	}
	if r := Ready(coach.Stage{}, nil, 0, day.Of(now), now); r.Ready {
		t.Error("a stage without criteria made somebody ready")
	}
}

func ExampleOf() {
	c := coach.Criterion{ID: "c", Measure: coach.Makes, Want: 8, Of: 10, Rule: coach.EvidenceRule{Good: 2, Days: 2}}
	s := Of(c, []coach.Mark{makes(9, 10, 1, "Ines"), makes(10, 10, 1, "Ines")}, now)
	fmt.Println(s.State, "-", s.Missing)
	// Output: nearly - one more good mark on another day
}

func BenchmarkReady(b *testing.B) {
	stage := coach.Stage{}
	var marks []coach.Mark
	for i := range 7 {
		id := fmt.Sprint(i)
		stage.Criteria = append(
			stage.Criteria,
			coach.Criterion{
				ID:      id,
				Measure: coach.Makes,
				Want:    8,
				Of:      10,
				Must:    true,
				Rule:    coach.EvidenceRule{Good: 2, Last: 3, Days: 2, Weeks: 6},
			},
		)
		for w := range 8 {
			marks = append(marks, coach.Mark{CriterionID: id, Figure: 8, Tries: 10, At: weeksAgo(float64(w)), By: "a"})
		}
	}
	for b.Loop() {
		Ready(stage, marks, 9, day.Of(weeksAgo(11)), now)
	}
}

// The phone's pads are held to the same cases: what it shows as met is what the record says.
func TestWhatMeetsAStandard(t *testing.T) {
	var cases []struct {
		Name, Measure                      string
		Want, Of, Tolerance, Figure, Tries float64
		Asked                              []string
		Points                             []bool
		Meets                              bool
	}
	b, err := os.ReadFile("testdata/meets.json")
	if err == nil {
		err = json.Unmarshal(b, &cases)
	}
	if err != nil || len(cases) == 0 {
		t.Fatal(err)
	}
	for _, k := range cases {
		c := coach.Criterion{Measure: coach.Measure(k.Measure), Want: k.Want, Of: k.Of, Tolerance: k.Tolerance, Points: k.Asked}
		m := coach.Mark{Figure: k.Figure, Tries: int(k.Tries), Points: k.Points}
		if Meets(c, m) != k.Meets {
			t.Errorf("%s: not %v", k.Name, k.Meets)
		}
	}
}

// Of two sides that nobody saw neither is the one that is missing; where one was seen, the other is.
func TestWhatNobodySawIsMissingOnEitherSide(t *testing.T) {
	c := coach.Criterion{ID: "c", Measure: coach.Hold, Want: 10, BothSides: true, Rule: coach.EvidenceRule{Good: 1}}
	at := time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC)
	if got := Of(c, nil, at); got.State != Unseen || got.Missing != "not seen yet on either side" {
		t.Errorf("%v: %q", got.State, got.Missing)
	}
	right := coach.Mark{CriterionID: "c", Side: coach.Right, Figure: 12, At: at.Add(-time.Hour), By: "m"}
	if got := Of(c, []coach.Mark{right}, at); got.Missing != "not seen yet on the left" {
		t.Errorf("with the right side shown: %q", got.Missing)
	}
}
