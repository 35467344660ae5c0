package edit

import (
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Exercise changes the exercises of a block of intervals: another comes to them, or one goes earlier or later, out, or
// is done in another way.
type Exercise struct {
	Block string
	Add   doc.Task // comes last
	At    int      // else which, counted from 0
	By    int      // −1 earlier, 1 later
	Out   bool
	How   string // else: how it is done, in a few words
}

// readExercise reads "drill@edition", "0 earlier", "0 later", "0 out" or "0 how regular feeds".
func readExercise(w Wire) (Edit, error) {
	first, what, _ := strings.Cut(strings.TrimSpace(w.Value), " ")
	n, err := strconv.Atoi(first)
	if err != nil {
		t, err := task(first)
		return Exercise{Block: w.At, Add: t}, err
	}
	e, moves := Exercise{Block: w.At, At: n}, false
	if e.By, e.Out, moves = along(what); moves {
		return e, nil
	}
	how, ok := strings.CutPrefix(what+" ", "how ")
	if e.How = strings.TrimSpace(how); !ok || len([]rune(e.How)) > doc.MostHow {
		return nil, doc.Input("exercise", "How it is done takes at most %d letters.", doc.MostHow)
	}
	return e, nil
}

func (e Exercise) apply(p *doc.Plan) (Needs, error) {
	n, err := intervals(p, e.Block)
	switch {
	case err != nil:
		return Nothing, err
	case e.Add.Drill != "" && len(n.Exercises) >= doc.MostExercises:
		return Nothing, doc.Input("exercise", "Intervals have at most %d exercises.", doc.MostExercises)
	case e.Add.Drill != "":
		n.Exercises = append(n.Exercises, doc.Exercise{Task: e.Add})
		n.Allowed = false // a coach's word was for those that were there
		return Nothing, nil
	case e.At < 0 || e.At >= len(n.Exercises):
		return Nothing, doc.Input("exercise", "That exercise is no longer in the plan.")
	}
	x := n.Exercises[e.At]
	switch {
	case e.Out:
		n.Exercises = slices.Delete(n.Exercises, e.At, e.At+1)
	case e.By != 0:
		rest := slices.Delete(n.Exercises, e.At, e.At+1)
		n.Exercises = slices.Insert(rest, max(0, min(len(rest), e.At+e.By)), x)
	default:
		n.Exercises[e.At].How = e.How
	}
	return Nothing, nil
}

func (e Exercise) Called(p doc.Plan) string { return blockCalled(p, e.Block, "exercises") }
