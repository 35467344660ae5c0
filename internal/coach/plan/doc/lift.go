package doc

import (
	"bytes"
	"encoding/json"
	"slices"

	"gruppo/internal/coach/deal"
)

// first is a plan document of the first version: one set of stations, rounds and groups for the whole session.
type first struct {
	Shape     string            `json:"shape"`
	Aim       Aim               `json:"aim"`
	Way       deal.Way          `json:"way"`
	Seed      uint64            `json:"seed"`
	Groups    int               `json:"groups"`
	Work      int               `json:"work"`
	Change    int               `json:"change"`
	Brief     int               `json:"brief"`
	Rounds    int               `json:"rounds"`
	Key       string            `json:"key"`
	Blocks    []Block           `json:"blocks"`
	Stations  []Station         `json:"stations"`
	Deal      [][]string        `json:"deal"`
	Move      bool              `json:"leaders_move"`
	With      []string          `json:"leaders_with"`
	Positions []string          `json:"positions"`
	Gives     []Kind            `json:"gives"`
	Pinned    []string          `json:"pinned"`
	Why       map[string]string `json:"why"`
}

// UnmarshalJSON reads a document of any version, and leaves out what it does not know.
func (p *Plan) UnmarshalJSON(b []byte) (err error) {
	*p, err = read(b, false)
	return err
}

// Read reads a document of any version, and refuses a field that is not known.
func Read(b []byte) (Plan, error) { return read(b, true) }

func read(b []byte, strict bool) (Plan, error) {
	var says struct {
		Version int `json:"version"`
	}
	if err := json.Unmarshal(b, &says); err != nil {
		return Plan{}, err
	}
	d := json.NewDecoder(bytes.NewReader(b))
	if strict {
		d.DisallowUnknownFields()
	}
	if says.Version < 2 {
		var old struct {
			first
			Version int `json:"version"`
		}
		err := d.Decode(&old)
		return old.lift(), err
	}
	type plain Plan // without its UnmarshalJSON
	var now plain
	err := d.Decode(&now)
	p := Plan(now)
	for i := range p.Blocks {
		if b := &p.Blocks[i]; b.Kind == Stations { // proposals once hid a drill behind the stations
			b.Drill, b.Edition, b.Why = "", 0, ""
		}
	}
	p.Name()
	return p, err
}

// lift gives the stations to the first block of stations, and lets the others go on with it. Stations that no block
// held get one, before the game or the close, as they do when they are added.
func (f first) lift() Plan {
	p := Plan{
		Shape: f.Shape, Aim: f.Aim, Seed: f.Seed, Key: f.Key, Blocks: f.Blocks, Gives: f.Gives, Pinned: f.Pinned, Why: f.Why,
		Deals: []Deal{{ID: "d1", Way: f.Way, Groups: f.Groups, Players: f.Deal, Positions: f.Positions}},
	}
	holds := func(b Block) bool { return b.Kind == Stations }
	if len(f.Stations) > 0 && !slices.ContainsFunc(p.Blocks, holds) {
		p.Blocks = slices.Insert(p.Blocks, p.BeforeTheEnd(), Block{Kind: Stations, Title: Stations.String()})
	}
	p.Name()
	owner := ""
	for i := range p.Blocks {
		b := &p.Blocks[i]
		switch {
		case !holds(*b):
		case owner == "":
			owner = b.ID
			b.Circuit = &Circuit{
				Stations: f.Stations, Work: f.Work, Change: f.Change, Brief: f.Brief, Rounds: f.Rounds, Move: f.Move, With: f.With,
			}
		default:
			b.After = owner
		}
	}
	p.Name()
	return p
}

// BeforeTheEnd is where a block goes that comes before the game or the close: its place, counted from 0.
func (p Plan) BeforeTheEnd() int {
	if at := slices.IndexFunc(p.Blocks, func(b Block) bool { return b.Kind == Game || b.Kind == Close }); at >= 0 {
		return at
	}
	return len(p.Blocks)
}
