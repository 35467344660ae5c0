package load

import (
	"math"
	"time"
)

// Round is what a round at a station really gave: Counted of the Players were counted, and made Tries tries; AtOnce
// were at work at a time.
type Round struct {
	Time                    time.Duration
	AtOnce                  int
	Players, Counted, Tries int
}

// trust is how many minutes at one place a drill's own pace is worth against what was counted (common practice, no
// source).
const trust = 20

// Learned is a drill's pace, in repetitions a minute at one place, as it was thought to be and as its rounds showed:
// the tries of those counted stand for their group's, and minutes at a place weigh against trust minutes of the drill's
// own figure. A round in which fewer than half were counted says nothing, nor does one that is out of all reason. n is
// how many rounds it rests on.
func Learned(own float64, rounds []Round) (pace float64, n int) {
	tries, minutes := own*trust, float64(trust)
	for _, r := range rounds {
		at := r.Time.Minutes() * float64(r.AtOnce)
		if r.Counted*2 < r.Players || r.Counted == 0 || at <= 0 {
			continue
		}
		all := float64(r.Tries) * float64(r.Players) / float64(r.Counted)
		if own > 0 && (all/at < own/5 || all/at > own*5) {
			continue
		}
		tries, minutes, n = tries+all, minutes+at, n+1
	}
	return math.Round(10*tries/minutes) / 10, n
}
