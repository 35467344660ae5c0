// Package store keeps everything in PostgreSQL through pgx: a file for each kind of thing, SQL written as SQL.
// Every question is asked inside a transaction of one club, and row-level security answers with that club's rows only.
package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"strings"

	"gruppo/internal/coach/path"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is the door to the database. It is safe for concurrent use.
type Store struct {
	Pool *pgxpool.Pool
	kept *lru.Cache[string, *kept] // by club and what it is of
}

// Tx is a transaction of one club.
type Tx struct {
	pgx.Tx
	Club   string
	Member string // who asks; empty: nobody, who sees what the whole club sees
	// Versions are those of the club when a request that changes nothing began; nil: they are asked for
	Versions *Versions
	store    *Store
}

var (
	// ErrNone is returned when what was asked for is not there, or not the club's.
	ErrNone = errors.New("not found")
	// ErrChangedSince is returned when somebody else changed it in the meantime.
	ErrChangedSince = errors.New("changed since")
	// ErrNewer is returned when the database was written by a newer program.
	ErrNewer = errors.New(
		"the database belongs to a newer Gruppo than this program; start the newer program, or restore a backup made by this one",
	)
	// ErrOlder is returned when the database waits for migrations that this login may not make.
	ErrOlder = errors.New(
		"the database is older than this program; run 'gruppo migrate' with MIGRATE_URL set to the owner's login",
	)
)

// Connections is how many connections a program takes for its questions, unless it is told another number; one more
// listens for notices.
const Connections = 12

// Migrate brings the database up to this program's version as its owner, under a lock so that several programs may
// start at once. A database from a newer program is refused with ErrNewer.
func Migrate(ctx context.Context, ownerURL string) error {
	cfg, err := pgx.ParseConfig(ownerURL)
	if err != nil {
		return fmt.Errorf("read the owner's database address: %w", err)
	}
	db := stdlib.OpenDB(*cfg)
	defer db.Close()
	locker, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return err
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectPostgres, db, files, goose.WithSessionLocker(locker))
	if err != nil {
		return err
	}
	current, target, err := p.GetVersions(ctx)
	if err != nil {
		return fmt.Errorf("read the database's version: %w", err)
	}
	if current > target {
		return ErrNewer
	}
	if _, err := p.Up(ctx); err != nil {
		return fmt.Errorf("bring the database up to date: %w", err)
	}
	return nil
}

// newest is the version of the newest migration in the program.
func newest() int64 {
	files, _ := migrations.ReadDir("migrations") // embedded: cannot fail
	var last int64
	for _, f := range files {
		if v, err := goose.NumericComponent(f.Name()); err == nil {
			last = max(last, v)
		}
	}
	return last
}

// Open connects as the program's own role and checks that the database has this program's version.
func Open(ctx context.Context, appURL string, options ...func(*pgxpool.Config)) (*Store, error) {
	cfg, err := pgxpool.ParseConfig(appURL)
	if err != nil {
		return nil, fmt.Errorf("read the database address: %w", err)
	}
	for name, value := range map[string]string{
		"search_path": "public, web", "jit": "off",
		"timezone":          "UTC",                // rows are kept as text for undo, and compared with it
		"plan_cache_mode":   "force_generic_plan", // each question says only what is asked, so one plan does for all its arguments
		"statement_timeout": "20s", "lock_timeout": "10s", "idle_in_transaction_session_timeout": "30s",
	} {
		cfg.ConnConfig.RuntimeParams[name] = value
	}
	cfg.MaxConns, cfg.AfterConnect = Connections, withIDs
	for _, o := range options {
		o(cfg)
	}
	pool, err := pgxpool.NewWithConfig(ctx, cfg)
	if err != nil {
		return nil, fmt.Errorf("connect to the database: %w", err)
	}
	memory, err := lru.New[string, *kept](128)
	if err != nil {
		return nil, err
	}
	s := &Store{Pool: pool, kept: memory}
	if err := s.checkVersion(ctx); err != nil {
		pool.Close()
		return nil, err
	}
	return s, nil
}

func (s *Store) checkVersion(ctx context.Context) error {
	var have int64
	err := s.Pool.QueryRow(ctx, `select max(version_id) from goose_db_version where is_applied`).Scan(&have)
	var pg *pgconn.PgError
	if errors.As(err, &pg) && pg.Code == "42P01" {
		return ErrOlder
	}
	if err != nil {
		return fmt.Errorf("read the database's version: %w", err)
	}
	want := newest()
	switch {
	case have > want:
		return ErrNewer
	case have < want:
		return ErrOlder
	}
	return nil
}

// In runs f in a transaction of the club, which is committed when f returns nil. For what is no id it is ErrNone.
func (s *Store) In(ctx context.Context, club string, f func(*Tx) error) error {
	if !IsID(club) {
		return ErrNone
	}
	enter := pgx.TxOptions{BeginQuery: "begin; select enter_club('" + club + "')"} // one way there and back
	return pgx.BeginTxFunc(ctx, s.Pool, enter, func(tx pgx.Tx) error {
		return f(&Tx{Tx: tx, Club: club, store: s})
	})
}

// Apart runs f so that what it wrote is taken back when it fails, and the transaction goes on.
func (tx *Tx) Apart(ctx context.Context, f func() error) error {
	return pgx.BeginFunc(ctx, tx.Tx, func(point pgx.Tx) error {
		whole := tx.Tx
		tx.Tx = point
		defer func() { tx.Tx = whole }()
		return f()
	})
}

// dayOf is the day of a moment where the club is, in SQL: the database itself stands in UTC.
func dayOf(moment string) string {
	return "(" + moment + " at time zone (select time_zone from club))::date"
}

// many rows at once are counted when they were loaded; of fewer the database hears within a minute.
const many = 100

// Loaded has the database count its tables anew where many rows were loaded, so that it plans for what is there now.
func (tx *Tx) Loaded(ctx context.Context, rows int) error {
	if rows < many {
		return nil
	}
	return tx.exec(ctx, "count what was loaded", `select count_what_was_loaded()`)
}

// Change runs f like In and keeps the rows it changes, so that the change can be undone by its id. Says is what was
// done, in the words of the undo offer; subject is what it was done to and may be empty.
func (s *Store) Change(ctx context.Context, club, by, subject, says string, f func(*Tx) error) (id string, err error) {
	if subject != "" && !IsID(subject) {
		return "", ErrNone
	}
	id = NewID()
	err = s.In(ctx, club, func(tx *Tx) error {
		_, err := tx.Exec(ctx, `with c as (insert into change (club_id, id, subject, says, by_member)
			values ($1, $2, $3, $4, $5))
			select set_config('gruppo.change', $2::text, true)`, club, id, null(subject), says, by)
		if err != nil {
			return fmt.Errorf("note the change: %w", err)
		}
		return f(tx)
	})
	return id, err
}

// Undone is a change that was taken back.
type Undone struct{ Says, Subject string }

// Undo takes a change back, or returns ErrChangedSince when part of it was changed again, or ErrNone when it is not the
// club's, not made by this member, or undone before. An empty member stands for anybody: for a plan, which people
// share.
func (s *Store) Undo(ctx context.Context, club, by, id string) (u Undone, err error) {
	err = s.In(ctx, club, func(tx *Tx) error {
		err := tx.QueryRow(ctx, `update change set undone_at = now() where id = $1 and undone_at is null
			and ($2::uuid is null or by_member = $2)
			returning says, coalesce(subject::text, '')`, id, null(by)).Scan(&u.Says, &u.Subject)
		if errors.Is(err, pgx.ErrNoRows) {
			return ErrNone
		}
		if err != nil {
			return fmt.Errorf("find the change: %w", err)
		}
		return tx.undoLinks(ctx, id)
	})
	return u, err
}

// undoLinks takes a change back; one that puts links back is checked under the shelf's lock, since others may have been
// added round it.
func (tx *Tx) undoLinks(ctx context.Context, change string) error {
	var links bool
	if err := tx.QueryRow(ctx, `select exists (select from change_row where change_id = $1
			and tbl = 'drill_link')`, change).Scan(&links); err != nil {
		return fmt.Errorf("look at the change: %w", err)
	}
	if !links {
		return tx.apply(ctx, change, false)
	}
	if err := tx.LockShelf(ctx); err != nil {
		return err
	}
	if err := tx.apply(ctx, change, false); err != nil {
		return err
	}
	all, err := tx.AllLinks(ctx)
	if err != nil {
		return err
	}
	if way := path.Round(all); way != nil {
		return &LoopError{way}
	}
	return nil
}

// apply puts the rows of a change as they were after it, or before it.
func (tx *Tx) apply(ctx context.Context, change string, forward bool) error {
	_, err := tx.Exec(ctx, `select apply_change($1, $2)`, change, forward)
	var pg *pgconn.PgError
	if errors.As(err, &pg) && (pg.Code == "GR001" || pg.Code == "23503" || pg.Code == "23505") {
		return ErrChangedSince
	}
	return err
}

// UndoLast takes back the newest change of the subject that stands, whoever made it: for a plan, which people share.
func (s *Store) UndoLast(ctx context.Context, club, subject string) (Undone, error) {
	var id string
	err := s.In(ctx, club, func(tx *Tx) error {
		return tx.QueryRow(ctx, `select id from change where subject = $1 and undone_at is null order by at desc
			limit 1`, subject).Scan(&id)
	})
	if errors.Is(err, pgx.ErrNoRows) {
		return Undone{}, ErrNone
	}
	if err != nil {
		return Undone{}, fmt.Errorf("find the last change: %w", err)
	}
	return s.Undo(ctx, club, "", id)
}

// Redo does the subject's change again that was undone last, unless something was changed since. ErrNone when there is
// none, ErrChangedSince when something else was changed in the meantime.
func (s *Store) Redo(ctx context.Context, club, subject string) (says string, err error) {
	err = s.In(ctx, club, func(tx *Tx) error {
		var id string
		err := tx.QueryRow(ctx, `update change set undone_at = null
			where id = (`+strings.Replace(redoable, "says", "id", 1)+`) returning id, says`, subject).Scan(&id, &says)
		if errors.Is(err, pgx.ErrNoRows) {
			return ErrNone
		}
		if err != nil {
			return fmt.Errorf("find the undone change: %w", err)
		}
		return tx.apply(ctx, id, true)
	})
	return says, err
}

// exec runs a statement, with what was being done in the error.
func (tx *Tx) exec(ctx context.Context, doing, sql string, args ...any) error {
	if _, err := tx.Exec(ctx, sql, args...); err != nil {
		return fmt.Errorf("%s: %w", doing, err)
	}
	return nil
}

// collect reads all rows into structs by the names of their columns.
func collect[T any](ctx context.Context, tx *Tx, doing, sql string, args ...any) ([]T, error) {
	rows, err := tx.Query(ctx, sql, args...)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", doing, err)
	}
	out, err := pgx.CollectRows(rows, pgx.RowToStructByName[T])
	if err != nil {
		return nil, fmt.Errorf("%s: %w", doing, err)
	}
	return out, nil
}

// one reads the only row, or returns ErrNone.
func one[T any](ctx context.Context, tx *Tx, doing, sql string, args ...any) (T, error) {
	out, err := collect[T](ctx, tx, doing, sql, args...)
	if err == nil && len(out) == 0 {
		err = fmt.Errorf("%s: %w", doing, ErrNone)
	}
	if err != nil {
		var zero T
		return zero, err
	}
	return out[0], nil
}

// question is one of several that do not wait for each other.
type question func(*pgx.Batch)

// together asks questions in one way there and back, and reads their answers one after the other.
func (tx *Tx) together(ctx context.Context, doing string, questions ...question) error {
	var all pgx.Batch
	for _, ask := range questions {
		ask(&all)
	}
	if err := tx.SendBatch(ctx, &all).Close(); err != nil {
		return fmt.Errorf("%s: %w", doing, err)
	}
	return nil
}

// into is where the columns of a row are read into.
type into []any

// each asks a question, and does something with each of its rows.
func each(do func(), row into, sql string, args ...any) question {
	return func(all *pgx.Batch) {
		all.Queue(sql, args...).Query(func(rows pgx.Rows) error {
			_, err := pgx.ForEachRow(rows, row, func() error { do(); return nil })
			return err
		})
	}
}

// where gathers the conditions of a filter, so that a question says only what is asked: its plan is then made for that.
type where struct {
	conditions []string
	args       []any
}

// and adds a condition when it is asked for; each argument stands for the next ? in it.
func (w *where) and(asked bool, condition string, args ...any) {
	if !asked {
		return
	}
	for _, a := range args {
		w.args = append(w.args, a)
		condition = strings.Replace(condition, "?", fmt.Sprint("$", len(w.args)), 1)
	}
	w.conditions = append(w.conditions, condition)
}

func (w *where) String() string {
	if len(w.conditions) == 0 {
		return ""
	}
	return " where " + strings.Join(w.conditions, " and ")
}

func null(s string) any {
	if s == "" {
		return nil
	}
	return s
}
