package propose

import (
	"fmt"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/suggest"
	"gruppo/internal/coach/target"
)

// tasks gives the blocks their drills.
func (pr *proposal) tasks() {
	shape := map[doc.Kind][]part{}
	for _, s := range pr.shape.blocks {
		shape[s.kind] = append(shape[s.kind], s)
	}
	game := -1 // "game again" is the first game
	for i := range pr.p.Blocks {
		b := &pr.p.Blocks[i]
		parts := shape[b.Kind]
		if len(parts) > 0 {
			shape[b.Kind] = parts[1:]
		}
		if b.Pinned {
			continue
		}
		pr.f.Chosen, pr.f.Size, pr.f.Wanted = pr.chosen, len(pr.in.Players), nil
		for _, d := range pr.chosen {
			pr.f.Wanted = append(pr.f.Wanted, d.NotBefore...)
		}
		switch {
		case b.Kind == doc.Stations: // its drills stand at the stations
		case b.Kind == doc.OneKey:
			b.Note, b.Why = pr.p.Key, "The first key of "+pr.aim+"."
			if len(pr.keys) == 0 {
				b.Why = "Write the one key of the day here."
			}
		case b.Kind == doc.Ladder:
			pr.ladder(b)
		case b.Kind == doc.Turns:
			pr.intervals(b)
		case b.Kind == doc.Look:
			pr.task(b, suggest.Partner, 15)
			b.Why = "Partners change, so that you see everybody from more than one side."
		case b.Kind == doc.Game:
			games := rotate.Games(len(pr.in.Players), pr.in.Floor.Inside().Length, pr.in.Floor.Inside().Width, 1)
			if len(games) > 0 {
				g := games[pr.seed%uint64(min(2, len(games)))]
				b.Game = &g
				b.Note = say.Upper(g.String())
				b.Why = fmt.Sprintf("Uses all %d, %s each.", len(pr.in.Players), pr.in.Units.Square(g.MetresEach))
			}
			if game >= 0 {
				b.Drill, b.Edition, b.Game, b.Note = pr.p.Blocks[game].Drill, pr.p.Blocks[game].Edition, pr.p.Blocks[game].Game, pr.p.Blocks[game].Note
				continue
			}
			game = i
			pr.task(b, suggest.Game, 20)
		case len(parts) > 0 && parts[0].use != "":
			pr.task(b, parts[0].use, 15)
			if b.Drill == "" && parts[0].use == suggest.Contest {
				pr.contest(b)
			}
			if len(b.Tasks()) == 0 && b.Note == "" {
				b.Note, b.Why = parts[0].does, missing(parts[0].use)
			}
		}
	}
}

// raceTo is what two play to who have no contest of their own (common practice, no source).
const raceTo = 7

// contest makes one of what the shelf has for two, where nothing on it has a winner of its own: played to a number.
func (pr *proposal) contest(b *doc.Block) {
	pr.task(b, suggest.Partner, 0)
	if pr.in.Shelf == nil || b.Drill == "" {
		return
	}
	i := slices.IndexFunc(pr.in.Shelf, func(d coach.Drill) bool { return d.ID == b.Drill })
	if i < 0 || pr.in.Shelf[i].Target.Kind == coach.RallyLadder { // that has no winner
		b.Drill, b.Edition, b.Why = "", 0, ""
		return
	}
	b.Pairing = &doc.Pairing{To: raceTo}
	b.Why = fmt.Sprintf("Nothing on the shelf is for two and has a winner, so this is played to %d.", raceTo)
}

// missing says what the shelf has not, instead of filling a block with something else.
func missing(use suggest.Use) string {
	what := map[suggest.Use]string{
		suggest.WarmUp:  "gets all of them moving at once",
		suggest.Game:    "is a game",
		suggest.Partner: "is for two",
		suggest.Contest: "is for two and has a winner",
		suggest.Routine: "is a routine, its skills in order",
		suggest.AllOut:  "is work and rest in turns",
	}[use]
	if what == "" {
		what = "fits these players and this floor"
	}
	return "Nothing on the shelf " + what + ": write it down, or choose something."
}

// task puts the best drill for a use into the block, if it is good enough. Of those for two it is the best for which all
// pairs have room, or as many as can be.
func (pr *proposal) task(b *doc.Block, use suggest.Use, enough float64) {
	pr.f.Use, pr.f.Minutes = use, b.Minutes
	var best *suggest.Suggestion
	most := -1.0
	for _, s := range suggest.Drills(pr.in.Shelf, pr.f) {
		if s.Score < enough || most == 1 {
			break
		}
		blocked := slices.ContainsFunc(
			pr.in.Players,
			func(p coach.Player) bool { return pr.in.Forbids(p, *s.Drill) != "" },
		)
		if blocked || b.Kind.Partners() && s.Drill.Least > 2 || !holds(*b, s.Drill.Most, len(pr.in.Players)) {
			continue
		}
		if share := pr.room(*b, *s.Drill); share > most {
			best, most = &s, share
		}
	}
	if best == nil {
		return
	}
	if t := taskOf(*best.Drill); b.Kind.InTurns() {
		pr.runThrough(b, t)
	} else {
		b.Drill, b.Edition = t.Drill, t.Edition
	}
	if b.Why == "" {
		b.Why = reason(*best)
	}
	pr.chosen = append(pr.chosen, *best.Drill)
}

// room is the share of the pairs that the floor has room for, where the block is one for pairs.
func (pr *proposal) room(b doc.Block, d coach.Drill) float64 {
	pairs := work.Span{Block: b, Task: &d}
	need := pairs.AtOnce(len(pr.in.Players))
	if !b.Kind.Partners() || need == 0 || pr.in.Floor.Length == 0 {
		return 1
	}
	return float64(len(pr.in.Courts(pairs, need))) / float64(need)
}

// holds reports whether all have room in a block with a drill for at most so many; only what all do at once is asked.
func holds(b doc.Block, most, players int) bool {
	return b.Kind != doc.Game && b.Kind != doc.Together || most*b.Areas() >= players
}

// runThrough lets everybody show the routine once: as many at once as its minutes ask for, and each with a word from
// the judge as long as there is time.
func (pr *proposal) runThrough(b *doc.Block, t doc.Task) {
	const longest = 120 // seconds, the judge's word included
	n, players, time := b.Intervals, max(1, len(pr.in.Players)), 60*b.Minutes
	n.Exercises = []doc.Exercise{{Task: t}}
	n.Places = min(doc.MostAtWork, max(1, (players*(n.Work+n.Change)+time-1)/max(1, time)))
	n.Work = max(n.Work, min(longest, time/work.InTurns(*n, players).Goes(players)-n.Change)/5*5)
}

// intervals are at most two exercises with the work and rest that they ask for, as many at once as gives everybody that
// rest, and as many turns as the block has time for. Where children or beginners take part the rest is shorter than
// all-out work needs, so that nobody goes all out before a coach has said so.
func (pr *proposal) intervals(b *doc.Block) {
	n, players := b.Intervals, max(1, len(pr.in.Players))
	pr.f.Use, pr.f.Size, pr.f.Minutes = suggest.AllOut, players, 0
	var light []coach.Drill
	for _, s := range suggest.Drills(pr.in.Shelf, pr.f) {
		d := *s.Drill
		forbidden := slices.ContainsFunc(pr.in.Players, func(p coach.Player) bool { return pr.in.Forbids(p, d) != "" })
		switch {
		case s.Score < 15 || forbidden:
		case d.Work > 0 && d.Rest > 0 && len(n.Exercises) < 2 && (len(n.Exercises) == 0 || d.Work == n.Work):
			n.Exercises = append(n.Exercises, doc.Exercise{Task: taskOf(d)})
			n.Work, n.Rest = d.Work, d.Rest
			pr.chosen = append(pr.chosen, d)
			if b.Why == "" {
				b.Why = reason(s)
			}
		case !d.Hard && d.Least <= 1 && d.Leader == coach.SelfRun:
			light = append(light, d)
		}
	}
	if len(n.Exercises) == 0 {
		b.Intervals, b.Why = doc.NewIntervals(), missing(suggest.AllOut)
		return
	}
	if len(light) > 0 {
		n.Light = taskOf(light[0])
	}
	if slices.ContainsFunc(pr.in.Players, pr.in.Spared) {
		n.Rest = min(n.Rest, check.LongRest*n.Work-5)
		b.Why += " Not all-out, since some are under 16 or on the first stage: a coach may ask for more rest."
	}
	n.Places = min(doc.MostAtWork, max(1, (players*n.Work+n.Work+n.Rest-1)/(n.Work+n.Rest)))
	s := work.InTurns(*n, players)
	_, pause := s.RestFor(players)
	once := int((s.Cycle(players) + pause).Seconds()) * len(n.Exercises)
	n.Turns = min(doc.MostTimes, max(2, (60*b.Minutes-n.Long*(len(n.Exercises)-1))/once))
}

// leastSteps of a ladder fit into its time, and mostSteps are proposed.
const leastSteps, mostSteps = 2, 4

// ladder takes drills of the aim from the likeliest to succeed to the hardest: first of those that are short enough for
// some to fit into the time.
func (pr *proposal) ladder(b *doc.Block) {
	pr.f.Use = suggest.Parts
	longest := max(time.Duration(b.Minutes)*time.Minute, pr.in.Booked/2) / leastSteps
	var steps, long []coach.Drill
	for _, s := range suggest.Drills(pr.in.Shelf, pr.f) {
		_, counts := target.For(s.Drill.Target, 0.5)
		of := pr.aim == "" || slices.Contains(s.Drill.Skills, pr.aim)
		switch {
		case !counts || s.Score <= -20:
		case pr.in.StepTime(work.Span{Block: *b}, *s.Drill) > longest:
			long = append(long, *s.Drill)
		case len(steps) < mostSteps && (of || len(steps) < leastSteps):
			steps = append(steps, *s.Drill)
		}
	}
	if n := leastSteps - len(steps); n > 0 {
		steps = append(steps, long[:min(n, len(long))]...)
	}
	slices.SortStableFunc(steps, func(x, y coach.Drill) int { return int(1000*y.Chance) - int(1000*x.Chance) })
	for _, d := range steps {
		b.Steps = append(b.Steps, doc.Task{Drill: d.ID, Edition: max(1, d.Edition)})
		pr.chosen = append(pr.chosen, d)
	}
	if len(b.Steps) == 0 {
		b.Why = missing(suggest.Parts)
		return
	}
	b.Why = "From the surest to the hardest; each until it holds, and when the time is up it is enough for today."
}
