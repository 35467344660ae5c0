package check

import (
	"fmt"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/edit"
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

// SmallFloor: the areas of a game do not fit the floor.
type SmallFloor struct {
	InBlock
	Areas int
	Each  string // a length and a width
}

func (f SmallFloor) Says() string {
	return fmt.Sprintf("%s of %s %s not fit the floor.", say.Count(f.Areas, "area"), f.Each, say.Verb(f.Areas, "does", "do"))
}

func gameFits(c *checking, b work.Span) {
	game, there := b.Block.Game, len(c.in.Players)
	if game != nil && game.Players() != there && there > 1 {
		c.find(Note, b.From, OtherGame{blockOf(b), game.String(), game.Players(), there}, c.aGame(b)...)
	}
	if game != nil && game.Length > 0 && c.in.Floor.Length > 0 {
		area := coach.Drill{Length: game.Length, Width: game.Width}
		if len(c.in.Courts(work.Span{Task: &area}, game.Areas)) < game.Areas {
			c.find(Settle, b.From, SmallFloor{blockOf(b), game.Areas, c.in.Units.Area(game.Length, game.Width)},
				mend("As large as the floor", edit.Area{Block: b.ID}))
		}
	}
}
