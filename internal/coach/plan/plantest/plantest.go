// Package plantest makes sound plans of every kind for tests: with and without stations, split rounds, none to eight
// groups, nobody, one or forty players.
package plantest

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/day"
)

// Start is when the made sessions begin: a Tuesday at 18:00.
var Start = time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC)

// Input is a session with a plan, the same for the same seed.
func Input(seed uint64) work.Input {
	r := rand.New(rand.NewPCG(seed, 12))
	in := work.Input{
		Booked: time.Duration(30+15*r.IntN(7)) * time.Minute,
		Start:  Start,
		Drills: map[string]coach.Drill{},
		There:  map[string]work.There{},
		Stages: map[string]string{"s1": "First", "s2": "Second"},
		Floor:  floor.Of("hall", float64(10+r.IntN(40)), float64(8+r.IntN(20))),
	}
	for i := range pick(r, 0, 1, 2, 7, 12, 20, 40) {
		p := coach.Player{
			ID:    fmt.Sprintf("00000000-0000-4000-8000-%012d", i+1),
			Name:  fmt.Sprintf("Player %02d", i),
			Stage: pick(r, "s1", "s2", ""),
		}
		if r.IntN(6) == 0 {
			p.Limits = []coach.Limit{{What: "jumping", Until: day.Of(Start).Add(r.IntN(3))}}
		}
		if r.IntN(8) == 0 {
			in.There[p.ID] = pick(
				r,
				work.There{From: 20 * time.Minute},
				work.There{Until: 30 * time.Minute},
				work.There{No: "overhead"},
			)
		}
		in.Players = append(in.Players, p)
	}
	for i, role := range []coach.Role{coach.RoleLead, coach.RoleCoach, coach.RoleHelper}[:r.IntN(4)] {
		in.Leaders = append(
			in.Leaders,
			work.Leader{
				ID:    fmt.Sprintf("00000000-0000-4000-9000-%012d", i+1),
				Name:  fmt.Sprintf("Leader %d", i),
				Role:  role,
				Until: pick(r, 0, 0, 40*time.Minute),
			},
		)
	}
	for i := range 10 {
		d := Drill(r, i)
		in.Drills[d.ID] = d
		in.Shelf = append(in.Shelf, d)
	}
	in.Plan = document(r, in)
	if seed >= FirstWithTwo && seed%3 == 0 {
		in.Plan = twice(r, in)
	}
	return in
}

// FirstWithTwo is the seed from which every third plan has a second block of stations, for groups of another deal.
const FirstWithTwo = 60

// twice adds a second block of stations, with its own stations, rounds and deal, somewhere in the plan.
func twice(r *rand.Rand, in work.Input) doc.Plan {
	p := in.Plan
	c := &doc.Circuit{
		Work:   60 * (1 + r.IntN(6)),
		Brief:  pick(r, 0, 60),
		Rounds: pick(r, 0, 0, 2),
		Deal:   "d2",
		Move:   r.IntN(4) == 0,
	}
	for range min(1+r.IntN(4), doc.Most-len(p.Stations())) {
		c.Stations = append(c.Stations, doc.Station{Drill: in.Shelf[r.IntN(len(in.Shelf))].ID, Edition: 1})
	}
	p.Deals = append(p.Deals, doc.Deal{ID: "d2", Way: pick(r, deal.Near, deal.Mixed), Groups: 1 + r.IntN(4)})
	p.Blocks = slices.Insert(
		p.Blocks,
		r.IntN(len(p.Blocks)+1),
		doc.Block{Kind: doc.Stations, Title: "More stations", Circuit: c},
	)
	p.Name()
	in.Plan = p
	if len(in.Players) > 0 {
		_ = in.DealOut()
	}
	return in.Plan
}

// leader is who has to stand there. Two draws before it were for what drills do not say any more: without them the plans
// that were kept would have another shelf.
func leader(r *rand.Rand) coach.Leader {
	r.IntN(8)
	r.IntN(6)
	return pick(r, coach.SelfRun, coach.AnyHelper, coach.AnyCoach, coach.Qualified)
}

// Drill is one of the shelf: some with turns, roles, a target of some kind, balls that fly on, and what it asks.
func Drill(r *rand.Rand, i int) coach.Drill {
	d := coach.Drill{
		ID:        fmt.Sprintf("00000000-0000-4000-a000-%012d", i+1),
		Edition:   1,
		Name:      fmt.Sprintf("Drill %c", 'A'+i),
		Setup:     "As it is said.",
		Skills:    []string{pick(r, "throwing", "footwork", "catching")},
		Approach:  "technique-first",
		Practice:  pick(r, "blocked", "varied", "random"),
		Form:      "cooperative",
		Places:    1 + r.IntN(4),
		Least:     1 + r.IntN(3),
		Most:      4 + r.IntN(12),
		Pace:      float64(r.IntN(20)),
		Chance:    0.1 + 0.8*r.Float64(),
		Leader:    leader(r),
		Length:    float64(3 + r.IntN(12)),
		Width:     float64(3 + r.IntN(8)),
		Clearance: float64(r.IntN(3)),
		Hard:      r.IntN(3) == 0,
		Fire:      pick(r, 0.0, 0, 6),
		Keys:      []string{"Soft hands", "Eyes up"},
		Variants:  []coach.Variant{{Name: "Nearer", Suits: "First"}},
		Easier:    1,
	}
	d.Target = pick(
		r,
		coach.Target{},
		coach.Target{Kind: coach.RunOf, N: 5},
		coach.Target{Kind: coach.Total, N: 20},
		coach.Target{Kind: coach.SetOfStreaks, N: 5, Skills: 4, Back: "all"},
		coach.Target{Kind: coach.Race, N: 7, Against: 9},
	)
	if r.IntN(4) == 0 {
		d.Work, d.Rest, d.Series = 10+r.IntN(50), 10+r.IntN(90), 1+r.IntN(4)
	}
	if r.IntN(3) == 0 {
		d.Asks = []string{pick(r, "jumping", "overhead")}
	}
	if r.IntN(3) == 0 {
		d.Roles = []string{"feeder"}
	}
	return d
}

func document(r *rand.Rand, in work.Input) doc.Plan {
	d := doc.Deal{ID: "d1", Way: pick(r, deal.Near, deal.Mixed), Groups: 1 + r.IntN(doc.Most)}
	c := &doc.Circuit{
		Work:   60 * (1 + r.IntN(9)),
		Change: pick(r, 0, 0, 30),
		Brief:  pick(r, 0, 120),
		Rounds: pick(r, 0, 0, 1, 3, 6),
	}
	p := doc.Plan{Seed: r.Uint64()}
	c.Move = r.IntN(4) == 0
	p.Key = pick(r, "", "soft hands")
	task := func() doc.Task { return doc.Task{Drill: in.Shelf[r.IntN(len(in.Shelf))].ID, Edition: 1} }
	leader := func() string {
		if len(in.Leaders) == 0 || r.IntN(2) == 0 {
			return ""
		}
		return in.Leaders[r.IntN(len(in.Leaders))].ID
	}
	sides := func() map[string]doc.Task {
		if len(in.Players) == 0 || r.IntN(4) > 0 {
			return nil
		}
		return map[string]doc.Task{in.Players[r.IntN(len(in.Players))].ID: pick(r, doc.Task{}, task())}
	}
	for range r.IntN(doc.Most + 1) {
		t := task()
		s := doc.Station{
			Drill:   t.Drill,
			Edition: 1,
			Leader:  leader(),
			Double:  r.IntN(5) == 0,
			Target:  pick(r, 0, 0, 4),
			Side:    sides(),
		}
		if r.IntN(5) == 0 {
			s.Own = map[string]doc.Task{doc.GroupKey(r.IntN(3)): pick(r, doc.Task{}, task())}
		}
		if r.IntN(5) == 0 {
			s.Spot = &floor.Spot{
				X:      float64(r.IntN(20)),
				Y:      float64(r.IntN(10)),
				Length: 6,
				Width:  5,
				Turn:   90 * r.IntN(4),
			}
		}
		c.Stations = append(c.Stations, s)
	}
	owner := "" // of the stations
	for i := range 1 + r.IntN(7) {
		k := doc.Kinds[r.IntN(len(doc.Kinds))]
		b := doc.Block{ID: fmt.Sprint("b", i+1), Kind: k, Title: fmt.Sprintf("%s %d", k, i+1), Minutes: 1 + r.IntN(20)}
		t := task()
		switch k {
		case doc.Stations:
			b.Minutes, b.Rounds = 0, pick(r, 0, 0, 1, 2)
			if owner == "" {
				owner, b.Circuit = b.ID, c
			} else {
				b.After = owner
			}
		case doc.Look, doc.Pairs:
			b.Way, b.Turn, b.Team = rotate.Ways[r.IntN(len(rotate.Ways))], pick(r, 0, 45, 60), pick(r, 0, 2, 3)
		case doc.Ladder:
			for range r.IntN(4) {
				b.Steps = append(b.Steps, task())
			}
		case doc.Turns, doc.Run:
			b.Intervals = turns(r, task)
		case doc.Game:
			if n := len(in.Players); n > 1 && r.IntN(2) == 0 {
				if games := rotate.Games(n, 20, 15, 1); len(games) > 0 {
					b.Game = &games[r.IntN(len(games))]
					b.Game.Swap = pick(r, 0, 0, 120)
				}
				if r.IntN(3) == 0 {
					b.Teams = &doc.Teams{Seed: r.Uint64(), Put: map[string]int{in.Players[0].ID: r.IntN(4)}}
				}
			}
		}
		if k != doc.Stations && k != doc.Ladder && !k.InTurns() && r.IntN(2) == 0 {
			b.Drill, b.Edition, b.Side = t.Drill, 1, sides()
		}
		p.Blocks = append(p.Blocks, b)
	}
	if owner == "" && len(c.Stations) > 0 {
		p.Blocks = slices.Insert(
			p.Blocks,
			p.BeforeTheEnd(),
			doc.Block{Kind: doc.Stations, Title: "Stations", Circuit: c},
		)
	}
	p.Deals = []doc.Deal{d}
	p.Name()
	in.Plan = p
	if r.IntN(6) > 0 && len(in.Players) > 0 {
		_ = in.DealOut() // what cannot be dealt stays undealt
	}
	if c.Move {
		for range d.Groups {
			c.With = append(c.With, leader())
		}
	}
	return in.Plan
}

// turns are intervals of some kind, with none, one or several exercises.
func turns(r *rand.Rand, task func() doc.Task) *doc.Intervals {
	n := &doc.Intervals{
		Work:    5 + r.IntN(60),
		Rest:    r.IntN(120),
		Change:  pick(r, 0, 0, 5),
		Turns:   1 + r.IntN(4),
		Places:  1 + r.IntN(5),
		Feeders: pick(r, 0, 0, 1, 2),
		Long:    pick(r, 0, 120),
		Light:   pick(r, doc.Task{}, task()),
		Allowed: r.IntN(2) == 0,
	}
	for range r.IntN(4) {
		n.Exercises = append(n.Exercises, doc.Exercise{Task: task(), How: pick(r, "", "regular feeds")})
	}
	return n
}

// Edits has every kind of edit at least once, as the pages send them for this plan, and some that come too late.
func Edits(in work.Input) (out []edit.Wire) {
	add := func(do, at string, value any) {
		out = append(out, edit.Wire{Do: do, At: at, Value: fmt.Sprint(value)})
	}
	task := in.Shelf[0].ID + "@1"
	player, leader := "00000000-0000-4000-8000-000000000001", "00000000-0000-4000-9000-000000000001"
	for _, o := range [][2]any{
		{"work", 300}, {"change", 25}, {"brief", 60}, {"rounds", 0}, {"rounds", 2}, {"rounds", 5}, {"groups", 1}, {"groups", 3}, {"groups", 8},
		{"way", deal.Mixed}, {"deal", ""}, {"redeal", ""}, {"positions", "goalkeeper"}, {"key", "eyes up"}, {"pin", "deal"}, {"pin", "station s1"},
		{"gives", doc.Game}, {"leaders", "move"}, {"leaders", "stay"}, {"goes-with", "0 " + leader}, {"player", player + " 0"}, {"edition", task},
		{"add-station", task},
	} {
		add(o[0].(string), "", o[1])
	}
	stations := []string{"s1", "s99"}
	if all := in.Plan.Stations(); len(all) > 0 {
		stations = append(stations, all[len(all)-1].ID)
	}
	for _, id := range stations {
		for _, o := range [][2]any{
			{"drill", task}, {"leader", leader}, {"leader", ""}, {"target", 7}, {"spot", "1 2 90 6 5"}, {"spot", ""}, {"variant", "group 1=Nearer"},
			{"double", ""}, {"own", "group 1=" + task}, {"own", "group 2=-"}, {"own", "group 1="}, {"side", player + " " + task}, {"side", player + " -"}, {"side", player}, {"drop-station", ""},
		} {
			add(o[0].(string), id, o[1])
		}
	}
	for _, b := range append(slices.Clone(in.Plan.Blocks), doc.Block{ID: "b99"}) {
		for _, o := range [][2]any{
			{"minutes", 7}, {"title", "Another"}, {"note", "bibs"}, {"task", task}, {"task", ""}, {"step", "0 later"}, {"step", "1 out"},
			{"step", "0 " + task}, {"change-by", rotate.Ways[0]}, {"turn", 60}, {"team", 3}, {"score", "1 " + player + " 4"},
			{"score", "0 " + player + " -1"}, {"game", "1 3 3 0 0 0 0"}, {"game-figure", "a 4"}, {"sides", ""},
			{"side-of", player + " 1"}, {"block-side", player + " " + task}, {"move-block", "earlier"},
			{"interval", "work 15"}, {"interval", "places 2"}, {"interval", "grow 1"}, {"interval", "upto 6"}, {"interval", "feeders 1"}, {"exercise", task}, {"exercise", "0 how irregular"},
			{"exercise", "0 later"}, {"exercise", "0 out"}, {"light", task}, {"light", ""}, {"allow", "yes"}, {"allow", ""},
			{"move-block", "later"}, {"move-block", 0}, {"split-block", 1}, {"split-block", 2}, {"drop-block", ""},
		} {
			add(o[0].(string), b.ID, o[1])
		}
	}
	add("unit", "", "0 Infielders")
	for _, k := range doc.Kinds {
		add("add-block", in.Plan.Blocks[0].ID, k)
	}
	return out
}
func pick[T any](r *rand.Rand, of ...T) T { return of[r.IntN(len(of))] }
