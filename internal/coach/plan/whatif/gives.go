package whatif

import (
	"slices"
	"time"

	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// Gives are what could still give when the running plan ends so much after the booked time: offers for what has not
// begun. Now is the segment that is running.
func Gives(pic *work.Picture, over time.Duration, now int) (out []check.Mend) {
	segments := pic.Segments()
	for _, m := range check.Offers(pic, over) {
		begun := func(e edit.Edit) bool { return !isAhead(pic, e, segments, now) }
		if !slices.ContainsFunc(m.Edits, begun) {
			out = append(out, m)
		}
	}
	return out[:min(3, len(out))]
}

// isAhead reports whether an offer's edit is of a block, or of rounds, that have not begun.
func isAhead(pic *work.Picture, e edit.Edit, segments []work.Segment, now int) bool {
	place := func(id string) int {
		return slices.IndexFunc(pic.Plan.Blocks, func(b doc.Block) bool { return b.ID == id })
	}
	noRoundYet := func(circuit string) bool {
		parts := pic.Plan.PartOf(circuit)
		return !slices.ContainsFunc(segments[:min(now+1, len(segments))], func(s work.Segment) bool {
			return s.Kind == "work" && slices.Contains(parts, s.Block)
		})
	}
	switch e := e.(type) {
	case edit.Work:
		return noRoundYet(e.Block)
	case edit.Rounds:
		return noRoundYet(e.Block)
	case edit.Minutes:
		return now < len(segments) && place(e.Block) > segments[now].Block
	case edit.DropBlock:
		return now < len(segments) && place(e.Block) > segments[now].Block
	}
	return false
}
