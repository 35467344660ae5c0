package work

import (
	"slices"

	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/doc"
)

// DealOut deals the players wherever the plan has not dealt them yet, by its way and seed, and keeps the result in the
// plan. Those who are pinned by keep, the plan's positions and how lately who was together count.
func (in *Input) DealOut() error {
	for i := range in.Plan.Deals {
		if d := &in.Plan.Deals[i]; d.Players == nil {
			if err := in.deal(d, nil); err != nil {
				return err
			}
		}
	}
	return nil
}

// Redeal fits all groups to who is coming, moving as few players as possible.
func (in *Input) Redeal() error {
	for i := range in.Plan.Deals {
		if err := in.deal(&in.Plan.Deals[i], in.Plan.Deals[i].Players); err != nil {
			return err
		}
	}
	return nil
}

func (in *Input) deal(d *doc.Deal, now [][]string) error {
	ask := deal.Ask{Groups: d.Groups, Way: d.Way, Seed: in.Plan.Seed, Together: d.Positions, Now: now}
	if len(in.Met) > 0 {
		ask.Met = make([][]float64, len(in.Players))
		for i, a := range in.Players {
			ask.Met[i] = make([]float64, len(in.Players))
			for j, b := range in.Players[:i] {
				ask.Met[i][j] = in.Met[[2]string{min(a.ID, b.ID), max(a.ID, b.ID)}]
			}
		}
	}
	groups, err := deal.Groups(in.Players, ask)
	if err != nil {
		return err
	}
	d.Players = make([][]string, len(groups))
	for g, members := range groups {
		d.Players[g] = []string{}
		for _, i := range members {
			d.Players[g] = append(d.Players[g], in.Players[i].ID)
		}
	}
	return nil
}

// Stay is the plan with every station that has its room kept where the picture shows it, so that moving one moves no
// other.
func (pic Picture) Stay() doc.Plan {
	p := pic.Plan.Clone()
	for _, s := range pic.Stations {
		if kept, _ := p.Station(s.ID); s.Fits && kept.Spot == nil {
			at := s.Spot
			kept.Spot = &at
		}
	}
	return p
}

// Met says how lately two players were in a group, from the deals of the sessions before, the newest first: last time
// counts fully and each session before three quarters of the one after it, so that four ago counts a third. Our choice,
// no source.
func Met(deals [][][]string) map[[2]string]float64 {
	out, counts := map[[2]string]float64{}, 1.0
	for _, groups := range deals {
		for _, group := range groups {
			for i, a := range group {
				for _, b := range group[:i] {
					out[[2]string{min(a, b), max(a, b)}] += counts
				}
			}
		}
		counts *= 0.75
	}
	return out
}

// Lacks counts for each skill the players who have something in it still to show. Somebody who is to be marked on it in
// this session counts three times.
func (in Input) Lacks() map[string]int {
	out := map[string]int{}
	for _, p := range in.Players {
		seen := map[string]bool{}
		for _, c := range in.Missing[p.ID] {
			if !seen[c.Skill] {
				seen[c.Skill] = true
				out[c.Skill]++
			}
			if slices.Contains(in.Looks[p.ID], c.ID) {
				out[c.Skill] += 2
			}
		}
	}
	return out
}
