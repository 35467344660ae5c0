package check

import (
	"fmt"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// NobodyWith: nobody goes with a group to a station that asks for somebody.
type NobodyWith struct {
	AtStation
	Drill, Group string
	Needs        coach.Leader
	Round        int
}

func (f NobodyWith) Says() string {
	return fmt.Sprintf("%s needs %s; nobody goes with the %s in round %d.", f.Drill, f.Needs, f.Group, f.Round)
}

// OnlyWith: who goes with a group to a station may not lead it, or is not there all the time.
type OnlyWith struct {
	AtStation
	Drill, Leader string
	Needs         coach.Leader
	Is            coach.Role // empty: not there for all of it
	Round         int
}

func (f OnlyWith) Says() string {
	short := "and not for all of it"
	if f.Is != "" {
		short = "a " + string(f.Is)
	}
	return fmt.Sprintf("%s needs %s; in round %d only %s is there, %s.", f.Drill, f.Needs, f.Round, f.Leader, short)
}

func leadsMoving(c *checking, s work.StationAt) {
	if !needed(s) {
		return
	}
	circuit := c.Circuits[s.Circuit]
	stay := mend("Leaders stay at stations", edit.Leaders{Block: circuit.Block})
	for _, round := range c.RoundsOf(circuit) {
		g := s.Visits[round.Number-1]
		if g < 0 {
			continue
		}
		l := circuit.With(c.Groups[g])
		if l == nil {
			c.find(
				Settle,
				round.From,
				NobodyWith{stationOf(s), s.Drill.Name, c.Groups[g].Shape.Many(), s.Drill.Leader, round.Number},
				stay,
			)
			return
		}
		covers := l.Covers(round.From, round.To)
		if s.Drill.Leader.Enough(l.Role) && covers {
			continue
		}
		f := OnlyWith{stationOf(s), s.Drill.Name, l.First(), s.Drill.Leader, "", round.Number}
		if covers {
			f.Is = l.Role
		}
		c.find(Settle, round.From, f, stay)
		return
	}
}
