package work_test

import (
	"math"
	"slices"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/work"
)

// Nine and five at two places, eight tries a minute each, six minutes: 96 tries in a round, by hand 10.67 for each of the
// nine and 19.2 for each of the five. What is asked of each group is within its own tries.
func TestEachGroupHasItsOwnTries(t *testing.T) {
	in := plantest.Tuesday(t)
	in.Players = append(in.Players, coach.Player{ID: "p12", Name: "Player 12"}, coach.Player{ID: "p13", Name: "Player 13"})
	var all [][]string
	for _, group := range [][2]int{{0, 9}, {9, 14}} {
		var ids []string
		for _, p := range in.Players[group[0]:group[1]] {
			ids = append(ids, p.ID)
		}
		all = append(all, ids)
	}
	in.Plan.Deals[0].Players, in.Plan.Deals[0].Groups = all, 2
	wall := in.Drills["wall"]
	wall.Target = coach.Target{Kind: coach.Total, N: 31}
	in.Drills["wall"] = wall
	pic := work.Out(in)
	for g, want := range []float64{96.0 / 9, 96.0 / 5} {
		if got := pic.Each(pic.Stations[0], pic.Groups[g]); math.Abs(got-want) > 1e-9 {
			t.Errorf("group %d: %.2f tries each, want %.2f", g, got, want)
		}
	}
	tries := pic.TriesAt(in, pic.Stations[0])
	if len(tries) != 1 || tries[0].Who[0].Tries != 10 || tries[0].Who[13].Tries != 19 {
		t.Fatalf("who tries: %+v", tries)
	}
	f := plantest.Says(check.Plan(in), "31 good ones would take")
	if f == nil {
		t.Fatalf("31 are asked of who has 10: %s", plantest.List(check.Plan(in)))
	}
	if better := f.What.(check.OtherTarget).Better; better > 10 {
		t.Errorf("offers %d where each of nine has 10", better)
	}
}

// The form a group does gives its number; a number that was chosen for the group stands until another form is taken.
func TestTheFormInForceSaysWhatIsAsked(t *testing.T) {
	in := plantest.Tuesday(t)
	wall := in.Drills["wall"]
	wall.Target = coach.Target{Kind: coach.Total, N: 6}
	wall.Variants = []coach.Variant{{Name: "To ten", Differs: "reaction catch", Target: 10, Pace: 4}}
	in.Drills["wall"] = wall
	do := func(edits ...edit.Edit) (coach.Target, float64) {
		t.Helper()
		for _, e := range edits {
			if err := in.Edit(e); err != nil {
				t.Fatal(err)
			}
		}
		pic := work.Out(in)
		asked, _ := pic.Stations[0].TargetFor(pic.Groups[1])
		return asked, pic.Each(pic.Stations[0], pic.Groups[1])
	}
	form := func(name string) edit.Variant { return edit.Variant{Station: "s1", For: doc.GroupKey(1), Name: name} }
	for _, c := range []struct {
		what string
		n    int
		each float64 // four players at two places, six minutes: 24 a minute at eight each
		do   []edit.Edit
	}{
		{"as written", 6, 24, nil},
		{"the station's number", 7, 24, []edit.Edit{edit.Target{At: "s1", Count: 7}}},
		{"the form's number and pace", 10, 12, []edit.Edit{form("To ten")}},
		{"the group's own number", 8, 12, []edit.Edit{edit.Target{At: "s1", Group: doc.GroupKey(1), Count: 8}}},
		{"another form", 7, 24, []edit.Edit{form("-")}},
		{"the form again", 10, 12, []edit.Edit{form("To ten")}},
	} {
		if asked, each := do(c.do...); asked.N != c.n || math.Abs(each-c.each) > 1e-9 {
			t.Errorf("%s: to %d with %.1f tries each, want to %d with %.1f", c.what, asked.N, each, c.n, c.each)
		}
	}
}

// Fifteen climb a step of ten good ones at nine in ten, four a minute at a place: four in five are done within 12 tries
// (the negative binomial distribution: 0.8891 within 12, 0.6974 within 11), 3 minutes at a place of one's own. In five
// groups of three each has a third of a place; in one queue each would have a fifteenth, which takes five times as long.
// A team counts together, once; what lasts half a minute takes that for each.
func TestALaddersTimeGoesByWhoClimbs(t *testing.T) {
	in := plantest.Adults(15)
	in.Floor = plantest.Tuesday(t).Floor
	step := coach.Drill{ID: "step", Places: 1, Pace: 4, Chance: 0.9, Least: 1, Most: 6, Length: 4, Width: 4,
		Target: coach.Target{Kind: coach.Total, N: 10}}
	in.Drills = map[string]coach.Drill{"step": step}
	in.Plan = doc.Plan{Deals: []doc.Deal{{ID: "d1", Groups: 5}}, Blocks: []doc.Block{{Kind: doc.Ladder, Minutes: 20}}}
	in.Plan.Name()
	groups := in
	groups.Plan.Deals = []doc.Deal{{ID: "d1", Groups: 5, Players: make([][]string, 5)}}
	for i, p := range in.Players {
		groups.Plan.Deals[0].Players[i%5] = append(groups.Plan.Deals[0].Players[i%5], p.ID)
	}
	takes := func(in work.Input, climb doc.Climb, d coach.Drill) time.Duration {
		return in.StepTime(work.Span{Block: doc.Block{Kind: doc.Ladder, Climb: climb, Minutes: 20}}, d)
	}
	team, hold := step, step
	team.Target, hold.Target = coach.Target{Kind: coach.TeamStreak, N: 1}, coach.Target{Kind: coach.HoldFor, N: 30}
	rally := step
	rally.Target, rally.Places = coach.Target{Kind: coach.RallyLadder, N: 1}, 2
	for _, c := range []struct {
		what string
		in   work.Input
		by   doc.Climb
		d    coach.Drill
		want time.Duration
	}{
		{"one queue", in, doc.ByGroup, step, 45 * time.Minute},
		{"five groups", groups, doc.ByGroup, step, 9 * time.Minute},
		{"each for themselves, with room for all", in, doc.ByPlayer, step, 3 * time.Minute},
		{"a team each group", groups, doc.ByGroup, team, 15 * time.Second},
		{"a hold each in groups", groups, doc.ByGroup, hold, 90 * time.Second},
		{"a rally by pair", in, doc.ByPair, rally, 15 * time.Second},
	} {
		if got := takes(c.in, c.by, c.d); got != c.want {
			t.Errorf("%s: %v, want %v", c.what, got, c.want)
		}
	}
}

// Exercises come one after the other: what each needs is needed once, and of it the most. Sixty balls twice are sixty.
func TestExercisesShareTheirKit(t *testing.T) {
	in := plantest.Tuesday(t)
	for name, kit := range map[string]string{"wall": "60 balls", "shot": "40 balls"} {
		d := in.Drills[name]
		d.Kit = []string{kit}
		in.Drills[name] = d
	}
	exercise := func(name string) doc.Exercise { return doc.Exercise{Task: doc.Task{Drill: name, Edition: 1}} }
	n := doc.NewIntervals()
	n.Exercises = []doc.Exercise{exercise("wall"), exercise("shot"), exercise("wall")}
	in.Plan.Blocks = []doc.Block{{Kind: doc.Turns, Title: "Intervals", Minutes: 20, Intervals: n}}
	in.Plan.Name()
	if kit := work.Out(in).Kit; len(kit) != 1 || kit[0].Need != 60 {
		t.Errorf("to be packed: %+v", kit)
	}
	in.Plan.Blocks = []doc.Block{{Kind: doc.Ladder, Title: "Ladder", Minutes: 20, Steps: []doc.Task{{Drill: "wall"}, {Drill: "shot"}}}}
	in.Plan.Name()
	if kit := work.Out(in).Kit; len(kit) != 1 || kit[0].Need != 60 {
		t.Errorf("for a ladder: %+v", kit)
	}
}

// The key in force for a task is the day's where the drill has it, else its own first one, where it has any.
func TestOneKeyIsInForce(t *testing.T) {
	pic := work.Picture{Plan: doc.Plan{Key: "elbow high"}}
	for _, c := range []struct {
		keys []string
		want string
	}{{[]string{"Step", "Elbow high"}, "Elbow high"}, {[]string{"Hips over hands"}, "Hips over hands"}, {nil, "elbow high"}} {
		if got := pic.KeyFor(&coach.Drill{Keys: c.keys}); got != c.want {
			t.Errorf("of %v %q is in force, want %q", c.keys, got, c.want)
		}
	}
	if got := pic.KeyFor(nil); got != "elbow high" {
		t.Errorf("without a drill: %q", got)
	}
}

// Partners of three minutes in fourteen have four turns, and the last has what is too short for a fifth; a run-through has
// one for each who shows it, with what comes after it.
func TestTurnsAreStepsOfTheClock(t *testing.T) {
	in := plantest.Tuesday(t)
	run := doc.NewRun()
	run.Exercises = []doc.Exercise{{Task: doc.Task{Drill: "wall", Edition: 1}}}
	in.Plan.Blocks = []doc.Block{
		{Kind: doc.Pairs, Title: "Partners", Minutes: 14, Turn: 180, Drill: "wall", Edition: 1},
		{Kind: doc.Run, Title: "Run-through", Minutes: 12, Intervals: run},
		{Kind: doc.Close, Title: "Close", Minutes: 5},
	}
	in.Plan.Name()
	segments := work.Out(in).Segments()
	want := []time.Duration{3 * time.Minute, 3 * time.Minute, 3 * time.Minute, 5 * time.Minute}
	if got := segments[0].Turns; !slices.Equal(got, want) {
		t.Errorf("partners have turns of %v, want %v", got, want)
	}
	sum := time.Duration(0)
	for _, d := range segments[1].Turns {
		sum += d
	}
	if len(segments[1].Turns) != len(in.Players) || sum != segments[1].Duration {
		t.Errorf("a run-through of %d players: %d turns of %v in %v", len(in.Players), len(segments[1].Turns), sum, segments[1].Duration)
	}
	if segments[2].Turns != nil {
		t.Errorf("a close has turns: %v", segments[2].Turns)
	}
}
