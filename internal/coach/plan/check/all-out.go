package check

import (
	"fmt"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// AllOut: children or beginners are to work all-out, and no coach has said that they may.
type AllOut struct {
	InBlock
	Drill      string
	Work, Rest time.Duration
	Who        []string // first names
}

func (f AllOut) Says() string {
	return fmt.Sprintf(
		"%s with %s of work and %s of rest is all-out, and %s %s under 16 or on the first stage. A coach who knows them "+
			"may allow it; your club’s rules come first.",
		f.Drill,
		coach.Clock(f.Work),
		coach.Clock(f.Rest),
		say.Few(f.Who),
		say.Verb(len(f.Who), "is", "are"),
	)
}

// All-out work is short and hard, with a rest of three times as long or more; it is for those who are grown and have
// learned the skill (common practice, no source).
const (
	shortWork = 60 // seconds
	LongRest  = 3  // times the work
)

func allOut(c *checking, b work.Span) {
	t := b.Cycle
	if t == nil || t.Allowed || t.Work > shortWork || t.Rest < LongRest*t.Work {
		return
	}
	f := AllOut{
		InBlock: blockOf(b),
		Work:    time.Duration(t.Work) * time.Second,
		Rest:    time.Duration(t.Rest) * time.Second,
	}
	for _, d := range t.Drills {
		if d.Hard && f.Drill == "" {
			f.Drill = d.Name
		}
	}
	for _, p := range t.Players {
		if c.in.Spared(p) {
			f.Who = append(f.Who, p.First())
		}
	}
	if f.Drill != "" && len(f.Who) > 0 {
		c.find(Stop, b.From, f, mend("A coach allows it", edit.Allow{Block: b.ID}))
	}
}
