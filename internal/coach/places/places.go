// Package places puts players into a term's classes: the best of the stated wishes for all together, not first come
// first served.
package places

import (
	"cmp"
	"fmt"
	"slices"

	"gruppo/internal/coach/say"
	"gruppo/internal/day"
)

// Class is a class of the term that is planned.
type Class struct {
	ID, Name string
	Places   int
	Stages   []string // ids it takes
	From     int      // youngest age it takes; 0: no bound
	Until    int      // oldest; 0: no bound
}

// Player is somebody who wants a place. The order of the players is the order of decision: the earlier one goes first
// where all else is equal.
type Player struct {
	ID, Name string
	Stage    string
	Age      int      // in years; 0: not known, and then no bound keeps them out
	Now      string   // the class they are in; empty: none of these
	Cannot   []string // classes whose time does not suit
	Likes    []string // classes they would like, the dearest first
	Friends  []string // players to be with
	Since    day.Day  // decided on, or else on their stage since
	Joined   day.Day
}

// Order puts players into the order of decision: who was decided first, or has been on their stage longest, then who
// joined first, then by name.
func Order(players []Player) {
	slices.SortStableFunc(players, func(a, b Player) int {
		return cmp.Or(a.Since.Compare(b.Since), a.Joined.Compare(b.Joined), cmp.Compare(a.Name, b.Name))
	})
}

// Age is how old somebody born in a year is in another; 0: not known.
func Age(born, in int) int {
	if born <= 0 {
		return 0
	}
	return in - born
}

// adult is the age from which somebody is one, for a first guess that the club can change. Common practice, no source;
// local law decides.
const adult = 18

// Band guesses the ages that a class is for from those of its youngest and oldest: adults, children, or any. 0: no
// bound.
func Band(youngest, oldest int) (from, until int) {
	switch {
	case youngest >= adult:
		return adult, 0
	case oldest < adult:
		return 0, adult - 1
	}
	return 0, 0
}

// What it costs when a wish is not met, in the same unit. Being left without a place costs more than all wishes of a
// player together.
const (
	unplaced = 1000
	friend   = 40 // for each pair
	move     = 30 // from the class they are in now
	second   = 10 // each step down the list of liked classes
)

// Result is a placing of everybody, and what it costs.
type Result struct {
	In      map[string]string // player → class; not in it: on the waiting list
	Waiting []Waiting         // in order of decision
	Cost    Cost
	Gap     int // how much better another placing could be at most; 0: none is better
}

// Cost is what a placing leaves unmet.
type Cost struct {
	Total                          int
	Waiting, Moved, Unliked, Split int // players without a place, moved, not in their dearest class; pairs of friends split
}

// String says what is left unmet: "2 move, 1 pair of friends is split".
func (c Cost) String() string {
	var out []string
	tell := func(n int, one, many string) {
		if n == 1 {
			out = append(out, "1 "+one)
		} else if n > 1 {
			out = append(out, fmt.Sprintf("%d %s", n, many))
		}
	}
	tell(c.Waiting, "without a place", "without a place")
	tell(c.Moved, "changes class", "change class")
	tell(c.Unliked, "not in the class they like best", "not in the class they like best")
	tell(c.Split, "pair of friends split", "pairs of friends split")
	if len(out) == 0 {
		return "every wish is met"
	}
	return say.List(out)
}

// Waiting is somebody without a place.
type Waiting struct {
	Player string
	Why    string   // no class takes them, or all that do are full
	Frees  []string // what would free a place
}

// ErrFull is returned when more players were put into a class by hand than it has places.
type ErrFull struct{ Class string }

func (e *ErrFull) Error() string {
	return e.Class + " has no place left for somebody put there by hand"
}

const never = 1 << 40

// Steps is how many branches are looked at for a page: enough for a club, well under a second.
const Steps = 400

// Assign finds the placing of least cost: a transportation problem solved by shortest augmenting paths (R. K. Ahuja, T.
// L. Magnanti, J. B. Orlin, Network Flows, 1993, chapter 9), with branch and bound over the pairs of friends, whose
// wish concerns two players at once. Fixed puts players where a coach wants them, whatever it costs; an empty class
// keeps somebody on the list. Steps bounds the branches that are looked at: 0 means no bound.
func Assign(classes []Class, players []Player, fixed map[string]string, steps int) (Result, error) {
	s := &search{unit: len(players) + 1, steps: steps, best: -1}
	cost := make([][]int, len(players))
	index := map[string]int{}
	for i, c := range classes {
		index[c.ID] = i
	}
	number := map[string]int{}
	room := make([]int, len(classes))
	for i, p := range players {
		number[p.ID] = i
		cost[i] = costs(classes, p, len(players)-i, len(players))
		if to, ok := fixed[p.ID]; ok {
			at, known := index[to]
			if !known {
				at = len(classes)
			} else if room[at]++; room[at] > classes[at].Places {
				return Result{}, &ErrFull{classes[at].Name}
			}
			was := cost[i][at]
			for k := range cost[i] {
				cost[i][k] = never
			}
			cost[i][at] = min(was, 2*unplaced*s.unit) // a class that does not fit is taken all the same
		}
	}
	seen := map[[2]int]bool{}
	for i, p := range players {
		for _, f := range p.Friends {
			if j, ok := number[f]; ok && i != j && !seen[[2]int{min(i, j), max(i, j)}] {
				seen[[2]int{min(i, j), max(i, j)}] = true
				s.pairs = append(s.pairs, [2]int{min(i, j), max(i, j)})
			}
		}
	}
	slices.SortFunc(s.pairs, func(a, b [2]int) int { return cmp.Or(a[0]-b[0], a[1]-b[1]) })
	seats := []int{}
	for _, c := range classes {
		seats = append(seats, c.Places)
	}
	s.branch(assign(cost, append(seats, len(players))), make([]bool, len(s.pairs)), 0)
	r := Result{In: map[string]string{}, Gap: (s.best - s.bound()) / s.unit}
	for i, at := range s.in {
		if at < len(classes) {
			r.In[players[i].ID] = classes[at].ID
		}
	}
	r.Cost = CostOf(classes, players, r.In)
	r.Waiting = waiting(classes, players, r.In, fixed)
	return r, nil
}

// costs are those of one player in every class, and of having no place at the end. Early is higher for who was decided
// about earlier.
func costs(classes []Class, p Player, early, of int) []int {
	out := make([]int, len(classes)+1)
	out[len(classes)] = unplaced*(of+1) + early // of players who cannot all have a place, the earlier decided get it
	for i, c := range classes {
		if !fits(c, p) {
			out[i] = never
			continue
		}
		out[i] = wish(c, p) * (of + 1)
	}
	return out
}

func fits(c Class, p Player) bool {
	return takes(c, p) && !slices.Contains(p.Cannot, c.ID)
}

// takes reports whether a class is for the player's stage and age, whatever its time.
func takes(c Class, p Player) bool {
	return slices.Contains(c.Stages, p.Stage) && (p.Age == 0 || p.Age >= c.From && (c.Until == 0 || p.Age <= c.Until))
}

// wish is what being in the class costs a player whom it fits.
func wish(c Class, p Player) int {
	cost := 0
	if p.Now != "" && p.Now != c.ID {
		cost += move
	}
	if len(p.Likes) > 0 {
		at := slices.Index(p.Likes, c.ID)
		if at < 0 {
			at = len(p.Likes)
		}
		cost += second * min(at, 5)
	}
	return cost
}

// CostOf is what a placing leaves unmet.
func CostOf(classes []Class, players []Player, in map[string]string) Cost {
	var c Cost
	byID := map[string]Class{}
	for _, k := range classes {
		byID[k.ID] = k
	}
	seen := map[[2]string]bool{}
	known := map[string]bool{}
	for _, p := range players {
		known[p.ID] = true
	}
	for _, p := range players {
		at, placed := in[p.ID]
		if !placed {
			c.Waiting++
			c.Total += unplaced
		} else {
			c.Total += wish(byID[at], p)
			if p.Now != "" && p.Now != at {
				c.Moved++
			}
			if len(p.Likes) > 0 && p.Likes[0] != at {
				c.Unliked++
			}
		}
		for _, f := range p.Friends {
			if key := [2]string{min(p.ID, f), max(p.ID, f)}; known[f] && !seen[key] && f != p.ID {
				seen[key] = true
				if in[f] != at {
					c.Split++
					c.Total += friend
				}
			}
		}
	}
	return c
}

// search is a branch and bound over the pairs of friends.
type search struct {
	pairs [][2]int
	unit  int // costs are multiplied by it, so that the order of decision settles ties and nothing else
	best  int
	in    []int
	steps int
	used  int
	open  []int // bounds of branches that were not looked at
}

// branch looks at the best placing without friends' wishes, which no placing under the same costs can beat, and splits
// on the first pair that it parts: both in the same class, one class after the other, or apart at its price.
func (s *search) branch(f *flow, apart []bool, paid int) {
	cost := f.total()
	bound := cost + paid
	if s.best >= 0 && bound >= s.best {
		return
	}
	if s.steps > 0 && s.used >= s.steps {
		s.open = append(s.open, bound)
		return
	}
	s.used++
	real, first := cost, -1
	for n, p := range s.pairs {
		if f.in[p[0]] != f.in[p[1]] {
			real += friend * s.unit
			if first < 0 && !apart[n] {
				first = n
			}
		}
	}
	if s.best < 0 || real < s.best {
		s.best, s.in = real, slices.Clone(f.in)
	}
	if first < 0 {
		return
	}
	a, b := s.pairs[first][0], s.pairs[first][1]
	var children []*flow
	for k := range f.places {
		if f.cost[a][k] >= never || f.cost[b][k] >= never {
			continue
		}
		g := f.clone()
		g.remove(a)
		g.remove(b)
		g.cost[a], g.cost[b] = only(f.cost[a], k), only(f.cost[b], k)
		if g.insert(a) && g.insert(b) && (s.best < 0 || g.total()+paid < s.best) {
			children = append(children, g)
		}
	}
	slices.SortStableFunc(children, func(x, y *flow) int { return x.total() - y.total() })
	for _, g := range children {
		s.branch(g, apart, paid)
	}
	apart[first] = true
	s.branch(f, apart, paid+friend*s.unit)
	apart[first] = false
}

// bound is the least that a branch not looked at could cost.
func (s *search) bound() int {
	least := s.best
	for _, b := range s.open {
		least = min(least, b)
	}
	return least
}

func only(cost []int, at int) []int {
	out := slices.Repeat([]int{never}, len(cost))
	out[at] = cost[at]
	return out
}

// flow is a placing of least cost, the last class being "no place", and what it would cost to move somebody from one
// class to another.
type flow struct {
	cost    [][]int // player × class
	places  []int
	in      []int // player → class
	members [][]int
	hop     [][]int // class × class: the least extra cost of moving somebody
	who     [][]int // and whom
}

// assign puts everybody somewhere at least cost.
func assign(cost [][]int, places []int) *flow {
	f := &flow{
		cost:    cost,
		places:  places,
		in:      make([]int, len(cost)),
		members: make([][]int, len(places)),
		hop:     make([][]int, len(places)),
		who:     make([][]int, len(places)),
	}
	for c := range places {
		f.hop[c], f.who[c] = make([]int, len(places)), make([]int, len(places))
		f.refresh(c)
	}
	for p := range cost {
		f.insert(p)
	}
	return f
}

func (f *flow) clone() *flow {
	g := &flow{
		cost:    slices.Clone(f.cost),
		places:  f.places,
		in:      slices.Clone(f.in),
		members: make([][]int, len(f.members)),
		hop:     make([][]int, len(f.hop)),
		who:     make([][]int, len(f.who)),
	}
	for c := range f.members {
		g.members[c], g.hop[c], g.who[c] = slices.Clone(f.members[c]), slices.Clone(f.hop[c]), slices.Clone(f.who[c])
	}
	return g
}

func (f *flow) total() (sum int) {
	for p, c := range f.in {
		sum += f.cost[p][c]
	}
	return sum
}

func (f *flow) room(c int) bool { return len(f.members[c]) < f.places[c] }

func (f *flow) refresh(c int) {
	for d := range f.places {
		f.hop[c][d], f.who[c][d] = never, -1
	}
	for _, p := range f.members[c] {
		for d := range f.places {
			if x := f.cost[p][d] - f.cost[p][c]; f.cost[p][d] < never && x < f.hop[c][d] {
				f.hop[c][d], f.who[c][d] = x, p
			}
		}
	}
}

func (f *flow) move(p, from, to int) {
	if from >= 0 {
		f.members[from] = slices.DeleteFunc(f.members[from], func(q int) bool { return q == p })
	}
	if to >= 0 {
		f.members[to] = append(f.members[to], p)
		f.in[p] = to
	}
}

// insert puts a player somewhere along the shortest chain of moves that makes room; false when there is none.
func (f *flow) insert(p int) bool {
	dist, from := slices.Clone(f.cost[p]), slices.Repeat([]int{-1}, len(f.places))
	for again := true; again; {
		again = false
		for c := range f.places {
			if dist[c] >= never || f.room(c) { // nobody has to go on from a class with room
				continue
			}
			for d, h := range f.hop[c] {
				if h < never && dist[c]+h < dist[d] {
					dist[d], from[d], again = dist[c]+h, c, true
				}
			}
		}
	}
	end := -1
	for c := range f.places {
		if f.room(c) && dist[c] < never && (end < 0 || dist[c] < dist[end]) {
			end = c
		}
	}
	if end < 0 {
		return false
	}
	touched := []int{end}
	c := end
	for ; from[c] >= 0; c = from[c] {
		f.move(f.who[from[c]][c], from[c], c)
		touched = append(touched, from[c])
	}
	f.move(p, -1, c)
	for _, c := range touched {
		f.refresh(c)
	}
	return true
}

// remove takes a player out, and fills the place by the chain of moves that gains most, if one gains anything.
func (f *flow) remove(p int) {
	at := f.in[p]
	full := !f.room(at)
	f.move(p, at, -1)
	f.refresh(at)
	if !full {
		return
	}
	dist, to := slices.Repeat([]int{never}, len(f.places)), slices.Repeat([]int{-1}, len(f.places))
	dist[at] = 0
	for again := true; again; {
		again = false
		for c := range f.places {
			if c == at {
				continue
			}
			for d, h := range f.hop[c] {
				if h < never && dist[d] < never && h+dist[d] < dist[c] {
					dist[c], to[c], again = h+dist[d], d, true
				}
			}
		}
	}
	start := at
	for c := range f.places {
		if dist[c] < dist[start] {
			start = c
		}
	}
	for c := start; c != at; {
		d := to[c]
		f.move(f.who[c][d], c, d)
		c = d
	}
	for c := start; ; c = to[c] {
		f.refresh(c)
		if c == at {
			break
		}
	}
}
