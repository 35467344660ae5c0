package deal

import (
	"fmt"
	"testing"

	"gruppo/internal/coach"
)

// By stage: as many as a group holds of each stage are a group each, whoever is listed first; where the numbers do not
// fit, no fewer pairs of one stage are together than in the best of all deals, found by trying every one.
func TestByStage(t *testing.T) {
	for seed := range uint64(8) {
		for _, of := range [][]int{{4, 4, 4}, {3, 3, 2}, {5, 2, 1}} {
			var players []coach.Player
			for i := 0; len(players) < of[0]+of[1]+of[2]; i++ {
				for s, n := range of {
					if i < n {
						players = append(players, coach.Player{ID: fmt.Sprint(s, "-", i), Stage: fmt.Sprint("stage ", s)})
					}
				}
			}
			groups := 3
			if of[0] < 4 || of[1] < 4 {
				groups = 2
			}
			got, err := Groups(players, Ask{Groups: groups, Way: Stage, Seed: seed})
			if err != nil {
				t.Fatal(err)
			}
			if mixed := mixedPairs(players, got); mixed != fewestMixed(players, groups) {
				t.Errorf("%v into %d: %d pairs of two stages in %v", of, groups, mixed, got)
			}
		}
	}
}

func mixedPairs(players []coach.Player, groups [][]int) (n int) {
	for _, g := range groups {
		for i, a := range g {
			for _, b := range g[:i] {
				if players[a].Stage != players[b].Stage {
					n++
				}
			}
		}
	}
	return n
}

// fewestMixed tries every deal into groups whose sizes differ by at most one.
func fewestMixed(players []coach.Player, groups int) int {
	best := 1 << 30
	at := make([][]int, groups)
	most, larger := len(players)/groups, len(players)%groups
	var put func(i int)
	put = func(i int) {
		if i == len(players) {
			over := 0
			for _, g := range at {
				if len(g) > most {
					over++
				}
			}
			if over == larger {
				best = min(best, mixedPairs(players, at))
			}
			return
		}
		for g := range at {
			if len(at[g]) < most+min(1, larger) {
				at[g] = append(at[g], i)
				put(i + 1)
				at[g] = at[g][:len(at[g])-1]
			}
			if len(at[g]) == 0 {
				break // an empty group is as good as another
			}
		}
	}
	put(0)
	return best
}
