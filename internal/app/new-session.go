package app

import (
	"context"
	"slices"
	"time"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// NewSession is a session of a class on a date, with the plan of the one before it where that had stations. The note
// says what the clock does that night.
func NewSession(
	ctx context.Context,
	tx *store.Tx,
	class string,
	date, now time.Time,
	loc *time.Location,
) (s store.Session, note string, err error) {
	classes, err := tx.Classes(ctx)
	if err != nil {
		return s, "", err
	}
	i := slices.IndexFunc(classes, func(k store.Class) bool { return k.ID == class })
	if i < 0 {
		return s, "", store.ErrNone
	}
	cl := classes[i]
	s = store.Session{ID: store.NewID(), ClassID: cl.ID, Minutes: cl.Minutes, Zone: cl.Zone}
	s.Venue.ID = cl.VenueID
	if s.StartsAt, note, err = day.On(date, cl.Starts, loc); err != nil {
		return s, "", err
	}
	last, err := tx.Sessions(ctx, store.SessionFilter{Class: cl.ID, To: s.StartsAt, Newest: true, Limit: 1})
	if err == nil && len(last) == 0 { // before all others
		last, err = tx.Sessions(ctx, store.SessionFilter{Class: cl.ID, Limit: 1})
	}
	if err != nil {
		return s, "", err
	}
	if len(last) == 0 || len(last[0].Plan.Stations()) == 0 {
		s.Plan = doc.Start(time.Duration(cl.Minutes)*time.Minute, cl.Family)
		return s, note, nil
	}
	s.Plan = last[0].Plan.Clone()
	s.Plan.AnotherDay()
	s.Plan.CopyOf(day.In(last[0].StartsAt, loc).Format("Mon 2 Jan"))
	if last[0].Ended || last[0].StartsAt.After(now) { // what was not run does not grow
		s.Plan.Grow()
	}
	s.Plan.Seed++
	for i := range s.Plan.Deals {
		s.Plan.Deals[i].Players = nil
	}
	return s, note, nil
}
