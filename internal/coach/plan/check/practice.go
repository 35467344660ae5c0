package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
)

// MixedTooSoon: a drill mixes its tries for a group that is still discovering.
type MixedTooSoon struct {
	AtStation
	Drill, Group string
	In10         float64 // of their tries are good
}

func (f MixedTooSoon) Says() string {
	return fmt.Sprintf(
		"%s mixes its tries at random; the %s make %.0f in 10 and are still discovering. The same again and again serves them better.",
		f.Drill,
		f.Group,
		f.In10,
	)
}

// SameTooLong: a drill repeats the same for a group that does it without thinking.
type SameTooLong struct {
	AtStation
	Drill, Group string
	In10         float64
}

func (f SameTooLong) Says() string {
	return fmt.Sprintf(
		"%s repeats the same; for the %s, who make %.0f in 10, it is automatic. Mixed tries, as in a game, serve them better.",
		f.Drill,
		f.Group,
		f.In10,
	)
}

// practice: random practice is for those who can just do it, blocked practice for those who cannot yet.
func practice(c *checking, s work.StationAt) {
	for _, g := range c.Groups {
		if !slices.Contains(g.Route, s.Index) || len(g.Players) == 0 {
			continue
		}
		sum, known := 0.0, 0
		for _, p := range g.Players {
			if r, from := c.in.Chance(p, s.Drill); from != work.OwnGuess {
				sum, known = sum+r.P, known+1
			}
		}
		if known*2 < len(g.Players) {
			continue
		}
		p := sum / float64(known)
		switch {
		case s.Drill.Practice == "random" && p < 0.5:
			c.find(Note, c.begin(s), MixedTooSoon{stationOf(s), s.Drill.Name, g.Shape.Many(), p * 10},
				c.instead(s, func(d coach.Drill) bool { return d.Practice != "random" })...)
			return
		case s.Drill.Practice == "blocked" && p > 0.9:
			c.find(Note, c.begin(s), SameTooLong{stationOf(s), s.Drill.Name, g.Shape.Many(), p * 10},
				c.instead(s, func(d coach.Drill) bool { return d.Practice == "random" || d.Practice == "varied" })...)
			return
		}
	}
}
