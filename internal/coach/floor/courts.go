package floor

import "math"

// Exact by definition.
const (
	Foot = 0.3048
	Yard = 0.9144
)

// court gathers lines in the coordinates of a floor.
type court struct{ lines []Line }

func (c *court) line(x1, y1, x2, y2 float64) {
	c.lines = append(c.lines, Line{X1: x1, Y1: y1, X2: x2, Y2: y2})
}

func (c *court) box(x, y, l, w float64) {
	c.line(x, y, x+l, y)
	c.line(x+l, y, x+l, y+w)
	c.line(x+l, y+w, x, y+w)
	c.line(x, y+w, x, y)
}

func (c *court) arc(x1, y1, x2, y2, r float64, clockwise, dashed bool) {
	c.lines = append(
		c.lines,
		Line{X1: x1, Y1: y1, X2: x2, Y2: y2, Arc: true, Radius: r, Sweep: clockwise, Dashed: dashed},
	)
}

func (c *court) circle(x, y, r float64) {
	c.arc(x-r, y, x+r, y, r, true, false)
	c.arc(x+r, y, x-r, y, r, true, false)
}

// rounded is a box with round corners.
func (c *court) rounded(l, w, r float64) {
	c.line(r, 0, l-r, 0)
	c.line(l, r, l, w-r)
	c.line(l-r, w, r, w)
	c.line(0, w-r, 0, r)
	c.arc(l-r, 0, l, r, r, true, false)
	c.arc(l, w-r, l-r, w, r, true, false)
	c.arc(r, w, 0, w-r, r, true, false)
	c.arc(0, r, r, 0, r, true, false)
}

// ends calls f for both ends: at(d) is d metres in from the end, sweep the turn that bends into the court.
func ends(l float64, f func(at func(d float64) float64, left bool)) {
	f(func(d float64) float64 { return d }, true)
	f(func(d float64) float64 { return l - d }, false)
}

type kind struct {
	Floor
	draw func(c *court, l, w float64)
}

// kinds are the floors that can be drawn. Each figure is its governing body's; "from memory" where the text was not at
// hand, which is so for all of them but those that rules.md states.
var kinds = []kind{
	{Floor{Kind: "hall", Name: "Plain hall", Length: 15, Width: 12}, nil},
	{Floor{Kind: "field", Name: "Plain field", Length: 50, Width: 30}, nil},
	{
		Floor{Kind: "handball", Name: "Handball", Length: 40, Width: 20, Source: "IHF Rules of the Game, Rule 1"},
		handball,
	},
	{
		Floor{
			Kind:   "basketball",
			Name:   "Basketball",
			Length: 28,
			Width:  15,
			Source: "FIBA Official Basketball Rules, Art. 2",
		},
		func(c *court, l, w float64) {
			c.box(0, 0, l, w)
			c.line(l/2, 0, l/2, w)
			c.circle(l/2, w/2, 1.8)
			ends(l, func(at func(float64) float64, left bool) {
				c.line(at(0), w/2-2.45, at(5.8), w/2-2.45) // restricted area 5.8 × 4.9 m
				c.line(at(5.8), w/2-2.45, at(5.8), w/2+2.45)
				c.line(at(5.8), w/2+2.45, at(0), w/2+2.45)
				c.arc(at(5.8), w/2-1.8, at(5.8), w/2+1.8, 1.8, left, false)
				// Three points: 6.75 m about the basket's middle, 1.575 m in; straight 0.90 m from the side lines.
				reach := 1.575 + math.Sqrt(6.75*6.75-(w/2-0.9)*(w/2-0.9))
				c.line(at(0), 0.9, at(reach), 0.9)
				c.line(at(0), w-0.9, at(reach), w-0.9)
				c.arc(at(reach), 0.9, at(reach), w-0.9, 6.75, left, false)
			})
		},
	},
	{
		Floor{
			Kind:   "volleyball",
			Name:   "Volleyball",
			Length: 18,
			Width:  9,
			Source: "FIVB Official Volleyball Rules, Rule 1",
		},
		func(c *court, l, w float64) {
			c.box(0, 0, l, w)
			for _, x := range []float64{l / 2, l/2 - 3, l/2 + 3} {
				c.line(x, 0, x, w)
			}
		},
	},
	{
		Floor{Kind: "badminton", Name: "Badminton", Length: 13.4, Width: 6.1, Source: "BWF Laws of Badminton, Law 1"},
		func(c *court, l, w float64) {
			c.box(0, 0, l, w)
			c.line(l/2, 0, l/2, w)
			c.line(0, 0.46, l, 0.46) // singles side lines, 5.18 m apart
			c.line(0, w-0.46, l, w-0.46)
			ends(l, func(at func(float64) float64, _ bool) {
				c.line(at(0.76), 0, at(0.76), w) // long service line for doubles
				short := l/2 - 1.98
				c.line(at(short), 0, at(short), w)
				c.line(at(0), w/2, at(short), w/2)
			})
		},
	},
	{
		Floor{Kind: "tennis", Name: "Tennis", Length: 23.77, Width: 10.97, Source: "ITF Rules of Tennis, Rule 1"},
		func(c *court, l, w float64) { tennis(c, l, w, 8.23, 6.4) },
	},
	{
		Floor{
			Kind:   "tennis-orange",
			Name:   "Tennis, three-quarter court (10 and under)",
			Length: 18,
			Width:  6.5,
			Source: "ITF Rules of Tennis, Appendix VI (from memory)",
		},
		func(c *court, l, w float64) { tennis(c, l, w, w, 4.88) },
	},
	{
		Floor{
			Kind:   "tennis-red",
			Name:   "Tennis, small court (10 and under)",
			Length: 11,
			Width:  5.5,
			Source: "ITF Rules of Tennis, Appendix VI (from memory)",
		},
		func(c *court, l, w float64) {
			c.box(0, 0, l, w)
			c.line(l/2, 0, l/2, w)
		},
	},
	{
		Floor{
			Kind:   "table-tennis",
			Name:   "Table tennis playing space",
			Length: 14,
			Width:  7,
			Source: "ITTF Laws of Table Tennis, 2.1 (table); Regulations 3.2.3.1 (space, from memory)",
		},
		func(c *court, l, w float64) {
			c.box(0, 0, l, w)
			x, y := (l-2.74)/2, (w-1.525)/2
			c.box(x, y, 2.74, 1.525)
			c.line(l/2, y-0.1525, l/2, y+1.525+0.1525) // the net reaches 15.25 cm over each side
			c.line(x, w/2, x+2.74, w/2)
		},
	},
	{
		Floor{
			Kind:   "pickleball",
			Name:   "Pickleball",
			Length: 44 * Foot,
			Width:  20 * Foot,
			Source: "USA Pickleball Official Rulebook, Rule 2.A",
		},
		func(c *court, l, w float64) {
			c.box(0, 0, l, w)
			c.line(l/2, 0, l/2, w)
			ends(l, func(at func(float64) float64, _ bool) {
				kitchen := l/2 - 7*Foot
				c.line(at(kitchen), 0, at(kitchen), w)
				c.line(at(0), w/2, at(kitchen), w/2)
			})
		},
	},
	{
		Floor{
			Kind:   "padel",
			Name:   "Padel",
			Length: 20,
			Width:  10,
			Source: "FIP Rules of Padel, Rule 1 (service line from memory)",
		},
		func(c *court, l, w float64) {
			c.box(0, 0, l, w)
			c.line(l/2, 0, l/2, w)
			ends(l, func(at func(float64) float64, _ bool) {
				c.line(at(l/2-6.95), 0, at(l/2-6.95), w)
				c.line(at(l/2-6.95), w/2, at(l/2), w/2)
			})
		},
	},
	{
		Floor{Kind: "football", Name: "Football", Length: 105, Width: 68, Source: "IFAB Laws of the Game, Law 1"},
		func(c *court, l, w float64) {
			c.box(0, 0, l, w)
			c.line(l/2, 0, l/2, w)
			c.circle(l/2, w/2, 9.15)
			ends(l, func(at func(float64) float64, left bool) {
				// depth, half width: 16.5 and 5.5 m beyond each post of a 7.32 m goal
				for _, a := range [][2]float64{{16.5, 20.16}, {5.5, 9.16}} {
					c.line(at(0), w/2-a[1], at(a[0]), w/2-a[1])
					c.line(at(a[0]), w/2-a[1], at(a[0]), w/2+a[1])
					c.line(at(a[0]), w/2+a[1], at(0), w/2+a[1])
				}
				h := math.Sqrt(9.15*9.15 - 5.5*5.5) // the arc about the penalty mark at 11 m
				c.arc(at(16.5), w/2-h, at(16.5), w/2+h, 9.15, left, false)
				c.line(at(10.9), w/2, at(11.1), w/2)
			})
		},
	},
	{
		Floor{
			Kind:   "football-small",
			Name:   "Football, small (futsal)",
			Length: 40,
			Width:  20,
			Source: "FIFA Futsal Laws of the Game, Law 1 (from memory)",
		},
		func(c *court, l, w float64) {
			c.box(0, 0, l, w)
			c.line(l/2, 0, l/2, w)
			c.circle(l/2, w/2, 3)
			ends(l, func(at func(float64) float64, left bool) {
				sixMetres(c, at, w, left, false)
				c.line(at(9.9), w/2, at(10.1), w/2)
			})
		},
	},
	{
		Floor{
			Kind:   "floorball",
			Name:   "Floorball",
			Length: 40,
			Width:  20,
			Source: "IFF Rules of the Game, Rule 1 (from memory)",
		},
		func(c *court, l, w float64) {
			c.rounded(l, w, 3)
			c.line(l/2, 0, l/2, w)
			ends(l, func(at func(float64) float64, _ bool) {
				for _, a := range [][3]float64{{2.85, 4, 5}, {3.5, 1, 2.5}} { // from the board, depth, width
					c.line(at(a[0]), w/2-a[2]/2, at(a[0]+a[1]), w/2-a[2]/2)
					c.line(at(a[0]+a[1]), w/2-a[2]/2, at(a[0]+a[1]), w/2+a[2]/2)
					c.line(at(a[0]+a[1]), w/2+a[2]/2, at(a[0]), w/2+a[2]/2)
					c.line(at(a[0]), w/2+a[2]/2, at(a[0]), w/2-a[2]/2)
				}
			})
		},
	},
	{
		Floor{
			Kind:   "ice-hockey",
			Name:   "Ice hockey",
			Length: 60,
			Width:  30,
			Source: "IIHF Official Rule Book, Section 1 (from memory)",
		},
		func(c *court, l, w float64) {
			c.rounded(l, w, 8.5)
			c.line(l/2, 0, l/2, w)
			c.circle(l/2, w/2, 4.5)
			ends(l, func(at func(float64) float64, left bool) {
				edge := 8.5 - math.Sqrt(8.5*8.5-4.5*4.5)
				c.line(at(4), edge, at(4), w-edge)
				c.line(at(22.86), 0, at(22.86), w)
				for _, y := range []float64{w/2 - 7, w/2 + 7} {
					c.circle(at(10), y, 4.5)
				}
				c.arc(at(4), w/2-1.8, at(4), w/2+1.8, 1.8, left, false)
			})
		},
	},
	{
		Floor{
			Kind:   "baseball",
			Name:   "Baseball infield",
			Length: 42,
			Width:  42,
			Source: "Official Baseball Rules, 2.01",
		},
		func(c *court, l, w float64) { diamond(c, w, 90*Foot, 60.5*Foot) },
	},
	{
		Floor{
			Kind:   "softball",
			Name:   "Softball infield",
			Length: 30,
			Width:  30,
			Source: "WBSC Official Rules of Softball, Rule 1 (from memory)",
		},
		func(c *court, l, w float64) { diamond(c, w, 60*Foot, 43*Foot) },
	},
	{
		Floor{
			Kind:   "athletics",
			Name:   "Athletics straight",
			Length: 100,
			Width:  8 * 1.22,
			Source: "World Athletics Technical Rules, Rule 14",
		},
		func(c *court, l, w float64) {
			for i := range 9 {
				c.line(0, float64(i)*1.22, l, float64(i)*1.22)
			}
			c.line(0, 0, 0, w)
			c.line(l, 0, l, w)
		},
	},
	{
		Floor{
			Kind:   "beam",
			Name:   "Gymnastics beam with mats",
			Length: 9,
			Width:  4,
			Source: "FIG Apparatus Norms: beam 5 m × 10 cm, 1.25 m high",
		},
		func(c *court, l, w float64) {
			c.box(0, 0, l, w)
			c.box((l-5)/2, (w-0.1)/2, 5, 0.1)
		},
	},
	{
		Floor{
			Kind:   "gym-floor",
			Name:   "Gymnastics floor",
			Length: 14,
			Width:  14,
			Source: "FIG Apparatus Norms: floor 12 × 12 m (border from memory)",
		},
		func(c *court, l, w float64) {
			c.box(0, 0, l, w)
			c.box(1, 1, 12, 12)
		},
	},
}

// Kinds lists the floors that can be drawn, with the size each starts with.
func Kinds() []Floor {
	out := make([]Floor, len(kinds))
	for i, k := range kinds {
		out[i] = k.Floor
	}
	return out
}

// Of draws the named kind of floor. A court has the size of its rule, whatever is given; a plain one the size given. An
// unknown kind is a plain hall.
func Of(kind string, length, width float64) Floor {
	for _, k := range kinds {
		if k.Kind != kind {
			continue
		}
		f := k.Floor
		if k.draw == nil {
			f.Length, f.Width = length, width
			return f
		}
		c := court{}
		k.draw(&c, f.Length, f.Width)
		f.Lines = c.lines
		return f
	}
	return Floor{Kind: "hall", Name: "Plain hall", Length: length, Width: width}
}

// tennis: service lines at service metres from the net, single side lines single metres apart.
func tennis(c *court, l, w, single, service float64) {
	c.box(0, 0, l, w)
	c.line(l/2, 0, l/2, w)
	inset := (w - single) / 2
	if inset > 0 {
		c.line(0, inset, l, inset)
		c.line(0, w-inset, l, w-inset)
	}
	c.line(l/2-service, inset, l/2-service, w-inset)
	c.line(l/2+service, inset, l/2+service, w-inset)
	c.line(l/2-service, w/2, l/2+service, w/2)
}

// sixMetres is the goal area of handball and futsal: 6 m from a goal 3 m wide.
func sixMetres(c *court, at func(float64) float64, w float64, left, dashed bool) {
	top, bottom := w/2-1.5, w/2+1.5
	c.line(at(6), top, at(6), bottom)
	c.arc(at(0), top-6, at(6), top, 6, left, dashed)
	c.arc(at(6), bottom, at(0), bottom+6, 6, left, dashed)
}

// handball: IHF Rules of the Game, Rule 1. Court 40 × 20 m, goals 3 m wide; the goal-area line is 6 m from the goal
// line: 3 m straight, parallel to the goal, and a quarter circle of 6 m about each rear inner edge of the posts; the
// free-throw line is 3 m outside it, dashed; the 7-metre line is 1 m long; the goalkeeper's line 4 m out, 15 cm long.
func handball(c *court, l, w float64) {
	c.box(0, 0, l, w)
	c.line(l/2, 0, l/2, w)
	ends(l, func(at func(float64) float64, left bool) {
		sixMetres(c, at, w, left, false)
		top, bottom := w/2-1.5, w/2+1.5
		out := at(math.Sqrt(81 - top*top))
		c.lines = append(c.lines, Line{X1: at(9), Y1: top, X2: at(9), Y2: bottom, Dashed: true})
		c.arc(out, 0, at(9), top, 9, left, true)
		c.arc(at(9), bottom, out, w, 9, left, true)
		c.line(at(7), w/2-0.5, at(7), w/2+0.5)
		c.line(at(4), w/2-0.075, at(4), w/2+0.075)
	})
}

// diamond: the bases of an infield, home in the bottom left corner, and the pitcher's plate.
func diamond(c *court, w, base, pitch float64) {
	x, y := 3.0, w-3
	c.box(x, y-base, base, base)
	d := pitch / math.Sqrt2
	c.line(x+d-0.25, y-d-0.25, x+d+0.25, y-d+0.25)
	for _, b := range [][2]float64{{x, y}, {x + base, y}, {x + base, y - base}, {x, y - base}} {
		c.box(b[0]-0.19, b[1]-0.19, 0.38, 0.38)
	}
}
