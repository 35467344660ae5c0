package check

import (
	"fmt"

	"gruppo/internal/coach/say"
)

// Adults: there are fewer than the club's own setting asks for.
type Adults struct {
	OfPlan
	From            string
	Adults, Players int
	PerAdult        int
}

func (f Adults) Says() string {
	return fmt.Sprintf(
		"From %s there %s for %s; your club's setting is at most %d for each adult. Your club's rules and local law come first.",
		f.From,
		say.Verb(f.Adults, "is", "are")+" "+say.Count(f.Adults, "adult"),
		say.Count(f.Players, "player"),
		f.PerAdult,
	)
}

func adults(c *checking) {
	players, per := len(c.in.Players), c.in.PerAdult
	if per <= 0 || players == 0 {
		return
	}
	for _, m := range c.Moments {
		adults, at := 0, m.From
		for _, l := range c.in.Leaders {
			if l.Covers(m.From, m.To) {
				adults++
			} else if l.Until > m.From {
				at = l.Until
			}
		}
		if need := (players + per - 1) / per; adults < need {
			c.find(Stop, at, Adults{OfPlan{"Adults"}, c.clock(at), adults, players, per})
			return
		}
	}
}
