package app

import (
	"context"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/register"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// HelperEarly and HelperAfter are how long before its start and after its booked end a session is open to a helper.
const HelperEarly, HelperAfter = time.Hour, time.Hour

// Loaded is a session with its plan worked out.
type Loaded struct {
	Session store.Session
	Program store.Program
	Players []store.Player              // of the class, and guests
	Said    map[string]store.Attendance // the register, by player
	Input   work.Input
	Picture check.Picture
	Marks   []coach.Mark // of the players, for the stage each is on; not in the hall
	Notes   []store.Note // that come back: open, of its players
	Undo    string       // what would be taken back
	Redo    string       // and done again
	Theme   season.Theme // of the day
	Tests   [][2]string  // of the day: id and name
}

// Read reads a session and what its plan stands on. Nothing is worked out yet: that is for Work, when the transaction
// is over.
func Read(ctx context.Context, tx *store.Tx, id string, now time.Time, loc *time.Location) (l Loaded, err error) {
	err = l.read(ctx, tx, id, now, loc)
	return l, err
}

// ReadRunning is Read for the hall: without the check, which is for planning.
func ReadRunning(ctx context.Context, tx *store.Tx, id string, now time.Time, loc *time.Location) (Loaded, error) {
	l := Loaded{Input: work.Input{Running: true}}
	err := l.read(ctx, tx, id, now, loc)
	return l, err
}

func (l *Loaded) read(ctx context.Context, tx *store.Tx, id string, now time.Time, loc *time.Location) (err error) {
	if !store.IsID(id) {
		return store.ErrNone
	}
	if l.Session, err = tx.Session(ctx, id); err != nil {
		return err
	}
	programs, err := tx.AllLadders(ctx)
	if err != nil {
		return err
	}
	return l.with(ctx, tx, programs, now, loc)
}

// ReadSession is Read for a session and ladders that were read already.
func ReadSession(
	ctx context.Context,
	tx *store.Tx,
	s store.Session,
	programs []store.Program,
	now time.Time,
	loc *time.Location,
) (Loaded, error) {
	l := Loaded{Session: s}
	err := l.with(ctx, tx, programs, now, loc)
	return l, err
}

// Work works the plan out, for the players who are coming.
func (l *Loaded) Work() { l.Picture = check.Plan(l.Input) }

func (l *Loaded) with(
	ctx context.Context,
	tx *store.Tx,
	programs []store.Program,
	now time.Time,
	loc *time.Location,
) (err error) {
	for _, p := range programs {
		if p.ID == l.Session.ProgramID {
			l.Program = p
		}
	}
	if l.Players, l.Said, err = tx.Expected(ctx, l.Session); err != nil {
		return err
	}
	in := work.Input{
		Plan:    l.Session.Plan,
		Booked:  time.Duration(l.Session.Minutes) * time.Minute,
		Start:   l.Session.StartsAt.In(loc),
		Stages:  map[string]string{},
		There:   map[string]work.There{},
		Family:  l.Program.Family,
		Units:   l.Program.Units,
		Floor:   l.Session.Venue.Draw(l.Session.Zone),
		Running: l.Input.Running,
	}
	for _, s := range l.Program.Stages {
		in.Stages[s.ID] = s.Name
	}
	ids := []string{}
	for _, p := range l.Players {
		said := l.Said[p.ID]
		sitsOut := said.State == register.Hurt && in.Running // stays with the group, without a task
		if !said.Said().Coming() && !sitsOut {
			continue
		}
		in.Players = append(in.Players, p.Coach(l.Program))
		ids = append(ids, p.ID)
		if said.FromMinute > 0 || said.UntilMinute > 0 || said.NoWhat != "" {
			in.There[p.ID] = work.There{
				From:  time.Duration(said.FromMinute) * time.Minute,
				Until: time.Duration(said.UntilMinute) * time.Minute,
				No:    said.NoWhat,
			}
		}
	}
	leaders := []string{}
	for _, m := range l.Session.Leaders {
		leaders = append(leaders, m.Name)
	}
	called := say.Called(leaders)
	for i, m := range l.Session.Leaders {
		in.Leaders = append(
			in.Leaders,
			work.Leader{
				ID:     m.Member,
				Name:   m.Name,
				Called: called[i],
				Role:   coach.Role(m.Role),
				From:   time.Duration(m.From) * time.Minute,
				Until:  time.Duration(m.Until) * time.Minute,
			},
		)
	}
	if in.Running {
		if in.Drills, err = tx.PlanDrills(ctx, in.Plan); err != nil {
			return err
		}
		if err = l.past(ctx, tx, &in); err != nil {
			return err
		}
	} else if err = l.ground(ctx, tx, &in, ids, now); err != nil {
		return err
	}
	l.Input = in
	return nil
}

// past reads what the deal of sides and partners and the pace of drills rest on, so that the hall shows what was
// planned.
func (l *Loaded) past(ctx context.Context, tx *store.Tx, in *work.Input) (err error) {
	if err = l.marks(ctx, tx); err != nil {
		return err
	}
	p, err := tx.Past(ctx, l.Session)
	if err != nil {
		return err
	}
	in.Shows = p.Shows.Showing()
	l.level(in)
	l.before(in, p)
	return nil
}

// marks reads what all who are expected have shown in the program.
func (l *Loaded) marks(ctx context.Context, tx *store.Tx) (err error) {
	ids := make([]string, len(l.Players))
	for i, p := range l.Players {
		ids[i] = p.ID
	}
	l.Marks, err = tx.Marks(ctx, store.MarkFilter{Program: l.Program.ID, Players: ids})
	return err
}

// level puts players near in level near each other: by their stage, and how far they are in it. It is as the session
// begins, so that who plays with whom stays the same while it runs and marks are taken.
func (l *Loaded) level(in *work.Input) {
	before := map[string][]coach.Mark{}
	for _, m := range l.Marks {
		if m.SessionID != l.Session.ID && m.At.Before(in.Start) {
			before[m.PlayerID] = append(before[m.PlayerID], m)
		}
	}
	for i, p := range in.Players {
		if stage, ok := l.Program.Stage(p.Stage); ok {
			ready := evidence.Ready(stage, before[p.ID], 0, day.Of(in.Start), in.Start)
			in.Players[i].Level = float64(stage.Order) + ready.Progress
		}
	}
}

// before puts in what the class had before: the pace that its rounds showed, when it had which drill, who was with whom.
func (l *Loaded) before(in *work.Input, p store.Past) {
	for id, d := range in.Drills {
		in.Drills[id] = p.Rounds.Paced(d)
	}
	in.Recent = map[string]float64{}
	var deals [][][]string
	for _, h := range p.History {
		deals = append(deals, h.Plan.DealOf(h.Plan.First()).Players)
		for _, s := range h.Plan.Stations() {
			if _, known := in.Recent[s.Drill]; !known {
				in.Recent[s.Drill] = in.Start.Sub(h.Starts).Hours() / 24 / 7
			}
		}
	}
	in.Met, in.Away = work.Met(deals), p.Away
}

// firstOfStage is how many of a stage's criteria, in its order, it begins with.
const firstOfStage = 2

// ground reads what planning needs beside the plan: the shelf, what players have shown, kit, history and bookings.
func (l *Loaded) ground(ctx context.Context, tx *store.Tx, in *work.Input, ids []string, now time.Time) (err error) {
	if in.Shelf, in.Drills, err = tx.Shelf(ctx, in.Plan); err != nil {
		return err
	}
	if in.Tries, err = tx.Tries(ctx, ids, now); err != nil {
		return err
	}
	if err = l.marks(ctx, tx); err != nil {
		return err
	}
	byPlayer := map[string][]coach.Mark{}
	for _, m := range l.Marks {
		byPlayer[m.PlayerID] = append(byPlayer[m.PlayerID], m)
	}
	g, err := tx.Ground(ctx, l.Session)
	if err != nil {
		return err
	}
	in.Looks, in.Shows = g.Looks.ByPlayer(), g.Shows.Showing()
	in.Missing, in.Ahead = map[string][]coach.Criterion{}, map[string][]coach.Criterion{}
	if up := g.CameUp; up != nil {
		in.CameUp = &work.CameUp{From: up.From, Until: up.Until, Skills: up.Skills, Marked: up.Marked}
	}
	l.level(in)
	for i, p := range in.Players {
		stage, ok := l.Program.Stage(p.Stage)
		if !ok {
			continue
		}
		ready := evidence.Ready(stage, byPlayer[p.ID], 0, day.Of(now), now)
		if next, above := l.Program.Next(stage.ID); above && ready.Progress == 1 {
			in.Ahead[p.ID] = next.Criteria[:min(firstOfStage, len(next.Criteria))]
		}
		for _, it := range ready.Items {
			if it.Status.State != evidence.Shown {
				in.Missing[p.ID] = append(in.Missing[p.ID], it.Criterion)
				// what is to be marked today comes first
				if need := it.Criterion.Skill; slices.Contains(in.Looks[p.ID], it.Criterion.ID) {
					in.Players[i].Needs = slices.Insert(in.Players[i].Needs, 0, need)
				} else {
					in.Players[i].Needs = append(in.Players[i].Needs, need)
				}
			}
		}
	}
	in.Kit, in.PerAdult, l.Undo, l.Redo = g.Kit, g.Care.PerAdult, g.Undo, g.Redo
	in.MostForfeits = work.UsualForfeits
	if n := g.Care.MostForfeits; n != nil {
		in.MostForfeits = *n
	}
	for _, e := range g.Elsewhere {
		from := e.Starts.Sub(l.Session.StartsAt)
		in.Elsewhere = append(
			in.Elsewhere,
			work.Elsewhere{
				Leader: e.Leader,
				What:   e.What,
				From:   from,
				Until:  from + time.Duration(e.Minutes)*time.Minute,
			},
		)
	}
	for _, t := range g.Taken {
		from := t.Starts.Sub(in.Start)
		in.Taken = append(
			in.Taken,
			work.Taken{What: t.What, From: from, Until: from + time.Duration(t.Minutes)*time.Minute},
		)
	}
	l.Notes, l.Tests = g.Notes, g.Tests
	if g.Theme != nil {
		l.Theme = *g.Theme
	}
	for i := range in.Shelf {
		in.Shelf[i] = g.Rounds.Paced(in.Shelf[i])
	}
	l.before(in, g.Past)
	return nil
}
