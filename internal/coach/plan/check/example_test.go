package check_test

import (
	"fmt"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// A plan of 90 minutes for an hour: what is found, what would mend it, and that it is mended then.
func ExamplePlan() {
	in := work.Input{
		Plan:   doc.Start(90*time.Minute, coach.BallGames),
		Booked: time.Hour,
		Start:  time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC),
		Floor:  floor.Of("hall", 30, 20),
		Players: []coach.Player{
			{ID: "a", Name: "Ada", Stage: "s"},
			{ID: "b", Name: "Bo", Stage: "s"},
			{ID: "c", Name: "Caro", Stage: "s"},
			{ID: "d", Name: "Dov", Stage: "s"},
		},
		Drills: map[string]coach.Drill{
			"wall": {
				ID:      "wall",
				Edition: 1,
				Name:    "Wall passing",
				Places:  2,
				Least:   1,
				Most:    8,
				Pace:    10,
				Length:  6,
				Width:   4,
				Leader:  coach.SelfRun,
			},
		},
	}
	wall := doc.Task{Drill: "wall", Edition: 1}
	if err := in.Edit(edit.AddStation{Task: wall}, edit.AddStation{Task: wall}, edit.Groups{Count: 2}, edit.Minutes{Block: "b4", For: 40}); err != nil {
		fmt.Println(err)
	}
	pic := check.Plan(in)
	long := pic.Findings[0]
	fmt.Println(long.Weight, "at", long.Where()+":", long.Says())
	for _, m := range long.Mends {
		fmt.Println("-", m.Words)
	}
	if err := in.Edit(long.Mends[0].Edits...); err != nil {
		fmt.Println(err)
	}
	fmt.Println(check.Plan(in).Stops())
	// Output:
	// stop at Time: The plan runs 14:30 over the booked time.
	// - Game to 25 min
	// false
}
