// Package whatif fits a plan to what comes between: somebody absent, late or hurt, a leader gone, time or a station
// lost, another place; or to another session altogether. And it says what is different then.
package whatif

import (
	"fmt"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
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
	Station string // lost: its id
	Number  int    // and as it is called, from 1
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

// Plan fits the plan to what happens: the groups with the fewest moves, the stations, leaders and rounds to what is
// left. It returns the input as it then is, its plan included. What still does not hold is found by working it out.
func Plan(in work.Input, what []Happens) (work.Input, error) {
	p := in.Plan.Clone()
	in.Players, in.Leaders = slices.Clone(in.Players), slices.Clone(in.Leaders)
	there := map[string]work.There{}
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
			_, c := p.Station(h.Station)
			if c == nil {
				return in, doc.Input("station", "That station is no longer in the plan.")
			}
			c.Stations = slices.DeleteFunc(c.Stations, func(s doc.Station) bool { return s.ID == h.Station })
			if p.DealOf(c).Groups > len(c.Stations) && len(c.Stations) > 0 {
				fewer(p, c)
			}
			refit, shorten = true, true
		case Time:
			in.Booked -= time.Duration(h.Minutes) * time.Minute
			shorten = true
		case Moved:
			in.Floor = h.Floor
			in.Plan = p
			for i, c := range p.Circuits() {
				for j := range c.Stations {
					c.Stations[j].Spot = nil
				}
				for len(c.Stations) > 1 && !fitsFloor(in, i) { // the last that finds no place goes
					c.Stations = c.Stations[:len(c.Stations)-1]
					if p.DealOf(c).Groups > len(c.Stations) {
						fewer(p, c)
					}
					refit, shorten = true, true
				}
			}
		}
	}
	for i := range p.Deals { // nobody practises alone if it can be helped
		if d := &p.Deals[i]; len(in.Players) > 0 && len(in.Players) < d.Groups*2 {
			d.Groups = max(1, len(in.Players)/2)
			refit = true
		}
	}
	in.Plan = p
	if refit {
		if err := in.Redeal(); err != nil {
			return in, err
		}
	}
	games(&in)
	if shorten {
		fit(&in)
	}
	in.StandIn(left)
	return in, nil
}

// fewer makes one group less: a station that is to be shared by two rather, where it has room, is the coach's own
// choice.
func fewer(p doc.Plan, c *doc.Circuit) {
	p.DealOf(c).Groups = max(1, len(c.Stations))
	if c.Rounds > len(c.Stations) {
		c.Rounds = 0
	}
}

func fitsFloor(in work.Input, circuit int) bool {
	in.Running = true
	pic := work.Out(in)
	return !slices.ContainsFunc(pic.StationsOf(pic.Circuits[circuit]), func(s work.StationAt) bool { return !s.Fits })
}

// games fits the games to the number there is.
func games(in *work.Input) {
	n := len(in.Players)
	for i := range in.Plan.Blocks {
		b := &in.Plan.Blocks[i]
		if b.Game == nil || b.Game.Players() == n {
			continue
		}
		if games := rotate.Games(n, in.Floor.Inside().Length, in.Floor.Inside().Width, max(1, b.Game.A-b.Game.B)); len(
			games,
		) > 0 {
			g := games[0]
			b.Game, b.Note = &g, say.Upper(g.String())
		}
	}
}

// fit makes a plan that is too long fit, by what gives first; the coach sees it before taking it.
func fit(in *work.Input) {
	for range 3 {
		running := *in
		running.Running = true
		pic := work.Out(running)
		over := pic.Total - in.Booked
		if over <= 0 {
			return
		}
		offers := check.Offers(&pic, over)
		if len(offers) == 0 {
			return // what it takes is the coach's to say: the finding names it
		}
		for _, e := range offers[0].Edits {
			if next, _, err := edit.Apply(in.Plan, e); err == nil {
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
		return fmt.Sprintf("station %d is lost", h.Number)
	case Time:
		return say.Count(h.Minutes, "minute") + say.Verb(h.Minutes, " is", " are") + " lost"
	case Moved:
		return "moved to " + h.Where
	}
	return ""
}
