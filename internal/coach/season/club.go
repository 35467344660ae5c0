package season

import (
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
)

// MissedInARow is from how many missed dates in a row on somebody is named: common practice, no source.
const MissedInARow = 3

// Missed is how many of somebody's last dates they missed in a row; came has them, the newest first.
func Missed(came []bool) int {
	if i := slices.Index(came, true); i >= 0 {
		return i
	}
	return len(came)
}

// FallsAway reports whether somebody missed so many dates in a row that they are to be asked.
func FallsAway(came []bool) bool { return Missed(came) >= MissedInARow }

// Room is how full a class is: its places, who is in it, and how many came to its last dates. Area is of its part of
// the hall, in square metres.
type Room struct {
	Places, Enrolled int
	Came             []int
	Area             float64
	Units            coach.Units // that the club reads lengths in
}

// leastArea is how much floor somebody who moves needs, in square metres: common practice, no source.
const leastArea = 8

// Outgrown says that a class has outgrown its hall, or will; nothing where it has not.
func (r Room) Outgrown() string {
	most := 0
	for _, n := range r.Came {
		most = max(most, n)
	}
	switch {
	case r.Enrolled > r.Places:
		return fmt.Sprintf("%s for %s", say.Count(r.Enrolled, "player"), say.Count(r.Places, "place"))
	case r.Area > 0 && most > 0 && r.Area/float64(most) < leastArea:
		return fmt.Sprintf("%s for each of the %d who came", r.Units.Square(r.Area/float64(most)), most)
	case r.Enrolled == r.Places && r.Places > 0:
		return "full"
	}
	return ""
}
