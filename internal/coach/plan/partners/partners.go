// Package partners works out the turns of a block in which partners change, and what everybody made in them.
package partners

import (
	"cmp"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
)

// PairTurn is one turn of a partner block: who is together, who rests, and what was made.
type Turn struct {
	At     time.Duration
	Teams  [][]coach.Player // pairs, or teams of more
	Rests  []coach.Player
	Scores [][2]int // of each pair, both players' points; −1: nothing yet
	Start  []int    // for a ladder: from where each pair carries on, the higher of what the two made last
}

// Standing is a player's points over a partner block.
type Standing struct {
	Player      coach.Player
	Points      int
	Games, Rest int
	Best        int
}

// PairTurns lists a partner block's turns as far as they are known: where the winner stays, up to the first turn
// without scores.
func Turns(in work.Input, b doc.Block, from time.Duration) []Turn {
	n := len(in.Players)
	if n < 2 || b.Turn <= 0 {
		return nil
	}
	players := slices.Clone(in.Players)
	slices.SortFunc(
		players,
		func(x, y coach.Player) int { return cmp.Or(cmp.Compare(x.Name, y.Name), cmp.Compare(x.ID, y.ID)) },
	)
	count := max(1, min(doc.MostTurns, b.Minutes*60/b.Turn))
	var turns []rotate.Turn
	var teams [][][]int
	switch {
	case b.Team > 2:
		teams = deal.Weeks(n, max(1, n/b.Team), count, in.Plan.Seed)
	case b.Way == rotate.WinnerStays:
		turns = winners(players, b, count)
	default:
		met := make([][]float64, n)
		for i, x := range players {
			met[i] = make([]float64, n)
			for j, y := range players[:i] {
				met[i][j] = in.Met[[2]string{min(x.ID, y.ID), max(x.ID, y.ID)}]
			}
		}
		turns = rotate.Partners(b.Way, n, count, met, in.Plan.Seed)
	}
	last := map[string]int{} // what each made last, for a ladder
	var out []Turn
	for t := range max(len(turns), len(teams)) {
		pt := Turn{At: from + time.Duration(t*b.Turn)*time.Second}
		if teams != nil {
			for _, g := range teams[t] {
				var team []coach.Player
				for _, i := range g {
					team = append(team, players[i])
				}
				pt.Teams = append(pt.Teams, team)
			}
		} else {
			for _, p := range turns[t].Pairs {
				pt.Teams = append(pt.Teams, []coach.Player{players[p[0]], players[p[1]]})
			}
			for _, i := range turns[t].Rests {
				pt.Rests = append(pt.Rests, players[i])
			}
		}
		for i, team := range pt.Teams {
			score, start := [2]int{-1, -1}, 0
			if t < len(b.Scores) {
				score = b.Scores[t].Of(i, team)
			}
			for _, p := range team {
				start = max(start, last[p.ID])
			}
			for _, p := range team {
				if made := max(score[0], score[1]); made >= 0 {
					last[p.ID] = made
				} else {
					last[p.ID] = max(last[p.ID], start)
				}
			}
			pt.Scores, pt.Start = append(pt.Scores, score), append(pt.Start, start)
		}
		out = append(out, pt)
	}
	return out
}

func winners(players []coach.Player, b doc.Block, count int) []rotate.Turn {
	n := len(players)
	var turns []rotate.Turn
	var won []int
	for t := range count {
		turns = append(turns, rotate.Next(n, n/2, turns, won))
		won = nil
		for i, pair := range turns[t].Pairs {
			if t >= len(b.Scores) {
				return turns
			}
			made := b.Scores[t].Of(i, []coach.Player{players[pair[0]], players[pair[1]]})
			if made[0] == made[1] {
				return turns
			}
			w := 0
			if made[1] > made[0] {
				w = 1
			}
			won = append(won, w)
		}
	}
	return turns
}

// Standings are the players' own points, the most first, and for a ladder the best rally each was part of.
func Standings(turns []Turn) []Standing {
	at := map[string]int{}
	var out []Standing
	of := func(p coach.Player) *Standing {
		i, ok := at[p.ID]
		if !ok {
			i = len(out)
			at[p.ID] = i
			out = append(out, Standing{Player: p})
		}
		return &out[i]
	}
	for _, t := range turns {
		for i, team := range t.Teams {
			for k, p := range team {
				s := of(p)
				if made := t.Scores[i][min(k, 1)]; made >= 0 {
					s.Points += made
					s.Games++
				}
				s.Best = max(s.Best, t.Scores[i][0], t.Scores[i][1])
			}
		}
		for _, p := range t.Rests {
			of(p).Rest++
		}
	}
	slices.SortStableFunc(
		out,
		func(x, y Standing) int { return cmp.Or(y.Points-x.Points, cmp.Compare(x.Player.Name, y.Player.Name)) },
	)
	return out
}
