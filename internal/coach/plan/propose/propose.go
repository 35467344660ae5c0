// Package propose makes a whole plan for an aim, in one of the shapes a session can have.
package propose

import (
	"fmt"
	"hash/fnv"
	"math"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/suggest"
	"gruppo/internal/coach/target"
	"gruppo/internal/day"
)

// Sizes that work: common practice, no source.
const (
	idealGroup = 4.5
	shortRound = 4 * 60 // seconds
	longRound  = 9 * 60
)

type proposal struct {
	in     work.Input
	shape  Shape
	old    *doc.Circuit // the stations of before
	p      doc.Plan
	c      *doc.Circuit // the plan's stations; in none of its blocks where the shape has none
	d      *doc.Deal    // and its groups
	seed   uint64
	favour Favour
	aim    string // skill
	keys   []string
	lacks  map[string]int
	before map[string]bool // drills of the plan that was proposed for the same a moment ago
	order  []string        // of lacks, the most first
	chosen []coach.Drill
	f      suggest.For
}

// Plan proposes a whole plan in a session shape for an aim. What is pinned in the input's plan stays; asked again for
// the same shape and aim, it proposes another. The input's Drills are completed from its Shelf.
func Plan(in work.Input, shape string, aim doc.Aim) (doc.Plan, error) {
	pr, err := composed(in, shape, aim, 0)
	if err != nil {
		return in.Plan, err
	}
	return pr.improve(), nil
}

// composed is a first plan, not searched yet; others come of other turns.
func composed(in work.Input, shape string, aim doc.Aim, turn uint64) (*proposal, error) {
	pr := &proposal{in: in, shape: ShapeOf(shape, in.Family), seed: in.Plan.Seed + turn, lacks: in.Lacks()}
	if in.Plan.Shape == pr.shape.Key && in.Plan.Aim == aim {
		pr.seed++
		pr.before = map[string]bool{}
		for _, t := range in.Plan.Tasks() {
			pr.before[t.Drill] = true
		}
	}
	drills := map[string]coach.Drill{}
	for _, d := range in.Shelf {
		drills[d.ID] = d
	}
	for id, d := range in.Drills { // the plan's own editions stay
		drills[id] = d
	}
	pr.in.Drills = drills
	pr.in.Plan, pr.in.Known, pr.in.Searching = in.Plan.Clone(), work.Known{}, true
	pr.old = pr.in.Plan.First()
	pr.c = &doc.Circuit{Work: 6 * 60, Brief: min(120, int(in.Booked.Minutes())/5*20), Move: pr.old.Move}
	pr.p = doc.Plan{
		Shape: pr.shape.Key, Aim: aim, Seed: pr.seed, Key: in.Plan.Key, Gives: in.Plan.Gives, Pinned: in.Plan.Pinned, Why: map[string]string{},
		Deals: []doc.Deal{{ID: "d1", Way: pr.shape.Way, Positions: in.Plan.DealOf(pr.old).Positions}},
	}
	pr.d = &pr.p.Deals[0]
	pr.aimAt(aim)
	pr.blocks()
	pr.stations()
	pr.tasks()
	if err := pr.deal(); err != nil {
		return nil, err
	}
	pr.time()
	pr.leaders()
	pr.p.Name()
	return pr, pr.p.Check()
}

func (pr *proposal) pinned(what string) bool { return slices.Contains(pr.in.Plan.Pinned, what) }

// jitter makes "again" choose differently among drills that fit nearly as well.
func (pr *proposal) jitter(id string) float64 {
	h := fnv.New64a()
	fmt.Fprint(h, pr.seed, id)
	return float64(h.Sum64()%1000) / 1000 * 14
}

// ahead takes the skill that most of those who are ready begin the next stage with as the aim.
func (pr *proposal) ahead() {
	most := map[string]int{}
	for _, p := range pr.in.Players {
		for _, k := range pr.in.Ahead[p.ID] {
			most[k.Skill]++
			pr.lacks[k.Skill]++
			if pr.aim == "" || most[k.Skill] > most[pr.aim] {
				pr.aim, pr.keys = k.Skill, k.Keys
			}
		}
	}
}

func (pr *proposal) aimAt(aim doc.Aim) {
	in := pr.in

	keys := map[string][]string{}
	for _, p := range in.Players {
		for _, c := range in.Missing[p.ID] {
			if len(keys[c.Skill]) == 0 {
				keys[c.Skill] = c.Keys
			}
			if aim.Kind == "criterion" && c.ID == aim.Value {
				pr.aim, pr.keys = c.Skill, c.Keys
			}

		}
	}
	for k := range pr.lacks {
		pr.order = append(pr.order, k)
	}
	slices.SortFunc(pr.order, func(a, b string) int {
		if pr.lacks[a] != pr.lacks[b] {
			return pr.lacks[b] - pr.lacks[a]
		}
		return strings.Compare(a, b)
	})
	switch aim.Kind {
	case "skill":
		pr.aim, pr.keys = aim.Value, keys[aim.Value]
	case "ahead":
		pr.ahead()
	}
	if pr.aim == "" && len(pr.order) > 0 {
		pr.aim = pr.order[0]
		pr.keys = keys[pr.aim]
	}
	switch {
	case aim.Kind == "ahead" && len(in.Ahead) == 0:
		pr.p.Why["shape"] = "Nobody is ready for what the next stage begins with, so it is for what they lack."
	case aim.Kind == "ahead":
		pr.p.Why["shape"] = fmt.Sprintf("New: %s, for %s; the others go on with what they lack.", pr.aim,
			say.Count(len(in.Ahead), "player")+" who "+say.Verb(len(in.Ahead), "is", "are")+" ready for it")
	case aim.Kind == "clean" && pr.aim != "":
		pr.p.Why["shape"] = "Nothing new: only what their stages ask for, " + pr.aim + " first."
	case pr.aim == "":
		pr.p.Why["shape"] = "Nothing is known to be missing yet, so the plan gives a bit of everything."
	case aim.Kind == "lack" || aim.Kind == "":
		pr.p.Why["shape"] = fmt.Sprintf(
			"Most are missing something in %s: %d of %d.",
			pr.aim,
			pr.lacks[pr.aim],
			len(in.Players),
		)
	default:
		pr.p.Why["shape"] = fmt.Sprintf(
			"For %s; %d of %d have something to show in it.",
			pr.aim,
			pr.lacks[pr.aim],
			len(in.Players),
		)
	}
	if !slices.ContainsFunc(in.Plan.Blocks, func(b doc.Block) bool { return b.Kind == doc.OneKey && b.Pinned }) {
		pr.p.Key = "" // that of another aim
	}
	if len(pr.keys) > 0 && pr.p.Key == "" {
		pr.p.Key = pr.keys[0]
	}
	inside := in.Floor.Inside()
	pr.f = suggest.For{
		Aim:     pr.aim,
		Lacks:   pr.lacks,
		Players: len(in.Players),
		Length:  inside.Length,
		Width:   inside.Width,
		Units:   in.Units,
		Kit:     in.Kit,
		Recent:  in.Recent,
		Limits:  map[string]int{},
		Jitter:  pr.jitter,
	}
	if aim.Kind == "clean" {
		for skill := range pr.lacks {
			pr.f.Only = append(pr.f.Only, skill)
		}
	}
	for _, l := range in.Leaders {
		pr.f.Leaders = append(pr.f.Leaders, l.Role)
	}
	for _, p := range in.Players {
		for _, l := range p.Limits {
			if l.Until.Holds(day.Of(in.Start)) {
				pr.f.Limits[coach.Limited(l.What)]++
			}
		}
		if no := in.There[p.ID].No; no != "" {
			pr.f.Limits[coach.Limited(no)]++
		}
		if name := in.Stages[p.Stage]; !slices.Contains(pr.f.Stages, name) {
			pr.f.Stages = append(pr.f.Stages, name)
		}
	}
}

// leastMinutes is how long a block is made at least that can be shorter, and the warm-up before all-out work: common
// practice, no source.
const leastMinutes, leastBeforeAllOut = 4, 8

// least is how short a block may be made.
func (pr *proposal) least(block int) int {
	if block == 0 && pr.has(doc.Turns) {
		return leastBeforeAllOut
	}
	return leastMinutes
}

// blocks lays the shape's blocks out; a pinned block of the same kind stands in for the shape's, others keep their
// place.
func (pr *proposal) blocks() {
	f := min(1.3, max(0.3, pr.in.Booked.Minutes()/90))
	var kept []doc.Block
	for _, b := range pr.in.Plan.Blocks {
		if b.Pinned {
			kept = append(kept, b)
		}
	}
	for _, s := range pr.shape.blocks {
		b := doc.Block{
			Kind:    s.kind,
			Title:   s.title,
			Minutes: max(1, int(math.Round(s.minutes*f))),
			Way:     s.way,
			Turn:    s.turn,
		}
		if s.minutes == 0 {
			b.Minutes = 20
		}
		if s.kind == doc.Stations {
			b.Minutes = 0
		}
		switch s.kind {
		case doc.Run:
			b.Intervals = doc.NewRun()
		case doc.Turns:
			b.Intervals = doc.NewIntervals()
		}
		if i := slices.IndexFunc(kept, func(k doc.Block) bool { return k.Kind == s.kind }); i >= 0 {
			b = kept[i]
			kept = slices.Delete(kept, i, i+1)
		}
		if s.kind == doc.Stations {
			b.Circuit, b.After, b.Rounds = pr.c, "", 0
		}
		pr.p.Blocks = append(pr.p.Blocks, b)
	}
	if b := &pr.p.Blocks[0]; b.Kind == doc.Together && !b.Pinned {
		b.Minutes = max(pr.least(0), b.Minutes)
	}
	for _, b := range kept {
		if b.Kind == doc.Stations {
			continue
		}
		at := slices.IndexFunc(
			pr.in.Plan.Blocks,
			func(o doc.Block) bool { return o.Kind == b.Kind && o.Title == b.Title },
		)
		pr.p.Blocks = slices.Insert(pr.p.Blocks, min(max(0, at), len(pr.p.Blocks)-1), b)
	}
}

func (pr *proposal) has(k doc.Kind) bool {
	return slices.ContainsFunc(pr.p.Blocks, func(b doc.Block) bool { return b.Kind == k })
}

func (pr *proposal) deal() error {
	if old := pr.in.Plan.DealOf(pr.old); pr.pinned("deal") && len(old.Players) > 0 {
		pr.d.Groups, pr.d.Way, pr.d.Players, pr.d.Names = len(old.Players), old.Way, old.Players, old.Names
		pr.p.Why["deal"] = "Kept as you pinned it."
		return nil
	}
	pr.p.Why["deal"] = map[deal.Way]string{deal.Near: "Near in level, so that a task suits the whole group.", deal.Mixed: "Mixed, so that the weaker learn from the stronger."}[pr.d.Way]
	in := pr.in
	in.Plan = pr.p // with the same deal
	return in.DealOut()
}

// time fills the booked time; what a short session has no time for is left out.
func (pr *proposal) time() {
	if pr.pinned("time") {
		pr.c.Work, pr.c.Change, pr.c.Brief, pr.c.Rounds = pr.old.Work, pr.old.Change, pr.old.Brief, pr.old.Rounds
		return
	}
	var without []string
	for pr.fill(); pr.over(); pr.fill() {
		out := pr.leaveOut()
		if out == "" {
			break
		}
		without = append(without, out)
	}
	if len(without) > 0 {
		pr.p.Why["shape"] += " Too short for: " + say.List(without) + "."
	}
}

// over reports whether the plan takes longer than is booked.
func (pr *proposal) over() bool {
	in := pr.in
	in.Plan, in.Running = pr.p, true
	return work.Out(in).Total > in.Booked
}

// missedLeast are the kinds of blocks that a short session goes without, those that it misses least first.
var missedLeast = []doc.Kind{doc.OneKey, doc.Look, doc.Break, doc.Close, doc.Game, doc.Together, doc.Pairs, doc.Stations}

// leaveOut takes the block out that is missed least, and returns its title; none where nothing can go: it begins with
// what warms up, and something to do stays after it.
func (pr *proposal) leaveOut() string {
	for _, k := range missedLeast {
		for i, b := range pr.p.Blocks {
			if i == 0 || b.Kind != k || b.Pinned || !pr.busyWithout(i) {
				continue
			}
			if b.Kind == doc.Stations {
				pr.c.Stations = nil
			}
			pr.p.Blocks = slices.Delete(pr.p.Blocks, i, i+1)
			return b.Title
		}
	}
	return ""
}

// busyWithout reports whether there is something to do after the warm-up without a block.
func (pr *proposal) busyWithout(block int) bool {
	for i, b := range pr.p.Blocks {
		idle := b.Kind == doc.OneKey || b.Kind == doc.Break || b.Kind == doc.Close
		if i > 0 && i != block && !idle {
			return true
		}
	}
	return false
}

// fill gives the booked time away: the rounds grow or shrink, then the last game.
func (pr *proposal) fill() {
	in := pr.in
	in.Plan, in.Running = pr.p, true
	pic := work.Out(in)
	left := (in.Booked - pic.Total).Seconds()
	if n := len(pic.Rounds); n > 0 {
		pr.c.Work = max(120, min(longRound, pr.c.Work+int(math.Floor(left/float64(n)/30))*30))
		pr.p.Why["time"] = "Rounds as long as the booked time allows."
	}
	for i := range pr.p.Blocks { // no longer than their tasks usually are, where others can take the time
		if b := &pr.p.Blocks[i]; b.Kind == doc.Pairs && !b.Pinned {
			b.Minutes = min(b.Minutes, pr.usual(b))
		}
	}
	in.Plan = pr.p
	pic = work.Out(in)
	minutes := int(math.Floor((in.Booked - pic.Total).Minutes()))
	// the rest goes to, or comes from, these in turn
	for _, k := range []doc.Kind{doc.Ladder, doc.Pairs, doc.Game, doc.Look, doc.Run, doc.Together, doc.OneKey} {
		for i := len(pr.p.Blocks) - 1; i >= 0 && minutes != 0; i-- {
			b := &pr.p.Blocks[i]
			if b.Kind != k || b.Pinned {
				continue
			}
			if k == doc.Run && len(b.Tasks()) > 0 {
				minutes -= pr.shownAgain(b, minutes)
				continue
			}
			to := max(pr.least(i), b.Minutes+minutes)
			if minutes > 0 {
				most := map[doc.Kind]int{doc.Ladder: 60, doc.Pairs: 45, doc.Game: 40, doc.Run: 30, doc.Together: 25}[k]
				to = min(to, max(b.Minutes, min(most, pr.usual(b))))
			}
			minutes -= to - b.Minutes
			b.Minutes = to
		}
	}
}

// mostShown is how often everybody shows the routine at most.
const mostShown = 3

// shownAgain lets everybody show a run-through's routine once more while the minutes hold, and returns those it takes: a
// run-through takes what it takes.
func (pr *proposal) shownAgain(b *doc.Block, minutes int) (taken int) {
	n := b.Intervals
	players := len(pr.in.Players)
	once := int((work.InTurns(*n, players).Cycle(players) + time.Minute - 1) / time.Minute)
	for once > 0 && taken+once <= minutes && n.Turns < mostShown {
		n.Turns++
		taken += once
	}
	return taken
}

// usual is how long a block's task is on at most, so that it is not too long.
func (pr *proposal) usual(b *doc.Block) int {
	if d := pr.in.Drill(b.Drill); b.Drill != "" && d.Minutes[1] > 0 {
		return int(suggest.LongAt * float64(d.Minutes[1]))
	}
	return 60
}

// targets are set to what most of these players reach in a round.
func (pr *proposal) targets(p *doc.Plan) {
	in := pr.in
	in.Plan, in.Running = *p, true
	pic := work.Out(in)
	for _, at := range pic.Stations {
		s, _ := p.Station(at.ID)
		if s.Pinned {
			continue
		}
		for _, t := range pic.TriesAt(in, at) {
			if _, has := target.For(t.Target, 0.5); !has {
				continue
			}
			if reach := target.Reach(t.Target, t.Who); reach >= 0.6 && reach <= 0.95 {
				continue
			}
			a, ok := target.Fit(t.Target, t.Who, t.Try)
			switch {
			case !ok || a.N == t.Target.N:
			case t.Group == nil:
				s.Target = a.N
				s.Why += fmt.Sprintf(" Target %d: %s.", a.N, a.Because)
			case s.Aims == nil:
				s.Aims = map[string]int{doc.GroupKey(t.Group.Number): a.N}
			default:
				s.Aims[doc.GroupKey(t.Group.Number)] = a.N
			}
		}
	}
}
