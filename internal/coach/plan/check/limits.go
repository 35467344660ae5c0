package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// Limit: what a player must not do now is asked for at stations they come to.
type Limit struct {
	OfPlayer
	Stations []Subject
	What     string
	Until    string   // empty: open
	At       []string // the stations, as they are called
}

func (f Limit) About() []Subject { return append([]Subject{f.Player}, f.Stations...) }

func (f Limit) Says() string {
	until := ""
	if f.Until != "" {
		until = " until " + f.Until
	}
	return fmt.Sprintf("No %s%s, and %s asks for it. Give another task there.", f.What, until, say.List(f.At))
}

// BlockLimit: what a player must not do now is asked for by what everybody does.
type BlockLimit struct {
	OfPlayer
	Block       Subject
	What, Drill string
}

func (f BlockLimit) Which() string { return f.Block.ID }

func (f BlockLimit) Says() string {
	return fmt.Sprintf("No %s, and %s asks for it. Give another task then.", f.What, f.Drill)
}

func limits(c *checking) {
	for _, row := range c.Ledger {
		f, first := Limit{OfPlayer: playerOf(row.Player)}, work.Always
		var sides []edit.Side
		var drills []coach.Drill
		for _, g := range c.Groups {
			if !slices.ContainsFunc(g.Players, func(p coach.Player) bool { return p.ID == row.Player.ID }) {
				continue
			}
			for r, i := range g.Route {
				if i < 0 {
					continue
				}
				s := c.Stations[i]
				does := *s.For(g)
				no := c.in.Forbidden(s.Side, row.Player, does)
				if no == "" {
					continue
				}
				f.What = no
				if at := fmt.Sprintf("%d %s", s.Index+1, does.Name); !slices.Contains(f.At, at) {
					f.At, drills = append(f.At, at), append(drills, does)
					f.Stations, sides = append(f.Stations, stationOf(s).Station), append(
						sides,
						edit.Side{Station: s.ID},
					)
				}
				if first == work.Always {
					first = c.Rounds[r].From
				}
			}
		}
		if len(f.At) == 0 {
			continue
		}
		slices.Sort(f.At)
		for _, l := range row.Player.Limits {
			if l.What == f.What && !l.Until.IsZero() {
				f.Until = l.Until.Format("2 Jan")
			}
		}
		c.find(Stop, first, f, c.aside(row.Player, drills, sides...)...)
	}
}

func blockLimit(c *checking, b work.Span) {
	if b.Kind == doc.Stations {
		return
	}
	for _, p := range c.in.Players {
		for _, d := range b.Tasks() {
			if what := c.in.Forbidden(b.Side, p, d); what != "" {
				c.find(Stop, b.From, BlockLimit{playerOf(p), blockOf(b).Block, what, d.Name},
					c.aside(p, []coach.Drill{d}, edit.Side{Block: b.ID})...)
				break // the player has one task of their own for all of it
			}
		}
	}
}

// Alone is what fits one player instead of some drills: of those that one can do alone and that the player may do, the one
// nearest to them in skill, and rather one that runs itself. Nil where the shelf has none.
func Alone(in work.Input, p coach.Player, drills ...coach.Drill) (best *coach.Drill) {
	fit := func(d coach.Drill) (n int) {
		if d.Leader == coach.SelfRun || d.Leader == "" {
			n += 2
		}
		for _, o := range drills {
			if slices.ContainsFunc(d.Skills, func(k string) bool { return slices.Contains(o.Skills, k) }) {
				n++
			}
		}
		return n
	}
	for i, d := range in.Shelf {
		alone := d.Least <= 1 && d.Edition > 0 && d.Fire <= 0 && !d.Hard
		another := !slices.ContainsFunc(drills, func(o coach.Drill) bool { return o.ID == d.ID })
		if alone && another && in.Forbids(p, d) == "" && (best == nil || fit(d) > fit(*best)) {
			best = &in.Shelf[i]
		}
	}
	return best
}

// aside is what one player could do instead of drills they must not do: the stations or the block stay as they are for
// the others. First what fits one player, where there is something; and sitting out there.
func (c *checking) aside(p coach.Player, drills []coach.Drill, at ...edit.Side) []Mend {
	best := Alone(c.in, p, drills...)
	who := p.First()
	out, own := Mend{Words: who + " sits out there"}, Mend{}
	for _, e := range at {
		e.Player = p.ID
		out.Edits = append(out.Edits, e)
		if best != nil {
			e.Task = taskOf(*best)
			own.Words, own.Edits = best.Name+" for "+who, append(own.Edits, e)
		}
	}
	if best == nil {
		return []Mend{out}
	}
	return []Mend{own, out}
}
