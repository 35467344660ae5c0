package check

import (
	"fmt"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// FewCourts: the floor has no room for all who should play at once.
type FewCourts struct {
	InBlock
	Drill     string
	Need, Fit int
}

func (f FewCourts) Says() string {
	return fmt.Sprintf("%s: %s play at once, and the floor has room for %d.", f.Drill, say.Count(f.Need, "pair"), f.Fit)
}

// PointsTooLong: a turn is over before its points are.
type PointsTooLong struct {
	InBlock
	To          int
	Takes, Turn string
	Better      int // seconds
}

func (f PointsTooLong) Says() string {
	return fmt.Sprintf("To %d takes about %s between equals, a turn has %s.", f.To, f.Takes, f.Turn)
}

// courts looks at blocks in which partners change: whether all who play at once have room, and time for their points.
func courts(c *checking, b work.Span) {
	if !b.Kind.Partners() || b.Task == nil {
		return
	}
	p := b.Pairs()
	need := b.AtOnce(len(c.in.Players))
	if fit := len(c.in.Courts(b, need)); fit < need && fit > 0 && c.in.Floor.Length > 0 {
		c.find(Note, b.From, FewCourts{blockOf(b), b.Task.Name, need, fit},
			mend(fmt.Sprintf("Play on %d", fit), edit.Pairing{Block: b.ID, What: "courts", To: fit}))
	}
	if takes := b.PointsTake(); takes > work.Seconds(b.Turn) {
		better := min(1800, (int(takes.Seconds())/5+1)*5)
		c.find(Note, b.From, PointsTooLong{blockOf(b), p.To, coach.Clock(takes), coach.Clock(work.Seconds(b.Turn)), better},
			mend("Turns of "+coach.Clock(work.Seconds(better)), edit.Turn{Block: b.ID, For: better}))
	}
}
