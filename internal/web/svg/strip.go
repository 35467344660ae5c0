package svg

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
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
	BlockH  float64
	Middle  int // of a row, where its words stand
}

type tickView struct {
	X     float64
	Label string
}

// lineView is a line of words in a box.
type lineView struct {
	Down  int // from the box's top to where the words stand
	Words string
}

// lines sets words one under another, the first of them so far down.
func lines(words []string, down int) (out []lineView) {
	for i, w := range words {
		out = append(out, lineView{down + 12*i, w})
	}
	return out
}

// BarView is a stretch of the strip: a block, a round of a group, or a moment.
type BarView struct {
	X, Y, W float64
	Title   string
	Lines   []lineView // under a block's title, or in a round's box
	Full    string
	ID      string // of a block, or of a moment's
	Circuit int    // whose stations stand on the floor at a moment; −1: those of before
	Index   int    // block, round or moment
	Kind    string
	Minutes int
	Group   int
	IsOver  bool
	Pinned  bool
	Round   int
}

type rowView struct {
	Y     float64
	Shape doc.Shape
	Group int
	Bars  []BarView
}

// The strip's edges, and what a finger or a pointer still finds, in units of the drawing.
const (
	stripLeft, stripRight, stripTop = 104.0, 1064.0, 20.0
	leastBar                        = 14.0
	gap                             = 3.0 // between two blocks
	blockH                          = 46.0
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
	v := strip{pic: pic, scale: (stripRight - stripLeft) / long.Minutes(), rowH: 29, moment: map[int]int{}}
	if len(pic.Groups) > 4 {
		v.rowH = 25
	}
	v.W, v.H = stripRight+16, stripTop+blockH+8+float64(len(pic.Groups))*v.rowH+4
	v.Left, v.PerMin, v.BoxH, v.BlockH = stripLeft, math.Round(v.scale*1000)/1000, v.rowH-3, blockH
	v.Middle = int(v.BoxH/2) + 5
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
		if d := t - v.pic.Booked; d.Abs() >= step/3 { // the wall says its own time
			v.Ticks = append(v.Ticks, tickView{v.x(t), v.clock(t)})
		}
	}
}

// blocks draws them side by side. Those of no time lie on the seam of their neighbours, one beside the other and above
// them, and these leave them room.
func (v *strip) blocks() {
	var onTop []BarView
	for i, b := range v.pic.Blocks {
		before, after := v.shorts(i-1, -1), v.shorts(i+1, 1)
		if v.short(i) {
			from, to := v.x(v.pic.Blocks[i-before].From), v.x(v.pic.Blocks[i+after].To)-gap
			left := (from + to - float64(before+1+after)*leastBar) / 2
			onTop = append(onTop, v.block(b, left+float64(before)*leastBar, leastBar))
			continue
		}
		x, end := v.x(b.From), v.x(b.To)-gap
		if room := float64(before) * leastBar / 2; x+room+leastBar/2 < end {
			x += room
		}
		if room := float64(after) * leastBar / 2; x+room+leastBar/2 < end {
			end -= room
		}
		v.Blocks = append(v.Blocks, v.block(b, x, end-x))
	}
	v.Blocks = append(v.Blocks, onTop...)
}

// short reports whether there is a block that its time leaves no room for.
func (v *strip) short(i int) bool {
	if i < 0 || i >= len(v.pic.Blocks) {
		return false
	}
	b := v.pic.Blocks[i]
	return v.x(b.To)-v.x(b.From)-gap < leastBar
}

// shorts are how many such blocks follow each other from one on.
func (v *strip) shorts(i, step int) (n int) {
	for ; v.short(i); i += step {
		n++
	}
	return n
}

func (v *strip) block(b work.Span, x, w float64) BarView {
	takes := coach.Minutes(b.To - b.From)
	under := takes
	switch {
	case b.Kind == doc.OneKey && v.pic.Plan.Key != "":
		under = v.pic.Plan.Key
	case b.Cycle != nil:
		under += ", " + b.Cycle.Called(0)
	case b.Kind == doc.Stations && b.Count > 0:
		under = fmt.Sprintf("%d × %s", b.Count, coach.Clock(v.round(b)))
	case b.Task != nil && b.Kind != doc.Stations:
		under += ", " + b.Task.Name
	case b.Note != "":
		under += ", " + b.Note
	}
	return BarView{
		X:       x,
		Y:       stripTop + 4,
		W:       w,
		ID:      b.ID,
		Index:   b.Index,
		Kind:    string(b.Kind),
		Minutes: b.Minutes,
		Pinned:  b.Pinned,
		Title:   fit(b.Title, w-6, 11.8),
		Lines:   lines(wrapped(under, w-8, 10.4, 2), 27),
		Full:    fmt.Sprintf("%s, %s, %s to %s", b.Title, takes, v.clock(b.From), v.clock(b.To)),
		IsOver:  b.To > v.pic.Booked,
	}
}

// round is how long a round of a block of stations is.
func (v *strip) round(b work.Span) time.Duration {
	for _, r := range v.pic.Rounds {
		if r.Block == b.Index {
			return r.To - r.From
		}
	}
	return 0
}

func (v *strip) moments() {
	for i, m := range v.pic.Moments {
		if m.Kind == "work" {
			v.moment[m.Round] = i
		}
		v.Moments = append(v.Moments, BarView{
			X:       v.x(m.From),
			W:       v.x(m.To) - v.x(m.From),
			ID:      v.pic.Blocks[m.Block].ID,
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
	row := rowView{Y: stripTop + blockH + 10 + float64(i)*v.rowH, Shape: g.Shape, Group: g.Index}
	inBox := func(words string, w float64) []lineView {
		rows := int(v.BoxH / 13)
		all := wrapped(words, w-12, 9.8, rows)
		if no, _, ok := strings.Cut(words, " "); ok && rows == 1 && len(all) > 0 && all[0] != words { // the number says it better than half a word
			all = []string{no}
		}
		return lines(all, v.Middle-1-6*(len(all)-1))
	}
	for r, at := range g.Route {
		if at == work.NotIn {
			continue
		}
		from := v.x(v.pic.Rounds[r].From)
		w := v.x(v.pic.Rounds[r].To) - from
		bar := BarView{X: from, Y: row.Y, W: w, Index: v.moment[r+1], Round: r + 1, Group: g.Index}
		bar.Lines, bar.Full = inBox("rests", w), fmt.Sprintf("Round %d: %s rest", r+1, g.Shape.Name)
		if at >= 0 {
			s := v.pic.Stations[at]
			does := s.For(g).Name
			bar.Lines = inBox(strconv.Itoa(at+1)+" "+does, w)
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
