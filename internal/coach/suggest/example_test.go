package suggest_test

import (
	"fmt"

	"gruppo/internal/coach"
	"gruppo/internal/coach/suggest"
)

// For passing, which four of the players lack, in a small hall: the drill for it comes first, what needs more floor
// than there is last.
func ExampleDrills() {
	shelf := []coach.Drill{
		{
			ID:     "1",
			Name:   "Balance on a line",
			Skills: []string{"balance"},
			Least:  2,
			Most:   8,
			Length: 5,
			Width:  3,
			Leader: coach.SelfRun,
		},
		{
			ID:     "2",
			Name:   "Full-court passing",
			Skills: []string{"passing"},
			Least:  2,
			Most:   8,
			Length: 40,
			Width:  20,
			Leader: coach.SelfRun,
		},
		{
			ID:     "3",
			Name:   "Wall passing",
			Skills: []string{"passing"},
			Least:  2,
			Most:   8,
			Length: 6,
			Width:  4,
			Leader: coach.SelfRun,
		},
	}
	ask := suggest.For{
		Use:     suggest.Station,
		Aim:     "passing",
		Lacks:   map[string]int{"passing": 4},
		Players: 8,
		Size:    4,
		Length:  20,
		Width:   12,
	}
	for _, s := range suggest.Drills(shelf, ask) {
		fmt.Println(s.Drill.Name, s.But)
	}
	// Output:
	// Wall passing []
	// Balance on a line []
	// Full-court passing [needs 40 × 20 m]
}
