// Package edit is what can be done to a plan. Each kind of edit is a type in a file of its own: how it is read from
// what a button sends, what it does, and what it is called. The kinds are listed in registry.go.
package edit

import (
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
)

// Edit is one change to a plan.
type Edit interface {
	// apply makes the change; it may change the plan it is given. Its errors are of type *doc.ErrInput.
	apply(p *doc.Plan) (Needs, error)
	// Called names the change in a plan, the way the offer to undo it does.
	Called(p doc.Plan) string
}

// Wire is an edit as a button, a key, a drag or a field sends it.
type Wire struct {
	Do    string // which edit: a key of kinds
	At    string // the id of the station, block or deal it is about; empty: the plan, or the first
	Value string
	Units coach.Units // of the club, for lengths that name none
}

// Needs says what an edit asks for after it is applied.
type Needs int

const (
	Nothing Needs = iota
	Refit         // fit the groups to who is there, moving as few as possible
	NewDeal       // deal from the start
)

// Read reads an edit. Errors are of type *doc.ErrInput.
func Read(w Wire) (Edit, error) {
	read, known := kinds[w.Do]
	if !known {
		return nil, doc.Input("", "The plan does not know that change.")
	}
	return read(w)
}

// Apply returns the plan with the edits made, and whether groups have to be dealt: the caller deals and stores it. The
// plan it is made on stays as it was.
func Apply(p doc.Plan, edits ...Edit) (doc.Plan, Needs, error) {
	p = p.Clone()
	needs := Nothing
	for _, e := range edits {
		n, err := e.apply(&p)
		if err != nil {
			return p, Nothing, err
		}
		p.Name()
		needs = max(needs, n)
	}
	return p, needs, p.Check()
}

// number reads a whole number from low to high.
func (w Wire) number(low, high int, what string) (int, error) {
	n, err := strconv.Atoi(strings.TrimSpace(w.Value))
	if err != nil || n < low || n > high {
		return 0, doc.Input(w.Do, "%s from %d to %d, please.", what, low, high)
	}
	return n, nil
}

// task reads a drill in an edition, "id@edition".
func task(value string) (doc.Task, error) {
	if i := strings.LastIndexByte(value, '@'); i > 0 {
		if n, err := strconv.Atoi(value[i+1:]); err == nil && n > 0 && n <= doc.MostEdition {
			return doc.Task{Drill: value[:i], Edition: n}, nil
		}
	}
	return doc.Task{}, doc.Input("drill", "Choose a drill from the shelf.")
}

// along reads how one of a list is moved: "earlier", "later" or "out".
func along(word string) (by int, out, ok bool) {
	switch word {
	case "earlier":
		return -1, false, true
	case "later":
		return 1, false, true
	case "out":
		return 0, true, true
	}
	return 0, false, false
}

// circuit finds what a block of stations holds, or the block it goes on with; the first where no block is named.
func circuit(p *doc.Plan, block string) (*doc.Circuit, error) {
	if block == "" {
		if all := p.Circuits(); len(all) > 0 {
			return all[0], nil
		}
	} else if b := p.Block(block); b != nil {
		if owner := p.Owner(b); owner != nil {
			return owner.Circuit, nil
		}
	}
	return nil, doc.Input("", "There are no stations in the plan.")
}

// dealt finds a deal of the players; the first where none is named.
func dealt(p *doc.Plan, deal string) (*doc.Deal, error) {
	for i := range p.Deals {
		if deal == "" || p.Deals[i].ID == deal {
			return &p.Deals[i], nil
		}
	}
	return nil, doc.Input("", "Those groups are no longer in the plan.")
}

func station(p *doc.Plan, id string) (*doc.Station, *doc.Circuit, error) {
	s, c := p.Station(id)
	if s == nil {
		return nil, nil, doc.Input("", "That station is no longer in the plan.")
	}
	return s, c, nil
}

func block(p *doc.Plan, id string) (*doc.Block, error) {
	b := p.Block(id)
	if b == nil {
		return nil, doc.Input("", "That block is no longer in the plan.")
	}
	return b, nil
}

// stationCalled says what was done to a station, by its number.
func stationCalled(p doc.Plan, id, what string) string {
	n := slices.IndexFunc(p.Stations(), func(s doc.Station) bool { return s.ID == id })
	return "station " + strconv.Itoa(n+1) + ": " + what
}

// blockCalled says what was done to a block, by its number.
func blockCalled(p doc.Plan, id, what string) string {
	n := slices.IndexFunc(p.Blocks, func(b doc.Block) bool { return b.ID == id })
	return "block " + strconv.Itoa(n+1) + ": " + what
}
