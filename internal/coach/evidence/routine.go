package evidence

import (
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/day"
)

// RunThroughs are how a routine went, day by day: of each player's run-throughs of a day the best.
type RunThroughs struct {
	Days []day.Day // the last of them, in order
	best map[byDay]coach.Mark
}

type byDay struct {
	player string
	day    day.Day
}

// RunThrough reads the run-throughs of the last days, at most so many, where the club is. Marks that were struck out
// and those that name no skills do not count.
func RunThrough(marks []coach.Mark, loc *time.Location, most int) RunThroughs {
	r := RunThroughs{best: map[byDay]coach.Mark{}}
	for _, m := range marks {
		if m.Struck || m.Tries == 0 {
			continue
		}
		at := byDay{m.PlayerID, day.In(m.At, loc)}
		if was, had := r.best[at]; !had || m.Figure > was.Figure {
			r.best[at] = m
		}
		if !slices.Contains(r.Days, at.day) {
			r.Days = append(r.Days, at.day)
		}
	}
	slices.SortFunc(r.Days, day.Day.Compare)
	r.Days = r.Days[max(0, len(r.Days)-most):]
	return r
}

// On is a player's run-through of a day; ok is false where there is none.
func (r RunThroughs) On(player string, d day.Day) (m coach.Mark, ok bool) {
	m, ok = r.best[byDay{player, d}]
	return m, ok
}

// Clean are how many skills were clean of how many that were shown, by so many players.
type Clean struct{ Skills, Of, Players int }

// Share is the part that was clean, 0 to 1.
func (c Clean) Share() float64 { return float64(c.Skills) / float64(max(1, c.Of)) }

// of counts the run-throughs of a day, of the players that who asks for.
func (r RunThroughs) of(d day.Day, who func(player string) bool) (c Clean) {
	for at, m := range r.best {
		if at.day == d && who(at.player) {
			c.Skills, c.Of, c.Players = c.Skills+int(m.Figure), c.Of+m.Tries, c.Players+1
		}
	}
	return c
}

// All is a day of everybody who showed the routine then.
func (r RunThroughs) All(d day.Day) Clean { return r.of(d, func(string) bool { return true }) }

// Change sets the last day beside the first, of those who showed the routine on both: who was away on one of them says
// nothing about a change. Of a single day nobody did.
func (r RunThroughs) Change() (first, last Clean) {
	if len(r.Days) < 2 {
		return first, last
	}
	a, b := r.Days[0], r.Days[len(r.Days)-1]
	both := func(player string) bool {
		_, then := r.On(player, a)
		_, now := r.On(player, b)
		return then && now
	}
	return r.of(a, both), r.of(b, both)
}

// Missed is how often a skill was not clean on a day, of how many who showed it.
func (r RunThroughs) Missed(skill int, d day.Day) (missed, of int) {
	for at, m := range r.best {
		if at.day == d && skill < len(m.Points) {
			of++
			if !m.Points[skill] {
				missed++
			}
		}
	}
	return missed, of
}
