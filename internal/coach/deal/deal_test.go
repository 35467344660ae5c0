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

// Against trying every deal of twelve players into three groups of four, 5775 up to the order of the groups.
func TestNearAndMixedAreTheBestOfAllDeals(t *testing.T) {
	for seed := range uint64(50) {
		rng := rand.New(rand.NewPCG(seed, 7))
		levels := make([]float64, 12)
		for i := range levels {
			levels[i] = 1 + 3*rng.Float64()
		}
		players := class(levels...)
		for _, way := range []Way{Near, Mixed} {
			d, err := newDeal(players, Ask{Groups: 3, Way: way})
			if err != nil {
				t.Fatal(err)
			}
			best, at, size := math.Inf(1), make([]int, 12), make([]int, 3)
			var every func(i int)
			every = func(i int) {
				if i == 12 {
					best = min(best, d.cost(at))
					return
				}
				for g := range 3 {
					if size[g] == 4 {
						continue
					}
					at[i] = g
					size[g]++
					every(i + 1)
					if size[g]--; size[g] == 0 {
						break // empty groups are alike
					}
				}
			}
			every(0)
			groups, err := Groups(players, Ask{Groups: 3, Way: way, Seed: seed})
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

func TestEveryWayPutsTogetherWhatItSays(t *testing.T) {
	players := class(1, 2, 3, 4, 5, 6, 7, 8, 9)
	for i := range players {
		players[i].Positions = []string{[]string{"wing", "pivot", "goalkeeper"}[i%3]}
		players[i].Needs = []string{[]string{"passing", "catching", "balance"}[i/3]}
	}
	for way, of := range map[Way]func(coach.Player) string{Position: func(p coach.Player) string { return p.Positions[0] }, Need: func(p coach.Player) string { return p.Needs[0] }} {
		groups, err := Groups(players, Ask{Groups: 3, Way: way, Seed: 3})
		if err != nil {
			t.Fatal(err)
		}
		for _, g := range groups {
			for _, i := range g {
				if of(players[i]) != of(players[g[0]]) {
					t.Errorf("%s: %s and %s are in one group", way, of(players[i]), of(players[g[0]]))
				}
			}
		}
	}
	players[5].Positions = []string{"Goalkeeper"} // as it was typed on the roster
	groups, err := Groups(players, Ask{Groups: 3, Way: Chance, Sizes: []int{2, 3, 4}, Together: []string{"goalkeeper"}})
	if err != nil || len(groups[0]) != 2 || len(groups[2]) != 4 || groupOf(groups, 2) != groupOf(groups, 5) ||
		groupOf(groups, 5) != groupOf(groups, 8) {
		t.Errorf("sizes 2, 3, 4 with the goalkeepers together: %v, %v", groups, err)
	}
	met := make([][]float64, 9)
	for i := range met {
		met[i] = make([]float64, 9)
		for j := range met[i] {
			if i != j && i/3 == j/3 {
				met[i][j] = 1 // last time in rows, so now in columns or the like
			}
		}
	}
	groups, _ = Groups(players, Ask{Groups: 3, Way: Chance, Met: met})
	for _, g := range groups {
		for _, i := range g {
			for _, j := range g {
				if met[i][j] > 0 {
					t.Errorf("%d and %d are together again in %v", i, j, groups)
				}
			}
		}
	}
}

// The fewest moves, against trying every deal of eight players.
func TestARedealMovesTheFewest(t *testing.T) {
	for seed := range uint64(40) {
		rng := rand.New(rand.NewPCG(seed, 9))
		players := class(3, 1, 2, 5, 4, 6, 1, 2)
		if seed%2 == 0 {
			players[0].With = []string{"5"}
		}
		if seed%3 == 0 {
			players[1].Apart = []string{"2"}
		}
		ask := Ask{Groups: 3, Way: Near, Now: make([][]string, 3)}
		for i := range players {
			if g := rng.IntN(4); g < 3 { // a quarter has come new
				ask.Now[g] = append(ask.Now[g], players[i].ID)
			}
		}
		d, err := newDeal(players, ask)
		if err != nil {
			t.Fatal(err)
		}
		moved := func(at []int) (n int) {
			for b, g := range at {
				n += d.known[b] - d.home[b][g]
			}
			return n
		}
		fewest, at := 99, make([]int, len(d.bundles))
		var every func(b int)
		every = func(b int) {
			if b == len(at) {
				if d.cost(at) < sizeCost { // sizes as even as can be, and nobody meets who must not
					fewest = min(fewest, moved(at))
				}
				return
			}
			for g := range 3 {
				at[b] = g
				every(b + 1)
			}
		}
		every(0)
		groups, err := Groups(players, ask)
		if err != nil {
			t.Fatal(err)
		}
		for b := range d.bundles {
			at[b] = groupOf(groups, d.bundles[b].members[0])
		}
		if d.cost(at) >= sizeCost || moved(at) != fewest {
			t.Errorf("seed %d: %d moved, %d would do; %v", seed, moved(at), fewest, groups)
		}
	}
}

// T. P. Kirkman's schoolgirls (The Lady's and Gentleman's Diary, 1850), and the affine planes of order 3 and 4: nobody
// with anybody twice.
func TestNobodyMeetsTwiceOverTheWeeks(t *testing.T) {
	for _, c := range []struct{ n, groups, weeks, repeats int }{{15, 5, 7, 0}, {9, 3, 4, 0}, {16, 4, 5, 0}, {32, 8, 7, 0}, {20, 5, 3, 0}, {6, 3, 5, 0}} {
		for seed := range uint64(3) {
			deals := Weeks(c.n, c.groups, c.weeks, seed)
			met := map[[2]int]int{}
			for w, groups := range deals {
				seen := map[int]bool{}
				for _, g := range groups {
					for _, a := range g {
						seen[a] = true
						for _, b := range g {
							if a < b {
								met[[2]int{a, b}]++
							}
						}
					}
				}
				if len(seen) != c.n || len(groups) != c.groups {
					t.Errorf("%d in %d groups, week %d: %v", c.n, c.groups, w, groups)
				}
			}
			repeats := 0
			for _, n := range met {
				repeats += n - 1
			}
			if repeats != c.repeats || len(deals) != c.weeks {
				t.Errorf(
					"%d players in %d groups for %d weeks, seed %d: %d repeats, want %d",
					c.n,
					c.groups,
					c.weeks,
					seed,
					repeats,
					c.repeats,
				)
			}
		}
	}
	if odd := Weeks(11, 3, 4, 1); len(odd) != 4 || len(odd[0][0])+len(odd[0][1])+len(odd[0][2]) != 11 {
		t.Errorf("eleven in three groups: %v", odd)
	}
}

func TestTogetherAndApartHold(t *testing.T) {
	players := class(1.1, 1.9, 2.5, 1.2, 2.8, 1.4, 2.2, 1.7, 2.9, 1.3, 2.1, 1.5, 2.7, 1.6, 2.4, 1.8, 2.3)
	players[0].With = []string{"8"} // two sisters, far apart in level
	players[3].Apart = []string{"9", "5"}
	for seed := range uint64(30) {
		groups, err := Groups(players, Ask{Groups: 4, Way: Near, Seed: seed})
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
	once, _ := Groups(players, Ask{Groups: 4, Way: Near, Seed: 5})
	twice, _ := Groups(players, Ask{Groups: 4, Way: Near, Seed: 5})
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
	_, err := Groups(forty, Ask{Groups: 4, Way: Near, Seed: 1})
	var clash *Clash
	if !errors.As(err, &clash) || len(clash.Players) != 40 || !strings.Contains(clash.Why, "P00") ||
		!strings.Contains(clash.Why, "40 groups") {
		t.Errorf("forty apart in four groups: %v", err)
	}
	if groups, err := Groups(forty, Ask{Groups: 40, Way: Near, Seed: 1}); err != nil || len(groups) != 40 {
		t.Errorf("forty apart in forty groups: %v", err)
	}
	pair := class(1, 2)
	pair[0].With, pair[1].Apart = []string{"1"}, []string{"0"}
	if _, err := Groups(pair, Ask{Groups: 2, Way: Mixed, Seed: 1}); err == nil ||
		!strings.Contains(err.Error(), "P00 and P01") && !strings.Contains(err.Error(), "P01 and P00") {
		t.Errorf("together and apart at once: %v", err)
	}
}

// Five in a ring, each apart from both neighbours, go into three groups and never into two, although no three of them
// are all apart: a ring of an odd number has no two colours (the textbook case of graph colouring).
func TestARingOfFiveNeedsThreeGroups(t *testing.T) {
	ring := class(5, 4, 3, 2, 1)
	for i := range ring {
		ring[i].Apart = []string{ring[(i+1)%5].ID}
	}
	_, err := Groups(ring, Ask{Groups: 2, Way: Near, Seed: 1})
	var clash *Clash
	if !errors.As(err, &clash) || !strings.HasPrefix(clash.Why, "No way was found to keep everyone apart as asked in 2 groups; the tightest are P0") {
		t.Errorf("two groups: %v", err)
	}
	groups, err := Groups(ring, Ask{Groups: 3, Way: Near, Seed: 1})
	if err != nil {
		t.Fatal(err)
	}
	for _, g := range groups {
		for _, i := range g {
			for _, j := range g {
				if slices.Contains(ring[i].Apart, ring[j].ID) {
					t.Errorf("%d and %d are together", i, j)
				}
			}
		}
	}
}

func TestFewPlayers(t *testing.T) {
	for n := range 4 {
		groups, err := Groups(class(make([]float64, n)...), Ask{Groups: 3, Way: Near, Seed: 1})
		if err != nil || len(groups) != 3 {
			t.Errorf("%d players in 3 groups: %v, %v", n, groups, err)
		}
	}
}

func BenchmarkGroups(b *testing.B) {
	for _, c := range []struct{ players, groups int }{{12, 3}, {30, 6}, {60, 10}} {
		levels := make([]float64, c.players)
		met := make([][]float64, c.players)
		for i := range levels {
			levels[i] = float64(i%7) / 2
			met[i] = make([]float64, c.players)
			met[i][(i+5)%c.players] = 0.8
		}
		players := class(levels...)
		for _, way := range Ways {
			b.Run(fmt.Sprintf("%d in %d %s", c.players, c.groups, way), func(b *testing.B) {
				b.ReportAllocs()
				for b.Loop() {
					if _, err := Groups(players, Ask{Groups: c.groups, Way: way, Seed: 3, Met: met}); err != nil {
						b.Fatal(err)
					}
				}
			})
		}
	}
}

func BenchmarkWeeks(b *testing.B) {
	for _, c := range []struct{ n, groups, weeks int }{{15, 5, 7}, {9, 3, 4}, {16, 4, 5}, {32, 8, 7}, {22, 5, 6}} {
		b.Run(fmt.Sprintf("%d in %d for %d", c.n, c.groups, c.weeks), func(b *testing.B) {
			b.ReportAllocs()
			seed := uint64(0)
			for b.Loop() {
				Weeks(c.n, c.groups, c.weeks, seed)
				seed++
			}
		})
	}
}

// Three who are each to be kept apart cannot be in two groups, whichever way they are dealt: that is said, and never
// dealt all the same.
func TestApartIsRefusedInEveryWay(t *testing.T) {
	var players []coach.Player
	for i := range 6 {
		p := coach.Player{ID: string(rune('a' + i)), Name: string(rune('A' + i)), Level: 1 + math.Mod(1.7*float64(i), 4)}
		for j := range 3 {
			if i < 3 && j != i {
				p.Apart = append(p.Apart, string(rune('a'+j)))
			}
		}
		players = append(players, p)
	}
	for _, way := range Ways {
		var clash *Clash
		if got, err := Groups(players, Ask{Groups: 2, Way: way}); !errors.As(err, &clash) {
			t.Errorf("%s: dealt into %v", way, got)
		}
	}
}
