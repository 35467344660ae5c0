package propose_test

import (
	"fmt"

	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/propose"
)

// A whole plan for twelve players in a hall, for what most of them lack.
func ExamplePlan() {
	in := plantest.Hall(12)
	p, err := propose.Plan(in, "circuit", doc.Aim{Kind: "lack"})
	if err != nil {
		fmt.Println(err)
	}
	fmt.Println(p.Why["shape"])
	for _, b := range p.Blocks {
		fmt.Println(b.Title, b.Minutes)
	}
	in.Plan = p
	fmt.Println(len(p.Stations()), "stations; something to stop for:", check.Plan(in).Stops())
	// Output:
	// Most are missing something in catching: 8 of 12.
	// Warm-up 10
	// One key 5
	// Stations 0
	// Game 38
	// Close 6
	// 3 stations; something to stop for: false
}
