package work

import (
	"cmp"
	"math"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/target"
)

// StepAt is a step of a ladder: when it begins for the middle of those who climb, from the block's start, and how long it
// takes.
type StepAt struct {
	Drill       coach.Drill
	From, Takes time.Duration
	There       int // players who share a place of it
}

// StepTimes are how long the steps of a block's ladder take, one after the other, and how many fit into its time.
func (in Input) StepTimes(b Span) (steps []StepAt, fit int) {
	at, who := b.From, in.Climbers(b)
	for _, t := range b.Steps {
		d := in.Drill(t.Drill)
		c := in.climb(b, who, d)
		s := StepAt{Drill: d, From: at - b.From, Takes: c.takes(), There: c.there}
		if at += s.Takes; at <= b.To {
			fit++
		}
		steps = append(steps, s)
	}
	return steps, fit
}

// unknownStep is how long a step takes of which nothing can be worked out (common practice, no source).
const unknownStep = 4 * time.Minute

// StepTime is how long a drill takes as a step of a block's ladder.
func (in Input) StepTime(b Span, d coach.Drill) time.Duration {
	return in.climb(b, in.Climbers(b), d).takes()
}

// climb is a step of a ladder as those see it who climb. It counts by who they are: each group, pair or player has a
// place of its own as far as the floor has room for it, else they take turns.
func (in Input) climb(b Span, who []Climber, d coach.Drill) climb {
	var chances []float64
	largest := 1
	for _, c := range who {
		largest = max(largest, len(c.Players))
		for _, p := range c.Players {
			r, _ := in.Chance(p, d)
			chances = append(chances, r.P)
		}
	}
	if len(chances) == 0 {
		chances = []float64{d.Chance}
	}
	n, units := len(chances), max(1, len(who))
	need := units // places of the drill that they would take
	if b.Climb != doc.ByGroup {
		need = ceil(n, max(1, d.Places)+d.InRoles())
	}
	places := max(1, min(need, len(in.Floor.Courts(need, d.Length, d.Width, d.Clearance))))
	there := largest // at one place
	if places < units {
		there = ceil(n, places)
	}
	return climb{
		drill:   d,
		chance:  math.Round(Mean(chances)*50) / 50,
		members: largest,
		there:   there,
		queue:   ceil(units, places),
	}
}

// ceil divides, upwards.
func ceil(a, b int) int { return (a + b - 1) / max(1, b) }

// climb is a step as those see it who share a place.
type climb struct {
	drill   coach.Drill
	chance  float64
	members int // of who climbs together
	there   int // players who share a place
	queue   int // units that share a place
}

// takes is the time by which four in five of the middle ones hold the step. What a pair or a team does together is done
// once for all of them.
func (c climb) takes() time.Duration { return c.exactly().Round(time.Second) }

func (c climb) exactly() time.Duration {
	d, t := c.drill, c.drill.Target
	atOnce := max(1, min(d.Places, c.there-d.InRoles()))
	turns := ceil(c.there, atOnce)                      // of players, one after the other
	pairs := ceil(ceil(c.there, 2), max(1, d.Places/2)) // of pairs
	tries := func(n float64) time.Duration { return time.Duration(n * float64(d.Try())) }
	switch t.Kind {
	case coach.TeamStreak:
		return c.chain(time.Duration(c.queue))
	case coach.RallyLadder:
		return c.chain(time.Duration(pairs))
	case coach.Race:
		r := target.Race{To: t.N, Against: cmp.Or(t.Against, t.N)}
		return tries(r.Points(target.PointChance(0, 0))) * time.Duration(pairs)
	case coach.MatchTheShot:
		_, shots := target.Letters{To: t.N}.Plays(c.chance, c.chance)
		return tries(shots) * time.Duration(pairs)
	case coach.Gate:
		return tries(float64(t.N)/max(0.02, c.chance)/float64(max(1, min(atOnce, c.members)))) * time.Duration(c.queue)
	case coach.InATime:
		return Seconds(t.Seconds) * time.Duration(turns)
	case coach.HoldFor:
		return Seconds(t.N) * time.Duration(turns)
	case coach.FewFaults:
		within := target.Faults{Most: t.N, Of: t.Of}.Stays(c.chance)
		goes := 1.0
		if within > 0 && within < 0.8 {
			goes = math.Ceil(math.Log(0.2) / math.Log(1-within))
		}
		return tries(goes*float64(t.Of)) * time.Duration(turns)
	}
	return c.chain(0)
}

// chain is the time by which four in five are done with a target that is a chain, so many one after the other; 0: each for
// themselves, with the share of the place that they have.
func (c climb) chain(after time.Duration) time.Duration {
	chain, has := target.For(c.drill.Target, c.chance)
	if !has {
		return unknownStep
	}
	by := chain.By(c.drill.Try(), 0.8)[0]
	if by == 0 {
		return time.Hour
	}
	if after > 0 {
		return by * after
	}
	every := load.Of(c.drill)
	every.Each = 0 // as many turns as it takes
	own := every.At(c.there, time.Hour).Active
	if own == 0 {
		return time.Hour
	}
	return time.Duration(float64(by) * float64(time.Hour) / float64(own))
}
