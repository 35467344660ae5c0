package app

import (
	"context"
	"time"

	"gruppo/internal/coach/plan/run"
	"gruppo/internal/store"
)

// Ran is a session that was run, with what was counted in it.
type Ran struct {
	Loaded
	Events  []run.Event
	Tallies []store.Tally
}

// ReadRan reads a session that was run.
func ReadRan(ctx context.Context, tx *store.Tx, id string, now time.Time, loc *time.Location) (r Ran, err error) {
	if r.Loaded, err = ReadRunning(ctx, tx, id, now, loc); err != nil {
		return r, err
	}
	if r.Events, err = tx.Events(ctx, id); err != nil {
		return r, err
	}
	r.Tallies, err = tx.Tallies(ctx, id)
	return r, err
}

// Gave works out what every round gave, for the report and for the pace of the next plans.
func (r *Ran) Gave() []run.Given {
	r.Work()
	t := run.Fold(r.Picture.Segments(), r.Events)
	return run.Gave(r.Picture.Picture, t, func(round int, drill, player string) (n int, counted bool) {
		for _, k := range r.Tallies {
			if k.Round == round && k.Player == player && (k.Drill == "" || k.Drill == drill) && k.Tries != "" {
				n, counted = n+len(k.Tries), true
			}
		}
		return n, counted
	})
}

// KeepRounds keeps what every round of a session gave that is over.
func KeepRounds(ctx context.Context, st *store.Store, club, session string, now time.Time, loc *time.Location) error {
	var ran Ran
	err := st.In(ctx, club, func(tx *store.Tx) (err error) {
		ran, err = ReadRan(ctx, tx, session, now, loc)
		return err
	})
	if err != nil {
		return err
	}
	given := ran.Gave()
	return st.In(ctx, club, func(tx *store.Tx) error { return tx.PutRounds(ctx, session, given) })
}
