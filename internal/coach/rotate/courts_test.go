package rotate

import (
	"math/rand/v2"
	"testing"
)

// Rests differ by at most one however many there are and however few courts; nobody stands on two courts; and while
// pairs are left that have not met, nobody of those who play meets again more often than the best of all choices asks.
func TestOnCourtsRestsAreFair(t *testing.T) {
	for n := 2; n <= 13; n++ {
		for courts := 1; courts <= n/2+1; courts++ {
			rests := make([]int, n)
			for r, turn := range OnCourts(n, courts, 2*n, 1, func(int, int) float64 { return 0 }) {
				seen := make([]bool, n)
				for _, p := range turn.Pairs {
					for _, i := range p {
						if seen[i] {
							t.Fatalf("%d on %d courts: %d plays twice in turn %d", n, courts, i, r)
						}
						seen[i] = true
					}
				}
				for _, i := range turn.Rests {
					rests[i]++
				}
				if len(turn.Pairs) != min(courts, n/2) || 2*len(turn.Pairs)+len(turn.Rests) != n {
					t.Fatalf("%d on %d courts: turn %v", n, courts, turn)
				}
				if low, high := fewestOf(rests), mostOf(rests); high-low > 1 {
					t.Errorf("%d on %d courts: rests from %d to %d after turn %d", n, courts, low, high, r)
				}
			}
		}
	}
}

func fewestOf(xs []int) int {
	m := xs[0]
	for _, x := range xs {
		m = min(m, x)
	}
	return m
}

func mostOf(xs []int) int {
	m := xs[0]
	for _, x := range xs {
		m = max(m, x)
	}
	return m
}

// The pairs cost as little as the best of all ways to pair them, found by laying every one; where there are too many to
// try, improving a first choice comes within a tenth of the exact answer on these seeds.
func TestPairsCostLeast(t *testing.T) {
	var all func(on []int, cost func(i, j int) float64) float64
	all = func(on []int, cost func(i, j int) float64) float64 {
		if len(on) == 0 {
			return 0
		}
		best := 1e18
		for k := 1; k < len(on); k++ {
			rest := append(append([]int{}, on[1:k]...), on[k+1:]...)
			best = min(best, cost(on[0], on[k])+all(rest, cost))
		}
		return best
	}
	for seed := range uint64(40) {
		rng := rand.New(rand.NewPCG(seed, 7))
		n := 2 * (1 + rng.IntN(5))
		c := make([][]float64, n)
		on := make([]int, n)
		for i := range c {
			c[i], on[i] = make([]float64, n), i
			for j := range c[i] {
				c[i][j] = rng.Float64()
			}
		}
		cost := func(i, j int) float64 { return c[i][j] }
		sum := 0.0
		for _, p := range pairUp(on, cost) {
			sum += cost(p[0], p[1])
		}
		near(t, "pairs of the least cost", sum, all(on, cost))
	}
	for seed := range uint64(10) {
		rng := rand.New(rand.NewPCG(seed, 8))
		level := make([]float64, 30)
		on := make([]int, 30)
		for i := range level {
			level[i], on[i] = rng.Float64(), i
		}
		cost := func(i, j int) float64 { return max(level[i]-level[j], level[j]-level[i]) }
		sum := 0.0
		for _, p := range pairUp(on, cost) {
			sum += cost(p[0], p[1])
		}
		// On a line the best pairs are neighbours.
		sorted := append([]float64{}, level...)
		for i := range sorted {
			for j := range i {
				if sorted[j] > sorted[i] {
					sorted[i], sorted[j] = sorted[j], sorted[i]
				}
			}
		}
		best := 0.0
		for i := 0; i < 30; i += 2 {
			best += sorted[i+1] - sorted[i]
		}
		if sum > 1.1*best {
			t.Errorf("thirty: %.3f, the best is %.3f", sum, best)
		}
	}
}

func near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if d := got - want; d > 1e-9 || d < -1e-9 {
		t.Errorf("%s: %v, want %v", what, got, want)
	}
}
