package check

import (
	"fmt"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
)

// TooShort: much of the booked time is free.
type TooShort struct {
	OfPlan
	Free time.Duration
}

func (f TooShort) Says() string { return coach.Minutes(f.Free) + " of the booked time are free." }

func tooShort(c *checking) {
	free := c.Booked - c.Total
	if free < 5*time.Minute || len(c.Rounds) == 0 {
		return
	}
	var mends []Mend
	circuit := c.Main()
	if to := min(3600, circuit.Work+int(free.Seconds()/float64(max(1, circuit.Count))/30)*30); to > circuit.Work {
		mends = append(
			mends,
			mend("Rounds of "+coach.Clock(time.Duration(to)*time.Second), edit.Work{Block: circuit.Block, For: to}),
		)
	}
	for _, b := range c.Blocks {
		if to := b.Minutes + int(free.Minutes()); b.Kind == doc.Game {
			mends = append(mends, mend(fmt.Sprintf("%s of %d min", b.Title, to), edit.Minutes{Block: b.ID, For: to}))
			break
		}
	}
	c.find(Note, c.Total, TooShort{OfPlan{"Time"}, free}, mends...)
}
