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

// With is the floor with the lines of the courts that are laid out on it.
func (f Floor) With(areas []Area) Floor {
	for _, a := range areas {
		if a.Kind == "" {
			continue
		}
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
