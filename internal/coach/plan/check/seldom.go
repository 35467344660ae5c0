package check

import (
	"fmt"

	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/say"
)

// Seldom: most groups never come to a station.
type Seldom struct {
	AtStation
	Drill                 string
	Come, Groups, InRound int
}

func (f Seldom) Says() string {
	return fmt.Sprintf("Only %d of the %s %s to %s in %s.",
		f.Come, say.Count(f.Groups, "group"), say.Does(f.Come, "come"), f.Drill, say.Count(f.InRound, "round"))
}

func seldom(c *checking) {
	for _, s := range c.Stations {
		circuit := c.Circuits[s.Circuit]
		come := map[int]bool{}
		for r := range s.Visits {
			for _, g := range []int{s.Visits[r], s.Also[r]} {
				if g >= 0 && len(c.Groups[g].Players) > 0 {
					come[g] = true
				}
			}
		}
		groups := len(c.groups(s))
		if len(come)*2 >= groups || circuit.Count >= len(circuit.Stations) || circuit.Count == 0 {
			continue
		}
		c.find(
			Note,
			c.begin(s),
			Seldom{stationOf(s), s.Drill.Name, len(come), groups, circuit.Count},
			mend("Until everyone was everywhere", edit.Rounds{Block: circuit.Block}),
			mend("Without it", edit.DropStation{Station: s.ID}),
		)
	}
}
