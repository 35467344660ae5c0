// Package run follows a plan in the hall: the clock folded from what the leader did, and what each round really gave.
package run

import (
	"slices"
	"time"

	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan/work"
)

// Event is something the leader did to the running clock.
type Event struct {
	ID string    `json:"id"`
	Do string    `json:"do"` // start, pause, resume, more, less, change, skip, back, end
	At time.Time `json:"at"`
}

// EndsItself is how long after its time, and after the last touch of its clock, a session that nobody ended ends itself.
const EndsItself = 3 * time.Hour

// Timeline is the plan as it really goes: Bounds[i] to Bounds[i+1] is segment i.
type Timeline struct {
	Started, Ended bool
	Bounds         []time.Time
	PausedAt       time.Time // zero: running
	EndedAt        time.Time
}

// Fold works out the timeline from the events, in the order of their times. Events that make no sense where they
// come (a second start, a resume while running) change nothing, so that one sent twice does no harm.
func Fold(segments []work.Segment, events []Event) Timeline {
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
		case "skip": // the rest of the block is left out
			j := i + 1
			for j < len(segments) && segments[j].Block == segments[min(i, len(segments)-1)].Block {
				t.Bounds[j] = now
				j++
			}
			if i < len(segments) {
				t.shift(j, now.Sub(t.Bounds[j]))
			}
		case "back": // the segment before begins again, as long as it is planned, however soon it was left
			if i > 0 && i <= len(segments) {
				t.Bounds[i-1] = now
				t.shift(i, now.Add(segments[i-1].Duration).Sub(t.Bounds[i]))
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

// Given is what a round at a station really gave a group, beside what the plan thought.
type Given struct {
	Round, Station, Group int // the round from 1
	Drill                 string
	Time                  time.Duration
	AtOnce                int     // at work at a time
	Players, Counted      int     // of whom tries were counted
	Tries                 int     // of those
	Planned               float64 // tries each
}

// Gave works out what each round gave, from how the plan went and the tries counted in a round of each player. Rounds
// that were left out or lasted less than half a minute gave nothing.
func Gave(
	pic work.Picture,
	t Timeline,
	tries func(round int, drill, player string) (n int, counted bool),
) (out []Given) {
	for i, s := range pic.Segments() {
		if s.Kind != "work" || i+1 >= len(t.Bounds) {
			continue
		}
		from, to := t.Bounds[i], t.Bounds[i+1]
		if t.Ended && to.After(t.EndedAt) {
			to = t.EndedAt
		}
		if to.Sub(from) < 30*time.Second {
			continue
		}
		for _, st := range pic.Stations {
			if s.Round > len(st.Visits) || st.Visits[s.Round-1] < 0 {
				continue
			}
			g := pic.Groups[st.Visits[s.Round-1]]
			does := *st.For(g)
			at := load.Of(does)
			given := Given{
				Round:   s.Round,
				Station: st.Index,
				Group:   g.Index,
				Drill:   does.ID,
				Time:    to.Sub(from),
				Players: len(g.Players),
				AtOnce:  at.At(len(g.Players), time.Minute).AtOnce,
				Planned: at.At(len(g.Players), s.Duration).Reps,
			}
			for _, p := range g.Players {
				if n, counted := tries(s.Round, does.ID, p.ID); counted {
					given.Counted++
					given.Tries += n
				}
			}
			out = append(out, given)
		}
	}
	return out
}
