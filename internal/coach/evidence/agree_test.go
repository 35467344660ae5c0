package evidence

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/day"
)

func TestAgreementOfTwoMarkers(t *testing.T) {
	for _, c := range []struct {
		source                 string
		table                  [][]int
		share, kappa, weighted float64
	}{
		{"exact arithmetic", [][]int{{20, 5}, {10, 15}}, 0.70, 0.40, 0.40},
		{"J. L. Fleiss, B. Levin, M. C. Paik, Statistical Methods for Rates and Proportions, 3rd ed. 2003, table 18.1 (from memory)", [][]int{{75, 1, 4}, {5, 4, 1}, {0, 0, 10}}, 0.89, 0.676, math.NaN()},
		{"D. G. Altman, Practical Statistics for Medical Research, 1991, p. 403–409: 85 xeromammograms read twice (from memory)", [][]int{{21, 12, 0, 0}, {4, 17, 1, 0}, {3, 9, 15, 2}, {0, 0, 0, 1}}, 0.6353, 0.4728, 0.5684},
		{"all alike", [][]int{{0, 0}, {0, 12}}, 1, 1, 1},
	} {
		a := Agree(c.table)
		if math.Abs(a.Share-c.share) > 5e-5 || math.Abs(a.Kappa-c.kappa) > 5e-4 ||
			math.Abs(a.Weighted-c.weighted) > 5e-4 {
			t.Errorf("%s: share %.4f, κ %.4f, weighted %.4f", c.source, a.Share, a.Kappa, a.Weighted)
		}
	}
	for kappa, want := range map[float64]string{-0.1: "poor", 0.15: "slight", 0.40: "fair", 0.55: "moderate", 0.8: "substantial", 0.9: "almost perfect"} {
		if KappaWords(kappa) != want {
			t.Errorf("κ %g: %s, want %s", kappa, KappaWords(kappa), want)
		}
	}
}

func TestCompareTakesMarksOfTheSamePlayersSideBySide(t *testing.T) {
	c := eightOfTen(coach.EvidenceRule{Good: 1})
	var marks []coach.Mark
	see := func(player int, by string, good bool, week float64) {
		x := 5
		if good {
			x = 9
		}
		m := makes(x, 10, week, by)
		m.PlayerID, m.ByName = fmt.Sprint(player), by
		marks = append(marks, m)
	}
	for i := range 9 {
		see(i, "Ines", true, 2)
		see(i, "Tomasz", i%2 == 0, 2)
	}
	see(20, "Ines", true, 8) // too far apart to be the same player still
	see(20, "Tomasz", true, 2)
	got := Compare(c, marks)
	if len(got) != 1 || got[0].Agree.N != 9 || !got[0].Few() || got[0].Advice() == "" {
		t.Fatalf("nine shared: %+v", got)
	}
	see(9, "Ines", false, 2)
	see(9, "Tomasz", true, 2)
	if got = Compare(c, marks); got[0].Few() || !got[0].Talk || got[0].Agree.Share != 0.5 {
		t.Errorf("ten shared, half alike: %+v", got[0])
	}
}

// Worked by hand: slopes between every two of (0,1) (1,2) (2,4) (3,3) (4,5) are −1 ½ ½ ⅔ 1 1 1 1½ 2 2; the median is 1.
func TestTrendIsTheMedianSlope(t *testing.T) {
	if got := Slope([]float64{0, 1, 2, 3, 4}, []float64{1, 2, 4, 3, 5}); got != 1 {
		t.Errorf("slope %v, want 1", got)
	}
	if got := Slope([]float64{0, 1, 2, 3, 4}, []float64{1, 2, 40, 3, 5}); got < 0.5 || got > 1.5 {
		t.Errorf("one odd mark moved the slope to %v", got)
	}
	run := coach.Criterion{ID: "c", Measure: coach.Time, Want: 10}
	var marks []coach.Mark
	for i, s := range []float64{9, 9.6, 10.1, 10.8} {
		marks = append(marks, coach.Mark{CriterionID: "c", Figure: s, At: weeksAgo(float64(4 - i))})
	}
	if tr := Trends(run, marks[:3], now)[0]; tr.Slipping {
		t.Error("three marks are too few to slip")
	}
	if tr := Trends(run, marks, now)[0]; !tr.Slipping || tr.Best != 9 || tr.Last != 10.8 || tr.Middle != 10.1 {
		t.Errorf("slower every week: %+v", tr)
	}
	run.Measure = coach.Hold
	if tr := Trends(run, marks, now)[0]; tr.Slipping || tr.Best != 10.8 {
		t.Errorf("held longer every week: %+v", tr)
	}
}

// An angle slips when it goes away from what is asked for, to whichever side; the best is the nearest to it.
func TestAnAngleSlipsAwayFromItsTarget(t *testing.T) {
	split := coach.Criterion{ID: "c", Measure: coach.Angle, Want: 180}
	for name, c := range map[string]struct {
		figures []float64
		slips   bool
		best    float64
	}{
		"over it":            {[]float64{181, 190, 199, 208}, true, 181},
		"under it":           {[]float64{179, 170, 161, 152}, true, 179},
		"nearer from below":  {[]float64{150, 160, 170, 179}, false, 179},
		"nearer from above":  {[]float64{208, 199, 190, 181}, false, 181},
		"to and fro as ever": {[]float64{175, 185, 175, 185}, false, 175},
	} {
		var marks []coach.Mark
		for i, f := range c.figures {
			marks = append(marks, coach.Mark{CriterionID: "c", Figure: f, At: weeksAgo(float64(4 - i))})
		}
		if tr := Trends(split, marks, now)[0]; tr.Slipping != c.slips || tr.Best != c.best {
			t.Errorf("%s: %+v", name, tr)
		}
	}
}

func TestLearningPhase(t *testing.T) {
	c := eightOfTen(coach.EvidenceRule{Good: 2, Days: 2})
	live := func(m coach.Mark) bool { return m.SessionID == "game" }
	weak, good := []coach.Mark{
		makes(3, 10, 2, "a"),
		makes(5, 10, 1, "a"),
	}, []coach.Mark{
		makes(8, 10, 2, "a"),
		makes(9, 10, 1, "a"),
	}
	if p := PhaseOf(c, nil, now, live); p != Unknown {
		t.Errorf("nothing seen: %q", p)
	}
	if p := PhaseOf(c, weak, now, live); p != Discovering {
		t.Errorf("8 of 20: %q", p)
	}
	if p := PhaseOf(c, good, now, live); p != Linking {
		t.Errorf("shown, but in quiet practice: %q", p)
	}
	for i := range good {
		good[i].SessionID = "game"
	}
	if p := PhaseOf(c, good, now, live); p != Automatic {
		t.Errorf("shown in the game: %q", p)
	}
}

// Before the meeting: who could be ready by the end of term, and the fewest marks that takes.
func TestFewestLooksUntilTheEndOfTerm(t *testing.T) {
	c := eightOfTen(coach.EvidenceRule{Good: 2, Last: 3, Days: 2, Weeks: 6, People: 2})
	c.Must = true
	stage := coach.Stage{Criteria: []coach.Criterion{c}, StepUp: coach.StepUp{Visits: 4}}
	always := func(coach.Criterion) bool { return true }
	in := func(weeks int) time.Time { return now.AddDate(0, 0, 7*weeks) }
	meetings := []Meeting{
		{"1", in(1), []string{"Ines", "Tomasz"}, always},
		{"2", in(2), []string{"Ines", "Tomasz"}, always},
		{"3", in(3), []string{"Tomasz"}, always},
	}
	all := []int{0, 1, 2}
	got := Prospects([]Candidate{
		{ID: "none", Name: "B", Stage: stage, Visits: 3, Meetings: all},
		{ID: "short", Name: "A", Stage: stage, Visits: 3, Meetings: all, Marks: []coach.Mark{makes(9, 10, 1, "Ines")}},
		{ID: "new", Name: "C", Stage: stage, Visits: 0, Meetings: all},
		{ID: "seldom", Name: "D", Stage: stage, Visits: 9, Meetings: []int{2}},
	}, meetings, in(4))
	said := ""
	for _, p := range got {
		said += fmt.Sprintf("%s %v %d; ", p.Candidate.ID, p.Could, len(p.Looks))
	}
	if said != "short true 1; none true 2; new false 0; seldom false 0; " {
		t.Fatal(said)
	}
	if l := got[0].Looks[0]; l.Meeting != 0 || l.By != "Tomasz" {
		t.Errorf("one more mark, by somebody else: %+v", l)
	}
	if a, b := got[1].Looks[0], got[1].Looks[1]; a.Meeting == b.Meeting || a.By == b.By {
		t.Errorf("two days and two people: %+v %+v", a, b)
	}
	// of those to choose two are asked for, and one can be shown in no session: there is no way to be ready
	free := func(id string) coach.Criterion {
		k := eightOfTen(coach.EvidenceRule{Good: 1})
		k.ID = id
		return k
	}
	choice := coach.Stage{Criteria: []coach.Criterion{free("a"), free("b")}, StepUp: coach.StepUp{Choose: 2}}
	onlyA := []Meeting{{"1", in(1), []string{"Ines"}, func(k coach.Criterion) bool { return k.ID == "a" }}}
	p := Prospects([]Candidate{{ID: "x", Name: "X", Stage: choice, Meetings: []int{0}}}, onlyA, in(4))[0]
	if p.Could || len(p.Looks) > 0 || p.Why != "too few of those to choose can be shown by then" {
		t.Errorf("one of two to choose: %+v", p)
	}
	choice.StepUp.Choose = 1
	if p := Prospects([]Candidate{{ID: "x", Name: "X", Stage: choice, Meetings: []int{0}}}, onlyA, in(4))[0]; !p.Could || len(p.Looks) != 1 {
		t.Errorf("one to choose: %+v", p)
	}
	choice.StepUp.Weeks = 6
	if p := Prospects([]Candidate{{ID: "x", Name: "X", Stage: choice, Meetings: []int{0}, Since: day.Of(now)}}, onlyA, in(4))[0]; p.Could || !strings.HasPrefix(p.Why, "not long enough in the stage before ") {
		t.Errorf("four weeks of six: %+v", p)
	}
	var many []Candidate
	for i := range LooksBy + 3 {
		many = append(
			many,
			Candidate{
				ID:       fmt.Sprint(i),
				Name:     fmt.Sprintf("%02d", i),
				Stage:    stage,
				Visits:   9,
				Meetings: all,
				Marks:    []coach.Mark{makes(9, 10, 1, "Ines")},
			},
		)
	}
	taken := map[int]int{}
	for _, p := range Prospects(many, meetings, in(4)) {
		for _, l := range p.Looks {
			taken[l.Meeting]++
		}
	}
	if taken[0] != LooksBy || taken[1] != 3 {
		t.Errorf("one marker, %d players: looks by session %v", len(many), taken)
	}
}
