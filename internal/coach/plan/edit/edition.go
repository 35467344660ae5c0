package edit

import "gruppo/internal/coach/plan/doc"

// Edition takes another edition of a drill, wherever the plan uses it.
type Edition struct{ Task doc.Task }

func readEdition(w Wire) (Edit, error) {
	t, err := task(w.Value)
	return Edition{t}, err
}

func (e Edition) apply(p *doc.Plan) (Needs, error) {
	for _, c := range p.Circuits() {
		for i := range c.Stations {
			s := &c.Stations[i]
			if s.Drill == e.Task.Drill {
				s.Edition = e.Task.Edition
			}
			e.renew(s.Side)
		}
	}
	for i := range p.Blocks {
		b := &p.Blocks[i]
		e.renew(b.Side)
		if b.Drill == e.Task.Drill {
			b.Edition = e.Task.Edition
		}
		for j := range b.Steps {
			if b.Steps[j].Drill == e.Task.Drill {
				b.Steps[j] = e.Task
			}
		}
	}
	return Nothing, nil
}

// renew puts the edition where the drill is somebody's own task.
func (e Edition) renew(sides map[string]doc.Task) {
	for player, s := range sides {
		if s.Drill == e.Task.Drill {
			sides[player] = e.Task
		}
	}
}

func (e Edition) Called(doc.Plan) string { return "a newer edition" }
