// Package rotate works out which group is at which station in which round.
package rotate

// Rest stands in a route where a group has no station: there are more groups than stations.
const Rest = -1

// Asked is what a station rotation has to fit.
type Asked struct {
	Groups, Stations, Rounds int
	Hard                     []bool      // per station: not two of these in a row, where it can be helped
	Walk                     [][]float64 // metres from station to station; nil: all the same
	Start                    int         // shifts who begins where; the next deal begins elsewhere
}

// Plan is a rotation: Route[g][r] is the station of group g in round r, or Rest.
type Plan struct {
	Route   [][]int
	Order   []int   // the ring in which everyone moves on by one
	Longest float64 // metres of the longest walk at a change
	Because string
}

// Stations gives a rotation in which never two groups share a station, no group visits one twice before it has been
// at all, every station is used as often as any other to within one visit when the rounds allow, and everyone moves
// on by one along a ring, because people can remember that. Among the rings the one with the fewest hard stations in
// a row and then the least walking is taken: all are tried up to 8 places, beyond that the order given stays.
func Stations(a Asked) Plan {
	ring := max(a.Groups, a.Stations)
	if a.Stations == 0 || a.Groups == 0 {
		return Plan{Because: "there is nothing to rotate yet"}
	}
	order := make([]int, ring) // station at each place of the ring; Rest where there is none
	for i := range order {
		order[i] = i
		if i >= a.Stations {
			order[i] = Rest
		}
	}
	best := append([]int(nil), order...)
	bestCost := a.cost(best)
	if ring <= 8 {
		permute(order[1:], 0, func() {
			if c := a.cost(order); c.less(bestCost) {
				bestCost, best = c, append([]int(nil), order...)
			}
		})
	}
	p := Plan{Order: best, Route: make([][]int, a.Groups), Longest: bestCost.longest}
	for g := range p.Route {
		p.Route[g] = make([]int, a.Rounds)
		for r := range a.Rounds {
			p.Route[g][r] = best[(g+r+a.Start)%ring]
		}
	}
	switch {
	case a.Groups > a.Stations:
		p.Because = "everyone moves on by one; with more groups than stations one or more rest in turn"
	case a.Stations > a.Groups:
		p.Because = "everyone moves on by one; with more stations than groups some stand empty in turn"
	default:
		p.Because = "everyone moves on by one"
	}
	return p
}

type cost struct {
	hard    int
	longest float64
	sum     float64
}

func (c cost) less(d cost) bool {
	if c.hard != d.hard {
		return c.hard < d.hard
	}
	if c.longest != d.longest {
		return c.longest < d.longest
	}
	return c.sum < d.sum
}

// cost is what moving on by one along the ring asks of everybody.
func (a Asked) cost(ring []int) cost {
	var c cost
	for i, from := range ring {
		to := ring[(i+1)%len(ring)]
		if from == Rest || to == Rest || from == to {
			continue
		}
		if a.Hard != nil && a.Hard[from] && a.Hard[to] {
			c.hard++
		}
		if a.Walk != nil {
			c.longest = max(c.longest, a.Walk[from][to])
			c.sum += a.Walk[from][to]
		}
	}
	return c
}

func permute(xs []int, k int, visit func()) {
	if k >= len(xs) {
		visit()
		return
	}
	for i := k; i < len(xs); i++ {
		xs[k], xs[i] = xs[i], xs[k]
		permute(xs, k+1, visit)
		xs[k], xs[i] = xs[i], xs[k]
	}
}
