// Package today is the first page: the day, what to settle before the whistle, tonight in figures, and who is close to
// the edge.
package today

import (
	"cmp"
	"embed"
	"fmt"
	"net/http"
	"slices"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/say"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Today", files)

// Routes of this place.
var Routes = []shell.Route{{Method: "GET", Path: "/", Needs: shell.SeeToday, Handle: today}}

type bar struct {
	store.Session
	X, W, Y     float64
	TextX       float64
	Anchor      string // of the text: start or end
	Beside      bool   // the text stands beside the box
	Title       string
	Under       string
	When        string
	Past, Ahead bool
	Next        bool
	Shut        bool // not open to a helper yet, or not any more
}

type tick struct {
	X     float64
	Label string
}

type view struct {
	Day      string
	When     string
	Bars     []bar
	Ticks    []tick
	NowX     float64
	Height   float64
	Next     *app.Loaded
	NextWhen string
	Longest  time.Duration
	Edge     []app.Standing
	Findings []check.Finding
	Later    []bar
	Steps    []firstStep
	Helper   bool
}

// firstStep is what a new club does next.
type firstStep struct {
	Done      bool
	Says, To  string
	Explained string
}

func today(c *shell.Ctx) error {
	v := view{Day: c.Now.Format("Monday 2 January"), Helper: c.Member.Role == "helper"}
	midnight := time.Date(c.Now.Year(), c.Now.Month(), c.Now.Day(), 0, 0, 0, 0, c.Loc)
	err := c.In(func(tx *store.Tx) error {
		f := store.SessionFilter{From: midnight, To: midnight.AddDate(0, 0, 14), Cancelled: true, Counted: true}
		if v.Helper {
			f.Member = c.Member.ID
		}
		all, err := tx.Sessions(c.Ctx(), f)
		if err != nil {
			return err
		}
		v.day(all, midnight, c)
		i := slices.IndexFunc(
			all,
			func(s store.Session) bool { return s.Ends().After(c.Now) && !s.Ended && !s.Cancelled },
		)
		if v.Helper {
			return nil
		}
		if i < 0 {
			return v.first(c, tx)
		}
		programs, err := tx.AllLadders(c.Ctx())
		if err != nil {
			return err
		}
		l, err := app.ReadSession(c.Ctx(), tx, all[i], programs, c.Now, c.Loc)
		if err != nil {
			return err
		}
		v.Next, v.NextWhen = &l, when(all[i], c.Now, c.Loc)
		close, err := app.StandingFrom(c.Ctx(), tx, l.Program, l.Players, l.Marks, c.Now)
		if err != nil {
			return err
		}
		v.Edge = nearest(close)
		return nil
	})
	if err != nil {
		return err
	}
	if v.Next != nil {
		v.Next.Work()
		v.Findings = v.Next.Picture.Findings
		for _, r := range v.Next.Picture.Ledger {
			v.Longest = max(v.Longest, r.Wait)
		}
	}
	return c.Page(pages, http.StatusOK, "today.html", "Today", v)
}

// Chosen reports whether the next plan says what is done at its stations, so that its figures mean something.
func (v view) Chosen() bool {
	open := func(f check.Finding) bool { _, is := f.What.(check.NoDrill); return is }
	return len(v.Next.Picture.Ledger) > 0 && !slices.ContainsFunc(v.Findings, open)
}

// nearest are those who are ready or one mark short, ready ones first.
func nearest(all []app.Standing) []app.Standing {
	all = slices.DeleteFunc(all, func(s app.Standing) bool {
		_, up := s.Next()
		return !up || !s.Readiness.Ready && s.Readiness.Short != 1
	})
	slices.SortStableFunc(all, func(a, b app.Standing) int {
		if a.Readiness.Ready != b.Readiness.Ready {
			if a.Readiness.Ready {
				return -1
			}
			return 1
		}
		return cmp.Compare(b.Readiness.Progress, a.Readiness.Progress)
	})
	return all[:min(len(all), 8)]
}

// when says a moment as people do.
func when(s store.Session, now time.Time, loc *time.Location) string {
	at := s.StartsAt.In(loc)
	switch d := at.Sub(now); {
	case s.Started && d > 0:
		return "running, planned for " + soon(at, now)
	case d < 0:
		return "running since " + at.Format("15:04")
	case d < time.Hour:
		return fmt.Sprintf("next whistle in %s", say.Count(int(d.Minutes())+1, "minute"))
	case at.Format(time.DateOnly) == now.Format(time.DateOnly):
		return "next whistle at " + soon(at, now)
	}
	return "next whistle " + soon(at, now)
}

// soon says a moment of the next days, seen from now.
func soon(at, now time.Time) string {
	switch at.Format(time.DateOnly) {
	case now.Format(time.DateOnly):
		return at.Format("15:04")
	case now.AddDate(0, 0, 1).Format(time.DateOnly):
		return at.Format("tomorrow, 15:04")
	}
	return at.Format("Monday, 15:04")
}

// shut reports whether a session is not open to a helper now.
func (v *view) shut(s store.Session, now time.Time) bool {
	return v.Helper &&
		(s.Cancelled || !(s.Started && !s.Ended) && (now.Before(s.StartsAt.Add(-app.HelperEarly)) || now.After(s.Ends().Add(app.HelperAfter))))
}

// day draws today's sessions, and lists the coming ones.
func (v *view) day(all []store.Session, midnight time.Time, c *shell.Ctx) {
	var list []store.Session
	tomorrow := midnight.AddDate(0, 0, 1)
	for _, s := range all {
		if s.StartsAt.Before(tomorrow) {
			list = append(list, s)
		} else if len(v.Later) < 6 {
			when := s.StartsAt.In(c.Loc).Format("Mon 2 Jan, 15:04")
			v.Later = append(v.Later, bar{Session: s, When: when, Shut: v.shut(s, c.Now)})
		}
	}
	x := v.hours(list, midnight, c)
	next := true
	var today []bar
	var ends []float64 // where each lane is free again
	for _, s := range list {
		b := bar{
			Session: s,
			X:       x(s.StartsAt),
			W:       x(s.Ends()) - x(s.StartsAt),
			Past:    s.Ended || s.Ends().Before(c.Now),
			Shut:    v.shut(s, c.Now),
		}
		b.Title, b.Under = s.ClassName, fmt.Sprintf("%d of %d coming", s.Expected, s.Enrolled)
		if s.Cancelled {
			b.Under, b.Past = "does not take place", true
		} else if b.Past {
			b.Under = "ended, " + say.Count(s.MarksTaken, "mark")
		} else if next {
			b.Next, next = true, false
		}
		from, to := b.write()
		lane := slices.IndexFunc(ends, func(e float64) bool { return e <= from })
		if lane < 0 {
			lane = len(ends)
			ends = append(ends, 0)
		}
		ends[lane] = to
		b.Y = 34 + 56*float64(lane)
		if v.Helper && !b.Past { // all a helper has to do here, and the drawing is wider than a phone
			b.When = "today, " + s.StartsAt.In(c.Loc).Format("15:04")
			today = append(today, b)
		}
		v.Bars = append(v.Bars, b)
	}
	v.Later = append(today, v.Later...)
	v.Height = 44 + 56*float64(max(1, len(ends)))
}

// dayWide is the width of the drawing of the day.
const dayWide = 680

// Wide is the width of the drawing.
func (v view) Wide() int { return dayWide }

// write puts the text into the session's box, or beside a box that is too short for it, and returns from where to where
// both reach; a name that is longer than all there is is cut.
func (b *bar) write() (from, to float64) {
	const name, under, gap = 7.2, 5.9, 7 // a letter's usual width
	wide := max(name*float64(len([]rune(b.Title))), under*float64(len([]rune(b.Under))))
	end := b.X + b.W
	b.Anchor = "start"
	switch {
	case wide+2*gap <= b.W:
		b.TextX = b.X + gap
		return b.X, end
	case end+gap+wide <= dayWide:
		b.TextX, b.Beside = end+gap, true
		return b.X, b.TextX + wide + gap
	case b.X-gap-wide >= 0:
		b.TextX, b.Anchor, b.Beside = b.X-gap, "end", true
		return b.TextX - wide, end
	}
	b.TextX = b.X + gap
	if most := int((dayWide - b.TextX) / name); len([]rune(b.Title)) > most {
		b.Title = string([]rune(b.Title)[:max(0, most-1)]) + "…"
	}
	return b.X, dayWide
}

// hours draws the hours of the day, from three to nine or as far as its sessions go, and returns where a time stands
// among them.
func (v *view) hours(list []store.Session, midnight time.Time, c *shell.Ctx) func(time.Time) float64 {
	from, to := midnight.Add(15*time.Hour), midnight.Add(21*time.Hour)
	for _, s := range list {
		if h := s.StartsAt.In(c.Loc).Truncate(time.Hour); h.Before(from) {
			from = h
		}
		if e := s.Ends().In(c.Loc); e.After(to) {
			to = e
		}
	}
	const left, right = 22.0, 640.0
	x := func(t time.Time) float64 { return left + (right-left)*t.Sub(from).Hours()/to.Sub(from).Hours() }
	for t := from; !t.After(to); t = t.Add(time.Hour) {
		v.Ticks = append(v.Ticks, tick{x(t), t.In(c.Loc).Format("15:04")})
	}
	if c.Now.After(from) && c.Now.Before(to) {
		v.NowX = x(c.Now)
	}
	return x
}

// first says what a club without a session ahead does next.
func (v *view) first(c *shell.Ctx, tx *store.Tx) error {
	players, _, err := tx.CountPlayers(c.Ctx(), store.PlayerFilter{})
	if err != nil {
		return err
	}
	classes, err := tx.Classes(c.Ctx())
	if err != nil {
		return err
	}
	drills, err := tx.Drills(c.Ctx())
	if err != nil {
		return err
	}
	v.Steps = []firstStep{
		{
			players > 0,
			"Bring your players",
			"/roster/import",
			"A CSV file or rows from a spreadsheet; names are enough.",
		},
		{
			len(drills) > 2,
			"Write down three drills",
			"/shelf/new",
			"How many it is for, how many work at once, how fast it goes.",
		},
		{len(classes) > 0, "Set up a class", "/sessions/class/new", "A weekday, a place, who leads and who comes."},
		{false, "Plan the next date", "/sessions", "Groups, rotation and timetable are worked out for you."},
	}
	return nil
}
