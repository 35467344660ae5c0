package work_test

import (
	"fmt"
	"math"
	"math/bits"
	"slices"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
)

func playing(t *testing.T, players int, g rotate.Game, teams *doc.Teams) (work.Input, *work.Match) {
	in := plantest.Hall(players)
	in.Plan = doc.Plan{Deals: in.Plan.Deals, Blocks: []doc.Block{{ID: "b1", Kind: doc.Game, Title: "Game", Minutes: 24, Game: &g, Teams: teams}}}
	for i := range in.Players {
		in.Players[i].With, in.Players[i].Apart = nil, nil
		in.Players[i].Level = math.Mod(float64(i)*1.7, 4) + 1
	}
	pic := work.Out(in)
	return in, in.Match(pic.Blocks[0])
}

// Of all ways to split up to ten players into two sides, none is more even than the one that is dealt by more than a
// hair; everybody is on one side.
func TestSidesAreAsEvenAsCanBe(t *testing.T) {
	for n := 4; n <= 10; n++ {
		in, m := playing(t, n, rotate.Game{Areas: 1, A: n / 2, B: n - n/2}, nil)
		best := math.Inf(1)
		for mask := range 1 << n {
			if bits.OnesCount(uint(mask)) != n/2 {
				continue
			}
			var mean [2]float64
			for i, p := range in.Players {
				if mask>>i&1 == 1 {
					mean[0] += p.Level / float64(n/2)
				} else {
					mean[1] += p.Level / float64(n-n/2)
				}
			}
			best = min(best, math.Abs(mean[0]-mean[1]))
		}
		if gap := math.Abs(m.Sides[0].Level - m.Sides[1].Level); gap > best+0.35 {
			t.Errorf("%d players: the sides are %.3f apart, the best are %.3f", n, gap, best)
		}
		if len(m.Sides[0].Players) != n/2 || len(m.Sides[1].Players) != n-n/2 {
			t.Errorf("%d players: %d against %d", n, len(m.Sides[0].Players), len(m.Sides[1].Players))
		}
	}
}

// However many come to whatever game: each is in one place, nobody is in none, and all of a side play as long as the
// others, to the second where they swap freely and to one stint where they swap at a signal.
func TestAllPlayAlike(t *testing.T) {
	for _, g := range []rotate.Game{
		{Areas: 1, A: 1, B: 1}, {Areas: 1, A: 3, B: 3, Reserves: 1}, {Areas: 2, A: 3, B: 2, Floaters: 1}, {Areas: 2, A: 4, B: 4, Walls: 2},
		{Areas: 1, A: 5, B: 5, Swap: 90}, {Areas: 4, A: 1, B: 1, More: 2}, {Areas: 1, A: 11, B: 11},
	} {
		for _, n := range []int{2, 3, 7, 14, 22, 60} {
			in, m := playing(t, n, g, nil)
			seen := map[string]int{}
			for _, s := range slices.Concat(m.Sides, m.Neutral) {
				for _, p := range s.Players {
					seen[p.ID]++
				}
				d := 24 * time.Minute
				least, most := d, time.Duration(0)
				for _, p := range s.Players {
					on := d - s.Rests(p.ID, 0, d)
					least, most = min(least, on), max(most, on)
				}
				apart := time.Second
				if g.Swap > 0 {
					apart = time.Duration(g.Swap) * time.Second
				}
				if len(s.Players) > 0 && most-least > apart {
					t.Errorf("%d in %v: side %d plays %v to %v", n, g, s.Number, least, most)
				}
				for i := 1; i < len(s.Stints); i++ { // nobody rests twice in a row where that can be helped
					for _, p := range s.Stints[i].Rest {
						if 2*len(s.Stints[i].Rest) <= len(s.Players) && slices.Contains(s.Stints[i-1].Rest, p) {
							t.Errorf("%d in %v: %d rests twice in a row", n, g, p)
						}
					}
				}
			}
			if len(seen) != n {
				t.Errorf("%d in %v: %d are in it", n, g, len(seen))
			}
			for id, k := range seen {
				if k != 1 {
					t.Errorf("%d in %v: %s is in %d places", n, g, id, k)
				}
			}
			var rests time.Duration // and the ledger says the same, for all together
			for _, r := range work.Out(in).Ledger {
				rests += r.Resting
			}
			var bench time.Duration
			for _, s := range m.Sides {
				for _, p := range s.Players {
					bench += s.Rests(p.ID, 0, 24*time.Minute)
				}
			}
			if (rests-bench).Abs() > time.Duration(n)*time.Second && len(work.Out(in).Ledger) == n {
				t.Errorf("%d in %v: the ledger rests %v, the sides %v", n, g, rests, bench)
			}
		}
	}
}

// A player whom the coach puts on a side is there, and the sides stay alike in number; dealt again they are others.
func TestTheCoachChoosesSides(t *testing.T) {
	g := rotate.Game{Areas: 1, A: 4, B: 4}
	_, before := playing(t, 8, g, nil)
	who := before.Sides[0].Players[0].ID
	_, after := playing(t, 8, g, &doc.Teams{Put: map[string]int{who: 1}})
	if after.Of(who).Number != 1 || len(after.Sides[0].Players) != 4 {
		t.Errorf("put on the other side: %+v", after.Sides)
	}
	names := func(m *work.Match) string {
		var ids []string
		for _, p := range m.Sides[0].Players {
			ids = append(ids, p.ID)
		}
		slices.Sort(ids)
		return fmt.Sprint(ids)
	}
	others := false
	for seed := range uint64(4) {
		_, again := playing(t, 8, g, &doc.Teams{Seed: seed})
		others = others || names(again) != names(before)
	}
	if !others {
		t.Error("dealt again, the sides are always the same")
	}
	in, _ := playing(t, 6, g, nil) // three who are all to be kept apart
	for i := range 3 {
		for k := range 3 {
			if i != k {
				in.Players[i].Apart = append(in.Players[i].Apart, in.Players[k].ID)
			}
		}
	}
	if m := in.Match(work.Out(in).Blocks[0]); m == nil || m.Apart == "" || len(m.Sides[0].Players)+len(m.Sides[1].Players) != 6 {
		t.Errorf("two sides for three who are kept apart: %q, %v, %v", m.Apart, m.Sides[0].Players, m.Sides[1].Players)
	}
	if m := (work.Input{Players: []coach.Player{{ID: "a"}}}).Match(work.Span{Block: doc.Block{Kind: doc.Game, Game: &g}}); m != nil {
		t.Errorf("one player alone: %+v", m)
	}
}
