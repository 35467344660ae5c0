package check

import (
	"fmt"

	"gruppo/internal/coach/plan/work"
)

// CannotHold: a wish that the rotation could not keep.
type CannotHold struct {
	OfPlan
	Wish string // "2 shot comes before 1 wall"
}

func (f CannotHold) Which() string { return f.Wish }

func (f CannotHold) Says() string {
	return fmt.Sprintf("It cannot hold that %s, with the other wishes and this number of groups and rounds.", f.Wish)
}

func cannotHold(c *checking) {
	for _, circuit := range c.Circuits {
		for _, wish := range circuit.Dropped {
			c.find(Settle, work.Always, CannotHold{OfPlan{"Rotation"}, wish})
		}
	}
}
