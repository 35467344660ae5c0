package coach

import (
	"math"
	"testing"
)

// Lengths as people write them, in clubs of either kind; 1 ft = 0.3048 m and 1 yd = 0.9144 m exactly (international
// yard and pound agreement of 1959), and the pickleball court is 20 × 44 ft (USA Pickleball rule 2.A).
func TestLengthsAreReadAndWritten(t *testing.T) {
	for _, c := range []struct {
		units Units
		text  string
		want  float64
		reads string
	}{
		{Metric, "7", 7, "7 m"}, {Metric, "7,5 m", 7.5, "7.5 m"}, {Metric, " 7m ", 7, "7 m"}, {Metric, "25 yd", 22.86, "22.86 m"}, {Metric, "30 ft", 9.144, "9.14 m"}, {Metric, "60 cm", 0.6, "0.6 m"},
		{Imperial, "30", 9.144, "30 ft"}, {Imperial, "30 ft", 9.144, "30 ft"}, {Imperial, "25 yd", 22.86, "75 ft"}, {Imperial, "7 m", 7, "23 ft"}, {Imperial, "5 ft 6 in", 1.6764, "5.5 ft"}, {Imperial, "5'6\"", 1.6764, "5.5 ft"},
		{Imperial, "1.5 yards", 1.3716, "4.5 ft"}, {"", "3", 3, "3 m"},
	} {
		got, ok := c.units.ParseLength(c.text)
		if !ok || math.Abs(got-c.want) > 1e-9 || c.units.Long(got) != c.reads {
			t.Errorf("%s %q: %v %v, read %q", c.units, c.text, got, ok, c.units.Long(got))
		}
	}
	for _, bad := range []string{"", "m", "seven", "7 q", "7 8", "1e3", "7..5", "--7", "NaN", "inf", "5 ft 6"} {
		if m, ok := Imperial.ParseLength(bad); ok {
			t.Errorf("%q was read as %v", bad, m)
		}
	}
	if got := Imperial.Area(44*Foot, 20*Foot); got != "44 × 20 ft" {
		t.Errorf("a pickleball court is %s", got)
	}
	if got := Imperial.Square(171); got != "1840 ft²" { // 171 / 0.09290304 = 1840.6
		t.Errorf("171 m² is %s", got)
	}
	for ft := 1.0; ft < 400; ft++ { // whole feet stay what was typed, also when kept to the centimetre
		if got := Imperial.Length(math.Round(ft*Foot*100) / 100); got != Figure(ft) {
			t.Fatalf("%v ft comes back as %s", ft, got)
		}
	}
}
