// Package floor knows places to scale: their lines from a sport's published dimensions, and where stations go on them.
// All lengths are metres, from the top left corner of the floor, x along its length.
package floor

import (
	"math"
)

// Line is a white line of a court: straight from A to B, or an arc about its centre.
type Line struct {
	X1, Y1, X2, Y2 float64
	Arc            bool    // a quarter circle from (X1,Y1) to (X2,Y2)
	Radius         float64 // of the arc
	Sweep          bool    // clockwise on the page
	Dashed         bool
}

// Floor is a place with its lines.
type Floor struct {
	Kind          string
	Name          string
	Length, Width float64
	Lines         []Line
	Source        string // the rule that gives the figures; empty for plain floors
}

// Kinds lists the floors that can be drawn, with the size each starts with.
var Kinds = []Floor{
	{Kind: "handball", Name: "Handball court", Length: 40, Width: 20, Source: "IHF Rules of the Game, Rule 1"},
	{Kind: "hall", Name: "Plain hall", Length: 15, Width: 12},
	{Kind: "field", Name: "Field", Length: 50, Width: 30},
}

// Of draws the named kind of floor at the given size. A court has the size of its rule, whatever is given. An unknown
// kind is a plain hall.
func Of(kind string, length, width float64) Floor {
	for _, f := range Kinds {
		if f.Kind != kind {
			continue
		}
		if kind == "handball" {
			f.Lines = handball(f.Length, f.Width)
			return f
		}
		f.Length, f.Width = length, width
		return f
	}
	return Floor{Kind: "hall", Name: "Plain hall", Length: length, Width: width}
}

// handball: IHF Rules of the Game, Rule 1. Court 40 × 20 m, goals 3 m wide; the goal-area line is 6 m from the goal
// line: 3 m straight, parallel to the goal, and a quarter circle of 6 m about each rear inner edge of the posts; the
// free-throw line is 3 m outside it, dashed; the 7-metre line is 1 m long; the goalkeeper's line 4 m out, 15 cm long.
func handball(l, w float64) []Line {
	mid := w / 2
	lines := []Line{{X1: 0, Y1: 0, X2: l, Y2: 0}, {X1: l, Y1: 0, X2: l, Y2: w}, {X1: l, Y1: w, X2: 0, Y2: w}, {X1: 0, Y1: w, X2: 0, Y2: 0}, {X1: l / 2, Y1: 0, X2: l / 2, Y2: w}}
	for _, end := range []struct {
		x, dir float64
	}{{0, 1}, {l, -1}} {
		at := func(d float64) float64 { return end.x + end.dir*d }
		top, bottom := mid-1.5, mid+1.5
		lines = append(lines,
			Line{X1: at(6), Y1: top, X2: at(6), Y2: bottom},
			Line{X1: at(0), Y1: top - 6, X2: at(6), Y2: top, Arc: true, Radius: 6, Sweep: end.dir > 0},
			Line{X1: at(6), Y1: bottom, X2: at(0), Y2: bottom + 6, Arc: true, Radius: 6, Sweep: end.dir > 0},
			Line{X1: at(9), Y1: top, X2: at(9), Y2: bottom, Dashed: true},
			Line{X1: at(math.Sqrt(81 - top*top)), Y1: 0, X2: at(9), Y2: top, Arc: true, Radius: 9, Sweep: end.dir > 0, Dashed: true},
			Line{X1: at(9), Y1: bottom, X2: at(math.Sqrt(81 - top*top)), Y2: w, Arc: true, Radius: 9, Sweep: end.dir > 0, Dashed: true},
			Line{X1: at(7), Y1: mid - 0.5, X2: at(7), Y2: mid + 0.5},
			Line{X1: at(4), Y1: mid - 0.075, X2: at(4), Y2: mid + 0.075},
		)
	}
	return lines
}

// Spot is a rectangle on the floor.
type Spot struct{ X, Y, Length, Width float64 }

// Centre of the spot.
func (s Spot) Centre() (x, y float64) { return s.X + s.Length/2, s.Y + s.Width/2 }

// Size is what a station asks of the floor.
type Size struct{ Length, Width, Clearance float64 }

// Layout gives every station a spot in the order of a walk round the floor: rows of equal cells, every second row
// backwards, each station in the middle of its cell at its own size. fits[i] is false when the station with its clearance
// is larger than the cell; it is then drawn as large as the cell.
func Layout(f Floor, sizes []Size) (spots []Spot, fits []bool) {
	n := len(sizes)
	if n == 0 {
		return nil, nil
	}
	rows := 1
	best := math.Inf(1) // the rows whose cells are nearest to a shape of 3 to 2
	for r := 1; r <= n; r++ {
		cols := math.Ceil(float64(n) / float64(r))
		shape := (f.Length / cols) / (f.Width / float64(r))
		waste := cols*float64(r) - float64(n)
		if c := math.Abs(math.Log(shape/1.5)) + 0.15*waste; c < best {
			best, rows = c, r
		}
	}
	cols := (n + rows - 1) / rows
	for i, s := range sizes {
		row, col := i/cols, i%cols
		inRow := min(cols, n-row*cols)
		if row%2 == 1 {
			col = inRow - 1 - col
		}
		cw, ch := f.Length/float64(inRow), f.Width/float64(rows)
		l, w := s.Length, s.Width
		if l > cw && w <= cw && l <= ch { // turned it fits
			l, w = w, l
		}
		fits = append(fits, l+s.Clearance <= cw && w+s.Clearance <= ch)
		l, w = min(l, cw-0.5), min(w, ch-0.5)
		spots = append(spots, Spot{float64(col)*cw + (cw-l)/2, float64(row)*ch + (ch-w)/2, l, w})
	}
	return spots, fits
}

// Walks is the straight way in metres from the middle of each spot to each other.
func Walks(spots []Spot) [][]float64 {
	out := make([][]float64, len(spots))
	for i, a := range spots {
		out[i] = make([]float64, len(spots))
		for j, b := range spots {
			ax, ay := a.Centre()
			bx, by := b.Centre()
			out[i][j] = math.Hypot(ax-bx, ay-by)
		}
	}
	return out
}
