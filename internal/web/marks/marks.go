// Package marks is the sheet of players by criteria of a class.
package marks

import (
	"embed"
	"net/http"
	"slices"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Marks", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/marks", Needs: shell.SeeMarks, Handle: sheet},
	{Method: "GET", Path: "/marks/cell", Needs: shell.SeeMarks, Handle: cell},
	{Method: "POST", Path: "/marks/cell", Needs: shell.EnterMarks, Handle: enter},
}

type block struct {
	Stage coach.Stage
	Rows  []app.Standing
	Short int // who needs one mark
}

type view struct {
	Classes  []store.Class
	Class    store.Class
	Blocks   []block
	Players  int
	Unplaced shell.Unplaced
	Tonight  int       // criteria that one more good mark would finish
	Open     *cellView // the cell that is open
}

func sheet(c *shell.Ctx) error {
	var v view
	err := c.In(func(tx *store.Tx) (err error) {
		if err := v.class(c, tx); err != nil || len(v.Classes) == 0 {
			return err
		}
		programs, err := tx.Ladders(c.Ctx())
		if err != nil {
			return err
		}
		programs = slices.DeleteFunc(programs, func(p store.Program) bool { return p.ID != v.Class.ProgramID })
		if v.Unplaced, err = c.Unplaced(tx, programs); err != nil {
			return err
		}
		players, err := tx.Players(c.Ctx(), store.PlayerFilter{Class: v.Class.ID})
		if err != nil {
			return err
		}
		v.Players = len(players)
		for _, p := range programs {
			all, err := app.StandingOf(c.Ctx(), tx, p, players, c.Now)
			if err != nil {
				return err
			}
			v.blocks(p, all)
		}
		if c.Query("player") == "" {
			return nil
		}
		open, err := readCell(c, tx, c.Query("player"), c.Query("criterion"))
		v.Open = &open
		return err
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "marks.html", "Marks", v)
}

// class is the one that was asked for, else the one that meets next.
func (v *view) class(c *shell.Ctx, tx *store.Tx) (err error) {
	if v.Classes, err = tx.Classes(c.Ctx()); err != nil || len(v.Classes) == 0 {
		return err
	}
	ahead, err := tx.Sessions(c.Ctx(), store.SessionFilter{From: c.Now, Limit: 1})
	if err != nil {
		return err
	}
	which := []string{c.Query("class")}
	for _, s := range ahead {
		which = append(which, s.ClassID)
	}
	for _, id := range which {
		if i := slices.IndexFunc(v.Classes, func(k store.Class) bool { return k.ID == id }); i >= 0 {
			v.Class = v.Classes[i]
			return nil
		}
	}
	v.Class = v.Classes[0]
	return nil
}

// blocks lists the players of each stage that has some.
func (v *view) blocks(p store.Program, all []app.Standing) {
	for _, s := range p.Stages {
		b := block{Stage: s}
		for _, st := range all {
			if st.Stage.ID != s.ID {
				continue
			}
			b.Rows = append(b.Rows, st)
			if !st.Readiness.Ready && st.Readiness.Short == 1 {
				b.Short++
			}
			for _, it := range st.Readiness.Items {
				if it.Status.State == evidence.Nearly {
					v.Tonight++
				}
			}
		}
		if len(b.Rows) > 0 {
			v.Blocks = append(v.Blocks, b)
		}
	}
}
