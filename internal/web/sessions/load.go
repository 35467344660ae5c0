package sessions

import (
	"context"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/plan"
	"gruppo/internal/store"
)

// Loaded is a session with its plan worked out.
type Loaded struct {
	Session store.Session
	Program store.Program
	Players []store.Player    // of the class
	Said    map[string]string // the register, by player
	Input   plan.Input
	Picture plan.Picture
}

// LoadRunning is Load for the hall: without the check, which is for planning.
func LoadRunning(ctx context.Context, tx *store.Tx, id string, now time.Time, loc *time.Location) (Loaded, error) {
	l := Loaded{Input: plan.Input{Running: true}}
	err := l.load(ctx, tx, id, now, loc)
	return l, err
}

// Load reads a session and works its plan out for the players who are coming.
func Load(ctx context.Context, tx *store.Tx, id string, now time.Time, loc *time.Location) (l Loaded, err error) {
	err = l.load(ctx, tx, id, now, loc)
	return l, err
}

func (l *Loaded) load(ctx context.Context, tx *store.Tx, id string, now time.Time, loc *time.Location) (err error) {
	if !store.IsID(id) {
		return store.ErrNone
	}
	if l.Session, err = tx.Session(ctx, id); err != nil {
		return err
	}
	programs, err := tx.Ladders(ctx)
	if err != nil {
		return err
	}
	return l.with(ctx, tx, programs, now, loc)
}

// LoadSession is Load for a session and ladders that were read already.
func LoadSession(ctx context.Context, tx *store.Tx, s store.Session, programs []store.Program, now time.Time, loc *time.Location) (Loaded, error) {
	l := Loaded{Session: s}
	err := l.with(ctx, tx, programs, now, loc)
	return l, err
}

func (l *Loaded) with(ctx context.Context, tx *store.Tx, programs []store.Program, now time.Time, loc *time.Location) (err error) {
	for _, p := range programs {
		if p.ID == l.Session.ProgramID {
			l.Program = p
		}
	}
	if l.Players, l.Said, err = tx.Expected(ctx, l.Session); err != nil {
		return err
	}
	drills, err := tx.PlanDrills(ctx, l.Session.Plan)
	if err != nil {
		return err
	}
	in := plan.Input{Plan: l.Session.Plan, Booked: time.Duration(l.Session.Minutes) * time.Minute, Start: l.Session.StartsAt.In(loc), Stages: map[string]string{},
		Drills: drills, Floor: l.Session.Venue.Draw(), Running: l.Input.Running}
	for _, s := range l.Program.Stages {
		in.Stages[s.ID] = s.Name
	}
	ids := []string{}
	for _, p := range l.Players {
		if said := l.Said[p.ID]; said != "away" && said != "absent" && said != "left" {
			in.Players = append(in.Players, p.Coach(l.Program))
			ids = append(ids, p.ID)
		}
	}
	for _, m := range l.Session.Leaders {
		in.Leaders = append(in.Leaders, plan.Leader{ID: m.Member, Name: m.Name, Role: coach.Role(m.Role), From: time.Duration(m.From) * time.Minute, Until: time.Duration(m.Until) * time.Minute})
	}
	if !in.Running {
		if in.Tries, err = tx.Tries(ctx, ids, now); err != nil {
			return err
		}
	}
	l.Input = in
	l.Picture = plan.Work(in)
	return nil
}

// levels puts how much of their stage players have shown on top of its order, so that groups near in level are near.
func (l *Loaded) levels(ctx context.Context, tx *store.Tx, now time.Time) error {
	marks, err := tx.Marks(ctx, store.MarkFilter{Program: l.Program.ID})
	if err != nil {
		return err
	}
	byPlayer := map[string][]coach.Mark{}
	for _, m := range marks {
		byPlayer[m.PlayerID] = append(byPlayer[m.PlayerID], m)
	}
	for i, p := range l.Input.Players {
		if stage, ok := l.Program.Stage(p.Stage); ok {
			l.Input.Players[i].Level = float64(stage.Order) + evidence.Ready(stage, byPlayer[p.ID], 0, now, now).Progress
		}
	}
	return nil
}
