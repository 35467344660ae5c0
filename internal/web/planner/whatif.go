package planner

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/whatif"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

type whatView struct {
	app.Loaded
	Form    *shell.Form
	Venues  []store.Venue
	Guests  []store.Player // of the club, not of the class
	When    string
	Now     int // minutes into the session, for what happens in the hall
	Asked   []string
	After   *check.Picture
	Differ  whatif.Difference
	Problem string
	what    []whatif.Happens
}

// Shape is the group's shape, for templates.
func (v whatView) Shape(g int) *doc.Shape {
	if g < 0 || g >= len(doc.Shapes) {
		return nil
	}
	return &doc.Shapes[g]
}

// Changing counts the players who leave one group for another.
func (v whatView) Changing() (n int) {
	for _, m := range v.Differ.Moves {
		if m.From >= 0 && m.To >= 0 {
			n++
		}
	}
	return n
}

// whatIf shows what could happen, and what the plan would then be; nothing is changed until it is taken.
func whatIf(c *shell.Ctx) error {
	v := whatView{Form: shell.NewForm(c)}
	if err := v.load(c); err != nil {
		return err
	}
	if c.Request.Method != http.MethodPost {
		v.Form.Values = url.Values{"back": {c.Query("back")}}
	} else if err := v.work(); err != nil {
		return err
	}
	status := http.StatusOK
	if v.Problem != "" || !v.Form.OK() {
		status = http.StatusUnprocessableEntity
	}
	return c.Page(pages, status, "what-if.html", "What if", v)
}

func (v *whatView) load(c *shell.Ctx) (err error) {
	var all []store.Player
	v.Loaded, err = loaded(c, func(tx *store.Tx, _ *app.Loaded) (err error) {
		if v.Venues, err = tx.Venues(c.Ctx()); err != nil {
			return err
		}
		all, err = tx.Players(c.Ctx(), store.PlayerFilter{})
		return err
	})
	if err != nil {
		return err
	}
	for _, p := range all {
		if !slices.ContainsFunc(v.Players, func(o store.Player) bool { return o.ID == p.ID }) {
			v.Guests = append(v.Guests, p)
		}
	}
	v.When = v.Picture.Start.Format("Mon 2 Jan, 15:04")
	if into := c.Now.Sub(v.Picture.Start); into > 0 && into < v.Picture.Booked {
		v.Now = int(into.Minutes())
	}
	return nil
}

// player is the session's player of that id.
func (v *whatView) player(id string) (coach.Player, bool) {
	for _, p := range v.Input.Players {
		if p.ID == id {
			return p, true
		}
	}
	return coach.Player{}, false
}

// whoWhat is a line of the form that can be there several times.
type whoWhat struct{ Who, What string }

// Rows are the lines of a kind as they were typed, those with somebody in them, and one more to fill in.
func (v whatView) Rows(who, what, usual string) (out []whoWhat) {
	whats := v.Form.All(what)
	for i, id := range v.Form.All(who) {
		if id == "" || len(out) == 30 {
			continue
		}
		r := whoWhat{id, usual}
		if i < len(whats) {
			r.What = strings.TrimSpace(whats[i])
		}
		out = append(out, r)
	}
	return append(out, whoWhat{What: usual})
}

// work reads what is said to happen and works the plan out for it.
func (v *whatView) work() error {
	if err := v.read(); err != nil || !v.Form.OK() {
		return err
	}
	if len(v.what) == 0 {
		v.Problem = "Say what happens: tick or choose something first."
		return nil
	}
	for _, h := range v.what {
		says := h.Words(v.Picture.Start)
		for _, l := range v.Input.Leaders {
			if h.Kind == whatif.Gone && l.ID == h.Leader {
				says = strings.Replace(says, "a leader", l.Name, 1)
			}
		}
		v.Asked = append(v.Asked, says)
	}
	after, err := whatif.Plan(v.Input, v.what)
	var clash *deal.Clash
	var in *doc.ErrInput
	switch {
	case errors.As(err, &clash):
		v.Problem = clash.Why
		return nil
	case errors.As(err, &in):
		v.Problem = in.Says
		return nil
	case err != nil:
		return err
	}
	pic := check.Plan(after)
	v.After, v.Differ = &pic, whatif.Compare(v.Picture, pic)
	return nil
}

// read is what the form says of players, leaders, stations, time and place, in the order in which it is planned.
func (v *whatView) read() error {
	v.readPlayers()
	if err := v.readGuest(); err != nil {
		return err
	}
	f := v.Form
	if id := f.Get("gone"); slices.ContainsFunc(v.Input.Leaders, func(l work.Leader) bool { return l.ID == id }) {
		after := f.Int("gone-at", 0, 480, "Leaves after how many minutes")
		v.happens(whatif.Happens{Kind: whatif.Gone, Leader: id, At: time.Duration(after) * time.Minute})
	}
	lost := func(s work.StationAt) bool { return s.ID == f.Get("lost") }
	if n := slices.IndexFunc(v.Picture.Stations, lost); n >= 0 {
		v.happens(whatif.Happens{Kind: whatif.Lost, Station: f.Get("lost"), Number: n + 1})
	}
	if f.Get("time") != "" {
		if n := f.Int("time", 0, 240, "Minutes lost"); n > 0 {
			if n >= v.Session.Minutes-10 {
				f.Wrong("time", "That leaves no session; at least ten minutes must be left.")
			}
			v.happens(whatif.Happens{Kind: whatif.Time, Minutes: n})
		}
	}
	if venue, zone, ok := v.place(f.Get("venue")); ok && (venue.ID != v.Session.Venue.ID || zone != v.Session.Zone) {
		where := venue.Name
		if zone != "" {
			where += ", " + zone
		}
		v.happens(whatif.Happens{Kind: whatif.Moved, Floor: venue.Draw(zone), Where: where})
	}
	return nil
}

func (v *whatView) happens(h whatif.Happens) { v.what = append(v.what, h) }

// readPlayers reads who is away, late or hurt.
func (v *whatView) readPlayers() {
	for _, id := range v.Form.All("absent") {
		if p, ok := v.player(id); ok {
			v.happens(whatif.Happens{Kind: whatif.Absent, Player: p})
		}
	}
	for i, r := range v.Rows("late", "late-at", "15") {
		if p, ok := v.player(r.Who); ok {
			n, err := strconv.Atoi(r.What)
			if err != nil || n < 0 || n > 480 {
				v.Form.Wrong(fmt.Sprint("late-at-", i), "Comes after how many minutes: a whole number from 0 to 480.")
			}
			v.happens(whatif.Happens{Kind: whatif.Late, Player: p, At: time.Duration(n) * time.Minute})
		}
	}
	for _, r := range v.Rows("hurt", "hurt-no", "") {
		if p, ok := v.player(r.Who); ok {
			v.happens(whatif.Happens{Kind: whatif.Hurt, Player: p, No: coach.Limited(r.What)})
		}
	}
}

// readGuest reads who joins for the day: somebody of the club, or somebody new by name.
func (v *whatView) readGuest() error {
	switch id := v.Form.Get("guest"); id {
	case "":
	case "new":
		g := coach.Player{ID: newGuest, Name: v.Form.Text("guest-name", 80, "What is the guest called?")}
		if len(v.Program.Stages) > 0 {
			g.Stage, g.Level = v.Program.Stages[0].ID, float64(v.Program.Stages[0].Order)
		}
		v.happens(whatif.Happens{Kind: whatif.Guest, Player: g})
	default:
		i := slices.IndexFunc(v.Guests, func(p store.Player) bool { return p.ID == id })
		if i < 0 {
			return store.ErrNone
		}
		v.happens(whatif.Happens{Kind: whatif.Guest, Player: v.Guests[i].Coach(v.Program)})
	}
	return nil
}

// place reads "venue zone".
func (v *whatView) place(value string) (venue store.Venue, zone string, ok bool) {
	id, zone, _ := strings.Cut(value, " ")
	for _, o := range v.Venues {
		if o.ID == id {
			return o, zone, true
		}
	}
	return venue, "", false
}

// takeWhatIf makes what was shown so: the register, the leaders, the booking and the plan in one change.
func takeWhatIf(c *shell.Ctx) error {
	v := whatView{Form: shell.NewForm(c)}
	version, _ := strconv.Atoi(v.Form.Get("version"))
	c.Back = "/sessions/" + c.Param("id")
	if err := v.load(c); err != nil {
		return err
	}
	if err := v.work(); err != nil {
		return err
	}
	if v.Session.Version != version {
		v.Problem = or(
			v.Session.ChangedBy,
			"Somebody",
		) + " changed the plan in the meantime. This is what it would be now."
	}
	if v.Problem != "" || !v.Form.OK() {
		return c.Page(pages, http.StatusUnprocessableEntity, "what-if.html", "What if", v)
	}
	for i := range v.what { // a new guest has an id from here on
		if v.what[i].Kind == whatif.Guest && v.what[i].Player.ID == newGuest {
			v.what[i].Player.ID = store.NewID()
		}
	}
	after, err := whatif.Plan(v.Input, v.what)
	if err != nil {
		return err
	}
	h := app.Happening{
		Session: v.Session,
		Program: v.Program.ID,
		Known: func(id string) bool {
			return slices.ContainsFunc(v.Guests, func(p store.Player) bool { return p.ID == id })
		},
		Place: func() (store.Venue, string) {
			venue, zone, _ := v.place(v.Form.Get("venue"))
			return venue, zone
		},
		By:  c.Member.ID,
		Now: c.Now,
	}
	err = c.Change(c.Param("id"), "Took what if", func(tx *store.Tx) error {
		for _, what := range v.what {
			if err := h.Keep(c.Ctx(), tx, what); err != nil {
				return err
			}
		}
		_, err := tx.SetPlan(c.Ctx(), v.Session.ID, version, after.Plan, c.Member.ID, c.Now)
		return err
	})
	if err != nil {
		return err
	}
	if v.Form.Get("back") == "courtside" {
		return c.To("/courtside/" + c.Param("id"))
	}
	return c.To(c.Back)
}

// newGuest stands for the id of a guest who is not on the roster yet.
const newGuest = "guest"
