package check

import (
	"fmt"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// StationMinutes: a station has less than half, or more than twice, the time its drill usually takes.
type StationMinutes struct {
	AtStation
	usualMinutes
}

// BlockMinutes: a block has less than half, or more than twice, the time its drill usually takes.
type BlockMinutes struct {
	InBlock
	usualMinutes
}

type usualMinutes struct {
	Drill    string
	From, To int
	Here     float64
}

func (u usualMinutes) Says() string {
	usual := fmt.Sprintf("%d to %d min", u.From, u.To)
	if u.From == u.To || u.From <= 0 {
		usual = fmt.Sprintf("%d min", u.To)
	}
	return fmt.Sprintf("%s usually has %s; here it has %.0f.", u.Drill, usual, u.Here)
}

// unusual says how far a time is from what a drill usually takes, and the nearest that is usual.
func unusual(d coach.Drill, here float64) (u usualMinutes, nearest int, found bool) {
	u = usualMinutes{d.Name, d.Minutes[0], d.Minutes[1], here}
	if nearest = max(1, u.From); here > float64(u.To) {
		nearest = u.To
	}
	return u, nearest, u.To > 0 && (here*2 < float64(u.From) || here > float64(u.To)*2)
}

func stationMinutes(c *checking, s work.StationAt) {
	circuit := c.Circuits[s.Circuit]
	u, to, found := unusual(s.Drill, float64(circuit.Work)/60)
	if found && circuit.Count > 0 {
		c.find(
			Note,
			c.begin(s),
			StationMinutes{stationOf(s), u},
			mend(
				"Rounds of "+coach.Clock(time.Duration(to)*time.Minute),
				edit.Work{Block: circuit.Block, For: to * 60},
			),
		)
	}
}

func blockMinutes(c *checking, b work.Span) {
	if b.Task == nil || b.Kind == doc.Stations {
		return
	}
	if u, to, found := unusual(*b.Task, (b.To - b.From).Minutes()); found {
		c.find(
			Note,
			b.From,
			BlockMinutes{blockOf(b), u},
			mend(fmt.Sprintf("%d min", to), edit.Minutes{Block: b.ID, For: to}),
		)
	}
}
