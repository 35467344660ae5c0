// Package planner is where a session is planned: floor, strip and ledger, what if, prints, and what happened.
package planner

import (
	"embed"
	"net/http"
	"slices"

	"gruppo/internal/app"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Sessions", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "POST", Path: "/sessions/:id/move", Needs: shell.ChangePlan, Handle: move},
	{Method: "POST", Path: "/sessions/:id/off", Needs: shell.ChangePlan, Handle: cancel},
	{Method: "POST", Path: "/sessions/:id/delete", Needs: shell.ChangePlan, Handle: deleteSession},
	{Method: "GET", Path: "/sessions/:id", Needs: shell.SeeSessions, Handle: planPage},
	{Method: "GET", Path: "/sessions/:id/run", Needs: shell.SeeSessions, Handle: runPage},
	{Method: "POST", Path: "/sessions/:id/refused", Needs: shell.ChangePlan, Handle: putAside},
	{Method: "GET", Path: "/sessions/:id/print", Needs: shell.SeeSessions, Handle: printPage},
	{Method: "GET", Path: "/sessions/:id/print/:what", Needs: shell.SeeSessions, Handle: printPage},
	{Method: "GET", Path: "/sessions/:id/unit/:n", Needs: shell.SeeSessions, Handle: unit},
	{Method: "GET", Path: "/sessions/:id/floor.svg", Needs: shell.SeeSessions, Handle: picture},
	{Method: "GET", Path: "/sessions/:id/strip.svg", Needs: shell.SeeSessions, Handle: picture},
	{Method: "GET", Path: "/sessions/:id/plan.json", Needs: shell.SeeSessions, Handle: planFile},
	{
		Method: "POST",
		Path:   "/sessions/:id/plan.json",
		Needs:  shell.ChangePlan,
		Handle: readPlan,
		Body:   exchange.MostPlan + 1<<14,
		Heavy:  true,
	},
	{Method: "GET", Path: "/sessions/:id/more", Needs: shell.ChangePlan, Handle: more},
	{Method: "POST", Path: "/sessions/:id/copy", Needs: shell.ChangePlan, Handle: copyPlan, Heavy: true},
	{Method: "GET", Path: "/sessions/:id/what-if", Needs: shell.ChangePlan, Handle: whatIf},
	{Method: "POST", Path: "/sessions/:id/what-if", Needs: shell.ChangePlan, Handle: whatIf, Heavy: true},
	{Method: "POST", Path: "/sessions/:id/what-if/take", Needs: shell.ChangePlan, Handle: takeWhatIf, Heavy: true},
	{Method: "GET", Path: "/sessions/:id/partners/:block", Needs: shell.SeeSessions, Handle: partnersPage},
	{Method: "POST", Path: "/sessions/:id/partners/:block", Needs: shell.ChangePlan, Handle: scores},
	{Method: "GET", Path: "/sessions/:id/proposals", Needs: shell.ChangePlan, Handle: proposals},
	{Method: "GET", Path: "/sessions/:id/ladder/:block", Needs: shell.SeeSessions, Handle: ladderPage},
	{Method: "POST", Path: "/sessions/:id/ladder/:block", Needs: shell.ChangePlan, Handle: climb},
	{Method: "GET", Path: "/sessions/:id/routine/:block", Needs: shell.SeeSessions, Handle: routinePage},
	{Method: "POST", Path: "/sessions/:id/partners/:block/choose", Needs: shell.ChangePlan, Handle: choose},
	{Method: "GET", Path: "/sessions/:id/teams/:block", Needs: shell.SeeSessions, Handle: teamsPage},
	{Method: "POST", Path: "/sessions/:id/teams/:block", Needs: shell.ChangePlan, Handle: teams},
	{Method: "POST", Path: "/sessions/:id/plan", Needs: shell.ChangePlan, Handle: editPlan},
	{Method: "POST", Path: "/sessions/:id/propose", Needs: shell.ChangePlan, Handle: proposePlan, Heavy: true},
	{Method: "POST", Path: "/sessions/:id/undo", Needs: shell.ChangePlan, Handle: undo},
	{Method: "POST", Path: "/sessions/:id/redo", Needs: shell.ChangePlan, Handle: redo},
	{Method: "GET", Path: "/sessions/:id/live", Needs: shell.SeeSessions, Handle: live},
	{Method: "POST", Path: "/sessions/:id/coming", Needs: shell.ChangePlan, Handle: coming},
	{Method: "POST", Path: "/sessions/:id/leader", Needs: shell.ChangePlan, Handle: leader},
}

func planPage(c *shell.Ctx) error {
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	if c.Partial() { // somebody else changed it: the plan as it is now
		return c.Part(pages, "plan", v)
	}
	v.Opened = true
	return c.Page(pages, http.StatusOK, "plan.html", v.Session.ClassName, v)
}

func viewOf(c *shell.Ctx) (v *planView, err error) {
	v = new(planView)
	v.Loaded, err = loaded(c, func(tx *store.Tx, _ *app.Loaded) (err error) {
		v.Members, err = tx.Members(c.Ctx(), c.Now)
		return err
	})
	if err != nil {
		return v, err
	}
	if v.Tab = c.Request.FormValue("tab"); v.Tab == "" {
		v.Tab = chosenTab(c)
	}
	v.draw()
	return v, nil
}

// planTabs are the tabs beside a plan, by the id of what they show.
var planTabs = []string{"ledger", "leaders", "kit", "criteria", "stations", "people"}

// chosenTab is the tab that was open last, as the browser keeps it; empty: none was chosen yet.
func chosenTab(c *shell.Ctx) string {
	if tab, err := c.Cookie("tab-plan"); err == nil && slices.Contains(planTabs, tab) {
		return tab
	}
	return ""
}

// coming says that a player stays away, or comes after all.
func coming(c *shell.Ctx) error {
	f := shell.NewForm(c)
	a, says := store.Attendance{PlayerID: f.Get("player")}, "coming after all"
	if f.Get("away") != "" {
		a.State, says = "away", "stays away"
	}
	if !store.IsID(a.PlayerID) || !store.IsID(c.Param("id")) {
		return store.ErrNone
	}
	err := c.Change(c.Param("id"), or(f.Get("name"), "Player")+" "+says, func(tx *store.Tx) error {
		if _, err := tx.Session(c.Ctx(), c.Param("id")); err != nil {
			return err
		}
		if _, err := tx.SetAttendance(c.Ctx(), c.Param("id"), a, c.Member.ID, c.Now); err != nil {
			return err
		}
		return tx.Tell(c.Ctx(), c.Param("id"), "plan")
	})
	return after(c, err, nil)
}

func leader(c *shell.Ctx) error {
	f := shell.NewForm(c)
	l := store.SessionLeader{Member: f.Get("member")}
	if !store.IsID(l.Member) || !store.IsID(c.Param("id")) {
		return store.ErrNone
	}
	if f.Get("from") != "" {
		l.From = f.Int("from", 0, 480, "Comes after how many minutes")
	}
	if f.Get("until") != "" {
		l.Until = f.Int("until", 1, 480, "Leaves after how many minutes")
	}
	if l.Until > 0 && l.Until <= l.From {
		f.Wrong("until", "Nobody can leave before they come.")
	}
	for _, problem := range f.Errors {
		return after(c, &doc.ErrInput{Says: problem}, nil)
	}
	err := c.Change(c.Param("id"), "Changed who leads", func(tx *store.Tx) error {
		if _, err := tx.Session(c.Ctx(), c.Param("id")); err != nil {
			return err
		}
		if err := tx.SetSessionLeader(c.Ctx(), c.Param("id"), l, f.Get("off") == ""); err != nil {
			return err
		}
		return tx.Tell(c.Ctx(), c.Param("id"), "plan")
	})
	return after(c, err, nil)
}

// live tells an open plan when somebody else changes it.
func live(c *shell.Ctx) error {
	may := func() (version int, err error) {
		err = c.In(func(tx *store.Tx) error {
			s, err := tx.Session(c.Ctx(), c.Param("id"))
			version = s.Version
			return err
		})
		return version, err
	}
	return c.Stream(c.Param("id"), may, func(what string) string { return what })
}

// loaded reads a session, with what more asks for, and works its plan out when the transaction is over.
func loaded(c *shell.Ctx, more func(*store.Tx, *app.Loaded) error) (l app.Loaded, err error) {
	err = c.In(func(tx *store.Tx) (err error) {
		if l, err = app.Read(c.Ctx(), tx, c.Param("id"), c.Now, c.Loc); err == nil && more != nil {
			err = more(tx, &l)
		}
		return err
	})
	if err == nil {
		l.Work()
	}
	return l, err
}
