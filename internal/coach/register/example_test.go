package register_test

import (
	"fmt"

	"gruppo/internal/coach/register"
)

// Whoever left in the middle came, and is counted on only where it was noted when; whoever is hurt and has a limit goes on.
func ExampleSaid() {
	for _, s := range []register.Said{
		{},
		{Word: register.Away},
		{Word: register.Late, From: 10},
		{Word: register.Left},
		{Word: register.Left, Until: 40},
		{Word: register.Hurt},
		{Word: register.Hurt, No: "jumping"},
	} {
		fmt.Printf("%q %d %q: coming %t, came %t\n", s.Word, s.Until, s.No, s.Coming(), s.Came())
	}
	// Output:
	// "" 0 "": coming true, came false
	// "away" 0 "": coming false, came false
	// "late" 0 "": coming true, came true
	// "left" 0 "": coming false, came true
	// "left" 40 "": coming true, came true
	// "hurt" 0 "": coming false, came true
	// "hurt" 0 "jumping": coming true, came true
}
