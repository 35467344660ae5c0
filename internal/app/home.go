package app

import (
	"context"
	"errors"
	"math"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/home"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// HomeBack is for how many days back something can still be said of a day at home: a phone may have been without network.
const HomeBack = 21

// HomeSaid is one thing said of a day at home: by a tap on a guardian's page, which may come late and more than once.
type HomeSaid struct {
	Task   string   `json:"task"`
	Day    day.Day  `json:"day"`
	Done   bool     `json:"done"`
	Felt   string   `json:"felt"`
	Figure *float64 `json:"figure"`
	Words  string   `json:"words"`
	At     int64    `json:"at"` // milliseconds since 1970
}

// HomeMost is how long the club lets somebody under 16 practise at home on a day.
func HomeMost(ctx context.Context, tx *store.Tx) (time.Duration, error) {
	care, err := tx.Care(ctx)
	minutes := care.HomeMinutes
	if minutes == 0 {
		minutes = home.UsualMost
	}
	return time.Duration(minutes) * time.Minute, err
}

// Under16 reports whether somebody is known to be under 16 in the year of a day.
func Under16(birthYear int, on day.Day) bool { return birthYear > 0 && on.Year()-birthYear < 16 }

// DoseOf is what somebody does of a task on a day, after what came back so far.
func DoseOf(t store.HomeTask, p store.HomePlayer, answers []home.Answer, on day.Day, most time.Duration) home.Dose {
	spares := ""
	if not := home.Spares(p.Limits); len(not) > 0 {
		spares = say.First(p.Name) + " must not: " + say.List(not)
	}
	if !Under16(p.BirthYear, on) {
		most = 0
	}
	weeks, held := t.Weeks(answers, on, spares)
	d := t.Dose(t.Open(answers, p.Opened), weeks, most)
	d.Held = held
	return d
}

// TakeHome keeps what a player, or a guardian for them, said of a day: once however often it comes, the newest word where
// several do. A figure becomes a mark where the club lets the criterion be shown at home. What cannot be taken is an
// error of type *doc.ErrInput.
func TakeHome(ctx context.Context, tx *store.Tx, player, link string, it HomeSaid, now time.Time) error {
	if !store.IsID(it.Task) {
		return doc.Input("", "That practice is not there any more.")
	}
	today := day.Of(now)
	t, err := tx.HomeTask(ctx, it.Task, today)
	if errors.Is(err, store.ErrNone) {
		return doc.Input("", "That practice is not there any more.")
	}
	if err != nil {
		return err
	}
	whom, has := t.Whom(player)
	if !has {
		return doc.Input("", "That practice is not there any more.")
	}
	if err := it.check(t, today); err != nil {
		return err
	}
	all, err := tx.HomeAnswers(ctx, []string{t.ID}, player)
	if err != nil {
		return err
	}
	var before []home.Answer
	for _, a := range all {
		if a.On.Before(it.Day) {
			before = append(before, a.Answer)
		}
	}
	at := now
	if said := time.UnixMilli(it.At); it.At > 0 && said.Before(now) { // a device's clock may be ahead
		at = said
	}
	a := store.HomeAnswer{Task: t.ID, Player: player, At: at, Answer: home.Answer{
		On: it.Day, Part: t.Open(before, whom.Opened) - 1, Done: it.Done, Felt: it.Felt, Figure: it.Figure, Words: it.Words,
	}}
	was, err := tx.SetHomeAnswer(ctx, a, link)
	if errors.Is(err, store.ErrChangedSince) {
		return nil // something newer was said of this day
	}
	if err != nil {
		return err
	}
	return markFromHome(ctx, tx, t, a, was)
}

func (it HomeSaid) check(t store.HomeTask, today day.Day) error {
	switch {
	case it.Day.IsZero(), it.Day.After(today), it.Day.Before(today.Add(-HomeBack)):
		return doc.Input("day", "That day is too far away to say something of it.")
	case it.Day.Before(t.From), !t.Until.Holds(it.Day), !t.Ends.Holds(it.Day):
		return doc.Input("day", "The practice is not for that day.")
	case it.Felt != "" && it.Felt != home.Easy && it.Felt != home.Right && it.Felt != home.Hard:
		return doc.Input("felt", "How was it: easy, just right or hard?")
	case len([]rune(it.Words)) > 200:
		return doc.Input("words", "That is %d characters; 200 are the most.", len([]rune(it.Words)))
	case it.Figure != nil && !(*it.Figure >= 0 && *it.Figure <= 100000):
		return doc.Input("figure", "A number from 0 to 100000.")
	}
	return nil
}

// markFromHome turns a figure into a mark where that is allowed, in place of the mark that the day's word before became.
func markFromHome(ctx context.Context, tx *store.Tx, t store.HomeTask, a store.HomeAnswer, was string) error {
	var k coach.Criterion
	if t.Criterion != "" {
		programs, err := tx.Ladders(ctx)
		if err != nil {
			return err
		}
		for _, p := range programs {
			if c, ok := p.Criterion(t.Criterion); ok {
				k = c
			}
		}
	}
	counts := k.Home && k.Measure.AtHome() && a.Done && a.Figure != nil
	if was != "" {
		if counts {
			old, err := tx.Marks(ctx, store.MarkFilter{ID: was})
			if err != nil {
				return err
			}
			if len(old) == 1 && old[0].Figure == *a.Figure && !old[0].Struck {
				return nil // as it was
			}
		}
		if err := tx.Strike(ctx, was, t.ByID, "said anew at home", a.At); err != nil {
			return err
		}
	}
	if !counts {
		if was != "" {
			return tx.SetHomeMark(ctx, a, "")
		}
		return nil
	}
	m := coach.Mark{
		ID: store.NewID(), PlayerID: a.Player, CriterionID: k.ID, Figure: *a.Figure, At: a.At, By: t.ByID, Home: true,
		Note: "at home",
	}
	switch k.Measure {
	case coach.Makes:
		m.Tries = int(k.Of)
		m.Figure = math.Min(m.Figure, k.Of)
	case coach.Streak:
		m.Tries = int(m.Figure)
	}
	if err := tx.AddMark(ctx, m); err != nil {
		return err
	}
	return tx.SetHomeMark(ctx, a, m.ID)
}

// DatesOf are the sessions of a player's classes from a moment to a moment, those that do not take place too.
func DatesOf(ctx context.Context, tx *store.Tx, player string, from, to time.Time) (out []store.Session, err error) {
	classes, err := tx.ClassesOf(ctx, player)
	if err != nil {
		return nil, err
	}
	if len(classes) == 0 {
		return nil, nil
	}
	return tx.Sessions(ctx, store.SessionFilter{Classes: classes, From: from, To: to, Cancelled: true})
}

// HomeLately is how many of the days asked for in the last seven were done, by player; those who have no practice are
// left out.
func HomeLately(all []store.HomeLately, today day.Day) map[string]home.Came {
	out := map[string]home.Came{}
	for _, t := range all {
		task := home.Task{Days: t.Days, From: t.From, Until: t.Until, Ends: t.Ends}
		var done []home.Answer
		for _, d := range t.Done {
			done = append(done, home.Answer{On: d, Done: true})
		}
		came := task.Came(done, today.Add(-7), today.Add(-1))
		if sum := out[t.Player]; came.Of > 0 {
			out[t.Player] = home.Came{Done: sum.Done + came.Done, Of: sum.Of + came.Of}
		}
	}
	return out
}
