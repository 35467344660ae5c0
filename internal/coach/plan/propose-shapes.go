package plan

import (
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/suggest"
)

// SessionShape is a starting plan for a way of running a session.
type SessionShape struct {
	Key, Name, About string
	Way              deal.Way
	blocks           []part
	families         []coach.Family // that it fits; none: every one
}

// part is a block of a shape: minutes of a session of 90, or none for what fills the rest.
type part struct {
	kind    Kind
	title   string
	minutes float64
	use     suggest.Use
	way     rotate.Way
	turn    int
}

// SessionShapes are the ways of running a session that a plan can be proposed in.
var SessionShapes = []SessionShape{
	{Key: "circuit", Name: "Station circuit", About: "Several tasks at once, groups move on the signal.", Way: deal.Near, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
		{kind: OneKey, title: "One key", minutes: 5},
		{kind: Circuit, title: "Stations", use: suggest.Station},
		{kind: Game, title: "Game", minutes: 22, use: suggest.Game},
		{kind: Close, title: "Close", minutes: 6},
	}},
	{Key: "game-key-game", Name: "Game, key, game", About: "A game shows what is missing, one key mends it, the game again.", Way: deal.Mixed, families: playing, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 8, use: suggest.WarmUp},
		{kind: Look, title: "First look", minutes: 9, way: rotate.MoveOn, turn: 45},
		{kind: Game, title: "First game", minutes: 14, use: suggest.Game},
		{kind: OneKey, title: "One key", minutes: 6},
		{kind: Circuit, title: "Practice", use: suggest.Station},
		{kind: Game, title: "Game again", minutes: 20, use: suggest.Game},
		{kind: Close, title: "Close", minutes: 5},
	}},
	{Key: "ladder", Name: "Mastery ladder", About: "One task after another; nobody moves on until it holds.", Way: deal.Mixed, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
		{kind: OneKey, title: "One key", minutes: 5},
		{kind: Ladder, title: "Mastery ladder", use: suggest.Parts},
		{kind: Game, title: "Game", minutes: 20, use: suggest.Game},
		{kind: Close, title: "Close", minutes: 6},
	}},
	{Key: "parts", Name: "Parts to whole to race", About: "Pieces by themselves, then joined up, then against each other.", Way: deal.Mixed, families: []coach.Family{coach.BallGames, coach.NetGames, coach.Athletics}, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
		{kind: Circuit, title: "Parts", use: suggest.Parts},
		{kind: Together, title: "The whole", minutes: 12, use: suggest.Station},
		{kind: Pairs, title: "Race", minutes: 14, way: rotate.WinnerStays, turn: 120},
		{kind: Close, title: "Close", minutes: 5},
	}},
	{Key: "intervals", Name: "All-out intervals", About: "Short, as fast as can be, with full rest between.", Way: deal.Near, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 15, use: suggest.WarmUp},
		{kind: Circuit, title: "Intervals", use: suggest.AllOut},
		{kind: Break, title: "Drink break", minutes: 4},
		{kind: Game, title: "Easy game", minutes: 12, use: suggest.Game},
		{kind: Close, title: "Close", minutes: 8},
	}},
	{Key: "routine", Name: "Routine run-through", About: "The lead judges one station while the others practise.", Way: deal.Near, families: []coach.Family{coach.Apparatus}, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 12, use: suggest.WarmUp},
		{kind: Circuit, title: "Stations, one judged", use: suggest.Station},
		{kind: Together, title: "Run-through", minutes: 15, use: suggest.Station},
		{kind: Close, title: "Close", minutes: 6},
	}},
	{Key: "pairs", Name: "Pairs practice, live point at the end", About: "Partners who change, from working together to playing against.", Way: deal.Mixed, families: playing, blocks: []part{
		{kind: Together, title: "Warm-up", minutes: 10, use: suggest.WarmUp},
		{kind: Look, title: "First look", minutes: 9, way: rotate.MoveOn, turn: 45},
		{kind: OneKey, title: "One key", minutes: 5},
		{kind: Pairs, title: "With a partner", use: suggest.Partner, way: rotate.Fewest, turn: 180},
		{kind: Pairs, title: "Live point", minutes: 15, way: rotate.OneStays, turn: 90},
		{kind: Close, title: "Close", minutes: 5},
	}},
}

var playing = []coach.Family{coach.BallGames, coach.NetGames}

// ShapesOf are the session shapes that fit a family of sports; all of them where the family is not known. Where nobody plays against each other, what
// would be a game is what that family ends in.
func ShapesOf(f coach.Family) (out []SessionShape) {
	for _, s := range SessionShapes {
		if f != "" && s.families != nil && !slices.Contains(s.families, f) {
			continue
		}
		if !f.Plays() {
			s.blocks = slices.Clone(s.blocks)
			for i, b := range s.blocks {
				if b.kind == Game {
					s.blocks[i] = part{kind: Together, title: f.Finish(), minutes: b.minutes, use: suggest.Station}
				}
			}
		}
		out = append(out, s)
	}
	return out
}

// ShapeOf is the family's session shape of that key, or its first.
func ShapeOf(key string, f coach.Family) SessionShape {
	shapes := ShapesOf(f)
	for _, s := range shapes {
		if s.Key == key {
			return s
		}
	}
	return shapes[0]
}
