package edit

import (
	"strconv"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// figure is a number of a block that a stepper sets: the least and the most of it, what it is called, and where it is.
type figure[T any] struct {
	low, high int
	called    string
	of        func(*T) *int
}

// readFigure reads "work 20".
func readFigure[T any](w Wire, figures map[string]figure[T]) (what string, n int, err error) {
	what, value, _ := strings.Cut(strings.TrimSpace(w.Value), " ")
	f, known := figures[what]
	n, err = strconv.Atoi(strings.TrimSpace(value))
	switch {
	case !known:
		return "", 0, doc.Input(w.Do, "The block has no such figure.")
	case err != nil || n < f.low || n > f.high:
		return "", 0, doc.Input(w.Do, "%s from %d to %d, please.", f.called, f.low, f.high)
	}
	return what, n, nil
}

// Within keeps a figure to what the edit "pairing", "interval" or "game-figure" takes of it.
func Within(do, what string, n int) int {
	switch do {
	case "pairing":
		return within(pairingFigures, what, n)
	case "interval":
		return within(intervalFigures, what, n)
	}
	return within(gameFigures, what, n)
}

func within[T any](figures map[string]figure[T], what string, n int) int {
	return min(max(n, figures[what].low), figures[what].high)
}
