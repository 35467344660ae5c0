package work

import (
	"fmt"
	"math"
	"slices"
	"time"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
)

// Round is one work period of the stations.
type Round struct {
	Number   int // from 1
	From, To time.Duration
	Block    int // the block it is in
}

// Moment is a stretch in which everybody stays where they are.
type Moment struct {
	From, To time.Duration
	Kind     string // block, brief, work, change; turns and rest of intervals
	Label    string
	Block    int
	Round    int // from 1 for work and change
}

// ChangeFor is the time a change takes for a walk of so many metres: at 1.2 m/s, plus 15 s to settle, up to the next 5
// s.
func ChangeFor(metres float64) time.Duration {
	s := metres/walkingPace + settle
	return time.Duration(math.Ceil(s/5-1e-9)) * 5 * time.Second
}

// timetable puts the blocks, rounds and changes on the session's clock.
func (pic *Picture) timetable(in Input) {
	pic.Blocks, pic.Moments, pic.Rounds = nil, nil, nil
	shares := map[string]map[int]int{} // rounds by circuit and block
	for i := range pic.Circuits {
		c := &pic.Circuits[i]
		c.At, shares[c.Block] = nil, pic.Plan.Shares(c.Block, c.Count)
	}
	at := time.Duration(0)
	for i, b := range pic.Plan.Blocks {
		span := Span{Block: b, Index: i, From: at, To: at + time.Duration(b.Minutes)*time.Minute}
		if d, ok := in.Drills[b.Drill]; ok && b.Kind != doc.Stations { // stations have their own
			if b.Target > 0 {
				d.Target = d.Target.To(b.Target)
			}
			span.Task = &d
		}
		if span.RallyLadder() && b.Way == rotate.WinnerStays { // a pair climbs together: nobody wins
			span.Way = rotate.MoveOn
		}
		owner := pic.Plan.Owner(&b)
		if span.Cycle = in.cycle(b); span.Cycle != nil {
			span.To = span.From + span.Cycle.Takes
			pic.Moments = append(pic.Moments, span.Cycle.moments(span)...)
		} else if owner == nil {
			pic.Moments = append(
				pic.Moments,
				Moment{From: span.From, To: span.To, Kind: "block", Label: b.Title, Block: i},
			)
		} else {
			c := slices.IndexFunc(pic.Circuits, func(c Circuit) bool { return c.Block == owner.ID })
			span.First, span.Count = len(pic.Rounds), shares[owner.ID][i]
			pic.part(&pic.Circuits[c], &span)
		}
		pic.Blocks = append(pic.Blocks, span)
		at = span.To
	}
	pic.Total = at
}

// part puts a block's rounds of a circuit on the clock: brief + R·work + (R − 1)·change.
func (pic *Picture) part(c *Circuit, span *Span) {
	t := span.From
	if len(c.At) == 0 && span.Count > 0 && c.Brief > 0 {
		t += time.Duration(c.Brief) * time.Second
		pic.Moments = append(
			pic.Moments,
			Moment{From: span.From, To: t, Kind: "brief", Label: "Explain the stations", Block: span.Index},
		)
	}
	for n := range span.Count {
		r := Round{Number: span.First + n + 1, From: t, To: t + c.Round(), Block: span.Index}
		pic.Rounds, c.At = append(pic.Rounds, r), append(c.At, r.Number-1)
		pic.Moments = append(
			pic.Moments,
			Moment{
				From:  r.From,
				To:    r.To,
				Kind:  "work",
				Label: fmt.Sprint("Round ", r.Number),
				Block: span.Index,
				Round: r.Number,
			},
		)
		if t = r.To; n+1 < span.Count {
			t += c.Change
			pic.Moments = append(
				pic.Moments,
				Moment{From: r.To, To: t, Kind: "change", Label: "Change", Block: span.Index, Round: r.Number},
			)
		}
	}
	span.To = t
}
