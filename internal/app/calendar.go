package app

import (
	"context"
	"fmt"
	"time"

	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
)

// A calendar that others read goes from some weeks back to half a year ahead.
const (
	calendarBack  = -28
	calendarAhead = 183 // days
)

// WhoseDates says whose dates are read: one of them.
type WhoseDates struct{ Player, Member, Class string }

// Calendar are the dates of somebody as they stand in a calendar, with the club's holidays and events. No child is named
// in it. Pages is the program's own address, for those who may open plans; empty: they are not named.
func Calendar(
	ctx context.Context, tx *store.Tx, of WhoseDates, pages string, now time.Time, loc *time.Location,
) (out []exchange.Event, err error) {
	from, to := now.AddDate(0, 0, calendarBack), now.AddDate(0, 0, calendarAhead)
	var sessions []store.Session
	if of.Player != "" {
		sessions, err = DatesOf(ctx, tx, of.Player, from, to)
	} else {
		f := store.SessionFilter{Class: of.Class, Member: of.Member, From: from, To: to, Cancelled: true}
		sessions, err = tx.Sessions(ctx, f)
	}
	if err != nil {
		return nil, err
	}
	first, last := day.In(from, loc), day.In(to, loc)
	themes, err := tx.Themes(ctx, first, last)
	if err != nil {
		return nil, err
	}
	offs, err := tx.DaysOff(ctx, first, last)
	if err != nil {
		return nil, err
	}
	about := map[string]season.Theme{}
	for _, t := range themes {
		about[t.Class+t.On.String()] = t.Theme
	}
	for _, s := range sessions {
		out = append(out, eventOf(s, about[s.ClassID+day.In(s.StartsAt, loc).String()], of, pages, loc))
	}
	for _, d := range offs {
		out = append(out, exchange.Event{ID: d.ID, Name: d.Name, From: d.From, Until: d.Until})
	}
	return out, nil
}

func eventOf(s store.Session, theme season.Theme, of WhoseDates, pages string, loc *time.Location) exchange.Event {
	e := exchange.Event{
		ID:      s.ID,
		Name:    s.ClassName,
		Where:   s.Venue.Name,
		Says:    theme.Says,
		Starts:  s.StartsAt,
		Minutes: s.Minutes,
		Off:     s.Cancelled,
		Changes: s.Changes,
	}
	if s.Zone != "" {
		e.Where += ", " + s.Zone
	}
	if of.Player == "" {
		if t := theme.String(); t != "" {
			e.Name += ": " + t
		}
		if pages != "" {
			e.Address = pages + "/sessions/" + s.ID
		}
	}
	if s.MovedFrom != nil {
		e.Says = fmt.Sprintf("Moved from %s. %s", s.MovedFrom.In(loc).Format("Mon 2 Jan 15:04"), e.Says)
	}
	return e
}

// Told is who hears of a change to a session, and whom the club has to tell itself.
type Told struct {
	Leaders  []string // first names; by mail
	Families int      // by mail, since they asked for it
	Untold   []string // players whose families have not
}

// String is it in a sentence.
func (t Told) String() string {
	out := ""
	if len(t.Leaders) > 0 {
		out = say.List(t.Leaders) + " " + say.Verb(len(t.Leaders), "has", "have") + " mail"
	}
	if t.Families > 0 {
		if out != "" {
			out += ", and "
		}
		out += say.Count(t.Families, "family") + " " + say.Verb(t.Families, "has", "have") + " mail"
	}
	if out != "" {
		out += ". "
	}
	if len(t.Untold) > 0 {
		out += "Tell the families of " + say.Few(t.Untold) + " yourself: they asked for no mail."
	}
	return out
}

// Tell writes to those who lead a session, and to the families that asked for it, what became of it. About tells the
// change from others of the same session.
func Tell(
	ctx context.Context, tx *store.Tx, s store.Session, about, subject, says string, now time.Time,
) (t Told, err error) {
	members, err := tx.Members(ctx, now)
	if err != nil {
		return t, err
	}
	mail := func(key, to, body string) error {
		return tx.AddMail(ctx, store.Mail{ID: store.NewID(), About: about + " " + key, To: to, Subject: subject, Body: body, At: now})
	}
	for _, l := range s.Leaders {
		for _, m := range members {
			if m.ID == l.Member && m.ID != tx.Member && m.Email != "" {
				t.Leaders = append(t.Leaders, say.First(m.Name))
				if err := mail(m.ID, m.Email, says); err != nil {
					return t, err
				}
			}
		}
	}
	players, _, err := tx.Expected(ctx, s)
	if err != nil || len(players) == 0 {
		return t, err
	}
	ids := []string{}
	for _, p := range players {
		ids = append(ids, p.ID)
	}
	links, err := tx.RemindedOf(ctx, ids, now, day.Day{})
	if err != nil {
		return t, err
	}
	heard := map[string]bool{}
	for _, g := range links {
		heard[g.Player] = true
		if err := mail(g.Link, g.Mail, says+endOf(g)); err != nil {
			return t, err
		}
	}
	t.Families = len(heard)
	for _, p := range players {
		if !heard[p.ID] {
			t.Untold = append(t.Untold, p.Called)
		}
	}
	return t, nil
}

// endOf is how reminders end.
func endOf(g store.Reminded) string {
	return "\n\nYou asked for these mails on a page of the club. To end them: " + g.Base + "/reminders/" + g.Key
}

// remindAt is the hour of the day, where the club is, after which practice is reminded of.
const remindAt = 16

// Remind writes to those who asked for it that there is practice today which was not ticked yet: once for each day and
// page, in the afternoon.
func Remind(ctx context.Context, tx *store.Tx, now time.Time) (n int, err error) {
	if now.Hour() < remindAt {
		return 0, nil
	}
	today := day.Of(now)
	links, err := tx.RemindedOf(ctx, nil, now, today)
	if err != nil {
		return 0, err
	}
	for _, g := range links {
		tasks, err := tx.HomeTasks(ctx, store.HomeFilter{Player: g.Player, On: today, Today: today})
		if err != nil {
			return n, err
		}
		var open []string
		for _, t := range tasks {
			if !t.On(today) {
				continue
			}
			answers, err := tx.HomeAnswers(ctx, []string{t.ID}, g.Player)
			if err != nil {
				return n, err
			}
			done := false
			for _, a := range answers {
				done = done || a.On == today && a.Done
			}
			if !done {
				open = append(open, t.Name)
			}
		}
		if len(open) == 0 {
			continue
		}
		n++
		err = tx.AddMail(ctx, store.Mail{
			ID: store.NewID(), About: store.HomeMail + g.Link + " " + today.String(), To: g.Mail, At: now,
			Subject: "Practice today: " + say.List(open),
			Body:    say.First(g.Name) + " has practice today: " + say.List(open) + "." + endOf(g),
		})
		if err != nil {
			return n, err
		}
	}
	return n, nil
}

// RemindAll does so in every club in which somebody asked for it.
func RemindAll(ctx context.Context, st *store.Store, now time.Time) error {
	clubs, err := st.ClubsToRemind(ctx)
	if err != nil {
		return err
	}
	for _, c := range clubs {
		err := st.In(ctx, c.ID, func(tx *store.Tx) error {
			_, err := Remind(ctx, tx, now.In(c.Location()))
			return err
		})
		if err != nil {
			return err
		}
	}
	return nil
}
