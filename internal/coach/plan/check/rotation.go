package check

import (
	"fmt"
	"slices"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
)

// checkRotation: groups that rest a whole round, and stations that most groups never come to.
func (pic *checking) checkRotation() {
	if len(pic.Rounds) == 0 || len(pic.Groups) == 0 {
		return
	}
	rests, round := 0, 0
	for _, g := range pic.Groups {
		if r := slices.Index(g.Route, rotate.Rest); r >= 0 && len(g.Players) > 0 {
			if rests++; rests == 1 || r < round {
				round = r
			}
		}
	}
	if rests > 0 {
		var mends []Mend
		size := (len(pic.Ledger) + len(pic.Stations) - 1) / len(pic.Stations)
		if !slices.ContainsFunc(pic.Stations, func(s work.StationAt) bool { return s.Drill.Most > 0 && s.Drill.Most < size }) && len(pic.Stations) < len(pic.Groups) {
			mends = append(mends, mend("Make "+say.Count(len(pic.Stations), "group"), "groups", 0, len(pic.Stations)))
		}
		pic.find(Note, "rests", "Rotation", pic.Rounds[round].From, fmt.Sprintf("%s %s a whole round: there are %s for %s. Use it to drink, or let it watch with a question.", say.Count(rests, "group"), say.Does(rests, "rest"), say.Count(len(pic.Stations), "station"), say.Count(len(pic.Groups), "group")), mends...)
	}
	for _, s := range pic.Stations {
		seen := map[int]bool{}
		for r := range s.Visits {
			for _, g := range []int{s.Visits[r], s.Also[r]} {
				if g != rotate.Rest && len(pic.Groups[g].Players) > 0 {
					seen[g] = true
				}
			}
		}
		if len(seen)*2 >= len(pic.Groups) || len(pic.Rounds) >= len(pic.Stations) {
			continue
		}
		pic.find(Note, "seldom "+station(pic.Picture, s.Index), fmt.Sprintf("Station %d", s.Index+1), pic.Begin(), fmt.Sprintf("Only %d of the %s %s to %s in %s.", len(seen), say.Count(len(pic.Groups), "group"), say.Does(len(seen), "come"), s.Drill.Name, say.Count(len(pic.Rounds), "round")),
			mend("Until everyone was everywhere", "rounds", 0, 0), mend("Without it", "drop-station", s.Index, ""))
	}
}

// usualMinutes finds a task that has less than half or more than twice the time it usually takes.
func (pic *checking) usualMinutes(w *coach.Drill, minutes float64) string {
	from, to := w.Minutes[0], w.Minutes[1]
	if to <= 0 || minutes*2 >= float64(from) && minutes <= float64(to)*2 {
		return ""
	}
	usual := fmt.Sprintf("%d to %d min", from, to)
	if from == to || from <= 0 {
		usual = fmt.Sprintf("%d min", to)
	}
	return fmt.Sprintf("%s usually has %s; here it has %.0f.", w.Name, usual, minutes)
}

// checkRoutes: hard ones in a row, and what must not come before something else.
func (pic *checking) checkRoutes(in work.Input) {
	hard := false
	broken := map[string]bool{}
	before := in.Before(in.Plan.StationsAt())
	for _, g := range pic.Groups {
		given := slices.Clone(before)
		for r, s := range g.Route {
			if s == rotate.Rest {
				continue
			}
			st := pic.Stations[s]
			for _, need := range st.Drill.NotBefore {
				key := "before " + station(pic.Picture, s) + need
				if slices.Contains(given, need) || broken[key] {
					continue
				}
				broken[key] = true
				var mends []Mend
				for _, d := range in.Shelf {
					if d.Name == need || slices.Contains(d.Warms, need) {
						mends = append(mends, pic.warm(d))
						break
					}
				}
				pic.find(Settle, key, fmt.Sprintf("Station %d", s+1), pic.Rounds[r].From, fmt.Sprintf("%s is not to be done before %s; the %s come to it unprepared in round %d.", st.Drill.Name, need, strings.ToLower(g.Shape.Name), r+1), mends...)
			}
			given = append(given, in.Gives(st.Drill.ID)...)
			if r > 0 && !hard && g.Route[r-1] != rotate.Rest && st.Drill.Hard && pic.Stations[g.Route[r-1]].Drill.Hard && pic.Rounds[r].Block == pic.Rounds[r-1].Block {
				hard = true
				block := pic.Rounds[r].Block
				pic.find(Note, "hard", g.Shape.Name, pic.Rounds[r].From, fmt.Sprintf("Two hard stations in a row, rounds %d and %d.", r, r+1),
					Mend{"Drink between", []doc.Edit{{Do: "split-block", At: block, Value: fmt.Sprint(r - pic.Blocks[block].First)}, {Do: "add-block", At: block + 1, Value: string(doc.Break)}}})
			}
		}
	}
}
