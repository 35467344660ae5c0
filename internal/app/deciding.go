package app

import (
	"context"
	"time"

	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// ReadRules reads what every decision in a program rests on beside the player.
func ReadRules(ctx context.Context, tx *store.Tx, program string, today day.Day) (r deciding.Rules, err error) {
	classes, err := tx.Classes(ctx)
	if err != nil {
		return r, err
	}
	for _, k := range classes {
		if k.ProgramID == program {
			r.Classes = append(r.Classes, deciding.Class{ID: k.ID, Name: k.Name, Stages: k.StageIDs})
		}
	}
	terms, err := tx.Terms(ctx)
	if err != nil {
		return r, err
	}
	_, r.Next = season.TermAt(terms, today)
	r.TwoSign, err = tx.TwoSign(ctx)
	return r, err
}

// At is where somebody stands, as the rules of deciding take it.
func (s Standing) At() deciding.At {
	at := deciding.At{Player: s.Player.ID, Program: s.Program.ID, Stage: s.Stage, Ready: s.Readiness}
	if next, up := s.Next(); up {
		at.Next = &next
	}
	return at
}

// Decide makes a decision of a choice about somebody, or says what is wrong with it.
func Decide(
	r deciding.Rules,
	s Standing,
	items []Shown,
	ch deciding.Choice,
	now time.Time,
	today day.Day,
) (d deciding.Decision, wrong string) {
	d, wrong = r.Decide(s.At(), Kept(s, items), ch, now, today)
	d.ID = store.NewID()
	return d, wrong
}
