package edit

import "gruppo/internal/coach/plan/doc"

// Light gives those who rest in intervals a light task.
type Light struct {
	Block string
	Task  doc.Task // its drill empty: they rest
}

func readLight(w Wire) (Edit, error) {
	if w.Value == "" {
		return Light{Block: w.At}, nil
	}
	t, err := task(w.Value)
	return Light{w.At, t}, err
}

func (e Light) apply(p *doc.Plan) (Needs, error) {
	n, err := intervals(p, e.Block)
	if err == nil {
		n.Light = e.Task
	}
	return Nothing, err
}

func (e Light) Called(p doc.Plan) string { return blockCalled(p, e.Block, "a light task") }
