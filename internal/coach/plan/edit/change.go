package edit

import (
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
)

// Change sets how long a change between rounds takes; 0 works it out from the walk.
type Change struct {
	Block string // of the stations; empty: the first
	For   int    // seconds
}

func readChange(w Wire) (Edit, error) {
	n, err := w.number(0, 600, "Seconds for the change")
	return Change{w.At, n}, err
}

func (e Change) apply(p *doc.Plan) (Needs, error) {
	c, err := circuit(p, e.Block)
	if err == nil {
		c.Change = e.For
	}
	return Nothing, err
}

func (e Change) Called(doc.Plan) string {
	if e.For == 0 {
		return "change time worked out"
	}
	return "change of " + coach.Clock(time.Duration(e.For)*time.Second)
}
