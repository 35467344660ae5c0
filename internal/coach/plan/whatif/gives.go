package whatif

import (
	"slices"
	"time"

	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/work"
)

// Gives are what could still give when the running plan ends so much after the booked time: offers for what has not begun. Now is the segment
// that is running.
func Gives(pic *work.Picture, over time.Duration, now int) (out []check.Mend) {
	segments := pic.Segments()
	rounds := slices.ContainsFunc(segments[:min(now+1, len(segments))], func(s work.Segment) bool { return s.Kind == "work" })
	for _, m := range check.Offers(pic, over) {
		ahead := true
		for _, e := range m.Edits {
			switch e.Do {
			case "work", "rounds":
				ahead = ahead && !rounds
			default:
				ahead = ahead && now < len(segments) && e.At > segments[now].Block
			}
		}
		if ahead {
			out = append(out, m)
		}
	}
	return out[:min(3, len(out))]
}
