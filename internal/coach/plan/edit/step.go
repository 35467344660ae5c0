package edit

import (
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Step changes a step of a ladder: it goes earlier or later, out, or another comes after it.
type Step struct {
	Block string
	Step  int // counted from 0
	By    int // −1 earlier, 1 later
	Out   bool
	Then  doc.Task // comes after it
}

// readStep reads "2 earlier", "2 later", "2 out" or "2 drill@edition".
func readStep(w Wire) (Edit, error) {
	n, what, _ := strings.Cut(w.Value, " ")
	i, err := strconv.Atoi(n)
	if err != nil {
		return nil, doc.Input("step", "That step is no longer in the ladder.")
	}
	e, moves := Step{Block: w.At, Step: i}, false
	if e.By, e.Out, moves = along(what); !moves {
		e.Then, err = task(what)
	}
	return e, err
}

func (e Step) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	if e.Step < 0 || e.Step >= len(b.Steps) {
		return Nothing, doc.Input("step", "That step is no longer in the ladder.")
	}
	s := b.Steps[e.Step]
	switch {
	case e.Then.Drill != "":
		b.Steps = slices.Insert(b.Steps, e.Step+1, e.Then)
	case e.Out:
		b.Steps = slices.Delete(b.Steps, e.Step, e.Step+1)
	default:
		rest := slices.Delete(b.Steps, e.Step, e.Step+1)
		b.Steps = slices.Insert(rest, max(0, min(len(rest), e.Step+e.By)), s)
	}
	return Nothing, nil
}

func (e Step) Called(p doc.Plan) string { return blockCalled(p, e.Block, "steps") }
