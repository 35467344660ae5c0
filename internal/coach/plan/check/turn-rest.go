package check

import (
	"fmt"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// SeriesTooLong: the turns of a series with their rest take longer than the round.
type SeriesTooLong struct {
	AtStation
	Turns, Group int
	Takes, Round time.Duration
}

func (f SeriesTooLong) Says() string {
	return fmt.Sprintf("%s for each of %d with its rest takes %s; the round is %s.",
		say.Count(f.Turns, "turn"), f.Group, coach.Clock(f.Takes), coach.Clock(f.Round))
}

// TooLittleRest: in turns a group rests less than a drill asks for.
type TooLittleRest struct {
	AtStation
	Drill            string
	Turn, Rest, Asks time.Duration
	Pause            time.Duration // that would make up for it
	Group, Full      int           // players; with so many nothing is missing
}

func (f TooLittleRest) Says() string {
	return fmt.Sprintf(
		"In turns of %s a group of %d rests %s; %s asks for %s. Add a pause of %s, or let a light skill fill it; %s %s none.",
		coach.Clock(f.Turn),
		f.Group,
		coach.Clock(f.Rest),
		f.Drill,
		coach.Clock(f.Asks),
		coach.Clock(f.Pause),
		say.Count(f.Full, "player"),
		say.Does(f.Full, "need"),
	)
}

func turnRest(c *checking, s work.StationAt) {
	if s.Drill.Work <= 0 || s.Drill.Rest <= 0 {
		return
	}
	t, circuit, groups := load.Of(s.Drill), c.Circuits[s.Circuit], c.groups(s)
	largest := 0
	for _, g := range groups {
		largest = max(largest, len(g.Players))
	}
	if takes := t.Series(largest, s.Drill.Series, 1, 0); takes > circuit.Round() && largest > 0 {
		to := takes.Truncate(30*time.Second) + 30*time.Second
		c.find(Note, c.begin(s), SeriesTooLong{stationOf(s), s.Drill.Series, largest, takes, circuit.Round()},
			mend("Rounds of "+coach.Clock(to), edit.Work{Block: circuit.Block, For: int(to.Seconds())}))
	}
	for _, g := range groups {
		n := len(g.Players)
		if n == 0 {
			continue
		}
		rest, pause := t.RestFor(n)
		if pause <= 0 {
			continue
		}
		var mends []Mend
		if fewer := len(c.Ledger) / t.FullGroup(); fewer >= 1 && fewer < len(groups) {
			words := fmt.Sprintf("%s of %d", say.Count(fewer, "group"), (len(c.Ledger)+fewer-1)/fewer)
			mends = append(mends, mend(words, edit.Groups{Deal: g.Deal, Count: fewer}))
		}
		c.find(
			Note,
			c.begin(s),
			TooLittleRest{stationOf(s), s.Drill.Name, t.Work, rest, t.Rest, pause, n, t.FullGroup()},
			mends...)
		return
	}
}
