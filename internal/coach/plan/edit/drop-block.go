package edit

import (
	"slices"

	"gruppo/internal/coach/plan/doc"
)

// DropBlock takes a block out. The stations go with the last block that holds their rounds; the rounds of one part of
// several go to the part before, or after where it is the first.
type DropBlock struct{ Block string }

func readDropBlock(w Wire) (Edit, error) { return DropBlock{w.At}, nil }

func (e DropBlock) apply(p *doc.Plan) (Needs, error) {
	b, err := block(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	at := slices.IndexFunc(p.Blocks, func(o doc.Block) bool { return o.ID == e.Block })
	if owner := p.Owner(b); owner != nil {
		parts := p.PartOf(owner.ID)
		if n := slices.Index(parts, at); len(parts) > 1 {
			to := parts[max(0, n-1)]
			if n == 0 {
				to = parts[1]
			}
			shares := p.Shares(owner.ID, p.Due(owner.Circuit))
			p.Blocks[to].Rounds = shares[to] + shares[at]
			if n == 0 { // the next part holds the stations from now on
				next := &p.Blocks[to]
				next.Circuit, next.After = owner.Circuit, ""
				for _, part := range parts[2:] {
					p.Blocks[part].After = next.ID
				}
			}
		}
	}
	p.Blocks = slices.Delete(p.Blocks, at, at+1)
	return Nothing, nil
}

func (e DropBlock) Called(p doc.Plan) string { return blockCalled(p, e.Block, "out") }
