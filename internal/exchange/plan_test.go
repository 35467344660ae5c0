package exchange

import (
	"bytes"
	"reflect"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/partners"
	"gruppo/internal/coach/plan/whatif"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
)

func planFile(t testing.TB) (PlanFile, []byte) {
	t.Helper()
	p := doc.Start(90*time.Minute, coach.BallGames)
	p.First().Stations = []doc.Station{
		{
			ID:      "s1",
			Drill:   "a",
			Edition: 2,
			Leader:  "ines",
			Spot:    &floor.Spot{X: 1, Y: 2, Length: 8, Width: 6, Turn: 90},
			Variant: map[string]string{"Reef": "Closer"},
		},
	}
	p.Blocks[0].Game = &rotate.Game{Areas: 2, A: 4, B: 4}
	p.Deals[0].Players = [][]string{{"p1"}, {"p2"}}
	f := PlanFile{
		Class:   "Tuesday hall",
		Date:    "2026-11-24",
		Minutes: 90,
		Plan:    p,
		Drills:  []coach.Drill{{ID: "a", Edition: 2, Name: "Wall passing"}},
		Players: map[string]string{"p1": "Bo", "p2": "Ceri"},
	}
	var b bytes.Buffer
	if err := WritePlan(&b, f); err != nil {
		t.Fatal(err)
	}
	return f, b.Bytes()
}

func TestAPlanComesBackAsItWasWritten(t *testing.T) {
	f, b := planFile(t)
	got, err := ReadPlan(b)
	if err != nil {
		t.Fatal(err)
	}
	f.Format, f.Version = "gruppo-plan", 2
	if !reflect.DeepEqual(got, f) {
		t.Errorf("wrote %+v\nread  %+v", f, got)
	}
}

func TestABadPlanFileSaysWhy(t *testing.T) {
	_, good := planFile(t)
	text := string(good)
	for says, file := range map[string]string{
		"breaks off or is damaged at line":    text[:len(text)/2],
		"does not say that it is one":         `{"format": "shopping list"}`,
		"written by a newer Gruppo":           strings.Replace(text, `"version": 2`, `"version": 9`, 1),
		"does not say its version":            strings.Replace(text, `"version": 2`, `"version": 0`, 1),
		"something this program does not":     strings.Replace(text, `"minutes": 90`, `"minutes": 90, "secret": 1`, 1),
		`"minutes" is not what it should be`:  strings.Replace(text, `"minutes": 90`, `"minutes": "ninety"`, 1),
		"cannot be: Work is 30 s to an hour":  strings.Replace(text, `"work": 360`, `"work": -5`, 1),
		"cannot be: A player is in two":       strings.Replace(text, `"p2"`, `"p1"`, 1),
		"over 1 MB":                           text + strings.Repeat(" ", MostPlan),
		"This is not a plan file":             "Amara,Reef,2015",
		"Station 1: its place is not on any ": strings.Replace(text, `"turn": 90`, `"turn": 45`, 1),
	} {
		if _, err := ReadPlan([]byte(file)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v", says, err)
		}
	}
}

// Whatever is read without an error can be worked out.
func FuzzReadPlan(f *testing.F) {
	_, good := planFile(f)
	f.Add(good)
	f.Add(
		[]byte(
			`{"format":"gruppo-plan","version":1,"plan":{"way":"near","groups":1,"work":60,"blocks":[{"kind":"stations","title":"","minutes":0,"rounds":3},{"kind":"pairs","title":"x","minutes":9,"turn":1,"team":6,"scores":[[[1,2]]]}],"stations":[{"drill":"a","double":true}],"deal":[["p1"]]}}`,
		),
	)
	f.Add(
		[]byte(
			`{"format":"gruppo-plan","version":1,"plan":{"way":"mixed","groups":8,"work":30,"rounds":24,"blocks":null,"stations":null,"deal":null}}`,
		),
	)
	f.Fuzz(func(t *testing.T, b []byte) {
		file, err := ReadPlan(b)
		if err != nil {
			return
		}
		in := work.Input{
			Plan:    file.Plan,
			Booked:  time.Hour,
			Floor:   floor.Of("hall", 20, 12),
			Players: []coach.Player{{ID: "p1", Name: "Bo"}, {ID: "p2", Name: "Ceri"}, {ID: "p3", Name: "Davi"}},
			Drills:  map[string]coach.Drill{},
		}
		for _, d := range file.Drills {
			in.Drills[d.ID] = d
		}
		if in.Plan, err = whatif.Fit(in.Plan, in); err != nil {
			return
		}
		pic := work.Out(in)
		for i, s := range pic.Blocks {
			partners.Turns(in, s.Block, s.From)
			if i > 0 && s.From != pic.Blocks[i-1].To {
				t.Errorf("a gap before block %d", i)
			}
		}
	})
}
