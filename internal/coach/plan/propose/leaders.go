package propose

import (
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
)

// leaders puts everybody where they are needed: the lead where most can be marked, coaches and helpers where a drill
// asks for them, and who leaves early where it matters least.
func (pr *proposal) leaders() {
	if pr.c.Move {
		for i, l := range pr.in.Leaders {
			if i < pr.d.Groups {
				pr.c.With = append(pr.c.With, l.ID)
			}
		}
		pr.p.Why["leaders"] = "Each goes with a group."
		return
	}
	if pr.pinned("leaders") {
		for i := range pr.c.Stations {
			if i < len(pr.old.Stations) {
				pr.c.Stations[i].Leader = pr.old.Stations[i].Leader
			}
		}
		pr.p.Why["leaders"] = "Kept as you pinned them."
		return
	}
	in := pr.in
	in.Plan, in.Running = pr.p, true
	pic := work.Out(in)
	used := map[string]bool{}
	for _, s := range pr.c.Stations {
		if s.Pinned && s.Leader != "" {
			used[s.Leader] = true
		}
	}
	value := func(i int) (v int) {
		for _, k := range pic.Stations[i].Drill.Skills {
			v = max(v, pr.lacks[k])
		}
		return v
	}
	order := make([]int, len(pr.c.Stations))
	for i := range order {
		order[i] = i
	}
	rank := map[coach.Leader]int{coach.Qualified: 0, coach.AnyCoach: 1, coach.AnyHelper: 2, coach.SelfRun: 3, "": 3}
	slices.SortStableFunc(order, func(a, b int) int {
		if x, y := rank[pic.Stations[a].Drill.Leader], rank[pic.Stations[b].Drill.Leader]; x != y {
			return x - y
		}
		return value(b) - value(a)
	})
	give := func(i int, fit func(work.Leader) bool) {
		if s := &pr.c.Stations[i]; s.Leader == "" || !s.Pinned {
			if !s.Pinned {
				s.Leader = ""
			}
			for _, l := range in.Leaders {
				if !used[l.ID] && s.Leader == "" && fit(l) {
					s.Leader, used[l.ID] = l.ID, true
				}
			}
		}
	}
	for _, i := range order {
		need := pic.Stations[i].Drill.Leader
		if rank[need] == 3 {
			continue
		}
		give(i, func(l work.Leader) bool { // the least that is enough first
			return need.Enough(l.Role) && pic.Covers(l) && (need != coach.AnyHelper || l.Role == coach.RoleHelper) &&
				(need == coach.Qualified || l.Role != coach.RoleLead)
		})
		if pr.c.Stations[i].Leader == "" {
			give(i, func(l work.Leader) bool { return need.Enough(l.Role) && pic.Covers(l) })
		}
		if pr.c.Stations[i].Leader == "" {
			give(i, func(l work.Leader) bool { return need.Enough(l.Role) })
		}
	}
	slices.SortStableFunc(order, func(a, b int) int { return value(b) - value(a) })
	for _, i := range order {
		if pr.c.Stations[i].Leader == "" {
			give(i, func(l work.Leader) bool { return true })
		}
	}
	pr.p.Why["leaders"] = "Each stays where a task asks for them; the lead where most can be marked."
}
