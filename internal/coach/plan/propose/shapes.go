package propose

import (
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/suggest"
)

// SessionShape is a starting plan for a way of running a session.
type Shape struct {
	Key, Name, About string
	Way              deal.Way
	blocks           []part
	families         []coach.Family // that it fits; none: every one
	jobs             int            // so many groups and stations, each for another situation of the game; 0: as fits
}

// part is a block of a shape: minutes of a session of 90, or none for what fills the rest.
type part struct {
	kind    doc.Kind
	title   string
	minutes float64
	use     suggest.Use
	way     rotate.Way
	turn    int
	does    string // what is done where no drill fits
}

// SessionShapes are the ways of running a session that a plan can be proposed in.
var Shapes = []Shape{
	{
		Key:   "circuit",
		Name:  "Station circuit",
		About: "Several tasks at once, groups move on the signal.",
		Way:   deal.Near,
		blocks: []part{
			{kind: doc.Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
			{kind: doc.OneKey, title: "One key", minutes: 5},
			{kind: doc.Stations, title: "Stations", use: suggest.Station},
			{kind: doc.Game, title: "Game", minutes: 22, use: suggest.Game},
			{kind: doc.Close, title: "Close", minutes: 6},
		},
	},
	{
		Key:      "jobs",
		Name:     "Four groups, four jobs",
		About:    "Each group has another part of the game, one of them gets ready; all change on the signal.",
		Way:      deal.Mixed,
		families: playing,
		jobs:     4,
		blocks: []part{
			{kind: doc.Together, title: "Warm-up", minutes: 12, use: suggest.WarmUp},
			{kind: doc.OneKey, title: "One key", minutes: 5},
			{kind: doc.Stations, title: "Jobs", use: suggest.Station},
			{kind: doc.Game, title: "Game", minutes: 16, use: suggest.Game},
			{kind: doc.Close, title: "Close", minutes: 5},
		},
	},
	{
		Key:      "game-key-game",
		Name:     "Game, key, game",
		About:    "A game shows what is missing, one key mends it, the game again.",
		Way:      deal.Mixed,
		families: playing,
		blocks: []part{
			{kind: doc.Together, title: "Warm-up", minutes: 8, use: suggest.WarmUp},
			{kind: doc.Look, title: "First look", minutes: 9, way: rotate.MoveOn, turn: 45},
			{kind: doc.Game, title: "First game", minutes: 14, use: suggest.Game},
			{kind: doc.OneKey, title: "One key", minutes: 6},
			{kind: doc.Stations, title: "Practice", use: suggest.Station},
			{kind: doc.Game, title: "Game again", minutes: 20, use: suggest.Game},
			{kind: doc.Close, title: "Close", minutes: 5},
		},
	},
	{
		Key:   "ladder",
		Name:  "Mastery ladder",
		About: "One task after another; nobody moves on until it holds.",
		Way:   deal.Mixed,
		blocks: []part{
			{kind: doc.Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
			{kind: doc.OneKey, title: "One key", minutes: 5},
			{kind: doc.Ladder, title: "Mastery ladder", use: suggest.Parts},
			{kind: doc.Game, title: "Game", minutes: 20, use: suggest.Game},
			{kind: doc.Close, title: "Close", minutes: 6},
		},
	},
	{
		Key:      "parts",
		Name:     "Parts to whole to race",
		About:    "Pieces by themselves, then joined up, then against each other.",
		Way:      deal.Mixed,
		families: []coach.Family{coach.BallGames, coach.NetGames, coach.Athletics},
		blocks: []part{
			{kind: doc.Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
			{kind: doc.Stations, title: "Parts", use: suggest.Parts},
			{kind: doc.Together, title: "The whole", minutes: 12, use: suggest.Station, does: theWhole},
			{kind: doc.Pairs, title: "Race", minutes: 14, use: suggest.Contest, way: rotate.WinnerStays, turn: 120},
			{kind: doc.Close, title: "Close", minutes: 5},
		},
	},
	{
		Key:   "intervals",
		Name:  "All-out intervals",
		About: "Short, as fast as can be, with full rest between.",
		Way:   deal.Near,
		blocks: []part{
			{kind: doc.Together, title: "Warm-up", minutes: 14, use: suggest.WarmUp},
			{kind: doc.Turns, title: "Intervals", minutes: 24, use: suggest.AllOut},
			{kind: doc.Break, title: "Drink break", minutes: 4},
			{kind: doc.Stations, title: "Skill, at ease", use: suggest.Station},
			{kind: doc.Game, title: "Easy game", minutes: 12, use: suggest.Game},
			{kind: doc.Close, title: "Close", minutes: 6},
		},
	},
	{
		Key:      "routine",
		Name:     "Routine run-through",
		About:    "The lead judges one station while the others practise.",
		Way:      deal.Near,
		families: []coach.Family{coach.Apparatus},
		blocks: []part{
			{kind: doc.Together, title: "Warm-up", minutes: 12, use: suggest.WarmUp},
			{kind: doc.Stations, title: "Stations, one judged", use: suggest.Station},
			{kind: doc.Run, title: "Run-through", minutes: 15, use: suggest.Routine},
			{kind: doc.Close, title: "Close", minutes: 6},
		},
	},
	{
		Key:      "pairs",
		Name:     "Pairs practice, live point at the end",
		About:    "Partners who change, from working together to playing against.",
		Way:      deal.Mixed,
		families: playing,
		blocks: []part{
			{kind: doc.Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
			{kind: doc.Look, title: "First look", minutes: 9, way: rotate.MoveOn, turn: 45},
			{kind: doc.OneKey, title: "One key", minutes: 5},
			{kind: doc.Pairs, title: "With a partner", minutes: 14, use: suggest.Partner, way: rotate.Fewest, turn: 180},
			{kind: doc.Pairs, title: "Faster, with others", minutes: 14, use: suggest.Partner, way: rotate.Fewest, turn: 120},
			{kind: doc.Pairs, title: "Near in level", use: suggest.Partner, way: rotate.ByLevel, turn: 120},
			{kind: doc.Pairs, title: "Live point", minutes: 15, use: suggest.Contest, way: rotate.OneStays, turn: 90},
			{kind: doc.Close, title: "Close", minutes: 5},
		},
	},
}

const theWhole = "The pieces joined up, slowly first; then as fast as it holds."

var playing = []coach.Family{coach.BallGames, coach.NetGames}

// ShapesOf are the session shapes that fit a family of sports; all of them where the family is not known. Where nobody
// plays against each other, what would be a game is what that family ends in.
func ShapesOf(f coach.Family) (out []Shape) {
	for _, s := range Shapes {
		if f != "" && s.families != nil && !slices.Contains(s.families, f) {
			continue
		}
		if !f.Plays() {
			s.blocks = slices.Clone(s.blocks)
			for i, b := range s.blocks {
				if b.kind == doc.Game {
					title, does := f.Finish()
					s.blocks[i] = part{kind: doc.Together, title: title, minutes: b.minutes, use: suggest.Station, does: does}
				}
			}
		}
		out = append(out, s)
	}
	return out
}

// ShapeOf is the family's session shape of that key, or its first.
func ShapeOf(key string, f coach.Family) Shape {
	shapes := ShapesOf(f)
	for _, s := range shapes {
		if s.Key == key {
			return s
		}
	}
	return shapes[0]
}

// stationsUse is what drills have to be good for at the shape's stations.
func (s Shape) stationsUse() suggest.Use {
	for _, b := range s.blocks {
		if b.kind == doc.Stations {
			return b.use
		}
	}
	return suggest.Station
}
