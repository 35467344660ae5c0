package deal

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"gruppo/internal/coach"
)

func class(levels ...float64) []coach.Player {
	ps := make([]coach.Player, len(levels))
	for i, l := range levels {
		ps[i] = coach.Player{ID: fmt.Sprint(i), Name: fmt.Sprintf("P%02d", i), Level: l}
	}
	return ps
}

func groupOf(groups [][]int, player int) int {
	return slices.IndexFunc(groups, func(g []int) bool { return slices.Contains(g, player) })
}

// Against trying every deal of nine players into three groups of three: 280 of them.
func TestNearAndMixedAreTheBestOfAllDeals(t *testing.T) {
	for seed := range uint64(20) {
		rng := rand.New(rand.NewPCG(seed, 7))
		levels := make([]float64, 9)
		for i := range levels {
			levels[i] = 1 + 3*rng.Float64()
		}
		players := class(levels...)
		for _, way := range []Way{Near, Mixed} {
			d, err := newDeal(players, 3, way)
			if err != nil {
				t.Fatal(err)
			}
			best, at := math.Inf(1), make([]int, 9)
			var every func(i int)
			every = func(i int) {
				if i == 9 {
					best = min(best, d.cost(at))
					return
				}
				for g := range 3 {
					at[i] = g
					every(i + 1)
				}
			}
			every(0)
			groups, err := Groups(players, 3, way, seed)
			if err != nil {
				t.Fatal(err)
			}
			for g, members := range groups {
				for _, m := range members {
					at[m] = g
				}
			}
			if got := d.cost(at); got > best+1e-9 {
				t.Errorf("seed %d, %s: cost %v, the best of all deals has %v", seed, way, got, best)
			}
		}
	}
}

func TestTogetherAndApartHold(t *testing.T) {
	players := class(1.1, 1.9, 2.5, 1.2, 2.8, 1.4, 2.2, 1.7, 2.9, 1.3, 2.1, 1.5, 2.7, 1.6, 2.4, 1.8, 2.3)
	players[0].With = []string{"8"} // two sisters, far apart in level
	players[3].Apart = []string{"9", "5"}
	for seed := range uint64(30) {
		groups, err := Groups(players, 4, Near, seed)
		if err != nil {
			t.Fatal(err)
		}
		if groupOf(groups, 0) != groupOf(groups, 8) {
			t.Errorf("seed %d: the sisters are not together: %v", seed, groups)
		}
		if g := groupOf(groups, 3); g == groupOf(groups, 9) || g == groupOf(groups, 5) {
			t.Errorf("seed %d: kept-apart players meet: %v", seed, groups)
		}
		smallest, largest := 99, 0
		for _, g := range groups {
			smallest, largest = min(smallest, len(g)), max(largest, len(g))
		}
		if largest-smallest > 1 {
			t.Errorf("seed %d: sizes from %d to %d", seed, smallest, largest)
		}
	}
	once, _ := Groups(players, 4, Near, 5)
	twice, _ := Groups(players, 4, Near, 5)
	if fmt.Sprint(once) != fmt.Sprint(twice) {
		t.Error("the same seed dealt differently")
	}
}

func TestImpossibleWishesAreRefusedByName(t *testing.T) {
	forty := class(make([]float64, 40)...)
	for i := range forty {
		for j := range forty {
			if i != j {
				forty[i].Apart = append(forty[i].Apart, forty[j].ID)
			}
		}
	}
	_, err := Groups(forty, 4, Near, 1)
	var clash *Clash
	if !errors.As(err, &clash) || len(clash.Players) != 40 || !strings.Contains(clash.Why, "P00") || !strings.Contains(clash.Why, "40 groups") {
		t.Errorf("forty apart in four groups: %v", err)
	}
	if groups, err := Groups(forty, 40, Near, 1); err != nil || len(groups) != 40 {
		t.Errorf("forty apart in forty groups: %v", err)
	}
	pair := class(1, 2)
	pair[0].With, pair[1].Apart = []string{"1"}, []string{"0"}
	if _, err := Groups(pair, 2, Mixed, 1); err == nil || !strings.Contains(err.Error(), "P00 and P01") && !strings.Contains(err.Error(), "P01 and P00") {
		t.Errorf("together and apart at once: %v", err)
	}
}

func TestFewPlayers(t *testing.T) {
	for n := range 4 {
		groups, err := Groups(class(make([]float64, n)...), 3, Near, 1)
		if err != nil || len(groups) != 3 {
			t.Errorf("%d players in 3 groups: %v, %v", n, groups, err)
		}
	}
}

func BenchmarkGroups(b *testing.B) {
	levels := make([]float64, 30)
	for i := range levels {
		levels[i] = float64(i%7) / 2
	}
	players := class(levels...)
	b.ReportAllocs()
	for b.Loop() {
		if _, err := Groups(players, 6, Mixed, 3); err != nil {
			b.Fatal(err)
		}
	}
}
