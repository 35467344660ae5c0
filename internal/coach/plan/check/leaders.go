package check

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
)

func (pic *checking) checkLeader(in work.Input, s work.StationAt, where string) {
	needed := s.Drill.Leader != coach.SelfRun && s.Drill.Leader != ""
	at := func(l work.Leader) bool {
		return slices.ContainsFunc(pic.Stations, func(o work.StationAt) bool { return o.Leader != nil && o.Leader.ID == l.ID })
	}
	could := func() (out []Mend) { // somebody who is free and may, or who could leave a station that runs itself
		for _, l := range in.Leaders {
			if !at(l) && s.Drill.Leader.Enough(l.Role) && pic.Covers(l) {
				out = append(out, mend("Put "+say.First(l.Name)+" there", "leader", s.Index, l.ID))
			}
		}
		for _, o := range pic.Stations {
			if o.Index != s.Index && o.Leader != nil && o.Drill.Leader == coach.SelfRun && s.Drill.Leader.Enough(o.Leader.Role) && pic.Covers(*o.Leader) {
				out = append(out, mend("Swap with "+say.First(o.Leader.Name), "leader", s.Index, o.Leader.ID))
			}
		}
		return out[:min(2, len(out))]
	}
	if pic.Plan.Move {
		pic.checkMoving(s, where, needed)
		return
	}
	if s.Leader == nil {
		if needed {
			says := fmt.Sprintf("%s needs %s.", s.Drill.Name, s.Drill.Leader)
			mends := could()
			if len(mends) == 0 {
				says = fmt.Sprintf("%s needs %s, and nobody free may do it.", s.Drill.Name, s.Drill.Leader)
				mends = pic.instead(in, s, func(d coach.Drill) bool { return d.Leader == coach.SelfRun })
			}
			pic.find(Settle, "leader "+station(pic.Picture, s.Index), where, pic.Begin(), says, mends...)
		}
		return
	}
	if !s.Drill.Leader.Enough(s.Leader.Role) {
		pic.find(Settle, "role "+station(pic.Picture, s.Index), where, pic.Begin(), fmt.Sprintf("%s needs %s; %s is a %s.", s.Drill.Name, s.Drill.Leader, say.First(s.Leader.Name), s.Leader.Role), could()...)
	}
	for _, r := range pic.Rounds {
		if s.Leader.Covers(r.From, r.To) || s.Visits[r.Number-1] == rotate.Rest {
			continue
		}
		weight, says := Settle, fmt.Sprintf("%s leaves at %s; from round %d nobody stands at %s.", say.First(s.Leader.Name), pic.clock(s.Leader.Until), r.Number, s.Drill.Name)
		if r.From < s.Leader.From {
			says = fmt.Sprintf("%s comes at %s, after round %d has begun.", say.First(s.Leader.Name), pic.clock(s.Leader.From), r.Number)
		}
		if !needed {
			weight = Note
		}
		pic.find(weight, "gone "+station(pic.Picture, s.Index), where, r.From, says, could()...)
		return
	}
}

func (pic *checking) checkMoving(s work.StationAt, where string, needed bool) {
	if !needed {
		return
	}
	for r, g := range s.Visits {
		if g == rotate.Rest {
			continue
		}
		l := pic.Groups[g].Leader
		round := pic.Rounds[r]
		switch {
		case l == nil:
			pic.find(Settle, "moving "+station(pic.Picture, s.Index), where, round.From, fmt.Sprintf("%s needs %s; nobody goes with the %s in round %d.", s.Drill.Name, s.Drill.Leader, strings.ToLower(pic.Groups[g].Shape.Name), r+1), mend("Leaders stay at stations", "leaders", 0, "stay"))
			return
		case !s.Drill.Leader.Enough(l.Role) || !l.Covers(round.From, round.To):
			short := "and not for all of it"
			if l.Covers(round.From, round.To) {
				short = "a " + string(l.Role)
			}
			pic.find(Settle, "moving "+station(pic.Picture, s.Index), where, round.From, fmt.Sprintf("%s needs %s; in round %d only %s is there, %s.", s.Drill.Name, s.Drill.Leader, r+1, say.First(l.Name),
				short), mend("Leaders stay at stations", "leaders", 0, "stay"))
			return
		}
	}
}

func (pic *checking) checkLeaders(in work.Input) {
	for _, l := range in.Leaders {
		for _, o := range in.Elsewhere {
			from, until := max(0, o.From, l.From), min(pic.Booked, o.Until)
			if l.Until > 0 {
				until = min(until, l.Until)
			}
			if o.Leader != l.ID || from >= until {
				continue
			}
			says := fmt.Sprintf("%s is booked for %s from %s to %s too", say.First(l.Name), o.What, pic.clock(o.From), pic.clock(o.Until))
			weight, mends := Note, []Mend(nil)
			if pic.Plan.Leads(l.ID) {
				says, weight = says+", and leads here", Settle
				if !pic.Plan.Move {
					mends = pic.relieve(in, l)
				}
			}
			pic.find(weight, "elsewhere "+l.ID+o.What, say.First(l.Name), from, says+".", mends...).About = []string{"leader " + l.ID}
		}
		var at []string
		for _, s := range pic.Stations {
			if s.Leader != nil && s.Leader.ID == l.ID {
				at = append(at, fmt.Sprint(s.Index+1))
			}
		}
		if len(at) > 1 {
			pic.find(Settle, "twice "+l.ID, say.First(l.Name), pic.Begin(), fmt.Sprintf("%s stands at stations %s at once.", say.First(l.Name), say.List(at)), mend("Only at the first", "leader", pic.lastOf(l.ID), "")).About = []string{"leader " + l.ID}
		}
	}
}

// relieve puts others, or nobody, where a leader stands.
func (pic *checking) relieve(in work.Input, gone work.Leader) []Mend {
	left := in
	left.Plan = in.Plan.Clone()
	left.Leaders = slices.Clone(in.Leaders)
	for i := range left.Leaders {
		if left.Leaders[i].ID == gone.ID {
			left.Leaders[i].Until = time.Second
		}
	}
	left.StandIn([]string{gone.ID})
	m := Mend{Words: "Without " + say.First(gone.Name)}
	for i, s := range left.Plan.Stations {
		if s.Leader != in.Plan.Stations[i].Leader {
			m.Edits = append(m.Edits, doc.Edit{Do: "leader", At: i, Value: ""})
		}
	}
	for i, s := range left.Plan.Stations {
		if s.Leader != in.Plan.Stations[i].Leader && s.Leader != "" {
			m.Edits = append(m.Edits, doc.Edit{Do: "leader", At: i, Value: s.Leader})
		}
	}
	return []Mend{m}
}

func (pic *checking) lastOf(leader string) (at int) {
	for _, s := range pic.Stations {
		if s.Leader != nil && s.Leader.ID == leader {
			at = s.Index
		}
	}
	return at
}
