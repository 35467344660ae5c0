package evidence

import (
	"fmt"
	"math"
	"math/bits"

	"gonum.org/v1/gonum/stat/distuv"

	"gruppo/internal/coach"
	"gruppo/internal/coach/target"
)

// season is the number of visits after which somebody who has not shown a criterion is said never to.
const season = 400

// StreakTries is how many tries a mark of a longest run is taken to rest on: three times the run (common practice, no
// source).
func StreakTries(c coach.Criterion) int { return 3 * int(math.Max(1, c.Want)) }

// Look is the chance that one mark meets the standard of c when the player succeeds with chance p, 0 to 1. For makes
// and longest runs p is the chance of each try; for other measures it is the chance that one look meets the standard.
func Look(c coach.Criterion, p float64) float64 {
	p = math.Min(1, math.Max(0, p))
	switch c.Measure {
	case coach.Makes:
		if p == 1 || c.Want <= 0 {
			return 1
		}
		return 1 - distuv.Binomial{N: math.Max(1, c.Of), P: p}.CDF(math.Ceil(c.Want)-1)
	case coach.Streak:
		return target.Streak(int(math.Max(1, c.Want)), p).WithinTries(StreakTries(c))
	}
	return p
}

// FullTurn is the number of visits in which the evidence rule can be met and its "last n" is full.
func FullTurn(r coach.EvidenceRule) int { return max(r.Good, r.Last, 1) }

// Passing is the operating characteristic of c as it grows: out[v] is the chance that a player with chance p (see Look)
// has met the whole evidence rule at some time by visit v, 0 to n. Each visit gives one mark on each side; where
// several people have to mark, they take turns; the marks fall within the window. It is computed by stepping through
// all that the last marks can be, as an acceptance sampling plan is.
func Passing(c coach.Criterion, p float64, n int) []float64 {
	q := Look(c, p)
	out := passing(c.Rule, q, n)
	if c.BothSides {
		for v := range out {
			out[v] *= out[v]
		}
	}
	return out
}

func passing(r coach.EvidenceRule, q float64, n int) []float64 {
	good, people := max(1, r.Good), max(1, r.People)
	out := make([]float64, n+1)
	if r.Last > 0 { // the state is which of the last marks were good, the newest in the lowest bit
		size := 1 << min(r.Last, coach.MostLast)
		state, next := make([]float64, size), make([]float64, size)
		state[0] = 1
		for v := 1; v <= n; v++ {
			clear(next)
			out[v] = out[v-1]
			for s, w := range state {
				if w == 0 {
					continue
				}
				miss, hit := s<<1&(size-1), (s<<1|1)&(size-1)
				next[miss] += w * (1 - q)
				if bits.OnesCount(uint(hit)) >= good && seenBy(hit, people) >= people {
					out[v] += w * q
				} else {
					next[hit] += w * q
				}
			}
			state, next = next, state
		}
		return out
	}
	all := 1<<people - 1 // the state is how many were good, and by whom
	state := make([]float64, (good+1)*(all+1))
	state[0] = 1
	for v := 1; v <= n; v++ {
		next := make([]float64, len(state))
		out[v] = out[v-1]
		for s, w := range state {
			if w == 0 {
				continue
			}
			g, who := s/(all+1), s%(all+1)
			next[s] += w * (1 - q)
			g, who = min(good, g+1), who|1<<((v-1)%people)
			if g == good && who == all {
				out[v] += w * q
			} else {
				next[g*(all+1)+who] += w * q
			}
		}
		state = next
	}
	return out
}

// seenBy counts the different people behind the good marks when people take turns.
func seenBy(window, people int) int {
	who := 0
	for i := range coach.MostLast {
		if window>>i&1 == 1 {
			who |= 1 << (i % people)
		}
	}
	return bits.OnesCount(uint(who))
}

// VisitsToShow is the mean number of visits until a player with chance p has met the rule; +Inf when it is more than
// can be waited for.
func VisitsToShow(c coach.Criterion, p float64) float64 {
	sum := 0.0
	out := Passing(c, p, season)
	for _, f := range out[:season] {
		sum += 1 - f
	}
	if out[season] < 0.99 {
		return math.Inf(1)
	}
	return sum
}

// Strictness says of a criterion how it treats a player who should pass and one who should not.
type Strictness struct {
	Strong, Weak         float64 // what the two can really do
	After                int     // visits
	StrongPass, WeakPass float64 // chance to have shown it after them
	Visits               float64 // the strong one's mean
	Fair                 bool
	Mend                 *Mend // where not fair, and something nearby is fairer
}

// Mend is a change to a criterion that would make it fairer.
type Mend struct {
	Criterion            coach.Criterion
	Says                 string // "7 of 10, on 2 days"
	StrongPass, WeakPass float64
}

// The strictness is called unfair when the weak one passes more often than one in ten, or the strong one less often
// than six in ten (our choice; no source).
const oftenWeak, seldomStrong = 0.10, 0.60

// StrongWeak are the chances of the two players a criterion is tried with: for makes the strong one does just what the
// standard asks and the weak one 20 in 100 less; for longest runs they succeed 90 and 75 times in 100; for other
// measures a look meets the standard 80 and 60 times in 100.
func StrongWeak(c coach.Criterion) (strong, weak float64) {
	switch c.Measure {
	case coach.Makes:
		strong = math.Min(0.95, math.Max(0.25, c.Want/math.Max(1, c.Of)))
		return strong, strong - 0.2
	case coach.Streak:
		return 0.9, 0.75
	}
	return 0.8, 0.6
}

// Judge works out the strictness of c and, where it is unfair, the nearby standard or rule that treats the same two
// players best.
func Judge(c coach.Criterion) Strictness {
	s := Strictness{After: FullTurn(c.Rule)}
	s.Strong, s.Weak = StrongWeak(c)
	s.StrongPass, s.WeakPass = s.with(c)
	s.Visits = VisitsToShow(c, s.Strong)
	s.Fair = s.WeakPass <= oftenWeak && s.StrongPass >= seldomStrong
	if s.Fair {
		return s
	}
	loss := func(strong, weak float64, k coach.Criterion) float64 {
		return weak + (1 - strong) + 0.06*float64(FullTurn(k.Rule)) // the quicker of two that are as fair
	}
	best := loss(s.StrongPass, s.WeakPass, c) - 0.1
	for _, k := range nearby(c) {
		strong, weak := s.with(k)
		l := loss(strong, weak, k)
		if weak <= oftenWeak && strong >= seldomStrong { // fair to both comes before good for one
			l--
		}
		if l < best && weak <= math.Max(s.WeakPass, 2*oftenWeak) && strong >= math.Min(s.StrongPass, seldomStrong) {
			best = l
			s.Mend = &Mend{Criterion: k, Says: says(k), StrongPass: strong, WeakPass: weak}
		}
	}
	return s
}

func (s Strictness) with(c coach.Criterion) (strong, weak float64) {
	n := FullTurn(c.Rule)
	return Passing(c, s.Strong, n)[n], Passing(c, s.Weak, n)[n]
}

// says is a criterion's standard and rule, without what every rule says.
func says(c coach.Criterion) string {
	r := c.Rule
	r.Weeks = 0
	if c.Measure == coach.Makes || c.Measure == coach.Streak {
		return c.Standard() + ", " + r.String()
	}
	return r.String()
}

// nearby are the criteria a step away: the standard a little higher or lower, and the usual rules.
func nearby(c coach.Criterion) (out []coach.Criterion) {
	wants := []float64{c.Want}
	if c.Measure == coach.Makes {
		for _, d := range []float64{-1, 1, -2, 2} {
			if w := c.Want + d; w >= 1 && w <= c.Of {
				wants = append(wants, w)
			}
		}
	}
	for _, w := range wants {
		for _, r := range []struct{ good, last int }{{c.Rule.Good, c.Rule.Last}, {1, 0}, {2, 0}, {2, 3}, {3, 0}, {3, 4}, {3, 5}} {
			k := c
			k.Want, k.Rule.Good, k.Rule.Last = w, r.good, r.last
			k.Rule.Days = r.good
			if r.good == c.Rule.Good {
				k.Rule.Days = c.Rule.Days
			}
			if k.Rule.People <= k.Rule.Good {
				out = append(out, k)
			}
		}
	}
	return out
}

// InHundred says how often, out of 100: "46 times in 100", "nearly always".
func InHundred(p float64) string {
	switch n := math.Round(100 * p); {
	case n >= 100:
		return "nearly always"
	case n <= 0:
		return "hardly ever"
	case n == 1:
		return "once in 100"
	default:
		return fmt.Sprintf("%.0f times in 100", n)
	}
}

// InATerm is what BenchmarkEarlyLate found with 1,500 simulated players of known ability for each rule, 8 of 10, six
// visits in which they are looked at, and form that differs from day to day: of 100 who make 60 in 100, how many were
// moved up too early, and of 100 who make 88 in 100, how many too late.
var InATerm = []struct {
	Rule        string
	Early, Late int
}{{"once", 87, 0}, {"on two days", 54, 0}, {"two of the last three", 29, 1}, {"on three days", 21, 0}, {"three of the last four", 6, 10}}
