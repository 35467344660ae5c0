package edit

import (
	"slices"
	"strings"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/rotate"
)

// AddBlock adds a block: before or after another, else at the end but before the close.
type AddBlock struct {
	Kind          doc.Kind
	Before, After string // ids of blocks; one of them, or none
	Title         string // empty: the kind's name
	Minutes       int    // 0: the kind's usual
	Task          doc.Task
}

// readAddBlock reads a kind; the place is the block it comes before, or "after b2".
func readAddBlock(w Wire) (Edit, error) {
	e := AddBlock{Kind: doc.Kind(w.Value), Before: w.At}
	if after, ok := strings.CutPrefix(w.At, "after "); ok {
		e.Before, e.After = "", after
	}
	if e.Kind.String() == "" {
		return nil, doc.Input("add-block", "Choose what to add.")
	}
	return e, nil
}

func (e AddBlock) apply(p *doc.Plan) (Needs, error) {
	if len(p.Blocks) >= doc.MostBlocks {
		return Nothing, doc.Input("add-block", "A plan has at most %d blocks.", doc.MostBlocks)
	}
	b := doc.Block{Kind: e.Kind, Title: e.Title, Minutes: e.Minutes, Drill: e.Task.Drill, Edition: e.Task.Edition}
	if b.Title == "" {
		b.Title = e.Kind.String()
	}
	if b.Minutes == 0 {
		b.Minutes = e.Kind.Usual()
	}
	if e.Kind.Partners() {
		b.Way, b.Turn = rotate.MoveOn, 45
	}
	switch e.Kind {
	case doc.Turns:
		b.Intervals = doc.NewIntervals()
	case doc.Run:
		b.Intervals = doc.NewRun()
	}
	needs := Nothing
	if e.Kind == doc.Stations {
		b.Minutes, b.Circuit, needs = 0, another(p), NewDeal
	}
	p.Blocks = slices.Insert(p.Blocks, e.place(*p), b)
	return needs, nil
}

// another is a set of stations with a deal of its own, dealt as the first is; where there are too many deals, the
// first's groups come to it.
func another(p *doc.Plan) *doc.Circuit {
	c := &doc.Circuit{Work: 6 * 60, Brief: 60}
	if len(p.Deals) < doc.MostDeals {
		d := doc.Deal{Way: p.Deals[0].Way, Groups: p.Deals[0].Groups, Positions: slices.Clone(p.Deals[0].Positions)}
		p.Deals = append(p.Deals, d)
		p.Name()
		c.Deal = p.Deals[len(p.Deals)-1].ID
	}
	return c
}

func (e AddBlock) place(p doc.Plan) int {
	for i, b := range p.Blocks {
		switch b.ID {
		case e.Before:
			return i
		case e.After:
			return i + 1
		}
	}
	at := len(p.Blocks)
	if at > 0 && p.Blocks[at-1].Kind == doc.Close {
		at--
	}
	return at
}

func (e AddBlock) Called(doc.Plan) string { return "a block more" }
