package coach

import (
	"math"
	"slices"
	"strings"
	"testing"
)

func TestWhatCannotBeInACriterion(t *testing.T) {
	good := Criterion{
		Wording: "Catches",
		Skill:   "catching",
		Measure: Makes,
		Want:    8,
		Of:      10,
		Rule:    EvidenceRule{Good: 2, Last: 3, Days: 2, Weeks: 6, People: 1},
	}
	if bad := good.Check(); len(bad) > 0 {
		t.Fatalf("a good one: %v", bad)
	}
	for _, c := range []struct {
		field, says string
		change      func(*Criterion)
	}{
		{"wording", "What does the player show?", func(c *Criterion) { c.Wording = " " }},
		{"wording", "121 characters", func(c *Criterion) { c.Wording = strings.Repeat("ö", 121) }},
		{"skill", "Which skill?", func(c *Criterion) { c.Skill = "" }},
		{"measure", "Choose how", func(c *Criterion) { c.Measure = "vibes" }},
		{"want", "12 good ones out of 10", func(c *Criterion) { c.Want = 12 }},
		{"want", "a number from", func(c *Criterion) { c.Want = math.NaN() }},
		{"of", "whole number", func(c *Criterion) { c.Of = 9.5 }},
		{"of", "In how many seconds", func(c *Criterion) { c.Measure, c.Of = Count, 0 }},
		{"want", "in a row", func(c *Criterion) { c.Measure, c.Want = Streak, 501 }},
		{"tolerance", "either way", func(c *Criterion) { c.Measure, c.Tolerance = Angle, 181 }},
		{"points", "Name the points", func(c *Criterion) { c.Measure = Check }},
		{"points", "Describe each grade", func(c *Criterion) { c.Measure, c.Want, c.Points = Grade, 3, []string{"a", "b"} }},
		{"want", "grade is a whole", func(c *Criterion) { c.Measure, c.Want, c.Points = Grade, 1.5, []string{"a", "b"} }},
		{"points", "11 lines", func(c *Criterion) { c.Measure, c.Points = Check, slices.Repeat([]string{"a"}, 11) }},
		{"keys", "A line has 121", func(c *Criterion) { c.Keys = []string{strings.Repeat("k", 121)} }},
		{"good", "from 1 to 12", func(c *Criterion) { c.Rule.Good = 0 }},
		{"last", "from 0 to 12", func(c *Criterion) { c.Rule.Last = 13 }},
		{"last", "3 good marks out of the last 2", func(c *Criterion) { c.Rule.Good, c.Rule.Last = 3, 2 }},
		{"good", "3 days and 1 person", func(c *Criterion) { c.Rule.Days = 3 }},
		{"people", "from 1 to 5", func(c *Criterion) { c.Rule.People = 6 }},
		{"weeks", "from 0 to 104", func(c *Criterion) { c.Rule.Weeks = -1 }},
	} {
		k := good
		c.change(&k)
		if !slices.ContainsFunc(
			k.Check(),
			func(b Trial) bool { return b.Field == c.field && strings.Contains(b.Says, c.says) },
		) {
			t.Errorf("%s, %q: %v", c.field, c.says, k.Check())
		}
	}
	stage := Stage{Name: "Reef", Colour: "#2f8a5b"}
	if bad := stage.Check(); len(bad) > 0 {
		t.Errorf("a good stage: %v", bad)
	}
	for field, s := range map[string]Stage{"name": {Colour: "#2f8a5b"}, "colour": {Name: "Reef", Colour: "green"}, "about": {Name: "Reef", Colour: "#2f8a5b", About: strings.Repeat("x", 201)}, "visits": {Name: "Reef", Colour: "#2f8a5b", StepUp: StepUp{Visits: -1}}} {
		if bad := s.Check(); len(bad) != 1 || bad[0].Field != field {
			t.Errorf("a stage's %s: %v", field, bad)
		}
	}
}
