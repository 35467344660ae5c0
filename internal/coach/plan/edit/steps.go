package edit

import (
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Steps gives a ladder all its steps at once: a way from first steps to match play.
type Steps struct {
	Block string
	Steps []doc.Task
}

// readSteps reads "drill@edition drill@edition …".
func readSteps(w Wire) (Edit, error) {
	e := Steps{Block: w.At}
	for _, word := range strings.Fields(w.Value) {
		t, err := task(word)
		if err != nil {
			return nil, err
		}
		e.Steps = append(e.Steps, t)
	}
	if len(e.Steps) == 0 || len(e.Steps) > doc.MostSteps {
		return nil, doc.Input("steps", "A ladder has 1 to %d steps.", doc.MostSteps)
	}
	return e, nil
}

func (e Steps) apply(p *doc.Plan) (Needs, error) {
	b, err := ladder(p, e.Block)
	if err == nil {
		b.Steps = e.Steps
	}
	return Nothing, err
}

func (e Steps) Called(p doc.Plan) string { return blockCalled(p, e.Block, "steps") }

// Climb sets who goes up a ladder together.
type Climb struct {
	Block string
	By    doc.Climb
}

func readClimb(w Wire) (Edit, error) {
	e := Climb{w.At, doc.Climb(w.Value)}
	if w.Value == "group" {
		e.By = doc.ByGroup
	}
	if e.By.String() == "" {
		return nil, doc.Input("climb", "They climb by group, by pair or by player.")
	}
	return e, nil
}

func (e Climb) apply(p *doc.Plan) (Needs, error) {
	b, err := ladder(p, e.Block)
	if err == nil {
		b.Climb = e.By
	}
	return Nothing, err
}

func (e Climb) Called(p doc.Plan) string { return blockCalled(p, e.Block, "who climbs together") }

// ladder finds a block of steps.
func ladder(p *doc.Plan, id string) (*doc.Block, error) {
	b, err := block(p, id)
	if err == nil && b.Kind != doc.Ladder {
		err = doc.Input("steps", "That block is no ladder.")
	}
	return b, err
}
