package diagram

import (
	"encoding/json"
	"math"
	"slices"
	"strings"
	"testing"

	"gruppo/internal/coach"
)

// give and go: 1 passes to 2, runs, gets the ball back and carries it on.
func giveAndGo() coach.Drawing {
	return coach.Drawing{Floor: "handball", X: 20, Y: 0, Length: 20, Width: 20,
		Things: []coach.Thing{
			{Kind: "player", X: 24, Y: 10, No: 1},
			{Kind: "player", X: 30, Y: 10, No: 2},
			{Kind: "ball", X: 24.5, Y: 10.3},
			{Kind: "goal", X: 40.5, Y: 10},
			{Kind: "player", X: 38, Y: 10, Says: "goalkeeper"},
		},
		Marks: []coach.Trace{{Kind: "distance", Points: [][2]float64{{24, 12}, {30, 12}}}},
		Steps: []coach.DrawnStep{
			{Says: "Give", Traces: []coach.Trace{{Kind: "pass", Points: [][2]float64{{24.5, 10.3}, {30, 10}}}}},
			{
				Says: "and go",
				Traces: []coach.Trace{
					{Kind: "run", Points: [][2]float64{{24, 10}, {30, 6}}},
					{Kind: "pass", Points: [][2]float64{{30, 10}, {30.4, 6}}},
					{Kind: "carry", Points: [][2]float64{{30, 6}, {34, 8}}},
				},
			},
		}}
}

func TestWhoMovesAtEachStep(t *testing.T) {
	d := giveAndGo()
	if says := Check(d); says != "" {
		t.Fatal(says)
	}
	p := Work(d)
	if got := p.Places[1][2]; got != [2]float64{30, 10} {
		t.Errorf("after the pass the ball is at %v", got)
	}
	second := p.Moves[1]
	if !slices.Equal(second[0].Things, []int{0}) || !slices.Equal(second[1].Things, []int{2}) ||
		!slices.Equal(second[2].Things, []int{0, 2}) {
		t.Errorf("the runner, the ball, then the runner with the ball: %+v", second)
	}
	if second[0].Turn != 0 || second[1].Turn != 0 || second[2].Turn != 1 {
		t.Errorf("the run and the pass go together, the carry after both: %+v", second)
	}
	if end := p.Places[2]; end[0] != [2]float64{34, 8} || math.Hypot(end[2][0]-34, end[2][1]-8) > 1 ||
		end[1] != [2]float64{30, 10} {
		t.Errorf("at the end 1 has the ball by the goal and 2 stands: %v", end)
	}
	words := strings.Join(Words(d), " ")
	for _, want := range []string{"players 1 and 2", "goalkeeper", "A distance of 6 m", "Step 1, Give: player 1 passes", "to player 2", "player 1 moves with the ball"} {
		if !strings.Contains(words, want) {
			t.Errorf("the words lack %q: %s", want, words)
		}
	}
	d.Feet = true
	if words := strings.Join(Words(d), " "); !strings.Contains(words, "A distance of 20 ft") { // 6 m / 0.3048
		t.Error("no feet: " + words)
	}
}

// E. Catmull and R. Rom (1974): the curve goes through every point, with a tangent parallel to the line between its
// neighbours; points on a line stay on it.
func TestACurveGoesThroughItsPoints(t *testing.T) {
	points := [][2]float64{{0, 0}, {2, 3}, {5, 3}, {6, 0}}
	curve := Curve(points)
	if len(curve) != 3 {
		t.Fatalf("%d pieces", len(curve))
	}
	for i, c := range curve {
		if c[0] != points[i] || c[3] != points[i+1] {
			t.Errorf("piece %d leads from %v to %v", i, c[0], c[3])
		}
		if i > 0 {
			// the tangent; a Bézier's is three times its handle
			want := [2]float64{(points[i+1][0] - points[i-1][0]) / 2, (points[i+1][1] - points[i-1][1]) / 2}
			for k := range 2 {
				in, out := 3*(curve[i-1][3][k]-curve[i-1][2][k]), 3*(c[1][k]-c[0][k])
				if math.Abs(in-want[k]) > 1e-9 || math.Abs(out-want[k]) > 1e-9 {
					t.Errorf("at point %d the tangent is %g and %g, want %g", i, in, out, want[k])
				}
			}
		}
	}
	for _, c := range Curve([][2]float64{{0, 0}, {1, 1}, {5, 5}}) {
		for _, p := range c {
			if math.Abs(p[0]-p[1]) > 1e-9 {
				t.Errorf("%v left the line", p)
			}
		}
	}
}

func TestWhatCannotBeDrawnIsSaid(t *testing.T) {
	for says, change := range map[string]func(*coach.Drawing){
		`The floor "moon" is not known`:         func(d *coach.Drawing) { d.Floor = "moon" },
		"2 to 140 m long and wide":              func(d *coach.Drawing) { d.Length = math.NaN() },
		"at most 6 steps; this one has 7":       func(d *coach.Drawing) { d.Steps = make([]coach.DrawnStep, 7) },
		`Thing 1: the mark "dragon"`:            func(d *coach.Drawing) { d.Things[0].Kind = "dragon" },
		"Thing 2, a player, does not stand on":  func(d *coach.Drawing) { d.Things[1].X = math.Inf(1) },
		`step 1, line 1 the kind "teleport"`:    func(d *coach.Drawing) { d.Steps[0].Traces[0].Kind = "teleport" },
		"In mark 1 there are 2 to 12 points":    func(d *coach.Drawing) { d.Marks[0].Points = d.Marks[0].Points[:1] },
		`In mark 1 the kind "run" cannot be`:    func(d *coach.Drawing) { d.Marks[0].Kind = "run" },
		"at most 60 things; this one has 61":    func(d *coach.Drawing) { d.Things = make([]coach.Thing, 61) },
		"its size, turn, number or words canno": func(d *coach.Drawing) { d.Things[0].Says = strings.Repeat("x", 121) },
	} {
		d := giveAndGo()
		change(&d)
		if got := Check(d); !strings.Contains(got, says) {
			t.Errorf("want %q, got %q", says, got)
		}
	}
}

// Whatever a file says, a drawing that passes the check can be worked out, said and drawn.
func FuzzDrawing(f *testing.F) {
	b, _ := json.Marshal(giveAndGo())
	f.Add(b)
	f.Add(
		[]byte(
			`{"floor":"hall","l":6,"w":4,"things":[{"kind":"ball","x":1,"y":1}],"steps":[{"traces":[{"kind":"carry","points":[[1,1],[2,2]]}]}]}`,
		),
	)
	f.Add([]byte(`{"floor":"hall","l":1e308,"w":4,"things":null,"marks":[{"kind":"distance","points":[[1,1],[1,1]]}]}`))
	f.Fuzz(func(t *testing.T, b []byte) {
		var d coach.Drawing
		if json.Unmarshal(b, &d) != nil || Check(d) != "" {
			return
		}
		p := Work(d)
		if len(p.Places) != len(d.Steps)+1 || len(p.Moves) != len(d.Steps) {
			t.Fatalf("%d steps, %d places, %d moves", len(d.Steps), len(p.Places), len(p.Moves))
		}
		for _, at := range p.Places {
			for i, q := range at {
				if math.IsNaN(q[0]+q[1]) || math.Abs(q[0]) > 200 || math.Abs(q[1]) > 200 {
					t.Fatalf("thing %d is at %v", i, q)
				}
			}
		}
		if len(Words(d)) < 2 {
			t.Fatal("nothing is said of it")
		}
	})
}
