package sessions

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan"
	"gruppo/internal/coach/target"
)

// floorView is the floor drawn in units of about a pixel at 1280 × 800.
type floorView struct {
	W, H         float64
	Scale        float64 // units a metre
	Margin       float64
	Lines        []lineView
	Blocked      []boxView
	Use          *boxView // the zone that is booked
	Stations     []stationView
	Tokens       []tokenView
	Paths        []pathView
	Caption      string
	SnapX, SnapY string // where court lines run, in metres
}

type lineView struct {
	D      string
	Dashed bool
}

type boxView struct {
	X, Y, W, H float64
	Name       string
}

type stationView struct {
	plan.StationAt
	boxView
	Clear   boxView  // with its clearance
	Fire    *boxView // where balls fly on
	Arrow   string   // the direction of play, where balls fly
	Under   string
	Trouble bool
	Place   string // in metres, as the edit takes it
}

type tokenView struct {
	Group    int
	Shape    plan.Shape
	Names    string
	Count    int
	Dots     [][2]float64 // offsets from the group's spot
	X, Y     float64
	ByMoment string // "x,y x,y …" for each moment
}

type pathView struct {
	X1, Y1, X2, Y2 float64
	Group          int
}

func drawFloor(pic plan.Picture, units coach.Units) floorView {
	f := pic.Floor
	const margin = 12
	k := math.Min(640/f.Length, 330/f.Width)
	v := floorView{W: f.Length*k + 2*margin, H: f.Width*k + 2*margin, Scale: k, Margin: margin}
	at := func(m float64) float64 { return math.Round((m*k+margin)*10) / 10 }
	box := func(s floor.Spot, name string) boxView {
		return boxView{at(s.X), at(s.Y), math.Round(s.Length*k*10) / 10, math.Round(s.Width*k*10) / 10, name}
	}
	var xs, ys []string
	for _, l := range f.Lines {
		if l.Arc {
			sweep := 0
			if l.Sweep {
				sweep = 1
			}
			v.Lines = append(v.Lines, lineView{fmt.Sprintf("M%g %gA%g %g 0 0 %d %g %g", at(l.X1), at(l.Y1), l.Radius*k, l.Radius*k, sweep, at(l.X2), at(l.Y2)), l.Dashed})
			continue
		}
		if l.X1 == l.X2 {
			xs = append(xs, coach.Figure(l.X1))
		} else if l.Y1 == l.Y2 {
			ys = append(ys, coach.Figure(l.Y1))
		}
		v.Lines = append(v.Lines, lineView{fmt.Sprintf("M%g %gL%g %g", at(l.X1), at(l.Y1), at(l.X2), at(l.Y2)), l.Dashed})
	}
	v.SnapX, v.SnapY = strings.Join(xs, " "), strings.Join(ys, " ")
	for _, b := range f.Blocked {
		v.Blocked = append(v.Blocked, box(floor.Spot{X: b.X, Y: b.Y, Length: b.Length, Width: b.Width}, b.Name))
	}
	if f.Use.Length > 0 {
		b := box(f.Inside(), f.Use.Name)
		v.Use = &b
	}
	for _, s := range pic.Stations {
		b := box(s.Spot, "")
		sv := stationView{StationAt: s, boxView: b, Clear: box(s.Spot.Grown(s.Drill.Clearance), ""), Place: fmt.Sprintf("%g %g %d %g %g", s.Spot.X, s.Spot.Y, s.Spot.Turn, s.Spot.Length, s.Spot.Width)}
		sv.Name = fit(strconv.Itoa(s.Index+1)+" "+s.Drill.Name, b.W-12, 13)
		sv.Under = fit(whoAt(pic, s), b.W-12, 12)
		if s.Drill.Fire > 0 {
			fire := box(s.Fire(), "")
			sv.Fire = &fire
			sv.Arrow = arrow(b, s.Spot.Turn)
		}
		where := fmt.Sprintf("Station %d", s.Index+1)
		sv.Trouble = slices.ContainsFunc(pic.Findings, func(f plan.Finding) bool { return f.Where == where && f.Weight != plan.Note })
		v.Stations = append(v.Stations, sv)
	}
	v.tokens(pic)
	v.Caption = units.Area(f.Length, f.Width) + ", to scale"
	if pic.Longest > 0 {
		v.Caption += fmt.Sprintf(" · longest walk at a change %s, about %s with settling", units.Long(math.Round(pic.Longest)), coach.Clock(plan.ChangeFor(pic.Longest)))
	}
	return v
}

// arrow points out of a station in the direction of play.
func arrow(b boxView, turn int) string {
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

func whoAt(pic plan.Picture, s plan.StationAt) string {
	if pic.Plan.Move {
		return "who comes with the group"
	}
	if s.Leader == nil {
		return s.Drill.Leader.String()
	}
	who := first(s.Leader.Name)
	if s.Leader.Role == coach.RoleLead {
		who += " (lead)"
	}
	return who
}

// tokens places every group for every moment: at its station while it works and, at a change, already on the way to the next;
// all together in the middle of the floor otherwise.
func (v *floorView) tokens(pic plan.Picture) {
	in := pic.Floor.Inside()
	cx, cy := (in.X+in.Length/2)*v.Scale+v.Margin, (in.Y+in.Width/2)*v.Scale+v.Margin
	spot := func(station, group int) (x, y float64) {
		if station < 0 { // resting groups stand along the bottom edge
			return 30 + float64(group)*70, v.H - 24
		}
		s := v.Stations[station]
		x = s.X + s.W/2
		switch { // under what is written in it, and where that fills it, below it
		case s.H > 70:
			y = s.Y + s.H/2 + 16
		case s.H > 56:
			y = s.Y + s.H - 12
		default:
			y = s.Y + s.H + 11
		}
		if len(pic.Groups) > 0 && s.Double {
			y += float64(group%2)*22 - 11
		}
		return math.Round(x), math.Round(y)
	}
	n := len(pic.Groups)
	cols := int(math.Ceil(math.Sqrt(float64(n))))
	for _, g := range pic.Groups {
		t := tokenView{Group: g.Index, Shape: g.Shape, Count: len(g.Players)}
		var names []string
		for i, p := range g.Players {
			names = append(names, p.Name)
			t.Dots = append(t.Dots, [2]float64{(float64(i%6) - float64(min(len(g.Players), 6)-1)/2) * 18, float64(i/6) * 18})
		}
		t.Names = strings.Join(names, ", ")
		var spots []string
		for _, m := range pic.Moments {
			var x, y float64
			switch {
			case m.Kind == "work":
				x, y = spot(g.Route[m.Round-1], g.Index)
			case m.Kind == "change" && m.Round < len(g.Route):
				x, y = spot(g.Route[m.Round], g.Index)
			case m.Kind == "brief" && len(g.Route) > 0:
				x, y = spot(g.Route[0], g.Index)
			default:
				x = math.Round(cx + (float64(g.Index%cols)-float64(cols-1)/2)*130)
				y = math.Round(cy + (float64(g.Index/cols)-float64((n-1)/cols)/2)*44)
			}
			spots = append(spots, fmt.Sprintf("%g,%g", x, y))
		}
		t.ByMoment = strings.Join(spots, " ")
		if len(g.Route) > 0 {
			t.X, t.Y = spot(g.Route[0], g.Index)
		} else {
			t.X, t.Y = cx, cy
		}
		v.Tokens = append(v.Tokens, t)
	}
	if len(v.Stations) < 2 {
		return
	}
	seen := map[[2]int]bool{}
	for _, g := range pic.Groups {
		for i := 1; i < len(g.Route); i++ {
			a, b := g.Route[i-1], g.Route[i]
			if a < 0 || b < 0 || seen[[2]int{a, b}] || a == b {
				continue
			}
			seen[[2]int{a, b}] = true
			s, t := v.Stations[a], v.Stations[b]
			v.Paths = append(v.Paths, pathView{s.X + s.W/2, s.Y + s.H/2, t.X + t.W/2, t.Y + t.H/2, g.Index})
		}
	}
}

// stripView is the session's clock as a drawing.
type stripView struct {
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
	Index        int // block, round or moment
	Kind         string
	Minutes      int
	Group        int
	IsOver       bool
	Pinned       bool
	Round        int
}

type rowView struct {
	Y     float64
	Shape plan.Shape
	Group int
	Bars  []barView
}

func drawStrip(pic plan.Picture) stripView {
	const left, right, top = 104.0, 1064.0, 26.0
	rowH := 34.0
	if len(pic.Groups) > 4 {
		rowH = 29
	}
	long := max(pic.Total, pic.Booked, 10*time.Minute)
	k := (right - left) / long.Minutes()
	x := func(d time.Duration) float64 { return math.Round((left+d.Minutes()*k)*10) / 10 }
	v := stripView{W: right + 16, H: top + 46 + float64(max(1, len(pic.Groups)))*rowH + 4, Left: left, PerMin: math.Round(k*1000) / 1000, BoxH: rowH - 6}
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
		bar := barView{X: x(b.From), Y: top + 6, W: w, Index: b.Index, Kind: string(b.Kind), Minutes: b.Minutes, Pinned: b.Pinned,
			Title: fit(b.Title, w-10, 12.5), Full: fmt.Sprintf("%s, %s, %s to %s", b.Title, coach.Minutes(b.To-b.From), pic.Start.Add(b.From).Format("15:04"), pic.Start.Add(b.To).Format("15:04")),
			IsOver: b.To > pic.Booked}
		under := coach.Minutes(b.To - b.From)
		switch {
		case b.Kind == plan.OneKey && pic.Plan.Key != "":
			under = pic.Plan.Key
		case b.Task != nil && b.Kind != plan.Circuit:
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
		v.Moments = append(v.Moments, barView{X: x(m.From), W: x(m.To) - x(m.From), Index: i, Kind: m.Kind, Round: m.Round, Title: fmt.Sprintf("%s, %s", pic.Start.Add(m.From).Format("15:04"), m.Label)})
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
			w := x(pic.Rounds[r].To) - x(pic.Rounds[r].From)
			bar := barView{X: x(pic.Rounds[r].From), Y: row.Y, W: w, Index: moment[r+1], Round: r + 1, Group: g.Index, Title: fit("rests", w-14, 10.6), Full: fmt.Sprintf("Round %d: %s rest", r+1, g.Shape.Name)}
			if s >= 0 {
				name := pic.Stations[s].Drill.Name
				bar.Title = fit(strconv.Itoa(s+1)+" "+name, w-14, 10.6)
				bar.Full = fmt.Sprintf("Round %d: %s at %d %s", r+1, g.Shape.Name, s+1, name)
				if va := pic.Stations[s].VariantFor(pic.Stations[s].Drill, g.Index, g.Stage); va != nil {
					bar.Full += ", " + va.Name
				}
			}
			row.Bars = append(row.Bars, bar)
		}
		v.Rows = append(v.Rows, row)
	}
	return v
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

// reach says what a station's target means for these players, and where their chances come from.
func (v planView) reach(s plan.StationAt) (says, from string) {
	var chances []float64
	low, high := 1.0, 0.0
	count := map[string]int{}
	for _, g := range v.Picture.Groups {
		for _, p := range g.Players {
			r, f := v.Input.Chance(p, s.Drill)
			chances = append(chances, r.P)
			low, high = min(low, r.Low), max(high, r.High)
			count[f]++
		}
	}
	if len(chances) == 0 || s.Drill.TrySeconds <= 0 || s.Target.Kind == "" || s.Target.Kind == coach.InATime {
		return "", ""
	}
	most := ""
	for f, n := range count {
		if n > count[most] || n == count[most] && f < most {
			most = f
		}
	}
	mid := 0.0
	for _, p := range chances {
		mid += p / float64(len(chances))
	}
	from = fmt.Sprintf("%.0f in 10 are good, between %.0f and %.0f: %s", mid*10, low*10, high*10, most)
	try, fetch := time.Duration(s.Drill.TrySeconds*float64(time.Second)), time.Duration(s.Drill.Fetch*float64(time.Second))
	own := v.Picture.OwnTime(s)
	if s.Target.Kind == coach.Race {
		against := s.Target.Against
		if against == 0 {
			against = s.Target.N
		}
		r := target.Race{To: s.Target.N, Against: against}
		return fmt.Sprintf("about %.0f points; even when %.0f in 100 points go to the first side", r.Points(r.Even()), r.Even()*100), ""
	}
	chain, ok := target.For(s.Target, math.Round(mid*50)/50)
	if !ok {
		return "", from
	}
	tries, err := chain.Tries()
	if err != nil {
		return "", from
	}
	by := chain.By(try, fetch, 0.5, 0.8, 0.95)
	share := target.Reach(s.Target, chances, own, try, fetch)
	says = fmt.Sprintf("about %.0f tries; %.0f in 100 get there in the %s each has", tries, share*100, coach.Clock(own))
	if by[1] > 0 {
		says += fmt.Sprintf(". Half are done by %s, four in five by %s", coach.Clock(by[0]), coach.Clock(by[1]))
		if by[2] > 0 {
			says += ", nearly all by " + coach.Clock(by[2])
		}
	}
	return says + ".", from
}
