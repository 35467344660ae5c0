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
	return fmt.Sprintf("%s is for at most %d; %d are there. Play it in two halves.", f.Drill, f.Most, f.There)
}

func crowd(c *checking, b work.Span) {
	if b.Task == nil || b.Kind == doc.Stations || b.Kind.Partners() || b.Task.Most <= 0 ||
		len(c.in.Players) <= b.Task.Most {
		return
	}
	c.find(Note, b.From, Crowd{blockOf(b), b.Task.Name, b.Task.Most, len(c.in.Players)})
}
