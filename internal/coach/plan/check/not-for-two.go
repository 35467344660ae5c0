package check

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// NotForTwo: partners are dealt in fewer than their task is for.
type NotForTwo struct {
	InBlock
	Drill        string
	Least, Deals int
}

func (f NotForTwo) Says() string {
	return fmt.Sprintf("%s is for %s or more; here %d are together.", f.Drill, say.Count(f.Least, "player"), f.Deals)
}

func notForTwo(c *checking, b work.Span) {
	if !b.Kind.Partners() || b.Task == nil || b.Task.Least <= b.TeamSize() {
		return
	}
	var mends []Mend
	if b.Task.Least <= doc.MostTeam && b.Kind == doc.Pairs {
		mends = append(mends, mend(fmt.Sprintf("%d together", b.Task.Least), edit.Team{Block: b.ID, Size: b.Task.Least}))
	}
	c.find(Settle, b.From, NotForTwo{blockOf(b), b.Task.Name, b.Task.Least, b.TeamSize()}, mends...)
}
