package work

import (
	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
)

// Group is players who move together.
type Group struct {
	Index   int
	Shape   doc.Shape
	Players []coach.Player
	Route   []int  // the station in each round, or rotate.Rest
	Stage   string // the name of the stage most of them are on
	Leader  *Leader
}

func (pic *Picture) group(in Input) {
	byID := map[string]coach.Player{}
	for _, p := range in.Players {
		byID[p.ID] = p
	}
	for g, ids := range in.Plan.Deal {
		if g >= doc.Most {
			break
		}
		gr := Group{Index: g, Shape: doc.Shapes[g]}
		for _, id := range ids {
			if p, coming := byID[id]; coming {
				gr.Players = append(gr.Players, p)
				delete(byID, id)
			}
		}
		gr.Stage = in.stageOf(gr.Players)
		if in.Plan.Move && g < len(in.Plan.With) {
			gr.Leader = in.Leader(in.Plan.With[g])
		}
		pic.Groups = append(pic.Groups, gr)
	}
	for _, p := range in.Players {
		if _, left := byID[p.ID]; left {
			pic.Undealt = append(pic.Undealt, p)
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
