package edit

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
)

// Target sets the number a station's target asks for.
type Target struct {
	Station string
	Count   int
}

func readTarget(w Wire) (Edit, error) {
	n, err := w.number(1, 500, "A target")
	return Target{w.At, n}, err
}

func (e Target) apply(p *doc.Plan) (Needs, error) {
	s, _, err := station(p, e.Station)
	if err == nil {
		s.Target = e.Count
	}
	return Nothing, err
}

func (e Target) Called(p doc.Plan) string {
	return stationCalled(p, e.Station, fmt.Sprint("target ", e.Count))
}
