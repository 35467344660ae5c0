package rotate

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
)

func stations(t testing.TB, a Asked) Plan {
	t.Helper()
	p, err := Stations(a)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// A cyclic Latin square (L. Euler, 1782): each station once a round, each group at each station once.
func TestNobodyMeetsAndNobodyIsForgotten(t *testing.T) {
	for groups := 1; groups <= 7; groups++ {
		for places := 1; places <= 7; places++ {
			ring := max(groups, places)
			p := stations(t, Asked{Groups: groups, Stations: places, Rounds: ring})
			for r := range ring {
				taken := map[int]int{}
				for g := range groups {
					s := p.Route[g][r]
					if other, twice := taken[s]; twice && s != Rest {
						t.Errorf(
							"%d groups, %d stations: groups %d and %d meet at station %d in round %d",
							groups,
							places,
							other,
							g,
							s,
							r,
						)
					}
					taken[s] = g
				}
			}
			for g := range groups {
				seen, rests := map[int]bool{}, 0
				for _, s := range p.Route[g] {
					if s == Rest {
						rests++
					} else if seen[s] {
						t.Errorf("%d groups, %d stations: group %d is at station %d twice", groups, places, g, s)
					}
					seen[s] = true
				}
				if rests != ring-places && groups > places || rests != 0 && groups <= places {
					t.Errorf("%d groups, %d stations: group %d rests %d times", groups, places, g, rests)
				}
			}
			if !p.Ring {
				t.Errorf(
					"%d groups, %d stations: not everyone moves on by one though nothing speaks against it",
					groups,
					places,
				)
			}
		}
	}
}

func TestTheRotationAvoidsHardInARowThenLongWalks(t *testing.T) {
	// Corners of a 10 m square given crosswise: the short way goes round the edge.
	corner := [][2]float64{{0, 0}, {10, 10}, {10, 0}, {0, 10}}
	walk := make([][]float64, 4)
	for i := range walk {
		walk[i] = make([]float64, 4)
		for j := range walk[i] {
			walk[i][j] = max(corner[i][0]-corner[j][0], corner[j][0]-corner[i][0]) + max(
				corner[i][1]-corner[j][1],
				corner[j][1]-corner[i][1],
			)
		}
	}
	if p := stations(t, Asked{Groups: 4, Stations: 4, Rounds: 4, Walk: walk}); p.Longest != 10 || !p.Ring {
		t.Errorf("longest walk %v, want the edge of 10", p.Longest)
	}
	p := stations(t, Asked{Groups: 4, Stations: 4, Rounds: 4, Walk: walk, Hard: []bool{true, false, true, false}})
	if p.HardRow != 0 || p.Longest != 20 {
		t.Errorf("%d hard ones in a row, longest %v: avoiding them asks for the long way", p.HardRow, p.Longest)
	}
}

// seeded makes a case of up to 5 × 5 × 5 with musts of every kind.
func seeded(seed uint64) Asked {
	rng := rand.New(rand.NewPCG(seed, 3))
	a := Asked{Groups: 1 + rng.IntN(4), Stations: 2 + rng.IntN(3)}
	if seed%10 == 0 {
		a.Groups, a.Stations = 5, 4+rng.IntN(2)
	}
	a.Rounds = min(5, max(1, max(a.Groups, a.Stations)-rng.IntN(2)))
	a.Walk = make([][]float64, a.Stations)
	for i := range a.Walk {
		a.Walk[i] = make([]float64, a.Stations)
		a.Hard = append(a.Hard, rng.IntN(3) == 0)
		a.Double = append(a.Double, seed%10 != 0 && rng.IntN(6) == 0)
		for j := range i {
			a.Walk[i][j] = float64(rng.IntN(30))
			a.Walk[j][i] = a.Walk[i][j]
		}
	}
	for range rng.IntN(4) {
		s, o := rng.IntN(a.Stations), rng.IntN(a.Stations)
		m := Must{
			Kind:    MustKind(rng.IntN(4)),
			Station: s,
			Other:   o,
			Round:   rng.IntN(a.Rounds),
			Group:   rng.IntN(a.Groups),
			Any:     []int{s, o},
		}
		if m.Kind == Before && s == o {
			continue
		}
		m.Says = fmt.Sprint(m)
		a.Must = append(a.Must, m)
	}
	return a
}

// tryAll lays every table of routes there is, without any of the search's short cuts, and returns the best cost.
func tryAll(a Asked) (best cost, found bool) {
	s := newSearch(a)
	var round func(r int)
	var group func(r, g int)
	rests := func(r, g int) (n int) {
		for i := range g {
			if s.route[i][r] == Rest {
				n++
			}
		}
		return n
	}
	group = func(r, g int) {
		if rests(r, g) > s.idle {
			return
		}
		if g == a.Groups {
			if rests(r, g) == s.idle {
				round(r + 1)
			}
			return
		}
		for to := Rest; to < a.Stations; to++ {
			twice := 0
			for i := range g {
				if to != Rest && s.route[i][r] == to {
					twice++
				}
			}
			for i := range r {
				if to != Rest && s.route[g][i] == to && s.most == 1 {
					twice = 9
				}
			}
			if to == Rest || twice < s.holds(to) {
				s.route[g][r] = to
				group(r, g+1)
			}
		}
	}
	round = func(r int) {
		if r == a.Rounds {
			if c, ok := s.weigh(); ok && (!found || c.compare(best) < 0) {
				best, found = c, true
			}
			return
		}
		group(r, 0)
	}
	round(0)
	return best, found
}

func TestRotationIsTheBestOfAll(t *testing.T) {
	impossible := 0
	for seed := range uint64(50) {
		a := seeded(seed)
		want, can := tryAll(a)
		p, err := Stations(a)
		var clash *Clash
		if errors.As(err, &clash) {
			impossible++
			if can {
				t.Errorf("case %d: refused (%v), though it can be done", seed, err)
			}
			smallest(t, a, clash)
			continue
		}
		got := cost{p.HardRow, int(p.Longest*1000 + 0.5), int(p.Walked*1000 + 0.5), !p.Ring}
		if !can || got.compare(want) != 0 || !p.Best {
			t.Errorf(
				"case %d (%d groups, %d stations, %d rounds, %d musts): %+v, the best of all is %+v",
				seed,
				a.Groups,
				a.Stations,
				a.Rounds,
				len(a.Must),
				got,
				want,
			)
		}
	}
	if impossible < 3 || impossible > 40 {
		t.Errorf("%d of the cases cannot be done: the cases tell little", impossible)
	}
}

// smallest checks that the clashing musts cannot hold and that without any one of them the others can.
func smallest(t *testing.T, a Asked, c *Clash) {
	t.Helper()
	only := func(skip int) Asked {
		b := a
		b.Must = nil
		for _, i := range c.Must {
			if i != skip {
				b.Must = append(b.Must, a.Must[i])
			}
		}
		return b
	}
	if _, can := tryAll(only(-1)); can {
		t.Errorf("%v can hold together", c)
	}
	for _, i := range c.Must {
		if _, can := tryAll(only(i)); !can {
			t.Errorf("%v: more than the smallest set", c)
		}
	}
}

func TestTheClashIsSaidInACoachsWords(t *testing.T) {
	a := Asked{Groups: 3, Stations: 3, Rounds: 3, Must: []Must{
		{Kind: Reach, Any: []int{0}, Says: "Ines sees everyone"},
		{Kind: Never, Group: 1, Station: 0, Says: "Squares do not jump"},
	}}
	_, err := Stations(a)
	var clash *Clash
	if !errors.As(err, &clash) || !slices.Equal(clash.Must, []int{1}) ||
		!strings.Contains(err.Error(), "Squares do not jump") {
		t.Errorf("three groups everywhere, one not at station 1: %v", err)
	}
	a.Stations = 4 // now Squares could stay away, but not be seen as well
	if _, err = Stations(a); !errors.As(err, &clash) || len(clash.Must) != 2 {
		t.Errorf("the two clash together: %v", err)
	}
}

func pairsMet(turns []Turn) map[[2]int]int {
	met := map[[2]int]int{}
	for _, t := range turns {
		for _, p := range t.Pairs {
			met[[2]int{min(p[0], p[1]), max(p[0], p[1])}]++
		}
	}
	return met
}

func restsOf(n int, turns []Turn) []int {
	rests := make([]int, n)
	for _, t := range turns {
		for _, i := range t.Rests {
			rests[i]++
		}
	}
	return rests
}

// Exact counting; no published source.
func TestMovingOnOne(t *testing.T) {
	for n, want := range map[int]int{9: 36, 8: 16, 12: 36, 7: 21, 5: 10} {
		turns := Partners(MoveOn, n, n, nil, 0)
		if got := len(pairsMet(turns)); got != want {
			t.Errorf("%d on the ring: %d pairs, want %d", n, got, want)
		}
		if rests := restsOf(n, turns); slices.Min(rests) != slices.Max(rests) {
			t.Errorf("%d on the ring rest %v", n, rests)
		}
		if n%2 == 0 && fmt.Sprint(pairsMet(turns[:n/2])) != fmt.Sprint(pairsMet(turns[n/2:])) {
			t.Errorf("%d on the ring do not repeat after %d rounds", n, n/2)
		}
	}
}

// The Berger table for six, FIDE Handbook C.05 (General regulations for competitions, Annex: pairing tables): the same
// pairs a round, in any order of rounds.
func TestOneStaysIsTheBergerTable(t *testing.T) {
	canon := func(rounds [][][2]int) (out []string) {
		for _, pairs := range rounds {
			var ps []string
			for _, p := range pairs {
				ps = append(ps, fmt.Sprint(min(p[0], p[1]), "-", max(p[0], p[1])))
			}
			slices.Sort(ps)
			out = append(out, strings.Join(ps, " "))
		}
		slices.Sort(out)
		return out
	}
	table := [][][2]int{
		{{1, 6}, {2, 5}, {3, 4}},
		{{6, 4}, {5, 3}, {1, 2}},
		{{2, 6}, {3, 1}, {4, 5}},
		{{6, 5}, {1, 4}, {2, 3}},
		{{3, 6}, {4, 2}, {5, 1}},
	}
	var got [][][2]int
	for _, turn := range Partners(OneStays, 6, 5, nil, 0) {
		var pairs [][2]int
		for _, p := range turn.Pairs {
			pairs = append(pairs, [2]int{p[0] + 1, p[1] + 1})
		}
		got = append(got, pairs)
	}
	if g, w := canon(got), canon(table); !slices.Equal(g, w) {
		t.Errorf("one stays for six:\n%v\nBerger:\n%v", g, w)
	}
	for n := 2; n <= 17; n++ {
		rounds := n - 1 + n%2
		turns := Partners(OneStays, n, rounds, nil, 0)
		if got := len(pairsMet(turns)); got != n*(n-1)/2 {
			t.Errorf("%d: %d of %d pairs in %d rounds", n, got, n*(n-1)/2, rounds)
		}
	}
}

func TestFewestRepeatsKnowsTheHistory(t *testing.T) {
	const n = 8
	met := make([][]float64, n)
	for i := range met {
		met[i] = make([]float64, n)
	}
	for p := range pairsMet(Partners(OneStays, n, 4, nil, 0)) { // four rounds were played last week
		met[p[0]][p[1]] = 1
	}
	for p := range pairsMet(Partners(Fewest, n, 3, met, 5)) { // the other three must be found
		if met[p[0]][p[1]] > 0 {
			t.Errorf("%v meet again, though all could be new", p)
		}
	}
}

func TestWinnersStayAndRestsAreFair(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 4))
	for n := 3; n <= 13; n++ {
		for places := 1; places <= n/2; places++ {
			var turns []Turn
			var won []int
			for range 3 * n {
				turn := Next(n, places, turns, won)
				seen := map[int]bool{}
				for _, p := range turn.Pairs {
					seen[p[0]], seen[p[1]] = true, true
				}
				for _, i := range turn.Rests {
					seen[i] = true
				}
				if len(turn.Pairs) != places || len(seen) != n {
					t.Fatalf("%d players, %d places: %v", n, places, turn)
				}
				turns = append(turns, turn)
				won = won[:0]
				for range turn.Pairs {
					won = append(won, rng.IntN(2))
				}
				if rests := restsOf(n, turns); slices.Max(rests)-slices.Min(rests) > 1 {
					t.Fatalf("%d players, %d places: rests %v", n, places, rests)
				}
			}
		}
	}
	// With room for all nobody rests: the winner of place 1 stays, the loser of place 2 comes.
	if next := Next(4, 2, []Turn{{Pairs: [][2]int{{0, 1}, {2, 3}}}}, []int{0, 1}); fmt.Sprint(
		next.Pairs,
	) != "[[0 2] [3 1]]" {
		t.Errorf("after 0 beat 1 and 3 beat 2: %v", next.Pairs)
	}
}

func TestGamesUseEveryone(t *testing.T) {
	for n := 4; n <= 24; n++ {
		games := Games(n, 40, 20, 2)
		if len(games) == 0 {
			t.Errorf("no game for %d", n)
			continue
		}
		for _, g := range games {
			if g.Areas*(g.On()+g.Reserves)+g.More != n || g.A < g.B {
				t.Errorf("%d players: %v", n, g)
			}
		}
		if games[0].Reserves > 0 {
			t.Errorf("%d players: %v leaves somebody out at once", n, games[0])
		}
	}
	if g := Games(8, 40, 20, 0)[0]; g.String() != "2 areas of 2 v 2" || g.MetresEach != 100 {
		t.Errorf("8 players: %v with %v m² each", g, g.MetresEach)
	}
}

func ExampleStations() {
	p, _ := Stations(Asked{Groups: 3, Stations: 3, Rounds: 3})
	fmt.Println(p.Route, p.Because)
	// Output: [[0 1 2] [1 2 0] [2 0 1]] everyone moves on by one
}

func BenchmarkStations(b *testing.B) {
	for _, c := range []struct {
		name string
		a    Asked
	}{{"6 x 6", Asked{Groups: 6, Stations: 6, Rounds: 6, Hard: make([]bool, 6), Must: []Must{{Kind: Reach, Any: []int{2}}}}}, {"5 x 5 with musts", seeded(10)}, {"8 x 8", Asked{Groups: 8, Stations: 8, Rounds: 8}}} {
		b.Run(c.name, func(b *testing.B) {
			b.ReportAllocs()
			c.a.Walk = make([][]float64, c.a.Stations)
			for i := range c.a.Walk {
				c.a.Walk[i] = make([]float64, c.a.Stations)
				for j := range c.a.Walk[i] {
					c.a.Walk[i][j] = float64((i*7+j*7)%11 + 3)
				}
			}
			for b.Loop() {
				_, _ = Stations(c.a) // a refusal takes its time as well
			}
		})
	}
}

func BenchmarkPartners(b *testing.B) {
	met := make([][]float64, 30)
	for i := range met {
		met[i] = make([]float64, 30)
		met[i][(i+7)%30] = 1
	}
	for _, way := range []Way{MoveOn, OneStays, Fewest} {
		b.Run(string(way), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				Partners(way, 30, 12, met, 1)
			}
		})
	}
}

func BenchmarkGames(b *testing.B) {
	b.ReportAllocs()
	for b.Loop() {
		Games(22, 40, 20, 2)
	}
}

// Everybody who plays shares the floor, the floaters that some areas have more included: arithmetic, no source.
func TestMetresAreSharedByAllWhoPlay(t *testing.T) {
	for _, c := range []struct {
		players       int
		length, width float64
		game          Game
		want          float64
	}{{14, 60, 40, Game{Areas: 3, A: 2, B: 2, More: 2}, 171}, {9, 40, 20, Game{Areas: 2, A: 2, B: 2, More: 1}, 89}} {
		found := false
		for _, g := range Games(c.players, c.length, c.width, 1) {
			if g.Areas == c.game.Areas && g.A == c.game.A && g.B == c.game.B && g.More == c.game.More &&
				g.Floaters+g.Walls+g.Reserves == 0 {
				found = true
				if math.Round(g.MetresEach) != c.want {
					t.Errorf(
						"%v for %d on %g × %g: %.1f m² each, want %g",
						g,
						c.players,
						c.length,
						c.width,
						g.MetresEach,
						c.want,
					)
				}
			}
		}
		if !found {
			t.Errorf("no %v among the games for %d", c.game, c.players)
		}
	}
}
