package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
)

// NotBefore: a group comes to a drill without what has to come before it.
type NotBefore struct {
	AtStation
	Drill, Need, Group string
	Round              int
}

func (f NotBefore) Which() string { return f.Need }

func (f NotBefore) Says() string {
	return fmt.Sprintf(
		"%s is not to be done before %s; the %s come to it unprepared in round %d.",
		f.Drill,
		f.Need,
		f.Group,
		f.Round,
	)
}

func notBefore(c *checking) {
	said := map[string]bool{}
	for _, g := range c.Groups {
		given, block := []string(nil), ""
		for r, i := range g.Route {
			if i < 0 {
				continue
			}
			s := c.Stations[i]
			if owner := c.Circuits[s.Circuit].Block; owner != block {
				given, block = append(given, c.in.Before(owner)...), owner
			}
			for _, need := range s.Drill.NotBefore {
				if coach.Among(need, given) || said[s.ID+need] {
					continue
				}
				said[s.ID+need] = true
				c.find(
					Settle,
					c.Rounds[r].From,
					NotBefore{stationOf(s), s.Drill.Name, need, g.Shape.Many(), r + 1},
					c.warm(need, block)...)
			}
			given = append(given, c.in.Gives(s.Drill.ID)...)
		}
	}
}

// warm offers a drill that gives what is needed: in the first warm-up that has none and comes before the block, else in
// one of its own.
func (c *checking) warm(need, before string) []Mend {
	i := slices.IndexFunc(c.in.Shelf, func(d coach.Drill) bool { return d.Readies(need) })
	if i < 0 {
		return nil
	}
	d := c.in.Shelf[i]
	for _, b := range c.Plan.Blocks {
		if b.ID == before {
			break
		}
		if b.Kind == doc.Together && b.Drill == "" {
			return []Mend{mend(d.Name+" to warm up", edit.Task{Block: b.ID, Task: taskOf(d)})}
		}
	}
	first := edit.AddBlock{Kind: doc.Together, Before: c.Plan.Blocks[0].ID, Title: d.Name, Minutes: 5, Task: taskOf(d)}
	return []Mend{mend(d.Name+" first", first)}
}

func taskOf(d coach.Drill) doc.Task { return doc.Task{Drill: d.ID, Edition: max(1, d.Edition)} }
