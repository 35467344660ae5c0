package deciding

import (
	"slices"
	"strconv"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
)

// Choice is a decision as it is typed.
type Choice struct {
	Kind   Kind
	Why    string
	From   string // "term", or now
	Visits string // of a try-out
	Class  string // its id
}

// Class is one that takes players of some stages.
type Class struct {
	ID, Name string
	Stages   []string // ids
}

// Rules are what every decision in a program rests on beside the player.
type Rules struct {
	Classes []Class
	Next    season.Term // the term after today
	TwoSign bool        // a step up waits for a second signature
}

// At is where a player stands.
type At struct {
	Player, Program string
	Stage           coach.Stage
	Next            *coach.Stage // the stage above; nil at the top
	Ready           evidence.Readiness
}

// Takes are the classes that take a stage.
func (r Rules) Takes(stage string) (out []Class) {
	for _, k := range r.Classes {
		if slices.Contains(k.Stages, stage) {
			out = append(out, k)
		}
	}
	return out
}

// Decide makes a decision of a choice, or says what is wrong with it. It has no id yet.
func (r Rules) Decide(p At, kept Evidence, ch Choice, now time.Time, today day.Day) (d Decision, wrong string) {
	d = Decision{
		PlayerID:  p.Player,
		ProgramID: p.Program,
		Kind:      ch.Kind,
		FromStage: p.Stage.ID,
		ToStage:   p.Stage.ID,
		Why:       ch.Why,
		Evidence:  kept,
		At:        now,
		FromOn:    today,
	}
	switch {
	case len([]rune(ch.Why)) > 500:
		return d, "A reason of at most 500 characters, please."
	case ch.Kind != Stay && p.Next == nil:
		return d, p.Stage.Name + " is the highest stage."
	}
	switch ch.Kind {
	case Up:
		return r.up(d, p, ch)
	case Try:
		return r.try(d, p, ch)
	case Stay:
		if ch.Why == "" {
			return d, "Give the reason: the player and the next coach will want to know."
		}
		return d, ""
	}
	return d, "Choose what is decided."
}

func (r Rules) up(d Decision, p At, ch Choice) (Decision, string) {
	if !p.Ready.Ready && ch.Why == "" {
		return d, "Not everything is shown yet. To move up all the same, give the reason: it is kept with the decision."
	}
	d.ToStage, d.TwoSign = p.Next.ID, r.TwoSign
	if ch.From != "term" {
		return d, ""
	}
	if r.Next.ID == "" {
		return d, "No term is planned after today; plan one under Places, or decide from now."
	}
	d.FromOn = r.Next.From
	return d, ""
}

func (r Rules) try(d Decision, p At, ch Choice) (Decision, string) {
	d.ToStage = p.Next.ID
	visits, err := strconv.Atoi(ch.Visits)
	if err != nil || visits < 1 || visits > 12 {
		return d, "A try-out has 1 to 12 visits."
	}
	takes := r.Takes(p.Next.ID)
	if len(takes) == 0 {
		return d, "No class takes " + p.Next.Name + ", so it cannot be tried out."
	}
	if !slices.ContainsFunc(takes, func(k Class) bool { return k.ID == ch.Class }) {
		return d, "Choose the class in which " + p.Next.Name + " is tried out."
	}
	d.Visits, d.ClassID = visits, ch.Class
	return d, ""
}

// Answer says what a decision does now that it is kept.
func (d Decision) Answer(today day.Day) string {
	const kept = "Recorded, with the evidence as it is today."
	switch {
	case d.Kind == Up && d.TwoSign:
		return kept + " It waits for a second signature."
	case d.Kind == Up && d.FromOn.After(today):
		return kept + " It holds from " + d.FromOn.Format("2 Jan") + "."
	}
	return kept
}
