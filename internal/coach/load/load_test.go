package load

import (
	"fmt"
	"math"
	"testing"
	"time"
)

// Common practice, no source: twelve in one line at one ball get 15 to 20 repetitions in a practice; split in three they get 50.
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
				sh := Station{places, roles, 6}.At(n, 7*time.Minute)
				if sum := sh.Active + sh.InRole + sh.Waiting; (sum-7*time.Minute).Abs() > time.Microsecond || sh.Waiting < -time.Microsecond {
					t.Errorf("%d players, %d places, %d roles: %v active + %v in a role + %v waiting", n, places, roles, sh.Active, sh.InRole, sh.Waiting)
				}
			}
		}
	}
	if (Station{3, 0, 5}.At(0, time.Minute) != Share{}) {
		t.Error("nobody there got something")
	}
}

// Common practice, no source: ten seconds all out want sixty seconds of rest.
func TestWorkAndRest(t *testing.T) {
	allOut := Turns{Places: 1, Work: 10 * time.Second, Rest: time.Minute}
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

func ExampleStation_At() {
	sh := Station{Places: 2, Pace: 8}.At(5, 6*time.Minute)
	fmt.Printf("%.0f repetitions, %v active\n", sh.Reps, sh.Active)
	// Output: 19 repetitions, 2m24s active
}

// Common practice, no source: 10 s of work, 60 s rest, 2 series an exercise, 3 min between exercises. Seven at one place need no
// pause, so a series is 70 s: two exercises of two are 4 · 70 + 180 s. About 14 strokes fit in 10 s.
func TestSeriesAndBalls(t *testing.T) {
	turns := Turns{Places: 1, Work: 10 * time.Second, Rest: 60 * time.Second}
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
		Station{3, 1, 6}.At(7, 6*time.Minute)
	}
}
