package check

import (
	"fmt"

	"gruppo/internal/coach/plan/work"
)

// NoRoom: there is no place on the floor as large as a drill asks for.
type NoRoom struct {
	AtStation
	Drill, Area, Clear string
}

func (f NoRoom) Says() string {
	return fmt.Sprintf(
		"%s asks for %s and %s clear; there is no such place left on the floor.",
		f.Drill,
		f.Area,
		f.Clear,
	)
}

func (l laid) noRoom() {
	for i, s := range l.stations {
		asks := l.sizes[i]
		short := min(asks.Length, asks.Width) - 0.1
		small := s.Spot.Length < short || s.Spot.Width < short ||
			s.Spot.Length*s.Spot.Width < asks.Length*asks.Width-0.1
		if !s.Fits && s.Station.Spot == nil && small {
			l.find(
				Settle,
				work.Always,
				NoRoom{
					stationOf(s),
					s.Drill.Name,
					l.in.Units.Area(s.Drill.Length, s.Drill.Width),
					l.in.Units.Long(s.Drill.Clearance),
				},
			)
		}
	}
}
