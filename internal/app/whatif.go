package app

import (
	"context"
	"time"

	"gruppo/internal/coach/plan/whatif"
	"gruppo/internal/coach/register"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// Happening keeps, for a session, what was only asked about: in the register, among the leaders, in the booking.
type Happening struct {
	Session store.Session
	Program string                                  // where a guest from outside begins
	Known   func(player string) bool                // whether somebody is on the roster
	Place   func() (venue store.Venue, zone string) // where it moves to
	By      string
	Now     time.Time
}

// Keep keeps one thing that happened.
func (h *Happening) Keep(ctx context.Context, tx *store.Tx, what whatif.Happens) error {
	said := func(a store.Attendance) error {
		a.PlayerID = what.Player.ID
		_, err := tx.SetAttendance(ctx, h.Session.ID, a, h.By, h.Now)
		return err
	}
	switch what.Kind {
	case whatif.Absent:
		if h.Session.Started {
			return said(store.Attendance{State: register.Absent})
		}
		return said(store.Attendance{State: register.Away})
	case whatif.Late:
		return said(store.Attendance{State: register.Late, FromMinute: int(what.At.Minutes())})
	case whatif.Hurt:
		return said(store.Attendance{State: register.Hurt, NoWhat: what.No})
	case whatif.Guest:
		return h.guest(ctx, tx, what)
	case whatif.Gone:
		for _, l := range h.Session.Leaders {
			if l.Member == what.Leader {
				l.Until = int(what.At.Minutes())
				return tx.SetSessionLeader(ctx, h.Session.ID, l, l.Until > 0)
			}
		}
	case whatif.Time:
		h.Session.Minutes -= what.Minutes
		return h.book(ctx, tx)
	case whatif.Moved:
		h.Session.Venue, h.Session.Zone = h.Place()
		return h.book(ctx, tx)
	}
	return nil
}

func (h *Happening) book(ctx context.Context, tx *store.Tx) error {
	return tx.SetBooking(ctx, h.Session.ID, h.Session.Minutes, h.Session.Venue.ID, h.Session.Zone)
}

// guest puts somebody from outside on the roster first.
func (h *Happening) guest(ctx context.Context, tx *store.Tx, what whatif.Happens) error {
	if today := day.Of(h.Now); !h.Known(what.Player.ID) {
		p := store.Player{ID: what.Player.ID, Name: what.Player.Name, Tags: []string{"guest"}, Joined: today}
		if what.Player.Stage != "" {
			p.Standings = []store.Standing{{Program: h.Program, Stage: what.Player.Stage, Since: today}}
		}
		if err := tx.PutPlayers(ctx, []store.Player{p}); err != nil {
			return err
		}
	}
	return tx.AddGuest(ctx, h.Session.ID, what.Player.ID, register.Nothing, h.By, h.Now)
}
