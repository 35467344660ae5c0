// Package marking makes a mark of what was seen: of taps, counted on a phone or at the desk, or of a figure that was
// typed. Both are read here alone; the cases in testdata/taps.json are those that the pads of the phone (pads.js) are
// held to as well.
package marking

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach"
)

// mostTries of one series.
const mostTries = 1000

// Typed is what was typed or tapped for a criterion.
type Typed struct {
	Side   coach.Side
	Taps   string // '1' for a good one, '0' for a miss
	Tries  string // "8 of 10", or the longest run
	Figure string
	Points []int // those that were seen, counted from 0
}

// Read makes a mark of what was typed: its side, figure, tries and points. wrong is a sentence for where it was typed;
// empty: nothing is.
func Read(k coach.Criterion, t Typed, units coach.Units) (m coach.Mark, wrong string) {
	if k.BothSides {
		if m.Side = t.Side; m.Side != coach.Left && m.Side != coach.Right {
			return m, "Which side was it, left or right?"
		}
	}
	switch k.Measure {
	case coach.Makes, coach.Streak:
		return counted(k, t, m)
	case coach.Check:
		for i := range k.Points {
			m.Points = append(m.Points, slices.Contains(t.Points, i))
		}
		return m, ""
	}
	x, ok := number(t.Figure)
	such := coach.Figure(k.Want)
	if k.Measure == coach.Distance {
		x, ok = units.ParseLength(t.Figure)
		such = units.Long(k.Want)
	}
	if !ok || k.Measure == coach.Grade && x != math.Trunc(x) {
		return m, "A figure, such as " + such + "."
	}
	m.Figure = x
	return m, ""
}

// counted reads tries: taps and what is typed are two fields, so that a typed 10 is never taken for a good one and a
// miss.
func counted(k coach.Criterion, t Typed, m coach.Mark) (coach.Mark, string) {
	if made, of, ok := strings.Cut(strings.ReplaceAll(t.Tries, " ", ""), "of"); ok && k.Measure == coach.Makes {
		x, okMade := number(made)
		n, okOf := number(of)
		if !okMade || !okOf || n < 1 || x > n || n != math.Trunc(n) || n > mostTries {
			return m, "Good ones of tries, such as 8 of 10."
		}
		m.Figure, m.Tries = x, int(n)
		return m, ""
	}
	if x, ok := number(t.Tries); ok && k.Measure == coach.Streak && x == math.Trunc(x) {
		m.Figure, m.Tries = x, int(x)
		return m, ""
	}
	if t.Tries == "" && t.Taps != "" && len(t.Taps) <= mostTries && AreTaps(t.Taps) {
		m.Figure, m.Tries = Figure(k.Measure, t.Taps), len(t.Taps)
		return m, ""
	}
	if k.Measure == coach.Makes {
		return m, "Tap good and miss, or type 8 of 10."
	}
	return m, "Tap good and miss, or type the longest run."
}

// Points are what a series of taps comes to where a good one is a point and a miss takes some away, but nobody falls under
// nothing.
func Points(taps string, minus int) (n int) {
	for _, t := range taps {
		if t == '1' {
			n++
		} else {
			n = max(0, n-minus)
		}
	}
	return n
}

// AreTaps reports whether words are a series of taps.
func AreTaps(s string) bool { return strings.Trim(s, "01") == "" }

// Figure is what a series of taps comes to: the longest run for a streak, else how many were good.
func Figure(measure coach.Measure, taps string) float64 {
	good, best := runs(taps)
	if measure == coach.Streak {
		return float64(best)
	}
	return float64(good)
}

// zones of a goal as a thrower sees them, row by row, by the number that is tapped.
var zones = []string{"", "high left", "high middle", "high right", "low left", "low middle", "low right"}

// Zones says where the good ones of a series went, by their numbers with commas between: "high left 2, low right 1".
func Zones(tapped string) string {
	count := map[int]int{}
	for _, z := range strings.Split(tapped, ",") {
		if n, err := strconv.Atoi(z); err == nil && n > 0 && n < len(zones) {
			count[n]++
		}
	}
	var out []string
	for n, name := range zones {
		if count[n] > 0 {
			out = append(out, name+" "+strconv.Itoa(count[n]))
		}
	}
	return strings.Join(out, ", ")
}

func number(s string) (float64, bool) {
	x, err := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
	return x, err == nil && x >= 0 && x <= 1e6
}

// runs counts a series of tries, '1' for a good one: how many were good, and the longest run without a miss.
func runs(tries string) (good, best int) {
	run := 0
	for _, t := range tries {
		if t != '1' {
			run = 0
			continue
		}
		good++
		run++
		best = max(best, run)
	}
	return good, best
}
