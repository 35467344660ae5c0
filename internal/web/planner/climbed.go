package planner

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/store"
)

// runClimb is who came as far on a ladder.
type runClimb struct {
	At    string
	Names []string
}

// climbed says how far everybody came on the ladders that were climbed: the newest word on a unit counts.
func (v *runView) climbed(climbs []store.Climb) {
	type unit struct {
		block, no int
		player    string
	}
	step := map[unit]store.Climb{}
	for _, k := range climbs {
		u := unit{k.Block, k.Unit, k.Player}
		if was, ok := step[u]; k.Unit != store.Everybody && (!ok || !k.At.Before(was.At)) {
			step[u] = k
		}
	}
	for i, b := range v.Picture.Blocks {
		names := make([][]string, len(b.Steps)+1) // by the steps that hold
		some := false
		add := func(u unit, name string) {
			k, ok := step[u]
			at := min(k.Step, len(b.Steps))
			names[at], some = append(names[at], name), some || ok
		}
		if b.Kind != doc.Ladder {
			continue
		}
		for _, c := range v.Input.Climbers(b) {
			if u := (unit{i, c.Unit, c.Lead}); c.Lead == "" {
				add(u, c.Shape.Name)
			} else {
				for _, p := range c.Players {
					add(u, p.First())
				}
			}
		}
		for at := len(names) - 1; some && at >= 0; at-- {
			if len(names[at]) > 0 {
				v.Climbed = append(v.Climbed, runClimb{v.climbedTo(b, at), names[at]})
			}
		}
	}
}

// climbedTo says on which step one is then.
func (v *runView) climbedTo(b work.Span, at int) string {
	if at == len(b.Steps) {
		return "Through all " + say.Count(at, "step")
	}
	return fmt.Sprintf("On step %d of %d, %s", at+1, len(b.Steps), v.Input.Drill(b.Steps[at].Drill).Name)
}
