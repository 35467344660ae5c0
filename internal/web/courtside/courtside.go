// Package courtside is the phone in the hall: register, clock, who is where, and the pads.
package courtside

import (
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/plan"
	"gruppo/internal/store"
	"gruppo/internal/web/sessions"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Sessions", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/courtside/:id", Needs: shell.RunSession, Handle: page},
	{Method: "GET", Path: "/courtside/:id/state", Needs: shell.RunSession, Handle: stateJSON},
	{Method: "GET", Path: "/courtside/:id/live", Needs: shell.RunSession, Handle: live},
	{Method: "POST", Path: "/courtside/:id/clock", Needs: shell.RunSession, Handle: clock},
	{Method: "POST", Path: "/courtside/:id/form", Needs: shell.RunSession, Handle: eased},
	{Method: "POST", Path: "/courtside/:id/inbox", Needs: shell.RunSession, Handle: inbox},
}

// state is everything the phone needs to go on by itself. Times are milliseconds since 1970.
type state struct {
	Now       int64         `json:"now"`
	Session   string        `json:"session"`
	Name      string        `json:"name"`
	When      string        `json:"when"`
	Key       string        `json:"key"`
	Zone      string        `json:"zone"`
	Me        me            `json:"me"`
	Started   bool          `json:"started"`
	Ended     bool          `json:"ended"`
	PausedAt  int64         `json:"pausedAt"`
	Bounds    []int64       `json:"bounds"`
	Segments  []segment     `json:"segments"`
	Stations  []station     `json:"stations"`
	Groups    []group       `json:"groups"`
	Players   []player      `json:"players"`
	Criteria  []criterion   `json:"criteria"`
	Tallies   []store.Tally `json:"tallies"`
	Marks     []mark        `json:"marks"`
	MayRunIt  bool          `json:"mayRun"`
	BookedEnd int64         `json:"bookedEnd"`
}

type me struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Role string `json:"role"`
}

type segment struct {
	Kind    string `json:"kind"`
	Label   string `json:"label"`
	Round   int    `json:"round"`
	Seconds int    `json:"seconds"`
}

type station struct {
	Name     string   `json:"name"`
	Drill    string   `json:"drill"`
	Setup    string   `json:"setup"`
	Target   string   `json:"target"`
	Kind     string   `json:"kind"`
	N        int      `json:"n"`
	Keys     []string `json:"keys"`
	Cautions []string `json:"cautions"`
	Skills   []string `json:"skills"`
	Leader   string   `json:"leader"`
	Who      string   `json:"who"`
	Visits   []int    `json:"visits"`
	Forms    []form   `json:"forms"` // what each group does here
}

// form is the form of a drill that a group does, and whether there is an easier or harder one.
type form struct {
	Name   string `json:"name"`
	Says   string `json:"says"`
	Easier bool   `json:"easier"`
	Harder bool   `json:"harder"`
}

type group struct {
	Shape   string   `json:"shape"`
	Name    string   `json:"name"`
	Path    string   `json:"path"`
	Players []string `json:"players"`
	Route   []int    `json:"route"`
}

type player struct {
	ID     string   `json:"id"`
	Name   string   `json:"name"`
	Stage  string   `json:"stage"`
	StName string   `json:"stageName"`
	Limits []string `json:"limits"`
	Said   string   `json:"said"`
}

type criterion struct {
	ID       string   `json:"id"`
	Stage    string   `json:"stage"`
	Wording  string   `json:"wording"`
	Skill    string   `json:"skill"`
	Measure  string   `json:"measure"`
	Standard string   `json:"standard"`
	Want     float64  `json:"want"`
	Of       float64  `json:"of"`
	Points   []string `json:"points"`
	Sides    bool     `json:"sides"`
}

type mark struct {
	ID        string `json:"id"`
	Player    string `json:"player"`
	Criterion string `json:"criterion"`
	Drill     string `json:"drill"`
	Side      string `json:"side"`
	Said      string `json:"said"`
	Meets     bool   `json:"meets"`
	By        string `json:"by"`
	ByName    string `json:"byName"`
	Struck    bool   `json:"struck"`
}

// mine loads the session if the member may be courtside there: a helper only where they are on it.
func mine(c *shell.Ctx, tx *store.Tx) (sessions.Loaded, error) {
	l, err := sessions.LoadRunning(c.Ctx(), tx, c.Param("id"), c.Now, c.Loc)
	if err != nil {
		return l, err
	}
	return l, admitted(c, l.Session)
}

func admitted(c *shell.Ctx, s store.Session) error {
	on := slices.ContainsFunc(s.Leaders, func(m store.SessionLeader) bool { return m.Member == c.Member.ID })
	if c.Member.Role == "helper" && !on {
		return &shell.Problem{Status: http.StatusForbidden, Says: "You are not on this session. Ask its lead to add you."}
	}
	return nil
}

func read(c *shell.Ctx) (st state, err error) {
	err = c.In(func(tx *store.Tx) error {
		l, err := mine(c, tx)
		if err != nil {
			return err
		}
		events, err := tx.Events(c.Ctx(), l.Session.ID)
		if err != nil {
			return err
		}
		marks, err := tx.Marks(c.Ctx(), store.MarkFilter{Session: l.Session.ID})
		if err != nil {
			return err
		}
		if st.Tallies, err = tx.Tallies(c.Ctx(), l.Session.ID); err != nil {
			return err
		}
		st.fill(c, l, events, marks)
		return nil
	})
	return st, err
}

func ms(t time.Time) int64 {
	if t.IsZero() {
		return 0
	}
	return t.UnixMilli()
}

func (st *state) fill(c *shell.Ctx, l sessions.Loaded, events []plan.Event, marks []coach.Mark) {
	pic := l.Picture
	st.Now, st.Session, st.Name, st.Key, st.Zone = ms(c.S.Now()), l.Session.ID, l.Session.ClassName, pic.Plan.Key, c.Loc.String()
	st.When = pic.Start.Format("Mon 2 Jan, 15:04")
	st.BookedEnd = ms(l.Session.Ends())
	st.Me = me{c.Member.ID, c.Member.Name, c.Member.Role}
	st.MayRunIt = c.Member.Role != "helper"
	segments := pic.Segments()
	for _, s := range segments {
		st.Segments = append(st.Segments, segment{s.Kind, s.Label, s.Round, int(s.Duration.Seconds())})
	}
	t := plan.Fold(segments, events)
	st.Started, st.Ended, st.PausedAt = t.Started, t.Ended, ms(t.PausedAt)
	for _, b := range t.Bounds {
		st.Bounds = append(st.Bounds, ms(b))
	}
	for _, s := range pic.Stations {
		v := station{Name: s.Drill.Name, Drill: s.Drill.ID, Setup: s.Drill.Setup, Target: s.Target.String(), Kind: string(s.Target.Kind), N: s.Target.N, Keys: s.Drill.Keys, Cautions: s.Drill.Cautions,
			Skills: s.Drill.Skills, Visits: s.Visits}
		if s.Leader != nil {
			v.Leader, v.Who = s.Leader.ID, s.Leader.Name
		}
		for _, g := range pic.Groups {
			f := form{}
			if va := s.VariantFor(s.Drill, g.Index, g.Stage); va != nil {
				f.Name, f.Says = va.Name, va.Says()
			} else if len(s.Drill.Variants) > 0 {
				f.Name = coach.AsWritten
			}
			_, f.Easier = s.Eased(s.Drill, g.Index, g.Stage, -1)
			_, f.Harder = s.Eased(s.Drill, g.Index, g.Stage, 1)
			v.Forms = append(v.Forms, f)
		}
		st.Stations = append(st.Stations, v)
	}
	for _, g := range pic.Groups {
		v := group{Shape: g.Shape.Key, Name: g.Shape.Name, Path: shell.ShapePath(g.Shape.Key), Route: g.Route, Players: []string{}}
		for _, p := range g.Players {
			v.Players = append(v.Players, p.ID)
		}
		st.Groups = append(st.Groups, v)
	}
	names := map[string]string{}
	for _, s := range l.Program.Stages {
		names[s.ID] = s.Name
		for _, k := range s.Criteria {
			points := k.Points
			if points == nil {
				points = []string{}
			}
			st.Criteria = append(st.Criteria, criterion{k.ID, s.ID, k.Wording, k.Skill, string(k.Measure), k.Standard(), k.Want, k.Of, points, k.BothSides})
		}
	}
	for _, p := range l.Players {
		cp := p.Coach(l.Program)
		v := player{ID: p.ID, Name: p.Name, Stage: cp.Stage, StName: names[cp.Stage], Said: l.Said[p.ID].State, Limits: []string{}}
		if c.Member.Role == "helper" {
			v.Name = short(p.Name)
		}
		for _, lim := range cp.Limits {
			if lim.Until.IsZero() || !lim.Until.Before(c.Now) {
				v.Limits = append(v.Limits, "no "+lim.What)
			}
		}
		st.Players = append(st.Players, v)
	}
	st.Marks = []mark{}
	if c.Member.Role == "helper" { // what others saw is not theirs to read
		others := func(by string) bool { return by != c.Member.ID }
		marks = slices.DeleteFunc(marks, func(m coach.Mark) bool { return others(m.By) })
		st.Tallies = slices.DeleteFunc(st.Tallies, func(t store.Tally) bool { return others(t.By) })
	}
	for _, m := range marks {
		k, ok := criterionOf(l.Program, m.CriterionID)
		v := mark{ID: m.ID, Player: m.PlayerID, Criterion: m.CriterionID, Drill: m.DrillID, Side: string(m.Side), By: m.By, ByName: m.ByName, Struck: m.Struck}
		if ok {
			v.Said, v.Meets = m.Said(k.Measure), evidence.Meets(k, m)
		} else {
			v.Said = fmt.Sprintf("%s of %d", coach.Figure(m.Figure), m.Tries)
		}
		st.Marks = append(st.Marks, v)
	}
}

// short is a first name with an initial: all a helper needs.
func short(name string) string {
	words := strings.Fields(name)
	if len(words) < 2 {
		return name
	}
	return words[0] + " " + string([]rune(words[len(words)-1])[0]) + "."
}

func criterionOf(p store.Program, id string) (coach.Criterion, bool) {
	for _, s := range p.Stages {
		for _, k := range s.Criteria {
			if k.ID == id {
				return k, true
			}
		}
	}
	return coach.Criterion{}, false
}

func page(c *shell.Ctx) error {
	st, err := read(c)
	if err != nil {
		return err
	}
	return c.Bare(pages, http.StatusOK, "courtside.html", st.Name, st)
}

func stateJSON(c *shell.Ctx) error {
	st, err := read(c)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, st)
	return nil
}

// live tells the page whenever something of its session changed; the page then reads the state.
func live(c *shell.Ctx) error {
	err := c.In(func(tx *store.Tx) error {
		if !store.IsID(c.Param("id")) {
			return store.ErrNone
		}
		s, err := tx.Session(c.Ctx(), c.Param("id"))
		if err != nil {
			return err
		}
		return admitted(c, s)
	})
	if err != nil {
		return err
	}
	return c.Stream(c.Param("id"))
}

// eased moves a group along at a station, to the easier or the harder form. A helper does so where they stand.
func eased(c *shell.Ctx) error {
	var in struct {
		Station, Group, By int
	}
	if err := json.NewDecoder(io.LimitReader(c.Request.Body, 1<<12)).Decode(&in); err != nil || in.By != 1 && in.By != -1 {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "Easier or harder? That was not understood."}
	}
	err := c.Change(c.Param("id"), "Plan: another form", func(tx *store.Tx) error {
		l, err := mine(c, tx)
		if err != nil {
			return err
		}
		pic := l.Picture
		if in.Station < 0 || in.Station >= len(pic.Stations) || in.Group < 0 || in.Group >= len(pic.Groups) {
			return &shell.Problem{Status: http.StatusConflict, Says: "The plan has changed: that station or group is not there any more."}
		}
		s, g := pic.Stations[in.Station], pic.Groups[in.Group]
		if l := s.Leader; c.Member.Role == "helper" && (l == nil || l.ID != c.Member.ID) {
			return &shell.Problem{Status: http.StatusForbidden, Says: "That is for whoever stands at the station."}
		}
		name, ok := s.Eased(s.Drill, g.Index, g.Stage, in.By)
		if !ok {
			return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "There is no " + map[int]string{-1: "easier", 1: "harder"}[in.By] + " form of this drill."}
		}
		next, _, err := l.Session.Plan.Apply(plan.Edit{Do: "variant", At: in.Station, Value: plan.GroupKey(in.Group) + "=" + name})
		if err != nil {
			return err
		}
		_, err = tx.SetPlan(c.Ctx(), l.Session.ID, l.Session.Version, next, c.Member.ID, c.Now)
		return err
	})
	if err != nil {
		return err
	}
	return stateJSON(c)
}

var clockDoes = []string{"start", "pause", "resume", "more", "less", "change", "back", "end"}

// clock keeps what was done to the clock, at the server's time, so that all devices agree.
func clock(c *shell.Ctx) error {
	var in struct{ ID, Do string }
	if err := json.NewDecoder(io.LimitReader(c.Request.Body, 1<<12)).Decode(&in); err != nil || !store.IsID(in.ID) || !slices.Contains(clockDoes, in.Do) {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "The clock does not know that."}
	}
	if c.Member.Role == "helper" {
		return &shell.Problem{Status: http.StatusForbidden, Says: "The clock belongs to the coaches."}
	}
	err := c.In(func(tx *store.Tx) error {
		l, err := mine(c, tx)
		if err != nil {
			return err
		}
		if err := tx.AddEvent(c.Ctx(), in.ID, l.Session.ID, in.Do, c.S.Now(), c.Member.ID); err != nil {
			return err
		}
		if in.Do == "end" {
			if err := closeTallies(c, tx, l); err != nil {
				return err
			}
		}
		return tx.Tell(c.Ctx(), l.Session.ID, "clock")
	})
	if err != nil {
		return err
	}
	return stateJSON(c)
}

// closeTallies makes marks of the series that are still open when the session ends.
func closeTallies(c *shell.Ctx, tx *store.Tx, l sessions.Loaded) error {
	open, err := tx.Tallies(c.Ctx(), l.Session.ID)
	if err != nil {
		return err
	}
	for _, t := range open {
		if t.Done || t.Tries == "" {
			continue
		}
		t.Done, t.Revision = true, t.Revision+1
		if err := keepTally(c, tx, l, t); err != nil {
			return err
		}
	}
	return nil
}

// item is one thing a device kept until it could send it.
type item struct {
	Kind string `json:"kind"` // tally, mark, said, strike
	store.Tally
	State  string  `json:"state"`
	Figure float64 `json:"figure"`
	Points []bool  `json:"points"`
	Note   string  `json:"note"`
}

type answer struct {
	ID   string `json:"id"`
	Kept bool   `json:"kept"`
	Why  string `json:"why,omitempty"`
}

// inbox takes what a device kept: each item once, however often it is sent. One that cannot be right is refused with the reason,
// and does not hold up the others.
func inbox(c *shell.Ctx) error {
	var in struct{ Items []item }
	if err := json.NewDecoder(io.LimitReader(c.Request.Body, 4<<20)).Decode(&in); err != nil || len(in.Items) > 2000 {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "What this device sent could not be read."}
	}
	answers := make([]answer, 0, len(in.Items))
	err := c.In(func(tx *store.Tx) error {
		l, err := mine(c, tx)
		if err != nil {
			return err
		}
		for _, it := range in.Items {
			err := keep(c, tx, l, it)
			var p *shell.Problem
			if err != nil && !errors.As(err, &p) {
				return err
			}
			a := answer{ID: it.ID, Kept: err == nil}
			if p != nil {
				a.Why = p.Says
			}
			answers = append(answers, a)
		}
		return tx.Tell(c.Ctx(), l.Session.ID, "marks")
	})
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, gin.H{"answers": answers})
	return nil
}

func refuse(says string) error {
	return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: says}
}

func keep(c *shell.Ctx, tx *store.Tx, l sessions.Loaded, it item) error {
	if !store.IsID(it.ID) {
		return refuse("It has no proper number.")
	}
	if now := c.S.Now(); it.At.IsZero() || it.At.After(now.Add(time.Minute)) { // a device's clock may be wrong
		it.At = now
	}
	if it.Kind == "strike" {
		ms, err := tx.Marks(c.Ctx(), store.MarkFilter{ID: it.ID, Session: l.Session.ID})
		if err != nil {
			return err
		}
		if len(ms) == 0 || ms[0].By != c.Member.ID && !c.May(shell.StrikeMarks) {
			return refuse("That mark is not yours to strike out.")
		}
		return tx.Strike(c.Ctx(), it.ID, c.Member.ID, "taken back courtside", c.S.Now())
	}
	if !slices.ContainsFunc(l.Players, func(p store.Player) bool { return p.ID == it.Player }) {
		return refuse("The player is not in this class any more.")
	}
	if it.Kind == "said" {
		if it.State != "" && !slices.Contains([]string{"present", "late", "absent", "left", "hurt"}, it.State) {
			return refuse("The register does not know that word.")
		}
		return tx.SetAttendance(c.Ctx(), l.Session.ID, store.Attendance{PlayerID: it.Player, State: it.State}, c.Member.ID, it.At)
	}
	k, ok := criterionOf(l.Program, it.Criterion)
	if it.Criterion != "" && !ok {
		return refuse("That criterion has been taken out of the ladder.")
	}
	if it.Criterion == "" && !slices.ContainsFunc(l.Picture.Stations, func(s plan.StationAt) bool { return s.Drill.ID == it.Drill }) {
		return refuse("That drill is not in the plan any more.")
	}
	if !slices.Contains([]string{"", "left", "right", "both"}, it.Side) {
		return refuse("A side is left or right.")
	}
	it.By = c.Member.ID
	if it.Kind == "tally" {
		if strings.Trim(it.Tries, "01") != "" || len(it.Tries) > 2000 {
			return refuse("The tries could not be read.")
		}
		return keepTally(c, tx, l, it.Tally)
	}
	m := coach.Mark{ID: it.ID, PlayerID: it.Player, CriterionID: it.Criterion, DrillID: it.Drill, SessionID: l.Session.ID, Side: coach.Side(it.Side), Figure: it.Figure, Points: it.Points, At: it.At, By: c.Member.ID, Note: it.Note}
	switch {
	case it.Kind != "mark" || !ok:
		return refuse("This kind of mark is not known.")
	case k.Measure == coach.Check && len(it.Points) != len(k.Points):
		return refuse("The points of this criterion have changed since.")
	case it.Figure < 0 || it.Figure > 1e6 || len(it.Note) > 500:
		return refuse("That figure cannot be.")
	}
	if m.CriterionID != "" {
		m.DrillID = ""
	}
	return tx.AddMark(c.Ctx(), m)
}

// keepTally keeps a series; when it is done it becomes a mark with the same id.
func keepTally(c *shell.Ctx, tx *store.Tx, l sessions.Loaded, t store.Tally) error {
	stored, err := tx.PutTally(c.Ctx(), l.Session.ID, t)
	if err != nil || !stored || !t.Done || t.Tries == "" {
		return err
	}
	m := coach.Mark{ID: t.ID, PlayerID: t.Player, CriterionID: t.Criterion, SessionID: l.Session.ID, Side: coach.Side(t.Side), Tries: len(t.Tries), At: t.At, By: t.By}
	if t.Criterion == "" {
		m.DrillID = t.Drill
	}
	good, best := evidence.Runs(t.Tries)
	m.Figure = float64(good)
	if k, ok := criterionOf(l.Program, t.Criterion); ok && k.Measure == coach.Streak {
		m.Figure = float64(best)
	}
	return tx.AddMark(c.Ctx(), m)
}
