// Package target works out what a task asks: how many tries, how long, how likely, and which number fits a round.
//
// A try succeeds with a chance p, independently of the others. A task is a chain of steps: a success climbs one,
// a miss falls back to the step that the kind of target names.
package target

import (
	"errors"
	"fmt"
	"iter"
	"math"
	"time"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/mathext"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
)

// done is the step a chain ends in.
const done = -1

type step struct {
	p          float64
	good, miss int     // the next step after a success and after a miss; done ends
	share      float64 // of the successes that are better ones
	better     int     // the next step after such
}

// Chain is a task as steps. Make one with Total, Streak, Set, Ladder or Team.
type Chain struct{ steps []step }

// Total asks for n good ones; a miss loses nothing.
func Total(n int, p float64) Chain { return build(n, p, func(i int) int { return i }) }

// Streak asks for n in a row; a miss starts again from zero.
func Streak(n int, p float64) Chain { return build(n, p, func(int) int { return 0 }) }

// Back says where a miss in a set of streaks sends the player.
type Back string

const (
	AllOver Back = "all over" // to the very start
	OneBack Back = "one back" // to the start of the skill before
	Again   Back = "again"    // to the start of this skill
)

// Set asks for skills streaks of n each, one after the other.
func Set(skills, n int, p float64, back Back) Chain {
	return build(skills*n, p, func(i int) int {
		start := i / n * n
		switch back {
		case OneBack:
			return max(0, start-n)
		case Again:
			return start
		}
		return 0
	})
}

// Ladder asks for rallies of 1, 2 … top in a row; a miss starts the rung again.
func Ladder(top int, p float64) Chain {
	var rung []int // for each step, where its rung starts
	for j := 1; j <= top; j++ {
		start := len(rung)
		for range j {
			rung = append(rung, start)
		}
	}
	return build(len(rung), p, func(i int) int { return rung[i] })
}

// Team asks for n in a row by players with chances ps in turn; a miss costs all, and the turn passes on all the same.
func Team(n int, ps []float64) Chain {
	m := len(ps)
	c := Chain{make([]step, n*m)}
	for count := range n {
		for turn, p := range ps {
			next := (turn + 1) % m
			good := (count+1)*m + next
			if count+1 == n {
				good = done
			}
			c.steps[count*m+turn] = step{p: p, good: good, miss: next}
		}
	}
	return c
}

// Score asks for n points: a success gives one, a share of them bonus more, and a miss takes minus away, but nobody
// falls under nothing.
func Score(n int, p float64, minus, bonus int, share float64) Chain {
	c := build(n, p, func(i int) int { return max(0, i-minus) })
	for i := range c.steps {
		if c.steps[i].share, c.steps[i].better = share, i+1+bonus; i+1+bonus >= n {
			c.steps[i].better = done
		}
	}
	return c
}

// successes are the steps that follow a success, with their chances.
func (s step) successes() iter.Seq2[int, float64] {
	return func(yield func(int, float64) bool) {
		if yield(s.good, s.p*(1-s.share)) && s.share > 0 {
			yield(s.better, s.p*s.share)
		}
	}
}

func build(n int, p float64, miss func(int) int) Chain {
	c := Chain{make([]step, n)}
	for i := range c.steps {
		c.steps[i] = step{p: p, good: i + 1, miss: miss(i)}
	}
	if n > 0 {
		c.steps[n-1].good = done
	}
	return c
}

// ErrNever is returned for a task that nobody finishes: a chance of zero where a success is needed.
var ErrNever = errors.New("with no chance of a good try this is never done")

// Tries is the expected number of tries until the task is done. For a streak it is (1 − pⁿ) / ((1 − p) pⁿ): W. Feller,
// An Introduction to Probability Theory and Its Applications I, XIII.7.
func (c Chain) Tries() (float64, error) {
	n := len(c.steps)
	if n == 0 {
		return 0, nil
	}
	a, b := mat.NewDense(n, n, nil), mat.NewVecDense(n, nil)
	for i, s := range c.steps {
		if s.p <= 0 {
			return 0, ErrNever
		}
		a.Set(i, i, a.At(i, i)+1)
		for to, p := range s.successes() {
			if to != done {
				a.Set(i, to, a.At(i, to)-p)
			}
		}
		a.Set(i, s.miss, a.At(i, s.miss)-(1-s.p))
		b.SetVec(i, 1)
	}
	var x mat.VecDense
	if err := x.SolveVec(a, b); err != nil {
		var cond mat.Condition
		if !errors.As(err, &cond) { // ill-conditioned is still solved: the figure is huge, not wrong
			return 0, ErrNever
		}
	}
	return x.AtVec(0), nil
}

// WithinTries is the chance that the task is done in at most n tries.
func (c Chain) WithinTries(n int) (chance float64) {
	c.step(n, func(_ int, done float64) bool { chance = done; return true })
	return chance
}

// step steps the chain through n tries and says after each, and before the first, how likely it is done, until more
// returns false.
func (c Chain) step(n int, more func(tries int, done float64) bool) {
	finished := 0.0
	if len(c.steps) == 0 {
		finished = 1
	}
	at, next := make([]float64, len(c.steps)), make([]float64, len(c.steps))
	if len(at) > 0 {
		at[0] = 1
	}
	for try := 0; more(try, finished) && try < n; try++ {
		clear(next)
		for i, s := range c.steps {
			w := at[i]
			if w == 0 {
				continue
			}
			for to, p := range s.successes() {
				if to == done {
					finished += w * p
				} else {
					next[to] += w * p
				}
			}
			next[s.miss] += w * (1 - s.p)
		}
		at, next = next, at
	}
}

// By is how long it takes until the task is done with the given chances, such as 0.5, 0.8 and 0.95, in rising order, a
// try taking so long: the distribution is stepped, not guessed. It stops at four hours; what is not reached by then is
// left at zero.
func (c Chain) By(try time.Duration, chances ...float64) []time.Duration {
	const longest = 4 * time.Hour
	out, next := make([]time.Duration, len(chances)), 0
	c.step(int(longest/max(try, time.Millisecond)), func(tries int, done float64) bool {
		for next < len(chances) && done >= chances[next]-1e-12 {
			out[next] = time.Duration(tries) * try
			next++
		}
		return next < len(chances)
	})
	return out
}

// Curve is the chance to be done by each of the moments, in rising order: the whole distribution in one stepping.
func (c Chain) Curve(try time.Duration, moments []time.Duration) []float64 {
	out, next := make([]float64, len(moments)), 0
	if len(moments) == 0 {
		return out
	}
	within := func(i int) int { return int(moments[i] / try) }
	c.step(within(len(moments)-1), func(tries int, done float64) bool {
		for next < len(moments) && within(next) <= tries {
			out[next] = done
			next++
		}
		return next < len(moments)
	})
	return out
}

// For is the chain of a drill's target for a player whose tries succeed with chance p. Free practice and a count
// in a time have none.
func For(t coach.Target, p float64) (Chain, bool) {
	switch t.Kind {
	case coach.Total:
		return Total(t.N, p), true
	case coach.RunOf:
		return Streak(t.N, p), true
	case coach.SetOfStreaks:
		back := Back(t.Back)
		if back != AllOver && back != OneBack {
			back = Again
		}
		return Set(t.Skills, t.N, p, back), true
	case coach.RallyLadder:
		return Ladder(t.N, p), true
	case coach.TeamStreak:
		return Team(t.N, []float64{p}), true
	case coach.Score:
		return Score(t.N, p, t.Minus, t.Bonus, t.BonusIn), true
	}
	return Chain{}, false
}

// Trier is a player who tries for a target: the chance of a good try, and how many tries there are for it.
type Trier struct {
	P     float64
	Tries int
}

// Tries are whole ones, of as many as a player has on average.
func Tries(n float64) int { return int(n + 1e-9) }

// Alike are players with these chances who all have as many tries.
func Alike(chances []float64, tries int) (out []Trier) {
	for _, p := range chances {
		out = append(out, Trier{p, tries})
	}
	return out
}

// Advice is a target that fits a round, with the reason.
type Advice struct {
	N       int
	Reach   float64       // mean chance of this group to reach N in time
	Tries   float64       // expected tries of its middle player
	Takes   time.Duration // that they take
	Because string
}

const (
	enough = 0.8 // of the group
	most   = 60  // the largest number advised
)

// Fit is the largest N of the target's kind that at least 80 % of these players reach within the tries they have, a try
// taking so long; so it never asks for more tries than they get. ok is false when even one is too many, or for targets
// without a number.
func Fit(t coach.Target, who []Trier, try time.Duration) (a Advice, ok bool) {
	if _, has := For(t, 0.5); !has || len(who) == 0 {
		return Advice{}, false
	}
	reach := func(n int) float64 { return Reach(t.To(n), who) }
	// Between a number that enough reach and one that they do not, beginning with what is asked now.
	low, high := 0, max(1, t.N)
	for low < high && high <= most && reach(high) >= enough {
		low, high = high, min(most+1, high+max(1, high/4))
	}
	for high-low > 1 {
		if mid := (low + high) / 2; reach(mid) >= enough {
			low = mid
		} else {
			high = mid
		}
	}
	middle := middleOf(who)
	if low > 0 {
		chain, _ := For(t.To(low), middle.P)
		tries, err := chain.Tries()
		a, ok = Advice{N: low, Reach: reach(low), Tries: tries, Takes: time.Duration(tries * float64(try))}, err == nil
	}
	if ok {
		a.Because = fmt.Sprintf(
			"about %s and %s for a player who makes %.0f in 10; %.0f in 100 of this group get there in the %s each has",
			say.Count(int(math.Round(a.Tries)), "try"),
			coach.Clock(a.Takes),
			middle.P*10,
			a.Reach*100,
			say.Count(middle.Tries, "try"),
		)
	}
	return a, ok
}

// Reach is the mean chance of the players to be done with t within the tries they have. Chances count to the nearest 2
// in 100, which is finer than marks can tell, so that players alike are worked out once.
func Reach(t coach.Target, who []Trier) float64 {
	sum := 0.0
	alike := map[Trier]float64{}
	for _, p := range who {
		p.P = math.Round(p.P*50) / 50
		within, known := alike[p]
		if !known {
			chain, _ := For(t, p.P)
			within = chain.WithinTries(p.Tries)
			alike[p] = within
		}
		sum += within
	}
	return sum / float64(max(1, len(who)))
}

// middleOf is the middle player of a group.
func middleOf(who []Trier) Trier {
	tries := 0.0
	for _, p := range who {
		tries += float64(p.Tries)
	}
	return Trier{middle(chancesOf(who)), int(math.Round(tries / float64(max(1, len(who)))))}
}

// Chances are those of the players, one each.
func (g Players) Chances() []float64 { return chancesOf(g.Who) }

func chancesOf(who []Trier) (out []float64) {
	for _, p := range who {
		out = append(out, p.P)
	}
	return out
}

func middle(xs []float64) float64 {
	sum := 0.0
	for _, x := range xs {
		sum += x
	}
	return sum / float64(len(xs))
}

// Series is one run of tries that was marked: Made of Tries, Weeks ago.
type Series struct {
	Made, Tries float64
	Weeks       float64
}

// halfLife is the age in weeks at which a mark weighs half: six weeks, our choice, so that a term's start fades.
const halfLife = 6

// Rate is the chance of a good try as the marks tell it, with the middle 80 % of what it may be.
type Rate struct {
	P, Low, High float64
	From         int // series it rests on
}

// Estimate is the chance of a good try from marked series under the Jeffreys prior, Beta(½, ½), recent ones weighing
// more.
func Estimate(series []Series) Rate {
	a, b := 0.5, 0.5
	for _, s := range series {
		w := math.Exp2(-math.Max(0, s.Weeks) / halfLife)
		a += w * s.Made
		b += w * math.Max(0, s.Tries-s.Made)
	}
	return Rate{
		P:    a / (a + b),
		Low:  mathext.InvRegIncBeta(a, b, 0.1),
		High: mathext.InvRegIncBeta(a, b, 0.9),
		From: len(series),
	}
}
