package marking_test

import (
	"encoding/json"
	"fmt"
	"os"
	"testing"

	"gruppo/internal/coach"
	"gruppo/internal/coach/marking"
)

// The same cases as the pads of the phone, in e2e/pads.test.mjs.
func TestTapsComeToTheSameAsOnThePhone(t *testing.T) {
	b, err := os.ReadFile("testdata/taps.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []struct {
		Taps       string
		Good, Best float64
	}
	if err := json.Unmarshal(b, &cases); err != nil || len(cases) == 0 {
		t.Fatal(len(cases), err)
	}
	for _, c := range cases {
		if good, best := marking.Figure(coach.Makes, c.Taps), marking.Figure(coach.Streak, c.Taps); good != c.Good ||
			best != c.Best {
			t.Errorf("%s: %v good, %v in a row; want %v, %v", c.Taps, good, best, c.Good, c.Best)
		}
	}
}

func TestWhatIsTypedIsReadOrRefused(t *testing.T) {
	makes, streak := coach.Criterion{
		Measure: coach.Makes,
		Want:    8,
		Of:      10,
	}, coach.Criterion{
		Measure: coach.Streak,
		Want:    10,
	}
	grade := coach.Criterion{Measure: coach.Grade, Want: 4}
	far := coach.Criterion{Measure: coach.Distance, Want: 6.096} // 20 ft of 0.3048 m
	sides := coach.Criterion{Measure: coach.Streak, BothSides: true}
	check := coach.Criterion{Measure: coach.Check, Points: []string{"a", "b"}}
	for _, c := range []struct {
		k     coach.Criterion
		typed marking.Typed
		want  string // figure, tries, points, or what is wrong
	}{
		{makes, marking.Typed{Tries: "8 of 10"}, "8 10 []"},
		{makes, marking.Typed{Tries: "10of10"}, "10 10 []"},
		{makes, marking.Typed{Taps: "1101111111"}, "9 10 []"},
		{makes, marking.Typed{Tries: "11 of 10"}, "Good ones of tries, such as 8 of 10."},
		{makes, marking.Typed{Tries: "10"}, "Tap good and miss, or type 8 of 10."}, // not a good one and a miss
		{streak, marking.Typed{Tries: "10"}, "10 10 []"},
		{streak, marking.Typed{Tries: "1"}, "1 1 []"},
		{streak, marking.Typed{Taps: "10"}, "1 2 []"},
		{streak, marking.Typed{Tries: "2.5"}, "Tap good and miss, or type the longest run."},
		{streak, marking.Typed{}, "Tap good and miss, or type the longest run."},
		{sides, marking.Typed{Tries: "4"}, "Which side was it, left or right?"},
		{grade, marking.Typed{Figure: "3,5"}, "A figure, such as 4."},
		{far, marking.Typed{Figure: "25"}, "7.62 0 []"},
		{far, marking.Typed{Figure: "far"}, "A figure, such as 20 ft."},
		{check, marking.Typed{Points: []int{1}}, "0 0 [false true]"},
	} {
		m, wrong := marking.Read(c.k, c.typed, coach.Imperial)
		if got := fmt.Sprint(m.Figure, m.Tries, m.Points); wrong != c.want && (wrong != "" || got != c.want) {
			t.Errorf("%s %+v: %s %q, want %q", c.k.Measure, c.typed, got, wrong, c.want)
		}
	}
}

func ExampleRead() {
	k := coach.Criterion{Measure: coach.Makes, Want: 8, Of: 10}
	m, _ := marking.Read(k, marking.Typed{Tries: "9 of 10"}, coach.Metric)
	fmt.Println(m.Said(k))
	_, wrong := marking.Read(k, marking.Typed{Tries: "nine"}, coach.Metric)
	fmt.Println(wrong)
	// Output:
	// 9 of 10
	// Tap good and miss, or type 8 of 10.
}

func ExampleZones() {
	fmt.Println(marking.Zones("1,6,1"))
	// Output: high left 2, low right 1
}
