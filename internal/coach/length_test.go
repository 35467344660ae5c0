package coach

import (
	"encoding/json"
	"math"
	"os"
	"testing"
)

// Lengths as people write them, in clubs of either kind; 1 ft = 0.3048 m and 1 yd = 0.9144 m exactly (international
// yard and pound agreement of 1959; what is typed in testdata/lengths.json the drawing board reads the same way), and the pickleball court is 20 × 44 ft (USA Pickleball rule 2.A).
func TestLengthsAreReadAndWritten(t *testing.T) {
	file, err := os.ReadFile("testdata/lengths.json")
	if err != nil {
		t.Fatal(err)
	}
	var lengths struct {
		Read []struct {
			Units          Units
			Text           string
			Metres, Figure float64
		}
		Not []string
	}
	if err := json.Unmarshal(file, &lengths); err != nil || len(lengths.Read) == 0 || len(lengths.Not) == 0 {
		t.Fatal(err, lengths)
	}
	for _, c := range lengths.Read {
		got, ok := c.Units.ParseLength(c.Text)
		if reads := Figure(c.Figure) + " " + c.Units.Short(); !ok || math.Abs(got-c.Metres) > 1e-9 || c.Units.Long(got) != reads {
			t.Errorf("%s %q: %v %v, read %q", c.Units, c.Text, got, ok, c.Units.Long(got))
		}
	}
	for _, bad := range lengths.Not {
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
