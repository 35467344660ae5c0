package edit

import (
	"slices"

	"gruppo/internal/coach/plan/doc"
)

// Gives lets blocks of a kind give before all others when time is short.
type Gives struct{ First doc.Kind }

func readGives(w Wire) (Edit, error) {
	e := Gives{doc.Kind(w.Value)}
	if e.First.String() == "" {
		return nil, doc.Input("gives", "Choose what gives first.")
	}
	return e, nil
}

func (e Gives) apply(p *doc.Plan) (Needs, error) {
	others := slices.DeleteFunc(p.Gives, func(k doc.Kind) bool { return k == e.First })
	p.Gives = append([]doc.Kind{e.First}, others...)
	return Nothing, nil
}

func (e Gives) Called(doc.Plan) string { return "what gives first" }
