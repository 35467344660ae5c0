package load

import (
	"fmt"
	"math"
	"testing"
	"time"

	"gruppo/internal/coach"
)

// Common practice, no source: twelve in one line at one ball get 15 to 20 repetitions in a practice; split in three
// they get 50.
func TestTwelveInALine(t *testing.T) {
	one := Station{Places: 1, Pace: 10}.At(12, 20*time.Minute)
	if math.Abs(one.Reps-16.67) > 0.01 {
		t.Errorf("one line: %.2f repetitions, want 16.67", one.Reps)
	}
	three := Station{Places: 1, Pace: 10}.At(4, 20*time.Minute)
	if math.Abs(three.Reps-50) > 1e-9 {
		t.Errorf("three lines: %.2f repetitions, want 50", three.Reps)
	}
	if one.Wait <= three.Wait {
		t.Errorf("the long line waits %v between turns, the short one %v", one.Wait, three.Wait)
	}
}

func TestEveryMinuteIsAccountedFor(t *testing.T) {
	for n := 1; n <= 12; n++ {
		for places := 1; places <= 6; places++ {
			for roles := 0; roles <= 2; roles++ {
				sh := Station{Places: places, Roles: roles, Pace: 6}.At(n, 7*time.Minute)
				if sum := sh.Active + sh.InRole + sh.Resting + sh.Waiting; (sum-7*time.Minute).Abs() > time.Microsecond ||
					sh.Waiting < -time.Microsecond {
					t.Errorf(
						"%d players, %d places, %d roles: %v active + %v in a role + %v waiting",
						n,
						places,
						roles,
						sh.Active,
						sh.InRole,
						sh.Waiting,
					)
				}
			}
		}
	}
	if (Station{Places: 3, Pace: 5}.At(0, time.Minute) != Share{}) {
		t.Error("nobody there got something")
	}
}

// Common practice, no source: ten seconds all out want sixty seconds of rest.
func TestWorkAndRest(t *testing.T) {
	allOut := Station{Places: 1, Turns: Turns{Work: 10 * time.Second, Rest: time.Minute}}
	if n := allOut.FullGroup(); n != 7 {
		t.Errorf("%d players need no pause, want 7", n)
	}
	allOut.Change = 5 * time.Second
	if rest, add := allOut.RestFor(3); rest != 35*time.Second || add != 25*time.Second {
		t.Errorf("three players rest %v and need %v more, want 35 s and 25 s", rest, add)
	}
	if _, add := allOut.RestFor(allOut.FullGroup()); add != 0 {
		t.Errorf("the full group still needs %v", add)
	}
}

// The worked example of the rules: 10 s of work, 60 s rest, 2 turns, 84 strokes a minute, 3 players, the coach feeds:
// 28 tries each, 14 balls a turn; once round is 30 s, which leaves 20 s of rest, so 40 s are added. A feeder from the
// group is one fewer at work.
func TestTurnsAreTheTruth(t *testing.T) {
	d := coach.Drill{Places: 1, Pace: 84, Work: 10, Rest: 60, Series: 2}
	s := Of(d)
	sh := s.At(3, 6*time.Minute)
	if math.Abs(sh.Reps-28) > 1e-9 || sh.Turns != 2 || sh.Active != 20*time.Second || sh.Resting != 2*time.Minute ||
		s.Balls(3, 6*time.Minute) != 14 {
		t.Errorf("%+v, %d balls", sh, s.Balls(3, 6*time.Minute))
	}
	if rest, add := s.RestFor(3); s.Cycle(3) != 30*time.Second || rest != 20*time.Second || add != 40*time.Second {
		t.Errorf("once round %v, rests %v, add %v", s.Cycle(3), rest, add)
	}
	d.Roles = []string{"feeder"}
	if s = Of(d); s.Cycle(3) != 20*time.Second || s.FullGroup() != 8 {
		t.Errorf("with a feeder of their own: once round %v, %d need no pause", s.Cycle(3), s.FullGroup())
	}
	if sh := s.At(3, 6*time.Minute); sh.InRole <= 0 || math.Abs(sh.Reps-28) > 1e-9 {
		t.Errorf("with a feeder of their own: %+v", sh)
	}
	// Stepped second by second: the players go in sets of as many as there are places; a set begins when the places are
	// free and its rest is over.
	for n := 1; n <= 9; n++ {
		for places := 1; places <= 3; places++ {
			s := Station{Places: places, Pace: 60, Turns: Turns{Work: 10 * time.Second, Rest: 30 * time.Second}}
			sets := (n + places - 1) / places
			ended := make([]int, sets)
			for i := range ended {
				ended[i] = -1000
			}
			total, free, next := 0, 0, 0
			for at := 0; at+10 <= 600; at++ {
				if at >= free && at-ended[next] >= 30 {
					total += min(places, n-next*places)
					free, ended[next] = at+10, at+10
					next = (next + 1) % sets
				}
			}
			if got := s.At(n, 10*time.Minute).Turns * float64(n); math.Abs(got-float64(total)) > 1e-6 {
				t.Errorf("%d players at %d: %.1f turns in all, stepped %d", n, places, got, total)
			}
		}
	}
}

func ExampleStation_At() {
	sh := Station{Places: 2, Pace: 8}.At(5, 6*time.Minute)
	fmt.Printf("%.0f repetitions, %v active\n", sh.Reps, sh.Active)
	// Output: 19 repetitions, 2m24s active
}

// Common practice, no source: 10 s of work, 60 s rest, 2 series an exercise, 3 min between exercises. Seven at one
// place need no pause, so a series is 70 s: two exercises of two are 4 · 70 + 180 s. About 14 strokes fit in 10 s.
func TestSeriesAndBalls(t *testing.T) {
	turns := Station{Places: 1, Turns: Turns{Work: 10 * time.Second, Rest: 60 * time.Second}}
	for n, want := range map[int]time.Duration{7: 460 * time.Second, 3: 460 * time.Second, 9: 540 * time.Second} {
		if got := turns.Series(n, 2, 2, 3*time.Minute); got != want {
			t.Errorf("%d players: %v, want %v", n, got, want)
		}
	}
	if got := Balls(84, 10*time.Second); got != 14 {
		t.Errorf("%d balls for ten seconds, want 14", got)
	}
}

func BenchmarkAt(b *testing.B) {
	b.ReportAllocs()
	for b.Loop() {
		Station{Places: 3, Roles: 1, Pace: 6}.At(7, 6*time.Minute)
	}
}
