// Package deal puts players into groups.
package deal

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
)

// Way is how groups are formed.
type Way string

const (
	Near     Way = "near"     // least spread of level inside a group
	Mixed    Way = "mixed"    // group means alike, each with strong and weak
	Position Way = "position" // those who play in the same place
	Stage    Way = "stage"    // those on the same stage
	Need     Way = "need"     // those who lack the same criterion or key
	Chance   Way = "chance"   // only who was together lately counts
)

// Ways in the order a coach chooses from.
var Ways = []Way{Near, Mixed, Position, Stage, Need, Chance}

// Known reports whether w is one of Ways.
func (w Way) Known() bool { return slices.Contains(Ways, w) }

// String is the way in a coach's words.
func (w Way) String() string {
	return map[Way]string{Near: "near in level", Mixed: "mixed levels", Position: "by position", Stage: "by stage", Need: "by what they lack", Chance: "by chance"}[w]
}

// Ask is what a deal has to fit.
type Ask struct {
	Groups   int
	Way      Way
	Seed     uint64
	Sizes    []int       // of the groups; nil: they differ by at most one
	Together []string    // positions whose players stay in one group
	Met      [][]float64 // how lately two players were together: 1 last time, fading; nil: not known
	Now      [][]string  // the groups as they are, by player id: a re-deal moves as few as possible and keeps their order
}

// Clash is a wish that cannot hold: the players it names cannot all be kept apart and together as asked.
type Clash struct {
	Players []string // shown names
	Why     string
}

func (c *Clash) Error() string { return c.Why }

// Groups deals the players into groups whose sizes differ by at most one unless keeping players together needs more.
// Players named in With stay together, those in Apart do not meet; a *Clash says who cannot. The same players and ask
// give the same groups; the next seed is "deal again". Each group holds indices into players. The result is a local
// optimum over moves and swaps from many starts, which for a class of twelve is the best of all deals (a test tries
// them).
func Groups(players []coach.Player, a Ask) ([][]int, error) {
	a.Groups = max(1, a.Groups)
	d, err := newDeal(players, a)
	if err != nil {
		return nil, err
	}
	rng := rand.New(rand.NewPCG(a.Seed, 0x6772757070))
	bestCost, best := math.Inf(1), []int(nil)
	starts := max(6, min(150, 22_000/(len(players)*len(players)+1)))
	if a.Way == Chance && a.Met == nil && a.Now == nil {
		starts = 1
	}
	for start := range starts {
		at := d.begin(rng, start)
		c := d.improve(at)
		if c < bestCost-1e-9 {
			bestCost, best = c, slices.Clone(at)
		}
	}
	if bestCost >= apartCost/2 { // mixed levels may bring a little off it
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
	sizeCost  = 1e4 // a group is a player larger or smaller than it need be
	moveCost  = 1e2 // in a re-deal, a player who changes groups
	freshCost = 0.1 // two who were together last time are again: decides between deals nearly as good
	shareCost = 1.0 // two of a group who have no position, or no need, in common
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
	ask     Ask
	mean    float64
	pair    [][]float64 // cost of two bundles in one group; nil: none
	home    [][]int     // per bundle and group, how many of its players are there now; nil: not a re-deal
	known   []int       // players of the bundle who are in a group now
	// state of the assignment under improvement
	size    []int
	sum, sq []float64
}

func newDeal(players []coach.Player, a Ask) (*dealing, error) {
	groups := a.Groups
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
	for _, position := range a.Together {
		first := -1
		for i, p := range players {
			if !coach.Among(position, p.Positions) {
				continue
			}
			if first >= 0 {
				root[find(i)] = find(first)
			}
			first = i
		}
	}
	d := &dealing{
		players: players,
		groups:  groups,
		ask:     a,
		size:    make([]int, groups),
		sum:     make([]float64, groups),
		sq:      make([]float64, groups),
	}
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
					Why: fmt.Sprintf(
						"%s and %s are to be kept together and apart at once. Take one of the two wishes back on their pages.",
						p.Name,
						players[j].Name,
					)}
			}
			if !slices.Contains(d.bundles[a].apart, b) {
				d.bundles[a].apart = append(d.bundles[a].apart, b)
				d.bundles[b].apart = append(d.bundles[b].apart, a)
			}
		}
	}
	d.pairs(bundleOf)
	if a.Now != nil {
		d.home, d.known = make([][]int, len(d.bundles)), make([]int, len(d.bundles))
		for b := range d.home {
			d.home[b] = make([]int, groups)
		}
		for g, ids := range a.Now {
			for _, id := range ids {
				if i, here := index[id]; here && g < groups {
					d.home[bundleOf[i]][g]++
					d.known[bundleOf[i]]++
				}
			}
		}
	}
	return d, nil
}

// pairs fills in what two bundles cost in one group: nothing in common, where the way asks for it, and together lately.
func (d *dealing) pairs(bundleOf []int) {
	common := func(a, b []string) float64 {
		if slices.ContainsFunc(a, func(s string) bool { return coach.Among(s, b) }) || len(a) == 0 && len(b) == 0 {
			return 0
		}
		return shareCost
	}
	if d.ask.Met == nil && d.ask.Way != Position && d.ask.Way != Stage && d.ask.Way != Need {
		return
	}
	d.pair = make([][]float64, len(d.bundles))
	for b := range d.pair {
		d.pair[b] = make([]float64, len(d.bundles))
	}
	for i, p := range d.players {
		for j, o := range d.players[:i] {
			a, b := bundleOf[i], bundleOf[j]
			if a == b {
				continue
			}
			c := 0.0
			if d.ask.Met != nil {
				c = freshCost * (d.ask.Met[i][j] + d.ask.Met[j][i])
			}
			switch d.ask.Way {
			case Position:
				c += common(p.Positions, o.Positions)
			case Stage:
				if p.Stage != o.Stage {
					c += shareCost
				}
			case Need:
				c += common(p.Needs, o.Needs)
				if len(p.Needs) > 0 && len(o.Needs) > 0 && p.Needs[0] != o.Needs[0] {
					c += 0.3 * shareCost // best is the same first need
				}
			}
			d.pair[a][b] += c
			d.pair[b][a] += c
		}
	}
}

// begin gives a first assignment: as it is now in a re-deal, by level in turn, or shuffled.
func (d *dealing) begin(rng *rand.Rand, start int) []int {
	order := make([]int, len(d.bundles))
	for i := range order {
		order[i] = i
	}
	rng.Shuffle(len(order), func(i, j int) { order[i], order[j] = order[j], order[i] })
	if start == 0 && d.ask.Seed == 0 && d.ask.Way != Chance {
		slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(d.level(b), d.level(a)) })
	}
	slices.SortStableFunc(order, func(a, b int) int { return len(d.bundles[b].members) - len(d.bundles[a].members) })
	at := make([]int, len(d.bundles))
	size := make([]int, d.groups)
	if d.home != nil && start%2 == 0 {
		late := order[:0]
		for _, b := range order {
			if d.known[b] == 0 {
				late = append(late, b)
				continue
			}
			g := 0
			for h := range d.home[b] {
				if d.home[b][h] > d.home[b][g] {
					g = h
				}
			}
			at[b] = g
			size[g] += len(d.bundles[b].members)
		}
		order = late
	}
	for _, b := range order {
		g := 0
		for h := range size {
			if d.room(h)-size[h] > d.room(g)-size[g] {
				g = h
			}
		}
		at[b] = g
		size[g] += len(d.bundles[b].members)
	}
	return at
}

// room is the size asked of a group, or a number that makes all alike.
func (d *dealing) room(g int) int {
	if g < len(d.ask.Sizes) {
		return d.ask.Sizes[g]
	}
	return len(d.players)
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
	if g < len(d.ask.Sizes) {
		low, high = float64(d.ask.Sizes[g]), float64(d.ask.Sizes[g])
	}
	off := math.Max(0, low-n) + math.Max(0, n-high)
	spread := d.sq[g] - d.sum[g]*d.sum[g]/n // sum of squares about the group's mean
	c := sizeCost * off * off
	switch d.ask.Way {
	case Near:
		return c + spread
	case Mixed:
		diff := d.sum[g]/n - d.mean
		return c + 10*n*diff*diff - 0.1*spread
	}
	return c
}

// beside is what it costs bundle b to be in group g with those who are there, and to move there.
func (d *dealing) beside(at []int, b, g int) float64 {
	c := d.apartIn(at, b, g)
	if d.pair != nil {
		for o, h := range at {
			if h == g && o != b {
				c += d.pair[b][o]
			}
		}
	}
	if d.home != nil {
		c += moveCost * float64(d.known[b]-d.home[b][g])
	}
	return c
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
		if d.home != nil {
			c += moveCost * float64(d.known[b]-d.home[b][g])
		}
		for o := range b {
			if d.pair != nil && at[o] == g {
				c += d.pair[b][o]
			}
		}
	}
	return c
}

// improve moves and swaps bundles until nothing helps; at is changed in place.
func (d *dealing) improve(at []int) float64 {
	current := d.cost(at)
	shift := func(b, g int) { d.put(b, at[b], -1); d.put(b, g, 1); at[b] = g }
	try := func(a, ga, b, gb int) bool { // a goes to ga, and b to gb unless it is -1
		from, to := at[a], ga
		both := func() float64 {
			c := d.groupCost(from) + d.groupCost(to) + d.beside(at, a, at[a])
			if b >= 0 {
				c += d.beside(at, b, at[b])
			}
			return c
		}
		before := both()
		shift(a, ga)
		if b >= 0 {
			shift(b, gb)
		}
		if after := both(); after < before-1e-9 {
			current += after - before
			return true
		}
		shift(a, from)
		if b >= 0 {
			shift(b, to)
		}
		return false
	}
	for better := true; better; {
		better = false
		for a := range at {
			for g := range d.groups {
				if g != at[a] && try(a, g, -1, 0) {
					better = true
				}
			}
			for b := range a {
				if at[a] != at[b] && try(a, at[b], b, at[a]) {
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
			if b != first &&
				!slices.ContainsFunc(set, func(o int) bool { return !slices.Contains(d.bundles[b].apart, o) }) {
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
		c.Why = fmt.Sprintf(
			"%s are each to be kept apart from one another: that takes %d groups, and there are %d. Make more groups, or take a keep-apart back.",
			say.List(shown),
			len(names),
			d.groups,
		)
	} else {
		c.Why = fmt.Sprintf("No way was found to keep everyone apart as asked in %d groups; the tightest are %s. Make more groups, or take a keep-apart back.",
			d.groups, say.List(shown))
	}
	return c
}

// result lists the groups, strongest first unless their order is given.
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
	if d.ask.Now == nil && d.ask.Sizes == nil {
		slices.SortStableFunc(out, func(a, b []int) int { return cmp.Compare(mean(b), mean(a)) })
	}
	return out
}
