package edit

import (
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
)

// Defence sets how much those who defend do in a game.
type Defence struct {
	Block   string
	Defends rotate.Defence
}

func readDefence(w Wire) (Edit, error) {
	e := Defence{w.At, rotate.Defence(w.Value)}
	if w.Value == "active" {
		e.Defends = rotate.Active
	} else if e.Defends.String() == "" {
		return nil, doc.Input("defence", "They defend fully, by half, or are only in the way.")
	}
	return e, nil
}

func (e Defence) apply(p *doc.Plan) (Needs, error) {
	g, err := gameOf(p, e.Block)
	if err == nil {
		g.Defends = e.Defends
	}
	return Nothing, err
}

func (e Defence) Called(p doc.Plan) string { return blockCalled(p, e.Block, "how they defend") }

// gameOf finds the game of a block, to be changed.
func gameOf(p *doc.Plan, id string) (*rotate.Game, error) {
	b, err := block(p, id)
	if err != nil {
		return nil, err
	}
	if b.Kind != doc.Game || b.Game == nil {
		return nil, doc.Input("game", "Choose a game for that block first.")
	}
	g := *b.Game
	b.Game = &g
	return &g, nil
}
