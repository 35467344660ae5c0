package edit

import (
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
)

// Brief sets how long the stations are explained before the first round.
type Brief struct {
	Block string // of the stations; empty: the first
	For   int    // seconds
}

func readBrief(w Wire) (Edit, error) {
	n, err := w.number(0, 1800, "Seconds to explain")
	return Brief{w.At, n}, err
}

func (e Brief) apply(p *doc.Plan) (Needs, error) {
	c, err := circuit(p, e.Block)
	if err == nil {
		c.Brief = e.For
	}
	return Nothing, err
}

func (e Brief) Called(doc.Plan) string {
	return "explain for " + coach.Clock(time.Duration(e.For)*time.Second)
}
