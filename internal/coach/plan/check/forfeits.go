package check

import (
	"fmt"
	"math"

	"gruppo/internal/coach/say"
)

// Forfeits: somebody under 16 would do more after faults than the club lets them.
type Forfeits struct {
	OfPlan
	Who        []string // first names
	Most, Club int
}

func (f Forfeits) Says() string {
	return fmt.Sprintf(
		"%s would do up to %d repetitions after faults today; at most %d for those under 16. Offer a lighter choice, or "+
			"an easier form. Your club’s rules come first.", say.Few(f.Who), f.Most, f.Club)
}

func forfeits(c *checking) {
	f := Forfeits{OfPlan: OfPlan{"After a fault"}, Club: c.in.MostForfeits}
	for _, r := range c.Ledger {
		n := int(math.Round(r.Forfeits))
		if n > c.in.MostForfeits && c.in.Child(r.Player) {
			f.Who, f.Most = append(f.Who, r.Player.First()), max(f.Most, n)
		}
	}
	if len(f.Who) > 0 {
		c.find(Settle, 0, f)
	}
}
