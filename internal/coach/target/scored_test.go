package target

import (
	"math"
	"testing"
	"time"

	"gruppo/internal/coach"
)

// A walk that a miss sets back by one, but never under nothing, takes n(n + 1) tries to n points at p = ½, and
// n/(p − q) − q/(p − q)²·(1 − (q/p)ⁿ) else: the duration of play with a reflecting barrier, after W. Feller, An
// Introduction to Probability Theory and Its Applications I, XIV (from memory). A miss that costs nothing and no better
// ones is a total.
func TestPointsAreAWalk(t *testing.T) {
	tries := func(c Chain) float64 {
		n, err := c.Tries()
		if err != nil {
			t.Fatal(err)
		}
		return n
	}
	near(t, "20 points at one half, a miss costs one", tries(Score(20, 0.5, 1, 0, 0)), 420, 1e-6)
	for _, p := range []float64{0.4, 0.6, 0.8} {
		for _, n := range []int{1, 5, 12} {
			q := 1 - p
			want := float64(n)/(p-q) - q/((p-q)*(p-q))*(1-math.Pow(q/p, float64(n)))
			near(t, "a walk", tries(Score(n, p, 1, 0, 0)), want, 1e-6*want)
			near(t, "a total", tries(Score(n, p, 0, 0, 0)), float64(n)/p, 1e-9)
		}
	}
	// By hand: 2 points, half of the good ones give both, misses free, p = ½. From nothing: E = 1 + ½E + ¼E₁, E₁ = 2.
	near(t, "a better one gives two", tries(Score(2, 0.5, 0, 1, 0.5)), 3, 1e-9)
	near(t, "and within two tries", Score(2, 0.5, 0, 1, 0.5).WithinTries(2), 0.25+0.25*0.5+0.5*0.25, 1e-12)
}

// The chance that at most c of n are faulty is a point of the operating characteristic curve of a single sampling plan;
// n = 10, c = 2 at 10 % is 0.9298, as in every table of the binomial distribution.
func TestFaultsAreBinomial(t *testing.T) {
	near(t, "2 in 10 at 0.9", Faults{2, 10}.Stays(0.9), 0.9298, 5e-5)
	near(t, "none in 3", Faults{0, 3}.Stays(0.5), 0.125, 1e-12)
	if k := FewestFaults(10, []float64{0.8}); k != 3 { // P(≤2) = 0.6778, P(≤3) = 0.8791
		t.Errorf("the fewest of 10 at 0.8: %d", k)
	}
}

// Against stepping every way a game can go, a showing at a time, until less than a billionth is still open; and with
// one letter between equals (1 + p)/(2 + p), by hand.
func TestMatchingShots(t *testing.T) {
	for _, p := range []float64{0.2, 0.5, 0.9} {
		wins, _ := Letters{1}.Plays(p, p)
		near(t, "one letter between equals", wins, (1+p)/(2+p), 1e-12)
	}
	type state struct{ own, other, shows int }
	for _, g := range []struct {
		to   int
		p, q float64
	}{{3, 0.7, 0.5}, {5, 0.6, 0.6}, {2, 0.9, 0.3}} {
		open := map[state]float64{{}: 1}
		wins, shots := 0.0, 0.0
		for left := 1.0; left > 1e-9; {
			next := map[state]float64{}
			for s, w := range open {
				show, match := g.p, g.q
				if s.shows == 1 {
					show, match = g.q, g.p
				}
				shots += w * (1 + show)
				next[state{s.own, s.other, 1 - s.shows}] += w * (1 - show)
				next[s] += w * show * match
				lost := s
				if s.shows == 0 {
					lost.other++
				} else {
					lost.own++
				}
				switch w *= show * (1 - match); {
				case lost.other == g.to:
					wins += w
				case lost.own < g.to:
					next[lost] += w
				}
			}
			open, left = next, 0
			for _, w := range open {
				left += w
			}
		}
		gotWins, gotShots := Letters{g.to}.Plays(g.p, g.q)
		near(t, "who shows first wins", gotWins, wins, 1e-7)
		near(t, "shots", gotShots, shots, 1e-5)
	}
	if wins, shots := (Letters{3}).Plays(0, 0); wins != 0 || shots != 0 {
		t.Error("nobody makes one, and still it ends")
	}
}

// Equal players share the rallies; one who always wins plays them all, and the others half each; and for others against
// counting ten thousand rallies, chance by chance.
func TestWhoPlaysWhereTheLoserFeeds(t *testing.T) {
	pair := func(p01, p02, p12 float64) [3][3]float64 {
		return [3][3]float64{{0, p01, p02}, {1 - p01, 0, p12}, {1 - p02, 1 - p12, 0}}
	}
	for i, x := range FeedShares(pair(0.5, 0.5, 0.5)) {
		near(t, "equals", x, 2.0/3, 1e-12)
		near(t, "one who wins all", FeedShares(pair(1, 1, 0.5))[i], []float64{1, 0.5, 0.5}[i], 1e-12)
	}
	beats := pair(0.8, 0.6, 0.3)
	feeds, sums := [3]float64{1, 0, 0}, [3]float64{}
	const rallies = 10_000
	for range rallies {
		var then [3]float64
		for f, w := range feeds {
			sums[f] += w / rallies
			i, j := (f+1)%3, (f+2)%3
			then[j] += w * beats[i][j]
			then[i] += w * beats[j][i]
		}
		feeds = then
	}
	for i, x := range FeedShares(beats) {
		near(t, "three of different strength", x, 1-sums[i], 1e-3)
	}
}

// What a coach reads: whom it favours, what it takes, and the number that suits better.
func TestAsk(t *testing.T) {
	group := Players{Who: Alike([]float64{0.8, 0.8, 0.8, 0.8}, 60), AtOnce: 4, Try: 4 * time.Second, Round: 5 * time.Minute}
	for _, c := range []struct {
		t      coach.Target
		says   string
		better int
	}{
		{coach.Target{Kind: coach.Race, N: 7, Against: 11},
			"Between equals about 13 points, and the first side wins 83 games in 100; it would be even if it won 38 points in 100.", 0},
		{coach.Target{Kind: coach.Race, N: 7, Swap: "end"},
			"Between equals about 11 points. With sides swapped it is as many again, and each wins both games 25 times in 100.", 0},
		{coach.Target{Kind: coach.FewFaults, N: 1, Of: 10},
			"38 of 100 goes of these players stay within it; a go takes about 0:40.", 3},
		{coach.Target{Kind: coach.Gate, N: 40, Opens: "slides"},
			"About 50 tries of all together, 13 of each, in 0:50.", 0},
		{coach.Target{Kind: coach.Gate, N: 400, Opens: "slides"},
			"About 500 tries of all together, 125 of each, in 8:20.", 192},
		{coach.Target{Kind: coach.MatchTheShot, N: 1},
			"Between equals about 11 shots, in 0:45; whoever shows first wins 64 games in 100.", 0},
	} {
		a, ok := Ask(c.t, group)
		if !ok || a.Says != c.says || a.Better != c.better {
			t.Errorf("%v:\n%q, %d\nnot\n%q, %d", c.t, a.Says, a.Better, c.says, c.better)
		}
	}
	if _, ok := Ask(coach.Target{Kind: coach.OwnRules, Rules: "last one standing"}, group); ok {
		t.Error("own rules are worked out")
	}
}
