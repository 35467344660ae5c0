package families

import (
	"encoding/json"
	"net/http"
	"net/mail"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/home"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/day"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// homeView is practice at home as who does it sees it.
type homeView struct {
	store.HomeTask
	Dose   home.Dose
	Days   string
	Before []homeDay // last week
	Week   []homeDay
	At     homeDay // the day that is spoken of: today, or the last that was asked for
	Parts  []PartView
	Locked int
	ToGo   int
	Mixed  bool
	Came   home.Came // this week
	Best   string
	Asks   bool     // a figure is asked for
	Spares []string // what they must not do
}

// homeDay is a day with what was said of it.
type homeDay struct {
	On                  day.Day
	Asked, Ahead, Today bool
	home.Answer
}

// Figured is its figure as it was typed.
func (d homeDay) Figured() string {
	if d.Figure == nil {
		return ""
	}
	return coach.Figure(*d.Figure)
}

// homeViews are the player's tasks that go on, or begin soon.
func homeViews(c *shell.Ctx, tx *store.Tx, p store.Player, today day.Day) (out []homeView, err error) {
	tasks, err := tx.HomeTasks(c.Ctx(), store.HomeFilter{Player: p.ID, On: today, Today: today})
	if err != nil || len(tasks) == 0 {
		return nil, err
	}
	ids := []string{}
	for _, t := range tasks {
		ids = append(ids, t.ID)
	}
	all, err := tx.HomeAnswers(c.Ctx(), ids, p.ID)
	if err != nil {
		return nil, err
	}
	most, err := app.HomeMost(c.Ctx(), tx)
	if err != nil {
		return nil, err
	}
	for _, t := range tasks {
		whom, _ := t.Whom(p.ID)
		v, err := homeViewOf(c, tx, t, whom, store.Of(all, t.ID, p.ID), most)
		if err != nil {
			return nil, err
		}
		out = append(out, v)
	}
	return out, nil
}

func homeViewOf(
	c *shell.Ctx, tx *store.Tx, t store.HomeTask, whom store.HomePlayer, answers []home.Answer, most time.Duration,
) (v homeView, err error) {
	today := c.Today()
	v = homeView{
		HomeTask: t, Days: t.InWords(first(c)), Dose: app.DoseOf(t, whom, answers, today, most), Spares: home.Spares(whom.Limits),
	}
	open := t.Open(answers, whom.Opened)
	v.Locked, v.ToGo, v.Mixed = len(t.Parts)-open, t.ToNext(answers, whom.Opened), t.Mixed(answers, open)
	v.Asks = len(t.Levels) > 0 || t.Unit != "" || t.Criterion != ""
	if v.Parts, err = Parts(c, tx, v.Dose.Parts, 420, 260); err != nil {
		return v, err
	}
	if best, ok := t.Best(answers); ok {
		v.Best = strings.TrimSpace(coach.Figure(best) + " " + t.Unit)
		if n := t.Level(best); n > 0 {
			v.Best += ", level " + strconv.Itoa(n) + " of " + strconv.Itoa(len(t.Levels))
		}
	}
	two := weeks(c, today, 2)
	v.Came = t.Came(answers, two[1][0], two[1][6])
	said := func(days []day.Day) (out []homeDay) {
		for _, d := range days {
			h := homeDay{On: d, Asked: t.On(d), Ahead: d.After(today) || d.Before(t.From), Today: d == today}
			for _, a := range answers {
				if a.On == d {
					h.Answer = a
				}
			}
			if !h.Ahead && (h.Asked || h.Done || h.Today) {
				v.At = h
			}
			out = append(out, h)
		}
		return out
	}
	v.Before, v.Week = said(two[0]), said(two[1])
	return v, nil
}

// guardianView is the page of a link: what is told of one player, and what can be answered.
type guardianView struct {
	reportView
	Path  string // of the link
	Key   string // by which a phone keeps its own of this page
	Own   bool   // the reader is the player
	Mail  string
	Wrong string // about the mail
	Typed string
	Dates []dateView
	Ask   *store.Member
}

// dateView is a date to come.
type dateView struct {
	When, Class, Where, Says string
	Off                      bool
}

// Whose names the page.
func (v guardianView) Whose() string {
	if v.Own {
		return "Your page"
	}
	return v.First + "’s page"
}

// linked opens the link of the address: from then on the request is about its club. Whatever is wrong with a link, the
// same is said of it.
func linked(c *shell.Ctx) (store.Shown, error) {
	c.Header("Referrer-Policy", "no-referrer")
	c.Header("X-Robots-Tag", "noindex, nofollow")
	g, err := c.S.Store.ByGuardianLink(c.Ctx(), shell.HashOf(c.Param("secret")), c.Now)
	if err == nil {
		c.Club, c.Loc = g.Club, g.Club.Location()
		c.Now = c.Now.In(c.Loc)
	}
	return g, err
}

// byLink handles what is sent from the page of a link.
func byLink(handle func(*shell.Ctx, store.Shown) error) func(*shell.Ctx) error {
	return func(c *shell.Ctx) error {
		g, err := linked(c)
		if store.IsNone(err) {
			return noLink(c)
		}
		if err != nil {
			return err
		}
		return handle(c, g)
	}
}

func noLink(c *shell.Ctx) error {
	return c.Bare(pages, http.StatusNotFound, "no-link.html", "This link shows nothing", nil)
}

// forGuardian shows the one child of a link to whoever has it.
func forGuardian(c *shell.Ctx) error { return guardianWith(c, http.StatusOK, "", "") }

func guardianWith(c *shell.Ctx, status int, typed, wrong string) error {
	g, err := linked(c)
	if store.IsNone(err) {
		return noLink(c)
	}
	if err != nil {
		return err
	}
	v := guardianView{Path: "/for/" + c.Param("secret"), Own: g.Own, Mail: g.Mail, Typed: typed, Wrong: wrong}
	v.Key = shell.HashOf(v.Path)
	err = c.In(func(tx *store.Tx) (err error) {
		if v.reportView, err = readReport(c, tx, g.PlayerID, c.Now, c.Loc); err != nil {
			return err
		}
		return v.dates(c, tx, g.PlayerID)
	})
	if err != nil {
		return err
	}
	v.Club, v.Until = g.Club.Name, g.Until.Format("2 January 2006")
	return c.Bare(pages, status, "guardian.html", v.Whose(), v)
}

// aheadDays is how far ahead dates are told.
const aheadDays = 28

// dates reads what is next, and who can be asked.
func (v *guardianView) dates(c *shell.Ctx, tx *store.Tx, player string) error {
	ahead, err := app.DatesOf(c.Ctx(), tx, player, c.Now, c.Now.AddDate(0, 0, aheadDays))
	if err != nil {
		return err
	}
	members, err := tx.Members(c.Ctx(), c.Now)
	if err != nil {
		return err
	}
	themes, err := tx.Themes(c.Ctx(), c.Today(), c.Today().Add(aheadDays))
	if err != nil {
		return err
	}
	for _, s := range ahead {
		on := day.In(s.StartsAt, c.Loc)
		d := dateView{
			When:  s.StartsAt.In(c.Loc).Format("Mon 2 Jan 15:04"),
			Class: s.ClassName,
			Where: s.Venue.Name,
			Off:   s.Cancelled,
		}
		for _, t := range themes {
			if t.Class == s.ClassID && t.On == on {
				d.Says = t.Says
			}
		}
		if len(v.Dates) < 5 {
			v.Dates = append(v.Dates, d)
		}
		for _, l := range s.Leaders {
			i := slices.IndexFunc(members, func(m store.Member) bool { return m.ID == l.Member && m.Role != "helper" })
			if v.Ask == nil && i >= 0 {
				v.Ask = &members[i]
			}
		}
	}
	for i := range members {
		if v.Ask == nil && members[i].Role == "lead" {
			v.Ask = &members[i]
		}
	}
	return nil
}

// mostDays are said at once.
const mostDays = 200

// takeDays takes what a page kept, maybe without network, until it could send it: each thing once however often it
// comes, and each for itself.
func takeDays(c *shell.Ctx) error {
	var in struct {
		Items []struct {
			ID string `json:"id"`
			app.HomeSaid
		} `json:"items"`
	}
	if err := json.NewDecoder(c.Request.Body).Decode(&in); err != nil || len(in.Items) > mostDays {
		return &shell.Problem{Status: http.StatusBadRequest, Says: "What this page sent could not be read."}
	}
	g, err := linked(c)
	if err != nil {
		return err
	}
	type answer struct {
		ID   string `json:"id"`
		Kept bool   `json:"kept"`
		Why  string `json:"why,omitempty"`
	}
	answers := make([]answer, 0, len(in.Items))
	for _, it := range in.Items {
		a := answer{ID: it.ID, Kept: true}
		err := c.In(func(tx *store.Tx) error {
			return app.TakeHome(c.Ctx(), tx, g.PlayerID, g.Link, it.HomeSaid, c.Now)
		})
		if err != nil {
			p, final := shell.Refusal(err)
			if !final {
				return err
			}
			a.Kept, a.Why = false, p.Says
		}
		answers = append(answers, a)
	}
	c.JSON(http.StatusOK, map[string]any{"answers": answers})
	return nil
}

// takeDay is the same from a form, for a browser without scripts: a day is ticked or no longer, or something is said of
// one.
func takeDay(c *shell.Ctx, g store.Shown) (err error) {
	f := shell.NewForm(c)
	it := app.HomeSaid{Task: f.Get("task"), Done: true}
	if it.Day, err = day.Parse(f.Get("day")); err != nil {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "Which day?"}
	}
	err = c.In(func(tx *store.Tx) error {
		ids := []string{}
		if store.IsID(it.Task) {
			ids = append(ids, it.Task)
		}
		all, err := tx.HomeAnswers(c.Ctx(), ids, g.PlayerID)
		if err != nil {
			return err
		}
		for _, a := range all {
			if a.On == it.Day {
				it.Felt, it.Figure, it.Words = a.Felt, a.Figure, a.Words
				it.Done = f.Get("about") != "" || !a.Done
			}
		}
		if f.Get("about") != "" {
			if err := about(&it, f); err != nil {
				return err
			}
		}
		return app.TakeHome(c.Ctx(), tx, g.PlayerID, g.Link, it, c.Now)
	})
	if err != nil {
		return err
	}
	return c.To("/for/" + c.Param("secret"))
}

// about reads what is said of a day beside its tick.
func about(it *app.HomeSaid, f *shell.Form) error {
	if _, sent := f.Values["felt"]; sent {
		it.Felt = f.Get("felt")
	}
	if _, sent := f.Values["words"]; sent {
		it.Words = f.Get("words")
	}
	if _, sent := f.Values["figure"]; sent {
		it.Figure = nil
		if f.Get("figure") != "" {
			x := f.Float("figure", 0, 100000, "The figure")
			if !f.OK() {
				return doc.Input("figure", "%s", f.Errors["figure"])
			}
			it.Figure = &x
		}
	}
	return nil
}

// setMail asks for reminders, or ends them.
func setMail(c *shell.Ctx, g store.Shown) error {
	f := shell.NewForm(c)
	to := ""
	if f.Get("end") == "" {
		to = f.Text("mail", 200, "Where should reminders go?")
		a, err := mail.ParseAddress(to)
		if err != nil || a.Address != to {
			return guardianWith(c, http.StatusUnprocessableEntity, to, "A mail address is written like name@example.org.")
		}
	}
	err := c.In(func(tx *store.Tx) error { return tx.SetLinkMail(c.Ctx(), g.Link, to, shell.RandomKey(24), c.Whole("")) })
	if err != nil {
		return err
	}
	return c.To("/for/" + c.Param("secret") + "#mail")
}

// guardianCalendar are the dates of a link's child, for a calendar. It ends with the link.
func guardianCalendar(c *shell.Ctx) error {
	g, err := linked(c)
	if err != nil {
		return err
	}
	var events []exchange.Event
	err = c.In(func(tx *store.Tx) (err error) {
		events, err = app.Calendar(c.Ctx(), tx, app.WhoseDates{Player: g.PlayerID}, "", c.Now, c.Loc)
		return err
	})
	if err != nil {
		return err
	}
	return c.Calendar(exchange.WriteCalendar(g.Club.Name, events, c.Now))
}

// remindersEnd is where the address in a mail leads: it asks once, since mail programs open addresses by themselves.
func remindersEnd(c *shell.Ctx) error {
	c.Header("Referrer-Policy", "no-referrer")
	ended := c.Request.Method == http.MethodPost
	if ended {
		if _, err := c.S.Store.EndReminders(c.Ctx(), c.Param("secret")); err != nil {
			return err
		}
	}
	return c.Bare(pages, http.StatusOK, "reminders.html", "Reminders", ended)
}

// mailbox shows what would have been sent: the program sends nothing by itself.
func mailbox(c *shell.Ctx) error {
	var mails []store.Mail
	err := c.In(func(tx *store.Tx) (err error) {
		mails, err = tx.Mails(c.Ctx())
		return err
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "mailbox.html", "Mails", mails)
}
