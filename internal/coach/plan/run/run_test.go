package run_test

import (
	"encoding/json"
	"os"
	"slices"
	"testing"
	"time"

	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/run"
	"gruppo/internal/coach/plan/work"
)

type segment struct {
	Kind    string
	Block   int
	Round   int
	Minutes float64
	Turns   []float64
}

// evening is what was done to the clock, by its minutes, and what came of it.
type evening struct {
	Name   string
	Events [][]any
	Bounds []float64
	Steps  []float64
	Ended  bool
	Paused float64
}

// The phone's clock (run.js) is held to the same cases.
func TestRunFollowsTheLeader(t *testing.T) {
	var file struct {
		Segments, Turns []segment
		Cases, OfTurns  []evening
	}
	b, err := os.ReadFile("testdata/run.json")
	if err == nil {
		err = json.Unmarshal(b, &file)
	}
	if err != nil {
		t.Fatal(err)
	}
	minutes := func(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
	segments := func(all []segment) (out []work.Segment) {
		for _, s := range all {
			w := work.Segment{Kind: s.Kind, Block: s.Block, Round: s.Round, Duration: minutes(s.Minutes)}
			for _, turn := range s.Turns {
				w.Turns = append(w.Turns, minutes(turn))
			}
			out = append(out, w)
		}
		return out
	}
	segs, turns := segments(file.Segments), segments(file.Turns)
	for i, c := range append(file.Cases, file.OfTurns...) {
		segs := segs
		if i >= len(file.Cases) {
			segs = turns
		}
		var events []run.Event
		for _, e := range c.Events {
			id := ""
			if len(e) > 2 {
				id = e[2].(string)
			}
			events = append(events, run.Event{ID: id, Do: e[0].(string), At: plantest.Start.Add(minutes(e[1].(float64)))})
		}
		tl := run.Fold(segs, events)
		got := []float64{}
		for _, b := range tl.Bounds {
			got = append(got, b.Sub(plantest.Start).Minutes())
		}
		var paused time.Time
		if c.Paused > 0 {
			paused = plantest.Start.Add(minutes(c.Paused))
		}
		if c.Steps != nil {
			var steps []float64
			for _, b := range tl.Steps {
				steps = append(steps, b.Sub(plantest.Start).Minutes())
			}
			if !slices.Equal(steps, c.Steps) {
				t.Errorf("%s: turns at %v, want %v", c.Name, steps, c.Steps)
			}
		}
		if !slices.Equal(got, c.Bounds) || tl.Ended != c.Ended || !tl.PausedAt.Equal(paused) {
			t.Errorf("%s: %v, ended %v, paused at %v", c.Name, got, tl.Ended, tl.PausedAt)
		}
	}
}

func TestWhatARoundReallyGave(t *testing.T) {
	pic := check.Plan(plantest.Tuesday(t))
	segs := pic.Segments()
	first := -1
	for i, s := range segs {
		if s.Kind == "work" && first < 0 {
			first = i
		}
	}
	at := plantest.Start
	for _, s := range segs[:first] {
		at = at.Add(s.Duration)
	}
	// The first round lasts two minutes more; the second is cut to ten seconds and says nothing.
	second := at.Add(segs[first].Duration + 2*time.Minute + segs[first+1].Duration)
	tl := run.Fold(
		segs,
		[]run.Event{
			{Do: "start", At: plantest.Start},
			{Do: "more", At: at.Add(time.Minute)},
			{Do: "more", At: at.Add(time.Minute)},
			{Do: "change", At: second.Add(10 * time.Second)},
			{Do: "end", At: second.Add(20 * time.Second)},
		},
	)
	one := pic.Groups[pic.Stations[0].Visits[0]].Players
	given := run.Gave(pic.Picture, tl, func(round int, drill, player string) (int, bool) {
		return 12, drill == pic.Stations[0].Drill.ID && player == one[0].ID
	})
	if len(given) != len(pic.Stations) {
		t.Fatalf("%d rounds at stations; the cut one gives nothing: %+v", len(given), given)
	}
	g := given[0]
	if g.Round != 1 || g.Time != segs[first].Duration+2*time.Minute || g.Players != len(one) || g.Counted != 1 ||
		g.Tries != 12 ||
		g.Planned <= 0 {
		t.Errorf("the first: %+v", g)
	}
}

// A warm-up that ran two minutes over, a round cut short by the end, and a game nobody came to.
func TestWhatWentBesideWhatWasPlanned(t *testing.T) {
	at := func(m float64) time.Time { return plantest.Start.Add(time.Duration(m * float64(time.Minute))) }
	segments := []work.Segment{
		{Kind: "block", Block: 0, Duration: 10 * time.Minute},
		{Kind: "work", Block: 1, Round: 1, Duration: 8 * time.Minute},
		{Kind: "change", Block: 1, Round: 1, Duration: time.Minute},
		{Kind: "work", Block: 1, Round: 2, Duration: 8 * time.Minute},
		{Kind: "block", Block: 2, Duration: 15 * time.Minute},
	}
	tl := run.Fold(segments, []run.Event{
		{ID: "1", Do: "start", At: at(0)}, {ID: "2", Do: "more", At: at(5)}, {ID: "3", Do: "more", At: at(6)},
		{ID: "4", Do: "end", At: at(25)},
	})
	parts := tl.Parts(segments, at(90))
	if len(parts) != 3 || parts[0].Longer() != 2*time.Minute || parts[1].Longer() != -4*time.Minute ||
		parts[0].Left || parts[1].Left || !parts[2].Left || !parts[1].From.Equal(at(12)) {
		t.Errorf("%+v", parts)
	}
	running := run.Fold(segments, []run.Event{{ID: "1", Do: "start", At: at(0)}}).Parts(segments, at(4))
	if running[0].Real != 4*time.Minute || running[0].Ahead {
		t.Error("while it runs a part goes until now")
	}
	if !running[1].Ahead || running[1].Left || !running[2].Ahead || running[2].Left {
		t.Error("while it runs, what is to come was not left out")
	}
	if (run.Timeline{}).Parts(segments, at(4)) != nil {
		t.Error("what was not started has no parts")
	}
	sums := run.Sums([]run.Given{
		{Station: 2, Players: 6, Counted: 3, Tries: 36, Planned: 10},
		{Station: 2, Players: 5, Counted: 1, Tries: 4, Planned: 14},
		{Station: 0, Players: 4, Planned: 9},
	})
	if want := (run.Sum{Rounds: 2, Players: 11, Counted: 4, Planned: 12, Each: 10}); sums[2] != want {
		t.Errorf("%+v", sums[2])
	}
	if s := sums[0]; s.Each != 0 || s.Counted != 0 || s.Planned != 9 || len(sums) != 2 {
		t.Errorf("%+v", sums)
	}
}
