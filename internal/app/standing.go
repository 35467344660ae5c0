// Package app is what several rooms do with facts of the store and rules of the job.
package app

import (
	"context"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// Standing is a player on a stage with what they have shown of it.
type Standing struct {
	Player    store.Player
	Program   store.Program
	Stage     coach.Stage
	Since     day.Day
	Visits    int
	Readiness evidence.Readiness
	Decided   *deciding.Recorded // the last decision, where it was read
}

// Free reports whether nothing that was decided about the player is still under way.
func (s Standing) Free() bool {
	return deciding.Free(s.Decided)
}

// Next is the stage above; false at the top.
func (s Standing) Next() (coach.Stage, bool) { return s.Program.Next(s.Stage.ID) }

// LastOf is the last decision about each player, of decisions that are the last of somebody.
func LastOf(decided []deciding.Recorded) map[string]*deciding.Recorded {
	out := map[string]*deciding.Recorded{}
	for i := range decided {
		out[decided[i].PlayerID] = &decided[i]
	}
	return out
}

// Everybody is where all players of a program stand, with the marks behind it.
func Everybody(
	ctx context.Context,
	tx *store.Tx,
	program store.Program,
	now time.Time,
) ([]Standing, map[string][]coach.Mark, error) {
	players, err := tx.Players(ctx, store.PlayerFilter{})
	if err != nil {
		return nil, nil, err
	}
	return EverybodyOf(ctx, tx, program, players, now)
}

// EverybodyOf is Everybody where all players were read already.
func EverybodyOf(
	ctx context.Context,
	tx *store.Tx,
	program store.Program,
	players []store.Player,
	now time.Time,
) ([]Standing, map[string][]coach.Mark, error) {
	marks, err := tx.Marks(ctx, store.MarkFilter{Program: program.ID})
	if err != nil {
		return nil, nil, err
	}
	all, err := StandingFrom(ctx, tx, program, players, marks, now)
	return all, MarksOf(marks), err
}

// StandingOf works out where players stand at a moment.
func StandingOf(
	ctx context.Context,
	tx *store.Tx,
	program store.Program,
	players []store.Player,
	now time.Time,
) ([]Standing, error) {
	ids := standingIn(program, players)
	if len(ids) == 0 {
		return nil, nil
	}
	marks, err := tx.Marks(ctx, store.MarkFilter{Program: program.ID, Players: ids})
	if err != nil {
		return nil, err
	}
	return StandingFrom(ctx, tx, program, players, marks, now)
}

// StandingFrom is StandingOf for marks that were read already.
func StandingFrom(
	ctx context.Context,
	tx *store.Tx,
	program store.Program,
	players []store.Player,
	marks []coach.Mark,
	now time.Time,
) ([]Standing, error) {
	ids := standingIn(program, players)
	if len(ids) == 0 {
		return nil, nil
	}
	visits, err := tx.Visits(ctx, program.ID, ids)
	if err != nil {
		return nil, err
	}
	return Standings(program, players, marks, visits, now), nil
}

// standingIn are the ids of those who stand on the program's ladder.
func standingIn(program store.Program, players []store.Player) (ids []string) {
	for _, p := range players {
		if _, ok := p.In(program.ID); ok {
			ids = append(ids, p.ID)
		}
	}
	return ids
}

// Standings works them out from what was read.
func Standings(
	program store.Program,
	players []store.Player,
	marks []coach.Mark,
	visits map[string]int,
	now time.Time,
) (out []Standing) {
	byPlayer := MarksOf(marks)
	for _, p := range players {
		at, ok := p.In(program.ID)
		if !ok {
			continue
		}
		stage, ok := program.Stage(at.Stage)
		if !ok {
			continue
		}
		out = append(out, Standing{Player: p, Program: program, Stage: stage, Since: at.Since, Visits: visits[p.ID],
			Readiness: evidence.Ready(stage, byPlayer[p.ID], visits[p.ID], at.Since, now)})
	}
	return out
}

// StoodOn works out where players stood on a day of the past, by today's criteria: on the stage they were on, with the
// marks and visits they had by then.
func StoodOn(
	ctx context.Context,
	tx *store.Tx,
	program store.Program,
	players []store.Player,
	marks []coach.Mark,
	on time.Time,
) ([]Standing, error) {
	steps, err := tx.Steps(ctx, program.ID)
	if err != nil {
		return nil, err
	}
	came, err := tx.CameOn(ctx, program.ID)
	if err != nil {
		return nil, err
	}
	stepsOf := map[string][]deciding.Step{}
	for _, s := range steps {
		stepsOf[s.PlayerID] = append(stepsOf[s.PlayerID], deciding.Step{FromStage: s.FromStage, FromOn: s.FromOn})
	}
	byPlayer := MarksOf(marks) // those of later days do not count for readiness at a day
	var out []Standing
	for _, p := range players {
		at, ok := p.In(program.ID)
		if !ok || p.Joined.After(day.Of(on)) {
			continue
		}
		stageID, since := deciding.StoodOn(at.Stage, at.Since, p.Joined, stepsOf[p.ID], day.Of(on))
		stage, ok := program.Stage(stageID)
		if !ok {
			continue
		}
		visits := deciding.VisitsBy(came[p.ID], since, on)
		out = append(
			out,
			Standing{
				Player:    p,
				Program:   program,
				Stage:     stage,
				Since:     since,
				Visits:    visits,
				Readiness: evidence.Ready(stage, byPlayer[p.ID], visits, since, on),
			},
		)
	}
	return out, nil
}

// MarksOf are marks by player.
func MarksOf(marks []coach.Mark) map[string][]coach.Mark {
	out := map[string][]coach.Mark{}
	for _, m := range marks {
		out[m.PlayerID] = append(out[m.PlayerID], m)
	}
	return out
}

// Chosen is the program that is asked for, else the first. There is one.
func Chosen(programs []store.Program, id string) store.Program {
	for _, p := range programs {
		if p.ID == id {
			return p
		}
	}
	return programs[0]
}

// FindProgram is the program of an id, with its ladder; store.ErrNone when the club has none such.
func FindProgram(ctx context.Context, tx *store.Tx, id string) (store.Program, error) {
	programs, err := tx.Ladders(ctx)
	if err != nil {
		return store.Program{}, err
	}
	for _, p := range programs {
		if p.ID == id {
			return p, nil
		}
	}
	return store.Program{}, store.ErrNone
}
