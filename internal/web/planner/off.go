package planner

import (
	"errors"
	"net/http"

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
	c.Back = "/sessions/" + s.ID
	err = c.Change("", says, func(tx *store.Tx) error {
		if err := tx.Cancel(c.Ctx(), s.ID, off); err != nil {
			return err
		}
		return tx.Tell(c.Ctx(), s.ID, "again")
	})
	if err != nil {
		return err
	}
	return c.To("/sessions/" + s.ID)
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
