package work_test

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/target"
)

func TestSplitRoundsAndTheLateComer(t *testing.T) {
	in := plantest.Tuesday(t)
	whole := check.Plan(in)
	const at = 2
	in = plantest.Mended(
		t,
		in,
		check.Mend{
			Edits: []edit.Edit{edit.SplitBlock{Block: "b3", After: 2}, edit.AddBlock{Kind: doc.Break, After: "b3"}},
		},
	)
	pic := check.Plan(in)
	if pic.Rounds[2].Block != at+2 || pic.Blocks[at].Count != 2 || pic.Blocks[at+2].Count != 1 ||
		pic.Total != whole.Total+3*time.Minute-whole.Main().Change {
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
	in.There = map[string]work.There{"p0": {From: pic.Rounds[1].From}}
	late := check.Plan(in)
	row := func(p check.Picture, id string) work.Row {
		for _, r := range p.Ledger {
			if r.Player.ID == id {
				return r
			}
		}
		t.Fatal(id)
		return work.Row{}
	}
	if a, b := row(pic, "p0"), row(late, "p0"); b.Reps >= a.Reps ||
		b.Away != pic.Rounds[1].From-2*time.Minute-pic.Main().Change && b.Away == 0 ||
		late.Ledger[0].Player.ID != "p0" {
		t.Errorf(
			"late: %.0f of %.0f repetitions, away %v; on top is %s",
			b.Reps,
			a.Reps,
			b.Away,
			late.Ledger[0].Player.ID,
		)
	}
}

func TestLeadersMoveWithTheirGroup(t *testing.T) {
	in := plantest.Tuesday(t)
	in.Plan.First().Stations[0].Leader, in.Plan.First().Stations[1].Leader = "ines", "kofi"
	in = plantest.Mended(t, in, check.Mend{Edits: []edit.Edit{edit.Leaders{Move: true}}})
	pic := check.Plan(in)
	for _, row := range pic.Ledger {
		if (len(row.LeadSees) == 3) != (row.Group == 0) {
			t.Errorf("%s of group %d is seen by the lead in %v", row.Player.Name, row.Group, row.LeadSees)
		}
	}
	if c := pic.Leaders[0].Cells; !strings.HasPrefix(c[len(c)-1].Where, "Close") ||
		pic.Leaders[1].Cells[len(pic.Leaders[1].Cells)-1].To != 30*time.Minute {
		t.Errorf("minute by minute: %+v", pic.Leaders)
	}
}

func TestKitIsCountedForEachStationAtOnce(t *testing.T) {
	in := plantest.Tuesday(t)
	for id, kit := range map[string][]string{"wall": {"a ball each"}, "shot": {"6 balls"}, "feint": {"4 cones"}} {
		d := in.Drills[id]
		d.Kit = kit
		in.Drills[id] = d
	}
	in.Kit = []coach.Kit{{Name: "ball", Count: 8}, {Name: "cone", Count: 10}}
	pic := check.Plan(in)
	if k := pic.Kit[0]; k.Name != "ball" || k.Need != 10 || k.Short != 2 || fmt.Sprint(k.Where) != "[1 2]" {
		t.Errorf("%+v", pic.Kit)
	}
}

func TestWhoMetFadesAndWhoLacksCountsOnce(t *testing.T) {
	met := work.Met([][][]string{{{"b", "a"}, {"c", "d"}}, {{"a", "b", "c"}}, nil, {{"c", "d"}}})
	for pair, want := range map[[2]string]float64{{"a", "b"}: 1 + 0.75, {"a", "c"}: 0.75, {"c", "d"}: 1 + 0.421875, {"a", "d"}: 0} {
		if met[pair] != want {
			t.Errorf("%v: %v, want %v", pair, met[pair], want)
		}
	}
	in := work.Input{
		Players: []coach.Player{{ID: "a"}, {ID: "b"}},
		Missing: map[string][]coach.Criterion{
			"a":    {{Skill: "passing"}, {Skill: "passing"}},
			"b":    {{Skill: "passing"}, {Skill: "balance"}},
			"gone": {{Skill: "balance"}},
		},
	}
	if got := in.Lacks(); got["passing"] != 2 || got["balance"] != 1 {
		t.Errorf("%v", got)
	}
}

func TestDealKnowsWhoWasTogether(t *testing.T) {
	in := plantest.Hall(12)
	in.Plan.Deals[0].Groups, in.Plan.Deals[0].Way = 3, deal.Chance
	if err := in.DealOut(); err != nil {
		t.Fatal(err)
	}
	in.Met = map[[2]string]float64{}
	for _, g := range in.Plan.Deals[0].Players {
		for i, a := range g {
			for _, b := range g[:i] {
				in.Met[[2]string{min(a, b), max(a, b)}] = 1
			}
		}
	}
	last := in.Met
	in.Plan.Deals[0].Players = nil
	if err := in.DealOut(); err != nil {
		t.Fatal(err)
	}
	again := 0
	for _, g := range in.Plan.Deals[0].Players {
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

func TestTwoGroupsAtOnceShareAStation(t *testing.T) {
	in := plantest.Tuesday(t)
	in.Plan.First().Stations = in.Plan.First().Stations[:2]
	one := check.Plan(in) // three groups, two stations: one rests in turn
	in.Plan.First().Stations[0].Double = true
	two := check.Plan(in)
	rests := func(p check.Picture) (d time.Duration) {
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
	in := plantest.Tuesday(t)
	counts := func(p doc.Plan) (out []int) {
		in.Plan = p
		for _, b := range check.Plan(in).Blocks {
			if b.Kind == doc.Stations {
				out = append(out, b.Count)
			}
		}
		return out
	}
	apply := func(p doc.Plan, edits ...edit.Edit) doc.Plan {
		t.Helper()
		for _, e := range edits {
			next, _, err := edit.Apply(p, e)
			if err != nil {
				t.Fatalf("%+v: %v", e, err)
			}
			p = next
		}
		return p
	}
	two := apply(in.Plan, edit.Rounds{Count: 4}, edit.SplitBlock{Block: "b3", After: 2})
	three := apply(
		in.Plan,
		edit.Rounds{Count: 6},
		edit.SplitBlock{Block: "b3", After: 2},
		edit.SplitBlock{Block: "b6", After: 2},
	)
	for _, c := range []struct {
		name string
		plan doc.Plan
		want string
	}{
		{"split in two", two, "[2 2]"},
		{"until all were everywhere", apply(two, edit.Rounds{Count: 0}), "[2 1]"}, // three stations, three groups
		{"and four again", apply(two, edit.Rounds{Count: 0}, edit.Rounds{Count: 4}), "[2 2]"},
		{"split in three", three, "[2 2 2]"},
		{"the first dropped", apply(three, edit.DropBlock{Block: "b3"}), "[4 2]"},
		{"the middle one dropped", apply(three, edit.DropBlock{Block: "b6"}), "[4 2]"},
		{"the last dropped", apply(three, edit.DropBlock{Block: "b7"}), "[2 4]"},
		{"the last moved first", apply(three, edit.MoveBlock{Block: "b7", To: 2}), "[2 2 2]"},
	} {
		if got := fmt.Sprint(counts(c.plan)); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
	}
	if _, _, err := edit.Apply(two, edit.SplitBlock{Block: "b6", After: 2}); err == nil {
		t.Error("a part of two rounds is split after the second")
	}
}

func TestTimetableAddsUp(t *testing.T) {
	in := plantest.Tuesday(t)
	pic := check.Plan(in)
	if len(pic.Groups) != 3 || len(pic.Rounds) != 3 {
		t.Fatalf("%d groups, %d rounds", len(pic.Groups), len(pic.Rounds))
	}
	// brief + R·work + (R − 1)·change, and the blocks around it.
	stations := 2*time.Minute + 3*6*time.Minute + 2*pic.Main().Change
	if want := 10*time.Minute + 5*time.Minute + stations + 25*time.Minute + 5*time.Minute; pic.Total != want {
		t.Errorf("the plan takes %v, want %v", pic.Total, want)
	}
	if pic.Rounds[1].From-pic.Rounds[0].To != pic.Main().Change {
		t.Error("the change is not what lies between two rounds")
	}
	// 20 m at 1.2 m/s are 16.7 s, 15 s to settle: 31.7, up to 35.
	if got := work.ChangeFor(20); got != 35*time.Second {
		t.Errorf("a walk of 20 m takes %v, want 35 s", got)
	}
	// Four players, two places, 8 a minute, three rounds of 6 min: 72 repetitions, 9 min active at the stations.
	row := pic.Ledger[0]
	// Nothing is planned in the warm-up and the game, so nothing is counted there until something is.
	if math.Abs(row.Reps-72) > 1e-9 || row.Active != 9*time.Minute || row.Waiting != 9*time.Minute {
		t.Errorf("ledger: %.1f repetitions, %v active, %v waiting", row.Reps, row.Active, row.Waiting)
	}
	in.Plan.Blocks[0].Note = "Tag"
	if row := check.Plan(in).Ledger[0]; row.Active != 19*time.Minute {
		t.Errorf("with ten minutes of tag %v are active, want 19", row.Active)
	}
	in.Plan.Blocks = in.Plan.Blocks[:1]
	in.Plan.Blocks[0].Note = ""
	if pic := check.Plan(in); pic.Counted || pic.Active != 0 {
		t.Errorf("an empty plan has a figure: %v active", pic.Active)
	}
}

func TestOneChangeMovesAllThreeViews(t *testing.T) {
	in := plantest.Tuesday(t)
	before := check.Plan(in)
	in.Plan.First().Work = 4 * 60
	after := check.Plan(in)
	if after.Total != before.Total-6*time.Minute || after.Ledger[0].Reps >= before.Ledger[0].Reps {
		t.Error("shorter rounds did not reach the clock and the ledger")
	}
	var needs edit.Needs
	var err error
	in.Plan, needs, err = edit.Apply(in.Plan, edit.Groups{Count: 2})
	if err != nil || needs != edit.NewDeal {
		t.Fatal("two groups do not ask for a new deal", err)
	}
	if err := in.DealOut(); err != nil {
		t.Fatal(err)
	}
	two := check.Plan(in)
	quick := in.Drills["wall"]
	quick.ID, quick.Pace, quick.Length = "quick", 20, 12
	in.Drills["quick"] = quick
	if in.Plan, _, err = edit.Apply(in.Plan, edit.Drill{Station: "s2", Task: doc.Task{Drill: "quick", Edition: 1}}); err != nil {
		t.Fatal(err)
	}
	if swapped := check.Plan(in); swapped.Stations[1].Spot.Length != 12 ||
		swapped.Ledger[0].Reps <= two.Ledger[0].Reps ||
		swapped.Main().Change < two.Main().Change {
		t.Error("another drill did not reach the floor and the ledger")
	}
	if len(two.Groups[0].Players) != 6 || two.Ledger[0].Reps >= after.Ledger[0].Reps {
		t.Error("larger groups must mean fewer repetitions each")
	}
}

func TestChanceComesFromTheNearestMarks(t *testing.T) {
	in := plantest.Tuesday(t)
	in.Tries = map[string]map[string][]target.Series{"p1": {"wall": {{Made: 19, Tries: 20}}}}
	own, from := in.Chance(in.Players[1], in.Drills["wall"])
	other, from2 := in.Chance(in.Players[2], in.Drills["wall"])
	none, from3 := in.Chance(in.Players[2], in.Drills["shot"])
	if from != "own marks in the skill" || from2 != "the stage's marks" || from3 != "the drill's own guess" {
		t.Errorf("%s, %s, %s", from, from2, from3)
	}
	if own.P < 0.9 || other.P != own.P || none.P != 0.8 {
		t.Errorf("%v, %v, %v", own.P, other.P, none.P)
	}
}

// A session of two halves: three stations for groups near in level, then two others for mixed groups that lead
// themselves. Every player is in one group of each, comes to every station of both, and nothing of one half is in the
// other.
func TestTwoBlocksOfStationsHaveTheirOwnGroups(t *testing.T) {
	in := plantest.Tuesday(t)
	one := check.Plan(in)
	in.Plan.Deals = append(in.Plan.Deals, doc.Deal{ID: "d2", Way: deal.Mixed, Groups: 2})
	in.Plan.Blocks[3] = doc.Block{ID: "b4", Kind: doc.Stations, Title: "Second half", Circuit: &doc.Circuit{
		Stations: []doc.Station{
			{Drill: "wall", Edition: 1},
			{Drill: "feint", Edition: 3},
		}, Work: 300, Brief: 60, Deal: "d2",
	}}
	in.Plan.Name()
	if err := in.DealOut(); err != nil {
		t.Fatal(err)
	}
	if err := in.Plan.Check(); err != nil {
		t.Fatal(err)
	}
	pic := check.Plan(in)
	if len(pic.Circuits) != 2 || len(pic.Stations) != 5 || len(pic.Groups) != 5 || len(pic.Rounds) != 5 ||
		len(pic.Ledger) != 12 {
		t.Fatalf(
			"%d circuits, %d stations, %d groups, %d rounds, %d players",
			len(pic.Circuits),
			len(pic.Stations),
			len(pic.Groups),
			len(pic.Rounds),
			len(pic.Ledger),
		)
	}
	second := pic.RoundsOf(pic.Circuits[1])
	if from := pic.Blocks[3].From; second[0].From != from+time.Minute || second[1].To != pic.Blocks[3].To ||
		second[0].To-second[0].From != 5*time.Minute {
		t.Errorf("the second half begins at %v: %+v", from, second)
	}
	seen := map[string]map[int]bool{} // the stations each player came to
	shapes := map[string]bool{}
	for _, g := range pic.Groups {
		shapes[g.Shape.Key] = true
		for r, s := range g.Route {
			half := pic.Circuits[0]
			if r > 2 {
				half = pic.Circuits[1]
			}
			if mine := half.Has(g); mine == (s == work.NotIn) {
				t.Errorf("%s of deal %s in round %d: %d", g.Shape.Name, g.Deal, r+1, s)
			}
			for _, p := range g.Players {
				if seen[p.ID] == nil {
					seen[p.ID] = map[int]bool{}
				}
				if s >= 0 {
					seen[p.ID][s] = true
				}
			}
		}
	}
	for id, stations := range seen {
		if len(stations) != 5 {
			t.Errorf("%s comes to %d of 5 stations", id, len(stations))
		}
	}
	if len(shapes) != 5 || pic.Stations[3].Spot != pic.Stations[0].Spot && !pic.Stations[3].Fits {
		t.Errorf(
			"%d shapes for 5 groups; the first station of the second half stands at %+v",
			len(shapes),
			pic.Stations[3].Spot,
		)
	}
	if pic.Reps <= one.Reps {
		t.Errorf("two halves of stations give %.0f tries, one gave %.0f", pic.Reps, one.Reps)
	}
	// What is edited in one half leaves the other as it is.
	mended := in
	if err := mended.Edit(edit.Work{Block: "b4", For: 240}, edit.Groups{Deal: "d2", Count: 3}, edit.Leader{Station: pic.Stations[4].ID, Leader: "kofi"}); err != nil {
		t.Fatal(err)
	}
	after := check.Plan(mended)
	if after.Rounds[0] != pic.Rounds[0] || after.Circuits[0].Rotation != pic.Circuits[0].Rotation ||
		len(after.GroupsOf(after.Circuits[1])) != 3 ||
		after.Stations[4].Leader == nil {
		t.Errorf("an edit of the second half: %+v", after.Circuits)
	}
}
