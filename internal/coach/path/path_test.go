package path

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"gonum.org/v1/gonum/graph/simple"
	"gonum.org/v1/gonum/graph/topo"
)

func after(drill, other string) Link { return Link{drill, After, other} }

func TestALoopIsNamed(t *testing.T) {
	links := []Link{after("throw", "catch"), after("jump shot", "throw"), {"jump and catch", Bridge, "jump shot"}}
	if way := Loop(links, after("catch", "jump shot")); !slices.Equal(
		way,
		[]string{"catch", "jump shot", "throw", "catch"},
	) {
		t.Errorf("the loop is %v", way)
	}
	if Loop(links, after("jump shot", "catch")) != nil || Loop(links, Link{"catch", Bridge, "jump shot"}) != nil {
		t.Error("a short cut and a bridge close no loop")
	}
	if way := Loop(nil, after("a", "a")); len(way) != 2 {
		t.Errorf("after itself: %v", way)
	}
}

func TestTheClimbGoesFromFirstStepsOverTheBridges(t *testing.T) {
	links := []Link{after("throw", "catch"), after("catch", "roll"), after("throw", "stand"), after("jump shot", "throw"),
		{"jump and throw", Bridge, "jump shot"}, {"easy", Eases, "throw"}}
	for to, want := range map[string][]string{
		"jump shot": {"roll", "catch", "throw", "jump and throw", "jump shot"},
		"roll":      {"roll"},
		"unknown":   {"unknown"},
	} {
		if way := Climb(links, to); !slices.Equal(way, want) {
			t.Errorf("to %s: %v, want %v", to, way, want)
		}
	}
	loop := []Link{after("a", "b"), after("b", "a")}
	if way := Climb(loop, "a"); len(way) != 2 {
		t.Errorf("round a loop: %v", way)
	}
}

// Against gonum's graph library: a link closes a loop just where a way leads back, and what is laid out is a
// topological order.
func TestLoopsAndColumnsAgreeWithAGraphLibrary(t *testing.T) {
	for seed := range uint64(60) {
		r := rand.New(rand.NewPCG(seed, 4))
		n := 3 + r.IntN(12)
		id := func(i int) string { return fmt.Sprintf("d%02d", i) }
		g := simple.NewDirectedGraph()
		var ids []string
		for i := range n {
			g.AddNode(simple.Node(i))
			ids = append(ids, id(i))
		}
		var links []Link
		for range 3 * n {
			a, b := r.IntN(n), r.IntN(n)
			if a == b {
				continue
			}
			back := topo.PathExistsIn(g, g.Node(int64(a)), g.Node(int64(b))) // edges lead from what comes first
			way := Loop(links, after(id(a), id(b)))
			if back != (way != nil) {
				t.Fatalf("seed %d: %s after %s closes a loop: %v; the library says %v", seed, id(a), id(b), way, back)
			}
			if way == nil {
				links = append(links, after(id(a), id(b)))
				g.SetEdge(g.NewEdge(g.Node(int64(b)), g.Node(int64(a))))
			}
		}
		cells, ways := Lay(links, ids)
		at, taken := map[string]Cell{}, map[[2]int]bool{}
		for _, c := range cells {
			at[c.ID] = c
			taken[[2]int{c.Column, c.Row}] = true
		}
		if len(at) != n || len(taken) != n {
			t.Fatalf("seed %d: %d drills in %d cells", seed, len(at), len(taken))
		}
		sorted, err := topo.Sort(g)
		if err != nil {
			t.Fatal(err)
		}
		longest := map[int64]int{} // the longest chain to each, in the library's order
		for _, u := range sorted {
			for to := g.From(u.ID()); to.Next(); {
				longest[to.Node().ID()] = max(longest[to.Node().ID()], longest[u.ID()]+1)
			}
		}
		for i := range n {
			if at[id(i)].Column != longest[int64(i)] {
				t.Errorf(
					"seed %d: %s stands in column %d, the longest chain to it is %d",
					seed,
					id(i),
					at[id(i)].Column,
					longest[int64(i)],
				)
			}
		}
		for _, w := range ways {
			if len(w.Through) != at[w.To].Column-at[w.From].Column-1 {
				t.Errorf("seed %d: %s to %s passes %d columns", seed, w.From, w.To, len(w.Through))
			}
			for _, c := range w.Through {
				if taken[[2]int{c.Column, c.Row}] {
					t.Errorf("seed %d: the line from %s to %s runs through a drill", seed, w.From, w.To)
				}
			}
		}
	}
}

func TestNeighboursAndTheWholeLine(t *testing.T) {
	links := []Link{
		after("b", "a"),
		after("c", "b"),
		after("x", "a"),
		{"br", Bridge, "c"},
		{"soft b", Eases, "b"},
		{"hard b", Hardens, "b"},
	}
	w := Around(links, "b")
	if !slices.Equal(w.Back, []string{"a"}) || !slices.Equal(w.Next, []string{"c"}) ||
		!slices.Equal(w.Easier, []string{"soft b"}) ||
		!slices.Equal(w.Harder, []string{"hard b"}) {
		t.Errorf("around b: %+v", w)
	}
	if w := Around(links, "c"); !slices.Equal(w.Bridges, []string{"br"}) ||
		!slices.Equal(Around(links, "br").Over, []string{"c"}) {
		t.Errorf("around c: %+v", w)
	}
	line := Line(links, "c")
	slices.Sort(line)
	if !slices.Equal(line, []string{"a", "b", "br", "c", "hard b", "soft b"}) { // x leads elsewhere
		t.Errorf("the line of c is %v", line)
	}
	cells, _ := Lay(links, line)
	column := map[string]int{}
	for _, c := range cells {
		column[c.ID] = c.Column
	}
	if !(column["a"] < column["b"] && column["b"] < column["br"] && column["br"] < column["c"] && column["soft b"] == column["b"]) {
		t.Errorf("a, b, the bridge, c from left to right: %v", column)
	}
}

// A loop that stands in a database all the same is found and named, and its drills are laid out.
func TestTheLayoutSurvivesALoop(t *testing.T) {
	links := []Link{after("a", "b"), after("b", "c"), after("c", "a"), after("d", "a"), {"e", Bridge, "b"}}
	cells, ways := Lay(links, []string{"a", "b", "c", "d", "e"})
	if len(cells) != 5 || len(ways) != len(links) {
		t.Errorf("%d of 5 drills are drawn, %d ways", len(cells), len(ways))
	}
	if way := Round(links); len(way) != 4 || way[0] != way[3] {
		t.Errorf("the loop is %v", way)
	}
	if way := Round(links[1:]); way != nil {
		t.Errorf("without a after b there is none: %v", way)
	}
}
