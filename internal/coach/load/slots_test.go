package load_test

import (
	"fmt"
	"testing"
	"time"

	"gruppo/internal/coach/load"
)

func allOut(places, feeders, times int) load.Station {
	return load.Station{
		Places: places,
		Roles:  feeders,
		Pace:   84,
		Turns:  load.Turns{Work: 10 * time.Second, Rest: 60 * time.Second, Each: times},
	}
}

// The worked example of a practitioner's account, as rules.md has it: three players, a coach feeds, ten seconds of work,
// a minute of rest, twice each. The cycle gives twenty seconds of rest, forty are added; a turn takes fourteen balls.
func TestThreePlayersAllOut(t *testing.T) {
	s := allOut(1, 0, 2)
	slots, takes := s.Slots(3)
	var says []string
	for _, x := range slots {
		says = append(says, fmt.Sprintf("%v %v", x.From.Seconds(), x.Up))
	}
	if got, want := fmt.Sprint(says), "[0 [0] 10 [1] 20 [2] 70 [0] 80 [1] 90 [2]]"; got != want {
		t.Errorf("who is up: %s, want %s", got, want)
	}
	if _, pause := s.RestFor(3); pause != 40*time.Second || takes != 140*time.Second || s.Balls(3, 0) != 14 {
		t.Errorf("a pause of %v, %v in all, %d balls", pause, takes, s.Balls(3, 0))
	}
	if got, want := s.FullGroup(), 7; got != want {
		t.Errorf("%d players need no pause, want %d", got, want)
	}
}

// Whoever comes, however many may work at once and feed: nobody works twice at a time or feeds while working, turns
// differ by one at most, the rest asked for is had where nobody feeds, and all takes as long as Series says.
func TestTurnsAreFair(t *testing.T) {
	for n := 1; n <= 13; n++ {
		for places := 1; places <= 4; places++ {
			for feeders := 0; feeders <= 2; feeders++ {
				s := allOut(places, feeders, 5)
				slots, takes := s.Slots(n)
				what := fmt.Sprintf("%d players, %d places, %d feeders", n, places, feeders)
				s.Roles = min(feeders, n-1)
				if want := s.Series(n, 5, 1, 0); takes != want {
					t.Errorf("%s: %v, want %v", what, takes, want)
				}
				turns, last := make([]int, n), make([]time.Duration, n)
				for i, x := range slots {
					busy := map[int]bool{}
					for _, p := range append(append([]int{}, x.Up...), x.Feed...) {
						if busy[p] {
							t.Errorf("%s: %d does two things at %v", what, p, x.From)
						}
						busy[p] = true
					}
					if i > 0 && x.From < slots[i-1].To {
						t.Errorf("%s: two slots at once at %v", what, x.From)
					}
					for _, p := range x.Up {
						if feeders == 0 && turns[p] > 0 && x.From-last[p] < s.Rest {
							t.Errorf("%s: %d rests %v", what, p, x.From-last[p])
						}
						turns[p]++
						last[p] = x.To
					}
				}
				least, most := turns[0], turns[0]
				for _, k := range turns {
					least, most = min(least, k), max(most, k)
				}
				if most-least > 1 || most == 0 {
					t.Errorf("%s: %v turns", what, turns)
				}
			}
		}
	}
	if slots, takes := allOut(2, 1, 3).Slots(0); slots != nil || takes != 0 {
		t.Errorf("nobody: %v, %v", slots, takes)
	}
}
