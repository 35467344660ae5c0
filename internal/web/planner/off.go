package planner

import (
	"errors"
	"net/http"
	"strings"

	"gruppo/internal/app"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// named reads the session of the address and what it is called: its class and day.
func named(c *shell.Ctx) (s store.Session, name string, err error) {
	err = c.In(func(tx *store.Tx) (err error) {
		s, err = tx.Session(c.Ctx(), c.Param("id"))
		return err
	})
	return s, s.ClassName + " on " + s.StartsAt.In(c.Loc).Format("Mon 2 Jan"), err
}

// cancel says that a session does not take place; with "back", that it does after all.
func cancel(c *shell.Ctx) error {
	s, name, err := named(c)
	if err != nil {
		return err
	}
	off, says := c.PostForm("back") == "", name+" does not take place"
	if !off {
		says = name + " takes place after all"
	}
	if off && s.Started {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "This session has begun: end it courtside."}
	}
	var told app.Told
	c.Back = "/sessions/" + s.ID
	err = c.Change("", says, func(tx *store.Tx) (err error) {
		if err := tx.Cancel(c.Ctx(), s.ID, off); err != nil {
			return err
		}
		if told, err = app.Tell(c.Ctx(), tx, s, about(s), says, says+".", c.Now); err != nil {
			return err
		}
		return tx.Tell(c.Ctx(), s.ID, "again")
	})
	if err != nil {
		return err
	}
	c.Say(says + ". " + told.String())
	return c.To("/sessions/" + s.ID)
}

// about tells one change to a session's date from the next.
func about(s store.Session) string { return "date " + s.ID + " " + store.NewID() }

// move puts a session at another time.
func move(c *shell.Ctx) error {
	s, name, err := named(c)
	if err != nil {
		return err
	}
	f := shell.NewForm(c)
	again := func() error {
		v := moreView{Form: f}
		if err := v.load(c); err != nil {
			return err
		}
		return c.Page(pages, http.StatusUnprocessableEntity, "more.html", "Plans in and out", &v)
	}
	to, hint, err := day.On(f.Day("to-day", "To which day?").Start(c.Loc), f.Get("to-time"), c.Loc)
	switch {
	case s.Started:
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "This session has begun: it cannot be moved."}
	case err != nil:
		f.Wrong("to-time", "A time is written like 18:00.")
	case f.OK() && to.Year() > 2100:
		f.Wrong("to-day", "That is too far away.")
	case f.OK() && to.Equal(s.StartsAt):
		f.Wrong("to-day", "It is then already.")
	}
	if !f.OK() {
		return again()
	}
	var told app.Told
	says := name + " is moved to " + to.Format("Mon 2 Jan, 15:04")
	c.Back = "/sessions/" + s.ID
	err = c.Change("", says, func(tx *store.Tx) (err error) {
		if err := tx.Move(c.Ctx(), s.ID, to); err != nil {
			return err
		}
		if err := moveTheme(c, tx, s.ClassID, day.In(s.StartsAt, c.Loc), day.Of(to)); err != nil {
			return err
		}
		if told, err = app.Tell(c.Ctx(), tx, s, about(s), says, says+", "+s.Venue.Name+".", c.Now); err != nil {
			return err
		}
		return tx.Tell(c.Ctx(), s.ID, "again")
	})
	if errors.Is(err, store.ErrTaken) {
		f.Wrong("to-day", "The class has a session then already.")
		return again()
	}
	if err != nil {
		return err
	}
	c.Say(strings.TrimSpace(says + ". " + told.String() + " " + hint))
	return c.To("/sessions/" + s.ID)
}

// moveTheme lets a day's theme go along, unless the other day has one.
func moveTheme(c *shell.Ctx, tx *store.Tx, class string, from, to day.Day) error {
	if from == to {
		return nil
	}
	first, last := from, to
	if to.Before(from) {
		first, last = to, from
	}
	themes, err := tx.Themes(c.Ctx(), first, last)
	if err != nil {
		return err
	}
	var goes *store.Theme
	for i, t := range themes {
		switch {
		case t.Class != class:
		case t.On == to:
			return nil
		case t.On == from:
			goes = &themes[i]
		}
	}
	if goes == nil {
		return nil
	}
	if err := tx.PutTheme(c.Ctx(), store.Theme{Class: class, On: from}); err != nil {
		return err
	}
	goes.On = to
	return tx.PutTheme(c.Ctx(), *goes)
}

// deleteSession deletes a session that was made by mistake: nothing of it was run, marked or noted.
func deleteSession(c *shell.Ctx) error {
	s, name, err := named(c)
	if err != nil {
		return err
	}
	c.Back = "/sessions"
	err = c.Change("", "Deleted "+name, func(tx *store.Tx) error { return tx.DeleteSession(c.Ctx(), s.ID) })
	if errors.Is(err, store.ErrRun) {
		return &shell.Problem{
			Status: http.StatusUnprocessableEntity,
			Says:   "Something was run, marked or noted in this session, so it stays. It can be cancelled while it has not begun.",
		}
	}
	if err != nil {
		return err
	}
	return c.To("/sessions")
}
