// Package svg works out what drawings show: the floor to scale with its stations, and the session’s clock as a strip.
package svg

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// FloorView is the floor drawn in units of about a pixel at 1280 × 800.
type FloorView struct {
	W, H         float64
	Scale        float64 // units a metre
	Margin       float64
	Lines        []CourtLine
	Blocked      []BoxView
	Use          *BoxView // the zone that is booked
	Stations     []StationView
	Courts       []CourtsView
	Tokens       []tokenView
	Paths        []pathView
	Caption      string
	SnapX, SnapY string       // where court lines run, in metres
	Edge         float64      // under it is the bench
	Bench        [][2]float64 // where each group stands on it
}

// Tall is how much of the drawing is shown: on paper, where nobody moves, the bench only where somebody stands on it.
func (v FloorView) Tall(paper bool) float64 {
	if !paper || slices.ContainsFunc(v.Tokens, func(t tokenView) bool { return t.Y > v.Edge }) {
		return v.H
	}
	return v.Edge
}

type BoxView struct {
	X, Y, W, H float64
	Name       string
}

// CourtsView is where pairs play in one block.
type CourtsView struct {
	Block string
	Boxes []BoxView // the name is the court's number
}

// StationView is a station on the floor.
type StationView struct {
	work.StationAt
	BoxView
	Clear   BoxView  // with its clearance
	Fire    *BoxView // where balls fly on
	Arrow   string   // the direction of play, where balls fly
	Under   string
	Trouble bool
	Place   string // in metres, as the edit takes it
}

type tokenView struct {
	Group    int
	Circuits []int // that the group comes to
	Shape    doc.Shape
	Names    string
	Count    int
	Dots     [][2]float64 // offsets from the group's spot
	X, Y     float64
	ByMoment string // "x,y x,y …" for each moment
}

type pathView struct {
	X1, Y1, X2, Y2 float64
	Group          int
	Circuit        int
}

func Floor(pic check.Picture, units coach.Units) FloorView {
	f := pic.Floor
	const margin = 12
	k := math.Min(640/f.Length, 330/f.Width)
	v := FloorView{W: f.Length*k + 2*margin, H: f.Width*k + 2*margin, Scale: k, Margin: margin}
	at := func(m float64) float64 { return math.Round((m*k+margin)*10) / 10 }
	box := func(s floor.Spot, name string) BoxView {
		return BoxView{at(s.X), at(s.Y), math.Round(s.Length*k*10) / 10, math.Round(s.Width*k*10) / 10, name}
	}
	v.Lines, v.SnapX, v.SnapY = courtLines(f.Lines, at, at, k)
	for _, b := range f.Blocked {
		v.Blocked = append(v.Blocked, box(floor.Spot{X: b.X, Y: b.Y, Length: b.Length, Width: b.Width}, b.Name))
	}
	if f.Use.Length > 0 {
		b := box(f.Inside(), f.Use.Name)
		v.Use = &b
	}
	for _, s := range pic.Stations {
		b := box(s.Spot, "")
		sv := StationView{
			StationAt: s,
			BoxView:   b,
			Clear:     box(s.Spot.Grown(s.Drill.Clearance), ""),
			Place:     edit.Place(s.Spot),
		}
		sv.Name = fit(strconv.Itoa(s.Index+1)+" "+s.Drill.Name, b.W-12, 13)
		sv.Under = fit(whoAt(pic.Picture, s), b.W-12, 12)
		if s.Drill.Fire > 0 {
			fire := box(s.Fire(), "")
			sv.Fire = &fire
			sv.Arrow = arrow(b, s.Spot.Turn)
		}
		sv.Trouble = pic.Trouble(s.ID)
		v.Stations = append(v.Stations, sv)
	}
	for _, b := range pic.Blocks {
		courts := CourtsView{Block: b.ID}
		for n, s := range pic.CourtsOf(b) {
			courts.Boxes = append(courts.Boxes, box(s, strconv.Itoa(n+1)))
		}
		if len(courts.Boxes) > 0 {
			v.Courts = append(v.Courts, courts)
		}
	}
	v.bench(pic.Picture)
	v.tokens(pic.Picture)
	v.Caption = units.Area(f.Length, f.Width) + ", to scale"
	if walk := pic.Main().Longest; walk > 0 {
		v.Caption += fmt.Sprintf(
			" · longest walk at a change %s, about %s with settling",
			units.Long(math.Round(walk)),
			coach.Clock(work.ChangeFor(walk)),
		)
	}
	return v
}

// Floors are the floor as it is for each block of stations, to be printed: its stations, and where its groups begin.
// One without any, where the plan has no stations.
func Floors(pic check.Picture, units coach.Units) (out []FloorView) {
	all := Floor(pic, units)
	for i, c := range pic.Circuits {
		v := all
		v.Stations = slices.DeleteFunc(slices.Clone(v.Stations), func(s StationView) bool { return s.Circuit != i })
		v.Paths = slices.DeleteFunc(slices.Clone(v.Paths), func(p pathView) bool { return p.Circuit != i })
		v.Tokens = slices.DeleteFunc(
			slices.Clone(v.Tokens),
			func(t tokenView) bool { return !slices.Contains(t.Circuits, i) },
		)
		for j := range v.Tokens {
			if first := slices.IndexFunc(pic.Moments, func(m work.Moment) bool { return len(c.At) > 0 && m.Kind == "work" && m.Round == c.At[0]+1 }); first >= 0 {
				fmt.Sscanf(strings.Fields(v.Tokens[j].ByMoment)[first], "%g,%g", &v.Tokens[j].X, &v.Tokens[j].Y)
			}
		}
		out = append(out, v)
	}
	if len(out) == 0 {
		out = append(out, all)
	}
	return out
}

// arrow points out of a station in the direction of play.
func arrow(b BoxView, turn int) string {
	x, y := b.X+b.W/2, b.Y+b.H/2
	switch turn {
	case 90:
		return fmt.Sprintf("M%g %gl7 -9h-14z", x, b.Y+b.H+9)
	case 180:
		return fmt.Sprintf("M%g %gl9 -7v14z", b.X-9, y)
	case 270:
		return fmt.Sprintf("M%g %gl7 9h-14z", x, b.Y-9)
	}
	return fmt.Sprintf("M%g %gl-9 -7v14z", b.X+b.W+9, y)
}

func whoAt(pic work.Picture, s work.StationAt) string {
	if pic.Circuits[s.Circuit].Move {
		return "who comes with the group"
	}
	if s.Leader == nil {
		return s.Drill.Leader.String()
	}
	who := s.Leader.First()
	if s.Leader.Role == coach.RoleLead {
		who += " (lead)"
	}
	return who
}

// The bench is the edge of the floor where groups stand that are at no station: as wide as its dots.
const (
	dot     = 18.0 // from one player's dot to the next
	most    = 6    // of them side by side
	benched = 26.0 // a row on the bench of groups that stand in one line
	words   = 53.0 // what a station's name and leader take, and one line of players
)

// abreast is how many of a group's players stand side by side: as many as fit between the sides of each station that
// holds the whole group.
func (v *FloorView) abreast(g work.Group) int {
	n := most
	for _, station := range g.Route {
		if station < 0 {
			continue
		}
		s := v.Stations[station]
		if fit := max(2, int(s.W/dot)); s.H >= words+deep(g, fit) {
			n = min(n, fit)
		}
	}
	return max(1, min(n, len(g.Players)))
}

// deep is how far a group's last line of players stands below its first, with so many abreast.
func deep(g work.Group, abreast int) float64 {
	return float64(max(0, len(g.Players)-1)/abreast) * dot
}

// bench gives each group its place beside the floor, and the drawing the room for it.
func (v *FloorView) bench(pic work.Picture) {
	v.Edge = v.H
	x, top, bottom := 14.0, v.Edge, v.Edge
	deal := ""
	for _, g := range pic.Groups {
		w := float64(v.abreast(g))*dot + 14
		if g.Deal != deal { // another deal of the same players: they stand on the same bench
			x, top, bottom, deal = 14, v.Edge, v.Edge, g.Deal
		}
		if x+w > v.W {
			x, top = 14, bottom
		}
		v.Bench = append(v.Bench, [2]float64{math.Round(x + w/2), top + benched/2 - 4})
		x += w
		bottom = max(bottom, top+benched+deep(g, v.abreast(g)))
		v.H = max(v.H, bottom)
	}
}

// tokens places every group for every moment: at its station while it works and, at a change, already on the way to the
// next; on the bench otherwise.
func (v *FloorView) tokens(pic work.Picture) {
	for _, g := range pic.Groups {
		t := v.token(pic, g)
		var spots []string
		for _, m := range pic.Moments {
			at, moves := stationAt(pic, g, m)
			sx, sy := v.Bench[g.Index][0], v.Bench[g.Index][1]
			if moves {
				sx, sy = v.spot(pic, g, at)
			} else if g.Deal != pic.Groups[0].Deal { // its players stand in other groups then
				sx, sy = outside, outside
			}
			spots = append(spots, fmt.Sprintf("%g,%g", sx, sy))
		}
		t.ByMoment = strings.Join(spots, " ")
		t.X, t.Y = v.Bench[g.Index][0], v.Bench[g.Index][1]
		if len(g.Route) > 0 && g.Route[0] != work.NotIn {
			t.X, t.Y = v.spot(pic, g, g.Route[0])
		} else if g.Deal != pic.Groups[0].Deal {
			t.X, t.Y = outside, outside
		}
		v.Tokens = append(v.Tokens, t)
	}
	if len(v.Stations) > 1 {
		v.paths(pic)
	}
}

// token is a group's token with its players, not placed yet.
func (v *FloorView) token(pic work.Picture, g work.Group) tokenView {
	t := tokenView{Group: g.Index, Shape: g.Shape, Count: len(g.Players)}
	for i, c := range pic.Circuits {
		if c.Has(g) {
			t.Circuits = append(t.Circuits, i)
		}
	}
	var names []string
	abreast := v.abreast(g)
	half := float64(abreast-1) / 2
	for i, p := range g.Players {
		names = append(names, p.Name)
		t.Dots = append(t.Dots, [2]float64{(float64(i%abreast) - half) * dot, float64(i/abreast) * dot})
	}
	t.Names = strings.Join(names, ", ")
	return t
}

// spot is where a group's token stands at a station: under what is written in it, and where that fills it, below it.
// Groups that rest stand on the bench.
func (v *FloorView) spot(pic work.Picture, g work.Group, station int) (x, y float64) {
	switch {
	case station == work.NotIn:
		return outside, outside
	case station < 0:
		return v.Bench[g.Index][0], v.Bench[g.Index][1]
	}
	s := v.Stations[station]
	x = s.X + s.W/2
	deep := deep(g, v.abreast(g))
	if s.H >= words+deep {
		y = s.Y + min(s.H/2+16, s.H-9-deep)
	} else {
		y = s.Y + s.H + 11
	}
	if len(pic.Groups) > 0 && s.Double {
		y += float64(g.Index%2)*(22+deep) - 11
	}
	return math.Round(x), math.Round(y)
}

// paths are the ways from station to station, each drawn once.
func (v *FloorView) paths(pic work.Picture) {
	seen := map[[2]int]bool{}
	for _, g := range pic.Groups {
		for i := 1; i < len(g.Route); i++ {
			a, b := g.Route[i-1], g.Route[i]
			if a < 0 || b < 0 || pic.Stations[a].Circuit != pic.Stations[b].Circuit || seen[[2]int{a, b}] || a == b {
				continue
			}
			seen[[2]int{a, b}] = true
			s, t := v.Stations[a], v.Stations[b]
			v.Paths = append(
				v.Paths,
				pathView{s.X + s.W/2, s.Y + s.H/2, t.X + t.W/2, t.Y + t.H/2, g.Index, pic.Stations[a].Circuit},
			)
		}
	}
}

// outside is where a group is drawn whose players stand in other groups: beyond the drawing's edge.
const outside = -400

// stationAt is where a group is at a moment of the stations: at a change already on the way to the next, or NotIn.
// False at other moments.
func stationAt(pic work.Picture, g work.Group, m work.Moment) (station int, stations bool) {
	round := m.Round - 1
	switch m.Kind {
	case "work":
	case "change":
		if round+1 < len(g.Route) {
			round++
		}
	case "brief":
		round = pic.Blocks[m.Block].First
	default:
		return 0, false
	}
	return g.Route[round], true
}

// wrapped are words in at most so many lines of about a width, whole words where they fit; what does not is left out, and
// the last line says so.
func wrapped(s string, width, size float64, lines int) (out []string) {
	letters := int(width / (size * 0.53))
	for s != "" && len(out) < lines {
		at := 0 // the last place where the line can end
		for i, r := range []rune(s + " ") {
			if i > letters && at > 0 {
				break
			}
			if r == ' ' {
				at = i
			} else if r == '-' && i < letters {
				at = i + 1
			}
		}
		if len(out) == lines-1 || at > letters {
			at = len([]rune(s))
		}
		if line := fit(string([]rune(s)[:at]), width, size); line != "" {
			out = append(out, line)
		}
		s = strings.TrimSpace(string([]rune(s)[at:]))
	}
	return out
}

// fit shortens words to about a width, at a font size, both in the drawing's units.
func fit(s string, width, size float64) string {
	letters := int(width / (size * 0.53))
	runes := []rune(s)
	if len(runes) <= letters {
		return s
	}
	if letters < 3 {
		return ""
	}
	return strings.TrimRight(string(runes[:letters-1]), " ,") + "…"
}
