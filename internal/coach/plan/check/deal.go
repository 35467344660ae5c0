package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

func (pic *checking) checkDeal(in work.Input) {
	if len(pic.Undealt) > 0 && len(pic.Groups) > 0 {
		var names []string
		for _, p := range pic.Undealt {
			names = append(names, p.Name)
		}
		pic.find(Settle, "undealt", "Groups", work.Always, few(names)+" "+say.Verb(len(names), "is", "are")+" not in a group yet.", mend("Deal them in", "redeal", 0, ""))
	}
	small, large, empty := 999, 0, 0
	for _, g := range pic.Groups {
		if len(g.Players) == 0 {
			empty++
		}
	}
	if full := len(pic.Groups) - empty; empty > 0 && full > 0 {
		pic.find(Settle, "empty groups", "Groups", work.Always, fmt.Sprintf("%d of the %s %s nobody in them.", empty, say.Count(len(pic.Groups), "group"), say.Verb(empty, "has", "have")), mend("Make "+say.Count(full, "group"), "groups", 0, full))
		return
	}
	for _, g := range pic.Groups {
		small, large = min(small, len(g.Players)), max(large, len(g.Players))
		for _, p := range g.Players {
			if len(p.With) > 1 {
				return // keeping players together may ask for it
			}
		}
	}
	if large-small > 1 {
		pic.find(Note, "uneven", "Groups", work.Always, fmt.Sprintf("The largest group has %d, the smallest %d.", large, small), mend("Even them out", "redeal", 0, ""))
	}
	if pic.Plan.Groups != len(pic.Plan.Deal) && len(in.Players) > 0 && len(pic.Plan.Deal) > 0 {
		pic.find(Settle, "groups", "Groups", work.Always, fmt.Sprintf("The plan asks for %s; %d are dealt.", say.Count(pic.Plan.Groups, "group"), len(pic.Plan.Deal)), mend("Deal them", "redeal", 0, ""))
	}
}

func few(names []string) string {
	if len(names) > 4 {
		names = append(slices.Clone(names[:3]), fmt.Sprintf("%d more", len(names)-3))
	}
	return say.List(names)
}
