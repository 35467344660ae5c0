package sessions

import (
	"errors"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

type planView struct {
	Loaded
	Drills  []coach.Drill
	Members []store.Member
	When    string
	Until   string
	Floor   floorView
	Strip   stripView
	Problem string
	Retry   *plan.Edit // what was asked for on an older plan
	Kinds   []plan.Kind
	CanUndo string
}

// WorkTime is the length of a round.
func (v planView) WorkTime() string {
	return coach.Clock(time.Duration(v.Session.Plan.Work) * time.Second)
}

// ChangeBy is the change time moved by seconds; from then on it is set, not worked out.
func (v planView) ChangeBy(seconds int) int {
	return max(5, int(v.Picture.Change.Seconds())+seconds)
}

// Leads reports whether the member stands at the station.
func (v planView) Leads(s plan.StationAt, member string) bool {
	return s.Leader != nil && s.Leader.ID == member
}

// Sees writes the rounds in which the lead has a player.
func (v planView) Sees(r plan.Row) string {
	var out []string
	for _, n := range r.LeadSees {
		out = append(out, "r"+strconv.Itoa(n))
	}
	return strings.Join(out, " ")
}

// Others are the members who are not on the session.
func (v planView) Others() []store.Member {
	var out []store.Member
	for _, m := range v.Members {
		if !slices.ContainsFunc(v.Session.Leaders, func(l store.SessionLeader) bool { return l.Member == m.ID }) {
			out = append(out, m)
		}
	}
	return out
}

// Leaders says how many of each role lead: "2 coaches, 1 helper".
func (v planView) Leaders() string {
	coaches, helpers := 0, 0
	for _, l := range v.Session.Leaders {
		if l.Role == "helper" {
			helpers++
		} else {
			coaches++
		}
	}
	var out []string
	if coaches > 0 {
		out = append(out, coach.Plural(coaches, "coach"))
	}
	if helpers > 0 {
		out = append(out, coach.Plural(helpers, "helper"))
	}
	return strings.Join(out, ", ")
}

// At is a moment of the plan as the clock on the wall shows it.
func (v planView) At(d time.Duration) string { return v.Picture.Start.Add(d).Format("15:04") }

// Step is a figure moved by a step, for the buttons beside it.
func (v planView) Step(seconds, by int) int { return seconds + by }

func planPage(c *shell.Ctx) error {
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "plan.html", v.Session.ClassName, v)
}

func viewOf(c *shell.Ctx) (v planView, err error) {
	err = c.In(func(tx *store.Tx) (err error) {
		if v.Loaded, err = Load(c.Ctx(), tx, c.Param("id"), c.Now, c.Loc); err != nil {
			return err
		}
		if v.Drills, err = tx.Drills(c.Ctx()); err != nil {
			return err
		}
		if v.Members, err = tx.Members(c.Ctx()); err != nil {
			return err
		}
		_, v.CanUndo, err = tx.LastChange(c.Ctx(), v.Session.ID)
		return err
	})
	v.draw()
	return v, err
}

func (v *planView) draw() {
	v.Kinds = slices.DeleteFunc(slices.Clone(plan.Kinds), func(k plan.Kind) bool { return k == plan.Circuit })
	start := v.Picture.Start
	v.When = start.Format("Mon 2 Jan · 15:04")
	v.Until = start.Add(v.Picture.Booked).Format("15:04")
	v.Floor = drawFloor(v.Picture)
	v.Strip = drawStrip(v.Picture)
}

// edit makes one change to the plan and answers with the three views as they are then.
func edit(c *shell.Ctx) error {
	f := shell.NewForm(c)
	at, _ := strconv.Atoi(f.Get("at"))
	version, _ := strconv.Atoi(f.Get("version"))
	e := plan.Edit{Do: f.Get("do"), At: at, Value: f.Get("value")}
	var problem string
	err := c.Change(c.Param("id"), "Plan: "+words(e), func(tx *store.Tx) error {
		l, err := Load(c.Ctx(), tx, c.Param("id"), c.Now, c.Loc)
		if err != nil {
			return err
		}
		if l.Session.Version != version {
			return store.ErrChangedSince
		}
		next, redeal, err := l.Session.Plan.Apply(e)
		if err != nil {
			return err
		}
		if next, err = known(c, tx, next); err != nil {
			return err
		}
		if redeal {
			if err := l.levels(c.Ctx(), tx, c.Now); err != nil {
				return err
			}
			if err := next.DealOut(l.Input.Players); err != nil {
				return err
			}
		}
		return tx.SetPlan(c.Ctx(), l.Session.ID, version, next, c.Member.ID, c.Now)
	})
	var in *plan.ErrInput
	var clash *deal.Clash
	clashed := errors.Is(err, store.ErrChangedSince)
	switch {
	case errors.As(err, &in):
		problem = in.Says
	case errors.As(err, &clash):
		problem = clash.Why
	case err != nil && !clashed:
		return err
	}
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	v.Problem = problem
	if clashed {
		v.Retry = &e
		v.Problem = fmt.Sprintf("%s changed this plan a moment ago; below is how it stands now. You wanted: %s.", or(v.Session.ChangedBy, "Somebody"), words(e))
	}
	return answer(c, v)
}

func answer(c *shell.Ctx, v planView) error {
	if c.GetHeader("HX-Request") == "" { // without scripts the whole page comes back
		if v.Problem == "" {
			return c.To("/sessions/" + v.Session.ID)
		}
		return c.Page(pages, http.StatusUnprocessableEntity, "plan.html", v.Session.ClassName, v)
	}
	return c.Part(pages, "plan", v)
}

func or(s, other string) string {
	if s == "" {
		return other
	}
	return s
}

// known checks that every station's drill is on the shelf.
func known(c *shell.Ctx, tx *store.Tx, p plan.Plan) (plan.Plan, error) {
	for _, s := range p.Stations {
		if !store.IsID(s.Drill) {
			return p, &plan.ErrInput{Field: "drill", Says: "Choose a drill from the shelf."}
		}
	}
	drills, err := tx.PlanDrills(c.Ctx(), p)
	if err != nil {
		return p, err
	}
	for _, s := range p.Stations {
		if _, ok := drills[s.Drill]; !ok {
			return p, &plan.ErrInput{Field: "drill", Says: "That drill is not on the shelf."}
		}
	}
	return p, nil
}

// words says an edit the way the undo offer does.
func words(e plan.Edit) string {
	n := strconv.Itoa(e.At + 1)
	seconds := func() string {
		s, _ := strconv.Atoi(e.Value)
		return coach.Clock(time.Duration(s) * time.Second)
	}
	switch e.Do {
	case "work":
		return "rounds of " + seconds()
	case "change":
		if e.Value == "0" {
			return "change time worked out"
		}
		return "change of " + seconds()
	case "brief":
		return "explain for " + seconds()
	case "rounds":
		return e.Value + " rounds"
	case "groups":
		return e.Value + " groups"
	case "way":
		return "groups " + deal.Way(e.Value).String()
	case "deal":
		return "dealt again"
	case "redeal":
		return "everyone dealt in"
	case "key":
		return "key " + e.Value
	case "add-station":
		return "a station more"
	case "drop-station":
		return "station " + n + " out"
	case "drill":
		return "another drill at station " + n
	case "leader":
		return "leader of station " + n
	case "target":
		return "target " + e.Value + " at station " + n
	case "minutes":
		return "block " + n + " to " + e.Value + " min"
	case "add-block":
		return "a block more"
	case "drop-block":
		return "block " + n + " out"
	case "move-block":
		return "block " + n + " moved"
	}
	return "block " + n + " changed"
}

func undo(c *shell.Ctx) error {
	v := planView{}
	var id string
	err := c.In(func(tx *store.Tx) (err error) {
		if !store.IsID(c.Param("id")) {
			return store.ErrNone
		}
		id, _, err = tx.LastChange(c.Ctx(), c.Param("id"))
		return err
	})
	if err != nil {
		return err
	}
	problem := ""
	if id == "" {
		problem = "There is nothing to take back."
	} else if _, err := c.S.Store.Undo(c.Ctx(), c.Club.ID, "", id); errors.Is(err, store.ErrChangedSince) {
		problem = "That was changed again since, so it cannot be taken back by itself."
	} else if err != nil {
		return err
	} else if err := c.In(func(tx *store.Tx) error { return tx.Tell(c.Ctx(), c.Param("id"), "plan") }); err != nil {
		return err
	}
	if v, err = viewOf(c); err != nil {
		return err
	}
	v.Problem = problem
	return answer(c, v)
}

// coming says that a player stays away, or comes after all.
func coming(c *shell.Ctx) error {
	f := shell.NewForm(c)
	state, says := "", "coming after all"
	if f.Get("away") != "" {
		state, says = "away", "stays away"
	}
	if !store.IsID(f.Get("player")) || !store.IsID(c.Param("id")) {
		return store.ErrNone
	}
	err := c.Change(c.Param("id"), or(f.Get("name"), "Player")+" "+says, func(tx *store.Tx) error {
		if _, err := tx.Session(c.Ctx(), c.Param("id")); err != nil {
			return err
		}
		if err := tx.SetAttendance(c.Ctx(), c.Param("id"), f.Get("player"), state, c.Member.ID, c.Now); err != nil {
			return err
		}
		return tx.Tell(c.Ctx(), c.Param("id"), "plan")
	})
	if err != nil {
		return err
	}
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	return answer(c, v)
}

func leader(c *shell.Ctx) error {
	f := shell.NewForm(c)
	l := store.SessionLeader{Member: f.Get("member")}
	if !store.IsID(l.Member) || !store.IsID(c.Param("id")) {
		return store.ErrNone
	}
	if f.Get("until") != "" {
		l.Until = f.Int("until", 0, 480, "Leaves after how many minutes")
	}
	problem := f.Errors["until"]
	if problem == "" {
		err := c.Change(c.Param("id"), "Changed who leads", func(tx *store.Tx) error {
			if _, err := tx.Session(c.Ctx(), c.Param("id")); err != nil {
				return err
			}
			return tx.SetSessionLeader(c.Ctx(), c.Param("id"), l, f.Get("off") == "")
		})
		if err != nil {
			return err
		}
	}
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	v.Problem = problem
	return answer(c, v)
}

func printPage(c *shell.Ctx) error {
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	return c.Bare(pages, http.StatusOK, "print.html", v.Session.ClassName, v)
}

// floorView is the floor drawn in units of about a pixel at 1280 × 800.
type floorView struct {
	W, H     float64
	Lines    []lineView
	Stations []stationView
	Tokens   []tokenView
	Paths    []pathView
	Caption  string
}

type lineView struct {
	D      string
	Dashed bool
}

type stationView struct {
	plan.StationAt
	X, Y, W, H float64
	Name       string
	Under      string
}

type tokenView struct {
	Group   int
	Shape   plan.Shape
	Names   string
	Count   int
	Dots    [][2]float64 // offsets from the group's spot
	X, Y    float64
	ByRound string // "x,y x,y …" for each round
}

type pathView struct{ X1, Y1, X2, Y2 float64 }

func drawFloor(pic plan.Picture) floorView {
	f := pic.Floor
	k := math.Min(640/f.Length, 330/f.Width)
	const margin = 12
	v := floorView{W: f.Length*k + 2*margin, H: f.Width*k + 2*margin}
	at := func(m float64) float64 { return math.Round((m*k+margin)*10) / 10 }
	for _, l := range f.Lines {
		if l.Arc {
			sweep := 0
			if l.Sweep {
				sweep = 1
			}
			v.Lines = append(v.Lines, lineView{fmt.Sprintf("M%g %gA%g %g 0 0 %d %g %g", at(l.X1), at(l.Y1), l.Radius*k, l.Radius*k, sweep, at(l.X2), at(l.Y2)), l.Dashed})
			continue
		}
		v.Lines = append(v.Lines, lineView{fmt.Sprintf("M%g %gL%g %g", at(l.X1), at(l.Y1), at(l.X2), at(l.Y2)), l.Dashed})
	}
	for _, s := range pic.Stations {
		sv := stationView{StationAt: s, X: at(s.Spot.X), Y: at(s.Spot.Y), W: s.Spot.Length * k, H: s.Spot.Width * k}
		sv.Name = fit(strconv.Itoa(s.Index+1)+" "+s.Drill.Name, sv.W-12, 13)
		who := s.Drill.Leader.String()
		if s.Leader != nil {
			who = first(s.Leader.Name)
			if s.Leader.Role == coach.RoleLead {
				who += " (lead)"
			}
		}
		sv.Under = fit(who, sv.W-12, 12)
		v.Stations = append(v.Stations, sv)
	}
	spot := func(station, group int) (x, y float64) {
		if station < 0 { // resting groups stand along the bottom edge
			return 30 + float64(group)*70, v.H - 24
		}
		s := v.Stations[station]
		return math.Round(s.X + s.W/2), math.Round(s.Y + s.H/2 + 6)
	}
	for _, g := range pic.Groups {
		t := tokenView{Group: g.Index, Shape: g.Shape, Count: len(g.Players)}
		var names []string
		for _, p := range g.Players {
			names = append(names, p.Name)
		}
		t.Names = coach.List(names)
		per := 5
		for i := range g.Players {
			row, inRow := i/per, min(per, len(g.Players)-i/per*per)
			t.Dots = append(t.Dots, [2]float64{float64(i%per)*19 - float64(inRow-1)*9.5, float64(row)*19 - float64((len(g.Players)-1)/per)*9.5})
		}
		var spots []string
		for _, s := range g.Route {
			x, y := spot(s, g.Index)
			spots = append(spots, fmt.Sprintf("%g,%g", x, y))
		}
		if len(g.Route) == 0 {
			x, y := spot(-1, g.Index)
			t.X, t.Y = x, y
		} else {
			t.X, t.Y = spot(g.Route[0], g.Index)
		}
		t.ByRound = strings.Join(spots, " ")
		v.Tokens = append(v.Tokens, t)
	}
	if len(pic.Groups) > 0 && len(v.Stations) > 1 {
		seen := map[[2]int]bool{}
		for _, g := range pic.Groups {
			r := g.Route
			for i := 1; i < len(r); i++ {
				a, b := r[i-1], r[i]
				if a < 0 || b < 0 || seen[[2]int{a, b}] {
					continue
				}
				seen[[2]int{a, b}] = true
				x1, y1 := spot(a, 0)
				x2, y2 := spot(b, 0)
				v.Paths = append(v.Paths, pathView{x1, y1, x2, y2})
			}
		}
	}
	v.Caption = fmt.Sprintf("%s × %s m, to scale", coach.Figure(f.Length), coach.Figure(f.Width))
	if pic.Longest > 0 {
		v.Caption += fmt.Sprintf(" · longest walk at a change %.0f m, about %s with settling", pic.Longest, coach.Clock(plan.ChangeFor(pic.Longest)))
	}
	return v
}

// stripView is the session's clock as a drawing.
type stripView struct {
	W, H     float64
	Ticks    []tickView
	Blocks   []barView
	Rows     []rowView
	Wall     float64 // where the booked time ends
	WallAt   string
	Beyond   float64 // how wide what stands beyond the wall is
	RoundsAt []barView
}

type tickView struct {
	X     float64
	Label string
}

type barView struct {
	X, Y, W      float64
	Title, Under string
	Full         string
	Index        int // block or round
	Kind         string
	Minutes      int
	Group        int
	IsOver       bool
}

type rowView struct {
	Y     float64
	Shape plan.Shape
	Group int
	Bars  []barView
}

func drawStrip(pic plan.Picture) stripView {
	const left, right, top, rowH = 104.0, 1064.0, 26.0, 38.0
	long := max(pic.Total, pic.Booked, 10*time.Minute)
	k := (right - left) / long.Minutes()
	x := func(d time.Duration) float64 { return math.Round((left+d.Minutes()*k)*10) / 10 }
	v := stripView{W: right + 16, H: top + 44 + float64(max(1, len(pic.Groups)))*rowH + 8}
	step := 10 * time.Minute
	if long > 3*time.Hour {
		step = 30 * time.Minute
	}
	for t := time.Duration(0); t <= long; t += step {
		v.Ticks = append(v.Ticks, tickView{x(t), pic.Start.Add(t).Format("15:04")})
	}
	v.Wall, v.WallAt = x(pic.Booked), pic.Start.Add(pic.Booked).Format("15:04")
	v.Beyond = math.Max(0, x(pic.Total)-v.Wall)
	for _, b := range pic.Blocks {
		w := x(b.To) - x(b.From) - 3
		bar := barView{X: x(b.From), Y: top + 6, W: math.Max(w, 4), Index: b.Index, Kind: string(b.Kind), Minutes: int(b.To.Minutes()) - int(b.From.Minutes()),
			Title: fit(b.Title, w-10, 12.5), Under: fit(coach.Minutes(b.To-b.From), w-10, 11), Full: fmt.Sprintf("%s, %s, %s to %s", b.Title, coach.Minutes(b.To-b.From), pic.Start.Add(b.From).Format("15:04"), pic.Start.Add(b.To).Format("15:04")),
			IsOver: b.To > pic.Booked}
		if b.Kind == plan.OneKey && pic.Plan.Key != "" {
			bar.Under = fit(pic.Plan.Key, w-10, 11)
		}
		v.Blocks = append(v.Blocks, bar)
	}
	for _, r := range pic.Rounds {
		v.RoundsAt = append(v.RoundsAt, barView{X: x(r.From), W: x(r.To) - x(r.From), Index: r.Number - 1, Title: fmt.Sprintf("Round %d, %s to %s", r.Number, pic.Start.Add(r.From).Format("15:04"), pic.Start.Add(r.To).Format("15:04"))})
	}
	for i, g := range pic.Groups {
		row := rowView{Y: top + 50 + float64(i)*rowH, Shape: g.Shape, Group: g.Index}
		for r, s := range g.Route {
			w := x(pic.Rounds[r].To) - x(pic.Rounds[r].From)
			bar := barView{X: x(pic.Rounds[r].From), Y: row.Y, W: w, Index: r, Group: g.Index, Title: "rests"}
			if s >= 0 {
				name := pic.Stations[s].Drill.Name
				bar.Title = fit(strconv.Itoa(s+1)+" "+name, w-14, 10.6)
				bar.Full = fmt.Sprintf("Round %d: %s at %d %s", r+1, g.Shape.Name, s+1, name)
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
	return strings.TrimRight(string(runes[:letters-1]), " ") + "…"
}

func first(name string) string {
	f, _, _ := strings.Cut(name, " ")
	return f
}

// Length is how long a block takes.
func (v planView) Length(s plan.Span) time.Duration { return s.To - s.From }
