package plan

import (
	"slices"
	"time"
)

// Segment is a stretch of the running clock: a block, the brief, a round's work or the change after it.
type Segment struct {
	Kind     string // block, brief, work, change
	Label    string
	Round    int // from 1 for work and change
	Duration time.Duration
}

// Segments is the plan as the clock runs through it.
func (pic Picture) Segments() []Segment {
	var out []Segment
	for _, m := range pic.Moments {
		out = append(out, Segment{Kind: m.Kind, Label: m.Label, Round: m.Round, Duration: m.To - m.From})
	}
	return out
}

// Event is something the leader did to the running clock.
type Event struct {
	Do string // start, pause, resume, more, less, change, back, end
	At time.Time
}

// Timeline is the plan as it really goes: Bounds[i] to Bounds[i+1] is segment i.
type Timeline struct {
	Started, Ended bool
	Bounds         []time.Time
	PausedAt       time.Time // zero: running
	EndedAt        time.Time
}

// Fold works out the timeline from the events, in the order of their times. Events that make no sense where they
// come (a second start, a resume while running) change nothing, so that one sent twice does no harm.
func Fold(segments []Segment, events []Event) Timeline {
	events = slices.Clone(events)
	slices.SortStableFunc(events, func(a, b Event) int { return a.At.Compare(b.At) })
	var t Timeline
	for _, e := range events {
		if e.Do == "start" && !t.Started {
			t.Started = true
			at := e.At
			t.Bounds = append(t.Bounds, at)
			for _, s := range segments {
				at = at.Add(s.Duration)
				t.Bounds = append(t.Bounds, at)
			}
			continue
		}
		if !t.Started || t.Ended {
			continue
		}
		now := e.At
		if !t.PausedAt.IsZero() {
			now = t.PausedAt
		}
		i := t.Index(now)
		switch e.Do {
		case "pause":
			if t.PausedAt.IsZero() {
				t.PausedAt = e.At
			}
		case "resume":
			if !t.PausedAt.IsZero() {
				t.shift(i+1, e.At.Sub(t.PausedAt))
				t.PausedAt = time.Time{}
			}
		case "more", "less":
			if i < len(segments) {
				by := time.Minute
				if e.Do == "less" {
					by = -min(time.Minute, t.Bounds[i+1].Sub(now))
				}
				t.shift(i+1, by)
			}
		case "change":
			if i < len(segments) {
				t.shift(i+1, now.Sub(t.Bounds[i+1]))
			}
		case "back": // the segment before begins again
			if i > 0 && i <= len(segments) {
				start := t.Bounds[i-1]
				t.shift(i-1, now.Sub(start))
			}
		case "end":
			t.Ended, t.EndedAt = true, now
		}
	}
	return t
}

// shift moves the bounds from i on.
func (t *Timeline) shift(i int, by time.Duration) {
	for ; i < len(t.Bounds); i++ {
		t.Bounds[i] = t.Bounds[i].Add(by)
	}
}

// Index is the segment running at a moment: the number of segments when the plan is over, 0 before it starts.
func (t Timeline) Index(at time.Time) int {
	for i := 1; i < len(t.Bounds); i++ {
		if at.Before(t.Bounds[i]) {
			return i - 1
		}
	}
	return max(0, len(t.Bounds)-1)
}
