package planner

import (
	"fmt"
	"math"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/target"
)

// reach says what a station's target means for these players, and where their chances come from.
func (v *planView) reach(s work.StationAt) (says, from string) {
	var chances []float64
	low, high := 1.0, 0.0
	count := map[string]int{}
	for _, g := range v.Picture.Groups {
		for _, p := range g.Players {
			r, f := v.Input.Chance(p, s.Drill)
			chances = append(chances, r.P)
			low, high = min(low, r.Low), max(high, r.High)
			count[f]++
		}
	}
	if len(chances) == 0 || s.Drill.TrySeconds <= 0 || s.Target.Kind == "" || s.Target.Kind == coach.InATime {
		return "", ""
	}
	most := ""
	for f, n := range count {
		if n > count[most] || n == count[most] && f < most {
			most = f
		}
	}
	mid := 0.0
	for _, p := range chances {
		mid += p / float64(len(chances))
	}
	from = fmt.Sprintf("%.0f in 10 are good, between %.0f and %.0f: %s", mid*10, low*10, high*10, most)
	try, fetch := time.Duration(s.Drill.TrySeconds*float64(time.Second)), time.Duration(
		s.Drill.Fetch*float64(time.Second),
	)
	own := v.Picture.OwnTime(s)
	if a, ok := target.Ask(s.Target, v.Picture.Tries(s, chances)); ok {
		return a.Says, from
	}
	chain, ok := target.For(s.Target, math.Round(mid*50)/50)
	if !ok {
		return "", from
	}
	tries, err := chain.Tries()
	if err != nil {
		return "", from
	}
	by := chain.By(try, fetch, 0.5, 0.8, 0.95)
	share := target.Reach(s.Target, chances, own, try, fetch)
	says = fmt.Sprintf("about %.0f tries; %.0f in 100 get there in the %s each has", tries, share*100, coach.Clock(own))
	if by[1] > 0 {
		says += fmt.Sprintf(". Half are done by %s, four in five by %s", coach.Clock(by[0]), coach.Clock(by[1]))
		if by[2] > 0 {
			says += ", nearly all by " + coach.Clock(by[2])
		}
	}
	return says + ".", from
}
