package check_test

import (
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/plantest"
)

// shown is everything that pages say of a plan, in lines.
func shown(pic check.Picture) string {
	var b strings.Builder
	say := func(format string, args ...any) { fmt.Fprintf(&b, format+"\n", args...) }
	c := pic.Main()
	say("total %v, change %v, longest %.2f, %s", pic.Total, c.Change, c.Longest, c.Rotation)
	for _, m := range pic.Moments {
		say("%v-%v %s %s %d", m.From, m.To, m.Kind, m.Label, m.Round)
	}
	for _, s := range pic.Stations {
		say("station %s %v %v %v %v %s", s.Drill.Name, s.Spot, s.Fits, s.Visits, s.Also, s.Target)
	}
	for _, g := range pic.Groups {
		say("group %s %v %s", g.Shape.Name, g.Route, g.Stage)
		for _, p := range g.Players {
			say("  %s", p.Name)
		}
	}
	for _, r := range pic.Ledger {
		say(
			"%s %.3f %v %v %v %v %v %v %v %v",
			r.Player.Name,
			r.Reps,
			r.Active,
			r.Waiting,
			r.Resting,
			r.Moving,
			r.Away,
			r.Wait,
			r.LeadSees,
			r.SeenBy,
		)
	}
	for _, l := range pic.Leaders {
		say("%s busy %v %v", l.Leader.Name, l.Busy, l.Cells)
	}
	for _, k := range pic.Kit {
		say("%s %d %d %v %v", k.Name, k.Need, k.Short, k.At, k.Where)
	}
	for _, f := range pic.Findings {
		switch f.What.(type) {
		case check.NoPartner, check.NotForTwo: // the first version did not look for them
			continue
		}
		say("%s %s %v: %s", f.Weight, f.Where(), f.At, f.Says())
		for _, m := range f.Mends {
			say("  %s", m.Words)
		}
	}
	return b.String()
}

// Plans that were kept by the first version of the document, with all that was shown of them then: each is read, shows
// the same, and is the same again when it was written in the second. Stations that no block held, so that they were
// never run, get a block.
func TestAPlanOfTheFirstVersionShowsTheSame(t *testing.T) {
	b, err := os.ReadFile("testdata/first-version.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []struct {
		Seed  uint64
		Lost  bool // its stations were in no block
		Plan  json.RawMessage
		Shown []string
	}
	if err := json.Unmarshal(b, &cases); err != nil || len(cases) < 20 {
		t.Fatalf("%d plans, %v", len(cases), err)
	}
	for _, c := range cases {
		in := plantest.Input(c.Seed)
		if in.Plan, err = doc.Read(c.Plan); err != nil {
			t.Fatalf("seed %d: %v", c.Seed, err)
		}
		if err := in.Plan.Check(); err != nil {
			t.Errorf("seed %d: %v", c.Seed, err)
		}
		now := shown(check.Plan(in))
		if c.Lost {
			if len(in.Plan.Circuits()) != 1 || len(in.Plan.Stations()) == 0 {
				t.Errorf("seed %d: the stations of no block: %s", c.Seed, document(t, in.Plan))
			}
		} else if then := strings.Join(c.Shown, "\n"); strings.TrimSpace(now) != then {
			t.Errorf("seed %d shows\n%s\nand showed\n%s", c.Seed, now, then)
		}
		written := document(t, in.Plan)
		if in.Plan, err = doc.Read([]byte(written)); err != nil || document(t, in.Plan) != written ||
			shown(check.Plan(in)) != now {
			t.Errorf("seed %d is another plan when it was written and read: %v", c.Seed, err)
		}
	}
}
