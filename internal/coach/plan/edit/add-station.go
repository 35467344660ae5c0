package edit

import (
	"slices"

	"gruppo/internal/coach/plan/doc"
)

// AddStation adds a station with a drill after the others.
type AddStation struct {
	Block string // of the stations; empty: the first, and one is made where there is none
	Task  doc.Task
}

func readAddStation(w Wire) (Edit, error) {
	t, err := task(w.Value)
	return AddStation{w.At, t}, err
}

func (e AddStation) apply(p *doc.Plan) (needs Needs, err error) {
	if len(p.Stations()) >= doc.Most {
		return Nothing, doc.Input("add-station", "A plan has at most %d stations.", doc.Most)
	}
	if e.Block == "" && len(p.Circuits()) == 0 {
		b := doc.Block{
			Kind:    doc.Stations,
			Title:   doc.Stations.String(),
			Circuit: &doc.Circuit{Work: 6 * 60, Brief: 120},
		}
		p.Blocks = slices.Insert(p.Blocks, p.BeforeTheEnd(), b)
	}
	c, err := circuit(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	d := p.DealOf(c)
	if d.Groups == len(c.Stations) || len(c.Stations) == 0 { // one group a station, until the coach says otherwise
		needs = NewDeal
		d.Groups = max(d.Groups, len(c.Stations)+1)
		if n := d.Dealt(); n > 0 { // and while two are left for each
			d.Groups = max(1, min(d.Groups, n/2))
		}
		d.Players = nil
	}
	c.Stations = append(c.Stations, doc.Station{Drill: e.Task.Drill, Edition: e.Task.Edition})
	return needs, nil
}

func (e AddStation) Called(doc.Plan) string { return "a station more" }
