package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
)

// instead offers another drill of the same skill from the shelf.
func (pic *checking) instead(in work.Input, s work.StationAt, will func(coach.Drill) bool) (out []Mend) {
	for _, d := range in.Shelf {
		shares := slices.ContainsFunc(d.Skills, func(k string) bool { return slices.Contains(s.Drill.Skills, k) })
		planned := slices.ContainsFunc(pic.Stations, func(o work.StationAt) bool { return o.Drill.ID == d.ID })
		if shares && !planned && will(d) && len(out) == 0 {
			out = append(out, mend(d.Name+" instead", "drill", s.Index, fmt.Sprintf("%s@%d", d.ID, d.Edition)))
		}
	}
	return out
}

// aside is what one player could do instead of drills they must not do: the station or block stays as it is for the others. First a drill
// of the same skill that one can do alone and that runs itself, else any such; and sitting out there.
func aside(in work.Input, p coach.Player, drills []coach.Drill, do string, at ...int) []Mend {
	var best *coach.Drill
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
		if d.Least <= 1 && d.Edition > 0 && in.Forbids(p, d) == "" && d.Fire <= 0 && !d.Hard && (best == nil || fit(d) > fit(*best)) {
			best = &in.Shelf[i]
		}
	}
	who := say.First(p.Name)
	out := Mend{Words: who + " sits out there"}
	own := Mend{}
	for _, i := range at {
		out.Edits = append(out.Edits, doc.Edit{Do: do, At: i, Value: p.ID + " -"})
		if best != nil {
			own.Words = best.Name + " for " + who
			own.Edits = append(own.Edits, doc.Edit{Do: do, At: i, Value: fmt.Sprintf("%s %s@%d", p.ID, best.ID, best.Edition)})
		}
	}
	if best == nil {
		return []Mend{out}
	}
	return []Mend{own, out}
}

func (pic *checking) checkPlayers(in work.Input) {
	var unseen []string
	hasLead := false
	for _, row := range pic.Ledger {
		hasLead = hasLead || len(row.LeadSees) > 0
	}
	for _, row := range pic.Ledger {
		if hasLead && len(row.LeadSees) == 0 {
			unseen = append(unseen, row.Player.Name)
		}
		var at []string
		var stations []int
		var drills []coach.Drill
		what, round := "", work.Always
		for r, s := range pic.Groups[row.Group].Route {
			if s == rotate.Rest {
				continue
			}
			st := pic.Stations[s]
			if no := in.Forbidden(st.Side, row.Player, st.Drill); no != "" {
				what = no
				if where := fmt.Sprintf("%d %s", s+1, st.Drill.Name); !slices.Contains(at, where) {
					at, stations, drills = append(at, where), append(stations, s), append(drills, st.Drill)
				}
				if round == work.Always {
					round = pic.Rounds[r].From
				}
			}
		}
		if len(at) == 0 {
			continue
		}
		slices.Sort(at)
		until := ""
		for _, l := range row.Player.Limits {
			if l.What == what && !l.Until.IsZero() {
				until = " until " + l.Until.Format("2 Jan")
			}
		}
		about := []string{"player " + row.Player.ID}
		for _, s := range stations {
			about = append(about, station(pic.Picture, s))
		}
		pic.find(Stop, "limit "+row.Player.ID, row.Player.Name, round, fmt.Sprintf("No %s%s, and %s asks for it. Give another task there.", what, until, say.List(at)), aside(in, row.Player, drills, "side", stations...)...).About = about
	}
	if len(unseen) > 0 {
		who := few(unseen)
		if len(unseen) > 4 {
			who = say.Count(len(unseen), "player")
		}
		var mends []Mend
		if pic.Plan.Rounds > 0 && pic.Plan.Rounds < len(pic.Stations) {
			mends = append(mends, mend("A round more", "rounds", 0, pic.Plan.Rounds+1))
		}
		pic.find(Note, "unseen", "Lead", work.Always, fmt.Sprintf("The lead does not get to see %s.", who), mends...).About = []string{pic.lead()}
	}
}
