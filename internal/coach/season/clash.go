package season

import (
	"cmp"
	"slices"
	"time"

	"gruppo/internal/coach/say"
)

// Booking is a time at which a class has a place and people who lead it.
type Booking struct {
	Class, Name string // the class's id and name
	Starts      time.Time
	Minutes     int
	Place, Zone string // the zone of the place; empty: all of it
	PlaceName   string
	Leaders     map[string]string // by id: their names
}

func (b Booking) ends() time.Time { return b.Starts.Add(time.Duration(b.Minutes) * time.Minute) }

// Clash is two classes that meet at the same time in one place, or with one leader: the first time that they do.
type Clash struct {
	A, B    Booking
	InPlace bool
	Leaders []string // by name
	Times   int      // how often in all
}

// String says it in a sentence.
func (c Clash) String() string {
	at := c.A.Starts
	if c.B.Starts.After(at) {
		at = c.B.Starts
	}
	what := ""
	if c.InPlace {
		what = "both in " + c.A.PlaceName
	}
	if len(c.Leaders) > 0 {
		if what != "" {
			what += ", and "
		}
		what += "both with " + say.List(c.Leaders)
	}
	says := c.A.Name + " and " + c.B.Name + ": " + what + ", " + at.Format("Mon 2 Jan 15:04")
	if c.Times > 1 {
		says += ", and " + say.Count(c.Times-1, "time") + " more"
	}
	return says + "."
}

// Clashes finds the pairs of classes that meet at once in one place or with one leader, by their first time.
func Clashes(all []Booking) (out []Clash) {
	all = slices.Clone(all)
	slices.SortFunc(all, func(a, b Booking) int { return cmp.Or(a.Starts.Compare(b.Starts), cmp.Compare(a.Name, b.Name)) })
	found := map[[2]string]int{}
	for i, a := range all {
		for _, b := range all[i+1:] {
			if !b.Starts.Before(a.ends()) {
				break // they are in order of time
			}
			c := Clash{A: a, B: b, Times: 1}
			c.InPlace = a.Place == b.Place && (a.Zone == b.Zone || a.Zone == "" || b.Zone == "")
			for id, name := range a.Leaders {
				if _, both := b.Leaders[id]; both {
					c.Leaders = append(c.Leaders, name)
				}
			}
			slices.Sort(c.Leaders)
			if !c.InPlace && len(c.Leaders) == 0 || a.Class == b.Class {
				continue
			}
			key := [2]string{a.Class, b.Class}
			if a.Class > b.Class {
				key = [2]string{b.Class, a.Class}
			}
			if at, again := found[key]; again {
				out[at].Times++
				continue
			}
			found[key] = len(out)
			out = append(out, c)
		}
	}
	return out
}
