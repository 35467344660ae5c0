package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// checkCriteria: looks that are planned for today and no station shows, and what most of the class lacks and nobody will see.
func (pic *checking) checkCriteria(in work.Input) {
	if len(in.Players) > 0 && !slices.ContainsFunc(in.Players, func(p coach.Player) bool { return p.Stage != "" }) {
		pic.find(Settle, "no-stage", "Criteria", work.Always, "Nobody here stands on a stage, so nothing can be marked. Choose their stage on the roster.")
	}
	for _, c := range pic.Criteria {
		if len(c.Asked) > 0 && len(c.Stations) == 0 {
			var mends []Mend
			if i := slices.IndexFunc(in.Shelf, func(d coach.Drill) bool { return in.Shows.Shows(c.Criterion, d) }); i >= 0 && len(pic.Stations) > 0 {
				last := pic.Stations[len(pic.Stations)-1]
				mends = append(mends, mend(in.Shelf[i].Name+" instead of "+last.Drill.Name, "drill", last.Index, fmt.Sprintf("%s@%d", in.Shelf[i].ID, in.Shelf[i].Edition)))
			}
			pic.find(Settle, "look "+c.Criterion.ID, "Criterion", pic.Begin(), fmt.Sprintf("%s to be marked on “%s” today, and no station shows %s.", say.Count(len(c.Asked), "player"), c.Criterion.Wording, c.Criterion.Skill), mends...)
		}
	}
	for _, c := range pic.Criteria {
		if len(c.Stations) > 0 && len(c.By) == 0 && len(c.Players)*3 >= len(pic.Ledger) {
			s := pic.Stations[c.Stations[0]]
			var mends []Mend
			for _, l := range pic.CanLead {
				if l.Role == coach.RoleHelper || pic.Plan.Move {
					continue
				}
				mends = append(mends, mend(say.First(l.Name)+fmt.Sprintf(" to station %d", s.Index+1), "leader", s.Index, l.ID))
				break
			}
			pic.find(Note, "criterion "+c.Criterion.ID, "Criterion", pic.Begin(), fmt.Sprintf("%s is open for %s and could be shown at station %d, where no coach stands to mark it.", c.Criterion.Wording, say.Count(len(c.Players), "player"), s.Index+1), mends...)
			return
		}
	}
}
