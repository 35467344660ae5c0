package target

import (
	"math"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
)

// Race is first to To against first to Against, point by point.
type Race struct{ To, Against int }

// Wins is the chance of the first side when it wins a point with chance p: the sum over the points k the other side has
// by then of C(To−1+k, k)·pᵀᵒ·(1−p)ᵏ, the negative binomial distribution.
func (r Race) Wins(p float64) float64 {
	if r.To <= 0 {
		return 1
	}
	term, sum := math.Pow(p, float64(r.To)), 0.0
	for k := range r.Against {
		sum += term
		term *= float64(r.To+k) / float64(k+1) * (1 - p)
	}
	return sum
}

// Points is the expected number of points until one side is there.
func (r Race) Points(p float64) float64 {
	if r.To <= 0 || r.Against <= 0 {
		return 0
	}
	at := make([]float64, r.Against) // chance that the score is (i, j), for j
	at[0] = 1
	sum := 0.0
	for range r.To {
		for j := range at {
			sum += at[j]
			if j+1 < r.Against {
				at[j+1] += at[j] * (1 - p)
			}
			at[j] *= p
		}
	}
	return sum
}

// Even is the chance of a point at which both sides win equally often.
func (r Race) Even() float64 {
	low, high := 0.0, 1.0
	for range 60 {
		if mid := (low + high) / 2; r.Wins(mid) < 0.5 {
			low = mid
		} else {
			high = mid
		}
	}
	return (low + high) / 2
}

// PointChance is the chance of one side to win a point, from the points both have won against each other so far
// (Jeffreys prior): ½ where there are none.
func PointChance(won, lost int) float64 { return (float64(won) + 0.5) / (float64(won+lost) + 1) }

// NearestEven is the race whose longer side is most at which the first side, winning a point with chance p, wins
// nearest to half of them.
func NearestEven(p float64, most int) Race {
	best, off := Race{most, most}, math.Inf(1)
	for short := 1; short <= most; short++ {
		for _, r := range []Race{{short, most}, {most, short}} {
			if d := math.Abs(r.Wins(p) - 0.5); d < off {
				best, off = r, d
			}
		}
	}
	return best
}

// FitRace is the even race, or the one given in its proportion, whose points are on average no more than the tries there
// are, a try taking so long.
func FitRace(t coach.Target, p float64, tries int, try time.Duration) (a Advice, ok bool) {
	against := t.Against
	if against == 0 {
		against = t.N
	}
	for n := most; n >= 1; n-- {
		r := Race{n, max(1, int(math.Round(float64(n)*float64(against)/float64(max(1, t.N)))))}
		if points := r.Points(p); points <= float64(tries) {
			takes := time.Duration(points * float64(try))
			return Advice{
				N:       n,
				Reach:   1,
				Tries:   points,
				Takes:   takes,
				Because: "about " + say.Count(int(math.Round(points)), "point") + " and " + coach.Clock(takes),
			}, true
		}
	}
	return Advice{}, false
}
