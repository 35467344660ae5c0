package check

import (
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// NoPartner: one player is there, and blocks are for two or more.
type NoPartner struct {
	OfPlayer
	Blocks []string
}

func (f NoPartner) Says() string {
	in := say.List(f.Blocks)
	if len(f.Blocks) > 2 {
		in = say.Count(len(f.Blocks), "block")
	}
	return "Alone in " + in + " for two or more: whoever leads is the partner."
}

func noPartner(c *checking) {
	if len(c.in.Players) != 1 {
		return
	}
	f, at := NoPartner{OfPlayer: playerOf(c.in.Players[0])}, work.Always
	for _, b := range c.Blocks {
		if !b.Kind.Partners() && b.Kind != doc.Game {
			continue
		}
		if f.Blocks == nil {
			at = b.From
		}
		f.Blocks = append(f.Blocks, b.Title)
	}
	if f.Blocks != nil {
		c.find(Note, at, f)
	}
}
