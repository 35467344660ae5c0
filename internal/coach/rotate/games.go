package rotate

import (
	"fmt"
	"slices"
)

// Game is a way to put players into so many areas alike: sides of A and B, floaters who play with whoever has the ball,
// wall players who may touch once, and reserves who swap in at any time. In More of the areas there is one floater
// more.
type Game struct {
	Areas, More                     int
	A, B, Floaters, Walls, Reserves int
	Touches                         int     `json:",omitempty"` // of a wall player; 0: one
	Swap                            int     `json:",omitempty"` // seconds between two signals to swap; 0: so that all play alike
	MetresEach                      float64 // square metres for each who is on
}

// On is how many play at once in an area.
func (g Game) On() int { return g.A + g.B + g.Floaters + g.Walls }

// Players are all that a game is for: on the areas, in reserve, and one more where that is so.
func (g Game) Players() int { return g.Areas*(g.On()+g.Reserves) + g.More }

// String is the game in a coach's words: "2 areas of 4 v 4 + 1 floater".
func (g Game) String() string {
	s := fmt.Sprintf("%d v %d", g.A, g.B)
	for _, x := range []struct {
		n    int
		what string
	}{{g.Floaters, "floater"}, {g.Walls, "wall player"}, {g.Reserves, "reserve"}} {
		if x.n == 1 {
			s += " + 1 " + x.what
		} else if x.n > 1 {
			s += fmt.Sprintf(" + %d %ss", x.n, x.what)
		}
	}
	if g.Areas > 1 {
		s = fmt.Sprintf("%d areas of %s", g.Areas, s)
	}
	switch {
	case g.More == 1:
		s += ", one with a floater more"
	case g.More > 1:
		s += fmt.Sprintf(", %d with a floater more", g.More)
	}
	return s
}

// Limits of a small game: common practice, no source.
const (
	mostSide     = 7
	mostFloaters = 2
	mostWalls    = 4
	mostReserves = 3
)

// Games lists every way for n players on areas alike within length × width metres that uses everyone, best first:
// nobody waits, even sides, few extra roles, more areas (more touches for each). Sides differ by at most most-uneven
// players, so that extra attackers or defenders can be asked for.
func Games(n int, length, width float64, uneven int) []Game {
	var out []Game
	for areas := 1; areas <= 4; areas++ {
		each := n / areas
		for a := 1; a <= mostSide; a++ {
			for b := max(1, a-uneven); b <= a; b++ {
				for f := range mostFloaters + 1 {
					for w := range mostWalls + 1 {
						if r := each - a - b - f - w; r >= 0 && r <= mostReserves {
							g := Game{Areas: areas, More: n % areas, A: a, B: b, Floaters: f, Walls: w, Reserves: r}
							g.MetresEach = length * width / float64(areas*g.On()+g.More)
							out = append(out, g)
						}
					}
				}
			}
		}
	}
	worth := func(g Game) int {
		w := 40*g.Reserves + 12*(g.A-g.B) + 6*g.Floaters + 9*g.Walls + 6*g.More - 5*g.Areas
		if g.A < 2 {
			w += 30
		}
		if g.A > 5 {
			w += 4 * (g.A - 5)
		}
		return w
	}
	slices.SortStableFunc(out, func(a, b Game) int { return worth(a) - worth(b) })
	return out
}
