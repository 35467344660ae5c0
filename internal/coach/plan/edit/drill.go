package edit

import "gruppo/internal/coach/plan/doc"

// Drill gives a station another drill; who leads it stays.
type Drill struct {
	Station string
	Task    doc.Task
}

func readDrill(w Wire) (Edit, error) {
	t, err := task(w.Value)
	return Drill{w.At, t}, err
}

func (e Drill) apply(p *doc.Plan) (Needs, error) {
	s, _, err := station(p, e.Station)
	if err == nil {
		*s = doc.Station{ID: s.ID, Drill: e.Task.Drill, Edition: e.Task.Edition, Leader: s.Leader, Pinned: s.Pinned}
	}
	return Nothing, err
}

func (e Drill) Called(p doc.Plan) string { return stationCalled(p, e.Station, "another drill") }
