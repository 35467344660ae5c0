package exchange

import (
	"embed"
	"fmt"

	"gruppo/internal/coach"
)

//go:embed starters
var starters embed.FS

// Starter is what a new program of a family begins with: three stages, meant to be changed. They are ladder files, as a
// club writes them. Ids are left to the caller. The figures are common practice, no source.
func Starter(f coach.Family) ([]coach.Stage, error) {
	b, err := starters.ReadFile("starters/" + string(f) + ".ladder.json")
	if err != nil {
		return nil, fmt.Errorf("read a starter's ladder: %w", err)
	}
	_, stages, err := ReadLadder(b)
	return stages, err
}
