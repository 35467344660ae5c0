package check

import (
	"fmt"

	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// OtherGame: a game is for another number of players than are there.
type OtherGame struct {
	InBlock
	Game       string
	For, There int
}

func (f OtherGame) Says() string {
	return fmt.Sprintf("%s is for %d; %d are there.", say.Upper(f.Game), f.For, f.There)
}

func gameFits(c *checking, b work.Span) {
	game, there := b.Block.Game, len(c.in.Players)
	if game != nil && game.Players() != there && there > 1 {
		c.find(Note, b.From, OtherGame{blockOf(b), game.String(), game.Players(), there}, c.aGame(b)...)
	}
}
