package edit

import "gruppo/internal/coach/plan/doc"

// Deal deals the players again, in another order.
type Deal struct {
	Deal string // empty: the first
}

func readDeal(w Wire) (Edit, error) { return Deal{w.At}, nil }

func (e Deal) apply(p *doc.Plan) (Needs, error) {
	d, err := dealt(p, e.Deal)
	if err != nil {
		return Nothing, err
	}
	p.Seed++
	d.Players = nil
	return NewDeal, nil
}

func (e Deal) Called(doc.Plan) string { return "dealt again" }
