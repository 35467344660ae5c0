package edit

import "gruppo/internal/coach/plan/doc"

// Leaders lets leaders go with their group, or stay at their station.
type Leaders struct {
	Block string // of the stations; empty: the first
	Move  bool
}

func readLeaders(w Wire) (Edit, error) { return Leaders{w.At, w.Value == "move"}, nil }

func (e Leaders) apply(p *doc.Plan) (Needs, error) {
	c, err := circuit(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	c.Move, c.With = e.Move, nil
	if !e.Move {
		return Nothing, nil
	}
	for i := range p.DealOf(c).Groups {
		who := ""
		if i < len(c.Stations) {
			who = c.Stations[i].Leader
		}
		c.With = append(c.With, who)
	}
	return Nothing, nil
}

func (e Leaders) Called(doc.Plan) string { return "how leaders go" }
