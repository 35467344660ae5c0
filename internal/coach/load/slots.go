package load

import "time"

// Slot is a stretch in which the same players are at work, counted from the beginning of the exercise.
type Slot struct {
	From, To time.Duration // of the work; the change to the next comes after it
	Time     int           // round all players, from 1
	Up, Feed []int         // who works and who feeds, counted from 0
}

// Slots is who works when: n players take turns at the places, Each times round. Feeders are taken in turn too, each
// time round those who have not fed for longest. After each time round comes the pause that RestFor asks for; takes is
// the end of the last pause, as Series has it. Nobody, no work or no turn gives none.
func (s Station) Slots(n int) (out []Slot, takes time.Duration) {
	if n <= 0 || s.Work <= 0 {
		return nil, 0
	}
	s.Roles, s.Places = min(s.Roles, n-1), max(1, s.Places)
	_, pause := s.RestFor(n)
	fed := 0 // who feeds first, the next time round
	for time := range s.Each {
		feeds := make([]bool, n)
		var feed []int
		for range s.Roles {
			feeds[fed] = true
			feed = append(feed, fed)
			fed = (fed + 1) % n
		}
		var up []int
		for i := range n {
			if !feeds[i] {
				up = append(up, i)
			}
		}
		at := takes
		for len(up) > 0 {
			now := up[:min(s.Places, len(up))]
			out = append(out, Slot{From: at, To: at + s.Work, Time: time + 1, Up: now, Feed: feed})
			at, up = at+s.Work+s.Change, up[len(now):]
		}
		takes += s.Cycle(n) + pause
	}
	return out, takes
}
