package work

import (
	"fmt"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
)

func (pic *Picture) rotation(in Input) {
	groups, stations := len(pic.Groups), len(pic.Stations)
	if stations == 0 || groups == 0 {
		pic.Rotation = "there is nothing to rotate yet"
		return
	}
	ask := rotate.Asked{Groups: groups, Stations: stations}
	spots := make([]floor.Spot, stations)
	for i, s := range pic.Stations {
		spots[i] = s.Spot
		ask.Hard = append(ask.Hard, s.Drill.Hard)
		ask.Double = append(ask.Double, s.Double)
	}
	ask.Walk = floor.Walks(spots)
	ask.Rounds = pic.Plan.RoundsDue()
	pic.Rounds = make([]Round, ask.Rounds)
	pic.Change = 30 * time.Second // a first look at the clock, for who is gone when
	if in.Plan.Change > 0 {
		pic.Change = time.Duration(in.Plan.Change) * time.Second
	}
	pic.timetable(in)
	ask.Must = pic.musts(in, ask)
	var rot rotate.Plan
	for again := 0; ; {
		var err error
		if rot, err = rotate.Stations(ask); err == nil {
			break
		}
		clash := err.(*rotate.Clash)                   // the only error there is
		if again++; again > 3 && len(clash.Must) > 0 { // many clash: they all give, and are found by name
			for _, i := range clash.Must {
				pic.Dropped = append(pic.Dropped, ask.Must[i].Says)
			}
			ask.Must = nil
			continue
		}
		if len(clash.Must) == 0 { // not even without wishes, within what a search may take
			pic.Rounds, pic.Rotation = nil, "no rotation was found for these groups, stations and rounds"
			pic.Dropped = append(pic.Dropped, "every group comes to every station")
			return
		}
		give := clash.Must[0] // the least of those that clash gives
		for _, i := range clash.Must {
			if ask.Must[i].Kind > ask.Must[give].Kind {
				give = i
			}
		}
		if ask.Must[give].Kind != rotate.Reach { // whom the lead does not see is found by name
			pic.Dropped = append(pic.Dropped, ask.Must[give].Says)
		}
		ask.Must = slices.Delete(ask.Must, give, give+1)
	}
	pic.Longest, pic.Rotation = rot.Longest, rot.Because
	for i := range pic.Stations {
		pic.Stations[i].Visits = slices.Repeat([]int{rotate.Rest}, ask.Rounds)
		pic.Stations[i].Also = slices.Repeat([]int{rotate.Rest}, ask.Rounds)
	}
	for g := range pic.Groups {
		pic.Groups[g].Route = rot.Route[g]
		for r, s := range rot.Route[g] {
			if s == rotate.Rest {
				continue
			}
			if at := pic.Stations[s].Visits; at[r] == rotate.Rest {
				at[r] = g
			} else {
				pic.Stations[s].Also[r] = g
			}
		}
	}
	pic.Change = time.Duration(pic.Plan.Change) * time.Second
	if pic.Plan.Change == 0 {
		pic.Change = ChangeFor(pic.Longest)
	}
}

// musts are what the rotation has to hold to, where it can be held at all: with every group everywhere in every round
// there is no choice about limits and leavers, and the check names them instead.
func (pic *Picture) musts(in Input, ask rotate.Asked) (out []rotate.Must) {
	choice := ask.Stations > ask.Groups || ask.Rounds < ask.Stations
	gives := in.Before(in.Plan.StationsAt())
	var lead []int
	for i, s := range pic.Stations {
		where := fmt.Sprintf("%d %s", i+1, s.Drill.Name)
		for _, what := range s.Drill.NotBefore {
			if slices.Contains(gives, what) {
				continue
			}
			for j, o := range pic.Stations {
				if i != j && (o.Drill.Name == what || slices.Contains(o.Drill.Warms, what)) {
					out = append(out, rotate.Must{Kind: rotate.Before, Station: j, Other: i, Says: fmt.Sprintf("%d %s comes before %s", j+1, o.Drill.Name, where)})
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
			for r := range pic.Rounds {
				if !s.Leader.Covers(pic.Rounds[r].From, pic.Rounds[r].To) {
					out = append(out, rotate.Must{Kind: rotate.Closed, Station: i, Round: r, Says: fmt.Sprintf("%s is not at %s in round %d", say.First(s.Leader.Name), where, r+1)})
				}
			}
		}
	}
	if len(lead) > 0 && ask.Rounds < ask.Stations {
		out = append(out, rotate.Must{Kind: rotate.Reach, Any: lead, Says: "the lead sees every group"})
	}
	if choice {
		for g := range pic.Groups {
			for i, s := range pic.Stations {
				for _, p := range pic.Groups[g].Players {
					if what := in.Forbidden(s.Side, p, s.Drill); what != "" {
						out = append(out, rotate.Must{Kind: rotate.Never, Group: g, Station: i, Says: fmt.Sprintf("%s, no %s, keeps away from %d %s", p.Name, what, i+1, s.Drill.Name)})
						break // the group keeps away for one as for several
					}
				}
			}
		}
	}
	return out
}

// gives lists what a drill gives to what comes later: its name and what it warms.
func (in Input) Gives(drill string) []string {
	if d, ok := in.Drills[drill]; ok && drill != "" {
		return append([]string{d.Name}, d.Warms...)
	}
	return nil
}

// before lists what the blocks before one give to everybody.
func (in Input) Before(block int) (out []string) {
	for _, b := range in.Plan.Blocks[:min(block, len(in.Plan.Blocks))] {
		out = append(out, in.Gives(b.Drill)...)
		for _, s := range b.Steps {
			out = append(out, in.Gives(s.Drill)...)
		}
	}
	return out
}
