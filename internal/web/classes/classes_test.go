package classes

import "testing"

// A class shows the sessions that come next, and the others when they are asked for; a list is not folded for one line.
func TestLaterSessionsAreFolded(t *testing.T) {
	for planned, want := range map[int][2]int{0: {0, 0}, 4: {4, 0}, 5: {5, 0}, 6: {4, 2}, 52: {4, 48}} {
		r := classRow{Planned: make([]sessionRow, planned)}
		if got := [2]int{len(r.Soon()), len(r.Later())}; got != want {
			t.Errorf("of %d planned: %v, want %v", planned, got, want)
		}
	}
}
