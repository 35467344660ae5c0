package evidence

import (
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
)

// Patterns are what a player tends to do, as the record shows it at a moment.
type Patterns struct {
	Lately map[string]string // of a criterion, by id: what the last marks said, the newest last, "4 · 6 · 8 in a row"
	Lacks  []string          // "left: passes in a row", where one side is behind the other
}

// fewLately is how many marks of a criterion are looked at.
const fewLately = 3

// behind is by how much of what is asked one side must be behind the other to be named: common practice, no source.
const behind = 0.25

// PatternsOf works them out from a player's marks, in any order.
func PatternsOf(stage coach.Stage, marks []coach.Mark, at time.Time) Patterns {
	p := Patterns{Lately: map[string]string{}}
	for _, c := range stage.Criteria {
		var own []coach.Mark
		for _, m := range marks {
			if m.CriterionID == c.ID && !m.Struck && !m.At.After(at) {
				own = append(own, m)
			}
		}
		if len(own) == 0 {
			continue
		}
		slices.SortStableFunc(own, func(a, b coach.Mark) int { return a.At.Compare(b.At) })
		var said []string
		for _, m := range own[max(0, len(own)-fewLately):] {
			said = append(said, m.Said(c))
		}
		p.Lately[c.ID] = strings.Join(said, " · ")
		if c.BothSides {
			if side := weaker(c, own, at); side != "" {
				p.Lacks = append(p.Lacks, string(side)+": "+c.Wording)
			}
		}
	}
	return p
}

// weaker is the side on which less of what is asked was shown than on the other; empty where they are alike.
func weaker(c coach.Criterion, marks []coach.Mark, at time.Time) coach.Side {
	left, right := onSide(c, marks, coach.Left, at), onSide(c, marks, coach.Right, at)
	switch {
	case left.Share <= right.Share-behind:
		return coach.Left
	case right.Share <= left.Share-behind:
		return coach.Right
	}
	return coach.AnySide
}

// Last are the criteria of which one more good mark would show the stage: the must that is open, else any that may be
// chosen; none where more than one mark is short, or none is.
func (r Readiness) Last() (out []coach.Criterion) {
	if r.Short != 1 {
		return nil
	}
	for _, it := range r.Items {
		switch open := it.Status.State != Shown && it.Status.More <= 1; {
		case open && it.Criterion.Must:
			return []coach.Criterion{it.Criterion}
		case open:
			out = append(out, it.Criterion)
		}
	}
	return out
}
