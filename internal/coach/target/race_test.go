package target

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
	"time"
)

// Exact arithmetic; the problem of points (B. Pascal and P. de Fermat, 1654) is the case of a race under way: with 2
// and 3 points missing and p = 1/2 the first player's share is 11/16.
func TestRace(t *testing.T) {
	near(t, "Pascal's 2 and 3 missing", Race{2, 3}.Wins(0.5), 11.0/16, 1e-12)
	near(t, "7 against 11, even at", Race{7, 11}.Even(), 0.38469, 5e-6)
	near(t, "7 against 11 at one half", Race{7, 11}.Wins(0.5), 0.83385, 5e-6)
	for _, p := range []float64{0.2, 0.38469, 0.5, 0.7} {
		for _, r := range []Race{{7, 7}, {7, 11}, {1, 5}, {11, 3}} {
			near(t, fmt.Sprint("both sides of ", r, " at ", p), r.Wins(p)+Race{r.Against, r.To}.Wins(1-p), 1, 1e-12)
		}
	}
	near(t, "first to one takes one point", Race{1, 1}.Points(0.3), 1, 1e-12)
	near(t, "first to two", Race{2, 2}.Points(0.5), 2.5, 1e-12)
	// exact arithmetic; at the even chance it is another figure
	near(t, "7 against 11 at one half lasts", Race{7, 11}.Points(0.5), 13.252, 5e-4)
	near(t, "a point between two without scores", PointChance(0, 0), 0.5, 1e-12)
	near(t, "a point of somebody who won 6 of 8", PointChance(6, 2), 6.5/9, 1e-12)
	if r := NearestEven(0.38469, 11); r != (Race{7, 11}) {
		t.Errorf("nearest even at 0.38469: %v", r)
	}
}

// every kind of chain, for the simulation and the quantiles.
var chains = []struct {
	name  string
	chain Chain
}{
	{
		"total of 12 at 0.7",
		Total(12, 0.7),
	}, {"streak of 6 at 0.75", Streak(6, 0.75)}, {"set of 3 × 3, all over", Set(3, 3, 0.85, AllOver)},
	{
		"set of 3 × 3, one back",
		Set(3, 3, 0.8, OneBack),
	}, {"set of 3 × 3, again", Set(3, 3, 0.7, Again)}, {"rally ladder to 5", Ladder(5, 0.8)},
	{"team of three", Team(6, []float64{0.9, 0.7, 0.8})},
}

// A plain simulation of players, a try at a time, against the stepped distribution: within four standard errors. A
// million players in all each kind gets in the long run; -short takes a tenth.
func TestDistributionsAgreeWithASimulation(t *testing.T) {
	players := 1_000_000
	if testing.Short() {
		players /= 10
	}
	for _, c := range chains {
		t.Run(c.name, func(t *testing.T) {
			t.Parallel()
			rng := rand.New(rand.NewPCG(2026, uint64(len(c.name))))
			mean, err := c.chain.Tries()
			if err != nil {
				t.Fatal(err)
			}
			limit := int(mean)
			done, sum, squares := 0, 0.0, 0.0
			for range players {
				n := 0
				for at := 0; at >= 0; n++ {
					if s := c.chain.steps[at]; rng.Float64() < s.p {
						at = s.good
					} else {
						at = s.miss
					}
				}
				if n <= limit {
					done++
				}
				sum, squares = sum+float64(n), squares+float64(n)*float64(n)
			}
			n := float64(players)
			within := c.chain.WithinTries(limit)
			near(t, "done within the mean", float64(done)/n, within, 4*math.Sqrt(within*(1-within)/n))
			near(t, "mean tries", sum/n, mean, 4*math.Sqrt((squares/n-sum*sum/n/n)/n))
		})
	}
}

func TestByIsWhenThatManyAreDone(t *testing.T) {
	for _, c := range chains {
		by := c.chain.By(4*time.Second, 0.5, 0.8, 0.95)
		for i, share := range []float64{0.5, 0.8, 0.95} {
			n := int(by[i] / (4 * time.Second))
			if at, before := c.chain.WithinTries(n), c.chain.WithinTries(n-1); at < share-1e-9 || before >= share {
				t.Errorf("%s: by %v %.3f are done, a try before %.3f; want %v", c.name, by[i], at, before, share)
			}
		}
	}
	if by := Streak(40, 0.3).By(time.Second, 0.5); by[0] != 0 {
		t.Errorf("40 in a row at 3 in 10 is done by %v", by[0])
	}
}

func BenchmarkBy(b *testing.B) {
	b.ReportAllocs()
	for b.Loop() {
		Streak(10, 0.8).By(9*time.Second, 0.5, 0.8, 0.95)
	}
}
