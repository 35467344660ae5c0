package edit

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
)

// Minutes sets how long a block is.
type Minutes struct {
	Block string
	For   int
}

func readMinutes(w Wire) (Edit, error) {
	n, err := w.number(1, 240, "Minutes")
	return Minutes{w.At, n}, err
}

func (e Minutes) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	switch {
	case err != nil:
		return Nothing, err
	case b.Intervals != nil && len(b.Intervals.Exercises) > 0:
		return Nothing, doc.Input("minutes", "How long intervals take follows from their turns and from who is there.")
	}
	b.Minutes = e.For
	return Nothing, nil
}

func (e Minutes) Called(p doc.Plan) string { return blockCalled(p, e.Block, fmt.Sprint(e.For, " min")) }
