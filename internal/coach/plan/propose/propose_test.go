package propose_test

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/propose"
)

func TestAPlanFromNothingHoldsInEveryShape(t *testing.T) {
	for _, s := range propose.Shapes {
		for _, n := range []int{9, 17, 30} {
			for _, minutes := range []time.Duration{15, 20, 30, 45, 90, 240} {
				in := plantest.Hall(n)
				in.Booked = minutes * time.Minute
				in = plantest.Proposed(t, in, s.Key, doc.Aim{Kind: "lack"})
				pic := check.Plan(in)
				if pic.Stops() {
					t.Errorf("%s for %d in %d min stops: %s", s.Name, n, minutes, plantest.List(pic))
				}
				if pic.Total > in.Booked || in.Booked-pic.Total > 15*time.Minute && minutes <= 90 {
					t.Errorf("%s for %d: %v of %v", s.Name, n, pic.Total, in.Booked)
				}
				if in.Plan.Blocks[0].Title != "Warm-up" || len(in.Plan.Blocks) < 2 {
					t.Errorf("%s for %d in %d min begins with %s, of %d blocks", s.Name, n, minutes, in.Plan.Blocks[0].Title, len(in.Plan.Blocks))
				}
				if len(pic.Undealt) > 0 || in.Plan.Why["shape"] == "" ||
					in.Plan.Key == "" && s.Key != "parts" && s.Key != "intervals" && s.Key != "routine" {
					t.Errorf(
						"%s for %d: %d not dealt, why %q, key %q",
						s.Name,
						n,
						len(pic.Undealt),
						in.Plan.Why["shape"],
						in.Plan.Key,
					)
				}
				allOut := slices.ContainsFunc(in.Plan.Blocks, func(b doc.Block) bool { return b.Kind == doc.Turns })
				if allOut && in.Plan.Blocks[0].Minutes < 8 {
					t.Errorf("%s for %d in %d min goes all out after %d", s.Name, n, minutes, in.Plan.Blocks[0].Minutes)
				}
				for _, st := range in.Plan.First().Stations {
					if st.Why == "" {
						t.Errorf("%s: %s has no reason", s.Name, st.Drill)
					}
				}
				for _, b := range in.Plan.Blocks {
					if b.Kind == doc.Run && len(b.Tasks()) == 0 && !strings.HasPrefix(b.Why, "Nothing on the shelf is a routine") {
						t.Errorf("%s for %d: nothing is shown: %q", s.Name, n, b.Why)
					}
					if b.Kind == doc.Stations && (b.Drill != "" || strings.HasPrefix(b.Why, "Nothing")) {
						t.Errorf("%s for %d: behind its stations %s hides %q, %q", s.Name, n, b.Title, b.Drill, b.Why)
					}
				}
				for _, b := range pic.Blocks {
					if _, fit := in.StepTimes(b); b.Kind == doc.Ladder && fit < 2 && minutes >= 45 && minutes <= 90 {
						t.Errorf("%s for %d in %d min: %d steps fit", s.Name, n, minutes, fit)
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

// A short session says what it goes without; what is pinned stays in it all the same, and a long one lacks nothing.
func TestAShortSessionSaysWhatItGoesWithout(t *testing.T) {
	in := plantest.Hall(17)
	in.Booked = 15 * time.Minute
	short := plantest.Proposed(t, in, "game-key-game", doc.Aim{Kind: "lack"})
	if why := short.Plan.Why["shape"]; !strings.Contains(why, "Too short for: One key, First look, Close and First game.") {
		t.Errorf("it says %q", why)
	}
	in.Plan = doc.Plan{Blocks: []doc.Block{{Kind: doc.Close, Title: "Close", Minutes: 5, Pinned: true}}}
	pinned := plantest.Proposed(t, in, "game-key-game", doc.Aim{Kind: "lack"})
	at := slices.IndexFunc(pinned.Plan.Blocks, func(b doc.Block) bool { return b.Kind == doc.Close })
	if at < 0 || pinned.Plan.Blocks[at].Minutes != 5 || strings.Contains(pinned.Plan.Why["shape"], "Close") {
		t.Errorf("the pinned block: %+v, %q", pinned.Plan.Blocks, pinned.Plan.Why["shape"])
	}
	in.Booked, in.Plan = 90*time.Minute, doc.Plan{}
	if long := plantest.Proposed(t, in, "game-key-game", doc.Aim{Kind: "lack"}); strings.Contains(long.Plan.Why["shape"], "Too short") {
		t.Errorf("ninety minutes: %q", long.Plan.Why["shape"])
	}
}

func TestAgainKeepsWhatIsPinned(t *testing.T) {
	in := plantest.Proposed(t, plantest.Hall(17), "circuit", doc.Aim{Kind: "skill", Value: "catching"})
	if d := in.Drills[in.Plan.First().Stations[0].Drill]; d.Skills[0] != "catching" ||
		in.Plan.Key != "key of catching" {
		t.Errorf("for catching: %v, key %q", d.Skills, in.Plan.Key)
	}
	in.Plan.First().Stations[2].Pinned, in.Plan.Blocks[3].Pinned, in.Plan.Blocks[3].Title = true, true, "Our own game"
	in.Plan.Pinned, in.Plan.Deals[0].Names = []string{"deal"}, []string{"Infielders"}
	kept, dealt := in.Plan.First().Stations[2].Drill, fmt.Sprint(in.Plan.Deals[0].Players)
	changed := 0
	for range 4 {
		next := plantest.Proposed(t, in, "circuit", doc.Aim{Kind: "skill", Value: "catching"})
		if next.Plan.First().Stations[2].Drill != kept || next.Plan.Blocks[3].Title != "Our own game" ||
			fmt.Sprint(next.Plan.Deals[0].Players) != dealt || next.Plan.Deals[0].Names[0] != "Infielders" {
			t.Fatalf("a pinned choice changed: %+v", next.Plan)
		}
		for i, s := range next.Plan.First().Stations {
			if slices.ContainsFunc(next.Plan.First().Stations[:i], func(o doc.Station) bool { return o.Drill == s.Drill }) {
				t.Errorf("%s at two stations", s.Drill)
			}
			if i < len(in.Plan.First().Stations) && s.Drill != in.Plan.First().Stations[i].Drill {
				changed++
			}
		}
		in = next
	}
	if changed == 0 {
		t.Error("four times again, and nothing that is not pinned changed")
	}
}

// What is pinned of the times and of who stands where is as it was, however often it is proposed again.
func TestAgainKeepsPinnedTimesAndLeaders(t *testing.T) {
	in := plantest.Proposed(t, plantest.Hall(17), "circuit", doc.Aim{Kind: "lack"})
	c := in.Plan.First()
	c.Work, c.Change, c.Brief, c.Rounds = 345, 35, 95, 3
	var led []string
	for i := range c.Stations {
		c.Stations[i].Leader = in.Leaders[(i+2)%len(in.Leaders)].ID
		led = append(led, c.Stations[i].Leader)
	}
	in.Plan.Pinned = []string{"time", "leaders"}
	for range 3 {
		in = plantest.Proposed(t, in, "circuit", doc.Aim{Kind: "lack"})
		now := in.Plan.First()
		if now.Work != 345 || now.Change != 35 || now.Brief != 95 || now.Rounds != 3 {
			t.Fatalf("pinned times: %d s of work, %d of change, %d of explaining, %d rounds", now.Work, now.Change, now.Brief, now.Rounds)
		}
		for i, s := range now.Stations {
			if i < len(led) && s.Leader != led[i] {
				t.Errorf("station %d was led by %s, and is by %s", i+1, led[i], s.Leader)
			}
		}
		if in.Plan.Why["leaders"] != "Kept as you pinned them." {
			t.Errorf("it says %q", in.Plan.Why["leaders"])
		}
	}
}

// A routine is shown again by everybody while there is time for it, three times at most: what is run through takes
// what it takes, and is not stretched.
func TestARunThroughIsShownAgainWhileThereIsTime(t *testing.T) {
	in := plantest.Hall(6)
	in.Shelf = append(in.Shelf, coach.Drill{
		ID: "routine", Edition: 1, Name: "Routine", Skills: []string{"balance"}, Least: 1, Most: 30, Places: 1, Length: 8, Width: 6,
		Routine: []string{"mount", "turn", "dismount"}, Leader: coach.SelfRun,
	})
	turns := map[time.Duration]int{}
	for _, minutes := range []time.Duration{30, 60, 240} {
		in.Booked, in.Plan = minutes*time.Minute, doc.Plan{}
		got := plantest.Proposed(t, in, "routine", doc.Aim{Kind: "lack"})
		pic := check.Plan(got)
		for _, b := range pic.Blocks {
			if b.Kind == doc.Run && len(b.Tasks()) > 0 {
				turns[minutes] = max(turns[minutes], b.Intervals.Turns)
				if takes := b.To - b.From; takes < b.Cycle.Takes {
					t.Errorf("in %d min the run-through has %v, and takes %v", minutes, takes, b.Cycle.Takes)
				}
			}
		}
		if pic.Total > in.Booked {
			t.Errorf("%v of %v", pic.Total, in.Booked)
		}
	}
	if turns[30] < 1 || turns[240] != 3 || turns[30] > turns[60] || turns[60] > turns[240] {
		t.Errorf("shown by everybody so often in so many minutes: %v", turns)
	}
}

// late reports the 95th of a hundred durations: what a coach waits at worst.
func late(b *testing.B, took []time.Duration) {
	slices.Sort(took)
	b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "ms-p95")
}

func BenchmarkPropose(b *testing.B) {
	in := plantest.Hall(30)
	var took []time.Duration
	b.ReportAllocs()
	for b.Loop() {
		start := time.Now()
		in = plantest.Proposed(b, in, "circuit", doc.Aim{Kind: "lack"})
		check.Plan(in)
		took = append(took, time.Since(start))
	}
	late(b, took)
}

func BenchmarkRecheck(b *testing.B) {
	in := plantest.Proposed(b, plantest.Hall(30), "circuit", doc.Aim{Kind: "lack"})
	var took []time.Duration
	b.ReportAllocs()
	for i := 0; b.Loop(); i++ {
		in.Plan.First().Work = 300 + i%5*30
		start := time.Now()
		check.Plan(in)
		took = append(took, time.Since(start))
	}
	late(b, took)
}

// A plan from a file may carry any seed.
func TestAnySeedProposes(t *testing.T) {
	in := plantest.Hall(12)
	in.Plan.Seed = 1<<64 - 2
	if _, err := propose.Plan(in, "circuit", doc.Aim{Kind: "lack"}); err != nil {
		t.Error(err)
	}
}

// Three to choose from: they differ, each name is true, none stops, what is pinned stays in each, and asked again the
// same three come, so that the one that is taken is the one that was seen.
func TestThreeToChooseFrom(t *testing.T) {
	for _, n := range []int{6, 17, 30} {
		in := plantest.Hall(n)
		in.Booked = 90 * time.Minute
		aim := doc.Aim{Kind: "lack"}
		three, err := propose.Three(in, "circuit", aim)
		again, _ := propose.Three(in, "circuit", aim)
		if err != nil || len(three) != 3 || !reflect.DeepEqual(three, again) {
			t.Fatalf("for %d: %d plans, the same again: %v, %v", n, len(three), reflect.DeepEqual(three, again), err)
		}
		var tries []float64
		seen := map[string]bool{}
		for _, o := range three {
			in.Plan = o.Plan
			in.Drills = map[string]coach.Drill{}
			for _, d := range in.Shelf {
				in.Drills[d.ID] = d
			}
			pic := check.Plan(in)
			if pic.Stops() {
				t.Errorf("%s for %d stops: %s", o.Favour, n, plantest.List(pic))
			}
			fewest := pic.Ledger[0].BySkill[o.Skill]
			for _, r := range pic.Ledger {
				fewest = min(fewest, r.BySkill[o.Skill])
			}
			tries = append(tries, fewest)
			seen[fmt.Sprint(o.Plan.Tasks())] = true
		}
		if three[0].Favour != propose.Tries || slices.Max(tries) != tries[0] || len(seen) < 2 {
			t.Errorf("for %d: %s first, tries %v, %d different", n, three[0].Favour, tries, len(seen))
		}
		pinned := in
		pinned.Plan = three[1].Plan.Clone()
		first := &pinned.Plan.First().Stations[0]
		first.Pinned = true
		three, err = propose.Three(pinned, "circuit", aim)
		for _, o := range three {
			if !slices.ContainsFunc(o.Plan.Stations(), func(s doc.Station) bool { return s.Drill == first.Drill && s.Pinned }) {
				t.Errorf("for %d: %s is without the pinned %s", n, o.Favour, first.Drill)
			}
		}
		if err != nil {
			t.Error(err)
		}
	}
}

func BenchmarkThree(b *testing.B) {
	in := plantest.Hall(17)
	in.Booked = 90 * time.Minute
	for b.Loop() {
		if _, err := propose.Three(in, "circuit", doc.Aim{Kind: "lack"}); err != nil {
			b.Fatal(err)
		}
	}
}

// A week of cleaning up has nothing at its stations that no stage here asks for; a week of new skills is for what the
// next stage begins with, where somebody is ready for it, and says so where nobody is.
func TestTheKindOfWeekIsHonoured(t *testing.T) {
	in := plantest.Hall(17)
	for _, p := range in.Players { // all lack the same two things
		in.Missing[p.ID] = []coach.Criterion{{ID: "c", Skill: "catching", Keys: []string{"soft hands"}}, {ID: "s", Skill: "shooting"}}
	}
	clean := plantest.Proposed(t, in, "circuit", doc.Aim{Kind: "clean"})
	for _, s := range clean.Plan.First().Stations {
		if skills := clean.Drills[s.Drill].Skills; !slices.Contains(skills, "catching") && !slices.Contains(skills, "shooting") {
			t.Errorf("cleaning up, a station is for %v", skills)
		}
	}
	nobody := plantest.Proposed(t, in, "circuit", doc.Aim{Kind: "ahead"})
	if why := nobody.Plan.Why["shape"]; why != "Nobody is ready for what the next stage begins with, so it is for what they lack." {
		t.Error(why)
	}
	in.Ahead = map[string][]coach.Criterion{}
	for _, p := range in.Players[:5] {
		delete(in.Missing, p.ID)
		in.Ahead[p.ID] = []coach.Criterion{{ID: "d", Skill: "defending", Keys: []string{"feet first"}}}
	}
	ahead := plantest.Proposed(t, in, "circuit", doc.Aim{Kind: "ahead"})
	if why := ahead.Plan.Why["shape"]; why != "New: defending, for 5 players who are ready for it; the others go on with what they lack." {
		t.Error(why)
	}
	if first := ahead.Drills[ahead.Plan.First().Stations[0].Drill]; !slices.Contains(first.Skills, "defending") {
		t.Errorf("the first station is for %v", first.Skills)
	}
}

// A shelf that has few situations, and most drills too wide for the floor: a station is there twice for a situation before
// a group rests for want of a station.
func TestNoGroupRestsForWantOfAStation(t *testing.T) {
	in := plantest.Hall(24)
	in.Floor = floor.Of("hall", 20, 16)
	in.Leaders = in.Leaders[:1]
	for i := range in.Shelf {
		in.Shelf[i].Situation = []string{"attack", "defence", "counter", "set"}[i%4]
		if i%4 > 1 {
			in.Shelf[i].Length, in.Shelf[i].Width = 19, 15
		}
	}
	in.Booked = 90 * time.Minute
	for _, s := range propose.Shapes {
		pic := check.Plan(plantest.Proposed(t, in, s.Key, doc.Aim{Kind: "lack"}))
		for _, c := range pic.Circuits {
			if n := len(pic.GroupsOf(c)); n > len(c.Stations) {
				t.Errorf("%s: %d groups at %d stations", s.Name, n, len(c.Stations))
			}
		}
	}
}

// A school's lesson: a whole class in three quarters of an hour, one teacher, and drills for six. There are as many
// stations as hold everybody, also where there is no time for all to be everywhere and where the shelf has few drills.
func TestNoGroupIsLargerThanItsTask(t *testing.T) {
	for _, players := range []int{20, 28, 36} {
		for _, minutes := range []int{45, 60, 90} {
			for _, shelf := range []int{4, 40} {
				in := plantest.Hall(players)
				in.Booked, in.Leaders, in.Shelf = time.Duration(minutes)*time.Minute, in.Leaders[:1], in.Shelf[:shelf]
				in.Plan = doc.Start(in.Booked, coach.NetGames)
				for i := range in.Shelf {
					d := &in.Shelf[i]
					d.Least, d.Most, d.Leader, d.Kit, d.Length, d.Width = 3, 6, coach.SelfRun, nil, 4, 4
				}
				for _, shape := range []string{"circuit", "game-key-game", "parts", "intervals", "routine"} {
					pic := check.Plan(plantest.Proposed(t, in, shape, doc.Aim{}))
					for _, f := range pic.Findings {
						if _, is := f.What.(check.TooMany); is || pic.Total > in.Booked {
							t.Errorf("%s, %d players, %d minutes, %d drills: %s", shape, players, minutes, shelf, f.What.Says())
						}
					}
				}
			}
		}
	}
}

// Drills for three ask for more stations than groups of the best size would: with time enough everybody is at each.
func TestWithTimeEnoughEverybodyIsEverywhere(t *testing.T) {
	in := plantest.Hall(12)
	for i := range in.Shelf {
		in.Shelf[i].Least, in.Shelf[i].Most, in.Shelf[i].Leader = 2, 3, coach.SelfRun
	}
	pic := check.Plan(plantest.Proposed(t, in, "circuit", doc.Aim{}))
	if len(pic.Stations) < 4 || len(pic.Rounds) < len(pic.Stations) {
		t.Errorf("%d rounds at %d stations", len(pic.Rounds), len(pic.Stations))
	}
}

// However few come, nobody is a group of one as long as two can be together.
func TestNobodyIsAGroupAlone(t *testing.T) {
	for players := 2; players < 8; players++ {
		for _, s := range propose.Shapes {
			for _, g := range check.Plan(plantest.Proposed(t, plantest.Hall(players), s.Key, doc.Aim{})).Groups {
				if len(g.Players) == 1 {
					t.Errorf("%s for %d: %s are one", s.Name, players, g.Shape.Many())
				}
			}
		}
	}
}

// Where no game takes what the longest rounds leave of the time, there is a station more, and no warm-up of 25 minutes.
func TestTimeLeftOverGoesToStations(t *testing.T) {
	for _, shape := range []string{"circuit", "routine"} {
		for _, players := range []int{6, 12, 20} {
			in := plantest.Hall(players)
			in.Family = coach.Apparatus
			in.Plan = doc.Start(in.Booked, in.Family)
			pic := check.Plan(plantest.Proposed(t, in, shape, doc.Aim{}))
			if warm := pic.Blocks[0]; warm.To-warm.From > 15*time.Minute || pic.Total < in.Booked-2*time.Minute {
				t.Errorf("%s for %d: warm-up of %s, %s of 90 minutes", shape, players, warm.To-warm.From, pic.Total)
			}
		}
	}
}

// A proposal holds all who are there, and says what is done also where no drill of the shelf is for it: with nothing on
// the shelf that is for everybody, what the family ends in is written down; a game for eight on four areas holds thirty.
func TestAProposalSaysWhatIsDoneAndHoldsAll(t *testing.T) {
	for _, family := range coach.Families {
		for _, s := range propose.ShapesOf(family) {
			in := plantest.Hall(30)
			in.Family = family
			for i := range in.Shelf {
				in.Shelf[i].Most = min(in.Shelf[i].Most, 8)
			}
			in = plantest.Proposed(t, in, s.Key, doc.Aim{Kind: "lack"})
			together := map[string]bool{}
			for _, b := range in.Plan.Blocks[1:] { // but for the warm-up
				together[b.ID] = b.Kind == doc.Together || b.Kind == doc.Game
			}
			for _, f := range check.Plan(in).Findings {
				if crowd, is := f.What.(check.Crowd); is {
					t.Errorf("%s of %s: %s", s.Name, family, crowd.Says())
				}
				if none, is := f.What.(check.NoTask); is && together[none.Block.ID] {
					t.Errorf("%s of %s: %s is empty", s.Name, family, none.Block.Name)
				}
			}
		}
	}
}

// Of the drills for two, one that all pairs have room for comes first: nobody is to wait because another ranked higher.
// Where no contest is small enough for 14 pairs it is the one that the most have room for.
func TestPairsHaveRoom(t *testing.T) {
	in := plantest.Hall(28)
	in.Booked = time.Hour
	in = plantest.Proposed(t, in, "pairs", doc.Aim{Kind: "lack"})
	for _, f := range check.Plan(in).Findings {
		if few, is := f.What.(check.FewCourts); is && (few.Block.Name != "Live point" || few.Fit < 12) {
			t.Errorf("%s: %s", few.Block.Name, few.Says())
		}
	}
}

// Children who miss often are not sent to repeat more after faults than their club lets them, where another drill will do.
func TestChildrenAreSparedFaults(t *testing.T) {
	for _, s := range propose.ShapesOf(coach.Athletics) {
		in := plantest.Hall(30)
		in.Family, in.MostForfeits, in.Tries = coach.Athletics, 10, nil
		for i := range in.Players {
			in.Players[i].BirthYear = in.Start.Year() - 11
		}
		for i := range in.Shelf[:len(in.Shelf)/2] {
			in.Shelf[2*i].Forfeits = []string{"20 star jumps"}
		}
		in = plantest.Proposed(t, in, s.Key, doc.Aim{Kind: "lack"})
		for _, f := range check.Plan(in).Findings {
			if much, is := f.What.(check.Forfeits); is {
				t.Errorf("%s: %s", s.Name, much.Says())
			}
		}
	}
}
