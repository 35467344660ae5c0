package coach

// Family is a kind of sport: which ladder a new program begins with, which session shapes fit it, and what its hall is
// called.
type Family string

const (
	BallGames Family = "ball"
	NetGames  Family = "net"
	Apparatus Family = "apparatus"
	Athletics Family = "athletics"
)

// Families are all of them, in the order in which they are offered.
var Families = []Family{BallGames, NetGames, Apparatus, Athletics}

// Known reports whether it is one of the families.
func (f Family) Known() bool { return f.String() != "" }

func (f Family) String() string {
	switch f {
	case BallGames:
		return "Ball games"
	case NetGames:
		return "Net and racket games"
	case Apparatus:
		return "Apparatus and routines"
	case Athletics:
		return "Running, jumping, throwing"
	}
	return ""
}

// About says what its ladder and its sessions are like.
func (f Family) About() string {
	switch f {
	case BallGames:
		return "two teams and one ball; sessions end in a game"
	case NetGames:
		return "partners over a net; rallies, points and changing partners"
	case Apparatus:
		return "skills that are held, joined and shown; nobody plays against another"
	case Athletics:
		return "seconds and metres; tries are counted and rested from"
	}
	return ""
}

// Plays reports whether its sessions have sides that play against each other.
func (f Family) Plays() bool { return f != Apparatus && f != Athletics }

// Finish is what a session of the family ends in, where others play a game.
func (f Family) Finish() string {
	switch f {
	case Apparatus:
		return "Show what holds"
	case Athletics:
		return "Contest"
	}
	return "Game"
}

// Ladder is what a new program of the family begins with: three stages, meant to be changed. Ids are left to the
// caller. The figures are common practice, no source.
func (f Family) Ladder() []Stage {
	switch f {
	case NetGames:
		return netLadder()
	case Apparatus:
		return apparatusLadder()
	case Athletics:
		return athleticsLadder()
	}
	return ballLadder()
}

var (
	seenOnce  = EvidenceRule{Good: 1, Days: 1, People: 1}
	twoOfFour = EvidenceRule{Good: 2, Last: 4, Days: 2, Weeks: 8, People: 1}
)

// stopsOnSignal belongs to every first stage: a hall is safe when everybody stops.
func stopsOnSignal(order int) Criterion {
	return Criterion{
		Order:   order,
		Wording: "Stops on the signal",
		Skill:   "movement",
		Measure: Check,
		Points:  []string{"stops within two steps", "looks at the coach"},
		Must:    true,
		Rule:    seenOnce,
		Keys:    []string{"Bend the knees"},
	}
}

func ballLadder() []Stage {
	return []Stage{
		{
			Order:  1,
			Name:   "First steps",
			About:  "Moves safely, catches and throws a slow ball.",
			Colour: "#2a7f9e",
			StepUp: StepUp{Choose: 1, Visits: 4},
			Criteria: []Criterion{
				{
					Order:    1,
					Wording:  "Catches a thrown ball with two hands",
					Skill:    "catching",
					Measure:  Makes,
					Want:     7,
					Of:       10,
					Must:     true,
					ByResult: true,
					Rule:     twoOfFour,
					Keys:     []string{"Hands early", "Soft elbows", "Look it in"},
				},
				{
					Order:     2,
					Wording:   "Stands on one leg",
					Skill:     "balance",
					Measure:   Hold,
					Want:      10,
					Must:      true,
					BothSides: true,
					Rule:      twoOfFour,
					Keys:      []string{"Eyes on one spot", "Tall hips"},
				},
				stopsOnSignal(3),
				{
					Order:    4,
					Wording:  "Throws at a target",
					Skill:    "throwing",
					Measure:  Streak,
					Want:     3,
					ByResult: true,
					Rule:     seenOnce,
					Keys:     []string{"Opposite foot forward"},
				},
			},
		},
		{
			Order:  2,
			Name:   "Growing",
			About:  "Joins skills together, plays small-sided games.",
			Colour: "#3f8f4f",
			StepUp: StepUp{Choose: 1, Visits: 6},
			Criteria: []Criterion{
				{
					Order:    1,
					Wording:  "Passes and catches on the move",
					Skill:    "passing",
					Measure:  Makes,
					Want:     8,
					Of:       10,
					Must:     true,
					ByResult: true,
					Rule:     twoOfFour,
					Keys:     []string{"Lead the runner", "Step into the pass"},
				},
				{
					Order:    2,
					Wording:  "Quick feet on the line",
					Skill:    "footwork",
					Measure:  Count,
					Want:     40,
					Of:       30,
					Must:     true,
					ByResult: true,
					Rule:     twoOfFour,
					Keys:     []string{"Light on the toes"},
				},
				{
					Order:   3,
					Wording: "Finds a free team-mate",
					Skill:   "reading the game",
					Measure: Grade,
					Want:    3,
					Points: []string{
						"watches the ball only",
						"looks up when stopped",
						"looks up on the move",
						"sees it before the ball comes",
					},
					Rule: twoOfFour,
				},
			},
		},
		{
			Order:  3,
			Name:   "Playing",
			About:  "Ready for matches.",
			Colour: "#b06a1b",
			StepUp: StepUp{Visits: 8},
			Criteria: []Criterion{
				{
					Order:    1,
					Wording:  "Plays a match without a rule fault",
					Skill:    "rules",
					Measure:  Faults,
					Want:     2,
					Must:     true,
					ByResult: true,
					Rule:     twoOfFour,
				},
			},
		},
	}
}

func netLadder() []Stage {
	return []Stage{
		{
			Order:  1,
			Name:   "First rallies",
			About:  "Keeps it going slowly, with a hand or a racket.",
			Colour: "#2a7f9e",
			StepUp: StepUp{Choose: 1, Visits: 4},
			Criteria: []Criterion{
				{
					Order:    1,
					Wording:  "Keeps it up alone",
					Skill:    "control",
					Measure:  Streak,
					Want:     10,
					Must:     true,
					ByResult: true,
					Rule:     twoOfFour,
					Keys:     []string{"Quiet hand", "Watch it onto the strings"},
				},
				{
					Order:    2,
					Wording:  "Rallies with a partner",
					Skill:    "rallying",
					Measure:  Streak,
					Want:     5,
					Must:     true,
					ByResult: true,
					Rule:     twoOfFour,
					Keys:     []string{"Ready before it comes", "Meet it in front"},
				},
				stopsOnSignal(3),
				{
					Order:    4,
					Wording:  "Serves over the net",
					Skill:    "serving",
					Measure:  Makes,
					Want:     6,
					Of:       10,
					ByResult: true,
					Rule:     twoOfFour,
					Keys:     []string{"Slow and high"},
				},
			},
		},
		{
			Order:  2,
			Name:   "Rallying",
			About:  "Both sides, and back to the middle.",
			Colour: "#3f8f4f",
			StepUp: StepUp{Choose: 1, Visits: 6},
			Criteria: []Criterion{
				{
					Order:     1,
					Wording:   "Returns from either side",
					Skill:     "rallying",
					Measure:   Makes,
					Want:      7,
					Of:        10,
					Must:      true,
					ByResult:  true,
					BothSides: true,
					Rule:      twoOfFour,
					Keys:      []string{"Turn first", "Meet it in front"},
				},
				{
					Order:   2,
					Wording: "Back to the middle",
					Skill:   "footwork",
					Measure: Check,
					Points:  []string{"split step", "moves as soon as it is hit", "stands balanced at contact"},
					Must:    true,
					Rule:    twoOfFour,
					Keys:    []string{"Hop as they hit"},
				},
				{
					Order:    3,
					Wording:  "Serves into the half asked for",
					Skill:    "serving",
					Measure:  Makes,
					Want:     7,
					Of:       10,
					ByResult: true,
					Rule:     twoOfFour,
				},
			},
		},
		{
			Order:  3,
			Name:   "Matches",
			About:  "Plays points by the rules, alone and with a partner.",
			Colour: "#b06a1b",
			StepUp: StepUp{Visits: 8},
			Criteria: []Criterion{
				{
					Order:    1,
					Wording:  "Serves without a fault",
					Skill:    "serving",
					Measure:  Makes,
					Want:     9,
					Of:       10,
					Must:     true,
					ByResult: true,
					Rule:     twoOfFour,
				},
				{
					Order:   2,
					Wording: "Places it where the other is not",
					Skill:   "reading the game",
					Measure: Grade,
					Want:    3,
					Must:    true,
					Points: []string{
						"back to the other",
						"sometimes away",
						"away when there is time",
						"moves the other and finishes",
					},
					Rule: twoOfFour,
				},
			},
		},
	}
}

func apparatusLadder() []Stage {
	return []Stage{
		{
			Order:  1,
			Name:   "Shapes",
			About:  "Holds shapes and lands safely.",
			Colour: "#2a7f9e",
			StepUp: StepUp{Choose: 1, Visits: 4},
			Criteria: []Criterion{
				{
					Order:   1,
					Wording: "Lands from a step and stands",
					Skill:   "landing",
					Measure: Check,
					Points:  []string{"feet together", "knees bend over the toes", "stands two counts"},
					Must:    true,
					Rule:    twoOfFour,
					Keys:    []string{"Quiet feet", "Knees over toes"},
				},
				{
					Order:     2,
					Wording:   "Stands on one leg",
					Skill:     "balance",
					Measure:   Hold,
					Want:      10,
					Must:      true,
					BothSides: true,
					Rule:      twoOfFour,
					Keys:      []string{"Eyes on one spot", "Tall hips"},
				},
				stopsOnSignal(3),
				{
					Order:   4,
					Wording: "Holds a front support",
					Skill:   "body tension",
					Measure: Hold,
					Want:    20,
					Rule:    twoOfFour,
					Keys:    []string{"Push the floor away"},
				},
			},
		},
		{
			Order:  2,
			Name:   "Joined",
			About:  "Joins skills without a stop.",
			Colour: "#3f8f4f",
			StepUp: StepUp{Choose: 1, Visits: 8},
			Criteria: []Criterion{
				{
					Order:   1,
					Wording: "Three skills joined",
					Skill:   "routine",
					Measure: Faults,
					Want:    2,
					Must:    true,
					Rule:    twoOfFour,
					Keys:    []string{"Finish each shape", "Breathe between"},
				},
				{
					Order:   2,
					Wording: "Walks the low beam and turns",
					Skill:   "balance",
					Measure: Faults,
					Want:    1,
					Must:    true,
					Rule:    twoOfFour,
					Keys:    []string{"Look at the end"},
				},
				{
					Order:   3,
					Wording: "Jumps and lands in a stretched shape",
					Skill:   "jumping",
					Measure: Grade,
					Want:    3,
					Points: []string{
						"bent",
						"stretched at the top",
						"stretched, lands with a step",
						"stretched, lands and stands",
					},
					Rule: twoOfFour,
				},
			},
		},
		{
			Order:  3,
			Name:   "Routine",
			About:  "Shows a whole routine to be judged.",
			Colour: "#b06a1b",
			StepUp: StepUp{Visits: 10},
			Criteria: []Criterion{
				{
					Order:   1,
					Wording: "Shows the routine without a fall",
					Skill:   "routine",
					Measure: Faults,
					Want:    0,
					Must:    true,
					Rule:    EvidenceRule{Good: 2, Last: 3, Days: 2, Weeks: 8, People: 1},
				},
				{
					Order:   2,
					Wording: "Knows it by heart",
					Skill:   "routine",
					Measure: Check,
					Points:  []string{"no word from outside", "no stop"},
					Must:    true,
					Rule:    twoOfFour,
				},
			},
		},
	}
}

func athleticsLadder() []Stage {
	return []Stage{
		{
			Order:  1,
			Name:   "Start",
			About:  "Runs, jumps and throws safely and with both sides.",
			Colour: "#2a7f9e",
			StepUp: StepUp{Choose: 1, Visits: 4},
			Criteria: []Criterion{
				{
					Order:     1,
					Wording:   "Jumps from one foot and lands on two",
					Skill:     "jumping",
					Measure:   Check,
					Points:    []string{"takes off from one foot", "lands on two", "stands"},
					Must:      true,
					BothSides: true,
					Rule:      twoOfFour,
					Keys:      []string{"Eyes up", "Quiet feet"},
				},
				{
					Order:    2,
					Wording:  "Skips on the spot",
					Skill:    "running",
					Measure:  Count,
					Want:     40,
					Of:       30,
					Must:     true,
					ByResult: true,
					Rule:     twoOfFour,
					Keys:     []string{"Knees up", "Arms drive"},
				},
				stopsOnSignal(3),
				{
					Order:    4,
					Wording:  "Throws into the sector",
					Skill:    "throwing",
					Measure:  Makes,
					Want:     7,
					Of:       10,
					ByResult: true,
					Rule:     twoOfFour,
					Keys:     []string{"Opposite foot forward"},
				},
			},
		},
		{
			Order:  2,
			Name:   "Technique",
			About:  "Knows the parts of a run-up, a start and a throw.",
			Colour: "#3f8f4f",
			StepUp: StepUp{Choose: 1, Visits: 6},
			Criteria: []Criterion{
				{
					Order:    1,
					Wording:  "Hits the board with the run-up",
					Skill:    "jumping",
					Measure:  Makes,
					Want:     6,
					Of:       10,
					Must:     true,
					ByResult: true,
					Rule:     twoOfFour,
					Keys:     []string{"Same first step", "Faster at the end"},
				},
				{
					Order:     2,
					Wording:   "Front shin at the start",
					Skill:     "starting",
					Measure:   Angle,
					Want:      45,
					Tolerance: 10,
					Must:      true,
					Rule:      twoOfFour,
					Keys:      []string{"Push, not step"},
				},
				{
					Order:   3,
					Wording: "Throws from three steps",
					Skill:   "throwing",
					Measure: Check,
					Points:  []string{"side on", "long last step", "arm last"},
					Rule:    twoOfFour,
				},
			},
		},
		{
			Order:  3,
			Name:   "Contest",
			About:  "Ready for a meeting.",
			Colour: "#b06a1b",
			StepUp: StepUp{Visits: 8},
			Criteria: []Criterion{
				{
					Order:    1,
					Wording:  "Three valid tries in a row",
					Skill:    "jumping",
					Measure:  Streak,
					Want:     3,
					Must:     true,
					ByResult: true,
					Rule:     twoOfFour,
				},
				{
					Order:   2,
					Wording: "Knows when and where to be",
					Skill:   "rules",
					Measure: Check,
					Points:  []string{"call", "order", "what makes a try valid"},
					Must:    true,
					Rule:    seenOnce,
				},
			},
		},
	}
}
