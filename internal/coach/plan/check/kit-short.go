package check

import (
	"fmt"

	"gruppo/internal/coach/say"
)

// KitShort: more of a thing is needed at once than the club has.
type KitShort struct {
	OfPlan
	Thing             string
	Need, Have, Short int
	StandIns          []string
	At                string // when it is needed most
}

func (f KitShort) Which() string { return f.Thing }

func (f KitShort) Says() string {
	says := fmt.Sprintf("%s needed, the club has %d", say.Count(f.Need, f.Thing), f.Have)
	if len(f.StandIns) > 0 {
		says += " and " + say.List(f.StandIns) + " can stand in"
	}
	return fmt.Sprintf("%s: %d short at %s.", says, f.Short, f.At)
}

func kitShort(c *checking) {
	for _, k := range c.Kit {
		if k.Short > 0 {
			c.find(Settle, k.At, KitShort{OfPlan{"Kit"}, k.Name, k.Need, k.Have, k.Short, k.Using, c.clock(k.At)})
		}
	}
}
