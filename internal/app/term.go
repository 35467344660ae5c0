package app

import (
	"context"
	"slices"

	"gruppo/internal/coach/places"
	"gruppo/internal/store"
)

// TakeClassesOver makes a term's classes those that there are now; a class that the term has already stays as it is
// there. One that has only adults now, or only children, is for adults or children then.
func TakeClassesOver(ctx context.Context, tx *store.Tx, term string) error {
	classes, err := tx.Classes(ctx)
	if err != nil {
		return err
	}
	have, err := tx.TermClasses(ctx, term)
	if err != nil {
		return err
	}
	ages, err := tx.AgesIn(ctx, term)
	if err != nil {
		return err
	}
	for _, k := range classes {
		if slices.ContainsFunc(have, func(h store.TermClass) bool { return h.ClassID == k.ID }) {
			continue
		}
		next := store.TermClass{
			ID: store.NewID(), TermID: term, ProgramID: k.ProgramID, ClassID: k.ID, Name: k.Name, Weekday: k.Weekday, Starts: k.Starts,
			Minutes: k.Minutes, VenueID: k.VenueID, Places: k.Places, StageIDs: k.StageIDs,
		}
		for _, a := range ages {
			if a.ClassID == k.ID {
				next.AgeFrom, next.AgeUntil = places.Band(a.Youngest, a.Oldest)
			}
		}
		if err := tx.PutTermClass(ctx, next); err != nil {
			return err
		}
	}
	return nil
}
