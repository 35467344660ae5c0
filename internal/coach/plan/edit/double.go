package edit

import "gruppo/internal/coach/plan/doc"

// Double lets two groups come to a station at once, or one again.
type Double struct{ Station string }

func readDouble(w Wire) (Edit, error) { return Double{w.At}, nil }

func (e Double) apply(p *doc.Plan) (Needs, error) {
	s, _, err := station(p, e.Station)
	if err == nil {
		s.Double = !s.Double
	}
	return Nothing, err
}

func (e Double) Called(p doc.Plan) string { return stationCalled(p, e.Station, "groups at once") }
