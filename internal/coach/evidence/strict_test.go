package evidence

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"gruppo/internal/coach"
	"gruppo/internal/day"
)

func eightOfTen(r coach.EvidenceRule) coach.Criterion {
	return coach.Criterion{ID: "c", Wording: "Catches on the move", Measure: coach.Makes, Want: 8, Of: 10, Rule: r}
}

// The binomial values are those of the tables in any statistics handbook (cumulative binomial, n = 10); the rest is
// exact arithmetic on them.
func TestHowStrictACriterionIs(t *testing.T) {
	once, both, ofThree := coach.EvidenceRule{
		Good: 1,
	}, coach.EvidenceRule{
		Good: 2,
		Days: 2,
	}, coach.EvidenceRule{
		Good: 2,
		Last: 3,
		Days: 2,
	}
	for _, c := range []struct {
		name string
		rule coach.EvidenceRule
		p    float64
		want float64
	}{
		{"8 of 10 once", once, 0.6, 0.1673}, {"8 of 10 once", once, 0.8, 0.6778}, {"8 of 10 once", once, 0.9, 0.9298},
		{"on two days, both", both, 0.6, 0.0280}, {"two of three", ofThree, 0.6, 0.0746}, {"two of three", ofThree, 0.8, 0.6778 * 0.6778 * (3 - 2*0.6778)},
	} {
		k := eightOfTen(c.rule)
		n := FullTurn(k.Rule)
		if got := Passing(k, c.p, n)[n]; math.Abs(got-c.want) > 5e-4 {
			t.Errorf("%s at %.1f: %.4f, want %.4f", c.name, c.p, got, c.want)
		}
	}
	for _, c := range []struct { // cumulative binomial tables: P(X ≥ k), n = 10, 15, 20
		n, k, p, want float64
	}{{10, 7, 0.5, 0.1719}, {10, 9, 0.8, 0.3758}, {15, 12, 0.7, 0.2969}, {20, 15, 0.6, 0.1256}} {
		if got := Look(coach.Criterion{Measure: coach.Makes, Want: c.k, Of: c.n}, c.p); math.Abs(got-c.want) > 5e-5 {
			t.Errorf("%g or more of %g at %g: %.4f, want %.4f", c.k, c.n, c.p, got, c.want)
		}
	}
	// A streak is section 1's chain: 10 in a row at 0.8 within 42, 60, 100 tries is 0.64276, 0.78868, 0.93420; a mark
	// rests on three times the run.
	if got := Look(coach.Criterion{Measure: coach.Streak, Want: 20}, 1); got != 1 {
		t.Errorf("a sure player's streak: %v", got)
	}
	streak := coach.Criterion{Measure: coach.Streak, Want: 2} // 6 tries at ½: no two in a row in 21 of 64 (Fibonacci)
	if got := Look(streak, 0.5); math.Abs(got-43.0/64) > 1e-12 {
		t.Errorf("2 in a row within 6 tries at ½: %v, want 43/64", got)
	}
	if got := VisitsToShow(eightOfTen(both), 0.8); math.Abs(got-2/0.677800) > 1e-3 {
		t.Errorf("visits until two good ones: %.4f, want 2/q", got)
	}
}

// Stepping through the states agrees with trying every way six visits can go, for rules with windows, people and sides.
func TestStepsAgreeWithEveryWayItCanGo(t *testing.T) {
	for _, r := range []coach.EvidenceRule{{Good: 2, Last: 3, Days: 2}, {Good: 3, Last: 5, Days: 3, People: 2}, {Good: 2, People: 2, Days: 2}, {Good: 3, Last: 4}, {Good: 2, Last: 6, People: 2}} {
		c := coach.Criterion{ID: "c", Measure: coach.Hold, Want: 1, Rule: r, BothSides: r.Last == 4}
		const visits, q = 6, 0.7
		want := 0.0
		for way := range 1 << visits {
			weight, passed := 1.0, false
			var marks []coach.Mark
			for v := range visits {
				good := float64(way >> v & 1)
				weight *= good*q + (1-good)*(1-q)
				marks = append(
					marks,
					coach.Mark{
						CriterionID: "c",
						Figure:      good,
						At:          weeksAgo(float64(visits - v)),
						By:          fmt.Sprint(v % max(1, r.People)),
						Side:        coach.Both,
					},
				)
				passed = passed || Of(c, marks, now).State == Shown
			}
			if passed {
				want += weight
			}
		}
		if c.BothSides {
			want *= want
		}
		if got := Passing(c, q, visits)[visits]; math.Abs(got-want) > 1e-12 {
			t.Errorf("%s: %.6f, every way gives %.6f", r, got, want)
		}
	}
}

func TestAdviceForAnUnfairCriterion(t *testing.T) {
	s := Judge(eightOfTen(coach.EvidenceRule{Good: 1}))
	if s.Fair || s.Mend == nil || s.Mend.WeakPass >= s.WeakPass || s.WeakPass < 0.16 {
		t.Errorf("8 of 10 once lets the weak one pass %.3f: %+v", s.WeakPass, s.Mend)
	}
	s = Judge(eightOfTen(coach.EvidenceRule{Good: 2, Days: 2}))
	if s.Fair || s.Mend == nil || s.Mend.StrongPass < 0.7 || s.Mend.WeakPass > 0.1 ||
		math.Abs(s.StrongPass-0.459) > 1e-3 {
		t.Errorf("8 of 10 on two days passes the strong one %.3f: %+v", s.StrongPass, s.Mend)
	}
	if s := Judge(coach.Criterion{Measure: coach.Makes, Want: 16, Of: 20, Rule: coach.EvidenceRule{Good: 1}}); !s.Fair &&
		s.WeakPass < 0.1 &&
		s.StrongPass > 0.6 {
		t.Errorf("16 of 20 once is fair by its own figures: %+v", s)
	}
}

func ExampleJudge() {
	s := Judge(eightOfTen(coach.EvidenceRule{Good: 2, Days: 2}))
	fmt.Printf(
		"strong %s, weak %s; %s: strong %s, weak %s\n",
		InHundred(s.StrongPass),
		InHundred(s.WeakPass),
		s.Mend.Says,
		InHundred(s.Mend.StrongPass),
		InHundred(s.Mend.WeakPass),
	)
	// Output: strong 46 times in 100, weak 3 times in 100; 8 of 10, 2 good of the last 3, on 2 days: strong 76 times in 100, weak 7 times in 100
}

func TestStuck(t *testing.T) {
	c := eightOfTen(coach.EvidenceRule{Good: 2, Days: 2})
	c.Must = true
	stage := coach.Stage{Criteria: []coach.Criterion{c}}
	for _, k := range []struct {
		name  string
		marks []coach.Mark
		since float64 // weeks ago
		want  bool
	}{
		{"nothing for seven weeks", []coach.Mark{makes(9, 10, 7, "a")}, 12, true},
		{"new marks, but no further", []coach.Mark{makes(9, 10, 7, "a"), makes(3, 10, 2, "a")}, 12, true},
		{"one good mark more", []coach.Mark{makes(3, 10, 7, "a"), makes(9, 10, 2, "a")}, 12, false},
		{"five weeks in the stage", nil, 5, false},
		{"ready", []coach.Mark{makes(9, 10, 8, "a"), makes(9, 10, 7, "a")}, 12, false},
	} {
		if got := Stuck(stage, k.marks, Ready(stage, k.marks, 9, day.Of(weeksAgo(k.since)), now), 6, now); got != k.want {
			t.Errorf("%s: %v", k.name, got)
		}
	}
}

// BenchmarkEarlyLate prints how often each rule moves up somebody too early or too late, with simulated players of
// known ability whose days differ. A term has six visits in which they are looked at, every third twice. Too early:
// someone who makes 60 in 100 passes 8 of 10. Too late: someone who makes 88 in 100 has not passed by then.
func BenchmarkEarlyLate(b *testing.B) {
	type line struct {
		name string
		rule coach.EvidenceRule
	}
	var table strings.Builder
	for b.Loop() {
		table.Reset()
		fmt.Fprintf(&table, "\n%-28s %10s %10s %14s\n", "8 of 10", "too early", "too late", "visits (good)")
		for _, l := range []line{{"once", coach.EvidenceRule{Good: 1}}, {"two marks, one day will do", coach.EvidenceRule{Good: 2}}, {"on two days", coach.EvidenceRule{Good: 2, Days: 2}},
			{"two of the last three", coach.EvidenceRule{Good: 2, Last: 3, Days: 2}}, {"two of three, two people", coach.EvidenceRule{Good: 2, Last: 3, Days: 2, People: 2}}, {"on three days", coach.EvidenceRule{Good: 3, Days: 3}}, {"three of the last four", coach.EvidenceRule{Good: 3, Last: 4, Days: 3}}} {
			early, _ := simulate(l.rule, 0.60, 6)
			onTime, visits := simulate(l.rule, 0.88, 6)
			fmt.Fprintf(&table, "%-28s %8.1f %% %8.1f %% %14.1f\n", l.name, 100*early, 100*(1-onTime), visits)
		}
	}
	fmt.Print(table.String()) // b.Log would cut it short
}

// simulate is the share of players who pass within the visits, and the mean visit at which they do. A player's form
// varies from day to day (0.6 in logit); each visit is marked by one of two people in turn.
func simulate(r coach.EvidenceRule, ability float64, visits int) (share, mean float64) {
	rng := rand.New(rand.NewPCG(19, 60))
	c := eightOfTen(r)
	const players = 1500
	passed, sum := 0, 0
	for range players {
		var marks []coach.Mark
		for v := range visits {
			form := math.Log(ability/(1-ability)) + 0.6*rng.NormFloat64()
			p := 1 / (1 + math.Exp(-form))
			for range 1 + v%3/2 {
				m := coach.Mark{CriterionID: "c", Tries: 10, At: weeksAgo(float64(visits - v)), By: fmt.Sprint(v % 2)}
				for range 10 {
					if rng.Float64() < p {
						m.Figure++
					}
				}
				marks = append(marks, m)
			}
			if Of(c, marks, now).State == Shown {
				passed++
				sum += v + 1
				break
			}
		}
	}
	return float64(passed) / players, float64(sum) / float64(max(1, passed))
}

func TestRemarks(t *testing.T) {
	c := eightOfTen(coach.EvidenceRule{Good: 2, Days: 2, Weeks: 5})
	c.Must = true
	stage := coach.Stage{Criteria: []coach.Criterion{c}}
	for _, k := range []struct {
		name  string
		marks []coach.Mark
		since float64
		want  string
	}{
		{"one good mark, a week ago", []coach.Mark{makes(9, 10, 1, "a")}, 5, "[short]"},
		{"shown, but six weeks ago", []coach.Mark{makes(9, 10, 5.5, "a"), makes(9, 10, 5.8, "a")}, 5, "[stale]"},
		{"nobody looked for seven weeks", []coach.Mark{makes(3, 10, 7, "a")}, 12, "[stale stuck]"},
		{"worse every week", []coach.Mark{makes(7, 10, 4, "a"), makes(6, 10, 3, "a"), makes(5, 10, 2, "a"), makes(4, 10, 1, "a")}, 5, "[slipping]"},
		{"came two weeks ago", []coach.Mark{makes(3, 10, 1, "a")}, 2, "[new]"},
		{"ready", []coach.Mark{makes(9, 10, 1, "a"), makes(9, 10, 2, "a")}, 12, "[]"},
		{"joined today, and nobody has looked yet", nil, 0, "[new]"},
		{"five weeks here, and nobody has looked", nil, 5, "[]"},
	} {
		r := Ready(stage, k.marks, 9, day.Of(weeksAgo(k.since)), now)
		if got := fmt.Sprint(Remarks(stage, k.marks, r, 6, now)); got != k.want {
			t.Errorf("%s: %s, want %s", k.name, got, k.want)
		}
	}
}
