package check

import (
	"fmt"
	"math"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// Offers are what could give when the plan is too long by so much, in the coach's order of what gives first.
func Offers(pic *work.Picture, over time.Duration) (out []Mend) {
	give := append(slices.Clone(pic.Plan.Gives), doc.Game, doc.Circuit, doc.Pairs, doc.Look, doc.Ladder, doc.Together, doc.OneKey, doc.Break, doc.Close)
	minutes := int(math.Ceil(over.Minutes() - 1e-9))
	seen := map[doc.Kind]bool{}
	for _, k := range give {
		if seen[k] {
			continue
		}
		seen[k] = true
		if k == doc.Circuit {
			n := len(pic.Rounds)
			if n == 0 {
				continue
			}
			if to := pic.Plan.Work - int(math.Ceil(over.Seconds()/float64(n)/30))*30; to >= 120 {
				out = append(out, mend("Rounds of "+coach.Clock(time.Duration(to)*time.Second), "work", 0, to))
			}
			if saved := time.Duration(pic.Plan.Work)*time.Second + pic.Change; saved >= over && n > 2 {
				out = append(out, mend(say.Count(n-1, "round")+" instead of "+fmt.Sprint(n), "rounds", 0, n-1))
			}
			continue
		}
		for _, b := range pic.Blocks {
			least := map[doc.Kind]int{doc.Together: 5, doc.Game: 5, doc.Close: 3, doc.OneKey: 3, doc.Pairs: 5, doc.Look: 4, doc.Ladder: 5, doc.Break: 1}[k]
			if b.Kind != k {
				continue
			}
			if to := b.Minutes - minutes; to >= least {
				out = append(out, mend(fmt.Sprintf("%s to %d min", b.Title, to), "minutes", b.Index, to))
			} else if b.Minutes >= minutes && k != doc.Together && k != doc.Close {
				out = append(out, mend(b.Title+" out", "drop-block", b.Index, ""))
			}
		}
	}
	if len(out) == 0 {
		out = several(pic, over, give)
	}
	return out
}

// several takes a part from each block that can give one, in the order of giving, until the plan fits. Nothing when all together is too little.
func several(pic *work.Picture, over time.Duration, give []doc.Kind) []Mend {
	m := Mend{Words: "Take from several"}
	done := map[int]bool{}
	for _, k := range give {
		if n := len(pic.Rounds); k == doc.Circuit && n > 0 && over > 0 && !done[-1] {
			done[-1] = true
			if by := min(pic.Plan.Work-180, int(math.Ceil(over.Seconds()/float64(n)/30))*30) / 30 * 30; by > 0 {
				m.Edits = append(m.Edits, doc.Edit{Do: "work", Value: fmt.Sprint(pic.Plan.Work - by)})
				over -= time.Duration(by*n) * time.Second
			}
		}
		for _, b := range pic.Blocks {
			if b.Kind != k || k == doc.Circuit || done[b.Index] || over <= 0 {
				continue
			}
			done[b.Index] = true
			if by := min(b.Minutes-5, int(math.Ceil(over.Minutes()-1e-9))); by > 0 {
				m.Edits = append(m.Edits, doc.Edit{Do: "minutes", At: b.Index, Value: fmt.Sprint(b.Minutes - by)})
				over -= time.Duration(by) * time.Minute
			}
		}
	}
	if over > 0 {
		return nil
	}
	return []Mend{m}
}

func (pic *checking) checkTime(in work.Input) {
	left := pic.Booked - pic.Total
	if left < 0 {
		offers := Offers(pic.Picture, -left)
		says := fmt.Sprintf("The plan runs %s over the booked time.", coach.Clock(-left))
		if len(offers) == 0 {
			says += " No one block can give that much: take a station out, or make several shorter."
		}
		pic.find(Stop, "long", "Time", pic.Booked, says, offers[:min(3, len(offers))]...)
	}
	if left >= 5*time.Minute && len(pic.Rounds) > 0 {
		to := min(3600, pic.Plan.Work+int(left.Seconds()/float64(len(pic.Rounds))/30)*30)
		mends := []Mend{}
		if to > pic.Plan.Work {
			mends = append(mends, mend("Rounds of "+coach.Clock(time.Duration(to)*time.Second), "work", 0, to))
		}
		for _, b := range pic.Blocks {
			if b.Kind == doc.Game {
				mends = append(mends, mend(fmt.Sprintf("%s of %d min", b.Title, b.Minutes+int(left.Minutes())), "minutes", b.Index, b.Minutes+int(left.Minutes())))
				break
			}
		}
		pic.find(Note, "short", "Time", pic.Total, coach.Minutes(left)+" of the booked time are free.", mends...)
	}
	if need := work.ChangeFor(pic.Longest); pic.Change < need && len(pic.Rounds) > 1 {
		pic.find(Settle, "change", "Change", pic.Rounds[0].To, fmt.Sprintf("%s is short for the longest walk of %s; it takes about %s.", coach.Clock(pic.Change), in.Units.Long(math.Round(pic.Longest)), coach.Clock(need)), mend("Work it out", "change", 0, 0))
	}
}
