package edit

import (
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// GoesWith lets a leader go with a group; who went with it goes with the leader's group.
type GoesWith struct {
	Block  string // of the stations; empty: the first
	Group  int    // counted from 0
	Leader string // empty: nobody
}

// readGoesWith reads "group leader".
func readGoesWith(w Wire) (Edit, error) {
	group, leader, _ := strings.Cut(w.Value, " ")
	g, err := strconv.Atoi(group)
	if err != nil {
		return nil, doc.Input("goes-with", "That group is no longer in the plan.")
	}
	return GoesWith{w.At, g, leader}, nil
}

func (e GoesWith) apply(p *doc.Plan) (Needs, error) {
	c, err := circuit(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	groups := p.DealOf(c).Groups
	if e.Group < 0 || e.Group >= groups {
		return Nothing, doc.Input("goes-with", "That group is no longer in the plan.")
	}
	for len(c.With) < groups {
		c.With = append(c.With, "")
	}
	if i := slices.Index(c.With, e.Leader); i >= 0 && e.Leader != "" {
		c.With[i] = c.With[e.Group]
	}
	c.With[e.Group] = e.Leader
	return Nothing, nil
}

func (e GoesWith) Called(doc.Plan) string { return "who goes with a group" }
