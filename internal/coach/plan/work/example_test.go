package work_test

import (
	"fmt"

	"gruppo/internal/coach/plan/work"
)

// Twenty-four metres at 1.2 metres a second are 20 s, and 15 s to settle.
func ExampleChangeFor() {
	fmt.Println(work.ChangeFor(24))
	// Output: 35s
}

// Ada and Bo were together last time and the time before, Ada and Caro two times ago.
func ExampleMet() {
	met := work.Met([][][]string{{{"Ada", "Bo"}, {"Caro", "Dov"}}, {{"Ada", "Bo", "Caro"}, {"Dov"}}})
	fmt.Println(met[[2]string{"Ada", "Bo"}], met[[2]string{"Ada", "Caro"}], met[[2]string{"Ada", "Dov"}])
	// Output: 1.75 0.75 0
}
