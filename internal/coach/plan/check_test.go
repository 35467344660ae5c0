package plan

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/target"
	"gruppo/internal/day"
)

// mended is the input with a mend applied as the page applies it.
func mended(t *testing.T, in Input, m Mend) Input {
	t.Helper()
	for _, e := range m.Edits {
		next, needs, err := in.Plan.Apply(e)
		if err != nil {
			t.Fatalf("mend %q: %v", m.Words, err)
		}
		in.Plan = next
		if needs == NewDeal {
			err = in.Plan.DealOut(in)
		} else if needs == Refit {
			err = in.Plan.Redeal(in)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	for _, task := range in.Plan.Tasks() { // what the page reads from the shelf
		for _, d := range in.Shelf {
			if d.ID == task.Drill {
				in.Drills[d.ID] = d
			}
		}
	}
	return in
}

// Every finding of rules.md §5: how it comes about, what it says, and that its mend settles it.
func TestEveryFindingAndItsMend(t *testing.T) {
	drill := func(in Input, id string, f func(*coach.Drill)) {
		d := in.Drills[id]
		f(&d)
		in.Drills[id] = d
	}
	spot := func(x, y float64, turn int) *floor.Spot {
		return &floor.Spot{X: x, Y: y, Length: 8, Width: 6, Turn: turn}
	}
	for _, c := range []struct {
		name, says string
		weight     Weight
		mends      bool
		make       func(in *Input)
	}{
		{"too long", "Time: The plan runs 1:10 over", Stop, true, func(in *Input) { in.Plan.Blocks[3].Minutes += 25 }},
		{"too short", "Time: 43 min of the booked time are free", Note, true, func(in *Input) { in.Booked = 109 * time.Minute }},
		{"nobody leads", "Station 2: shot needs a coach", Settle, true, func(in *Input) { drill(*in, "shot", func(d *coach.Drill) { d.Leader = coach.AnyCoach }) }},
		{"not this one", "Station 2: shot needs a coach; Kofi is a helper", Settle, true, func(in *Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.Leader = coach.AnyCoach })
			in.Plan.Stations[1].Leader = "kofi"
		}},
		{"leaves early", "Station 2: Bea leaves at 18:30; from round 3", Settle, true, func(in *Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.Leader = coach.AnyHelper })
			in.Plan.Stations[1].Leader = "bea"
		}},
		{"in two places", "Ines: Ines stands at stations 1 and 3 at once", Settle, true, func(in *Input) { in.Plan.Stations[0].Leader, in.Plan.Stations[2].Leader = "ines", "ines" }},
		{"nobody goes with them", "nobody goes with the", Settle, true, func(in *Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.Leader = coach.AnyHelper })
			in.Plan.Move = true
			in.Plan.Stations[1].Leader = "kofi"
		}},
		{"too many", "Station 1: wall is for at most 3; a group of 4", Settle, true, func(in *Input) { drill(*in, "wall", func(d *coach.Drill) { d.Most = 3 }) }},
		{"too few", "Station 1: wall needs at least 6; a group of 4", Settle, true, func(in *Input) { drill(*in, "wall", func(d *coach.Drill) { d.Least = 6 }) }},
		{"kit", "Kit: 4 beanbags needed, the club has 1: 3 short", Settle, false, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Kit = []string{"a beanbag each"} })
			in.Kit = []coach.Kit{{Name: "beanbag", Count: 1}}
		}},
		{"overlap", "wall and shot are nearer than the 1 m", Settle, true, func(in *Input) {
			in.Plan.Stations[0].Spot, in.Plan.Stations[1].Spot = spot(2, 2, 0), spot(6, 4, 0)
		}},
		{"off the floor", "Station 1: wall leaves the floor", Settle, true, func(in *Input) { in.Plan.Stations[0].Spot = spot(38, 2, 0) }},
		{"blocked", "Station 1: wall stands on the piano", Stop, true, func(in *Input) {
			in.Floor.Blocked = []floor.Area{{Name: "the piano", X: 3, Y: 3, Length: 2, Width: 2}}
			in.Plan.Stations[0].Spot = spot(2, 2, 0)
		}},
		{"line of fire", "Station 2: shot stands where what is thrown or struck at station 1, wall, flies on", Stop, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Fire = 6 })
			in.Plan.Stations[0].Spot, in.Plan.Stations[1].Spot = spot(10, 2, 0), spot(21, 2, 0)
		}},
		{"no room", "there is no such place left on the floor", Settle, false, func(in *Input) { in.Floor = floor.Of("hall", 14, 9) }},
		{"short change", "Change: 0:10 is short for the longest walk", Settle, true, func(in *Input) { in.Plan.Change = 10 }},
		{"not before", "shot is not to be done before easy throws", Settle, true, func(in *Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.NotBefore = []string{"easy throws"} })
			in.Shelf = []coach.Drill{{ID: "easy", Edition: 1, Name: "easy throws", Most: 30}}
		}},
		{"a limit", "Player 05: No jumping until 27 Nov, and 2 shot asks for it", Stop, true, func(in *Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.Asks = []string{"jumping"} })
			in.Players[5].Limits = []coach.Limit{{What: "jumping", Until: day.Of(start).Add(3)}}
			in.Shelf = []coach.Drill{{ID: "set", Edition: 1, Name: "set shot", Skills: []string{"shot"}, Least: 2, Most: 6, Places: 2, Pace: 8, Length: 8, Width: 6}}
		}},
		{"a limit today", "Player 05: No throwing, and 2 shot asks for it", Stop, true, func(in *Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.Asks = []string{"throwing"} })
			in.There = map[string]There{"p5": {No: "throwing"}}
		}},
		{"two hard", "Two hard stations in a row", Note, true, func(in *Input) {
			for _, id := range []string{"wall", "shot", "feint"} {
				drill(*in, id, func(d *coach.Drill) { d.Hard = true })
			}
			in.Plan.Rounds = 2
		}},
		{"rest", "a group of 4 rests 0:10; wall asks for 0:20. Add a pause of 0:10", Note, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Work, d.Rest = 10, 20 })
		}},
		{"series too long", "4 turns for each of 4 with its rest takes 12:00; the round is 6:00", Note, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Work, d.Rest, d.Series, d.Places = 60, 120, 4, 4 })
		}},
		{"target too far", "Station 1: 30 in a row would take these players about", Note, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Target = coach.Target{Kind: coach.RunOf, N: 30} })
		}},
		{"target too near", "Station 1: Nearly all reach 2 good ones at once", Note, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Target = coach.Target{Kind: coach.Total, N: 2} })
		}},
		{"race too long", "will not be over in a round", Note, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Target = coach.Target{Kind: coach.Race, N: 40, Against: 40} })
		}},
		{"adults", "From 18:30 there are 2 adults for 12 players", Stop, false, func(in *Input) { in.PerAdult = 5 }},
		{"a criterion", "Catches is open for 12 players and could be shown at station 1, where no coach stands", Note, true, func(in *Input) {
			in.Missing = map[string][]coach.Criterion{}
			for _, p := range in.Players {
				in.Missing[p.ID] = []coach.Criterion{{ID: "c", Wording: "Catches", Skill: "wall"}}
			}
		}},
		{"not seen", "The lead does not get to see Player 00", Note, true, func(in *Input) {
			in.Plan.Stations[1].Leader, in.Plan.Rounds = "ines", 2
			in.Plan.Stations = in.Plan.Stations[:3]
		}},
		{"comes after", "feint comes after wall; 4 of the 4", Note, false, func(in *Input) {
			drill(*in, "feint", func(d *coach.Drill) { d.After = []string{"wall"} })
			in.Missing = map[string][]coach.Criterion{}
			for _, p := range in.Players {
				in.Missing[p.ID] = []coach.Criterion{{ID: "c", Wording: "Wall", Skill: "wall"}}
			}
		}},
		{"random too soon", "are still discovering", Note, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Practice = "random" })
			in.Tries = marks(in, "wall", 2, 10)
			in.Shelf = []coach.Drill{{ID: "calm", Edition: 1, Name: "calm wall", Skills: []string{"wall"}, Practice: "blocked", Least: 2, Most: 6, Places: 2, Pace: 8, Length: 8, Width: 6}}
		}},
		{"blocked too long", "it is automatic", Note, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Practice = "blocked" })
			in.Tries = marks(in, "wall", 40, 40)
			in.Shelf = []coach.Drill{{ID: "mixed", Edition: 1, Name: "mixed wall", Skills: []string{"wall"}, Practice: "random", Least: 2, Most: 6, Places: 2, Pace: 8, Length: 8, Width: 6}}
		}},
		{"taken", "Place: Yoga has this place from 18:30 to 20:00", Stop, false, func(in *Input) {
			in.Taken = []Taken{{"Yoga", 30 * time.Minute, 2 * time.Hour}}
		}},
		{"ring of an even number", "With 12 players moving on one repeats after 6 rounds", Note, true, func(in *Input) {
			in.Plan.Blocks[0] = Block{Kind: Look, Title: "First look", Minutes: 10, Way: rotate.MoveOn, Turn: 60}
		}},
		{"game for others", "5 v 5 is for 10; 12 are there", Note, true, func(in *Input) { in.Plan.Blocks[3].Game = &rotate.Game{Areas: 1, A: 5, B: 5} }},
		{"ladder too long", "until four in five hold them", Note, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Target = coach.Target{Kind: coach.RunOf, N: 8} })
			in.Plan.Blocks[0] = Block{Kind: Ladder, Title: "Ladder", Minutes: 3, Steps: []Task{{"wall", 1}, {"shot", 1}}}
		}},
		{"empty groups", "2 of the 3 groups have nobody in them", Settle, true, func(in *Input) { in.Players = in.Players[:1] }},
		{"led elsewhere too", "Ines: Ines is booked for Girls from 18:30 to 20:00 too, and leads here", Settle, true, func(in *Input) {
			in.Plan.Stations[0].Leader = "ines"
			in.Elsewhere = []Elsewhere{{"ines", "Girls", 30 * time.Minute, 2 * time.Hour}}
		}},
		{"a group rests", "Rotation: 1 group rests a whole round: there are 2 stations for 3 groups", Note, true, func(in *Input) {
			in.Plan.Stations = in.Plan.Stations[:2]
			in.Plan.Rounds = 1
		}},
		{"a station for one group of three", "Station 3: Only 1 of the 3 groups comes to feint in 1 round", Note, true, func(in *Input) { in.Plan.Rounds = 1 }},
		{"clearance beyond the floor", "Station 1: wall asks for 1 m clear all round, which goes beyond the floor", Note, true, func(in *Input) { in.Plan.Stations[0].Spot = spot(0.5, 0.5, 0) }},
		{"clearance over the wall bars", "Station 1: wall asks for 1 m clear all round, which goes over the wall bars", Settle, false, func(in *Input) {
			in.Floor.Blocked = []floor.Area{{Name: "the wall bars", X: 0, Y: 0, Length: 40, Width: 1.5}}
			in.Plan.Stations[0].Spot = spot(2, 2, 0)
		}},
		{"balls fly over the wall bars", "What is thrown or struck at wall flies on over the wall bars", Settle, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Fire = 6 })
			in.Floor.Blocked = []floor.Area{{Name: "the wall bars", X: 0, Y: 0, Length: 1, Width: 20}}
			in.Plan.Stations[0].Spot = spot(3, 2, 180)
		}},
		{"balls fly into the next zone", "What is thrown or struck at wall flies on beyond the zone you have booked", Settle, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Fire = 6 })
			in.Plan.Stations = in.Plan.Stations[:1]
			in.Floor.Use = floor.Area{Name: "half", Length: 20, Width: 20}
			in.Plan.Stations[0].Spot = spot(11, 2, 0)
		}},
		{"no task", "Warm-up: Warm-up says nothing of what is done", Note, true, func(in *Input) {
			in.Plan.Blocks[0].Drill, in.Plan.Blocks[0].Note = "", ""
			in.Shelf = []coach.Drill{{ID: "tag", Edition: 1, Name: "Tag", Most: 30, Least: 2}}
		}},
		{"a task far too long", "Warm-up: wall usually has 3 to 4 min; here it has 10", Note, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Minutes = [2]int{3, 4} })
			in.Plan.Blocks[0].Drill, in.Plan.Blocks[0].Edition = "wall", 1
		}},
		{"a station far too short", "Station 1: wall usually has 15 to 20 min; here it has 6", Note, true, func(in *Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Minutes = [2]int{15, 20} })
		}},
		{"not dealt", "Player 11 is not in a group yet", Settle, true, func(in *Input) {
			for g := range in.Plan.Deal {
				for i, id := range in.Plan.Deal[g] {
					if id == "p11" {
						in.Plan.Deal[g] = append(in.Plan.Deal[g][:i:i], in.Plan.Deal[g][i+1:]...)
					}
				}
			}
		}},
	} {
		t.Run(c.name, func(t *testing.T) {
			in := tuesday(t)
			c.make(&in)
			f := says(Work(in), c.says)
			if f == nil {
				t.Fatalf("not found in %s", list(Work(in)))
			}
			if f.Weight != c.weight || (len(f.Mends) > 0) != c.mends {
				t.Errorf("%s with %d mends: %+v", f.Weight, len(f.Mends), f)
			}
			for _, m := range f.Mends {
				after := Work(mended(t, in, m))
				for _, g := range after.Findings {
					if g.Key == f.Key && g.Says == f.Says {
						t.Errorf("%q stands after %q", f.Says, m.Words)
					}
				}
			}
		})
	}
}

func marks(in *Input, skill string, made, of float64) map[string]map[string][]target.Series {
	out := map[string]map[string][]target.Series{}
	for _, p := range in.Players {
		out[p.ID] = map[string][]target.Series{skill: {{Made: made, Tries: of}}}
	}
	return out
}

func list(pic Picture) string {
	var out []string
	for _, f := range pic.Findings {
		out = append(out, f.Where+": "+f.Says)
	}
	return strings.Join(out, "\n")
}

func TestTheLeastImportantGivesWhenWishesClash(t *testing.T) {
	in := tuesday(t)
	for _, id := range []string{"wall", "shot"} {
		d := in.Drills[id]
		d.NotBefore = map[string][]string{"wall": {"shot"}, "shot": {"wall"}}[id]
		in.Drills[id] = d
	}
	pic := Work(in)
	if f := says(pic, "Rotation: It cannot hold that"); f == nil || len(pic.Rounds) != 3 {
		t.Errorf("each before the other: %s", list(pic))
	}
	// With more stations than groups there is a choice, and the one who may not jump keeps away.
	in = tuesday(t)
	in.Plan.Groups = 2
	if err := in.Plan.DealOut(in); err != nil {
		t.Fatal(err)
	}
	in.Plan.Rounds = 2
	d := in.Drills["shot"]
	d.Asks = []string{"jumping"}
	in.Drills["shot"] = d
	in.Players[0].Limits = []coach.Limit{{What: "jumping"}}
	if pic := Work(in); says(pic, "No jumping") != nil {
		t.Errorf("there was a way round: %s", list(pic))
	}
}

func TestSplitRoundsAndTheLateComer(t *testing.T) {
	in := tuesday(t)
	whole := Work(in)
	at := in.Plan.stationsAt()
	in = mended(t, in, Mend{"", []Edit{{Do: "split-block", At: at, Value: "2"}, {Do: "add-block", At: at + 1, Value: string(Break)}}})
	pic := Work(in)
	if pic.Rounds[2].Block != at+2 || pic.Blocks[at].Count != 2 || pic.Blocks[at+2].Count != 1 || pic.Total != whole.Total+3*time.Minute-whole.Change {
		t.Errorf("two rounds, a drink, one round: %+v, %v", pic.Rounds, pic.Total)
	}
	moments := time.Duration(0)
	for i, m := range pic.Moments {
		if i > 0 && m.From != pic.Moments[i-1].To {
			t.Errorf("a gap before %+v", m)
		}
		moments += m.To - m.From
	}
	if moments != pic.Total {
		t.Errorf("the moments take %v of %v", moments, pic.Total)
	}
	in.There = map[string]There{"p0": {From: pic.Rounds[1].From}}
	late := Work(in)
	row := func(p Picture, id string) Row {
		for _, r := range p.Ledger {
			if r.Player.ID == id {
				return r
			}
		}
		t.Fatal(id)
		return Row{}
	}
	if a, b := row(pic, "p0"), row(late, "p0"); b.Reps >= a.Reps || b.Away != pic.Rounds[1].From-2*time.Minute-pic.Change && b.Away == 0 || late.Ledger[0].Player.ID != "p0" {
		t.Errorf("late: %.0f of %.0f repetitions, away %v; on top is %s", b.Reps, a.Reps, b.Away, late.Ledger[0].Player.ID)
	}
}

func TestLeadersMoveWithTheirGroup(t *testing.T) {
	in := tuesday(t)
	in.Plan.Stations[0].Leader, in.Plan.Stations[1].Leader = "ines", "kofi"
	in = mended(t, in, Mend{"", []Edit{{Do: "leaders", Value: "move"}}})
	pic := Work(in)
	for _, row := range pic.Ledger {
		if (len(row.LeadSees) == 3) != (row.Group == 0) {
			t.Errorf("%s of group %d is seen by the lead in %v", row.Player.Name, row.Group, row.LeadSees)
		}
	}
	if c := pic.Leaders[0].Cells; !strings.HasPrefix(c[len(c)-1].Where, "Close") || pic.Leaders[1].Cells[len(pic.Leaders[1].Cells)-1].To != 30*time.Minute {
		t.Errorf("minute by minute: %+v", pic.Leaders)
	}
}

func TestKitIsCountedForEachStationAtOnce(t *testing.T) {
	in := tuesday(t)
	for id, kit := range map[string][]string{"wall": {"a ball each"}, "shot": {"6 balls"}, "feint": {"4 cones"}} {
		d := in.Drills[id]
		d.Kit = kit
		in.Drills[id] = d
	}
	in.Kit = []coach.Kit{{Name: "ball", Count: 8}, {Name: "cone", Count: 10}}
	pic := Work(in)
	if k := pic.Kit[0]; k.Name != "ball" || k.Need != 10 || k.Short != 2 || fmt.Sprint(k.Where) != "[1 2]" {
		t.Errorf("%+v", pic.Kit)
	}
}

func TestAPlanFromAFileIsHeldToItsLimits(t *testing.T) {
	good := tuesday(t).Plan
	if err := good.Check(); err != nil {
		t.Fatal(err)
	}
	for i, spoil := range []func(*Plan){
		func(p *Plan) { p.Way = "x" }, func(p *Plan) { p.Groups = 99 }, func(p *Plan) { p.Work = 0 }, func(p *Plan) { p.Blocks[0].Minutes = 0 }, func(p *Plan) { p.Blocks[0].Kind = "nap" },
		func(p *Plan) { p.Deal = [][]string{{"a"}, {"a"}} }, func(p *Plan) { p.Stations[0].Spot = &floor.Spot{X: 1, Y: 1, Length: 0, Width: 3} }, func(p *Plan) { p.Stations = make([]Station, 9) },
		func(p *Plan) { p.Blocks[0].Game = &rotate.Game{Areas: -1} }, func(p *Plan) { p.Blocks[0].Scores = []Made{{Pairs: [][2]int{{-7, 0}}}} },
	} {
		p := good.clone()
		spoil(&p)
		if p.Check() == nil {
			t.Errorf("case %d is taken", i)
		}
	}
}

// hall is 30 players, 6 leaders and a shelf: the size that the plan has to be quick at.
func hall(players int) Input {
	in := Input{Booked: 90 * time.Minute, Start: start, Floor: floor.Of("handball", 0, 0), Stages: map[string]string{"s0": "Shore", "s1": "Reef"}, Missing: map[string][]coach.Criterion{},
		Kit: []coach.Kit{{Name: "ball", Count: 40}, {Name: "cone", Count: 40}}, Plan: Start(90*time.Minute, coach.BallGames)}
	skills := []string{"passing", "catching", "shooting", "footwork", "balance", "defending", "dribbling"}
	for i := range players {
		p := coach.Player{ID: fmt.Sprintf("p%02d", i), Name: fmt.Sprintf("Player %02d", i), Level: float64(i%9) / 4, Stage: fmt.Sprint("s", i%2)}
		in.Players = append(in.Players, p)
		for j := range 3 {
			k := skills[(i+j)%5]
			in.Missing[p.ID] = append(in.Missing[p.ID], coach.Criterion{ID: k + p.Stage, StageID: p.Stage, Wording: k, Skill: k, Keys: []string{"key of " + k}})
		}
	}
	in.Tries = marks(&in, "passing", 7, 10)
	for i := range 40 {
		d := coach.Drill{ID: fmt.Sprintf("d%02d", i), Edition: 1, Name: fmt.Sprintf("Drill %02d", i), Skills: []string{skills[i%7]}, Places: 1 + i%4, Least: 2, Most: 8, Pace: 4 + float64(i%9), Length: 6 + float64(i%4), Width: 5 + float64(i%3),
			Clearance: 1, Chance: 0.6 + float64(i%4)/10, TrySeconds: 6, Fetch: 3, Leader: []coach.Leader{coach.SelfRun, coach.AnyHelper, coach.AnyCoach}[i%3], Kit: []string{"4 balls", "4 cones"}, Approach: "technique-first", Practice: "blocked",
			Target: coach.Target{Kind: []coach.TargetKind{coach.RunOf, coach.Total, coach.RallyLadder}[i%3], N: 8}, Hard: i%6 == 5}
		switch {
		case i%10 == 7:
			d.Approach, d.Form, d.Most = "game-first", "live", 30
		case i%10 == 8:
			d.Skills, d.Most, d.Leader, d.Warms = []string{"movement"}, 30, coach.SelfRun, []string{"shoulder"}
		case i%10 == 9:
			d.Work, d.Rest = 10, 60
		}
		in.Shelf = append(in.Shelf, d)
	}
	for i, role := range []coach.Role{coach.RoleLead, coach.RoleCoach, coach.RoleCoach, coach.RoleHelper, coach.RoleHelper, coach.RoleHelper} {
		in.Leaders = append(in.Leaders, Leader{ID: fmt.Sprint("l", i), Name: fmt.Sprintf("Leader%d X", i), Role: role})
	}
	return in
}

func proposed(t testing.TB, in Input, shape string, aim Aim) Input {
	t.Helper()
	p, err := Propose(in, shape, aim)
	if err != nil {
		t.Fatal(err)
	}
	in.Plan, in.Drills = p, map[string]coach.Drill{}
	for _, d := range in.Shelf {
		in.Drills[d.ID] = d
	}
	return in
}

func TestAPlanFromNothingHoldsInEveryShape(t *testing.T) {
	for _, s := range SessionShapes {
		for _, n := range []int{9, 17, 30} {
			for _, minutes := range []time.Duration{45, 90} {
				in := hall(n)
				in.Booked = minutes * time.Minute
				in = proposed(t, in, s.Key, Aim{Kind: "lack"})
				pic := Work(in)
				if pic.Stops() {
					t.Errorf("%s for %d in %d min stops: %s", s.Name, n, minutes, list(pic))
				}
				if pic.Total > in.Booked || in.Booked-pic.Total > 15*time.Minute {
					t.Errorf("%s for %d: %v of %v min", s.Name, n, pic.Total, minutes)
				}
				if len(pic.Undealt) > 0 || in.Plan.Why["shape"] == "" || in.Plan.Key == "" && s.Key != "parts" && s.Key != "intervals" && s.Key != "routine" {
					t.Errorf("%s for %d: %d not dealt, why %q, key %q", s.Name, n, len(pic.Undealt), in.Plan.Why["shape"], in.Plan.Key)
				}
				for _, st := range in.Plan.Stations {
					if st.Why == "" {
						t.Errorf("%s: %s has no reason", s.Name, st.Drill)
					}
				}
				for _, st := range pic.Stations {
					if !st.Fits {
						t.Errorf("%s for %d: %s does not fit the hall", s.Name, n, st.Drill.Name)
					}
				}
			}
		}
	}
}

func TestAgainKeepsWhatIsPinned(t *testing.T) {
	in := proposed(t, hall(17), "circuit", Aim{Kind: "skill", Value: "catching"})
	if d := in.Drills[in.Plan.Stations[0].Drill]; d.Skills[0] != "catching" || in.Plan.Key != "key of catching" {
		t.Errorf("for catching: %v, key %q", d.Skills, in.Plan.Key)
	}
	in.Plan.Stations[2].Pinned, in.Plan.Blocks[3].Pinned, in.Plan.Blocks[3].Title = true, true, "Our own game"
	in.Plan.Pinned = []string{"deal"}
	kept, dealt := in.Plan.Stations[2].Drill, fmt.Sprint(in.Plan.Deal)
	changed := 0
	for range 4 {
		next := proposed(t, in, "circuit", Aim{Kind: "skill", Value: "catching"})
		if next.Plan.Stations[2].Drill != kept || next.Plan.Blocks[3].Title != "Our own game" || fmt.Sprint(next.Plan.Deal) != dealt {
			t.Fatalf("a pinned choice changed: %+v", next.Plan)
		}
		for i, s := range next.Plan.Stations {
			if i < len(in.Plan.Stations) && s.Drill != in.Plan.Stations[i].Drill {
				changed++
			}
		}
		in = next
	}
	if changed == 0 {
		t.Error("four times again, and nothing that is not pinned changed")
	}
}

func TestWhatIfMovesFewAndFits(t *testing.T) {
	before := proposed(t, hall(17), "circuit", Aim{Kind: "lack"})
	was := Work(before)
	for _, c := range []struct {
		name  string
		what  []Happens
		moves int // at most
		holds func(in Input, pic Picture) bool
	}{
		{"one absent", []Happens{{Kind: Absent, Player: before.Players[3]}}, 2, func(in Input, pic Picture) bool { return len(pic.Ledger) == 16 }},
		{"one guest", []Happens{{Kind: Guest, Player: coach.Player{ID: "guest", Name: "Guest"}}}, 1, func(in Input, pic Picture) bool { return len(pic.Ledger) == 18 && len(pic.Undealt) == 0 }},
		{"late", []Happens{{Kind: Late, Player: before.Players[0], At: 40 * time.Minute}}, 0, func(in Input, pic Picture) bool { return pic.Ledger[0].Player.ID == "p00" && pic.Ledger[0].Away > 0 }},
		{"a leader gone", []Happens{{Kind: Gone, Leader: was.Stations[0].Station.Leader, At: 50 * time.Minute}}, 0, func(in Input, pic Picture) bool { return len(pic.Rounds) == len(was.Rounds) }},
		{"a station lost", []Happens{{Kind: Lost, Station: 1}}, 6, func(in Input, pic Picture) bool {
			return len(pic.Stations) == len(was.Stations)-1 && pic.Total <= in.Booked
		}},
		{"ten minutes lost", []Happens{{Kind: Time, Minutes: 10}}, 0, func(in Input, pic Picture) bool { return pic.Booked == 80*time.Minute && pic.Total <= pic.Booked }},
		{"to the gym", []Happens{{Kind: Moved, Floor: floor.Of("hall", 15, 12), Where: "the gym"}}, 17, func(in Input, pic Picture) bool {
			return pic.Floor.Length == 15 && len(pic.Stations) >= 1 && pic.Stations[0].Fits && len(pic.Undealt) == 0
		}},
		{"all at once", []Happens{{Kind: Absent, Player: before.Players[3]}, {Kind: Hurt, Player: before.Players[4], No: "jumping"}, {Kind: Time, Minutes: 15}, {Kind: Lost, Station: 0}}, 8, func(in Input, pic Picture) bool { return pic.Total <= in.Booked }},
	} {
		after, err := WhatIf(before, c.what)
		if err != nil {
			t.Fatal(c.name, err)
		}
		pic := Work(after)
		moved := 0
		for _, m := range Compare(was, pic).Moves {
			if m.From >= 0 && m.To >= 0 {
				moved++
			}
		}
		if moved > c.moves || !c.holds(after, pic) {
			t.Errorf("%s: %d move, %d stations, %v of %v: %s", c.name, moved, len(pic.Stations), pic.Total, pic.Booked, list(pic))
		}
		if fmt.Sprint(Work(before).Total) != fmt.Sprint(was.Total) {
			t.Fatalf("%s changed the plan before it was taken", c.name)
		}
	}
	if d := Compare(was, Work(before)); len(d.Moves)+len(d.Figures)+len(d.New)+len(d.Settled) > 0 {
		t.Errorf("nothing happened, and yet %+v", d)
	}
}

func TestWhoMetFadesAndWhoLacksCountsOnce(t *testing.T) {
	met := Met([][][]string{{{"b", "a"}, {"c", "d"}}, {{"a", "b", "c"}}, nil, {{"c", "d"}}})
	for pair, want := range map[[2]string]float64{{"a", "b"}: 1 + 0.75, {"a", "c"}: 0.75, {"c", "d"}: 1 + 0.421875, {"a", "d"}: 0} {
		if met[pair] != want {
			t.Errorf("%v: %v, want %v", pair, met[pair], want)
		}
	}
	in := Input{Players: []coach.Player{{ID: "a"}, {ID: "b"}}, Missing: map[string][]coach.Criterion{"a": {{Skill: "passing"}, {Skill: "passing"}}, "b": {{Skill: "passing"}, {Skill: "balance"}}, "gone": {{Skill: "balance"}}}}
	if got := in.Lacks(); got["passing"] != 2 || got["balance"] != 1 {
		t.Errorf("%v", got)
	}
}

func TestDealKnowsWhoWasTogether(t *testing.T) {
	in := hall(12)
	in.Plan.Groups, in.Plan.Way = 3, deal.Chance
	if err := in.Plan.DealOut(in); err != nil {
		t.Fatal(err)
	}
	in.Met = map[[2]string]float64{}
	for _, g := range in.Plan.Deal {
		for i, a := range g {
			for _, b := range g[:i] {
				in.Met[[2]string{min(a, b), max(a, b)}] = 1
			}
		}
	}
	last := in.Met
	if err := in.Plan.DealOut(in); err != nil {
		t.Fatal(err)
	}
	again := 0
	for _, g := range in.Plan.Deal {
		for i, a := range g {
			for _, b := range g[:i] {
				again += int(last[[2]string{min(a, b), max(a, b)}])
			}
		}
	}
	if again > 3 { // four from groups of four: at least one pair of each new group was together
		t.Errorf("%d pairs are together again, 3 cannot be helped", again)
	}
}

// late reports the 95th of a hundred durations: what a coach waits at worst.
func late(b *testing.B, took []time.Duration) {
	slices.Sort(took)
	b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "ms-p95")
}

func BenchmarkPropose(b *testing.B) {
	in := hall(30)
	var took []time.Duration
	b.ReportAllocs()
	for b.Loop() {
		start := time.Now()
		in = proposed(b, in, "circuit", Aim{Kind: "lack"})
		Work(in)
		took = append(took, time.Since(start))
	}
	late(b, took)
}

func BenchmarkRecheck(b *testing.B) {
	in := proposed(b, hall(30), "circuit", Aim{Kind: "lack"})
	var took []time.Duration
	b.ReportAllocs()
	for i := 0; b.Loop(); i++ {
		in.Plan.Work = 300 + i%5*30
		start := time.Now()
		Work(in)
		took = append(took, time.Since(start))
	}
	late(b, took)
}
