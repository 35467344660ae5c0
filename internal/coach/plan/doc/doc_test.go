package doc_test

import (
	"testing"

	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/rotate"
)

func TestAPlanFromAFileIsHeldToItsLimits(t *testing.T) {
	good := plantest.Tuesday(t).Plan
	if err := good.Check(); err != nil {
		t.Fatal(err)
	}
	for i, spoil := range []func(*doc.Plan){
		func(p *doc.Plan) { p.Deals[0].Way = "x" }, func(p *doc.Plan) { p.Deals[0].Groups = 99 }, func(p *doc.Plan) { p.First().Work = 0 }, func(p *doc.Plan) { p.Blocks[0].Minutes = 0 }, func(p *doc.Plan) { p.Blocks[0].Kind = "nap" },
		func(p *doc.Plan) { p.Deals[0].Players = [][]string{{"a"}, {"a"}} }, func(p *doc.Plan) { p.First().Stations[0].Spot = &floor.Spot{X: 1, Y: 1, Length: 0, Width: 3} }, func(p *doc.Plan) { p.First().Stations = make([]doc.Station, 9) },
		func(p *doc.Plan) { p.Blocks[0].Game = &rotate.Game{Areas: -1} }, func(p *doc.Plan) { p.Blocks[0].Scores = []doc.Made{{Pairs: [][2]int{{-7, 0}}}} },
	} {
		p := good.Clone()
		spoil(&p)
		if p.Check() == nil {
			t.Errorf("case %d is taken", i)
		}
	}
}
