package season

import (
	"testing"

	"gruppo/internal/coach"
)

// By counting.
func TestWhoFallsAwayAndWhatIsOutgrown(t *testing.T) {
	for _, c := range []struct {
		came   []bool
		missed int
		falls  bool
	}{
		{nil, 0, false}, {[]bool{true, false, false, false}, 0, false}, {[]bool{false, false, true}, 2, false},
		{[]bool{false, false, false, true}, 3, true}, {[]bool{false, false}, 2, false},
	} {
		if Missed(c.came) != c.missed || FallsAway(c.came) != c.falls {
			t.Errorf("%v: missed %d", c.came, Missed(c.came))
		}
	}
	for want, r := range map[string]Room{
		"":                                   {Places: 20, Enrolled: 19, Came: []int{17, 18}, Area: 300},
		"full":                               {Places: 20, Enrolled: 20, Area: 300},
		"21 players for 20 places":           {Places: 20, Enrolled: 21},
		"5 m² for each of the 18 who came":   {Places: 20, Enrolled: 19, Came: []int{12, 18}, Area: 90},
		"50 ft² for each of the 18 who came": {Places: 20, Enrolled: 19, Came: []int{12, 18}, Area: 90, Units: coach.Imperial},
	} {
		if got := r.Outgrown(); got != want {
			t.Errorf("%+v: %q, want %q", r, got, want)
		}
	}
}
