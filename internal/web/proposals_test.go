package web

import (
	"slices"
	"testing"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/propose"
	"gruppo/internal/coach/suggest"
	"gruppo/internal/store"
)

// proposed counts what can be said of proposals.
type proposed struct {
	plans, stops, settles int
	onAim, stations       int // stations that practise the aim, where the shelf has drills for it
	unusual               int // tasks much longer or shorter than usual
	idle                  int // plans less than 70 % active
	empty                 int // blocks that want a task and have none
	says                  map[string]int
}

func (c *proposed) add(pic check.Picture, aim string) {
	c.plans++
	if pic.Active < 0.7 && pic.Plan.Shape != "intervals" && pic.Plan.Shape != "routine" { // there most have to rest
		c.idle++
	}
	for _, f := range pic.Findings {
		switch f.Weight {
		case check.Stop:
			c.stops++
			c.says[f.Says()]++
		case check.Settle:
			c.settles++
			c.says[f.Says()]++
		}
		if _, is := f.What.(check.NoTask); is {
			c.empty++
		}
	}
	for _, s := range pic.Stations {
		c.stations++
		if slices.Contains(s.Drill.Skills, aim) {
			c.onAim++
		}
	}
	for _, b := range pic.Blocks {
		if b.Task == nil || b.Task.Minutes[1] == 0 {
			continue
		}
		if m := (b.To - b.From).Minutes(); m > suggest.LongAt*float64(b.Task.Minutes[1]) ||
			m < suggest.ShortAt*float64(b.Task.Minutes[0]) {
			c.unusual++
		}
	}
}

// In every class of the demo, in every shape that its sport has, for three aims: no proposal stops, at most one in
// twenty has anything to settle, two thirds of the stations are for the aim, tasks are on about as long as they usually are,
// and most plans keep players active for 70 % of the time, where the shape does not ask for rest.
func TestProposalsCanBeTakenAsTheyAre(t *testing.T) {
	t.Parallel()
	s := serve(t)
	lisbon, err := time.LoadLocation("Europe/Lisbon")
	if err != nil {
		t.Fatal(err)
	}
	all := proposed{says: map[string]int{}}
	for class, aims := range map[string][]string{
		"Tuesday hall":    {"shooting", "passing", "defending"},
		"Adult beginners": {"shooting", "passing", "defending"},
		"Thursday hall":   {"shooting", "passing", "defending"},
		"Saturday Shore":  {"shooting", "passing", "defending"},
		"Saturday squad":  {"shooting", "passing", "defending"},
		"Skipping club":   {"rope control", "rope rhythm", "rope routine"},
	} {
		l := in(t, s, func(tx *store.Tx) (app.Loaded, error) {
			return app.Read(ctx, tx, s.session(t, class).ID, evening, lisbon)
		})
		for _, shape := range propose.ShapesOf(l.Program.Family) {
			for _, aim := range aims {
				in := l.Input
				in.Plan = doc.Plan{Deals: []doc.Deal{{ID: "d1", Way: deal.Near, Groups: 3}}}
				p, err := propose.Plan(in, shape.Key, doc.Aim{Kind: "skill", Value: aim})
				if err != nil {
					t.Fatalf("%s, %s, %s: %v", class, shape.Key, aim, err)
				}
				in.Plan, in.Drills = p, map[string]coach.Drill{}
				for _, d := range in.Shelf {
					in.Drills[d.ID] = d
				}
				if err := in.Redeal(); err != nil {
					t.Fatal(err)
				}
				all.add(check.Plan(in), aim)
			}
		}
	}
	t.Logf("%d plans: %d to settle, %d of %d stations for the aim, %d tasks too long or short, %d plans under 70 %% active, %d blocks without a task",
		all.plans, all.settles, all.onAim, all.stations, all.unusual, all.idle, all.empty)
	if all.plans < 100 || all.stops > 0 || all.settles*20 > all.plans || all.onAim*3 < all.stations*2 ||
		all.unusual*20 > all.plans || all.idle*8 > all.plans {
		t.Errorf("%+v", all)
	}
}
