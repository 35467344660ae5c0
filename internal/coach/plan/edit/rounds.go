package edit

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
)

// Rounds sets how many rounds the stations have; 0: until everyone was everywhere.
type Rounds struct {
	Block string // of the stations; empty: the first
	Count int
}

func readRounds(w Wire) (Edit, error) {
	n, err := w.number(0, 24, "Rounds")
	return Rounds{w.At, n}, err
}

func (e Rounds) apply(p *doc.Plan) (Needs, error) {
	c, err := circuit(p, e.Block)
	if err == nil {
		c.Rounds = e.Count
	}
	return Nothing, err
}

func (e Rounds) Called(doc.Plan) string { return fmt.Sprint(e.Count, " rounds") }
