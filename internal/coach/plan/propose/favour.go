package propose

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
)

// Favour is what a proposal gives more weight to than others.
type Favour string

const (
	Even    Favour = ""
	Tries   Favour = "tries"   // as many as can be for each
	Looked  Favour = "looked"  // the lead looks at everybody
	Playing Favour = "playing" // against each other
	Other   Favour = "other"   // another way, best in nothing
)

// Favours are the three that a coach chooses from.
var Favours = []Favour{Tries, Looked, Playing}

// String is the favour in a coach's words.
func (f Favour) String() string {
	return map[Favour]string{Tries: "Most tries", Looked: "Most looked at", Playing: "Most playing", Other: "Another way"}[f]
}

// What a favour is worth in the sum that a proposal is judged by.
const (
	tryGives   = 0.2 // each try at the aim of the player who has the fewest
	unseenCost = 8.0 // each player whom the lead never has
	playGives  = 3.0 // each minute of playing against each other
)

// Unseen are the players whom the lead never has at a station.
func Unseen(pic check.Picture) (n int) {
	for _, r := range pic.Ledger {
		if len(r.LeadSees) == 0 {
			n++
		}
	}
	return n
}

// Fewest are the tries at a skill of the player who has the fewest; of all tries, where no skill is named.
func Fewest(pic check.Picture, skill string) float64 {
	fewest := math.Inf(1)
	for _, r := range pic.Ledger {
		tries := r.BySkill[skill]
		if skill == "" {
			tries = r.Reps
		}
		fewest = min(fewest, tries)
	}
	if len(pic.Ledger) == 0 {
		return 0
	}
	return fewest
}

// Minutes of playing are those of games, and of stations and partners where somebody wins.
func Minutes(pic check.Picture) (m float64) {
	for _, b := range pic.Blocks {
		switch {
		case b.Kind == doc.Game, b.Kind.Partners() && b.Task != nil && b.Task.Form != "cooperative":
			m += (b.To - b.From).Minutes()
		}
	}
	for _, s := range pic.Stations {
		if s.Drill.Form != "cooperative" && len(pic.Groups) > 0 {
			m += pic.Circuits[s.Circuit].Round().Minutes() // each group is there once
		}
	}
	return m
}

// favours is what the favour takes off the sum.
func (pr *proposal) favours(pic check.Picture) float64 {
	switch pr.favour {
	case Tries:
		return -tryGives * Fewest(pic, pr.aim)
	case Looked:
		return unseenCost * float64(Unseen(pic))
	case Playing:
		return -playGives * Minutes(pic)
	}
	return 0
}

// Offer is one of three plans to choose from.
type Offer struct {
	Plan   doc.Plan
	Favour Favour // what it has most of, of the three; Other where it has most of nothing
	Also   []Favour
	Skill  string // that it is for
}

// Called says what a plan has most of: "Most tries, most looked at".
func (o Offer) Called() string {
	words := o.Favour.String()
	for _, f := range o.Also {
		words += ", " + strings.ToLower(f.String())
	}
	return words
}

// Three are plans that differ, fewer where the same comes out: each is searched for another favour, from the best for it
// of three beginnings. The same come of the same input.
func Three(in work.Input, shape string, aim doc.Aim) (out []Offer, err error) {
	var begun []*proposal
	var first []check.Picture
	for turn := range uint64(len(Favours)) {
		pr, err := composed(in, shape, aim, turn)
		if err != nil {
			return nil, err
		}
		in := pr.in
		in.Plan = pr.p
		begun, first = append(begun, pr), append(first, check.Plan(in))
	}
	var pics []check.Picture
	for _, favour := range Favours {
		order := []int{0, 1, 2} // of the beginnings, the best for this first
		for _, pr := range begun {
			pr.favour = favour
		}
		slices.SortStableFunc(order, func(a, b int) int {
			return cmp.Compare(begun[a].cost(first[a]), begun[b].cost(first[b]))
		})
		var p doc.Plan
		for _, i := range order {
			p = begun[i].improve()
			if !slices.ContainsFunc(out, func(o Offer) bool { return slices.Equal(o.Plan.Tasks(), p.Tasks()) }) {
				break // else the same came out: another beginning
			}
		}
		in := begun[0].in
		in.Plan = p
		pic := check.Plan(in)
		if slices.ContainsFunc(pics, func(o check.Picture) bool { return samePlan(o, pic, begun[0].aim) }) {
			continue // with the same figures it is one plan
		}
		out, pics = append(out, Offer{Plan: p, Favour: Other, Skill: begun[0].aim}), append(pics, pic)
	}
	named(out, pics)
	return out, nil
}

// samePlan reports whether two plans do the same and come to the same for every favour.
func samePlan(a, b check.Picture, aim string) bool {
	return slices.Equal(a.Plan.Tasks(), b.Plan.Tasks()) && Unseen(a) == Unseen(b) &&
		math.Round(Fewest(a, aim)) == math.Round(Fewest(b, aim)) && Minutes(a) == Minutes(b)
}

// named gives each favour to the plan that has most of it; one that has most of two has both.
func named(out []Offer, pics []check.Picture) {
	for _, favour := range Favours {
		has := func(i int) float64 {
			return map[Favour]float64{Tries: Fewest(pics[i], out[i].Skill), Looked: -float64(Unseen(pics[i])), Playing: Minutes(pics[i])}[favour]
		}
		best := 0
		for i := range out {
			more, same := has(i)-has(best), math.Abs(has(i)-has(best)) < 1e-9
			if favour == Looked && Unseen(pics[i]) == len(pics[i].Ledger) {
				continue // nobody is seen: nothing to have most of
			}
			if more > 1e-9 || same && out[best].Favour != Other && out[i].Favour == Other {
				best = i
			}
		}
		if favour == Looked && Unseen(pics[best]) == len(pics[best].Ledger) {
			continue
		}
		if out[best].Favour == Other {
			out[best].Favour = favour
		} else {
			out[best].Also = append(out[best].Also, favour)
		}
	}
	slices.SortStableFunc(out, func(a, b Offer) int { return place(a.Favour) - place(b.Favour) })
}

func place(f Favour) int {
	if i := slices.Index(Favours, f); i >= 0 {
		return i
	}
	return len(Favours)
}
