// Package load works out who works and who waits at a station.
package load

import (
	"math"
	"time"

	"gruppo/internal/coach"
)

// Share is what one player of a group gets at a station.
type Share struct {
	Reps    float64
	Turns   float64       // of a drill with work and rest
	Active  time.Duration // working at a place
	InRole  time.Duration // feeding, keeping goal, collecting
	Resting time.Duration // as prescribed between turns
	Waiting time.Duration
	Wait    time.Duration // the usual wait between two turns, beyond the rest
	AtOnce  int           // players at work at the same time
}

// Station describes a drill's places: how many act at once, how many roles the group itself fills, the repetitions a
// minute at one place, and where it is done in turns the work and rest of one. Without work everybody goes on as places
// get free.
type Station struct {
	Places, Roles int
	Pace          float64
	Turns
}

// Of is the station that a drill is.
func Of(d coach.Drill) Station {
	s := Station{Places: d.Places, Roles: d.InRoles(), Pace: d.Pace}
	if d.Work > 0 {
		s.Turns = Turns{
			Work: time.Duration(d.Work) * time.Second,
			Rest: time.Duration(d.Rest) * time.Second,
			Each: d.Series,
		}
	}
	return s
}

// At is what each of n players gets in d. Without turns: at work at once a = min(places, n − roles); repetitions a
// player pace·a·d/n, active a·d/n, in a role roles·d/n, the rest waits. With turns it follows from these. Zero players
// get nothing.
func (s Station) At(n int, d time.Duration) Share {
	if n <= 0 || d <= 0 {
		return Share{}
	}
	if s.Work > 0 {
		return s.inTurns(n, d)
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

// inTurns: players take turns at the places, and turns at the roles; after each time round there is a pause where that
// is shorter than the rest prescribed. Tries of a player are turns · work · pace.
func (s Station) inTurns(n int, d time.Duration) Share {
	roles := min(s.Roles, n)
	working := n - roles
	sh := Share{AtOnce: max(0, min(s.Places, working))}
	if sh.AtOnce == 0 {
		sh.Waiting = d
		return sh
	}
	cycle := s.Cycle(n)
	_, pause := s.RestFor(n)
	rounds := float64((d + pause) / (cycle + pause)) // whole ones; the last needs no pause after it
	left := d - time.Duration(rounds)*(cycle+pause)
	// who gets a turn in a last one that is not whole
	some := min(working, int(max(0, left)/(s.Work+s.Change))*s.Places)
	rounds += float64(some) / float64(working)
	share := float64(working) / float64(n) // of the times round a player works, in the others they are in a role
	if sh.Turns = rounds * share; s.Each > 0 && sh.Turns > float64(s.Each) {
		sh.Turns = float64(s.Each)
		rounds = sh.Turns / share
	}
	times := func(t time.Duration, k float64) time.Duration { return time.Duration(float64(t) * k) }
	sh.Active = times(s.Work, sh.Turns)
	sh.InRole = times(cycle, rounds*float64(roles)/float64(n))
	sh.Resting = max(0, min(d-sh.Active-sh.InRole, times(s.Rest, sh.Turns)))
	sh.Waiting = max(0, d-sh.Active-sh.InRole-sh.Resting)
	sh.Reps = sh.Turns * s.Work.Minutes() * s.Pace
	sh.Wait = max(0, cycle-s.Work-s.Rest)
	return sh
}

// Turns is a prescription of work and rest taken in turn at the places; Each is how many turns a player has, 0 as many
// as fit.
type Turns struct {
	Work, Rest, Change time.Duration
	Each               int
}

// Goes is how many times as many as there are places go to work until all of n players were: ⌈(n − roles)/places⌉, roles
// being taken in turn too.
func (s Station) Goes(n int) int {
	places, working := max(1, s.Places), max(1, n-s.Roles)
	return (working + places - 1) / places
}

// Cycle is once round all n players: goes·(work + change).
func (s Station) Cycle(n int) time.Duration { return time.Duration(s.Goes(n)) * (s.Work + s.Change) }

// RestFor is the rest a player of n really gets before the next turn, and the pause to add so that it is as prescribed:
// rest = cycle − work; add = max(0, prescribed − rest).
func (s Station) RestFor(n int) (rest, add time.Duration) {
	rest = s.Cycle(n) - s.Work
	return rest, max(0, s.Rest-rest)
}

// FullGroup is the number of players that needs no pause: ⌈(work + rest)/(work + change)⌉·places, and the roles.
func (s Station) FullGroup() int {
	per := s.Work + s.Change
	if per <= 0 {
		return max(1, s.Places)
	}
	return int((s.Work+s.Rest+per-1)/per)*max(1, s.Places) + s.Roles
}

// Series is how long an all-out block takes: every player has so many turns at each of so many exercises, with a long
// rest between the exercises. n players share the places; where the group is too small, the pause to add is waited out.
func (s Station) Series(n, series, exercises int, long time.Duration) time.Duration {
	rest, add := s.RestFor(n)
	cycle := s.Work + rest + add
	return time.Duration(exercises*series)*cycle + time.Duration(max(0, exercises-1))*long
}

// Balls is how many a feeder needs in reach for one player's turn: of a turn of work, else of a player's share of d.
func (s Station) Balls(n int, d time.Duration) int {
	if s.Work > 0 {
		return Balls(s.Pace, s.Work)
	}
	return Balls(s.Pace, d/time.Duration(max(1, n)))
}

// Balls is how many a feeder needs in reach for one turn of d, at a pace of repetitions a minute.
func Balls(pace float64, d time.Duration) int { return int(math.Ceil(pace*d.Minutes() - 1e-9)) }
