package evidence

import (
	"math"
	"slices"
	"time"

	"gruppo/internal/coach"
)

// Value is the figure a mark of c is compared by: the share of tries for makes, the points seen for a check, else the
// figure itself.
func Value(c coach.Criterion, m coach.Mark) float64 {
	switch c.Measure {
	case coach.Makes:
		return m.Figure / float64(max(1, m.Tries))
	case coach.Check:
		n := 0.0
		for _, p := range m.Points {
			if p {
				n++
			}
		}
		return n
	}
	return m.Figure
}

// Wanted is the Value that just meets the standard.
func Wanted(c coach.Criterion) float64 {
	switch c.Measure {
	case coach.Makes:
		return c.Want / math.Max(1, c.Of)
	case coach.Check:
		return float64(len(c.Points))
	}
	return c.Want
}

// Trend is how the marks of a player on a criterion go.
type Trend struct {
	Side               coach.Side // where two are asked
	Marks              int
	Last, Best, Middle float64 // Middle is the median of the last three
	PerWeek            float64 // robust slope, see Slope
	Slipping           bool    // the slope is against the standard over at least four marks
}

// drift is how much of the standard a slope has to lose over the marks' whole time before it is called slipping (our
// choice; no source): a slope is never quite nought.
const drift = 0.05

// Trends works out the trend of the marks that count for c up to a moment, any order: one, or one for each side where
// two are asked.
func Trends(c coach.Criterion, marks []coach.Mark, at time.Time) (out []Trend) {
	for _, side := range c.Sides() {
		out = append(out, trendOn(c, marks, side, at))
	}
	return out
}

// AnySlips reports whether one of the trends slips.
func AnySlips(trends []Trend) bool {
	return slices.ContainsFunc(trends, func(t Trend) bool { return t.Slipping })
}

func trendOn(c coach.Criterion, marks []coach.Mark, side coach.Side, at time.Time) Trend {
	var mine []coach.Mark
	for _, m := range marks {
		if m.CriterionID == c.ID && Counts(c, m) && !m.At.After(at) &&
			(side == coach.AnySide || m.Side == side || m.Side == coach.Both) {
			mine = append(mine, m)
		}
	}
	t := Trend{Side: side, Marks: len(mine)}
	if t.Marks == 0 {
		return t
	}
	slices.SortFunc(mine, func(a, b coach.Mark) int { return a.At.Compare(b.At) })
	weeks, figures := make([]float64, len(mine)), make([]float64, len(mine))
	better := func(a, b float64) bool {
		switch {
		case c.Measure == coach.Angle:
			return math.Abs(a-c.Want) < math.Abs(b-c.Want)
		case c.Measure.LessIsBetter():
			return a < b
		}
		return a > b
	}
	for i, m := range mine {
		weeks[i], figures[i] = m.At.Sub(mine[0].At).Hours()/24/7, Value(c, m)
		if i == 0 || better(figures[i], t.Best) {
			t.Best = figures[i]
		}
	}
	t.Last = figures[len(figures)-1]
	three := slices.Sorted(slices.Values(figures[max(0, len(figures)-3):]))
	t.Middle = (three[(len(three)-1)/2] + three[len(three)/2]) / 2
	t.PerWeek = Slope(weeks, figures)
	against := -t.PerWeek
	switch {
	case c.Measure == coach.Angle: // away from the target, whichever side that is
		off := make([]float64, len(figures))
		for i, f := range figures {
			off[i] = math.Abs(f - c.Want)
		}
		against = Slope(weeks, off)
	case c.Measure.LessIsBetter():
		against = t.PerWeek
	}
	t.Slipping = t.Marks >= 4 && against*weeks[len(weeks)-1] > drift*math.Max(1e-9, Wanted(c))
	return t
}

// Phase is where a player is in learning a skill.
type Phase string

const (
	Unknown     Phase = ""
	Discovering Phase = "discovering" // under half
	Linking     Phase = "linking"
	Automatic   Phase = "automatic" // the standard is shown in random or live practice
)

// recent is how many of the last marks a phase is read from.
const recent = 6

// PhaseOf reads the learning phase from the marks of one player on c at a date. Live says of a mark whether it was
// taken in random or live practice.
func PhaseOf(c coach.Criterion, marks []coach.Mark, at time.Time, live func(coach.Mark) bool) Phase {
	var last, inPlay []coach.Mark
	for _, m := range marks {
		if m.CriterionID != c.ID || m.Struck || m.At.After(at) {
			continue
		}
		last = append(last, m)
		if live(m) {
			inPlay = append(inPlay, m)
		}
	}
	if len(last) == 0 {
		return Unknown
	}
	if len(inPlay) > 0 && Of(c, inPlay, at).State == Shown {
		return Automatic
	}
	slices.SortFunc(last, func(a, b coach.Mark) int { return a.At.Compare(b.At) })
	last = last[max(0, len(last)-recent):]
	done, of := 0.0, 0.0
	for _, m := range last {
		if c.Measure == coach.Makes {
			done, of = done+m.Figure, of+float64(m.Tries)
			continue
		}
		of++
		if Meets(c, m) {
			done++
		}
	}
	if done < of/2 {
		return Discovering
	}
	return Linking
}
