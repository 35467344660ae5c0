package season

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
)

// Limits of a test that comes back.
const (
	MostMeasures = 4
	MostTries    = 3
	MostFigure   = 1e6
)

// Test is a test that comes back: the same measures under the same conditions, every so many weeks.
type Test struct {
	Measures   []Measure `json:"measures"`
	Tries      int       `json:"tries"`      // of each player, each time
	Every      int       `json:"every"`      // weeks
	Conditions string    `json:"conditions"` // that stay the same
	From       day.Day   `json:"-"`          // the first time
}

// Measure is one of a test's figures.
type Measure struct {
	Name string `json:"name"`
	Unit string `json:"unit"`
	Less bool   `json:"less,omitempty"` // a lower figure is better: a time, faults
}

// Due reports whether the test comes on a day in the week of the class: every so many weeks since the first time.
func (t Test) Due(on day.Day) bool {
	weeks := on.Sub(t.From) / 7
	return !on.Before(t.From) && weeks%max(1, t.Every) == 0
}

// Check says what cannot be in a test, by field: measures, tries, every, conditions.
func (t Test) Check() (bad []coach.Trial) {
	wrong := func(field, format string, args ...any) {
		bad = append(bad, coach.Trial{Field: field, Says: fmt.Sprintf(format, args...)})
	}
	if len(t.Measures) == 0 {
		wrong("measures", "What is measured?")
	}
	if len(t.Measures) > MostMeasures {
		wrong("measures", "%d measures are the most.", MostMeasures)
	}
	if t.Tries < 1 || t.Tries > MostTries {
		wrong("tries", "Tries: a whole number from 1 to %d.", MostTries)
	}
	if t.Every < 1 || t.Every > 26 {
		wrong("every", "Every how many weeks: a whole number from 1 to 26.")
	}
	return bad
}

// Taken is what one player showed of one measure on a day: a figure for each try.
type Taken struct {
	On     day.Day
	Player string
	Tries  []float64
}

// Mean is the day's figure: averaging tries makes it less noisy by the root of their number.
func (t Taken) Mean() float64 { return stat.Mean(t.Tries, nil) }

// Noise is by how much a player's figure differs from itself without having changed.
type Noise struct {
	Error float64 // the typical error of one day's figure; 0: not known
	Pairs int     // of figures that it rests on
	Weeks bool    // from one time to the next, so that what really changed is in it too; else from tries on the same day
}

// leastPairs is from how many pairs on something is said of the noise.
const leastPairs = 4

// NoiseOf is the typical error of a test: the standard deviation of the differences between two figures of the same
// players, divided by √2, the mean change of all taken out (W. G. Hopkins, Measures of Reliability in Sports Medicine
// and Science, Sports Medicine 30, 2000). Where a day has two tries of somebody, these are the pairs; else one time and
// the next.
func NoiseOf(all []Taken) Noise {
	byDay := map[day.Day][]float64{} // differences
	tries := 1
	for _, t := range all {
		if len(t.Tries) >= 2 {
			byDay[t.On] = append(byDay[t.On], t.Tries[1]-t.Tries[0])
			tries = max(tries, len(t.Tries))
		}
	}
	n := pooled(byDay)
	if n.Pairs >= leastPairs {
		n.Error /= math.Sqrt(float64(tries)) // of the mean of them
		return n
	}
	byDay = map[day.Day][]float64{}
	last := map[string]Taken{}
	for _, t := range oldestFirst(all) {
		if before, had := last[t.Player]; had {
			byDay[t.On] = append(byDay[t.On], t.Mean()-before.Mean())
		}
		last[t.Player] = t
	}
	n = pooled(byDay)
	if n.Weeks = true; n.Pairs < leastPairs {
		return Noise{Weeks: true, Pairs: n.Pairs}
	}
	return n
}

// pooled is the typical error of differences that were taken on several days: their variances by degrees of freedom.
func pooled(byDay map[day.Day][]float64) (n Noise) {
	sum, free := 0.0, 0
	for _, d := range byDay {
		if len(d) < 2 {
			continue
		}
		_, variance := stat.MeanVariance(d, nil)
		sum += variance * float64(len(d)-1)
		free += len(d) - 1
		n.Pairs += len(d)
	}
	if free > 0 {
		n.Error = math.Sqrt(sum / float64(free) / 2)
	}
	return n
}

func oldestFirst(all []Taken) []Taken {
	out := slices.Clone(all)
	slices.SortStableFunc(out, func(a, b Taken) int { return a.On.Compare(b.On) })
	return out
}

// A change counts from one and a half to two typical errors on (Hopkins 2000).
const (
	countsFrom = 1.5
	sureFrom   = 2.0
)

// Counts is the smallest change that counts; 0: nothing is known of the noise.
func (n Noise) Counts() float64 { return countsFrom * n.Error }

// Change is from one time to the next.
type Change struct {
	Player       string
	Last, This   float64
	LastOn, On   day.Day
	Had          bool    // there is a time before
	By           float64 // this less last
	Better       bool
	Likely, Sure bool
	Chance       float64 // that the true figure moved that way at all
	Curve        []Taken
}

// Changes are the players' changes from the time before a day to that day, in the order of the players; those who were
// not there on that day are left out.
func Changes(m Measure, all []Taken, on day.Day, players []string) (out []Change) {
	n := NoiseOf(all)
	for _, p := range players {
		c := Change{Player: p, On: on}
		there := false
		for _, t := range oldestFirst(all) {
			if t.Player != p || t.On.After(on) || len(t.Tries) == 0 {
				continue
			}
			c.Curve = append(c.Curve, t)
			if t.On == on {
				c.This, there = t.Mean(), true
			} else {
				c.Last, c.LastOn, c.Had = t.Mean(), t.On, true
			}
		}
		if !there {
			continue
		}
		if c.Had {
			c.By = c.This - c.Last
			c.Better = c.By > 0 != m.Less && c.By != 0
			if n.Error > 0 {
				size := math.Abs(c.By) / n.Error
				c.Likely, c.Sure = size >= countsFrom, size >= sureFrom
				c.Chance = distuv.UnitNormal.CDF(size / math.Sqrt2)
			}
		}
		out = append(out, c)
	}
	return out
}

// String is what the change says: "better, sure", "as before".
func (c Change) String() string {
	switch {
	case !c.Had:
		return "first time"
	case c.Chance == 0:
		return "not known yet"
	case !c.Likely:
		return "as before"
	}
	way := "less well"
	if c.Better {
		way = "better"
	}
	if c.Sure {
		return way + ", sure"
	}
	return way + ", likely"
}

// String is what is known of the noise, in a sentence.
func (n Noise) String() string { return n.Says("") }

// Says is it with the unit of the figures.
func (n Noise) Says(unit string) string {
	if n.Error == 0 {
		return fmt.Sprintf("From %s on, what is noise is told from what is change.", say.Count(leastPairs, "pair"))
	}
	from := coach.Figure(math.Round(n.Counts()*10) / 10)
	if unit != "" {
		from += " " + unit
	}
	how := "two tries of one day differ by"
	if n.Weeks {
		how = "from one time to the next they differ by"
	}
	return fmt.Sprintf("A change counts from %s on: %s %s, typically.", from, how, coach.Figure(math.Round(n.Error*10)/10))
}
