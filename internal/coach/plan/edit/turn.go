package edit

import "gruppo/internal/coach/plan/doc"

// Turn sets how long a turn with a partner is.
type Turn struct {
	Block string
	For   int // seconds
}

func readTurn(w Wire) (Edit, error) {
	n, err := w.number(15, 1800, "Seconds of a turn")
	return Turn{w.At, n}, err
}

func (e Turn) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	if err == nil {
		b.Turn = e.For
	}
	return Nothing, err
}

func (e Turn) Called(p doc.Plan) string { return blockCalled(p, e.Block, "length of a turn") }
