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
	"gruppo/internal/store"
)

// Standing is a player on a stage with what they have shown of it.
type Standing struct {
	Player    store.Player
	Program   store.Program
	Stage     coach.Stage
	Since     time.Time
	Visits    int
	Readiness evidence.Readiness
}

// Next is the stage above; false at the top.
func (s Standing) Next() (coach.Stage, bool) { return s.Program.Next(s.Stage.ID) }

// NotMarked reports whether the last mark is over six weeks old, or there is none.
func (s Standing) NotMarked(now time.Time) bool {
	return s.Readiness.LastSeen.Before(now.AddDate(0, 0, -42))
}

// All works out where every player of a program stands at a moment.
func All(ctx context.Context, tx *store.Tx, program store.Program, now time.Time) ([]Standing, error) {
	players, err := tx.Players(ctx, store.PlayerFilter{})
	if err != nil {
		return nil, err
	}
	return among(ctx, tx, program, players, store.MarkFilter{Program: program.ID}, now)
}

// Of is All for the given players.
func Of(ctx context.Context, tx *store.Tx, program store.Program, players []store.Player, now time.Time) ([]Standing, error) {
	ids := make([]string, len(players))
	for i, p := range players {
		ids[i] = p.ID
	}
	return among(ctx, tx, program, players, store.MarkFilter{Program: program.ID, Players: ids}, now)
}

func among(ctx context.Context, tx *store.Tx, program store.Program, players []store.Player, which store.MarkFilter, now time.Time) ([]Standing, error) {
	marks, err := tx.Marks(ctx, which)
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
	byPlayer := map[string][]coach.Mark{}
	for _, m := range marks {
		byPlayer[m.PlayerID] = append(byPlayer[m.PlayerID], m)
	}
	var out []Standing
	for _, p := range players {
		at, ok := p.In(program.ID)
		if !ok {
			continue
		}
		stage, ok := program.Stage(at.Stage)
		if !ok {
			continue
		}
		out = append(out, Standing{Player: p, Program: program, Stage: stage, Since: at.Day(), Visits: visits[p.ID],
			Readiness: evidence.Ready(stage, byPlayer[p.ID], visits[p.ID], at.Day(), now)})
	}
	return out, nil
}

// itemView is a criterion with the marks behind its state.
type itemView struct {
	evidence.Item
	Shown []string // the marks that count, in words
	Brief string   // the newest of them in one line
	Sure  string
}

// said writes a mark with its day and who made it.
func said(c coach.Criterion, m coach.Mark, loc *time.Location) string {
	s := m.Said(c.Measure)
	if m.Side != "" {
		s += " " + string(m.Side)
	}
	return s + ", " + m.At.In(loc).Format("2 Jan") + ", " + m.ByName
}

func itemsOf(r evidence.Readiness, marks []coach.Mark, loc *time.Location) []itemView {
	var out []itemView
	for _, it := range r.Items {
		v := itemView{Item: it}
		good := slices.Clone(it.Status.Last)
		slices.SortFunc(good, func(a, b coach.Mark) int { return a.At.Compare(b.At) })
		for _, m := range good {
			v.Shown = append(v.Shown, said(it.Criterion, m, loc))
		}
		v.Brief = brief(it.Criterion, good[max(0, len(good)-max(2, it.Criterion.Rule.Good)):], loc)
		if it.Criterion.Measure == coach.Makes {
			made, tried := 0, 0
			for _, m := range marks {
				if m.CriterionID == it.Criterion.ID && !m.Struck {
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
		figures, days, people = append(figures, m.Said(c.Measure)), append(days, m.At.In(loc).Format("2 Jan")), append(people, first)
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
		e.Items = append(e.Items, store.EvidenceOfItem{Wording: it.Criterion.Wording, Standard: it.Criterion.Standard() + "; " + it.Criterion.Rule.String(), State: string(it.Status.State), Marks: it.Shown})
	}
	return e
}
