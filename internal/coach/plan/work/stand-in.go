package work

import (
	"math"
	"slices"
	"time"

	"gruppo/internal/coach"
)

// StandIn gives the places of those who leave to who stays: every station that asks for somebody has one who may, if
// that can be, and as few as possible change places. A coach may take the leaver's place and a helper the coach's.
// Where leaders go with groups, a group is a place.
func (in *Input) StandIn(left []string) {
	if !slices.ContainsFunc(left, in.Plan.Leads) {
		return
	}
	running := *in
	running.Running = true
	pic := Out(running)
	for i, c := range in.Plan.Circuits() {
		var places []leaderPlace
		if c.Move {
			for g := range c.With {
				places = append(places, leaderPlace{who: &c.With[g]})
			}
			for _, g := range pic.GroupsOf(pic.Circuits[i]) {
				if g.Number < len(places) {
					places[g.Number].needs = pic.asks(pic.Circuits[i], g)
				}
			}
		} else {
			for j, s := range pic.StationsOf(pic.Circuits[i]) {
				places = append(places, leaderPlace{who: &c.Stations[j].Leader, needs: []coach.Leader{s.Drill.Leader}})
			}
		}
		pic.standIn(in.Leaders[:min(len(in.Leaders), 12)], places)
	}
}

// asks are what the drills of a group's stations ask for.
func (pic *Picture) asks(c Circuit, g Group) (out []coach.Leader) {
	for _, r := range c.At {
		if s := g.Route[r]; s >= 0 {
			out = append(out, pic.Stations[s].Drill.Leader)
		}
	}
	return out
}

// standIn finds who goes where at the least cost.
func (pic *Picture) standIn(leaders []Leader, places []leaderPlace) {
	// best[mask] is the least cost of the places so far with the leaders of the mask at them.
	type way struct {
		cost int
		at   []int // a leader for each place, or −1
	}
	best := map[int]way{0: {}}
	for _, place := range places {
		next := map[int]way{}
		for mask, w := range best {
			for l := -1; l < len(leaders); l++ {
				to := mask
				if l >= 0 {
					if mask&(1<<l) != 0 {
						continue
					}
					to |= 1 << l
				}
				cost := w.cost + pic.cost(place, leaders, l)
				if o, known := next[to]; !known || cost < o.cost ||
					cost == o.cost && slices.Compare(append(slices.Clone(w.at), l), o.at) > 0 {
					next[to] = way{cost, append(slices.Clone(w.at), l)}
				}
			}
		}
		best = next
	}
	least := way{cost: math.MaxInt}
	for _, w := range best {
		if w.cost < least.cost || w.cost == least.cost && slices.Compare(w.at, least.at) > 0 {
			least = w
		}
	}
	for i, l := range least.at {
		if *places[i].who = ""; l >= 0 {
			*places[i].who = leaders[l].ID
		}
	}
}

// leaderPlace is a station, or a group that a leader goes with: who is there, and what its drills ask for.
type leaderPlace struct {
	who   *string
	needs []coach.Leader
}

// cost of a leader at a place, −1 for nobody: nobody where one is asked for weighs most, then one who may not or who
// leaves, then a change.
func (pic *Picture) cost(p leaderPlace, leaders []Leader, l int) (cost int) {
	for _, need := range p.needs {
		switch {
		case need == coach.SelfRun || need == "":
		case l < 0 || leaders[l].Until > 0 && leaders[l].Until <= time.Second:
			cost += 1000
		case !need.Enough(leaders[l].Role):
			cost += 600
		case !pic.Covers(leaders[l]):
			cost += 400
		}
	}
	switch {
	case l < 0 && *p.who != "":
		return cost + 10
	case l >= 0 && leaders[l].Until > 0 && leaders[l].Until <= time.Second:
		return cost + 50 // gone before it begins
	case l >= 0 && leaders[l].ID != *p.who:
		return cost + 11
	}
	return cost
}
