package svg

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
)

// ChartView is the marks of a player on a criterion drawn over time: a dot for each, full where it met the standard,
// and the standard as a line. The template "chart" shows it.
type ChartView struct {
	W, H     float64
	Line     string
	Dots     []ChartDot
	Y        float64 // of the standard
	Standard string
	Says     string // the same in words
	From, To string
}

// ChartDot is one mark.
type ChartDot struct {
	X, Y  float64
	Meets bool
}

// Chart draws the marks that were not struck out; nil when there are none. Marks are in order of time.
func Chart(k coach.Criterion, marks []coach.Mark, loc *time.Location, w, h float64) *ChartView {
	marks = slices.DeleteFunc(slices.Clone(marks), func(m coach.Mark) bool { return m.Struck || m.CriterionID != k.ID })
	if len(marks) == 0 {
		return nil
	}
	want := evidence.Wanted(k)
	low, high := want, want
	for _, m := range marks {
		low, high = math.Min(low, evidence.Value(k, m)), math.Max(high, evidence.Value(k, m))
	}
	if high == low {
		low, high = low-1, high+1
	}
	first, last := marks[0].At, marks[len(marks)-1].At
	y := func(x float64) float64 { return math.Round((6+(h-12)*(high-x)/(high-low))*10) / 10 }
	ch := &ChartView{
		W:        w,
		H:        h,
		Y:        y(want),
		Standard: k.Standard(),
		From:     first.In(loc).Format("2 Jan"),
		To:       last.In(loc).Format("2 Jan"),
	}
	if ch.From == ch.To {
		ch.From = ""
	}
	lines := make([][]string, len(k.Sides()))
	for _, m := range marks {
		x := w / 2
		if span := last.Sub(first); span > 0 {
			x = 6 + (w-12)*m.At.Sub(first).Seconds()/span.Seconds()
		}
		d := ChartDot{math.Round(x*10) / 10, y(evidence.Value(k, m)), evidence.Meets(k, m)}
		for i, side := range k.Sides() { // a line of its own for each
			if side == coach.AnySide || m.Side == side || m.Side == coach.Both {
				lines[i] = append(lines[i], fmt.Sprintf("%g %g", d.X, d.Y))
			}
		}
		ch.Dots = append(ch.Dots, d)
		ch.Says += strings.TrimSpace(fmt.Sprintf("%s %s %s", m.At.In(loc).Format("2 Jan"), m.Said(k), m.Side)) + ". "
	}
	for _, l := range lines {
		if len(l) > 0 {
			ch.Line += "M" + strings.Join(l, "L")
		}
	}
	return ch
}

// Tall is how high the drawing is with its dates.
func (c *ChartView) Tall() float64 { return c.H + 22 }

// Middle is half of the width, where the standard is written between the dates.
func (c *ChartView) Middle() float64 { return c.W / 2 }

// Foot is the height of the dates.
func (c *ChartView) Foot() float64 { return c.H + 16 }
