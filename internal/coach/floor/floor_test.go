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

func TestStationsStayApartAndOnTheFloor(t *testing.T) {
	f := Of("handball", 0, 0)
	for n := 1; n <= 9; n++ {
		sizes := make([]Size, n)
		for i := range sizes {
			sizes[i] = Size{Length: 6 + float64(i%3)*1.5, Width: 5, Clearance: 1}
		}
		spots, fits := Layout(f, sizes)
		for i, a := range spots {
			if !fits[i] {
				t.Errorf("%d stations: number %d does not fit a 40 × 20 m court", n, i)
			}
			if a.X < 0 || a.Y < 0 || a.X+a.Length > 40 || a.Y+a.Width > 20 {
				t.Errorf("%d stations: number %d leaves the floor: %+v", n, i, a)
			}
			for j, b := range spots[:i] {
				if a.X < b.X+b.Length && b.X < a.X+a.Length && a.Y < b.Y+b.Width && b.Y < a.Y+a.Width {
					t.Errorf("%d stations: %d and %d overlap: %+v %+v", n, i, j, a, b)
				}
			}
		}
	}
	if _, fits := Layout(Of("hall", 8, 6), []Size{{20, 10, 1}}); fits[0] {
		t.Error("a 20 m station fits an 8 m hall")
	}
}
