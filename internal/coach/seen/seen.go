// Package seen says who was seen on an evening, and by whom. Every screen that speaks of it asks here; the phone's
// seen.js is held to the same evenings in testdata/seen.json.
package seen

import (
	"slices"
	"strconv"
	"strings"
)

// Evening is what was done in a session that may say that somebody was seen.
type Evening struct {
	Session  string   `json:"session"`
	Marks    []Mark   `json:"marks"`
	Tallies  []Tally  `json:"tallies"`
	Keys     []Word   `json:"keys"`
	Feedback []Word   `json:"feedback"`
	Looked   []Word   `json:"looked"`
	Points   []Point  `json:"points"`
	Climbs   []Step   `json:"climbs"`
	Ladders  []Ladder `json:"ladders"`
}

// Mark is a mark, struck out or not.
type Mark struct {
	Player string `json:"player"`
	By     string `json:"by"`
	Struck bool   `json:"struck"`
}

// Tally is a series of a player's own, begun or done.
type Tally struct {
	Player string `json:"player"`
	By     string `json:"by"`
	Tries  string `json:"tries"`
}

// Word is something said of a player, or to one: a key they have or lack, feedback, a first look. Of a group there is no
// player; of another evening there is another session.
type Word struct {
	Player  string `json:"player"`
	By      string `json:"by"`
	Session string `json:"session"`
}

// Point is a try of a pair, a team or a unit of a ladder. Whose are the ids of a pair, "team", "u2", or the
// sides of a game, "s0 s1"; Player is whose
// turn it was in a team.
type Point struct {
	Place  int    `json:"place"`
	Whose  string `json:"whose"`
	Player string `json:"player"`
	By     string `json:"by"`
	Undone bool   `json:"undone"`
}

// Step is a unit's step on a ladder; Player is who climbs alone, or the first of a pair.
type Step struct {
	Block  int    `json:"block"`
	Unit   int    `json:"unit"`
	Player string `json:"player"`
	By     string `json:"by"`
}

// Ladder is a block with those who climb together.
type Ladder struct {
	Block int    `json:"block"`
	Units []Unit `json:"units"`
}

// Unit is a group, a pair or a player on a ladder.
type Unit struct {
	Unit    int      `json:"unit"`
	Player  string   `json:"player"`
	Players []string `json:"players"`
}

// Beside is what the place of what everybody does in a block is set off by; stations come before it.
const Beside = 100

// By is who has seen each player: whoever marked them, counted a try of theirs or of their pair or team, put them on a
// step of a ladder, looked at them in the first look, said that they have or lack a key, or told them something. Standing
// at a station where they are is not seeing them; what was struck out or taken back was not seen.
func By(e Evening) map[string][]string {
	out := map[string][]string{}
	saw := func(by string, players ...string) {
		for _, p := range players {
			if p != "" && !slices.Contains(out[p], by) {
				out[p] = append(out[p], by)
			}
		}
	}
	for _, m := range e.Marks {
		if !m.Struck {
			saw(m.By, m.Player)
		}
	}
	for _, t := range e.Tallies {
		if t.Tries != "" {
			saw(t.By, t.Player)
		}
	}
	for _, words := range [][]Word{e.Keys, e.Feedback, e.Looked} {
		for _, w := range words {
			if w.Session == e.Session {
				saw(w.By, w.Player)
			}
		}
	}
	for _, p := range e.Points {
		if !p.Undone {
			saw(p.By, e.whose(p)...)
		}
	}
	for _, k := range e.Climbs {
		saw(k.By, e.unit(k.Block, k.Unit, k.Player)...)
	}
	return out
}

// whose are the players of whom a try was counted: both of a pair, and whose turn it was in a team.
func (e Evening) whose(p Point) []string {
	if p.Whose == "team" {
		return []string{p.Player}
	}
	if n, isUnit := strings.CutPrefix(p.Whose, "u"); isUnit {
		if unit, err := strconv.Atoi(n); err == nil {
			return e.unit(p.Place-Beside, unit, "")
		}
	}
	if n, ofSides := strings.CutPrefix(p.Whose, "s"); ofSides && strings.Trim(n[:min(1, len(n))], "0123456789") == "" {
		return nil // of a game; whoever counts goals has not looked at each who plays
	}
	ids := strings.Fields(p.Whose)
	if len(ids) == 1 { // who climbs alone, or the first of a pair
		return e.unit(p.Place-Beside, 0, ids[0])
	}
	return ids
}

// unit are the players who climb a block's ladder together.
func (e Evening) unit(block, unit int, player string) []string {
	for _, l := range e.Ladders {
		for _, u := range l.Units {
			if l.Block == block && u.Unit == unit && u.Player == player {
				return u.Players
			}
		}
	}
	return []string{player}
}
