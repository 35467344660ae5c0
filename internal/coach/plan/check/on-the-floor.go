package check

import (
	"fmt"

	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// OffTheFloor: a station leaves the floor, or the zone that is booked.
type OffTheFloor struct {
	AtStation
	Drill  string
	Booked bool
}

func (f OffTheFloor) Says() string {
	if f.Booked {
		return f.Drill + " leaves the floor you have booked."
	}
	return f.Drill + " leaves the floor."
}

// Blocked: a station stands on something.
type Blocked struct {
	AtStation
	Drill, By string
}

func (f Blocked) Says() string { return fmt.Sprintf("%s stands on %s.", f.Drill, f.By) }

// Overlap: two stations are nearer than the clearance they need.
type Overlap struct {
	AtStation
	Other                 Subject
	Drill, OtherDrill, By string
}

func (f Overlap) Which() string { return f.Other.ID }

func (f Overlap) Says() string {
	return fmt.Sprintf("%s and %s are nearer than the %s they need clear.", f.Drill, f.OtherDrill, f.By)
}

// InTheLine: a station stands where what is thrown or struck at another flies on.
type InTheLine struct {
	AtStation
	Fires             Subject
	Number            int // of the station that fires, from 1
	Drill, FiresDrill string
}

func (f InTheLine) Which() string { return f.Fires.ID }

func (f InTheLine) Says() string {
	return fmt.Sprintf(
		"%s stands where what is thrown or struck at station %d, %s, flies on. Nobody may be in the line of fire.",
		f.Drill,
		f.Number,
		f.FiresDrill,
	)
}

// onTheFloor looks at the stations that are there at the same time.
func onTheFloor(c *checking) {
	for _, circuit := range c.Circuits {
		l := laid{c, c.StationsOf(circuit), nil, nil}
		for _, s := range l.stations {
			l.sizes, l.spots = append(l.sizes, work.SizeOf(s.Drill)), append(l.spots, s.Spot)
		}
		l.troubles()
		l.edges()
		l.noRoom()
	}
}

// laid are stations as they lie on the floor.
type laid struct {
	*checking
	stations []work.StationAt
	sizes    []floor.Size
	spots    []floor.Spot
}

// again offers to lay them out by themselves, where any was put by hand.
func (l laid) again() []Mend {
	m := Mend{Words: "Lay them out again"}
	for _, s := range l.stations {
		if s.Station.Spot != nil {
			m.Edits = append(m.Edits, edit.Spot{Station: s.ID})
		}
	}
	if m.Edits == nil {
		return nil
	}
	return []Mend{m}
}

func (l laid) troubles() {
	for _, t := range floor.Check(l.in.Floor, l.spots, l.sizes) {
		s, at := l.stations[t.Station], stationOf(l.stations[t.Station])
		switch t.What {
		case "off":
			l.find(Settle, work.Always, OffTheFloor{at, s.Drill.Name, l.in.Floor.Use.Length > 0}, l.again()...)
		case "blocked":
			l.find(Stop, work.Always, Blocked{at, s.Drill.Name, t.Where}, l.again()...)
		case "overlap":
			o := l.stations[t.Other]
			clear := l.in.Units.Long(max(s.Drill.Clearance, o.Drill.Clearance))
			l.find(
				Settle,
				work.Always,
				Overlap{at, stationOf(o).Station, s.Drill.Name, o.Drill.Name, clear},
				l.again()...)
		case "fire":
			o := l.stations[t.Other]
			turned := o.Spot.Turned()
			turn := mend(fmt.Sprintf("Turn station %d", o.Index+1), edit.Spot{Station: o.ID, At: &turned})
			l.find(
				Stop,
				work.Always,
				InTheLine{at, stationOf(o).Station, o.Index + 1, s.Drill.Name, o.Drill.Name},
				append(l.again(), turn)...)
		}
	}
}
