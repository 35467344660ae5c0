package edit_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
)

// made makes an edit as it is sent.
func made(p doc.Plan, w edit.Wire) (doc.Plan, edit.Needs, error) {
	e, err := edit.Read(w)
	if err != nil {
		return p, edit.Nothing, err
	}
	return edit.Apply(p, e)
}

// Every edit that a button, a key or a field sends: what it does, whether groups have to be dealt, and that the plan
// before is untouched.
func TestEveryEdit(t *testing.T) {
	kinds := func(p doc.Plan) string {
		var out []string
		for _, b := range p.Blocks {
			out = append(out, string(b.Kind))
		}
		return strings.Join(out, " ")
	}
	for _, c := range []struct {
		edit  edit.Wire
		needs edit.Needs
		holds func(p doc.Plan) bool
	}{
		{edit.Wire{Do: "work", Value: "300"}, edit.Nothing, func(p doc.Plan) bool { return p.First().Work == 300 }},
		{edit.Wire{Do: "change", Value: "25"}, edit.Nothing, func(p doc.Plan) bool { return p.First().Change == 25 }},
		{edit.Wire{Do: "brief", Value: "60"}, edit.Nothing, func(p doc.Plan) bool { return p.First().Brief == 60 }},
		{edit.Wire{Do: "rounds", Value: "2"}, edit.Nothing, func(p doc.Plan) bool { return p.First().Rounds == 2 }},
		{edit.Wire{Do: "groups", Value: "4"}, edit.NewDeal, func(p doc.Plan) bool { return p.Deals[0].Groups == 4 }},
		{edit.Wire{Do: "way", Value: "position"}, edit.NewDeal, func(p doc.Plan) bool { return p.Deals[0].Way == "position" }},
		{edit.Wire{Do: "deal"}, edit.NewDeal, func(p doc.Plan) bool { return p.Seed == 1 }},
		{edit.Wire{Do: "redeal"}, edit.Refit, func(p doc.Plan) bool { return p.Seed == 0 }},
		{edit.Wire{Do: "positions", Value: "Goalkeeper, wing"}, edit.NewDeal, func(p doc.Plan) bool { return fmt.Sprint(p.Deals[0].Positions) == "[goalkeeper wing]" }},
		{edit.Wire{Do: "key", Value: "soft hands"}, edit.Nothing, func(p doc.Plan) bool { return p.Key == "soft hands" }},
		{edit.Wire{Do: "gives", Value: "look"}, edit.Nothing, func(p doc.Plan) bool { return p.Gives[0] == doc.Look }},
		{edit.Wire{Do: "pin", Value: "station s2"}, edit.Nothing, func(p doc.Plan) bool { return p.First().Stations[1].Pinned }},
		{edit.Wire{Do: "pin", Value: "deal"}, edit.Nothing, func(p doc.Plan) bool { return fmt.Sprint(p.Pinned) == "[deal]" }},
		{edit.Wire{Do: "leaders", Value: "move"}, edit.Nothing, func(p doc.Plan) bool { return p.First().Move && len(p.First().With) == 3 }},
		{edit.Wire{Do: "goes-with", Value: "2 kofi"}, edit.Nothing, func(p doc.Plan) bool { return p.First().With[2] == "kofi" }},
		{edit.Wire{Do: "player", Value: "p0 2"}, edit.Nothing, func(p doc.Plan) bool {
			return strings.Contains(fmt.Sprint(p.Deals[0].Players[2]), "p0") && !strings.Contains(fmt.Sprint(p.Deals[0].Players[:2]), "p0]")
		}},
		{edit.Wire{Do: "add-station", Value: "wall@1"}, edit.NewDeal, func(p doc.Plan) bool { return len(p.First().Stations) == 4 && p.Deals[0].Groups == 4 }},
		{edit.Wire{Do: "drop-station", At: "s1"}, edit.NewDeal, func(p doc.Plan) bool { return p.First().Stations[0].Drill == "shot" && p.Deals[0].Groups == 2 }},
		{edit.Wire{Do: "drill", At: "s2", Value: "wall@3"}, edit.Nothing, func(p doc.Plan) bool {
			return p.First().Stations[1].Drill == "wall" && p.First().Stations[1].Edition == 3
		}},
		{edit.Wire{Do: "leader", At: "s1", Value: "ines"}, edit.Nothing, func(p doc.Plan) bool {
			return p.First().Stations[0].Leader == "ines" && p.First().Stations[2].Leader == ""
		}},
		{edit.Wire{Do: "target", At: "s3", Value: "12"}, edit.Nothing, func(p doc.Plan) bool { return p.First().Stations[2].Target == 12 }},
		{edit.Wire{Do: "spot", At: "s1", Value: "1,5 2 90 6 8"}, edit.Nothing, func(p doc.Plan) bool {
			return *p.First().Stations[0].Spot == floor.Spot{X: 1.5, Y: 2, Length: 6, Width: 8, Turn: 90}
		}},
		{edit.Wire{Do: "variant", At: "s1", Value: "Reef=Closer"}, edit.Nothing, func(p doc.Plan) bool { return p.First().Stations[0].Variant["Reef"] == "Closer" }},
		{edit.Wire{Do: "double", At: "s1"}, edit.Nothing, func(p doc.Plan) bool { return p.First().Stations[0].Double }},
		{edit.Wire{Do: "minutes", At: "b1", Value: "7"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Minutes == 7 }},
		{edit.Wire{Do: "title", At: "b1", Value: "Easy start"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Title == "Easy start" }},
		{edit.Wire{Do: "note", At: "b1", Value: "bibs out"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Note == "bibs out" }},
		{edit.Wire{Do: "task", At: "b1", Value: "wall@1"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Drill == "wall" }},
		{edit.Wire{Do: "step", At: "b2", Value: "0 later"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[1].Steps[1].Drill == "wall" }},
		{edit.Wire{Do: "step", At: "b2", Value: "1 earlier"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[1].Steps[1].Drill == "wall" }},
		{edit.Wire{Do: "step", At: "b2", Value: "0 out"}, edit.Nothing, func(p doc.Plan) bool { return len(p.Blocks[1].Steps) == 1 && p.Blocks[1].Steps[0].Drill == "shot" }},
		{edit.Wire{Do: "step", At: "b2", Value: "0 pass@2"}, edit.Nothing, func(p doc.Plan) bool {
			return len(p.Blocks[1].Steps) == 3 && p.Blocks[1].Steps[1] == doc.Task{Drill: "pass", Edition: 2} && p.Blocks[1].Steps[2].Drill == "shot"
		}},
		{edit.Wire{Do: "game", At: "b4", Value: "2 3 3 0 0 0 0"}, edit.Nothing, func(p doc.Plan) bool { return *p.Blocks[3].Game == rotate.Game{Areas: 2, A: 3, B: 3} }},
		{edit.Wire{Do: "add-block", At: "b2", Value: "pairs"}, edit.Nothing, func(p doc.Plan) bool {
			return kinds(p) == "together pairs key stations game close" && p.Blocks[1].Turn > 0
		}},
		{edit.Wire{Do: "add-block", At: "after b1", Value: "break"}, edit.Nothing, func(p doc.Plan) bool { return kinds(p) == "together break key stations game close" }},
		{edit.Wire{Do: "add-block", At: "b2", Value: "intervals"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[1].Intervals.Work > 0 }},
		{edit.Wire{Do: "interval", At: "b1", Value: "grow 2"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Intervals.More == 2 }},
		{edit.Wire{Do: "interval", At: "b1", Value: "work 15"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Intervals.Work == 15 }},
		{edit.Wire{Do: "exercise", At: "b1", Value: "shot@1"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Intervals.Exercises[2].Drill == "shot" }},
		{edit.Wire{Do: "exercise", At: "b1", Value: "1 earlier"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Intervals.Exercises[0].Drill == "feint" }},
		{edit.Wire{Do: "exercise", At: "b1", Value: "0 how both corners"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Intervals.Exercises[0].How == "both corners" }},
		{edit.Wire{Do: "exercise", At: "b1", Value: "0 how "}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Intervals.Exercises[0].How == "" }},
		{edit.Wire{Do: "exercise", At: "b1", Value: "0 out"}, edit.Nothing, func(p doc.Plan) bool { return len(p.Blocks[0].Intervals.Exercises) == 1 }},
		{edit.Wire{Do: "light", At: "b1", Value: "shot@1"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Intervals.Light.Drill == "shot" }},
		{edit.Wire{Do: "allow", At: "b1", Value: "yes"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Intervals.Allowed }},
		{edit.Wire{Do: "judges", At: "b1", Value: "partners"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Intervals.Judges == doc.Partners }},
		{edit.Wire{Do: "add-block", At: "b2", Value: "run"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[1].Intervals.Turns == 1 }},
		{edit.Wire{Do: "pairing", At: "b1", Value: "to 7"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Pairs().To == 7 && len(p.Blocks[0].Scores) == 1 }},
		{edit.Wire{Do: "pairing", At: "b1", Value: "courts 2"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Pairs().Courts == 2 && p.Blocks[0].Scores == nil }},
		{edit.Wire{Do: "with", At: "b1", Value: "p2 p1"}, edit.Nothing, func(p doc.Plan) bool {
			return fmt.Sprint(p.Blocks[0].Pairs().Chosen) == "[[p2 p1]]" && p.Blocks[0].Way == rotate.ByChoice
		}},
		{edit.Wire{Do: "with", At: "b1", Value: "p0"}, edit.Nothing, func(p doc.Plan) bool { return len(p.Blocks[0].Pairs().Chosen) == 0 }},
		{edit.Wire{Do: "steps", At: "b1", Value: "shot@1 wall@2"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Steps[1] == doc.Task{Drill: "wall", Edition: 2} }},
		{edit.Wire{Do: "climb", At: "b1", Value: "pair"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Climb == doc.ByPair }},
		{edit.Wire{Do: "defence", At: "b4", Value: "half"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[3].Game.Defends == rotate.Half }},
		{edit.Wire{Do: "area", At: "b4", Value: "20 yd x 12", Units: coach.Imperial}, edit.Nothing, func(p doc.Plan) bool {
			return fmt.Sprintf("%.3f %.4f", p.Blocks[3].Game.Length, p.Blocks[3].Game.Width) == "18.288 3.6576"
		}},
		{edit.Wire{Do: "add-block", Value: "break"}, edit.Nothing, func(p doc.Plan) bool { return kinds(p) == "together key stations game break close" }},
		{edit.Wire{Do: "drop-block", At: "b2"}, edit.Nothing, func(p doc.Plan) bool { return kinds(p) == "together stations game close" }},
		{edit.Wire{Do: "move-block", At: "b4", Value: "earlier"}, edit.Nothing, func(p doc.Plan) bool { return kinds(p) == "together key game stations close" }},
		{edit.Wire{Do: "move-block", At: "b1", Value: "3"}, edit.Nothing, func(p doc.Plan) bool { return kinds(p) == "key stations game together close" }},
		{edit.Wire{Do: "split-block", At: "b1"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Minutes == 5 && p.Blocks[1].Title == "Warm-up, part 2" }},
		{edit.Wire{Do: "change-by", At: "b1", Value: string(rotate.ByChoice)}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Way == rotate.ByChoice && p.Blocks[0].Scores == nil }},
		{edit.Wire{Do: "variant", At: "s2", Value: "group 2="}, edit.Nothing, func(p doc.Plan) bool { return len(p.First().Stations[1].Variant) == 0 }},
		{edit.Wire{Do: "pin", Value: "block b4"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[3].Pinned }},
		{edit.Wire{Do: "split-block", At: "b3", Value: "1"}, edit.Nothing, func(p doc.Plan) bool { return p.Blocks[2].Rounds == 1 && len(p.PartOf("b3")) == 2 }},
	} {
		in := plantest.Tuesday(t)
		in.Plan.First().Stations[2].Leader = "ines"
		in.Plan.Blocks[1].Steps = []doc.Task{{Drill: "wall", Edition: 1}, {Drill: "shot", Edition: 1}}
		if slices.Contains([]string{"interval", "exercise", "light", "allow"}, c.edit.Do) {
			in.Plan.Blocks[0] = doc.Block{ID: "b1", Kind: doc.Turns, Minutes: 9, Intervals: doc.NewIntervals()}
			in.Plan.Blocks[0].Intervals.Exercises = []doc.Exercise{
				{Task: doc.Task{Drill: "wall", Edition: 1}, How: "slowly"}, {Task: doc.Task{Drill: "feint", Edition: 1}},
			}
		}
		b := &in.Plan.Blocks[0]
		switch c.edit.Do {
		case "judges":
			*b = doc.Block{ID: "b1", Kind: doc.Run, Minutes: 9, Intervals: doc.NewRun()}
		case "variant":
			in.Plan.First().Stations[1].Variant = map[string]string{"group 2": "Closer"}
		case "pairing", "with", "change-by":
			*b = doc.Block{ID: "b1", Kind: doc.Pairs, Minutes: 9, Turn: 45, Scores: []doc.Made{{}}}
			b.Pairing = &doc.Pairing{Chosen: [][2]string{{"p0", "p1"}}}
		case "steps", "climb":
			*b = doc.Block{ID: "b1", Kind: doc.Ladder, Minutes: 9}
		case "defence", "area":
			in.Plan.Blocks[3].Game = &rotate.Game{Areas: 1, A: 3, B: 3}
		}
		before := fmt.Sprintf("%+v", in.Plan)
		next, needs, err := made(in.Plan, c.edit)
		if e, err := edit.Read(c.edit); err == nil {
			called, at := e.Called(in.Plan), strings.NewReplacer("b", "block ", "s", "station ").Replace(c.edit.At)
			if c.edit.Do == "add-block" { // between others, not about one
				at = ""
			}
			if called == "" || !strings.HasPrefix(called, at) {
				t.Errorf("%+v is offered to be undone as %q", c.edit, called)
			}
		}
		if err != nil || needs != c.needs || !c.holds(next) {
			t.Errorf("%+v: needs %v, %v: %+v", c.edit, needs, err, next)
		}
		if after := fmt.Sprintf("%+v", in.Plan); after != before {
			t.Errorf("%+v changed the plan it was made on", c.edit)
		}
	}
}

// The stations can be taken out by hand and put in again, and seven players who are given station after station are
// never six groups of one.
func TestStationsComeAndGo(t *testing.T) {
	in := plantest.Tuesday(t)
	apply := func(e edit.Edit) {
		t.Helper()
		if err := in.Edit(e); err != nil {
			t.Fatalf("%+v: %v", e, err)
		}
	}
	circuit := func() int {
		for i, b := range in.Plan.Blocks {
			if b.Kind == doc.Stations {
				return i
			}
		}
		return -1
	}
	in.Plan.Blocks[circuit()].Drill, in.Plan.Blocks[circuit()].Edition = "wall", 1 // out of an older plan
	if pic := check.Plan(in); pic.Blocks[circuit()].Task != nil {
		t.Errorf(
			"the block of the stations has a drill of its own that nobody sees: %s",
			pic.Blocks[circuit()].Task.Name,
		)
	}
	if _, _, err := edit.Apply(in.Plan, edit.Task{Block: "b3", Task: doc.Task{Drill: "wall", Edition: 1}}); err == nil {
		t.Error("a drill was given to the block of the stations")
	}
	apply(edit.DropBlock{Block: "b3"})
	if circuit() >= 0 || len(in.Plan.First().Stations) > 0 {
		t.Fatalf("the stations are not out: %+v", in.Plan)
	}
	in.Players = in.Players[:7]
	apply(edit.Deal{})
	for range 6 {
		apply(edit.AddStation{Task: doc.Task{Drill: "wall", Edition: 1}})
	}
	if len(in.Plan.First().Stations) != 6 || circuit() < 0 || in.Plan.Blocks[len(in.Plan.Blocks)-1].Kind != doc.Close {
		t.Errorf("six stations before the game and the close: %+v", in.Plan.Blocks)
	}
	for _, g := range in.Plan.Deals[0].Players {
		if len(g) < 2 {
			t.Errorf("seven players in groups of one: %v", in.Plan.Deals[0].Players)
		}
	}
	if err := in.Plan.Check(); err != nil {
		t.Error(err)
	}
}

func TestBadEditsSayWhyAndChangeNothing(t *testing.T) {
	p := plantest.Tuesday(t).Plan
	for _, e := range []edit.Wire{{Do: "work", Value: "soon"}, {Do: "work", Value: "5"}, {Do: "groups", Value: "9"}, {Do: "drill", At: "s8", Value: "x@1"}, {Do: "drill", At: "s1", Value: "x"},
		{Do: "minutes", At: "b1", Value: "-3"}, {Do: "task", At: "b3", Value: "wall@1"}, {Do: "title", At: "b1"}, {Do: "way", Value: "by star sign"}, {Do: "sing"}, {Do: "split-block", At: "b3", Value: "x"}, {Do: "spot", At: "s1", Value: "1 2 45 3 3"}, {Do: "spot", At: "s1", Value: "NaN 2 0 3 3"}, {Do: "score", At: "b1", Value: "a"}, {Do: "pin", Value: "station s9"}, {Do: "turn", At: "b1", Value: "1"}, {Do: "pairing", At: "b1", Value: "to 5"}, {Do: "with", At: "b1", Value: "p1 p1"}, {Do: "steps", At: "b1", Value: "wall@1"}, {Do: "climb", At: "b4", Value: "pair"}, {Do: "judges", At: "b1", Value: "nobody"}, {Do: "defence", At: "b4", Value: "half"}, {Do: "area", At: "b4", Value: "20"},
		{Do: "change-by", At: "b1", Value: "by star sign"}, {Do: "gives", Value: "a smile"}, {Do: "pin", Value: "hope"}, {Do: "pin", Value: "block b9"}, {Do: "unit", At: "d9", Value: "0 Foxes"}, {Do: "groups", At: "d9", Value: "3"}, {Do: "variant", At: "s1", Value: "Closer"}, {Do: "variant", At: "s9", Value: "Reef=Closer"}, {Do: "interval", At: "b4", Value: "sleep 3"}} {
		if _, _, err := made(p, e); err == nil || !strings.HasSuffix(err.Error(), ".") {
			t.Errorf("%+v: %v", e, err)
		}
	}
	if pic := check.Plan(work.Input{Plan: doc.Start(time.Hour, coach.BallGames), Booked: time.Hour, Floor: floor.Of("hall", 10, 10)}); plantest.Says(
		pic,
		"No drill",
	) == nil ||
		plantest.Says(pic, "Nobody") == nil {
		t.Error("an empty plan does not say what to do next")
	}
}

// Every figure that a field sends is kept at both ends of what it may be; beyond them nothing is changed, and the answer
// names the figure and its ends.
func TestFiguresKeepToTheirEnds(t *testing.T) {
	p := plantest.Tuesday(t).Plan
	p.Blocks[0] = doc.Block{ID: "b1", Kind: doc.Turns, Minutes: 9, Intervals: doc.NewIntervals()}
	p.Blocks[1] = doc.Block{ID: "b2", Kind: doc.Pairs, Minutes: 9, Turn: 45}
	for _, f := range []struct {
		do, at, what string
		low, high    int
		called       string
	}{
		{"game-figure", "b4", "areas", 1, 8, "Areas"},
		{"game-figure", "b4", "a", 1, 30, "Players of one side"},
		{"game-figure", "b4", "b", 1, 30, "Players of the other side"},
		{"game-figure", "b4", "goals", 0, 8, "Goals or targets"},
		{"game-figure", "b4", "floaters", 0, 10, "Floaters"},
		{"game-figure", "b4", "walls", 0, 10, "Wall players"},
		{"game-figure", "b4", "touches", 0, 9, "Touches of a wall player"},
		{"game-figure", "b4", "reserves", 0, 30, "Reserves"},
		{"game-figure", "b4", "swap", 0, 1800, "Seconds between two swaps"},
		{"interval", "b1", "work", 5, 600, "Seconds of work"},
		{"interval", "b1", "rest", 0, 900, "Seconds of rest"},
		{"interval", "b1", "change", 0, 120, "Seconds to change"},
		{"interval", "b1", "turns", 1, doc.MostTimes, "Turns"},
		{"interval", "b1", "grow", 0, doc.MostMore, "Turns more each time"},
		{"interval", "b1", "upto", 0, doc.MostTimes, "Turns at most"},
		{"interval", "b1", "places", 1, doc.MostAtWork, "Players at once"},
		{"interval", "b1", "feeders", 0, doc.MostFeeders, "Players who feed"},
		{"interval", "b1", "long", 0, 900, "Seconds of rest between exercises"},
		{"pairing", "b2", "to", 0, 99, "Points of a turn"},
		{"pairing", "b2", "against", 0, 99, "Points of the other"},
		{"pairing", "b2", "change", 0, 120, "Seconds to change over"},
		{"pairing", "b2", "courts", 0, doc.MostCourts, "Courts"},
		{"work", "", "", 30, 3600, "Seconds of work"},
		{"brief", "", "", 0, 1800, "Seconds to explain"},
		{"groups", "", "", 1, doc.Most, "Groups"},
	} {
		wire := func(n int) edit.Wire {
			return edit.Wire{Do: f.do, At: f.at, Value: strings.TrimSpace(fmt.Sprint(f.what, " ", n))}
		}
		for _, c := range [][3]int{{f.low, -1, f.low}, {f.low + 2, -30, f.low}, {f.high, 1, f.high}, {f.high - 1, 5, f.high}, {f.low, 1, f.low + 1}} {
			if got := edit.Toward(f.do, f.what, c[0], c[1]); got != c[2] {
				t.Errorf("%s %s: a step of %d from %d leads to %d, want %d", f.do, f.what, c[1], c[0], got, c[2])
			}
		}
		for _, n := range []int{f.low, f.high} {
			if _, _, err := made(p, wire(n)); err != nil {
				t.Errorf("%+v: %v", wire(n), err)
			}
		}
		for _, n := range []int{f.low - 1, f.high + 1} {
			_, _, err := made(p, wire(n))
			if want := fmt.Sprintf("%s from %d to %d, please.", f.called, f.low, f.high); err == nil || err.Error() != want {
				t.Errorf("%+v: %v, want %s", wire(n), err, want)
			}
		}
		if _, _, err := made(p, edit.Wire{Do: f.do, At: "b5", Value: wire(f.high).Value}); err == nil {
			t.Errorf("%s of the close is set to %d", f.what, f.high)
		}
	}
}

// A turn that grows ends somewhere without being told where, and never before it began.
func TestTurnsGrowToAnEnd(t *testing.T) {
	p := plantest.Tuesday(t).Plan
	p.Blocks[0] = doc.Block{ID: "b1", Kind: doc.Turns, Minutes: 9, Intervals: doc.NewIntervals()}
	p.Blocks[0].Intervals.Turns = 3
	for _, c := range []struct {
		sent []string
		most int
	}{
		{[]string{"grow 1"}, 5},
		{[]string{"grow 3"}, 9},
		{[]string{"upto 4", "grow 1"}, 4},
		{[]string{"upto 2", "grow 1"}, 5},
		{[]string{"turns 19", "grow 2"}, doc.MostTimes},
	} {
		next := p
		for _, v := range c.sent {
			var err error
			if next, _, err = made(next, edit.Wire{Do: "interval", At: "b1", Value: v}); err != nil {
				t.Fatal(err)
			}
		}
		if n := next.Blocks[0].Intervals; n.Most != c.most {
			t.Errorf("after %q it grows from %d by %d up to %d, want %d", c.sent, n.Turns, n.More, n.Most, c.most)
		}
	}
}

// One player who is given a station is one group of one, and two who lose one of two stations are one group of two: the
// players are dealt anew when the number of groups follows the stations.
func TestGroupsFollowTheStations(t *testing.T) {
	for players, edits := range map[int][]edit.Edit{
		1: {edit.AddStation{Task: doc.Task{Drill: "wall", Edition: 1}}},
		2: {edit.AddStation{Task: doc.Task{Drill: "wall", Edition: 1}}, edit.AddStation{Task: doc.Task{Drill: "wall", Edition: 1}}, edit.Groups{Count: 2}, edit.DropStation{Station: "s1"}},
	} {
		in := plantest.Adults(players)
		in.Plan = doc.Start(time.Hour, coach.BallGames)
		if err := in.DealOut(); err != nil { // into the three groups that a plan begins with
			t.Fatal(err)
		}
		if err := in.Edit(edits...); err != nil {
			t.Fatal(err)
		}
		if d := in.Plan.Deals[0]; d.Groups != 1 || len(d.Players) != 1 || d.Dealt() != players {
			t.Errorf("%d players: %d groups are asked for, %v are dealt", players, d.Groups, d.Players)
		}
	}
}
