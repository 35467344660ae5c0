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

// Toward is where a step takes a figure: as far as the edit takes it, so at its bound it stays where it is. What names
// the figure for an edit of several, as in "work 20".
func Toward(do, what string, now, step int) int {
	back := 1
	if step > 0 {
		back = -1
	}
	for n := now + step; n != now; n += back {
		if _, err := Read(Wire{Do: do, Value: strings.TrimSpace(what + " " + strconv.Itoa(n))}); err == nil {
			return n
		}
	}
	return now
}
