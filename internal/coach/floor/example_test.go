package floor_test

import (
	"fmt"

	"gruppo/internal/coach/floor"
)

// Three badminton courts across a hall of 25 by 18 metres; a fourth would go in.
func ExampleLay() {
	areas, ok := floor.Lay(25, 18, floor.Courts{Kind: "badminton", N: 3})
	for _, a := range areas {
		fmt.Printf("%s: %.1f × %.1f m\n", a.Name, a.Length, a.Width)
	}
	fmt.Println(ok, floor.MostOf("badminton", 25, 18))
	// Output:
	// Badminton 1: 6.1 × 13.4 m
	// Badminton 2: 6.1 × 13.4 m
	// Badminton 3: 6.1 × 13.4 m
	// true 4
}
