package check

import (
	"fmt"
	"math"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/target"
)

// OtherCount: a target that is not one player's own would suit the round or these players better with another number.
type OtherCount struct {
	AtStation
	Target, Round, Asks string // the last in a whole sentence
	Better              int
	Why                 string
}

func (f OtherCount) Says() string {
	return fmt.Sprintf("%s does not suit a round of %s. %s With %d: %s.", say.Upper(f.Target), f.Round, f.Asks, f.Better, f.Why)
}

// TooFar: hardly anyone reaches a target in a round, and no other number would be better.
type TooFar struct {
	AtStation
	Drill, Target, Round string
	AllOver              bool // a miss starts all over
}

func (f TooFar) Says() string {
	says := fmt.Sprintf("%s: hardly anyone gets to %s in a round of %s.", f.Drill, f.Target, f.Round)
	if f.AllOver {
		says += " Starting all over is for strong players only."
	}
	return says
}

// OtherTarget: another number suits these players and this round better.
type OtherTarget struct {
	AtStation
	Target, Round string
	Tries         float64 // that it would take
	Better        int
	BetterTries   float64
	AtOnce        bool // nearly all reach it at once; else a round is short for it
}

func (f OtherTarget) Says() string {
	if f.AtOnce {
		return fmt.Sprintf("Nearly all reach %s at once. %d takes about %s.", f.Target, f.Better, triesOf(f.BetterTries))
	}
	return fmt.Sprintf("%s would take these players about %s: a round of %s is short. %d takes %.0f.",
		say.Upper(f.Target), triesOf(f.Tries), f.Round, f.Better, f.BetterTries)
}

// triesOf is a count of tries in words.
func triesOf(n float64) string { return say.Count(int(math.Round(n)), "try") }

func targetReach(c *checking, s work.StationAt) {
	if c.in.Searching || c.Circuits[s.Circuit].Count == 0 {
		return
	}
	for _, t := range c.TriesAt(c.in, s) {
		c.reach(s, t)
	}
}

// reach is targetReach for those who try for one target there.
func (c *checking) reach(s work.StationAt, t work.Trying) {
	short, _, _ := strings.Cut(t.Target.String(), ",")
	e := edit.Target{At: s.ID}
	if t.Group != nil {
		short += " for " + t.Group.Shape.Name
		e.Group = doc.GroupKey(t.Group.Number)
	}
	round := coach.Clock(t.Round)
	better := func(n int) Mend { e.Count = n; return mend(fmt.Sprintf("Make it %d", n), e) }
	if a, ok := target.Ask(t.Target, t.Players); ok && a.Better > 0 {
		c.find(Note, c.begin(s), OtherCount{stationOf(s), short, round, a.Says, a.Better, a.Why}, better(a.Better))
	}
	chain, has := target.For(t.Target, work.Mean(t.Chances()))
	if !has {
		return
	}
	reach := target.Reach(t.Target, t.Who)
	if reach >= 0.5 && reach <= 0.97 {
		return
	}
	advice, ok := target.Fit(t.Target, t.Who, t.Try)
	tries, err := chain.Tries()
	switch {
	case err == nil && ok && advice.N != t.Target.N:
		c.find(
			Note,
			c.begin(s),
			OtherTarget{stationOf(s), short, round, tries, advice.N, advice.Tries, reach > 0.97},
			better(advice.N),
		)
	case reach < 0.5:
		allOver := t.Target.Kind == coach.SetOfStreaks && t.Target.Back == string(target.AllOver)
		c.find(Note, c.begin(s), TooFar{stationOf(s), s.Drill.Name, short, round, allOver})
	}
}
