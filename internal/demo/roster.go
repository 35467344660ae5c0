package demo

import (
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// roster: 70 players. The numbers are how many begin on each stage.
func (l *loader) roster() error {
	var places []coach.Stage
	for i, n := range []int{15, 17, 12, 7} {
		places = append(places, slices.Repeat([]coach.Stage{l.programs[0].Stages[i]}, n)...)
	}
	for i, n := range []int{3, 3, 2, 1, 1} {
		places = append(places, slices.Repeat([]coach.Stage{l.programs[1].Stages[i]}, n)...)
	}
	places = append(places, slices.Repeat([]coach.Stage{l.programs[0].Stages[0]}, 9)...) // the adults
	for i := range 70 {
		s := places[i]
		age := 7 + s.Order*2 + l.rng.IntN(3)
		if i >= 61 {
			age = 24 + l.rng.IntN(35)
		}
		p := store.Player{
			ID:        store.NewID(),
			Name:      l.content.People[i],
			BirthYear: l.now.Year() - age,
			Side:      "right",
			Joined:    day.Of(l.now).Add(-90 - l.rng.IntN(500)),
		}
		if i%9 == 4 {
			p.Side = "left"
		}
		since := day.Of(l.now).Add(-70 - l.rng.IntN(20))
		if i == 12 { // joined last week
			p.Joined = day.Of(l.now).Add(-7)
			since = p.Joined
			p.Tags = []string{"new"}
		}
		if i%17 == 5 {
			p.Tags = append(p.Tags, "goalkeeper")
		}
		p.Standings = []store.Standing{{Program: s.ProgramID, Stage: s.ID, Since: since}}
		if i%6 == 1 && i < 32 { // some skip rope as well
			r := l.programs[1].Stages[l.rng.IntN(3)]
			p.Standings = append(p.Standings, store.Standing{Program: r.ProgramID, Stage: r.ID, Since: since})
		}
		l.ability[p.ID] = 0.45 + 0.5*l.rng.Float64()
		l.players = append(l.players, p)
	}
	sisters := []int{0, 3}
	l.players[sisters[1]].Name = "Davina " + strings.Fields(l.players[sisters[0]].Name)[1]
	l.special["lucky"], l.special["ready"], l.special["ready too"], l.special["unseen"], l.special["new"], l.special["short"] = l.players[17].ID, l.players[19].ID, l.players[5].ID, l.players[21].ID, l.players[12].ID, l.players[23].ID
	if err := l.tx.PutPlayers(l.ctx, l.players); err != nil {
		return err
	}
	var ids []string
	for _, p := range l.players {
		ids = append(ids, p.ID)
	}
	err := l.tx.SetKeeps(
		l.ctx,
		ids,
		[]store.Pair{{A: ids[sisters[0]], B: ids[sisters[1]]}, {A: ids[6], B: ids[9], Apart: true}},
	)
	if err != nil {
		return err
	}
	twelfth := time.Date(l.now.Year(), l.now.Month(), 12, 0, 0, 0, 0, l.now.Location())
	for !twelfth.After(l.now) {
		twelfth = twelfth.AddDate(0, 1, 0)
	}
	return l.tx.SetLimits(l.ctx, ids[18], []store.Limit{{What: "jumping", Until: day.Of(twelfth)}})
}

func (l *loader) week() error {
	halls := map[string]store.Venue{
		"A": {
			Name:   "Sea Hall A",
			Floor:  "handball",
			Length: 40,
			Width:  20,
			Zones: []floor.Area{
				{Name: "sea half", Length: 20, Width: 20},
				{Name: "town half", X: 20, Length: 20, Width: 20},
			},
			Blocked: []floor.Area{{Name: "stacked benches", X: 37, Y: 18.5, Length: 3, Width: 1.5}},
		},
		"B": {
			Name:    "Sea Hall B",
			Floor:   "hall",
			Length:  15,
			Width:   12,
			Blocked: []floor.Area{{Name: "wall bars", Length: 15, Width: 0.5}},
		},
		"F": {Name: "Quay Field", Floor: "field", Length: 60, Width: 40},
	}
	for _, k := range []string{"A", "B", "F"} {
		v := halls[k]
		v.ID = store.NewID()
		halls[k] = v
		if err := l.tx.PutVenue(l.ctx, v); err != nil {
			return err
		}
	}
	var kit []coach.Kit
	for _, k := range l.content.Kit {
		kit = append(kit, coach.Kit{ID: store.NewID(), Name: k.Name, Count: k.Count, StandsIn: k.StandsIn})
	}
	if err := l.tx.PutKit(l.ctx, kit, nil); err != nil {
		return err
	}
	lead := func(who ...string) (out []store.ClassMember) {
		for _, w := range who {
			m := store.ClassMember{Member: l.member[w]}
			if w == "Bea" {
				m.Until = 50
			}
			out = append(out, m)
		}
		return out
	}
	stages := func(program int, order ...int) (ids []string) {
		for _, o := range order {
			ids = append(ids, l.programs[program].Stages[o].ID)
		}
		return ids
	}
	span := func(from, to int) (out []int) {
		for i := from; i < to; i++ {
			out = append(out, i)
		}
		return out
	}
	var skippers []int
	for i, p := range l.players {
		if _, in := p.In(l.programs[1].ID); in {
			skippers = append(skippers, i)
		}
	}
	for _, k := range []struct {
		store.Class
		hall    string
		program int
		players []int
	}{
		{store.Class{Name: "Tuesday hall", Weekday: 2, Starts: "18:00", Minutes: 90, Places: 22, StageIDs: stages(0, 0, 1), Members: lead("Ines", "Tomasz", "Bea", "Kofi")}, "A", 0, append(append(span(0, 7), 12), span(15, 26)...)},
		{store.Class{Name: "Thursday hall", Weekday: 4, Starts: "17:30", Minutes: 90, Places: 24, StageIDs: stages(0, 1, 2), Members: lead("Tomasz", "Leila", "Yuki")}, "A", 0, append(span(24, 32), span(32, 44)...)},
		{store.Class{Name: "Saturday Shore", Weekday: 6, Starts: "10:00", Minutes: 60, Places: 16, StageIDs: stages(0, 0), Members: lead("Leila", "Kofi", "Bea")}, "B", 0, span(3, 15)},
		{store.Class{Name: "Saturday squad", Weekday: 6, Starts: "11:30", Minutes: 105, Places: 16, StageIDs: stages(0, 3), Members: lead("Ines", "Tomasz")}, "A", 0, span(44, 51)},
		{store.Class{Name: "Skipping club", Weekday: 2, Starts: "12:30", Minutes: 45, Places: 18, StageIDs: stages(1, 0, 1, 2, 3, 4), Members: lead("Leila", "Yuki")}, "B", 1, skippers},
		{store.Class{Name: "Adult beginners", Weekday: 3, Starts: "19:40", Minutes: 75, Places: 12, StageIDs: stages(0, 0), Members: lead("Tomasz", "Kofi")}, "A", 0, span(61, 70)},
	} {
		c := k.Class
		c.ID, c.VenueID, c.ProgramID = store.NewID(), halls[k.hall].ID, l.programs[k.program].ID
		if err := l.tx.PutClass(l.ctx, c); err != nil {
			return err
		}
		for _, i := range k.players {
			l.inClass[c.Name] = append(l.inClass[c.Name], l.players[i].ID)
		}
		if err := l.tx.Enrol(l.ctx, c.ID, l.inClass[c.Name]); err != nil {
			return err
		}
		l.classes[c.Name] = c
	}
	return nil
}

var classNames = []string{
	"Skipping club",
	"Tuesday hall",
	"Adult beginners",
	"Thursday hall",
	"Saturday Shore",
	"Saturday squad",
}
