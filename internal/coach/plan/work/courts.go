package work

import (
	"cmp"
	"time"

	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/target"
)

// Seconds is so many of them.
func Seconds(n int) time.Duration { return time.Duration(n) * time.Second }

// PointsTake is how long a turn takes between equals that is played to points, finding the partner included: the
// expected points of the race, a point taking a try and half of a fetch. Nothing where it is played by time.
func (b Span) PointsTake() time.Duration {
	p := b.Pairs()
	if p.To == 0 || b.Task == nil || b.RallyLadder() {
		return 0
	}
	points := target.Race{To: p.To, Against: cmp.Or(p.Against, p.To)}.Points(target.PointChance(0, 0))
	each := b.Task.TrySeconds + b.Task.Fetch/2
	return time.Duration(points*each*float64(time.Second)) + b.PartnerChange()
}

// Courts are where n courts of the block's task stand in the middle of the floor, row by row, each with the task's own
// clearance to the next and to the wall; fewer where no more fit, and none where the task has no size.
func (in Input) Courts(b Span, n int) (out []floor.Spot) {
	if b.Task == nil || b.Task.Length <= 0 || b.Task.Width <= 0 {
		return nil
	}
	f, clear := in.Floor.Inside(), b.Task.Clearance
	length, width := b.Task.Length, b.Task.Width
	fit := func(all, one float64) int { return max(0, int((all-clear+1e-9)/(one+clear))) }
	if fit(f.Length, length)*fit(f.Width, width) < fit(f.Length, width)*fit(f.Width, length) {
		length, width = width, length
	}
	columns, rows := fit(f.Length, length), fit(f.Width, width)
	if n <= 0 || columns == 0 || rows == 0 {
		return nil
	}
	n = min(n, columns*rows)
	columns = min(columns, n)
	rows = (n + columns - 1) / columns
	left := f.X + (f.Length-float64(columns)*(length+clear)+clear)/2
	top := f.Y + (f.Width-float64(rows)*(width+clear)+clear)/2
	for i := range n {
		out = append(out, floor.Spot{
			X:      left + float64(i%columns)*(length+clear),
			Y:      top + float64(i/columns)*(width+clear),
			Length: length,
			Width:  width,
		})
	}
	return out
}
