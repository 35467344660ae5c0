package season_test

import (
	"fmt"

	"gruppo/internal/coach/season"
	"gruppo/internal/day"
)

// Four players jump twice on one day. The differences are 4, −2, 1 and 1 cm: their variance is 6, so the typical error of
// one try is √(6/2) = 1.73 cm, and of the mean of two √2 times less.
func ExampleNoiseOf() {
	on := day.New(2026, 11, 24)
	noise := season.NoiseOf([]season.Taken{
		{On: on, Player: "Ada", Tries: []float64{150, 154}},
		{On: on, Player: "Bo", Tries: []float64{142, 140}},
		{On: on, Player: "Caro", Tries: []float64{161, 162}},
		{On: on, Player: "Dov", Tries: []float64{130, 131}},
	})
	fmt.Printf("%.2f cm of %d pairs\n", noise.Error, noise.Pairs)
	// Output:
	// 1.22 cm of 4 pairs
}

// The newest first: missed, missed, came.
func ExampleMissed() {
	came := []bool{false, false, true, false}
	fmt.Println(season.Missed(came), season.FallsAway(came))
	// Output:
	// 2 false
}
