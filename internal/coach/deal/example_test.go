package deal_test

import (
	"fmt"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
)

// Six of levels one to six in two groups: near in level, and mixed.
func ExampleGroups() {
	var players []coach.Player
	for i, name := range []string{"Ada", "Bo", "Caro", "Dov", "Elif", "Finn"} {
		players = append(players, coach.Player{ID: name, Name: name, Level: float64(i + 1)})
	}
	for _, way := range []deal.Way{deal.Near, deal.Mixed} {
		groups, err := deal.Groups(players, deal.Ask{Groups: 2, Way: way})
		if err != nil {
			fmt.Println(err)
		}
		for _, g := range groups {
			sum := 0.0
			for _, i := range g {
				sum += players[i].Level
			}
			fmt.Printf("%s: %d players, mean level %.1f\n", way, len(g), sum/float64(len(g)))
		}
	}
	// Output:
	// near in level: 3 players, mean level 5.0
	// near in level: 3 players, mean level 2.0
	// mixed levels: 3 players, mean level 3.7
	// mixed levels: 3 players, mean level 3.3
}
