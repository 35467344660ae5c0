package edit

import (
	"strconv"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Interval sets one figure of a block of intervals.
type Interval struct {
	Block string
	What  string // a key of figures
	To    int
}

// figures are what can be set, the least and the most of each, and what it is called.
var figures = map[string]struct {
	low, high int
	called    string
	of        func(*doc.Intervals) *int
}{
	"work":    {5, 600, "Seconds of work", func(n *doc.Intervals) *int { return &n.Work }},
	"rest":    {0, 900, "Seconds of rest", func(n *doc.Intervals) *int { return &n.Rest }},
	"change":  {0, 120, "Seconds to change", func(n *doc.Intervals) *int { return &n.Change }},
	"turns":   {1, doc.MostTimes, "Turns", func(n *doc.Intervals) *int { return &n.Turns }},
	"places":  {1, doc.MostAtWork, "Players at once", func(n *doc.Intervals) *int { return &n.Places }},
	"feeders": {0, doc.MostFeeders, "Players who feed", func(n *doc.Intervals) *int { return &n.Feeders }},
	"long":    {0, 900, "Seconds of rest between exercises", func(n *doc.Intervals) *int { return &n.Long }},
}

// readInterval reads "work 20".
func readInterval(w Wire) (Edit, error) {
	what, value, _ := strings.Cut(strings.TrimSpace(w.Value), " ")
	f, known := figures[what]
	n, err := strconv.Atoi(strings.TrimSpace(value))
	switch {
	case !known:
		return nil, doc.Input("interval", "Intervals have work, rest, turns and places.")
	case err != nil || n < f.low || n > f.high:
		return nil, doc.Input("interval", "%s from %d to %d, please.", f.called, f.low, f.high)
	}
	return Interval{w.At, what, n}, nil
}

func (e Interval) apply(p *doc.Plan) (Needs, error) {
	n, err := intervals(p, e.Block)
	if err == nil {
		*figures[e.What].of(n) = e.To
	}
	return Nothing, err
}

func (e Interval) Called(p doc.Plan) string {
	return blockCalled(p, e.Block, strings.ToLower(figures[e.What].called))
}

// intervals finds what a block of them holds.
func intervals(p *doc.Plan, id string) (*doc.Intervals, error) {
	b, err := block(p, id)
	if err != nil {
		return nil, err
	}
	if b.Intervals == nil {
		return nil, doc.Input("interval", "That block has no intervals.")
	}
	return b.Intervals, nil
}
