// Package floor knows places to scale: their lines from a sport's published dimensions, and where stations go on them.
// All lengths are metres, from the top left corner of the floor, x along its length.
package floor

import (
	"math"
	"slices"
)

// Line is a line of a court: straight from (X1, Y1) to (X2, Y2), or an arc between them about a centre.
type Line struct {
	X1, Y1, X2, Y2 float64
	Arc            bool // at most half a circle from (X1,Y1) to (X2,Y2)
	Radius         float64
	Sweep          bool // clockwise on the page
	Dashed         bool
}

// Area is a named rectangle of a floor: a zone that can be booked by itself, or a spot where nothing can stand.
type Area struct {
	Name   string  `json:"name"`
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Length float64 `json:"l"`
	Width  float64 `json:"w"`
	Kind   string  `json:"kind,omitempty"` // of the court that is laid out there; empty: none
}

// Floor is a place with its lines.
type Floor struct {
	Kind          string
	Name          string
	Length, Width float64
	Lines         []Line
	Source        string // the rule that gives the figures; empty for plain floors
	Blocked       []Area // where nothing can stand
	Use           Area   // the zone that is booked; zero: all of it
	Laid          []Area // the courts that are laid out on it, by their numbers
}

// Inside is the part of the floor that can be used.
func (f Floor) Inside() Spot {
	if f.Use.Length > 0 && f.Use.Width > 0 {
		return Spot{X: f.Use.X, Y: f.Use.Y, Length: f.Use.Length, Width: f.Use.Width}
	}
	return Spot{Length: f.Length, Width: f.Width}
}

// Spot is a rectangle on the floor as it lies there. Turn is the direction of play in degrees clockwise: 0 to the
// right, 90 down, 180 to the left, 270 up.
type Spot struct {
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Length float64 `json:"l"` // along x
	Width  float64 `json:"w"` // along y
	Turn   int     `json:"turn"`
}

// Centre of the spot.
func (s Spot) Centre() (x, y float64) { return s.X + s.Length/2, s.Y + s.Width/2 }

// Courts are where n courts of the size stand in the middle of the spot, row by row, each with the clearance to the next
// and to the wall; fewer where no more fit, and none of no size.
func (s Spot) Courts(n int, length, width, clearance float64) (out []Spot) {
	fit := func(all, one float64) int { return max(0, int((all-clearance+1e-9)/(one+clearance))) }
	if length <= 0 || width <= 0 {
		return nil
	}
	if fit(s.Length, length)*fit(s.Width, width) < fit(s.Length, width)*fit(s.Width, length) {
		length, width = width, length
	}
	n = min(n, fit(s.Length, length)*fit(s.Width, width))
	if n <= 0 {
		return nil
	}
	columns := min(n, fit(s.Length, length))
	rows := (n + columns - 1) / columns
	left := s.X + (s.Length-float64(columns)*(length+clearance)+clearance)/2
	top := s.Y + (s.Width-float64(rows)*(width+clearance)+clearance)/2
	for i := range n {
		out = append(out, Spot{
			X:      left + float64(i%columns)*(length+clearance),
			Y:      top + float64(i/columns)*(width+clearance),
			Length: length,
			Width:  width,
		})
	}
	return out
}

// Turned is the spot with its direction of play the other way about.
func (s Spot) Turned() Spot {
	s.Turn = (s.Turn + 180) % 360
	return s
}

// Grown is the spot with so many metres more on every side.
func (s Spot) Grown(m float64) Spot {
	return Spot{s.X - m, s.Y - m, s.Length + 2*m, s.Width + 2*m, s.Turn}
}

// Meets reports whether two spots share any floor; edges may touch.
func (s Spot) Meets(o Spot) bool {
	const e = 1e-6
	return s.X+e < o.X+o.Length && o.X+e < s.X+s.Length && s.Y+e < o.Y+o.Width && o.Y+e < s.Y+s.Width
}

// Within reports whether the spot lies inside another.
func (s Spot) Within(o Spot) bool {
	const e = 1e-6
	return s.X+e >= o.X && s.Y+e >= o.Y && s.X+s.Length <= o.X+o.Length+e && s.Y+s.Width <= o.Y+o.Width+e
}

// Fire is the strip beyond the spot's far end in which balls fly on, so many metres deep.
func (s Spot) Fire(metres float64) Spot {
	switch s.Turn {
	case 90:
		return Spot{X: s.X, Y: s.Y + s.Width, Length: s.Length, Width: metres}
	case 180:
		return Spot{X: s.X - metres, Y: s.Y, Length: metres, Width: s.Width}
	case 270:
		return Spot{X: s.X, Y: s.Y - metres, Length: s.Length, Width: metres}
	}
	return Spot{X: s.X + s.Length, Y: s.Y, Length: metres, Width: s.Width}
}

// Size is what a station asks of the floor: its length runs in the direction of play. Fire is how far balls fly on
// beyond its end.
type Size struct{ Length, Width, Clearance, Fire float64 }

// At is the size turned and put down at a corner.
func (s Size) At(x, y float64, turn int) Spot {
	if turn == 90 || turn == 270 {
		return Spot{x, y, s.Width, s.Length, turn}
	}
	return Spot{x, y, s.Length, s.Width, turn}
}

// Trouble is something wrong with where a station stands.
type Trouble struct {
	Station int
	Other   int    // the other station, or -1
	What    string // off, blocked, overlap, fire
	Where   string // the blocked spot's name
}

// Check finds what is wrong with stations of the given sizes on their spots: one leaves the floor or the zone, stands
// on a blocked spot, comes nearer to another than the larger clearance of the two asks, or stands in another's line of
// fire.
func Check(f Floor, spots []Spot, sizes []Size) (out []Trouble) {
	for i, s := range spots {
		if !s.Within(f.Inside()) {
			out = append(out, Trouble{i, -1, "off", ""})
		}
		for _, b := range f.Blocked {
			if s.Meets(b.spot()) {
				out = append(out, Trouble{i, -1, "blocked", b.Name})
			}
		}
		for j, o := range spots {
			if j > i && s.Grown(max(sizes[i].Clearance, sizes[j].Clearance)).Meets(o) {
				out = append(out, Trouble{i, j, "overlap", ""})
			}
			if j != i && sizes[i].Fire > 0 && s.Fire(sizes[i].Fire).Meets(o) {
				out = append(out, Trouble{j, i, "fire", ""})
			}
		}
	}
	return out
}

// Edges finds stations whose clearance or line of fire goes beyond the floor or the zone that is booked, or over a
// blocked spot. A wall or a net may be what is wanted there, so that it is for a person to look at.
func Edges(f Floor, spots []Spot, sizes []Size) (out []Trouble) {
	for i, s := range spots {
		for _, strip := range []struct {
			what string
			spot Spot
			on   bool
		}{{"clear", s.Grown(sizes[i].Clearance), sizes[i].Clearance > 0}, {"flies", s.Fire(sizes[i].Fire), sizes[i].Fire > 0}} {
			if !strip.on || !s.Within(f.Inside()) {
				continue
			}
			if !strip.spot.Within(f.Inside()) {
				out = append(out, Trouble{i, -1, strip.what, ""})
			}
			for _, b := range f.Blocked {
				if strip.spot.Meets(b.spot()) && !s.Meets(b.spot()) {
					out = append(out, Trouble{i, -1, strip.what, b.Name})
				}
			}
		}
	}
	return out
}

// Into is the spot moved as little as can be, so that it and so many metres round it are inside the floor or the zone;
// ok is false where it is too large.
func (f Floor) Into(s Spot, clear float64) (at Spot, ok bool) {
	in := f.Inside()
	if s.Length+2*clear > in.Length+1e-6 || s.Width+2*clear > in.Width+1e-6 {
		return s, false
	}
	s.X = min(max(s.X, in.X+clear), in.X+in.Length-clear-s.Length)
	s.Y = min(max(s.Y, in.Y+clear), in.Y+in.Width-clear-s.Width)
	return s, true
}

func (a Area) spot() Spot { return Spot{X: a.X, Y: a.Y, Length: a.Length, Width: a.Width} }

// Layout gives every station a spot, near in the order of the route. fixed[i] is where a station stays, or nil. First
// rows of equal cells round the floor are tried, which look tidy; where that leaves trouble, each station takes the
// nearest free place to the one before it, in several orders. fits[i] is false for a station that found none; it is
// then put in its cell, no larger than that.
func Layout(f Floor, sizes []Size, fixed []*Spot) (spots []Spot, fits []bool) {
	n := len(sizes)
	if n == 0 {
		return nil, nil
	}
	spots, cells := rows(f, sizes, fixed)
	fits = sound(f, spots, sizes)
	free := func(fits []bool) (k int) {
		for _, ok := range fits {
			if !ok {
				k++
			}
		}
		return k
	}
	best, most := free(fits), longest(spots)
	if best > 0 {
		order := make([]int, n)
		for i := range order {
			order[i] = i
		}
		bySize := slices.Clone(order)
		slices.SortStableFunc(bySize, func(a, b int) int {
			return int(math.Round(100 * (sizes[b].Length*sizes[b].Width - sizes[a].Length*sizes[a].Width)))
		})
		for _, o := range [][]int{order, bySize} {
			packed := pack(f, sizes, fixed, o, cells)
			ok := sound(f, packed, sizes)
			if k, far := free(ok), longest(packed); k < best || k == best && far < most {
				spots, fits, best, most = packed, ok, k, far
			}
		}
	}
	for i := range spots {
		if !fits[i] && fixed[i] == nil { // as much of it as its cell holds
			c := cells[i]
			s := spots[i]
			s.Length, s.Width = min(s.Length, c.Length-0.5), min(s.Width, c.Width-0.5)
			s.X, s.Y = c.X+(c.Length-s.Length)/2, c.Y+(c.Width-s.Width)/2
			spots[i] = s
		}
	}
	for i, s := range spots { // off the wall by what it asks to be clear, where there is room
		if at, ok := f.Into(s, sizes[i].Clearance); ok && fits[i] && fixed[i] == nil && at != s {
			moved := slices.Clone(spots)
			moved[i] = at
			if sound(f, moved, sizes)[i] {
				spots = moved
			}
		}
	}
	for i := range spots {
		if fits[i] && fixed[i] == nil && !f.quiet(i, spots, sizes) {
			f.settle(i, spots, sizes)
		}
	}
	return spots, fits
}

// quiet reports whether nothing is wrong with where a station stands, and nothing blocked is in what it asks to be clear
// or in its line of fire: what Check and Edges say of one station, without looking at the others among themselves.
func (f Floor) quiet(i int, spots []Spot, sizes []Size) bool {
	s, size := spots[i], sizes[i]
	if !s.Within(f.Inside()) {
		return false
	}
	clear, fire := s.Grown(size.Clearance), s.Fire(size.Fire)
	for _, b := range f.Blocked {
		if at := b.spot(); s.Meets(at) || clear.Meets(at) || size.Fire > 0 && fire.Meets(at) {
			return false
		}
	}
	for j, o := range spots {
		switch {
		case j == i:
		case s.Grown(max(size.Clearance, sizes[j].Clearance)).Meets(o),
			size.Fire > 0 && fire.Meets(o),
			sizes[j].Fire > 0 && o.Fire(sizes[j].Fire).Meets(s):
			return false
		}
	}
	return true
}

// settle moves a station to the nearest place at which nothing is wrong; it stays where there is none.
func (f Floor) settle(i int, spots []Spot, sizes []Size) {
	in, was, best := f.Inside(), spots[i], spots[i]
	near := math.Inf(1)
	size := sizes[i].At(0, 0, was.Turn)
	for x := half(in.X); x+size.Length <= in.X+in.Length; x += 0.5 {
		for y := half(in.Y); y+size.Width <= in.Y+in.Width; y += 0.5 {
			at := Spot{x, y, size.Length, size.Width, was.Turn}
			if far := between(at, was); far < near {
				if spots[i] = at; f.quiet(i, spots, sizes) {
					best, near = at, far
				}
			}
		}
	}
	spots[i] = best
}

func sound(f Floor, spots []Spot, sizes []Size) []bool {
	fits := slices.Repeat([]bool{true}, len(spots))
	for _, t := range Check(f, spots, sizes) {
		fits[t.Station] = false
	}
	return fits
}

func longest(spots []Spot) (far float64) {
	for i := range spots {
		far = max(far, between(spots[i], spots[(i+1)%len(spots)]))
	}
	return far
}

func between(a, b Spot) float64 {
	ax, ay := a.Centre()
	bx, by := b.Centre()
	return math.Hypot(ax-bx, ay-by)
}

// rows puts the stations in the middle of equal cells, every second row backwards, playing towards the nearest edge.
func rows(f Floor, sizes []Size, fixed []*Spot) (spots, cells []Spot) {
	in, n := f.Inside(), len(sizes)
	count, best := 1, math.Inf(1) // the rows whose cells are nearest to a shape of 3 to 2
	for r := 1; r <= n; r++ {
		cols := math.Ceil(float64(n) / float64(r))
		shape := (in.Length / cols) / (in.Width / float64(r))
		waste := cols*float64(r) - float64(n)
		if c := math.Abs(math.Log(shape/1.5)) + 0.15*waste; c < best {
			best, count = c, r
		}
	}
	cols := (n + count - 1) / count
	for i, s := range sizes {
		row, col := i/cols, i%cols
		inRow := min(cols, n-row*cols)
		if row%2 == 1 {
			col = inRow - 1 - col
		}
		cell := Spot{
			X:      in.X + float64(col)*in.Length/float64(inRow),
			Y:      in.Y + float64(row)*in.Width/float64(count),
			Length: in.Length / float64(inRow),
			Width:  in.Width / float64(count),
		}
		cells = append(cells, cell)
		if fixed[i] != nil {
			spots = append(spots, *fixed[i])
			continue
		}
		turn := 0
		if s.Length > cell.Length && s.Width <= cell.Length && s.Length <= cell.Width {
			turn = 90 // turned it fits
		}
		if s.Fire > 0 { // towards the nearer end or side
			cx, cy := cell.Centre()
			if turn == 0 && cx < in.X+in.Length/2-1e-9 {
				turn = 180
			} else if turn == 90 && cy < in.Y+in.Width/2-1e-9 {
				turn = 270
			}
		}
		spot := s.At(0, 0, turn)
		spot.X, spot.Y = half(cell.X+(cell.Length-spot.Length)/2), half(cell.Y+(cell.Width-spot.Width)/2)
		spots = append(spots, spot)
	}
	return spots, cells
}

func half(m float64) float64 { return math.Round(m*2) / 2 }

// pack gives the stations places one after the other in the order given, each where it is free and nearest to its
// neighbours on the route.
func pack(f Floor, sizes []Size, fixed []*Spot, order []int, cells []Spot) []Spot {
	n := len(sizes)
	spots, placed := make([]Spot, n), make([]bool, n)
	for i := range sizes {
		if fixed[i] != nil {
			spots[i], placed[i] = *fixed[i], true
		}
	}
	in := f.Inside()
	const step = 1
	for _, i := range order {
		if placed[i] {
			continue
		}
		turns := []int{0, 90}
		if sizes[i].Fire > 0 {
			turns = []int{0, 90, 180, 270}
		}
		best := math.Inf(1)
		spots[i] = sizes[i].At(cells[i].X, cells[i].Y, 0)
		for _, turn := range turns {
			at := sizes[i].At(0, 0, turn)
			for y := in.Y; y+at.Width <= in.Y+in.Width+1e-9; y += step {
				for x := in.X; x+at.Length <= in.X+in.Length+1e-9; x += step {
					at.X, at.Y = x, y
					c := between(at, cells[i])
					for _, near := range []int{(i + n - 1) % n, (i + 1) % n} {
						if placed[near] {
							c += between(at, spots[near])
						}
					}
					if c < best && f.free(at, i, spots, placed, sizes) {
						best, spots[i] = c, at
					}
				}
			}
		}
		placed[i] = true
	}
	return spots
}

func (f Floor) free(at Spot, i int, spots []Spot, placed []bool, sizes []Size) bool {
	for _, b := range f.Blocked {
		if at.Meets(b.spot()) {
			return false
		}
	}
	for j, o := range spots {
		if !placed[j] || j == i {
			continue
		}
		if at.Grown(max(sizes[i].Clearance, sizes[j].Clearance)).Meets(o) ||
			sizes[i].Fire > 0 && at.Fire(sizes[i].Fire).Meets(o) ||
			sizes[j].Fire > 0 && o.Fire(sizes[j].Fire).Meets(at) {
			return false
		}
	}
	return true
}

// Walks is the straight way in metres from the middle of each spot to each other.
func Walks(spots []Spot) [][]float64 {
	out := make([][]float64, len(spots))
	for i, a := range spots {
		out[i] = make([]float64, len(spots))
		for j, b := range spots {
			out[i][j] = between(a, b)
		}
	}
	return out
}
