package whatif

import (
	"cmp"
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/check"
)

// Difference is what changes from one picture of the session to another.
type Difference struct {
	Moves   []MovedPlayer
	Figures []string // "88 instead of 90 min", in words
	New     []check.Finding
	Settled []check.Finding
}

// MovedPlayer is a player who changes groups; To or From −1: not in one.
type MovedPlayer struct {
	Player   coach.Player
	From, To int
}

// Compare says what is different from one picture to the next.
func Compare(a, b check.Picture) (d Difference) {
	at := map[string]int{}
	for _, g := range a.Groups {
		for _, p := range g.Players {
			at[p.ID] = g.Index
		}
	}
	seen := map[string]bool{}
	for _, g := range b.Groups {
		for _, p := range g.Players {
			from, was := at[p.ID]
			if seen[p.ID] = true; !was {
				from = -1
			}
			if from != g.Index {
				d.Moves = append(d.Moves, MovedPlayer{p, from, g.Index})
			}
		}
	}
	for _, g := range a.Groups {
		for _, p := range g.Players {
			if !seen[p.ID] {
				d.Moves = append(d.Moves, MovedPlayer{p, g.Index, -1})
			}
		}
	}
	slices.SortStableFunc(d.Moves, func(x, y MovedPlayer) int { return cmp.Compare(x.Player.Name, y.Player.Name) })
	for _, f := range []struct{ what, was, is string }{
		{"Minutes", fmt.Sprintf("%.0f of %.0f", a.Total.Minutes(), a.Booked.Minutes()), fmt.Sprintf("%.0f of %.0f", b.Total.Minutes(), b.Booked.Minutes())},
		{"Tries each", fmt.Sprintf("%.0f", a.Reps), fmt.Sprintf("%.0f", b.Reps)},
		{"Active", fmt.Sprintf("%.0f %%", a.Active*100), fmt.Sprintf("%.0f %%", b.Active*100)},
		{"Groups", fmt.Sprint(len(a.Groups)), fmt.Sprint(len(b.Groups))},
		{"Stations", fmt.Sprint(len(a.Stations)), fmt.Sprint(len(b.Stations))},
		{"Change", coach.Clock(a.Main().Change), coach.Clock(b.Main().Change)},
		{"Floor", a.Floor.Name, b.Floor.Name},
	} {
		if f.was != f.is {
			d.Figures = append(d.Figures, fmt.Sprintf("%s: %s instead of %s", f.what, f.is, f.was))
		}
	}
	has := func(fs []check.Finding, key string) bool {
		return slices.ContainsFunc(fs, func(f check.Finding) bool { return f.Key() == key })
	}
	for _, f := range b.Findings {
		if !has(a.Findings, f.Key()) {
			d.New = append(d.New, f)
		}
	}
	for _, f := range a.Findings {
		// what it is about is gone: nothing is settled by that
		if !has(b.Findings, f.Key()) &&
			!slices.ContainsFunc(f.About(), func(s check.Subject) bool { return !b.Has(s) }) {
			d.Settled = append(d.Settled, f)
		}
	}
	return d
}
