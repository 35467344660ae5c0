package app

import (
	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/seen"
	"gruppo/internal/store"
)

// SeenBy is who was seen in a session and by whom, by player, from all that came in from its hall.
func (l *Loaded) SeenBy(h store.Hall, marks []coach.Mark) map[string][]string {
	e := seen.Evening{Session: l.Session.ID}
	for _, m := range marks {
		e.Marks = append(e.Marks, seen.Mark{Player: m.PlayerID, By: m.By, Struck: m.Struck})
	}
	for _, t := range h.Tallies {
		e.Tallies = append(e.Tallies, seen.Tally{Player: t.Player, By: t.By, Tries: t.Tries})
	}
	for _, k := range h.Keys {
		e.Keys = append(e.Keys, seen.Word{Player: k.Player, By: k.By, Session: k.Session})
	}
	for _, f := range h.Feedback {
		e.Feedback = append(e.Feedback, seen.Word{Player: f.Player, By: f.By, Session: e.Session})
	}
	for _, k := range h.Looked {
		e.Looked = append(e.Looked, seen.Word{Player: k.Player, By: k.By, Session: e.Session})
	}
	for _, p := range h.Points {
		e.Points = append(e.Points, seen.Point{Place: p.Place, Whose: p.Whose, Player: p.Player, By: p.By, Undone: p.Undone})
	}
	for _, k := range h.Climbs {
		e.Climbs = append(e.Climbs, seen.Step{Block: k.Block, Unit: k.Unit, Player: k.Player, By: k.By})
	}
	for _, b := range l.Picture.Blocks {
		if b.Kind != doc.Ladder {
			continue
		}
		ladder := seen.Ladder{Block: b.Index}
		for _, c := range l.Input.Climbers(b) {
			u := seen.Unit{Unit: c.Unit, Player: c.Lead}
			for _, p := range c.Players {
				u.Players = append(u.Players, p.ID)
			}
			ladder.Units = append(ladder.Units, u)
		}
		e.Ladders = append(e.Ladders, ladder)
	}
	return seen.By(e)
}
