package work

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
)

// Cycle is a block of intervals worked out.
type Cycle struct {
	doc.Intervals
	Players []coach.Player // in the order in which they work
	Drills  []coach.Drill  // of the exercises
	Light   *coach.Drill   // what those who rest do
	Slots   []load.Slot    // of one exercise: who of Players works when
	Each    time.Duration  // that an exercise takes
	Takes   time.Duration  // all exercises, with the long rest between them
	Round   time.Duration  // once round all
	Got     time.Duration  // the rest a player has before the next turn, without a pause
	Pause   time.Duration  // that is added for the rest asked for
	Full    int            // so many players need no pause
	Spared  []string       // who has fewer turns, by first name: they were away when it grew
	Judged  []string       // of a run-through: who judges each of Players, by first name; none: nobody
}

// cycle works a block of intervals out for who comes and has no task of their own; nil where there is nothing to do or
// nobody to do it.
func (in Input) cycle(b doc.Block) *Cycle {
	if b.Intervals == nil || len(b.Intervals.Exercises) == 0 {
		return nil
	}
	c := &Cycle{Intervals: *b.Intervals}
	for _, p := range in.Players {
		if _, aside := b.Side[p.ID]; !aside {
			c.Players = append(c.Players, p)
		}
	}
	n := len(c.Players)
	if n == 0 {
		return nil
	}
	slices.SortFunc(c.Players, func(a, b coach.Player) int {
		return cmp.Or(cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)), cmp.Compare(a.ID, b.ID))
	})
	for _, e := range c.Exercises {
		c.Drills = append(c.Drills, in.Drill(e.Drill))
	}
	if d, ok := in.Drills[c.Intervals.Light.Drill]; ok {
		c.Light = &d
	}
	s := InTurns(c.Intervals, n)
	c.Slots, c.Each = s.Slots(n)
	c.Takes = s.Series(n, s.Each, len(c.Exercises), time.Duration(c.Long)*time.Second)
	c.Round, c.Full = s.Cycle(n), s.FullGroup()
	c.Got, c.Pause = s.RestFor(n)
	if c.Before() < c.Turns {
		for _, p := range c.Players {
			if slices.Contains(in.Away, p.ID) || slices.ContainsFunc(p.Limits, func(l coach.Limit) bool { return l.Until.Holds(day.Of(in.Start)) }) {
				c.Spared = append(c.Spared, p.First())
			}
		}
	}
	if b.Kind == doc.Run {
		c.Judged = in.judges(c)
	}
	return c
}

// judges are those who lead, in turn, or of partners whoever comes next.
func (in Input) judges(c *Cycle) (out []string) {
	for i := range c.Players {
		switch n := len(c.Players); {
		case c.Judges == doc.Partners && n > 1:
			out = append(out, c.Players[(i+c.Places)%n].First())
		case c.Judges != doc.Partners && len(in.Leaders) > 0:
			out = append(out, in.Leaders[i%len(in.Leaders)].First())
		}
	}
	return out
}

// InTurns is the station that intervals are for n players.
func InTurns(i doc.Intervals, n int) load.Station {
	return load.Station{
		Places: i.Places,
		Roles:  min(i.Feeders, n-1),
		Turns:  load.Turns{Work: Seconds(i.Work), Rest: Seconds(i.Rest), Change: Seconds(i.Change), Each: i.Turns},
	}
}

// SparedSays says who has fewer turns, or nothing.
func (c Cycle) SparedSays() string {
	if len(c.Spared) == 0 {
		return ""
	}
	return fmt.Sprintf("%s: %s only, away last time or to spare something.", say.Few(c.Spared), say.Count(c.Before(), "turn"))
}

// Begins is when an exercise does, counted from the block's start.
func (c Cycle) Begins(exercise int) time.Duration {
	return time.Duration(exercise) * (c.Each + time.Duration(c.Long)*time.Second)
}

// Called names an exercise: its drill, and how it is done.
func (c Cycle) Called(exercise int) string {
	if how := c.Exercises[exercise].How; how != "" {
		return c.Drills[exercise].Name + ", " + how
	}
	return c.Drills[exercise].Name
}

// Tries is how many a turn of an exercise gives at one place, and so the balls to have ready where they are fed. A
// routine is run through once.
func (c Cycle) Tries(exercise int) int {
	if len(c.Drills[exercise].Routine) > 0 {
		return 1
	}
	return load.Balls(c.Drills[exercise].Pace, time.Duration(c.Work)*time.Second)
}

// moments puts the exercises and the long rests between them on the clock.
func (c Cycle) moments(span Span) (out []Moment) {
	for i := range c.Exercises {
		from := span.From + c.Begins(i)
		out = append(out, Moment{From: from, To: from + c.Each, Kind: "turns", Label: c.Called(i), Block: span.Index})
		if i+1 < len(c.Exercises) && c.Long > 0 {
			to := span.From + c.Begins(i+1)
			out = append(out, Moment{From: from + c.Each, To: to, Kind: "rest", Label: "Long rest", Block: span.Index})
		}
	}
	return out
}

// turns adds what a player has of a block of intervals: the tries of their turns, the rest as it was asked for, and what
// is left as waiting. A light task meanwhile is no work: its tries are not counted.
func (pic *Picture) turns(in Input, b Span, p coach.Player, row *Row) {
	c := b.Cycle
	me := slices.IndexFunc(c.Players, func(o coach.Player) bool { return o.ID == p.ID })
	here := in.There[p.ID]
	var busy, owed time.Duration
	for e, d := range c.Drills {
		begin := b.From + c.Begins(e)
		for _, s := range c.Slots {
			there := here.part(begin+s.From, begin+s.To)
			if slices.Contains(s.Up, me) {
				tries := d.Pace * there.Minutes()
				if len(d.Routine) > 0 {
					tries = there.Seconds() / float64(c.Work)
				}
				row.tries(d, tries)
				busy += there
				owed += time.Duration(c.Rest) * time.Second
			} else if slices.Contains(s.Feed, me) {
				busy += there
			}
		}
		if e+1 < len(c.Drills) {
			owed += here.part(begin+c.Each, b.From+c.Begins(e+1))
		}
	}
	left := here.part(b.From, b.To) - busy
	rests := min(left, owed)
	row.Active += busy
	row.Resting += rests
	row.Waiting += left - rests
	row.Wait = max(row.Wait, c.Round+c.Pause-time.Duration(c.Work+c.Rest)*time.Second)
}

// tries adds so many of a drill to a player's line.
func (r *Row) tries(d coach.Drill, n float64) {
	r.Reps += n
	for _, skill := range d.Skills {
		r.BySkill[skill] += n
	}
	if d.Situation != "" {
		r.Serves[d.Situation] += n
	}
	if d.Moves != "" {
		r.Moves[d.Moves] += n
	}
}
