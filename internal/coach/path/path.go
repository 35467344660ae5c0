// Package path knows how drills lead to one another, from first steps to match play.
package path

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
)

// Kind of a link.
type Kind string

const (
	After   Kind = "after"   // the drill comes after the other
	Bridge  Kind = "bridge"  // it stands between: take it when the step to the other is too big
	Eases   Kind = "eases"   // it is an easier way to the same
	Hardens Kind = "hardens" // it is a harder one
)

// Kinds in the order a coach meets them.
var Kinds = []Kind{After, Bridge, Eases, Hardens}

// String is the link in words, between the drill's name and the other's.
func (k Kind) String() string {
	return map[Kind]string{After: "comes after", Bridge: "bridges to", Eases: "eases", Hardens: "hardens"}[k]
}

// Link says how a drill stands to another.
type Link struct {
	Drill string `json:"drill"`
	Kind  Kind   `json:"kind"`
	Other string `json:"other"`
}

// Loop is the way round that a new link would close, from its drill back to it along "comes after", or nil. Links of
// other kinds close none.
func Loop(links []Link, add Link) []string {
	if add.Kind != After {
		return nil
	}
	if add.Drill == add.Other {
		return []string{add.Drill, add.Drill}
	}
	way := trail(before(links), add.Other, add.Drill, map[string]bool{})
	if way == nil {
		return nil
	}
	return append([]string{add.Drill}, way...)
}

// Round finds a loop along "comes after" among links, or nil: there is none where each link was checked when it was
// added.
func Round(links []Link) []string {
	next := before(links)
	done := map[string]bool{}
	for _, l := range links {
		if l.Kind != After || done[l.Drill] {
			continue
		}
		if way := trail(next, l.Other, l.Drill, map[string]bool{}); way != nil {
			return append([]string{l.Drill}, way...)
		}
		done[l.Drill] = true
	}
	return nil
}

// before lists for every drill what it comes after, in a fixed order.
func before(links []Link) map[string][]string {
	out := map[string][]string{}
	for _, l := range links {
		if l.Kind == After {
			out[l.Drill] = append(out[l.Drill], l.Other)
		}
	}
	for _, o := range out {
		slices.Sort(o)
	}
	return out
}

func trail(next map[string][]string, from, to string, seen map[string]bool) []string {
	if from == to {
		return []string{to}
	}
	if seen[from] {
		return nil
	}
	seen[from] = true
	for _, n := range next[from] {
		if way := trail(next, n, to, seen); way != nil {
			return append([]string{from}, way...)
		}
	}
	return nil
}

// Ways are what leads to a drill and on from it.
type Ways struct {
	Back    []string // what it comes after
	Next    []string // what comes after it
	Bridges []string // what to take when the step to it is too big
	Over    []string // what it bridges to
	Easier  []string
	Harder  []string
}

// Around finds a drill's neighbours. That one eases another makes the other harder than it.
func Around(links []Link, id string) (w Ways) {
	add := func(to *[]string, other string) { *to = merge(*to, []string{other}) }
	for _, l := range links {
		switch {
		case l.Drill == id && l.Kind == After:
			add(&w.Back, l.Other)
		case l.Other == id && l.Kind == After:
			add(&w.Next, l.Drill)
		case l.Drill == id && l.Kind == Bridge:
			add(&w.Over, l.Other)
		case l.Other == id && l.Kind == Bridge:
			add(&w.Bridges, l.Drill)
		case l.Drill == id && l.Kind == Eases:
			add(&w.Harder, l.Other)
		case l.Other == id && l.Kind == Hardens:
			add(&w.Harder, l.Drill)
		case l.Other == id && l.Kind == Eases:
			add(&w.Easier, l.Drill)
		case l.Drill == id && l.Kind == Hardens:
			add(&w.Easier, l.Other)
		}
	}
	return w
}

// Line is everything on the way to a drill and on from it: what it comes after, all the way back, what comes after it,
// all the way on, and the bridges, easier and harder ways beside these. The drill itself is first.
func Line(links []Link, id string) []string {
	back, next := map[string][]string{}, map[string][]string{}
	for _, l := range links {
		if l.Kind == After {
			back[l.Drill], next[l.Other] = append(back[l.Drill], l.Other), append(next[l.Other], l.Drill)
		}
	}
	out := []string{id}
	for _, way := range []map[string][]string{back, next} {
		at := []string{id}
		for i := 0; i < len(at); i++ {
			at = merge(at, way[at[i]])
		}
		out = merge(out, at)
	}
	for _, o := range slices.Clone(out) {
		w := Around(links, o)
		out = merge(merge(merge(out, w.Bridges), w.Easier), w.Harder)
	}
	return out
}

// merge adds what is not there yet.
func merge(list, more []string) []string {
	for _, s := range more {
		if !slices.Contains(list, s) {
			list = append(list, s)
		}
	}
	return list
}

// Cell is where a drill stands on the drawn path.
type Cell struct {
	ID          string
	Column, Row int
}

// Way is a link as it is drawn, from left to right: the cells it passes between two drills that are more than a column
// apart.
type Way struct {
	From, To string
	Through  []Cell // without an id
}

// Lay puts drills into columns, each to the right of all it comes after, first steps on the left: the longest chain to
// a drill is its column. A bridge has a column of its own between the two sides it joins; what eases or hardens another
// stands in its column. Within a column drills are ordered by the middle of what they come after, so that lines seldom
// cross; a line over several columns has a row kept free in each of them (the layers of K. Sugiyama, S. Tagawa, M.
// Toda, Methods for visual understanding of hierarchical system structures, 1981).
func Lay(links []Link, ids []string) ([]Cell, []Way) {
	in := map[string]bool{}
	for _, id := range ids {
		in[id] = true
	}
	back := before(links)
	kept := slices.DeleteFunc(
		slices.Clone(links),
		func(l Link) bool { return l.Kind != After || !in[l.Drill] || !in[l.Other] },
	)
	for _, l := range links {
		if l.Kind == Bridge && in[l.Drill] && in[l.Other] {
			for _, e := range append([]Link{{l.Other, After, l.Drill}}, bridged(back[l.Other], l.Drill)...) {
				if in[e.Other] && Loop(kept, e) == nil {
					kept = append(kept, e)
				}
			}
		}
	}
	left := map[string][]string{} // drill → what is to its left
	feeds := map[string]bool{}
	for _, l := range kept {
		left[l.Drill] = append(left[l.Drill], l.Other)
		feeds[l.Other] = true
	}
	column := map[string]int{} // −1 while it is worked out: a loop, should there be one, is cut where it closes
	var depth func(id string) int
	depth = func(id string) int {
		if c, known := column[id]; known {
			return max(-1, c)
		}
		column[id] = -1
		c := 0
		for _, o := range left[id] {
			c = max(c, depth(o)+1)
		}
		column[id] = c
		return c
	}
	for _, id := range ids {
		depth(id)
	}
	for _, l := range links { // what only eases or hardens stands with the other
		if (l.Kind == Eases || l.Kind == Hardens) && in[l.Drill] && in[l.Other] && len(left[l.Drill]) == 0 &&
			!feeds[l.Drill] {
			column[l.Drill] = column[l.Other]
		}
	}
	return rows(ids, links, in, column)
}

func bridged(sides []string, bridge string) (out []Link) {
	for _, o := range sides {
		if o != bridge {
			out = append(out, Link{bridge, After, o})
		}
	}
	return out
}

// rows orders each column, with places for the lines that pass through it.
func rows(ids []string, links []Link, in map[string]bool, column map[string]int) (cells []Cell, ways []Way) {
	byColumn := map[int][]string{}
	for _, id := range ids {
		byColumn[column[id]] = append(byColumn[column[id]], id)
	}
	left := map[string][]string{} // of a drill or a passing line: what it hangs on in the columns before
	type passing struct {
		way, column int
		id          string
	}
	var passes []passing
	for _, l := range links {
		if !in[l.Drill] || !in[l.Other] {
			continue
		}
		from, to := l.Other, l.Drill
		if column[from] > column[to] || column[from] == column[to] && l.Kind == Bridge {
			from, to = to, from
		}
		w, last := len(ways), from
		ways = append(ways, Way{From: from, To: to})
		for c := column[from] + 1; c < column[to]; c++ {
			id := fmt.Sprintf("\x00%d %d", w, c)
			passes = append(passes, passing{w, c, id})
			byColumn[c] = append(byColumn[c], id)
			left[id] = []string{last}
			last = id
		}
		left[to] = append(left[to], last)
	}
	row := map[string]int{}
	for _, c := range slices.Sorted(maps.Keys(byColumn)) {
		at := byColumn[c]
		want := map[string]float64{}
		for i, id := range at {
			sum, n := 0.0, 0.0
			for _, o := range left[id] {
				if r, placed := row[o]; placed {
					sum, n = sum+float64(r), n+1
				}
			}
			want[id] = float64(len(at) + i) // what hangs on nothing goes below
			if n > 0 {
				want[id] = sum / n
			} else if c == 0 {
				want[id] = float64(i)
			}
		}
		slices.SortStableFunc(at, func(a, b string) int { return cmp.Compare(want[a], want[b]) })
		for i, id := range at {
			row[id] = i
			if in[id] {
				cells = append(cells, Cell{id, c, i})
			}
		}
	}
	for _, p := range passes {
		ways[p.way].Through = append(ways[p.way].Through, Cell{"", p.column, row[p.id]})
	}
	return cells, ways
}

// Climb is the way from first steps to a drill, one after the other: of what each comes after the longest way back, and
// between two steps the bridge there is to the later. No drill is in it twice.
func Climb(links []Link, to string) []string {
	back := before(links)
	long := map[string][]string{} // the longest way to a drill, itself last
	var way func(id string, on map[string]bool) []string
	way = func(id string, on map[string]bool) []string {
		if w, known := long[id]; known {
			return w
		}
		var best []string
		on[id] = true
		for _, o := range back[id] {
			if on[o] {
				continue // a loop, should there be one
			}
			if w := way(o, on); len(w) > len(best) {
				best = w
			}
		}
		delete(on, id)
		long[id] = append(slices.Clone(best), id)
		return long[id]
	}
	var out []string
	for i, id := range way(to, map[string]bool{}) {
		if i > 0 {
			bridges := Around(links, id).Bridges
			slices.Sort(bridges)
			if len(bridges) > 0 {
				out = merge(out, bridges[:1])
			}
		}
		out = merge(out, []string{id})
	}
	return out
}
