package work

import (
	"cmp"
	"math"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
)

// Match is a block of games worked out: who plays with whom, against whom, and who rests when.
type Match struct {
	rotate.Game
	Sides   []Side  // two for each area, the first against the second
	Neutral []Side  // of each area: floaters and wall players
	Each    float64 // square metres for each who is on
	Apart   string  // why some could not be kept together or apart; empty: all could
}

// Side is players who play together.
type Side struct {
	Number  int // from 0, over all areas
	Area    int // from 0
	Shape   doc.Shape
	Players []coach.Player // strong and weak in turn, so that those who rest together are as strong as the others
	On      int            // how many of them play at once
	Stints  []rotate.Stint
	Level   float64 // their mean
}

// Match deals a block's players into sides that are even from what is known of them. Nil where the block has no game,
// or fewer than two come. It is worked out where it is shown; the ledger needs no more than that all play alike.
func (in Input) Match(b Span) *Match {
	if b.Block.Game == nil || b.Kind != doc.Game {
		return nil
	}
	m, d := &Match{Game: *b.Block.Game}, b.To-b.From
	var players []coach.Player
	for _, p := range in.Players {
		if _, aside := b.Side[p.ID]; !aside {
			players = append(players, p)
		}
	}
	if len(players) < 2 {
		return nil
	}
	teams := doc.Teams{}
	if b.Teams != nil {
		teams = *b.Teams
	}
	neutral, rest := m.neutral(players, teams.Seed)
	m.deal(in, rest, teams)
	for area := range m.Areas {
		s := Side{Number: -1, Area: area, On: len(neutral[area]), Players: neutral[area]}
		s.Stints = rotate.Stints(s.On, s.On, d, 0)
		m.Neutral = append(m.Neutral, s)
	}
	inside := in.Floor.Inside()
	on := 0
	for i := range m.Sides {
		s := &m.Sides[i]
		s.On = min(len(s.Players), []int{m.A, m.B}[i%2])
		s.inTurn()
		s.Stints = rotate.Stints(len(s.Players), s.On, d, time.Duration(m.Swap)*time.Second)
		on += s.On + len(neutral[s.Area])*(1-i%2)
	}
	size := inside.Length * inside.Width
	if m.Length > 0 {
		size = m.Length * m.Width * float64(m.Areas)
	}
	m.Each = size / float64(max(1, on))
	return m
}

// neutral takes out who plays with both sides: those nearest to the middle of all, others when it is dealt again.
func (m *Match) neutral(players []coach.Player, seed uint64) (areas [][]coach.Player, rest []coach.Player) {
	areas = make([][]coach.Player, m.Areas)
	need := m.Areas*(m.Floaters+m.Walls) + min(m.More, m.Areas)
	if need == 0 || need > len(players)-2 {
		return areas, players
	}
	mean := 0.0
	for _, p := range players {
		mean += p.Level / float64(len(players))
	}
	middle := slices.Clone(players)
	slices.SortStableFunc(middle, func(a, b coach.Player) int {
		return cmp.Or(cmp.Compare(math.Abs(a.Level-mean), math.Abs(b.Level-mean)), cmp.Compare(a.ID, b.ID))
	})
	first := int(seed%uint64(len(middle))) * need % len(middle)
	middle = append(middle[first:len(middle):len(middle)], middle[:first]...)
	for i, p := range middle[:need] {
		area := i % m.Areas
		areas[area] = append(areas[area], p)
	}
	for _, p := range players {
		if !slices.ContainsFunc(middle[:need], func(o coach.Player) bool { return o.ID == p.ID }) {
			rest = append(rest, p)
		}
	}
	return areas, rest
}

// deal makes the sides: even in level, keeping together and apart whom that is asked of, and then as the coach put them.
func (m *Match) deal(in Input, players []coach.Player, teams doc.Teams) {
	n := 2 * m.Areas
	ask := deal.Ask{Groups: n, Way: deal.Mixed, Seed: teams.Seed, Sizes: m.sizes(len(players))}
	groups, err := deal.Groups(players, ask)
	if err != nil { // three who are to be kept apart cannot play on two sides
		m.Apart = err.Error()
		loose := slices.Clone(players)
		for i := range loose {
			loose[i].With, loose[i].Apart = nil, nil
		}
		groups, _ = deal.Groups(loose, ask)
	}
	for i := range n {
		s := Side{Number: i, Area: i / 2, Shape: doc.Shapes[i%len(doc.Shapes)]}
		if i < len(groups) {
			for _, p := range groups[i] {
				s.Players = append(s.Players, players[p])
			}
		}
		m.Sides = append(m.Sides, s)
	}
	for _, id := range in.order(teams.Put) {
		m.put(id, teams.Put)
	}
}

// sizes are how many each side has of n players: in the proportion in which they play, and alike to within one.
func (m *Match) sizes(n int) []int {
	out := make([]int, 2*m.Areas)
	for i := range out {
		out[i] = []int{m.A, m.B}[i%2]
	}
	all := 0
	for _, k := range out {
		all += k
	}
	for i := 0; all < n; i++ { // reserves, one side after the other
		out[i%len(out)]++
		all++
	}
	for all > n { // too few are there: the largest gives
		i := slices.Index(out, slices.Max(out))
		out[i]--
		all--
	}
	return out
}

// put moves a player to the side that the coach chose; whoever is nearest in level there goes the other way, unless the
// coach chose that too or the sides become more alike in number without.
func (m *Match) put(id string, chosen map[string]int) {
	to := chosen[id]
	if to < 0 || to >= len(m.Sides) {
		return
	}
	for from := range m.Sides {
		i := slices.IndexFunc(m.Sides[from].Players, func(p coach.Player) bool { return p.ID == id })
		if i < 0 || from == to {
			continue
		}
		p := m.Sides[from].Players[i]
		m.Sides[from].Players = slices.Delete(m.Sides[from].Players, i, i+1)
		back, near := -1, math.Inf(1)
		for k, o := range m.Sides[to].Players {
			if _, put := chosen[o.ID]; !put && math.Abs(o.Level-p.Level) < near {
				back, near = k, math.Abs(o.Level-p.Level)
			}
		}
		if back >= 0 && len(m.Sides[to].Players) >= len(m.Sides[from].Players)+1 {
			m.Sides[from].Players = append(m.Sides[from].Players, m.Sides[to].Players[back])
			m.Sides[to].Players = slices.Delete(m.Sides[to].Players, back, back+1)
		}
		m.Sides[to].Players = append(m.Sides[to].Players, p)
		return
	}
}

// order are the players who were put somewhere, as they are listed, so that the same plan gives the same sides.
func (in Input) order(put map[string]int) (ids []string) {
	for _, p := range in.Players {
		if _, ok := put[p.ID]; ok {
			ids = append(ids, p.ID)
		}
	}
	slices.Sort(ids)
	return ids
}

// inTurn orders the players of a side so that those who rest together are neither the strongest nor the weakest: the
// strongest, the weakest, the next strongest and so on; where one rests at a time by level, so that of both sides the
// same rest.
func (s *Side) inTurn() {
	slices.SortStableFunc(s.Players, func(a, b coach.Player) int {
		return cmp.Or(cmp.Compare(b.Level, a.Level), cmp.Compare(a.Name, b.Name))
	})
	for _, p := range s.Players {
		s.Level += p.Level / float64(len(s.Players))
	}
	if len(s.Players)-s.On < 2 {
		return
	}
	var out []coach.Player
	for i, j := 0, len(s.Players)-1; i <= j; i, j = i+1, j-1 {
		if out = append(out, s.Players[i]); i < j {
			out = append(out, s.Players[j])
		}
	}
	s.Players = out
}

// Rests is how long a player rests in the stretch from–to of the game, counted from its start.
func (s Side) Rests(player string, from, to time.Duration) (d time.Duration) {
	for _, st := range s.Stints {
		for _, i := range st.Rest {
			if s.Players[i].ID == player {
				d += max(0, min(to, st.To)-max(from, st.From))
			}
		}
	}
	return d
}

// Of is the side a player is on; nil: neutral, or not in the game.
func (m Match) Of(player string) *Side {
	for i := range m.Sides {
		if slices.ContainsFunc(m.Sides[i].Players, func(p coach.Player) bool { return p.ID == player }) {
			return &m.Sides[i]
		}
	}
	return nil
}

// playing is the share of a game's time that each of n players is on, since all play alike.
func playing(g rotate.Game, n int) float64 {
	m := Match{Game: g}
	neutral := m.Areas*(m.Floaters+m.Walls) + min(m.More, m.Areas)
	if neutral > n-2 {
		neutral = 0
	}
	on := 0
	for i, size := range m.sizes(n - neutral) {
		on += min(size, []int{m.A, m.B}[i%2])
	}
	return float64(on+neutral) / float64(max(1, n))
}
