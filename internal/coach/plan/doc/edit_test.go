package doc_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
)

// Every edit that a button, a key or a field sends: what it does, whether groups have to be dealt, and that the plan before is untouched.
func TestEveryEdit(t *testing.T) {
	kinds := func(p doc.Plan) string {
		var out []string
		for _, b := range p.Blocks {
			out = append(out, string(b.Kind))
		}
		return strings.Join(out, " ")
	}
	for _, c := range []struct {
		edit  doc.Edit
		needs doc.Needs
		holds func(p doc.Plan) bool
	}{
		{doc.Edit{Do: "work", Value: "300"}, doc.Nothing, func(p doc.Plan) bool { return p.Work == 300 }},
		{doc.Edit{Do: "change", Value: "25"}, doc.Nothing, func(p doc.Plan) bool { return p.Change == 25 }},
		{doc.Edit{Do: "brief", Value: "60"}, doc.Nothing, func(p doc.Plan) bool { return p.Brief == 60 }},
		{doc.Edit{Do: "rounds", Value: "2"}, doc.Nothing, func(p doc.Plan) bool { return p.Rounds == 2 }},
		{doc.Edit{Do: "groups", Value: "4"}, doc.NewDeal, func(p doc.Plan) bool { return p.Groups == 4 }},
		{doc.Edit{Do: "way", Value: "position"}, doc.NewDeal, func(p doc.Plan) bool { return p.Way == "position" }},
		{doc.Edit{Do: "deal"}, doc.NewDeal, func(p doc.Plan) bool { return p.Seed == 1 }},
		{doc.Edit{Do: "redeal"}, doc.Refit, func(p doc.Plan) bool { return p.Seed == 0 }},
		{doc.Edit{Do: "positions", Value: "Goalkeeper, wing"}, doc.NewDeal, func(p doc.Plan) bool { return fmt.Sprint(p.Positions) == "[goalkeeper wing]" }},
		{doc.Edit{Do: "key", Value: "soft hands"}, doc.Nothing, func(p doc.Plan) bool { return p.Key == "soft hands" }},
		{doc.Edit{Do: "gives", Value: "look"}, doc.Nothing, func(p doc.Plan) bool { return p.Gives[0] == doc.Look }},
		{doc.Edit{Do: "pin", Value: "station 1"}, doc.Nothing, func(p doc.Plan) bool { return p.Stations[1].Pinned }},
		{doc.Edit{Do: "pin", Value: "deal"}, doc.Nothing, func(p doc.Plan) bool { return fmt.Sprint(p.Pinned) == "[deal]" }},
		{doc.Edit{Do: "leaders", Value: "move"}, doc.Nothing, func(p doc.Plan) bool { return p.Move && len(p.With) == 3 }},
		{doc.Edit{Do: "goes-with", At: 2, Value: "kofi"}, doc.Nothing, func(p doc.Plan) bool { return p.With[2] == "kofi" }},
		{doc.Edit{Do: "player", Value: "p0 2"}, doc.Nothing, func(p doc.Plan) bool {
			return strings.Contains(fmt.Sprint(p.Deal[2]), "p0") && !strings.Contains(fmt.Sprint(p.Deal[:2]), "p0]")
		}},
		{doc.Edit{Do: "add-station", Value: "wall@1"}, doc.NewDeal, func(p doc.Plan) bool { return len(p.Stations) == 4 && p.Groups == 4 }},
		{doc.Edit{Do: "drop-station", At: 0}, doc.NewDeal, func(p doc.Plan) bool { return p.Stations[0].Drill == "shot" && p.Groups == 2 }},
		{doc.Edit{Do: "drill", At: 1, Value: "wall@3"}, doc.Nothing, func(p doc.Plan) bool { return p.Stations[1].Drill == "wall" && p.Stations[1].Edition == 3 }},
		{doc.Edit{Do: "leader", At: 0, Value: "ines"}, doc.Nothing, func(p doc.Plan) bool { return p.Stations[0].Leader == "ines" && p.Stations[2].Leader == "" }},
		{doc.Edit{Do: "target", At: 2, Value: "12"}, doc.Nothing, func(p doc.Plan) bool { return p.Stations[2].Target == 12 }},
		{doc.Edit{Do: "spot", At: 0, Value: "1,5 2 90 6 8"}, doc.Nothing, func(p doc.Plan) bool {
			return *p.Stations[0].Spot == floor.Spot{X: 1.5, Y: 2, Length: 6, Width: 8, Turn: 90}
		}},
		{doc.Edit{Do: "variant", At: 0, Value: "Reef=Closer"}, doc.Nothing, func(p doc.Plan) bool { return p.Stations[0].Variant["Reef"] == "Closer" }},
		{doc.Edit{Do: "double", At: 0}, doc.Nothing, func(p doc.Plan) bool { return p.Stations[0].Double }},
		{doc.Edit{Do: "minutes", At: 0, Value: "7"}, doc.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Minutes == 7 }},
		{doc.Edit{Do: "title", At: 0, Value: "Easy start"}, doc.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Title == "Easy start" }},
		{doc.Edit{Do: "note", At: 0, Value: "bibs out"}, doc.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Note == "bibs out" }},
		{doc.Edit{Do: "task", At: 0, Value: "wall@1"}, doc.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Drill == "wall" }},
		{doc.Edit{Do: "step", At: 1, Value: "0 later"}, doc.Nothing, func(p doc.Plan) bool { return p.Blocks[1].Steps[1].Drill == "wall" }},
		{doc.Edit{Do: "step", At: 1, Value: "1 earlier"}, doc.Nothing, func(p doc.Plan) bool { return p.Blocks[1].Steps[1].Drill == "wall" }},
		{doc.Edit{Do: "step", At: 1, Value: "0 out"}, doc.Nothing, func(p doc.Plan) bool { return len(p.Blocks[1].Steps) == 1 && p.Blocks[1].Steps[0].Drill == "shot" }},
		{doc.Edit{Do: "step", At: 1, Value: "0 pass@2"}, doc.Nothing, func(p doc.Plan) bool {
			return len(p.Blocks[1].Steps) == 3 && p.Blocks[1].Steps[1] == doc.Task{"pass", 2} && p.Blocks[1].Steps[2].Drill == "shot"
		}},
		{doc.Edit{Do: "game", At: 3, Value: "2 3 3 0 0 0 0"}, doc.Nothing, func(p doc.Plan) bool { return *p.Blocks[3].Game == rotate.Game{Areas: 2, A: 3, B: 3} }},
		{doc.Edit{Do: "add-block", At: 1, Value: "pairs"}, doc.Nothing, func(p doc.Plan) bool {
			return kinds(p) == "together pairs key stations game close" && p.Blocks[1].Turn > 0
		}},
		{doc.Edit{Do: "add-block", At: -1, Value: "break"}, doc.Nothing, func(p doc.Plan) bool { return kinds(p) == "together key stations game break close" }},
		{doc.Edit{Do: "drop-block", At: 1}, doc.Nothing, func(p doc.Plan) bool { return kinds(p) == "together stations game close" }},
		{doc.Edit{Do: "move-block", At: 3, Value: "earlier"}, doc.Nothing, func(p doc.Plan) bool { return kinds(p) == "together key game stations close" }},
		{doc.Edit{Do: "move-block", At: 0, Value: "3"}, doc.Nothing, func(p doc.Plan) bool { return kinds(p) == "key stations game together close" }},
		{doc.Edit{Do: "split-block", At: 0}, doc.Nothing, func(p doc.Plan) bool { return p.Blocks[0].Minutes == 5 && p.Blocks[1].Title == "Warm-up, part 2" }},
		{doc.Edit{Do: "split-block", At: 2, Value: "1"}, doc.Nothing, func(p doc.Plan) bool { return p.Blocks[2].Rounds == 1 && p.Parts() == 2 }},
	} {
		in := plantest.Tuesday(t)
		in.Plan.Stations[2].Leader = "ines"
		in.Plan.Blocks[1].Steps = []doc.Task{{"wall", 1}, {"shot", 1}}
		before := fmt.Sprintf("%+v", in.Plan)
		next, needs, err := in.Plan.Apply(c.edit)
		if err != nil || needs != c.needs || !c.holds(next) {
			t.Errorf("%+v: needs %v, %v: %+v", c.edit, needs, err, next)
		}
		if after := fmt.Sprintf("%+v", in.Plan); after != before {
			t.Errorf("%+v changed the plan it was made on", c.edit)
		}
	}
}

// The stations can be taken out by hand and put in again, and seven players who are given station after station are never six groups of one.
func TestStationsComeAndGo(t *testing.T) {
	in := plantest.Tuesday(t)
	apply := func(e doc.Edit) {
		t.Helper()
		next, needs, err := in.Plan.Apply(e)
		if err != nil {
			t.Fatalf("%+v: %v", e, err)
		}
		if in.Plan = next; needs == doc.NewDeal {
			if err := in.DealOut(); err != nil {
				t.Fatal(err)
			}
		}
	}
	circuit := func() int {
		for i, b := range in.Plan.Blocks {
			if b.Kind == doc.Circuit {
				return i
			}
		}
		return -1
	}
	in.Plan.Blocks[circuit()].Drill, in.Plan.Blocks[circuit()].Edition = "wall", 1 // out of an older plan
	if pic := check.Plan(in); pic.Blocks[circuit()].Task != nil {
		t.Errorf("the block of the stations has a drill of its own that nobody sees: %s", pic.Blocks[circuit()].Task.Name)
	}
	if _, _, err := in.Plan.Apply(doc.Edit{Do: "task", At: circuit(), Value: "wall@1"}); err == nil {
		t.Error("a drill was given to the block of the stations")
	}
	apply(doc.Edit{Do: "drop-block", At: circuit()})
	if circuit() >= 0 || len(in.Plan.Stations) > 0 {
		t.Fatalf("the stations are not out: %+v", in.Plan)
	}
	in.Players = in.Players[:7]
	apply(doc.Edit{Do: "deal"})
	for range 6 {
		apply(doc.Edit{Do: "add-station", Value: "wall@1"})
	}
	if len(in.Plan.Stations) != 6 || circuit() < 0 || in.Plan.Blocks[len(in.Plan.Blocks)-1].Kind != doc.Close {
		t.Errorf("six stations before the game and the close: %+v", in.Plan.Blocks)
	}
	for _, g := range in.Plan.Deal {
		if len(g) < 2 {
			t.Errorf("seven players in groups of one: %v", in.Plan.Deal)
		}
	}
	if err := in.Plan.Check(); err != nil {
		t.Error(err)
	}
}

func TestBadEditsSayWhyAndChangeNothing(t *testing.T) {
	p := plantest.Tuesday(t).Plan
	for _, e := range []doc.Edit{{Do: "work", Value: "soon"}, {Do: "work", Value: "5"}, {Do: "groups", Value: "9"}, {Do: "drill", At: 7, Value: "x@1"}, {Do: "drill", Value: "x"},
		{Do: "minutes", At: 0, Value: "-3"}, {Do: "task", At: 2, Value: "wall@1"}, {Do: "title", At: 0}, {Do: "way", Value: "by star sign"}, {Do: "sing"}, {Do: "split-block", At: 2, Value: "x"}, {Do: "spot", Value: "1 2 45 3 3"}, {Do: "spot", Value: "NaN 2 0 3 3"}, {Do: "score", At: 0, Value: "a"}, {Do: "pin", Value: "station 9"}, {Do: "turn", At: 0, Value: "1"}} {
		if _, _, err := p.Apply(e); err == nil || !strings.HasSuffix(err.Error(), ".") {
			t.Errorf("%+v: %v", e, err)
		}
	}
	if pic := check.Plan(work.Input{Plan: doc.Start(time.Hour, coach.BallGames), Booked: time.Hour, Floor: floor.Of("hall", 10, 10)}); plantest.Says(pic, "No drill") == nil || plantest.Says(pic, "Nobody") == nil {
		t.Error("an empty plan does not say what to do next")
	}
}
