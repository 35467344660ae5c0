package planner

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/web/shell"
)

// unitView is the session as one group goes through it.
type unitView struct {
	planView
	Group work.Group
	Rows  []unitRow
}

// unitRow is a stretch of the session: everybody's block, or the group's round at a station.
type unitRow struct {
	At, Where, What string
	Takes           time.Duration
	Drill           *coach.Drill
	Target          string
	Leader          string
	Rests           bool
}

// unit is a group's own plan, to be read and printed alone.
func unit(c *shell.Ctx) error {
	base, err := viewOf(c)
	if err != nil {
		return err
	}
	n, err := strconv.Atoi(c.Param("n"))
	if err != nil || n < 0 || n >= len(base.Picture.Groups) {
		return shell.NotFound("That group is no longer in the plan.")
	}
	base.Paper = true
	v := unitView{planView: *base, Group: base.Picture.Groups[n]}
	v.rows()
	return c.Bare(pages, http.StatusOK, "unit.html", v.Group.Shape.Name, &v)
}

func (v *unitView) rows() {
	pic := v.Picture
	for _, b := range pic.Blocks {
		if b.Kind != doc.Stations {
			what, _ := b.Does()
			r := unitRow{At: v.At(b.From), Takes: b.To - b.From, Where: b.Title, Drill: b.Task}
			if what != b.Title {
				r.What = what
			}
			v.Rows = append(v.Rows, r)
			continue
		}
		for i, round := range pic.Rounds {
			if round.Block != b.Index || v.Group.Route[i] == work.NotIn {
				continue
			}
			r := unitRow{At: v.At(round.From), Takes: round.To - round.From, Where: "rest", Rests: true}
			if at := v.Group.Route[i]; at >= 0 {
				v.at(&r, pic.Stations[at], i)
			}
			v.Rows = append(v.Rows, r)
		}
	}
}

// at fills in what the group does at a station in a round.
func (v *unitView) at(r *unitRow, s work.StationAt, round int) {
	d := *s.For(v.Group)
	t, _ := s.TargetFor(v.Group)
	r.Rests, r.Where, r.What, r.Drill, r.Target = false, "Station "+strconv.Itoa(s.Index+1), d.Name, &d, t.String()
	if form := s.Form(v.Group); form != nil {
		r.What += ", " + form.Name
	}
	if l := v.Picture.LeaderIn(s, round); l != nil {
		r.Leader = l.First()
	}
}

// Cards are the drills of the unit's own stations, each once, for whoever leads it or for itself where nobody does.
func (v unitView) Cards() (out []coach.Drill) {
	for _, r := range v.Rows {
		if r.Drill != nil && !slices.ContainsFunc(out, func(d coach.Drill) bool { return d.ID == r.Drill.ID }) {
			out = append(out, *r.Drill)
		}
	}
	return out
}

// unitForm is a group at a station's form: what it does there.
type unitForm struct {
	Group work.Group
	Own   bool
	Drill *coach.Drill // its own; nil: it skips the place, or does as the others do
}

// Units are the groups that can come to a station, for its form.
func (v *planView) Units(s work.StationAt) (out []unitForm) {
	for _, g := range v.Picture.GroupsOf(v.Picture.Circuits[s.Circuit]) {
		u := unitForm{Group: g, Own: s.HasOwn(g)}
		if u.Own {
			u.Drill = s.For(g)
		}
		out = append(out, u)
	}
	return out
}

// GroupKey is the group as edits name it.
func (v *planView) GroupKey(g work.Group) string { return doc.GroupKey(g.Number) }

// CircuitOf is the circuit that a block of stations holds; nil where it goes on with another's.
func (v *planView) CircuitOf(b work.Span) *work.Circuit {
	for i := range v.Picture.Circuits {
		if v.Picture.Circuits[i].Block == b.ID {
			return &v.Picture.Circuits[i]
		}
	}
	return nil
}

// DealOf is how the players of a circuit are dealt.
func (v *planView) DealOf(c work.Circuit) *doc.Deal { return v.Picture.Plan.DealOf(&c.Circuit) }

// choice is an entry of a list that is sent as an edit.
type choice struct{ Value, Words string }

// ForOne is what a single player can do instead at a station: what fits best, or sit out. Who has a task of their own
// already is not among them.
func (v *planView) ForOne(s work.StationAt) (out []choice) {
	for _, g := range v.Picture.GroupsOf(v.Picture.Circuits[s.Circuit]) {
		d := s.For(g)
		for _, p := range g.Players {
			if _, aside := s.Side[p.ID]; aside || d == nil {
				continue
			}
			if best := check.Alone(v.Input, p, *d); best != nil {
				task := fmt.Sprintf("%s %s@%d", p.ID, best.ID, best.Edition)
				out = append(out, choice{task, p.Name + ": " + best.Name})
			}
			out = append(out, choice{p.ID + " -", p.Name + " sits out"})
		}
	}
	slices.SortStableFunc(out, func(a, b choice) int { return strings.Compare(a.Words, b.Words) })
	return out
}

// ForAnyone are other tasks for one player in any block: of what fits one, the best for each; and sitting out.
func (v *planView) ForAnyone() (out []choice) {
	for _, p := range v.Input.Players {
		if best := check.Alone(v.Input, p); best != nil {
			out = append(out, choice{fmt.Sprintf("%s %s@%d", p.ID, best.ID, best.Edition), p.Name + ": " + best.Name})
		}
		out = append(out, choice{p.ID + " -", p.Name + " sits out"})
	}
	return out
}
