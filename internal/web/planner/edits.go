package planner

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/propose"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// editPlan makes one change to the plan and answers with the three views as they are then.
func editPlan(c *shell.Ctx) error {
	f := shell.NewForm(c)
	w := edit.Wire{Do: f.Get("do"), At: f.Get("at"), Value: f.Get("value"), Units: c.Club.Units}
	if w.Do == "place" {
		w.Do, w.Value = "spot", placed(f)
	}
	return change(c, w, f.Get("version"))
}

// placed is a typed place as the plan takes it: what is no length stays as it was typed, and is refused there.
func placed(f *shell.Form) string {
	var words []string
	for _, w := range strings.Split(f.Get("value"), "|") {
		if m, ok := f.Units.ParseLength(w); ok && len(words) != 2 { // the turn is no length
			w = strconv.FormatFloat(m, 'f', -1, 64)
		}
		words = append(words, strings.ReplaceAll(strings.TrimSpace(w), " ", "_"))
	}
	return strings.Join(words, " ")
}

// change makes the edit that was sent, or those that mend a finding.
func change(c *shell.Ctx, w edit.Wire, asked string) error {
	return save(c, asked, &w, func(l *app.Loaded) (string, error) {
		if w.Do == "mend" {
			l.Picture = check.Plan(l.Input)
			m := mendOf(l.Picture.Findings, w)
			if m == nil {
				return "", &doc.ErrInput{Says: "That is settled already."}
			}
			return "mended", l.Input.Edit(m.Edits...)
		}
		e, err := edit.Read(w)
		if err != nil {
			return "", err
		}
		if spot, moves := e.(edit.Spot); moves && spot.At != nil { // the others stay where they are seen
			l.Input.Plan = work.Out(l.Input).Stay()
		}
		return e.Called(l.Input.Plan), l.Input.Edit(e)
	})
}

// save makes a change to the plan of the version asked for, which says what it is called, stores it and answers with
// the plan as it then is, worked out once.
func save(c *shell.Ctx, asked string, w *edit.Wire, make func(*app.Loaded) (says string, err error)) error {
	version, _ := strconv.Atoi(asked)
	v := new(planView)
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Loaded, err = app.Read(c.Ctx(), tx, c.Param("id"), c.Now, c.Loc); err == nil {
			v.Members, err = tx.Members(c.Ctx(), c.Now)
		}
		return err
	})
	if err != nil {
		return err
	}
	if v.Session.Version != version {
		return after(c, store.ErrChangedSince, w)
	}
	says, err := make(&v.Loaded)
	if err == nil {
		err = known(v.Input.Plan, v.Input.Shelf, v.Input.Drills)
	}
	if err == nil {
		err = keepPlan(c, &v.Loaded, "Plan: "+says, v.Input.Plan)
	}
	if err != nil {
		return after(c, err, w)
	}
	for _, t := range v.Input.Plan.Tasks() { // drills that came with the change
		if v.Input.Drills[t.Drill].Edition != t.Edition {
			for _, d := range v.Input.Shelf {
				if d.ID == t.Drill && d.Edition == t.Edition {
					v.Input.Drills[d.ID] = d
				}
			}
		}
	}
	v.Session.Plan, v.Session.ChangedBy, v.Undo, v.Redo = v.Input.Plan, c.Member.Name, "Plan: "+says, ""
	v.Picture = check.Plan(v.Input)
	v.Tab = c.Request.FormValue("tab")
	v.draw()
	return answer(c, v)
}

// keepPlan stores a plan that was worked out for the version that l was read in, as one change; else ErrChangedSince.
func keepPlan(c *shell.Ctx, l *app.Loaded, says string, p doc.Plan) error {
	return c.Change(l.Session.ID, says, func(tx *store.Tx) (err error) {
		l.Session.Version, err = tx.SetPlan(c.Ctx(), l.Session.ID, l.Session.Version, p, c.Member.ID, c.Now)
		return err
	})
}

// after answers with the plan as it is now, and with what kept a change from being made.
func after(c *shell.Ctx, err error, w *edit.Wire) error {
	var in *doc.ErrInput
	var clash *deal.Clash
	problem, clashed := "", errors.Is(err, store.ErrChangedSince)
	switch {
	case errors.As(err, &in):
		problem = in.Says
	case errors.As(err, &clash):
		problem = clash.Why
	case err != nil && !clashed:
		return err
	}
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	v.Problem = problem
	if clashed {
		v.Problem = or(v.Session.ChangedBy, "Somebody") + " changed this plan a moment ago; below is how it stands now."
		if w != nil && w.Do != "mend" {
			v.Retry = w
			if e, err := edit.Read(*w); err == nil {
				v.Problem += " You wanted: " + e.Called(v.Input.Plan) + "."
			}
		}
	}
	return answer(c, v)
}

// mendOf finds a mend by its finding's key and its number.
func mendOf(findings []check.Finding, w edit.Wire) *check.Mend {
	n, err := strconv.Atoi(w.At)
	for _, f := range findings {
		if err == nil && f.Key() == w.Value && n >= 0 && n < len(f.Mends) {
			return &f.Mends[n]
		}
	}
	return nil
}

func answer(c *shell.Ctx, v *planView) error {
	c.Quiet()         // the plan has its own way back
	if !c.Partial() { // without scripts the whole page comes back
		if v.Problem == "" {
			return c.To("/sessions/" + v.Session.ID)
		}
		return c.Page(pages, http.StatusUnprocessableEntity, "plan.html", v.Session.ClassName, v)
	}
	if v.Problem != "" {
		return c.PartAs(http.StatusUnprocessableEntity, pages, "plan", v)
	}
	return c.Part(pages, "plan", v)
}

func or(s, other string) string {
	if s == "" {
		return other
	}
	return s
}

// known checks that every drill of the plan is on the shelf, in that edition or a newer one.
func known(p doc.Plan, shelf []coach.Drill, planned map[string]coach.Drill) error {
	for _, t := range p.Tasks() {
		d, was := planned[t.Drill]
		if (!was || t.Edition > d.Edition) &&
			!slices.ContainsFunc(shelf, func(d coach.Drill) bool { return d.ID == t.Drill && d.Edition == t.Edition }) {
			return &doc.ErrInput{Field: "drill", Says: "That drill is not on the shelf."}
		}
	}
	return nil
}

// proposePlan makes a whole plan; what is pinned stays.
func proposePlan(c *shell.Ctx) error {
	f := shell.NewForm(c)
	kind, value, _ := strings.Cut(f.Get("aim"), " ")
	return save(c, f.Get("version"), nil, func(l *app.Loaded) (says string, err error) {
		aim := doc.Aim{Kind: kind, Value: value}
		if f.Get("take") == "" {
			l.Input.Plan, err = propose.Plan(l.Input, f.Get("shape"), aim)
		} else {
			l.Input.Plan, err = taken(l.Input, f.Get("shape"), aim, f.Get("take"))
		}
		return "proposed: " + propose.ShapeOf(f.Get("shape"), "").Name, err
	})
}

func undo(c *shell.Ctx) error {
	return back(
		c,
		"There is nothing to take back.",
		func() error { _, err := c.S.Store.UndoLast(c.Ctx(), c.Club.ID, c.Param("id")); return err },
	)
}

func redo(c *shell.Ctx) error {
	return back(
		c,
		"There is nothing to do again.",
		func() error { _, err := c.S.Store.Redo(c.Ctx(), c.Club.ID, c.Param("id")); return err },
	)
}

func back(c *shell.Ctx, none string, do func() error) error {
	err := c.In(func(tx *store.Tx) error {
		_, err := tx.Session(c.Ctx(), c.Param("id"))
		return err
	})
	if err != nil {
		return err
	}
	problem := ""
	switch err := do(); {
	case errors.Is(err, store.ErrNone):
		problem = none
	case errors.Is(err, store.ErrChangedSince):
		problem = "Something was changed again since, so it cannot be done by itself."
	case err != nil:
		return err
	default:
		err := c.In(func(tx *store.Tx) error {
			s, err := tx.Session(c.Ctx(), c.Param("id"))
			if err != nil {
				return err
			}
			return tx.Tell(c.Ctx(), s.ID, fmt.Sprint("plan ", s.Version))
		})
		if err != nil {
			return err
		}
	}
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	v.Problem = problem
	return answer(c, v)
}
