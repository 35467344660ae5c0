// Package decisions is where many are decided at once, signed, and prepared for: the record, the meeting, and whether
// markers judge alike.
package decisions

import (
	"embed"
	"net/http"
	"slices"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/say"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Stairs", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/stairs/decide", Needs: shell.Decide, Handle: decidePage},
	{Method: "POST", Path: "/stairs/decide", Needs: shell.Decide, Handle: decideMany},
	{Method: "GET", Path: "/stairs/record", Needs: shell.SeeMarks, Handle: record},
	{Method: "POST", Path: "/decisions/:id/sign", Needs: shell.Sign, Handle: sign},
	{Method: "GET", Path: "/stairs/agree", Needs: shell.SeeMarks, Handle: agree},
	{Method: "GET", Path: "/stairs/meeting", Needs: shell.SeeMarks, Handle: meeting},
	{Method: "POST", Path: "/stairs/meeting", Needs: shell.ChangePlan, Handle: planLooks, Heavy: true},
}

// decideView is everybody who may be decided about, in one list.
type decideView struct {
	deciding.Rules
	Programs []store.Program
	Program  store.Program
	Rows     []decideRow
	Others   []app.Standing // who could be added to the list
	Sign     []deciding.Recorded
	From     string
	Wrong    int
	May      bool // decide, not only sign
}

type decideRow struct {
	app.Standing
	Next   coach.Stage
	Items  []app.Shown
	Choice deciding.Choice
	Wrong  string
	Over   bool // a try-out that is over
	Takes  []deciding.Class
}

// Against reports whether moving up would be against the evidence.
func (r decideRow) Against() bool { return !r.Readiness.Ready }

func (v *decideView) load(c *shell.Ctx, tx *store.Tx, program string, with []string) error {
	var err error
	v.May = c.May(shell.Decide)
	if v.Programs, err = tx.Ladders(c.Ctx()); err != nil || len(v.Programs) == 0 {
		return err
	}
	v.Program = app.Chosen(v.Programs, program)
	if v.Rules, err = app.ReadRules(c.Ctx(), tx, v.Program.ID, c.Today()); err != nil {
		return err
	}
	all, byPlayer, err := app.Everybody(c.Ctx(), tx, v.Program, c.Now)
	if err != nil {
		return err
	}
	decided, err := tx.Decisions(c.Ctx(), store.DecisionFilter{Program: v.Program.ID, Standing: true})
	if err != nil {
		return err
	}
	last := app.LastOf(decided)
	v.Sign = slices.DeleteFunc(slices.Clone(decided), func(d deciding.Recorded) bool { return !d.Waits() })
	for _, s := range all {
		s.Decided = last[s.Player.ID]
		next, up := s.Next()
		over := s.Decided != nil && s.Decided.TryOver()
		switch {
		case !up || s.Decided != nil && (s.Decided.Waits() || s.Decided.Ahead()):
		case s.Readiness.Ready && s.Free() || over || slices.Contains(with, s.Player.ID):
			r := decideRow{
				Standing: s,
				Next:     next,
				Items:    app.ShownOf(s.Readiness, byPlayer[s.Player.ID], c.Now, c.Loc),
				Over:     over,
				Takes:    v.Takes(next.ID),
				Choice:   deciding.Choice{Visits: "2"},
			}
			if s.Readiness.Ready {
				r.Choice.Kind = deciding.Up
			}
			v.Rows = append(v.Rows, r)
		default:
			v.Others = append(v.Others, s)
		}
	}
	return nil
}

func decidePage(c *shell.Ctx) error {
	var v decideView
	err := c.In(func(tx *store.Tx) error { return v.load(c, tx, c.Query("program"), c.QueryArray("with")) })
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "decide.html", "Decide", v)
}

// choose takes over what was chosen in the form, and makes decisions of it, or says in the row what is wrong.
func (v *decideView) choose(c *shell.Ctx, f *shell.Form) (all []deciding.Decision) {
	v.From = f.Get("from")
	for i := range v.Rows {
		r := &v.Rows[i]
		id := r.Player.ID
		if !slices.Contains(f.All("player"), id) {
			continue // came into the list since, or was just added
		}
		r.Choice = deciding.Choice{
			Kind:   deciding.Kind(f.Get("kind-" + id)),
			Why:    f.Get("why-" + id),
			From:   v.From,
			Visits: f.Get("visits-" + id),
			Class:  f.Get("class-" + id),
		}
		if r.Choice.Kind == "" {
			continue
		}
		if r.Stage.ID != f.Get("stage-"+id) {
			r.Wrong = "Somebody moved " + r.Player.Name + " in the meantime."
		} else {
			var d deciding.Decision
			d, r.Wrong = app.Decide(v.Rules, r.Standing, r.Items, r.Choice, c.Now, c.Today())
			all = append(all, d)
		}
		if r.Wrong != "" {
			v.Wrong++
		}
	}
	return all
}

// decideMany records what was chosen for everybody in the list, all of it or, when something is not right, nothing.
func decideMany(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var v decideView
	with := f.All("player")
	if add := f.Get("add"); add != "" {
		with = append(with, add)
	}
	if err := c.In(func(tx *store.Tx) error { return v.load(c, tx, f.Get("program"), with) }); err != nil {
		return err
	}
	if f.Values.Has("more") { // only the list grows
		v.choose(c, f)
		v.Wrong = 0
		for i := range v.Rows {
			v.Rows[i].Wrong = ""
		}
		return c.Page(pages, http.StatusOK, "decide.html", "Decide", v)
	}
	all := v.choose(c, f)
	if v.Wrong > 0 {
		return c.Page(pages, http.StatusUnprocessableEntity, "decide.html", "Decide", v)
	}
	err := c.In(func(tx *store.Tx) error {
		for _, d := range all { // refused where somebody moved the player meanwhile
			if err := tx.AddDecision(c.Ctx(), d, c.Member.ID); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return err
	}
	if len(all) == 0 {
		c.Say("Nothing was chosen, so nothing is recorded.")
		return c.To("/stairs/decide?program=" + v.Program.ID)
	}
	says := say.Count(len(all), "decision") + " recorded, with the evidence as it is today."
	if v.TwoSign {
		says += " Steps up wait for a second signature."
	}
	c.Say(says)
	return c.To("/stairs/record?program=" + v.Program.ID)
}

// recordView is the list of decisions.
type recordView struct {
	Programs []store.Program
	Program  store.Program // empty: all
	Rows     []deciding.Recorded
	MaySign  bool
	Me       string
	More     bool
}

const recordPage = 200

func record(c *shell.Ctx) error {
	v := recordView{MaySign: c.May(shell.Sign), Me: c.Member.ID}
	f := store.DecisionFilter{Limit: recordPage}
	if c.Query("all") != "" {
		f.Limit = 0
	}
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Programs, err = tx.Ladders(c.Ctx()); err != nil {
			return err
		}
		for _, p := range v.Programs {
			if p.ID == c.Query("program") {
				v.Program, f.Program = p, p.ID
			}
		}
		v.Rows, err = tx.Decisions(c.Ctx(), f)
		return err
	})
	if err != nil {
		return err
	}
	v.More = len(v.Rows) == recordPage && f.Limit > 0
	return c.Page(pages, http.StatusOK, "record.html", "Decisions", v)
}

func sign(c *shell.Ctx) error {
	var name string
	err := c.In(func(tx *store.Tx) error {
		ds, err := tx.Decisions(c.Ctx(), store.DecisionFilter{ID: c.Param("id")})
		if err != nil {
			return err
		}
		if len(ds) == 0 {
			return store.ErrNone
		}
		if name = ds[0].PlayerName; ds[0].ByID == c.Member.ID {
			return &shell.Problem{
				Status: http.StatusUnprocessableEntity,
				Says:   "The second signature has to be somebody else’s.",
			}
		}
		return tx.Sign(c.Ctx(), c.Param("id"), c.Member.ID, c.Now)
	})
	if err != nil {
		return err
	}
	c.Say("Signed: " + name + ".")
	return c.To(shell.NewForm(c).Back("/stairs/record"))
}
