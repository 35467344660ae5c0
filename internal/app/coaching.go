package app

import (
	"context"
	"errors"
	"regexp"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/run"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// stepsOfTeaching are what is said of how far a group is with a key.
var stepsOfTeaching = []string{"whole", "look", "with", "alone", "back"}

// keepFeedback keeps what was said to a player or a group, or a step of its teaching.
func (b *Inbox) keepFeedback(it Item) error {
	hows := []string{"step"}
	for _, h := range store.Hows {
		hows = append(hows, h.How)
	}
	if !slices.Contains(hows, it.What) || len([]rune(it.Key)) > 200 || it.Unit < -1 || it.Unit > doc.Most {
		return doc.Input("", "That feedback could not be read.")
	}
	switch {
	case it.What == "step" && !slices.Contains(stepsOfTeaching, it.Note),
		it.What == "asked" && !slices.Contains([]string{"", "all", "some", "nobody"}, it.Note),
		it.What != "step" && it.What != "asked" && it.Note != "":
		return doc.Input("", "That feedback could not be read.")
	}
	f := store.Feedback{
		ID: it.ID, Player: it.Player, Unit: it.Unit, Key: it.Key, How: it.What, Said: it.Note, At: it.At, By: it.By,
	}
	b.Changed.Feedback = append(b.Changed.Feedback, f)
	return b.tx.AddFeedback(b.ctx, b.Session.ID, f)
}

// turns are written as the round and the turn in it.
var turns = regexp.MustCompile(`^\d{1,3}\.\d{1,3}$`)

// team is whose a point is that a whole team has together; a group on a ladder is written as u and its number.
const team = "team"

var ofGroup = regexp.MustCompile(`^(u\d{1,2}|s\d{1,2}( s\d{1,2})?)$`) // or the sides of a game

// keepPoint keeps a try of a pair or of a team, or takes one back.
func (b *Inbox) keepPoint(it Item) error {
	ids := strings.Fields(it.Whose)
	if it.Whose == team {
		ids = []string{it.Player}
	}
	group := ofGroup.MatchString(it.Whose)
	if group {
		ids = nil
	}
	if !b.counts(it.Block) || !turns.MatchString(it.Turn) || len(ids) > 2 || len(ids) == 0 && !group {
		return doc.Input("", "That place is not in the plan any more.")
	}
	for _, id := range ids {
		if in, err := b.has(id); err != nil {
			return err
		} else if !in {
			return doc.Input("", "That player is not in this session.")
		}
	}
	p := store.Point{
		ID: it.ID, Place: it.Block, Turn: it.Turn, Whose: strings.Join(strings.Fields(it.Whose), " "), Player: it.Player,
		Good: it.Good, Undone: it.Undone, At: it.At, By: it.By,
	}
	b.Changed.Points = append(b.Changed.Points, p)
	return b.tx.AddPoint(b.ctx, b.Session.ID, p)
}

// mostCarried is how many criteria of a player are carried to the next session.
const mostCarried = 2

// carry has a player who was not seen looked at first the next time: at what is due. Where no session is planned after
// this one, or nothing is due, a note says so.
func (b *Inbox) carry(it Item) error {
	if b.By.Role == string(coach.RoleHelper) {
		return doc.Input("", "What is carried over belongs to the coaches.")
	}
	program, err := b.Program()
	if err != nil {
		return err
	}
	p, err := b.tx.Player(b.ctx, it.Player)
	if err != nil {
		return err
	}
	due := []string{}
	if stage, ok := program.Stage(p.Coach(program).Stage); ok {
		marks, err := b.tx.Marks(b.ctx, store.MarkFilter{Program: program.ID, Players: []string{it.Player}})
		if err != nil {
			return err
		}
		for _, k := range evidence.Ready(stage, marks, 0, day.Of(b.Now), b.Now).Items {
			if k.Due() && len(due) < mostCarried {
				due = append(due, k.Criterion.ID)
			}
		}
	}
	b.Changed.Whole = true
	if len(due) > 0 {
		if planned, err := b.tx.LookAtNext(b.ctx, b.Session.ID, it.Player, due); err != nil || planned {
			return err
		}
	}
	return b.tx.AddNote(b.ctx, store.Note{
		ID: it.ID, Player: it.Player, Session: b.Session.ID, Kind: "follow", Says: "not seen, look first", At: it.At,
		Due: day.Of(b.Now).Add(1), By: it.By,
	})
}

// EndLeftOpen ends the sessions that were started and that nobody ended, as an end by hand does: open counts become
// marks, and what each round gave is kept. It answers how many.
func EndLeftOpen(ctx context.Context, st *store.Store, now time.Time) (n int, err error) {
	open, err := st.LeftOpen(ctx, now, run.EndsItself)
	for _, o := range open { // one that cannot be ended holds up no other
		if bad := endItself(ctx, st, o, now); bad != nil {
			err = errors.Join(err, bad)
		} else {
			n++
		}
	}
	return n, err
}

func endItself(ctx context.Context, st *store.Store, o store.LeftOpen, now time.Time) error {
	loc, err := time.LoadLocation(o.TimeZone)
	if err != nil {
		loc = time.UTC
	}
	err = st.In(ctx, o.ClubID, func(tx *store.Tx) error {
		s, err := tx.Session(ctx, o.SessionID)
		if err != nil {
			return err
		}
		by, err := tx.MemberOf(ctx, o.ByMember)
		if err != nil {
			return err
		}
		if err := tx.EndItself(ctx, o.SessionID, o.ByMember, o.Ended); err != nil {
			return err
		}
		b := OpenInbox(ctx, tx, s, by, now.In(loc))
		b.Session.Ended = true
		if err := b.closeTallies(); err != nil {
			return err
		}
		return tx.Tell(ctx, o.SessionID, "whole")
	})
	if err != nil {
		return err
	}
	return KeepRounds(ctx, st, o.ClubID, o.SessionID, now, loc)
}
