package season

import (
	"cmp"
	"math"
	"slices"
)

// Need is a skill that has to come up.
type Need struct {
	Skill string
	Times int      // at least
	Lack  int      // players who have not shown it
	After []string // skills that come before it
}

// Slot is a date to be filled, or one that is fixed already: past, pinned, or with another theme.
type Slot struct {
	Open   bool
	Skills []string // that are worked on where it is not open
}

// Short is a skill that comes up less often than it has to.
type Short struct {
	Skill string
	By    int // times
}

// Filled is a proposal for the open dates.
type Filled struct {
	Skills []string // of each slot; empty where it was not open, or nothing is needed
	Short  []Short
	Cost   float64
	Proven bool // there is no better one
}

// What a season is judged by, the less the better: our own choice. That practice spread over weeks is kept better than the
// same practice massed is N. J. Cepeda et al., Psychological Bulletin 132 (2006), 354–380; how much a week between is worth
// here is not theirs.
const (
	shortCosts = 100.0 // a time that a skill is missing, times the share of the class that lacks it and one
	neverCosts = 150.0 // more, times that too, where it does not come at all: rather once than never
	earlyCosts = 40.0  // a skill before one that comes before it
	nextCosts  = 6.0   // the same skill two weeks running
	soonCosts  = 2.0   // and with one week between
	extraCosts = 3.0   // a time more than needed, for a skill that nobody lacks; less for one that many do
)

// Most skills that are planned for at once, and plans that are followed at a time.
const (
	mostSkills = 8
	followed   = 20000
)

// filling is the search for the best way through the slots, one after another: what matters for the rest is how often each
// skill came, and what came in the last two weeks.
type filling struct {
	slots []Slot
	needs []Need
	share []float64 // of the class that lacks each, of the most lacked
	left  []int     // open slots from each on
}

// way is how the slots so far are filled: all that matters of it for the rest, what it costs, and what it came by.
type way struct {
	key  key
	cost float64
	late float64 // of ways that cost the same: how late the skills first come
	from *way
	put  int // of the slot; -1: nothing
}

// better reports whether a way costs less than another, or as much with its skills earlier.
func (w *way) better(o *way) bool {
	if math.Abs(w.cost-o.cost) > 1e-9 {
		return w.cost < o.cost
	}
	return w.late < o.late-1e-9
}

type key struct {
	times     [mostSkills]uint8
	last, two int8
}

// Fill puts a skill on every open date: what is needed as often as it is needed, spread out, what comes before first, and
// where dates are left what most lack. It is the best of all ways where Proven says so; else the best that was found.
func Fill(slots []Slot, needs []Need) Filled {
	f := filling{slots: slots, needs: needs[:min(len(needs), mostSkills)]}
	most := 1
	for _, n := range f.needs {
		most = max(most, n.Lack)
	}
	for _, n := range f.needs {
		f.share = append(f.share, float64(n.Lack)/float64(most))
	}
	f.left = make([]int, len(slots)+1)
	for i := len(slots) - 1; i >= 0; i-- {
		f.left[i] = f.left[i+1]
		if slots[i].Open {
			f.left[i]++
		}
	}
	narrow, _ := f.search(200, math.Inf(1))
	best, proven := f.search(followed, narrow.cost)
	if best == nil || best.cost > narrow.cost {
		best = narrow
	}
	out := Filled{Skills: make([]string, len(slots)), Cost: best.cost, Proven: proven && len(needs) <= mostSkills}
	for i, w := len(slots)-1, best; i >= 0; i, w = i-1, w.from {
		if w.put >= 0 && slots[i].Open {
			out.Skills[i] = f.needs[w.put].Skill
		}
	}
	for i, n := range f.needs {
		if by := n.Times - int(best.key.times[i]); by > 0 {
			out.Short = append(out.Short, Short{n.Skill, by})
		}
	}
	for _, n := range needs[len(f.needs):] {
		out.Short = append(out.Short, Short{n.Skill, n.Times})
	}
	return out
}

// search goes slot by slot, keeping for each key the cheapest way, and of them so many; none that is sure to cost more than
// what is known already. It is proven where none had to be given up for their number.
func (f *filling) search(most int, known float64) (best *way, proven bool) {
	proven = true
	now := map[key]*way{{last: -1, two: -1}: {key: key{last: -1, two: -1}, put: -1}}
	for i, s := range f.slots {
		next := map[key]*way{}
		put := func(w *way, skill int, skills []int) {
			n := &way{key: w.key, cost: w.cost, late: w.late, from: w, put: skill}
			for _, k := range skills {
				n.cost += f.cost(w.key, k)
				if w.key.times[k] == 0 {
					n.late += float64(i) * (1 + f.share[k])
				}
				n.key.times[k] = min(n.key.times[k]+1, uint8(max(f.needs[k].Times, 1)))
			}
			n.key.two, n.key.last = w.key.last, int8(skill)
			if n.cost+f.still(n.key, i+1) > known+1e-9 {
				return
			}
			if o := next[n.key]; o == nil || n.better(o) {
				next[n.key] = n
			}
		}
		for _, w := range inOrder(now) {
			if !s.Open {
				put(w, f.fixed(s), f.of(s))
				continue
			}
			if len(f.needs) == 0 {
				put(w, -1, nil)
			}
			for k := range f.needs {
				put(w, k, []int{k})
			}
		}
		if len(next) > most {
			proven = false
			ways := inOrder(next)
			slices.SortStableFunc(ways, func(a, b *way) int {
				x, y := a.cost+f.still(a.key, i+1), b.cost+f.still(b.key, i+1)
				return cmp.Or(cmp.Compare(x, y), cmp.Compare(a.late, b.late))
			})
			next = map[key]*way{}
			for _, w := range ways[:most] {
				next[w.key] = w
			}
		}
		now = next
	}
	for _, w := range inOrder(now) {
		w.cost += f.short(w.key)
		if best == nil || w.better(best) {
			best = w
		}
	}
	return best, proven
}

// cost of one more time of a skill.
func (f *filling) cost(k key, skill int) (c float64) {
	switch int8(skill) {
	case k.last:
		c += nextCosts
	case k.two:
		c += soonCosts
	}
	n := f.needs[skill]
	if int(k.times[skill]) >= n.Times {
		c += extraCosts * (1.2 - f.share[skill])
	}
	if k.times[skill] == 0 {
		for i, o := range f.needs {
			if slices.Contains(n.After, o.Skill) && k.times[i] == 0 {
				c += earlyCosts
			}
		}
	}
	return c
}

// short is what the times cost that are missing.
func (f *filling) short(k key) (c float64) {
	for i, n := range f.needs {
		c += shortCosts * (1 + f.share[i]) * float64(max(0, n.Times-int(k.times[i])))
		if k.times[i] == 0 && n.Times > 0 {
			c += neverCosts * (1 + f.share[i])
		}
	}
	return c
}

// still is the least that is to be paid for what cannot come any more: the cheapest times that no open slot is left for.
func (f *filling) still(k key, from int) (c float64) {
	var each []float64
	for i, n := range f.needs {
		for range n.Times - int(k.times[i]) {
			each = append(each, shortCosts*(1+f.share[i]))
		}
	}
	slices.Sort(each)
	for _, x := range each[:max(0, len(each)-f.left[from]-f.fixedFrom(from))] {
		c += x
	}
	return c
}

// fixedFrom is how many times of skills are fixed from a slot on.
func (f *filling) fixedFrom(from int) (n int) {
	for _, s := range f.slots[from:] {
		if !s.Open {
			n += len(f.of(s))
		}
	}
	return n
}

// of are the needs that a fixed slot serves, and fixed is the first of them, or -1.
func (f *filling) of(s Slot) (out []int) {
	for i, n := range f.needs {
		if slices.Contains(s.Skills, n.Skill) {
			out = append(out, i)
		}
	}
	return out
}

func (f *filling) fixed(s Slot) int {
	if of := f.of(s); len(of) > 0 {
		return of[0]
	}
	return -1
}

// inOrder lists ways in an order that is the same each time.
func inOrder(m map[key]*way) []*way {
	out := make([]*way, 0, len(m))
	for _, w := range m {
		out = append(out, w)
	}
	slices.SortFunc(out, func(a, b *way) int {
		if c := slices.Compare(a.key.times[:], b.key.times[:]); c != 0 {
			return c
		}
		if a.key.last != b.key.last {
			return int(a.key.last) - int(b.key.last)
		}
		return int(a.key.two) - int(b.key.two)
	})
	return out
}
