package rotate

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"gruppo/internal/coach/say"
)

// Way is how partners change.
type Way string

const (
	MoveOn      Way = "move on one" // a ring of places: all move on by one
	OneStays    Way = "one stays"   // the circle method: one stands, the others go round
	WinnerStays Way = "winner stays"
	Fewest      Way = "fewest repeats" // with who met whom before
	ByLevel     Way = "by level"       // near in level, the strongest on the first court
	ByChoice    Way = "chosen"         // by the players themselves, for the day
	LoserFeeds  Way = "loser feeds"    // threes: two play, and whoever loses the rally feeds the next
)

// Ways in the order a coach chooses from.
var Ways = []Way{MoveOn, OneStays, WinnerStays, Fewest, ByLevel, ByChoice, LoserFeeds}

// Turn is one round of partners: who plays whom, and who rests. Players are counted from 0.
type Turn struct {
	Pairs [][2]int
	Rests []int
}

// Partners gives so many rounds of partners for n players. For MoveOn i faces n−1−i on a ring of n places and the
// middle rests when n is odd; OneStays is the circle method; both give everyone a rest before anyone has a second.
// Fewest is the circle with the players so placed that those who met before, met[i][j] times, meet least; seed breaks
// ties. WinnerStays depends on who wins: see Next.
func Partners(way Way, n, rounds int, met [][]float64, seed uint64) []Turn {
	order := make([]int, n)
	for i := range order {
		order[i] = i
	}
	if way == Fewest {
		order = leastMet(n, rounds, met, seed)
	}
	out := make([]Turn, 0, rounds)
	for r := range rounds {
		if way == MoveOn {
			out = append(out, ring(n, r))
		} else {
			out = append(out, circle(order, r))
		}
	}
	return out
}

func ring(n, r int) (t Turn) {
	at := func(place int) int { return ((place-r)%n + n) % n } // who stands at a place after r moves
	for i := range n / 2 {
		t.Pairs = append(t.Pairs, [2]int{at(i), at(n - 1 - i)})
	}
	if n%2 == 1 {
		t.Rests = []int{at(n / 2)}
	}
	return t
}

// circle: the first stands still, or nobody when the number is odd and whoever faces the empty place rests.
func circle(order []int, r int) (t Turn) {
	n := len(order)
	ghost := n%2 == 1
	if ghost {
		order = append(slices.Clone(order), -1)
		n++
	}
	if n < 2 {
		return t
	}
	at := func(place int) int {
		if place == n-1 {
			return order[n-1]
		}
		return order[((place-r)%(n-1)+n-1)%(n-1)]
	}
	for i := range n / 2 {
		a, b := at(i), at(n-2-i)
		if i == n/2-1 {
			a, b = at(n-1), at(n/2-1)
		}
		switch {
		case a == -1:
			t.Rests = append(t.Rests, b)
		case b == -1:
			t.Rests = append(t.Rests, a)
		default:
			t.Pairs = append(t.Pairs, [2]int{a, b})
		}
	}
	return t
}

func leastMet(n, rounds int, met [][]float64, seed uint64) []int {
	rng := rand.New(rand.NewPCG(seed, 0x70616972))
	places := make([]int, n)
	for i := range places {
		places[i] = i
	}
	var faces [][2]int // the places in an order that face each other, in all rounds
	for r := range rounds {
		faces = append(faces, circle(places, r).Pairs...)
	}
	cost := func(order []int) (c float64) {
		if met == nil {
			return 0
		}
		for _, p := range faces {
			a, b := order[p[0]], order[p[1]]
			c += met[a][b] + met[b][a]
		}
		return c
	}
	var best []int
	least := 0.0
	for start := range n + max(4, 2000/(n*n+1)) {
		order := rng.Perm(n)
		if start < n { // the plain circle, begun at another round
			for i := range order {
				order[i] = i
				if m := n - 1 + n%2; i < m {
					order[i] = (i + start) % m
				}
			}
		}
		c := cost(order)
		for better := true; better && c > 0; {
			better = false
			for i := range order {
				for j := range i {
					order[i], order[j] = order[j], order[i]
					if d := cost(order); d < c-1e-12 {
						c, better = d, true
					} else {
						order[i], order[j] = order[j], order[i]
					}
				}
			}
		}
		if best == nil || c < least {
			best, least = order, c
		}
		if least == 0 {
			break
		}
	}
	return best
}

// Next is the coming round when the winner stays: winners keep their place, losers move one place down and the last of
// them out, and who rested comes in at the first. won[i] is 0 or 1, the winner of the pair i in the last of the rounds.
// Nobody rests twice while somebody has rested less: then the longest there goes out even as a winner.
func Next(n, places int, played []Turn, won []int) Turn {
	places = min(places, n/2)
	if len(played) == 0 {
		t := Turn{}
		for i := range places {
			t.Pairs = append(t.Pairs, [2]int{2 * i, 2*i + 1})
		}
		for i := 2 * places; i < n; i++ {
			t.Rests = append(t.Rests, i)
		}
		return t
	}
	last := played[len(played)-1]
	rests := make([]int, n)
	since := make([]int, n) // rounds since the last rest
	for _, t := range played {
		for i := range since {
			since[i]++
		}
		for _, i := range t.Rests {
			rests[i]++
			since[i] = 0
		}
	}
	lost := make([]bool, n)
	place := make([]int, n)
	for i, p := range last.Pairs {
		place[p[0]], place[p[1]] = i, i
		lost[p[1-won[i]]] = true
	}
	out := make([]int, 0, n)
	for i := range n {
		out = append(out, i)
	}
	slices.SortStableFunc(out, func(a, b int) int { // who goes out first
		if rests[a] != rests[b] {
			return rests[a] - rests[b]
		}
		if lost[a] != lost[b] {
			if lost[a] {
				return -1
			}
			return 1
		}
		if since[a] != since[b] {
			return since[b] - since[a]
		}
		return place[b] - place[a]
	})
	t := Turn{Rests: slices.Clone(out[:n-2*places])}
	stays := make([]int, places)
	for i := range stays {
		stays[i] = -1
	}
	var move []int // in the order of the places they come to
	in := func(i int) bool { return !slices.Contains(t.Rests, i) }
	for _, i := range last.Rests {
		if in(i) {
			move = append(move, i)
		}
	}
	var losers []int
	for i, p := range last.Pairs {
		if w := p[won[i]]; in(w) {
			stays[i] = w
		}
		if l := p[1-won[i]]; in(l) {
			losers = append(losers, l)
		}
	}
	if len(move) == 0 && len(losers) > 1 { // nobody comes in: the losers move one place on
		losers = append(losers[len(losers)-1:], losers[:len(losers)-1]...)
	}
	move = append(move, losers...)
	for i := range stays {
		a := stays[i]
		if a < 0 {
			a, move = move[0], move[1:]
		}
		b := move[0]
		move = move[1:]
		t.Pairs = append(t.Pairs, [2]int{a, b})
	}
	return t
}

// Advice says how many rounds let everyone meet everyone, and what a way of changing cannot do for n players.
func (w Way) Advice(n int) string {
	switch {
	case n < 3:
		return ""
	case w == MoveOn && n%2 == 0:
		return fmt.Sprintf(
			"With %d players moving on one repeats after %s, with %d of the %d pairs. One stays lets all meet in %d.",
			n,
			say.Count(n/2, "round"),
			n*n/4,
			n*(n-1)/2,
			n-1,
		)
	case w == MoveOn, w == OneStays && n%2 == 1, w == Fewest && n%2 == 1:
		return fmt.Sprintf("All %d meet in %s, each resting once.", n, say.Count(n, "round"))
	case w == ByLevel:
		return "Near in level, the strongest on the first court, and with others of those near as the turns go on."
	case w == ByChoice:
		return "They choose: tap a name, then whose partner it is. Whoever has none gets one."
	case w == LoserFeeds:
		return "Threes: two play and one feeds, whoever loses the rally feeds the next. Between equals each plays two rallies of three."
	case w == OneStays, w == Fewest:
		return fmt.Sprintf("All %d meet in %s.", n, say.Count(n-1, "round"))
	}
	return "Who meets whom depends on who wins; rests differ by at most one."
}
