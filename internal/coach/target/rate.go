package target

import (
	"gruppo/internal/coach"
)

// MostLeft is how many tries ahead are looked at; further nobody counts in a round.
const MostLeft = 120

// Reaches is the chance that somebody who made good of so many tries, and now stands at a run of so many, reaches n
// within left more: in a row, or in all. Their own chance of a good one is not known: it has the Beta distribution that
// the tries leave of Jeffreys' prior, and every further try is expected, and learned from, by it, so that the chance is
// exact and not that of one guess. Other kinds of targets are never said to be reached.
func Reaches(kind coach.TargetKind, n, good, tries, run, left int) float64 {
	start, lost := run, true
	switch kind {
	case coach.RunOf:
	case coach.Total:
		start, lost = good, false
	default:
		return 0
	}
	if start >= n {
		return 1
	}
	left = min(left, MostLeft)
	// at[s][r]: s more good ones so far, standing at r
	at := [][]float64{make([]float64, n)}
	at[0][start] = 1
	reached := 0.0
	for t := range left {
		next := make([][]float64, t+2)
		for s := range next {
			next[s] = make([]float64, n)
		}
		for s, row := range at {
			p := (float64(good+s) + 0.5) / (float64(tries+t) + 1)
			for r, was := range row {
				if was == 0 {
					continue
				}
				if r+1 == n {
					reached += was * p
				} else {
					next[s+1][r+1] += was * p
				}
				if lost {
					next[s][0] += was * (1 - p)
				} else {
					next[s][r] += was * (1 - p)
				}
			}
		}
		at = next
	}
	return reached
}
