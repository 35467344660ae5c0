package doc

import (
	"math"
	"slices"

	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
)

// Most stations, and most groups of a deal, that a plan can have: there are eight group shapes.
const Most = 8

// Limits of a plan document, so that one from a file stays within reason.
const (
	MostBlocks  = 24
	MostTeam    = 6
	MostTurns   = 60  // of a partner block
	MostMade    = 120 // players with a score in a turn, or with a task of their own
	MostEdition = 1e6
	MostScore   = 999 // of a player in a turn
	MostAreas   = 8   // of a game
	MostName    = 40  // letters of a unit's name
	MostDeals   = 6
)

func between(n, low, high int) bool { return n >= low && n <= high }

// Check says what cannot be in a plan document at all, whatever wrote it: the first thing found, or nil.
func (p Plan) Check() error {
	switch {
	case len(p.Deals) == 0 || len(p.Deals) > MostDeals:
		return Input("", "A plan has 1 to %d ways of dealing its players.", MostDeals)
	case len(p.Stations()) > Most:
		return Input("", "A plan has at most %d stations.", Most)
	case len(p.Blocks) > MostBlocks:
		return Input("", "A plan has at most %d blocks.", MostBlocks)
	case len(p.Gives) > len(Kinds) || len(p.Pinned) > 8 || len(p.Why) > 8:
		return Input("", "The plan says more about its pins or order of giving than there can be.")
	case len([]rune(p.Key)) > 200:
		return Input("key", "A key is a few words; these are %d letters.", len([]rune(p.Key)))
	}
	for _, t := range p.Tasks() {
		if !between(t.Edition, 1, MostEdition) {
			return Input("", "There is no edition %d of a drill.", t.Edition)
		}
	}
	for _, d := range p.Deals {
		if err := d.check(); err != nil {
			return err
		}
	}
	for i, b := range p.Blocks {
		if err := b.check(i + 1); err != nil {
			return err
		}
		if err := p.checkCircuit(b, i+1); err != nil {
			return err
		}
	}
	for i, s := range p.Stations() {
		if !between(s.Target, 0, 500) {
			return Input("", "Station %d: a target is 1 to 500.", i+1)
		}
		for key, n := range s.Aims {
			if !IsGroupKey(key) || !between(n, 1, 500) {
				return Input("", "Station %d: a target of a group is 1 to 500.", i+1)
			}
		}
		for key := range s.Own {
			if !IsGroupKey(key) {
				return Input("", "Station %d: %q is no group.", i+1, key)
			}
		}
		if s.Spot != nil && !SoundSpot(*s.Spot) {
			return Input("", "Station %d: its place is not on any floor.", i+1)
		}
	}
	return p.checkIDs()
}

func (d Deal) check() error {
	switch {
	case !d.Way.Known():
		return Input("way", "The way of dealing %q is not known.", d.Way)
	case !between(d.Groups, 1, Most) || len(d.Players) > Most:
		return Input("groups", "A plan has 1 to %d groups.", Most)
	case len(d.Names) > Most || slices.ContainsFunc(d.Names, func(n string) bool { return len([]rune(n)) > MostName }):
		return Input("unit", "The name of a unit has at most %d letters.", MostName)
	case len(d.Positions) > 20:
		return Input("positions", "At most 20 positions are kept together.")
	}
	seen := map[string]bool{}
	for _, g := range d.Players {
		for _, id := range g {
			if seen[id] {
				return Input("", "A player is in two groups at once.")
			}
			seen[id] = true
		}
	}
	return nil
}

func (b Block) check(n int) error {
	if b.Kind.String() == "" {
		return Input("", "Block %d: the kind %q is not known.", n, b.Kind)
	}
	if len([]rune(b.Title)) > 120 || len([]rune(b.Note)) > 2000 || len(b.Side) > MostMade {
		return Input("", "Block %d: a name is at most 120 letters, a note 2000.", n)
	}
	minutes := between(b.Minutes, 1, 240) || b.Kind == Stations && between(b.Minutes, 0, 1<<30)
	turns := between(b.Turn, 0, 1800) && (b.Team == 0 || between(b.Team, 2, MostTeam)) && len(b.Scores) <= MostTurns
	if !minutes || !turns || !between(b.Rounds, 0, 24) || len(b.Steps) > MostSteps || b.Climb.String() == "" {
		return Input(
			"",
			"Block %d: 1 to 240 minutes, turns of at most 30 min, teams of 2 to %d, at most %d steps.",
			n,
			MostTeam,
			MostSteps,
		)
	}
	if !between(b.Target, 0, 500) {
		return Input("", "Block %d: a target is 1 to 500.", n)
	}
	if b.Way != "" && !slices.Contains(rotate.Ways, b.Way) {
		return Input("", "Block %d: partners cannot change by %q.", n, b.Way)
	}
	if b.Kind.InTurns() != (b.Intervals != nil) || b.Intervals != nil && !b.Intervals.check() {
		return Input("", "Block %d: its work, rest and turns are none that can be taken.", n)
	}
	if b.Game != nil && !soundGame(*b.Game) {
		return Input("", "Block %d: that game cannot be played.", n)
	}
	if b.Pairing != nil && !b.Pairing.sound() {
		return Input("", "Block %d: its partners cannot play like that.", n)
	}
	if b.Teams != nil && len(b.Teams.Put) > MostMade {
		return Input("", "Block %d: so many players cannot be put on sides.", n)
	}
	for _, turn := range b.Scores {
		if !turn.sound() {
			return Input("", "Block %d: scores are 0 to %d.", n, MostScore)
		}
	}
	return nil
}

// checkCircuit: a block of stations holds them, or goes on with one before it that does.
func (p Plan) checkCircuit(b Block, n int) error {
	c := b.Circuit
	if b.Kind != Stations {
		if c != nil || b.After != "" {
			return Input("", "Block %d: only a block of stations has stations.", n)
		}
		return nil
	}
	if c == nil {
		if i := slices.IndexFunc(p.Blocks[:n-1], func(o Block) bool { return o.ID == b.After }); i < 0 ||
			p.Blocks[i].Circuit == nil {
			return Input("", "Block %d: the stations it goes on with do not come before it.", n)
		}
		return nil
	}
	if !between(c.Work, 30, 3600) || !between(c.Change, 0, 600) || !between(c.Brief, 0, 1800) ||
		!between(c.Rounds, 0, 24) {
		return Input(
			"",
			"Work is 30 s to an hour, a change at most 10 min, explaining at most 30 min, and there are at most 24 rounds.",
		)
	}
	if len(c.With) > Most {
		return Input("", "Block %d: it says more about its leaders than there can be.", n)
	}
	if c.Deal != "" && !slices.ContainsFunc(p.Deals, func(d Deal) bool { return d.ID == c.Deal }) {
		return Input("", "Block %d: its players are not dealt in any way of the plan.", n)
	}
	return nil
}

// checkIDs: everything has an id of its own, short enough for an address.
func (p Plan) checkIDs() error {
	seen := map[string]bool{}
	take := func(id string) bool {
		ok := id != "" && len(id) <= 40 && !seen[id]
		seen[id] = true
		return ok
	}
	ok := true
	for _, d := range p.Deals {
		ok = take("deal "+d.ID) && d.ID != "" && ok
	}
	for _, b := range p.Blocks {
		ok = take("block "+b.ID) && b.ID != "" && ok
	}
	for _, s := range p.Stations() {
		ok = take("station "+s.ID) && s.ID != "" && ok
	}
	if !ok {
		return Input("", "Two parts of the plan have the same id, or one has none.")
	}
	return nil
}

func soundGame(g rotate.Game) bool {
	players := between(g.A, 1, 30) && between(g.B, 0, 30) && between(g.Reserves, 0, 30) && between(g.More, 0, 8)
	size := g.Length == 0 && g.Width == 0 || g.Length >= 1 && g.Length <= 200 && g.Width >= 1 && g.Width <= 200
	defends := g.Defends == rotate.Active || g.Defends.String() != ""
	return size && defends && between(g.Goals, 0, 8) && players && between(g.Areas, 1, MostAreas) && between(g.Touches, 0, 9) && between(g.Swap, 0, 1800) && between(g.Floaters, 0, 10) && between(g.Walls, 0, 10) &&
		!math.IsNaN(g.MetresEach)
}

// SoundSpot reports whether a spot can be on any floor: 1 m to 200 m long and wide, turned by quarters.
func SoundSpot(s floor.Spot) bool {
	for _, m := range []float64{s.X, s.Y, s.Length, s.Width} {
		if math.IsNaN(m) || math.Abs(m) > 200 {
			return false
		}
	}
	return s.Length >= 1 && s.Width >= 1 && (s.Turn == 0 || s.Turn == 90 || s.Turn == 180 || s.Turn == 270)
}
