// Package rotate works out who is where when: groups at stations, partners, and players in games.
package rotate

import (
	"fmt"
	"math"
	"slices"

	"gruppo/internal/coach/say"
)

// Rest stands in a route where a group has no station: there are more groups than places.
const Rest = -1

// MustKind says what a Must asks.
type MustKind int

const (
	Before MustKind = iota // whoever comes to Other was at Station before
	Reach                  // every group comes to one of Any
	Closed                 // nobody is at Station in Round
	Never                  // Group does not come to Station
)

// Must is something a rotation has to hold to. Says is what it is in a coach's words.
type Must struct {
	Kind                         MustKind
	Station, Other, Round, Group int // counted from 0; those the kind names
	Any                          []int
	Says                         string
}

// Asked is what a station rotation has to fit.
type Asked struct {
	Groups, Stations, Rounds int
	Hard                     []bool      // per station: not two of these in a row, where it can be helped
	Walk                     [][]float64 // metres from station to station; nil: all the same
	Double                   []bool      // stations that may take two groups at once
	Must                     []Must
}

// Plan is a rotation: Route[g][r] is the station of group g in round r, or Rest.
type Plan struct {
	Route   [][]int
	HardRow int     // times a group has two hard stations in a row
	Longest float64 // metres of the longest walk at a change
	Walked  float64 // metres that all groups walk together
	Ring    bool    // everyone moves on by one
	Best    bool    // nothing better exists; false where the search had to stop early
	Because string
}

// Clash says which of the musts cannot hold together: take any one of them away and the others can.
type Clash struct {
	Must []int // indices into Asked.Must
	Why  string
}

func (c *Clash) Error() string { return c.Why }

// Stations gives a rotation in which never two groups share a station (unless it is marked for two), every group is out
// as often as any other to within one round, and comes to every station as often as to any other to within one visit:
// once, where there are no more rounds than that (with stations for two, as near to that as can be). Among those that
// hold to every must it is the one with the fewest hard stations in a row, then the shortest longest walk, then the
// least walking, then one in which everyone moves on by one. Up to 5 groups, 5 stations and 5 rounds all are tried;
// beyond that the best found is returned and Best says whether more could have been. A *Clash is returned when the
// musts cannot hold.
func Stations(a Asked) (Plan, error) {
	if a.Stations == 0 || a.Groups == 0 {
		return Plan{Best: true, Because: "there is nothing to rotate yet"}, nil
	}
	s := newSearch(a)
	if s.impossible() || !s.solve() {
		return Plan{}, a.clash()
	}
	p := Plan{
		Route:   s.best,
		HardRow: s.found.hard,
		Longest: float64(s.found.longest) / 1000,
		Walked:  float64(s.found.walked) / 1000,
		Ring:    !s.found.crooked,
		Best:    s.nodes < s.budget,
	}
	p.Because = "each group has a route of its own"
	if p.Ring {
		p.Because = "everyone moves on by one"
	}
	switch {
	case s.idle > 0:
		p.Because += fmt.Sprintf(
			"; with %s for %s %d %s in turn",
			say.Count(a.Groups, "group"),
			say.Count(s.capacity, "place"),
			s.idle,
			say.Does(s.idle, "rest"),
		)
	case a.Stations > a.Groups:
		p.Because += "; with more stations than groups some stand empty in turn"
	}
	return p, nil
}

// mostSpent is how much searching, in steps, finding the least clash may cost; a coach waits for it.
const mostSpent = 100_000

// clash is the smallest set of musts that cannot hold, found by leaving out one after the other; not the smallest where
// that would take too long.
func (a Asked) clash() *Clash {
	kept := make([]int, len(a.Must))
	for i := range kept {
		kept[i] = i
	}
	without := func(kept []int) Asked {
		b := a
		b.Must = nil
		for _, i := range kept {
			b.Must = append(b.Must, a.Must[i])
		}
		return b
	}
	spent := 0
	for i := 0; i < len(kept) && spent < mostSpent; {
		fewer := slices.Delete(slices.Clone(kept), i, i+1)
		s := newSearch(without(fewer))
		s.any = true
		can := !s.impossible() && s.solve()
		if spent += s.nodes + mostSpent/20; !can {
			kept = fewer
		} else {
			i++
		}
	}
	c := &Clash{Must: kept, Why: "These cannot all hold: "}
	if len(kept) == 1 {
		c.Why = "This cannot hold: "
	}
	for n, i := range kept {
		if n > 0 {
			c.Why += "; "
		}
		c.Why += a.Must[i].Says
	}
	c.Why += fmt.Sprintf(
		" (%s, %s, %s).",
		say.Count(a.Groups, "group"),
		say.Count(a.Stations, "station"),
		say.Count(a.Rounds, "round"),
	)
	return c
}

// cost of a rotation, or of the part laid so far. Lengths are whole millimetres, so that sums do not depend on their
// order.
type cost struct {
	hard            int
	longest, walked int
	crooked         bool // not everyone moves on by one
}

func (c cost) compare(d cost) int {
	for _, x := range [][2]int{{c.hard, d.hard}, {c.longest, d.longest}, {c.walked, d.walked}} {
		if x[0] != x[1] {
			return x[0] - x[1]
		}
	}
	if c.crooked == d.crooked {
		return 0
	}
	if c.crooked {
		return 1
	}
	return -1
}

type search struct {
	Asked
	capacity, idle      int // groups that can work at once; groups that rest each round
	most, least         int // visits of a group to a station
	restLeast, restMost int
	walk                [][]int
	needs               [][]int // stations that come before a station
	closed              [][]bool
	never               [][]bool
	reach               [][]int
	alike               bool // groups are alike: the first round's order does not matter
	any                 bool // the first found is good enough
	route               [][]int
	visits              [][]int
	rests               []int
	taken               []int // groups at a station in the round being laid
	best                [][]int
	found               cost
	has                 bool
	nodes, budget       int
}

// newSearch asks for visits as even as can be. Where stations take two groups, even by one visit may be too much to ask
// of the others: then by two, and so on, as far as is needed without any must.
func newSearch(a Asked) *search {
	slack := 0
	for ; slack < a.Rounds && slices.Contains(a.Double, true); slack++ {
		plain := a
		plain.Must = nil
		s := plain.search(slack)
		s.any = true
		if s.solve() {
			break
		}
	}
	return a.search(slack)
}

func (a Asked) search(slack int) *search {
	s := &search{Asked: a, alike: true, budget: 40_000}
	if a.Groups <= 5 && a.Stations <= 5 && a.Rounds <= 5 {
		s.budget = 1_500_000 // all of them, without stations for two
	}
	s.capacity = a.Stations
	for i, d := range a.Double {
		if d && i < a.Stations {
			s.capacity++
		}
	}
	s.idle = max(0, a.Groups-s.capacity)
	work := a.Rounds * min(s.capacity, a.Groups) // visits of all groups together
	s.most = (work + a.Groups*a.Stations - 1) / (a.Groups * a.Stations)
	s.least = work / a.Groups / a.Stations
	s.most, s.least = s.most+slack, max(0, s.least-slack)
	s.restLeast, s.restMost = a.Rounds*s.idle/a.Groups, (a.Rounds*s.idle+a.Groups-1)/a.Groups
	grid := func(n, m int) [][]int {
		out := make([][]int, n)
		for i := range out {
			out[i] = make([]int, m)
		}
		return out
	}
	flags := func(n, m int) [][]bool {
		out := make([][]bool, n)
		for i := range out {
			out[i] = make([]bool, m)
		}
		return out
	}
	s.walk, s.route, s.visits = grid(a.Stations, a.Stations), grid(a.Groups, a.Rounds), grid(a.Groups, a.Stations)
	for i := range s.walk {
		for j := range s.walk[i] {
			if a.Walk != nil {
				s.walk[i][j] = int(math.Round(a.Walk[i][j] * 1000))
			}
		}
	}
	s.closed, s.never, s.needs = flags(a.Stations, a.Rounds), flags(a.Groups, a.Stations), make([][]int, a.Stations)
	for _, m := range a.Must {
		switch m.Kind {
		case Before:
			s.needs[m.Other] = append(s.needs[m.Other], m.Station)
			if a.Rounds > 0 {
				s.closed[m.Other][0] = true // nobody has been anywhere before the first round
			}
		case Closed:
			s.closed[m.Station][m.Round] = true
		case Never:
			s.never[m.Group][m.Station] = true
			s.alike = false
		case Reach:
			s.reach = append(s.reach, m.Any)
		}
	}
	s.rests, s.taken = make([]int, a.Groups), make([]int, a.Stations)
	return s
}

func (s *search) holds(station int) int {
	if station < len(s.Double) && s.Double[station] {
		return 2
	}
	return 1
}

// impossible sees by counting what a search would take long to find out.
func (s *search) impossible() bool {
	for r := range s.Rounds {
		open := 0
		for i := range s.Stations {
			if !s.closed[i][r] {
				open += s.holds(i)
			}
		}
		if open < s.Groups-s.idle {
			return true
		}
	}
	room := func(stations ...int) (visits int) { // that they have at most
		for _, i := range stations {
			for r := range s.Rounds {
				if !s.closed[i][r] {
					visits += s.holds(i)
				}
			}
		}
		return visits
	}
	for i := range s.Stations {
		if room(i) < s.Groups*s.least {
			return true
		}
	}
	for _, any := range s.reach {
		if room(any...) < s.Groups {
			return true
		}
	}
	for g := range s.Groups {
		open := 0
		for i := range s.Stations {
			if !s.never[g][i] {
				open += s.most
			} else if s.least > 0 {
				return true
			}
		}
		if open < s.Rounds-s.restMost {
			return true
		}
	}
	return false
}

// solve starts from the best ring and then looks through everything, as far as the budget goes.
func (s *search) solve() bool {
	if ring := max(s.Groups, s.Stations); ring <= 8 && (s.capacity == s.Stations || s.Groups <= s.Stations) {
		s.rings(ring)
		if s.has && s.any {
			return true
		}
	}
	if !s.has {
		s.budget = max(s.budget, 200_000)
	}
	for g := range s.visits {
		clear(s.visits[g])
	}
	s.lay(0, 0, 0, cost{})
	return s.has
}

// rings tries every order in which everyone moves on by one.
func (s *search) rings(n int) {
	order := make([]int, n)
	for i := range order {
		order[i] = i
		if i >= s.Stations {
			order[i] = Rest
		}
	}
	permute(order[1:], 0, func() {
		if s.has && s.any {
			return
		}
		for g := range s.Groups {
			for r := range s.Rounds {
				s.route[g][r] = order[(g+r)%n]
			}
		}
		if c, ok := s.weigh(); ok && (!s.has || c.compare(s.found) < 0) {
			s.keep(c)
		}
	})
}

func (s *search) keep(c cost) {
	s.has, s.found, s.best = true, c, make([][]int, s.Groups)
	for g := range s.best {
		s.best[g] = slices.Clone(s.route[g])
	}
}

// weigh is the cost of the whole route, and whether it holds to every must.
func (s *search) weigh() (c cost, ok bool) {
	next := make([]int, s.Stations)
	for i := range next {
		next[i] = Rest - 1
	}
	for g := range s.Groups {
		clear(s.visits[g])
		rests := 0
		for r, to := range s.route[g] {
			if to == Rest {
				rests++
				continue
			}
			if s.closed[to][r] || s.never[g][to] ||
				slices.ContainsFunc(s.needs[to], func(b int) bool { return s.visits[g][b] == 0 }) {
				return c, false
			}
			s.visits[g][to]++
			if s.visits[g][to] > s.most {
				return c, false
			}
			if r > 0 {
				c = s.step(c, s.route[g][r-1], to)
			}
		}
		for r := 1; r < s.Rounds; r++ {
			if from, to := s.route[g][r-1], s.route[g][r]; from != Rest {
				c.crooked = c.crooked || next[from] != Rest-1 && next[from] != to
				next[from] = to
			}
		}
		if rests < s.restLeast || rests > s.restMost || slices.Min(s.visits[g]) < s.least || !s.reached(g) {
			return c, false
		}
	}
	return c, true
}

func (s *search) reached(g int) bool {
	return !slices.ContainsFunc(s.reach, func(any []int) bool {
		return !slices.ContainsFunc(any, func(i int) bool { return s.visits[g][i] > 0 })
	})
}

func (s *search) step(c cost, from, to int) cost {
	if from == Rest || to == Rest {
		return c
	}
	if s.Hard != nil && s.Hard[from] && s.Hard[to] {
		c.hard++
	}
	c.longest = max(c.longest, s.walk[from][to])
	c.walked += s.walk[from][to]
	return c
}

// lay gives group g its station in round r; resting groups of the round are counted.
func (s *search) lay(r, g, resting int, c cost) {
	if s.nodes++; s.nodes > s.budget || s.has && s.any {
		return
	}
	if s.has {
		c.crooked = false
		if d := c.compare(s.found); d > 0 || d == 0 && !s.found.crooked {
			return
		}
	}
	if g == s.Groups {
		if resting != s.idle {
			return
		}
		if r+1 == s.Rounds {
			visits := s.visits // weigh counts them anew
			s.visits = make([][]int, s.Groups)
			for i := range s.visits {
				s.visits[i] = make([]int, s.Stations)
			}
			if full, ok := s.weigh(); ok && (!s.has || full.compare(s.found) < 0) {
				s.keep(full)
			}
			s.visits = visits
			return
		}
		taken := slices.Clone(s.taken)
		clear(s.taken)
		s.lay(r+1, 0, 0, c)
		copy(s.taken, taken)
		return
	}
	left := s.Rounds - r - 1
	for to := range s.Stations {
		if s.taken[to] == s.holds(to) || s.closed[to][r] || s.never[g][to] || s.visits[g][to] == s.most {
			continue
		}
		if r == 0 && s.alike && g > 0 && (s.route[g-1][0] == Rest || s.route[g-1][0] > to) {
			continue
		}
		if slices.ContainsFunc(s.needs[to], func(b int) bool { return s.visits[g][b] == 0 }) {
			continue
		}
		if s.rests[g]+left < s.restLeast {
			continue
		}
		next := c
		if r > 0 {
			next = s.step(c, s.route[g][r-1], to)
		}
		s.route[g][r] = to
		s.taken[to]++
		s.visits[g][to]++
		if left > 0 || s.reached(g) {
			s.lay(r, g+1, resting, next)
		}
		s.taken[to]--
		s.visits[g][to]--
	}
	if resting < s.idle && s.rests[g] < s.restMost {
		s.route[g][r] = Rest
		s.rests[g]++
		s.lay(r, g+1, resting+1, c)
		s.rests[g]--
	}
}

func permute(xs []int, k int, visit func()) {
	if k >= len(xs) {
		visit()
		return
	}
	seen := map[int]bool{}
	for i := k; i < len(xs); i++ {
		if seen[xs[i]] {
			continue // resting places are alike
		}
		seen[xs[i]] = true
		xs[k], xs[i] = xs[i], xs[k]
		permute(xs, k+1, visit)
		xs[k], xs[i] = xs[i], xs[k]
	}
}
