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
			most := map[string]coach.Drill{} // exercises come one after the other: the same drill twice needs its kit once
			for _, d := range c.Drills {
				most[d.ID] = d
			}
			for _, id := range slices.Sorted(maps.Keys(most)) {
				add(b.Title, most[id], min(c.Places, len(c.Players)))
			}
			if c.Light != nil {
				add(b.Title, *c.Light, max(0, len(c.Players)-c.Places))
			}
			aside(b.Title, b.Side)
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
