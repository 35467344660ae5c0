package run

import (
	"fmt"
	"time"

	"gruppo/internal/coach/say"
)

// Moment is what is known at a moment of a running session, at the place where a coach stands.
type Moment struct {
	Late           int           // whole minutes past the booked end, as it runs; 0 also where that has been said for long enough
	Gives          []string      // what could give, the best first
	Key            string        // that is shown now
	Holds          string        // the key holds, and which is next
	Slip           string        // a key before it that held and does not any more
	Group          string        // who is here
	Rate           string        // how the target goes, in words; empty: about right
	Easy           bool          // all got there
	Other          int           // the target that would be about right; 0: none
	Harder, Easier bool          // there is such a form
	Lacks, Unseen  []string      // short names: who lacks the key, whom nobody here has looked at
	Left           time.Duration // until the signal
}

// Thing is the most useful next thing: what it says, what its button says and does, and why it comes before others.
type Thing struct {
	Says, Label string
	Does        string // give, key, slip, harder, aim, easier, look; empty: nothing to press
	Why         string
}

// How long before the signal somebody who was not seen is named, and from how many a key is shown again: common
// practice, no source.
const (
	soon    = 150 * time.Second
	several = 3
)

// Next is what to do now; ok is false where there is nothing to say. What costs the session most comes first: the time,
// then what holds a whole group up, then who would be missed. The phone's next.js is held to the same recorded evenings.
func Next(m Moment) (t Thing, ok bool) {
	switch {
	case m.Late >= 1 && len(m.Gives) > 0:
		return Thing{say.Upper(inWords(m.Late)) + say.Verb(m.Late, " minute", " minutes") + " late.", m.Gives[0], "give",
			"what runs over is taken from whoever comes next"}, true
	case m.Holds != "":
		return Thing{"“" + m.Key + "” holds.", m.Holds, "key", "a key that holds is practised, not taught"}, true
	case m.Slip != "":
		return Thing{"“" + m.Slip + "” slips: a step back.", "Back to it", "slip", "what is built on it would not hold"}, true
	case m.Easy && m.Harder:
		return Thing{m.Group + " are ready for the next form.", "Harder", "harder", "all got there: nothing is learnt"}, true
	case m.Rate != "" && m.Other > 0:
		return Thing{m.Rate, fmt.Sprint("Make it ", m.Other), "aim", "a target is there to be reached"}, true
	case m.Rate != "" && m.Easier:
		return Thing{m.Rate, "Easier", "easier", "no other target would do"}, true
	case m.Rate != "":
		return Thing{Says: m.Rate, Why: "nothing easier is written"}, true
	case len(m.Lacks) >= several:
		return Thing{Says: say.Upper(inWords(len(m.Lacks))) + " lack “" + m.Key + "”: show it again.",
			Why: "what so many lack is not theirs to mend"}, true
	case len(m.Unseen) > 0 && m.Left < soon:
		return Thing{"Look at " + someOf(m.Unseen) + " (not seen).", "Look", "look", "the group is about to go on"}, true
	}
	return Thing{}, false
}

// inWords writes a small number as it is spoken.
func inWords(n int) string {
	words := []string{"none", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"}
	if n < len(words) {
		return words[n]
	}
	return fmt.Sprint(n)
}

// someOf are names, two of them where there are many.
func someOf(names []string) string {
	if len(names) > 3 {
		return fmt.Sprintf("%s, %s and %d more", names[0], names[1], len(names)-2)
	}
	return say.List(names)
}
