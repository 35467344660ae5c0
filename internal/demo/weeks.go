package demo

import (
	"maps"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/run"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// used marks two drills' targets in the sessions that had them, rising a little from week to week.
func (l *loader) used() error {
	rng := rand.New(rand.NewPCG(11, 1850))
	told := slices.Collect(maps.Values(l.special)) // whose story is told elsewhere
	all, err := l.tx.Sessions(l.ctx, store.SessionFilter{From: l.now.AddDate(0, 0, -100)})
	if err != nil {
		return err
	}
	for _, s := range all {
		for _, name := range []string{"Hoop throws", "Jump-shot approach"} {
			d := l.drill[name]
			if !s.StartsAt.Before(l.now) ||
				!slices.ContainsFunc(s.Plan.Stations(), func(x doc.Station) bool { return x.Drill == d.ID }) {
				continue
			}
			weeks := l.now.Sub(s.StartsAt).Hours() / 24 / 7
			for _, g := range s.Plan.Deals[0].Players {
				for _, id := range g {
					if rng.IntN(3) > 0 || slices.Contains(told, id) {
						continue
					}
					made := 0.0
					for range 10 {
						if rng.Float64() < d.Chance+0.12-0.02*weeks {
							made++
						}
					}
					m := coach.Mark{
						ID:        store.NewID(),
						PlayerID:  id,
						DrillID:   d.ID,
						SessionID: s.ID,
						Figure:    made,
						Tries:     10,
						At:        s.StartsAt.Add(40 * time.Minute),
						By:        l.member["Tomasz"],
					}
					if err := l.tx.AddMark(l.ctx, m); err != nil {
						return err
					}
				}
			}
		}
	}
	return nil
}

// planFor is a class's plan in a week, dealt to the players who come.
func (l *loader) planFor(c store.Class, week int, coming []store.Player) (doc.Plan, error) {
	p := doc.Start(time.Duration(c.Minutes)*time.Minute, coach.BallGames)
	stations := p.First()
	names := l.content.Circuits[c.Name][week%len(l.content.Circuits[c.Name])]
	for i, n := range names {
		d := l.drill[n]
		s := doc.Station{Drill: d.ID, Edition: d.Edition}
		if d.Leader != coach.SelfRun && i < len(c.Members) {
			s.Leader = c.Members[i%len(c.Members)].Member
		}
		stations.Stations = append(stations.Stations, s)
	}
	p.Deals[0].Groups, p.Seed = len(names), uint64(week)
	if c.Name == "Tuesday hall" {
		p.Key = "elbow over ear"
		p.Blocks = []doc.Block{
			{Kind: doc.Together, Title: "Warm-up", Minutes: 10, Drill: l.drill["Harbour round"].ID, Edition: 1},
			{
				Kind:    doc.Look,
				Title:   "First look",
				Minutes: 9,
				Way:     rotate.MoveOn,
				Turn:    45,
				Drill:   l.drill["Rally for two"].ID,
				Edition: 1,
			},
			{Kind: doc.OneKey, Title: "One key", Minutes: 5},
			{Kind: doc.Stations, Title: "Stations", Circuit: stations},
			{
				Kind:    doc.Game,
				Title:   "Game with floaters",
				Minutes: 24,
				Game:    &rotate.Game{Areas: 1, A: 7, B: 7, Floaters: 2, Length: 40, Width: 20},
			},
			{Kind: doc.Close, Title: "Close", Minutes: 6},
		}
		if week%3 == 0 {
			for i, who := range []string{"Ines", "Tomasz", "Bea"} {
				stations.Stations[i+1].Leader = l.member[who]
			}
		}
	}
	p.Name()
	var players []coach.Player
	for _, pl := range coming {
		for _, pr := range l.programs {
			if pr.ID == c.ProgramID {
				cp := pl.Coach(pr)
				cp.Level += l.ability[pl.ID]
				players = append(players, cp)
			}
		}
	}
	in := work.Input{Plan: p, Players: players}
	err := in.DealOut()
	return in.Plan, err
}

// on is the class's meeting a number of weeks from its next one.
func (l *loader) on(c store.Class, weeks int) (time.Time, error) {
	at, _, err := day.On(day.Next(time.Weekday(c.Weekday), l.now).AddDate(0, 0, 7*weeks), c.Starts, l.now.Location())
	return at, err
}

// history: twelve weeks of sessions with register, marks and decisions.
func (l *loader) history() error {
	for week := -12; week < 0; week++ {
		for _, name := range classNames {
			if err := l.pastSession(l.classes[name], week); err != nil {
				return err
			}
		}
	}
	if err := l.stories(); err != nil {
		return err
	}
	for i, p := range l.players {
		pr := l.programs[0]
		st, in := p.In(pr.ID)
		if !in || i%4 != 2 {
			continue
		}
		j := slices.IndexFunc(pr.Stages, func(s coach.Stage) bool { return s.ID == st.Stage })
		if j < 1 {
			continue
		}
		from := pr.Stages[j-1]
		d := deciding.Decision{
			ID:        store.NewID(),
			PlayerID:  p.ID,
			ProgramID: pr.ID,
			Kind:      "up",
			FromStage: from.ID,
			ToStage:   from.ID,
			Why:       "Steady over the whole term.",
			At:        st.Since.Start(l.now.Location()).Add(19 * time.Hour),
			Evidence:  deciding.Evidence{Stage: from.Name, Ready: true},
		}
		for _, c := range from.Criteria {
			if c.Must {
				d.Evidence.Items = append(
					d.Evidence.Items,
					deciding.EvidenceOfItem{
						Wording:  c.Wording,
						Standard: c.Standard(),
						State:    "shown",
						Marks:    []string{"from the paper list of last season"},
					},
				)
			}
		}
		d.ToStage = pr.Stages[j].ID
		if err := l.tx.RecordDecision(l.ctx, d, l.member["Ines"]); err != nil {
			return err
		}
	}
	return nil
}

func (l *loader) present(c store.Class) []store.Player {
	return slices.DeleteFunc(
		slices.Clone(l.players),
		func(p store.Player) bool { return !slices.Contains(l.inClass[c.Name], p.ID) },
	)
}

func (l *loader) pastSession(c store.Class, week int) error {
	at, err := l.on(c, week)
	if err != nil {
		return err
	}
	var coming []store.Player
	said := map[string]string{}
	for _, p := range l.present(c) {
		if p.Joined.After(day.Of(at)) {
			continue
		}
		switch x := l.rng.Float64(); {
		case x < 0.12:
			said[p.ID] = "absent"
		case x < 0.18:
			said[p.ID] = "late"
		default:
			said[p.ID] = "present"
		}
		if said[p.ID] != "absent" {
			coming = append(coming, p)
		}
	}
	pl, err := l.planFor(c, week+12, coming)
	if err != nil {
		return err
	}
	id, err := l.addSession(c, at, pl)
	if err != nil {
		return err
	}
	s, err := l.tx.Session(l.ctx, id)
	if err != nil {
		return err
	}
	lead := c.Members[0].Member
	for _, p := range l.present(c) {
		if w := said[p.ID]; w != "" {
			if err := l.send(s, lead, at, app.Item{Kind: "said", Tally: store.Tally{Player: p.ID}, State: w}); err != nil {
				return err
			}
		}
	}
	starts := at.Add(time.Duration(l.rng.IntN(4)) * time.Minute)
	if err := l.send(s, lead, starts, app.Item{Kind: "clock", Do: "start"}); err != nil {
		return err
	}
	for i, p := range coming {
		if slices.Contains(
			[]string{
				l.special["lucky"],
				l.special["ready"],
				l.special["ready too"],
				l.special["short"],
				l.special["new"],
			},
			p.ID,
		) ||
			p.ID == l.special["unseen"] && week > -8 {
			continue // their story is told below
		}
		if err := l.marksOf(p, c, s, pl, i, week); err != nil {
			return err
		}
	}
	if err := l.hall(c, s, pl, coming, week); err != nil {
		return err
	}
	return l.send(s, lead, at.Add(time.Duration(c.Minutes)*time.Minute), app.Item{Kind: "clock", Do: "end"})
}

// send lets something come in as a phone in the hall sends it, at the moment it is done.
func (l *loader) send(s store.Session, by string, at time.Time, it app.Item) error {
	b := l.inboxes[s.ID+by]
	if b == nil {
		b = app.OpenInbox(l.ctx, l.tx, s, l.members[by], at)
		l.inboxes[s.ID+by] = b
	}
	it.ID, it.At, b.Now = store.NewID(), at, at
	return b.Take(it)
}

// hall is what a session left beside its marks: what the rounds gave, who has which key, and notes that come back.
func (l *loader) hall(c store.Class, s store.Session, pl doc.Plan, coming []store.Player, week int) error {
	var given []run.Given
	stations, dealt := pl.Stations(), pl.Deals[0].Players
	for i, st := range stations {
		if i >= len(dealt) || len(dealt[i]) == 0 {
			continue
		}
		d, n := l.drillByID(st.Drill), len(dealt[i])
		work := time.Duration(pl.First().Work) * time.Second
		at := load.Of(d).At(n, work)
		given = append(
			given,
			run.Given{
				Round:   1,
				Station: i,
				Group:   i,
				Drill:   d.ID,
				Time:    work,
				AtOnce:  at.AtOnce,
				Players: n,
				Counted: n,
				Tries:   int(at.Reps*float64(n)*0.86 + 0.5),
				Planned: at.Reps,
			},
		)
	}
	if err := l.tx.PutRounds(l.ctx, s.ID, given); err != nil {
		return err
	}
	if week < -6 {
		return nil
	}
	lead := c.Members[0].Member
	for i, p := range coming {
		keys := l.drillByID(stations[i%len(stations)].Drill).Keys
		for j, key := range keys[:min(2, len(keys))] {
			if (i+j+week+24)%3 == 0 {
				has := app.Item{
					Kind:  "has",
					Tally: store.Tally{Player: p.ID},
					Key:   key,
					Has:   l.ability[p.ID] > 0.55+0.1*float64(j),
				}
				if err := l.send(s, lead, s.StartsAt.Add(40*time.Minute), has); err != nil {
					return err
				}
			}
		}
	}
	if week != -1 || c.Name != "Tuesday hall" {
		return nil
	}
	for i, n := range []app.Item{
		{What: "follow", Note: "lands on one leg, look again", Due: day.Of(l.now).Format(time.DateOnly)},
		{What: "talk", Note: "would like the Thursday hall too"},
		{What: "clip", Note: "three-step rhythm, from the side"},
		{What: "effort"},
	} {
		n.Kind, n.Player = "note", coming[2+3*i].ID
		if err := l.send(s, lead, s.StartsAt.Add(70*time.Minute), n); err != nil {
			return err
		}
	}
	return nil
}

// marksOf are the marks of one player in a session: for the criteria that its drills can show.
func (l *loader) marksOf(p store.Player, c store.Class, s store.Session, pl doc.Plan, i, week int) error {
	st, ok := p.In(c.ProgramID)
	if !ok {
		return nil
	}
	for _, pr := range l.programs {
		stage, ok := pr.Stage(st.Stage)
		if !ok {
			continue
		}
		for j, k := range stage.Criteria {
			shows := slices.ContainsFunc(
				pl.Stations(),
				func(x doc.Station) bool { return l.showing.Shows(k, l.drillByID(x.Drill)) },
			)
			if !shows || (i+j+week+24)%3 != 0 {
				continue
			}
			by := c.Members[(i+j)%min(2, len(c.Members))].Member
			sides := k.Sides()
			if err := l.mark(p.ID, k, sides[(week+12)%len(sides)], s, by, l.ability[p.ID]+0.012*float64(week+12), s.StartsAt.Add(time.Duration(25+5*j)*time.Minute)); err != nil {
				return err
			}
		}
	}
	return nil
}

func (l *loader) drillByID(id string) coach.Drill {
	for _, d := range l.drill {
		if d.ID == id {
			return d
		}
	}
	return coach.Drill{}
}

// mark makes a mark as a player of some ability would: about 0.5 is half, 1 is surely good.
func (l *loader) mark(
	player string,
	k coach.Criterion,
	side coach.Side,
	s store.Session,
	by string,
	ability float64,
	at time.Time,
) error {
	m := coach.Mark{ID: store.NewID(), PlayerID: player, CriterionID: k.ID, SessionID: s.ID, Side: side, By: by, At: at}
	form := ability + 0.12*l.rng.NormFloat64()
	switch k.Measure {
	case coach.Makes:
		m.Tries = int(k.Of)
		for range m.Tries {
			if l.rng.Float64() < math.Min(0.97, ability) {
				m.Figure++
			}
		}
	case coach.Streak:
		m.Figure = math.Max(1, math.Round(k.Want*(0.25+form)))
		m.Tries = int(m.Figure) + l.rng.IntN(12)
	case coach.Check:
		for range k.Points {
			m.Points = append(m.Points, l.rng.Float64() < form+0.15)
		}
	case coach.Grade:
		m.Figure = math.Max(1, math.Min(float64(len(k.Points)), math.Round(1+form*3)))
	case coach.Faults:
		m.Figure = math.Max(0, math.Round(k.Want+3*(0.75-form)))
	default:
		m.Figure = math.Max(1, math.Round(k.Want*(0.35+0.85*form)))
	}
	return l.seen(s, k, m)
}

// good makes a mark that surely meets the standard.
func (l *loader) good(
	player string,
	k coach.Criterion,
	side coach.Side,
	s store.Session,
	by string,
	at time.Time,
) error {
	m := coach.Mark{
		ID:          store.NewID(),
		PlayerID:    player,
		CriterionID: k.ID,
		SessionID:   s.ID,
		Side:        side,
		By:          by,
		At:          at,
		Figure:      k.Want + 1,
	}
	switch k.Measure {
	case coach.Makes:
		m.Figure, m.Tries = min(k.Of, k.Want+1), int(k.Of)
	case coach.Check:
		m.Figure = 0
		for range k.Points {
			m.Points = append(m.Points, true)
		}
	case coach.Grade:
		m.Figure = k.Want
	case coach.Faults:
		m.Figure = max(0, k.Want-1)
	case coach.Streak:
		m.Tries = int(k.Want) + 3
	}
	return l.seen(s, k, m)
}

// seen lets a mark come in: counted by taps where it is counted, else as it was seen.
func (l *loader) seen(s store.Session, k coach.Criterion, m coach.Mark) error {
	it := app.Item{
		Kind:   "mark",
		Figure: m.Figure,
		Points: m.Points,
		Tally:  store.Tally{Player: m.PlayerID, Criterion: m.CriterionID, Side: string(m.Side)},
	}
	if made, missed := int(m.Figure), m.Tries-int(m.Figure); k.Measure == coach.Makes || k.Measure == coach.Streak {
		it.Kind, it.Done = "tally", true
		it.Tries = strings.Repeat("1", made) + strings.Repeat("0", missed)
	}
	return l.send(s, m.By, m.At, it)
}

// stories are the players of whom something particular is told.
func (l *loader) stories() error {
	sessions, err := l.tx.Sessions(l.ctx, store.SessionFilter{Class: l.classes["Tuesday hall"].ID, Newest: true})
	if err != nil {
		return err
	}
	byID := map[string]store.Player{}
	for _, p := range l.players {
		byID[p.ID] = p
	}
	tell := func(who string, skip int, weeks ...int) error { // which of the latest sessions
		p := byID[l.special[who]]
		st, _ := p.In(l.programs[0].ID)
		stage, _ := l.programs[0].Stage(st.Stage)
		for n, w := range weeks {
			s := sessions[w]
			if _, err := l.tx.SetAttendance(l.ctx, s.ID, store.Attendance{PlayerID: p.ID, State: "present"}, l.member["Ines"], s.StartsAt); err != nil {
				return err
			}
			by := l.member[[]string{"Ines", "Tomasz"}[n%2]]
			for j, k := range stage.Criteria {
				if n > 0 && j == skip {
					continue
				}
				for _, side := range k.Sides() {
					if err := l.good(p.ID, k, side, s, by, s.StartsAt.Add(time.Duration(30+j)*time.Minute)); err != nil {
						return err
					}
				}
			}
		}
		return nil
	}
	for _, t := range []struct {
		who   string
		skip  int
		weeks []int
	}{{"lucky", -1, []int{1}}, {"ready", -1, []int{0, 2}}, {"ready too", -1, []int{1, 3}}, {"short", 0, []int{0, 1}}} {
		if err := tell(t.who, t.skip, t.weeks...); err != nil {
			return err
		}
	}
	return nil
}

// ahead: the next meeting of every class, planned. One that is over today has been held, and the next is in a week.
func (l *loader) ahead() error {
	for _, name := range classNames {
		c := l.classes[name]
		at, err := l.on(c, 0)
		if err != nil {
			return err
		}
		if at.Add(time.Duration(c.Minutes) * time.Minute).Before(l.now) {
			if err := l.pastSession(c, 0); err != nil {
				return err
			}
			if at, err = l.on(c, 1); err != nil {
				return err
			}
		}
		coming := l.present(c)
		away := []string{}
		if name == "Tuesday hall" {
			away = []string{l.players[2].ID, l.players[24].ID}
			coming = slices.DeleteFunc(coming, func(p store.Player) bool { return slices.Contains(away, p.ID) })
		}
		if name == "Saturday squad" {
			coming = append(coming, l.players[triesOut])
		}
		pl, err := l.planFor(c, 0, coming)
		if err != nil {
			return err
		}
		session, err := l.addSession(c, at, pl)
		if err != nil {
			return err
		}
		for _, id := range away {
			if _, err := l.tx.SetAttendance(l.ctx, session, store.Attendance{PlayerID: id, State: "away"}, l.member["Ines"], l.now); err != nil {
				return err
			}
		}
	}
	return nil
}

// addSession puts a class's date into the diary, with its plan.
func (l *loader) addSession(c store.Class, at time.Time, p doc.Plan) (id string, err error) {
	id = store.NewID()
	return id, l.tx.AddSession(l.ctx, store.Session{
		ID:       id,
		ClassID:  c.ID,
		StartsAt: at,
		Minutes:  c.Minutes,
		Venue:    store.Venue{ID: c.VenueID},
		Plan:     p,
	})
}
