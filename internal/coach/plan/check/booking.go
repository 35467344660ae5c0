package check

import (
	"fmt"

	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

func (pic *checking) checkBooking(in work.Input) {
	for _, t := range in.Taken {
		if from, until := max(0, t.From), min(pic.Booked, t.Until); from < until {
			pic.find(Stop, "taken "+t.What, "Place", from, fmt.Sprintf("%s has this place from %s to %s. Choose another place or zone under What if.", t.What, pic.clock(t.From), pic.clock(t.Until)))
		}
	}
	if in.PerAdult > 0 && len(in.Players) > 0 {
		for _, m := range pic.Moments {
			adults, at := 0, m.From
			for _, l := range in.Leaders {
				if l.Covers(m.From, m.To) {
					adults++
				} else if l.Until > m.From {
					at = l.Until
				}
			}
			if need := (len(in.Players) + in.PerAdult - 1) / in.PerAdult; adults < need {
				says := fmt.Sprintf("From %s there %s for %s; your club's setting is at most %d for each adult. Your club's rules and local law come first.", pic.clock(at), say.Verb(adults, "is", "are")+" "+say.Count(adults, "adult"), say.Count(len(in.Players), "player"), in.PerAdult)
				pic.find(Stop, "adults", "Adults", at, says)
				return
			}
		}
	}
}
