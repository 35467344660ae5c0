package target

import (
	"cmp"
	"fmt"
	"math"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
)

// Players are who tries for a target, and what they have for it.
type Players struct {
	Who    []Trier
	AtOnce int           // how many try at once
	Try    time.Duration // what a try takes
	Round  time.Duration
}

// Asked is what a target asks for that is not one player's chain: a race, a go within faults, a count by all together,
// matching shots.
type Asked struct {
	Says   string // in a coach's words
	Better int    // a number that suits these players and their time better; 0: theirs does
	Why    string // what the better one takes
}

// Ask says what such a target asks; ok is false for chains (For), and where nothing can be worked out.
func Ask(t coach.Target, g Players) (a Asked, ok bool) {
	if len(g.Who) == 0 || g.Try <= 0 {
		return a, false
	}
	switch t.Kind {
	case coach.Race:
		return g.race(t), true
	case coach.FewFaults:
		return g.faults(Faults{t.N, t.Of}), true
	case coach.Gate:
		return g.gate(t), true
	case coach.MatchTheShot:
		return g.letters(t), true
	}
	return a, false
}

func (g Players) race(t coach.Target) (a Asked) {
	r := Race{t.N, cmp.Or(t.Against, t.N)}
	p := PointChance(0, 0)
	a.Says = fmt.Sprintf("Between equals about %.0f points", r.Points(p))
	if r.To != r.Against {
		a.Says += fmt.Sprintf(", and the first side wins %.0f games in 100; it would be even if it won %.0f points in 100",
			r.Wins(p)*100, r.Even()*100)
	}
	if t.Swap == "end" {
		both := r.Wins(p) * Race{r.Against, r.To}.Wins(p)
		a.Says += fmt.Sprintf(". With sides swapped it is as many again, and each wins both games %.0f times in 100",
			100*both)
	}
	if fit, ok := FitRace(t, p, middleOf(g.Who).Tries, g.Try); ok && fit.N < t.N {
		a.Better, a.Why = fit.N, fit.Because
	}
	a.Says += "."
	return a
}

func (g Players) faults(f Faults) (a Asked) {
	chances := chancesOf(g.Who)
	reach := f.Reach(chances)
	a.Says = fmt.Sprintf("%.0f of 100 goes of these players stay within it; a go takes about %s.", reach*100,
		coach.Clock(time.Duration(f.Of)*g.Try))
	if k := FewestFaults(f.Of, chances); (reach < 0.5 || reach > 0.97) && k != f.Most && k > 0 && k < f.Of {
		a.Better = k
		a.Why = fmt.Sprintf("%.0f of 100 goes stay within %d", 100*Faults{k, f.Of}.Reach(chances), k)
	}
	return a
}

func (g Players) gate(t coach.Target) (a Asked) {
	p := middleOf(g.Who).P
	takes := func(n int) time.Duration {
		return time.Duration(float64(n) / p * float64(g.Try) / float64(max(1, g.AtOnce)))
	}
	a.Says = fmt.Sprintf("About %s of all together, %.0f of each, in %s.",
		say.Count(int(math.Round(float64(t.N)/p)), "try"),
		math.Ceil(float64(t.N)/p/float64(len(g.Who))), coach.Clock(takes(t.N)))
	if took := takes(t.N); took > g.Round && g.Round > 0 {
		n := int(float64(t.N) * float64(g.Round) / float64(took) * enough)
		a.Better, a.Why = max(1, n), coach.Clock(takes(max(1, n)))
	}
	return a
}

func (g Players) letters(t coach.Target) (a Asked) {
	p := middleOf(g.Who).P
	wins, shots := Letters{t.N}.Plays(p, p)
	takes := func(shots float64) time.Duration { return time.Duration(shots * float64(g.Try)) }
	a.Says = fmt.Sprintf("Between equals about %.0f shots, in %s; whoever shows first wins %.0f games in 100.", shots,
		coach.Clock(takes(shots)), wins*100)
	for n := t.N - 1; n >= 1 && takes(shots) > g.Round && g.Round > 0; n-- {
		_, shots = Letters{n}.Plays(p, p)
		a.Better, a.Why = n, fmt.Sprintf("about %.0f shots and %s", shots, coach.Clock(takes(shots)))
	}
	return a
}
