package edit

import (
	"slices"

	"gruppo/internal/coach/plan/doc"
)

// DropStation takes a station out, and a group with it where each station had one.
type DropStation struct{ Station string }

func readDropStation(w Wire) (Edit, error) { return DropStation{w.At}, nil }

func (e DropStation) apply(p *doc.Plan) (needs Needs, err error) {
	_, c, err := station(p, e.Station)
	if err != nil {
		return Nothing, err
	}
	if d := p.DealOf(c); d.Groups == len(c.Stations) && d.Groups > 1 {
		d.Groups--
		d.Players = nil
		needs = NewDeal
	}
	c.Stations = slices.DeleteFunc(c.Stations, func(s doc.Station) bool { return s.ID == e.Station })
	return needs, nil
}

func (e DropStation) Called(p doc.Plan) string { return stationCalled(p, e.Station, "out") }
