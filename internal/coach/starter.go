package coach

// StarterLadder is the ladder a new club begins with: three stages of any ball sport, meant to be changed. Ids are left to the caller.
func StarterLadder() []Stage {
	twice := EvidenceRule{Good: 2, Last: 4, Days: 2, Weeks: 8, People: 1}
	return []Stage{
		{Order: 1, Name: "First steps", About: "Moves safely, catches and throws a slow ball.", Colour: "#2a7f9e", StepUp: StepUp{Choose: 1, Visits: 4}, Criteria: []Criterion{
			{Order: 1, Wording: "Catches a thrown ball with two hands", Skill: "catching", Measure: Makes, Want: 7, Of: 10, Must: true, ByResult: true, Rule: twice, Keys: []string{"Hands early", "Soft elbows", "Look it in"}},
			{Order: 2, Wording: "Stands on one leg", Skill: "balance", Measure: Hold, Want: 10, Must: true, BothSides: true, Rule: twice, Keys: []string{"Eyes on one spot", "Tall hips"}},
			{Order: 3, Wording: "Stops on the signal", Skill: "movement", Measure: Check, Points: []string{"stops within two steps", "feet apart"}, Must: true, Rule: EvidenceRule{Good: 1, Days: 1, People: 1}, Keys: []string{"Bend the knees"}},
			{Order: 4, Wording: "Throws at a target", Skill: "throwing", Measure: Streak, Want: 3, ByResult: true, Rule: EvidenceRule{Good: 1, Days: 1, People: 1}, Keys: []string{"Opposite foot forward"}},
		}},
		{Order: 2, Name: "Growing", About: "Joins skills together, plays small-sided games.", Colour: "#3f8f4f", StepUp: StepUp{Choose: 1, Visits: 6}, Criteria: []Criterion{
			{Order: 1, Wording: "Passes and catches on the move", Skill: "passing", Measure: Makes, Want: 8, Of: 10, Must: true, ByResult: true, Rule: twice, Keys: []string{"Lead the runner", "Step into the pass"}},
			{Order: 2, Wording: "Quick feet on the line", Skill: "footwork", Measure: Count, Want: 40, Of: 30, Must: true, ByResult: true, Rule: twice, Keys: []string{"Light on the toes"}},
			{Order: 3, Wording: "Finds a free team-mate", Skill: "reading the game", Measure: Grade, Want: 3, Points: []string{"watches the ball only", "looks up when stopped", "looks up on the move", "sees it before the ball comes"}, Rule: twice},
		}},
		{Order: 3, Name: "Playing", About: "Ready for matches.", Colour: "#b06a1b", StepUp: StepUp{Visits: 8}, Criteria: []Criterion{
			{Order: 1, Wording: "Plays a match without a rule fault", Skill: "rules", Measure: Faults, Want: 2, Must: true, ByResult: true, Rule: twice},
		}},
	}
}
