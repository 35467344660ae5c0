package today

import (
	"strings"
	"testing"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/store"
)

// The next whistle is said as people do, where the club is; a session that was begun early is not "next" any more.
func TestTheNextWhistleIsSaidAsPeopleDo(t *testing.T) {
	loc, err := time.LoadLocation("America/St_Johns")
	if err != nil {
		t.Fatal(err)
	}
	now := time.Date(2026, 12, 1, 17, 30, 0, 0, loc) // a Tuesday
	in := func(d time.Duration, started bool) string {
		return when(store.Session{StartsAt: now.Add(d).UTC(), Started: started}, now, loc)
	}
	for got, want := range map[string]string{
		in(-10*time.Minute, true):   "running since 17:20",
		in(30*time.Minute, true):    "running, planned for 18:00",
		in(29*time.Minute, false):   "next whistle in 30 minutes",
		in(2*time.Hour, false):      "next whistle at 19:30",
		in(24*time.Hour, false):     "next whistle tomorrow, 17:30",
		in(24*7*time.Hour-1, false): "next whistle Tuesday, 17:29",
		in(24*3*time.Hour, true):    "running, planned for Friday, 17:30",
	} {
		if got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// Figures of a plan are shown as soon as something is done at its stations; until then there is nothing to count.
func TestFiguresWaitForADrill(t *testing.T) {
	var l app.Loaded
	l.Input = plantest.Tuesday(t)
	planned := func() bool {
		l.Picture = check.Plan(l.Input)
		return view{Next: &l, Findings: l.Picture.Findings}.Chosen()
	}
	if !planned() {
		t.Error("a plan with drills has no figures")
	}
	l.Input.Plan.First().Stations = nil
	if planned() {
		t.Error("a plan without a drill has figures")
	}
}

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
		{what: "one at the very edge", title: strings.Repeat("Wednesday ", 12), x: 672, w: 8, anchor: "start", inside: true, cut: true},
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
