package edit

import (
	"slices"
	"strconv"

	"gruppo/internal/coach/plan/doc"
)

// MoveBlock puts a block elsewhere: by one place, or to a place counted from 0.
type MoveBlock struct {
	Block string
	By    int // −1 earlier, 1 later; 0: To counts
	To    int
}

// readMoveBlock reads "earlier", "later" or a place.
func readMoveBlock(w Wire) (Edit, error) {
	if w.Value == "earlier" {
		return MoveBlock{Block: w.At, By: -1}, nil
	}
	if n, err := strconv.Atoi(w.Value); err == nil {
		return MoveBlock{Block: w.At, To: n}, nil
	}
	return MoveBlock{Block: w.At, By: 1}, nil
}

func (e MoveBlock) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	at, moved := slices.IndexFunc(p.Blocks, func(o doc.Block) bool { return o.ID == e.Block }), *b
	to := e.To
	if e.By != 0 {
		to = at + e.By
	}
	to = max(0, min(len(p.Blocks)-1, to))
	p.Blocks = slices.Insert(slices.Delete(p.Blocks, at, at+1), to, moved)
	p.Own()
	return Nothing, nil
}

func (e MoveBlock) Called(p doc.Plan) string { return blockCalled(p, e.Block, "moved") }
