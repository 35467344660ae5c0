package rotate

import (
	"fmt"
	"testing"
)

// A cyclic Latin square (L. Euler, 1782): each station once a round, each group at each station once.
func TestNobodyMeetsAndNobodyIsForgotten(t *testing.T) {
	for groups := 1; groups <= 7; groups++ {
		for stations := 1; stations <= 7; stations++ {
			ring := max(groups, stations)
			p := Stations(Asked{Groups: groups, Stations: stations, Rounds: ring})
			rests := map[int]int{}
			for r := range ring {
				taken := map[int]int{}
				for g := range groups {
					s := p.Route[g][r]
					if s == Rest {
						rests[g]++
						continue
					}
					if other, twice := taken[s]; twice {
						t.Errorf("%d groups, %d stations: groups %d and %d meet at station %d in round %d", groups, stations, other, g, s, r)
					}
					taken[s] = g
				}
			}
			for g := range groups {
				seen := map[int]bool{}
				for _, s := range p.Route[g] {
					if s != Rest && seen[s] {
						t.Errorf("%d groups, %d stations: group %d is at station %d twice", groups, stations, g, s)
					}
					seen[s] = true
				}
				if rests[g] != ring-stations {
					t.Errorf("%d groups, %d stations: group %d rests %d times, want %d", groups, stations, g, rests[g], ring-stations)
				}
			}
		}
	}
}

func TestTheRingAvoidsHardInARowThenLongWalks(t *testing.T) {
	// Corners of a 10 m square given crosswise: the short ring goes round the edge.
	corner := [][2]float64{{0, 0}, {10, 10}, {10, 0}, {0, 10}}
	walk := make([][]float64, 4)
	for i := range walk {
		walk[i] = make([]float64, 4)
		for j := range walk[i] {
			walk[i][j] = abs(corner[i][0]-corner[j][0]) + abs(corner[i][1]-corner[j][1])
		}
	}
	if p := Stations(Asked{Groups: 4, Stations: 4, Rounds: 4, Walk: walk}); p.Longest != 10 {
		t.Errorf("longest walk %v m along %v, want 10", p.Longest, p.Order)
	}
	hard := []bool{true, false, true, false}
	p := Stations(Asked{Groups: 4, Stations: 4, Rounds: 4, Walk: walk, Hard: hard})
	for g := range p.Route {
		for r := 1; r < 4; r++ {
			if hard[p.Route[g][r-1]] && hard[p.Route[g][r]] {
				t.Errorf("group %d has two hard stations in a row: %v", g, p.Route[g])
			}
		}
	}
}

func abs(x float64) float64 { return max(x, -x) }

func ExampleStations() {
	for _, route := range Stations(Asked{Groups: 3, Stations: 3, Rounds: 3}).Route {
		fmt.Println(route)
	}
	// Output:
	// [0 1 2]
	// [1 2 0]
	// [2 0 1]
}

func BenchmarkStations(b *testing.B) {
	for b.Loop() {
		Stations(Asked{Groups: 7, Stations: 7, Rounds: 7, Hard: make([]bool, 7)})
	}
}
