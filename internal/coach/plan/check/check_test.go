package check_test

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
	"gruppo/internal/day"
)

// Every finding of rules.md §5: how it comes about, what it says, and that its mend settles it.
func TestEveryFindingAndItsMend(t *testing.T) {
	drill := func(in work.Input, id string, f func(*coach.Drill)) {
		d := in.Drills[id]
		f(&d)
		in.Drills[id] = d
	}
	spot := func(x, y float64, turn int) *floor.Spot {
		return &floor.Spot{X: x, Y: y, Length: 8, Width: 6, Turn: turn}
	}
	for _, c := range []struct {
		name, says string
		weight     check.Weight
		mends      bool
		make       func(in *work.Input)
	}{
		{"too long", "Time: The plan runs 1:10 over", check.Stop, true, func(in *work.Input) { in.Plan.Blocks[3].Minutes += 25 }},
		{"never came up", "“Shoots” never came up this term, and no day to come is for it", check.Note, true, func(in *work.Input) {
			in.CameUp = &work.CameUp{From: day.Of(in.Start).Add(-60), Until: day.Of(in.Start).Add(30), Skills: []string{"wall"}}
			in.Missing = map[string][]coach.Criterion{in.Players[0].ID: {{ID: "k", Skill: "aiming", Wording: "Shoots"}, {ID: "w", Skill: "wall", Wording: "Wall"}}}
			in.Shelf = []coach.Drill{{ID: "goal", Edition: 1, Name: "Goal", Skills: []string{"aiming"}, Places: 4, Least: 1, Most: 8, Pace: 4, Length: 4, Width: 3}}
			in.Drills["goal"] = in.Shelf[0]
		}},
		{"too short", "Time: 43 min of the booked time are free", check.Note, true, func(in *work.Input) { in.Booked = 109 * time.Minute }},
		{"nobody leads", "Station 2: shot needs a coach", check.Settle, true, func(in *work.Input) { drill(*in, "shot", func(d *coach.Drill) { d.Leader = coach.AnyCoach }) }},
		{"not this one", "Station 2: shot needs a coach; Kofi is a helper", check.Settle, true, func(in *work.Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.Leader = coach.AnyCoach })
			in.Plan.First().Stations[1].Leader = "kofi"
		}},
		{"leaves early", "Station 2: Bea leaves at 18:30; from round 3", check.Settle, true, func(in *work.Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.Leader = coach.AnyHelper })
			in.Plan.First().Stations[1].Leader = "bea"
		}},
		{"in two places", "Ines: At stations 1 and 3 at once", check.Settle, true, func(in *work.Input) {
			in.Plan.First().Stations[0].Leader, in.Plan.First().Stations[2].Leader = "ines", "ines"
		}},
		{"nobody goes with them", "nobody goes with the", check.Settle, true, func(in *work.Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.Leader = coach.AnyHelper })
			in.Plan.First().Move = true
			in.Plan.First().Stations[1].Leader = "kofi"
		}},
		{"too many", "Station 1: wall is for at most 3; a group of 4", check.Settle, true, func(in *work.Input) { drill(*in, "wall", func(d *coach.Drill) { d.Most = 3 }) }},
		{"too few", "Station 1: wall needs at least 6; a group of 4", check.Settle, true, func(in *work.Input) { drill(*in, "wall", func(d *coach.Drill) { d.Least = 6 }) }},
		{"kit", "Kit: 4 beanbags needed, the club has 1: 3 short", check.Settle, false, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Kit = []string{"a beanbag each"} })
			in.Kit = []coach.Kit{{Name: "beanbag", Count: 1}}
		}},
		{"kit of nobody knows what", "Kit: Takes 4 beanbags. The club’s kit is not listed yet", check.Note, false, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Kit = []string{"a beanbag each"} })
			in.Kit = nil
		}},
		{"overlap", "wall and shot are nearer than the 1 m", check.Settle, true, func(in *work.Input) {
			in.Plan.First().Stations[0].Spot, in.Plan.First().Stations[1].Spot = spot(2, 2, 0), spot(6, 4, 0)
		}},
		{"off the floor", "Station 1: wall leaves the floor", check.Settle, true, func(in *work.Input) { in.Plan.First().Stations[0].Spot = spot(38, 2, 0) }},
		{"blocked", "Station 1: wall stands on the piano", check.Stop, true, func(in *work.Input) {
			in.Floor.Blocked = []floor.Area{{Name: "the piano", X: 3, Y: 3, Length: 2, Width: 2}}
			in.Plan.First().Stations[0].Spot = spot(2, 2, 0)
		}},
		{"line of fire", "Station 2: shot stands where what is thrown or struck at station 1, wall, flies on", check.Stop, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Fire = 6 })
			in.Plan.First().Stations[0].Spot, in.Plan.First().Stations[1].Spot = spot(10, 2, 0), spot(21, 2, 0)
		}},
		{"no room", "there is no such place left on the floor", check.Settle, false, func(in *work.Input) { in.Floor = floor.Of("hall", 14, 9) }},
		{"short change", "Change: 0:10 is short for the longest walk", check.Settle, true, func(in *work.Input) { in.Plan.First().Change = 10 }},
		{"not before", "shot is not to be done before easy throws", check.Settle, true, func(in *work.Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.NotBefore = []string{"easy throws"} })
			in.Shelf = []coach.Drill{{ID: "easy", Edition: 1, Name: "Easy throws", Most: 30}}
		}},
		{"a limit", "Player 05: No jumping until 27 Nov, and 2 shot asks for it", check.Stop, true, func(in *work.Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.Asks = []string{"Jumping"} }) // however it is written
			in.Players[5].Limits = []coach.Limit{{What: "jumping", Until: day.Of(plantest.Start).Add(3)}}
			in.Shelf = []coach.Drill{{ID: "set", Edition: 1, Name: "set shot", Skills: []string{"shot"}, Least: 2, Most: 6, Places: 2, Pace: 8, Length: 8, Width: 6}}
		}},
		{"a limit today", "Player 05: No throwing, and 2 shot asks for it", check.Stop, true, func(in *work.Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.Asks = []string{"throwing"} })
			in.There = map[string]work.There{"p5": {No: "throwing"}}
		}},
		{"two hard", "Two hard stations in a row", check.Note, true, func(in *work.Input) {
			for _, id := range []string{"wall", "shot", "feint"} {
				drill(*in, id, func(d *coach.Drill) { d.Hard = true })
			}
			in.Plan.First().Rounds = 2
		}},
		{"rest", "a group of 4 rests 0:10; wall asks for 0:20. Add a pause of 0:10", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Work, d.Rest = 10, 20 })
		}},
		{"series too long", "4 turns for each of 4 with its rest takes 12:00; the round is 6:00", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Work, d.Rest, d.Series, d.Places = 60, 120, 4, 4 })
		}},
		{"target too far", "Station 1: 30 in a row would take these players about", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Target = coach.Target{Kind: coach.RunOf, N: 30} })
		}},
		{"target too near", "Station 1: Nearly all reach 2 good ones at once", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Target = coach.Target{Kind: coach.Total, N: 2} })
		}},
		{"race too long", "First to 40 does not suit a round of 6:00. Between equals about 73 points", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Target = coach.Target{Kind: coach.Race, N: 40, Against: 40} })
		}},
		{"a gate too far", "900 by all together does not suit a round of 6:00", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Target = coach.Target{Kind: coach.Gate, N: 900, Opens: "slides"} })
		}},
		{"faults out of reach", "At most 1 fault in 30 does not suit", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Target = coach.Target{Kind: coach.FewFaults, N: 1, Of: 30} })
		}},
		{"forfeits of children", "would do up to 96 repetitions after faults today, all of them in wall; at most 10 for those under 16", check.Settle, true, func(in *work.Input) {
			in.MostForfeits = 10
			for i := range in.Players {
				in.Players[i].BirthYear = 2016
			}
			soft := in.Drills["wall"]
			soft.ID, soft.Name = "soft", "Softer wall"
			in.Shelf = []coach.Drill{soft}
			drill(*in, "wall", func(d *coach.Drill) { d.Forfeits = []string{"20 star jumps"} })
		}},
		{"adults", "From 18:30 there are 2 adults for 12 players", check.Stop, false, func(in *work.Input) { in.PerAdult = 5 }},
		{"a criterion", "Catches is open for 12 players and could be shown at station 1, where no coach stands", check.Note, true, func(in *work.Input) {
			in.Missing = map[string][]coach.Criterion{}
			for _, p := range in.Players {
				in.Missing[p.ID] = []coach.Criterion{{ID: "c", Wording: "Catches", Skill: "wall"}}
			}
		}},
		{"not seen", "The lead does not get to see Player 00", check.Note, true, func(in *work.Input) {
			in.Plan.First().Stations[1].Leader, in.Plan.First().Rounds = "ines", 2
			in.Plan.First().Stations = in.Plan.First().Stations[:3]
		}},
		{"comes after", "feint comes after wall; 4 of the 4", check.Note, false, func(in *work.Input) {
			drill(*in, "feint", func(d *coach.Drill) { d.After = []string{"wall"} })
			in.Missing = map[string][]coach.Criterion{}
			for _, p := range in.Players {
				in.Missing[p.ID] = []coach.Criterion{{ID: "c", Wording: "Wall", Skill: "wall"}}
			}
		}},
		{"random too soon", "are still discovering", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Practice = "random" })
			in.Tries = plantest.Marks(in, "wall", 2, 10)
			in.Shelf = []coach.Drill{{ID: "calm", Edition: 1, Name: "calm wall", Skills: []string{"wall"}, Practice: "blocked", Least: 2, Most: 6, Places: 2, Pace: 8, Length: 8, Width: 6}}
		}},
		{"blocked too long", "it is automatic", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Practice = "blocked" })
			in.Tries = plantest.Marks(in, "wall", 40, 40)
			in.Shelf = []coach.Drill{{ID: "mixed", Edition: 1, Name: "mixed wall", Skills: []string{"wall"}, Practice: "random", Least: 2, Most: 6, Places: 2, Pace: 8, Length: 8, Width: 6}}
		}},
		{"taken", "Place: Yoga has this place from 18:30 to 20:00", check.Stop, false, func(in *work.Input) {
			in.Taken = []work.Taken{{What: "Yoga", From: 30 * time.Minute, Until: 2 * time.Hour}}
		}},
		{"ring of an even number", "With 12 players moving on one repeats after 6 rounds", check.Note, true, func(in *work.Input) {
			in.Plan.Blocks[0] = doc.Block{Kind: doc.Look, Title: "First look", Minutes: 10, Way: rotate.MoveOn, Turn: 60}
		}},
		{"a game of one", "Player 00: Alone in Game for two or more: whoever leads is the partner", check.Note, false, func(in *work.Input) { in.Players = in.Players[:1] }},
		{"partners of one", "Player 00: Alone in First look and Game", check.Note, false, func(in *work.Input) {
			in.Players = in.Players[:1]
			in.Plan.Blocks[0] = doc.Block{Kind: doc.Look, Title: "First look", Minutes: 10, Way: rotate.MoveOn, Turn: 60}
		}},
		{"game for others", "5 v 5 is for 10; 12 are there", check.Note, true, func(in *work.Input) { in.Plan.Blocks[3].Game = &rotate.Game{Areas: 1, A: 5, B: 5} }},
		{"ladder too long", "until four in five hold them", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Target = coach.Target{Kind: coach.RunOf, N: 8} })
			in.Plan.Blocks[0] = doc.Block{Kind: doc.Ladder, Title: "Ladder", Minutes: 3, Steps: []doc.Task{{Drill: "wall", Edition: 1}, {Drill: "shot", Edition: 1}}}
		}},
		{"children all-out", "All-out: wall with 0:10 of work and 1:00 of rest is all-out, and Player is under 16 or on the first stage", check.Stop, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Hard = true })
			for i := range in.Players { // one of them a child, the others grown and beyond the first stage
				in.Players[i].BirthYear, in.Players[i].Level = 1990, 3
			}
			in.Players[3].BirthYear = plantest.Start.Year() - 12
			in.Plan.Blocks[0] = doc.Block{Kind: doc.Turns, Title: "All-out", Minutes: 10, Intervals: &doc.Intervals{
				Work: 10, Rest: 60, Turns: 2, Places: 2, Exercises: []doc.Exercise{{Task: doc.Task{Drill: "wall", Edition: 1}}},
			}}
		}},
		{"intervals of nothing", "Intervals: Nothing says what is done", check.Note, true, func(in *work.Input) {
			in.Plan.Blocks[0] = doc.Block{Kind: doc.Turns, Title: "Intervals", Minutes: 10, Intervals: doc.NewIntervals()}
			in.Shelf = []coach.Drill{{ID: "sprints", Edition: 1, Name: "sprints", Skills: []string{"running"}, Least: 1, Most: 20, Places: 2, Work: 10, Rest: 60, Length: 8, Width: 6}}
		}},
		{"empty groups", "2 of the 3 groups have nobody in them", check.Settle, true, func(in *work.Input) { in.Players = in.Players[:1] }},
		{"led elsewhere too", "Ines: Booked for Girls from 18:30 to 20:00 too, and leads here", check.Settle, true, func(in *work.Input) {
			in.Plan.First().Stations[0].Leader = "ines"
			in.Elsewhere = []work.Elsewhere{{Leader: "ines", What: "Girls", From: 30 * time.Minute, Until: 2 * time.Hour}}
		}},
		{"a group rests", "Rotation: 1 group rests a whole round: there are 2 stations for 3 groups", check.Note, true, func(in *work.Input) {
			in.Plan.First().Stations = in.Plan.First().Stations[:2]
			in.Plan.First().Rounds = 1
		}},
		{"a station for one group of three", "Station 3: Only 1 of the 3 groups comes to feint in 1 round", check.Note, true, func(in *work.Input) { in.Plan.First().Rounds = 1 }},
		{"clearance beyond the floor", "Station 1: wall asks for 1 m clear all round, which goes beyond the floor", check.Note, true, func(in *work.Input) { in.Plan.First().Stations[0].Spot = spot(0.5, 0.5, 0) }},
		{"in a club that reads feet", "Station 1: wall asks for 3.5 ft clear all round, which goes beyond the floor", check.Note, true, func(in *work.Input) {
			in.Units, in.Plan.First().Stations[0].Spot = coach.Imperial, spot(0.5, 0.5, 0)
		}},
		{"clearance over the wall bars", "Station 1: wall asks for 1 m clear all round, which goes over the wall bars", check.Settle, false, func(in *work.Input) {
			in.Floor.Blocked = []floor.Area{{Name: "the wall bars", X: 0, Y: 0, Length: 40, Width: 1.5}}
			in.Plan.First().Stations[0].Spot = spot(2, 2, 0)
		}},
		{"balls fly over the wall bars", "What is thrown or struck at wall flies on over the wall bars", check.Settle, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Fire = 6 })
			in.Floor.Blocked = []floor.Area{{Name: "the wall bars", X: 0, Y: 0, Length: 1, Width: 20}}
			in.Plan.First().Stations[0].Spot = spot(3, 2, 180)
		}},
		{"balls fly into the next zone", "What is thrown or struck at wall flies on beyond the zone you have booked", check.Settle, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Fire = 6 })
			in.Plan.First().Stations = in.Plan.First().Stations[:1]
			in.Floor.Use = floor.Area{Name: "half", Length: 20, Width: 20}
			in.Plan.First().Stations[0].Spot = spot(11, 2, 0)
		}},
		{"no task", "Warm-up: Nothing says what is done", check.Note, true, func(in *work.Input) {
			in.Plan.Blocks[0].Drill, in.Plan.Blocks[0].Note = "", ""
			in.Shelf = []coach.Drill{{ID: "tag", Edition: 1, Name: "Tag", Most: 30, Least: 2}}
		}},
		{"a task far too long", "Warm-up: wall usually has 3 to 4 min; here it has 10", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Minutes = [2]int{3, 4} })
			in.Plan.Blocks[0].Drill, in.Plan.Blocks[0].Edition = "wall", 1
		}},
		{"a station far too short", "Station 1: wall usually has 15 to 20 min; here it has 6", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Minutes = [2]int{15, 20} })
		}},
		{"points too long", "takes about", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Pace = 6 })
			in.Plan.Blocks[0] = doc.Block{Kind: doc.Pairs, Title: "Pairs", Minutes: 20, Turn: 60, Drill: "wall", Edition: 1, Way: rotate.MoveOn, Pairing: &doc.Pairing{To: 11}}
		}},
		{"partners too few", "wall is for 4 players or more; here 2 are together", check.Settle, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Least = 4 })
			in.Plan.Blocks[0] = doc.Block{Kind: doc.Pairs, Title: "Pairs", Minutes: 20, Turn: 60, Drill: "wall", Edition: 1, Way: rotate.MoveOn}
		}},
		{"courts too few", "6 pairs play at once, and the floor has room for 1", check.Note, true, func(in *work.Input) {
			drill(*in, "wall", func(d *coach.Drill) { d.Length, d.Width = 20, 10 })
			in.Plan.Blocks[0] = doc.Block{Kind: doc.Pairs, Title: "Pairs", Minutes: 20, Turn: 60, Drill: "wall", Edition: 1, Way: rotate.MoveOn}
		}},
		{"areas too large", "2 areas of 38 × 19 m do not fit the floor", check.Settle, true, func(in *work.Input) {
			in.Plan.Blocks[3].Game = &rotate.Game{Areas: 2, A: 3, B: 3, Length: 38, Width: 19}
		}},
		{"marked where nothing shows it", "12 players to be marked on “Leaps” today, and no station shows leaping", check.Settle, true, func(in *work.Input) {
			in.Shelf = []coach.Drill{{ID: "leap", Edition: 1, Name: "Leap", Skills: []string{"leaping"}, Least: 2, Most: 6, Places: 2, Pace: 8, Length: 8, Width: 6}}
			in.Drills["leap"] = in.Shelf[0]
			in.Missing, in.Looks = map[string][]coach.Criterion{}, map[string][]string{}
			for _, p := range in.Players {
				in.Missing[p.ID], in.Looks[p.ID] = []coach.Criterion{{ID: "l", Wording: "Leaps", Skill: "leaping"}}, []string{"l"}
			}
		}},
		{"changed on the shelf", "Station 1: wall has a newer edition: work at once changed", check.Note, true, func(in *work.Input) {
			newer := in.Drills["wall"]
			newer.Edition, newer.Places = 9, 3
			in.Shelf = []coach.Drill{newer}
		}},
		{"a routine without skills", "wall names no skills", check.Note, false, func(in *work.Input) {
			in.Plan.Blocks[0] = doc.Block{Kind: doc.Run, Title: "Run-through", Minutes: 20, Intervals: doc.NewRun()}
			in.Plan.Blocks[0].Intervals.Exercises = []doc.Exercise{{Task: doc.Task{Drill: "wall", Edition: 1}}}
		}},
		{"nobody to judge", "Nobody leads who could judge", check.Settle, true, func(in *work.Input) {
			in.Leaders = nil
			in.Plan.Blocks[0] = doc.Block{Kind: doc.Run, Title: "Run-through", Minutes: 20, Intervals: doc.NewRun()}
			in.Plan.Blocks[0].Intervals.Exercises = []doc.Exercise{{Task: doc.Task{Drill: "wall", Edition: 1}}}
		}},
		{"not before, with the warm-up taken", "shot is not to be done before easy throws", check.Settle, true, func(in *work.Input) {
			drill(*in, "shot", func(d *coach.Drill) { d.NotBefore = []string{"easy throws"} })
			in.Shelf = []coach.Drill{{ID: "easy", Edition: 1, Name: "Easy throws", Most: 30, Warms: []string{"easy throws"}}}
			in.Plan.Blocks[0].Drill, in.Plan.Blocks[0].Edition = "wall", 1
		}},
		{"not dealt", "Player 11 is not in a group yet", check.Settle, true, func(in *work.Input) {
			for g := range in.Plan.Deals[0].Players {
				for i, id := range in.Plan.Deals[0].Players[g] {
					if id == "p11" {
						in.Plan.Deals[0].Players[g] = append(in.Plan.Deals[0].Players[g][:i:i], in.Plan.Deals[0].Players[g][i+1:]...)
					}
				}
			}
		}},
	} {
		t.Run(c.name, func(t *testing.T) {
			in := plantest.Tuesday(t)
			c.make(&in)
			f := plantest.Says(check.Plan(in), c.says)
			if f == nil {
				t.Fatalf("not found in %s", plantest.List(check.Plan(in)))
			}
			if f.Weight != c.weight || (len(f.Mends) > 0) != c.mends {
				t.Errorf("%s with %d mends: %+v", f.Weight, len(f.Mends), f)
			}
			for _, m := range f.Mends {
				after := check.Plan(plantest.Mended(t, in, m))
				for _, g := range after.Findings {
					if g.Key() == f.Key() && g.Says() == f.Says() {
						t.Errorf("%q stands after %q", f.Says(), m.Words)
					}
				}
			}
		})
	}
}

func TestTheLeastImportantGivesWhenWishesClash(t *testing.T) {
	in := plantest.Tuesday(t)
	for _, id := range []string{"wall", "shot"} {
		d := in.Drills[id]
		d.NotBefore = map[string][]string{"wall": {"shot"}, "shot": {"wall"}}[id]
		in.Drills[id] = d
	}
	pic := check.Plan(in)
	if f := plantest.Says(pic, "Rotation: It cannot hold that"); f == nil || len(pic.Rounds) != 3 {
		t.Errorf("each before the other: %s", plantest.List(pic))
	}
	// With more stations than groups there is a choice, and the one who may not jump keeps away.
	in = plantest.Tuesday(t)
	in.Plan.Deals[0].Groups = 2
	if err := in.DealOut(); err != nil {
		t.Fatal(err)
	}
	in.Plan.First().Rounds = 2
	d := in.Drills["shot"]
	d.Asks = []string{"jumping"}
	in.Drills["shot"] = d
	in.Players[0].Limits = []coach.Limit{{What: "jumping"}}
	if pic := check.Plan(in); plantest.Says(pic, "No jumping") != nil {
		t.Errorf("there was a way round: %s", plantest.List(pic))
	}
}

// A limit of one player gives that player something else; the others do what they did, and one fewer share the places.
func TestALimitGivesOnePlayerAnotherTask(t *testing.T) {
	in := plantest.Tuesday(t)
	d := in.Drills["shot"]
	d.Asks = []string{"jumping"}
	in.Drills["shot"] = d
	in.Players[5].Limits = []coach.Limit{{What: "jumping", Until: day.Of(plantest.Start).Add(3)}}
	in.Shelf = []coach.Drill{
		{
			ID:      "calm",
			Edition: 2,
			Name:    "Calm throws",
			Skills:  []string{"shot"},
			Least:   1,
			Most:    6,
			Places:  1,
			Pace:    6,
			Length:  3,
			Width:   3,
		},
	}
	in.Drills["calm"] = in.Shelf[0]
	before := check.Plan(in)
	f := plantest.Says(before, "Player 05: No jumping")
	if f == nil || len(f.Mends) != 2 || f.Mends[0].Words != "Calm throws for Player" ||
		f.Mends[1].Words != "Player sits out there" {
		t.Fatalf("%+v", f)
	}
	for i, m := range f.Mends {
		was := in
		was.Plan = plantest.Mended(t, in, m).Plan
		after := check.Plan(was)
		if plantest.Says(after, "Player 05: No jumping") != nil || after.Stations[1].Drill.ID != "shot" {
			t.Errorf("%s: still found, or the station is another", m.Words)
		}
		row := func(pic check.Picture, id string) work.Row {
			for _, r := range pic.Ledger {
				if r.Player.ID == id {
					return r
				}
			}
			t.Fatal(id)
			return work.Row{}
		}
		mate := ""
		for _, g := range in.Plan.Deals[0].Players {
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
		if len(after.Instead) != 1 || after.Instead[0].Where != "2 shot" ||
			after.Instead[0].Does != []string{"Calm throws", "sits out"}[i] {
			t.Errorf("%s: %+v", m.Words, after.Instead)
		}
	}
}

func TestFindingsSayWhatIsWrongAndMendIt(t *testing.T) {
	in := plantest.Tuesday(t)
	in.Players[3].Limits = []coach.Limit{{What: "jumping", Until: day.Of(plantest.Start).Add(3)}}
	d := in.Drills["shot"]
	d.Asks, d.Leader, d.Target = []string{"jumping"}, coach.AnyHelper, coach.Target{Kind: coach.RunOf, N: 10}
	in.Drills["shot"] = d
	in.Plan.First().Stations[1].Leader = "bea"
	in.Plan.Blocks[3].Minutes = 60
	pic := check.Plan(in)
	for _, want := range []string{"Player 03: No jumping until 27 Nov", "Time: The plan runs", "Station 2: Bea leaves at 18:30", "Station 2: 10 in a row would take"} {
		if plantest.Says(pic, want) == nil {
			t.Errorf("no finding %q in %+v", want, pic.Findings)
		}
	}
	// Applying the mends settles what they are for.
	for _, words := range []string{"The plan runs", "Bea leaves", "10 in a row"} {
		f := plantest.Says(pic, words)
		if f == nil || len(f.Mends) == 0 {
			t.Fatalf("no mend for %q", words)
		}
		in = plantest.Mended(t, in, f.Mends[0])
		pic = check.Plan(in)
		if plantest.Says(pic, words) != nil {
			t.Errorf("%q stands after its mend: %+v", words, f)
		}
	}
}
