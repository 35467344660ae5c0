package edit

import (
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/doc"
)

// Way sets how the players are dealt.
type Way struct {
	Deal string // empty: the first
	Way  deal.Way
}

func readWay(w Wire) (Edit, error) {
	e := Way{w.At, deal.Way(w.Value)}
	if !e.Way.Known() {
		return nil, doc.Input(
			"way",
			"Groups are dealt near in level, mixed, by position, by stage, by what they lack or by chance.",
		)
	}
	return e, nil
}

func (e Way) apply(p *doc.Plan) (Needs, error) {
	d, err := dealt(p, e.Deal)
	if err != nil {
		return Nothing, err
	}
	d.Way, d.Players = e.Way, nil
	return NewDeal, nil
}

func (e Way) Called(doc.Plan) string { return "groups " + e.Way.String() }
