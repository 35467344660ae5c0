package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// Beyond: the clearance that a station asks for goes beyond the floor, or over something.
type Beyond struct {
	AtStation
	Drill, Where string // "beyond the floor", "over the wall bars"
	Clearance    string
}

func (f Beyond) Which() string { return f.Where }

func (f Beyond) Says() string {
	return fmt.Sprintf("%s asks for %s clear all round, which goes %s.", f.Drill, f.Clearance, f.Where)
}

// FliesOn: what is thrown or struck at a station flies beyond the floor, or over something.
type FliesOn struct {
	AtStation
	Drill, Where string
}

func (f FliesOn) Which() string { return f.Where }

func (f FliesOn) Says() string {
	return fmt.Sprintf(
		"What is thrown or struck at %s flies on %s. See that a wall or a net stops it and nobody is there.",
		f.Drill,
		f.Where,
	)
}

// edges looks at what lies round a station: the clearance it asks for and where its balls fly on.
func (l laid) edges() {
	edge, zone := "the floor", l.in.Floor.Use.Length > 0
	if zone {
		edge = "the zone you have booked"
	}
	said := map[int]bool{} // one word for what goes beyond the edge
	for _, t := range floor.Edges(l.in.Floor, l.spots, l.sizes) {
		s := l.stations[t.Station]
		if t.Where == "" && said[t.Station] {
			continue
		}
		flies := s.Drill.Fire > 0 && (t.What == "flies" || t.Where == "" && !s.Fire().Within(l.in.Floor.Inside()))
		beyond, weight := "beyond "+edge, Note
		if t.Where != "" {
			beyond, weight = "over "+t.Where, Settle
		} else if said[t.Station] = true; flies && zone {
			weight = Settle // others may be there
		}
		if flies {
			l.find(weight, work.Always, FliesOn{stationOf(s), s.Drill.Name, beyond}, l.inward(t.Station)...)
		} else {
			l.find(weight, work.Always, Beyond{stationOf(s), s.Drill.Name, beyond, l.in.Units.Long(s.Drill.Clearance)}, l.inward(t.Station)...)
		}
	}
}

// inward offers a place further in, or the other way about, where that makes no trouble of its own.
func (l laid) inward(i int) (out []Mend) {
	s := l.stations[i]
	better := func(at floor.Spot) bool {
		moved := slices.Clone(l.spots)
		moved[i] = at
		own := func(t floor.Trouble) bool { return t.Station == i || t.Other == i }
		return !slices.ContainsFunc(floor.Check(l.in.Floor, moved, l.sizes), own) &&
			!slices.ContainsFunc(floor.Edges(l.in.Floor, moved, l.sizes), own)
	}
	if at, ok := l.in.Floor.Into(s.Spot, s.Drill.Clearance); ok && at != s.Spot && better(at) {
		out = append(out, mend("Move it in", edit.Spot{Station: s.ID, At: &at}))
	}
	if at := s.Spot.Turned(); s.Drill.Fire > 0 && better(at) {
		out = append(out, mend("Turn it round", edit.Spot{Station: s.ID, At: &at}))
	}
	return out
}
