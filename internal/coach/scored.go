package coach

import (
	"fmt"
	"math"
	"slices"

	"gruppo/internal/coach/say"
)

// TargetKind says how a task is scored.
type TargetKind string

const (
	Total        TargetKind = "total"   // so many good ones, misses do not matter
	RunOf        TargetKind = "streak"  // so many in a row
	SetOfStreaks TargetKind = "set"     // a circuit of skills, so many each
	RallyLadder  TargetKind = "ladder"  // a rally of 1, then 2, then 3 …
	TeamStreak   TargetKind = "team"    // one count for the team, everyone in turn
	InATime      TargetKind = "time"    // as many as possible
	Race         TargetKind = "race"    // first to N against first to Against
	HoldFor      TargetKind = "hold"    // N seconds without letting go
	FewFaults    TargetKind = "faults"  // at most N faults in Of tries
	Score        TargetKind = "score"   // N points: a good one is 1, a miss costs Minus, a better one gives Bonus more
	Gate         TargetKind = "gate"    // N by all together; then it opens
	MatchTheShot TargetKind = "letters" // whoever does not match what the other has shown gets a letter; N are out
	OwnRules     TargetKind = "own"     // by rules in the coach's words, with a free counter
	NoTarget     TargetKind = ""        // free practice
)

// TargetKinds lists them as a coach meets them, without free practice.
var TargetKinds = []TargetKind{
	Total, RunOf, SetOfStreaks, RallyLadder, TeamStreak, InATime, Race, HoldFor, FewFaults, Score, Gate, MatchTheShot,
	OwnRules,
}

// Target is how a drill is scored. What one kind alone needs is zero in the others.
type Target struct {
	Kind    TargetKind `json:"kind"`
	N       int        `json:"n"`                 // how many
	Skills  int        `json:"skills,omitempty"`  // for SetOfStreaks
	Seconds int        `json:"seconds,omitempty"` // for InATime
	Against int        `json:"against,omitempty"` // for Race: what the other side plays to
	Swap    string     `json:"swap,omitempty"`    // for Race: when the sides are swapped, "end" or "half"
	Back    string     `json:"back,omitempty"`    // for SetOfStreaks, where a miss sends the player: "all over", "one back" or "again" (also when empty)
	Of      int        `json:"of,omitempty"`      // for FewFaults: the tries of a go
	Minus   int        `json:"minus,omitempty"`   // for Score: what a miss costs
	Bonus   int        `json:"bonus,omitempty"`   // for Score: what a better one gives on top of its 1
	BonusIn float64    `json:"bonusIn,omitempty"` // for Score: the share of the good ones that are better
	Better  string     `json:"better,omitempty"`  // for Score: what a better one is, "beyond the line"
	Opens   string     `json:"opens,omitempty"`   // for Gate: what comes then
	Rules   string     `json:"rules,omitempty"`   // for OwnRules
}

// Together reports whether a target is one of two players or of a team, and not of each for themselves.
func (t Target) Together() bool {
	return slices.Contains([]TargetKind{RallyLadder, TeamStreak, Race, MatchTheShot}, t.Kind)
}

// String is the target in words.
func (t Target) String() string {
	n := Figure(float64(t.N))
	switch t.Kind {
	case Total:
		return say.Count(t.N, "good one") + ", misses do not matter"
	case RunOf:
		return n + " in a row, a miss starts again"
	case SetOfStreaks:
		back := map[string]string{"all over": ", a miss starts all over", "one back": ", a miss goes one skill back"}[t.Back]
		return say.Count(t.Skills, "skill") + ", " + n + " in a row each" + back
	case RallyLadder:
		return "a rally of 1, then 2, up to " + n
	case TeamStreak:
		return n + " in a row as a team, in turn"
	case InATime:
		return "as many as you can in " + Figure(float64(t.Seconds)) + " s"
	case HoldFor:
		return "held for " + n + " s"
	case FewFaults:
		return fmt.Sprintf("at most %s in %d", say.Count(t.N, "fault"), t.Of)
	case Score:
		return t.score()
	case Gate:
		return n + " by all together, then " + t.Opens
	case MatchTheShot:
		return "match what the other shows: out with " + say.Count(t.N, "letter")
	case OwnRules:
		return t.Rules
	case Race:
		return t.race()
	}
	return "no count: quality first"
}

func (t Target) score() string {
	s := say.Count(t.N, "point")
	if t.Bonus > 0 {
		s += fmt.Sprintf(", %s gives %d", t.Better, 1+t.Bonus)
	}
	if t.Minus > 0 {
		s += fmt.Sprintf(", a miss costs %d", t.Minus)
	}
	return s
}

func (t Target) race() string {
	s := "first to " + Figure(float64(t.N))
	if t.Against != 0 && t.Against != t.N {
		s += " against first to " + Figure(float64(t.Against))
	}
	switch t.Swap {
	case "end":
		s += ", then once more with sides swapped"
	case "half":
		s += ", sides swapped at half"
	}
	return s
}

// To is the target with another number; of a race the other side's goes with it in proportion.
func (t Target) To(n int) Target {
	if t.Kind == Race && t.Against > 0 {
		t.Against = max(1, int(math.Round(float64(t.Against*n)/float64(max(1, t.N)))))
	}
	t.N = n
	return t
}

func (t Target) check(bad func(field, format string, args ...any)) {
	between := func(n, low, high int) bool { return n >= low && n <= high }
	words := func(s string) bool { return between(len([]rune(s)), 1, 200) }
	low := 1
	if t.Kind == FewFaults || t.Kind == OwnRules {
		low = 0 // none at all, and no number
	}
	switch {
	case t.Kind == NoTarget:
	case !slices.Contains(TargetKinds, t.Kind):
		bad("target", "The kind of target %q is not known.", string(t.Kind))
	case !between(t.N, low, 500):
		bad("n", "How many: a whole number from %d to 500.", low)
	case t.Kind == InATime && !between(t.Seconds, 1, 3600):
		bad("seconds", "In how many seconds: a whole number from 1 to 3600.")
	case t.Kind == SetOfStreaks && !between(t.Skills, 1, 20):
		bad("of-skills", "How many skills: a whole number from 1 to 20.")
	case t.Kind == FewFaults && !between(t.Of, max(1, t.N+1), 500):
		bad("of", "In how many tries: more than the faults, and at most 500.")
	case t.Kind == MatchTheShot && t.N > 20:
		bad("n", "How many letters: a whole number from 1 to 20.")
	case t.Kind == Score && (!between(t.Minus, 0, 20) || !between(t.Bonus, 0, 20)):
		bad("minus", "What is taken or given: a whole number from 0 to 20.")
	case t.Kind == Score && t.Bonus > 0 && !words(t.Better):
		bad("better", "What is the better one? In at most 200 characters.")
	case t.Kind == Score && !(t.BonusIn >= 0 && t.BonusIn <= 1):
		bad("bonus-in", "How many of 10 good ones are better: a number from 0 to 10.")
	case t.Kind == Gate && !words(t.Opens):
		bad("opens", "What comes when it opens? In at most 200 characters.")
	case t.Kind == OwnRules && !words(t.Rules):
		bad("rules", "What are the rules? In at most 200 characters.")
	case !between(t.Against, 0, 500):
		bad("against", "What the other side plays to: a whole number from 0 to 500.")
	case !slices.Contains([]string{"", "end", "half"}, t.Swap):
		bad("swap", "Sides are swapped at the end, at half, or not.")
	case !slices.Contains([]string{"", "all over", "one back", "again"}, t.Back):
		bad("back", "A miss sends the player all over, one back, or again.")
	}
}
