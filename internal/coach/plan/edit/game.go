package edit

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
)

// Game puts everybody of a block into games.
type Game struct {
	Block string
	Game  rotate.Game
}

// readGame reads what GameValue writes.
func readGame(w Wire) (Edit, error) {
	var g rotate.Game
	n, err := fmt.Sscan(w.Value, &g.Areas, &g.A, &g.B, &g.Floaters, &g.Walls, &g.Reserves, &g.More)
	if err != nil || n != 7 {
		return nil, doc.Input("game", "Choose a game.")
	}
	return Game{w.At, g}, nil
}

// GameValue is a game as a button sends it: "areas a b floaters walls reserves more".
func GameValue(g rotate.Game) string {
	return fmt.Sprint(g.Areas, " ", g.A, " ", g.B, " ", g.Floaters, " ", g.Walls, " ", g.Reserves, " ", g.More)
}

func (e Game) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	g := e.Game
	if was := b.Game; was != nil { // what it is played on and how stays
		g.Touches, g.Swap, g.Goals, g.Defends = was.Touches, was.Swap, was.Goals, was.Defends
		g.Length, g.Width = was.Length, was.Width
	}
	b.Game = &g
	return Nothing, nil
}

func (e Game) Called(p doc.Plan) string { return blockCalled(p, e.Block, "game") }
