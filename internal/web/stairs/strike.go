package stairs

import (
	"net/http"

	"gruppo/internal/coach"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// noteDone ticks a note off, and goes back to where it was read.
func noteDone(c *shell.Ctx) error {
	if err := c.Change("", "Ticked the note off", func(tx *store.Tx) error { return tx.NoteDone(c.Ctx(), c.Param("id"), c.Now) }); err != nil {
		return err
	}
	return c.To(shell.NewForm(c).Back("/"))
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
		return tx.Strike(c.Ctx(), m.ID, c.Member.ID, reason, c.Now)
	})
	if err != nil {
		return err
	}
	if !f.OK() {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: f.Errors["why"]}
	}
	c.Say("Struck out. It stays to be seen, and counts for nothing.")
	return c.To(f.Back("/players/" + m.PlayerID))
}
