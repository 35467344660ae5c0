package check

import (
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
)

// SmallRing: an even number that moves on one meets the same partners again.
type SmallRing struct {
	InBlock
	Way     rotate.Way
	Players int
}

func (f SmallRing) Says() string { return f.Way.Advice(f.Players) }

func smallRing(c *checking, b work.Span) {
	if !b.Kind.Partners() || b.Turn <= 0 || b.Way != rotate.MoveOn || b.TeamSize() != 2 {
		return
	}
	n, turns := len(c.in.Players), int((b.To-b.From).Seconds())/b.Turn
	if n%2 == 0 && n > 3 && turns > n/2 {
		c.find(
			Note,
			b.From,
			SmallRing{blockOf(b), b.Way, n},
			mend("One stays", edit.ChangeBy{Block: b.ID, Way: rotate.OneStays}),
		)
	}
}
