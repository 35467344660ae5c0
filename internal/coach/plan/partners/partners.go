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
	"gruppo/internal/coach/target"
)

// Turn is one turn of a partner block: who is together, who rests, and what was made.
type Turn struct {
	At     time.Duration
	Teams  [][]coach.Player // pairs, or teams of more
	Rests  []coach.Player
	Scores [][]int     // of each team, its players' points; −1: nothing yet
	Start  []int       // for a ladder: from where each pair carries on, the higher of what the two made last
	Plays  [][]float64 // where the loser feeds: the share of the rallies that each of a team plays
	Even   [][2]int    // where turns are played to points: goals at which each pair would be even; zero: the same for both
}

// Played reports whether something was made in every team of the turn.
func (t Turn) Played() bool {
	return !slices.ContainsFunc(t.Scores, func(made []int) bool { return slices.Max(made) < 0 })
}

// Standing is a player's points over a partner block.
type Standing struct {
	Player      coach.Player
	Points      int
	Games, Rest int
	Best        int
}

// Turns lists a partner block's turns as far as they are known: where the winner stays, up to the first turn without
// scores. Who has a task of their own meanwhile is in none.
func Turns(in work.Input, b doc.Block, from time.Duration) []Turn {
	players := slices.DeleteFunc(slices.Clone(in.Players), func(p coach.Player) bool {
		_, aside := b.Side[p.ID]
		return aside
	})
	if len(players) < 2 || b.Turn <= 0 {
		return nil
	}
	slices.SortFunc(
		players,
		func(x, y coach.Player) int { return cmp.Or(cmp.Compare(x.Name, y.Name), cmp.Compare(x.ID, y.ID)) },
	)
	count := max(1, min(doc.MostTurns, b.Minutes*60/b.Turn))
	out := dealt(in, b, players, count)
	last := map[string]int{} // what each made last, for a ladder
	points := map[string][2]int{}
	for t := range out {
		pt := &out[t]
		pt.At = from + time.Duration(t*b.Turn)*time.Second
		for i, team := range pt.Teams {
			score, start := doc.Made{}.Of(i, team), 0
			if t < len(b.Scores) {
				score = b.Scores[t].Of(i, team)
			}
			for _, p := range team {
				start = max(start, last[p.ID])
			}
			for _, p := range team {
				if made := slices.Max(score); made >= 0 {
					last[p.ID] = made
				} else {
					last[p.ID] = max(last[p.ID], start)
				}
			}
			pt.Scores, pt.Start = append(pt.Scores, score), append(pt.Start, start)
			pt.Even = append(pt.Even, even(team, points, b.Pairs().To))
			if b.Way == rotate.LoserFeeds {
				pt.Plays = append(pt.Plays, plays(team, points))
			}
		}
		for i, team := range pt.Teams {
			won(points, team, pt.Scores[i])
		}
	}
	return out
}

// won adds what each of a team won, and what the others won against them, shared among those they played.
func won(points map[string][2]int, team []coach.Player, made []int) {
	if slices.Min(made) < 0 || len(team) > 3 {
		return
	}
	all := 0
	for _, n := range made {
		all += n
	}
	for k, p := range team {
		w := points[p.ID]
		points[p.ID] = [2]int{w[0] + made[k], w[1] + (all-made[k])/(len(team)-1)}
	}
}

// odds are those of one player to win a point against another, from the points each won and lost in the turns before:
// their strengths multiply (R. A. Bradley and M. E. Terry, Biometrika 39 (1952) 324–345).
func odds(points map[string][2]int, player, other string) float64 {
	strength := func(id string) float64 {
		chance := target.PointChance(points[id][0], points[id][1])
		return chance / (1 - chance)
	}
	return strength(player) / strength(other)
}

// even is the pair of goals at which two players would win equally often, the longer being to; none where they have not
// shown a difference.
func even(team []coach.Player, points map[string][2]int, to int) (goals [2]int) {
	if len(team) != 2 || to == 0 {
		return goals
	}
	o := odds(points, team[0].ID, team[1].ID)
	if r := target.NearestEven(o/(1+o), to); r.To != r.Against {
		goals = [2]int{r.To, r.Against}
	}
	return goals
}

// plays is the share of the rallies that each of three plays where the loser feeds; nothing for other numbers.
func plays(team []coach.Player, points map[string][2]int) []float64 {
	if len(team) != 3 {
		return nil
	}
	var beats [3][3]float64
	for i, p := range team {
		for j, o := range team {
			if i != j {
				w := odds(points, p.ID, o.ID)
				beats[i][j] = w / (1 + w)
			}
		}
	}
	shares := target.FeedShares(beats)
	return shares[:]
}

// dealt is who is together in each turn, and who rests.
func dealt(in work.Input, b doc.Block, players []coach.Player, count int) (out []Turn) {
	n := len(players)
	if size := b.TeamSize(); size > 2 && n >= size {
		for _, groups := range deal.Weeks(n, max(1, n/size), count, in.Plan.Seed) {
			t := Turn{}
			for _, g := range groups {
				var team []coach.Player
				for _, i := range g {
					team = append(team, players[i])
				}
				t.Teams = append(t.Teams, team)
			}
			out = append(out, t)
		}
		return out
	}
	for _, r := range pairs(in, b, players, count) {
		t := Turn{}
		for _, p := range r.Pairs {
			t.Teams = append(t.Teams, []coach.Player{players[p[0]], players[p[1]]})
		}
		for _, i := range r.Rests {
			t.Rests = append(t.Rests, players[i])
		}
		out = append(out, t)
	}
	return out
}

// nearCosts is what meeting again costs where partners are near in level, in stages.
const nearCosts = 0.6

// pairs are the turns of two and two.
func pairs(in work.Input, b doc.Block, players []coach.Player, count int) []rotate.Turn {
	n := len(players)
	courts := n / 2
	if c := b.Pairs().Courts; c > 0 {
		courts = min(courts, c)
	}
	met := make([][]float64, n)
	for i, x := range players {
		met[i] = make([]float64, n)
		for j, y := range players[:i] {
			met[i][j] = in.Met[[2]string{min(x.ID, y.ID), max(x.ID, y.ID)}]
		}
	}
	switch {
	case b.Way == rotate.WinnerStays:
		lower := in.Drill(b.Drill).Target.Kind == coach.MatchTheShot // letters are lost
		return winners(players, b, courts, count, lower)
	case b.Way == rotate.ByLevel:
		slices.SortStableFunc(players, func(x, y coach.Player) int { return cmp.Compare(y.Level, x.Level) })
		return rotate.OnCourts(n, courts, count, nearCosts, func(i, j int) float64 {
			return players[i].Level - players[j].Level
		})
	case b.Way == rotate.ByChoice:
		return chosen(players, b.Pairs().Chosen, courts, count)
	case courts < n/2:
		return rotate.OnCourts(n, courts, count, 1, func(i, j int) float64 { return met[j][i] / float64(count) })
	}
	return rotate.Partners(b.Way, n, count, met, in.Plan.Seed)
}

// chosen keeps the pairs that the players chose together; whoever has no partner gets another one each turn. Where there
// are fewer courts than pairs, those who have played least play.
func chosen(players []coach.Player, own [][2]string, courts, count int) (out []rotate.Turn) {
	at := func(id string) int { return slices.IndexFunc(players, func(p coach.Player) bool { return p.ID == id }) }
	var fixed [][2]int
	taken := map[int]bool{}
	for _, pair := range own {
		if i, j := at(pair[0]), at(pair[1]); i >= 0 && j >= 0 {
			fixed = append(fixed, [2]int{min(i, j), max(i, j)})
			taken[i], taken[j] = true, true
		}
	}
	var loose []int
	for i := range players {
		if !taken[i] {
			loose = append(loose, i)
		}
	}
	rest := rotate.OnCourts(len(loose), len(loose)/2, count, 1, func(int, int) float64 { return 0 })
	played := make([]int, len(players))
	for t := range count {
		all := slices.Clone(fixed)
		turn := rotate.Turn{}
		for _, p := range rest[t].Pairs {
			all = append(all, [2]int{loose[p[0]], loose[p[1]]})
		}
		for _, i := range rest[t].Rests {
			turn.Rests = append(turn.Rests, loose[i])
		}
		slices.SortStableFunc(all, func(a, b [2]int) int { return played[a[0]] + played[a[1]] - played[b[0]] - played[b[1]] })
		for i, p := range all {
			if i >= courts {
				turn.Rests = append(turn.Rests, p[0], p[1])
				continue
			}
			turn.Pairs = append(turn.Pairs, p)
			played[p[0]]++
			played[p[1]]++
		}
		slices.SortFunc(turn.Pairs, func(a, b [2]int) int { return a[0] - b[0] })
		slices.Sort(turn.Rests)
		out = append(out, turn)
	}
	return out
}

// winners are the turns in which the winner stays, as far as everybody's score is known; lower says that fewer win.
func winners(players []coach.Player, b doc.Block, courts, count int, lower bool) []rotate.Turn {
	n := len(players)
	var turns []rotate.Turn
	var won []int
	for t := range count {
		turns = append(turns, rotate.Next(n, courts, turns, won))
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
			if (made[1] > made[0]) != lower {
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
				if made := t.Scores[i][k]; made >= 0 {
					s.Points += made
					s.Games++
				}
				s.Best = max(s.Best, slices.Max(t.Scores[i]))
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
