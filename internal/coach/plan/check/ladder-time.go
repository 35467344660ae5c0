package check

import (
	"fmt"
	"math"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// LadderTooLong: most will not get past a step of a ladder in its time.
type LadderTooLong struct {
	InBlock
	Takes, Has time.Duration
	Past       string // the drill of that step
}

func (f LadderTooLong) Says() string {
	return fmt.Sprintf("Its steps take about %s until four in five hold them; within the %s most will not get past %s.",
		coach.Minutes(f.Takes), coach.Minutes(f.Has), f.Past)
}

func ladderTime(c *checking, b work.Span) {
	if b.Kind != doc.Ladder {
		return
	}
	f := LadderTooLong{InBlock: blockOf(b), Has: b.To - b.From}
	steps, fit := c.in.StepTimes(b)
	if fit == len(steps) {
		return
	}
	for _, s := range steps {
		f.Takes += s.Takes
	}
	f.Past = steps[fit].Drill.Name
	var mends []Mend
	if to := int(math.Ceil(f.Takes.Minutes())); to <= 60 {
		mends = append(mends, mend(fmt.Sprintf("%s of %d min", b.Title, to), edit.Minutes{Block: b.ID, For: to}))
	}
	c.find(Note, b.From, f, mends...)
}
