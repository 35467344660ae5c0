package home

import (
	"testing"
	"time"

	"gruppo/internal/day"
)

func monday(n int) day.Day { return day.New(2026, time.November, 2+n) } // 2 November 2026 is a Monday

// answers are a day each, from a Monday on; felt is how it was, "-" for not done.
func answers(part int, felt ...string) (out []Answer) {
	for i, f := range felt {
		if f != "-" {
			out = append(out, Answer{On: monday(i), Part: part, Done: true, Felt: f})
		}
	}
	return out
}

func feet() Task {
	pattern := Part{What: "Quick feet", Seconds: 120}
	return Task{
		Parts: []Part{pattern, pattern, pattern}, Sets: 5, From: monday(0),
		Days: []time.Weekday{time.Monday, time.Wednesday, time.Friday},
	}
}

// The sum that coaches do in their heads: 3 patterns of 2 min, 5 sets, are 30 min.
func TestMinutesAreAddedUp(t *testing.T) {
	if got := feet().Dose(3, 0, 0).String(); got != "3 patterns × 2 min × 5: 30 min" {
		t.Error(got)
	}
	for want, task := range map[string]Task{
		"20 × 3: about 3 min":         {Parts: []Part{{What: "Catch", Count: 20}}, Sets: 3},
		"45 s: 1 min":                 {Parts: []Part{{What: "Plank", Seconds: 45}}, Sets: 1},
		"2 patterns: about 2 min":     {Parts: []Part{{What: "A", Seconds: 90}, {What: "B", Count: 10}}, Sets: 1},
		"10 min":                      {Parts: []Part{{What: "Juggle", Seconds: 600}}, Sets: 1},
		"12 × 2: about 1 min":         {Parts: []Part{{What: "Hop", Count: 12, Each: 2}}, Sets: 2},
		"":                            {Parts: []Part{{What: "As you like"}}, Sets: 1},
		"1:40 min × 2: 4 min":         {Parts: []Part{{What: "Run", Seconds: 100}}, Sets: 2},
		"3 patterns × 5: about 2 min": {Parts: []Part{{What: "A", Count: 1}, {What: "B", Count: 2}, {What: "C", Count: 3}}, Sets: 5},
	} {
		if got := task.Dose(9, 0, 0).String(); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

func TestHowMuchIsReadAsItIsWritten(t *testing.T) {
	for text, want := range map[string][2]int{
		"2 min": {120}, "1:30": {90}, "1:30 min": {90}, "0,5 min": {30}, "45 s": {45}, "45sec": {45}, "20": {0, 20}, "20 ×": {0, 20}, "20x": {0, 20},
		"": {}, " 3 times": {0, 3},
	} {
		if s, n, ok := ParseMuch(text); !ok || s != want[0] || n != want[1] {
			t.Errorf("%q: %d s, %d times, %v", text, s, n, ok)
		}
	}
	for _, text := range []string{"often", "-3", "2 miles", "1:75", "0", "2.5 x", "1e9", "NaN"} {
		if s, n, ok := ParseMuch(text); ok {
			t.Errorf("%q: %d s, %d times", text, s, n)
		}
	}
	for _, p := range []Part{{Seconds: 120}, {Seconds: 45}, {Seconds: 100}, {Count: 20}, {}} { // what is shown can be typed again
		if s, n, ok := ParseMuch(p.Much()); !ok || s != p.Seconds || n != p.Count {
			t.Errorf("%+v: %q", p, p.Much())
		}
	}
}

func TestOnePartOpensAfterTheOther(t *testing.T) {
	task := feet()
	task.Steps = true
	twice := answers(0, Easy, "-", Easy, Hard, Right)
	if task.Open(twice, 0) != 1 || task.ToNext(twice, 0) != 1 {
		t.Errorf("easy twice: %d open, %d to go", task.Open(twice, 0), task.ToNext(twice, 0))
	}
	thrice := append(twice, Answer{On: monday(7), Done: true, Felt: Easy})
	if task.Open(thrice, 0) != 2 || task.ToNext(thrice, 0) != 3 {
		t.Errorf("easy three times: %d open", task.Open(thrice, 0))
	}
	if task.Open(nil, 3) != 3 || task.ToNext(nil, 3) != 0 {
		t.Error("the coach opened all")
	}
	// what was easy while a later part was open says nothing of that part
	if task.Open(thrice, 2) != 2 {
		t.Error("the second opens by itself")
	}
	task.Mix, task.Steps = true, false
	if task.Mixed(answers(2, Easy, Easy), 3) || !task.Mixed(answers(2, Easy, Easy, Easy), 3) {
		t.Error("in any order once it is easy, not before")
	}
}

// One set to three, and +10 %: what is said of a week is worked out by hand.
func TestItGrowsByWeeksThatWerePractised(t *testing.T) {
	task := feet()
	task.Sets, task.MoreSets, task.MostSets = 1, 1, 3
	done := append(answers(0, Right, "-", Right, "-", Right, "-", "-", Right), Answer{On: monday(16), Done: true}, Answer{On: monday(18), Done: true})
	for day, want := range map[int]int{0: 1, 6: 1, 7: 2, 13: 2, 14: 2, 20: 2, 21: 3, 70: 3} { // the second week: 1 of 3
		weeks, _ := task.Weeks(done, monday(day), "")
		if got := task.Dose(3, weeks, 0).Sets; got != want {
			t.Errorf("day %d: %d sets, want %d", day, got, want)
		}
	}
	if _, held := task.Weeks(done, monday(14), ""); held != "held back 1 week: less than half done" {
		t.Error(held)
	}
	if weeks, held := task.Weeks(done, monday(21), "no jumping"); weeks != 0 || held != "as in the first week: no jumping" {
		t.Error(weeks, held)
	}
	// 120 s + 10 % a week: 132 → 130, 144 → 140, and never more than twice as long
	task = Task{Parts: []Part{{What: "Hold", Seconds: 120}, {What: "Hop", Count: 20}}, Sets: 1, Percent: 10, From: monday(0)}
	for weeks, want := range map[int][2]int{0: {120, 20}, 1: {130, 22}, 2: {140, 24}, 30: {240, 40}} {
		d := task.Dose(2, weeks, 0)
		if d.Parts[0].Seconds != want[0] || d.Parts[1].Count != want[1] {
			t.Errorf("after %d weeks: %+v", weeks, d.Parts)
		}
	}
}

func TestAChildIsNeverAskedForMoreThanTheClubAllows(t *testing.T) {
	task := feet()
	task.Sets, task.MoreSets, task.MostSets = 3, 1, 5 // 18, 24, 30 min
	d := task.Dose(3, 9, 25*time.Minute)
	if d.Minutes() != 24 || !d.Capped || d.Weeks != 1 {
		t.Errorf("%+v", d)
	}
	if d := task.Dose(3, 0, 7*time.Minute); d.Minutes() != 6 || !d.Capped {
		t.Errorf("a limit that came later: %+v", d)
	}
	if bad := feet().Check(20*time.Minute, true); len(bad) != 1 || bad[0].Field != "sets" {
		t.Errorf("%+v", bad)
	}
	if bad := feet().Check(20*time.Minute, false); len(bad) != 0 {
		t.Errorf("grown-ups: %+v", bad)
	}
}

func TestDaysDoneOfDaysAsked(t *testing.T) {
	task := feet()
	task.Until = monday(11)
	got := task.Came(answers(0, Right, Right, "-", "-", Hard), monday(0), monday(6)) // Tuesday stands for Wednesday
	if got.String() != "3 of 3" {
		t.Error(got)
	}
	if got := task.Came(answers(0, Right), monday(0), monday(20)); got != (Came{1, 6}) {
		t.Error(got)
	}
	if got := task.Came(answers(0, Right), monday(1), monday(1)); got.String() != "–" { // a Tuesday asks for nothing
		t.Error("before the first day that is asked for:", got)
	}
	task.Ends = monday(3)
	if got := task.Came(nil, monday(0), monday(20)); got.Of != 2 {
		t.Error("ended before:", got)
	}
	if got := task.InWords(time.Sunday); got != "Monday, Wednesday and Friday" {
		t.Error(got)
	}
	task.Levels = []float64{10, 20, 40}
	if task.Level(9) != 0 || task.Level(20) != 2 || task.Level(99) != 3 {
		t.Error("levels by counting")
	}
	task.Levels, task.Lower = []float64{30, 20}, true
	if task.Level(31) != 0 || task.Level(30) != 1 || task.Level(12) != 2 {
		t.Error("levels against the clock")
	}
}
