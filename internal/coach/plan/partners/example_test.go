package partners_test

import (
	"fmt"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/partners"
)

// Two turns of two against two, of five: who rests has played one game less.
func ExampleStandings() {
	p := map[string]coach.Player{}
	for _, name := range []string{"Ada", "Bo", "Caro", "Dov", "Elif"} {
		p[name] = coach.Player{ID: name, Name: name}
	}
	standings := partners.Standings([]partners.Turn{
		{
			Teams:  [][]coach.Player{{p["Ada"], p["Bo"]}, {p["Caro"], p["Dov"]}},
			Scores: [][]int{{7, 7}, {5, 5}},
			Rests:  []coach.Player{p["Elif"]},
		},
		{
			Teams:  [][]coach.Player{{p["Ada"], p["Caro"]}, {p["Bo"], p["Elif"]}},
			Scores: [][]int{{4, 4}, {7, 7}},
			Rests:  []coach.Player{p["Dov"]},
		},
	})
	for _, s := range standings {
		fmt.Println(s.Player.Name, s.Points, "points in", s.Games)
	}
	// Output:
	// Bo 14 points in 2
	// Ada 11 points in 2
	// Caro 9 points in 2
	// Elif 7 points in 1
	// Dov 5 points in 1
}
