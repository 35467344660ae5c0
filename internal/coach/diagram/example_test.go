package diagram_test

import (
	"fmt"

	"gruppo/internal/coach/diagram"
)

// Three metres up and four across.
func ExampleMetres() {
	fmt.Println(diagram.Metres([][2]float64{{1, 1}, {1, 4}, {5, 4}}))
	// Output: 7
}
