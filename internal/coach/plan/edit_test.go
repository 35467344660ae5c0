package plan

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/day"
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
		{Edit{Do: "step", At: 1, Value: "0 later"}, Nothing, func(p Plan) bool { return p.Blocks[1].Steps[1].Drill == "wall" }},
		{Edit{Do: "step", At: 1, Value: "1 earlier"}, Nothing, func(p Plan) bool { return p.Blocks[1].Steps[1].Drill == "wall" }},
		{Edit{Do: "step", At: 1, Value: "0 out"}, Nothing, func(p Plan) bool { return len(p.Blocks[1].Steps) == 1 && p.Blocks[1].Steps[0].Drill == "shot" }},
		{Edit{Do: "step", At: 1, Value: "0 pass@2"}, Nothing, func(p Plan) bool {
			return len(p.Blocks[1].Steps) == 3 && p.Blocks[1].Steps[1] == Task{"pass", 2} && p.Blocks[1].Steps[2].Drill == "shot"
		}},
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
		in.Plan.Blocks[1].Steps = []Task{{"wall", 1}, {"shot", 1}}
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

// The rounds of the stations are kept in sum, whichever part is set, dropped or moved.
func TestPartsKeepTheRounds(t *testing.T) {
	in := tuesday(t)
	counts := func(p Plan) (out []int) {
		in.Plan = p
		for _, b := range Work(in).Blocks {
			if b.Kind == Circuit {
				out = append(out, b.Count)
			}
		}
		return out
	}
	apply := func(p Plan, edits ...Edit) Plan {
		t.Helper()
		for _, e := range edits {
			next, _, err := p.Apply(e)
			if err != nil {
				t.Fatalf("%+v: %v", e, err)
			}
			p = next
		}
		return p
	}
	two := apply(in.Plan, Edit{Do: "rounds", Value: "4"}, Edit{Do: "split-block", At: 2, Value: "2"})
	three := apply(in.Plan, Edit{Do: "rounds", Value: "6"}, Edit{Do: "split-block", At: 2, Value: "2"}, Edit{Do: "split-block", At: 3, Value: "2"})
	for _, c := range []struct {
		name string
		plan Plan
		want string
	}{
		{"split in two", two, "[2 2]"},
		{"until all were everywhere", apply(two, Edit{Do: "rounds", Value: "0"}), "[2 1]"}, // three stations, three groups
		{"and four again", apply(two, Edit{Do: "rounds", Value: "0"}, Edit{Do: "rounds", Value: "4"}), "[2 2]"},
		{"split in three", three, "[2 2 2]"},
		{"the first dropped", apply(three, Edit{Do: "drop-block", At: 2}), "[4 2]"},
		{"the middle one dropped", apply(three, Edit{Do: "drop-block", At: 3}), "[4 2]"},
		{"the last dropped", apply(three, Edit{Do: "drop-block", At: 4}), "[2 4]"},
		{"the last moved first", apply(three, Edit{Do: "move-block", At: 4, Value: "2"}), "[2 2 2]"},
	} {
		if got := fmt.Sprint(counts(c.plan)); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
	}
	if _, _, err := two.Apply(Edit{Do: "split-block", At: 3, Value: "2"}); err == nil {
		t.Error("a part of two rounds is split after the second")
	}
}

// A plan from a file may carry any seed.
func TestAnySeedProposes(t *testing.T) {
	in := hall(12)
	in.Plan.Seed = 1<<64 - 2
	if _, err := Propose(in, "circuit", Aim{Kind: "lack"}); err != nil {
		t.Error(err)
	}
}

// A limit of one player gives that player something else; the others do what they did, and one fewer share the places.
func TestALimitGivesOnePlayerAnotherTask(t *testing.T) {
	in := tuesday(t)
	d := in.Drills["shot"]
	d.Asks = []string{"jumping"}
	in.Drills["shot"] = d
	in.Players[5].Limits = []coach.Limit{{What: "jumping", Until: day.Of(start).Add(3)}}
	in.Shelf = []coach.Drill{{ID: "calm", Edition: 2, Name: "Calm throws", Skills: []string{"shot"}, Least: 1, Most: 6, Places: 1, Pace: 6, Length: 3, Width: 3}}
	in.Drills["calm"] = in.Shelf[0]
	before := Work(in)
	f := says(before, "Player 05: No jumping")
	if f == nil || len(f.Mends) != 2 || f.Mends[0].Words != "Calm throws for Player" || f.Mends[1].Words != "Player sits out there" {
		t.Fatalf("%+v", f)
	}
	for i, m := range f.Mends {
		was := in
		was.Plan = mended(t, in, m).Plan
		after := Work(was)
		if says(after, "Player 05: No jumping") != nil || after.Stations[1].Drill.ID != "shot" {
			t.Errorf("%s: still found, or the station is another", m.Words)
		}
		row := func(pic Picture, id string) Row {
			for _, r := range pic.Ledger {
				if r.Player.ID == id {
					return r
				}
			}
			t.Fatal(id)
			return Row{}
		}
		mate := ""
		for _, g := range in.Plan.Deal {
			for _, id := range g {
				if fmt.Sprint(g) != "" && id != "p5" && strings.Contains(fmt.Sprint(g), "p5") {
					mate = id
				}
			}
		}
		if row(after, mate).Reps <= row(before, mate).Reps {
			t.Errorf("%s: the others get %.1f tries of %.1f", m.Words, row(after, mate).Reps, row(before, mate).Reps)
		}
		if own := row(after, "p5"); i == 0 && own.Reps == 0 || i == 1 && own.Resting <= row(before, "p5").Resting {
			t.Errorf("%s: %+v", m.Words, own)
		}
		if len(after.Instead) != 1 || after.Instead[0].Where != "2 shot" || after.Instead[0].Does != []string{"Calm throws", "sits out"}[i] {
			t.Errorf("%s: %+v", m.Words, after.Instead)
		}
	}
}

// Who leaves is replaced everywhere: a coach takes the leaver's place, the helper the coach's.
func TestWhoLeavesIsReplacedInAChain(t *testing.T) {
	in := tuesday(t)
	for id, who := range map[string]coach.Leader{"wall": coach.AnyHelper, "shot": coach.AnyCoach, "feint": coach.SelfRun} {
		d := in.Drills[id]
		d.Leader = who
		in.Drills[id] = d
	}
	in.Leaders = []Leader{{ID: "ines", Name: "Ines", Role: coach.RoleLead}, {ID: "tomasz", Name: "Tomasz", Role: coach.RoleCoach}, {ID: "kofi", Name: "Kofi", Role: coach.RoleHelper}}
	in.Plan.Stations[0].Leader, in.Plan.Stations[1].Leader, in.Plan.Stations[2].Leader = "tomasz", "ines", "kofi"
	after, err := WhatIf(in, []Happens{{Kind: Gone, Leader: "ines"}})
	if err != nil {
		t.Fatal(err)
	}
	if s := after.Plan.Stations; s[0].Leader != "kofi" || s[1].Leader != "tomasz" || s[2].Leader != "" {
		t.Errorf("led by %q, %q, %q", s[0].Leader, s[1].Leader, s[2].Leader)
	}
	in.Plan.Move, in.Plan.With = true, []string{"ines", "", "kofi"}
	after, err = WhatIf(in, []Happens{{Kind: Gone, Leader: "ines"}})
	if err != nil || !strings.Contains(fmt.Sprint(after.Plan.With), "tomasz") || strings.Contains(fmt.Sprint(after.Plan.With), "ines") {
		t.Errorf("where leaders go with groups: %v, %v", after.Plan.With, err)
	}
}

// Nothing is settled by what it was about being gone.
func TestNothingIsSettledByVanishing(t *testing.T) {
	in := tuesday(t)
	d := in.Drills["shot"]
	d.Asks, d.Leader = []string{"jumping"}, coach.AnyCoach
	in.Drills["shot"] = d
	in.Plan.Stations[1].Leader = "kofi"
	in.Players[5].Limits = []coach.Limit{{What: "jumping", Until: day.Of(start).Add(3)}}
	was := Work(in)
	for name, h := range map[string][]Happens{"the player is absent": {{Kind: Absent, Player: in.Players[5]}}, "the station is lost": {{Kind: Lost, Station: 1}}} {
		after, err := WhatIf(in, h)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range Compare(was, Work(after)).Settled {
			if strings.Contains(f.Says, "jumping") || strings.Contains(f.Says, "shot") && name == "the station is lost" {
				t.Errorf("%s, and that settles %q", name, f.Says)
			}
		}
	}
}

// The stations can be taken out by hand and put in again, and seven players who are given station after station are never six groups of one.
func TestStationsComeAndGo(t *testing.T) {
	in := tuesday(t)
	apply := func(e Edit) {
		t.Helper()
		next, needs, err := in.Plan.Apply(e)
		if err != nil {
			t.Fatalf("%+v: %v", e, err)
		}
		if in.Plan = next; needs == NewDeal {
			if err := in.Plan.DealOut(in); err != nil {
				t.Fatal(err)
			}
		}
	}
	circuit := func() int {
		for i, b := range in.Plan.Blocks {
			if b.Kind == Circuit {
				return i
			}
		}
		return -1
	}
	in.Plan.Blocks[circuit()].Drill, in.Plan.Blocks[circuit()].Edition = "wall", 1 // out of an older plan
	if pic := Work(in); pic.Blocks[circuit()].Task != nil {
		t.Errorf("the block of the stations has a drill of its own that nobody sees: %s", pic.Blocks[circuit()].Task.Name)
	}
	if _, _, err := in.Plan.Apply(Edit{Do: "task", At: circuit(), Value: "wall@1"}); err == nil {
		t.Error("a drill was given to the block of the stations")
	}
	apply(Edit{Do: "drop-block", At: circuit()})
	if circuit() >= 0 || len(in.Plan.Stations) > 0 {
		t.Fatalf("the stations are not out: %+v", in.Plan)
	}
	in.Players = in.Players[:7]
	apply(Edit{Do: "deal"})
	for range 6 {
		apply(Edit{Do: "add-station", Value: "wall@1"})
	}
	if len(in.Plan.Stations) != 6 || circuit() < 0 || in.Plan.Blocks[len(in.Plan.Blocks)-1].Kind != Close {
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
