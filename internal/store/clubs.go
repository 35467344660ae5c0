package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// Club is the tenant.
type Club struct {
	ID, Name, TimeZone, Units string
}

// Location is the club's time zone; UTC where the zone is not known to this machine.
func (c Club) Location() *time.Location {
	if loc, err := time.LoadLocation(c.TimeZone); err == nil {
		return loc
	}
	return time.UTC
}

// Member is a person who signs in.
type Member struct {
	ID, Name, Email, Role string
	PasswordHash          string
	SignIns               int // sessions made at another count are signed out
}

// ErrTaken is returned when an address or a name is already in use.
var ErrTaken = errors.New("already in use")

func taken(err error) error {
	var pg *pgconn.PgError
	if errors.As(err, &pg) && pg.Code == "23505" {
		return fmt.Errorf("%w: %s", ErrTaken, pg.ConstraintName)
	}
	return err
}

// AddClub makes the transaction's club.
func (tx *Tx) AddClub(ctx context.Context, c Club) error {
	return tx.exec(ctx, "make the club", `insert into club (club_id, name, time_zone, units) values ($1, $2, $3, 'metric')`, tx.Club, c.Name, c.TimeZone)
}

// AddMember adds a person; ErrTaken when the address has an account already.
func (tx *Tx) AddMember(ctx context.Context, m Member) error {
	return taken(tx.exec(ctx, "add the member", `insert into member (club_id, id, name, email, role, password_hash) values ($1, $2, $3, $4, $5, $6)`,
		tx.Club, m.ID, m.Name, m.Email, m.Role, m.PasswordHash))
}

// SetPerAdult keeps the club's own limit of players for each adult; 0: none.
func (tx *Tx) SetPerAdult(ctx context.Context, n int) error {
	return tx.exec(ctx, "keep the care setting", `update club set per_adult = nullif($1, 0)`, n)
}

// PerAdult is the club's own limit of players for each adult; 0: none set.
func (tx *Tx) PerAdult(ctx context.Context) (n int, err error) {
	err = tx.QueryRow(ctx, `select coalesce(per_adult, 0) from club`).Scan(&n)
	return n, err
}

// Signed is the club and member of a signed-in person, asked before every page.
func (s *Store) Signed(ctx context.Context, club, member string) (c Club, m Member, err error) {
	err = s.Pool.QueryRow(ctx, `select club_id, club_name, time_zone, units, id, name, email, role, password_hash, sign_ins from member_signed_in($1, $2)`, club, member).
		Scan(&c.ID, &c.Name, &c.TimeZone, &c.Units, &m.ID, &m.Name, &m.Email, &m.Role, &m.PasswordHash, &m.SignIns)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNone
	}
	return c, m, err
}

// Members lists the club's people, leads first.
func (tx *Tx) Members(ctx context.Context) ([]Member, error) {
	return collect[Member](ctx, tx, "list members", `select id, name, email, role, case when password_hash = '' then '' else 'set' end as password_hash, sign_ins from member where for_session is null
		order by array_position(array['lead', 'coach', 'helper'], role), name`)
}

// EndAccess signs a member out everywhere and lets no password fit any more; what they did stays theirs.
func (tx *Tx) EndAccess(ctx context.Context, member string) error {
	return tx.exec(ctx, "end the member's access", `update member set password_hash = '', sign_ins = sign_ins + 1 where id = $1`, member)
}

// SetPassword stores a new password and signs the member out everywhere.
func (tx *Tx) SetPassword(ctx context.Context, member, hash string) (signIns int, err error) {
	err = tx.QueryRow(ctx, `update member set password_hash = $2, sign_ins = sign_ins + 1 where id = $1 returning sign_ins`, member, hash).Scan(&signIns)
	return signIns, err
}

// SignOutEverywhere ends every session of the member.
func (tx *Tx) SignOutEverywhere(ctx context.Context, member string) error {
	return tx.exec(ctx, "sign out everywhere", `update member set sign_ins = sign_ins + 1 where id = $1`, member)
}

// ForSignIn finds an account by its address, across clubs.
func (s *Store) ForSignIn(ctx context.Context, email string) (club, member, hash string, err error) {
	err = s.Pool.QueryRow(ctx, `select club_id, id, password_hash from member_for_sign_in($1)`, email).Scan(&club, &member, &hash)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNone
	}
	return club, member, hash, err
}

// freeFailures is how often a password may be wrong before the next try has to wait.
const freeFailures = 5

// SignInWait is how long the key (a hash of an address) has to wait before the next try: nothing for the first five
// failures, then twice as long each time up to five minutes. Failures older than an hour are forgotten.
func (s *Store) SignInWait(ctx context.Context, now time.Time, key string) (time.Duration, error) {
	var n int
	var last time.Time
	err := s.Pool.QueryRow(ctx, `select failures, last from web.sign_in_failure where key = $1 and last > $2`, key, now.Add(-time.Hour)).Scan(&n, &last)
	if errors.Is(err, pgx.ErrNoRows) || err == nil && n < freeFailures {
		return 0, nil
	}
	if err != nil {
		return 0, fmt.Errorf("read the slow-down: %w", err)
	}
	pause := min(5*time.Minute, time.Second<<min(n-freeFailures+1, 9))
	return max(0, last.Add(pause).Sub(now)), nil
}

// SignInFailed counts a failure for the key.
func (s *Store) SignInFailed(ctx context.Context, now time.Time, key string) error {
	_, err := s.Pool.Exec(ctx, `insert into web.sign_in_failure (key, failures, last) values ($1, 1, $2)
		on conflict (key) do update set failures = case when web.sign_in_failure.last < $2 - interval '1 hour' then 1 else web.sign_in_failure.failures + 1 end, last = $2`, key, now)
	return err
}

// SignInWorked forgets the failures of the key.
func (s *Store) SignInWorked(ctx context.Context, key string) error {
	_, err := s.Pool.Exec(ctx, `delete from web.sign_in_failure where key = $1`, key)
	return err
}
