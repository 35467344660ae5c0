package planner

import (
	"fmt"
	"math"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/target"
)

// reach says what a station's target means for these players, and where their chances come from; a group whose number is
// its own has a sentence of its own.
func (v *planView) reach(s work.StationAt) (says, from string) {
	low, high, mid, n := 1.0, 0.0, 0.0, 0
	count := map[string]int{}
	for _, g := range v.Picture.Groups {
		d := s.For(g)
		if d == nil || s.HasOwn(g) {
			continue
		}
		for _, p := range g.Players {
			r, f := v.Input.Chance(p, *d)
			low, high, mid, n = min(low, r.Low), max(high, r.High), mid+r.P, n+1
			count[f]++
		}
	}
	if n == 0 || s.Target.Kind == "" || s.Target.Kind == coach.InATime {
		return "", ""
	}
	most := ""
	for f, n := range count {
		if n > count[most] || n == count[most] && f < most {
			most = f
		}
	}
	from = fmt.Sprintf("%.0f in 10 are good, between %.0f and %.0f: %s", mid/float64(n)*10, low*10, high*10, most)
	var all []string
	for _, t := range v.Picture.TriesAt(v.Input, s) {
		says := asks(t)
		if says != "" && t.Group != nil {
			says = t.Group.Shape.Name + ", " + t.Target.String() + ": " + says
		}
		if says != "" {
			all = append(all, says)
		}
	}
	return strings.Join(all, " "), from
}

// asks says what a target asks of those who try for it.
func asks(t work.Trying) string {
	if a, ok := target.Ask(t.Target, t.Players); ok {
		return a.Says
	}
	mid := work.Mean(t.Chances())
	chain, ok := target.For(t.Target, math.Round(mid*50)/50)
	if !ok {
		return ""
	}
	tries, err := chain.Tries()
	if err != nil {
		return ""
	}
	has := 0.0
	for _, p := range t.Who {
		has += float64(p.Tries) / float64(len(t.Who))
	}
	by := chain.By(t.Try, 0.5, 0.8, 0.95)
	says := fmt.Sprintf("about %s; %.0f in 100 get there in the %s each has",
		say.Count(int(math.Round(tries)), "try"), target.Reach(t.Target, t.Who)*100, say.Count(int(math.Round(has)), "try"))
	if by[1] > 0 {
		says += fmt.Sprintf(". With a place of their own half are done by %s, four in five by %s", coach.Clock(by[0]), coach.Clock(by[1]))
		if by[2] > 0 {
			says += ", nearly all by " + coach.Clock(by[2])
		}
	}
	return says + "."
}
