package roster

import (
	"fmt"
	"net/http"
	"slices"

	"gruppo/internal/coach/say"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

type stagesView struct {
	Form     *shell.Form
	Programs []store.Program
	Program  store.Program
	Players  []store.Player
}

// load reads who can be put on a stage of the program that is asked for, else of the first that has somebody.
func (v *stagesView) load(c *shell.Ctx, tx *store.Tx, program string) (err error) {
	if v.Programs, err = tx.Ladders(c.Ctx()); err != nil {
		return err
	}
	for _, p := range v.Programs {
		if program != "" && p.ID != program {
			continue
		}
		v.Program = p
		if v.Players, err = tx.Unplaced(c.Ctx(), p.ID); err != nil || len(v.Players) > 0 {
			return err
		}
	}
	return nil
}

// unplaced shows who stands on no stage, to be put on one together.
func unplaced(c *shell.Ctx) error {
	v := stagesView{Form: shell.NewForm(c)}
	err := c.In(func(tx *store.Tx) error { return v.load(c, tx, c.Query("program")) })
	if err != nil {
		return err
	}
	for _, p := range v.Players {
		v.Form.Values.Add("player", p.ID)
	}
	return c.Page(pages, http.StatusOK, "stages.html", "On which stage", v)
}

func place(c *shell.Ctx) error {
	v := stagesView{Form: shell.NewForm(c)}
	if err := c.In(func(tx *store.Tx) error { return v.load(c, tx, v.Form.Get("program")) }); err != nil {
		return err
	}
	stage, ok := v.Program.Stage(v.Form.Get("stage"))
	if !ok {
		v.Form.Wrong("stage", "On which stage do they stand?")
	}
	var chosen []string
	for _, p := range v.Players {
		if slices.Contains(v.Form.All("player"), p.ID) {
			chosen = append(chosen, p.ID)
		}
	}
	if len(chosen) == 0 {
		v.Form.Wrong("player", "Tick who stands there.")
	}
	if !v.Form.OK() {
		return c.Page(pages, http.StatusUnprocessableEntity, "stages.html", "On which stage", v)
	}
	err := c.Change(
		"",
		fmt.Sprintf("%s on %s", say.Count(len(chosen), "player"), stage.Name),
		func(tx *store.Tx) error {
			return tx.Place(c.Ctx(), chosen, v.Program.ID, stage.ID, c.Today())
		},
	)
	if err != nil {
		return err
	}
	if len(chosen) < len(v.Players) {
		return c.To("/roster/stages?program=" + v.Program.ID)
	}
	return c.To("/roster")
}
