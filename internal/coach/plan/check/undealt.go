package check

import (
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// Undealt: players who come are in no group.
type Undealt struct {
	OfPlan
	Names []string
}

func (f Undealt) Says() string {
	return say.Few(f.Names) + " " + say.Verb(len(f.Names), "is", "are") + " not in a group yet."
}

func undealt(c *checking) {
	if len(c.Undealt) == 0 || len(c.Groups) == 0 {
		return
	}
	f := Undealt{OfPlan: OfPlan{"Groups"}}
	for _, p := range c.Undealt {
		f.Names = append(f.Names, p.Name)
	}
	c.find(Settle, work.Always, f, mend("Deal them in", edit.Redeal{}))
}
