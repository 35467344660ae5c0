package target

import (
	"gonum.org/v1/gonum/stat/distuv"
)

// Faults is a go of Of tries with at most Most misses in it.
type Faults struct{ Most, Of int }

// Stays is the chance that a go stays within its faults when a try is good with chance p: the binomial distribution.
func (f Faults) Stays(p float64) float64 {
	return distuv.Binomial{N: float64(f.Of), P: 1 - p}.CDF(float64(f.Most))
}

// FewestFaults is the fewest faults in so many tries within which four in five of these goes stay.
func FewestFaults(of int, chances []float64) int {
	for k := range of {
		if (Faults{k, of}).Reach(chances) >= enough {
			return k
		}
	}
	return of
}

// Reach is the mean chance of these players to stay within the faults.
func (f Faults) Reach(chances []float64) (sum float64) {
	for _, p := range chances {
		sum += f.Stays(p) / float64(len(chances))
	}
	return sum
}
