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

// The club's kit, with something short.
var kit = []coach.Kit{
	{Name: "ball", Count: 24}, {Name: "cone", Count: 30}, {Name: "bib", Count: 12}, {Name: "beanbag", Count: 4}, {Name: "rolled sock", Count: 8, StandsIn: []string{"beanbag"}}, {Name: "screen", Count: 1},
	{Name: "tall box", Count: 2, StandsIn: []string{"screen"}}, {Name: "box", Count: 4}, {Name: "hoop", Count: 8}, {Name: "rope", Count: 16}, {Name: "tape", Count: 3}, {Name: "mat", Count: 6},
}

// notes are what coaches wrote after using a drill.
var notes = []struct{ drill, by, says string }{
	{"Jump-shot approach", "Tomasz", "Too long a queue with six: a second goal, or four at most."},
	{"Jump-shot approach", "Leila", "With the little ones put the last marker at six metres."},
	{"Keep-away 3 v 1", "Ines", "Bibs for the middle. Without them nobody knows who is in."},
	{"Hoop throws", "Kofi", "Rolled socks do as well as beanbags and roll away less."},
	{"Turners and jumper", "Leila", "Put the quickest jumper second, not first."},
}

// stars are the club's favourites.
var stars = []string{"Wall passing", "Jump-shot approach", "Keep-away 3 v 1", "Toss over the rope", "Colour call", "Turners and jumper", "Team of two to twenty"}
