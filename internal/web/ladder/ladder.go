// Package ladder is where stages and their criteria are written, each with what it would alter before it is saved.
package ladder

import (
	"bytes"
	"embed"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Stairs", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/stairs/ladder", Needs: shell.SeeMarks, Handle: ladder},
	{
		Method: "POST",
		Path:   "/stairs/ladder",
		Needs:  shell.ChangeLadder,
		Handle: bringLadder,
		Body:   exchange.MostLadder + 1<<14,
	},
	{Method: "GET", Path: "/stairs/ladder/:id", Needs: shell.SeeMarks, Handle: ladderFile},
	{Method: "POST", Path: "/stairs/ladder/:id/copy", Needs: shell.ChangeLadder, Handle: copyLadder},
	{Method: "GET", Path: "/stairs/stage/:id", Needs: shell.ChangeLadder, Handle: stageForm},
	{Method: "POST", Path: "/stairs/stage/:id", Needs: shell.ChangeLadder, Handle: saveStage},
	{Method: "GET", Path: "/stairs/criterion/:id", Needs: shell.ChangeLadder, Handle: criterionForm},
	{Method: "POST", Path: "/stairs/criterion/:id", Needs: shell.ChangeLadder, Handle: saveCriterion},
	{Method: "POST", Path: "/stairs/criterion/:id/try", Needs: shell.ChangeLadder, Handle: tryCriterion, Heavy: true},
	{Method: "POST", Path: "/stairs/criterion/:id/move", Needs: shell.ChangeLadder, Handle: moveCriterion},
	{Method: "POST", Path: "/stairs/criterion/:id/drill", Needs: shell.ChangeLadder, Handle: sayShows},
	shell.TakesOut(
		"/stairs",
		shell.ChangeLadder,
		"/stairs/ladder",
		store.OutProgram,
		store.OutStage,
		store.OutCriterion,
	),
}

type ladderView struct {
	Programs  []store.Program
	MayChange bool
	Form      *shell.Form
	Out       shell.Outs
}

func ladder(c *shell.Ctx) error {
	return ladderView{MayChange: c.May(shell.ChangeLadder), Form: shell.NewForm(c)}.show(c, http.StatusOK)
}

func (v ladderView) show(c *shell.Ctx, status int) error {
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Programs, err = tx.Ladders(c.Ctx()); err != nil || !v.MayChange {
			return err
		}
		v.Out.At = "/stairs"
		v.Out.All, err = tx.TakenOut(c.Ctx(), store.OutProgram, store.OutStage, store.OutCriterion)
		return err
	})
	if err != nil {
		return err
	}
	return c.Page(pages, status, "ladder.html", "Stages", v)
}

type stageView struct {
	Form    *shell.Form
	ID      string // stage id, or program id when New
	New     bool
	Program string
	Name    string
	Stays   string // why it cannot be taken out now
	Rests   string // what is kept of it
	Effect  effect // of what is typed, once somebody's readiness alters by it
}

// findStage is the stage with its program; an id of a program means a new stage on top of it.
func findStage(c *shell.Ctx, tx *store.Tx, id string) (p store.Program, s coach.Stage, isNew bool, err error) {
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return p, s, false, err
	}
	for _, p := range programs {
		if p.ID == id {
			order := 1
			for _, o := range p.Stages {
				order = max(order, o.Order+1)
			}
			return p, coach.Stage{ProgramID: p.ID, Order: order, Colour: "#2a7f9e"}, true, nil
		}
		if s, ok := p.Stage(id); ok {
			return p, s, false, nil
		}
	}
	return p, s, false, store.ErrNone
}

func stageForm(c *shell.Ctx) error {
	v := stageView{Form: shell.NewForm(c), ID: c.Param("id")}
	err := c.In(func(tx *store.Tx) error {
		p, s, isNew, err := findStage(c, tx, v.ID)
		if err != nil {
			return err
		}
		v.New, v.Program, v.Name = isNew, p.Name, s.Name
		v.Form.Values = url.Values{
			"name":   {s.Name},
			"about":  {s.About},
			"colour": {s.Colour},
			"choose": {strconv.Itoa(s.StepUp.Choose)},
			"visits": {strconv.Itoa(s.StepUp.Visits)},
			"weeks":  {strconv.Itoa(s.StepUp.Weeks)},
		}
		if isNew {
			return nil
		}
		v.Form.Shows(s.Name, s.About, s.Colour, s.StepUp)
		rests, err := tx.Rests(c.Ctx(), store.OutStage, s.ID, c.Now)
		v.Stays, v.Rests = shell.KeepsIn(store.OutStage, rests), rests.Kept()
		return err
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "stage-form.html", "Stage", v)
}

func saveStage(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := stageView{Form: f, ID: c.Param("id")}
	name := f.Get("name")
	refused := false
	err := c.Change("", "Changed the stage "+name, func(tx *store.Tx) error {
		p, s, isNew, err := findStage(c, tx, v.ID)
		if err != nil {
			return err
		}
		if v.New, v.Program, v.Name = isNew, p.Name, s.Name; !isNew {
			f.Since(s.Name, s.Name, s.About, s.Colour, s.StepUp)
		}
		s.Name, s.About, s.Colour = name, f.Get("about"), f.Get("colour")
		s.StepUp = coach.StepUp{Choose: whole(f, "choose"), Visits: whole(f, "visits"), Weeks: whole(f, "weeks")}
		for _, b := range s.Check() {
			f.Wrong(b.Field, "%s", b.Says)
		}
		if slices.ContainsFunc(
			p.Stages,
			func(o coach.Stage) bool { return o.ID != s.ID && strings.EqualFold(o.Name, name) },
		) {
			f.Wrong("name", "This ladder has a stage %s already.", name)
		}
		if f.OK() && !isNew {
			if v.Effect, err = steppingUp(c, tx, p, s); err != nil {
				return err
			}
			if v.Effect.Key() != "" && f.Get("seen") != v.Effect.Key() {
				f.Wrong("seen", "This alters who is ready. Look at the list, then save once more.")
			}
		}
		if refused = !f.OK(); refused {
			return store.ErrChangedSince
		}
		if isNew {
			s.ID = store.NewID()
		}
		return tx.PutStage(c.Ctx(), s)
	})
	if refused {
		return c.Page(pages, http.StatusUnprocessableEntity, "stage-form.html", "Stage", v)
	}
	if err != nil {
		return err
	}
	return c.To("/stairs/ladder")
}

// steppingUp is whose readiness another rule for stepping up alters.
func steppingUp(c *shell.Ctx, tx *store.Tx, p store.Program, next coach.Stage) (effect, error) {
	players, err := tx.Players(c.Ctx(), store.PlayerFilter{Stage: next.ID})
	if err != nil {
		return effect{}, err
	}
	marks, err := tx.Marks(c.Ctx(), store.MarkFilter{Program: p.ID})
	if err != nil {
		return effect{}, err
	}
	before, err := app.StandingFrom(c.Ctx(), tx, p, players, marks, c.Now)
	return change(before, next, -1, marks, c), err
}

// whole is a field's whole number, or −1 where it is none: the rule then says what may stand there.
func whole(f *shell.Form, name string) int {
	n, err := strconv.Atoi(f.Get(name))
	if err != nil {
		return -1
	}
	return n
}

// ladderFile answers with a ladder as a file.
func ladderFile(c *shell.Ctx) error {
	var b bytes.Buffer
	err := c.In(func(tx *store.Tx) error {
		p, err := app.FindProgram(c.Ctx(), tx, c.Param("id"))
		if err != nil {
			return err
		}
		return exchange.WriteLadder(&b, p.Name, p.Stages)
	})
	if err != nil {
		return err
	}
	c.Attach("ladder.json")
	c.Data(http.StatusOK, "application/json", b.Bytes())
	return nil
}

// copyLadder makes a second ladder like one of the club's own.
func copyLadder(c *shell.Ctx) error {
	err := c.Change("", "Copied a ladder", func(tx *store.Tx) error {
		p, err := app.FindProgram(c.Ctx(), tx, c.Param("id"))
		if err != nil {
			return err
		}
		_, err = tx.AddLadder(c.Ctx(), p.Name, p.Family, p.Stages, c.Now)
		return err
	})
	if err != nil {
		return err
	}
	return c.To("/stairs/ladder")
}

// bringLadder takes a ladder from a file, or begins one of a family of sports by its name.
func bringLadder(c *shell.Ctx) error {
	again := func(field, says string) error {
		v := ladderView{MayChange: true, Form: shell.NewForm(c)}
		v.Form.Wrong(field, "%s", says)
		return v.show(c, http.StatusUnprocessableEntity)
	}
	if c.TooLarge {
		return again("file", "This file is over 1 MB; a ladder is a few kilobytes.")
	}
	file, err := c.FormFile("file")
	var name string
	var stages []coach.Stage
	family := coach.Family(c.PostForm("family"))
	if !family.Known() {
		family = coach.BallGames
	}
	switch {
	case err == nil:
		r, err := file.Open()
		if err != nil {
			return err
		}
		defer r.Close()
		b, err := io.ReadAll(r)
		if err != nil {
			return err
		}
		if name, stages, err = exchange.ReadLadder(b); err != nil {
			return again("file", err.Error())
		}
	default:
		if name = strings.TrimSpace(c.PostForm("name")); name == "" || len([]rune(name)) > 40 {
			return again("name", "Choose a file, or give a new ladder a name of at most 40 characters.")
		}
		if stages, err = exchange.Starter(family); err != nil {
			return err
		}
	}
	if err := c.Change("", "Brought the ladder "+name, func(tx *store.Tx) error {
		_, err := tx.AddLadder(c.Ctx(), name, family, stages, c.Now)
		return err
	}); err != nil {
		return err
	}
	return c.To("/stairs/ladder")
}
