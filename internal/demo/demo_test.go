package demo

import (
	"context"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
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
		club, _, _, err := st.ForSignIn(ctx, "INES@saltmarsh.example")
		if err != nil {
			t.Fatal(err)
		}
		err = st.In(ctx, club, func(tx *store.Tx) error { check(t, ctx, tx, now); return nil })
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
	if err != nil || len(classes) != 6 || len(programs) != 2 || len(programs[0].Stages) != 4 || len(programs[1].Stages) != 5 {
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
	find := func(i int) store.Player {
		first := strings.Fields(firstNames)[i]
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
		return evidence.Ready(stage, marks, 99, at.Day(), now)
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
	if l := find(18).Limits; len(l) != 1 || l[0].What != "jumping" || !strings.HasSuffix(l[0].Until, "-12") || l[0].Until <= now.Format(time.DateOnly) {
		t.Errorf("%s: the limit is %v", now, l)
	}
	sessions, err := tx.Sessions(ctx, store.SessionFilter{From: now, Class: classes[slices.IndexFunc(classes, func(c store.Class) bool { return c.Name == "Tuesday hall" })].ID})
	if err != nil || len(sessions) != 1 {
		t.Fatalf("%s: %d Tuesdays ahead, %v", now, len(sessions), err)
	}
	in := func(p store.Player) int {
		return slices.IndexFunc(sessions[0].Plan.Deal, func(g []string) bool { return slices.Contains(g, p.ID) })
	}
	sister := players[slices.IndexFunc(players, func(p store.Player) bool { return strings.HasPrefix(p.Name, "Davina ") })]
	if a, b := in(find(0)), in(sister); a < 0 || a != b {
		t.Errorf("%s: the sisters are in groups %d and %d", now, a, b)
	}
	if sessions[0].Plan.Key == "" || len(sessions[0].Leaders) != 4 {
		t.Errorf("%s: Tuesday has the key %q and %d leaders", now, sessions[0].Plan.Key, len(sessions[0].Leaders))
	}
}

// A drill that a helper has never seen must be complete enough to run.
func TestEveryDrillIsComplete(t *testing.T) {
	names := map[string]bool{}
	for _, d := range drills {
		if names[d.Name] {
			t.Errorf("%s is there twice", d.Name)
		}
		names[d.Name] = true
		if d.Purpose == "" || d.Setup == "" || len(d.Skills) == 0 || d.Least < 1 || d.Most < d.Least || d.Places < 1 || d.Pace <= 0 || d.Length <= 0 || d.Leader.String() == "" {
			t.Errorf("%s is not complete: %+v", d.Name, d)
		}
		for _, ask := range d.Asks {
			if ask != "jumping" && ask != "overhead" {
				t.Errorf("%s asks for %q, which no limit names", d.Name, ask)
			}
		}
	}
	for class, weeks := range circuits {
		for _, w := range weeks {
			for _, n := range w {
				if !names[n] {
					t.Errorf("%s uses %q, which is not on the shelf", class, n)
				}
			}
		}
	}
}
