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
	Blocks  []barView
	Rows    []rowView
	Moments []barView
	Wall    float64 // where the booked time ends
	WallAt  string
	Beyond  float64 // how wide what stands beyond the wall is
	BoxH    float64
}

type tickView struct {
	X     float64
	Label string
}

type barView struct {
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
	Bars  []barView
}

func Strip(pic work.Picture) StripView {
	const left, right, top = 104.0, 1064.0, 26.0
	rowH := 34.0
	if len(pic.Groups) > 4 {
		rowH = 29
	}
	long := max(pic.Total, pic.Booked, 10*time.Minute)
	k := (right - left) / long.Minutes()
	x := func(d time.Duration) float64 { return math.Round((left+d.Minutes()*k)*10) / 10 }
	v := StripView{
		W:      right + 16,
		H:      top + 46 + float64(max(1, len(pic.Groups)))*rowH + 4,
		Left:   left,
		PerMin: math.Round(k*1000) / 1000,
		BoxH:   rowH - 6,
	}
	step := 10 * time.Minute
	if long > 3*time.Hour {
		step = 30 * time.Minute
	}
	for t := time.Duration(0); t <= long; t += step {
		if d := t - pic.Booked; d.Abs() >= step/3 || d == 0 { // the wall says its own time
			v.Ticks = append(v.Ticks, tickView{x(t), pic.Start.Add(t).Format("15:04")})
		}
	}
	v.Wall, v.WallAt = x(pic.Booked), pic.Start.Add(pic.Booked).Format("15:04")
	v.Beyond = math.Max(0, x(pic.Total)-v.Wall)
	const leastBar = 14.0 // what a finger or a pointer still finds
	var onTop []barView
	for _, b := range pic.Blocks {
		w := x(b.To) - x(b.From) - 3
		bar := barView{
			X:       x(b.From),
			Y:       top + 6,
			W:       w,
			ID:      b.ID,
			Index:   b.Index,
			Kind:    string(b.Kind),
			Minutes: b.Minutes,
			Pinned:  b.Pinned,
			Title:   fit(b.Title, w-10, 12.5),
			Full: fmt.Sprintf(
				"%s, %s, %s to %s",
				b.Title,
				coach.Minutes(b.To-b.From),
				pic.Start.Add(b.From).Format("15:04"),
				pic.Start.Add(b.To).Format("15:04"),
			),
			IsOver: b.To > pic.Booked,
		}
		under := coach.Minutes(b.To - b.From)
		switch {
		case b.Kind == doc.OneKey && pic.Plan.Key != "":
			under = pic.Plan.Key
		case b.Task != nil && b.Kind != doc.Stations:
			under += ", " + b.Task.Name
		case b.Note != "":
			under += ", " + b.Note
		}
		bar.Under = fit(under, w-10, 11)
		if w < leastBar { // a block of no time lies on the seam of its neighbours, above them
			bar.X, bar.W = bar.X+w/2-leastBar/2, leastBar
			onTop = append(onTop, bar)
		} else {
			v.Blocks = append(v.Blocks, bar)
		}
	}
	v.Blocks = append(v.Blocks, onTop...)
	for i, m := range pic.Moments {
		v.Moments = append(
			v.Moments,
			barView{
				X:       x(m.From),
				W:       x(m.To) - x(m.From),
				Index:   i,
				Kind:    m.Kind,
				Round:   m.Round,
				Circuit: circuit(pic, m),
				Title:   fmt.Sprintf("%s, %s", pic.Start.Add(m.From).Format("15:04"), m.Label),
			},
		)
	}
	moment := map[int]int{} // of each round
	for i, m := range pic.Moments {
		if m.Kind == "work" {
			moment[m.Round] = i
		}
	}
	for i, g := range pic.Groups {
		row := rowView{Y: top + 50 + float64(i)*rowH, Shape: g.Shape, Group: g.Index}
		for r, s := range g.Route {
			if s == work.NotIn {
				continue
			}
			w := x(pic.Rounds[r].To) - x(pic.Rounds[r].From)
			bar := barView{
				X:     x(pic.Rounds[r].From),
				Y:     row.Y,
				W:     w,
				Index: moment[r+1],
				Round: r + 1,
				Group: g.Index,
				Title: fit("rests", w-14, 10.6),
				Full:  fmt.Sprintf("Round %d: %s rest", r+1, g.Shape.Name),
			}
			if s >= 0 {
				name := pic.Stations[s].Drill.Name
				bar.Title = fit(strconv.Itoa(s+1)+" "+name, w-14, 10.6)
				bar.Full = fmt.Sprintf("Round %d: %s at %d %s", r+1, g.Shape.Name, s+1, name)
				if va := pic.Stations[s].VariantFor(pic.Stations[s].Drill, g.Number, g.Stage); va != nil {
					bar.Full += ", " + va.Name
				}
			}
			row.Bars = append(row.Bars, bar)
		}
		v.Rows = append(v.Rows, row)
	}
	return v
}

// circuit is which stations are in use at a moment, −1 where none are.
func circuit(pic work.Picture, m work.Moment) int {
	owner := pic.Plan.Owner(&pic.Plan.Blocks[m.Block])
	return slices.IndexFunc(pic.Circuits, func(c work.Circuit) bool { return owner != nil && c.Block == owner.ID })
}
