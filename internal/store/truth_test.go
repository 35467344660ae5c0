package store_test

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"

	"gruppo/internal/coach/home"
	"gruppo/internal/coach/register"
	"gruppo/internal/day"
	"gruppo/internal/demo"
	"gruppo/internal/localpg"
	"gruppo/internal/store"
)

// What the database says of who is coming and who came is what the rule says, for every word there is.
func TestTheRegisterIsOneRule(t *testing.T) {
	st, _ := open(t)
	for _, w := range register.Words {
		for _, until := range []int{0, 30} {
			for _, no := range []string{"", "jumping"} {
				var coming, came bool
				if err := st.Pool.QueryRow(ctx, `select is_coming($1, $2, $3), has_come($1)`, string(w), until, no).Scan(&coming, &came); err != nil {
					t.Fatal(err)
				}
				said := register.Said{Word: w, Until: until, No: no}
				if coming != said.Coming() || came != said.Came() {
					t.Errorf(
						"%q until %d, no %q: the database says coming %v, came %v; the rule %v, %v",
						w,
						until,
						no,
						coming,
						came,
						said.Coming(),
						said.Came(),
					)
				}
			}
		}
	}
}

// A day holds through its last minute in the club's zone and not a minute longer, whatever zone the database server is
// in, also when the clocks change.
func TestDaysHoldWhereTheClubIs(t *testing.T) {
	db := localpg.ForTest(t)
	if err := store.Migrate(ctx, db.Owner); err != nil {
		t.Fatal(err)
	}
	owner, err := pgx.Connect(ctx, db.Owner)
	if err != nil {
		t.Fatal(err)
	}
	defer owner.Close(ctx)
	if _, err := owner.Exec(ctx, `do $$ begin execute format('alter database %I set timezone = ''Asia/Tokyo''', current_database()); end $$`); err != nil {
		t.Fatal(err)
	}
	st, err := store.Open(ctx, db.App)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(st.Pool.Close)
	for zone, days := range map[string][]day.Day{ // an ordinary day, and those on which the clocks go on and back
		"Pacific/Auckland":    {day.New(2026, 12, 10), day.New(2026, 9, 27), day.New(2027, 4, 4)},
		"Europe/Lisbon":       {day.New(2026, 12, 10), day.New(2027, 3, 28), day.New(2026, 10, 25)},
		"America/Los_Angeles": {day.New(2026, 12, 10), day.New(2027, 3, 14), day.New(2026, 11, 1)},
	} {
		loc, err := time.LoadLocation(zone)
		if err != nil {
			t.Fatal(err)
		}
		club, lead, child := store.NewID(), store.NewID(), store.NewID()
		do(t, st, club, func(tx *store.Tx) error {
			if err := tx.AddClub(ctx, store.Club{Name: zone, TimeZone: zone}); err != nil {
				return err
			}
			if err := tx.AddMember(ctx, store.Member{ID: lead, Name: "Lead", Email: zone + "@club.example", Role: "lead", PasswordHash: "x"}); err != nil {
				return err
			}
			return tx.PutPlayers(ctx, []store.Player{{ID: child, Name: "Mina", Joined: day.New(2026, 1, 1)}})
		})
		for i, d := range days {
			hash := fmt.Sprintf("%s %d", zone, i)
			do(t, st, club, func(tx *store.Tx) error {
				if err := tx.SetLimits(ctx, child, []store.Limit{{What: "jumping", Until: d}}); err != nil {
					return err
				}
				if err := tx.AddNote(ctx, store.Note{ID: store.NewID(), Player: child, Kind: "follow", Says: hash, Due: d, At: d.Start(loc).AddDate(0, 0, -9), By: lead}); err != nil {
					return err
				}
				task := store.HomeTask{ID: store.NewID(), Name: hash, At: d.Start(loc).AddDate(0, 0, -9), Task: home.Task{From: d.Add(-9), Until: d}}
				if err := tx.PutHomeTask(ctx, task, []string{child}, lead); err != nil {
					return err
				}
				return tx.AddGuardianLink(
					ctx,
					store.GuardianLink{
						ID:       store.NewID(),
						PlayerID: child,
						Label:    "x",
						MadeAt:   d.Start(loc).AddDate(0, 0, -9),
						Until:    d,
					},
					hash,
					lead,
				)
			})
			y, m, dd := d.Start(loc).Date()
			for _, c := range []struct {
				at          time.Time
				holds, come bool // the day's limits, links and tasks; what is due on it
			}{
				{time.Date(y, m, dd, 0, 30, 0, 0, loc), true, true},
				{time.Date(y, m, dd, 23, 30, 0, 0, loc), true, true},
				{time.Date(y, m, dd+1, 0, 30, 0, 0, loc), false, true},
				{time.Date(y, m, dd-1, 23, 30, 0, 0, loc), true, false},
			} {
				today := day.In(c.at, loc)
				_, linked := st.ByGuardianLink(ctx, hash, c.at)
				var limit, task, due bool
				do(t, st, club, func(tx *store.Tx) error {
					ps, err := tx.Players(ctx, store.PlayerFilter{IDs: []string{child}})
					if err != nil {
						return err
					}
					for _, l := range ps[0].Limits {
						limit = limit || l.Until == d && l.Until.Holds(today)
					}
					tasks, err := tx.HomeTasks(ctx, store.HomeFilter{Player: child, On: today, Today: today})
					if err != nil {
						return err
					}
					for _, h := range tasks {
						task = task || h.Name == hash
					}
					notes, err := tx.Notes(ctx, store.NoteFilter{Player: child, Open: true, Due: today})
					for _, n := range notes {
						due = due || n.Says == hash
					}
					return err
				})
				if (linked == nil) != c.holds || limit != c.holds || task != c.holds || due != c.come {
					t.Errorf(
						"%s until %v, at %v: link %v, limit %v, task %v, want %v; due %v, want %v",
						zone,
						d,
						c.at,
						linked == nil,
						limit,
						task,
						c.holds,
						due,
						c.come,
					)
				}
			}
		}
	}
}

// A backup, made and restored as the owner, as the README says, holds every row of every table, and the program works
// on it as before.
func TestABackupIsRestored(t *testing.T) {
	from := localpg.ForTest(t)
	if err := store.Migrate(ctx, from.Owner); err != nil {
		t.Fatal(err)
	}
	st, err := store.Open(ctx, from.App)
	if err != nil {
		t.Fatal(err)
	}
	if err := demo.Load(ctx, st, time.Now(), "x"); err != nil {
		t.Fatal(err)
	}
	st.Pool.Close()
	to := localpg.ForTest(t)
	bins, _ := filepath.Glob("/usr/lib/postgresql/*/bin")
	if len(bins) == 0 {
		t.Fatal("no PostgreSQL programs")
	}
	dump := filepath.Join(t.TempDir(), "gruppo.dump")
	for _, args := range [][]string{{"pg_dump", "-Fc", "-f", dump, from.Owner}, {"pg_restore", "--exit-on-error", "-d", to.Owner, dump}} {
		if out, err := exec.Command(filepath.Join(bins[len(bins)-1], args[0]), args[1:]...).CombinedOutput(); err != nil {
			t.Fatalf("%s: %v\n%s", args[0], err, out)
		}
	}
	if s, err := os.Stat(dump); err != nil || s.Size() < 10_000 {
		t.Fatalf("the dump: %v %v", s, err)
	}
	rows := func(url string) string {
		conn, err := pgx.Connect(ctx, url)
		if err != nil {
			t.Fatal(err)
		}
		defer conn.Close(ctx)
		var out string
		err = conn.QueryRow(ctx, `select string_agg(table_schema || '.' || table_name || ' ' || (xpath('/row/n/text()', query_to_xml(format('select count(*) as n from %I.%I', table_schema, table_name), false, true, '')))[1]::text, ', ' order by table_schema, table_name)
			from information_schema.tables where table_schema in ('public', 'web') and table_type = 'BASE TABLE'`).
			Scan(&out)
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	if was, is := rows(from.Owner), rows(to.Owner); was != is {
		t.Errorf("restored %s\nof %s", is, was)
	}
	again, err := store.Open(ctx, to.App)
	if err != nil {
		t.Fatal(err)
	}
	defer again.Pool.Close()
	club, _, err := account(again, demo.Members[0].Email)
	if err != nil {
		t.Fatal(err)
	}
	do(t, again, club, func(tx *store.Tx) error {
		players, err := tx.Players(ctx, store.PlayerFilter{})
		if len(players) < 30 {
			t.Errorf("%d players are seen after restoring", len(players))
		}
		return err
	})
}

// A lead who is alone gets back in by a link that whoever has the server makes, by name or address; it works once, the
// newest alone, and the program's own role may not look for people in that way. Names come in the order of a
// dictionary, capitals and accents notwithstanding.
func TestALeadIsLetBackInFromTheServer(t *testing.T) {
	st, db := open(t)
	owner, err := store.Open(ctx, db.Owner)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(owner.Pool.Close)
	club, lead := store.NewID(), store.NewID()
	do(t, st, club, func(tx *store.Tx) error {
		if err := tx.AddClub(ctx, store.Club{Name: "Larkfield", TimeZone: "Pacific/Auckland"}); err != nil {
			return err
		}
		var players []store.Player
		for _, name := range []string{"Zoë", "anna", "Émile", "Åsa", "Bo", "ben"} {
			players = append(players, store.Player{ID: store.NewID(), Name: name, Joined: day.New(2026, 1, 1)})
		}
		if err := tx.PutPlayers(ctx, players); err != nil {
			return err
		}
		if err := tx.AddMember(ctx, store.Member{ID: store.NewID(), Name: "Sky", Email: "sky@larkfield.example", Role: "coach", PasswordHash: "x"}); err != nil {
			return err
		}
		return tx.AddMember(
			ctx,
			store.Member{ID: lead, Name: "Mere Lead", Email: "mere@larkfield.example", Role: "lead", PasswordHash: "x"},
		)
	})
	n := 0
	secret := func() (string, string) { n++; return fmt.Sprint("secret ", n), fmt.Sprint("hash ", n) }
	until := time.Now().Add(24 * time.Hour)
	for _, who := range []string{"mere lead", "Mere@larkfield.example"} {
		if links, err := owner.Reset(ctx, who, until, secret); err != nil || len(links) != 1 {
			t.Fatalf("%s: %v, %v", who, links, err)
		}
	}
	// a coach has a lead to ask
	if links, err := owner.Reset(ctx, "Sky", until, secret); err != nil || len(links) != 0 {
		t.Errorf("a coach: %v, %v", links, err)
	}
	if _, err := st.Reset(ctx, "mere lead", until, secret); err == nil {
		t.Error("the program's own role finds people by name")
	}
	if _, err := st.WayInOf(ctx, "hash 1", time.Now()); !store.IsNone(err) {
		t.Errorf("the link before the newest: %v", err)
	}
	if _, err := st.WayInOf(ctx, "hash 2", until.Add(time.Second)); !store.IsNone(err) {
		t.Errorf("a link after its day: %v", err)
	}
	if w, err := st.WayInOf(ctx, "hash 2", time.Now()); err != nil || w.ID != lead || w.Fresh {
		t.Fatalf("%+v, %v", w, err)
	}
	for i, want := range []bool{true, false} {
		err := st.In(
			ctx,
			club,
			func(tx *store.Tx) error { _, err := tx.UseWayIn(ctx, "hash 2", "new", time.Now()); return err },
		)
		if (err == nil) != want {
			t.Errorf("use %d: %v", i+1, err)
		}
	}
	do(t, st, club, func(tx *store.Tx) error {
		players, err := tx.Players(ctx, store.PlayerFilter{})
		var names []string
		for _, p := range players {
			names = append(names, p.Name)
		}
		if got := strings.Join(names, " "); got != "anna Åsa ben Bo Émile Zoë" {
			t.Errorf("sorted as %s", got)
		}
		return err
	})
}
