package edit

import (
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Pairing sets one figure of how partners play; the scores of before are let go.
type Pairing struct {
	Block string
	What  string // a key of pairingFigures
	To    int
}

var pairingFigures = map[string]figure[doc.Pairing]{
	"to":      {0, doc.MostTo, "Points of a turn", func(p *doc.Pairing) *int { return &p.To }},
	"against": {0, doc.MostTo, "Points of the other", func(p *doc.Pairing) *int { return &p.Against }},
	"change":  {0, 120, "Seconds to change over", func(p *doc.Pairing) *int { return &p.Change }},
	"courts":  {0, doc.MostCourts, "Courts", func(p *doc.Pairing) *int { return &p.Courts }},
}

func readPairing(w Wire) (Edit, error) {
	what, n, err := readFigure(w, pairingFigures)
	return Pairing{w.At, what, n}, err
}

func (e Pairing) apply(p *doc.Plan) (Needs, error) {
	pairing, b, err := pairingOf(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	if *pairingFigures[e.What].of(pairing) = e.To; e.What == "courts" {
		b.Scores = nil // others play with others
	}
	return Nothing, nil
}

func (e Pairing) Called(p doc.Plan) string {
	return blockCalled(p, e.Block, strings.ToLower(pairingFigures[e.What].called))
}

// pairingOf finds how partners play in a block, to be changed.
func pairingOf(p *doc.Plan, id string) (*doc.Pairing, *doc.Block, error) {
	b, err := block(p, id)
	if err != nil {
		return nil, nil, err
	}
	if !b.Kind.Partners() {
		return nil, nil, doc.Input("pairing", "Nobody changes partners in that block.")
	}
	if b.Pairing == nil {
		b.Pairing = &doc.Pairing{}
	}
	return b.Pairing, b, nil
}
