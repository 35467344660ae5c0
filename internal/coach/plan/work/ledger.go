package work

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/target"
	"gruppo/internal/day"
)

// Row is one player's line of the ledger.
type Row struct {
	Player   coach.Player
	Stage    string
	Group    int
	Reps     float64
	Active   time.Duration
	Waiting  time.Duration
	Resting  time.Duration
	Moving   time.Duration
	Away     time.Duration // not there yet, or gone
	Wait     time.Duration // the longest usual wait between two turns
	LeadSees []int         // rounds in which the lead has this player
	SeenBy   []string      // first names of all who do
	BySkill  map[string]float64
	Serves   map[string]float64 // tries by the situation they serve
	Moves    map[string]float64 // and by how one moves in them
	Forfeits map[string]float64 // repetitions after faults that are to be expected, by the station or block
}

// AfterFaults is how many repetitions after faults are to be expected in all.
func (r Row) AfterFaults() (n float64) {
	for _, at := range slices.Sorted(maps.Keys(r.Forfeits)) {
		n += r.Forfeits[at]
	}
	return n
}

// UsualForfeits is how many repetitions after faults somebody under 16 does at most in a session, where the club has no
// rule of its own (common practice, no source).
const UsualForfeits = 30

// Instead is a player's own task at a station or in a block.
type Instead struct {
	Player coach.Player
	Do     string // the edit that gives or takes it: side or block-side
	At     string // the station or block
	Where  string
	Does   string
}

// part is how much of from–to the player is there.
func (t There) part(from, to time.Duration) time.Duration {
	until := to
	if t.Until > 0 {
		until = min(to, t.Until)
	}
	return max(0, until-max(from, t.From))
}

// Joining counts the players who do as the others do, and not a task of their own.
func Joining(sides map[string]doc.Task, players []coach.Player) (n int) {
	for _, p := range players {
		if _, aside := sides[p.ID]; !aside {
			n++
		}
	}
	return n
}

// task is what a player does where the others do a drill: their own task, or the drill. Nil: they sit out.
func (in Input) TaskOf(sides map[string]doc.Task, p coach.Player, d coach.Drill) *coach.Drill {
	own, aside := sides[p.ID]
	switch {
	case !aside:
		return &d
	case own.Drill == "":
		return nil
	}
	d = in.Drill(own.Drill)
	return &d
}

// asides lists who does something else.
func (pic *Picture) asides(in Input) {
	add := func(do, at, where string, sides map[string]doc.Task) {
		for _, p := range in.Players {
			own, aside := sides[p.ID]
			if !aside {
				continue
			}
			does := "sits out"
			if own.Drill != "" {
				does = in.Drill(own.Drill).Name
			}
			pic.Instead = append(pic.Instead, Instead{p, do, at, where, does})
		}
	}
	for _, s := range pic.Stations {
		add("side", s.ID, fmt.Sprintf("%d %s", s.Index+1, s.Drill.Name), s.Side)
	}
	for _, b := range pic.Blocks {
		add("block-side", b.ID, b.Title, b.Side)
	}
}

func (pic *Picture) ledger(in Input) {
	pic.ladders = map[int][]StepAt{}
	for _, b := range pic.Blocks {
		if len(b.Steps) > 0 {
			pic.ladders[b.Index], _ = in.StepTimes(b)
		}
	}
	reps, active := 0.0, 0.0
	var players []coach.Player
	groups := map[string][]Group{} // of each player, in the order of the deals
	for _, g := range pic.Groups {
		for _, p := range g.Players {
			if groups[p.ID] == nil {
				players = append(players, p)
			}
			groups[p.ID] = append(groups[p.ID], g)
		}
	}
	for _, p := range players {
		row := pic.row(in, groups[p.ID], p, len(players))
		reps += row.Reps
		active += float64(row.Active)
		pic.Ledger = append(pic.Ledger, row)
	}
	slices.SortStableFunc(pic.Ledger, func(a, b Row) int { // the least served on top
		return cmp.Or(
			cmp.Compare(math.Round(a.Reps), math.Round(b.Reps)),
			cmp.Compare(a.Active, b.Active),
			a.Group-b.Group,
			cmp.Compare(a.Player.Name, b.Player.Name),
		)
	})
	if n := float64(len(pic.Ledger)); n > 0 && pic.Total > 0 {
		pic.Reps, pic.Active = reps/n, active/n/float64(pic.Total)
	}
	pic.Counted = slices.ContainsFunc(pic.Ledger, func(r Row) bool { return r.Active+r.Waiting+r.Resting > 0 })
}

// row is one player's share of everything.
func (pic *Picture) row(in Input, groups []Group, p coach.Player, everyone int) Row {
	row := Row{Player: p, Stage: in.Stages[p.Stage], Group: groups[0].Index, BySkill: map[string]float64{}, Serves: map[string]float64{}, Moves: map[string]float64{}, Forfeits: map[string]float64{}}
	here := in.There[p.ID]
	share := func(at string, d coach.Drill, n int, t time.Duration) {
		sh := load.Of(d).At(n, t)
		row.tries(d, sh.Reps)
		if len(d.Forfeits) > 0 {
			chance, _ := in.Chance(p, d)
			row.Forfeits[at] += sh.Reps * (1 - chance.P) * d.Forfeit()
		}
		row.Active += sh.Active + sh.InRole
		row.Waiting += sh.Waiting
		row.Resting += sh.Resting
		row.Wait = max(row.Wait, sh.Wait)
	}
	for _, b := range pic.Blocks {
		if b.Kind == doc.Stations {
			continue
		}
		d := here.part(b.From, b.To)
		row.Away += b.To - b.From - d
		if b.Empty() { // nothing planned is nothing counted
			continue
		}
		if own, aside := b.Side[p.ID]; aside {
			if own.Drill == "" {
				row.Resting += d
			} else {
				share(b.ID, in.Drill(own.Drill), 1, d)
			}
			continue
		}
		if b.Cycle != nil {
			pic.turns(in, b, p, &row)
			continue
		}
		everyone := everyone - len(b.Side)
		switch {
		case b.Kind == doc.Break:
			row.Resting += d
		case b.Kind == doc.Game && b.Block.Game != nil:
			on := playing(*b.Block.Game, everyone)
			row.Resting += time.Duration(float64(d) * (1 - on))
			row.Active += time.Duration(float64(d) * on)
		case b.Kind.Partners():
			rests := b.partnersRest(everyone)
			row.Resting += time.Duration(float64(d) * rests)
			d = time.Duration(float64(d) * (1 - rests))
			over := b.ChangeOver(d) // finding the next partner is not activity
			row.Moving += over
			if d -= over; b.Task != nil {
				row.tries(*b.Task, b.Task.Pace*d.Minutes()*b.plays())
			}
			row.Active += d
		case b.Kind == doc.Ladder && len(b.Steps) > 0:
			row.climbs(pic.ladders[b.Index], d)
		case b.Task != nil && b.Kind.Active():
			share(b.ID, *b.Task, everyone, d)
		case b.Kind.Active():
			row.Active += d
		}
	}
	for _, g := range groups {
		pic.rounds(in, g, p, &row, share)
	}
	for _, m := range pic.Moments {
		if m.Kind == "change" {
			row.Moving += here.part(m.From, m.To)
		}
	}
	return row
}

// Empty reports whether nothing is planned in a block in which players would move: no task, no game, no step, no exercise,
// not a word.
func (b Span) Empty() bool {
	return b.Kind.Active() && b.Kind != doc.Stations && b.Task == nil && b.Block.Game == nil && len(b.Steps) == 0 && b.Cycle == nil && b.Note == ""
}

// climbs adds what a player has of a ladder in a time: the tries of each step for as long as it takes, of the last one for
// as long as is left.
func (row *Row) climbs(steps []StepAt, d time.Duration) {
	for i, s := range steps {
		t := min(d, s.Takes)
		if i == len(steps)-1 {
			t = d
		}
		d -= t
		sh := load.Of(s.Drill).At(s.There, t)
		row.tries(s.Drill, sh.Reps)
		row.Active += sh.Active + sh.InRole
		row.Waiting += sh.Waiting
		row.Resting += sh.Resting
	}
}

// partnersRest is the share of a partner block in which each of n players rests: who is over, and whoever has no court.
// One alone has a leader for a partner.
func (b Span) partnersRest(n int) float64 {
	on := n
	if b.TeamSize() == 2 && n > 1 {
		on = n / 2 * 2
		if c := b.Pairs().Courts; c > 0 {
			on = min(on, 2*c)
		}
	}
	return float64(n-on) / float64(max(1, n))
}

// plays is the share of a turn in which a player plays: all of it, but where the loser feeds two of three.
func (b Span) plays() float64 {
	if b.Way == rotate.LoserFeeds {
		return 2.0 / 3
	}
	return 1
}

// rounds adds what a player does in the rounds of one of their groups.
func (pic *Picture) rounds(in Input, g Group, p coach.Player, row *Row, share func(string, coach.Drill, int, time.Duration)) {
	here := in.There[p.ID]
	for r, s := range g.Route {
		if s == NotIn {
			continue
		}
		round := pic.Rounds[r]
		d := here.part(round.From, round.To)
		row.Away += round.To - round.From - d
		if s == rotate.Rest {
			row.Resting += d
			continue
		}
		st := pic.Stations[s]
		if own, aside := st.Side[p.ID]; !aside {
			share(st.ID, *st.For(g), pic.Together(st, r), d) // two groups that come at once share the places
		} else if own.Drill == "" {
			row.Resting += d
		} else {
			share(st.ID, in.Drill(own.Drill), 1, d)
		}
		if l := pic.LeaderIn(st, r); l != nil && d > 0 && l.Covers(round.From, round.To) {
			if l.Role == coach.RoleLead {
				row.LeadSees = append(row.LeadSees, r+1)
			}
			if name := l.First(); !slices.Contains(row.SeenBy, name) {
				row.SeenBy = append(row.SeenBy, name)
			}
		}
	}
}

// Together is how many do the station's drill in a round, counted from 0.
func (pic *Picture) Together(s StationAt, round int) (n int) {
	for _, g := range []int{s.Visits[round], s.Also[round]} {
		if g != rotate.Rest {
			n += Joining(s.Side, pic.Groups[g].Players)
		}
	}
	return n
}

// Forbids is what a drill asks for that the player must not do now, or nothing.
func (in Input) Forbids(p coach.Player, d coach.Drill) string {
	var limits []string
	for _, l := range p.Limits {
		if l.Until.Holds(day.Of(in.Start)) {
			limits = append(limits, l.What)
		}
	}
	if asks := d.AsksFor(append(limits, in.There[p.ID].No)); len(asks) > 0 {
		return asks[0]
	}
	return ""
}

// Forbidden is what a player must not do now of what is theirs to do where the others do a drill, or nothing.
func (in Input) Forbidden(sides map[string]doc.Task, p coach.Player, d coach.Drill) string {
	if own := in.TaskOf(sides, p, d); own != nil {
		return in.Forbids(p, *own)
	}
	return ""
}

// Each is how many tries a round gives each player of a group at a station, in the form they do.
func (pic *Picture) Each(s StationAt, g Group) float64 { return pic.share(s, g).Reps }

// share is what a round gives each player of a group at a station, together with a group that comes at the same time.
func (pic *Picture) share(s StationAt, g Group) load.Share {
	d := s.For(g)
	for r := range s.Visits {
		if d != nil && (s.Visits[r] == g.Index || s.Also[r] == g.Index) {
			return load.Of(*d).At(pic.Together(s, r), pic.Circuits[s.Circuit].Round())
		}
	}
	return load.Share{}
}

// Trying is those who try for one target at a station: a group whose number is its own, or all the others.
type Trying struct {
	target.Players
	Target coach.Target
	Drill  coach.Drill
	Group  *Group // whose number is its own; nil: the station's
}

// TriesAt is who tries for what at a station: each in the form they do, with the tries a round gives them.
func (pic *Picture) TriesAt(in Input, s StationAt) (out []Trying) {
	c := pic.Circuits[s.Circuit]
	all := Trying{Target: s.Target, Drill: s.Drill, Players: target.Players{Try: s.Drill.Try(), Round: c.Round()}}
	for _, g := range pic.GroupsOf(c) {
		d := s.For(g)
		if d == nil || s.HasOwn(g) {
			continue
		}
		sh := pic.share(s, g)
		var who []target.Trier
		for _, p := range g.Players {
			if _, aside := s.Side[p.ID]; !aside && sh.AtOnce > 0 {
				r, _ := in.Chance(p, *d)
				who = append(who, target.Trier{P: r.P, Tries: target.Tries(sh.Reps)})
			}
		}
		if t, own := s.TargetFor(g); own {
			out = append(out, Trying{
				Players: target.Players{Who: who, AtOnce: sh.AtOnce, Try: d.Try(), Round: c.Round()},
				Target:  t, Drill: *d, Group: &g,
			})
		} else {
			all.Who, all.AtOnce = append(all.Who, who...), max(all.AtOnce, sh.AtOnce)
		}
	}
	out = append([]Trying{all}, out...)
	return slices.DeleteFunc(out, func(t Trying) bool { return len(t.Who) == 0 })
}

// grownUp is the age in years from which a body takes all-out work and exercises after faults as an adult's does (common
// practice, no source; a club's rules come first).
const grownUp = 16

// Child reports whether a player is known to be under 16 in the year of the session.
func (in Input) Child(p coach.Player) bool {
	return p.BirthYear > 0 && in.Start.Year()-p.BirthYear < grownUp
}

// Spared reports whether a player is to be spared all-out work until a coach says otherwise: a child, or a beginner on the
// first stage.
func (in Input) Spared(p coach.Player) bool { return in.Child(p) || p.Level < 2 }
