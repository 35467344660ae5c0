package edit

import (
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Area sets how large an area of a game is.
type Area struct {
	Block         string
	Length, Width float64 // metres; 0: what the floor gives
}

// readArea reads "20 × 12", in the club's units where none is named, or nothing.
func readArea(w Wire) (Edit, error) {
	e := Area{Block: w.At}
	text := strings.NewReplacer("×", "x", "*", "x", " by ", "x").Replace(strings.ToLower(w.Value))
	if strings.TrimSpace(text) == "" {
		return e, nil
	}
	long, wide, _ := strings.Cut(text, "x")
	var okLong, okWide bool
	e.Length, okLong = w.Units.ParseLength(long)
	e.Width, okWide = w.Units.ParseLength(wide)
	if !okLong || !okWide || min(e.Length, e.Width) < 1 || max(e.Length, e.Width) > 200 {
		return nil, doc.Input("area", "An area is a length and a width, such as %s.", w.Units.Area(20, 12))
	}
	return e, nil
}

func (e Area) apply(p *doc.Plan) (Needs, error) {
	g, err := gameOf(p, e.Block)
	if err == nil {
		g.Length, g.Width = e.Length, e.Width
	}
	return Nothing, err
}

func (e Area) Called(p doc.Plan) string { return blockCalled(p, e.Block, "size of an area") }
