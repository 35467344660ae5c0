package whatif

import (
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
)

// Fit makes a plan from elsewhere (another class, another day, a file) fit the input's players, leaders and floor: the
// groups are dealt to who comes, a leader who is not there is replaced by one who may, a station that does not hold its
// place is laid out. What still does not hold is found by working it out.
func Fit(p doc.Plan, in work.Input) (doc.Plan, error) {
	p = p.Clone()
	for _, c := range p.Circuits() {
		fitCircuit(c, in)
	}
	p.AnotherDay()
	for i := range p.Deals {
		p.Deals[i].Groups = max(1, min(p.Deals[i].Groups, len(in.Players)))
	}
	in.Plan = p
	if err := in.Redeal(); err != nil {
		return p, err
	}
	games(&in)
	return in.Plan, nil
}

func fitCircuit(c *doc.Circuit, in work.Input) {
	for i := range c.Stations {
		s := &c.Stations[i]
		if s.Spot != nil && !s.Spot.Within(in.Floor.Inside()) {
			s.Spot = nil
		}
		if in.Leader(s.Leader) == nil {
			s.Leader = ""
		}
	}
	for i := range c.With {
		if in.Leader(c.With[i]) == nil {
			c.With[i] = ""
		}
	}
	for i := range c.Stations {
		s := &c.Stations[i]
		need := in.Drill(s.Drill).Leader
		if s.Leader != "" || need == coach.SelfRun || need == "" {
			continue
		}
		for _, l := range in.Leaders {
			if need.Enough(l.Role) &&
				!slices.ContainsFunc(c.Stations, func(o doc.Station) bool { return o.Leader == l.ID }) {
				s.Leader = l.ID
				break
			}
		}
	}
	var sizes []floor.Size
	var spots []floor.Spot
	for _, s := range c.Stations {
		if s.Spot != nil {
			sizes, spots = append(sizes, work.SizeOf(in.Drill(s.Drill))), append(spots, *s.Spot)
		}
	}
	if len(floor.Check(in.Floor, spots, sizes)) > 0 {
		for i := range c.Stations {
			c.Stations[i].Spot = nil
		}
	}
}
