// Package courtside is the hall while it runs: the phone with register, clock and pads, the big screen, and the door
// that lets helpers in.
package courtside

import (
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/path"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/run"
	"gruppo/internal/coach/say"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Sessions", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/courtside/:id", Needs: shell.RunSession, Handle: page},
	{Method: "GET", Path: "/courtside/:id/hall", Needs: shell.SeeSessions, Handle: hall},
	{Method: "GET", Path: "/courtside/:id/mirror", Needs: shell.SeeSessions, Handle: mirror},
	{Method: "GET", Path: "/courtside/:id/door", Needs: shell.SeeSessions, Handle: door},
	{Method: "POST", Path: "/courtside/:id/door", Needs: shell.SeeSessions, Handle: newCode},
	{Method: "GET", Path: "/courtside/:id/state", Needs: shell.RunSession, Handle: stateJSON},
	{Method: "GET", Path: "/courtside/:id/live", Needs: shell.RunSession, Handle: live},
	{Method: "GET", Path: "/courtside/:id/drawing/:n", Needs: shell.RunSession, Handle: drawing},
	{Method: "POST", Path: "/courtside/:id/form", Needs: shell.RunSession, Handle: eased, JSON: true},
	{Method: "POST", Path: "/courtside/:id/target", Needs: shell.ChangePlan, Handle: aimed, JSON: true},
	{Method: "POST", Path: "/courtside/:id/bridge", Needs: shell.ChangePlan, Handle: bridged, JSON: true},
	{Method: "POST", Path: "/courtside/:id/redeal", Needs: shell.ChangePlan, Handle: redeal, JSON: true},
	{Method: "POST", Path: "/courtside/:id/give", Needs: shell.ChangePlan, Handle: give, JSON: true},
	{Method: "POST", Path: "/courtside/:id/key", Needs: shell.ChangePlan, Handle: keyToday, JSON: true},
	{Method: "POST", Path: "/courtside/:id/inbox", Needs: shell.RunSession, Handle: inbox, JSON: true, Body: mostInbox},
	{Method: "POST", Path: "/gate/:code", Needs: shell.Anyone, Handle: gate, JSON: true},
	{Method: "GET", Path: "/time", Needs: shell.Anyone, Handle: serverTime},
	{Method: "GET", Path: "/join", Needs: shell.Anyone, Handle: joinPage},
	{Method: "POST", Path: "/join", Needs: shell.Anyone, Handle: join},
}

// early and after are how long before its start and after its booked end a helper sees a session; what waits on a
// device is taken for longer.
const early, after, late = app.HelperEarly, app.HelperAfter, app.Late

// mine reads the session if the member may be courtside there: a helper only where they are on it, while it is on.
func mine(c *shell.Ctx, tx *store.Tx, after time.Duration) (app.Loaded, error) {
	l, err := app.ReadRunning(c.Ctx(), tx, c.Param("id"), c.Now, c.Loc)
	if err != nil {
		return l, err
	}
	if l.Session.Cancelled && !l.Session.Started {
		return l, &shell.Problem{
			Status: http.StatusConflict,
			Says: l.Session.ClassName + " does not take place on " + l.Session.StartsAt.In(c.Loc).
				Format("Mon 2 Jan") +
				".",
		}
	}
	return l, admitted(c, l.Session, after)
}

func admitted(c *shell.Ctx, s store.Session, after time.Duration) error {
	if c.Member.Role != "helper" {
		return nil
	}
	running := s.Started && !s.Ended // however early it was begun, and however late it goes on
	on := slices.ContainsFunc(s.Leaders, func(m store.SessionLeader) bool { return m.Member == c.Member.ID })
	switch {
	case !on:
		return &shell.Problem{
			Status: http.StatusForbidden,
			Says:   "You are not on this session. Ask its lead to add you.",
		}
	case running:
	case c.Now.Before(s.StartsAt.Add(-early)):
		return &shell.Problem{
			Status: http.StatusForbidden,
			Says:   "This opens for you at " + s.StartsAt.Add(-early).In(c.Loc).Format("15:04 on Mon 2 Jan") + ".",
		}
	case c.Now.After(s.Ends().Add(after)):
		return &shell.Problem{Status: http.StatusForbidden, Says: "This session is over. Thank you for helping."}
	}
	return nil
}

func page(c *shell.Ctx) error {
	st, err := read(c)
	if err != nil {
		return err
	}
	return c.Bare(pages, http.StatusOK, "courtside.html", st.Name, st)
}

// hall is the big screen: clock, who goes where, the key of the day. It names no players.
func hall(c *shell.Ctx) error {
	st, err := read(c)
	if err != nil {
		return err
	}
	st.Players, st.Marks, st.Tallies, st.Keys, st.Notes = []player{}, []mark{}, []store.Tally{}, []store.KeyMark{}, []store.Note{}
	st.Feedback = []store.Feedback{}
	return c.Bare(pages, http.StatusOK, "hall.html", st.Name, st)
}

func stateJSON(c *shell.Ctx) error {
	st, err := read(c)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, st)
	return nil
}

// serverTime is what devices set their clocks by.
func serverTime(c *shell.Ctx) error {
	c.Header("Cache-Control", "no-store")
	c.Data(http.StatusOK, "text/plain", []byte(strconv.FormatInt(c.S.Now().UnixMilli(), 10)))
	return nil
}

// live passes on what changed, to a helper only what is theirs to see.
func live(c *shell.Ctx) error {
	may := func() (version int, err error) {
		err = c.In(func(tx *store.Tx) error {
			s, err := tx.Session(c.Ctx(), c.Param("id"))
			if err != nil {
				return err
			}
			version = s.Version
			c.Now = c.S.Now().In(c.Loc)
			return admitted(c, s, after)
		})
		return version, err
	}
	return c.Stream(c.Param("id"), may, func(what string) string {
		if c.Member.Role != "helper" {
			return what
		}
		return forHelper(what, c.Member.ID)
	})
}

// drawing is the drawing of a station, or of a block's task.
func drawing(c *shell.Ctx) error {
	var l app.Loaded
	err := c.In(func(tx *store.Tx) (err error) {
		l, err = mine(c, tx, after)
		return err
	})
	if err != nil {
		return err
	}
	drill := ""
	n, err := strconv.Atoi(c.Param("n"))
	if p := l.Session.Plan; err == nil && n >= 0 && n < len(p.Stations()) {
		drill = p.Stations()[n].Drill
	} else if at := n - app.Beside; err == nil && at >= 0 && at < len(p.Blocks) {
		drill = p.Blocks[at].Drill
	}
	if l.Input.Drills[drill].Diagram == nil {
		return store.ErrNone
	}
	text, err := c.DrawingText(pages, "diagram", svg.Drawing(*l.Input.Drills[drill].Diagram, c.Club.Units, 360, 260, -1, false))
	if err != nil {
		return err
	}
	c.Data(http.StatusOK, "image/svg+xml", []byte(text))
	return nil
}

// ask reads the request's small JSON document.
func ask(c *shell.Ctx, into any) error {
	if err := json.NewDecoder(io.LimitReader(c.Request.Body, 1<<12)).Decode(into); err != nil {
		return refuse("That was not understood.")
	}
	return nil
}

// change changes the running plan, and answers with the state it makes: it reads, works out with no transaction open,
// and writes if nobody was faster.
func change(c *shell.Ctx, says string, f func(l app.Loaded, events []run.Event) (doc.Plan, error)) error {
	var l app.Loaded
	var events []run.Event
	err := c.In(func(tx *store.Tx) (err error) {
		if l, err = mine(c, tx, after); err == nil {
			events, err = tx.Events(c.Ctx(), l.Session.ID)
		}
		return err
	})
	if err != nil {
		return err
	}
	l.Work()
	next, err := f(l, events)
	if err != nil {
		return err
	}
	err = c.Change(c.Param("id"), says, func(tx *store.Tx) error {
		_, err := tx.SetPlan(c.Ctx(), l.Session.ID, l.Session.Version, next, c.Member.ID, c.Now)
		return err
	})
	if err != nil {
		return err
	}
	return stateJSON(c)
}

// eased moves a group along at a station, to the easier or the harder form. A helper does so where they stand.
func eased(c *shell.Ctx) error {
	var in struct{ Station, Group, By int }
	if err := ask(c, &in); err != nil || in.By != 1 && in.By != -1 {
		return refuse("Easier or harder? That was not understood.")
	}
	member := ""
	if c.Member.Role == "helper" {
		member = c.Member.ID
	}
	err := change(c, "Plan: another form", func(l app.Loaded, _ []run.Event) (doc.Plan, error) {
		return l.Eased(in.Station, in.Group, in.By, member)
	})
	switch {
	case errors.Is(err, app.ErrPlanChanged):
		return &shell.Problem{Status: http.StatusConflict, Says: say.Upper(err.Error()) + "."}
	case errors.Is(err, app.ErrNotTheirs):
		return &shell.Problem{Status: http.StatusForbidden, Says: say.Upper(err.Error()) + "."}
	case errors.Is(err, app.ErrNoForm):
		return refuse("There is no " + map[int]string{-1: "easier", 1: "harder"}[in.By] + " form of this drill.")
	}
	return err
}

// aimed sets how many a station's target asks for, from now on: of the group alone, where its form has a number of its
// own.
func aimed(c *shell.Ctx) error {
	var in struct{ Station, Group, N int }
	if err := ask(c, &in); err != nil {
		return err
	}
	if in.N < 1 || in.N > 500 {
		return refuse("A target is a whole number from 1 to 500.")
	}
	return change(c, fmt.Sprint("Plan: target ", in.N), func(l app.Loaded, _ []run.Event) (doc.Plan, error) {
		all := l.Session.Plan.Stations()
		if in.Station < 0 || in.Station >= len(all) {
			return doc.Plan{}, refuse("That station is not in the plan any more.")
		}
		aim := edit.Target{At: all[in.Station].ID, Count: in.N}
		if groups := l.Picture.Groups; in.Group >= 0 && in.Group < len(groups) {
			if _, own := l.Picture.Stations[in.Station].TargetFor(groups[in.Group]); own {
				aim.Group = doc.GroupKey(groups[in.Group].Number)
			}
		}
		next, _, err := edit.Apply(l.Session.Plan, aim)
		return next, err
	})
}

// bridged lets a group, or a player of it, take the bridge before a station's drill, and brings them back to the drill
// the next time.
func bridged(c *shell.Ctx) error {
	var in struct {
		Station, Group int
		Player         string
	}
	if err := ask(c, &in); err != nil {
		return err
	}
	var links []path.Link
	var bridges []coach.Drill
	err := c.In(func(tx *store.Tx) (err error) {
		if links, err = tx.Links(c.Ctx()); err != nil {
			return err
		}
		ids := []string{}
		for _, l := range links {
			if l.Kind == path.Bridge {
				ids = append(ids, l.Drill)
			}
		}
		bridges, err = tx.DrillsOf(c.Ctx(), ids)
		return err
	})
	if err != nil {
		return err
	}
	err = change(c, "Plan: by the bridge", func(l app.Loaded, _ []run.Event) (doc.Plan, error) {
		return l.Bridged(in.Station, in.Group, in.Player, links, bridges)
	})
	switch {
	case errors.Is(err, app.ErrPlanChanged):
		return refuse("That station, group or player is not in the plan any more.")
	case errors.Is(err, app.ErrNoForm):
		return refuse("No bridge is written before this drill.")
	}
	return err
}

// redeal fits the groups to who is there, moving as few as possible.
func redeal(c *shell.Ctx) error {
	return change(c, "Plan: dealt again for who is here", func(l app.Loaded, _ []run.Event) (doc.Plan, error) {
		err := l.Input.Redeal()
		return l.Input.Plan, err
	})
}

// give takes one of the offers of what gives when it runs late.
func give(c *shell.Ctx) error {
	var in struct{ Words string }
	if err := ask(c, &in); err != nil {
		return err
	}
	return change(c, "Plan: "+in.Words, func(l app.Loaded, events []run.Event) (doc.Plan, error) {
		_, offers := l.Late(events, c.Now)
		i := slices.IndexFunc(offers, func(m check.Mend) bool { return m.Words == in.Words })
		if i < 0 {
			return doc.Plan{}, refuse("That can give no more: it has begun, or the time fits already.")
		}
		next, _, err := edit.Apply(l.Session.Plan, offers[i].Edits...)
		return next, err
	})
}

// keyToday makes a key the one of the day.
func keyToday(c *shell.Ctx) error {
	var in struct{ Key string }
	if err := ask(c, &in); err != nil {
		return err
	}
	return change(c, "Plan: key of the day", func(l app.Loaded, _ []run.Event) (doc.Plan, error) {
		next, _, err := edit.Apply(l.Session.Plan, edit.Key{Words: in.Key})
		return next, err
	})
}

func refuse(says string) error {
	return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: says}
}
