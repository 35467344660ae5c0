package edit

import (
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
)

// Work sets how long a round is.
type Work struct {
	Block string // of the stations; empty: the first
	For   int    // seconds
}

func readWork(w Wire) (Edit, error) {
	n, err := w.number(30, 3600, "Seconds of work")
	return Work{w.At, n}, err
}

func (e Work) apply(p *doc.Plan) (Needs, error) {
	c, err := circuit(p, e.Block)
	if err == nil {
		c.Work = e.For
	}
	return Nothing, err
}

func (e Work) Called(doc.Plan) string {
	return "rounds of " + coach.Clock(time.Duration(e.For)*time.Second)
}
