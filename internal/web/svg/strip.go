package svg

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
)

// StripView is the session's clock as a drawing.
type StripView struct {
	W, H    float64
	Left    float64
	PerMin  float64 // units a minute
	Ticks   []tickView
	Blocks  []BarView
	Rows    []rowView
	Moments []BarView
	Wall    float64 // where the booked time ends
	WallAt  string
	Beyond  float64 // how wide what stands beyond the wall is
	BoxH    float64
}

type tickView struct {
	X     float64
	Label string
}

// BarView is a stretch of the strip: a block, a round of a group, or a moment.
type BarView struct {
	X, Y, W      float64
	Title, Under string
	Full         string
	ID           string // of a block
	Circuit      int    // whose stations stand on the floor at a moment; −1: those of before
	Index        int    // block, round or moment
	Kind         string
	Minutes      int
	Group        int
	IsOver       bool
	Pinned       bool
	Round        int
}

type rowView struct {
	Y     float64
	Shape doc.Shape
	Group int
	Bars  []BarView
}

// The strip's edges, and what a finger or a pointer still finds, in units of the drawing.
const (
	stripLeft, stripRight, stripTop = 104.0, 1064.0, 26.0
	leastBar                        = 14.0
)

// strip is a StripView that is being drawn.
type strip struct {
	StripView
	pic    work.Picture
	scale  float64 // units a minute
	rowH   float64
	moment map[int]int // of each round
}

// Strip draws a session's clock: the blocks, and under them a row for each group.
func Strip(pic work.Picture) StripView {
	long := max(pic.Total, pic.Booked, 10*time.Minute)
	v := strip{pic: pic, scale: (stripRight - stripLeft) / long.Minutes(), rowH: 34, moment: map[int]int{}}
	if len(pic.Groups) > 4 {
		v.rowH = 29
	}
	v.W, v.H = stripRight+16, stripTop+46+float64(max(1, len(pic.Groups)))*v.rowH+4
	v.Left, v.PerMin, v.BoxH = stripLeft, math.Round(v.scale*1000)/1000, v.rowH-6
	v.Wall, v.WallAt = v.x(pic.Booked), v.clock(pic.Booked)
	v.Beyond = math.Max(0, v.x(pic.Total)-v.Wall)
	v.ticks(long)
	v.blocks()
	v.moments()
	for i, g := range pic.Groups {
		v.row(i, g)
	}
	return v.StripView
}

// x is where a moment stands.
func (v *strip) x(d time.Duration) float64 {
	return math.Round((stripLeft+d.Minutes()*v.scale)*10) / 10
}

func (v *strip) clock(d time.Duration) string { return v.pic.Start.Add(d).Format("15:04") }

func (v *strip) ticks(long time.Duration) {
	step := 10 * time.Minute
	for long > 20*step {
		step *= 3
	}
	for t := time.Duration(0); t <= long; t += step {
		if d := t - v.pic.Booked; d.Abs() >= step/3 || d == 0 { // the wall says its own time
			v.Ticks = append(v.Ticks, tickView{v.x(t), v.clock(t)})
		}
	}
}

func (v *strip) blocks() {
	var onTop []BarView
	for _, b := range v.pic.Blocks {
		if bar := v.block(b); bar.W < leastBar { // a block of no time lies on the seam of its neighbours, above them
			bar.X, bar.W = bar.X+bar.W/2-leastBar/2, leastBar
			onTop = append(onTop, bar)
		} else {
			v.Blocks = append(v.Blocks, bar)
		}
	}
	v.Blocks = append(v.Blocks, onTop...)
}

func (v *strip) block(b work.Span) BarView {
	w, takes := v.x(b.To)-v.x(b.From)-3, coach.Minutes(b.To-b.From)
	under := takes
	switch {
	case b.Kind == doc.OneKey && v.pic.Plan.Key != "":
		under = v.pic.Plan.Key
	case b.Cycle != nil:
		under += ", " + b.Cycle.Called(0)
	case b.Task != nil && b.Kind != doc.Stations:
		under += ", " + b.Task.Name
	case b.Note != "":
		under += ", " + b.Note
	}
	return BarView{
		X:       v.x(b.From),
		Y:       stripTop + 6,
		W:       w,
		ID:      b.ID,
		Index:   b.Index,
		Kind:    string(b.Kind),
		Minutes: b.Minutes,
		Pinned:  b.Pinned,
		Title:   fit(b.Title, w-10, 12.5),
		Under:   fit(under, w-10, 11),
		Full:    fmt.Sprintf("%s, %s, %s to %s", b.Title, takes, v.clock(b.From), v.clock(b.To)),
		IsOver:  b.To > v.pic.Booked,
	}
}

func (v *strip) moments() {
	for i, m := range v.pic.Moments {
		if m.Kind == "work" {
			v.moment[m.Round] = i
		}
		v.Moments = append(v.Moments, BarView{
			X:       v.x(m.From),
			W:       v.x(m.To) - v.x(m.From),
			Index:   i,
			Kind:    m.Kind,
			Round:   m.Round,
			Circuit: circuit(v.pic, m),
			Title:   v.clock(m.From) + ", " + m.Label,
		})
	}
}

// row is a group's: where it is in each of its rounds.
func (v *strip) row(i int, g work.Group) {
	row := rowView{Y: stripTop + 50 + float64(i)*v.rowH, Shape: g.Shape, Group: g.Index}
	for r, at := range g.Route {
		if at == work.NotIn {
			continue
		}
		from := v.x(v.pic.Rounds[r].From)
		w := v.x(v.pic.Rounds[r].To) - from
		bar := BarView{X: from, Y: row.Y, W: w, Index: v.moment[r+1], Round: r + 1, Group: g.Index}
		bar.Title, bar.Full = fit("rests", w-14, 10.6), fmt.Sprintf("Round %d: %s rest", r+1, g.Shape.Name)
		if at >= 0 {
			s := v.pic.Stations[at]
			does := s.For(g).Name
			bar.Title = fit(strconv.Itoa(at+1)+" "+does, w-14, 10.6)
			bar.Full = fmt.Sprintf("Round %d: %s at %d %s", r+1, g.Shape.Name, at+1, does)
			if form := s.VariantFor(s.Drill, g.Number, g.Stage); form != nil && !s.HasOwn(g) {
				bar.Full += ", " + form.Name
			}
		}
		row.Bars = append(row.Bars, bar)
	}
	v.Rows = append(v.Rows, row)
}

// circuit is which stations are in use at a moment, −1 where none are.
func circuit(pic work.Picture, m work.Moment) int {
	owner := pic.Plan.Owner(&pic.Plan.Blocks[m.Block])
	return slices.IndexFunc(pic.Circuits, func(c work.Circuit) bool { return owner != nil && c.Block == owner.ID })
}
