package work

import (
	"time"

	"gruppo/internal/coach/plan/doc"
)

// Segment is a stretch of the running clock: a block, the brief, a round's work or the change after it.
type Segment struct {
	Kind     string // block, brief, work, change; turns and rest of intervals
	Label    string
	Round    int // from 1 for work and change
	Duration time.Duration
	Block    int      // of the plan, from 0
	What     doc.Kind // of block
}

// Segments is the plan as the clock runs through it.
func (pic Picture) Segments() []Segment {
	var out []Segment
	for _, m := range pic.Moments {
		out = append(
			out,
			Segment{
				Kind:     m.Kind,
				Label:    m.Label,
				Round:    m.Round,
				Duration: m.To - m.From,
				Block:    m.Block,
				What:     pic.Plan.Blocks[m.Block].Kind,
			},
		)
	}
	return out
}
