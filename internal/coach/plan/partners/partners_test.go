package partners_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/partners"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/target"
)

// Nine adults, an odd number on purpose. Common practice, no source: about half a minute a pairing, eight play and one
// rests.
func TestNineInTheRingAllMeetAndRestOnce(t *testing.T) {
	turns := partners.Turns(
		plantest.Adults(9),
		doc.Block{Kind: doc.Look, Minutes: 5, Turn: 33, Way: rotate.MoveOn},
		10*time.Minute,
	)
	if len(turns) != 9 || turns[0].At != 10*time.Minute || turns[8].At != 10*time.Minute+8*33*time.Second {
		t.Fatalf("%d turns, the last at %v", len(turns), turns[len(turns)-1].At)
	}
	met, rests := map[string]int{}, map[string]int{}
	for _, turn := range turns {
		if len(turn.Teams) != 4 || len(turn.Rests) != 1 {
			t.Errorf("%d play in pairs, %d rest", 2*len(turn.Teams), len(turn.Rests))
		}
		rests[turn.Rests[0].ID]++
		for _, pair := range turn.Teams {
			met[min(pair[0].ID, pair[1].ID)+max(pair[0].ID, pair[1].ID)]++
		}
	}
	if len(met) != 36 || len(rests) != 9 {
		t.Errorf("%d of 36 pairs, %d of 9 rested", len(met), len(rests))
	}
}

// Four pairs of the players' own choice on two courts: they stay together, and all play as often, give or take one; of
// nine the one without a partner gets one in turn.
func TestPairsOfTheirOwnChoiceOnFewCourts(t *testing.T) {
	for _, n := range []int{8, 9} {
		in := plantest.Adults(n)
		own := doc.Pairing{Courts: 2}
		for i := 0; i < 8; i += 2 {
			own.Chosen = append(own.Chosen, [2]string{in.Players[i].ID, in.Players[i+1].ID})
		}
		played := map[string]int{}
		turns := partners.Turns(in, doc.Block{Kind: doc.Pairs, Minutes: 10, Turn: 60, Way: rotate.ByChoice, Pairing: &own}, 0)
		for _, turn := range turns {
			if len(turn.Teams) != 2 || len(turn.Rests) != n-4 {
				t.Fatalf("of %d %d pairs play and %d rest", n, len(turn.Teams), len(turn.Rests))
			}
			for _, pair := range turn.Teams {
				together := slices.ContainsFunc(own.Chosen, func(c [2]string) bool {
					return c == [2]string{pair[0].ID, pair[1].ID} || c == [2]string{pair[1].ID, pair[0].ID}
				})
				if !together {
					t.Errorf("%s plays with %s", pair[0].ID, pair[1].ID)
				}
				played[pair[0].ID]++
			}
		}
		if n == 8 && (slices.Max(slices.Collect(maps.Values(played)))-slices.Min(slices.Collect(maps.Values(played))) > 1 || len(played) != 4) {
			t.Errorf("turns of the four pairs: %v", played)
		}
	}
}

func TestPointsAreThePlayersOwnAndALadderIsThePairs(t *testing.T) {
	in := plantest.Adults(4)
	b := doc.Block{
		Kind:    doc.Pairs,
		Minutes: 3,
		Turn:    60,
		Way:     rotate.OneStays,
		Scores:  []doc.Made{{Pairs: [][2]int{{5, 3}, {2, 7}}}, {Pairs: [][2]int{{1, 4}}}},
	}
	turns := partners.Turns(in, b, 0)
	total, games := 0, 0
	for _, s := range partners.Standings(turns) {
		total += s.Points
		games += s.Games
	}
	if total != 5+3+2+7+1+4 || games != 6 {
		t.Errorf("%d points in %d games", total, games)
	}
	if top := partners.Standings(turns)[0]; top.Points < 7 {
		t.Errorf("on top stands %s with %d", top.Player.Name, top.Points)
	}
	// A rally ladder: with a new partner a pair carries on from the higher of the two scores.
	b.Scores = []doc.Made{{Pairs: [][2]int{{4, 4}, {7, 7}}}}
	turns = partners.Turns(in, b, 0)
	for i, start := range turns[1].Start {
		if start != 7 {
			t.Errorf("pair %d of turn 2 carries on from %d; each has one who made 7", i+1, start)
		}
	}
	if turns[0].Start[0] != 0 || !slices.Equal(turns[1].Scores[0], []int{-1, -1}) {
		t.Errorf("turn 1 begins at %v, turn 2 has %v", turns[0].Start, turns[1].Scores)
	}
}

// A score stays with who made it: when somebody is absent afterwards the pairs are others, and no child has another's
// points.
func TestScoresStayWithThePlayers(t *testing.T) {
	in := plantest.Adults(6)
	b := doc.Block{Kind: doc.Pairs, Minutes: 6, Turn: 60, Way: rotate.OneStays}
	b.ID, b.Title = "b1", "Pairs"
	p := doc.Plan{Deals: []doc.Deal{{ID: "d1", Way: "near", Groups: 1}}, Blocks: []doc.Block{b}}
	for i, team := range partners.Turns(in, b, 0)[0].Teams {
		for k, who := range team {
			next, _, err := edit.Apply(p, edit.Score{Block: "b1", Player: who.ID, Points: 10*i + k})
			if err != nil {
				t.Fatal(err)
			}
			p = next
		}
	}
	points := func(in work.Input) map[string]int {
		out := map[string]int{}
		for _, s := range partners.Standings(partners.Turns(in, p.Blocks[0], 0)) {
			if s.Games > 0 {
				out[s.Player.ID] = s.Points
			}
		}
		return out
	}
	before := points(in)
	for gone := range in.Players {
		rest := in
		rest.Players = slices.Delete(slices.Clone(in.Players), gone, gone+1)
		for id, n := range points(rest) {
			if before[id] != n {
				t.Errorf("without %s, %s has %d points instead of %d", in.Players[gone].Name, id, n, before[id])
			}
		}
	}
	old, err := json.Marshal(
		doc.Plan{
			Blocks: []doc.Block{{Scores: []doc.Made{{Pairs: [][2]int{{3, 5}}}, {}, {By: map[string]int{"p1": 4}}}}},
		},
	)
	var read doc.Plan
	if err != nil || json.Unmarshal(old, &read) != nil ||
		fmt.Sprint(read.Blocks[0].Scores) != "[{map[] [[3 5]]} {map[] []} {map[p1:4] []}]" {
		t.Errorf("read %v from %s, %v", read.Blocks, old, err)
	}
}

func TestWinnersStayAsFarAsThereAreScores(t *testing.T) {
	in := plantest.Adults(5)
	b := doc.Block{Kind: doc.Pairs, Minutes: 10, Turn: 60, Way: rotate.WinnerStays}
	if got := len(partners.Turns(in, b, 0)); got != 1 {
		t.Errorf("%d turns are known before anybody has won", got)
	}
	b.Scores = []doc.Made{{Pairs: [][2]int{{7, 2}, {3, 3}}}}
	if got := len(partners.Turns(in, b, 0)); got != 1 {
		t.Errorf("%d turns are known while a pair is level", got)
	}
	b.Scores = []doc.Made{{Pairs: [][2]int{{7, 2}, {3, 5}}}}
	turns := partners.Turns(in, b, 0)
	if len(turns) != 2 {
		t.Fatalf("%d turns", len(turns))
	}
	on := map[string]bool{}
	for _, pair := range turns[1].Teams {
		on[pair[0].ID], on[pair[1].ID] = true, true
	}
	if !on[turns[0].Teams[0][0].ID] || !on[turns[0].Rests[0].ID] || on[turns[1].Rests[0].ID] {
		t.Errorf("after %v comes %v", turns[0], turns[1])
	}
}

func TestSmallTeamsChangeWithoutRepeats(t *testing.T) {
	turns := partners.Turns(plantest.Adults(9), doc.Block{Kind: doc.Pairs, Minutes: 4, Turn: 60, Team: 3}, 0)
	met := map[string]int{}
	for _, turn := range turns {
		if len(turn.Teams) != 3 {
			t.Errorf("%d teams", len(turn.Teams))
		}
		for _, team := range turn.Teams {
			for i, a := range team {
				for _, b := range team[:i] {
					met[min(a.ID, b.ID)+max(a.ID, b.ID)]++
				}
			}
		}
	}
	for pair, n := range met {
		if n > 1 {
			t.Errorf("%s are together %d times in 4 turns of 3 × 3", pair, n)
		}
	}
	for n := range 2 {
		if got := partners.Turns(plantest.Adults(n), doc.Block{Kind: doc.Pairs, Minutes: 4, Turn: 60}, 0); got != nil {
			t.Errorf("%d players: %v", n, got)
		}
	}
}

// A rally ladder's pair has one score together: nobody wins, so that they move on instead of waiting for a winner who
// never comes.
func TestARallyLadderHasNoWinnerToStay(t *testing.T) {
	in := plantest.Adults(8)
	in.Drills = map[string]coach.Drill{
		"rally": {
			ID:     "rally",
			Name:   "Rally",
			Places: 4,
			Least:  2,
			Most:   20,
			Target: coach.Target{Kind: coach.RallyLadder, N: 7},
		},
	}
	in.Plan = doc.Plan{
		Deals: []doc.Deal{{ID: "d1", Groups: 1}},
		Blocks: []doc.Block{
			{
				Kind:    doc.Pairs,
				Title:   "Pairs",
				Minutes: 8,
				Turn:    60,
				Way:     rotate.WinnerStays,
				Drill:   "rally",
				Edition: 1,
			},
		},
	}
	in.Booked = time.Hour
	b := check.Plan(in).Blocks[0]
	if turns := partners.Turns(in, b.Block, 0); b.Way != rotate.MoveOn || len(turns) != 8 {
		t.Errorf("%s: %d turns of 8", b.Way, len(turns))
	}
	in.Drills["rally"] = coach.Drill{
		ID:     "rally",
		Name:   "Points",
		Places: 4,
		Least:  2,
		Most:   20,
		Target: coach.Target{Kind: coach.Race, N: 7},
	}
	if b := check.Plan(in).Blocks[0]; b.Way != rotate.WinnerStays {
		t.Errorf("where points are played the winner %s", b.Way)
	}
}

// What a coach chooses from: by level near ones meet, those who chose each other stay together, three take turns at
// feeding, and on few courts everybody rests alike.
func TestPartnersOfEveryKind(t *testing.T) {
	in := plantest.Adults(9)
	for i := range in.Players {
		in.Players[i].Level = float64(i)
	}
	turns := func(b doc.Block) []partners.Turn {
		b.Kind, b.Minutes, b.Turn = doc.Pairs, 9, 60
		out := partners.Turns(in, b, 0)
		if len(out) != 9 {
			t.Fatalf("%s: %d turns", b.Way, len(out))
		}
		return out
	}
	for _, turn := range turns(doc.Block{Way: rotate.ByLevel}) {
		for _, pair := range turn.Teams {
			if gap := pair[0].Level - pair[1].Level; gap > 4 || gap < -4 {
				t.Errorf("by level: %v against %v", pair[0].Level, pair[1].Level)
			}
		}
	}
	rests := map[string]int{}
	for _, turn := range turns(doc.Block{Way: rotate.Fewest, Pairing: &doc.Pairing{Courts: 3}}) {
		if len(turn.Teams) != 3 || len(turn.Rests) != 3 {
			t.Errorf("three courts: %d play, %d rest", len(turn.Teams), len(turn.Rests))
		}
		for _, p := range turn.Rests {
			rests[p.ID]++
		}
	}
	for id, n := range rests {
		if n != 3 {
			t.Errorf("three courts of nine: %s rests %d times", id, n)
		}
	}
	own := doc.Pairing{}
	own.Together("p0", "p5")
	own.Together("p1", "p5") // the newer word
	own.Together("p2", "gone")
	for _, turn := range turns(doc.Block{Way: rotate.ByChoice, Pairing: &own}) {
		together := slices.ContainsFunc(turn.Teams, func(pair []coach.Player) bool {
			return pair[0].ID == "p1" && pair[1].ID == "p5"
		})
		if !together || len(turn.Teams) != 4 {
			t.Errorf("chosen: %v", turn.Teams)
		}
	}
	b := doc.Block{Way: rotate.LoserFeeds, Scores: []doc.Made{{}}}
	b.Scores[0].Set("p3", 4)
	threes := turns(b)
	if len(threes[0].Teams) != 3 || len(threes[0].Teams[0]) != 3 {
		t.Errorf("threes: %v", threes[0].Teams)
	}
	for _, s := range partners.Standings(threes) {
		if (s.Points == 4) != (s.Player.ID == "p3") {
			t.Errorf("%s has %d points", s.Player.ID, s.Points)
		}
	}
}

// After 7 : 3 the odds of the two are 2.25² = 5.06 (7½ of 11 points against 3½ of 11, Jeffreys), so that the stronger
// wins 83.5 points in 100, and to 7 the weaker's even goal is 1. Nobody is asked for another goal before a turn.
func TestTheEvenPairFromWhatTheyMade(t *testing.T) {
	in := plantest.Adults(2)
	b := doc.Block{Kind: doc.Pairs, Minutes: 2, Turn: 60, Way: rotate.OneStays, Pairing: &doc.Pairing{To: 7}}
	b.Scores = []doc.Made{{}}
	b.Scores[0].Set("p0", 7)
	b.Scores[0].Set("p1", 3)
	turns := partners.Turns(in, b, 0)
	if turns[0].Even[0] != [2]int{} {
		t.Errorf("before the first turn: %v", turns[0].Even)
	}
	even := turns[1].Even[0]
	if turns[1].Teams[0][0].ID != "p0" {
		even = [2]int{even[1], even[0]}
	}
	odds := (7.5 / 3.5) * (7.5 / 3.5)
	best, off := 0, 1.0
	for n := 1; n <= 7; n++ {
		if d := math.Abs(target.Race{To: 7, Against: n}.Wins(odds/(1+odds)) - 0.5); d < off {
			best, off = n, d
		}
	}
	if even != [2]int{7, best} {
		t.Errorf("after 7 : 3 even at %v, want 7 : %d", even, best)
	}
}
