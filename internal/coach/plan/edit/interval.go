package edit

import (
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Interval sets one figure of a block of intervals.
type Interval struct {
	Block string
	What  string // a key of intervalFigures
	To    int
}

var intervalFigures = map[string]figure[doc.Intervals]{
	"work":    {5, 600, "Seconds of work", func(n *doc.Intervals) *int { return &n.Work }},
	"rest":    {0, 900, "Seconds of rest", func(n *doc.Intervals) *int { return &n.Rest }},
	"change":  {0, 120, "Seconds to change", func(n *doc.Intervals) *int { return &n.Change }},
	"turns":   {1, doc.MostTimes, "Turns", func(n *doc.Intervals) *int { return &n.Turns }},
	"grow":    {0, doc.MostMore, "Turns more each time", func(n *doc.Intervals) *int { return &n.More }},
	"upto":    {0, doc.MostTimes, "Turns at most", func(n *doc.Intervals) *int { return &n.Most }},
	"places":  {1, doc.MostAtWork, "Players at once", func(n *doc.Intervals) *int { return &n.Places }},
	"feeders": {0, doc.MostFeeders, "Players who feed", func(n *doc.Intervals) *int { return &n.Feeders }},
	"long":    {0, 900, "Seconds of rest between exercises", func(n *doc.Intervals) *int { return &n.Long }},
}

func readInterval(w Wire) (Edit, error) {
	what, n, err := readFigure(w, intervalFigures)
	return Interval{w.At, what, n}, err
}

func (e Interval) apply(p *doc.Plan) (Needs, error) {
	n, err := intervals(p, e.Block)
	if err == nil {
		*intervalFigures[e.What].of(n) = e.To
		if e.What == "grow" && n.More > 0 && n.Most <= n.Turns { // from one set to three, until said otherwise
			n.Most = min(n.Turns+2*n.More, doc.MostTimes)
		}
	}
	return Nothing, err
}

func (e Interval) Called(p doc.Plan) string {
	return blockCalled(p, e.Block, strings.ToLower(intervalFigures[e.What].called))
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
