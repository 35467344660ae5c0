package propose

import (
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/suggest"
)

// What a proposal is judged by, in one sum, the less the better. A stop outweighs all else; something to settle is worth
// more than a station for the aim, that more than a task on for too long, and a note is worth little. See
// docs/decisions/proposal.md.
const (
	stopCosts   = 1000.0
	settleCosts = 60.0
	noteCosts   = 2.0
	aimCosts    = 20.0  // a station that is not for the aim, where more should be
	longCosts   = 15.0  // a task much longer or shorter than it usually is
	idleCosts   = 150.0 // a session in which nobody moves, against one in which all do all the time
)

// Limits of the search.
const (
	tries = 16 // plans that are looked at, each a few milliseconds
	swaps = 3  // drills that are tried in a station's place
)

// improve looks for better plans near the first: what mends a finding, another drill at its station, or in its block. It
// keeps each that costs less, until nothing is left to settle or as many as tries were looked at. The same plan comes of
// the same input.
func (pr *proposal) improve() doc.Plan {
	in := pr.in
	in.Plan, in.Running = pr.p, false
	best := check.Plan(in)
	least := pr.cost(best)
	seen := map[string]bool{} // what was tried and was no better
	for looked := 0; looked < tries; {
		better := false
		for _, m := range pr.near(in, best) {
			key := m.Words
			if seen[key] || looked >= tries {
				continue
			}
			seen[key] = true
			next := in
			next.Plan = in.Plan.Clone()
			if next.Edit(m.Edits...) != nil {
				continue
			}
			looked++
			pic := check.Plan(next)
			if c := pr.cost(pic); c < least-1e-9 {
				in, best, least, better = next, pic, c, true
				break
			}
		}
		if !better {
			break
		}
	}
	pr.reasons(in.Plan)
	return in.Plan
}

// reasons says why of what the search has put in another's place.
func (pr *proposal) reasons(p doc.Plan) {
	why := func(use suggest.Use, drill string) string {
		f := pr.f
		f.Use, f.Minutes, f.Chosen = use, 0, nil
		return reason(suggest.Drills([]coach.Drill{pr.in.Drill(drill)}, f)[0])
	}
	for _, c := range p.Circuits() {
		for i := range c.Stations {
			if s := &c.Stations[i]; s.Why == "" && !s.Pinned {
				s.Why = why(suggest.Station, s.Drill)
			}
		}
	}
	for i := range p.Blocks {
		if b := &p.Blocks[i]; b.Why == "" && b.Drill != "" && !b.Pinned {
			b.Why = why(suggest.Parts, b.Drill)
		}
	}
}

// cost is what a plan is judged by.
func (pr *proposal) cost(pic check.Picture) (c float64) {
	for _, f := range pic.Findings {
		switch f.Weight {
		case check.Stop:
			c += stopCosts
		case check.Settle:
			c += settleCosts
		default:
			c += noteCosts
		}
	}
	on := 0
	for _, s := range pic.Stations {
		if slices.Contains(s.Drill.Skills, pr.aim) {
			on++
		}
	}
	if pr.aim != "" && len(pic.Stations) > 0 {
		c += aimCosts * float64(max(0, pr.forAim(len(pic.Stations))-on))
	}
	for _, b := range pic.Blocks {
		if unusual(b) {
			c += longCosts
		}
	}
	return c + idleCosts*(1-pic.Active) + pr.favours(pic)
}

// unusual reports whether a block's task is on for much longer, or much shorter, than it usually is.
func unusual(b work.Span) bool {
	if b.Task == nil || b.Task.Minutes[1] == 0 {
		return false
	}
	m := (b.To - b.From).Minutes()
	return m > suggest.LongAt*float64(b.Task.Minutes[1]) || m < suggest.ShortAt*float64(b.Task.Minutes[0])
}

// near are changes that might make a plan better, the likeliest first: the mends of what is to settle, the worst first,
// other drills where that is, and other drills where one is on for too long. Nothing that is pinned is changed.
func (pr *proposal) near(in work.Input, pic check.Picture) (out []check.Mend) {
	for _, f := range pic.Findings { // the worst first
		if f.Weight == check.Note {
			continue
		}
		about := f.About()[0]
		s, _ := in.Plan.Station(about.ID)
		if about.Kind == check.AStation && s != nil && s.Pinned {
			continue
		}
		for _, m := range f.Mends {
			if !slices.ContainsFunc(m.Edits, pr.mayNot) {
				m.Words = f.Key() + m.Words
				out = append(out, m)
			}
		}
		if about.Kind == check.AStation && s != nil {
			out = append(out, pr.others(in, *s)...)
			if len(in.Plan.Stations()) > 2 {
				out = append(out, check.Mend{Words: "out " + s.ID, Edits: []edit.Edit{edit.DropStation{Station: s.ID}}})
			}
		}
	}
	for _, b := range pic.Blocks {
		if unusual(b) && !b.Pinned && b.Kind != doc.Stations {
			out = append(out, pr.otherTasks(b)...)
		}
	}
	if pr.favour == Even {
		return out
	}
	for _, s := range in.Plan.Stations() { // what is favoured is looked for everywhere
		if !s.Pinned {
			out = append(out, pr.others(in, s)...)
		}
	}
	return out
}

// mayNot are edits that a proposal does not make by itself: what a coach has pinned, or has to answer for.
func (pr *proposal) mayNot(e edit.Edit) bool {
	switch e.(type) {
	case edit.Allow, edit.Edition:
		return true
	case edit.Work, edit.Rounds, edit.Change, edit.Minutes:
		return pr.pinned("time")
	case edit.Groups, edit.Deal, edit.Redeal, edit.Player:
		return pr.pinned("deal")
	case edit.Leader, edit.Leaders:
		return pr.pinned("leaders")
	case edit.Spot:
		return pr.pinned("floor")
	}
	return false
}

// others are the next best drills for a station.
func (pr *proposal) others(in work.Input, s doc.Station) (out []check.Mend) {
	f := pr.f
	f.Use, f.Minutes, f.Aim, f.Chosen = suggest.Station, 0, pr.aim, nil
	for _, o := range in.Plan.Stations() {
		f.Chosen = append(f.Chosen, in.Drill(o.Drill))
	}
	for _, d := range suggest.Drills(pr.in.Shelf, f) {
		if len(out) == swaps || d.Score < 0 {
			break
		}
		out = append(out, check.Mend{Words: s.ID + " " + d.Drill.ID, Edits: []edit.Edit{edit.Drill{Station: s.ID, Task: taskOf(*d.Drill)}}})
	}
	return out
}

// otherTasks are the next best drills for a block.
func (pr *proposal) otherTasks(b work.Span) (out []check.Mend) {
	i := slices.IndexFunc(pr.shape.blocks, func(p part) bool { return p.kind == b.Kind && p.title == b.Title })
	if i < 0 || pr.shape.blocks[i].use == "" {
		return nil
	}
	f := pr.f
	f.Use, f.Minutes, f.Chosen = pr.shape.blocks[i].use, int((b.To - b.From).Minutes()), []coach.Drill{*b.Task}
	for _, d := range suggest.Drills(pr.in.Shelf, f) {
		if len(out) == swaps || d.Score < 0 {
			break
		}
		out = append(out, check.Mend{Words: b.ID + " " + d.Drill.ID, Edits: []edit.Edit{edit.Task{Block: b.ID, Task: taskOf(*d.Drill)}}})
	}
	return out
}

func taskOf(d coach.Drill) doc.Task { return doc.Task{Drill: d.ID, Edition: max(1, d.Edition)} }
