package edit

import (
	"fmt"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Target sets the number that the target of a station, of one of its groups, or of a block's task asks for.
type Target struct {
	At    string // a station or a block
	Group string // at a station: a doc.GroupKey; empty: of all
	Count int
}

// readTarget reads "12", or "group 2=12".
func readTarget(w Wire) (Edit, error) {
	e := Target{At: w.At}
	if group, value, ok := strings.Cut(w.Value, "="); ok {
		if !doc.IsGroupKey(group) {
			return nil, doc.Input(w.Do, "That group is not in the plan.")
		}
		e.Group, w.Value = group, value
	}
	n, err := w.number(1, 500, "A target")
	e.Count = n
	return e, err
}

func (e Target) apply(p *doc.Plan) (Needs, error) {
	if b := p.Block(e.At); b != nil {
		b.Target = e.Count
		return Nothing, nil
	}
	s, _, err := station(p, e.At)
	switch {
	case err != nil:
		return Nothing, err
	case e.Group == "":
		s.Target = e.Count
	case s.Aims == nil:
		s.Aims = map[string]int{e.Group: e.Count}
	default:
		s.Aims[e.Group] = e.Count
	}
	return Nothing, nil
}

func (e Target) Called(p doc.Plan) string {
	if p.Block(e.At) != nil {
		return blockCalled(p, e.At, fmt.Sprint("target ", e.Count))
	}
	return stationCalled(p, e.At, fmt.Sprint("target ", e.Count))
}
