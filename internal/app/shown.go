package app

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/say"
)

// Shown is a criterion with the marks behind its state.
type Shown struct {
	evidence.Item
	Shown  []string // the marks that count, in words
	Brief  string   // the newest of them in one line
	Sure   string
	Trends []evidence.Trend // one, or one for each side
	Next   []string         // where it can be shown next, and by whom it can be marked
}

// Slipping reports whether it slips, on one side at least.
func (v Shown) Slipping() bool { return evidence.AnySlips(v.Trends) }

// SaidBy writes a mark with its day and who made it.
func SaidBy(c coach.Criterion, m coach.Mark, loc *time.Location) string {
	s := m.Said(c)
	if m.Side != "" {
		s += " " + string(m.Side)
	}
	by := m.ByName
	if m.Home {
		by = "at home"
	}
	return s + ", " + m.At.In(loc).Format("2 Jan") + ", " + by
}

func ShownOf(r evidence.Readiness, marks []coach.Mark, at time.Time, loc *time.Location) []Shown {
	var out []Shown
	for _, it := range r.Items {
		v := Shown{Item: it, Trends: evidence.Trends(it.Criterion, marks, at)}
		good := slices.Clone(it.Status.Last)
		slices.SortFunc(good, func(a, b coach.Mark) int { return a.At.Compare(b.At) })
		for _, m := range good {
			v.Shown = append(v.Shown, SaidBy(it.Criterion, m, loc))
		}
		v.Brief = brief(it.Criterion, good[max(0, len(good)-max(2, it.Criterion.Rule.Good)):], loc)
		if it.Criterion.Measure == coach.Makes {
			made, tried := 0, 0
			for _, m := range marks {
				if m.CriterionID == it.Criterion.ID && !m.Struck && !m.At.After(at) {
					made, tried = made+int(m.Figure), tried+m.Tries
				}
			}
			if tried > 0 {
				low, high := evidence.Wilson(made, tried)
				v.Sure = fmt.Sprintf(
					"%d of %d in all: true rate likely %.0f–%.0f in 100",
					made,
					tried,
					low*100,
					high*100,
				)
			}
		}
		out = append(out, v)
	}
	return out
}

// brief says marks in one line: figures, days, people.
func brief(c coach.Criterion, marks []coach.Mark, loc *time.Location) string {
	var figures, days, people []string
	for _, m := range marks {
		figures, days, people = append(figures, m.Said(c)), append(days, m.At.In(loc).Format("2 Jan")), append(
			people,
			say.First(m.ByName),
		)
	}
	join := func(words []string) string {
		return strings.Join(slices.Compact(words), ", ")
	}
	if len(marks) == 0 {
		return ""
	}
	return join(figures) + " · " + join(days) + " · " + join(people)
}

// Kept is the readiness as a decision keeps it.
func Kept(s Standing, items []Shown) deciding.Evidence {
	e := deciding.Evidence{Stage: s.Stage.Name, Ready: s.Readiness.Ready, Missing: s.Readiness.Missing}
	for _, it := range items {
		standard := it.Criterion.Standard()
		if len(it.Criterion.Points) > 0 {
			standard += " (" + strings.Join(it.Criterion.Points, ", ") + ")"
		}
		e.Items = append(
			e.Items,
			deciding.EvidenceOfItem{
				Wording:  it.Criterion.Wording,
				Standard: standard + "; " + it.Criterion.Rule.String(),
				State:    string(it.Status.State),
				Marks:    it.Shown,
				Edition:  it.Criterion.Edition,
			},
		)
	}
	return e
}
