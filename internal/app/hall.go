package app

import (
	"errors"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/path"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/run"
	"gruppo/internal/coach/plan/whatif"
)

// What keeps a form from being eased in the hall.
var (
	ErrPlanChanged = errors.New("the plan has changed: that station or group is not there any more")
	ErrNotTheirs   = errors.New("that is for whoever stands at the station")
	ErrNoForm      = errors.New("there is no such form of this drill")
)

// Late is how far past the booked end a session runs, less than nothing while it does not, and what could give then.
func (l *Loaded) Late(events []run.Event, now time.Time) (time.Duration, []check.Mend) {
	t := run.Fold(l.Picture.Segments(), events)
	if !t.Started || t.Ended || len(t.Bounds) == 0 {
		return 0, nil
	}
	if !t.PausedAt.IsZero() {
		now = t.PausedAt
	}
	over := t.Bounds[len(t.Bounds)-1].Sub(l.Session.Ends())
	if over < 30*time.Second {
		return min(0, over), nil
	}
	return over, whatif.Gives(&l.Picture.Picture, over, t.Index(now))
}

// Eased is the plan with a group moved along at a station, to the easier form (−1) or the harder one (1). Only whoever
// leads the station may, where a member is named.
func (l *Loaded) Eased(station, group, by int, member string) (doc.Plan, error) {
	pic := l.Picture
	if station < 0 || station >= len(pic.Stations) || group < 0 || group >= len(pic.Groups) {
		return doc.Plan{}, ErrPlanChanged
	}
	s, g := pic.Stations[station], pic.Groups[group]
	if member != "" && (s.Leader == nil || s.Leader.ID != member) {
		return doc.Plan{}, ErrNotTheirs
	}
	name, ok := s.Eased(s.Drill, g.Number, g.Stage, by)
	if !ok {
		return doc.Plan{}, ErrNoForm
	}
	next, _, err := edit.Apply(l.Session.Plan, edit.Variant{Station: s.ID, For: doc.GroupKey(g.Number), Name: name})
	return next, err
}

// Bridged lets a group take the bridge before a station's drill, or one player where one is named; whoever takes it
// already does as the others do again. Bridges are the drills that are one before any.
func (l *Loaded) Bridged(station, group int, player string, links []path.Link, bridges []coach.Drill) (doc.Plan, error) {
	all := l.Session.Plan.Stations()
	here := func(p coach.Player) bool { return p.ID == player }
	if station < 0 || station >= len(all) || group < 0 || group >= len(l.Picture.Groups) ||
		player != "" && !slices.ContainsFunc(l.Input.Players, here) {
		return doc.Plan{}, ErrPlanChanged
	}
	s, g := all[station], doc.GroupKey(l.Picture.Groups[group].Number)
	over := path.Around(links, s.Drill).Bridges
	does := s.Own[g]
	if player != "" {
		does = s.Side[player]
	}
	back := slices.Contains(over, does.Drill)
	i := slices.IndexFunc(bridges, func(d coach.Drill) bool { return slices.Contains(over, d.ID) })
	if i < 0 && !back {
		return doc.Plan{}, ErrNoForm
	}
	var to doc.Task
	if !back {
		to = doc.Task{Drill: bridges[i].ID, Edition: bridges[i].Edition}
	}
	var e edit.Edit = edit.Own{Station: s.ID, For: g, Task: to, Back: back}
	if player != "" {
		e = edit.Side{Station: s.ID, Player: player, Task: to, Back: back}
	}
	next, _, err := edit.Apply(l.Session.Plan, e)
	return next, err
}
