package floor

import (
	"fmt"
	"math"
	"strings"
)

// Courts are so many courts of a kind, to be laid out in one hall.
type Courts struct {
	Kind string
	N    int
}

// Lay lays courts out in a hall of that size, beside each other and as far from each other and the walls as can be;
// each becomes an area that can be booked by itself, numbered where there are several of a kind. ok is false where they
// do not go in.
func Lay(length, width float64, courts ...Courts) (areas []Area, ok bool) {
	var sizes []Size
	for _, c := range courts {
		k := Of(c.Kind, 0, 0)
		name, _, _ := strings.Cut(k.Name, " (")
		name, _, _ = strings.Cut(name, ",")
		for i := range c.N {
			a := Area{Name: name, Kind: c.Kind}
			if c.N > 1 {
				a.Name = fmt.Sprint(name, " ", i+1)
			}
			areas = append(areas, a)
			sizes = append(sizes, Size{Length: k.Length, Width: k.Width})
		}
	}
	hall := Floor{Kind: "hall", Length: length, Width: width}
	var spots []Spot
	if len(courts) == 1 {
		spots, ok = inRows(hall, sizes)
	} else {
		var fits []bool
		spots, fits = Layout(hall, sizes, make([]*Spot, len(sizes)))
		ok = true
		for _, f := range fits {
			ok = ok && f
		}
	}
	if !ok {
		return nil, false
	}
	for i, s := range spots {
		areas[i].X, areas[i].Y, areas[i].Length, areas[i].Width = s.X, s.Y, s.Length, s.Width
	}
	return areas, true
}

// inRows puts courts of one size in rows, in the way that leaves the widest alleys.
func inRows(hall Floor, sizes []Size) (best []Spot, ok bool) {
	n, widest := len(sizes), -1e-9
	for _, turn := range []int{0, 90} {
		one := sizes[0].At(0, 0, turn)
		for cols := 1; cols <= n; cols++ {
			rows := (n + cols - 1) / cols
			gapX := (hall.Length - float64(cols)*one.Length) / float64(cols+1)
			gapY := (hall.Width - float64(rows)*one.Width) / float64(rows+1)
			if alley := math.Min(gapX, gapY); alley > widest {
				widest, best = alley, nil
				for i := range n {
					col, row := i%cols, i/cols
					best = append(
						best,
						sizes[0].At(gapX+float64(col)*(one.Length+gapX), gapY+float64(row)*(one.Width+gapY), turn),
					)
				}
			}
		}
	}
	return best, best != nil
}

// MostOf is how many courts of a kind go into a hall.
func MostOf(kind string, length, width float64) int {
	for n := 1; n <= 24; n++ {
		if _, ok := Lay(length, width, Courts{kind, n}); !ok {
			return n - 1
		}
	}
	return 24
}

// With is the floor with the courts that are laid out on it, and their lines.
func (f Floor) With(areas []Area) Floor {
	for _, a := range areas {
		if a.Kind == "" {
			continue
		}
		f.Laid = append(f.Laid, a)
		k := Of(a.Kind, 0, 0)
		turned := (a.Length < a.Width) != (k.Length < k.Width)
		for _, l := range k.Lines {
			if turned { // over the diagonal, which also turns an arc about
				l.X1, l.Y1, l.X2, l.Y2, l.Sweep = l.Y1, l.X1, l.Y2, l.X2, !l.Sweep
			}
			l.X1, l.Y1, l.X2, l.Y2 = l.X1+a.X, l.Y1+a.Y, l.X2+a.X, l.Y2+a.Y
			f.Lines = append(f.Lines, l)
		}
	}
	return f
}

// onCourt is the least share of a court that a task takes which is played on one; what is smaller stands anywhere.
const onCourt = 0.25

// takes reports whether a task of that size is played on a court that is laid out, and not anywhere in the hall.
func (a Area) takes(length, width float64) bool {
	const e = 0.01
	long, short := max(length, width), min(length, width)
	return long <= max(a.Length, a.Width)+e && short <= min(a.Length, a.Width)+e &&
		length*width >= onCourt*a.Length*a.Width
}

// courtsFor are the courts in the part that is used on which a task of that size is played.
func (f Floor) courtsFor(length, width float64) (out []Area) {
	for _, a := range f.Laid {
		if a.spot().Within(f.Inside()) && a.takes(length, width) {
			out = append(out, a)
		}
	}
	return out
}

// Courts are where n courts of a task stand, fewer where no more fit: those that are laid out, by their numbers, one for
// each, where there are such and the task is played on one; else beside each other.
func (f Floor) Courts(n int, length, width, clearance float64) (out []Spot) {
	laid := f.courtsFor(length, width)
	if len(laid) == 0 {
		return f.Inside().Courts(n, length, width, clearance)
	}
	for _, a := range laid[:min(n, len(laid))] {
		out = append(out, a.spot())
	}
	return out
}

// OnCourts puts what has no place yet, and is played on a court, on those that are laid out, by their numbers.
func (f Floor) OnCourts(sizes []Size, fixed []*Spot) []*Spot {
	out := make([]*Spot, len(fixed))
	copy(out, fixed)
	used := map[string]bool{}
	for _, s := range fixed {
		for _, a := range f.Laid {
			if s != nil && s.Meets(a.spot()) {
				used[a.Name] = true
			}
		}
	}
	for i, s := range sizes {
		for _, a := range f.courtsFor(s.Length, s.Width) {
			if out[i] != nil || used[a.Name] {
				continue
			}
			used[a.Name] = true
			turn := 0
			if (s.Length < s.Width) != (a.Length < a.Width) {
				turn = 90
			}
			at := s.At(0, 0, turn)
			at.X, at.Y = a.X+(a.Length-at.Length)/2, a.Y+(a.Width-at.Width)/2
			out[i] = &at
		}
	}
	return out
}
