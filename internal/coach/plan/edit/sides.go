package edit

import (
	"maps"
	"strconv"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Sides deals the sides of a game again, and lets go of whom the coach put where.
type Sides struct{ Block string }

func readSides(w Wire) (Edit, error) { return Sides{w.At}, nil }

func (e Sides) apply(p *doc.Plan) (Needs, error) {
	b, err := game(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	next := doc.Teams{Seed: 1}
	if b.Teams != nil {
		next.Seed = b.Teams.Seed + 1
	}
	b.Teams = &next
	return Nothing, nil
}

func (e Sides) Called(p doc.Plan) string { return blockCalled(p, e.Block, "sides dealt again") }

// SideOf puts a player on a side of a game.
type SideOf struct {
	Block, Player string
	Side          int // from 0, over all areas
}

// readSideOf reads "player 1".
func readSideOf(w Wire) (Edit, error) {
	player, side, _ := strings.Cut(strings.TrimSpace(w.Value), " ")
	n, err := strconv.Atoi(side)
	if player == "" || err != nil || n < 0 || n >= 2*doc.MostAreas {
		return nil, doc.Input("side-of", "Choose a player and a side.")
	}
	return SideOf{w.At, player, n}, nil
}

func (e SideOf) apply(p *doc.Plan) (Needs, error) {
	b, err := game(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	next := doc.Teams{}
	if b.Teams != nil {
		next = *b.Teams
	}
	if next.Put = maps.Clone(next.Put); next.Put == nil {
		next.Put = map[string]int{}
	}
	if len(next.Put) >= doc.MostMade {
		return Nothing, doc.Input("side-of", "So many are put by hand that dealing again is quicker.")
	}
	next.Put[e.Player] = e.Side
	b.Teams = &next
	return Nothing, nil
}

func (e SideOf) Called(p doc.Plan) string { return blockCalled(p, e.Block, "a player on another side") }

// game finds a block with a game.
func game(p *doc.Plan, id string) (*doc.Block, error) {
	b, err := block(p, id)
	if err != nil {
		return nil, err
	}
	if b.Game == nil {
		return nil, doc.Input("game", "That block has no game.")
	}
	return b, nil
}
