package edit

import "gruppo/internal/coach/plan/doc"

// Title names a block.
type Title struct{ Block, Name string }

func readTitle(w Wire) (Edit, error) {
	if w.Value == "" || len(w.Value) > 120 {
		return nil, doc.Input("title", "A block needs a name of a few words.")
	}
	return Title{w.At, w.Value}, nil
}

func (e Title) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	if err == nil {
		b.Title = e.Name
	}
	return Nothing, err
}

func (e Title) Called(p doc.Plan) string { return blockCalled(p, e.Block, "name") }
