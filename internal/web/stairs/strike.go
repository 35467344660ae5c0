package stairs

import (
	"net/http"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// noteDone ticks a note off, and goes back to where it was read.
func noteDone(c *shell.Ctx) error {
	if err := c.Change("", "Ticked the note off", func(tx *store.Tx) error { return tx.NoteDone(c.Ctx(), c.Param("id"), c.Now) }); err != nil {
		return err
	}
	return c.To(back(shell.NewForm(c), "/"))
}

// back is the page that a form was on, if it names one of ours.
func back(f *shell.Form, or string) string {
	if to := f.Get("to"); strings.HasPrefix(to, "/") && !strings.HasPrefix(to, "//") {
		return to
	}
	return or
}

func strike(c *shell.Ctx) error {
	f := shell.NewForm(c)
	reason := f.Text("why", 200, "Say why: the mark stays to be seen, with your reason.")
	var m coach.Mark
	err := c.In(func(tx *store.Tx) error {
		ms, err := tx.Marks(c.Ctx(), store.MarkFilter{ID: c.Param("id")})
		if err != nil {
			return err
		}
		if len(ms) == 0 {
			return store.ErrNone
		}
		if m = ms[0]; !f.OK() {
			return nil
		}
		return tx.Strike(c.Ctx(), m.ID, c.Member.ID, reason, c.S.Now())
	})
	if err != nil {
		return err
	}
	if !f.OK() {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: f.Errors["why"]}
	}
	c.Say("Struck out. It stays to be seen, and counts for nothing.")
	return c.To(back(f, "/players/"+m.PlayerID))
}
