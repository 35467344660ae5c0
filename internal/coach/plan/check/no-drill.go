package check

import "gruppo/internal/coach/plan/work"

// NoDrill: a block of stations has none.
type NoDrill struct{ OfPlan }

func (NoDrill) Says() string {
	return "No drill is chosen yet. Propose a plan, or pick a drill and the floor begins to fill."
}

func noDrill(c *checking) {
	for _, circuit := range c.Circuits {
		if len(circuit.Stations) == 0 {
			c.find(Settle, work.Always, NoDrill{OfPlan{"Stations"}})
			return
		}
	}
}
