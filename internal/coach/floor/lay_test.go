package floor

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"
)

// Four badminton courts (BWF Laws, Law 1: 13.40 × 6.10 m) and a beam beside a floor (FIG Apparatus Norms) are laid out
// in one hall by number; what does not go in is said, and how many would.
func TestCourtsAreLaidOutByNumber(t *testing.T) {
	for _, c := range []struct {
		l, w  float64
		court []Courts
		fits  bool
	}{
		{32, 16, []Courts{{"badminton", 4}}, true}, {16, 32, []Courts{{"badminton", 4}}, true}, {44, 27, []Courts{{"badminton", 9}}, true}, {15, 12, []Courts{{"badminton", 4}}, false},
		{13.4, 6.1, []Courts{{"badminton", 1}}, true}, {6.1, 13.4, []Courts{{"badminton", 1}}, true}, {25, 20, []Courts{{"gym-floor", 1}, {"beam", 2}}, true}, {12, 12, []Courts{{"gym-floor", 1}, {"beam", 1}}, false},
	} {
		areas, ok := Lay(c.l, c.w, c.court...)
		if ok != c.fits {
			t.Errorf("%v in %v × %v: %v", c.court, c.l, c.w, ok)
			continue
		}
		names := map[string]bool{}
		for i, a := range areas {
			if !a.spot().Within(Spot{Length: c.l, Width: c.w}) {
				t.Errorf("%v leaves the hall of %v × %v", a, c.l, c.w)
			}
			for _, o := range areas[:i] {
				if a.spot().Meets(o.spot()) {
					t.Errorf("%v and %v share floor", a, o)
				}
			}
			names[a.Name] = true
			k := Of(a.Kind, 0, 0)
			if math.Abs(a.Length*a.Width-k.Length*k.Width) > 1e-9 ||
				math.Abs(max(a.Length, a.Width)-max(k.Length, k.Width)) > 1e-9 {
				t.Errorf("%v has not the size of its rule, %v × %v", a, k.Length, k.Width)
			}
		}
		if len(names) != len(areas) {
			t.Errorf("two of one name: %v", areas)
		}
		for _, l := range (Floor{Length: c.l, Width: c.w}).With(areas).Lines {
			for _, x := range [][2]float64{{l.X1, l.Y1}, {l.X2, l.Y2}} {
				if x[0] < -1e-9 || x[0] > c.l+1e-9 || x[1] < -1e-9 || x[1] > c.w+1e-9 {
					t.Errorf("a line of %v leaves the hall: %+v", c.court, l)
				}
			}
		}
	}
	if n := MostOf("badminton", 32, 16); n != 5 { // side by side and turned: 5 × 6.10 = 30.50, and 13.40 the other way
		t.Errorf("%d badminton courts in 32 × 16 m", n)
	}
}

// A station alone is judged as it is among all: by chance placed, a thousand times.
func TestOneStationIsJudgedAsAmongAll(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 14))
	f := Of("handball", 0, 0)
	f.Blocked = []Area{{Name: "benches", X: 0, Y: 0, Length: 8, Width: 4}, {Name: "a post", X: 20, Y: 10, Length: 1, Width: 1}}
	quiet := 0
	for range 1000 {
		var spots []Spot
		var sizes []Size
		for range 1 + rng.IntN(5) {
			size := Size{float64(3 + rng.IntN(8)), float64(3 + rng.IntN(6)), float64(rng.IntN(3)), float64(rng.IntN(2) * rng.IntN(7))}
			sizes = append(sizes, size)
			spots = append(spots, size.At(float64(rng.IntN(84))/2-1, float64(rng.IntN(44))/2-1, 90*rng.IntN(4)))
		}
		i := rng.IntN(len(spots))
		own := func(t Trouble) bool { return t.Station == i || t.Other == i }
		among := !slices.ContainsFunc(Check(f, spots, sizes), own) &&
			!slices.ContainsFunc(Edges(f, spots, sizes), func(t Trouble) bool { return own(t) && t.Where != "" })
		if got := f.quiet(i, spots, sizes); got != among {
			t.Fatalf("station %d of %v, %v: alone %v, among all %v", i, spots, sizes, got, among)
		}
		if among {
			quiet++
		}
	}
	if quiet < 50 || quiet > 950 {
		t.Errorf("%d of 1000 are well placed: nothing is compared", quiet)
	}
}

// Four badminton courts laid out in a hall: who plays on a court has them by number, four at most; what is smaller than a
// quarter of one stands anywhere; a fifth station finds a place beside them, or none.
func TestLaidCourtsAreUsedByTheirNumbers(t *testing.T) {
	areas, ok := Lay(36, 18, Courts{"badminton", 4})
	if !ok {
		t.Fatal("four courts do not go in")
	}
	f := Of("hall", 36, 18).With(areas)
	got := f.Courts(6, 13.4, 6.1, 1)
	if len(got) != 4 {
		t.Fatalf("%d courts of four", len(got))
	}
	for i, s := range got {
		if a := areas[i]; s.X != a.X || s.Y != a.Y || s.Length != a.Length || s.Width != a.Width {
			t.Errorf("court %d is at %+v and laid out at %+v", i+1, s, a)
		}
	}
	if small := f.Courts(12, 4, 3, 0.5); len(small) != 12 {
		t.Errorf("%d of twelve small places", len(small))
	}
	size := Size{Length: 10, Width: 5}
	spots := f.OnCourts([]Size{size, size, {Length: 2, Width: 2}}, []*Spot{nil, nil, nil})
	for i := range 2 {
		if spots[i] == nil || !spots[i].Within(areas[i].spot()) {
			t.Errorf("station %d is not on court %d: %+v", i+1, i+1, spots[i])
		}
	}
	if spots[2] != nil {
		t.Errorf("what needs no court is on one: %+v", spots[2])
	}
}
