package edit

import (
	"maps"
	"slices"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/say"
)

// SplitBlock makes two of a block: stations after so many rounds, others in half.
type SplitBlock struct {
	Block string
	After int // rounds, of stations
}

func readSplitBlock(w Wire) (Edit, error) {
	n, err := w.number(1, 23, "After how many rounds")
	if w.Value == "" {
		return SplitBlock{Block: w.At}, nil
	}
	return SplitBlock{w.At, n}, err
}

func (e SplitBlock) apply(p *doc.Plan) (Needs, error) {
	if len(p.Blocks) >= doc.MostBlocks {
		return Nothing, doc.Input("split-block", "A plan has at most %d blocks.", doc.MostBlocks)
	}
	b, err := block(p, e.Block)
	if err != nil {
		return Nothing, err
	}
	if b.Intervals != nil {
		return Nothing, doc.Input("split-block", "Intervals are split by their exercises: insert another block of them.")
	}
	at := slices.IndexFunc(p.Blocks, func(o doc.Block) bool { return o.ID == e.Block })
	second := *b
	second.ID, second.Pinned = "", false
	second.Steps, second.Side = slices.Clone(b.Steps), maps.Clone(b.Side)
	if len(second.Title) < 100 {
		second.Title += ", part 2"
	}
	if owner := p.Owner(b); owner != nil {
		if e.After < 1 {
			return Nothing, doc.Input("split-block", "After how many rounds from 1 to 23, please.")
		}
		if has := p.Shares(owner.ID, p.Due(owner.Circuit))[at]; has > 0 && e.After >= has {
			return Nothing, doc.Input("split-block", "This part has %s; split it after fewer.", say.Count(has, "round"))
		}
		if b.Rounds > 0 {
			second.Rounds = b.Rounds - e.After
		}
		b.Rounds = e.After
		second.Circuit, second.After = nil, owner.ID
	} else {
		if b.Minutes < 2 {
			return Nothing, doc.Input("split-block", "A minute cannot be split.")
		}
		second.Minutes = b.Minutes / 2
		b.Minutes -= second.Minutes
		second.Scores = nil
		if second.Teams != nil {
			t := *second.Teams
			t.Put = maps.Clone(t.Put)
			second.Teams = &t
		}
	}
	p.Blocks = slices.Insert(p.Blocks, at+1, second)
	return Nothing, nil
}

func (e SplitBlock) Called(p doc.Plan) string { return blockCalled(p, e.Block, "split") }
