package season

import (
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"

	"gruppo/internal/app"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// calendarsView are the addresses by which dates are read elsewhere: of one's own sessions, and of each class.
type calendarsView struct {
	Mine    calendarRow
	Classes []calendarRow
	Fresh   string // an address just made; it is not shown again
	Of      string // whose it is
}

type calendarRow struct {
	ID, Name string // of the class; empty: one's own
	All      []store.Calendar
}

func calendars(c *shell.Ctx) error { return calendarsWith(c, "", "") }

func calendarsWith(c *shell.Ctx, of, fresh string) error {
	v := calendarsView{Fresh: fresh, Of: of}
	err := c.In(func(tx *store.Tx) (err error) {
		all, err := tx.Calendars(c.Ctx(), c.Member.ID)
		if err != nil {
			return err
		}
		v.Mine.All = ofClass(all, "")
		if !c.May(shell.ChangePlan) {
			return nil
		}
		classes, err := tx.Classes(c.Ctx())
		for _, k := range classes {
			v.Classes = append(v.Classes, calendarRow{ID: k.ID, Name: k.Name, All: ofClass(all, k.ID)})
		}
		return err
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "calendars.html", "Calendars", v)
}

// ofClass are the addresses of a class; of none: one's own.
func ofClass(all []store.Calendar, class string) (out []store.Calendar) {
	for _, k := range all {
		if k.Class == class {
			out = append(out, k)
		}
	}
	return out
}

// makeCalendar makes an address. It is shown once: only the hash of its secret is kept.
func makeCalendar(c *shell.Ctx) error {
	k := store.Calendar{ID: store.NewID(), Member: c.Member.ID, MadeAt: c.Now}
	of := "your sessions"
	secret := shell.RandomKey(24)
	err := c.In(func(tx *store.Tx) error {
		if class := shell.NewForm(c).Get("class"); class != "" {
			if !c.May(shell.ChangePlan) || !store.IsID(class) {
				return store.ErrNone
			}
			name, err := tx.NameOf(c.Ctx(), store.OutClass, class)
			if err != nil {
				return err
			}
			k.Member, k.Class, of = "", class, name
		}
		return tx.AddCalendar(c.Ctx(), k, shell.HashOf(secret), c.Member.ID)
	})
	if err != nil {
		return err
	}
	return calendarsWith(c, of, c.Whole("/calendar/"+secret+".ics"))
}

func withdrawCalendar(c *shell.Ctx) error {
	err := c.In(func(tx *store.Tx) error {
		class, err := tx.WithdrawCalendar(c.Ctx(), c.Param("id"), c.Member.ID, c.Now)
		if err == nil && class != "" && !c.May(shell.ChangePlan) {
			return store.ErrNone // and so it is taken back
		}
		return err
	})
	if err != nil {
		return err
	}
	c.Say("Withdrawn: whoever has the address sees no dates any more.")
	return c.To("/calendars")
}

// calendar answers with the dates of an address. It says the same of one that is withdrawn and one that never was.
func calendar(c *shell.Ctx) error {
	c.Header("Referrer-Policy", "no-referrer")
	c.Header("X-Robots-Tag", "noindex, nofollow")
	secret := strings.TrimSuffix(c.Param("secret"), ".ics")
	k, err := c.S.Store.ByCalendar(c.Ctx(), shell.HashOf(secret), c.Now)
	if err != nil {
		return err
	}
	loc := k.Club.Location()
	var events []exchange.Event
	name := k.Club.Name
	err = c.S.Store.In(c.Ctx(), k.Club.ID, func(tx *store.Tx) (err error) {
		of := app.WhoseDates{Member: k.Member, Class: k.Class}
		if k.Class != "" {
			if name, err = tx.NameOf(c.Ctx(), store.OutClass, k.Class); err != nil {
				return err
			}
		}
		events, err = app.Calendar(c.Ctx(), tx, of, c.Whole(""), c.Now.In(loc), loc)
		return err
	})
	if err != nil {
		return err
	}
	return c.Calendar(exchange.WriteCalendar(name, events, c.Now))
}

// bringView is what a calendar that is brought in has, to be taken or left.
type bringView struct {
	Found []foundRow
	Bad   []exchange.Unread
	Wrong string
	Term  season.Term
	Query string
}

type foundRow struct {
	exchange.Found
	As   string // what is proposed for it
	Have bool   // the list has it already
}

// mostFound are shown of a calendar.
const mostFound = 200

// bring reads a calendar's file and shows what it has in the term; nothing is taken yet.
func bring(c *shell.Ctx) error {
	v := bringView{Query: strings.TrimPrefix(back(c), "/season")}
	err := v.read(c)
	var wrong *shell.Problem
	if errors.As(err, &wrong) {
		v.Wrong = wrong.Says
		return c.Page(pages, wrong.Status, "bring.html", "A calendar", v)
	}
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "bring.html", "A calendar", v)
}

func (v *bringView) read(c *shell.Ctx) error {
	wrong := func(says string) error { return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: says} }
	var have []store.DayOff
	err := c.In(func(tx *store.Tx) error {
		terms, err := tx.Terms(c.Ctx())
		if err != nil {
			return err
		}
		v.Term, _ = season.Chosen(terms, c.Today(), c.Query("term"))
		have, err = tx.DaysOff(c.Ctx(), v.Term.From, v.Term.Until)
		return err
	})
	if err != nil {
		return err
	}
	upload, err := c.FormFile("file")
	if c.TooLarge {
		return wrong(fmt.Sprintf("This file is over %d MB; bring in a part of it.", exchange.MostCalendar>>20))
	}
	if err != nil {
		return wrong("Choose a calendar file first: its name mostly ends in .ics.")
	}
	r, err := upload.Open()
	if err != nil {
		return err
	}
	defer r.Close()
	text, err := io.ReadAll(r)
	if err != nil {
		return wrong("The file could not be read to its end.")
	}
	found, bad, err := exchange.ReadCalendar(text, v.Term.From, v.Term.Until, c.Loc)
	if err != nil {
		return wrong(err.Error())
	}
	if v.Bad = bad; len(found) > mostFound {
		return wrong(fmt.Sprintf("It has %d dates in this term; %d are the most.", len(found), mostFound))
	}
	for _, f := range found {
		row := foundRow{Found: f}
		for _, d := range have {
			row.Have = row.Have || d.Name == f.Name && d.From == f.From && d.Until == f.Until
		}
		if f.Whole && !row.Have {
			row.As = store.Holiday
		}
		v.Found = append(v.Found, row)
	}
	return nil
}

// takeBrought takes what was agreed to of a calendar.
func takeBrought(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var take []store.DayOff
	for i := range mostFound {
		at := func(field string) string { return fmt.Sprint(field, "-", i) }
		d := store.DayOff{ID: store.NewID(), Kind: f.Get(at("as")), Name: f.Text(at("name"), 40, "")}
		if d.Kind == "" {
			continue
		}
		d.From, d.Until = f.Day(at("from"), "From which day on?"), f.Day(at("until"), "Until which day?")
		if d.Name == "" || (d.Kind != store.Holiday && d.Kind != store.OnShow) ||
			f.OK() && (d.Until.Before(d.From) || d.Until.Sub(d.From) > 366) {
			f.Wrong(at("as"), "One of the dates cannot be.")
		}
		take = append(take, d)
	}
	if !f.OK() {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "One of the dates cannot be, so none was taken. Bring the calendar in again."}
	}
	if len(take) == 0 {
		c.Say("Nothing was taken.")
		return c.To(back(c))
	}
	c.Back = back(c)
	err := c.Change("", "Took "+say.Count(len(take), "date")+" from a calendar", func(tx *store.Tx) error {
		for _, d := range take {
			if err := tx.PutDayOff(c.Ctx(), d); err != nil {
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

// Days says when it is.
func (f foundRow) Days() string {
	if f.From == f.Until {
		return f.From.Format("Mon 2 Jan 2006")
	}
	return f.From.Format("Mon 2 Jan") + " to " + f.Until.Format("Mon 2 Jan 2006")
}
