package today

import (
	"strings"
	"testing"
)

// A session's name stands in its box, or beside a box that is too short for it; no two that are told at once meet.
func TestANameStandsInItsBoxOrBesideIt(t *testing.T) {
	for _, c := range []struct {
		what, title string
		x, w        float64
		anchor      string
		inside      bool
		cut         bool
	}{
		{what: "an hour and a half", title: "Tuesday hall", x: 400, w: 150, anchor: "start", inside: true},
		{what: "a short one at noon", title: "Skipping club", x: 60, w: 48, anchor: "start"},
		{what: "a short one at night", title: "Skipping club", x: 600, w: 48, anchor: "end"},
		{what: "an endless name", title: strings.Repeat("Wednesday ", 12), x: 300, w: 60, anchor: "start", inside: true, cut: true},
	} {
		b := bar{X: c.x, W: c.w, Title: c.title, Under: "12 of 14 coming"}
		from, to := b.write()
		if b.Anchor != c.anchor || b.Beside == c.inside || strings.HasSuffix(b.Title, "…") != c.cut {
			t.Errorf("%s: %q at %v, %s, of a box from %v", c.what, b.Title, b.TextX, b.Anchor, b.X)
		}
		if from < 0 || to > dayWide || from > b.X || to < b.X+b.W {
			t.Errorf("%s reaches from %v to %v", c.what, from, to)
		}
	}
}
