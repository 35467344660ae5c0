// Package doc is the plan document: what is kept of a session's plan, as one small JSON document. A block owns what it
// holds; everything else is worked out. Blocks, stations and deals have ids, so that a score, a pin, an edit or a
// finding points at a thing and not at a place in a list.
package doc

import (
	"fmt"
	"maps"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/rotate"
)

// Version of the document that is written. The first is read and lifted (lift.go).
const Version = 2

// Plan is a session's plan. Its zero value has no block and no deal; Start makes one to begin with.
type Plan struct {
	Version int               `json:"version"`
	Shape   string            `json:"shape,omitempty"` // the session shape it was proposed in
	Aim     Aim               `json:"aim,omitzero"`
	Seed    uint64            `json:"seed"`
	Key     string            `json:"key"` // the one coaching point of the day
	Deals   []Deal            `json:"deals"`
	Blocks  []Block           `json:"blocks"`
	Gives   []Kind            `json:"gives,omitempty"`  // what gives first when time is short
	Pinned  []string          `json:"pinned,omitempty"` // deal, leaders, floor, time
	Why     map[string]string `json:"why,omitempty"`    // reasons of a proposal: shape, deal, leaders, time
}

// Aim is what a session is for: a skill, a criterion of the ladder, what the players lack, only what their stage asks
// for (clean), or what the next stage begins with, for those who are ready (ahead).
type Aim struct {
	Kind  string `json:"kind,omitempty"`  // skill, criterion, lack, clean or ahead
	Value string `json:"value,omitempty"` // the skill's name or the criterion's id
}

// Deal is one way in which the players are put into groups. A plan has at least one.
type Deal struct {
	ID        string     `json:"id"`
	Way       deal.Way   `json:"way"`
	Groups    int        `json:"groups"`
	Players   [][]string `json:"players"`             // ids, a list for each group; none: to be dealt
	Positions []string   `json:"positions,omitempty"` // whose players stay in one group
	Names     []string   `json:"names,omitempty"`     // of units; a group without one is called by its shape
}

// Block is a stretch of the session. The minutes of stations follow from their rounds.
type Block struct {
	ID      string `json:"id"`
	Kind    Kind   `json:"kind"`
	Title   string `json:"title"`
	Minutes int    `json:"minutes"`
	Note    string `json:"note,omitempty"`

	Circuit *Circuit `json:"circuit,omitempty"` // stations: what the block holds
	After   string   `json:"after,omitempty"`   // stations: or the block whose rounds it goes on with
	Rounds  int      `json:"rounds,omitempty"`  // stations: how many of the rounds are in this block; 0: the rest

	Drill   string       `json:"drill,omitempty"` // its task, in the edition it was planned with
	Edition int          `json:"edition,omitempty"`
	Target  int          `json:"target,omitempty"`  // instead of the task's own number
	Steps   []Task       `json:"steps,omitempty"`   // ladder: one after the other
	Climb   Climb        `json:"climb,omitempty"`   // ladder: who climbs together
	Way     rotate.Way   `json:"way,omitempty"`     // partners: how they change
	Turn    int          `json:"turn,omitempty"`    // partners: seconds of a turn, the change included
	Team    int          `json:"team,omitempty"`    // partners: players together, 2 unless set
	Scores  []Made       `json:"scores,omitempty"`  // partners: what was made, turn by turn
	Pairing *Pairing     `json:"pairing,omitempty"` // partners: how they play
	Game    *rotate.Game `json:"game,omitempty"`

	Teams     *Teams     `json:"teams,omitempty"`     // game: how its sides are dealt
	Intervals *Intervals `json:"intervals,omitempty"` // intervals: what the block holds

	Side map[string]Task `json:"side,omitempty"` // players who do something else meanwhile; an empty task sits out

	Pinned bool   `json:"pinned,omitempty"`
	Why    string `json:"why,omitempty"`
}

// Teams is how the players of a game are dealt into sides; its zero value deals them evenly.
type Teams struct {
	Seed uint64         `json:"seed,omitempty"` // "deal again" is the next
	Put  map[string]int `json:"put,omitempty"`  // players on the side that a coach chose, from 0 over all areas
}

// Circuit is what a block of stations holds: the stations, their rounds, who comes and who leads.
type Circuit struct {
	Stations []Station `json:"stations"`
	Work     int       `json:"work"`                   // seconds of a round
	Change   int       `json:"change"`                 // seconds between rounds; 0: worked out from the walk
	Brief    int       `json:"brief"`                  // seconds of explanation before the first round
	Rounds   int       `json:"rounds"`                 // 0: until everyone was everywhere
	Deal     string    `json:"deal,omitempty"`         // which deal of the players; empty: the plan's first
	Move     bool      `json:"leaders_move,omitempty"` // leaders go with a group, not with a station
	With     []string  `json:"leaders_with,omitempty"` // then: who goes with each group
}

// Task is a drill in an edition.
type Task struct {
	Drill   string `json:"drill"`
	Edition int    `json:"edition"`
}

// Station is a drill, in the edition it was planned with, and who stands there.
type Station struct {
	ID      string            `json:"id"`
	Drill   string            `json:"drill"`
	Edition int               `json:"edition"`
	Leader  string            `json:"leader"`             // member id; empty: runs itself
	Target  int               `json:"target,omitempty"`   // instead of the drill's own number
	Aims    map[string]int    `json:"aims,omitempty"`     // for a GroupKey another number than that of the form it does
	Spot    *floor.Spot       `json:"spot,omitempty"`     // where the coach put it; nil: laid out
	Variant map[string]string `json:"variants,omitempty"` // for a stage's name another variant than the one that suits it; "-" for the drill as it is
	Own     map[string]Task   `json:"own,omitempty"`      // for a GroupKey another task; an empty one: the group skips the place
	Double  bool              `json:"double,omitempty"`   // two groups may come at once
	Side    map[string]Task   `json:"side,omitempty"`     // players who do something else there; an empty task sits out
	Pinned  bool              `json:"pinned,omitempty"`
	Why     string            `json:"why,omitempty"`
}

// Start is the plan a session begins with, to fill the booked time: a warm-up, stations, a game and a close.
func Start(booked time.Duration, f coach.Family) Plan {
	m := int(booked.Minutes())
	stations := Block{Kind: Stations, Title: "Stations", Circuit: &Circuit{Work: 6 * 60, Brief: 120}}
	p := Plan{Deals: []Deal{{ID: "d1", Way: deal.Near, Groups: 3}}}
	if m < 60 {
		stations.Circuit.Work = 4 * 60
		p.Blocks = []Block{
			{Kind: Together, Title: "Warm-up", Minutes: 8},
			stations,
			{Kind: Close, Title: "Close", Minutes: 4},
		}
		p.Name()
		return p
	}
	title, does := f.Finish()
	finish := Block{Kind: Game, Title: title, Note: does, Minutes: max(10, (m-60)/2+10)}
	if !f.Plays() {
		finish.Kind = Together
	}
	p.Blocks = []Block{
		{Kind: Together, Title: "Warm-up", Minutes: 10},
		{Kind: OneKey, Title: "One key", Minutes: 5},
		stations,
		finish,
		{Kind: Close, Title: "Close", Minutes: 5},
	}
	p.Name()
	return p
}

// Name gives an id to every block, station and deal that has none: the next after the plan's highest.
func (p *Plan) Name() {
	p.Version = Version
	next := func(letter string, ids []string) func() string {
		highest := 0
		for _, id := range ids {
			var n int
			if _, err := fmt.Sscanf(id, letter+"%d", &n); err == nil {
				highest = max(highest, n)
			}
		}
		return func() string { highest++; return fmt.Sprint(letter, highest) }
	}
	var blocks, stations, deals []string
	for _, b := range p.Blocks {
		blocks = append(blocks, b.ID)
	}
	for _, s := range p.Stations() {
		stations = append(stations, s.ID)
	}
	for _, d := range p.Deals {
		deals = append(deals, d.ID)
	}
	block, station, dealt := next("b", blocks), next("s", stations), next("d", deals)
	for i := range p.Blocks {
		if p.Blocks[i].ID == "" {
			p.Blocks[i].ID = block()
		}
		if c := p.Blocks[i].Circuit; c != nil {
			for j := range c.Stations {
				if c.Stations[j].ID == "" {
					c.Stations[j].ID = station()
				}
			}
		}
	}
	for i := range p.Deals {
		if p.Deals[i].ID == "" {
			p.Deals[i].ID = dealt()
		}
	}
}

// Stations lists the stations of all blocks, in the order of the session.
func (p Plan) Stations() (out []Station) {
	for _, b := range p.Blocks {
		if b.Circuit != nil {
			out = append(out, b.Circuit.Stations...)
		}
	}
	return out
}

// Circuits lists what the blocks of stations hold, in the order of the session. They are the plan's own: what is
// changed in them is changed in it.
func (p Plan) Circuits() (out []*Circuit) {
	for _, b := range p.Blocks {
		if b.Circuit != nil {
			out = append(out, b.Circuit)
		}
	}
	return out
}

// First is the first circuit; an empty one, of its own, where the plan has none.
func (p Plan) First() *Circuit {
	for _, c := range p.Circuits() {
		return c
	}
	return &Circuit{}
}

// Block finds a block by its id; nil where it is gone. It is the plan's own.
func (p Plan) Block(id string) *Block {
	for i := range p.Blocks {
		if p.Blocks[i].ID == id {
			return &p.Blocks[i]
		}
	}
	return nil
}

// Station finds a station by its id, and the circuit it is in; nil where it is gone. Both are the plan's own.
func (p Plan) Station(id string) (*Station, *Circuit) {
	for _, c := range p.Circuits() {
		for i := range c.Stations {
			if c.Stations[i].ID == id {
				return &c.Stations[i], c
			}
		}
	}
	return nil, nil
}

// DealOf is the deal that a circuit uses: the plan's own, or an empty one where the plan has none.
func (p Plan) DealOf(c *Circuit) *Deal {
	for i := range p.Deals {
		if c.Deal == "" || p.Deals[i].ID == c.Deal {
			return &p.Deals[i]
		}
	}
	return &Deal{}
}

// AnotherDay lets go of what belongs to the day a plan was run on: what was made, whom the coach put on which side, and
// the word that these players may work all-out.
func (p *Plan) AnotherDay() {
	for i := range p.Blocks {
		b := &p.Blocks[i]
		b.Scores, b.Teams = nil, nil
		if b.Pairing != nil {
			b.Pairing.Chosen = nil
		}
		if b.Intervals != nil {
			b.Intervals.Allowed = false
		}
	}
}

// CopyOf says of which day's plan it is a copy. What that was for is not what this day is for: until something is
// proposed, or chosen, that is the theme of its day.
func (p *Plan) CopyOf(day string) {
	p.Aim, p.Why = Aim{}, map[string]string{"copy": "A copy of the plan of " + day + "."}
}

// Grow lets intervals grow that do so from one session to the next.
func (p *Plan) Grow() {
	for _, b := range p.Blocks {
		if b.Intervals != nil {
			b.Intervals.Grow()
		}
	}
}

// Leads reports whether somebody stands at a station or goes with a group.
func (p Plan) Leads(who string) bool {
	for _, c := range p.Circuits() {
		if c.Move && slices.Contains(c.With, who) {
			return true
		}
		if !c.Move && slices.ContainsFunc(c.Stations, func(s Station) bool { return s.Leader == who }) {
			return true
		}
	}
	return false
}

// Clone is a copy that shares nothing with the plan.
func (p Plan) Clone() Plan {
	p.Blocks, p.Deals = slices.Clone(p.Blocks), slices.Clone(p.Deals)
	p.Pinned, p.Gives, p.Why = slices.Clone(p.Pinned), slices.Clone(p.Gives), maps.Clone(p.Why)
	for i := range p.Deals {
		d := &p.Deals[i]
		d.Positions, d.Players = slices.Clone(d.Positions), slices.Clone(d.Players)
		d.Names = slices.Clone(d.Names)
		for g := range d.Players {
			d.Players[g] = slices.Clone(d.Players[g])
		}
	}
	for i := range p.Blocks {
		b := &p.Blocks[i]
		b.Scores, b.Steps, b.Side = slices.Clone(b.Scores), slices.Clone(b.Steps), maps.Clone(b.Side)
		for t := range b.Scores {
			b.Scores[t].By, b.Scores[t].Pairs = maps.Clone(b.Scores[t].By), slices.Clone(b.Scores[t].Pairs)
		}
		if b.Circuit != nil {
			c := b.Circuit.clone()
			b.Circuit = &c
		}
		if b.Game != nil {
			g := *b.Game
			b.Game = &g
		}
		if b.Pairing != nil {
			p := *b.Pairing
			p.Chosen = slices.Clone(p.Chosen)
			b.Pairing = &p
		}
		if b.Teams != nil {
			t := *b.Teams
			t.Put = maps.Clone(t.Put)
			b.Teams = &t
		}
		if b.Intervals != nil {
			n := *b.Intervals
			n.Exercises = slices.Clone(n.Exercises)
			b.Intervals = &n
		}
	}
	return p
}

func (c Circuit) clone() Circuit {
	c.Stations, c.With = slices.Clone(c.Stations), slices.Clone(c.With)
	for i := range c.Stations {
		s := &c.Stations[i]
		if s.Spot != nil {
			at := *s.Spot
			s.Spot = &at
		}
		s.Variant, s.Aims = maps.Clone(s.Variant), maps.Clone(s.Aims)
		s.Side, s.Own = maps.Clone(s.Side), maps.Clone(s.Own)
	}
	return c
}

// ErrInput is a clear sentence for the place where something was typed.
type ErrInput struct{ Field, Says string }

func (e *ErrInput) Error() string { return e.Says }

// Input is an ErrInput for a field.
func Input(field, format string, args ...any) error {
	return &ErrInput{Field: field, Says: fmt.Sprintf(format, args...)}
}

// Areas is how often a block's task is done side by side: in each area of a game, or once.
func (b Block) Areas() int {
	if b.Game == nil {
		return 1
	}
	return max(1, b.Game.Areas)
}
