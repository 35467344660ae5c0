package check

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
)

// Crowd: more are there than a block's task is for.
type Crowd struct {
	InBlock
	Drill       string
	Most, There int
}

func (f Crowd) Says() string {
	says := fmt.Sprintf("%s is for at most %d; %d are there.", f.Drill, f.Most, f.There)
	if parts := (f.There + f.Most - 1) / f.Most; parts > 2 {
		return says + fmt.Sprintf(" Play it in %d places at once.", parts)
	}
	return says + " Play it in two halves."
}

func crowd(c *checking, b work.Span) {
	if b.Task == nil || b.Kind == doc.Stations || b.Kind.Partners() || b.Task.Most <= 0 {
		return
	}
	if len(c.in.Players) <= b.Task.Most*b.Block.Areas() {
		return
	}
	c.find(Note, b.From, Crowd{blockOf(b), b.Task.Name, b.Task.Most, len(c.in.Players)})
}
