package edit

import "gruppo/internal/coach/plan/doc"

// Leader puts somebody at a station. A leader stands at one: who stood there changes places.
type Leader struct {
	Station string
	Leader  string // empty: nobody
}

func readLeader(w Wire) (Edit, error) { return Leader{w.At, w.Value}, nil }

func (e Leader) apply(p *doc.Plan) (Needs, error) {
	s, c, err := station(p, e.Station)
	if err != nil {
		return Nothing, err
	}
	for i := range c.Stations {
		if e.Leader != "" && c.Stations[i].Leader == e.Leader {
			c.Stations[i].Leader = s.Leader
		}
	}
	s.Leader = e.Leader
	return Nothing, nil
}

func (e Leader) Called(p doc.Plan) string { return stationCalled(p, e.Station, "leader") }
