package store_test

import (
	"context"
	"errors"
	"fmt"
	"os"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/day"
	"gruppo/internal/demo"
	"gruppo/internal/localpg"
	"gruppo/internal/store"
)

func TestMain(m *testing.M) {
	code := m.Run()
	localpg.Close()
	os.Exit(code)
}

// account is the club and member of an address.
func account(st *store.Store, address string) (club, member string, err error) {
	found, err := st.Accounts(ctx, address)
	if err == nil && len(found) == 0 {
		err = store.ErrNone
	}
	if err != nil {
		return "", "", err
	}
	return found[0].ClubID, found[0].Member, nil
}

var ctx = context.Background()

func open(t testing.TB) (*store.Store, localpg.Database) {
	t.Helper()
	db := localpg.ForTest(t)
	if err := store.Migrate(ctx, db.Owner); err != nil {
		t.Fatal(err)
	}
	st, err := store.Open(ctx, db.App)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(st.Pool.Close)
	return st, db
}

// withDemo is a database with the demo club, whose id is returned, and a second, empty club.
func withDemo(t testing.TB) (st *store.Store, club, other string) {
	t.Helper()
	db := localpg.ForTestFilled(t, func(db localpg.Database) error {
		if err := store.Migrate(ctx, db.Owner); err != nil {
			return err
		}
		st, err := store.Open(ctx, db.App)
		if err != nil {
			return err
		}
		defer st.Pool.Close()
		return demo.Load(ctx, st, time.Now(), "x")
	})
	st, err := store.Open(ctx, db.App)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(st.Pool.Close)
	club, _, err = account(st, demo.Members[0].Email)
	if err != nil {
		t.Fatal(err)
	}
	other = store.NewID()
	if err := st.In(ctx, other, func(tx *store.Tx) error { return tx.AddClub(ctx, store.Club{Name: "Other", TimeZone: "UTC"}) }); err != nil {
		t.Fatal(err)
	}
	return st, club, other
}

// The list of tables is read from the catalogue, so that a new one cannot be forgotten.
func TestNoClubReachesAnothersRows(t *testing.T) {
	st, club, other := withDemo(t)
	// Rows also where the demo has none.
	id := store.NewID()
	fill := func(tx *store.Tx) error {
		p, err := tx.Players(ctx, store.PlayerFilter{Limit: 1})
		if err != nil {
			return err
		}
		_, member, _ := account(st, demo.Members[0].Email)
		marks, err := tx.Marks(ctx, store.MarkFilter{})
		if err != nil {
			return err
		}
		if err := tx.Strike(ctx, marks[0].ID, member, "test", time.Now()); err != nil {
			return err
		}
		if _, err := tx.SessionCode(ctx, marks[0].SessionID, member, false, time.Now()); err != nil {
			return err
		}
		if err := tx.AddClimb(ctx, marks[0].SessionID, store.Climb{ID: id, At: time.Now(), By: member}); err != nil {
			return err
		}
		second := marks[0].By
		if second == member {
			members, err := tx.Members(ctx, time.Now())
			if err != nil {
				return err
			}
			second = members[1].ID
		}
		at, _ := p[0].In(p[0].Standings[0].Program)
		d := deciding.Decision{
			ID:        store.NewID(),
			PlayerID:  p[0].ID,
			ProgramID: at.Program,
			Kind:      deciding.Up,
			FromStage: at.Stage,
			ToStage:   at.Stage,
			TwoSign:   true,
			At:        time.Now(),
		}
		if err := tx.AddDecision(ctx, d, member); err != nil {
			return err
		}
		if err := tx.Sign(ctx, d.ID, second, time.Now()); err != nil {
			return err
		}
		criterion := marks[slices.IndexFunc(marks, func(m coach.Mark) bool { return m.CriterionID != "" })].CriterionID
		if err := tx.PutLooks(ctx, store.NewID(), time.Now(), []store.Look{{SessionID: marks[0].SessionID, PlayerID: p[0].ID, CriterionID: criterion}}); err != nil {
			return err
		}
		if err := tx.AddGuardianLink(ctx, store.GuardianLink{ID: id, PlayerID: p[0].ID, MadeAt: time.Now(), Until: day.Of(time.Now()).Add(1)}, "hash", member); err != nil {
			return err
		}
		if err := tx.AddCalendar(ctx, store.Calendar{ID: id, Member: member, MadeAt: time.Now()}, "hash", member); err != nil {
			return err
		}
		if err := tx.AddCrossing(ctx, marks[0].SessionID, store.Crossing{ID: id, What: "start", Lane: 1, At: time.Now()}); err != nil {
			return err
		}
		if err := tx.AddMail(ctx, store.Mail{ID: id, About: "test", To: "x@club.example", At: time.Now()}); err != nil {
			return err
		}
		if err := tx.AddFeedback(ctx, marks[0].SessionID, store.Feedback{ID: id, How: "told", At: time.Now(), By: member}); err != nil {
			return err
		}
		if err := tx.AddPoint(ctx, marks[0].SessionID, store.Point{ID: id, Turn: "1.0", Whose: "team", At: time.Now(), By: member}); err != nil {
			return err
		}
		if err := tx.AddLooking(ctx, id, marks[0].SessionID, store.Looking{Player: p[0].ID, By: member, At: time.Now()}); err != nil {
			return err
		}
		if err := tx.AddRefused(ctx, id, marks[0].SessionID, member, "test", []byte("{}"), time.Now()); err != nil {
			return err
		}
		drills, err := tx.Drills(ctx)
		if err != nil {
			return err
		}
		if err := tx.AddWayIn(ctx, member, "hash", time.Now().Add(time.Hour)); err != nil {
			return err
		}
		yes := true
		if err := tx.SetShows(ctx, criterion, drills[0].ID, &yes); err != nil {
			return err
		}
		_, err = tx.PutTally(
			ctx,
			marks[0].SessionID,
			store.Tally{ID: id, Player: p[0].ID, Tries: "1", At: time.Now(), By: member},
			false,
		)
		return err
	}
	if err := st.In(ctx, club, fill); err != nil {
		t.Fatal(err)
	}
	_, member, _ := account(st, demo.Members[0].Email)
	if _, err := st.Change(ctx, club, member, "", "test", func(tx *store.Tx) error {
		return tx.PutProgram(ctx, store.NewID(), "Chess boxing", coach.BallGames, 9)
	}); err != nil {
		t.Fatal(err)
	}
	var tables []string
	rows, err := st.Pool.Query(
		ctx,
		`select c.relname from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname = 'public' and c.relkind in ('r', 'p') and c.relname <> 'goose_db_version' order by 1`,
	)
	if err != nil {
		t.Fatal(err)
	}
	if tables, err = pgx.CollectRows(rows, pgx.RowTo[string]); err != nil || len(tables) < 20 {
		t.Fatalf("tables %v, %v", tables, err)
	}
	count := func(reader, table string) (n int) { // rows of the demo club
		if err := st.In(ctx, reader, func(tx *store.Tx) error {
			return tx.QueryRow(ctx, "select count(*) from "+table+" where club_id = $1", club).Scan(&n)
		}); err != nil {
			t.Fatal(err)
		}
		return n
	}
	for _, table := range tables {
		own := count(club, table)
		if own == 0 {
			t.Errorf("%s: the club has no rows, so nothing is proven", table)
		}
		if n := count(other, table); n > 0 {
			t.Errorf("%s: another club reads %d rows", table, n)
		}
		for _, attack := range []string{"update %s set club_id = club_id where club_id = $1", "delete from %s where club_id = $1", "update %s set club_id = '" + other + "' where club_id = $1"} {
			err := st.In(ctx, other, func(tx *store.Tx) error {
				tag, err := tx.Exec(ctx, fmt.Sprintf(attack, table), club)
				if err == nil && tag.RowsAffected() > 0 {
					t.Errorf("%s: %q reached %d rows of another club", table, attack, tag.RowsAffected())
				}
				return errors.New("roll back")
			})
			if err == nil {
				t.Error("not rolled back")
			}
		}
		if n := count(club, table); n != own {
			t.Errorf("%s: had %d rows, now %d", table, own, n)
		}
		// Writing into another club fails, and so does asking without a club.
		err := st.In(ctx, other, func(tx *store.Tx) error {
			_, err := tx.Exec(
				ctx,
				fmt.Sprintf(
					"insert into %[1]s select * from jsonb_populate_record(null::%[1]s, jsonb_build_object('club_id', $1::text))",
					table,
				),
				club,
			)
			return err
		})
		if err == nil {
			t.Errorf("%s: a row was put into another club", table)
		}
		var bare int
		if err := st.Pool.QueryRow(ctx, "select count(*) from "+table).Scan(&bare); err != nil || bare != 0 {
			t.Errorf("%s: without a club %d rows are read, %v", table, bare, err)
		}
	}
	var super, owner bool
	if err := st.Pool.QueryRow(ctx, `select rolsuper or rolbypassrls, exists (select from pg_tables where schemaname = 'public' and tableowner = current_user) from pg_roles where rolname = current_user`).Scan(&super, &owner); err != nil ||
		super ||
		owner {
		t.Errorf("the program's role: above the rules %v, owns tables %v, %v", super, owner, err)
	}
}

func TestMarksAndDecisionsAreOnlyAdded(t *testing.T) {
	st, club, _ := withDemo(t)
	for _, table := range []string{"mark", "strike", "decision", "run_event"} {
		for _, sql := range []string{"delete from " + table, "update " + table + " set club_id = club_id"} {
			if err := st.In(ctx, club, func(tx *store.Tx) error { _, err := tx.Exec(ctx, sql); return err }); err == nil ||
				!strings.Contains(err.Error(), "permission denied") {
				t.Errorf("%s: %v", sql, err)
			}
		}
	}
}

func TestUndoPutsEverythingBack(t *testing.T) {
	st, club, _ := withDemo(t)
	_, member, _ := account(st, demo.Members[0].Email)
	all := func() (players []store.Player) {
		if err := st.In(ctx, club, func(tx *store.Tx) (err error) { players, err = tx.Players(ctx, store.PlayerFilter{}); return err }); err != nil {
			t.Fatal(err)
		}
		return players
	}
	before := all()
	p := before[0]
	change, err := st.Change(ctx, club, member, "", "a lot", func(tx *store.Tx) error {
		p := p
		p.Name, p.Tags, p.BirthYear = "Somebody Else", []string{"a", "b"}, 0
		fresh := store.Player{ID: store.NewID(), Name: "New One", Joined: day.Of(time.Now())}
		if err := tx.PutPlayers(ctx, []store.Player{p, fresh}); err != nil {
			return err
		}
		if err := tx.SetKeeps(ctx, []string{fresh.ID}, []store.Pair{{A: fresh.ID, B: p.ID, Apart: true}}); err != nil {
			return err
		}
		if err := tx.SetLimits(ctx, fresh.ID, []store.Limit{{What: "jumping", Until: day.New(2027, 1, 12)}}); err != nil {
			return err
		}
		return tx.LeavePlayer(ctx, before[1].ID, day.Of(time.Now()))
	})
	if err != nil || fmt.Sprint(all()) == fmt.Sprint(before) {
		t.Fatalf("the change did nothing: %v", err)
	}
	if u, err := st.Undo(ctx, club, member, change); err != nil || u.Says != "a lot" {
		t.Fatalf("undo: %v, %v", u, err)
	}
	if fmt.Sprintf("%+v", all()) != fmt.Sprintf("%+v", before) {
		t.Error("the roster is not as it was")
	}
	if _, err := st.Undo(ctx, club, member, change); !errors.Is(err, store.ErrNone) {
		t.Errorf("undone twice: %v", err)
	}
	// What was changed again since is not touched, not even in part.
	rename := func(name string) string {
		id, err := st.Change(ctx, club, member, "", name, func(tx *store.Tx) error {
			q := before[2]
			q.Name = name
			return tx.PutPlayers(ctx, []store.Player{q})
		})
		if err != nil {
			t.Fatal(err)
		}
		return id
	}
	first := rename("First")
	rename("Second")
	if _, err := st.Undo(ctx, club, member, first); !errors.Is(err, store.ErrChangedSince) {
		t.Errorf("undo of something changed since: %v", err)
	}
}

func TestAPlanOnAnOldVersionIsRefused(t *testing.T) {
	st, club, _ := withDemo(t)
	err := st.In(ctx, club, func(tx *store.Tx) error {
		ss, err := tx.Sessions(ctx, store.SessionFilter{Newest: true, Limit: 1})
		if err != nil {
			return err
		}
		_, member, _ := account(st, demo.Members[0].Email)
		s := ss[0]
		if _, err := tx.SetPlan(ctx, s.ID, s.Version, doc.Start(time.Hour, coach.BallGames), member, time.Now()); err != nil {
			return err
		}
		_, err = tx.SetPlan(ctx, s.ID, s.Version, doc.Start(time.Hour, coach.BallGames), member, time.Now())
		return err
	})
	if !errors.Is(err, store.ErrChangedSince) {
		t.Errorf("two changes on one version: %v", err)
	}
}

func TestASeriesSentTwiceOrLateIsKeptOnce(t *testing.T) {
	st, club, _ := withDemo(t)
	err := st.In(ctx, club, func(tx *store.Tx) error {
		ss, _ := tx.Sessions(ctx, store.SessionFilter{Limit: 1})
		ps, _ := tx.Players(ctx, store.PlayerFilter{Limit: 1})
		ms, err := tx.Members(ctx, time.Now())
		if err != nil {
			return err
		}
		tally := store.Tally{ID: store.NewID(), Player: ps[0].ID, At: time.Now(), By: ms[0].ID}
		for _, step := range []struct {
			revision int
			tries    string
			done     bool
			stored   bool
		}{{2, "11", false, true}, {1, "1", false, false}, {2, "11", false, false}, {3, "110", true, true}, {4, "1101", false, false}} {
			tally.Revision, tally.Tries, tally.Done = step.revision, step.tries, step.done
			k, err := tx.PutTally(ctx, ss[0].ID, tally, false)
			if finished := errors.Is(err, store.ErrFinished); err != nil && !finished ||
				finished != (step.revision == 4) ||
				k.Stored != step.stored {
				t.Errorf("%+v: stored %v, %v", step, k.Stored, err)
			}
		}
		kept, err := tx.Tallies(ctx, ss[0].ID)
		// the demo has others there
		kept = slices.DeleteFunc(kept, func(k store.Tally) bool { return k.ID != tally.ID })
		if err == nil && (len(kept) != 1 || kept[0].Tries != "110") {
			t.Errorf("kept %+v", kept)
		}
		m := coach.Mark{
			ID:        tally.ID,
			PlayerID:  ps[0].ID,
			DrillID:   ss[0].Plan.Stations()[0].Drill,
			SessionID: ss[0].ID,
			At:        time.Now(),
			By:        ms[0].ID,
			Tries:     3,
			Figure:    2,
		}
		before, _ := tx.Marks(ctx, store.MarkFilter{Session: ss[0].ID})
		for range 3 {
			if err := tx.AddMark(ctx, m); err != nil {
				return err
			}
		}
		after, err := tx.Marks(ctx, store.MarkFilter{Session: ss[0].ID})
		if len(after) != len(before)+1 {
			t.Errorf("one mark sent three times: %d more", len(after)-len(before))
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
}

func TestSeveralProgramsMayStartAtOnce(t *testing.T) {
	db := localpg.ForTest(t)
	errs := make(chan error)
	for range 4 {
		go func() { errs <- store.Migrate(ctx, db.Owner) }()
	}
	for range 4 {
		if err := <-errs; err != nil {
			t.Error(err)
		}
	}
}

func TestANewerDatabaseIsRefused(t *testing.T) {
	_, db := open(t)
	conn, err := pgx.Connect(ctx, db.Owner)
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close(ctx)
	if _, err := conn.Exec(ctx, "insert into goose_db_version (version_id, is_applied) values (99999, true)"); err != nil {
		t.Fatal(err)
	}
	if err := store.Migrate(ctx, db.Owner); !errors.Is(err, store.ErrNewer) {
		t.Errorf("migrate: %v", err)
	}
	if _, err := store.Open(ctx, db.App); !errors.Is(err, store.ErrNewer) {
		t.Errorf("open: %v", err)
	}
	if _, err := store.Open(ctx, localpg.ForTest(t).App); !errors.Is(err, store.ErrOlder) {
		t.Errorf("an empty database: %v", err)
	}
}

func TestSignInSlowsDown(t *testing.T) {
	st, _ := open(t)
	now := time.Now()
	five := store.TryLimit{Key: "a", Free: 5}
	var let atomic.Int64
	var all sync.WaitGroup
	for range 16 { // sixteen guesses at once do not pass a limit of five
		all.Go(func() {
			if wait, err := st.Try(ctx, now, five); err != nil {
				t.Error(err)
			} else if wait == 0 {
				let.Add(1)
			}
		})
	}
	all.Wait()
	if let.Load() != 5 {
		t.Errorf("%d of 16 at once were let through", let.Load())
	}
	if wait, _ := st.Try(ctx, now.Add(time.Second), five); wait <= 0 || wait > 2*time.Second {
		t.Errorf("a second later the wait is %v", wait)
	}
	if wait, _ := st.Try(ctx, now.Add(3*time.Second), five); wait != 0 { // the sixth
		t.Errorf("three seconds later the wait is %v", wait)
	}
	if wait, _ := st.Try(ctx, now.Add(4*time.Second), five); wait <= 2*time.Second || wait > 4*time.Second {
		t.Errorf("after six failures the wait is %v", wait)
	}
	if wait, _ := st.Try(ctx, now.Add(2*time.Hour), five); wait != 0 {
		t.Errorf("two hours later the wait is %v", wait)
	}
	// Who gets it right forgives their own try, and no other's; the account's own are forgotten.
	network := store.TryLimit{Key: "n", Free: 3}
	for i := range 4 {
		wait, err := st.Try(ctx, now, network, store.TryLimit{Key: "b", Free: 5})
		if err != nil || (wait > 0) != (i == 3) {
			t.Errorf("try %d of the network: wait %v, %v", i+1, wait, err)
		}
	}
	if err := st.Worked(ctx, []string{"n"}, "b"); err != nil {
		t.Fatal(err)
	}
	for i := range 2 {
		if wait, _ := st.Try(ctx, now, network); (wait > 0) != (i == 1) {
			t.Errorf("after one that worked, try %d of the network waits %v", i+1, wait)
		}
	}
	if err := st.KnowDevice(ctx, "d", "who", now.Add(time.Hour)); err != nil {
		t.Fatal(err)
	}
	for _, k := range []struct {
		who  string
		at   time.Time
		want bool
	}{{"who", now, true}, {"another", now, false}, {"who", now.Add(2 * time.Hour), false}} {
		if known, err := st.KnownDevice(ctx, "d", k.who, k.at); err != nil || known != k.want {
			t.Errorf("%s's device is known: %v, %v", k.who, known, err)
		}
	}
	if err := st.Purge(ctx, now.Add(5*time.Hour)); err != nil {
		t.Fatal(err)
	}
	var left int
	if err := st.Pool.QueryRow(ctx, `select (select count(*) from web.sign_in_failure) + (select count(*) from web.known_device)`).Scan(&left); err != nil ||
		left != 0 {
		t.Errorf("%d are not forgotten, %v", left, err)
	}
}

// Undo and redo walk one line of changes back and forth; a new change ends what could be done again, and no version
// number comes twice.
func TestUndoAndRedoOfAPlan(t *testing.T) {
	st, club, _ := withDemo(t)
	_, member, _ := account(st, demo.Members[0].Email)
	var s store.Session
	read := func() store.Session {
		t.Helper()
		if err := st.In(ctx, club, func(tx *store.Tx) (err error) { s, err = tx.Session(ctx, s.ID); return err }); err != nil {
			t.Fatal(err)
		}
		return s
	}
	if err := st.In(ctx, club, func(tx *store.Tx) error {
		ss, err := tx.Sessions(ctx, store.SessionFilter{Newest: true, Limit: 1})
		s = ss[0]
		return err
	}); err != nil {
		t.Fatal(err)
	}
	seen := map[int]bool{}
	set := func(key string) {
		t.Helper()
		p := read().Plan
		p.Key = key
		if _, err := st.Change(ctx, club, member, s.ID, key, func(tx *store.Tx) error {
			_, err := tx.SetPlan(ctx, s.ID, s.Version, p, member, time.Now())
			return err
		}); err != nil {
			t.Fatal(err)
		}
		if v := read().Version; seen[v] {
			t.Errorf("version %d came twice", v)
		} else {
			seen[v] = true
		}
	}
	for _, key := range []string{"one", "two", "three"} {
		set(key)
	}
	step := func(want string, do func() error) {
		t.Helper()
		if err := do(); err != nil {
			t.Fatal(err)
		}
		if got := read().Plan.Key; got != want {
			t.Errorf("the key is %q, want %q", got, want)
		}
	}
	undo := func() error { _, err := st.UndoLast(ctx, club, s.ID); return err }
	redo := func() error { _, err := st.Redo(ctx, club, s.ID); return err }
	step("two", undo)
	step("one", undo)
	step("two", redo)
	step("three", redo)
	if err := redo(); !errors.Is(err, store.ErrNone) {
		t.Errorf("nothing is left to do again: %v", err)
	}
	step("two", undo)
	set("another way")
	if err := redo(); !errors.Is(err, store.ErrNone) {
		t.Errorf("after a new change nothing can be done again: %v", err)
	}
	step("two", undo)
	step("another way", redo)
}

// Programs keep a club's classes, ladders, terms and places in memory. Whatever changes them, and whoever, the next to
// ask is told; a change that was taken back leaves no trace.
func TestWhatIsKeptInMemoryIsNeverOld(t *testing.T) {
	st, db := open(t)
	club, member := store.NewID(), store.NewID()
	names := func() (out []string) {
		t.Helper()
		err := st.In(ctx, club, func(tx *store.Tx) error {
			vs, err := tx.Venues(ctx)
			for _, v := range vs {
				out = append(out, v.Name)
			}
			return err
		})
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	put := func(tx *store.Tx, name string) error {
		return tx.PutVenue(ctx, store.Venue{ID: store.NewID(), Name: name, Floor: "court", Length: 20, Width: 10})
	}
	must := func(err error) {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
	}
	see := func(when string, want ...string) {
		t.Helper()
		if got := names(); !slices.Equal(got, want) {
			t.Errorf("%s: places %q, not %q", when, got, want)
		}
	}
	must(st.In(ctx, club, func(tx *store.Tx) error {
		must(tx.AddClub(ctx, store.Club{Name: "Kept", TimeZone: "UTC"}))
		must(tx.AddMember(ctx, store.Member{ID: member, Name: "Lead", Email: "l@k.example", Role: "lead"}))
		return put(tx, "Hall")
	}))
	see("first", "Hall")
	change, err := st.Change(ctx, club, member, "", "added", func(tx *store.Tx) error { return put(tx, "Gym") })
	must(err)
	see("after a change", "Gym", "Hall")
	_, err = st.Undo(ctx, club, member, change)
	must(err)
	see("after it was undone", "Hall")

	// Who fails sees their own change, and nobody after them; not even when another makes the next.
	failed := errors.New("failed")
	err = st.In(ctx, club, func(tx *store.Tx) error {
		must(put(tx, "Nowhere"))
		if vs, err := tx.Venues(ctx); err != nil || len(vs) != 2 {
			t.Errorf("inside the change: %v, %v", vs, err)
		}
		return failed
	})
	if !errors.Is(err, failed) {
		t.Fatal(err)
	}
	must(st.In(ctx, club, func(tx *store.Tx) error { return put(tx, "Beach") }))
	see("after a change that failed, and one that did not", "Beach", "Hall")

	// By another program, and by hand.
	other, err := store.Open(ctx, db.App)
	must(err)
	defer other.Pool.Close()
	must(other.In(ctx, club, func(tx *store.Tx) error { return put(tx, "Court") }))
	see("by another program", "Beach", "Court", "Hall")
	owner, err := pgx.Connect(ctx, db.Owner)
	must(err)
	defer owner.Close(ctx)
	_, err = owner.Exec(ctx, `update venue set name = 'Arena' where name = 'Hall'`)
	must(err)
	see("by hand", "Arena", "Beach", "Court")
}
