package floor

import (
	"math"
	"testing"
)

// IHF Rules of the Game, Rule 1: court 40 × 20 m; goal-area line 6 m, free-throw line 9 m, 7-metre line 7 m from the
// goal line; the goal is 3 m wide, so the straight part of both lines is 3 m.
func TestHandballCourt(t *testing.T) {
	f := Of("handball", 12, 9)
	if f.Length != 40 || f.Width != 20 {
		t.Fatalf("court %v × %v m, want 40 × 20 whatever was asked", f.Length, f.Width)
	}
	straight := map[float64]float64{}
	for _, l := range f.Lines {
		if l.Arc {
			// Both ends lie on the circle about the rear inner edge of a goal post.
			goal, post := 0.0, 8.5
			if math.Max(l.X1, l.X2) > 20 {
				goal = 40
			}
			if math.Max(l.Y1, l.Y2) > 10 {
				post = 11.5
			}
			for _, p := range [][2]float64{{l.X1, l.Y1}, {l.X2, l.Y2}} {
				if d := math.Hypot(p[0]-goal, p[1]-post); math.Abs(d-l.Radius) > 1e-9 {
					t.Errorf("end %v of the %v m arc is %.3f m from the post", p, l.Radius, d)
				}
			}
		} else if l.X1 == l.X2 && l.X1 > 0 && l.X1 < 20 {
			straight[l.X1] = l.Y2 - l.Y1
		}
	}
	for x, want := range map[float64]float64{6: 3, 9: 3, 7: 1, 4: 0.15} {
		if math.Abs(straight[x]-want) > 1e-9 {
			t.Errorf("the line %v m out is %v m long, want %v", x, straight[x], want)
		}
	}
}

// Each figure is that of the governing body named in the floor's Source; rules.md §9 states those marked with a star
// there.
func TestCourtsHaveTheirPublishedFigures(t *testing.T) {
	const ft = 0.3048
	across := func(x float64) Line { return Line{X1: x, X2: x} } // only which way and where it runs is compared
	along := func(y float64) Line { return Line{Y1: y, Y2: y} }
	for _, c := range []struct {
		kind          string
		length, width float64
		lines         []Line
		why           string
	}{
		{"tennis", 23.77, 10.97, []Line{across(23.77/2 - 6.40), across(23.77/2 + 6.40), along((10.97 - 8.23) / 2)}, "service lines 6.40 m from the net, singles 8.23 m wide"},
		{"badminton", 13.40, 6.10, []Line{across(6.70 - 1.98), across(0.76), along(0.46)}, "short service line 1.98 m from the net, long one 0.76 m in, singles 5.18 m wide"},
		{"volleyball", 18, 9, []Line{across(6), across(12), across(9)}, "attack lines 3 m from the net"},
		{"pickleball", 44 * ft, 20 * ft, []Line{across(15 * ft), across(29 * ft), along(10 * ft)}, "non-volley lines 7 ft from the net"},
		{"padel", 20, 10, []Line{across(3.05), across(10)}, "service lines 6.95 m from the net"},
		{"basketball", 28, 15, []Line{across(14), across(5.8), along(0.9)}, "free-throw line 5.80 m in, three-point line 0.90 m from the side"},
		{"football", 105, 68, []Line{across(16.5), across(5.5), along(34 - 3.66 - 16.5), along(34 - 3.66 - 5.5)}, "penalty area 16.5 m, goal area 5.5 m"},
		{"football-small", 40, 20, []Line{across(6), across(20)}, "penalty area 6 m"},
		{"floorball", 40, 20, []Line{across(2.85), across(6.85), along(7.5)}, "goal area 4 × 5 m, 2.85 m from the board"},
		{"ice-hockey", 60, 30, []Line{across(4), across(22.86), across(30)}, "goal lines 4 m, blue lines 22.86 m from the end"},
		{"athletics", 100, 9.76, []Line{along(1.22), along(2.44)}, "lanes of 1.22 m"},
		{"table-tennis", 14, 7, []Line{across((14 - 2.74) / 2), along((7 - 1.525) / 2)}, "table 2.74 × 1.525 m"},
		{"beam", 9, 4, []Line{across(2), across(7), along(1.95)}, "beam 5 m × 10 cm"},
		{"gym-floor", 14, 14, []Line{across(1), across(13)}, "floor 12 × 12 m"},
		{"baseball", 42, 42, []Line{across(3 + 90*ft), along(39 - 90*ft)}, "bases 90 ft apart"},
		{"softball", 30, 30, []Line{across(3 + 60*ft), along(27 - 60*ft)}, "bases 60 ft apart"},
		{"tennis-red", 11, 5.5, []Line{across(5.5)}, "small court"},
		{"tennis-orange", 18, 6.5, []Line{across(9)}, "three-quarter court"},
	} {
		f := Of(c.kind, 1, 1)
		if math.Abs(f.Length-c.length) > 1e-9 || math.Abs(f.Width-c.width) > 1e-9 || f.Source == "" {
			t.Errorf("%s: %v × %v m (%s)", c.kind, f.Length, f.Width, f.Source)
		}
		for _, want := range c.lines {
			found := false
			for _, l := range f.Lines {
				upright := !l.Arc && want.X1 != 0 && math.Abs(l.X1-want.X1) < 1e-6 && math.Abs(l.X2-want.X1) < 1e-6
				level := !l.Arc && want.Y1 != 0 && math.Abs(l.Y1-want.Y1) < 1e-6 && math.Abs(l.Y2-want.Y1) < 1e-6
				found = found || upright || level
			}
			if !found {
				t.Errorf("%s: %s: no line at %+v", c.kind, c.why, want)
			}
		}
	}
	// A ring of bases: home to the pitcher's plate is 60 ft 6 in, along the diagonal.
	for _, l := range Of("baseball", 0, 0).Lines {
		if !l.Arc && l.X1 != l.X2 && l.Y1 != l.Y2 {
			if d := math.Hypot((l.X1+l.X2)/2-3, (l.Y1+l.Y2)/2-39); math.Abs(d-60.5*ft) > 1e-6 {
				t.Errorf("the plate is %.3f m from home, want %.3f", d, 60.5*ft)
			}
		}
	}
	for _, f := range Kinds() { // whatever is drawn stays on its floor
		for _, l := range Of(f.Kind, f.Length, f.Width).Lines {
			for _, p := range [][2]float64{{l.X1, l.Y1}, {l.X2, l.Y2}} {
				if p[0] < -1e-9 || p[1] < -1e-9 || p[0] > f.Length+1e-9 || p[1] > f.Width+1e-9 ||
					math.IsNaN(p[0]+p[1]) {
					t.Errorf("%s: %+v leaves the floor", f.Kind, l)
				}
			}
			if d := math.Hypot(l.X1-l.X2, l.Y1-l.Y2); l.Arc && d > 2*l.Radius+1e-9 {
				t.Errorf("%s: an arc of radius %v cannot span %v", f.Kind, l.Radius, d)
			}
		}
	}
}

func TestStationsStayApartAndOnTheFloor(t *testing.T) {
	f := Of("handball", 0, 0)
	f.Blocked = []Area{{Name: "stacked benches", X: 0, Y: 0, Length: 6, Width: 3}}
	for n := 1; n <= 8; n++ {
		sizes := make([]Size, n)
		for i := range sizes {
			sizes[i] = Size{Length: 6 + float64(i%3)*1.5, Width: 4, Clearance: 1, Fire: float64(i%2) * 2}
		}
		spots, fits := Layout(f, sizes, make([]*Spot, n))
		if trouble := Check(f, spots, sizes); len(trouble) > 0 {
			t.Errorf("%d stations: %+v at %+v", n, trouble, spots)
		}
		for i := range fits {
			if !fits[i] {
				t.Errorf("%d stations: number %d found no place", n, i)
			}
		}
	}
	f.Use = Area{Name: "left half", Length: 20, Width: 20}
	mine := &Spot{X: 10, Y: 10, Length: 8, Width: 6}
	spots, _ := Layout(f, []Size{{8, 6, 1, 0}, {8, 6, 1, 0}, {7, 5, 1, 0}}, []*Spot{nil, mine, nil})
	if spots[1] != *mine || len(Check(f, spots, []Size{{8, 6, 1, 0}, {8, 6, 1, 0}, {7, 5, 1, 0}})) > 0 {
		t.Errorf("in the left half with one that stays: %+v", spots)
	}
	if _, fits := Layout(Of("hall", 8, 6), []Size{{20, 10, 1, 0}}, make([]*Spot, 1)); fits[0] {
		t.Error("a 20 m station fits an 8 m hall")
	}
}

func TestCheckNamesTheTrouble(t *testing.T) {
	f := Of("hall", 20, 12)
	f.Blocked = []Area{{Name: "wall bars", X: 0, Y: 0, Length: 20, Width: 1}}
	sizes := []Size{{6, 4, 1, 3}, {4, 4, 1, 0}, {4, 3, 1, 0}, {5, 4, 1, 0}}
	spots := []Spot{sizes[0].At(2, 4, 0), sizes[1].At(8.5, 4, 0), sizes[2].At(1, 0.5, 0), sizes[3].At(17, 6, 0)}
	got := map[string]bool{}
	for _, tr := range Check(f, spots, sizes) {
		got[tr.What] = true
		if tr.What == "fire" && (tr.Station != 1 || tr.Other != 0) {
			t.Errorf("1 throws at 2, not %+v", tr)
		}
	}
	for _, what := range []string{"overlap", "fire", "blocked", "off"} {
		if !got[what] {
			t.Errorf("no %s found", what)
		}
	}
	// A quarter turn swaps the sides, and the line of fire turns with it.
	if s := sizes[0].At(5, 5, 90); s.Length != 4 || s.Width != 6 || s.Fire(3) != (Spot{5, 11, 4, 3, 0}) {
		t.Errorf("turned: %+v fires on %+v", s, s.Fire(3))
	}
	if s := sizes[0].At(5, 5, 180).Fire(3); s != (Spot{2, 5, 3, 4, 0}) {
		t.Errorf("half a turn fires on %+v", s)
	}
}

func BenchmarkLayout(b *testing.B) {
	f := Of("handball", 0, 0)
	f.Blocked = []Area{{Name: "benches", X: 0, Y: 0, Length: 8, Width: 4}}
	sizes := []Size{{9, 6, 1, 0}, {12, 8, 2, 6}, {9, 8, 1, 0}, {8, 7, 1, 0}, {10, 6, 1, 0}, {7, 5, 1, 2}}
	b.ReportAllocs()
	for b.Loop() {
		Layout(f, sizes, make([]*Spot, len(sizes)))
	}
}

// Courts of 13.4 × 6.1 m (BWF Laws of Badminton, Law 1) with a metre about each: by hand, a floor of 29.8 × 15.2 m holds just
// four, whichever way it lies; a centimetre less holds two.
func TestCourtsSideBySide(t *testing.T) {
	for _, c := range []struct {
		length, width float64
		asked, fit    int
	}{
		{29.8, 15.2, 9, 4}, {15.2, 29.8, 9, 4}, {29.8, 15.2, 3, 3}, {29.8, 15.19, 9, 2}, {13, 6, 9, 0}, {29.8, 15.2, 0, 0},
	} {
		got := Spot{X: 2, Y: 1, Length: c.length, Width: c.width}.Courts(c.asked, 13.4, 6.1, 1)
		if len(got) != c.fit {
			t.Errorf("%v × %v m holds %d of %d, not %d", c.length, c.width, len(got), c.asked, c.fit)
		}
		for i, s := range got {
			if !s.Grown(0.999).Within(Spot{X: 2, Y: 1, Length: c.length, Width: c.width}) {
				t.Errorf("court %d of %v × %v m is nearer than a metre to the wall: %+v", i, c.length, c.width, s)
			}
			for _, o := range got[:i] {
				if s.Grown(0.499).Meets(o.Grown(0.499)) {
					t.Errorf("courts of %v × %v m are nearer than a metre: %+v, %+v", c.length, c.width, s, o)
				}
			}
		}
	}
	if got := (Spot{Length: 30, Width: 15}).Courts(4, 0, 6, 1); got != nil {
		t.Errorf("a court of no size: %v", got)
	}
}
