package deciding

import (
	"time"

	"gruppo/internal/day"
)

// Step is a step up that was made: from which stage, on which day.
type Step struct {
	FromStage string
	FromOn    day.Day
}

// StoodOn is the stage a player was on at a day of the past, and since when: where they stand now, with each later step
// taken back. Steps are the newest first; who never stepped has been there since they joined.
func StoodOn(stage string, since, joined day.Day, steps []Step, on day.Day) (string, day.Day) {
	for _, s := range steps {
		if since = s.FromOn; !s.FromOn.After(on) {
			break
		}
		stage, since = s.FromStage, joined
	}
	return stage, since
}

// VisitsBy counts the visits from a day on up to a moment.
func VisitsBy(came []time.Time, since day.Day, at time.Time) (n int) {
	for _, v := range came {
		if !day.In(v, at.Location()).Before(since) && !v.After(at) {
			n++
		}
	}
	return n
}

// Free reports whether nothing that was decided about a player is still under way; nil: nothing was decided.
func Free(last *Recorded) bool { return last == nil || !last.Waits() && !last.Ahead() && !last.Open() }
