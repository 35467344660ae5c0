package floor

import (
	"math"
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
