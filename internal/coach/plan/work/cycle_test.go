package work_test

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/work"
)

// allOut is a plan of nothing but intervals: two exercises, ten seconds of work, a minute of rest, twice each.
func allOut(t *testing.T, players int, change func(*doc.Intervals)) work.Input {
	in := plantest.Tuesday(t)
	in.Players = in.Players[:players]
	for _, name := range []string{"wall", "shot"} {
		d := in.Drills[name]
		d.Pace, d.Hard = 84, true
		in.Drills[name] = d
	}
	n := &doc.Intervals{Work: 10, Rest: 60, Turns: 2, Places: 1, Long: 120, Exercises: []doc.Exercise{
		{Task: doc.Task{Drill: "wall", Edition: 1}, How: "regular feeds"}, {Task: doc.Task{Drill: "shot", Edition: 1}},
	}}
	if change != nil {
		change(n)
	}
	in.Plan.Blocks = []doc.Block{{ID: "b1", Kind: doc.Turns, Title: "All-out", Minutes: 12, Intervals: n}}
	if err := in.DealOut(); err != nil {
		t.Fatal(err)
	}
	return in
}

// Every second of every player is accounted for: work, the rest that is asked for, and what is left is waiting.
func TestIntervalsInTheLedger(t *testing.T) {
	for _, c := range []struct {
		players                     int
		total, active, rests, waits time.Duration
		tries                       float64
		change                      func(*doc.Intervals)
	}{
		{3, 400, 40, 360, 0, 56, nil},                                                      // 2·140 + 120
		{7, 400, 40, 360, 0, 56, nil},                                                      // a full group, no pause
		{12, 600, 40, 360, 200, 56, nil},                                                   // too many in one line: 2·240 + 120
		{12, 400, 40, 360, 0, 56, func(n *doc.Intervals) { n.Places = 2 }},                 // and in two
		{12, 480, 40, 240, 200, 56, func(n *doc.Intervals) { n.Long = 0 }},                 // no long rest
		{3, 140, 20, 120, 0, 28, func(n *doc.Intervals) { n.Exercises = n.Exercises[:1] }}, // the long rest is between exercises only
	} {
		pic := work.Out(allOut(t, c.players, c.change))
		if pic.Total != c.total*time.Second {
			t.Errorf("%d players: %v in all, want %v s", c.players, pic.Total, int(c.total))
		}
		for _, r := range pic.Ledger {
			if r.Active != c.active*time.Second || r.Resting != c.rests*time.Second || r.Waiting != c.waits*time.Second ||
				math.Abs(r.Reps-c.tries) > 1e-9 {
				t.Errorf("%d players: %s: %v active, %v resting, %v waiting, %v tries", c.players, r.Player.Name, r.Active,
					r.Resting, r.Waiting, r.Reps)
			}
		}
	}
}

// A light task while one rests is no work, so its tries are not counted; who comes late has the turns that are left; who has a task of their own
// is not in the line.
func TestIntervalsForEachPlayer(t *testing.T) {
	in := allOut(t, 3, func(n *doc.Intervals) { n.Light = doc.Task{Drill: "feint", Edition: 1} })
	in.There = map[string]work.There{"p1": {From: 140 * time.Second}}
	of := func(pic work.Picture, id string) work.Row {
		for _, r := range pic.Ledger {
			if r.Player.ID == id {
				return r
			}
		}
		t.Fatal(id)
		return work.Row{}
	}
	pic := work.Out(in)
	if r := of(pic, "p0"); r.BySkill["feint"] != 0 || r.BySkill["wall"] != 28 || r.Reps != 56 {
		t.Errorf("a light task is no work: %v, %v tries", r.BySkill, r.Reps)
	}
	if r := of(pic, "p1"); r.Away != 140*time.Second || r.Active != 20*time.Second || r.BySkill["wall"] != 0 {
		t.Errorf("who comes to the second exercise: %+v", r)
	}
	in.Plan.Blocks[0].Side = map[string]doc.Task{"p2": {}}
	if pic = work.Out(in); len(pic.Blocks[0].Cycle.Players) != 2 || of(pic, "p2").Active != 0 {
		t.Errorf("who sits out: %+v", of(pic, "p2"))
	}
	in.Plan.Blocks[0].Intervals.Exercises = nil
	if pic = work.Out(in); pic.Blocks[0].Cycle != nil || pic.Total != 12*time.Minute {
		t.Errorf("without an exercise it is a block of minutes: %v", pic.Total)
	}
	var kinds []string
	for _, m := range work.Out(allOut(t, 3, nil)).Moments {
		kinds = append(kinds, m.Kind+" "+m.Label)
	}
	if want := []string{"turns wall, regular feeds", "rest Long rest", "turns shot"}; !slices.Equal(kinds, want) {
		t.Errorf("on the clock: %q", kinds)
	}
}

// The kit of exercises that come one after the other is needed once.
func TestIntervalsAndKit(t *testing.T) {
	in := allOut(t, 6, func(n *doc.Intervals) { n.Places = 2 })
	for _, name := range []string{"wall", "shot"} {
		d := in.Drills[name]
		d.Kit = []string{"a rope each"}
		in.Drills[name] = d
	}
	in.Plan.Blocks[0].Intervals.Exercises[1].Drill = "wall"
	in.Kit = []coach.Kit{{Name: "rope", Count: 1}}
	if pic := work.Out(in); len(pic.Kit) != 1 || pic.Kit[0].Need != 2 {
		t.Errorf("two at once skip: %+v", pic.Kit)
	}
}

// One set to three: each session one more, up to where it ends; who was away or has something to spare stays behind.
func TestIntervalsGrowFromOneSessionToTheNext(t *testing.T) {
	grows := func(n *doc.Intervals) { n.Turns, n.More, n.Most = 1, 1, 3 }
	in := allOut(t, 4, grows)
	for _, want := range []int{2, 3, 3} {
		in.Plan.Grow()
		if got := in.Plan.Blocks[0].Intervals.Turns; got != want {
			t.Errorf("%d turns, want %d", got, want)
		}
	}
	in.Away = []string{in.Players[1].ID}
	in.Players[2].Limits = []coach.Limit{{What: "jumping"}}
	pic := work.Out(in)
	if got := pic.Blocks[0].Cycle.SparedSays(); got != say(in, 1, 2)+": 2 turns only, away last time or to spare something." {
		t.Error(got)
	}
	in = allOut(t, 4, nil)
	in.Plan.Grow()
	if n := in.Plan.Blocks[0].Intervals; n.Turns != 2 || work.Out(in).Blocks[0].Cycle.SparedSays() != "" {
		t.Errorf("what does not grow: %+v", n)
	}
}

// say names two players as they work: by name.
func say(in work.Input, a, b int) string {
	x, _, _ := strings.Cut(in.Players[a].Name, " ")
	y, _, _ := strings.Cut(in.Players[b].Name, " ")
	if y < x {
		x, y = y, x
	}
	return x + " and " + y
}
