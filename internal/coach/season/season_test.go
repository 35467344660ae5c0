package season

import (
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"gruppo/internal/coach"
	"gruppo/internal/day"
)

// every goes through all ways of filling the slots and returns the cheapest, judged by its own sum of what a season costs.
func every(slots []Slot, needs []Need) float64 {
	f := filling{slots: slots, needs: needs}
	most := 1
	for _, n := range needs {
		most = max(most, n.Lack)
	}
	best := math.Inf(1)
	var fill func(done [][]string)
	fill = func(done [][]string) {
		if i := len(done); i < len(slots) {
			if !slots[i].Open {
				fill(append(slices.Clone(done), slots[i].Skills))
				return
			}
			for _, n := range needs {
				fill(append(slices.Clone(done), []string{n.Skill}))
			}
			return
		}
		sum := 0.0
		for _, n := range needs {
			share, times := float64(n.Lack)/float64(most), 0
			for w, skills := range done {
				if !slices.Contains(skills, n.Skill) {
					continue
				}
				// what was first of a week counts as that week's
				first := func(back int) bool { return w >= back && f.fixedName(done[w-back]) == n.Skill }
				if first(1) {
					sum += nextCosts
				} else if first(2) {
					sum += soonCosts
				}
				if times >= n.Times {
					sum += extraCosts * (1.2 - share)
				}
				for _, a := range n.After {
					known := slices.ContainsFunc(needs, func(o Need) bool { return o.Skill == a })
					before := slices.ContainsFunc(done[:w], func(s []string) bool { return slices.Contains(s, a) })
					if times == 0 && known && !before {
						sum += earlyCosts
					}
				}
				times++
			}
			sum += shortCosts * (1 + share) * float64(max(0, n.Times-times))
			if times == 0 && n.Times > 0 {
				sum += neverCosts * (1 + share)
			}
		}
		best = min(best, sum)
	}
	fill(nil)
	return best
}

func (f *filling) fixedName(skills []string) string {
	if i := f.fixed(Slot{Skills: skills}); i >= 0 {
		return f.needs[i].Skill
	}
	return ""
}

// Twenty small seasons against every way there is of filling them.
func TestFillIsTheBestOfAll(t *testing.T) {
	for seed := range uint64(20) {
		r := rand.New(rand.NewPCG(seed, 18))
		var needs []Need
		for i := range 2 + r.IntN(3) {
			n := Need{Skill: string(rune('a' + i)), Times: 1 + r.IntN(3), Lack: r.IntN(12)}
			if i > 0 && r.IntN(2) == 0 {
				n.After = []string{string(rune('a' + r.IntN(i)))}
			}
			needs = append(needs, n)
		}
		var slots []Slot
		open := 0
		for range 5 + r.IntN(4) {
			s := Slot{Open: r.IntN(4) > 0 && open < 7}
			if s.Open {
				open++
			} else if r.IntN(2) == 0 {
				s.Skills = []string{needs[r.IntN(len(needs))].Skill}
			}
			slots = append(slots, s)
		}
		got := Fill(slots, needs)
		if want := every(slots, needs); math.Abs(got.Cost-want) > 1e-6 || !got.Proven {
			t.Errorf("season %d costs %.2f (proven %v), the best of all %.2f: %v", seed, got.Cost, got.Proven, want, got.Skills)
		}
	}
}

// A term of a class: twelve dates, a holiday and a pinned event among them. Each skill comes twice, never two weeks
// running, catching before the jump shot that builds on it, and what is fixed stays as it is.
func TestATermIsFilled(t *testing.T) {
	needs := []Need{
		{Skill: "shooting", Times: 2, Lack: 9, After: []string{"catching"}},
		{Skill: "catching", Times: 2, Lack: 6},
		{Skill: "feinting", Times: 2, Lack: 5},
		{Skill: "defending", Times: 2, Lack: 3},
	}
	slots := make([]Slot, 12)
	for i := range slots {
		slots[i].Open = i != 4 && i != 9 // holidays, and the cup
	}
	got := Fill(slots, needs)
	if !got.Proven || len(got.Short) > 0 || got.Skills[4] != "" || got.Skills[9] != "" {
		t.Fatalf("%+v", got)
	}
	if slices.Index(got.Skills, "catching") > slices.Index(got.Skills, "shooting") {
		t.Errorf("the jump shot before catching: %v", got.Skills)
	}
	for i := 1; i < len(slots); i++ {
		if got.Skills[i] != "" && got.Skills[i] == got.Skills[i-1] {
			t.Errorf("massed: %v", got.Skills)
		}
	}
	// Too few dates: what is short is said, and it is what the fewest lack.
	got = Fill([]Slot{{Open: true}, {Open: true}, {Open: true}}, needs)
	if n := 0; len(got.Short) == 0 {
		t.Errorf("%+v", got)
	} else {
		for _, s := range got.Short {
			n += s.By
		}
		if n != 5 || !strings.Contains(strings.Join(got.Skills, " "), "shooting") {
			t.Errorf("%+v", got)
		}
	}
	if got = Fill([]Slot{{Open: true}}, nil); got.Skills[0] != "" || !got.Proven {
		t.Errorf("nothing is needed: %+v", got)
	}
}

// Where several ways cost the same, no skill waits for the end of the term: all have come before one comes again.
func TestEverySkillComesEarly(t *testing.T) {
	needs := []Need{
		{Skill: "serving", Times: 2, Lack: 14}, {Skill: "movement", Times: 2, Lack: 14}, {Skill: "control", Times: 2, Lack: 14},
		{Skill: "rallying", Times: 2, Lack: 14}, {Skill: "footwork", Times: 2, Lack: 14},
	}
	slots := make([]Slot, 13)
	for i := range slots {
		slots[i].Open = true
	}
	got := Fill(slots, needs)
	first := slices.Sorted(slices.Values(got.Skills[:len(needs)]))
	if len(slices.Compact(first)) != len(needs) {
		t.Errorf("some skill waits: %v", got.Skills)
	}
	needs = append(needs, Need{Skill: "passing", Times: 2, Lack: 14}, Need{Skill: "rules", Times: 2, Lack: 14}, Need{Skill: "balance", Times: 2, Lack: 14})
	needs[2].Lack, needs[6].Lack = 5, 1 // however few lack it
	got = Fill(slots, needs)            // sixteen times into thirteen dates: rather three once than one never
	for _, s := range got.Short {
		if s.By > 1 {
			t.Errorf("%s never comes: %v", s.Skill, got.Skills)
		}
	}
}

// What was planned, taught and marked, date by date, and what never comes up before it is too late.
func TestCover(t *testing.T) {
	at := func(d int) day.Day { return day.New(2026, 9, d) }
	if got := Dates(2, at(1), at(30)); len(got) != 5 || got[0] != at(1) || got[4] != at(29) {
		t.Errorf("the Tuesdays of September 2026: %v", got)
	}
	dates := []Date{
		{On: at(1), Planned: true, Held: true, Skills: []string{"catching"}, Marked: []string{"c"}},
		{On: at(8), Planned: true, Held: true, Skills: []string{"catching", "shooting"}},
		{On: at(15), Theme: Theme{Kind: Skill, Value: "feinting"}, Off: "holiday"},
		{On: at(22), Theme: Theme{Kind: Skill, Value: "shooting"}},
	}
	rows := Cover([]Row{
		{Criterion: coach.Criterion{ID: "c", Skill: "catching"}, Shown: 2, Of: 9},
		{Criterion: coach.Criterion{ID: "s", Skill: "shooting"}, Shown: 1, Of: 9},
		{Criterion: coach.Criterion{ID: "f", Skill: "feinting"}, Of: 9},
		{Criterion: coach.Criterion{ID: "k", Skill: "keeping"}, Shown: 4, Of: 4},
	}, dates, at(10))
	if rows[0].Criterion.ID != "f" || !rows[0].Never() {
		t.Errorf("feinting falls into the holiday, and so never comes up: %+v", rows[0])
	}
	if got := rows[1].Seen; !slices.Equal(got, []Seen{Marked, Taught, Nothing, Nothing}) {
		t.Errorf("catching: %v", got)
	}
	if got := rows[2].Seen; !slices.Equal(got, []Seen{Nothing, Taught, Nothing, Planned}) {
		t.Errorf("shooting: %v", got)
	}
	needs := Needs(rows, nil)
	if len(needs) != 3 || needs[0].Skill != "feinting" || needs[0].Lack != 9 {
		t.Errorf("%+v", needs)
	}
}
