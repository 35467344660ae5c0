package check

import (
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/suggest"
)

// NoTask: a block says nothing of what is done in it.
type NoTask struct{ InBlock }

func (NoTask) Says() string { return "Nothing says what is done. Choose a task, or write it down." }

// asks are the kinds of blocks that want a task, and what for.
var asks = map[doc.Kind]suggest.Use{
	doc.Together: suggest.WarmUp,
	doc.Look:     suggest.Partner,
	doc.Pairs:    suggest.Partner,
	doc.Ladder:   suggest.Parts,
	doc.Game:     suggest.Game,
	doc.Turns:    suggest.AllOut,
	doc.Run:      suggest.Routine,
}

func noTask(c *checking, b work.Span) {
	use, wants := asks[b.Kind]
	if !wants || len(b.Block.Tasks()) > 0 || b.Block.Game != nil || b.Note != "" {
		return
	}
	var mends []Mend
	if b.Kind == doc.Game {
		mends = c.aGame(b)
	} else if d := c.suits(b, use); d != nil && b.Kind.InTurns() {
		mends = append(mends, mend(d.Name, edit.Exercise{Block: b.ID, Add: taskOf(*d)}))
	} else if d != nil {
		mends = append(mends, mend(d.Name, edit.Task{Block: b.ID, Task: taskOf(*d)}))
	}
	mends = append(mends, mend("Take it out", edit.DropBlock{Block: b.ID}))
	c.find(Note, b.From, NoTask{blockOf(b)}, mends...)
}

// aGame offers the best game for this many players on this floor.
func (c *checking) aGame(b work.Span) []Mend {
	in := c.in.Floor.Inside()
	games := rotate.Games(len(c.in.Players), in.Length, in.Width, 1)
	if len(games) == 0 {
		return nil
	}
	return []Mend{mend(say.Upper(games[0].String()), edit.Game{Block: b.ID, Game: games[0]})}
}

// suits is the best drill of the shelf for a block; nil where none is good enough.
func (c *checking) suits(b work.Span, use suggest.Use) *coach.Drill {
	players, room := c.in.Players, c.in.Floor.Inside()
	ask := suggest.For{Use: use, Size: len(players), Players: len(players), Length: room.Length, Width: room.Width}
	for _, l := range c.in.Leaders {
		ask.Leaders = append(ask.Leaders, l.Role)
	}
	for _, s := range suggest.Drills(c.in.Shelf, ask) {
		if s.Score < 15 {
			return nil
		}
		enough := b.Kind == doc.Ladder || b.Kind.InTurns() || b.Kind.Partners() && s.Drill.Least <= 2 || s.Drill.Most >= len(players)
		if enough && !slices.ContainsFunc(players, func(p coach.Player) bool { return c.in.Forbids(p, *s.Drill) != "" }) {
			return s.Drill
		}
	}
	return nil
}
