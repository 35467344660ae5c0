// Package season is a term in one picture: every class through its weeks, with a theme for each date, what they cover, and
// the days on which nobody meets.
package season

import (
	"cmp"
	"embed"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Season", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/season", Needs: shell.SeeSessions, Handle: show},
	{Method: "POST", Path: "/season/themes", Needs: shell.ChangePlan, Handle: setThemes},
	{Method: "POST", Path: "/season/move", Needs: shell.ChangePlan, Handle: move},
	{Method: "POST", Path: "/season/fill", Needs: shell.ChangePlan, Handle: fill, Heavy: true},
	{Method: "POST", Path: "/season/dates", Needs: shell.ChangePlan, Handle: makeDates, Heavy: true},
	{Method: "POST", Path: "/season/off", Needs: shell.ChangePlan, Handle: addOff},
	{Method: "POST", Path: "/season/off/:id/drop", Needs: shell.ChangePlan, Handle: dropOff},
	{
		Method: "POST",
		Path:   "/season/calendar",
		Needs:  shell.ChangePlan,
		Handle: bring,
		Body:   exchange.MostCalendar + 1<<14,
		Heavy:  true,
	},
	{Method: "POST", Path: "/season/calendar/take", Needs: shell.ChangePlan, Handle: takeBrought},
	{Method: "GET", Path: "/season/tests/new", Needs: shell.ChangePlan, Handle: testFormPage},
	{Method: "POST", Path: "/season/tests/new", Needs: shell.ChangePlan, Handle: saveTest},
	{Method: "GET", Path: "/season/tests/:id", Needs: shell.SeeMarks, Handle: showTest},
	{Method: "GET", Path: "/season/tests/:id/change", Needs: shell.ChangePlan, Handle: testFormPage},
	{Method: "POST", Path: "/season/tests/:id/change", Needs: shell.ChangePlan, Handle: saveTest},
	{Method: "POST", Path: "/season/tests/:id/end", Needs: shell.ChangePlan, Handle: endTest},
	{Method: "GET", Path: "/season/tests/:id/pad", Needs: shell.EnterMarks, Handle: pad},
	{Method: "POST", Path: "/season/tests/:id/pad", Needs: shell.EnterMarks, Handle: takePad},
	{Method: "POST", Path: "/season/tests/:id/figures", Needs: shell.EnterMarks, Handle: takeFigures, JSON: true},
	{Method: "GET", Path: "/season/club", Needs: shell.PlanPlaces, Handle: club},
	{Method: "GET", Path: "/season/club.xlsx", Needs: shell.PlanPlaces, Handle: clubXLSX, Heavy: true},
	{Method: "GET", Path: "/calendars", Needs: shell.OwnAccount, Handle: calendars},
	{Method: "POST", Path: "/calendars", Needs: shell.OwnAccount, Handle: makeCalendar},
	{Method: "POST", Path: "/calendars/:id/withdraw", Needs: shell.OwnAccount, Handle: withdrawCalendar},
	{Method: "GET", Path: "/calendar/:secret", Needs: shell.Anyone, Handle: calendar},
}

// view is a term: weeks across, classes down, and one of them by its skills.
type view struct {
	Terms  []season.Term
	Term   season.Term
	Weeks  []week
	Rows   []row
	Offs   []store.DayOff
	Open   *row // the class that is opened into its skills
	Skills []string
	Today  day.Day
	Lead   bool // may look at the whole club
	Booked []store.Booked
	Tests  []testView  // of the class that is opened; the first with its changes
	Form   *shell.Form // of a holiday or an event
	Wrong  string
	zone   string
	loc    *time.Location
}

// week is a column: the first day of a week, and what is on in it.
type week struct {
	From  day.Day
	Now   bool
	Event string
}

// row is a class through the weeks.
type row struct {
	store.Class
	Program  store.Program
	Cells    []cell // by week
	Coverage []season.Row
	Lacks    int // criteria that never come up
}

// cell is a date of a class.
type cell struct {
	season.Date
	Class  string
	Marks  int
	Past   bool
	Colour int // of its theme, by the skill's place among the term's
	None   bool
}

// Key names a date of a class, as a form sends it.
func (c cell) Key() string { return c.Class + " " + c.On.String() }

// State is what became of a date, or will.
func (c cell) State() string {
	switch {
	case c.Off != "":
		return c.Off
	case c.Held && c.Marks > 0:
		return say.Count(c.Marks, "mark")
	case c.Held:
		return "done"
	case c.Past && c.Planned:
		return "not run"
	case c.Past:
		return "missed"
	case c.Planned:
		return "planned"
	case c.Theme.Kind == season.Open:
		return "open"
	}
	return ""
}

// Query is what the page is about, so that a form leads back to it.
func (v view) Query() string {
	q := url.Values{}
	if v.Term.ID != "" {
		q.Set("term", v.Term.ID)
	}
	if v.Open != nil {
		q.Set("class", v.Open.ID)
	}
	if len(q) == 0 {
		return ""
	}
	return "?" + q.Encode()
}

// OffWrong is what is wrong with a holiday or an event that was typed.
func (v view) OffWrong() string {
	e := v.Form.Errors
	return cmp.Or(e["kind"], e["name"], e["from"], e["until"])
}

// Kinds are the themes besides skills that a date can have.
func (v view) Kinds() []season.Kind { return []season.Kind{season.New, season.CleanUp, season.Event} }

// WeekNo is which of the term's weeks this is, from 1; 0: none.
func (v view) WeekNo() int {
	return slices.IndexFunc(v.Weeks, func(w week) bool { return w.Now }) + 1
}

// Ahead says how far away the next event is.
func (v view) Ahead() string {
	for _, o := range v.Offs {
		if o.Kind == store.OnShow && !o.From.Before(v.Today) {
			weeks := o.From.Sub(v.Today) / 7
			if weeks == 0 {
				return o.Name + " this week"
			}
			return fmt.Sprintf("%s in %s", o.Name, say.Count(weeks, "week"))
		}
	}
	return ""
}

// Opens are the dates to come of a class that have no theme yet.
func (r row) Opens() (n int) {
	for _, c := range r.Cells {
		if c.free() && c.Theme.Kind == season.Open {
			n++
		}
	}
	return n
}

// Missing are the dates to come of a class that no session is made for.
func (r row) Missing() (out []cell) {
	for _, c := range r.Cells {
		if c.free() && !c.Planned {
			out = append(out, c)
		}
	}
	return out
}

func (c cell) free() bool { return !c.None && !c.Past && !c.Held && c.Off == "" }

// leaders are all who lead, by id, as they are told apart.
func (v view) leaders() map[string]string {
	out := map[string]string{}
	for _, s := range v.Booked {
		for _, l := range s.Leaders {
			out[l.Member] = l.Name
		}
	}
	for _, r := range v.Rows {
		for _, m := range r.Members {
			out[m.Member] = m.Name
		}
	}
	var ids, names []string
	for id, name := range out {
		ids, names = append(ids, id), append(names, name)
	}
	for i, called := range say.Called(names) {
		out[ids[i]] = called
	}
	return out
}

// Clashes are classes that meet at once in one place or with one coach: those dates that are made, and for the others the
// time at which the class usually meets.
func (v view) Clashes() []season.Clash {
	var all []season.Booking
	called := v.leaders()
	made := map[string]bool{}
	for _, s := range v.Booked {
		b := season.Booking{
			Class: s.Class, Name: s.Name, Starts: s.StartsAt.In(v.loc), Minutes: s.Minutes, Place: s.Venue, PlaceName: s.VenueName, Zone: s.Zone,
			Leaders: map[string]string{},
		}
		for _, l := range s.Leaders {
			b.Leaders[l.Member] = called[l.Member]
		}
		made[s.Class+day.In(s.StartsAt, v.loc).String()] = true
		all = append(all, b)
	}
	for _, r := range v.Rows {
		for _, x := range r.Cells {
			if !x.free() || x.Planned || made[r.ID+x.On.String()] {
				continue
			}
			at, _, err := day.On(x.On.Start(v.loc), r.Starts, v.loc)
			if err != nil {
				continue // the class's time is kept as a time
			}
			b := season.Booking{
				Class: r.ID, Name: r.Name, Starts: at, Minutes: r.Minutes, Place: r.VenueID, PlaceName: r.VenueName, Zone: r.Class.Zone,
				Leaders: map[string]string{},
			}
			for _, m := range r.Members {
				b.Leaders[m.Member] = called[m.Member]
			}
			all = append(all, b)
		}
	}
	return season.Clashes(all)
}

func show(c *shell.Ctx) error { return showWith(c, nil, "") }

func showWith(c *shell.Ctx, f *shell.Form, wrong string) error {
	v, err := read(c)
	if err != nil {
		return err
	}
	if err := v.tests(c); err != nil {
		return err
	}
	v.Form, v.Wrong, v.Lead = f, wrong, c.May(shell.PlanPlaces)
	if v.Form == nil {
		v.Form = shell.NewForm(c)
	}
	status := http.StatusOK
	if wrong != "" || !v.Form.OK() {
		status = http.StatusUnprocessableEntity
	}
	return c.Page(pages, status, "season.html", "Season", v)
}

// tests reads the tests of the class that is opened.
func (v *view) tests(c *shell.Ctx) error {
	if v.Open == nil {
		return nil
	}
	return c.In(func(tx *store.Tx) error {
		all, err := tx.Tests(c.Ctx(), store.TestFilter{Class: v.Open.ID})
		for i, t := range all {
			one := testView{Test: t}
			one.Next = one.next(v.Today)
			if i == 0 {
				if one, err = readTest(c, tx, t.ID); err != nil {
					return err
				}
			}
			v.Tests = append(v.Tests, one)
		}
		return err
	})
}

// read is the term that is asked for, or the one that today is in; without any, sixteen weeks from four ago.
func read(c *shell.Ctx) (v view, err error) {
	v = view{Today: c.Today(), zone: c.Club.TimeZone, loc: c.Loc}
	var classes []store.Class
	var programs []store.Program
	var themes []store.Theme
	var done []store.Practised
	standing := map[string][]app.Standing{} // by program
	var enrolled map[string][]string
	err = c.In(func(tx *store.Tx) (err error) {
		if v.Terms, err = tx.Terms(c.Ctx()); err != nil {
			return err
		}
		v.Term, v.Terms = season.Chosen(v.Terms, v.Today, c.Query("term"))
		if classes, err = tx.Classes(c.Ctx()); err != nil {
			return err
		}
		if programs, err = tx.Ladders(c.Ctx()); err != nil {
			return err
		}
		if themes, err = tx.Themes(c.Ctx(), v.Term.From, v.Term.Until); err != nil {
			return err
		}
		if v.Offs, err = tx.DaysOff(c.Ctx(), v.Term.From, v.Term.Until); err != nil {
			return err
		}
		if done, err = tx.Practised(c.Ctx(), v.Term.From, v.Term.Until); err != nil {
			return err
		}
		players, err := tx.Players(c.Ctx(), store.PlayerFilter{})
		if err != nil {
			return err
		}
		for _, p := range programs {
			if standing[p.ID], _, err = app.EverybodyOf(c.Ctx(), tx, p, players, c.Now); err != nil {
				return err
			}
		}
		if enrolled, err = tx.Enrolments(c.Ctx()); err != nil {
			return err
		}
		v.Booked, err = tx.Bookings(c.Ctx(), c.Now, v.Term.Until.End(c.Loc))
		return err
	})
	if err != nil {
		return v, err
	}
	slices.SortStableFunc(classes, func(a, b store.Class) int {
		return day.InWeek(v.zone, a.Day()) - day.InWeek(v.zone, b.Day())
	})
	v.weeks()
	for _, k := range classes {
		r := row{Class: k, Program: find(programs, k.ProgramID)}
		v.cells(&r, themes, done)
		here := slices.DeleteFunc(slices.Clone(standing[k.ProgramID]), func(s app.Standing) bool {
			return !slices.Contains(enrolled[s.Player.ID], k.ID)
		})
		r.Coverage = season.Cover(rowsOf(r, here), dates(r.Cells), v.Today)
		for _, cover := range r.Coverage {
			if cover.Never() {
				r.Lacks++
			}
		}
		v.Rows = append(v.Rows, r)
	}
	v.colours()
	at := slices.IndexFunc(v.Rows, func(r row) bool { return r.ID == c.Query("class") })
	if at < 0 && len(v.Rows) > 0 {
		at = 0
	}
	if at >= 0 {
		v.Open = &v.Rows[at]
	}
	return v, nil
}

func find(programs []store.Program, id string) store.Program {
	for _, p := range programs {
		if p.ID == id {
			return p
		}
	}
	return store.Program{}
}

// mostWeeks of a term that are shown: a year.
const mostWeeks = 53

func (v *view) weeks() {
	back := day.InWeek(v.zone, v.Term.From.Weekday())
	for d := v.Term.From.Add(-back); v.Term.Until.Holds(d) && len(v.Weeks) < mostWeeks; d = d.Add(7) {
		w := week{From: d, Now: !d.After(v.Today) && d.Add(6).Holds(v.Today)}
		for _, o := range v.Offs {
			if o.Kind == store.OnShow && !o.From.After(d.Add(6)) && o.Until.Holds(d) {
				w.Event = o.Name
			}
		}
		v.Weeks = append(v.Weeks, w)
	}
}

// cells puts a class's dates into the weeks.
func (v *view) cells(r *row, themes []store.Theme, done []store.Practised) {
	into := day.InWeek(v.zone, r.Day())
	for _, w := range v.Weeks {
		on := meets(r.ID, w, w.From.Add(into), done)
		x := cell{Class: r.ID, Date: season.Date{On: on}, Past: on.Before(v.Today)}
		x.None = on.Before(v.Term.From) || !v.Term.Until.Holds(on)
		for _, o := range v.Offs {
			if o.Kind == store.Holiday && o.Holds(on) {
				x.Off = o.Name
			}
		}
		for _, t := range themes {
			if t.Class == r.ID && t.On == on {
				x.Theme = t.Theme
			}
		}
		for _, d := range done {
			if d.Class == r.ID && d.On == on {
				x.Planned, x.Held, x.Marks = true, d.Held, d.Marks
				x.Skills, x.Marked = d.Skills, d.Marked
			}
		}
		if x.Past && (r.Began == nil || on.Before(*r.Began)) {
			x.None = true // nobody missed what had not begun
		}
		r.Cells = append(r.Cells, x)
	}
}

// meets is the day on which a class meets in a week: its own, or another where a session was moved to.
func meets(class string, w week, usual day.Day, done []store.Practised) day.Day {
	on := usual
	for _, d := range done {
		if d.Class == class && !d.On.Before(w.From) && d.On.Before(w.From.Add(7)) {
			if d.On == usual {
				return usual
			}
			on = d.On
		}
	}
	return on
}

func dates(cells []cell) (out []season.Date) {
	for _, c := range cells {
		out = append(out, c.Date)
	}
	return out
}

// rowsOf are the criteria of the stages that players of the class are on, with how many have shown each.
func rowsOf(r row, all []app.Standing) (out []season.Row) {
	at := map[string]int{}
	for _, stage := range r.Program.Stages {
		for _, k := range stage.Criteria {
			at[k.ID] = len(out)
			out = append(out, season.Row{Criterion: k, Stage: stage.Name})
		}
	}
	for _, s := range all {
		for _, it := range s.Readiness.Items {
			if i, known := at[it.Criterion.ID]; known {
				out[i].Of++
				if it.Status.State == evidence.Shown {
					out[i].Shown++
				}
			}
		}
	}
	return slices.DeleteFunc(out, func(r season.Row) bool { return r.Of == 0 })
}

// colours gives each skill that is a theme, or could be, one of the palette's places: the same all over the page.
func (v *view) colours() {
	count := map[string]int{}
	for _, r := range v.Rows {
		for _, k := range r.Coverage {
			count[k.Criterion.Skill] += k.Of - k.Shown
		}
		for _, c := range r.Cells {
			if c.Theme.Kind == season.Skill {
				count[c.Theme.Value] += 0
			}
		}
	}
	for k := range count {
		v.Skills = append(v.Skills, k)
	}
	slices.SortFunc(v.Skills, func(a, b string) int { return cmp.Or(count[b]-count[a], cmp.Compare(a, b)) })
	for i := range v.Rows {
		for k := range v.Rows[i].Cells {
			c := &v.Rows[i].Cells[k]
			if c.Theme.Kind == season.Skill {
				c.Colour = v.Colour(c.Theme.Value)
			}
		}
	}
}

// hues are how many colours the palette has; then they come again, and the word says which.
const hues = 8

// Colour is a skill's place in the palette, from 1.
func (v view) Colour(skill string) int { return slices.Index(v.Skills, skill)%hues + 1 }

// SkillsOf are the skills that a class can have as a theme: those of its criteria.
func (v view) SkillsOf(r row) (out []string) {
	for _, k := range r.Coverage {
		if !slices.Contains(out, k.Criterion.Skill) {
			out = append(out, k.Criterion.Skill)
		}
	}
	return out
}

// Never says which criteria of the opened class never come up, and on which dates they could: those that are open, the
// latest before the next event first.
func (v view) Never() (out []neverRow) {
	if v.Open == nil {
		return nil
	}
	for _, r := range v.Open.Coverage {
		if !r.Never() {
			continue
		}
		n := neverRow{Row: r}
		for _, c := range v.Open.Cells {
			if c.free() && c.Theme.Kind == season.Open && len(n.Free) < season.Often {
				n.Free = append(n.Free, c)
			}
		}
		out = append(out, n)
	}
	return out
}

type neverRow struct {
	season.Row
	Free []cell
}

// Days are the dates on which it could come up, in words.
func (n neverRow) Days() string {
	var out []string
	for _, c := range n.Free {
		out = append(out, c.On.Format("2 Jan"))
	}
	return say.List(out)
}

// themeOf reads a theme: "skill feinting", "clean-up", "event", "words", or nothing.
func themeOf(f *shell.Form) (t season.Theme, ok bool) {
	kind, value, _ := strings.Cut(f.Get("theme"), " ")
	t = season.Theme{Kind: season.Kind(kind), Value: strings.TrimSpace(value)}
	if t.Kind == season.Words || t.Kind == season.Event {
		t.Value = f.Text("words", 40, "")
	}
	t.Says = f.Text("says", 200, "")
	t.Pinned = f.Get("pinned") != ""
	switch {
	case !t.Kind.Known(), t.Kind == season.Skill && (t.Value == "" || len([]rune(t.Value)) > 40):
		f.Wrong("theme", "Choose what the day is about.")
	case t.Kind == season.Words && t.Value == "":
		f.Wrong("words", "Write what the day is about.")
	}
	return t, f.OK()
}

// setThemes gives dates of classes a theme: those that are named, and from the first of them on every week or every other
// one, if that is asked for. What is over, off, or pinned keeps its own.
func setThemes(c *shell.Ctx) error {
	f := shell.NewForm(c)
	t, ok := themeOf(f)
	if !ok {
		return showWith(c, f, firstOf(f))
	}
	v, err := read(c)
	if err != nil {
		return err
	}
	named := f.All("cell")
	step := map[string]int{"weekly": 1, "other": 2}[f.Get("repeat")]
	var to []store.Theme
	for _, r := range v.Rows {
		first := slices.IndexFunc(r.Cells, func(x cell) bool { return slices.Contains(named, x.Key()) })
		for i, x := range r.Cells {
			asked := slices.Contains(named, x.Key())
			on := asked || step > 0 && first >= 0 && i > first && (i-first)%step == 0 && !x.Theme.Pinned
			if on && x.free() {
				to = append(to, store.Theme{Class: r.ID, On: x.On, Theme: t})
			}
		}
	}
	if len(to) == 0 {
		return showWith(c, f, "Choose days to come, on which the class meets.")
	}
	says := "Left open"
	if t.Kind != season.Open {
		says = say.Upper(t.String())
	}
	c.Back = back(c)
	err = c.Change("", fmt.Sprintf("%s: %s", says, say.Count(len(to), "day")), func(tx *store.Tx) error {
		for _, x := range to {
			if err := tx.PutTheme(c.Ctx(), x); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return err
	}
	return c.To(back(c))
}

func firstOf(f *shell.Form) string {
	for _, k := range []string{"theme", "words", "says", "name", "from", "until"} {
		if says := f.Errors[k]; says != "" {
			return says
		}
	}
	return "That cannot be."
}

// back is the page as it was: the same term and class.
func back(c *shell.Ctx) string {
	q := url.Values{}
	for _, k := range []string{"term", "class"} {
		if x := c.Query(k); store.IsID(x) {
			q.Set(k, x)
		}
	}
	if len(q) == 0 {
		return "/season"
	}
	return "/season?" + q.Encode()
}

// move puts a date's theme on another date of the same class; what was there goes to the first.
func move(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v, err := read(c)
	if err != nil {
		return err
	}
	var from, to *cell
	for i := range v.Rows {
		for k := range v.Rows[i].Cells {
			switch x := &v.Rows[i].Cells[k]; x.Key() {
			case f.Get("from"):
				from = x
			case f.Get("to"):
				to = x
			}
		}
	}
	if from == nil || to == nil || from.Class != to.Class || !from.free() || !to.free() {
		return showWith(c, f, "A theme goes to another day to come, of the same class.")
	}
	c.Back = back(c)
	err = c.Change("", fmt.Sprintf("%s: %s", say.Upper(from.Theme.String()), to.On.Format("2 Jan")), func(tx *store.Tx) error {
		if err := tx.PutTheme(c.Ctx(), store.Theme{Class: to.Class, On: to.On, Theme: from.Theme}); err != nil {
			return err
		}
		return tx.PutTheme(c.Ctx(), store.Theme{Class: from.Class, On: from.On, Theme: to.Theme})
	})
	if err != nil {
		return err
	}
	return c.To(back(c))
}

// fill gives the open dates of a class, or of all, a skill each.
func fill(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v, err := read(c)
	if err != nil {
		return err
	}
	after := map[string][]string{}
	err = c.In(func(tx *store.Tx) error {
		drills, err := tx.Drills(c.Ctx())
		for _, d := range drills {
			for _, skill := range d.Skills {
				after[skill] = append(after[skill], d.After...)
			}
		}
		return err
	})
	if err != nil {
		return err
	}
	var put []store.Theme
	var short []string
	proven := true
	for _, r := range v.Rows {
		if only := f.Get("only"); only != "" && only != r.ID {
			continue
		}
		got, themes := r.filled(after)
		put = append(put, themes...)
		proven = proven && got.Proven
		if len(themes) > 0 && len(got.Short) > 0 {
			n := 0
			for _, s := range got.Short {
				n += s.By
			}
			short = append(short, fmt.Sprintf("%s needs %s more", r.Name, say.Count(n, "day")))
		}
	}
	if len(put) == 0 {
		return showWith(c, f, "Every day to come has a theme, or nothing is missing.")
	}
	c.Back = back(c)
	err = c.Change("", "Filled "+say.Count(len(put), "day"), func(tx *store.Tx) error {
		for _, t := range put {
			if err := tx.PutTheme(c.Ctx(), t); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return err
	}
	says := "Spread out as well as can be."
	if !proven {
		says = "Spread out as well as was found."
	}
	if len(short) > 0 {
		says = "Not everything fits twice: " + say.List(short) + ", or a theme less."
	}
	c.Say(says)
	return c.To(back(c))
}

// filled is the best filling of a class's open dates, and the themes that it puts there.
func (r row) filled(after map[string][]string) (got season.Filled, put []store.Theme) {
	var slots []season.Slot
	for _, c := range r.Cells {
		s := season.Slot{Open: c.free() && c.Theme.Kind == season.Open}
		switch {
		case c.Held:
			s.Skills = c.Skills
		case c.free() && c.Theme.Kind == season.Skill:
			s.Skills = []string{c.Theme.Value}
		}
		slots = append(slots, s)
	}
	got = season.Fill(slots, season.Needs(r.Coverage, after))
	for i, skill := range got.Skills {
		if skill != "" {
			put = append(put, store.Theme{
				Class: r.ID, On: r.Cells[i].On, Theme: season.Theme{Kind: season.Skill, Value: skill},
			})
		}
	}
	return got, put
}

// makeDates makes the sessions of a class for all its dates to come in the term, but for holidays. Each is dealt for
// who is in the class today.
func makeDates(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v, err := read(c)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(v.Rows, func(r row) bool { return r.ID == f.Get("only") })
	if at < 0 || len(v.Rows[at].Missing()) == 0 {
		return showWith(c, f, "Every date to come of this class is made.")
	}
	r := v.Rows[at]
	var made []store.Session
	var read []app.Loaded
	err = c.Rehearse(func(tx *store.Tx) error {
		for _, x := range r.Missing() {
			s, _, err := app.NewSession(c.Ctx(), tx, r.ID, x.On.Start(c.Loc), c.Now, c.Loc)
			if err != nil {
				return err
			}
			if err := tx.AddSession(c.Ctx(), s); err != nil {
				return err
			}
			l, err := app.Read(c.Ctx(), tx, s.ID, c.Now, c.Loc)
			if err != nil {
				return err
			}
			made, read = append(made, s), append(read, l)
		}
		return nil
	})
	c.Back = back(c)
	if err == nil {
		for i := range made {
			in := read[i].Input
			if in.Plan = made[i].Plan; in.DealOut() == nil { // else the plan page says why nobody is dealt yet
				made[i].Plan = in.Plan
			}
		}
		err = c.Change("", fmt.Sprintf("%s: %s", r.Name, say.Count(len(made), "date")), func(tx *store.Tx) error {
			for _, s := range made {
				if err := tx.AddSession(c.Ctx(), s); err != nil {
					return err
				}
			}
			return nil
		})
	}
	if errors.Is(err, store.ErrTaken) {
		return showWith(c, f, "Somebody made one of these dates a moment ago: look again.")
	}
	if err != nil {
		return err
	}
	return c.To(back(c))
}

// addOff keeps a holiday or an event.
func addOff(c *shell.Ctx) error {
	f := shell.NewForm(c)
	d := store.DayOff{ID: store.NewID(), Kind: f.Get("kind"), Name: f.Text("name", 40, "What is it called?")}
	d.From = f.Day("from", "From which day on?")
	if d.Until = d.From; f.Get("until") != "" {
		d.Until = f.Day("until", "")
	}
	switch {
	case d.Kind != store.Holiday && d.Kind != store.OnShow:
		f.Wrong("kind", "A holiday, or an event?")
	case f.OK() && d.Until.Before(d.From):
		f.Wrong("until", "The last day cannot be before the first.")
	case f.OK() && d.Until.Sub(d.From) > 366:
		f.Wrong("until", "That is more than a year.")
	}
	if !f.OK() {
		return showWith(c, f, firstOf(f))
	}
	c.Back = back(c)
	if err := c.Change("", d.Name, func(tx *store.Tx) error { return tx.PutDayOff(c.Ctx(), d) }); err != nil {
		return err
	}
	return c.To(back(c))
}

func dropOff(c *shell.Ctx) error {
	if !store.IsID(c.Param("id")) {
		return store.ErrNone
	}
	c.Back = back(c)
	err := c.Change("", "Taken off the list", func(tx *store.Tx) error { return tx.DropDayOff(c.Ctx(), c.Param("id")) })
	if err != nil {
		return err
	}
	return c.To(back(c))
}
