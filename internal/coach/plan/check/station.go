package check

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

func (pic *checking) checkSize(s work.StationAt, where string) {
	small, large := 999, 0
	for r := range s.Visits {
		if n := pic.Together(s, r); n > 0 {
			small, large = min(small, n), max(large, n)
		}
	}
	if large == 0 {
		return
	}
	switch {
	case s.Drill.Most > 0 && large > s.Drill.Most:
		var mends []Mend
		if need := (len(pic.Ledger) + s.Drill.Most - 1) / s.Drill.Most; need <= doc.Most && need > len(pic.Groups) {
			mends = append(mends, mend("Make "+say.Count(need, "group"), "groups", 0, need))
		}
		if s.Double {
			mends = append(mends, mend("One group at a time", "double", s.Index, ""))
		}
		pic.find(Settle, "most "+station(pic.Picture, s.Index), where, pic.Begin(), fmt.Sprintf("%s is for at most %d; a group of %d comes.", s.Drill.Name, s.Drill.Most, large), mends...)
	case small < s.Drill.Least:
		var mends []Mend
		if fewer := len(pic.Ledger) / max(1, s.Drill.Least); fewer >= 1 && fewer < len(pic.Groups) {
			mends = append(mends, mend("Make "+say.Count(fewer, "group"), "groups", 0, fewer))
		}
		pic.find(Settle, "least "+station(pic.Picture, s.Index), where, pic.Begin(), fmt.Sprintf("%s needs at least %d; a group of %d comes.", s.Drill.Name, s.Drill.Least, small), mends...)
	}
}

func (pic *checking) checkRest(s work.StationAt, where string) {
	if s.Drill.Work <= 0 || s.Drill.Rest <= 0 {
		return
	}
	t := load.Of(s.Drill)
	largest := 0
	for _, g := range pic.Groups {
		largest = max(largest, len(g.Players))
	}
	if takes, round := t.Series(largest, s.Drill.Series, 1, 0), time.Duration(pic.Plan.Work)*time.Second; takes > round && largest > 0 {
		pic.find(Note, "series "+station(pic.Picture, s.Index), where, pic.Begin(), fmt.Sprintf("%s for each of %d with its rest takes %s; the round is %s.", say.Count(s.Drill.Series, "turn"), largest, coach.Clock(takes), coach.Clock(round)),
			mend("Rounds of "+coach.Clock(takes.Truncate(30*time.Second)+30*time.Second), "work", 0, int(takes.Truncate(30*time.Second).Seconds())+30))
	}
	for _, g := range pic.Groups {
		n := len(g.Players)
		if n == 0 {
			continue
		}
		if rest, add := t.RestFor(n); add > 0 {
			var mends []Mend
			if fewer := len(pic.Ledger) / t.FullGroup(); fewer >= 1 && fewer < len(pic.Groups) {
				mends = append(mends, mend(fmt.Sprintf("%s of %d", say.Count(fewer, "group"), (len(pic.Ledger)+fewer-1)/fewer), "groups", 0, fewer))
			}
			pic.find(Note, "rest "+station(pic.Picture, s.Index), where, pic.Begin(), fmt.Sprintf("In turns of %s a group of %d rests %s; %s asks for %s. Add a pause of %s, or let a light skill fill it; %s %s none.",
				coach.Clock(t.Work), n, coach.Clock(rest), s.Drill.Name, coach.Clock(t.Rest), coach.Clock(add), say.Count(t.FullGroup(), "player"), say.Does(t.FullGroup(), "need")), mends...)
			return
		}
	}
}

// checkPractice: random practice is for those who can just do it, blocked practice for those who cannot yet.
func (pic *checking) checkPractice(in work.Input, s work.StationAt, where string) {
	if s.Drill.Practice != "random" && s.Drill.Practice != "blocked" {
		return
	}
	for _, g := range pic.Groups {
		if !slices.Contains(g.Route, s.Index) || len(g.Players) == 0 {
			continue
		}
		sum, known := 0.0, 0
		for _, p := range g.Players {
			if r, from := in.Chance(p, s.Drill); from != "the drill's own guess" {
				sum, known = sum+r.P, known+1
			}
		}
		if known*2 < len(g.Players) {
			continue
		}
		p := sum / float64(known)
		switch {
		case s.Drill.Practice == "random" && p < 0.5:
			pic.find(Note, "phase "+station(pic.Picture, s.Index), where, pic.Begin(), fmt.Sprintf("%s mixes its tries at random; the %s make %.0f in 10 and are still discovering. The same again and again serves them better.", s.Drill.Name, strings.ToLower(g.Shape.Name), p*10), pic.instead(in, s, func(d coach.Drill) bool { return d.Practice != "random" })...)
			return
		case s.Drill.Practice == "blocked" && p > 0.9:
			pic.find(Note, "phase "+station(pic.Picture, s.Index), where, pic.Begin(), fmt.Sprintf("%s repeats the same; for the %s, who make %.0f in 10, it is automatic. Mixed tries, as in a game, serve them better.", s.Drill.Name, strings.ToLower(g.Shape.Name), p*10), pic.instead(in, s, func(d coach.Drill) bool { return d.Practice == "random" || d.Practice == "varied" })...)
			return
		}
	}
}

// checkAfter: a step whose "comes after" a group has not shown.
func (pic *checking) checkAfter(in work.Input, s work.StationAt, where string) {
	for _, skill := range s.Drill.After {
		for _, g := range pic.Groups {
			if !slices.Contains(g.Route, s.Index) {
				continue
			}
			lack := 0
			for _, p := range g.Players {
				if slices.ContainsFunc(in.Missing[p.ID], func(c coach.Criterion) bool { return c.Skill == skill }) {
					lack++
				}
			}
			if lack*2 > len(g.Players) {
				pic.find(Note, "after "+station(pic.Picture, s.Index)+skill, where, pic.Begin(), fmt.Sprintf("%s comes after %s; %d of the %d %s %s not shown that yet.", s.Drill.Name, skill, lack, len(g.Players), strings.ToLower(g.Shape.Name), say.Verb(lack, "has", "have")))
				break
			}
		}
	}
}
