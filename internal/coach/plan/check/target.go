package check

import (
	"fmt"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/target"
)

func (pic *checking) checkTarget(in work.Input, s work.StationAt, where string) {
	if s.Drill.TrySeconds <= 0 || len(pic.Rounds) == 0 {
		return
	}
	var chances []float64
	for _, g := range pic.Groups {
		for _, p := range g.Players {
			r, _ := in.Chance(p, s.Drill)
			chances = append(chances, r.P)
		}
	}
	if len(chances) == 0 {
		return
	}
	round := coach.Clock(time.Duration(pic.Plan.Work) * time.Second)
	own := pic.OwnTime(s)
	try, fetch := work.WholeSeconds(s.Drill.TrySeconds), work.WholeSeconds(s.Drill.Fetch)
	if s.Target.Kind == coach.Race {
		if a, ok := target.FitRace(s.Target, 0.5, own, try, fetch); ok && a.N < s.Target.N {
			pic.find(Note, "target "+station(pic.Picture, s.Index), where, pic.Begin(), fmt.Sprintf("A race %s will not be over in a round of %s. First to %d takes %s.", s.Target, round, a.N, a.Because), mend(fmt.Sprintf("Make it %d", a.N), "target", s.Index, a.N))
		}
		return
	}
	if _, has := target.For(s.Target, 0.5); !has {
		return
	}
	reach := target.Reach(s.Target, chances, own, try, fetch)
	if reach >= 0.5 && reach <= 0.97 {
		return
	}
	advice, ok := target.Fit(s.Target, chances, own, try, fetch)
	chain, _ := target.For(s.Target, work.Mean(chances))
	tries, err := chain.Tries()
	if err != nil || !ok || advice.N == s.Target.N {
		if reach < 0.5 {
			says := fmt.Sprintf("%s: hardly anyone gets to %s in a round of %s.", s.Drill.Name, short(s.Target), round)
			if s.Target.Kind == coach.SetOfStreaks && s.Target.Back == string(target.AllOver) {
				says += " Starting all over is for strong players only."
			}
			pic.find(Note, "target "+station(pic.Picture, s.Index), where, pic.Begin(), says)
		}
		return
	}
	says := fmt.Sprintf("%s would take these players about %.0f tries: a round of %s is short. %d takes %.0f.", work.Upper(short(s.Target)), tries, round, advice.N, advice.Tries)
	if reach > 0.97 {
		says = fmt.Sprintf("Nearly all reach %s at once. %d takes about %.0f tries.", short(s.Target), advice.N, advice.Tries)
	}
	pic.find(Note, "target "+station(pic.Picture, s.Index), where, pic.Begin(), says, mend(fmt.Sprintf("Make it %d", advice.N), "target", s.Index, advice.N))
}

func short(t coach.Target) string {
	w, _, _ := strings.Cut(t.String(), ",")
	return w
}
