package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// ComesAfter: most of a group have not shown what a drill comes after.
type ComesAfter struct {
	AtStation
	Drill, Skill, Group string
	Lack, Of            int
}

func (f ComesAfter) Which() string { return f.Skill }

func (f ComesAfter) Says() string {
	return fmt.Sprintf("%s comes after %s; %d of the %d %s %s not shown that yet.",
		f.Drill, f.Skill, f.Lack, f.Of, f.Group, say.Verb(f.Lack, "has", "have"))
}

func comesAfter(c *checking, s work.StationAt) {
	for _, skill := range s.Drill.After {
		for _, g := range c.Groups {
			if !slices.Contains(g.Route, s.Index) {
				continue
			}
			lack := 0
			for _, p := range g.Players {
				if slices.ContainsFunc(c.in.Missing[p.ID], func(m coach.Criterion) bool { return m.Skill == skill }) {
					lack++
				}
			}
			if lack*2 > len(g.Players) {
				c.find(
					Note,
					c.begin(s),
					ComesAfter{stationOf(s), s.Drill.Name, skill, g.Shape.Many(), lack, len(g.Players)},
				)
				break
			}
		}
	}
}
