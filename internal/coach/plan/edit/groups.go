package edit

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
)

// Groups sets how many groups the players are dealt into.
type Groups struct {
	Deal  string // empty: the first
	Count int
}

func readGroups(w Wire) (Edit, error) {
	n, err := w.number(1, doc.Most, "Groups")
	return Groups{w.At, n}, err
}

func (e Groups) apply(p *doc.Plan) (Needs, error) {
	d, err := dealt(p, e.Deal)
	if err != nil {
		return Nothing, err
	}
	d.Groups, d.Players = e.Count, nil
	return NewDeal, nil
}

func (e Groups) Called(doc.Plan) string { return fmt.Sprint(e.Count, " groups") }
