// Package stairs is the place where everybody stands on their stage: the picture of all, the page of one, the ladder's
// criteria, and the decision who steps up.
package stairs

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
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
	Decided   *store.Recorded // the last decision, where it was read
}

// Free reports whether nothing that was decided about the player is still under way.
func (s Standing) Free() bool {
	return s.Decided == nil || !s.Decided.Waits() && !s.Decided.Ahead() && !s.Decided.Open()
}

// Next is the stage above; false at the top.
func (s Standing) Next() (coach.Stage, bool) { return s.Program.Next(s.Stage.ID) }

// lastOf is the last decision about each player, of decisions that are the last of somebody.
func lastOf(decided []store.Recorded) map[string]*store.Recorded {
	out := map[string]*store.Recorded{}
	for i := range decided {
		out[decided[i].PlayerID] = &decided[i]
	}
	return out
}

// everybody is where all players of a program stand, with the marks behind it.
func everybody(ctx context.Context, tx *store.Tx, program store.Program, now time.Time) ([]Standing, map[string][]coach.Mark, error) {
	players, err := tx.Players(ctx, store.PlayerFilter{})
	if err != nil {
		return nil, nil, err
	}
	marks, err := tx.Marks(ctx, store.MarkFilter{Program: program.ID})
	if err != nil {
		return nil, nil, err
	}
	all, err := From(ctx, tx, program, players, marks, now)
	return all, ofPlayers(marks), err
}

// Of works out where players stand at a moment.
func Of(ctx context.Context, tx *store.Tx, program store.Program, players []store.Player, now time.Time) ([]Standing, error) {
	ids := make([]string, len(players))
	for i, p := range players {
		ids[i] = p.ID
	}
	marks, err := tx.Marks(ctx, store.MarkFilter{Program: program.ID, Players: ids})
	if err != nil {
		return nil, err
	}
	return From(ctx, tx, program, players, marks, now)
}

// From is Of for marks that were read already.
func From(ctx context.Context, tx *store.Tx, program store.Program, players []store.Player, marks []coach.Mark, now time.Time) ([]Standing, error) {
	visits, err := tx.Visits(ctx, program.ID)
	if err != nil {
		return nil, err
	}
	return standings(program, players, marks, visits, now), nil
}

// standings works them out from what was read.
func standings(program store.Program, players []store.Player, marks []coach.Mark, visits map[string]int, now time.Time) (out []Standing) {
	byPlayer := ofPlayers(marks)
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

// then works out where players stood on a day of the past, by today's criteria: on the stage they were on, with the marks and visits they had by then.
func then(ctx context.Context, tx *store.Tx, program store.Program, players []store.Player, marks []coach.Mark, on time.Time) ([]Standing, error) {
	steps, err := tx.Steps(ctx, program.ID)
	if err != nil {
		return nil, err
	}
	came, err := tx.CameOn(ctx, program.ID)
	if err != nil {
		return nil, err
	}
	byPlayer := ofPlayers(marks) // those of later days do not count for readiness at a day
	var out []Standing
	for _, p := range players {
		at, ok := p.In(program.ID)
		if !ok || p.Joined.After(day.Of(on)) {
			continue
		}
		stageID, since := at.Stage, at.Since
		for _, s := range steps { // the newest first: each that came later is taken back
			if s.PlayerID != p.ID {
				continue
			}
			if since = s.FromOn; !s.FromOn.After(day.Of(on)) {
				break
			}
			stageID, since = s.FromStage, p.Joined
		}
		stage, ok := program.Stage(stageID)
		if !ok {
			continue
		}
		visits := 0
		for _, at := range came[p.ID] {
			if !day.In(at, on.Location()).Before(since) && !at.After(on) {
				visits++
			}
		}
		out = append(out, Standing{Player: p, Program: program, Stage: stage, Since: since, Visits: visits, Readiness: evidence.Ready(stage, byPlayer[p.ID], visits, since, on)})
	}
	return out, nil
}

// ofPlayers are marks by player.
func ofPlayers(marks []coach.Mark) map[string][]coach.Mark {
	out := map[string][]coach.Mark{}
	for _, m := range marks {
		out[m.PlayerID] = append(out[m.PlayerID], m)
	}
	return out
}

// chosen is the program that is asked for, else the first. There is one.
func chosen(programs []store.Program, id string) store.Program {
	for _, p := range programs {
		if p.ID == id {
			return p
		}
	}
	return programs[0]
}

// itemView is a criterion with the marks behind its state.
type itemView struct {
	evidence.Item
	Shown  []string // the marks that count, in words
	Brief  string   // the newest of them in one line
	Sure   string
	Trends []evidence.Trend // one, or one for each side
	Next   []string         // where it can be shown next, and by whom it can be marked
}

// Slipping reports whether it slips, on one side at least.
func (v itemView) Slipping() bool { return evidence.AnySlips(v.Trends) }

// said writes a mark with its day and who made it.
func said(c coach.Criterion, m coach.Mark, loc *time.Location) string {
	s := m.Said(c)
	if m.Side != "" {
		s += " " + string(m.Side)
	}
	return s + ", " + m.At.In(loc).Format("2 Jan") + ", " + m.ByName
}

func itemsOf(r evidence.Readiness, marks []coach.Mark, at time.Time, loc *time.Location) []itemView {
	var out []itemView
	for _, it := range r.Items {
		v := itemView{Item: it, Trends: evidence.Trends(it.Criterion, marks, at)}
		good := slices.Clone(it.Status.Last)
		slices.SortFunc(good, func(a, b coach.Mark) int { return a.At.Compare(b.At) })
		for _, m := range good {
			v.Shown = append(v.Shown, said(it.Criterion, m, loc))
		}
		v.Brief = brief(it.Criterion, good[max(0, len(good)-max(2, it.Criterion.Rule.Good)):], loc)
		if it.Criterion.Measure == coach.Makes {
			made, tried := 0, 0
			for _, m := range marks {
				if m.CriterionID == it.Criterion.ID && !m.Struck && !m.At.After(at) {
					made, tried = made+int(m.Figure), tried+m.Tries
				}
			}
			if tried > 0 {
				low, high := evidence.Wilson(made, tried)
				v.Sure = fmt.Sprintf("%d of %d in all: true rate likely %.0f–%.0f in 100", made, tried, low*100, high*100)
			}
		}
		out = append(out, v)
	}
	return out
}

// brief says marks in one line: figures, days, people.
func brief(c coach.Criterion, marks []coach.Mark, loc *time.Location) string {
	var figures, days, people []string
	for _, m := range marks {
		first, _, _ := strings.Cut(m.ByName, " ")
		figures, days, people = append(figures, m.Said(c)), append(days, m.At.In(loc).Format("2 Jan")), append(people, first)
	}
	join := func(words []string) string {
		return strings.Join(slices.Compact(words), ", ")
	}
	if len(marks) == 0 {
		return ""
	}
	return join(figures) + " · " + join(days) + " · " + join(people)
}

// keepEvidence is the readiness as a decision keeps it.
func keepEvidence(s Standing, items []itemView) store.Evidence {
	e := store.Evidence{Stage: s.Stage.Name, Ready: s.Readiness.Ready, Missing: s.Readiness.Missing}
	for _, it := range items {
		standard := it.Criterion.Standard()
		if len(it.Criterion.Points) > 0 {
			standard += " (" + strings.Join(it.Criterion.Points, ", ") + ")"
		}
		e.Items = append(e.Items, store.EvidenceOfItem{Wording: it.Criterion.Wording, Standard: standard + "; " + it.Criterion.Rule.String(), State: string(it.Status.State), Marks: it.Shown, Edition: it.Criterion.Edition})
	}
	return e
}
