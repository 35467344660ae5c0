package coach

// TargetKind says how a task is scored.
type TargetKind string

const (
	Total        TargetKind = "total"  // so many good ones, misses do not matter
	RunOf        TargetKind = "streak" // so many in a row
	SetOfStreaks TargetKind = "set"    // a circuit of skills, so many each
	RallyLadder  TargetKind = "ladder" // a rally of 1, then 2, then 3 …
	TeamStreak   TargetKind = "team"   // one count for the team, everyone in turn
	InATime      TargetKind = "time"   // as many as possible
	Race         TargetKind = "race"   // first to N against first to Against
	NoTarget     TargetKind = ""       // free practice
)

// Target is how a drill is scored.
type Target struct {
	Kind    TargetKind `json:"kind"`
	N       int        `json:"n"`                 // how many
	Skills  int        `json:"skills,omitempty"`  // for SetOfStreaks
	Seconds int        `json:"seconds,omitempty"` // for InATime
	Against int        `json:"against,omitempty"` // for Race: what the other side plays to
	Back    string     `json:"back,omitempty"`    // for SetOfStreaks, where a miss sends the player: "all over", "one back" or "again" (also when empty)
}

// String is the target in words.
func (t Target) String() string {
	n := Figure(float64(t.N))
	switch t.Kind {
	case Total:
		return n + " good ones, misses do not matter"
	case RunOf:
		return n + " in a row, a miss starts again"
	case SetOfStreaks:
		back := map[string]string{"all over": ", a miss starts all over", "one back": ", a miss goes one skill back"}[t.Back]
		return Figure(float64(t.Skills)) + " skills, " + n + " in a row each" + back
	case RallyLadder:
		return "a rally of 1, then 2, up to " + n
	case TeamStreak:
		return n + " in a row as a team, in turn"
	case InATime:
		return "as many as you can in " + Figure(float64(t.Seconds)) + " s"
	}
	if t.Kind == Race {
		if t.Against == 0 || t.Against == t.N {
			return "first to " + n
		}
		return "first to " + n + " against first to " + Figure(float64(t.Against))
	}
	return "no count: quality first"
}

// Leader says who has to stand at a drill.
type Leader string

const (
	SelfRun   Leader = "none"
	AnyHelper Leader = "helper"
	AnyCoach  Leader = "coach"
	Qualified Leader = "qualified"
)

// String is the need in words.
func (l Leader) String() string {
	return map[Leader]string{SelfRun: "runs itself", AnyHelper: "a helper", AnyCoach: "a coach", Qualified: "a qualified coach"}[l]
}

// Role is what a member is in the club.
type Role string

const (
	RoleLead   Role = "lead"
	RoleCoach  Role = "coach"
	RoleHelper Role = "helper"
)

// Enough reports whether a member of this role may run a drill that needs l. Which coach is qualified is the
// club's own rule; here a lead counts as one.
func (l Leader) Enough(r Role) bool {
	switch l {
	case AnyHelper:
		return r != ""
	case AnyCoach:
		return r == RoleCoach || r == RoleLead
	case Qualified:
		return r == RoleLead
	}
	return true
}

// Drill is a practice task as one edition of it says. Lengths are in metres, times in seconds.
type Drill struct {
	ID         string    `json:"id,omitempty"`
	Edition    int       `json:"edition,omitempty"`
	Name       string    `json:"name"`
	Purpose    string    `json:"purpose"`
	Setup      string    `json:"setup"`
	Skills     []string  `json:"skills"`
	Approach   string    `json:"approach"` // technique-first or game-first
	Practice   string    `json:"practice"` // blocked, varied or random
	Form       string    `json:"form"`     // cooperative, contest or live
	Places     int       `json:"places"`   // how many act at once
	Roles      []string  `json:"roles"`    // feeder, goalkeeper …, filled from the group in turn
	Least      int       `json:"least"`
	Most       int       `json:"most"`
	Pace       float64   `json:"pace"` // repetitions a minute at one place
	Work       int       `json:"work,omitempty"`
	Rest       int       `json:"rest,omitempty"`
	Target     Target    `json:"target"`
	Chance     float64   `json:"chance"` // of one good try, where nothing better is known
	TrySeconds float64   `json:"try"`    // one good try
	Fetch      float64   `json:"fetch"`  // what a miss costs on top
	Keys       []string  `json:"keys"`   // coaching points in order
	Leader     Leader    `json:"leader"`
	Length     float64   `json:"length"`
	Width      float64   `json:"width"`
	Clearance  float64   `json:"clearance"`
	Hard       bool      `json:"hard"` // leaves players out of breath
	Asks       []string  `json:"asks"` // what a player's limit may forbid: jumping, overhead …
	Kit        []string  `json:"kit"`
	Cautions   []string  `json:"cautions"`
	Fire       float64   `json:"fire,omitempty"`       // metres in which balls fly on beyond the area's far end; 0: nothing is thrown or struck there
	Warms      []string  `json:"warms,omitempty"`      // what it makes ready: shoulder, landing …
	NotBefore  []string  `json:"not_before,omitempty"` // drills or warmed things that have to come earlier in the session
	After      []string  `json:"after,omitempty"`      // skills a group should have shown before this step
	Series     int       `json:"series,omitempty"`     // with work and rest: how many turns each
	Variants   []Variant `json:"variants"`             // easiest first
}

// Variant is an easier or harder form of a drill: it says only what differs.
type Variant struct {
	Name    string `json:"name"`
	Differs string `json:"differs"`
	Suits   string `json:"suits"` // the stage it suits, by name
}
