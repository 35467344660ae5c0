// Package classes is where classes, places and the kit of a club are set up, and dates are put in.
package classes

import (
	"embed"
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
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Sessions", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/sessions", Needs: shell.SeeSessions, Handle: list},
	{Method: "POST", Path: "/sessions", Needs: shell.ChangePlan, Handle: add},
	{Method: "GET", Path: "/sessions/class/new", Needs: shell.ChangePlan, Handle: classForm},
	{Method: "POST", Path: "/sessions/class/new", Needs: shell.ChangePlan, Handle: saveClass},
	{Method: "GET", Path: "/sessions/class/:id", Needs: shell.ChangePlan, Handle: classForm},
	{Method: "POST", Path: "/sessions/class/:id", Needs: shell.ChangePlan, Handle: saveClass},
	shell.TakesOut("/sessions", shell.ChangePlan, "/sessions", store.OutClass, store.OutVenue),
	{Method: "GET", Path: "/sessions/venue", Needs: shell.ChangePlan, Handle: venueForm},
	{Method: "POST", Path: "/sessions/venue", Needs: shell.ChangePlan, Handle: saveVenue},
	{Method: "GET", Path: "/sessions/venue/:id", Needs: shell.ChangePlan, Handle: venueForm},
	{Method: "POST", Path: "/sessions/venue/:id", Needs: shell.ChangePlan, Handle: saveVenue},
	{Method: "GET", Path: "/sessions/kit", Needs: shell.ChangePlan, Handle: kitForm},
	{Method: "POST", Path: "/sessions/kit", Needs: shell.ChangePlan, Handle: saveKit},
}

type classRow struct {
	store.Class
	Program string
	Stages  []string
	Next    string // the day the next session would be on, or the one that was asked for
	Wrong   string // why there is none on it
	Planned []sessionRow
}

// soonest are the sessions that a class shows at once; where only one more is planned, it is shown as well.
const soonest = 4

// Soon are the sessions that come next, Later the others.
func (r classRow) Soon() []sessionRow {
	if len(r.Planned) <= soonest+1 {
		return r.Planned
	}
	return r.Planned[:soonest]
}

func (r classRow) Later() []sessionRow { return r.Planned[len(r.Soon()):] }

type sessionRow struct {
	store.Session
	When string
}

type listView struct {
	Venues    []store.Venue
	Classes   []classRow
	Past      []sessionRow
	NoPlayers bool
	Out       shell.Outs
}

func list(c *shell.Ctx) error {
	var v listView
	if err := c.In(func(tx *store.Tx) error { return v.load(c, tx) }); err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "sessions.html", "Sessions", v)
}

// notOn says at the class whose session was asked for why there is none on that date.
func notOn(c *shell.Ctx, f *shell.Form, wrong string) error {
	var v listView
	if err := c.In(func(tx *store.Tx) error { return v.load(c, tx) }); err != nil {
		return err
	}
	at := slices.IndexFunc(v.Classes, func(r classRow) bool { return r.ID == f.Get("class") })
	if at < 0 {
		return store.ErrNone
	}
	v.Classes[at].Next, v.Classes[at].Wrong = f.Get("date"), wrong
	return c.Page(pages, http.StatusUnprocessableEntity, "sessions.html", "Sessions", v)
}

func (v *listView) load(c *shell.Ctx, tx *store.Tx) error {
	classes, err := tx.Classes(c.Ctx())
	if err != nil {
		return err
	}
	programs, err := tx.AllLadders(c.Ctx())
	if err != nil {
		return err
	}
	ahead, err := tx.Sessions(c.Ctx(), store.SessionFilter{From: c.Now, Cancelled: true, Counted: true})
	if err != nil {
		return err
	}
	past, err := tx.Sessions(c.Ctx(), store.SessionFilter{To: c.Now, Newest: true, Limit: 8, Counted: true})
	if err != nil {
		return err
	}
	all, _, err := tx.CountPlayers(c.Ctx(), store.PlayerFilter{})
	if err != nil {
		return err
	}
	v.NoPlayers = all == 0
	if v.Venues, err = tx.Venues(c.Ctx()); err != nil {
		return err
	}
	v.Out.At = "/sessions"
	if v.Out.All, err = tx.TakenOut(c.Ctx(), store.OutClass, store.OutVenue); err != nil {
		return err
	}
	slices.SortStableFunc(classes, func(a, b store.Class) int {
		return day.InWeek(c.Club.TimeZone, a.Day()) - day.InWeek(c.Club.TimeZone, b.Day())
	})
	for _, cl := range classes {
		v.Classes = append(v.Classes, rowOf(c, cl, programs, ahead))
	}
	for _, s := range past {
		if s.Ends().Before(c.Now) {
			v.Past = append(v.Past, sessionRowOf(c, s))
		}
	}
	return nil
}

func sessionRowOf(c *shell.Ctx, s store.Session) sessionRow {
	return sessionRow{Session: s, When: s.StartsAt.In(c.Loc).Format("Mon 2 Jan, 15:04")}
}

// rowOf is a class with the sessions that are planned for it, and the first of its days that has none.
func rowOf(c *shell.Ctx, cl store.Class, programs []store.Program, ahead []store.Session) classRow {
	r := classRow{Class: cl}
	for _, p := range programs {
		if p.ID == cl.ProgramID {
			r.Program = p.Name
		}
		for _, s := range p.Stages {
			if slices.Contains(cl.StageIDs, s.ID) {
				r.Stages = append(r.Stages, s.Name)
			}
		}
	}
	next := day.Next(time.Weekday(cl.Weekday), c.Now)
	// today's is over or under way
	if at, _, err := day.On(next, cl.Starts, c.Loc); err == nil && at.Before(c.Now) {
		next = next.AddDate(0, 0, 7)
	}
	for _, s := range ahead {
		if s.ClassID != cl.ID {
			continue
		}
		r.Planned = append(r.Planned, sessionRowOf(c, s))
		if d := s.StartsAt.In(c.Loc); d.Format(time.DateOnly) >= next.Format(time.DateOnly) {
			next = day.Next(time.Weekday(cl.Weekday), d.AddDate(0, 0, 1))
		}
	}
	r.Next = next.Format(time.DateOnly)
	return r
}

// add makes a session of a class on a date, with the plan of the session before it or a fresh one.
func add(c *shell.Ctx) error {
	f := shell.NewForm(c)
	date, err := time.ParseInLocation(time.DateOnly, f.Get("date"), c.Loc)
	if err != nil || date.Year() < 2000 || date.Year() > 2100 {
		return notOn(c, f, "Which day? Choose a date for the session.")
	}
	c.Back = "/sessions"
	var s store.Session
	var l app.Loaded
	note := ""
	err = c.Rehearse(func(tx *store.Tx) (err error) {
		if s, note, err = app.NewSession(c.Ctx(), tx, f.Get("class"), date, c.Now, c.Loc); err != nil {
			return err
		}
		if err := tx.AddSession(c.Ctx(), s); err != nil {
			return err
		}
		l, err = app.Read(c.Ctx(), tx, s.ID, c.Now, c.Loc)
		return err
	})
	if err == nil {
		in := l.Input
		if in.Plan = s.Plan; in.DealOut() == nil { // else the plan page says why nobody is dealt yet
			s.Plan = in.Plan
		}
		err = c.Change("", "Made the session", func(tx *store.Tx) error { return tx.AddSession(c.Ctx(), s) })
	}
	if errors.Is(err, store.ErrTaken) {
		return notOn(c, f, fmt.Sprintf("This class has a session on %s already.", date.Format("2 Jan")))
	}
	if err != nil {
		return err
	}
	if note != "" {
		c.Say(note)
	}
	return c.To("/sessions/" + s.ID)
}

// Plain is for which floors the form asks for the size.
func (v classView) Plain() string { return plain() }

// LayKinds are the courts that can be laid out in a hall.
func (v classView) LayKinds() []floor.Floor { return layKinds() }

type classView struct {
	Form     *shell.Form
	Ahead    int // sessions that are planned and have not begun
	ID       string
	Name     string
	Programs []store.Program
	Venues   []store.Venue
	Members  []store.Member
	Players  []store.Player
	Floors   []floor.Floor
	Weekdays []time.Weekday // as the week goes where the club is
}

func (v *classView) load(c *shell.Ctx, tx *store.Tx) (err error) {
	v.Floors, v.Weekdays = floor.Kinds(), day.Week(c.Club.TimeZone)
	if v.Programs, err = tx.Ladders(c.Ctx()); err != nil {
		return err
	}
	if v.Venues, err = tx.Venues(c.Ctx()); err != nil {
		return err
	}
	if v.Members, err = tx.Members(c.Ctx(), c.Now); err != nil {
		return err
	}
	v.Players, err = tx.Players(c.Ctx(), store.PlayerFilter{})
	return err
}

// usualLength and usualWidth are of a hall that nothing is known of, in whole figures of the club's unit.
func usualLength(c *shell.Ctx) float64 {
	if c.Club.Units == coach.Imperial {
		return 60 * coach.Foot
	}
	return 20
}

func usualWidth(c *shell.Ctx) float64 {
	if c.Club.Units == coach.Imperial {
		return 40 * coach.Foot
	}
	return 12
}

func classForm(c *shell.Ctx) error {
	v := classView{Form: shell.NewForm(c), ID: c.Param("id")}
	v.Form.Values = url.Values{
		"weekday": {"2"},
		"starts":  {"18:00"},
		"minutes": {"90"},
		"places":  {"20"},
		"floor":   {"hall"},
		"length":  {c.Club.Units.Length(usualLength(c))},
		"width":   {c.Club.Units.Length(usualWidth(c))},
		"member":  {c.Member.ID},
	}
	err := c.In(func(tx *store.Tx) error {
		if err := v.load(c, tx); err != nil {
			return err
		}
		if v.ID == "" {
			v.fillNew()
			return nil
		}
		return v.fill(c, tx)
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "class-form.html", "Class", v)
}

// fillNew fills the form for a new class: every stage, of whichever program is chosen, and everybody, until said
// otherwise, where the club is small.
func (v *classView) fillNew() {
	f := v.Form.Values
	if len(v.Venues) > 0 {
		f.Set("venue", v.Venues[0].ID)
	}
	if len(v.Programs) > 0 {
		f.Set("program", v.Programs[0].ID)
	}
	for _, p := range v.Programs {
		for _, s := range p.Stages {
			f.Add("stage", s.ID)
		}
	}
	for _, p := range v.Players {
		if len(v.Players) <= 30 {
			f.Add("player", p.ID)
		}
	}
	f.Set("places", strconv.Itoa(max(20, len(f["player"]))))
}

// now is the class as it is, with the ids of who is in it.
func (v *classView) now(c *shell.Ctx, tx *store.Tx) (k store.Class, players []string, err error) {
	classes, err := tx.Classes(c.Ctx())
	if err != nil {
		return k, nil, err
	}
	i := slices.IndexFunc(classes, func(k store.Class) bool { return k.ID == v.ID })
	if i < 0 {
		return k, nil, store.ErrNone
	}
	in, err := tx.Players(c.Ctx(), store.PlayerFilter{Class: v.ID})
	for _, p := range in {
		players = append(players, p.ID)
	}
	return classes[i], players, err
}

// fill fills the form with the class as it is.
func (v *classView) fill(c *shell.Ctx, tx *store.Tx) error {
	k, players, err := v.now(c, tx)
	if err != nil {
		return err
	}
	f := v.Form.Values
	v.Name = k.Name
	f.Set("name", k.Name)
	f.Set("program", k.ProgramID)
	f.Set("weekday", strconv.Itoa(k.Weekday))
	f.Set("starts", k.Starts)
	f.Set("minutes", strconv.Itoa(k.Minutes))
	f.Set("venue", strings.TrimSpace(k.VenueID+" "+k.Zone))
	f.Set("places", strconv.Itoa(k.Places))
	f["stage"], f["member"] = k.StageIDs, nil
	for _, m := range k.Members {
		f.Add("member", m.Member)
		if m.Until > 0 {
			f.Set("until-"+m.Member, strconv.Itoa(m.Until))
		}
	}
	rests, err := tx.Rests(c.Ctx(), store.OutClass, v.ID, c.Now)
	if err != nil {
		return err
	}
	v.Ahead = rests.Ahead
	f["player"] = players
	v.Form.Shows(k, players)
	return nil
}

func saveClass(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := classView{Form: f, ID: c.Param("id"), Name: f.Get("name")}
	k := store.Class{
		ID:        v.ID,
		Name:      f.Text("name", 60, "What is the class called?"),
		Weekday:   f.Int("weekday", 0, 6, "Weekday"),
		Starts:    f.Get("starts"),
		Minutes:   f.Int("minutes", 15, 480, "Minutes"),
		Places:    f.Int("places", 1, 500, "Places"),
		ProgramID: f.Get("program"),
	}
	k.VenueID, k.Zone, _ = strings.Cut(f.Get("venue"), " ")
	if _, err := time.Parse("15:04", k.Starts); err != nil {
		f.Wrong("starts", "A time is written like 18:00.")
	}
	says, refused := "Changed "+k.Name, false
	if v.ID == "" {
		k.ID, says = store.NewID(), "Set up "+k.Name
	}
	err := c.Change("", says, func(tx *store.Tx) error {
		if err := v.load(c, tx); err != nil {
			return err
		}
		v.takes(&k)
		v.leads(&k)
		if err := v.placeOf(c, tx, &k); err != nil {
			return err
		}
		players := v.comes(k)
		if v.ID != "" {
			was, in, err := v.now(c, tx)
			if err != nil {
				return err
			}
			f.Since(was.Name, was, in)
		}
		if refused = !f.OK(); refused {
			return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "Something typed is not right yet."}
		}
		if err := tx.PutClass(c.Ctx(), k); err != nil {
			return err
		}
		return tx.Enrol(c.Ctx(), k.ID, players)
	})
	if refused {
		return c.Page(pages, http.StatusUnprocessableEntity, "class-form.html", "Class", v)
	}
	if err != nil {
		return err
	}
	return c.To("/sessions")
}

// takes reads the program and the stages that a class takes.
func (v *classView) takes(k *store.Class) {
	f := v.Form
	programs := slices.IndexFunc(v.Programs, func(p store.Program) bool { return p.ID == k.ProgramID })
	if programs < 0 {
		f.Wrong("program", "Choose the program.")
	} else {
		for _, s := range v.Programs[programs].Stages {
			if slices.Contains(f.All("stage"), s.ID) {
				k.StageIDs = append(k.StageIDs, s.ID)
			}
		}
		if len(k.StageIDs) == 0 && len(f.All("stage")) > 0 { // what is ticked belongs to another program
			f.Wrong("stage", "Which stages of %s does it take?", v.Programs[programs].Name)
		}
	}
}

// leads reads who leads, and how long.
func (v *classView) leads(k *store.Class) {
	f := v.Form
	for _, m := range v.Members {
		if slices.Contains(f.All("member"), m.ID) {
			until := 0
			if f.Get("until-"+m.ID) != "" {
				until = f.Int("until-"+m.ID, 0, 480, m.Name+" leaves after how many minutes")
			}
			k.Members = append(k.Members, store.ClassMember{Member: m.ID, Until: until})
		} else if f.Get("until-"+m.ID) != "" {
			f.Wrong("until-"+m.ID, "Tick %s as well, or take the minutes out.", m.Name)
		}
	}
}

// placeOf reads where a class is: a place of the club, or one that is new and kept at once.
func (v *classView) placeOf(c *shell.Ctx, tx *store.Tx, k *store.Class) error {
	f := v.Form
	if k.VenueID == "" {
		place := store.Venue{
			ID:    store.NewID(),
			Name:  f.Text("venue-name", 60, "What is the place called?"),
			Floor: f.Get("floor"),
		}
		size(f, &place, store.Venue{})
		lay(f, &place)
		if f.OK() {
			if err := tx.PutVenue(c.Ctx(), place); err != nil {
				return err
			}
		}
		k.VenueID = place.ID
	} else if !slices.ContainsFunc(v.Venues, func(p store.Venue) bool {
		return p.ID == k.VenueID && (k.Zone == "" || slices.ContainsFunc(p.Zones, func(z floor.Area) bool { return z.Name == k.Zone }))
	}) {
		f.Wrong("venue", "Choose a place.")
	}
	return nil
}

// comes reads who is in the class.
func (v *classView) comes(k store.Class) (players []string) {
	f := v.Form
	for _, p := range v.Players {
		if slices.Contains(f.All("player"), p.ID) {
			players = append(players, p.ID)
		}
	}
	if len(players) > k.Places {
		f.Wrong(
			"places",
			"%s ticked; there %s %s.",
			say.Count(len(players), "player")+" "+say.Verb(len(players), "is", "are"),
			say.Verb(k.Places, "is", "are"),
			say.Count(k.Places, "place"),
		)
	}
	return players
}
