package work

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
)

// KitRow is a line of the packing list, with when it is needed most.
type KitRow struct {
	coach.KitRow
	At    time.Duration
	Where []string
}

// kit is what is needed when it is needed most, against what the club has.
func (pic *Picture) kit(in Input) {
	largest := 0
	for _, g := range pic.Groups {
		largest = max(largest, len(g.Players))
	}
	for _, b := range pic.Blocks {
		var needs []coach.Need
		where := map[string][]string{}
		add := func(label string, d coach.Drill, players int) {
			for _, n := range coach.Needs(d.Kit) {
				if n.Each {
					n.N, n.Each = n.N*players, false
				}
				needs = append(needs, n)
				if !slices.Contains(where[n.Name], label) {
					where[n.Name] = append(where[n.Name], label)
				}
			}
		}
		inTurn := func(drills []coach.Drill, players int) { // what comes one after the other needs the most of them, not the sum
			before := needs
			var most []coach.Need
			for _, d := range drills {
				needs = nil
				add(b.Title, d, players)
				for _, n := range needs {
					if i := slices.IndexFunc(most, func(o coach.Need) bool { return o.Name == n.Name }); i < 0 {
						most = append(most, n)
					} else if n.N > most[i].N {
						most[i] = n
					}
				}
			}
			needs = append(before, most...)
		}
		aside := func(label string, sides map[string]doc.Task) {
			for _, p := range in.Players {
				if own := sides[p.ID]; own.Drill != "" {
					add(label, in.Drill(own.Drill), 1)
				}
			}
		}
		if owner := pic.Plan.Owner(&b.Block); owner != nil {
			for _, s := range pic.stationsIn(owner.ID) {
				add(fmt.Sprint(s.Index+1), s.Drill, largest)
				for _, key := range slices.Sorted(maps.Keys(s.own)) {
					if d := s.own[key]; d != nil {
						add(fmt.Sprint(s.Index+1), *d, largest)
					}
				}
				aside(fmt.Sprint(s.Index+1), s.Side)
			}
		} else if c := b.Cycle; c != nil {
			inTurn(c.Drills, min(c.Places, len(c.Players)))
			if c.Light != nil {
				add(b.Title, *c.Light, max(0, len(c.Players)-c.Places))
			}
			aside(b.Title, b.Side)
		} else if len(b.Steps) > 0 {
			var steps []coach.Drill
			for _, t := range b.Steps {
				steps = append(steps, in.Drill(t.Drill))
			}
			inTurn(steps, Joining(b.Side, in.Players))
		} else if b.Task != nil {
			add(b.Title, *b.Task, Joining(b.Side, in.Players))
			aside(b.Title, b.Side)
		}
		for _, r := range coach.Pack(needs, 0, in.Kit) {
			row := KitRow{r, b.From, where[r.Name]}
			if i := slices.IndexFunc(pic.Kit, func(k KitRow) bool { return k.Name == r.Name }); i < 0 {
				pic.Kit = append(pic.Kit, row)
			} else if r.Short > pic.Kit[i].Short || r.Short == pic.Kit[i].Short && r.Need > pic.Kit[i].Need {
				pic.Kit[i] = row
			}
		}
	}
	slices.SortStableFunc(
		pic.Kit,
		func(a, b KitRow) int { return cmp.Or(b.Short-a.Short, cmp.Compare(a.Name, b.Name)) },
	)
}
