package propose

import (
	"encoding/json"
	"math/rand/v2"
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
	tryEarns    = 0.05  // each try at the aim of the player who has the fewest
	waitCosts   = 4.0   // a minute of the longest usual wait between two turns
	unseenCosts = 1.0   // each player whom the lead never has
	dueCosts    = 5.0   // a criterion that is to be marked today, and can be nowhere
	walkCosts   = 0.5   // ten metres of the longest walk at a change
	twiceCosts  = 60.0  // the same drill at two stations
	crowdCosts  = 20.0  // each player more at a station than its drill is for
	faultCosts  = 0.3   // each repetition after faults that a child would do beyond the club's most
	againCosts  = 8.0   // a drill that they had last week, or that the plan of a moment ago had
)

// Limits of the search: plans that are looked at, each in half a millisecond to one, and drills that are tried in the
// place of one about which there is something to settle.
const (
	fewest, most = 16, 160
	swaps        = 4
	begins       = 8 // times from other drills
)

// tries is how many plans are looked at: fewer of large ones, so that all take about the same time.
func (pr *proposal) tries() int {
	n := max(fewest, min(most, 5760/max(1, len(pr.in.Players)*max(1, len(pr.c.Stations)))))
	if pr.favour != Even { // one of three
		n /= 2
	}
	return n
}

// search is a plan that is looked at, with what it costs, and how many more may be.
type search struct {
	*proposal
	in   work.Input
	pic  check.Picture
	cost float64
	left int
	seen map[string]bool // plans that were looked at, by what is done in them
}

// look takes a change if the plan is cheaper with it.
func (s *search) look(changes []edit.Edit) bool {
	was := *s
	if !s.leap(changes) {
		return false
	}
	if s.cost >= was.cost-1e-9 {
		was.left = s.left
		*s = was
		return false
	}
	return true
}

// leap takes a change, whatever it costs, where the plan can be changed so.
func (s *search) leap(changes []edit.Edit) bool {
	next := s.in
	next.Plan = s.in.Plan.Clone()
	if s.left == 0 || next.Edit(changes...) != nil {
		return false
	}
	plan, err := json.Marshal(next.Plan)
	if err != nil || s.seen[string(plan)] {
		return false
	}
	s.seen[string(plan)] = true
	s.left--
	s.in, s.pic = next, check.Plan(next)
	s.cost = s.proposal.cost(s.pic)
	return true
}

// down takes what is better until nothing is.
func (s *search) down() {
	for better := true; better && s.left > 0; {
		better = false
		for _, changes := range s.all(s.in) {
			better = s.look(changes) || better
		}
	}
}

// improve looks for better plans near the first: what mends a finding, another drill at its station, or in its block; then
// every drill at every station, and two of them the other way about; then the same from other drills. It keeps each that
// costs less, until as many as tries were looked at. The same plan comes of the same input.
func (pr *proposal) improve() doc.Plan {
	s := &search{proposal: pr, in: pr.in, left: pr.tries(), seen: map[string]bool{}}
	s.in.Plan = pr.p
	s.pic = check.Plan(s.in)
	s.cost = pr.cost(s.pic)
	seen := map[string]bool{} // what was tried and was no better
	for better := true; better && s.left > 0; {
		better = false
		for _, m := range pr.near(s.in, s.pic) {
			if key := m.Words; !seen[key] {
				seen[key] = true
				if better = s.look(m.Edits); better {
					break
				}
			}
		}
	}
	s.down()
	for turn := range uint64(begins) {
		other := *s
		if !other.leap(pr.elsewhere(s.in, turn)) {
			continue
		}
		other.down()
		if s.left = other.left; other.cost < s.cost-1e-9 {
			*s = other
		}
	}
	pr.reasons(s.in.Plan)
	pr.targets(&s.in.Plan)
	return s.in.Plan
}

// ranked are the drills for a station, the likeliest first, whatever else is chosen.
func (pr *proposal) ranked() []suggest.Suggestion {
	f := pr.f
	f.Use, f.Minutes, f.Aim, f.Chosen = suggest.Station, 0, pr.aim, nil
	return suggest.Drills(pr.in.Shelf, f)
}

// elsewhere puts other drills at all stations, from which the search goes on: of the better half of the ranking, others at
// each turn.
func (pr *proposal) elsewhere(in work.Input, turn uint64) (out []edit.Edit) {
	ranked := pr.ranked()
	stations := slices.DeleteFunc(in.Plan.Stations(), func(s doc.Station) bool { return s.Pinned })
	order := rand.New(rand.NewPCG(pr.seed, turn)).Perm(max((len(ranked)+1)/2, min(len(ranked), len(stations)+2)))
	for i, s := range stations[:min(len(stations), len(order))] {
		out = append(out, edit.Drill{Station: s.ID, Task: taskOf(*ranked[order[i]].Drill)})
	}
	return out
}

// all are every change of one station's drill, the likeliest drills first, and every two stations the other way about.
func (pr *proposal) all(in work.Input) (out [][]edit.Edit) {
	ranked := pr.ranked()
	stations := slices.DeleteFunc(in.Plan.Stations(), func(s doc.Station) bool { return s.Pinned })
	for _, d := range ranked {
		for _, s := range stations {
			if !slices.ContainsFunc(in.Plan.Stations(), func(o doc.Station) bool { return o.Drill == d.Drill.ID }) {
				out = append(out, []edit.Edit{edit.Drill{Station: s.ID, Task: taskOf(*d.Drill)}})
			}
		}
	}
	for i, s := range stations {
		for _, o := range stations[:i] {
			out = append(out, []edit.Edit{edit.Drill{Station: s.ID, Task: given(o)}, edit.Drill{Station: o.ID, Task: given(s)}})
		}
	}
	return out
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
		switch much := f.What.(type) {
		case check.Forfeits:
			c += faultCosts * float64(much.Most-much.Club)
		case check.TooMany:
			c += crowdCosts * float64(much.Comes-much.Most)
		}
	}
	on := 0
	for i, s := range pic.Stations {
		twin := slices.IndexFunc(pic.Stations[:i], func(o work.StationAt) bool { return o.Drill.ID == s.Drill.ID && o.Circuit == s.Circuit })
		if twin >= 0 {
			c += twiceCosts
		}
		n := len(pic.Stations) // of three each stands beside each
		if twin >= 0 && n > 3 && (twin == i-1 || twin == 0 && i == n-1) {
			c += againCosts
		}
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
	for _, t := range pic.Plan.Tasks() {
		if weeks, had := pr.in.Recent[t.Drill]; had && weeks < lastWeek || pr.before[t.Drill] {
			c += againCosts
		}
	}
	for _, r := range pic.Criteria {
		if len(r.Asked) > 0 && len(r.Stations)+len(r.By) == 0 {
			c += dueCosts
		}
	}
	longest := 0.0
	for _, r := range pic.Ledger {
		longest = max(longest, r.Wait.Minutes())
	}
	c += waitCosts*longest - tryEarns*Fewest(pic, pr.aim)
	return c + idleCosts*(1-pic.Active) + unseenCosts*float64(Unseen(pic)) + walkCosts*pic.Main().Longest/10 + pr.favours(pic)
}

// lastWeek is so many weeks ago, with a day or two to spare.
const lastWeek = 1.5

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
		if k, short := f.What.(check.KitShort); short {
			out = append(out, pr.without(in, k.Thing)...)
		}
		for _, b := range pic.Blocks {
			if about.Kind == check.ABlock && about.ID == b.ID && b.Task != nil && !b.Pinned {
				out = append(out, pr.otherTasks(b, mending(f))...)
			}
		}
		if about.Kind == check.AStation && s != nil {
			out = append(out, pr.others(in, *s, mending(f))...)
			if len(in.Plan.Stations()) > 2 {
				out = append(out, check.Mend{Words: "out " + s.ID, Edits: []edit.Edit{edit.DropStation{Station: s.ID}}})
			}
		}
	}
	for _, b := range pic.Blocks {
		if unusual(b) && !b.Pinned && b.Kind != doc.Stations {
			out = append(out, pr.otherTasks(b, nil)...)
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

// without are other drills at the stations that use a thing.
func (pr *proposal) without(in work.Input, thing string) (out []check.Mend) {
	for _, s := range in.Plan.Stations() {
		uses := slices.ContainsFunc(coach.Needs(in.Drill(s.Drill).Kit), func(n coach.Need) bool { return n.Name == thing })
		if uses && !s.Pinned {
			out = append(out, pr.others(in, s, nil)...)
		}
	}
	return out
}

// mending is which drills could mend a finding in the place of another: where room is short those that take less, where
// faults cost too much those that cost nothing. Nil: any.
func mending(f check.Finding) func(was, now coach.Drill) bool {
	switch f.What.(type) {
	case check.Beyond, check.FliesOn, check.Overlap, check.NoRoom, check.OffTheFloor, check.Blocked:
		room := func(d coach.Drill) float64 { return (d.Length + 2*d.Clearance) * (d.Width + 2*d.Clearance) }
		return func(was, now coach.Drill) bool { return room(now) < room(was) }
	case check.Forfeits:
		return func(_, now coach.Drill) bool { return len(now.Forfeits) == 0 }
	}
	return nil
}

// others are the next best drills for a station, of those that will do.
func (pr *proposal) others(in work.Input, s doc.Station, will func(was, now coach.Drill) bool) (out []check.Mend) {
	f := pr.f
	f.Use, f.Minutes, f.Aim, f.Chosen = suggest.Station, 0, pr.aim, nil
	for _, o := range in.Plan.Stations() {
		f.Chosen = append(f.Chosen, in.Drill(o.Drill))
	}
	for _, d := range suggest.Drills(pr.in.Shelf, f) {
		if len(out) == swaps || d.Score < 0 && will == nil {
			break
		}
		if will != nil && !will(in.Drill(s.Drill), *d.Drill) {
			continue
		}
		out = append(out, check.Mend{Words: s.ID + " " + d.Drill.ID, Edits: []edit.Edit{edit.Drill{Station: s.ID, Task: taskOf(*d.Drill)}}})
	}
	return out
}

// otherTasks are the next best drills for a block, of those that will do.
func (pr *proposal) otherTasks(b work.Span, will func(was, now coach.Drill) bool) (out []check.Mend) {
	i := slices.IndexFunc(pr.shape.blocks, func(p part) bool { return p.kind == b.Kind && p.title == b.Title })
	if i < 0 || pr.shape.blocks[i].use == "" {
		return nil
	}
	f := pr.f
	f.Use, f.Minutes, f.Chosen = pr.shape.blocks[i].use, int((b.To - b.From).Minutes()), []coach.Drill{*b.Task}
	for _, d := range suggest.Drills(pr.in.Shelf, f) {
		if len(out) == swaps || d.Score < 0 && will == nil {
			break
		}
		if will != nil && !will(*b.Task, *d.Drill) {
			continue
		}
		out = append(out, check.Mend{Words: b.ID + " " + d.Drill.ID, Edits: []edit.Edit{edit.Task{Block: b.ID, Task: taskOf(*d.Drill)}}})
	}
	return out
}

func given(s doc.Station) doc.Task { return doc.Task{Drill: s.Drill, Edition: s.Edition} }

func taskOf(d coach.Drill) doc.Task { return doc.Task{Drill: d.ID, Edition: max(1, d.Edition)} }
