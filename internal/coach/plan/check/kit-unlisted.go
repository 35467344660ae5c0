package check

import (
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// KitUnlisted: the plan takes kit, and the club has not said yet what it has.
type KitUnlisted struct {
	OfPlan
	Takes []string
}

func (f KitUnlisted) Says() string {
	return "Takes " + say.List(f.Takes) + ". The club’s kit is not listed yet; once it is, plans are checked against it."
}

func kitUnlisted(c *checking) {
	var takes []string
	for _, k := range c.Kit {
		if k.Unlisted {
			takes = append(takes, say.Count(k.Need, k.Name))
		}
	}
	if len(takes) > 0 {
		c.find(Note, work.Always, KitUnlisted{OfPlan{"Kit"}, takes})
	}
}
