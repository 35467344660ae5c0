package coach

import (
	"fmt"
	"math"
	"strings"

	"gruppo/internal/coach/say"
)

// MostLast is the largest "out of the last n" an evidence rule may ask for: further back nobody remembers, and
// strictness is exact up to it.
const MostLast = 12

// Check says what cannot be in a criterion, by field: wording, skill, measure, want, of, tolerance, points, keys, good,
// last, days, weeks, people.
func (c Criterion) Check() (bad []Trial) {
	wrong := func(field, format string, args ...any) {
		bad = append(bad, Trial{Field: field, Says: fmt.Sprintf(format, args...)})
	}
	within := func(field, what string, x, low, high float64) {
		if !(x >= low && x <= high) { // not a number is neither
			wrong(field, "%s: a number from %s to %s.", what, Figure(low), Figure(high))
		}
	}
	words := func(field, s string, most int, need string) {
		if strings.TrimSpace(s) == "" {
			wrong(field, "%s", need)
		} else if n := len([]rune(s)); n > most {
			wrong(field, "That is %d characters; %d are the most.", n, most)
		}
	}
	words("wording", c.Wording, 120, "What does the player show?")
	words("skill", c.Skill, 40, "Which skill? It ties the criterion to drills.")
	for field, lines := range map[string][]string{"points": c.Points, "keys": c.Keys} {
		if len(lines) > 10 {
			wrong(field, "That is %d lines; 10 are the most.", len(lines))
		}
		for _, l := range lines {
			if len([]rune(l)) > 120 {
				wrong(field, "A line has %d characters; 120 are the most.", len([]rune(l)))
			}
		}
	}
	switch c.Measure {
	case Check:
		if len(c.Points) == 0 {
			wrong("points", "Name the points that must be seen, one a line.")
		}
	case Grade:
		within("want", "The grade that is good enough", c.Want, 1, 10)
		if len(c.Points) < 2 || c.Want > float64(len(c.Points)) {
			wrong(
				"points",
				"Describe each grade on a line of its own, the lowest first, up to the one asked for at least.",
			)
		}
		if c.Want != math.Trunc(c.Want) {
			wrong("want", "A grade is a whole number.")
		}
	case Makes:
		within("want", "Good ones", c.Want, 1, 1000)
		within("of", "Tries", c.Of, 1, 1000)
		if c.Want > c.Of {
			wrong("want", "%s good ones out of %s tries cannot be.", Figure(c.Want), Figure(c.Of))
		}
		if c.Of != math.Trunc(c.Of) {
			wrong("of", "Tries are a whole number.")
		}
	case Count:
		within("want", "How many", c.Want, 1, 10000)
		within("of", "In how many seconds", c.Of, 1, 3600)
	case Angle:
		within("want", "Degrees", c.Want, 0, 360)
		within("tolerance", "Degrees either way", c.Tolerance, 0, 180)
	case Streak:
		within("want", "How many in a row", c.Want, 1, 500)
	default:
		if !c.Measure.Known() {
			wrong("measure", "Choose how it is measured.")
		}
		within("want", "The figure that is good enough", c.Want, 0, 100000)
	}
	r := c.Rule
	whole := func(field, what string, n, low, high int) {
		if n < low || n > high {
			wrong(field, "%s: a whole number from %d to %d.", what, low, high)
		}
	}
	whole("good", "Good marks", r.Good, 1, 12)
	whole("last", "Out of the last", r.Last, 0, MostLast)
	whole("days", "Days", r.Days, 1, 12)
	whole("weeks", "Weeks", r.Weeks, 0, 104)
	whole("people", "People", r.People, 1, 5)
	if r.Last > 0 && r.Last < r.Good {
		wrong("last", "%s out of the last %d cannot be.", say.Count(r.Good, "good mark"), r.Last)
	}
	if r.Days > r.Good || r.People > r.Good {
		wrong(
			"good",
			"%s and %s need at least as many good marks.",
			say.Count(max(1, r.Days), "day"),
			say.Count(max(1, r.People), "person"),
		)
	}
	return bad
}

// Check says what cannot be in a stage itself, by field: name, about, colour, choose, visits, weeks.
func (s Stage) Check() (bad []Trial) {
	wrong := func(field, format string, args ...any) {
		bad = append(bad, Trial{Field: field, Says: fmt.Sprintf(format, args...)})
	}
	switch n := len([]rune(s.Name)); {
	case strings.TrimSpace(s.Name) == "":
		wrong("name", "A stage needs a name.")
	case n > 40:
		wrong("name", "That is %d characters; 40 are the most.", n)
	}
	if n := len([]rune(s.About)); n > 200 {
		wrong("about", "That is %d characters; 200 are the most.", n)
	}
	if len(s.Colour) != 7 || s.Colour[0] != '#' || strings.Trim(s.Colour[1:], "0123456789abcdefABCDEF") != "" {
		wrong("colour", "Choose a colour.")
	}
	for _, n := range []struct {
		field, what string
		n, most     int
	}{{"choose", "Of those to choose", s.StepUp.Choose, 30}, {"visits", "Visits", s.StepUp.Visits, 500}, {"weeks", "Weeks", s.StepUp.Weeks, 200}} {
		if n.n < 0 || n.n > n.most {
			wrong(n.field, "%s: a whole number from 0 to %d.", n.what, n.most)
		}
	}
	return bad
}
