package edit

import "gruppo/internal/coach/plan/doc"

// Judges sets who judges a run-through.
type Judges struct {
	Block    string
	Partners bool // whoever comes next; else who leads
}

func readJudges(w Wire) (Edit, error) {
	if w.Value != "leaders" && w.Value != doc.Partners {
		return nil, doc.Input("judges", "Who leads judges, or partners do.")
	}
	return Judges{w.At, w.Value == doc.Partners}, nil
}

func (e Judges) apply(p *doc.Plan) (Needs, error) {
	n, err := intervals(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	n.Judges = ""
	if e.Partners {
		n.Judges = doc.Partners
	}
	return Nothing, nil
}

func (e Judges) Called(p doc.Plan) string { return blockCalled(p, e.Block, "who judges") }
