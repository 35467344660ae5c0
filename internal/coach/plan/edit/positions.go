package edit

import (
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Positions keeps the players of these positions in one group each.
type Positions struct {
	Deal  string // empty: the first
	Names []string
}

func readPositions(w Wire) (Edit, error) {
	e := Positions{Deal: w.At}
	for _, s := range strings.Split(w.Value, ",") {
		if s = strings.ToLower(strings.TrimSpace(s)); s != "" && len(e.Names) < 20 {
			e.Names = append(e.Names, s)
		}
	}
	return e, nil
}

func (e Positions) apply(p *doc.Plan) (Needs, error) {
	d, err := dealt(p, e.Deal)
	if err != nil {
		return Nothing, err
	}
	d.Positions, d.Players = e.Names, nil
	return NewDeal, nil
}

func (e Positions) Called(doc.Plan) string { return "positions kept together" }
