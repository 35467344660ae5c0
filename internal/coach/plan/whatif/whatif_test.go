package whatif_test

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
	"gruppo/internal/coach/plan/whatif"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/day"
)

func TestWhatIfMovesFewAndFits(t *testing.T) {
	before := plantest.Proposed(t, plantest.Hall(17), "circuit", doc.Aim{Kind: "lack"})
	was := check.Plan(before)
	for _, c := range []struct {
		name  string
		what  []whatif.Happens
		moves int // at most
		holds func(in work.Input, pic check.Picture) bool
	}{
		{"one absent", []whatif.Happens{{Kind: whatif.Absent, Player: before.Players[3]}}, 2, func(in work.Input, pic check.Picture) bool { return len(pic.Ledger) == 16 }},
		{"one guest", []whatif.Happens{{Kind: whatif.Guest, Player: coach.Player{ID: "guest", Name: "Guest"}}}, 1, func(in work.Input, pic check.Picture) bool { return len(pic.Ledger) == 18 && len(pic.Undealt) == 0 }},
		{"late", []whatif.Happens{{Kind: whatif.Late, Player: before.Players[0], At: 40 * time.Minute}}, 0, func(in work.Input, pic check.Picture) bool {
			return pic.Ledger[0].Player.ID == "p00" && pic.Ledger[0].Away > 0
		}},
		{"a leader gone", []whatif.Happens{{Kind: whatif.Gone, Leader: was.Stations[0].Station.Leader, At: 50 * time.Minute}}, 0, func(in work.Input, pic check.Picture) bool { return len(pic.Rounds) == len(was.Rounds) }},
		{"a station lost", []whatif.Happens{{Kind: whatif.Lost, Station: "s2", Number: 2}}, 6, func(in work.Input, pic check.Picture) bool {
			return len(pic.Stations) == len(was.Stations)-1 && pic.Total <= in.Booked
		}},
		{"ten minutes lost", []whatif.Happens{{Kind: whatif.Time, Minutes: 10}}, 0, func(in work.Input, pic check.Picture) bool {
			return pic.Booked == 80*time.Minute && pic.Total <= pic.Booked
		}},
		{"to the gym", []whatif.Happens{{Kind: whatif.Moved, Floor: floor.Of("hall", 15, 12), Where: "the gym"}}, 17, func(in work.Input, pic check.Picture) bool {
			return pic.Floor.Length == 15 && len(pic.Stations) >= 1 && pic.Stations[0].Fits && len(pic.Undealt) == 0
		}},
		{"all at once", []whatif.Happens{{Kind: whatif.Absent, Player: before.Players[3]}, {Kind: whatif.Hurt, Player: before.Players[4], No: "jumping"}, {Kind: whatif.Time, Minutes: 15}, {Kind: whatif.Lost, Station: "s1", Number: 1}}, 8, func(in work.Input, pic check.Picture) bool { return pic.Total <= in.Booked }},
	} {
		after, err := whatif.Plan(before, c.what)
		if err != nil {
			t.Fatal(c.name, err)
		}
		pic := check.Plan(after)
		moved := 0
		for _, m := range whatif.Compare(was, pic).Moves {
			if m.From >= 0 && m.To >= 0 {
				moved++
			}
		}
		if moved > c.moves || !c.holds(after, pic) {
			t.Errorf(
				"%s: %d move, %d stations, %v of %v: %s",
				c.name,
				moved,
				len(pic.Stations),
				pic.Total,
				pic.Booked,
				plantest.List(pic),
			)
		}
		if fmt.Sprint(check.Plan(before).Total) != fmt.Sprint(was.Total) {
			t.Fatalf("%s changed the plan before it was taken", c.name)
		}
	}
	if d := whatif.Compare(was, check.Plan(before)); len(d.Moves)+len(d.Figures)+len(d.New)+len(d.Settled) > 0 {
		t.Errorf("nothing happened, and yet %+v", d)
	}
}

// Who can do nothing today is planned as one who is not there, and groups grow fewer before anybody practises alone.
func TestFewAreLeft(t *testing.T) {
	in := plantest.Proposed(t, plantest.Hall(12), "circuit", doc.Aim{Kind: "lack"})
	for left := 11; left >= 1; left-- {
		var what []whatif.Happens
		for i, p := range in.Players[left:] {
			h := whatif.Happens{Kind: whatif.Absent, Player: p}
			if i%2 == 0 {
				h.Kind = whatif.Hurt // and can do nothing
			}
			what = append(what, h)
		}
		after, err := whatif.Plan(in, what)
		if err != nil {
			t.Fatal(left, err)
		}
		pic := check.Plan(after)
		if len(pic.Ledger) != left || len(pic.Undealt) > 0 {
			t.Errorf("of %d left %d are planned, %d in no group", left, len(pic.Ledger), len(pic.Undealt))
		}
		for _, d := range after.Plan.Deals {
			for _, g := range d.Players {
				if len(g) == 1 && left > 1 {
					t.Errorf("of %d one practises alone: %v", left, d.Players)
				}
			}
		}
	}
}

func TestAPlanFromElsewhereIsFitted(t *testing.T) {
	from := plantest.Tuesday(t)
	from.Plan.First().Stations[0].Leader, from.Plan.First().Stations[1].Leader = "ines", "tomasz"
	from.Plan.First().Stations[0].Spot, from.Plan.First().Stations[2].Spot = &floor.Spot{
		X:      30,
		Y:      2,
		Length: 8,
		Width:  6,
	}, &floor.Spot{
		X:      2,
		Y:      2,
		Length: 8,
		Width:  6,
	}
	from.Plan.Blocks[3].Game = &rotate.Game{Areas: 2, A: 3, B: 3}
	shot := from.Drills["shot"]
	shot.Leader = coach.AnyCoach
	from.Drills["shot"] = shot

	to := from
	to.Floor = floor.Of("hall", 24, 14)
	to.Players = to.Players[3:]
	to.Players = append(to.Players, coach.Player{ID: "new", Name: "New"}, coach.Player{ID: "newer", Name: "Newer"})
	to.Leaders = []work.Leader{{ID: "leila", Name: "Leila H", Role: coach.RoleCoach}}
	p, err := whatif.Fit(from.Plan, to)
	if err != nil {
		t.Fatal(err)
	}
	dealt := 0
	for _, g := range p.Deals[0].Players {
		dealt += len(g)
	}
	if dealt != 11 || p.First().Stations[0].Leader != "" || p.First().Stations[1].Leader != "leila" {
		t.Errorf("%d of 11 dealt, led by %q and %q", dealt, p.First().Stations[0].Leader, p.First().Stations[1].Leader)
	}
	if p.First().Stations[0].Spot != nil || p.First().Stations[2].Spot == nil {
		t.Error("a place beyond the smaller floor stays, or one on it does not")
	}
	if g := p.Blocks[3].Game; g.Areas*(g.On()+g.Reserves)+g.More != 11 {
		t.Errorf("a game for others: %v", g)
	}
	if from.Plan.First().Stations[0].Leader != "ines" {
		t.Error("fitting changed the plan it came from")
	}
	// Who was in a group before and is still there stays in it, if sizes allow.
	stayed := 0
	for g, ids := range from.Plan.Deals[0].Players {
		for _, id := range ids {
			for _, now := range p.Deals[0].Players[g] {
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

// Who leaves is replaced everywhere: a coach takes the leaver's place, the helper the coach's.
func TestWhoLeavesIsReplacedInAChain(t *testing.T) {
	in := plantest.Tuesday(t)
	for id, who := range map[string]coach.Leader{"wall": coach.AnyHelper, "shot": coach.AnyCoach, "feint": coach.SelfRun} {
		d := in.Drills[id]
		d.Leader = who
		in.Drills[id] = d
	}
	in.Leaders = []work.Leader{
		{ID: "ines", Name: "Ines", Role: coach.RoleLead},
		{ID: "tomasz", Name: "Tomasz", Role: coach.RoleCoach},
		{ID: "kofi", Name: "Kofi", Role: coach.RoleHelper},
	}
	in.Plan.First().Stations[0].Leader, in.Plan.First().Stations[1].Leader, in.Plan.First().Stations[2].Leader = "tomasz", "ines", "kofi"
	after, err := whatif.Plan(in, []whatif.Happens{{Kind: whatif.Gone, Leader: "ines"}})
	if err != nil {
		t.Fatal(err)
	}
	if s := after.Plan.First().Stations; s[0].Leader != "kofi" || s[1].Leader != "tomasz" || s[2].Leader != "" {
		t.Errorf("led by %q, %q, %q", s[0].Leader, s[1].Leader, s[2].Leader)
	}
	in.Plan.First().Move, in.Plan.First().With = true, []string{"ines", "", "kofi"}
	after, err = whatif.Plan(in, []whatif.Happens{{Kind: whatif.Gone, Leader: "ines"}})
	if err != nil || !strings.Contains(fmt.Sprint(after.Plan.First().With), "tomasz") ||
		strings.Contains(fmt.Sprint(after.Plan.First().With), "ines") {
		t.Errorf("where leaders go with groups: %v, %v", after.Plan.First().With, err)
	}
}

// Nothing is settled by what it was about being gone.
func TestNothingIsSettledByVanishing(t *testing.T) {
	in := plantest.Tuesday(t)
	d := in.Drills["shot"]
	d.Asks, d.Leader = []string{"jumping"}, coach.AnyCoach
	in.Drills["shot"] = d
	in.Plan.First().Stations[1].Leader = "kofi"
	in.Players[5].Limits = []coach.Limit{{What: "jumping", Until: day.Of(plantest.Start).Add(3)}}
	was := check.Plan(in)
	for name, h := range map[string][]whatif.Happens{"the player is absent": {{Kind: whatif.Absent, Player: in.Players[5]}}, "the station is lost": {{Kind: whatif.Lost, Station: "s2", Number: 2}}} {
		after, err := whatif.Plan(in, h)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range whatif.Compare(was, check.Plan(after)).Settled {
			if strings.Contains(f.Says(), "jumping") ||
				strings.Contains(f.Says(), "shot") && name == "the station is lost" {
				t.Errorf("%s, and that settles %q", name, f.Says())
			}
		}
	}
}

func TestOnlyWhatIsAheadGives(t *testing.T) {
	pic := check.Plan(plantest.Tuesday(t))
	words := func(now int) (out string) {
		for _, m := range whatif.Gives(&pic.Picture, 6*time.Minute, now) {
			out += m.Words + "; "
		}
		return out
	}
	if all := words(0); !strings.Contains(all, "Rounds of") {
		t.Errorf("in the warm-up the rounds can give: %s", all)
	}
	segs := pic.Segments()
	if late := words(len(segs) - 2); strings.Contains(late, "Rounds of") || strings.Contains(late, "round") {
		t.Errorf("rounds that were run give: %s", late)
	}
	if last := words(len(segs)); last != "" {
		t.Errorf("when all is over: %s", last)
	}
}

// A coach's word that these players may work all-out is of the day it was given, as are scores and who was put on which
// side: a plan that goes to another day or class does not take it along.
func TestACoachsWordStaysWithItsDay(t *testing.T) {
	in := plantest.Tuesday(t)
	n := doc.NewIntervals()
	n.Allowed, n.Exercises = true, []doc.Exercise{{Task: doc.Task{Drill: "wall", Edition: 1}}}
	p := in.Plan.Clone()
	p.Blocks[0] = doc.Block{ID: "b1", Kind: doc.Turns, Title: "All-out", Minutes: 10, Intervals: n}
	p.Blocks[3].Teams = &doc.Teams{Put: map[string]int{"p1": 1}}
	fit, err := whatif.Fit(p, in)
	if err != nil || fit.Blocks[0].Intervals.Allowed || fit.Blocks[3].Teams != nil {
		t.Errorf("taken along: %+v, %+v, %v", fit.Blocks[0].Intervals, fit.Blocks[3].Teams, err)
	}
	if !p.Blocks[0].Intervals.Allowed {
		t.Error("the plan it was made from has lost it too")
	}
}
