package edit_test

import (
	"fmt"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
)

// What a button sends is read into an edit, which says what it is called and is made on a copy of the plan.
func ExampleApply() {
	plan := doc.Start(time.Hour, coach.BallGames)
	e, err := edit.Read(edit.Wire{Do: "minutes", At: "b1", Value: "7"})
	if err != nil {
		fmt.Println(err)
	}
	next, needs, err := edit.Apply(plan, e)
	fmt.Println(e.Called(plan), "·", plan.Blocks[0].Minutes, "→", next.Blocks[0].Minutes, needs == edit.Nothing, err)
	_, err = edit.Read(edit.Wire{Do: "minutes", At: "b1", Value: "soon"})
	fmt.Println(err)
	// Output:
	// block 1: 7 min · 10 → 7 true <nil>
	// Minutes from 1 to 240, please.
}
