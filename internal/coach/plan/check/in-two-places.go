package check

import (
	"fmt"

	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/say"
)

// InTwoPlaces: a leader stands at several stations at once.
type InTwoPlaces struct {
	OfLeader
	Stations []string // their numbers
}

func (f InTwoPlaces) Says() string {
	return fmt.Sprintf("At stations %s at once.", say.List(f.Stations))
}

func inTwoPlaces(c *checking) {
	for _, l := range c.in.Leaders {
		for _, circuit := range c.Circuits {
			f, last := InTwoPlaces{OfLeader: leaderOf(l)}, ""
			for _, s := range c.StationsOf(circuit) {
				if s.Leader != nil && s.Leader.ID == l.ID {
					f.Stations, last = append(f.Stations, fmt.Sprint(s.Index+1)), s.ID
				}
			}
			if len(f.Stations) > 1 {
				c.find(Settle, c.begins(circuit), f, mend("Only at the first", edit.Leader{Station: last}))
			}
		}
	}
}
