package check

import (
	"fmt"
	"slices"
	"time"

	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// LedElsewhere: a leader is booked for something else at this time.
type LedElsewhere struct {
	OfLeader
	What, From, Until string
	Here              bool // and leads here
}

func (f LedElsewhere) Which() string { return f.What }

func (f LedElsewhere) Says() string {
	says := fmt.Sprintf("Booked for %s from %s to %s too", f.What, f.From, f.Until)
	if f.Here {
		says += ", and leads here"
	}
	return says + "."
}

func leaderOf(l work.Leader) OfLeader { return OfLeader{Subject{ALeader, l.ID, l.First()}} }

func ledElsewhere(c *checking) {
	for _, l := range c.in.Leaders {
		for _, o := range c.in.Elsewhere {
			from, until := max(0, o.From, l.From), min(c.Booked, o.Until)
			if l.Until > 0 {
				until = min(until, l.Until)
			}
			if o.Leader != l.ID || from >= until {
				continue
			}
			f := LedElsewhere{leaderOf(l), o.What, c.clock(o.From), c.clock(o.Until), c.Plan.Leads(l.ID)}
			if f.Here {
				c.find(Settle, from, f, c.without(l)...)
			} else {
				c.find(Note, from, f)
			}
		}
	}
}

// without puts others, or nobody, where a leader stands; where leaders go with groups there is no such mend.
func (c *checking) without(gone work.Leader) []Mend {
	left := c.in
	left.Plan, left.Leaders = c.in.Plan.Clone(), slices.Clone(c.in.Leaders)
	for i := range left.Leaders {
		if left.Leaders[i].ID == gone.ID {
			left.Leaders[i].Until = time.Second
		}
	}
	left.StandIn([]string{gone.ID})
	m := Mend{Words: "Without " + gone.First()}
	var put []edit.Edit
	was := c.in.Plan.Stations()
	for i, s := range left.Plan.Stations() {
		if s.Leader == was[i].Leader {
			continue
		}
		m.Edits = append(m.Edits, edit.Leader{Station: s.ID}) // all leave first: a leader changes places
		if s.Leader != "" {
			put = append(put, edit.Leader{Station: s.ID, Leader: s.Leader})
		}
	}
	if m.Edits == nil {
		return nil
	}
	m.Edits = append(m.Edits, put...)
	return []Mend{m}
}
