package coach

import "testing"

// What is counted is said so that a player knows when they are done and what a miss costs. The words are this
// project's own.
func TestTargetsInWords(t *testing.T) {
	for want, target := range map[string]Target{
		"10 points":                                         {Kind: Score, N: 10},
		"1 point":                                           {Kind: Score, N: 1},
		"10 points, a miss costs 2":                         {Kind: Score, N: 10, Minus: 2},
		"10 points, the corner gives 3":                     {Kind: Score, N: 10, Bonus: 2, Better: "the corner"},
		"first to 11":                                       {Kind: Race, N: 11, Against: 11},
		"first to 11 against first to 7":                    {Kind: Race, N: 11, Against: 7},
		"first to 21, sides swapped at half":                {Kind: Race, N: 21, Swap: "half"},
		"first to 21, then once more with sides swapped":    {Kind: Race, N: 21, Swap: "end"},
		"at most 1 fault in 12":                             {Kind: FewFaults, N: 1, Of: 12},
		"20 by all together, then the gate slides":          {Kind: Gate, N: 20, Opens: "the gate slides"},
		"2 skills, 5 in a row each, a miss starts all over": {Kind: SetOfStreaks, Skills: 2, N: 5, Back: "all over"},
		"match what the other shows: out with 5 letters":    {Kind: MatchTheShot, N: 5},
		"no count: quality first":                           {},
	} {
		if got := target.String(); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	for n, against := range map[int]int{11: 7, 22: 14, 1: 1, 3: 2} { // in proportion, and never to nothing
		if got := (Target{Kind: Race, N: 11, Against: 7}).To(n); got.N != n || got.Against != against {
			t.Errorf("to %d: %+v", n, got)
		}
	}
}
