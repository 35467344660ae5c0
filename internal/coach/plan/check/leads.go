package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
)

// NoLeader: nobody stands at a station whose drill asks for somebody.
type NoLeader struct {
	AtStation
	Drill   string
	Needs   coach.Leader
	NoneFor bool // nobody who is free may
}

func (f NoLeader) Says() string {
	if f.NoneFor {
		return fmt.Sprintf("%s needs %s, and nobody free may do it.", f.Drill, f.Needs)
	}
	return fmt.Sprintf("%s needs %s.", f.Drill, f.Needs)
}

// MayNot: who stands there is not who the drill asks for.
type MayNot struct {
	AtStation
	Drill, Leader string
	Needs         coach.Leader
	Is            coach.Role
}

func (f MayNot) Says() string {
	return fmt.Sprintf("%s needs %s; %s is a %s.", f.Drill, f.Needs, f.Leader, f.Is)
}

// LeavesEarly: who stands there leaves before the rounds are over.
type LeavesEarly struct {
	AtStation
	Drill, Leader, At string
	Round             int // the first without
}

func (f LeavesEarly) Says() string {
	return fmt.Sprintf("%s leaves at %s; from round %d nobody stands at %s.", f.Leader, f.At, f.Round, f.Drill)
}

// ComesLate: who stands there comes after a round has begun.
type ComesLate struct {
	AtStation
	Leader, At string
	Round      int
}

func (f ComesLate) Says() string {
	return fmt.Sprintf("%s comes at %s, after round %d has begun.", f.Leader, f.At, f.Round)
}

func needed(s work.StationAt) bool { return s.Drill.Leader != coach.SelfRun && s.Drill.Leader != "" }

func leads(c *checking, s work.StationAt) {
	switch {
	case c.Circuits[s.Circuit].Move:
		leadsMoving(c, s)
	case s.Leader != nil:
		leadsThere(c, s)
	case needed(s):
		f, mends := NoLeader{stationOf(s), s.Drill.Name, s.Drill.Leader, false}, c.could(s)
		if len(mends) == 0 {
			f.NoneFor = true
			mends = c.instead(s, func(d coach.Drill) bool { return d.Leader == coach.SelfRun })
		}
		c.find(Settle, c.begin(s), f, mends...)
	}
}

func leadsThere(c *checking, s work.StationAt) {
	l, name := s.Leader, s.Leader.First()
	if !s.Drill.Leader.Enough(l.Role) {
		c.find(Settle, c.begin(s), MayNot{stationOf(s), s.Drill.Name, name, s.Drill.Leader, l.Role}, c.could(s)...)
	}
	for _, r := range c.RoundsOf(c.Circuits[s.Circuit]) {
		if l.Covers(r.From, r.To) || s.Visits[r.Number-1] == rotate.Rest {
			continue
		}
		weight := Settle
		if !needed(s) {
			weight = Note
		}
		if r.From < l.From {
			c.find(weight, r.From, ComesLate{stationOf(s), name, c.clock(l.From), r.Number}, c.could(s)...)
		} else {
			c.find(weight, r.From, LeavesEarly{stationOf(s), s.Drill.Name, name, c.clock(l.Until), r.Number}, c.could(s)...)
		}
		return
	}
}

// could offers somebody who is free and may, or who could leave a station that runs itself.
func (c *checking) could(s work.StationAt) (out []Mend) {
	there := c.StationsOf(c.Circuits[s.Circuit])
	for _, l := range c.in.Leaders {
		busy := slices.ContainsFunc(
			there,
			func(o work.StationAt) bool { return o.Leader != nil && o.Leader.ID == l.ID },
		)
		if !busy && s.Drill.Leader.Enough(l.Role) && c.Covers(l) {
			out = append(out, mend("Put "+l.First()+" there", edit.Leader{Station: s.ID, Leader: l.ID}))
		}
	}
	for _, o := range there {
		if o.ID != s.ID && o.Leader != nil && o.Drill.Leader == coach.SelfRun && s.Drill.Leader.Enough(o.Leader.Role) &&
			c.Covers(*o.Leader) {
			out = append(
				out,
				mend("Swap with "+o.Leader.First(), edit.Leader{Station: s.ID, Leader: o.Leader.ID}),
			)
		}
	}
	return out[:min(2, len(out))]
}

// instead offers another drill of the same skill from the shelf.
func (c *checking) instead(s work.StationAt, will func(coach.Drill) bool) []Mend {
	for _, d := range c.in.Shelf {
		shares := slices.ContainsFunc(d.Skills, func(k string) bool { return slices.Contains(s.Drill.Skills, k) })
		planned := slices.ContainsFunc(c.Stations, func(o work.StationAt) bool { return o.Drill.ID == d.ID })
		if shares && !planned && will(d) {
			return []Mend{mend(d.Name+" instead", edit.Drill{Station: s.ID, Task: taskOf(d)})}
		}
	}
	return nil
}
