// Package load works out who works and who waits at a station.
package load

import (
	"math"
	"time"
)

// Share is what one player of a group gets at a station.
type Share struct {
	Reps    float64
	Active  time.Duration // working at a place
	InRole  time.Duration // feeding, keeping goal, collecting
	Waiting time.Duration
	Wait    time.Duration // the usual wait between two turns
	AtOnce  int           // players at work at the same time
}

// Station describes a drill's places: how many act at once, how many roles the group itself fills, and the
// repetitions a minute at one place.
type Station struct {
	Places, Roles int
	Pace          float64
}

// At is what each of n players gets in d: at work at once a = min(places, n − roles); repetitions a player
// pace·a·d/n, active a·d/n, in a role roles·d/n, the rest waits. Zero players get nothing.
func (s Station) At(n int, d time.Duration) Share {
	if n <= 0 || d <= 0 {
		return Share{}
	}
	roles := min(s.Roles, n)
	a := max(0, min(s.Places, n-roles))
	each := func(k int) time.Duration { return time.Duration(float64(d) * float64(k) / float64(n)) }
	sh := Share{
		Reps:   s.Pace * float64(a) * d.Minutes() / float64(n),
		Active: each(a), InRole: each(roles), AtOnce: a,
	}
	sh.Waiting = d - sh.Active - sh.InRole
	if sh.Reps > 0 && sh.Waiting > 0 {
		sh.Wait = time.Duration(float64(sh.Waiting) / math.Max(1, sh.Reps))
	}
	return sh
}

// Turns is a prescription of work and rest taken in turn at the places.
type Turns struct {
	Places             int
	Work, Rest, Change time.Duration
}

// RestFor is the rest a player of n really gets before the next turn, and the pause to add so that it is as prescribed:
// cycle = ⌈n/places⌉·(work + change); rest = cycle − work; add = max(0, prescribed − rest).
func (t Turns) RestFor(n int) (rest, add time.Duration) {
	places := max(1, t.Places)
	turns := (max(1, n) + places - 1) / places
	rest = time.Duration(turns)*(t.Work+t.Change) - t.Work
	return rest, max(0, t.Rest-rest)
}

// FullGroup is the number of players that needs no pause: ⌈(work + rest)/(work + change)⌉·places.
func (t Turns) FullGroup() int {
	per := t.Work + t.Change
	if per <= 0 {
		return max(1, t.Places)
	}
	return int((t.Work+t.Rest+per-1)/per) * max(1, t.Places)
}

// Series is how long an all-out block takes: every player has so many turns at each of so many exercises, with a long
// rest between the exercises. n players share the places; where the group is too small, the pause to add is waited out.
func (t Turns) Series(n, series, exercises int, long time.Duration) time.Duration {
	rest, add := t.RestFor(n)
	cycle := t.Work + rest + add
	return time.Duration(exercises*series)*cycle + time.Duration(max(0, exercises-1))*long
}

// Balls is how many a feeder needs in reach for one turn of d, at a pace of repetitions a minute.
func Balls(pace float64, d time.Duration) int { return int(math.Ceil(pace*d.Minutes() - 1e-9)) }
