package app

import (
	"context"
	"slices"
	"strconv"
	"time"

	"gruppo/internal/day"
	"gruppo/internal/store"
)

// Choice is a decision as it is typed.
type Choice struct {
	Kind, Why string
	From      string // "term", or now
	Visits    string // of a try-out
	Class     string
}

// Ground is what every decision rests on beside the player.
type Ground struct {
	Classes []store.Class
	Term    store.Term
	TwoSign bool
}

func ReadGround(ctx context.Context, tx *store.Tx, program string, today day.Day) (g Ground, err error) {
	classes, err := tx.Classes(ctx)
	if err != nil {
		return g, err
	}
	for _, k := range classes {
		if k.ProgramID == program {
			g.Classes = append(g.Classes, k)
		}
	}
	terms, err := tx.Terms(ctx)
	if err != nil {
		return g, err
	}
	_, g.Term = store.TermAt(terms, today)
	g.TwoSign, err = tx.TwoSign(ctx)
	return g, err
}

// Takes are the classes that take a stage.
func (g Ground) Takes(stage string) (out []store.Class) {
	for _, k := range g.Classes {
		if slices.Contains(k.StageIDs, stage) {
			out = append(out, k)
		}
	}
	return out
}

// Decision makes one of a Choice, or says what is wrong with it.
func (g Ground) Decision(s Standing, items []Shown, ch Choice, now time.Time, today day.Day) (d store.Decision, wrong string) {
	next, up := s.Next()
	d = store.Decision{ID: store.NewID(), PlayerID: s.Player.ID, ProgramID: s.Program.ID, Kind: ch.Kind, FromStage: s.Stage.ID, ToStage: s.Stage.ID, Why: ch.Why, Evidence: Kept(s, items), At: now, FromOn: today}
	if len([]rune(ch.Why)) > 500 {
		return d, "A reason of at most 500 characters, please."
	}
	if ch.Kind != store.Stay && !up {
		return d, s.Stage.Name + " is the highest stage."
	}
	switch ch.Kind {
	case store.Up:
		if !s.Readiness.Ready && ch.Why == "" {
			return d, "Not everything is shown yet. To move up all the same, give the reason: it is kept with the decision."
		}
		d.ToStage, d.TwoSign = next.ID, g.TwoSign
		if ch.From == "term" {
			if g.Term.ID == "" {
				return d, "No term is planned after today; plan one under Places, or decide from now."
			}
			d.FromOn = g.Term.From
		}
	case store.Try:
		d.ToStage = next.ID
		n, err := strconv.Atoi(ch.Visits)
		if d.Visits = n; err != nil || n < 1 || n > 12 {
			return d, "A try-out has 1 to 12 visits."
		}
		takes := g.Takes(next.ID)
		if !slices.ContainsFunc(takes, func(k store.Class) bool { return k.ID == ch.Class }) {
			if len(takes) == 0 {
				return d, "No class takes " + next.Name + ", so it cannot be tried out."
			}
			return d, "Choose the class in which " + next.Name + " is tried out."
		}
		d.ClassID = ch.Class
	case store.Stay:
		if ch.Why == "" {
			return d, "Give the reason: the player and the next coach will want to know."
		}
	default:
		return d, "Choose what is decided."
	}
	return d, ""
}

// Recorded says what a decision does now.
func (g Ground) Recorded(d store.Decision, today day.Day) string {
	switch {
	case d.Kind == store.Up && d.TwoSign:
		return "Recorded, with the evidence as it is today. It waits for a second signature."
	case d.Kind == store.Up && d.FromOn.After(today):
		return "Recorded, with the evidence as it is today. It holds from " + d.FromOn.Format("2 Jan") + "."
	}
	return "Recorded, with the evidence as it is today."
}
