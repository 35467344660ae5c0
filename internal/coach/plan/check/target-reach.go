package check

import (
	"fmt"
	"strings"

	"gruppo/internal/coach"
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
		return fmt.Sprintf("Nearly all reach %s at once. %d takes about %.0f tries.", f.Target, f.Better, f.BetterTries)
	}
	return fmt.Sprintf("%s would take these players about %.0f tries: a round of %s is short. %d takes %.0f.",
		say.Upper(f.Target), f.Tries, f.Round, f.Better, f.BetterTries)
}

func targetReach(c *checking, s work.StationAt) {
	if c.in.Searching {
		return
	}
	var chances []float64
	for _, g := range c.groups(s) {
		for _, p := range g.Players {
			r, _ := c.in.Chance(p, s.Drill)
			chances = append(chances, r.P)
		}
	}
	circuit := c.Circuits[s.Circuit]
	if s.Drill.TrySeconds <= 0 || circuit.Count == 0 || len(chances) == 0 {
		return
	}
	round, own := coach.Clock(circuit.Round()), c.OwnTime(s)
	try, fetch := work.WholeSeconds(s.Drill.TrySeconds), work.WholeSeconds(s.Drill.Fetch)
	better := func(n int) Mend { return mend(fmt.Sprintf("Make it %d", n), edit.Target{Station: s.ID, Count: n}) }
	if a, ok := target.Ask(s.Target, c.Tries(s, chances)); ok && a.Better > 0 {
		short, _, _ := strings.Cut(s.Target.String(), ",")
		c.find(Note, c.begin(s), OtherCount{stationOf(s), short, round, a.Says, a.Better, a.Why}, better(a.Better))
	}
	if _, has := target.For(s.Target, 0.5); !has {
		return
	}
	reach := target.Reach(s.Target, chances, own, try, fetch)
	if reach >= 0.5 && reach <= 0.97 {
		return
	}
	short, _, _ := strings.Cut(s.Target.String(), ",")
	advice, ok := target.Fit(s.Target, chances, own, try, fetch)
	chain, _ := target.For(s.Target, work.Mean(chances))
	tries, err := chain.Tries()
	switch {
	case err == nil && ok && advice.N != s.Target.N:
		c.find(
			Note,
			c.begin(s),
			OtherTarget{stationOf(s), short, round, tries, advice.N, advice.Tries, reach > 0.97},
			better(advice.N),
		)
	case reach < 0.5:
		allOver := s.Target.Kind == coach.SetOfStreaks && s.Target.Back == string(target.AllOver)
		c.find(Note, c.begin(s), TooFar{stationOf(s), s.Drill.Name, short, round, allOver})
	}
}
