package plan

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
)

// Every edit that a button, a key or a field sends: what it does, whether groups have to be dealt, and that the plan before is untouched.
func TestEveryEdit(t *testing.T) {
	kinds := func(p Plan) string {
		var out []string
		for _, b := range p.Blocks {
			out = append(out, string(b.Kind))
		}
		return strings.Join(out, " ")
	}
	for _, c := range []struct {
		edit  Edit
		needs Needs
		holds func(p Plan) bool
	}{
		{Edit{Do: "work", Value: "300"}, Nothing, func(p Plan) bool { return p.Work == 300 }},
		{Edit{Do: "change", Value: "25"}, Nothing, func(p Plan) bool { return p.Change == 25 }},
		{Edit{Do: "brief", Value: "60"}, Nothing, func(p Plan) bool { return p.Brief == 60 }},
		{Edit{Do: "rounds", Value: "2"}, Nothing, func(p Plan) bool { return p.Rounds == 2 }},
		{Edit{Do: "groups", Value: "4"}, NewDeal, func(p Plan) bool { return p.Groups == 4 }},
		{Edit{Do: "way", Value: "position"}, NewDeal, func(p Plan) bool { return p.Way == "position" }},
		{Edit{Do: "deal"}, NewDeal, func(p Plan) bool { return p.Seed == 1 }},
		{Edit{Do: "redeal"}, Refit, func(p Plan) bool { return p.Seed == 0 }},
		{Edit{Do: "positions", Value: "Goalkeeper, wing"}, NewDeal, func(p Plan) bool { return fmt.Sprint(p.Positions) == "[goalkeeper wing]" }},
		{Edit{Do: "key", Value: "soft hands"}, Nothing, func(p Plan) bool { return p.Key == "soft hands" }},
		{Edit{Do: "gives", Value: "look"}, Nothing, func(p Plan) bool { return p.Gives[0] == Look }},
		{Edit{Do: "pin", Value: "station 1"}, Nothing, func(p Plan) bool { return p.Stations[1].Pinned }},
		{Edit{Do: "pin", Value: "deal"}, Nothing, func(p Plan) bool { return fmt.Sprint(p.Pinned) == "[deal]" }},
		{Edit{Do: "leaders", Value: "move"}, Nothing, func(p Plan) bool { return p.Move && len(p.With) == 3 }},
		{Edit{Do: "goes-with", At: 2, Value: "kofi"}, Nothing, func(p Plan) bool { return p.With[2] == "kofi" }},
		{Edit{Do: "player", Value: "p0 2"}, Nothing, func(p Plan) bool {
			return strings.Contains(fmt.Sprint(p.Deal[2]), "p0") && !strings.Contains(fmt.Sprint(p.Deal[:2]), "p0]")
		}},
		{Edit{Do: "add-station", Value: "wall@1"}, NewDeal, func(p Plan) bool { return len(p.Stations) == 4 && p.Groups == 4 }},
		{Edit{Do: "drop-station", At: 0}, NewDeal, func(p Plan) bool { return p.Stations[0].Drill == "shot" && p.Groups == 2 }},
		{Edit{Do: "drill", At: 1, Value: "wall@3"}, Nothing, func(p Plan) bool { return p.Stations[1].Drill == "wall" && p.Stations[1].Edition == 3 }},
		{Edit{Do: "leader", At: 0, Value: "ines"}, Nothing, func(p Plan) bool { return p.Stations[0].Leader == "ines" && p.Stations[2].Leader == "" }},
		{Edit{Do: "target", At: 2, Value: "12"}, Nothing, func(p Plan) bool { return p.Stations[2].Target == 12 }},
		{Edit{Do: "spot", At: 0, Value: "1,5 2 90 6 8"}, Nothing, func(p Plan) bool {
			return *p.Stations[0].Spot == floor.Spot{X: 1.5, Y: 2, Length: 6, Width: 8, Turn: 90}
		}},
		{Edit{Do: "variant", At: 0, Value: "Reef=Closer"}, Nothing, func(p Plan) bool { return p.Stations[0].Variant["Reef"] == "Closer" }},
		{Edit{Do: "double", At: 0}, Nothing, func(p Plan) bool { return p.Stations[0].Double }},
		{Edit{Do: "minutes", At: 0, Value: "7"}, Nothing, func(p Plan) bool { return p.Blocks[0].Minutes == 7 }},
		{Edit{Do: "title", At: 0, Value: "Easy start"}, Nothing, func(p Plan) bool { return p.Blocks[0].Title == "Easy start" }},
		{Edit{Do: "note", At: 0, Value: "bibs out"}, Nothing, func(p Plan) bool { return p.Blocks[0].Note == "bibs out" }},
		{Edit{Do: "task", At: 0, Value: "wall@1"}, Nothing, func(p Plan) bool { return p.Blocks[0].Drill == "wall" }},
		{Edit{Do: "game", At: 3, Value: "2 3 3 0 0 0 0"}, Nothing, func(p Plan) bool { return *p.Blocks[3].Game == rotate.Game{Areas: 2, A: 3, B: 3} }},
		{Edit{Do: "add-block", At: 1, Value: "pairs"}, Nothing, func(p Plan) bool { return kinds(p) == "together pairs key stations game close" && p.Blocks[1].Turn > 0 }},
		{Edit{Do: "add-block", At: -1, Value: "break"}, Nothing, func(p Plan) bool { return kinds(p) == "together key stations game break close" }},
		{Edit{Do: "drop-block", At: 1}, Nothing, func(p Plan) bool { return kinds(p) == "together stations game close" }},
		{Edit{Do: "move-block", At: 3, Value: "earlier"}, Nothing, func(p Plan) bool { return kinds(p) == "together key game stations close" }},
		{Edit{Do: "move-block", At: 0, Value: "3"}, Nothing, func(p Plan) bool { return kinds(p) == "key stations game together close" }},
		{Edit{Do: "split-block", At: 0}, Nothing, func(p Plan) bool { return p.Blocks[0].Minutes == 5 && p.Blocks[1].Title == "Warm-up, part 2" }},
		{Edit{Do: "split-block", At: 2, Value: "1"}, Nothing, func(p Plan) bool { return p.Blocks[2].Rounds == 1 && p.parts() == 2 }},
	} {
		in := tuesday(t)
		in.Plan.Stations[2].Leader = "ines"
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

func TestAPlanFromElsewhereIsFitted(t *testing.T) {
	from := tuesday(t)
	from.Plan.Stations[0].Leader, from.Plan.Stations[1].Leader = "ines", "tomasz"
	from.Plan.Stations[0].Spot, from.Plan.Stations[2].Spot = &floor.Spot{X: 30, Y: 2, Length: 8, Width: 6}, &floor.Spot{X: 2, Y: 2, Length: 8, Width: 6}
	from.Plan.Blocks[3].Game = &rotate.Game{Areas: 2, A: 3, B: 3}
	shot := from.Drills["shot"]
	shot.Leader = coach.AnyCoach
	from.Drills["shot"] = shot

	to := from
	to.Floor = floor.Of("hall", 24, 14)
	to.Players = to.Players[3:]
	to.Players = append(to.Players, coach.Player{ID: "new", Name: "New"}, coach.Player{ID: "newer", Name: "Newer"})
	to.Leaders = []Leader{{ID: "leila", Name: "Leila H", Role: coach.RoleCoach}}
	p, err := from.Plan.Fit(to)
	if err != nil {
		t.Fatal(err)
	}
	dealt := 0
	for _, g := range p.Deal {
		dealt += len(g)
	}
	if dealt != 11 || p.Stations[0].Leader != "" || p.Stations[1].Leader != "leila" {
		t.Errorf("%d of 11 dealt, led by %q and %q", dealt, p.Stations[0].Leader, p.Stations[1].Leader)
	}
	if p.Stations[0].Spot != nil || p.Stations[2].Spot == nil {
		t.Error("a place beyond the smaller floor stays, or one on it does not")
	}
	if g := p.Blocks[3].Game; g.Areas*(g.On()+g.Reserves)+g.More != 11 {
		t.Errorf("a game for others: %v", g)
	}
	if from.Plan.Stations[0].Leader != "ines" {
		t.Error("fitting changed the plan it came from")
	}
	// Who was in a group before and is still there stays in it, if sizes allow.
	stayed := 0
	for g, ids := range from.Plan.Deal {
		for _, id := range ids {
			for _, now := range p.Deal[g] {
				if now == id {
					stayed++
				}
			}
		}
	}
	if stayed < 8 {
		t.Errorf("only %d of the 9 who come stayed in their group", stayed)
	}
}

func TestTwoGroupsAtOnceShareAStation(t *testing.T) {
	in := tuesday(t)
	in.Plan.Stations = in.Plan.Stations[:2]
	one := Work(in) // three groups, two stations: one rests in turn
	in.Plan.Stations[0].Double = true
	two := Work(in)
	rests := func(p Picture) (d time.Duration) {
		for _, r := range p.Ledger {
			d += r.Resting
		}
		return d
	}
	if rests(one) == 0 || rests(two) != 0 {
		t.Errorf("resting %v, with two at once %v", rests(one), rests(two))
	}
	shared := 0
	for r := range two.Rounds {
		if a, b := two.Stations[0].Visits[r], two.Stations[0].Also[r]; a != rotate.Rest && b != rotate.Rest {
			shared++
			if a == b {
				t.Errorf("group %d shares with itself", a)
			}
		}
	}
	if shared != len(two.Rounds) || len(two.Rounds) != 2 {
		t.Errorf("%d of %d rounds shared", shared, len(two.Rounds))
	}
}
