// Package season is what a class works on over a term: a theme for each of its dates, what the themes cover, and how the
// dates that are open are filled.
package season

import (
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/day"
)

// Kind of a theme.
type Kind string

const (
	Open    Kind = ""         // nothing is decided yet
	Skill   Kind = "skill"    // a skill is new, or gets better
	New     Kind = "new"      // what the next stage begins with, for those who are ready
	CleanUp Kind = "clean-up" // what the stage asks for and is not shown yet, and nothing new
	Event   Kind = "event"    // a match, a test, a show
	Words   Kind = "words"    // anything else, in the coach's own words
)

// Kinds lists the themes that a date can have.
var Kinds = []Kind{Skill, New, CleanUp, Event, Words}

// String is the kind in a word or two.
func (k Kind) String() string {
	switch k {
	case CleanUp:
		return "clean up"
	case New:
		return "new skills"
	}
	return string(k)
}

// Known reports whether a date can have a theme of this kind.
func (k Kind) Known() bool { return k == Open || slices.Contains(Kinds, k) }

// Theme is what a session of a class is about. Value is the skill, or the words. Says is a sentence for players and
// guardians.
type Theme struct {
	Kind   Kind
	Value  string
	Says   string
	Pinned bool // stays when the season is filled
}

// String is the theme in a word or two; empty where it is open.
func (t Theme) String() string {
	if t.Value == "" {
		return t.Kind.String()
	}
	return t.Value
}

// Date is a day of a class in a term.
type Date struct {
	On      day.Day
	Theme   Theme
	Off     string   // the holiday that it falls into; no session then
	Planned bool     // a session is there
	Held    bool     // and it was run to its end
	Skills  []string // that were practised at its stations, where it was held
	Marked  []string // ids of criteria that marks were taken for
}

// Dates are the days on which a class of that weekday meets in a term, by the week.
func Dates(weekday int, from, until day.Day) (out []day.Day) {
	for d := from; until.Holds(d); d = d.Add(1) {
		if int(d.Weekday()) == weekday {
			out = append(out, d)
		}
	}
	return out
}

// Seen is the most that happened with a criterion on a date.
type Seen int

const (
	Nothing Seen = iota
	Planned      // it is the theme of a day to come
	Taught       // its skill was practised
	Marked       // and marks were taken for it
)

// String is what happened, in a word.
func (s Seen) String() string { return [...]string{"", "planned", "taught", "marked"}[s] }

// Row is a criterion through the dates of a class.
type Row struct {
	Criterion coach.Criterion
	Stage     string
	Seen      []Seen // by date
	Shown, Of int    // players who have shown it, of those on its stage
}

// Never reports whether the criterion neither came up nor will, though players lack it.
func (r Row) Never() bool {
	return r.Shown < r.Of && !slices.ContainsFunc(r.Seen, func(s Seen) bool { return s != Nothing })
}

// Cover says of each criterion on which dates it was, or will be, worked on; what never comes up is first.
func Cover(rows []Row, dates []Date, today day.Day) []Row {
	out := slices.Clone(rows)
	for i := range out {
		r := &out[i]
		r.Seen = make([]Seen, len(dates))
		for k, d := range dates {
			switch {
			case slices.Contains(d.Marked, r.Criterion.ID):
				r.Seen[k] = Marked
			case d.Held && slices.Contains(d.Skills, r.Criterion.Skill):
				r.Seen[k] = Taught
			case !d.Held && d.Off == "" && !d.On.Before(today) && d.Theme.Kind == Skill && d.Theme.Value == r.Criterion.Skill:
				r.Seen[k] = Planned
			}
		}
	}
	never := func(r Row) int {
		if r.Never() {
			return 0
		}
		return 1
	}
	slices.SortStableFunc(out, func(a, b Row) int { return never(a) - never(b) })
	return out
}

// Needs are the skills that a class has to work on, with how often they still have to come, the most lacked first: each
// twice in a term, once to teach it and once to mark it.
func Needs(rows []Row, after map[string][]string) []Need {
	var out []Need
	for _, r := range rows {
		lack := r.Of - r.Shown
		if lack <= 0 {
			continue
		}
		i := slices.IndexFunc(out, func(n Need) bool { return n.Skill == r.Criterion.Skill })
		if i < 0 {
			out = append(out, Need{Skill: r.Criterion.Skill, Times: Often, After: after[r.Criterion.Skill]})
			i = len(out) - 1
		}
		out[i].Lack = max(out[i].Lack, lack)
	}
	slices.SortStableFunc(out, func(a, b Need) int { return b.Lack - a.Lack })
	return out
}

// Often is how often a skill comes up in a term at least: to be taught, and to be marked (common practice, no source).
const Often = 2
