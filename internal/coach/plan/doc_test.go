package plan

import (
	"testing"

	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
)

func TestAPlanFromAFileIsHeldToItsLimits(t *testing.T) {
	good := tuesday(t).Plan
	if err := good.Check(); err != nil {
		t.Fatal(err)
	}
	for i, spoil := range []func(*Plan){
		func(p *Plan) { p.Way = "x" }, func(p *Plan) { p.Groups = 99 }, func(p *Plan) { p.Work = 0 }, func(p *Plan) { p.Blocks[0].Minutes = 0 }, func(p *Plan) { p.Blocks[0].Kind = "nap" },
		func(p *Plan) { p.Deal = [][]string{{"a"}, {"a"}} }, func(p *Plan) { p.Stations[0].Spot = &floor.Spot{X: 1, Y: 1, Length: 0, Width: 3} }, func(p *Plan) { p.Stations = make([]Station, 9) },
		func(p *Plan) { p.Blocks[0].Game = &rotate.Game{Areas: -1} }, func(p *Plan) { p.Blocks[0].Scores = []Made{{Pairs: [][2]int{{-7, 0}}}} },
	} {
		p := good.clone()
		spoil(&p)
		if p.Check() == nil {
			t.Errorf("case %d is taken", i)
		}
	}
}
