package work

import (
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
)

// Group is players who move together.
type Group struct {
	Index   int // in the picture
	Deal    string
	Number  int // in its deal, from 0
	Shape   doc.Shape
	Players []coach.Player
	Route   []int  // the station in each round, rotate.Rest, or NotIn where the round is of stations that other groups come to
	Stage   string // the name of the stage most of them are on
}

// NotIn stands in a route for a round whose stations are for the groups of another deal.
const NotIn = rotate.Rest - 1

func (pic *Picture) group(in Input) {
	for _, d := range in.Plan.Deals {
		byID := map[string]coach.Player{}
		for _, p := range in.Players {
			byID[p.ID] = p
		}
		for n, ids := range d.Players[:min(len(d.Players), doc.Most)] {
			g := Group{Index: len(pic.Groups), Deal: d.ID, Number: n}
			g.Shape = doc.Shapes[g.Index%len(doc.Shapes)] // the groups of two deals look different too
			if n < len(d.Names) && d.Names[n] != "" {
				g.Shape.Name = d.Names[n]
			}
			for _, id := range ids {
				if p, coming := byID[id]; coming {
					g.Players = append(g.Players, p)
					delete(byID, id)
				}
			}
			g.Stage = in.stageOf(g.Players)
			pic.Groups = append(pic.Groups, g)
		}
		for _, p := range in.Players {
			if _, left := byID[p.ID]; left &&
				!slices.ContainsFunc(pic.Undealt, func(o coach.Player) bool { return o.ID == p.ID }) {
				pic.Undealt = append(pic.Undealt, p)
			}
		}
	}
}

// stageOf is the name of the stage most of the players are on; of two alike the lower.
func (in Input) stageOf(players []coach.Player) string {
	count := map[string]int{}
	best := ""
	for _, p := range players {
		count[p.Stage]++
	}
	for _, p := range players {
		if count[p.Stage] > count[best] {
			best = p.Stage
		}
	}
	return in.Stages[best]
}
