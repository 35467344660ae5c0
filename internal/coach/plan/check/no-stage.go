package check

import (
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
)

// NoStage: nobody who comes stands on a stage.
type NoStage struct{ OfPlan }

func (NoStage) Says() string {
	return "Nobody here stands on a stage, so nothing can be marked. Choose their stage on the roster."
}

func noStage(c *checking) {
	players := c.in.Players
	if len(players) > 0 && !slices.ContainsFunc(players, func(p coach.Player) bool { return p.Stage != "" }) {
		c.find(Settle, work.Always, NoStage{OfPlan{"Criteria"}})
	}
}
