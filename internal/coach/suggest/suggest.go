// Package suggest ranks drills for a group: what its players lack, what is at hand, what they had lately. Every rank
// comes with its reasons.
package suggest

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/say"
)

// Use is what a drill is looked for.
type Use string

const (
	Station Use = "station"
	WarmUp  Use = "warm-up"
	Game    Use = "game"
	Parts   Use = "parts" // a piece of the whole, the same again and again
	AllOut  Use = "all-out"
	Partner Use = "partners"
	Routine Use = "routine"
	Contest Use = "contest" // of two: a race, or matching shots
)

// For is the group and what is at hand for it.
type For struct {
	Use           Use
	Aim           string         // the skill of the day
	Only          []string       // skills that are offered at stations, and no others; none: all
	Lacks         map[string]int // skill → how many of the players lack something in it
	Players, Size int            // all of them, and those at one station
	Minutes       int            // it would be on for; 0: not known
	Length, Width float64        // metres of floor at hand
	Units         coach.Units    // that the club reads lengths in
	Leaders       []coach.Role   // who could stand there
	Kit           []coach.Kit
	Limits        map[string]int     // what players must not do → how many
	Stages        []string           // names of the stages they are on
	Recent        map[string]float64 // drill → weeks since they had it
	Given         []string           // what came earlier: names of drills and what they warm
	Wanted        []string           // what has to be warm for what comes later
	Chosen        []coach.Drill      // already in the plan
	Jitter        func(id string) float64
}

// Suggestion is a drill with how well it fits, the reasons for it and what speaks against it.
type Suggestion struct {
	Drill   *coach.Drill
	Score   float64
	Because []string
	But     []string
}

// Points of the ranking: our own choice, set so that what cannot be done (no leader, no room) always loses to what can.
const (
	aim, lack      = 40, 30
	never          = 100
	wrongSize      = 45
	shortKit       = 18
	noKit          = 50
	limited        = 25
	lately, rested = 14, 6
	sameSkill      = 16
	suits          = 6
	sameMovement   = 4
	sameSituation  = 8
	otherMinutes   = 25
	forAll         = 55
	fewPlaces      = 30
	wholeClass     = 20 // players
)

// Drills ranks the shelf, best first. What is chosen already is left out.
func Drills(shelf []coach.Drill, f For) []Suggestion {
	var out []Suggestion
	for i := range shelf {
		d := &shelf[i]
		if slices.ContainsFunc(f.Chosen, func(c coach.Drill) bool { return c.ID == d.ID }) {
			continue
		}
		s := Suggestion{Drill: d}
		f.use(&s)
		f.minutes(&s)
		f.skills(&s)
		f.atHand(&s)
		f.lately(&s)
		if f.Jitter != nil {
			s.Score += f.Jitter(d.ID)
		}
		out = append(out, s)
	}
	slices.SortStableFunc(out, func(a, b Suggestion) int {
		return cmp.Or(cmp.Compare(b.Score, a.Score), cmp.Compare(a.Drill.Name, b.Drill.Name))
	})
	return out
}

func (s *Suggestion) add(points float64, format string, args ...any) {
	s.Score += points
	why := fmt.Sprintf(format, args...)
	if points >= 0 && why != "" {
		s.Because = append(s.Because, why)
	} else if why != "" {
		s.But = append(s.But, why)
	}
}

func (f For) use(s *Suggestion) {
	d := s.Drill
	game := d.Approach == "game-first" && (d.Form == "live" || d.Form == "contest")
	if slices.Contains([]Use{Station, Partner, Parts}, f.Use) && d.Target.Kind == coach.NoTarget && len(d.Routine) == 0 && d.Most >= wholeClass {
		s.add(-forAll, "for all at once, with nothing to reach")
	}
	switch f.Use {
	case WarmUp:
		if d.Hard {
			s.add(-40, "too hard to begin with")
		}
		if d.Form == "live" {
			s.add(-60, "live, before anybody is warm")
		}
		if len(d.NotBefore) > 0 {
			s.add(-60, "not before %s", say.List(d.NotBefore))
		}
		if d.Leader == coach.AnyCoach || d.Leader == coach.Qualified {
			s.add(-20, "")
		}
		if slices.ContainsFunc(
			d.Skills,
			func(k string) bool { return k == "movement" || k == "balance" || k == "footwork" },
		) {
			s.add(20, "gets everybody moving")
		}
		if len(d.Warms) > 0 {
			s.add(22, "makes %s ready", say.List(d.Warms))
		}
		for i, w := range f.Wanted {
			if d.Readies(w) && !slices.Contains(f.Wanted[:i], w) {
				s.add(20, "")
			}
		}
		if d.Most >= f.Players {
			s.add(25, "all can do it at once")
		} else {
			s.add(-30, "for at most %d", d.Most)
		}
	case Game:
		if game {
			s.add(45, "puts it into a game")
		} else {
			s.add(-45, "not a game")
		}
	case Parts:
		if d.Approach == "technique-first" {
			s.add(15, "one piece of it at a time")
		}
		if d.Practice == "blocked" {
			s.add(10, "")
		}
	case AllOut:
		switch {
		case d.Work > 0 && d.Rest > 0:
			s.add(60, "%d s of work and %d s of rest", d.Work, d.Rest)
		case d.Hard:
			s.add(25, "leaves them out of breath")
		default:
			s.add(-20, "")
		}
	case Routine:
		if len(d.Routine) > 0 {
			s.add(60, "a routine of %s", say.Count(len(d.Routine), "skill"))
		} else {
			s.add(-never, "no routine")
		}
	case Partner:
		if d.Least <= 2 && d.Form != "live" {
			s.add(30, "for two")
		} else {
			s.add(-30, "not for two")
		}
		f.sideBySide(s)
	case Contest:
		f.sideBySide(s)
		switch d.Target.Kind {
		case coach.Race, coach.MatchTheShot:
			s.add(60, "%s", d.Target)
		default:
			s.add(-40, "nobody wins it")
		}
		if d.Least > 2 {
			s.add(-30, "not for two")
		}
	case Station:
		if d.Form == "live" {
			s.add(-6, "")
		}
		if d.Work > 0 && d.Rest > 0 {
			s.add(-20, "asks for a full rest between turns")
		}
	}
}

// minutes is against a task that would be on for much longer, or much shorter, than it usually is.
func (f For) minutes(s *Suggestion) {
	d, m := s.Drill, float64(f.Minutes)
	switch {
	case f.Minutes == 0 || d.Minutes[1] == 0:
	case m > LongAt*float64(d.Minutes[1]), m < ShortAt*float64(d.Minutes[0]):
		s.add(-otherMinutes, "usually %d to %d min", d.Minutes[0], d.Minutes[1])
	}
}

// LongAt and ShortAt are how far from its usual minutes a task is on for too long, or too short.
const LongAt, ShortAt = 1.5, 0.5

func (f For) skills(s *Suggestion) {
	d := s.Drill
	if len(f.Only) > 0 && f.Use != WarmUp && !slices.ContainsFunc(d.Skills, func(k string) bool { return slices.Contains(f.Only, k) }) {
		s.add(-never, "no stage here asks for it")
	}
	if f.Aim != "" && slices.Contains(d.Skills, f.Aim) {
		s.add(aim, "%s, today's aim", f.Aim)
	}
	most, of := 0, ""
	for _, k := range d.Skills {
		if f.Lacks[k] > most {
			most, of = f.Lacks[k], k
		}
	}
	if most > 0 && f.Players > 0 {
		s.add(lack*float64(most)/float64(f.Players), "%d of %d have not shown %s", most, f.Players, of)
	}
	for _, c := range f.Chosen {
		if slices.ContainsFunc(c.Skills, func(k string) bool { return k != f.Aim && slices.Contains(d.Skills, k) }) {
			s.add(-sameSkill, "")
		}
	}
	f.situation(s)
	for _, stage := range f.Stages {
		if stage != "" && suitsStage(d, stage) {
			s.add(suits, "has a form for %s", stage)
			break
		}
	}
	for _, k := range d.After {
		if f.Lacks[k]*2 > f.Players {
			s.add(-20, "comes after %s, which most have not shown", k)
		}
	}
}

// situation prefers another movement than that of what was chosen already; of a game that it asks for the situation
// that was practised, of a station that it serves the one of the first.
func (f For) situation(s *Suggestion) {
	d := s.Drill
	for _, c := range f.Chosen {
		if d.Moves != "" && c.Moves == d.Moves && f.Use == Station {
			s.add(-sameMovement, "")
		}
	}
	first := slices.IndexFunc(f.Chosen, func(c coach.Drill) bool { return c.Situation != "" })
	if d.Situation == "" || first < 0 || !slices.Contains([]Use{Station, Game, Partner}, f.Use) {
		return
	}
	if f.Chosen[first].Situation == d.Situation {
		s.add(sameSituation, "%s, as practised", d.Situation)
	}
}

// sideBySide weighs how many of the pairs have room at once.
func (f For) sideBySide(s *Suggestion) {
	d, pairs := s.Drill, f.Players/2
	if f.Length <= 0 || d.Length <= 0 || d.Width <= 0 {
		return
	}
	room := len(floor.Spot{Length: f.Length, Width: f.Width}.Courts(pairs, d.Length, d.Width, d.Clearance))
	if room < pairs {
		s.add(-fewPlaces*(1-float64(room)/float64(pairs)), "room for %d of %s at once", room, say.Count(pairs, "pair"))
	}
}

func (f For) atHand(s *Suggestion) {
	d := s.Drill
	if d.Leader != "" && d.Leader != coach.SelfRun && !slices.ContainsFunc(f.Leaders, d.Leader.Enough) {
		s.add(-never, "needs %s", d.Leader)
	}
	if !Fits(*d, f.Length, f.Width) {
		s.add(-never, "needs %s", f.Units.Area(d.Length, d.Width))
	}
	size := f.Size
	switch f.Use {
	case Routine, AllOut: // in turns, however many wait
		size = min(size, d.Most)
	case Partner, Contest: // each pair by itself, however many there are
		size = min(size, 2)
	}
	switch {
	case size < d.Least:
		s.add(-wrongSize, "for at least %d", d.Least)
	case size > d.Most:
		s.add(-wrongSize, "for at most %d", d.Most)
	default:
		s.add(0, "")
	}
	if len(f.Kit) > 0 {
		for _, r := range f.short(*d) {
			if r.Have == 0 {
				s.add(-noKit, "no %s", r.Name)
			} else {
				s.add(-shortKit, "%s", shortSays(r))
			}
		}
	}
	for _, what := range d.Asks {
		if n := f.Limits[strings.ToLower(what)]; n > 0 {
			s.add(-limited, "asks for %s, which %s must not", what, say.Count(n, "player"))
		}
	}
	for _, need := range d.NotBefore {
		chosen := slices.ContainsFunc(f.Chosen, func(c coach.Drill) bool { return c.Readies(need) })
		if !chosen && !coach.Among(need, f.Given) && f.Use != WarmUp {
			s.add(-10, "not before %s", need)
		}
	}
}

func (f For) lately(s *Suggestion) {
	weeks, had := f.Recent[s.Drill.ID]
	switch {
	case !had:
		s.add(rested/2, "")
	case weeks < 1.5:
		s.add(-lately, "they had it last week")
	case weeks >= 3:
		s.add(rested, "not for %.0f weeks", math.Round(weeks))
	}
}

// Last is how many weeks ago a skill was last on, given the weeks since each drill was; −1 where none of its drills
// was.
func Last(shelf []coach.Drill, recent map[string]float64, skill string) float64 {
	last := -1.0
	for _, d := range shelf {
		if weeks, had := recent[d.ID]; had && slices.Contains(d.Skills, skill) && (last < 0 || weeks < last) {
			last = weeks
		}
	}
	return last
}
