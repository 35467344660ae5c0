package check

import (
	"fmt"
	"time"

	"gruppo/internal/coach"
)

// TooLong: the plan runs over the booked time.
type TooLong struct {
	OfPlan
	By      time.Duration
	NoOffer bool // no one block can give that much
}

func (f TooLong) Says() string {
	says := fmt.Sprintf("The plan runs %s over the booked time.", coach.Clock(f.By))
	if f.NoOffer {
		says += " No one block can give that much: take a station out, or make several shorter."
	}
	return says
}

func tooLong(c *checking) {
	over := c.Total - c.Booked
	if over <= 0 {
		return
	}
	offers := Offers(c.Picture, over)
	c.find(Stop, c.Booked, TooLong{OfPlan{"Time"}, over, len(offers) == 0}, offers[:min(3, len(offers))]...)
}
