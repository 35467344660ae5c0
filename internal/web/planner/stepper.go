package planner

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/say"
)

// stepper is a figure of the plan that goes up and down by a step, and can be typed.
type stepper struct {
	Do, At, What       string // of the edit; What names the figure where the edit knows several
	Now, Less, More    int
	ID, Of             string // what its parts are called: "min" and the block's number
	LessSays, MoreSays string
	LessKey, MoreKey   string // of the keyboard
	Unit               string
	Clock              bool // seconds, shown and typed as minutes and seconds
}

// Step is a figure that an edit sets.
func (v *planView) Step(do, at, what string, now, by int) stepper {
	return stepper{
		Do: do, At: at, What: what, Now: now, Less: edit.Toward(do, what, now, -by), More: edit.Toward(do, what, now, by),
	}
}

// As names its parts.
func (s stepper) As(id string, of any) stepper {
	s.ID, s.Of = id, fmt.Sprint(of)
	return s
}

// counted are units that are one or many.
var counted = []string{"point", "court", "turn", "area", "goal", "floater", "wall player", "touch", "reserve", "group"}

// Says is its unit, and what its buttons do.
func (s stepper) Says(unit, less, more string) stepper {
	if s.Unit = unit; slices.Contains(counted, unit) {
		s.Unit = say.Of(s.Now, unit)
	}
	s.LessSays, s.MoreSays = less, more
	return s
}

// Keys are those that press its buttons.
func (s stepper) Keys(less, more string) stepper {
	s.LessKey, s.MoreKey = less, more
	return s
}

// Seconds shows it as minutes and seconds.
func (s stepper) Seconds() stepper {
	s.Clock = true
	return s
}

// Value is a number as the edit takes it.
func (s stepper) Value(n int) string { return strings.TrimSpace(fmt.Sprint(s.What, " ", n)) }

// Shown is the figure as it is typed.
func (s stepper) Shown() string {
	if s.Clock {
		return coach.Clock(time.Duration(s.Now) * time.Second)
	}
	return fmt.Sprint(s.Now)
}

// Called is what the field is called for who does not see it.
func (s stepper) Called() string {
	before, _, _ := strings.Cut(s.LessSays, ":")
	return strings.TrimSpace(before + ", " + s.Unit)
}
