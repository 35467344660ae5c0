package work

import (
	"cmp"
	"time"

	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/target"
)

// Seconds is so many of them.
func Seconds(n int) time.Duration { return time.Duration(n) * time.Second }

// PointsTake is how long a turn takes between equals that is played to points, finding the partner included: the
// expected points of the race, a point taking a try and half of a fetch. Nothing where it is played by time.
func (b Span) PointsTake() time.Duration {
	p := b.Pairs()
	if p.To == 0 || b.Task == nil || b.RallyLadder() {
		return 0
	}
	points := target.Race{To: p.To, Against: cmp.Or(p.Against, p.To)}.Points(target.PointChance(0, 0))
	return time.Duration(points*float64(b.Task.Try())) + b.PartnerChange()
}

// AtOnce is how many pairs, or teams, play at once in a block in which partners change, of so many players.
func (b Span) AtOnce(players int) int {
	n := max(0, players-len(b.Side)) / b.TeamSize()
	if courts := b.Pairs().Courts; courts > 0 {
		return min(n, courts)
	}
	return n
}

// CourtsOf are where the pairs of a block play that play at once; fewer where no more fit.
func (pic Picture) CourtsOf(b Span) []floor.Spot {
	if b.Task == nil || !b.Kind.Partners() {
		return nil
	}
	return pic.Floor.Courts(b.AtOnce(len(pic.Ledger)), b.Task.Length, b.Task.Width, b.Task.Clearance)
}

// Courts are where n courts of the block's task stand; fewer where no more fit, and none where the task has no size.
func (in Input) Courts(b Span, n int) []floor.Spot {
	if b.Task == nil {
		return nil
	}
	return in.Floor.Courts(n, b.Task.Length, b.Task.Width, b.Task.Clearance)
}
