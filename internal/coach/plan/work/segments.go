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
	Block    int             // of the plan, from 0
	What     doc.Kind        // of block
	Turns    []time.Duration // one after the other, where players take turns in it: what comes after one is in it
}

// Segments is the plan as the clock runs through it.
func (pic Picture) Segments() []Segment {
	var out []Segment
	for _, m := range pic.Moments {
		s := Segment{
			Kind:     m.Kind,
			Label:    m.Label,
			Round:    m.Round,
			Duration: m.To - m.From,
			Block:    m.Block,
			What:     pic.Plan.Blocks[m.Block].Kind,
		}
		if m.Block < len(pic.Blocks) {
			s.Turns = pic.Blocks[m.Block].turns(m)
		}
		out = append(out, s)
	}
	return out
}

// turns are the turns of a stretch of a block: who works in intervals, or plays with whom; none elsewhere.
func (b Span) turns(m Moment) (out []time.Duration) {
	d := m.To - m.From
	switch {
	case m.Kind == "turns" && b.Cycle != nil:
		for i, s := range b.Cycle.Slots {
			to := d
			if i+1 < len(b.Cycle.Slots) {
				to = b.Cycle.Slots[i+1].From
			}
			out = append(out, to-s.From)
		}
	case m.Kind == "block" && b.Kind == doc.Pairs && b.Turn > 0:
		turn := Seconds(b.Turn)
		for ; d >= 2*turn; d -= turn {
			out = append(out, turn)
		}
		out = append(out, d) // what is too short for another turn belongs to the last
	}
	return out
}
