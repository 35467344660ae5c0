package check

import "gruppo/internal/coach/plan/work"

// Nobody: no player is expected.
type Nobody struct{ OfPlan }

func (Nobody) Says() string {
	return "Nobody is expected yet. Enrol players in the class, or take back an absence."
}

func nobody(c *checking) {
	if len(c.in.Players) == 0 {
		c.find(Settle, work.Always, Nobody{OfPlan{"Players"}})
	}
}
