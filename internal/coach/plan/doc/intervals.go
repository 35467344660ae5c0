package doc

// Intervals is work and rest in turns: so many players are at work while the others rest, exercise after exercise. How
// long it takes follows from who is there.
type Intervals struct {
	Work      int        `json:"work"`              // seconds of a turn
	Rest      int        `json:"rest"`              // seconds asked for between two turns of a player
	Change    int        `json:"change,omitempty"`  // seconds in which the next take their places
	Turns     int        `json:"turns"`             // times round all players, in each exercise
	More      int        `json:"more,omitempty"`    // turns more from one session to the next
	Most      int        `json:"most,omitempty"`    // turns that it grows to
	Places    int        `json:"places"`            // players at work at once
	Feeders   int        `json:"feeders,omitempty"` // players who feed meanwhile, in turn; 0: a coach does, or nobody
	Long      int        `json:"long,omitempty"`    // seconds of rest between two exercises
	Exercises []Exercise `json:"exercises,omitempty"`
	Light     Task       `json:"light,omitzero"`    // what those who rest do; none: they rest
	Allowed   bool       `json:"allowed,omitempty"` // a coach says that these players may work all-out
	Judges    string     `json:"judges,omitempty"`  // of a run-through: "partners" judge each other; else who leads does
}

// Exercise is a drill, and how it is done this time.
type Exercise struct {
	Task
	How string `json:"how,omitempty"` // "regular feeds", in a few words
}

// Limits of intervals.
const (
	MostExercises = 8
	MostHow       = 60 // letters
	MostAtWork    = 30 // players at once
	MostFeeders   = 6
	MostTimes     = 20 // round all players
	MostMore      = 3  // turns, from one session to the next: common practice, no source
)

// NewIntervals is what a block of them begins with: common practice, no source.
func NewIntervals() *Intervals { return &Intervals{Work: 20, Rest: 60, Turns: 3, Places: 2, Long: 120} }

// NewRun is what a run-through begins with: one after the other, once each.
func NewRun() *Intervals { return &Intervals{Work: 45, Change: 10, Turns: 1, Places: 1} }

// Partners judge a run-through: whoever comes next.
const Partners = "partners"

// Grow makes them longer by what was set, up to where that ends.
func (n *Intervals) Grow() {
	if n.More > 0 && n.Turns < n.Most {
		n.Turns = min(n.Turns+n.More, n.Most)
	}
}

// Before is how many turns those have who were not there when it grew: one growth less, and at least one turn.
func (n Intervals) Before() int {
	if n.More == 0 {
		return n.Turns
	}
	return max(1, n.Turns-n.More)
}

func (n Intervals) check() bool {
	ok := (n.Judges == "" || n.Judges == Partners) && between(n.Work, 5, 600) && between(n.Rest, 0, 900) && between(n.Change, 0, 120) && between(n.Long, 0, 900) &&
		between(n.Turns, 1, MostTimes) && between(n.More, 0, MostMore) && between(n.Most, 0, MostTimes) && between(n.Places, 1, MostAtWork) && between(n.Feeders, 0, MostFeeders) &&
		len(n.Exercises) <= MostExercises
	for _, e := range n.Exercises {
		ok = ok && e.Drill != "" && len([]rune(e.How)) <= MostHow
	}
	return ok
}
