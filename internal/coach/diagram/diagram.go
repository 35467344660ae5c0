// Package diagram has the rules of a drill's drawing: what can be in one, who moves where at each step, and how to say
// it in words.
package diagram

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/say"
)

// Kind is something that can stand in a drawing.
type Kind struct {
	Name          string
	Length, Width float64 // usual size in metres; 0: it has none that matters
	Words         string  // for the legend
}

// Kinds in the order of the legend. The sizes are usual ones (common practice, no source), but for the goal's width and
// the beam, which are those of their floors.
var Kinds = []Kind{
	{"player", 0, 0, "player"},
	{"coach", 0, 0, "coach"},
	{"ball", 0, 0, "ball"},
	{"cone", 0, 0, "cone"},
	{"hoop", 0.8, 0.8, "hoop"},
	{"mat", 2, 1, "mat"},
	{"goal", 1, 3, "goal"},
	{"beam", 5, 0.1, "beam"},
	{"target", 0, 0, "target"},
	{"box", 0.9, 0.6, "box"},
	{"area", 4, 4, "area"},
}

// Ways are the traces in the order of the legend: the first five are steps, the last two marks.
var Ways = []struct{ Name, Words string }{
	{"run", "moves without the ball"},
	{"carry", "moves with the ball"},
	{"pass", "pass"},
	{"shot", "shot or throw at a target"},
	{"lift", "lifted ball"},
	{"line", "line on the floor"},
	{"distance", "distance"},
}

// KindOf finds a kind by its name.
func KindOf(name string) (Kind, bool) {
	i := slices.IndexFunc(Kinds, func(k Kind) bool { return k.Name == name })
	if i < 0 {
		return Kind{}, false
	}
	return Kinds[i], true
}

// Limits of a drawing.
const (
	MostSteps  = 6
	mostThings = 60
	mostTraces = 24
	mostPoints = 12
	mostWords  = 120
)

// reach is how near to a trace's start somebody has to be, to be the one who takes it, in metres.
const reach = 1.5

// hand is where a carried ball is seen, from its player: beside, not under.
var hand = [2]float64{0.45, 0.35}

// On is the floor a drawing is made on; a plain one is as large as what is shown. It is false for a floor that is not
// known.
func On(d coach.Drawing) (floor.Floor, bool) {
	known := slices.ContainsFunc(floor.Kinds(), func(f floor.Floor) bool { return f.Kind == d.Floor })
	return floor.Of(d.Floor, max(0, d.X)+d.Length, max(0, d.Y)+d.Width), known
}

// Size of a thing in metres.
func Size(t coach.Thing) (length, width float64) {
	k, _ := KindOf(t.Kind)
	length, width = t.Length, t.Width
	if length <= 0 {
		length = k.Length
	}
	if width <= 0 {
		width = k.Width
	}
	return length, width
}

// Check says what cannot be in a drawing, in a coach's words: the first thing found, or "".
func Check(d coach.Drawing) string {
	f, ok := On(d)
	switch {
	case !ok:
		return fmt.Sprintf("The floor %q is not known.", d.Floor)
	case !sound(d.X, -20, f.Length+20) || !sound(d.Y, -20, f.Width+20) || !sound(d.Length, 2, 140) || !sound(d.Width, 2, 140):
		return "The part of the floor that is shown is 2 to 140 m long and wide."
	case len(d.Things) > mostThings:
		return fmt.Sprintf("A drawing has at most %d things; this one has %d.", mostThings, len(d.Things))
	case len(d.Steps) > MostSteps:
		return fmt.Sprintf("A drawing has at most %d steps; this one has %d.", MostSteps, len(d.Steps))
	}
	for i, t := range d.Things {
		k, known := KindOf(t.Kind)
		switch {
		case !known:
			return fmt.Sprintf("Thing %d: the mark %q is not one of ours.", i+1, t.Kind)
		case !sound(t.X, -25, 165) || !sound(t.Y, -25, 165):
			return fmt.Sprintf("Thing %d, a %s, does not stand on any floor.", i+1, k.Words)
		case !sound(t.Length, 0, 140) || !sound(t.Width, 0, 140) || t.Turn < 0 || t.Turn >= 360 || t.No < 0 || t.No > 99 || long(t.Says):
			return fmt.Sprintf("Thing %d, a %s: its size, turn, number or words cannot be.", i+1, k.Words)
		}
	}
	if says := checkTraces(d.Marks, "mark", 5, len(Ways)); says != "" {
		return says
	}
	for i, s := range d.Steps {
		if long(s.Says) {
			return fmt.Sprintf("Step %d: at most %d characters.", i+1, mostWords)
		}
		if says := checkTraces(s.Traces, fmt.Sprintf("step %d, line", i+1), 0, 5); says != "" {
			return says
		}
	}
	return ""
}

func sound(x, low, high float64) bool { return x >= low && x <= high } // not a number is neither
func long(s string) bool              { return len([]rune(s)) > mostWords }

func checkTraces(ts []coach.Trace, where string, from, to int) string {
	if len(ts) > mostTraces {
		return fmt.Sprintf("At most %d lines at a time.", mostTraces)
	}
	for i, t := range ts {
		if k := slices.IndexFunc(Ways, func(w struct{ Name, Words string }) bool { return w.Name == t.Kind }); k < from ||
			k >= to {
			return fmt.Sprintf("In %s %d the kind %q cannot be.", where, i+1, t.Kind)
		}
		if len(t.Points) < 2 || len(t.Points) > mostPoints || long(t.Says) {
			return fmt.Sprintf(
				"In %s %d there are 2 to %d points and at most %d characters.",
				where,
				i+1,
				mostPoints,
				mostWords,
			)
		}
		for _, p := range t.Points {
			if !sound(p[0], -25, 165) || !sound(p[1], -25, 165) {
				return fmt.Sprintf("In %s %d a point is on no floor.", where, i+1)
			}
		}
	}
	return ""
}

// Move is one trace of a step with what goes along it.
type Move struct {
	Trace  int
	Things []int // indexes of things; empty: nothing is near its start
	Turn   int   // those with the same turn go at the same time, lower ones first
}

// Play is a drawing step by step.
type Play struct {
	Places [][][2]float64 // of every thing at the start of each step, and at the end
	Moves  [][]Move       // of each step
}

// Work finds who moves: at the start of a way without or with the ball the nearest player or coach, of a pass, shot or
// lift the nearest ball, not farther than 1.5 m; a player who moves with the ball takes the nearest ball along. Within
// a step the traces are taken in order, so that a pass can be caught and thrown on.
func Work(d coach.Drawing) Play {
	now := make([][2]float64, len(d.Things))
	for i, t := range d.Things {
		now[i] = [2]float64{t.X, t.Y}
	}
	p := Play{Places: [][][2]float64{slices.Clone(now)}}
	near := func(at [2]float64, kinds ...string) int {
		best, far := -1, reach
		for i, t := range d.Things {
			if slices.Contains(kinds, t.Kind) {
				if m := math.Hypot(now[i][0]-at[0], now[i][1]-at[1]); m <= far {
					best, far = i, m-1e-9
				}
			}
		}
		return best
	}
	for _, s := range d.Steps {
		var moves []Move
		free := make([]int, len(d.Things)) // the first turn in which a thing may move again
		for i, t := range s.Traces {
			if len(t.Points) < 2 {
				continue
			}
			m := Move{Trace: i}
			from, to := t.Points[0], t.Points[len(t.Points)-1]
			if t.Kind == "run" || t.Kind == "carry" {
				if who := near(from, "player", "coach"); who >= 0 {
					m.Things = append(m.Things, who)
				}
			}
			if t.Kind != "run" {
				if ball := near(from, "ball"); ball >= 0 {
					m.Things = append(m.Things, ball)
				}
			}
			for _, k := range m.Things {
				m.Turn = max(m.Turn, free[k])
			}
			for _, k := range m.Things {
				now[k] = to
				if t.Kind == "carry" && d.Things[k].Kind == "ball" && len(m.Things) > 1 {
					now[k] = [2]float64{to[0] + hand[0], to[1] + hand[1]}
				}
				free[k] = m.Turn + 1
			}
			moves = append(moves, m)
		}
		p.Moves = append(p.Moves, moves)
		p.Places = append(p.Places, slices.Clone(now))
	}
	return p
}

// Cubic is a piece of a curve: its start, two handles and its end.
type Cubic [4][2]float64

// Curve leads smoothly through the points: a uniform Catmull–Rom spline as cubic Bézier pieces (E. Catmull, R. Rom, A
// class of local interpolating splines, 1974: the tangent at a point is half the way from the one before it to the one
// after it).
func Curve(points [][2]float64) (out []Cubic) {
	at := func(i int) [2]float64 { return points[min(max(i, 0), len(points)-1)] }
	for i := 0; i+1 < len(points); i++ {
		a, b, c, d := at(i-1), at(i), at(i+1), at(i+2)
		out = append(
			out,
			Cubic{b, {b[0] + (c[0]-a[0])/6, b[1] + (c[1]-a[1])/6}, {c[0] - (d[0]-b[0])/6, c[1] - (d[1]-b[1])/6}, c},
		)
	}
	return out
}

// Metres is how long the way through the points is, straight from each to the next.
func Metres(points [][2]float64) (m float64) {
	for i := 1; i < len(points); i++ {
		m += math.Hypot(points[i][0]-points[i-1][0], points[i][1]-points[i-1][1])
	}
	return m
}

// Said is a length in the drawing's unit.
func Said(d coach.Drawing, metres float64) string {
	if d.Feet {
		return coach.Figure(math.Round(metres/floor.Foot)) + " ft"
	}
	if metres >= 10 {
		return coach.Figure(math.Round(metres)) + " m"
	}
	return coach.Figure(math.Round(metres*2)/2) + " m"
}

// Words says the drawing for those who cannot see it: what stands where, and what happens.
func Words(d coach.Drawing) []string {
	f, _ := On(d)
	out := []string{
		fmt.Sprintf("%s, seen from above: %s by %s of it.", f.Name, Said(d, d.Length), Said(d, d.Width)),
		stand(d),
	}
	for _, m := range d.Marks {
		if m.Kind == "distance" {
			out = append(out, upper(strings.TrimSpace("a distance of "+Said(d, Metres(m.Points))+" "+m.Says))+".")
		}
	}
	play := Work(d)
	for i, s := range d.Steps {
		line := fmt.Sprintf("Step %d", i+1)
		if s.Says != "" {
			line += ", " + s.Says
		}
		var said []string
		for k, t := range s.Traces {
			if k < len(play.Moves[i]) {
				said = append(said, does(d, play.Places[i], play.Moves[i][k], t))
			}
		}
		if len(said) > 0 {
			line += ": " + strings.Join(said, "; ")
		}
		out = append(out, line+".")
	}
	return out
}

// stand says what is there at the start, like things together.
func stand(d coach.Drawing) string {
	var parts []string
	for _, k := range Kinds {
		var numbers, roles []string
		n := 0
		for _, t := range d.Things {
			if t.Kind != k.Name {
				continue
			}
			n++
			switch {
			case k.Name == "player" && t.Says != "":
				roles = append(roles, t.Says)
			case k.Name == "player" && t.No > 0:
				numbers = append(numbers, fmt.Sprint(t.No))
			}
		}
		plain := n - len(numbers) - len(roles)
		if len(numbers) > 0 {
			parts = append(parts, say.Verb(len(numbers), "player ", "players ")+say.List(numbers))
		}
		parts = append(parts, roles...)
		if plain > 0 {
			parts = append(parts, say.Count(plain, k.Words))
		}
	}
	if len(parts) == 0 {
		return "Nothing is drawn yet."
	}
	return "There are " + say.List(parts) + "."
}

func does(d coach.Drawing, at [][2]float64, m Move, t coach.Trace) string {
	who := "somebody"
	if t.Kind == "pass" || t.Kind == "shot" || t.Kind == "lift" {
		who = "the ball"
		best := reach
		for i, th := range d.Things { // a ball is said to come from whoever is nearest to it
			if far := math.Hypot(at[i][0]-t.Points[0][0], at[i][1]-t.Points[0][1]); (th.Kind == "player" || th.Kind == "coach") &&
				far < best {
				who, best = called(th), far
			}
		}
	} else if len(m.Things) > 0 {
		who = called(d.Things[m.Things[0]])
	}
	verb := map[string]string{"run": "moves", "carry": "moves with the ball", "pass": "passes", "shot": "throws at the target", "lift": "lifts the ball"}[t.Kind]
	if who == "the ball" {
		verb = "comes"
	}
	from, to := t.Points[0], t.Points[len(t.Points)-1]
	says := fmt.Sprintf("%s %s %s %s", who, verb, Said(d, Metres(t.Points)), towards(to[0]-from[0], to[1]-from[1]))
	best, end := reach, ""
	for i, th := range d.Things {
		if far := math.Hypot(at[i][0]-to[0], at[i][1]-to[1]); far < best && th.Kind != "ball" && th.Kind != "area" &&
			called(th) != who {
			best, end = far, called(th)
		}
	}
	if end != "" {
		says += " to " + end
	}
	if t.Says != "" {
		says += ", " + t.Says
	}
	return says
}

func called(t coach.Thing) string {
	k, _ := KindOf(t.Kind)
	switch {
	case t.Kind == "player" && t.No > 0:
		return fmt.Sprintf("player %d", t.No)
	case t.Kind == "player" && t.Says != "":
		return "the " + t.Says
	}
	return "the " + k.Words
}

// towards is the direction on the page in eight words.
func towards(dx, dy float64) string {
	eighth := int(math.Round(math.Atan2(dy, dx)/(math.Pi/4))+8) % 8
	return []string{"to the right", "down to the right", "down", "down to the left", "to the left", "up to the left", "up", "up to the right"}[eighth]
}

func upper(s string) string { return strings.ToUpper(s[:1]) + s[1:] }
