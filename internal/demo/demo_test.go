package demo

import (
	"context"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/diagram"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/path"
	"gruppo/internal/day"
	"gruppo/internal/exchange"
	"gruppo/internal/localpg"
	"gruppo/internal/store"
)

func TestMain(m *testing.M) {
	code := m.Run()
	localpg.Close()
	os.Exit(code)
}

// What the demo is to tell is really in it, on any day it is started.
func TestTheDemoTellsItsStories(t *testing.T) {
	ctx := context.Background()
	for _, now := range []time.Time{time.Date(2026, 11, 24, 17, 15, 0, 0, time.UTC), time.Date(2027, 3, 28, 3, 0, 0, 0, time.UTC), time.Date(2028, 2, 29, 23, 50, 0, 0, time.UTC)} {
		db := localpg.ForTest(t)
		if err := store.Migrate(ctx, db.Owner); err != nil {
			t.Fatal(err)
		}
		st, err := store.Open(ctx, db.App)
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(st.Pool.Close)
		for range 2 { // the second time it is there already
			if err := Load(ctx, st, now, "x"); err != nil {
				t.Fatal(now, err)
			}
		}
		ines, err := st.Accounts(ctx, "INES@saltmarsh.example")
		if err != nil || len(ines) != 1 {
			t.Fatal(ines, err)
		}
		err = st.In(ctx, ines[0].ClubID, func(tx *store.Tx) error { check(t, ctx, tx, now); return nil })
		if err != nil {
			t.Fatal(err)
		}
	}
}

func check(t *testing.T, ctx context.Context, tx *store.Tx, now time.Time) {
	players, err := tx.Players(ctx, store.PlayerFilter{})
	if err != nil || len(players) != 70 {
		t.Fatalf("%s: %d players, %v", now, len(players), err)
	}
	classes, _ := tx.Classes(ctx)
	programs, err := tx.Ladders(ctx)
	if err != nil || len(classes) != 6 || len(programs) != 2 || len(programs[0].Stages) != 4 ||
		len(programs[1].Stages) != 5 {
		t.Fatalf("%d classes, %d programs, %v", len(classes), len(programs), err)
	}
	measures := map[coach.Measure]bool{}
	for _, s := range programs[0].Stages {
		for _, k := range s.Criteria {
			measures[k.Measure] = true
		}
	}
	for _, m := range []coach.Measure{coach.Check, coach.Grade, coach.Makes, coach.Streak, coach.Count, coach.Hold, coach.Faults} {
		if !measures[m] {
			t.Errorf("no criterion of the handball ladder is measured by %s", m)
		}
	}
	shows, err := readContent()
	if err != nil {
		t.Fatal(err)
	}
	find := func(i int) store.Player {
		first, _, _ := strings.Cut(shows.People[i], " ")
		return players[slices.IndexFunc(players, func(p store.Player) bool { return strings.HasPrefix(p.Name, first+" ") })]
	}
	ready := func(p store.Player, change func(*coach.Criterion)) evidence.Readiness {
		at, _ := p.In(programs[0].ID)
		stage, _ := programs[0].Stage(at.Stage)
		stage.Criteria = slices.Clone(stage.Criteria)
		for i := range stage.Criteria {
			change(&stage.Criteria[i])
		}
		marks, err := tx.Marks(ctx, store.MarkFilter{Player: p.ID})
		if err != nil {
			t.Fatal(err)
		}
		return evidence.Ready(stage, marks, 99, at.Since, now)
	}
	asIs := func(*coach.Criterion) {}
	lucky := find(17)
	if r := ready(lucky, asIs); r.Ready || !strings.Contains(strings.Join(r.Missing, " "), "another day") {
		t.Errorf("%s: the lucky day makes %s ready, or does not say why not: %v", now, lucky.Name, r.Missing)
	}
	if r := ready(lucky, func(k *coach.Criterion) { k.Rule = coach.EvidenceRule{Good: 1} }); !r.Ready {
		t.Errorf("%s: %s did not meet everything on the lucky day: %v", now, lucky.Name, r.Missing)
	}
	if r := ready(find(19), asIs); !r.Ready {
		t.Errorf("%s: %s is not ready: %v", now, find(19).Name, r.Missing)
	}
	if r := ready(find(21), asIs); r.LastSeen.After(now.AddDate(0, 0, -42)) {
		t.Errorf("%s: the one nobody marks was marked on %s", now, r.LastSeen)
	}
	if l := find(18).Limits; len(l) != 1 || l[0].What != "jumping" || !strings.HasSuffix(l[0].Until.String(), "-12") ||
		!l[0].Until.After(day.Of(now)) {
		t.Errorf("%s: the limit is %v", now, l)
	}
	sessions, err := tx.Sessions(
		ctx,
		store.SessionFilter{
			From:  now,
			Class: classes[slices.IndexFunc(classes, func(c store.Class) bool { return c.Name == "Tuesday hall" })].ID,
		},
	)
	if err != nil || len(sessions) != 1 {
		t.Fatalf("%s: %d Tuesdays ahead, %v", now, len(sessions), err)
	}
	in := func(p store.Player) int {
		return slices.IndexFunc(
			sessions[0].Plan.Deals[0].Players,
			func(g []string) bool { return slices.Contains(g, p.ID) },
		)
	}
	sister := players[slices.IndexFunc(players, func(p store.Player) bool { return strings.HasPrefix(p.Name, "Davina ") })]
	if a, b := in(find(0)), in(sister); a < 0 || a != b {
		t.Errorf("%s: the sisters are in groups %d and %d", now, a, b)
	}
	if sessions[0].Plan.Key == "" || len(sessions[0].Leaders) != 4 {
		t.Errorf("%s: Tuesday has the key %q and %d leaders", now, sessions[0].Plan.Key, len(sessions[0].Leaders))
	}
}

// The demo's shelf covers what a shelf can hold, and a helper who has never seen a drill can run it from its card.
func TestTheShelfIsCompleteAndCoversEverything(t *testing.T) {
	p, err := exchange.ReadPack(pack)
	if err != nil {
		t.Fatal(err)
	}
	if len(p.Drills) < 60 {
		t.Errorf("%d drills, want at least 60", len(p.Drills))
	}
	names, seen, stages := map[string]bool{}, map[string]int{}, map[string]bool{}
	ladders, err := readLadders()
	if err != nil {
		t.Fatal(err)
	}
	for _, l := range ladders {
		for _, s := range l.stages {
			stages[s.Name] = true
		}
	}
	var links []path.Link
	for _, e := range p.Drills {
		d := e.Drill
		names[d.Name] = true
		for _, what := range []string{"target " + string(d.Target.Kind), "leader " + string(d.Leader), "form " + d.Form, "approach " + d.Approach, "practice " + d.Practice} {
			seen[what]++
		}
		for _, r := range d.Roles {
			seen["role "+r]++
		}
		seen[fmt.Sprint("work and rest ", d.Work > 0 && d.Rest > 0)]++
		seen[fmt.Sprint("alone ", d.Least == 1)]++
		seen[fmt.Sprint("everybody ", d.Most >= 30)]++
		if d.Purpose == "" || len(d.Setup) < 40 || len(d.Keys) == 0 || len(d.Cautions) == 0 || len(d.Variants) < 2 ||
			d.Easier == 0 ||
			d.Easier == len(d.Variants) ||
			d.Minutes[1] == 0 ||
			d.Author == "" ||
			d.Licence == "" {
			t.Errorf("%s is not complete", d.Name)
		}
		if d.Diagram == nil || len(d.Diagram.Things) == 0 {
			t.Errorf("%s has no diagram", d.Name)
		} else if words := strings.Join(diagram.Words(*d.Diagram), " "); strings.Contains(words, "somebody") || strings.Contains(words, "the ball passes") {
			t.Errorf("%s: nobody stands where a line of its diagram begins: %s", d.Name, words)
		}
		if d.Minutes[0] > d.Minutes[1] || d.Work > 0 && d.Series > 0 && d.Work*d.Series > 60*d.Minutes[1] {
			t.Errorf("%s: %v minutes do not go with %d turns of %d s", d.Name, d.Minutes, d.Series, d.Work)
		}
		forms, own := d.Forms()
		for i, v := range forms {
			f := d
			if i != own {
				f = d.As(v)
			}
			switch g := f.Target; {
			case g.Kind == coach.Race && strings.HasPrefix(v.Name, "Even") && g.N != g.Against:
				t.Errorf("%s, %s: %d against %d is not even", d.Name, v.Name, g.N, g.Against)
			case g.Kind == coach.InATime && float64(g.Seconds) < 3*f.Try().Seconds():
				t.Errorf(
					"%s, %s: %d s hold no three tries of %g s: is it a hold?",
					d.Name,
					v.Name,
					g.Seconds,
					f.Try().Seconds(),
				)
			}
		}
		for _, v := range forms {
			if !stages[v.Suits] {
				t.Errorf("%s, %s suits %q, which is no stage", d.Name, v.Name, v.Suits)
			}
		}
		for _, ask := range d.Asks {
			if ask != "jumping" && ask != "overhead" && ask != "heights" {
				t.Errorf("%s asks for %q, which no limit names", d.Name, ask)
			}
		}
		for _, l := range e.Links {
			if loop := path.Loop(links, path.Link{Drill: e.ID, Kind: l.Kind, Other: l.To}); loop != nil {
				t.Errorf("%s closes a loop", d.Name)
			}
			links = append(links, path.Link{Drill: e.ID, Kind: l.Kind, Other: l.To})
			seen["link "+string(l.Kind)]++
		}
	}
	for _, want := range []string{"target total", "target streak", "target set", "target ladder", "target team", "target time", "target race", "target ", "leader none", "leader helper", "leader coach", "leader qualified",
		"form cooperative", "form contest", "form live", "approach technique-first", "approach game-first", "practice blocked", "practice varied", "practice random", "role feeder", "role goalkeeper", "role turner",
		"work and rest true", "alone true", "everybody true", "link after", "link bridge", "link eases", "link hardens"} {
		if seen[want] == 0 {
			t.Errorf("no drill with %s", want)
		}
	}
	shows, err := readContent()
	if err != nil {
		t.Fatal(err)
	}
	for class, weeks := range shows.Circuits {
		for _, w := range weeks {
			for _, n := range w {
				if !names[n] {
					t.Errorf("%s uses %q, which is not on the shelf", class, n)
				}
			}
		}
	}
}
