package edit

import (
	"strings"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
)

// GameFigure sets one figure of a block's game; the first makes it one of three against three.
type GameFigure struct {
	Block string
	What  string // a key of gameFigures
	To    int
}

var gameFigures = map[string]figure[rotate.Game]{
	"areas":    {1, 8, "Areas", func(g *rotate.Game) *int { return &g.Areas }},
	"a":        {1, 30, "Players of one side", func(g *rotate.Game) *int { return &g.A }},
	"b":        {1, 30, "Players of the other side", func(g *rotate.Game) *int { return &g.B }},
	"goals":    {0, 8, "Goals or targets", func(g *rotate.Game) *int { return &g.Goals }},
	"floaters": {0, 10, "Floaters", func(g *rotate.Game) *int { return &g.Floaters }},
	"walls":    {0, 10, "Wall players", func(g *rotate.Game) *int { return &g.Walls }},
	"touches":  {0, 9, "Touches of a wall player", func(g *rotate.Game) *int { return &g.Touches }},
	"reserves": {0, 30, "Reserves", func(g *rotate.Game) *int { return &g.Reserves }},
	"swap":     {0, 1800, "Seconds between two swaps", func(g *rotate.Game) *int { return &g.Swap }},
}

func readGameFigure(w Wire) (Edit, error) {
	what, n, err := readFigure(w, gameFigures)
	return GameFigure{w.At, what, n}, err
}

func (e GameFigure) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	switch {
	case err != nil:
		return Nothing, err
	case b.Kind != doc.Game:
		return Nothing, doc.Input("game", "That block is no game.")
	}
	g := rotate.Game{Areas: 1, A: 3, B: 3}
	if b.Game != nil {
		g = *b.Game
	}
	*gameFigures[e.What].of(&g) = e.To
	g.More = min(g.More, g.Areas)
	b.Game = &g
	return Nothing, nil
}

func (e GameFigure) Called(p doc.Plan) string {
	return blockCalled(p, e.Block, strings.ToLower(gameFigures[e.What].called))
}
