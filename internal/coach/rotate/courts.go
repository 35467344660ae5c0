package rotate

import (
	"cmp"
	"math"
	"math/bits"
	"slices"
)

// exactPairs is up to how many players pairs are chosen by trying all; beyond it by improving a first choice.
const exactPairs = 14

// OnCourts gives so many rounds of partners for n players on so many courts. Whoever has played least plays, and of
// those who has waited longest, so that rests differ by at most one; of those who play the pairs are such that the sum
// of cost(i, j) and of repeat for each time they met already is least.
func OnCourts(n, courts, rounds int, repeat float64, cost func(i, j int) float64) []Turn {
	played, last := make([]int, n), make([]int, n)
	met := map[[2]int]int{}
	var out []Turn
	for r := range rounds {
		order := make([]int, n)
		for i := range order {
			order[i] = i
		}
		slices.SortStableFunc(order, func(a, b int) int { return cmp.Or(played[a]-played[b], last[a]-last[b]) })
		on := slices.Sorted(slices.Values(order[:2*min(courts, n/2)]))
		t := Turn{Rests: slices.Sorted(slices.Values(order[len(on):]))}
		t.Pairs = pairUp(on, func(i, j int) float64 { return cost(i, j) + repeat*float64(met[[2]int{i, j}]) })
		for _, p := range t.Pairs {
			met[p]++
			for _, i := range p {
				played[i]++
				last[i] = r + 1
			}
		}
		out = append(out, t)
	}
	return out
}

// pairUp puts an even number of players, in rising order, into pairs of the least cost in all.
func pairUp(on []int, cost func(i, j int) float64) (pairs [][2]int) {
	if len(on) <= exactPairs {
		return everyPair(on, cost)
	}
	left := slices.Clone(on)
	for len(left) > 0 {
		best := 1
		for k := 2; k < len(left); k++ {
			if cost(left[0], left[k]) < cost(left[0], left[best]) {
				best = k
			}
		}
		pairs = append(pairs, [2]int{left[0], left[best]})
		left = append(slices.Clone(left[1:best]), left[best+1:]...)
	}
	of := func(a, b int) float64 { return cost(min(a, b), max(a, b)) }
	for better := true; better; {
		better = false
		for i := range pairs {
			for j := range i {
				p, q := pairs[i], pairs[j]
				now := of(p[0], p[1]) + of(q[0], q[1])
				for _, w := range [][2][2]int{{{p[0], q[0]}, {p[1], q[1]}}, {{p[0], q[1]}, {p[1], q[0]}}} {
					if of(w[0][0], w[0][1])+of(w[1][0], w[1][1]) < now-1e-9 {
						pairs[i], pairs[j], better = w[0], w[1], true
						break
					}
				}
			}
		}
	}
	for i, p := range pairs {
		pairs[i] = [2]int{min(p[0], p[1]), max(p[0], p[1])}
	}
	slices.SortFunc(pairs, func(a, b [2]int) int { return a[0] - b[0] })
	return pairs
}

// everyPair finds the best pairs of all, from those of fewer players to those of more.
func everyPair(on []int, cost func(i, j int) float64) (pairs [][2]int) {
	all := 1<<len(on) - 1
	best, mate := make([]float64, all+1), make([]int, all+1)
	for set := 1; set <= all; set++ {
		best[set] = math.Inf(1)
		i := bits.TrailingZeros(uint(set))
		for j := i + 1; j < len(on); j++ {
			if set&(1<<j) == 0 {
				continue
			}
			if c := cost(on[i], on[j]) + best[set&^(1<<i|1<<j)]; c < best[set]-1e-12 {
				best[set], mate[set] = c, j
			}
		}
	}
	for set := all; set != 0; {
		i, j := bits.TrailingZeros(uint(set)), mate[set]
		pairs = append(pairs, [2]int{on[i], on[j]})
		set &^= 1<<i | 1<<j
	}
	return pairs
}
