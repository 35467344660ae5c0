package check

import (
	"fmt"

	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// Unseen: players whom the lead does not get to see.
type Unseen struct {
	OfLeader
	Names []string
}

func (f Unseen) Says() string {
	who := say.Few(f.Names)
	if len(f.Names) > 4 {
		who = say.Count(len(f.Names), "player")
	}
	return fmt.Sprintf("The lead does not get to see %s.", who)
}

func unseen(c *checking) {
	f, sees := Unseen{OfLeader: OfLeader{Subject{ALeader, c.lead(), "Lead"}}}, false
	for _, row := range c.Ledger {
		if len(row.LeadSees) > 0 {
			sees = true
		} else {
			f.Names = append(f.Names, row.Player.Name)
		}
	}
	if !sees || len(f.Names) == 0 {
		return
	}
	var mends []Mend
	if circuit := c.Main(); circuit.Rounds > 0 && circuit.Rounds < len(circuit.Stations) {
		mends = append(mends, mend("A round more", edit.Rounds{Block: circuit.Block, Count: circuit.Rounds + 1}))
	}
	c.find(Note, work.Always, f, mends...)
}
