package demo

import "gruppo/internal/coach"

// Everything here is invented: the club, its people, its drills.

var twice = coach.EvidenceRule{Good: 2, Last: 3, Days: 2, Weeks: 8, People: 1}
var once = coach.EvidenceRule{Good: 1, Days: 1, People: 1}
var twoEyes = coach.EvidenceRule{Good: 2, Last: 4, Days: 2, Weeks: 10, People: 2}

func crit(wording, skill string, m coach.Measure, want, of float64, must bool, rule coach.EvidenceRule, more ...func(*coach.Criterion)) coach.Criterion {
	c := coach.Criterion{Wording: wording, Skill: skill, Measure: m, Want: want, Of: of, Must: must, Rule: rule, ByResult: m != coach.Check && m != coach.Grade}
	for _, f := range more {
		f(&c)
	}
	return c
}

func points(p ...string) func(*coach.Criterion) { return func(c *coach.Criterion) { c.Points = p } }
func keys(k ...string) func(*coach.Criterion)   { return func(c *coach.Criterion) { c.Keys = k } }
func bothSides(c *coach.Criterion)              { c.BothSides = true }

var handball = []coach.Stage{
	{Name: "Shore", About: "First steps: moves safely, catches and throws a slow ball.", Colour: "#2a7f9e", StepUp: coach.StepUp{Choose: 1, Visits: 4}, Criteria: []coach.Criterion{
		crit("Catches a lobbed ball", "catching", coach.Makes, 7, 10, true, twice, keys("Hands early", "Soft elbows", "Look it in")),
		crit("Throws overarm", "shooting", coach.Check, 0, 0, true, twice, points("elbow at ear height", "other foot in front", "follows through"), keys("Elbow over ear", "Point at the target")),
		crit("Dribbles the line and back", "dribbling", coach.Faults, 1, 0, true, twice, keys("Push, do not slap", "Eyes up")),
		crit("Stands on one leg", "balance", coach.Hold, 10, 0, false, once, bothSides, keys("Eyes on one spot")),
		crit("Quick feet over the line", "footwork", coach.Count, 30, 20, false, once, keys("Light on the toes")),
	}},
	{Name: "Reef", About: "Plays small-sided, knows where to go after the pass.", Colour: "#2f8a5b", StepUp: coach.StepUp{Choose: 1, Visits: 6, Weeks: 4}, Criteria: []coach.Criterion{
		crit("Catches on the move", "catching", coach.Makes, 8, 10, true, twice, keys("Hands early", "Soft elbows", "Look it in")),
		crit("Wall passes in a row", "passing", coach.Streak, 10, 0, true, twice, keys("Step into it", "Wrist last")),
		crit("Jump-shot approach", "shooting", coach.Check, 0, 0, true, twoEyes, points("left–right–left", "elbow over ear", "lands on the foot it left"), keys("Left–right–left, last step longest", "Elbow over ear", "Land on the foot you left")),
		crit("Keeps the corridor", "defending", coach.Hold, 20, 0, true, twice, keys("Feet before arms")),
		crit("Feints past a screen", "feinting", coach.Grade, 3, 0, false, once, bothSides, points("stops and looks", "changes direction slowly", "changes with a full step", "changes at full speed"), keys("Sell the first step")),
		crit("Pass and follow, no step fault", "footwork", coach.Faults, 1, 0, false, twice, keys("Three steps, count them")),
	}},
	{Name: "Tide", About: "Plays 7 v 7 in a position.", Colour: "#b06a1b", StepUp: coach.StepUp{Choose: 1, Visits: 8, Weeks: 8}, Criteria: []coach.Criterion{
		crit("Jump shots on target", "shooting", coach.Makes, 7, 10, true, twoEyes, keys("Elbow over ear", "Hang, then throw")),
		crit("Passes on the run, in a row", "passing", coach.Streak, 15, 0, true, twice, keys("Lead the runner")),
		crit("Side steps along the line", "footwork", coach.Count, 24, 20, true, twice, keys("Low hips")),
		crit("Reads the free player", "feinting", coach.Grade, 3, 0, false, twice, points("ball only", "looks when stopped", "looks on the move", "sees it before the ball comes")),
		crit("Block without a foul", "defending", coach.Faults, 1, 0, false, twice, keys("Arms up, feet still")),
	}},
	{Name: "Deep", About: "Squad.", Colour: "#7a4b94", StepUp: coach.StepUp{Visits: 12}, Criteria: []coach.Criterion{
		crit("Shots from nine metres", "shooting", coach.Makes, 6, 10, true, twoEyes),
		crit("Fast-break passes in a row", "passing", coach.Streak, 20, 0, true, twice),
	}},
}

var skipping = []coach.Stage{
	{Name: "Loop", About: "Turns the rope and jumps.", Colour: "#2a7f9e", StepUp: coach.StepUp{Visits: 2}, Criteria: []coach.Criterion{
		crit("Basic jumps in 30 s", "rope rhythm", coach.Count, 25, 30, true, twice, keys("Wrists, not arms")), crit("Longest run", "rope control", coach.Streak, 10, 0, true, twice, keys("Small jumps"))}},
	{Name: "Bounce", About: "Keeps a rhythm.", Colour: "#2f8a5b", StepUp: coach.StepUp{Visits: 3}, Criteria: []coach.Criterion{
		crit("Basic jumps in 30 s", "rope rhythm", coach.Count, 40, 30, true, twice, keys("Elbows in")), crit("Longest run", "rope control", coach.Streak, 25, 0, true, twice), crit("Trips in the short routine", "rope routine", coach.Faults, 3, 0, true, twice)}},
	{Name: "Cross", About: "Crosses the arms.", Colour: "#b06a1b", StepUp: coach.StepUp{Visits: 4}, Criteria: []coach.Criterion{
		crit("Basic jumps in 30 s", "rope rhythm", coach.Count, 55, 30, true, twice), crit("Crosses in a row", "rope control", coach.Streak, 8, 0, true, twice, keys("Hands past the hips")), crit("Trips in the routine", "rope routine", coach.Faults, 2, 0, true, twice)}},
	{Name: "Twin", About: "Turns with a partner.", Colour: "#b0265c", StepUp: coach.StepUp{Visits: 4}, Criteria: []coach.Criterion{
		crit("Jumps with a partner in 30 s", "rope rhythm", coach.Count, 40, 30, true, twice), crit("Trips in the pair routine", "rope routine", coach.Faults, 2, 0, true, twice)}},
	{Name: "Whirl", About: "Two turns to a jump.", Colour: "#7a4b94", Criteria: []coach.Criterion{
		crit("Double turns in a row", "rope control", coach.Streak, 12, 0, true, twice)}},
}

const firstNames = `Amara Bo Ceri Davi Edda Femi Gita Hugo Ivo Jun Kaya Lior Mina Nils Oriol Pia Rui Sana Tove Umar Vera Wen Ximena Yara Zoë Aino Baran Chidi Dana Elif Finn Greta Hana Ilya Jaya Kenji Luca Malik Noor Olena Pavel Quinn Rosa Samir Thea Usha Viggo Wiktor Xenia Youssef Zita Anouk Bilal Carys Dmitri Emeka Farah Gustav Hilde Inès Jonas Kiri Leïla Mateo Niamh Otis Priya Ravi Stella Tariq`
const lastNames = `Nwosu Lindahl Whitmore Rocha Solberg Adeyemi Prasad Moreira Kovac Tanaka Demir Ben-Ami Ferro Olsen Vidal Grant Costa Iqbal Nygaard Farouk Popova Zhang Luna Haddad Müller Laine Yildiz Okoro Weiss Kaplan Byrne Holm Sato Petrov Menon Mori Rossi Hassan Aziz Shevchenko Novak Doyle Marin Khalil Berg Nair Lund Zielinski Pappas Amrani Horvath Dubois Rahman Evans Orlov Eze Karimi Nyström Moen Fontaine Brandão Tamati Saidi Ortega Kelly Banks Rao Shah Conti Mahmoud`

func drill(name, purpose, setup string, skills []string, places, least, most int, pace float64, l, w float64, target coach.Target, leader coach.Leader, more func(*coach.Drill)) coach.Drill {
	d := coach.Drill{Name: name, Purpose: purpose, Setup: setup, Skills: skills, Places: places, Least: least, Most: most, Pace: pace, Length: l, Width: w, Clearance: 1, Target: target, Leader: leader,
		Approach: "technique-first", Practice: "blocked", Form: "cooperative", Chance: 0.75, TrySeconds: 60 / pace, Fetch: 4}
	if more != nil {
		more(&d)
	}
	return d
}

// The club's kit, with something short.
var kit = []coach.Kit{
	{Name: "ball", Count: 24}, {Name: "cone", Count: 30}, {Name: "bib", Count: 12}, {Name: "beanbag", Count: 4}, {Name: "rolled sock", Count: 8, StandsIn: []string{"beanbag"}}, {Name: "screen", Count: 1},
	{Name: "tall box", Count: 2, StandsIn: []string{"screen"}}, {Name: "box", Count: 4}, {Name: "hoop", Count: 8}, {Name: "rope", Count: 16}, {Name: "tape", Count: 3}, {Name: "mat", Count: 6},
}

func streak(n int) coach.Target { return coach.Target{Kind: coach.RunOf, N: n} }
func total(n int) coach.Target  { return coach.Target{Kind: coach.Total, N: n} }
func inTime(n, s int) coach.Target {
	return coach.Target{Kind: coach.InATime, N: n, Seconds: s}
}

var drills = []coach.Drill{
	drill("Wall passing", "A firm pass to a spot on the wall, ready for what comes back.", "Targets at shoulder height, a line three metres out. Balls in a box behind.", []string{"passing"}, 3, 2, 6, 14, 9, 6, streak(10), coach.SelfRun, func(d *coach.Drill) {
		d.Fire, d.Practice = 0, "blocked"
		d.Keys, d.Cautions, d.Kit = []string{"Step into it", "Wrist last", "Hands up for the return"}, []string{"Throw in one direction only"}, []string{"a ball each", "tape for targets"}
		d.Variants = []coach.Variant{{Name: "Closer", Differs: "two metres, both hands", Suits: "Shore"}, {Name: "Moving", Differs: "one side step between passes", Suits: "Tide"}}
	}),
	drill("Jump-shot approach", "Three steps and a clean take-off, then the throw.", "Markers three metres apart, the last seven metres out. Shooters jog back on the right.", []string{"shooting"}, 2, 3, 6, 5, 12, 8, streak(8), coach.AnyCoach, func(d *coach.Drill) {
		d.Fire, d.NotBefore, d.After = 6, []string{"shoulder"}, []string{"catching"}
		d.Keys, d.Cautions, d.Asks, d.Kit, d.Hard = []string{"Left–right–left, last step longest", "Elbow over ear", "Land on the foot you left"}, []string{"Dry floor, nobody within 2 m of the landing", "Warm shoulders first; after 20 full throws rest the arm"}, []string{"jumping", "overhead"}, []string{"6 balls", "4 cones"}, true
		d.Clearance, d.Chance, d.Fetch = 2, 0.7, 3
		d.Variants = []coach.Variant{{Name: "Walk it", Differs: "no ball, three steps, land", Suits: "Shore"}, {Name: "Fed ball", Differs: "the pass arrives on step two", Suits: "Tide"}}
	}),
	drill("Feint past a screen", "Sell one side, leave on the other.", "Three-metre channels with a screen halfway. Two players start at once.", []string{"feinting", "footwork"}, 2, 3, 6, 6, 9, 8, total(12), coach.AnyHelper, func(d *coach.Drill) {
		d.Keys, d.Cautions, d.Kit = []string{"Sell the first step", "Low, then away"}, []string{"Knees over toes when cutting"}, []string{"4 cones", "2 screens or tall boxes"}
	}),
	drill("Keep-away 3 v 1", "See the free player before the ball comes.", "Boxes of seven metres. The middle changes after a touch.", []string{"passing", "catching", "reading the game"}, 8, 3, 8, 9, 8, 7, streak(8), coach.AnyHelper, func(d *coach.Drill) {
		d.Keys, d.Cautions, d.Kit, d.Hard = []string{"Look before you catch", "Move after you pass"}, []string{"No contact"}, []string{"2 balls", "8 cones"}, true
		d.Approach, d.Practice, d.Form = "game-first", "random", "contest"
	}),
	drill("Catch on the run", "Both hands to the ball while the feet go on.", "Two lines facing, nine metres apart. Run on after the pass.", []string{"catching"}, 2, 4, 8, 8, 10, 6, total(10), coach.AnyHelper, func(d *coach.Drill) {
		d.Warms = []string{"shoulder"}
		d.Variants = []coach.Variant{{Name: "Walking", Differs: "walk on, five metres apart", Suits: "Shore"}, {Name: "Bounce pass", Differs: "the ball comes off the floor", Suits: "Tide"}}
		d.Keys, d.Cautions, d.Kit = []string{"Hands early", "Soft elbows", "Look it in"}, []string{"Keep to the right going back"}, []string{"4 balls"}
	}),
	drill("Corridor defending", "Stay in front without reaching.", "Corridors three metres wide. The attacker tries to cross for 20 s.", []string{"defending"}, 4, 2, 8, 2.5, 9, 7, inTime(20, 20), coach.AnyCoach, func(d *coach.Drill) {
		d.Keys, d.Cautions, d.Hard = []string{"Feet before arms", "Chest to the attacker"}, []string{"Light contact only, as your club allows"}, true
		d.Form = "contest"
	}),
	drill("Dribble the buoys", "The ball stays low and the eyes stay up.", "A slalom of six cones, out and back.", []string{"dribbling"}, 3, 2, 8, 4, 12, 5, total(8), coach.SelfRun, func(d *coach.Drill) {
		d.Variants = []coach.Variant{{Name: "Straight", Differs: "no slalom, walk back", Suits: "Shore"}, {Name: "Weaker hand", Differs: "out with the weaker hand", Suits: "Reef"}}
		d.Keys, d.Kit = []string{"Push, do not slap", "Eyes up"}, []string{"a ball each", "6 cones"}
	}),
	drill("Hoop throws", "From wrist to whole arm, further when it is easy.", "A box as target, hoops at two, three and four metres.", []string{"shooting", "throwing"}, 3, 2, 6, 10, 8, 6, streak(5), coach.SelfRun, func(d *coach.Drill) {
		d.Fire, d.Warms, d.Kit = 2, []string{"shoulder"}, []string{"10 beanbags", "3 boxes", "6 hoops"}
		d.Keys, d.Cautions, d.Asks = []string{"Elbow over ear", "Point at the target"}, []string{"Collect on the signal"}, []string{"overhead"}
		d.Chance = 0.6
	}),
	drill("Statue on one leg", "Stand, then stand while something happens.", "A spot each. Ten seconds a leg, then with a ball from hand to hand.", []string{"balance"}, 8, 1, 12, 4, 6, 5, inTime(10, 10), coach.SelfRun, func(d *coach.Drill) {
		d.Keys = []string{"Eyes on one spot", "Tall hips"}
	}),
	drill("Line hops", "Quick, light feet.", "A line each. Twenty seconds on, forty off.", []string{"footwork"}, 4, 2, 8, 3, 7, 5, inTime(30, 20), coach.SelfRun, func(d *coach.Drill) {
		d.Keys, d.Asks, d.Work, d.Rest, d.Hard = []string{"Light on the toes"}, []string{"jumping"}, 20, 40, true
	}),
	drill("Four-corner passing", "Pass and follow round a square.", "Corners eight metres apart, two balls when it holds.", []string{"passing", "footwork"}, 4, 4, 8, 9, 9, 9, streak(12), coach.AnyHelper, func(d *coach.Drill) {
		d.Practice, d.Kit = "varied", []string{"2 balls", "4 cones"}
		d.Variants = []coach.Variant{{Name: "One ball", Differs: "six metres, one ball", Suits: "Shore"}}
		d.Keys = []string{"Three steps, count them", "Call the name"}
	}),
	drill("Two against one to goal", "Draw the defender, give the ball.", "From the centre to a goal. The defender starts a metre behind.", []string{"reading the game", "shooting"}, 3, 4, 8, 3, 14, 9, total(6), coach.AnyCoach, func(d *coach.Drill) {
		d.Fire, d.NotBefore = 3, []string{"shoulder"}
		d.Approach, d.Form, d.Practice, d.Roles = "game-first", "live", "random", []string{"goalkeeper"}
		d.Cautions, d.Asks = []string{"Nobody behind the goal"}, []string{"overhead"}
	}),
	drill("Basic bounce", "One jump a turn, small and even.", "A rope each, two metres apart.", []string{"rope rhythm"}, 8, 1, 12, 60, 8, 5, inTime(40, 30), coach.SelfRun, func(d *coach.Drill) {
		d.Kit = []string{"a rope each"}
		d.Keys, d.Asks = []string{"Wrists, not arms", "Elbows in"}, []string{"jumping"}
	}),
	drill("Longest run", "How many without a trip?", "A rope each. A trip starts again.", []string{"rope control"}, 6, 1, 12, 60, 8, 5, streak(20), coach.SelfRun, func(d *coach.Drill) {
		d.Keys, d.Asks, d.Chance, d.Fetch = []string{"Small jumps", "Look ahead"}, []string{"jumping"}, 0.95, 3
	}),
	drill("Mirror routine", "Eight counts together, then the next eight.", "Pairs facing each other.", []string{"rope routine"}, 6, 2, 10, 6, 7, 5, total(6), coach.AnyHelper, func(d *coach.Drill) {
		d.Keys, d.Asks = []string{"Count aloud"}, []string{"jumping"}
	}),
	drill("Tag in the shallows", "Warm legs and open eyes.", "Half the hall. Three catchers with bibs, changed each minute.", []string{"movement", "reading the game"}, 20, 6, 30, 6, 14, 9, coach.Target{}, coach.AnyHelper, func(d *coach.Drill) {
		d.Form, d.Kit = "contest", []string{"3 bibs"}
	}),
	drill("Harbour round", "Everybody moving, the ball from hand to hand, then easy throws.", "All along the lines of the hall, a ball for two. Jog, side step, easy throws to the partner on the call.", []string{"movement", "throwing"}, 30, 2, 30, 2, 12, 9, coach.Target{}, coach.SelfRun, func(d *coach.Drill) {
		d.Warms, d.Keys, d.Kit = []string{"shoulder", "ankles"}, []string{"Eyes up", "Easy arm"}, []string{"10 balls"}
		d.Cautions = []string{"Slow first; one direction round the hall"}
	}),
	drill("Tide game", "Space, pass, finish: the game with as many on the floor as there are.", "The whole hall or two halves, goals of benches or cones. Floaters play with whoever has the ball.", []string{"reading the game", "passing", "shooting"}, 14, 6, 24, 3, 14, 9, coach.Target{Kind: coach.Race, N: 7, Against: 7}, coach.AnyHelper, func(d *coach.Drill) {
		d.Approach, d.Practice, d.Form, d.NotBefore = "game-first", "random", "live", []string{"shoulder"}
		d.Cautions, d.Kit = []string{"Light contact only, as your club allows", "Nobody behind the goals"}, []string{"2 balls", "8 bibs"}
	}),
	drill("Rally for two", "Keep it going: catch and throw, one more each time.", "Pairs three metres apart. A rally of one, then two, then three; with a new partner carry on from the higher score.", []string{"catching", "passing"}, 12, 2, 30, 7, 6, 4, coach.Target{Kind: coach.RallyLadder, N: 7}, coach.SelfRun, func(d *coach.Drill) {
		d.Keys, d.Kit, d.Warms, d.Chance = []string{"Hands early", "Soft elbows"}, []string{"10 balls"}, []string{"shoulder"}, 0.85
	}),
	drill("Sprint and rest", "As fast as you can, then a real rest.", "Two lanes of fifteen metres. Ten seconds on, then walk back and wait for the turn.", []string{"speed", "footwork"}, 2, 4, 12, 6, 15, 4, coach.Target{}, coach.AnyHelper, func(d *coach.Drill) {
		d.Work, d.Rest, d.Series, d.Hard, d.NotBefore = 10, 60, 2, true, []string{"ankles"}
		d.Cautions, d.Kit = []string{"Clear run-out of 5 m", "Children are not small adults: few series"}, []string{"4 cones"}
	}),
	drill("Goalkeeper’s star", "Hands and feet to all four corners.", "A goal, a feeder five metres out with a box of soft balls.", []string{"goalkeeping"}, 1, 2, 4, 12, 8, 6, total(20), coach.AnyCoach, func(d *coach.Drill) {
		d.Roles, d.Cautions = []string{"feeder"}, []string{"Soft balls; the keeper says when"}
	}),
	drill("Box jumps and landings", "Land quietly, knees over toes.", "Low boxes and mats.", []string{"landing", "footwork"}, 2, 2, 6, 5, 7, 5, total(8), coach.Qualified, func(d *coach.Drill) {
		d.Asks, d.Cautions, d.Hard = []string{"jumping"}, []string{"Mats, dry floor, qualified coach as the club’s rules say"}, true
	}),
}
