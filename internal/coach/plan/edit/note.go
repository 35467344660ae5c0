package edit

import "gruppo/internal/coach/plan/doc"

// Note writes down what is done in a block.
type Note struct{ Block, Words string }

func readNote(w Wire) (Edit, error) { return Note{w.At, w.Value}, nil }

func (e Note) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	if err == nil {
		b.Note = e.Words
	}
	return Nothing, err
}

func (e Note) Called(p doc.Plan) string { return blockCalled(p, e.Block, "note") }
