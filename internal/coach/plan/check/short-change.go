package check

import (
	"fmt"
	"math"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// ShortChange: a change between rounds is shorter than its longest walk takes.
type ShortChange struct {
	OfPlan
	Change, Takes time.Duration
	Walk          string // as the club reads lengths
}

func (f ShortChange) Says() string {
	return fmt.Sprintf(
		"%s is short for the longest walk of %s; it takes about %s.",
		coach.Clock(f.Change),
		f.Walk,
		coach.Clock(f.Takes),
	)
}

func shortChange(c *checking) {
	for _, circuit := range c.Circuits {
		takes := work.ChangeFor(circuit.Longest)
		if circuit.Change >= takes || circuit.Count < 2 {
			continue
		}
		c.find(
			Settle,
			c.RoundsOf(circuit)[0].To,
			ShortChange{OfPlan{"Change"}, circuit.Change, takes, c.in.Units.Long(math.Round(circuit.Longest))},
			mend("Work it out", edit.Change{Block: circuit.Block}),
		)
	}
}
