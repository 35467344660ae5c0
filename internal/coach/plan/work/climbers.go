package work

import (
	"cmp"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
)

// Climber is who goes up a ladder together: a group of the plan's first deal by its number, or everybody where none is
// dealt; else, by the first of them, a pair or a player.
type Climber struct {
	Unit    int
	Lead    string // the id of the first, where it is no group
	Shape   doc.Shape
	Players []coach.Player
}

// Climbers are those who go up a block's ladder together: groups, pairs near in level, the strongest first, or each
// player.
func (in Input) Climbers(b Span) (out []Climber) {
	var players []coach.Player
	for _, p := range in.Players {
		if _, aside := b.Side[p.ID]; !aside {
			players = append(players, p)
		}
	}
	for _, together := range in.together(b.Climb, players) {
		out = append(out, Climber{Lead: together[0].ID, Players: together})
	}
	if b.Climb != doc.ByGroup {
		return out
	}
	var pic Picture
	pic.group(in)
	for _, g := range pic.Groups {
		if g.Deal != pic.Groups[0].Deal {
			continue
		}
		c := Climber{Unit: g.Number, Shape: g.Shape}
		for _, p := range g.Players {
			if _, aside := b.Side[p.ID]; !aside {
				c.Players = append(c.Players, p)
			}
		}
		out = append(out, c)
	}
	if len(out) == 0 {
		out = []Climber{{Shape: doc.Shape{Key: "circle", Name: "Everybody"}, Players: players}}
	}
	return out
}

// together are the players who climb as one; none where groups do.
func (in Input) together(climb doc.Climb, players []coach.Player) (out [][]coach.Player) {
	switch climb {
	case doc.ByGroup:
		return nil
	case doc.ByPlayer:
		for _, p := range players {
			out = append(out, []coach.Player{p})
		}
		return out
	}
	slices.SortStableFunc(players, func(x, y coach.Player) int {
		return cmp.Or(cmp.Compare(y.Level, x.Level), cmp.Compare(x.Name, y.Name))
	})
	gap := func(i, j int) float64 { return players[i].Level - players[j].Level }
	for _, t := range rotate.OnCourts(len(players), len(players)/2, min(1, len(players)), 0, gap) {
		for _, pair := range t.Pairs {
			out = append(out, []coach.Player{players[pair[0]], players[pair[1]]})
		}
		for _, i := range t.Rests {
			out = append(out, players[i:i+1])
		}
	}
	return out
}
