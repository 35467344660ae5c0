package target

import (
	"fmt"
	"math"
	"testing"
	"time"

	"gruppo/internal/coach"
)

func near(t *testing.T, what string, got, want, within float64) {
	t.Helper()
	if math.Abs(got-want) > within {
		t.Errorf("%s = %v, want %v", what, got, want)
	}
}

func tries(t *testing.T, c Chain) float64 {
	t.Helper()
	n, err := c.Tries()
	if err != nil {
		t.Fatal(err)
	}
	return n
}

// The streak against W. Feller, An Introduction to Probability Theory and Its Applications I, XIII.7 (success runs):
// expected tries (1 − pⁿ) / ((1 − p) pⁿ).
func TestStreakAgreesWithFeller(t *testing.T) {
	for _, p := range []float64{0.3, 0.5, 0.6, 0.8, 0.9, 0.97} {
		for n := 1; n <= 12; n++ {
			want := (1 - math.Pow(p, float64(n))) / ((1 - p) * math.Pow(p, float64(n)))
			near(t, fmt.Sprintf("streak of %d at %v", n, p), tries(t, Streak(n, p))/want, 1, 1e-9)
		}
	}
	near(t, "five heads in a row", tries(t, Streak(5, 0.5)), 62, 1e-9)
	near(t, "ten heads in a row", tries(t, Streak(10, 0.5)), 2046, 1e-6)
	// Feller's table for one try a second (from memory): 6.9 and 34.1 minutes.
	for p, minutes := range map[float64]float64{0.6: 6.9, 0.5: 34.1} {
		near(t, "Feller's table", tries(t, Streak(10, p))/60, minutes, 0.06)
	}
}

// Exact arithmetic; no published source.
func TestExpectedTries(t *testing.T) {
	for _, c := range []struct {
		name  string
		chain Chain
		want  float64
	}{
		{"streak of 10 at 0.6", Streak(10, 0.6), 410.954},
		{"streak of 10 at 0.8", Streak(10, 0.8), 41.566},
		{"streak of 10 at 0.9", Streak(10, 0.9), 18.680},
		{"set, all over, 0.9", Set(7, 5, 0.9, AllOver), 389.496},
		{"set, one back, 0.9", Set(7, 5, 0.9, OneBack), 111.142},
		{"set, again, 0.9", Set(7, 5, 0.9, Again), 48.546},
		{"set, all over, 0.8", Set(7, 5, 0.8, AllOver), 12320.95},
		{"set, one back, 0.8", Set(7, 5, 0.8, OneBack), 2825.24},
		{"set, again, 0.8", Set(7, 5, 0.8, Again), 71.81},
		{"rally ladder to 7 at 0.8", Ladder(7, 0.8), 59.209},
		{"rally ladder to 7 at 0.9", Ladder(7, 0.9), 39.075},
		{"team of 0.9 and 0.8", Team(10, []float64{0.9, 0.8}), 27.879},
		{"total of 12 at 0.75", Total(12, 0.75), 16}, // n/p
	} {
		near(t, c.name, tries(t, c.chain), c.want, 0.006)
	}
	if _, err := Streak(3, 0).Tries(); err != ErrNever {
		t.Errorf("no chance: %v, want ErrNever", err)
	}
}

// Exact arithmetic; no published source.
func TestDoneWithin(t *testing.T) {
	for n, want := range map[int]float64{42: 0.64276, 60: 0.78868, 100: 0.93420} {
		near(t, fmt.Sprintf("ten in a row at 0.8 within %d tries", n), Streak(10, 0.8).WithinTries(n), want, 5e-6)
	}
}

func TestFitIsTheLargestThatFourInFiveReach(t *testing.T) {
	group := Alike([]float64{0.8, 0.75, 0.85, 0.8}, 40)
	asked := coach.Target{Kind: coach.RunOf, N: 10}
	a, ok := Fit(asked, group, 9*time.Second)
	if !ok || a.N >= 10 || a.N < 3 {
		t.Fatalf("advice %+v, %v", a, ok)
	}
	asked.N = a.N
	if Reach(asked, group) < 0.8 {
		t.Error("fewer than four in five reach it")
	}
	asked.N++
	if Reach(asked, group) >= 0.8 {
		t.Error("one more would still fit")
	}
	if _, ok := Fit(asked, Alike([]float64{0.01}, 40), 9*time.Second); ok {
		t.Error("advised something to a player who cannot do one")
	}
}

// Whatever is advised is done within the tries that each gets: 31 good ones are never asked of who has 18 tries.
func TestNoMoreIsAskedThanIsGot(t *testing.T) {
	for _, kind := range []coach.TargetKind{coach.Total, coach.RunOf, coach.RallyLadder, coach.SetOfStreaks} {
		for tries := 1; tries <= 40; tries++ {
			a, ok := Fit(coach.Target{Kind: kind, N: 31, Skills: 2}, Alike([]float64{0.99, 1}, tries), time.Second)
			if least := fewest(kind, a.N); ok && least > tries {
				t.Errorf("%s of %d takes %d tries at least; each has %d", kind, a.N, least, tries)
			}
		}
	}
}

// fewest is how many tries a target takes when each of them is good.
func fewest(kind coach.TargetKind, n int) int {
	return map[coach.TargetKind]int{coach.Total: n, coach.RunOf: n, coach.RallyLadder: n * (n + 1) / 2, coach.SetOfStreaks: 2 * n}[kind]
}

// The Jeffreys prior gives (x + ½) / (n + 1); its interval for 0 of 20 reaches from almost nothing to about a tenth
// (Brown, Cai and DasGupta, Statistical Science 16, 2001, use the same prior).
func TestEstimate(t *testing.T) {
	near(t, "8 of 10", Estimate([]Series{{8, 10, 0}}).P, 8.5/11, 1e-12)
	near(t, "nothing known", Estimate(nil).P, 0.5, 1e-12)
	old := Estimate([]Series{{10, 10, 12}, {0, 10, 0}})
	if old.P > 0.25 {
		t.Errorf("ten good ones twelve weeks ago outweigh ten misses today: %v", old.P)
	}
	if r := Estimate([]Series{{8, 10, 0}}); !(r.Low < r.P && r.P < r.High) {
		t.Errorf("range %v–%v around %v", r.Low, r.High, r.P)
	}
}

func ExampleChain_Tries() {
	n, _ := Streak(10, 0.8).Tries()
	fmt.Printf("ten in a row at 8 in 10: about %.0f tries\n", n)
	// Output: ten in a row at 8 in 10: about 42 tries
}

func BenchmarkFit(b *testing.B) {
	group := Alike([]float64{0.8, 0.75, 0.85, 0.8, 0.6}, 40)
	for b.Loop() {
		Fit(coach.Target{Kind: coach.RunOf}, group, 9*time.Second)
	}
}
