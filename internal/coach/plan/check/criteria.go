package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/say"
)

// LookUnseen: players are to be marked on a criterion today, and no station shows it.
type LookUnseen struct {
	OfPlan
	Criterion coach.Criterion
	Players   int
}

func (f LookUnseen) Which() string { return f.Criterion.ID }

func (f LookUnseen) Says() string {
	return fmt.Sprintf(
		"%s to be marked on “%s” today, and no station shows %s.",
		say.Count(f.Players, "player"),
		f.Criterion.Wording,
		f.Criterion.Skill,
	)
}

// Unmarkable: what much of the class lacks could be shown at a station where nobody may mark it.
type Unmarkable struct {
	OfPlan
	Criterion coach.Criterion
	Players   int
	Station   int // its number, from 1
}

func (f Unmarkable) Which() string { return f.Criterion.ID }

func (f Unmarkable) Says() string {
	return fmt.Sprintf(
		"%s is open for %s and could be shown at station %d, where no coach stands to mark it.",
		f.Criterion.Wording,
		say.Count(f.Players, "player"),
		f.Station,
	)
}

func lookUnseen(c *checking) {
	for _, row := range c.Criteria {
		if len(row.Asked) == 0 || len(row.Stations) > 0 {
			continue
		}
		var mends []Mend
		shows := func(d coach.Drill) bool { return c.in.Shows.Shows(row.Criterion, d) }
		if i := slices.IndexFunc(c.in.Shelf, shows); i >= 0 && len(c.Stations) > 0 {
			d, last := c.in.Shelf[i], c.Stations[len(c.Stations)-1]
			mends = append(
				mends,
				mend(d.Name+" instead of "+last.Drill.Name, edit.Drill{Station: last.ID, Task: taskOf(d)}),
			)
		}
		c.find(Settle, c.Begin(), LookUnseen{OfPlan{"Criterion"}, row.Criterion, len(row.Asked)}, mends...)
	}
}

// unmarkable says the first of them.
func unmarkable(c *checking) {
	for _, row := range c.Criteria {
		if len(row.Stations) == 0 || len(row.By) > 0 || len(row.Players)*3 < len(c.Ledger) {
			continue
		}
		s := c.Stations[row.Stations[0]]
		var mends []Mend
		for _, l := range c.in.Leaders {
			if l.Role != coach.RoleHelper && !c.Circuits[s.Circuit].Move {
				mends = append(
					mends,
					mend(
						fmt.Sprintf("%s to station %d", l.First(), s.Index+1),
						edit.Leader{Station: s.ID, Leader: l.ID},
					),
				)
				break
			}
		}
		c.find(
			Note,
			c.begin(s),
			Unmarkable{OfPlan{"Criterion"}, row.Criterion, len(row.Players), s.Index + 1},
			mends...)
		return
	}
}
