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
	Goals                           int     `json:",omitempty"` // goals or targets of an area
	Defends                         Defence `json:",omitempty"`
	Length, Width                   float64 `json:",omitempty"` // metres of an area; 0: what the floor gives
}

// Defence is how much those who defend do: steps of one game.
type Defence string

const (
	Active  Defence = ""        // all they can
	Half    Defence = "half"    // they close ways, but take nothing off anybody
	Passive Defence = "passive" // they stand in the way
)

// String is it in a coach's words.
func (d Defence) String() string {
	return map[Defence]string{Half: "defending by half", Passive: "defenders only in the way"}[d]
}

// Steps are the same players as one game after the other: more in attack, even, more in defence. Of an odd number the
// even one has a floater.
func (g Game) Steps() []Game {
	on := g.A + g.B + g.Floaters
	step := func(a, b, floaters int) Game {
		g.A, g.B, g.Floaters = a, b, floaters
		return g
	}
	if on < 3 {
		return nil
	}
	more := on/2 + 1
	return []Game{step(more, on-more, 0), step(on/2, on/2, on%2), step(on-more, more, 0)}
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
	if g.Goals > 0 {
		s += fmt.Sprintf(" on %d goals", g.Goals)
	}
	if g.Defends != Active {
		s += ", " + g.Defends.String()
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
