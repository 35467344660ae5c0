package edit

import (
	"maps"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Own gives a group a task of its own at a station, or lets it skip the place.
type Own struct {
	Station string
	For     string   // doc.GroupKey
	Task    doc.Task // its drill empty: the group skips the place
	Back    bool     // does what the station is for again
}

// readOwn reads "group 1=drill@edition"; "group 1=-" skips the place, "group 1=" does as the others do.
func readOwn(w Wire) (_ Edit, err error) {
	to, what, ok := strings.Cut(w.Value, "=")
	e := Own{Station: w.At, For: to}
	if !ok || !doc.IsGroupKey(to) {
		return nil, doc.Input("own", "Choose a group and a drill.")
	}
	switch what {
	case "":
		e.Back = true
	case "-":
	default:
		e.Task, err = task(what)
	}
	return e, err
}

func (e Own) apply(p *doc.Plan) (Needs, error) {
	s, _, err := station(p, e.Station)
	if err != nil {
		return Nothing, err
	}
	if s.Own = maps.Clone(s.Own); s.Own == nil {
		s.Own = map[string]doc.Task{}
	}
	if s.Own[e.For] = e.Task; e.Back {
		delete(s.Own, e.For)
	}
	return Nothing, nil
}

func (e Own) Called(p doc.Plan) string { return stationCalled(p, e.Station, "a unit’s own task") }
