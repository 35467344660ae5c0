package plan

import (
	"fmt"
	"math"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
)

// Happens is something that comes between a plan and the day. Only the fields its kind names count.
type Happens struct {
	Kind    HappensKind
	Player  coach.Player // absent, late, hurt, guest
	Leader  string       // gone
	At      time.Duration
	No      string // hurt: what must not be done; empty: sits out
	Station int    // lost, counted from 0
	Minutes int    // time lost
	Floor   floor.Floor
	Where   string // moved: the place's name
}

// HappensKind says what happens.
type HappensKind string

const (
	Absent HappensKind = "absent"
	Late   HappensKind = "late" // until At
	Hurt   HappensKind = "hurt" // must not do No today
	Guest  HappensKind = "guest"
	Gone   HappensKind = "gone" // a leader, from At on
	Lost   HappensKind = "lost" // a station
	Time   HappensKind = "time" // Minutes less
	Moved  HappensKind = "moved"
)

// WhatIf fits the plan to what happens: the groups with the fewest moves, the stations, leaders and rounds to what is left. It returns
// the input as it then is, its plan included. What still does not hold is found by working it out.
func WhatIf(in Input, what []Happens) (Input, error) {
	p := in.Plan.clone()
	in.Players, in.Leaders = slices.Clone(in.Players), slices.Clone(in.Leaders)
	there := map[string]There{}
	for id, t := range in.There {
		there[id] = t
	}
	in.There = there
	refit, shorten := false, false
	var left []string
	for _, h := range what {
		switch h.Kind {
		case Absent:
			in.Players = slices.DeleteFunc(in.Players, func(o coach.Player) bool { return o.ID == h.Player.ID })
			refit = true
		case Late:
			t := there[h.Player.ID]
			t.From = h.At
			there[h.Player.ID] = t
		case Hurt:
			if h.No == "" {
				in.Players = slices.DeleteFunc(in.Players, func(o coach.Player) bool { return o.ID == h.Player.ID })
				refit = true
				continue
			}
			t := there[h.Player.ID]
			t.No = h.No
			there[h.Player.ID] = t
		case Guest:
			in.Players = append(in.Players, h.Player)
			refit = true
		case Gone:
			for i := range in.Leaders {
				if in.Leaders[i].ID == h.Leader {
					in.Leaders[i].Until = max(h.At, time.Second)
					left = append(left, h.Leader)
				}
			}
		case Lost:
			if h.Station < 0 || h.Station >= len(p.Stations) {
				return in, input("station", "That station is no longer in the plan.")
			}
			p.Stations = slices.Delete(p.Stations, h.Station, h.Station+1)
			if p.Groups > len(p.Stations) && len(p.Stations) > 0 {
				in.fewer(&p)
			}
			refit, shorten = true, true
		case Time:
			in.Booked -= time.Duration(h.Minutes) * time.Minute
			shorten = true
		case Moved:
			in.Floor = h.Floor
			for i := range p.Stations {
				p.Stations[i].Spot = nil
			}
			in.Plan = p
			for len(p.Stations) > 1 && !fitsFloor(in) { // the last that finds no place goes
				p.Stations = p.Stations[:len(p.Stations)-1]
				if p.Groups > len(p.Stations) {
					in.fewer(&p)
				}
				in.Plan = p
				refit, shorten = true, true
			}
		}
	}
	if len(in.Players) < p.Groups*2 && len(in.Players) > 0 { // nobody practises alone if it can be helped
		for p.Groups > 1 && len(in.Players) < p.Groups*2 {
			p.Groups--
		}
		refit = true
	}
	in.Plan = p
	if refit {
		if err := p.Redeal(in); err != nil {
			return in, err
		}
		in.Plan = p
	}
	in.games()
	if shorten {
		in.fit()
	}
	in.lead(left)
	return in, nil
}

// fewer makes one group less: a station that is to be shared by two rather, where it has room, is the coach's own choice.
func (in Input) fewer(p *Plan) {
	p.Groups = max(1, len(p.Stations))
	if p.Rounds > len(p.Stations) {
		p.Rounds = 0
	}
}

func fitsFloor(in Input) bool {
	in.Running = true
	return !slices.ContainsFunc(Work(in).Stations, func(s StationAt) bool { return !s.Fits })
}

// lead gives the places of those who leave to who stays: every station that asks for somebody has one who may, if that can be, and as few as
// possible change places. A coach may take the leaver's place and a helper the coach's. Where leaders go with groups, a group is a place.
func (in *Input) lead(left []string) {
	if !slices.ContainsFunc(left, in.Plan.leads) {
		return
	}
	work := *in
	work.Running = true
	pic := Work(work)
	var places []leaderPlace
	if in.Plan.Move {
		for g := range in.Plan.With {
			p := leaderPlace{who: &in.Plan.With[g]}
			if g < len(pic.Groups) {
				for _, s := range pic.Groups[g].Route {
					if s != rotate.Rest {
						p.needs = append(p.needs, pic.Stations[s].Drill.Leader)
					}
				}
			}
			places = append(places, p)
		}
	} else {
		for i := range in.Plan.Stations {
			places = append(places, leaderPlace{who: &in.Plan.Stations[i].Leader, needs: []coach.Leader{pic.Stations[i].Drill.Leader}})
		}
	}
	leaders := in.Leaders[:min(len(in.Leaders), 12)]
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
				if o, known := next[to]; !known || cost < o.cost || cost == o.cost && slices.Compare(append(slices.Clone(w.at), l), o.at) > 0 {
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

// cost of a leader at a place, −1 for nobody: nobody where one is asked for weighs most, then one who may not or who leaves, then a change.
func (pic *Picture) cost(p leaderPlace, leaders []Leader, l int) (cost int) {
	for _, need := range p.needs {
		switch {
		case need == coach.SelfRun || need == "":
		case l < 0 || leaders[l].Until > 0 && leaders[l].Until <= time.Second:
			cost += 1000
		case !need.Enough(leaders[l].Role):
			cost += 600
		case !pic.covers(leaders[l]):
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

// leads reports whether somebody stands at a station or goes with a group.
func (p Plan) leads(who string) bool {
	return p.Move && slices.Contains(p.With, who) || !p.Move && slices.ContainsFunc(p.Stations, func(s Station) bool { return s.Leader == who })
}

// games fits the games to the number there is.
func (in *Input) games() {
	n := len(in.Players)
	for i := range in.Plan.Blocks {
		b := &in.Plan.Blocks[i]
		if b.Game == nil || b.Game.Areas*(b.Game.On()+b.Game.Reserves)+b.Game.More == n {
			continue
		}
		if games := rotate.Games(n, in.Floor.Inside().Length, in.Floor.Inside().Width, max(1, b.Game.A-b.Game.B)); len(games) > 0 {
			g := games[0]
			b.Game, b.Note = &g, upper(g.String())
		}
	}
}

// fit makes a plan that is too long fit, by what gives first; the coach sees it before taking it.
func (in *Input) fit() {
	for range 3 {
		work := *in
		work.Running = true
		pic := Work(work)
		over := pic.Total - in.Booked
		if over <= 0 {
			return
		}
		offers := pic.Offers(over)
		if len(offers) == 0 {
			return // what it takes is the coach's to say: the finding names it
		}
		for _, e := range offers[0].Edits {
			if next, _, err := in.Plan.Apply(e); err == nil {
				in.Plan = next
			}
		}
	}
}

// Words says what happens, in a line.
func (h Happens) Words(start time.Time) string {
	switch h.Kind {
	case Absent:
		return h.Player.Name + " is not there"
	case Late:
		return h.Player.Name + " comes at " + start.Add(h.At).Format("15:04")
	case Hurt:
		if h.No == "" {
			return h.Player.Name + " sits out"
		}
		return h.Player.Name + ": no " + h.No + " today"
	case Guest:
		return h.Player.Name + " comes as a guest"
	case Gone:
		return "a leader leaves at " + start.Add(h.At).Format("15:04")
	case Lost:
		return fmt.Sprintf("station %d is lost", h.Station+1)
	case Time:
		return say.Count(h.Minutes, "minute") + say.Verb(h.Minutes, " is", " are") + " lost"
	case Moved:
		return "moved to " + h.Where
	}
	return ""
}
