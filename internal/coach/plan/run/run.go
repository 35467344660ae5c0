// Package run follows a plan in the hall: the clock folded from what the leader did, and what each round really gave.
package run

import (
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan/work"
)

// Event is something the leader did to the running clock.
type Event struct {
	ID string    `json:"id"`
	Do string    `json:"do"` // start, pause, resume, more, less, change, skip, back, end; next, again, shorter of turns; "undo" and an id
	At time.Time `json:"at"`
}

// EndsItself is how long after its time, and after the last touch of its clock, a session that nobody ended ends itself.
const EndsItself = 3 * time.Hour

// Timeline is the plan as it really goes: Bounds[i] to Bounds[i+1] is segment i. A segment with turns is one step for each
// of them, any other is one step: Steps[j] to Steps[j+1] is step j.
type Timeline struct {
	Started, Ended bool
	Bounds, Steps  []time.Time
	PausedAt       time.Time // zero: running
	EndedAt        time.Time
}

// step is a turn, or a segment without any.
type step struct {
	segment, block int
	takes          time.Duration
}

// Undo begins what an event does that takes another back; its id follows.
const Undo = "undo "

// Fold works out the timeline from the events, in the order of their times. Events that make no sense where they
// come (a second start, a resume while running) change nothing, so that one sent twice does no harm; one that was taken
// back was never there.
func Fold(segments []work.Segment, events []Event) Timeline {
	events = slices.Clone(events)
	back := map[string]bool{}
	for _, e := range events {
		if id, ok := strings.CutPrefix(e.Do, Undo); ok {
			back[id] = true
		}
	}
	slices.SortStableFunc(events, func(a, b Event) int { return a.At.Compare(b.At) })
	var steps []step
	for i, s := range segments {
		turns := s.Turns
		if len(turns) == 0 {
			turns = []time.Duration{s.Duration}
		}
		for _, d := range turns {
			steps = append(steps, step{i, s.Block, d})
		}
	}
	var t Timeline
	for _, e := range events {
		if back[e.ID] {
			continue
		}
		if e.Do == "start" && !t.Started {
			t.Started = true
			at := e.At
			t.Steps = append(t.Steps, at)
			for _, s := range steps {
				at = at.Add(s.takes)
				t.Steps = append(t.Steps, at)
			}
			continue
		}
		if t.Started && !t.Ended {
			t.do(e, steps)
		}
	}
	last := -1
	for j, s := range steps {
		if t.Started && s.segment != last {
			t.Bounds, last = append(t.Bounds, t.Steps[j]), s.segment
		}
	}
	if t.Started {
		t.Bounds = append(t.Bounds, t.Steps[len(steps)])
	}
	return t
}

// do is one event of a session that runs.
func (t *Timeline) do(e Event, steps []step) {
	now := e.At
	if !t.PausedAt.IsZero() {
		now = t.PausedAt
	}
	j := index(t.Steps, now)
	over := j >= len(steps)
	switch e.Do {
	case "pause":
		if t.PausedAt.IsZero() {
			t.PausedAt = e.At
		}
	case "resume":
		if !t.PausedAt.IsZero() {
			t.shift(j+1, e.At.Sub(t.PausedAt))
			t.PausedAt = time.Time{}
		}
	case "more":
		if !over {
			t.shift(j+1, time.Minute)
		}
	case "less": // of the segment, also where it has turns
		if !over {
			t.cut(j, t.last(steps, j)+1, now, min(time.Minute, t.Steps[t.last(steps, j)+1].Sub(now)))
		}
	case "shorter": // of the turn that runs
		if !over {
			t.shift(j+1, -min(time.Minute, t.Steps[j+1].Sub(now)))
		}
	case "next": // the turn that comes
		if !over {
			t.shift(j+1, now.Sub(t.Steps[j+1]))
		}
	case "change": // the segment that comes: its turns are left out
		if !over {
			end := t.last(steps, j) + 1
			t.cut(j, end, now, t.Steps[end].Sub(now))
		}
	case "skip": // the rest of the block is left out
		if !over {
			end := j + 1
			for end < len(steps) && steps[end].block == steps[j].block {
				end++
			}
			t.cut(j, end, now, t.Steps[end].Sub(now))
		}
	case "again": // the turn before begins again
		if j > 0 && j <= len(steps) {
			t.again(steps, j-1, now)
		}
	case "back": // the segment before begins again, as long as it is planned, however soon it was left
		segment := len(steps)
		if !over {
			segment = steps[j].segment
		} else if len(steps) > 0 {
			segment = steps[len(steps)-1].segment + 1
		}
		if i := slices.IndexFunc(steps, func(s step) bool { return s.segment == segment-1 }); i >= 0 {
			t.again(steps, i, now)
		}
	case "end":
		t.Ended, t.EndedAt = true, now
	}
}

// last is the last step of the segment in which step j is.
func (t *Timeline) last(steps []step, j int) int {
	for j+1 < len(steps) && steps[j+1].segment == steps[j].segment {
		j++
	}
	return j
}

// cut takes a time out of what is left of steps j to end: those that do not fit any more begin now, and last nothing.
func (t *Timeline) cut(j, end int, now time.Time, by time.Duration) {
	t.shift(end, -by)
	for i := j + 1; i < end; i++ {
		if t.Steps[i].After(t.Steps[end]) {
			t.Steps[i] = t.Steps[end]
		}
	}
}

// again begins a step now, and those after it follow as they are planned until where the clock is.
func (t *Timeline) again(steps []step, from int, now time.Time) {
	at := index(t.Steps, now)
	t.Steps[from] = now
	for i := from; i < at && i < len(steps); i++ {
		to := t.Steps[i].Add(steps[i].takes)
		if i+1 == at || i+1 == len(steps) {
			t.shift(i+1, to.Sub(t.Steps[i+1]))
			return
		}
		t.Steps[i+1] = to
	}
}

// shift moves the steps from i on.
func (t *Timeline) shift(i int, by time.Duration) {
	for ; i < len(t.Steps); i++ {
		t.Steps[i] = t.Steps[i].Add(by)
	}
}

// Index is the segment running at a moment: the number of segments when the plan is over, 0 before it starts.
func (t Timeline) Index(at time.Time) int { return index(t.Bounds, at) }

func index(bounds []time.Time, at time.Time) int {
	for i := 1; i < len(bounds); i++ {
		if at.Before(bounds[i]) {
			return i - 1
		}
	}
	return max(0, len(bounds)-1)
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
