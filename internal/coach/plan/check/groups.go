package check

import (
	"fmt"

	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// EmptyGroups: groups that nobody is in.
type EmptyGroups struct {
	OfPlan
	Empty, Groups int
}

func (f EmptyGroups) Says() string {
	return fmt.Sprintf(
		"%d of the %s %s nobody in them.",
		f.Empty,
		say.Count(f.Groups, "group"),
		say.Verb(f.Empty, "has", "have"),
	)
}

// Uneven: groups of very different sizes, where nobody asked to be kept together.
type Uneven struct {
	OfPlan
	Large, Small int
}

func (f Uneven) Says() string {
	return fmt.Sprintf("The largest group has %d, the smallest %d.", f.Large, f.Small)
}

// OtherGroups: another number of groups is dealt than the plan asks for.
type OtherGroups struct {
	OfPlan
	Asked, Dealt int
}

func (f OtherGroups) Says() string {
	return fmt.Sprintf("The plan asks for %s; %d are dealt.", say.Count(f.Asked, "group"), f.Dealt)
}

func groups(c *checking) {
	for _, d := range c.Plan.Deals {
		small, large, empty, together := 999, 0, 0, false
		groups := c.dealt(d)
		for _, g := range groups {
			if len(g.Players) == 0 {
				empty++
			}
			small, large = min(small, len(g.Players)), max(large, len(g.Players))
			for _, p := range g.Players {
				together = together || len(p.With) > 1
			}
		}
		if full := len(groups) - empty; empty > 0 && full > 0 {
			c.find(Settle, work.Always, EmptyGroups{OfPlan{"Groups"}, empty, len(groups)},
				mend("Make "+say.Count(full, "group"), edit.Groups{Deal: d.ID, Count: full}))
			continue
		}
		if together {
			continue // keeping players together may ask for it
		}
		if large-small > 1 {
			c.find(Note, work.Always, Uneven{OfPlan{"Groups"}, large, small}, mend("Even them out", edit.Redeal{}))
		}
		if d.Groups != len(d.Players) && len(c.in.Players) > 0 && len(d.Players) > 0 {
			c.find(
				Settle,
				work.Always,
				OtherGroups{OfPlan{"Groups"}, d.Groups, len(d.Players)},
				mend("Deal them", edit.Redeal{}),
			)
		}
	}
}
