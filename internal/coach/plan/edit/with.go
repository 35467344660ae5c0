package edit

import (
	"strings"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
)

// With puts a player together with the partner they chose, or lets them go; partners are then chosen in that block.
type With struct {
	Block           string
	Player, Partner string // no partner: they have none of their own any more
}

// readWith reads "player partner".
func readWith(w Wire) (Edit, error) {
	player, partner, _ := strings.Cut(strings.TrimSpace(w.Value), " ")
	partner = strings.TrimSpace(partner)
	if player == "" || len(player) > 64 || len(partner) > 64 || player == partner {
		return nil, doc.Input("with", "Choose two players.")
	}
	return With{w.At, player, partner}, nil
}

func (e With) apply(p *doc.Plan) (Needs, error) {
	pairing, b, err := pairingOf(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	pairing.Together(e.Player, e.Partner)
	if len(pairing.Chosen) > doc.MostMade/2 {
		return Nothing, doc.Input("with", "So many cannot choose their partners.")
	}
	b.Way, b.Scores = rotate.ByChoice, nil
	return Nothing, nil
}

func (e With) Called(p doc.Plan) string { return blockCalled(p, e.Block, "who chose whom") }
