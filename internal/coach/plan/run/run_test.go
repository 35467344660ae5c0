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

// The phone's clock (run.js) is held to the same cases.
func TestRunFollowsTheLeader(t *testing.T) {
	var file struct {
		Segments []struct {
			Kind    string
			Block   int
			Round   int
			Minutes float64
		}
		Cases []struct {
			Name   string
			Events [][2]any
			Bounds []float64
			Ended  bool
			Paused float64
		}
	}
	b, err := os.ReadFile("testdata/run.json")
	if err == nil {
		err = json.Unmarshal(b, &file)
	}
	if err != nil {
		t.Fatal(err)
	}
	minutes := func(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
	var segs []work.Segment
	for _, s := range file.Segments {
		segs = append(segs, work.Segment{Kind: s.Kind, Block: s.Block, Round: s.Round, Duration: minutes(s.Minutes)})
	}
	for _, c := range file.Cases {
		var events []run.Event
		for _, e := range c.Events {
			events = append(events, run.Event{Do: e[0].(string), At: plantest.Start.Add(minutes(e[1].(float64)))})
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
