package edit

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
)

// Score keeps what a player made in a turn with a partner.
type Score struct {
	Block  string
	Turn   int // counted from 0
	Player string
	Points int // −1 takes it back
}

// readScore reads "turn player points".
func readScore(w Wire) (Edit, error) {
	e := Score{Block: w.At}
	n, err := fmt.Sscan(w.Value, &e.Turn, &e.Player, &e.Points)
	if err != nil || n != 3 || e.Turn < 0 || e.Turn >= doc.MostTurns || e.Points < -1 || e.Points > doc.MostScore {
		return nil, doc.Input("score", "Scores are whole numbers from 0 to %d.", doc.MostScore)
	}
	return e, nil
}

func (e Score) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	for len(b.Scores) <= e.Turn {
		b.Scores = append(b.Scores, doc.Made{})
	}
	b.Scores[e.Turn].Set(e.Player, e.Points)
	return Nothing, nil
}

func (e Score) Called(p doc.Plan) string { return blockCalled(p, e.Block, "score") }
