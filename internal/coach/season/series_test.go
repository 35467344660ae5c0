package season

import (
	"fmt"
	"math"
	"testing"

	"gonum.org/v1/gonum/stat"

	"gruppo/internal/day"
)

// Two readings of 17 people with one peak flow meter: J. M. Bland and D. G. Altman, Statistical methods for assessing
// agreement between two methods of clinical measurement, Lancet 1986, table 1 (from memory). A within-subject standard
// deviation of 15.3 l/min is published for them.
func TestTheTypicalErrorIsThatOfPublishedReadings(t *testing.T) {
	first := []float64{494, 395, 516, 434, 476, 557, 413, 442, 650, 433, 417, 656, 267, 478, 178, 423, 427}
	second := []float64{490, 397, 512, 401, 470, 611, 415, 431, 638, 429, 420, 633, 275, 492, 165, 372, 421}
	on := day.New(2026, 11, 3)
	var same, weeks []Taken
	for i := range first {
		p := fmt.Sprint(i)
		same = append(same, Taken{on, p, []float64{first[i], second[i]}})
		weeks = append(weeks, Taken{on, p, first[i : i+1]}, Taken{on.Add(7), p, second[i : i+1]})
	}
	if n := NoiseOf(weeks); math.Abs(n.Error-15.3) > 0.1 || !n.Weeks || n.Pairs != 17 {
		t.Errorf("from one week to the next: %+v", n)
	}
	if n := NoiseOf(same); math.Abs(n.Error-15.3/math.Sqrt2) > 0.1 || n.Weeks {
		t.Errorf("of the mean of two tries: %+v", n)
	}
	// the same by an analysis of variance: residual mean square of two readings after people and readings are taken out
	var residual float64
	m1, m2 := stat.Mean(first, nil), stat.Mean(second, nil)
	for i := range first {
		mean, all := (first[i]+second[i])/2, (m1+m2)/2
		residual += math.Pow(first[i]-mean-m1+all, 2) + math.Pow(second[i]-mean-m2+all, 2)
	}
	if want := math.Sqrt(residual / 16); math.Abs(NoiseOf(weeks).Error-want) > 1e-9 {
		t.Errorf("%v, by analysis of variance %v", NoiseOf(weeks).Error, want)
	}
}

// Three Tuesdays: all jump one better, as classes do; one improves beyond noise, one does not.
func TestChangeAndNoiseAreToldApart(t *testing.T) {
	m := Measure{Name: "Rope", Unit: "jumps"}
	first := day.New(2026, 11, 3)
	tries := map[string][3][2]float64{ // two tries each time; they differ by 2 or 3
		"Anouk": {{30, 32}, {31, 33}, {39, 42}}, // 8 or so more
		"Bilal": {{40, 43}, {41, 43}, {42, 44}}, // one more
		"Carys": {{33, 31}, {35, 32}, {31, 28}}, // 4 less
		"Emeka": {{44, 42}, {44, 46}, {45, 47}},
	}
	var all []Taken
	for p, days := range tries {
		for w, x := range days {
			all = append(all, Taken{first.Add(7 * w), p, x[:]})
		}
	}
	n := NoiseOf(all)
	got := map[string]string{}
	for _, c := range Changes(m, all, first.Add(14), []string{"Anouk", "Bilal", "Carys", "Dmitri", "Emeka"}) {
		got[c.Player] = c.String()
	}
	want := map[string]string{"Anouk": "better, sure", "Bilal": "as before", "Carys": "less well, sure", "Emeka": "as before"}
	if fmt.Sprint(got) != fmt.Sprint(want) {
		t.Errorf("%v, want %v (noise %+v)", got, want, n)
	}
	m.Less = true
	if c := Changes(m, all, first.Add(14), []string{"Anouk"}); c[0].Better || c[0].By < 8 {
		t.Errorf("where less is better: %+v", c)
	}
	if c := Changes(m, all[:1], all[0].On, []string{all[0].Player}); c[0].String() != "first time" {
		t.Errorf("%v", c)
	}
	// the normal distribution's table: a change of 1.5 and of 2 typical errors is 1.06 and 1.41 of its own deviation
	pair := []Taken{}
	for i, d := range []float64{0, 0, 2, 2} { // differences with a deviation of 1.1547: a typical error of 0.8165
		pair = append(pair, Taken{first, fmt.Sprint(i), []float64{10}}, Taken{first.Add(7), fmt.Sprint(i), []float64{10 + d}})
	}
	for i, want := range map[int]float64{0: 0.5, 2: 0.9584} { // Φ(2 / (0.8165 √2)) = Φ(1.732)
		if c := Changes(m, pair, first.Add(7), []string{fmt.Sprint(i)}); math.Abs(c[0].Chance-want) > 0.0005 {
			t.Errorf("%d: %v, want %v", i, c[0].Chance, want)
		}
	}
	for on, due := range map[int]bool{-7: false, 0: true, 7: false, 14: true} {
		if (Test{Every: 2, From: first}).Due(first.Add(on)) != due {
			t.Errorf("every other week, day %d", on)
		}
	}
}
