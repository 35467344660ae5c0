package edit

import "gruppo/internal/coach/plan/doc"

// Edition takes another edition of a drill, wherever the plan uses it.
type Edition struct{ Task doc.Task }

func readEdition(w Wire) (Edit, error) {
	t, err := task(w.Value)
	return Edition{t}, err
}

func (e Edition) apply(p *doc.Plan) (Needs, error) {
	p.Retask(func(t doc.Task) (doc.Task, bool) {
		if t.Drill == e.Task.Drill {
			return e.Task, true
		}
		return t, true
	})
	return Nothing, nil
}

func (e Edition) Called(doc.Plan) string { return "a newer edition" }
