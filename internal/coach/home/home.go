// Package home is practice at home: what is asked on which days, how it grows by the week, which part comes next, and
// what came back.
package home

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
)

// What a task may hold.
const (
	MostParts  = 8
	MostSets   = 20
	MostLevels = 12
	MostPart   = 60 * time.Minute // of one part, each set
)

// EasyTimes is how often a part is ticked as easy before the next one opens, or before its order may be mixed: common
// practice, no source.
const EasyTimes = 3

// UsualMost is how many minutes of practice at home a day are asked of somebody under 16 at most, until the club says
// otherwise: common practice, no source.
const UsualMost = 30

// Task is practice for home. Growth is by whole weeks that were practised.
type Task struct {
	Parts    []Part         `json:"parts"`
	Sets     int            `json:"sets"`             // how often all open parts are done on a day
	Days     []time.Weekday `json:"days,omitempty"`   // none: every day
	MoreSets int            `json:"more_sets"`        // each week
	MostSets int            `json:"most_sets"`        // that it grows to
	Percent  int            `json:"percent"`          // by which times and counts grow each week
	Steps    bool           `json:"steps,omitempty"`  // a part opens when the one before it is easy
	Mix      bool           `json:"mix,omitempty"`    // in a row first; in any order once it is easy
	Levels   []float64      `json:"levels,omitempty"` // of a challenge: the figure for each, the easiest first
	Unit     string         `json:"unit,omitempty"`   // of the figures
	Lower    bool           `json:"lower,omitempty"`  // a lower figure is better: a time
	Says     string         `json:"says,omitempty"`   // to who does it
	From     day.Day        `json:"-"`
	Until    day.Day        `json:"-"` // through that day; none: open
	Ends     day.Day        `json:"-"` // it was ended before
}

// Part is a drill or a pattern of a task, done for so many seconds or so often.
type Part struct {
	What    string   `json:"what"`
	Drill   string   `json:"drill,omitempty"` // its id, where it is one of the shelf
	Seconds int      `json:"seconds,omitempty"`
	Count   int      `json:"count,omitempty"`
	Each    float64  `json:"each,omitempty"` // seconds for one of a count, about
	Care    []string `json:"care,omitempty"`
	Instead string   `json:"instead,omitempty"` // for kit that is not at home
}

// usualEach is about how many seconds one of a count takes where nothing better is known: common practice, no source.
const usualEach = 3

// Time is how long the part takes once.
func (p Part) Time() time.Duration {
	if p.Seconds > 0 {
		return time.Duration(p.Seconds) * time.Second
	}
	each := p.Each
	if each <= 0 {
		each = usualEach
	}
	return time.Duration(float64(p.Count) * each * float64(time.Second))
}

// Much is how much of it is done each time: "2 min", "20 ×".
func (p Part) Much() string {
	switch {
	case p.Seconds > 0 && p.Seconds%60 == 0:
		return fmt.Sprint(p.Seconds/60, " min")
	case p.Seconds > 90:
		return fmt.Sprintf("%d:%02d min", p.Seconds/60, p.Seconds%60)
	case p.Seconds > 0:
		return fmt.Sprint(p.Seconds, " s")
	case p.Count > 0:
		return fmt.Sprint(p.Count, " ×")
	}
	return ""
}

// ParseMuch reads how much of a part is done each time: "2 min", "1:30", "45 s", "20", "20 ×"; nothing is as one likes.
func ParseMuch(text string) (seconds, count int, ok bool) {
	text = strings.ToLower(strings.TrimSpace(text))
	if text == "" {
		return 0, 0, true
	}
	if m, s, clock := strings.Cut(strings.TrimSpace(strings.TrimSuffix(text, "min")), ":"); clock {
		minutes, err := strconv.Atoi(m)
		left, err2 := strconv.Atoi(s)
		return minutes*60 + left, 0, err == nil && err2 == nil && minutes >= 0 && left >= 0 && left < 60
	}
	at := strings.IndexFunc(text, func(r rune) bool { return (r < '0' || r > '9') && r != '.' && r != ',' })
	if at < 0 {
		at = len(text)
	}
	x, err := strconv.ParseFloat(strings.Replace(text[:at], ",", ".", 1), 64)
	if err != nil || x <= 0 || x > 100000 {
		return 0, 0, false
	}
	switch strings.TrimSpace(strings.Trim(text[at:], " .")) {
	case "min", "mins", "minute", "minutes", "m", "'":
		return int(math.Round(x * 60)), 0, true
	case "s", "sec", "secs", "second", "seconds", "''", "\"":
		return int(math.Round(x)), 0, true
	case "", "x", "×", "times", "reps":
		return 0, int(x), x == math.Trunc(x)
	}
	return 0, 0, false
}

// How an answer felt.
const (
	Easy  = "easy"
	Right = "just right"
	Hard  = "hard"
)

// Felt are the words for it.
var Felt = []string{Easy, Right, Hard}

// Answer is what came back of a day.
type Answer struct {
	On     day.Day
	Part   int // the newest that was open then, from 0
	Done   bool
	Felt   string
	Figure *float64
	Words  string
}

// easy counts the days on which a part was the newest and was ticked as easy.
func easy(answers []Answer, part int) (n int) {
	for _, a := range answers {
		if a.Done && a.Felt == Easy && a.Part == part {
			n++
		}
	}
	return n
}

// Open is how many parts somebody has open: all of them, or of a task with steps those that were earned and those that
// the coach opened.
func (t Task) Open(answers []Answer, byCoach int) int {
	if !t.Steps {
		return len(t.Parts)
	}
	n := max(1, byCoach)
	for n < len(t.Parts) && easy(answers, n-1) >= EasyTimes {
		n++
	}
	return min(n, len(t.Parts))
}

// ToNext is how many more times the newest part has to be easy; 0 where nothing opens any more.
func (t Task) ToNext(answers []Answer, byCoach int) int {
	open := t.Open(answers, byCoach)
	if open == len(t.Parts) {
		return 0
	}
	return EasyTimes - easy(answers, open-1)
}

// Mixed reports whether the open parts may come in any order by now.
func (t Task) Mixed(answers []Answer, open int) bool {
	return t.Mix && easy(answers, open-1) >= EasyTimes
}

// On reports whether a day is asked for.
func (t Task) On(d day.Day) bool {
	in := !d.Before(t.From) && t.Until.Holds(d) && t.Ends.Holds(d)
	return in && (len(t.Days) == 0 || slices.Contains(t.Days, d.Weekday()))
}

// Asked are the days from–until that are asked for.
func (t Task) Asked(from, until day.Day) (out []day.Day) {
	for d := from; !d.After(until); d = d.Add(1) {
		if t.On(d) {
			out = append(out, d)
		}
	}
	return out
}

// Came is days done of days asked.
type Came struct{ Done, Of int }

// String is it in words: "4 of 5", or a dash where no day was asked for yet.
func (c Came) String() string {
	if c.Of == 0 {
		return "–"
	}
	return fmt.Sprintf("%d of %d", c.Done, c.Of)
}

// Came counts the days from–until: what was done on a day that nobody asked for stands for one that was missed.
func (t Task) Came(answers []Answer, from, until day.Day) (c Came) {
	c.Of = len(t.Asked(from, until))
	for _, a := range answers {
		if a.Done && !a.On.Before(from) && !a.On.After(until) {
			c.Done++
		}
	}
	c.Done = min(c.Done, c.Of)
	return c
}

// Dose is what is done on a day.
type Dose struct {
	Sets   int
	Parts  []Part // the open ones, as long as they are by now
	Weeks  int    // by which it has grown
	Held   string // why it has grown less than weeks have gone by
	Capped bool   // the club's most keeps it from growing on
}

// Time is how long a day takes.
func (d Dose) Time() time.Duration {
	var once time.Duration
	for _, p := range d.Parts {
		once += p.Time()
	}
	return once * time.Duration(max(1, d.Sets))
}

// Minutes is it in whole minutes, a begun one counted.
func (d Dose) Minutes() int { return int(math.Ceil(d.Time().Minutes())) }

// String is the sum as it is said: "3 patterns × 2 min × 5 = 30 min", or only "about 4 min" where its parts differ.
func (d Dose) String() string {
	var out []string
	same := true
	for _, p := range d.Parts {
		same = same && p.Much() == d.Parts[0].Much()
	}
	if len(d.Parts) > 1 {
		out = append(out, say.Count(len(d.Parts), "pattern"))
	}
	if same && len(d.Parts) > 0 && d.Parts[0].Much() != "" {
		out = append(out, strings.TrimSuffix(d.Parts[0].Much(), " ×"))
	}
	if d.Sets > 1 {
		out = append(out, fmt.Sprint(d.Sets))
	}
	how := strings.Join(out, " × ")
	if d.Time() == 0 {
		return how
	}
	total := fmt.Sprint(d.Minutes(), " min")
	if !same || slices.ContainsFunc(d.Parts, func(p Part) bool { return p.Seconds == 0 }) {
		total = "about " + total
	}
	switch how {
	case "", fmt.Sprint(d.Minutes(), " min"):
		return total
	}
	return how + ": " + total
}

// Spares is what somebody must not do at home, of all that they must not do: being in pictures is about something else.
func Spares(limits []string) (out []string) {
	for _, l := range limits {
		if coach.Limited(l) != coach.Pictures {
			out = append(out, l)
		}
	}
	return out
}

// Weeks is by how many weeks the task has grown for somebody on a day. A week counts when at least half of its days
// were done; while somebody has to spare themselves nothing grows, and it is as in the first week.
func (t Task) Weeks(answers []Answer, on day.Day, spares string) (weeks int, held string) {
	if t.MoreSets == 0 && t.Percent == 0 {
		return 0, ""
	}
	if spares != "" {
		return 0, "as in the first week: " + spares
	}
	missed := 0
	for from := t.From; from.Add(7).Compare(on) <= 0; from = from.Add(7) {
		switch c := t.Came(answers, from, from.Add(6)); {
		case c.Of == 0:
		case 2*c.Done >= c.Of:
			weeks++
		default:
			missed++
		}
	}
	if missed > 0 {
		held = "held back " + say.Count(missed, "week") + ": less than half done"
	}
	return weeks, held
}

// Dose is what somebody does with so many parts open after so many weeks of growth, most at most; 0: without a limit.
func (t Task) Dose(open, weeks int, most time.Duration) (d Dose) {
	for {
		d.Sets, d.Weeks, d.Parts = t.sets(weeks), weeks, nil
		for _, p := range t.Parts[:min(open, len(t.Parts))] {
			d.Parts = append(d.Parts, p.grown(t.Percent*weeks))
		}
		if most <= 0 || d.Time() <= most || weeks == 0 {
			break
		}
		weeks, d.Capped = weeks-1, true
	}
	for most > 0 && d.Time() > most && d.Sets > 1 { // the club's limit came after the task
		d.Sets, d.Capped = d.Sets-1, true
	}
	return d
}

func (t Task) sets(weeks int) int {
	n := max(1, t.Sets)
	if grown := n + t.MoreSets*weeks; t.MoreSets > 0 {
		n = max(n, min(grown, t.MostSets))
	}
	return n
}

// grown is a part that is longer by so many in a hundred, twice as long at most: times in steps of five seconds.
func (p Part) grown(percent int) Part {
	by := 1 + float64(min(percent, 100))/100
	if p.Seconds > 0 && percent > 0 {
		p.Seconds = int(math.Floor(float64(p.Seconds)*by/5)) * 5
	}
	p.Count = int(math.Floor(float64(p.Count)*by + 1e-9))
	return p
}

// Level is the highest level that a figure reaches, from 1; 0: none.
func (t Task) Level(figure float64) (n int) {
	for i, want := range t.Levels {
		if t.Lower && figure <= want || !t.Lower && figure >= want {
			n = i + 1
		}
	}
	return n
}

// Best is the best figure of the answers; ok is false where there is none.
func (t Task) Best(answers []Answer) (best float64, ok bool) {
	for _, a := range answers {
		if a.Figure != nil && (!ok || t.Lower == (*a.Figure < best)) {
			best, ok = *a.Figure, true
		}
	}
	return best, ok
}

// InWords names the days: "Monday, Wednesday and Friday", "every day". First is the day that the week begins with.
func (t Task) InWords(first time.Weekday) string {
	if len(t.Days) == 0 || len(t.Days) == 7 {
		return "every day"
	}
	days := slices.Clone(t.Days)
	slices.SortFunc(days, func(a, b time.Weekday) int { return cmp.Compare((a-first+7)%7, (b-first+7)%7) })
	var out []string
	for _, d := range days {
		if name := d.String(); len(days) > 3 {
			out = append(out, name[:3])
		} else {
			out = append(out, name)
		}
	}
	return say.List(out)
}

// Check says what cannot be in a task, by field: parts, sets, days, grow, levels, from, until. Most is the club's limit
// a day for those under 16; forChildren says that somebody of them is asked.
func (t Task) Check(most time.Duration, forChildren bool) (bad []coach.Trial) {
	wrong := func(field, format string, args ...any) {
		bad = append(bad, coach.Trial{Field: field, Says: fmt.Sprintf(format, args...)})
	}
	switch {
	case len(t.Parts) == 0:
		wrong("parts", "What is to be practised?")
	case len(t.Parts) > MostParts:
		wrong("parts", "%d parts are the most.", MostParts)
	}
	for _, p := range t.Parts {
		switch {
		case strings.TrimSpace(p.What) == "":
			wrong("parts", "What is to be practised?")
		case len([]rune(p.What)) > 120:
			wrong("parts", "A name has %d characters; 120 are the most.", len([]rune(p.What)))
		case p.Seconds < 0 || p.Count < 0 || p.Count > 1000 || time.Duration(p.Seconds)*time.Second > MostPart:
			wrong("parts", "%s: up to %d min, or up to 1000 times.", p.What, int(MostPart.Minutes()))
		}
	}
	if t.Sets < 1 || t.Sets > MostSets {
		wrong("sets", "Sets: a whole number from 1 to %d.", MostSets)
	}
	if t.MoreSets < 0 || t.MoreSets > 5 || t.Percent < 0 || t.Percent > 25 || t.MostSets > MostSets {
		wrong("grow", "It grows by 5 sets or 25 in 100 a week at most.")
	}
	if t.MoreSets > 0 && t.MostSets <= t.Sets {
		wrong("grow", "It grows to more sets than it begins with, or not at all.")
	}
	if t.Until.Before(t.From) && !t.Until.IsZero() {
		wrong("until", "The last day cannot be before the first.")
	}
	if len(t.Levels) > MostLevels {
		wrong("levels", "%d levels are the most.", MostLevels)
	}
	for i := 1; i < len(t.Levels); i++ {
		if up := t.Levels[i] > t.Levels[i-1]; up == t.Lower {
			wrong("levels", "Levels go from the easiest to the hardest.")
		}
	}
	if d := t.Dose(len(t.Parts), 0, 0); forChildren && most > 0 && d.Time() > most && !t.Steps {
		wrong("sets", "That is %d min a day; the club asks those under 16 for %d at most.", d.Minutes(), int(most.Minutes()))
	}
	return bad
}
