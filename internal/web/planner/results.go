package planner

import (
	"fmt"
	"slices"
	"strings"

	"gruppo/internal/app"
	"gruppo/internal/coach/marking"
	"gruppo/internal/store"
)

// runResult is how a game between two sides ended.
type runResult struct {
	Block, Where, Says string
	First, Other       []string // who played
}

// results says how the games stood that were counted, area by area.
func (v *runView) results(points []store.Point) {
	points = slices.Clone(points)
	slices.SortStableFunc(points, func(a, b store.Point) int { return a.At.Compare(b.At) })
	for _, b := range v.Picture.Blocks {
		m := v.Input.Match(b)
		if m == nil {
			continue
		}
		taps := func(whose string) (out string) {
			for _, p := range points {
				switch {
				case p.Undone || p.Place != app.Beside+b.Index || p.Whose != whose:
				case p.Good:
					out += "1"
				default:
					out += "0"
				}
			}
			return out
		}
		for i := 0; i+1 < len(m.Sides); i += 2 {
			first, other := m.Sides[i], m.Sides[i+1]
			race := taps(fmt.Sprintf("s%d s%d", first.Number, other.Number))
			one, two := taps(fmt.Sprintf("s%d", first.Number)), taps(fmt.Sprintf("s%d", other.Number))
			if race+one+two == "" {
				continue
			}
			a, c := strings.Count(race, "1"), strings.Count(race, "0")
			if one+two != "" {
				minus := b.Task.Scored().Minus
				a, c = marking.Points(one, minus), marking.Points(two, minus)
			}
			r := runResult{Block: b.Title, Says: fmt.Sprintf("%s %d : %d %s", first.Shape.Name, a, c, other.Shape.Name)}
			if m.Areas > 1 {
				r.Where = fmt.Sprint("area ", i/2+1)
			}
			for _, p := range first.Players {
				r.First = append(r.First, p.First())
			}
			for _, p := range other.Players {
				r.Other = append(r.Other, p.First())
			}
			v.Results = append(v.Results, r)
		}
	}
}
