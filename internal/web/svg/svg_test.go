package svg_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/web/svg"
)

// Two halves with stations and groups of their own: on paper each has its floor, with the groups that come to it at its
// stations; on the Strip each group has the rounds of its half alone, inside its block.
func TestEachHalfHasItsFloorAndItsRows(t *testing.T) {
	in := plantest.Tuesday(t)
	in.Plan.Deals = append(in.Plan.Deals, doc.Deal{ID: "d2", Way: deal.Mixed, Groups: 2})
	in.Plan.Blocks[3] = doc.Block{ID: "b4", Kind: doc.Stations, Title: "Second half", Circuit: &doc.Circuit{
		Stations: []doc.Station{{Drill: "wall", Edition: 1}, {Drill: "feint", Edition: 3}}, Work: 300, Deal: "d2",
	}}
	in.Plan.Name()
	if err := in.DealOut(); err != nil {
		t.Fatal(err)
	}
	pic := check.Plan(in)
	floors := svg.Floors(pic, coach.Metric)
	if len(floors) != 2 || len(floors[0].Stations) != 3 || len(floors[1].Stations) != 2 {
		t.Fatalf("%d floors", len(floors))
	}
	for half, f := range floors {
		if len(f.Tokens) != []int{3, 2}[half] {
			t.Errorf("%d groups on the floor of half %d", len(f.Tokens), half+1)
		}
		for _, token := range f.Tokens {
			at := slices.ContainsFunc(f.Stations, func(s svg.StationView) bool {
				return token.X > s.X && token.X < s.X+s.W && token.Y > s.Y && token.Y < s.Y+s.H+30
			})
			if !at {
				t.Errorf("the %s stand at %.0f, %.0f, at no station of half %d", token.Shape.Many(), token.X, token.Y, half+1)
			}
		}
	}
	strip := svg.Strip(pic.Picture)
	for _, row := range strip.Rows {
		block := strip.Blocks[slices.IndexFunc(strip.Blocks, func(b svg.BarView) bool {
			return b.Kind == string(doc.Stations) && (b.ID == "b4") == (row.Group > 2)
		})]
		if len(row.Bars) != []int{3, 2}[min(1, row.Group/3)] {
			t.Errorf("the %s have %d rounds", row.Shape.Many(), len(row.Bars))
		}
		for _, bar := range row.Bars {
			if bar.X < block.X || bar.X+bar.W > block.X+block.W+4 || strings.Contains(bar.Full, "rest") {
				t.Errorf("%s lies outside its half", bar.Full)
			}
		}
	}
}

// Who stands inside a station stands between its sides, two abreast at the least; and on the bench no group stands on
// another.
func TestPlayersStandBetweenTheSidesOfTheirStation(t *testing.T) {
	looked := 0
	for seed := range uint64(60) {
		pic := check.Plan(plantest.Input(seed))
		for i, f := range svg.Floors(pic, coach.Metric) {
			if len(pic.Circuits) == 0 || len(pic.Circuits[i].At) == 0 {
				continue
			}
			for _, token := range f.Tokens {
				at := pic.Groups[token.Group].Route[pic.Circuits[i].At[0]]
				for _, s := range f.Stations {
					if at < 0 || s.ID != pic.Stations[at].ID || s.W < 36 || token.Y >= s.Y+s.H || len(token.Dots) > 12 {
						continue // it rests, stands elsewhere, or below what is written; or is a crowd
					}
					looked++
					for _, dot := range token.Dots {
						if dot[0] < -s.W/2 || dot[0] > s.W/2 {
							t.Errorf("seed %d: %s reach %.0f from the middle of a station %.0f wide", seed, token.Shape.Many(), dot[0], s.W)
						}
					}
				}
			}
		}
		f := svg.Floor(pic, coach.Metric)
		for i, a := range f.Tokens {
			for j, b := range f.Tokens[:i] {
				if pic.Groups[i].Deal == pic.Groups[j].Deal && overlap(f.Bench[i], a.Dots, f.Bench[j], b.Dots) {
					t.Errorf("seed %d: %s stand on %s on the bench", seed, a.Shape.Many(), b.Shape.Many())
				}
			}
		}
	}
	if looked < 100 {
		t.Errorf("only %d groups at a station", looked)
	}
}

// overlap reports whether players of two groups stand closer to each other than those of one do.
func overlap(at [2]float64, a [][2]float64, on [2]float64, b [][2]float64) bool {
	for _, p := range a {
		for _, q := range b {
			if math.Hypot(at[0]+p[0]-on[0]-q[0], at[1]+p[1]-on[1]-q[1]) < 17 {
				return true
			}
		}
	}
	return false
}

// A drawing that came from a club that reads metres is read in feet where the club does, and the other way about.
func TestADrawingIsReadAsTheClubReadsLengths(t *testing.T) {
	d := coach.Drawing{
		Floor: "hall", Length: 10, Width: 6, Feet: true, Marks: []coach.Trace{{Kind: "distance", Points: [][2]float64{{1, 1}, {4, 1}}}},
	}
	for units, want := range map[coach.Units]string{coach.Metric: "3 m", coach.Imperial: "10 ft"} {
		v := svg.Drawing(d, units, 500, 350, -1, false)
		if v.Marks[0].Text != want || !strings.Contains(strings.Join(v.Words, " "), "A distance of "+want) {
			t.Errorf("%s: %q, %q", units, v.Marks[0].Text, v.Words)
		}
	}
}

// The floor has a court for each pair that plays at once, as many as there are courts or room for, side by side on it.
func TestPairsHaveTheirCourtsOnTheFloor(t *testing.T) {
	in := plantest.Tuesday(t)
	in.Plan.Blocks = append(in.Plan.Blocks, doc.Block{ID: "b9", Kind: doc.Pairs, Title: "Pairs", Minutes: 10, Turn: 120, Drill: "wall", Edition: 1})
	if err := in.DealOut(); err != nil {
		t.Fatal(err)
	}
	floor := svg.Floor(check.Plan(in), coach.Metric)
	if len(floor.Courts) != 1 || floor.Courts[0].Block != "b9" || len(floor.Courts[0].Boxes) != len(in.Players)/2 {
		t.Fatalf("%d players have %+v", len(in.Players), floor.Courts)
	}
	for i, b := range floor.Courts[0].Boxes {
		if b.X < floor.Margin || b.X+b.W > floor.W || b.Y < floor.Margin || b.Y+b.H > floor.Edge {
			t.Errorf("court %s reaches beyond the floor: %+v", b.Name, b)
		}
		for _, o := range floor.Courts[0].Boxes[:i] {
			if b.X < o.X+o.W && o.X < b.X+b.W && b.Y < o.Y+o.H && o.Y < b.Y+b.H {
				t.Errorf("courts %s and %s lie over each other", o.Name, b.Name)
			}
		}
	}
	in.Plan.Blocks[len(in.Plan.Blocks)-1].Pairing = &doc.Pairing{Courts: 2}
	if few := svg.Floor(check.Plan(in), coach.Metric); len(few.Courts[0].Boxes) != 2 {
		t.Errorf("on two courts: %+v", few.Courts[0].Boxes)
	}
}

// Before the first drill is chosen stations take no time: their marks on the Strip, however many follow each other, cover
// no word of their neighbours and not one another.
func TestBlocksOfNoTimeCoverNothing(t *testing.T) {
	in := plantest.Tuesday(t)
	for more := range 4 {
		in.Plan = doc.Start(in.Booked, coach.BallGames)
		at := slices.IndexFunc(in.Plan.Blocks, func(b doc.Block) bool { return b.Kind == doc.Stations })
		for range more {
			in.Plan.Blocks = slices.Insert(in.Plan.Blocks, at, doc.Block{Kind: doc.Stations, Title: "Stations", Circuit: &doc.Circuit{}})
		}
		in.Plan.Name()
		bars := svg.Strip(check.Plan(in).Picture).Blocks
		if len(bars) != len(in.Plan.Blocks) {
			t.Fatalf("%d bars of %d blocks", len(bars), len(in.Plan.Blocks))
		}
		slices.SortFunc(bars, func(a, b svg.BarView) int { return a.Index - b.Index })
		for i, b := range bars[1:] {
			if before := bars[i]; before.X+before.W > b.X+0.01 {
				t.Errorf("with %d more: %q ends at %.1f, %q begins at %.1f", more, before.Full, before.X+before.W, b.Full, b.X)
			}
		}
	}
}
