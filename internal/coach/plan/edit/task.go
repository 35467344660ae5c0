package edit

import "gruppo/internal/coach/plan/doc"

// Task gives a block a drill; a ladder takes it as its next step.
type Task struct {
	Block string
	Task  doc.Task // its drill empty: none
}

func readTask(w Wire) (Edit, error) {
	if w.Value == "" {
		return Task{Block: w.At}, nil
	}
	t, err := task(w.Value)
	return Task{w.At, t}, err
}

func (e Task) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	switch {
	case err != nil:
		return Nothing, err
	case b.Kind == doc.Stations:
		return Nothing, doc.Input("task", "The stations have their own drills.")
	case b.Kind.InTurns():
		return Nothing, doc.Input("task", "%s has exercises of its own.", b.Kind)
	}
	b.Side = nil
	switch {
	case e.Task.Drill == "":
		b.Drill, b.Edition, b.Steps = "", 0, nil
	case b.Kind == doc.Ladder:
		b.Steps = append(b.Steps, e.Task)
	default:
		b.Drill, b.Edition = e.Task.Drill, e.Task.Edition
	}
	return Nothing, nil
}

func (e Task) Called(p doc.Plan) string { return blockCalled(p, e.Block, "task") }
