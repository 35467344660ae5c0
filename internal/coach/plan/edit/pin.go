package edit

import (
	"slices"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Pin keeps something when a plan is proposed again, or lets it go. One of the three is set.
type Pin struct {
	Station string // its id
	Block   string // its id
	Part    string // deal, leaders, floor or time
}

// readPin reads "deal", "station s2" or "block b1".
func readPin(w Wire) (Edit, error) {
	kind, id, _ := strings.Cut(w.Value, " ")
	switch {
	case kind == "station" && id != "":
		return Pin{Station: id}, nil
	case kind == "block" && id != "":
		return Pin{Block: id}, nil
	case slices.Contains([]string{"deal", "leaders", "floor", "time"}, w.Value):
		return Pin{Part: w.Value}, nil
	}
	return nil, doc.Input("pin", "That is no longer in the plan.")
}

func (e Pin) apply(p *doc.Plan) (Needs, error) {
	switch {
	case e.Station != "":
		s, _, err := station(p, e.Station)
		if err == nil {
			s.Pinned = !s.Pinned
		}
		return Nothing, err
	case e.Block != "":
		b, err := block(p, e.Block)
		if err == nil {
			b.Pinned = !b.Pinned
		}
		return Nothing, err
	}
	if i := slices.Index(p.Pinned, e.Part); i >= 0 {
		p.Pinned = slices.Delete(p.Pinned, i, i+1)
	} else {
		p.Pinned = append(p.Pinned, e.Part)
	}
	return Nothing, nil
}

func (e Pin) Called(doc.Plan) string { return "pinned" }
