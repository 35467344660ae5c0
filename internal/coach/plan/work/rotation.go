package work

import (
	"fmt"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
)

// rotation works out who is where in which round, circuit by circuit.
func (pic *Picture) rotation(in Input) {
	for i := range pic.Circuits { // a first look at the clock, for who is gone when
		c := &pic.Circuits[i]
		groups := len(pic.GroupsOf(*c))
		if len(c.Stations) == 0 || groups == 0 {
			c.Rotation = nothing
			continue
		}
		c.Count = c.RoundsDue(groups)
		if c.Change = 30 * time.Second; c.Circuit.Change > 0 {
			c.Change = time.Duration(c.Circuit.Change) * time.Second
		}
	}
	pic.timetable(in)
	for i := range pic.Circuits {
		if c := &pic.Circuits[i]; c.Count > 0 {
			pic.rotate(in, c)
		}
	}
	pic.timetable(in)
	pic.visits()
}

// rotate finds the rotation of one circuit: the wishes that clash give, the least of them first.
func (pic *Picture) rotate(in Input, c *Circuit) {
	stations, groups := pic.StationsOf(*c), pic.GroupsOf(*c)
	ask := rotate.Asked{Groups: len(groups), Stations: len(stations), Rounds: c.Count}
	spots := make([]floor.Spot, len(stations))
	for i, s := range stations {
		spots[i] = s.Spot
		ask.Hard = append(ask.Hard, s.Drill.Hard)
		ask.Double = append(ask.Double, s.Double)
	}
	ask.Walk = floor.Walks(spots)
	ask.Must = pic.musts(in, *c, ask)
	for again := 0; ; {
		rot, err := rotate.Stations(ask)
		if err == nil {
			c.routes, c.Longest, c.Rotation = rot.Route, rot.Longest, rot.Because
			break
		}
		clash := err.(*rotate.Clash)                   // the only error there is
		if again++; again > 1 && len(clash.Must) > 0 { // many clash: they all give, and are found by name
			for _, i := range clash.Must {
				c.Dropped = append(c.Dropped, ask.Must[i].Says)
			}
			ask.Must = nil
			continue
		}
		if len(clash.Must) == 0 { // not even without wishes, within what a search may take
			c.Count, c.Rotation = 0, "no rotation was found for these groups, stations and rounds"
			c.Dropped = append(c.Dropped, "every group comes to every station")
			return
		}
		give := clash.Must[0] // the least of those that clash gives
		for _, i := range clash.Must {
			if ask.Must[i].Kind > ask.Must[give].Kind {
				give = i
			}
		}
		if ask.Must[give].Kind != rotate.Reach { // whom the lead does not see is found by name
			c.Dropped = append(c.Dropped, ask.Must[give].Says)
		}
		ask.Must = slices.Delete(ask.Must, give, give+1)
	}
	if c.Change = time.Duration(c.Circuit.Change) * time.Second; c.Change == 0 {
		c.Change = ChangeFor(c.Longest)
	}
}

// visits puts the circuits' rotations together: for each station and each group, all rounds of the session.
func (pic *Picture) visits() {
	for i := range pic.Stations {
		pic.Stations[i].Visits = slices.Repeat([]int{rotate.Rest}, len(pic.Rounds))
		pic.Stations[i].Also = slices.Repeat([]int{rotate.Rest}, len(pic.Rounds))
	}
	for i := range pic.Groups {
		pic.Groups[i].Route = slices.Repeat([]int{NotIn}, len(pic.Rounds))
	}
	for _, c := range pic.Circuits {
		for n, g := range pic.GroupsOf(c) {
			for i, r := range c.At {
				s := c.routes[n][i]
				if s == rotate.Rest {
					g.Route[r] = rotate.Rest
					continue
				}
				st := &pic.Stations[c.From+s]
				if st.For(g) == nil { // it skips the place, and rests while the others are there
					g.Route[r] = rotate.Rest
					continue
				}
				g.Route[r] = st.Index
				if st.Visits[r] == rotate.Rest {
					st.Visits[r] = g.Index
				} else {
					st.Also[r] = g.Index
				}
			}
		}
	}
}

// musts are what the rotation has to hold to, where it can be held at all: with every group everywhere in every round
// there is no choice about limits and leavers, and the check names them instead.
func (pic *Picture) musts(in Input, c Circuit, ask rotate.Asked) (out []rotate.Must) {
	stations, groups := pic.StationsOf(c), pic.GroupsOf(c)
	choice := ask.Stations > ask.Groups || ask.Rounds < ask.Stations
	gives := in.Before(c.Block)
	var lead []int
	for i, s := range stations {
		where := fmt.Sprintf("%d %s", s.Index+1, s.Drill.Name)
		for _, what := range s.Drill.NotBefore {
			if coach.Among(what, gives) {
				continue
			}
			for j, o := range stations {
				if i != j && o.Drill.Readies(what) {
					out = append(
						out,
						rotate.Must{
							Kind:    rotate.Before,
							Station: j,
							Other:   i,
							Says:    fmt.Sprintf("%d %s comes before %s", o.Index+1, o.Drill.Name, where),
						},
					)
					break
				}
			}
		}
		if s.Leader == nil {
			continue
		}
		if s.Leader.Role == coach.RoleLead {
			lead = append(lead, i)
		}
		if choice && s.Drill.Leader != coach.SelfRun && s.Drill.Leader != "" {
			for r, round := range pic.RoundsOf(c) {
				if !s.Leader.Covers(round.From, round.To) {
					out = append(
						out,
						rotate.Must{
							Kind:    rotate.Closed,
							Station: i,
							Round:   r,
							Says: fmt.Sprintf(
								"%s is not at %s in round %d",
								s.Leader.First(),
								where,
								round.Number,
							),
						},
					)
				}
			}
		}
	}
	if len(lead) > 0 && ask.Rounds < ask.Stations {
		out = append(out, rotate.Must{Kind: rotate.Reach, Any: lead, Says: "the lead sees every group"})
	}
	if choice {
		for g := range groups {
			for i, s := range stations {
				for _, p := range groups[g].Players {
					if s.HasOwn(groups[g]) {
						break // the check names them
					}
					if what := in.Forbidden(s.Side, p, s.Drill); what != "" {
						out = append(
							out,
							rotate.Must{
								Kind:    rotate.Never,
								Group:   g,
								Station: i,
								Says: fmt.Sprintf(
									"%s, no %s, keeps away from %d %s",
									p.Name,
									what,
									s.Index+1,
									s.Drill.Name,
								),
							},
						)
						break // the group keeps away for one as for several
					}
				}
			}
		}
	}
	return out
}

// Gives lists what a drill gives to what comes later: its name and what it warms.
func (in Input) Gives(drill string) []string {
	if d, ok := in.Drills[drill]; ok && drill != "" {
		return append([]string{d.Name}, d.Warms...)
	}
	return nil
}

// Before lists what the blocks before one give to everybody; what all give, where none is named.
func (in Input) Before(block string) (out []string) {
	for _, b := range in.Plan.Blocks {
		if b.ID == block {
			break
		}
		for _, t := range b.Tasks() {
			out = append(out, in.Gives(t.Drill)...)
		}
	}
	return out
}
