package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
)

// Rests: groups rest a whole round.
type Rests struct {
	OfPlan
	Rest, Stations, Groups int
}

func (f Rests) Says() string {
	return fmt.Sprintf(
		"%s %s a whole round: there are %s for %s. Use it to drink, or let it watch with a question.",
		say.Count(f.Rest, "group"),
		say.Does(f.Rest, "rest"),
		say.Count(f.Stations, "station"),
		say.Count(f.Groups, "group"),
	)
}

func rests(c *checking) {
	for _, circuit := range c.Circuits {
		f, first := Rests{OfPlan: OfPlan{"Rotation"}}, -1
		f.Stations, f.Groups = len(circuit.Stations), len(c.GroupsOf(circuit))
		for _, g := range c.GroupsOf(circuit) {
			for _, r := range circuit.At {
				if g.Route[r] != rotate.Rest || len(g.Players) == 0 {
					continue
				}
				if f.Rest++; first < 0 || r < first {
					first = r
				}
				break
			}
		}
		if f.Rest == 0 {
			continue
		}
		var mends []Mend
		size := (len(c.Ledger) + f.Stations - 1) / f.Stations
		full := func(s work.StationAt) bool { return s.Drill.Most > 0 && s.Drill.Most < size }
		if f.Stations < f.Groups && !slices.ContainsFunc(c.StationsOf(circuit), full) {
			mends = append(
				mends,
				mend("Make "+say.Count(f.Stations, "group"), edit.Groups{Deal: circuit.Deal, Count: f.Stations}),
			)
		}
		c.find(Note, c.Rounds[first].From, f, mends...)
	}
}
