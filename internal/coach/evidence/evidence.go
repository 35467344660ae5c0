// Package evidence reads marks: which criteria are shown, who is ready to step up, what is missing and how sure it is.
package evidence

import (
	"fmt"
	"math"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
)

// Meets reports whether a mark's figure is good enough for the criterion. A shorter try than the standard's attempts
// is practice: it never meets it (see Counts).
func Meets(c coach.Criterion, m coach.Mark) bool {
	if !Counts(c, m) {
		return false
	}
	switch c.Measure {
	case coach.Check:
		for i := range c.Points {
			if i >= len(m.Points) || !m.Points[i] {
				return false
			}
		}
		return len(c.Points) > 0
	case coach.Makes:
		return m.Figure*c.Of >= c.Want*float64(m.Tries)
	case coach.Angle:
		return math.Abs(m.Figure-c.Want) <= c.Tolerance
	}
	if c.Measure.LessIsBetter() {
		return m.Figure <= c.Want
	}
	return m.Figure >= c.Want
}

// Counts reports whether a mark can count for the criterion: not struck out, and with as many attempts as asked.
func Counts(c coach.Criterion, m coach.Mark) bool {
	if m.Struck {
		return false
	}
	return c.Measure != coach.Makes || float64(m.Tries) >= c.Of
}

// State of a criterion for a player.
type State string

const (
	Shown  State = "shown"
	Nearly State = "nearly" // one more good mark would do
	Stale  State = "stale"  // shown but for the window
	Seen   State = "seen"
	Unseen State = "unseen"
)

var rank = map[State]int{Unseen: 0, Seen: 1, Stale: 2, Nearly: 3, Shown: 4}

// Status says where a player stands on one criterion at a date.
type Status struct {
	State   State
	Side    coach.Side // the side it hangs on, where two are asked
	Good    int        // good marks that count, on that side
	More    int        // good marks still needed, at least
	NewDay  bool       // and one of them on another day
	NewEye  bool       // and one of them by another person
	Share   float64    // min(1, Good/asked), the worse side's
	Last    []coach.Mark
	Missing string // in words; empty when shown
}

// Of works out the status of the criterion from its marks (of one player, any order) at a date. Days are those of at's
// location. With two sides it is the worse side's.
func Of(c coach.Criterion, marks []coach.Mark, at time.Time) Status {
	var worst Status
	unseen := 0
	for i, side := range c.Sides() {
		s := onSide(c, marks, side, at)
		if s.State == Unseen {
			unseen++
		}
		if i == 0 || rank[s.State] < rank[worst.State] || s.State == worst.State && s.Share < worst.Share {
			last := worst.Last
			worst = s
			worst.Last = append(last, s.Last...)
		} else {
			worst.Last = append(worst.Last, s.Last...)
		}
	}
	if unseen > 1 {
		worst.Missing = "not seen yet on either side"
	}
	return worst
}

// try is a mark that can count, as the rule reads it.
type try struct {
	mark *coach.Mark
	good bool
	day  int64 // in the place that is asked about, counted from any one
}

// triesOf are the marks of a criterion that can count, in order of time; any reports whether there is a mark at all.
func triesOf(c coach.Criterion, marks []coach.Mark, side coach.Side, at time.Time) (tries []try, any bool) {
	inOrder := true
	tries = make([]try, 0, len(marks))
	for i := range marks {
		m := &marks[i]
		if m.CriterionID != c.ID || m.Struck || m.At.After(at) ||
			side != coach.AnySide && m.Side != side && m.Side != coach.Both {
			continue
		}
		any = true
		if Counts(c, *m) {
			_, offset := m.At.In(at.Location()).Zone()
			day := (m.At.Unix() + int64(offset)) / 86400
			inOrder = inOrder && (len(tries) == 0 || !m.At.Before(tries[len(tries)-1].mark.At))
			tries = append(tries, try{m, Meets(c, *m), day})
		}
	}
	if !inOrder {
		slices.SortStableFunc(tries, func(a, b try) int { return a.mark.At.Compare(b.mark.At) })
	}
	return tries, any
}

// ruleOf is the criterion's rule, which asks for one good mark at least.
func ruleOf(c coach.Criterion) coach.EvidenceRule {
	rule := c.Rule
	rule.Good = max(1, rule.Good)
	return rule
}

// inWindow are the tries that are not too long ago for the rule.
func inWindow(rule coach.EvidenceRule, tries []try, at time.Time) []try {
	if rule.Weeks <= 0 {
		return tries
	}
	from := at.AddDate(0, 0, -7*rule.Weeks)
	i := slices.IndexFunc(tries, func(t try) bool { return !t.mark.At.Before(from) })
	if i < 0 {
		i = len(tries)
	}
	return tries[i:]
}

// counted is what counts for the criterion on a side at a date.
func counted(c coach.Criterion, marks []coach.Mark, side coach.Side, at time.Time) tally {
	rule := ruleOf(c)
	tries, _ := triesOf(c, marks, side, at)
	return count(rule, inWindow(rule, tries, at))
}

func onSide(c coach.Criterion, marks []coach.Mark, side coach.Side, at time.Time) Status {
	rule := ruleOf(c)
	mine, any := triesOf(c, marks, side, at)
	inWindow := inWindow(rule, mine, at)
	s := Status{Side: side}
	t := count(rule, inWindow)
	s.Good, s.Share = t.good, math.Min(1, float64(t.good)/float64(rule.Good))
	for _, t := range lastOf(rule, inWindow) {
		if t.good {
			s.Last = append(s.Last, *t.mark)
		}
	}
	s.More = fewest(rule, inWindow)
	s.NewDay = t.days < max(1, rule.Days)
	s.NewEye = t.people < max(1, rule.People)
	switch {
	case t.holds(rule):
		s.State, s.NewDay, s.NewEye = Shown, false, false
		return s
	case rule.Weeks > 0 && count(rule, mine).holds(rule):
		s.State = Stale
	case !any: // also where a single mark would do: nobody has looked yet
		s.State = Unseen
	case s.More == 1:
		s.State = Nearly
	default:
		s.State = Seen
	}
	s.Missing = s.words(any)
	return s
}

type tally struct{ good, days, people int }

func (t tally) holds(r coach.EvidenceRule) bool {
	return t.good >= r.Good && t.days >= max(1, r.Days) && t.people >= max(1, r.People)
}

func lastOf(r coach.EvidenceRule, tries []try) []try {
	if r.Last > 0 && len(tries) > r.Last {
		return tries[len(tries)-r.Last:]
	}
	return tries
}

func count(r coach.EvidenceRule, tries []try) tally {
	var t tally
	var people []string
	var last int64
	for _, m := range lastOf(r, tries) {
		if !m.good {
			continue
		}
		if t.good == 0 || m.day != last { // they are in order of time
			t.days++
			last = m.day
		}
		if !m.mark.Home && !slices.Contains(people, m.mark.By) { // at home nobody looked on
			people = append(people, m.mark.By)
		}
		t.good++
	}
	t.people = len(people)
	return t
}

// fewest is how many good marks, each on a day and by a person of its own, would make the rule hold: of the last n
// those that come push the oldest out.
func fewest(r coach.EvidenceRule, tries []try) int {
	for more := 0; ; more++ {
		rest := r
		if r.Last > 0 {
			if more >= r.Last { // nothing of what was is left
				return max(more, r.Good, r.Days, r.People)
			}
			rest.Last = r.Last - more
		}
		t := count(rest, tries)
		if (tally{t.good + more, t.days + more, t.people + more}).holds(r) {
			return more
		}
	}
}

// Helps reports whether a good mark at a moment by a person would bring the criterion nearer on that side: not when the
// rule wants another person or another day.
func Helps(c coach.Criterion, marks []coach.Mark, side coach.Side, when time.Time, by string) bool {
	now := onSide(c, marks, side, when)
	next := onSide(c, append(slices.Clone(marks), goodMark(c, side, when, by)), side, when)
	return now.State != Shown && (next.State == Shown || next.More < now.More)
}

func (s Status) words(any bool) string {
	if !any {
		return "not seen yet" + onThe(s.Side)
	}
	w := say.Count(s.More, "more good mark")
	if s.More == 1 {
		w = "one more good mark"
	}
	if s.State == Stale {
		w = "shown before, but too long ago: " + w
	}
	if s.NewDay && s.Good > 0 {
		w += " on another day"
	}
	if s.NewEye && s.Good > 0 {
		w += " by another person"
	}
	return w + onThe(s.Side)
}

func onThe(side coach.Side) string {
	if side == coach.AnySide {
		return ""
	}
	return " on the " + string(side)
}

// Item is one criterion of a stage with its status.
type Item struct {
	Criterion coach.Criterion
	Status    Status
}

// Readiness says how much of a stage a player has shown.
type Readiness struct {
	Ready    bool
	Progress float64  // mean over the musts and the best of the chooses of min(1, good marks that count / asked)
	Items    []Item   // in the stage's order
	Missing  []string // what still stands in the way, in words
	Short    int      // good marks still missing at least, over all that is asked
	LastSeen time.Time
	Since    day.Day // on the stage
	Marks    int
}

// Ready works out the readiness for a stage at a moment in the club's zone, from the player's marks, the visits since
// reaching the stage and the day it was reached.
func Ready(stage coach.Stage, marks []coach.Mark, visits int, since day.Day, at time.Time) Readiness {
	r := Readiness{Since: since}
	for _, m := range marks {
		if !m.Struck && !m.At.After(at) {
			r.Marks++
			if m.At.After(r.LastSeen) {
				r.LastSeen = m.At
			}
		}
	}
	var chooses []Item
	sum, asked := 0.0, 0
	for _, c := range stage.Criteria {
		it := Item{c, Of(c, marks, at)}
		r.Items = append(r.Items, it)
		if !c.Must {
			chooses = append(chooses, it)
			continue
		}
		asked++
		sum += it.Status.Share
		if it.Status.State != Shown {
			r.Missing = append(r.Missing, fmt.Sprintf("%s: %s", c.Wording, it.Status.Missing))
			r.Short += max(1, it.Status.More)
		}
	}
	slices.SortStableFunc(chooses, func(a, b Item) int {
		if d := rank[b.Status.State] - rank[a.Status.State]; d != 0 {
			return d
		}
		return int(math.Copysign(1, b.Status.Share-a.Status.Share))
	})
	want := min(stage.StepUp.Choose, len(chooses))
	shown := 0
	for _, it := range chooses[:want] {
		asked++
		sum += it.Status.Share
		if it.Status.State == Shown {
			shown++
		} else {
			r.Short += max(1, it.Status.More)
		}
	}
	if shown < want {
		var open []string
		for _, it := range chooses[shown:] {
			open = append(open, it.Criterion.Wording)
		}
		r.Missing = append(r.Missing, fmt.Sprintf("%d more of: %s", want-shown, say.List(open)))
	}
	if asked > 0 {
		r.Progress = sum / float64(asked)
	}
	if left := stage.StepUp.Visits - visits; left > 0 {
		r.Missing = append(r.Missing, say.Count(left, "more visit"))
	}
	if due := since.Add(7 * stage.StepUp.Weeks); stage.StepUp.Weeks > 0 && due.After(day.Of(at)) {
		r.Missing = append(
			r.Missing,
			"in the stage since "+since.Format("2 Jan")+"; asked are "+say.Count(stage.StepUp.Weeks, "week"),
		)
	}
	r.Ready = asked > 0 && len(r.Missing) == 0
	if !r.Ready {
		r.Progress = math.Min(r.Progress, 0.99)
	}
	return r
}

// Stuck reports whether a player who is not ready has been on the stage for so many weeks without new evidence, or
// without coming further.
func Stuck(stage coach.Stage, marks []coach.Mark, now Readiness, weeks int, at time.Time) bool {
	before := at.AddDate(0, 0, -7*weeks)
	if now.Ready || now.Since.After(day.Of(before)) || len(stage.Criteria) == 0 {
		return false
	}
	return !now.LastSeen.After(before) ||
		now.Progress <= Ready(stage, marks, stage.StepUp.Visits, now.Since, before).Progress
}

// Remark is something about a player on a stage that a coach looks for.
type Remark string

const (
	Short    Remark = "short"    // one good mark is missing
	Old      Remark = "stale"    // a must was shown too long ago, or nobody has marked the player for six weeks
	Slipping Remark = "slipping" // on one criterion at least
	Stays    Remark = "stuck"    // see Stuck
	New      Remark = "new"      // on the stage for three weeks at most
)

// Unmarked reports whether nobody has marked the player for six weeks (common practice, no source). Somebody who is not
// on the stage so long yet is not meant.
func (r Readiness) Unmarked(at time.Time) bool {
	before := at.AddDate(0, 0, -42)
	return r.LastSeen.Before(before) && !r.Since.After(day.Of(before))
}

// Remarks are what there is to say of a player at a date, from their marks and readiness; weeks is how long
// somebody may stay where they are before they are called stuck.
func Remarks(stage coach.Stage, marks []coach.Mark, r Readiness, weeks int, at time.Time) (out []Remark) {
	say := func(is bool, what Remark) {
		if is {
			out = append(out, what)
		}
	}
	say(!r.Ready && r.Short == 1, Short)
	say(
		r.Unmarked(at) ||
			slices.ContainsFunc(r.Items, func(it Item) bool { return it.Criterion.Must && it.Status.State == Stale }),
		Old,
	)
	say(slices.ContainsFunc(r.Items, func(it Item) bool { return AnySlips(Trends(it.Criterion, marks, at)) }), Slipping)
	say(Stuck(stage, marks, r, weeks, at), Stays)
	say(r.Since.After(day.Of(at.AddDate(0, 0, -21))), New)
	return out
}

// Wilson is the 95 % score interval of a rate with x successes in n (E. B. Wilson 1927, as method 3 in R. G. Newcombe,
// Statistics in Medicine 17, 1998, 857–872). With n = 0 it is everything, 0 to 1.
func Wilson(x, n int) (low, high float64) {
	if n <= 0 {
		return 0, 1
	}
	const z = 1.959963984540054
	p, m := float64(x)/float64(n), float64(n)
	mid := p + z*z/(2*m)
	half := z * math.Sqrt(p*(1-p)/m+z*z/(4*m*m))
	return math.Max(0, (mid-half)/(1+z*z/m)), math.Min(1, (mid+half)/(1+z*z/m))
}

// Slope is how much a figure rises in a week: the median of the slopes between every two marks, which one odd mark
// cannot move much (H. Theil 1950; P. K. Sen, Journal of the American Statistical Association 63 (1968) 1379–1389). It
// is 0 with fewer than two days.
func Slope(weeks, figures []float64) float64 {
	var slopes []float64
	for i := range weeks {
		for j := range i {
			if d := weeks[i] - weeks[j]; d != 0 {
				slopes = append(slopes, (figures[i]-figures[j])/d)
			}
		}
	}
	if len(slopes) == 0 {
		return 0
	}
	slices.Sort(slopes)
	n := len(slopes)
	return (slopes[(n-1)/2] + slopes[n/2]) / 2
}
