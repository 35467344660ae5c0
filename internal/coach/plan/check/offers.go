package check

import (
	"fmt"
	"math"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// minutes are how many whole ones a time takes up.
func minutes(d time.Duration) int { return int(math.Ceil(d.Minutes() - 1e-9)) }

// shorter is by how many seconds each of so many rounds is shortened, in half minutes, to give a time.
func shorter(give time.Duration, rounds int) int {
	return int(math.Ceil(give.Seconds()/float64(rounds)/30)) * 30
}

// order is what gives first: the coach's own order, then ours.
func order(p doc.Plan) (out []doc.Kind) {
	ours := []doc.Kind{
		doc.Game,
		doc.Stations,
		doc.Pairs,
		doc.Look,
		doc.Ladder,
		doc.Together,
		doc.OneKey,
		doc.Break,
		doc.Close,
	}
	for _, k := range append(slices.Clone(p.Gives), ours...) {
		if !slices.Contains(out, k) {
			out = append(out, k)
		}
	}
	return out
}

// least is the shortest that a block is made before it is left out.
var least = map[doc.Kind]int{
	doc.Together: 5,
	doc.Game:     5,
	doc.Close:    3,
	doc.OneKey:   3,
	doc.Pairs:    5,
	doc.Look:     4,
	doc.Ladder:   5,
	doc.Break:    1,
}

// Offers are what could give when the plan is too long by so much, in the coach's order of what gives first.
func Offers(pic *work.Picture, over time.Duration) (out []Mend) {
	for _, k := range order(pic.Plan) {
		if k == doc.Stations {
			for _, c := range pic.Circuits {
				out = append(out, roundOffers(c, over)...)
			}
			continue
		}
		for _, b := range pic.Blocks {
			if b.Kind != k {
				continue
			}
			if to := b.Minutes - minutes(over); to >= least[k] {
				out = append(out, mend(fmt.Sprintf("%s to %d min", b.Title, to), edit.Minutes{Block: b.ID, For: to}))
			} else if b.Minutes >= minutes(over) && k != doc.Together && k != doc.Close {
				out = append(out, mend(b.Title+" out", edit.DropBlock{Block: b.ID}))
			}
		}
	}
	if len(out) == 0 {
		out = several(pic, over)
	}
	return out
}

// roundOffers are what the rounds of a circuit could give: shorter ones, or one less.
func roundOffers(c work.Circuit, over time.Duration) (out []Mend) {
	if c.Count == 0 {
		return nil
	}
	if to := c.Work - shorter(over, c.Count); to >= 120 {
		out = append(
			out,
			mend("Rounds of "+coach.Clock(time.Duration(to)*time.Second), edit.Work{Block: c.Block, For: to}),
		)
	}
	if c.Round()+c.Change >= over && c.Count > 2 {
		out = append(
			out,
			mend(
				say.Count(c.Count-1, "round")+" instead of "+fmt.Sprint(c.Count),
				edit.Rounds{Block: c.Block, Count: c.Count - 1},
			),
		)
	}
	return out
}

// several takes a part from each block that can give one, in the order of giving, until the plan fits. Nothing when all
// together is too little.
func several(pic *work.Picture, over time.Duration) []Mend {
	m := Mend{Words: "Take from several"}
	for _, k := range order(pic.Plan) {
		for _, c := range pic.Circuits {
			if k != doc.Stations || c.Count == 0 || over <= 0 {
				continue
			}
			if by := min(c.Work-180, shorter(over, c.Count)) / 30 * 30; by > 0 {
				m.Edits = append(m.Edits, edit.Work{Block: c.Block, For: c.Work - by})
				over -= time.Duration(by*c.Count) * time.Second
			}
		}
		for _, b := range pic.Blocks {
			if b.Kind != k || k == doc.Stations || over <= 0 {
				continue
			}
			if by := min(b.Minutes-5, minutes(over)); by > 0 {
				m.Edits = append(m.Edits, edit.Minutes{Block: b.ID, For: b.Minutes - by})
				over -= time.Duration(by) * time.Minute
			}
		}
	}
	if over > 0 {
		return nil
	}
	return []Mend{m}
}
