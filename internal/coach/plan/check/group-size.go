package check

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// TooMany: a larger group comes than a drill is for.
type TooMany struct {
	AtStation
	Drill       string
	Most, Comes int
}

func (f TooMany) Says() string {
	return fmt.Sprintf("%s is for at most %d; a group of %d comes.", f.Drill, f.Most, f.Comes)
}

// TooFew: a smaller group comes than a drill needs.
type TooFew struct {
	AtStation
	Drill        string
	Least, Comes int
}

func (f TooFew) Says() string {
	return fmt.Sprintf("%s needs at least %d; a group of %d comes.", f.Drill, f.Least, f.Comes)
}

func groupSize(c *checking, s work.StationAt) {
	small, large := 999, 0
	for r, g := range s.Visits {
		if g >= 0 && s.HasOwn(c.Groups[g]) {
			continue
		}
		if n := c.Together(s, r); n > 0 {
			small, large = min(small, n), max(large, n)
		}
	}
	groups := len(c.groups(s))
	deal := c.Plan.DealOf(&c.Circuits[s.Circuit].Circuit).ID
	var mends []Mend
	switch {
	case large == 0:
	case s.Drill.Most > 0 && large > s.Drill.Most:
		if need := (len(c.Ledger) + s.Drill.Most - 1) / s.Drill.Most; need <= doc.Most && need > groups {
			mends = append(mends, mend("Make "+say.Count(need, "group"), edit.Groups{Deal: deal, Count: need}))
		}
		if s.Double {
			mends = append(mends, mend("One group at a time", edit.Double{Station: s.ID}))
		}
		c.find(Settle, c.begin(s), TooMany{stationOf(s), s.Drill.Name, s.Drill.Most, large}, mends...)
	case small < s.Drill.Least:
		if fewer := len(c.Ledger) / max(1, s.Drill.Least); fewer >= 1 && fewer < groups {
			mends = append(mends, mend("Make "+say.Count(fewer, "group"), edit.Groups{Deal: deal, Count: fewer}))
		}
		c.find(Settle, c.begin(s), TooFew{stationOf(s), s.Drill.Name, s.Drill.Least, small}, mends...)
	}
}
