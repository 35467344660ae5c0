// Package coach holds the words of the job as plain types. It knows no clock, no database and no page;
// the rules that work on these types live in the packages beside it.
package coach

import (
	"cmp"
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach/say"
	"gruppo/internal/day"
)

// Side says on which hand or foot something is done.
type Side string

const (
	AnySide Side = ""
	Left    Side = "left"
	Right   Side = "right"
	Both    Side = "both"
)

// Player is somebody who is coached. Level is a single figure for dealing groups: the stage's order plus how
// much of it is shown (0 to 1).
type Player struct {
	ID        string
	Name      string // the shown name
	Called    string // the short name that tells them from the others here; empty: the first name
	BirthYear int    // 0: not known
	Side      Side
	Tags      []string
	Stage     string // stage id
	Level     float64
	With      []string // ids that must be in the same group
	Apart     []string // ids that must not be
	Limits    []Limit
	Positions []string // goalkeeper, pivot …; the tags that say where somebody plays
	Needs     []string // skills and keys that are lacking, the first to teach first
}

// First is how they are called in the hall.
func (p Player) First() string { return cmp.Or(p.Called, say.First(p.Name)) }

// Limit is something a player must not do for a while, such as "jumping".
type Limit struct {
	What  string
	Until day.Day // through that day; none: until it is taken away
}

// Limited is a limit as it was typed: "No jumping" says the same as "jumping".
func Limited(typed string) string {
	return strings.TrimSpace(strings.TrimPrefix(strings.ToLower(strings.TrimSpace(typed)), "no "))
}

// Pictures is the limit that is not about moving: whoever has it is in no picture.
const Pictures = "pictures"

// Stage is a step of a program's ladder.
type Stage struct {
	ID, ProgramID string
	Order         int
	Name, About   string
	Colour        string
	StepUp        StepUp
	Criteria      []Criterion
}

// StepUp says what, besides every must, a stage asks before a player is ready.
type StepUp struct {
	Choose int // how many of the choose criteria
	Visits int // sessions come to since reaching the stage
	Weeks  int // weeks in the stage
}

// Measure is the kind of figure a criterion is judged by.
type Measure string

const (
	Check    Measure = "check"    // named points, each yes or no
	Grade    Measure = "grade"    // described steps, 1 up
	Makes    Measure = "makes"    // successes out of attempts
	Streak   Measure = "streak"   // longest run without a miss
	Count    Measure = "count"    // number in a time
	Hold     Measure = "hold"     // seconds held
	Faults   Measure = "faults"   // falls, trips, nets: fewer is better
	Time     Measure = "time"     // seconds for a distance: less is better
	Tries    Measure = "tries"    // tries to reach a number: fewer is better
	Distance Measure = "distance" // metres
	Angle    Measure = "angle"    // degrees, target with a tolerance
)

// Measures lists the kinds in the order a coach meets them.
var Measures = []Measure{Check, Grade, Makes, Streak, Count, Hold, Faults, Time, Tries, Distance, Angle}

var measureWords = map[Measure]string{
	Check: "points of form", Grade: "grade", Makes: "makes of tries", Streak: "longest run", Count: "count in a time", Hold: "seconds held",
	Faults: "faults", Time: "seconds for a distance", Tries: "tries to reach a number", Distance: "distance", Angle: "angle",
}

// String is the measure in a coach's words.
func (m Measure) String() string { return measureWords[m] }

// Known reports whether m is one of Measures.
func (m Measure) Known() bool { return measureWords[m] != "" }

// LessIsBetter reports whether a smaller figure meets the standard.
func (m Measure) LessIsBetter() bool { return m == Faults || m == Time || m == Tries }

// AtHome reports whether a player can measure it alone, with one figure; what needs an eye needs a coach.
func (m Measure) AtHome() bool { return m.Known() && m != Check && m != Grade && m != Angle }

// Criterion is one thing a player must show at a stage.
type Criterion struct {
	ID, StageID string
	Order       int
	Wording     string
	Skill       string
	Measure     Measure
	Want        float64  // the standard's figure; unused for Check
	Of          float64  // attempts for Makes, seconds for Count; else unused
	Tolerance   float64  // degrees either way for Angle
	Points      []string // the named points of Check, the described steps of Grade
	Must        bool     // else one to choose
	ByResult    bool     // judged by result, else by form
	BothSides   bool     // left and right each have to be shown
	Home        bool     // figures from home count for it: the club says so
	Rule        EvidenceRule
	Keys        []string // coaching points in teaching order
	Edition     int      // counts up when it changes after marks rest on it
	Units       Units    // that the club reads lengths in
}

// Standard says what is good enough, in words: "8 of 10", "at least 20 s", "at most 1".
func (c Criterion) Standard() string {
	switch c.Measure {
	case Check:
		if len(c.Points) == 1 {
			return "shown"
		}
		if len(c.Points) == 2 {
			return "both points"
		}
		return fmt.Sprintf("all %d points", len(c.Points))
	case Makes:
		return Figure(c.Want) + " of " + Figure(c.Of)
	case Streak:
		return Figure(c.Want) + " in a row"
	case Count:
		return Figure(c.Want) + " in " + Figure(c.Of) + " s"
	case Hold:
		return Figure(c.Want) + " s"
	case Time:
		return "at most " + Figure(c.Want) + " s"
	case Distance:
		return "at least " + c.Units.Long(c.Want)
	case Angle:
		return Figure(c.Want) + "° ± " + Figure(c.Tolerance) + "°"
	case Faults, Tries:
		return "at most " + Figure(c.Want)
	case Grade:
		return "grade " + Figure(c.Want)
	}
	return ""
}

// Sides lists the sides that have to be shown: one without a side, or left and right.
func (c Criterion) Sides() []Side {
	if c.BothSides {
		return []Side{Left, Right}
	}
	return []Side{AnySide}
}

// EvidenceRule says how many marks must meet the standard (Good) out of the Last counted ones, on how many
// different Days, within how many Weeks, by how many People. Zero Last, Weeks: no bound.
type EvidenceRule struct {
	Good, Last, Days, Weeks, People int
}

// String is the rule in words.
func (r EvidenceRule) String() string {
	s := fmt.Sprintf("%d good", r.Good)
	if r.Good == 1 {
		s = "once"
	}
	if r.Last > r.Good {
		s += fmt.Sprintf(" of the last %d", r.Last)
	}
	if r.Days > 1 {
		s += fmt.Sprintf(", on %d days", r.Days)
	}
	if r.People > 1 {
		s += fmt.Sprintf(", by %d people", r.People)
	}
	if r.Weeks > 0 {
		s += fmt.Sprintf(", within %d weeks", r.Weeks)
	}
	return s
}

// Mark is one observation of one player. It is only ever added; a wrong one is struck out.
type Mark struct {
	ID, PlayerID         string
	CriterionID, DrillID string
	Skill                string // of the criterion or drill
	SessionID            string
	Side                 Side
	Figure               float64 // makes, longest run, count, seconds, faults, grade …
	Tries                int     // attempts, for Makes and Streak
	Points               []bool  // for Check, in the criterion's order
	At                   time.Time
	By, ByName           string
	Note                 string
	Home                 bool // it was done at home, and entered there
	Struck               bool
	StruckWhy            string
}

// Said is the mark's figure as a coach writes it: "9 of 10", "22 s", "2 of 3 points".
func (m Mark) Said(c Criterion) string {
	switch c.Measure {
	case Check:
		yes := 0
		for _, p := range m.Points {
			if p {
				yes++
			}
		}
		if len(m.Points) == 1 {
			if yes == 1 {
				return "yes"
			}
			return "not yet"
		}
		return fmt.Sprintf("%d of %d points", yes, len(m.Points))
	case Makes:
		return fmt.Sprintf("%s of %d", Figure(m.Figure), m.Tries)
	case Streak:
		return Figure(m.Figure) + " in a row"
	case Hold, Time:
		return Figure(m.Figure) + " s"
	case Distance:
		return c.Units.Long(m.Figure)
	case Angle:
		return Figure(m.Figure) + "°"
	case Grade:
		return "grade " + Figure(m.Figure)
	case Faults:
		if m.Figure == 1 {
			return "1 fault"
		}
		return Figure(m.Figure) + " faults"
	}
	return Figure(m.Figure)
}

// Figure writes a number without needless decimals.
func Figure(x float64) string {
	return strconv.FormatFloat(math.Round(x*100)/100, 'f', -1, 64)
}

// Clock writes a duration as minutes and seconds: 4:05.
func Clock(d time.Duration) string {
	s := int(math.Round(d.Seconds()))
	sign := ""
	if s < 0 {
		s, sign = -s, "−"
	}
	return fmt.Sprintf("%s%d:%02d", sign, s/60, s%60)
}

// Minutes writes a duration as minutes, with a half where there is one: "6 min", "7½ min".
func Minutes(d time.Duration) string {
	half := int(math.Round(d.Minutes() * 2))
	s := strconv.Itoa(half / 2)
	if half%2 == 1 {
		s += "½"
	}
	if half == 1 {
		s = "½"
	}
	return s + " min"
}
