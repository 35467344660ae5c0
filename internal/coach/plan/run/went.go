package run

import (
	"time"

	"gruppo/internal/coach/plan/work"
)

// Part is a block as it was planned and as it went.
type Part struct {
	Block         int // of the plan
	From          time.Time
	Planned, Real time.Duration
	Left          bool // not come to
	Ahead         bool // not come to yet, while it runs
}

// Longer is how much longer the part was than planned; negative when it was shorter.
func (p Part) Longer() time.Duration { return (p.Real - p.Planned).Round(time.Second) }

// Parts puts the blocks side by side, each with all its segments, until the end or, while it runs, until now.
func (t Timeline) Parts(segments []work.Segment, now time.Time) (out []Part) {
	if !t.Started {
		return nil
	}
	end := now
	if t.Ended {
		end = t.EndedAt
	}
	var ends []time.Time // of each part
	for i, s := range segments {
		if len(out) == 0 || out[len(out)-1].Block != s.Block {
			out, ends = append(out, Part{Block: s.Block, From: t.Bounds[i]}), append(ends, end)
		}
		ends[len(ends)-1] = t.Bounds[i+1]
		p := &out[len(out)-1]
		p.Planned += s.Duration
		to := t.Bounds[i+1]
		if to.After(end) {
			to = end
		}
		p.Real += max(0, to.Sub(t.Bounds[i]))
	}
	for i := range out {
		if p := &out[i]; p.Real < time.Second {
			p.Ahead = !t.Ended && ends[i].After(now)
			p.Left = !p.Ahead
		}
	}
	return out
}

// Sum is what a station gave over all its rounds.
type Sum struct {
	Rounds, Players, Counted int     // players of all rounds, and those of whom tries were counted
	Planned, Each            float64 // tries of a player in a round: as planned, and of those who were counted
}

// Sums are what each station gave, by its place in the plan; a station without rounds is not there.
func Sums(given []Given) map[int]Sum {
	out, tries := map[int]Sum{}, map[int]int{}
	for _, g := range given {
		s := out[g.Station]
		s.Planned = (s.Planned*float64(s.Rounds) + g.Planned) / float64(s.Rounds+1)
		s.Rounds, s.Players, s.Counted = s.Rounds+1, s.Players+g.Players, s.Counted+g.Counted
		tries[g.Station] += g.Tries
		if s.Counted > 0 {
			s.Each = float64(tries[g.Station]) / float64(s.Counted)
		}
		out[g.Station] = s
	}
	return out
}
