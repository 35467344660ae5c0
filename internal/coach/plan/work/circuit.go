package work

import (
	"time"

	"gruppo/internal/coach/plan/doc"
)

// nothing is the rotation of no stations, or of nobody.
const nothing = "there is nothing to rotate yet"

// Circuit is a block of stations worked out.
type Circuit struct {
	doc.Circuit
	Block    string // the block that holds it
	From     int    // its first station in the picture; the others come after
	Count    int    // how many rounds it has
	At       []int  // and which of the picture's they are
	Change   time.Duration
	Longest  float64  // metres of the longest walk at a change
	Rotation string   // why the rotation is as it is
	Dropped  []string // musts of the rotation that could not hold, in words

	deal    doc.Deal
	leaders []*Leader
	routes  [][]int // by its groups and rounds: a station of its own, or rotate.Rest
}

// Round is how long its players work in a round.
func (c Circuit) Round() time.Duration { return time.Duration(c.Work) * time.Second }

// Has reports whether a group comes to its stations.
func (c Circuit) Has(g Group) bool { return g.Deal == c.deal.ID }

// With is who goes with a group; nil: nobody.
func (c Circuit) With(g Group) *Leader {
	if c.Move && g.Number < len(c.leaders) {
		return c.leaders[g.Number]
	}
	return nil
}

// Main is the first circuit; an empty one where the plan has none.
func (pic Picture) Main() Circuit {
	if len(pic.Circuits) == 0 {
		return Circuit{Rotation: nothing}
	}
	return pic.Circuits[0]
}

// GroupsOf are the groups that come to a circuit's stations.
func (pic Picture) GroupsOf(c Circuit) (out []Group) {
	for _, g := range pic.Groups {
		if c.Has(g) {
			out = append(out, g)
		}
	}
	return out
}

// StationsOf are a circuit's stations.
func (pic Picture) StationsOf(c Circuit) []StationAt {
	return pic.Stations[c.From : c.From+len(c.Stations)]
}

// stationsIn are the stations that a block holds.
func (pic Picture) stationsIn(block string) (out []StationAt) {
	for _, s := range pic.Stations {
		if pic.Circuits[s.Circuit].Block == block {
			out = append(out, s)
		}
	}
	return out
}

// RoundsOf are a circuit's rounds.
func (pic Picture) RoundsOf(c Circuit) (out []Round) {
	for _, r := range c.At {
		out = append(out, pic.Rounds[r])
	}
	return out
}
