// Package path knows how drills lead to one another, from first steps to match play.
package path

import (
	"cmp"
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

// Loop is the way round that a new link would close, from its drill back to it along "comes after", or nil. Links of other kinds close none.
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
	add := func(to *[]string, other string) {
		if !slices.Contains(*to, other) {
			*to = append(*to, other)
		}
	}
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

// Family is every drill that can be reached from one along links of any kind and direction, itself first.
func Family(links []Link, id string) []string {
	out := []string{id}
	for i := 0; i < len(out); i++ {
		for _, l := range links {
			for _, pair := range [][2]string{{l.Drill, l.Other}, {l.Other, l.Drill}} {
				if pair[0] == out[i] && !slices.Contains(out, pair[1]) {
					out = append(out, pair[1])
				}
			}
		}
	}
	return out
}

// Cell is where a drill stands on the drawn path.
type Cell struct {
	ID          string
	Column, Row int
}

// Lay puts drills into columns, each to the right of all it comes after, first steps on the left: the longest chain to a drill is its column.
// A bridge has a column of its own between the two sides it joins; what eases or hardens another stands in its column. Within a
// column drills are ordered by the middle of what they come after, so that lines seldom cross.
func Lay(links []Link, ids []string) []Cell {
	in := map[string]bool{}
	for _, id := range ids {
		in[id] = true
	}
	edges := map[string][]string{} // drill → what is to its left
	back := before(links)
	kept := slices.DeleteFunc(slices.Clone(links), func(l Link) bool { return l.Kind != After || !in[l.Drill] || !in[l.Other] })
	for _, l := range links {
		if l.Kind == Bridge && in[l.Drill] && in[l.Other] {
			for _, e := range append([]Link{{l.Other, After, l.Drill}}, bridged(back[l.Other], l.Drill)...) {
				if in[e.Other] && Loop(kept, e) == nil {
					kept = append(kept, e)
				}
			}
		}
	}
	for _, l := range kept {
		edges[l.Drill] = append(edges[l.Drill], l.Other)
	}
	column := map[string]int{}
	var depth func(id string) int
	depth = func(id string) int {
		if c, known := column[id]; known {
			return c
		}
		c := 0
		for _, o := range edges[id] {
			c = max(c, depth(o)+1)
		}
		column[id] = c
		return c
	}
	for _, id := range ids {
		depth(id)
	}
	for _, l := range links { // what only eases or hardens stands with the other
		if (l.Kind == Eases || l.Kind == Hardens) && in[l.Drill] && in[l.Other] && len(edges[l.Drill]) == 0 && !feeds(edges, l.Drill) {
			column[l.Drill] = column[l.Other]
		}
	}
	return rows(ids, edges, column)
}

func bridged(sides []string, bridge string) (out []Link) {
	for _, o := range sides {
		if o != bridge {
			out = append(out, Link{bridge, After, o})
		}
	}
	return out
}

func feeds(edges map[string][]string, id string) bool {
	for _, to := range edges {
		if slices.Contains(to, id) {
			return true
		}
	}
	return false
}

func rows(ids []string, edges map[string][]string, column map[string]int) []Cell {
	byColumn := map[int][]string{}
	for _, id := range ids {
		byColumn[column[id]] = append(byColumn[column[id]], id)
	}
	row := map[string]float64{}
	var out []Cell
	for _, c := range slices.Sorted(maps.Keys(byColumn)) {
		at := byColumn[c]
		want := map[string]float64{}
		for i, id := range at {
			want[id] = float64(i)
			if n := len(edges[id]); n > 0 {
				sum := 0.0
				for _, o := range edges[id] {
					sum += row[o]
				}
				want[id] = sum / float64(n)
			}
		}
		slices.SortStableFunc(at, func(a, b string) int { return cmp.Compare(want[a], want[b]) })
		for i, id := range at {
			row[id] = float64(i)
			out = append(out, Cell{id, c, i})
		}
	}
	return out
}
