package evidence

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
)

// Meeting is a session in which somebody could be marked.
type Meeting struct {
	ID    string
	At    time.Time
	By    []string                   // ids of who can mark, the first asked first
	Shows func(coach.Criterion) bool // whether it can be shown there
}

// LookAt is one mark to be taken: a planned look at a player.
type LookAt struct {
	Player, PlayerName string
	Meeting            int // index
	Criterion          coach.Criterion
	Side               coach.Side
	By                 string
}

// Candidate is a player with what they have shown, and the meetings they come to.
type Candidate struct {
	ID, Name string
	Stage    coach.Stage
	Marks    []coach.Mark
	Visits   int
	Since    day.Day
	Meetings []int // indices, in order of time
}

// Prospect is whether a candidate could be ready by a date, and the fewest marks that takes.
type Prospect struct {
	Candidate Candidate
	Could     bool
	Ready     bool // is so already
	Looks     []LookAt
	Why       string // why not, when not
}

// LooksBy is how many marks one person takes in a session beside coaching (common practice, no source).
const LooksBy = 12

// Prospects plans, for everybody who could be ready for the next stage by a date, the fewest good marks that are still
// needed into the meetings, the earliest first; nobody marks more than LooksBy players in one. Those who need least are
// served first. Each look takes for granted that the player shows it.
func Prospects(who []Candidate, meetings []Meeting, by time.Time) []Prospect {
	out := make([]Prospect, len(who))
	for i, c := range who {
		out[i] = prospect(c, meetings, by, func(int, string) bool { return true })
	}
	slices.SortStableFunc(out, func(a, b Prospect) int { return cmp.Compare(len(a.Looks), len(b.Looks)) })
	taken := map[string]int{}
	seat := func(meeting int, by string) string { return fmt.Sprint(meeting, " ", by) }
	for i, p := range out {
		if !p.Could || p.Ready {
			continue
		}
		mine := map[string]int{}
		again := prospect(p.Candidate, meetings, by, func(m int, by string) bool {
			if taken[seat(m, by)]+mine[seat(m, by)] >= LooksBy {
				return false
			}
			mine[seat(m, by)]++
			return true
		})
		if !again.Could {
			again.Why = "there is no time left to look at everybody: " + again.Why
		}
		for _, l := range again.Looks {
			taken[seat(l.Meeting, l.By)]++
		}
		out[i] = again
	}
	slices.SortStableFunc(out, func(a, b Prospect) int {
		rank := func(p Prospect) int {
			switch {
			case p.Ready:
				return 0
			case p.Could:
				return 1
			}
			return 2
		}
		return cmp.Or(
			cmp.Compare(rank(a), rank(b)),
			cmp.Compare(len(a.Looks), len(b.Looks)),
			cmp.Compare(a.Candidate.Name, b.Candidate.Name),
		)
	})
	return out
}

// prospect adds good marks meeting by meeting until the rule itself says that a criterion is shown; so windows, days
// and people are honoured as they are.
func prospect(c Candidate, meetings []Meeting, by time.Time, free func(meeting int, by string) bool) Prospect {
	p := Prospect{Candidate: c, Could: true}
	if Ready(c.Stage, c.Marks, c.Visits, c.Since, by).Ready {
		p.Ready = true
		return p
	}
	type way struct {
		item  coach.Criterion
		looks []LookAt
		ok    bool
	}
	var chooses []way
	for _, k := range c.Stage.Criteria {
		looks, ok := showing(c, k, meetings, by, free)
		if !k.Must {
			chooses = append(chooses, way{k, looks, ok})
			continue
		}
		if !ok {
			p.Could, p.Why = false, k.Wording+" cannot be shown often enough by then"
			return p
		}
		p.Looks = append(p.Looks, looks...)
	}
	chooses = slices.DeleteFunc(chooses, func(w way) bool { return !w.ok })
	slices.SortStableFunc(chooses, func(a, b way) int { return cmp.Compare(len(a.looks), len(b.looks)) })
	if want := min(c.Stage.StepUp.Choose, len(c.Stage.Criteria)); len(chooses) < want {
		p.Could, p.Looks, p.Why = false, nil, "too few of those to choose can be shown by then"
		return p
	} else {
		for _, w := range chooses[:want] {
			p.Looks = append(p.Looks, w.looks...)
		}
	}
	if left := c.Stage.StepUp.Visits - c.Visits - len(c.Meetings); left > 0 {
		p.Could, p.Looks, p.Why = false, nil, say.Count(left, "visit")+" too few until then"
	} else if due := c.Since.Add(7 * c.Stage.StepUp.Weeks); due.After(day.Of(by)) {
		p.Could, p.Looks, p.Why = false, nil, "not long enough in the stage before "+due.Format("2 Jan")
	}
	slices.SortStableFunc(p.Looks, func(a, b LookAt) int { return cmp.Compare(a.Meeting, b.Meeting) })
	return p
}

// showing is the fewest looks, at the earliest meetings, after which the criterion is shown at the date.
func showing(
	c Candidate,
	k coach.Criterion,
	meetings []Meeting,
	by time.Time,
	free func(int, string) bool,
) (looks []LookAt, ok bool) {
	var marks []coach.Mark // of the criterion
	for _, m := range c.Marks {
		if m.CriterionID == k.ID {
			marks = append(marks, m)
		}
	}
	for _, side := range k.Sides() {
		shown := func() bool { return counted(k, marks, side, by).holds(ruleOf(k)) }
		for _, m := range c.Meetings {
			if shown() {
				break
			}
			meet := meetings[m]
			if meet.At.After(by) || !meet.Shows(k) || len(meet.By) == 0 {
				continue
			}
			for n := 0; n < max(1, (k.Rule.Good+max(1, k.Rule.Days)-1)/max(1, k.Rule.Days)) && !shown(); n++ {
				who := marker(k, marks, side, meet.By, by)
				if !free(m, who) {
					break
				}
				marks = append(marks, goodMark(k, side, meet.At.Add(time.Duration(n)*time.Minute), who))
				looks = append(
					looks,
					LookAt{Player: c.ID, PlayerName: c.Name, Meeting: m, Criterion: k, Side: side, By: who},
				)
			}
		}
		if !shown() {
			return nil, false
		}
	}
	return looks, true
}

// marker is who should mark next: somebody whose good mark does not count yet where another pair of eyes is asked, else
// the first.
func marker(k coach.Criterion, marks []coach.Mark, side coach.Side, who []string, at time.Time) string {
	if counted(k, marks, side, at).people < max(1, k.Rule.People) {
		for _, w := range who {
			if !slices.ContainsFunc(
				marks,
				func(m coach.Mark) bool { return m.CriterionID == k.ID && m.By == w && Meets(k, m) },
			) {
				return w
			}
		}
	}
	return who[0]
}

// goodMark just meets the standard.
func goodMark(k coach.Criterion, side coach.Side, at time.Time, by string) coach.Mark {
	m := coach.Mark{CriterionID: k.ID, Figure: k.Want, Tries: int(k.Of), Side: side, At: at, By: by}
	for range k.Points {
		m.Points = append(m.Points, true)
	}
	return m
}
