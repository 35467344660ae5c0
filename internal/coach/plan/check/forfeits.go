package check

import (
	"fmt"
	"math"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// Forfeits: somebody under 16 would do more after faults than the club lets them.
type Forfeits struct {
	At         Subject  // the station or block with the most of them
	Who        []string // first names
	Most, Club int
	Drill      string // that is done there
	Only       bool   // it is the only one with any
}

func (f Forfeits) About() []Subject { return []Subject{f.At} }

func (f Forfeits) Says() string {
	most := "most"
	if f.Only {
		most = "all"
	}
	return fmt.Sprintf(
		"%s would do up to %d repetitions after faults today, %s of them in %s; at most %d for those under 16. Offer a "+
			"lighter choice, or an easier form. Your club’s rules come first.",
		say.Few(f.Who), f.Most, most, f.Drill, f.Club)
}

func forfeits(c *checking) {
	f := Forfeits{Club: c.in.MostForfeits}
	at := map[string]float64{} // of all who have too many, by the station or block
	for _, r := range c.Ledger {
		n := int(math.Round(r.AfterFaults()))
		if n <= c.in.MostForfeits || !c.in.Child(r.Player) {
			continue
		}
		f.Who, f.Most = append(f.Who, r.Player.First()), max(f.Most, n)
		for place, here := range r.Forfeits {
			at[place] += here
		}
	}
	if len(f.Who) == 0 {
		return
	}
	f.Only = len(at) == 1
	where, most := work.Always, 0.0
	var mends []Mend
	for _, b := range c.Blocks {
		if at[b.ID] > most {
			f.At, f.Drill, where, most = blockOf(b).Block, b.Title, b.From, at[b.ID]
			if b.Task != nil {
				f.Drill = b.Task.Name
			}
		}
	}
	for _, s := range c.Stations {
		if at[s.ID] > most {
			f.At, f.Drill, where, most = stationOf(s).Station, s.Drill.Name, c.begin(s), at[s.ID]
			mends = c.instead(s, func(d coach.Drill) bool { return len(d.Forfeits) == 0 })
		}
	}
	c.find(Settle, where, f, mends...)
}
