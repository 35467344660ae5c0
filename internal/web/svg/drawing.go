package svg

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/diagram"
)

// DrawingView is a drill's drawing for the template "diagram", in units of about a pixel: marks keep their size
// whatever the scale.
type DrawingView struct {
	W, H, K float64 // K units a metre
	X, Y    float64 // metres at the left and top edge
	Field   float64 // the height without the legend
	Lines   []CourtLine
	Areas   []ThingView // under everything
	Things  []ThingView
	Marks   []TraceView
	Traces  []TraceView
	Legend  []LegendItem
	Says    []string // of each step
	Words   []string
	Step    int    // the one that is shown, from 0; -1: all of them
	SnapX   string // where court lines run, in metres
	SnapY   string
	Bare    bool // a thumbnail: no words in it
}

// ThingView is a thing in its place; L and W are its size in units.
type ThingView struct {
	coach.Thing
	Index int
	PX    float64
	PY    float64
	L, W  float64
	Label string
	LX    float64 // where the label's middle stands beside the thing's, so that it stays in the drawing
	Ring  bool    // a player with a role
	At    string  // "x,y x,y …" in units at the start of each step and at the end
	M     string  // "x,y" in metres where it is shown
}

// TraceView is a line with its head.
type TraceView struct {
	Kind     string
	D        string
	Head     string // an arrow's head
	TX, TY   float64
	Text     string
	Ends     string // the bars at both ends of a distance
	Step     int
	Index    int
	Turn     int
	Movers   string
	NX, NY   float64 // where its step's number stands
	Numbered bool
}

// LegendItem explains a mark.
type LegendItem struct {
	Kind, Words string
	Trace       bool
	X, Y        float64
}

// Drawing prepares a drawing for a space of width by height units, its distances as a club reads them. Step is the one to
// show, from 0, or -1 for all at once. A bare one has no words and no legend.
func Drawing(d coach.Drawing, units coach.Units, width, height float64, step int, bare bool) DrawingView {
	d.Feet = units == coach.Imperial
	f, _ := diagram.On(d)
	k := math.Min(width/d.Length, height/d.Width)
	v := DrawingView{
		W:     toTenth(d.Length * k),
		Field: toTenth(d.Width * k),
		K:     k,
		X:     d.X,
		Y:     d.Y,
		Step:  step,
		Bare:  bare,
		Words: diagram.Words(d),
	}
	v.Lines, v.SnapX, v.SnapY = courtLines(f.Lines, v.x, v.y, k)
	play := diagram.Work(d)
	for i, t := range d.Things {
		tv := v.thing(i, t, play)
		if t.Kind == "area" || t.Kind == "mat" {
			v.Areas = append(v.Areas, tv)
		} else {
			v.Things = append(v.Things, tv)
		}
	}
	for i, t := range d.Marks {
		tv := v.trace(d, t)
		tv.Step, tv.Index = -1, i
		v.Marks = append(v.Marks, tv)
	}
	for s, st := range d.Steps {
		v.Says = append(v.Says, st.Says)
		for _, m := range play.Moves[s] {
			if step >= 0 && s != step {
				continue
			}
			tv := v.trace(d, st.Traces[m.Trace])
			tv.Step, tv.Index, tv.Turn = s, m.Trace, m.Turn
			tv.Numbered = step < 0 && len(d.Steps) > 1
			var movers []string
			for _, i := range m.Things {
				movers = append(movers, strconv.Itoa(i))
			}
			tv.Movers = strings.Join(movers, " ")
			v.Traces = append(v.Traces, tv)
		}
	}
	v.H = v.Field
	if !bare {
		v.legend(d)
	}
	return v
}

// x and y turn metres on the floor into units of the drawing.
func (v *DrawingView) x(m float64) float64 { return toTenth((m - v.X) * v.K) }
func (v *DrawingView) y(m float64) float64 { return toTenth((m - v.Y) * v.K) }

// thing is the drawing's i-th thing, where it stands at the step that is shown and at all the others.
func (v *DrawingView) thing(i int, t coach.Thing, play diagram.Play) ThingView {
	l, w := diagram.Size(t)
	at := play.Places[max(0, min(v.Step, len(play.Places)-1))][i]
	tv := ThingView{
		Thing: t,
		Index: i,
		PX:    v.x(at[0]),
		PY:    v.y(at[1]),
		L:     toTenth(l * v.K),
		W:     toTenth(w * v.K),
		M:     coach.Figure(at[0]) + "," + coach.Figure(at[1]),
		Label: t.Says,
		Ring:  t.Kind == "player" && t.Says != "",
	}
	if t.Kind == "beam" {
		tv.W = max(tv.W, 4)
	}
	tv.LX = v.inside(tv.PX, tv.Label) - tv.PX
	var places []string
	for _, p := range play.Places {
		places = append(places, fmt.Sprintf("%g,%g", v.x(p[i][0]), v.y(p[i][1])))
	}
	tv.At = strings.Join(places, " ")
	return tv
}

// trace is a line, its head or bars, and its text, moved so far that all of it lies in the drawing.
func (v *DrawingView) trace(d coach.Drawing, t coach.Trace) TraceView {
	var b strings.Builder
	fmt.Fprintf(&b, "M%g %g", v.x(t.Points[0][0]), v.y(t.Points[0][1]))
	for _, c := range diagram.Curve(t.Points) {
		fmt.Fprintf(&b, "C%g %g ", v.x(c[1][0]), v.y(c[1][1]))
		fmt.Fprintf(&b, "%g %g ", v.x(c[2][0]), v.y(c[2][1]))
		fmt.Fprintf(&b, "%g %g", v.x(c[3][0]), v.y(c[3][1]))
	}
	n := len(t.Points)
	from, before, end := t.Points[0], t.Points[n-2], t.Points[n-1]
	mid := t.Points[n/2]
	if n == 2 {
		mid = [2]float64{(from[0] + end[0]) / 2, (from[1] + end[1]) / 2}
	}
	tv := TraceView{
		Kind: t.Kind,
		D:    b.String(),
		Text: t.Says,
		TX:   v.x(mid[0]),
		TY:   v.y(mid[1]) - 5,
		NX:   v.x(from[0]),
		NY:   v.y(from[1]),
	}
	switch t.Kind {
	case "distance":
		tv.Text = strings.TrimSpace(diagram.Said(d, diagram.Metres(t.Points)) + " " + t.Says)
		nx, ny := normal(from, t.Points[1])
		tv.Ends = v.bar(from, nx, ny) + v.bar(end, nx, ny)
		if math.Abs(nx) > 0.9 { // it runs down the page: the figure beside it
			tv.TX, tv.TY = tv.TX+14, tv.TY+9
		}
	case "line":
	default:
		tv.Head = v.head(before, end)
	}
	tv.TX, tv.TY = v.inside(tv.TX, tv.Text), math.Max(tv.TY, 12)
	return tv
}

// bar is a short line across a way at one of its points; nx, ny is the direction across it.
func (v *DrawingView) bar(at [2]float64, nx, ny float64) string {
	x, y := v.x(at[0]), v.y(at[1])
	return fmt.Sprintf("M%g %gL%g %g", x-nx*5, y-ny*5, x+nx*5, y+ny*5)
}

// head is the arrow at the end of a way.
func (v *DrawingView) head(before, end [2]float64) string {
	nx, ny := normal(before, end) // the way runs (ny, -nx)
	ux, uy := ny, -nx
	x, y := v.x(end[0]), v.y(end[1])
	return fmt.Sprintf(
		"M%g %gL%g %gL%g %gZ",
		toTenth(x), toTenth(y),
		toTenth(x-ux*10+nx*4.5), toTenth(y-uy*10+ny*4.5),
		toTenth(x-ux*10-nx*4.5), toTenth(y-uy*10-ny*4.5),
	)
}

// inside moves the middle of a text so far that all of it lies in the drawing.
func (v *DrawingView) inside(x float64, text string) float64 {
	half := float64(len([]rune(text)))*2.9 + 3 // letters of 11 units are about 5.8 wide
	return toTenth(math.Max(half, math.Min(x, v.W-half)))
}

func toTenth(x float64) float64 { return math.Round(x*10) / 10 }

// normal is the direction across a way, of length one.
func normal(a, b [2]float64) (x, y float64) {
	dx, dy := b[0]-a[0], b[1]-a[1]
	l := math.Hypot(dx, dy)
	if l == 0 {
		return 0, 1
	}
	return -dy / l, dx / l
}

// legend explains the marks that are used, in rows under the drawing.
func (v *DrawingView) legend(d coach.Drawing) {
	used, roles := map[string]bool{}, false
	for _, t := range d.Things {
		used[t.Kind] = true
		roles = roles || t.Kind == "player" && t.Says != ""
	}
	for _, t := range d.Marks {
		used[t.Kind] = true
	}
	for _, s := range d.Steps {
		for _, t := range s.Traces {
			used[t.Kind] = true
		}
	}
	cx, cy := 4.0, v.Field+16
	add := func(kind, words string, trace bool) {
		w := float64(len([]rune(words)))*5.7 + 34
		if trace {
			w += 14
		}
		if cx+w > v.W && cx > 4 {
			cx, cy = 4, cy+18
		}
		v.Legend = append(v.Legend, LegendItem{kind, words, trace, cx, cy})
		cx += w
	}
	for _, k := range diagram.Kinds {
		if used[k.Name] {
			add(k.Name, k.Words, false)
		}
		if k.Name == "player" && roles {
			add("role", "with a role", false)
		}
	}
	for _, w := range diagram.Ways {
		if used[w.Name] {
			add(w.Name, w.Words, true)
		}
	}
	if len(v.Legend) > 0 {
		v.H = cy + 12
	}
}
