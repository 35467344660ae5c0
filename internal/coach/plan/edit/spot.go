package edit

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/doc"
)

// Spot puts a station at a place of the floor.
type Spot struct {
	Station string
	At      *floor.Spot // nil: laid out by itself
}

// readSpot reads "x y turn length width" in metres and degrees, or nothing.
func readSpot(w Wire) (Edit, error) {
	if w.Value == "" {
		return Spot{Station: w.At}, nil
	}
	var f [5]float64
	fields := strings.Fields(w.Value)
	if len(fields) != len(f) {
		return nil, doc.Input("spot", "A place is two lengths, a turn and a size.")
	}
	for i, word := range fields {
		m, err := strconv.ParseFloat(strings.Replace(word, ",", ".", 1), 64)
		if err != nil || math.IsNaN(m) || math.Abs(m) > 400 {
			return nil, doc.Input("spot", "%q is not a length.", strings.ReplaceAll(word, "_", " "))
		}
		f[i] = math.Round(m*100) / 100
	}
	at := floor.Spot{X: f[0], Y: f[1], Turn: int(f[2]), Length: f[3], Width: f[4]}
	if !doc.SoundSpot(at) {
		return nil, doc.Input("spot", "A station is 1 to 200 m long and wide, and turned by quarters.")
	}
	return Spot{w.At, &at}, nil
}

// Place is a spot as a button sends it.
func Place(s floor.Spot) string {
	return fmt.Sprintf("%g %g %d %g %g", s.X, s.Y, s.Turn, s.Length, s.Width)
}

func (e Spot) apply(p *doc.Plan) (Needs, error) {
	s, _, err := station(p, e.Station)
	if err == nil {
		s.Spot = e.At
	}
	return Nothing, err
}

func (e Spot) Called(p doc.Plan) string { return stationCalled(p, e.Station, "moved") }
