package evidence

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/day"
)

// "One more" is said only where one more would do: for 300 rules and histories the marks are really added, one by one,
// each good, on a day and by a person of its own, until the rule holds.
func TestTheMarksThatAreMissingWouldDo(t *testing.T) {
	rng := rand.New(rand.NewPCG(12, 13))
	for n := range 300 {
		r := coach.EvidenceRule{Good: 1 + rng.IntN(3), Days: 1 + rng.IntN(3), People: 1 + rng.IntN(2)}
		r.Good = max(r.Good, r.Days, r.People)
		if rng.IntN(3) > 0 {
			r.Last = r.Good + rng.IntN(3)
		}
		c := eightOfTen(r)
		var marks []coach.Mark
		for i := range rng.IntN(7) { // in pairs on a day
			m := makes(7+rng.IntN(2), 10, float64(7-i/2), fmt.Sprint(rng.IntN(2)))
			m.At = m.At.Add(time.Duration(i) * time.Minute)
			marks = append(marks, m)
		}
		got := Of(c, marks, now)
		added := slices.Clone(marks)
		want := 0
		holds := func() bool {
			tries, _ := triesOf(c, added, coach.AnySide, now.AddDate(1, 0, 0))
			return count(r, tries).holds(r)
		}
		for ; !holds(); want++ {
			added = append(added, goodMark(c, coach.AnySide, now.AddDate(0, 0, want+1), fmt.Sprint("new ", want)))
		}
		if got.State == Shown != (want == 0) || got.State == Nearly != (want == 1 && len(marks) > 0) ||
			got.State != Shown && got.More != want {
			t.Errorf("case %d, %s with %d marks: %s, %d more; it takes %d", n, r, len(marks), got.State, got.More, want)
		}
	}
	two := eightOfTen(coach.EvidenceRule{Good: 2, Last: 4})
	two.Must = true
	marks := []coach.Mark{makes(9, 10, 4, "a"), makes(3, 10, 3, "a"), makes(3, 10, 2, "a"), makes(3, 10, 1, "a")}
	stage := coach.Stage{Criteria: []coach.Criterion{two}}
	if rd := Ready(stage, marks, 0, day.Day{}, now); rd.Short != 2 ||
		slices.Contains(Remarks(stage, marks, rd, 6, now), Short) {
		t.Errorf("2 of the last 4 after good, miss, miss, miss: %d short, %v", rd.Short, rd.Missing)
	}
}

func TestAMarkHelpsOnlyWhereTheRuleCountsIt(t *testing.T) {
	c := eightOfTen(coach.EvidenceRule{Good: 2, Days: 2, People: 2})
	marks := []coach.Mark{makes(9, 10, 1, "ana")}
	for _, k := range []struct {
		by    string
		when  time.Time
		helps bool
	}{
		{"ana", now, false},         // the rule wants another person
		{"ben", now, true},          // another person, another day
		{"ben", weeksAgo(1), false}, // the same day again
		{"ben", now.AddDate(0, 0, 3), true},
	} {
		if got := Helps(c, marks, coach.AnySide, k.when, k.by); got != k.helps {
			t.Errorf("by %s on %s: %v", k.by, k.when.Format(time.DateOnly), got)
		}
	}
	if Helps(c, append(marks, makes(9, 10, 0, "ben")), coach.AnySide, now, "cy") {
		t.Error("helps where all is shown")
	}
}

func TestATrendIsOfOneSide(t *testing.T) {
	c := coach.Criterion{ID: "c", Measure: coach.Hold, Want: 10, BothSides: true}
	var marks []coach.Mark
	for i := range 4 { // right rises from 20; left, looked at later each time, rises from 2
		for side, from := range map[coach.Side]float64{coach.Right: 20, coach.Left: 2} {
			m := coach.Mark{CriterionID: "c", Side: side, Figure: from + float64(i), At: weeksAgo(float64(8 - i))}
			if side == coach.Left {
				m.At = weeksAgo(float64(4 - i))
			}
			marks = append(marks, m)
		}
	}
	got := Trends(c, marks, now)
	if len(got) != 2 || AnySlips(got) || got[0].Side != coach.Left || got[0].Best != 5 || got[1].Best != 23 ||
		got[0].PerWeek < 0.99 {
		t.Errorf("both sides rise: %+v", got)
	}
}

// Who came today is neither stuck nor forgotten, whatever the stage asks; who stands there for months without a mark
// is.
func TestWhoJoinedTodayIsNotForgotten(t *testing.T) {
	stage := coach.Stage{Criteria: []coach.Criterion{eightOfTen(coach.EvidenceRule{Good: 2, Days: 2})}}
	for _, c := range []struct {
		weeks    int
		unmarked bool
	}{{0, false}, {2, false}, {7, true}, {30, true}} {
		r := Ready(stage, nil, 0, day.Of(now).Add(-7*c.weeks), now)
		if r.Unmarked(now) != c.unmarked || c.weeks == 0 && Stuck(stage, nil, r, 8, now) {
			t.Errorf(
				"on the stage for %d weeks without a mark: unmarked %v, stuck %v",
				c.weeks,
				r.Unmarked(now),
				Stuck(stage, nil, r, 8, now),
			)
		}
	}
}
