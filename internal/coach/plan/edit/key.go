package edit

import "gruppo/internal/coach/plan/doc"

// Key sets the one coaching point of the day.
type Key struct{ Words string }

func readKey(w Wire) (Edit, error) { return Key{w.Value}, nil }

func (e Key) apply(p *doc.Plan) (Needs, error) {
	for i := range p.Blocks { // where it was written down, the new one is
		if b := &p.Blocks[i]; b.Kind == doc.OneKey && b.Note == p.Key && p.Key != "" {
			b.Note = e.Words
		}
	}
	p.Key = e.Words
	return Nothing, nil
}

func (e Key) Called(doc.Plan) string { return "key " + e.Words }
