package edit

import (
	"slices"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
)

// ChangeBy sets how partners change; the scores of before are let go.
type ChangeBy struct {
	Block string
	Way   rotate.Way
}

func readChangeBy(w Wire) (Edit, error) {
	e := ChangeBy{w.At, rotate.Way(w.Value)}
	if !slices.Contains(rotate.Ways, e.Way) {
		return nil, doc.Input(
			"change-by",
			"Partners move on one, one stays, the winner stays, they meet as seldom as can be, by level, as they choose, or the "+
				"loser feeds.",
		)
	}
	return e, nil
}

func (e ChangeBy) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	if err == nil {
		b.Way, b.Scores = e.Way, nil
	}
	return Nothing, err
}

func (e ChangeBy) Called(p doc.Plan) string { return blockCalled(p, e.Block, "how partners change") }
