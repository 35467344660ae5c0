// Package deal puts players into groups.
package deal

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"gruppo/internal/coach"
)

// Way is how groups are formed.
type Way string

const (
	Near  Way = "near"  // least spread of level inside a group
	Mixed Way = "mixed" // group means alike, each with strong and weak
)

// String is the way in a coach's words.
func (w Way) String() string {
	if w == Mixed {
		return "mixed levels"
	}
	return "near in level"
}

// Clash is a wish that cannot hold: the players it names cannot all be kept apart and together as asked.
type Clash struct {
	Players []string // shown names
	Why     string
}

func (c *Clash) Error() string { return c.Why }

// Groups deals the players into the given number of groups whose sizes differ by at most one unless keeping players
// together needs more. Players named in With stay together, those in Apart do not meet; a *Clash says who cannot.
// The same players, way and seed give the same groups; the next seed is "deal again". Each group holds indices into
// players. With at most a few dozen players the result is a local optimum over swaps from many starts.
func Groups(players []coach.Player, groups int, way Way, seed uint64) ([][]int, error) {
	if groups < 1 {
		groups = 1
	}
	d, err := newDeal(players, groups, way)
	if err != nil {
		return nil, err
	}
	rng := rand.New(rand.NewPCG(seed, 0x6772757070))
	bestCost, best := math.Inf(1), []int(nil)
	starts := 24
	for start := range starts {
		at := d.begin(rng, seed == 0 && start == 0)
		c := d.improve(at)
		if c < bestCost-1e-9 {
			bestCost, best = c, slices.Clone(at)
		}
	}
	if bestCost >= apartCost {
		if d.exact(best) {
			d.improve(best)
		} else {
			return nil, d.refuse()
		}
	}
	return d.result(best), nil
}

const (
	apartCost = 1e7 // two who must not meet are in one group
	sizeCost  = 1e3 // a group is a player larger or smaller than it need be
)

// bundle is players who stay together; most hold one.
type bundle struct {
	members []int
	sum, sq float64 // of the levels
	apart   []int   // bundles it must not meet
}

type dealing struct {
	players []coach.Player
	bundles []bundle
	groups  int
	way     Way
	mean    float64
	// state of the assignment under improvement
	size    []int
	sum, sq []float64
}

func newDeal(players []coach.Player, groups int, way Way) (*dealing, error) {
	index := make(map[string]int, len(players))
	for i, p := range players {
		index[p.ID] = i
	}
	root := make([]int, len(players))
	for i := range root {
		root[i] = i
	}
	find := func(i int) int {
		for root[i] != i {
			i = root[i]
		}
		return i
	}
	for i, p := range players {
		for _, id := range p.With {
			if j, here := index[id]; here {
				root[find(i)] = find(j)
			}
		}
	}
	d := &dealing{players: players, groups: groups, way: way, size: make([]int, groups), sum: make([]float64, groups), sq: make([]float64, groups)}
	bundleOf := make([]int, len(players))
	byRoot := map[int]int{}
	for i, p := range players {
		r := find(i)
		b, ok := byRoot[r]
		if !ok {
			b = len(d.bundles)
			byRoot[r] = b
			d.bundles = append(d.bundles, bundle{})
		}
		bundleOf[i] = b
		d.bundles[b].members = append(d.bundles[b].members, i)
		d.bundles[b].sum += p.Level
		d.bundles[b].sq += p.Level * p.Level
		d.mean += p.Level / float64(len(players))
	}
	for i, p := range players {
		for _, id := range p.Apart {
			j, here := index[id]
			if !here || i == j {
				continue
			}
			a, b := bundleOf[i], bundleOf[j]
			if a == b {
				return nil, &Clash{Players: []string{p.Name, players[j].Name},
					Why: fmt.Sprintf("%s and %s are to be kept together and apart at once. Take one of the two wishes back on their pages.", p.Name, players[j].Name)}
			}
			if !slices.Contains(d.bundles[a].apart, b) {
				d.bundles[a].apart = append(d.bundles[a].apart, b)
				d.bundles[b].apart = append(d.bundles[b].apart, a)
			}
		}
	}
	return d, nil
}

// begin gives a first assignment: by level in blocks or in a snake, or shuffled.
func (d *dealing) begin(rng *rand.Rand, plain bool) []int {
	order := make([]int, len(d.bundles))
	for i := range order {
		order[i] = i
	}
	rng.Shuffle(len(order), func(i, j int) { order[i], order[j] = order[j], order[i] })
	if plain {
		slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(d.level(b), d.level(a)) })
	}
	slices.SortStableFunc(order, func(a, b int) int { return len(d.bundles[b].members) - len(d.bundles[a].members) })
	at := make([]int, len(d.bundles))
	size := make([]int, d.groups)
	for _, b := range order {
		g := 0
		for h := range size {
			if size[h] < size[g] {
				g = h
			}
		}
		at[b] = g
		size[g] += len(d.bundles[b].members)
	}
	return at
}

func (d *dealing) level(b int) float64 { return d.bundles[b].sum / float64(len(d.bundles[b].members)) }

func (d *dealing) load(at []int) {
	clear(d.size)
	clear(d.sum)
	clear(d.sq)
	for b, g := range at {
		d.put(b, g, 1)
	}
}

func (d *dealing) put(b, g, sign int) {
	d.size[g] += sign * len(d.bundles[b].members)
	d.sum[g] += float64(sign) * d.bundles[b].sum
	d.sq[g] += float64(sign) * d.bundles[b].sq
}

// groupCost is the soft cost of a group as it stands, its size included.
func (d *dealing) groupCost(g int) float64 {
	n := float64(d.size[g])
	if n == 0 {
		return sizeCost * float64(len(d.players))
	}
	low := float64(len(d.players) / d.groups)
	high := math.Ceil(float64(len(d.players)) / float64(d.groups))
	off := math.Max(0, low-n) + math.Max(0, n-high)
	spread := d.sq[g] - d.sum[g]*d.sum[g]/n // sum of squares about the group's mean
	c := sizeCost * off * off
	if d.way == Mixed {
		diff := d.sum[g]/n - d.mean
		return c + 10*n*diff*diff - 0.1*spread
	}
	return c + spread
}

func (d *dealing) apartIn(at []int, b, g int) float64 {
	n := 0
	for _, o := range d.bundles[b].apart {
		if at[o] == g {
			n++
		}
	}
	return apartCost * float64(n)
}

// cost is the whole cost of an assignment.
func (d *dealing) cost(at []int) float64 {
	d.load(at)
	c := 0.0
	for g := range d.size {
		c += d.groupCost(g)
	}
	for b, g := range at {
		c += d.apartIn(at, b, g) / 2
	}
	return c
}

// improve moves and swaps bundles until nothing helps; at is changed in place.
func (d *dealing) improve(at []int) float64 {
	current := d.cost(at)
	try := func(changes ...[2]int) bool { // bundle, new group
		touched := map[int]bool{}
		before, after := 0.0, 0.0
		old := make([]int, len(changes))
		for _, c := range changes {
			touched[at[c[0]]], touched[c[1]] = true, true
			before += d.apartIn(at, c[0], at[c[0]])
		}
		for g := range touched {
			before += d.groupCost(g)
		}
		for i, c := range changes {
			old[i] = at[c[0]]
			d.put(c[0], at[c[0]], -1)
			d.put(c[0], c[1], 1)
			at[c[0]] = c[1]
		}
		for g := range touched {
			after += d.groupCost(g)
		}
		for _, c := range changes {
			after += d.apartIn(at, c[0], c[1])
		}
		if after < before-1e-9 {
			current += after - before
			return true
		}
		for i, c := range changes {
			d.put(c[0], c[1], -1)
			d.put(c[0], old[i], 1)
			at[c[0]] = old[i]
		}
		return false
	}
	for better := true; better; {
		better = false
		for a := range at {
			for g := range d.groups {
				if g != at[a] && try([2]int{a, g}) {
					better = true
				}
			}
			for b := range a {
				if at[a] != at[b] && try([2]int{a, at[b]}, [2]int{b, at[a]}) {
					better = true
				}
			}
		}
	}
	return current
}

// exact looks for any assignment without a clash, giving the bundle with the fewest free groups its place first.
// It stops after a bounded search and then reports false.
func (d *dealing) exact(at []int) bool {
	for i := range at {
		at[i] = -1
	}
	steps := 0
	var place func(left int) bool
	place = func(left int) bool {
		if left == 0 {
			return true
		}
		if steps++; steps > 200_000 {
			return false
		}
		pick, fewest := -1, d.groups+1
		for b := range at {
			if at[b] >= 0 {
				continue
			}
			free := 0
			for g := range d.groups {
				if d.apartIn(at, b, g) == 0 {
					free++
				}
			}
			if free < fewest || free == fewest && len(d.bundles[b].apart) > len(d.bundles[pick].apart) {
				pick, fewest = b, free
			}
		}
		fresh := false // empty groups are alike: one is enough to try
		for g := range d.groups {
			empty := !slices.Contains(at, g)
			if d.apartIn(at, pick, g) > 0 || empty && fresh {
				continue
			}
			fresh = fresh || empty
			at[pick] = g
			if place(left - 1) {
				return true
			}
			at[pick] = -1
		}
		return false
	}
	return place(len(at))
}

// refuse names the players who cannot be kept apart: a set larger than the groups in which each is apart from each
// where there is one, else those with the most wishes.
func (d *dealing) refuse() *Clash {
	order := make([]int, len(d.bundles))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return len(d.bundles[b].apart) - len(d.bundles[a].apart) })
	var widest []int
	for _, first := range order {
		set := []int{first}
		for _, b := range order {
			if b != first && !slices.ContainsFunc(set, func(o int) bool { return !slices.Contains(d.bundles[b].apart, o) }) {
				set = append(set, b)
			}
		}
		if len(set) > len(widest) {
			widest = set
		}
	}
	var names []string
	for _, b := range widest {
		names = append(names, d.players[d.bundles[b].members[0]].Name)
	}
	c := &Clash{Players: names}
	shown := names
	if len(shown) > 6 {
		shown = append(slices.Clone(names[:5]), fmt.Sprintf("%d more", len(names)-5))
	}
	if len(names) > d.groups {
		c.Why = fmt.Sprintf("%s are each to be kept apart from one another: that takes %d groups, and there are %d. Make more groups, or take a keep-apart back.",
			coach.List(shown), len(names), d.groups)
	} else {
		c.Why = fmt.Sprintf("No way was found to keep everyone apart as asked in %d groups; the tightest are %s. Make more groups, or take a keep-apart back.",
			d.groups, coach.List(shown))
	}
	return c
}

// result lists the groups, strongest first when they are near in level.
func (d *dealing) result(at []int) [][]int {
	out := make([][]int, d.groups)
	for b, g := range at {
		out[g] = append(out[g], d.bundles[b].members...)
	}
	mean := func(g []int) float64 {
		s := 0.0
		for _, i := range g {
			s += d.players[i].Level
		}
		return s / math.Max(1, float64(len(g)))
	}
	for _, g := range out {
		slices.SortFunc(g, func(a, b int) int { return cmp.Compare(d.players[a].Name, d.players[b].Name) })
	}
	slices.SortStableFunc(out, func(a, b []int) int { return cmp.Compare(mean(b), mean(a)) })
	return out
}
