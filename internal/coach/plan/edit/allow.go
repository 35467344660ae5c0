package edit

import "gruppo/internal/coach/plan/doc"

// Allow says that the players of a block may work all-out in its intervals, or takes that back. It is a coach's word.
type Allow struct {
	Block string
	Back  bool
}

func readAllow(w Wire) (Edit, error) { return Allow{w.At, w.Value == ""}, nil }

func (e Allow) apply(p *doc.Plan) (Needs, error) {
	n, err := intervals(p, e.Block)
	if err == nil {
		n.Allowed = !e.Back
	}
	return Nothing, err
}

func (e Allow) Called(p doc.Plan) string { return blockCalled(p, e.Block, "all-out") }
