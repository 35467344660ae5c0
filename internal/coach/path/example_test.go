package path_test

import (
	"fmt"

	"gruppo/internal/coach/path"
)

// The shot comes after the approach, and that after the throw; then the throw cannot come after the shot.
func ExampleClimb() {
	links := []path.Link{
		{Drill: "jump shot", Kind: path.After, Other: "approach"},
		{Drill: "approach", Kind: path.After, Other: "standing throw"},
	}
	fmt.Println(path.Climb(links, "jump shot"))
	fmt.Println(path.Loop(links, path.Link{Drill: "standing throw", Kind: path.After, Other: "jump shot"}))
	// Output:
	// [standing throw approach jump shot]
	// [standing throw jump shot approach standing throw]
}
