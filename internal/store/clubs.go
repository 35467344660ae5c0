package store

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"gruppo/internal/coach"
)

// Club is the tenant.
type Club struct {
	ID, Name, TimeZone string
	Units              coach.Units
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
	SignIns               int        // sessions made at another count are signed out
	Visitor               bool       // came in by the code of one session
	WayIn                 *time.Time // a link to choose a password works until then
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
	if err := tx.exec(ctx, "make the club", `insert into club (club_id, name, time_zone, units)
			values ($1, $2, $3, coalesce(nullif($4, ''), 'metric'))`, tx.Club, c.Name, c.TimeZone, c.Units); err != nil {
		return err
	}
	return tx.exec(ctx, "enter the club", `select enter_club($1)`, tx.Club) // its zone is known from here on
}

// AddMember adds a person; ErrTaken when the address has an account in this club already.
func (tx *Tx) AddMember(ctx context.Context, m Member) error {
	return taken(tx.exec(ctx, "add the member", `insert into member (club_id, id, name, email, role, password_hash)
			values ($1, $2, $3, $4, $5, $6)`,
		tx.Club, m.ID, m.Name, m.Email, m.Role, m.PasswordHash))
}

// SetClub keeps the club's name, zone and units.
func (tx *Tx) SetClub(ctx context.Context, c Club) error {
	return tx.exec(ctx, "keep the club", `update club set name = $1, time_zone = $2,
			units = $3`, c.Name, c.TimeZone, c.Units)
}

// MemberOf is one of the club's people, or ErrNone.
func (tx *Tx) MemberOf(ctx context.Context, id string) (m Member, err error) {
	if !IsID(id) {
		return m, ErrNone
	}
	err = tx.QueryRow(ctx, `select id, name, email, role from member where id = $1
			and for_session is null`, id).Scan(&m.ID, &m.Name, &m.Email, &m.Role)
	return m, none(err)
}

// Care is what the club asks of plans for the sake of its players.
type Care struct {
	PerAdult     int  // players for each adult at most; 0: none set
	MostForfeits *int // after faults, in a session, of those under 16; nil: the usual
	HomeMinutes  int  // of practice at home a day at most, of those under 16; 0: the usual
	ClipDays     int  // for how many a mirror keeps a clip; 0: it keeps none
	KeyHolds     int  // from how many of a hundred a key holds; 0: the usual
}

// SetCare keeps it.
func (tx *Tx) SetCare(ctx context.Context, c Care) error {
	return tx.exec(ctx, "keep the care settings", `update club set per_adult = nullif($1, 0), most_forfeits = $2,
			home_minutes = nullif($3, 0), clip_days = nullif($4, 0), key_holds = nullif($5, 0)`,
		c.PerAdult, c.MostForfeits, c.HomeMinutes, c.ClipDays, c.KeyHolds)
}

// Care is the club's own.
func (tx *Tx) Care(ctx context.Context) (Care, error) {
	return one[Care](ctx, tx, "read the care settings", `select coalesce(per_adult, 0) as per_adult, most_forfeits,
			coalesce(home_minutes, 0) as home_minutes, coalesce(clip_days, 0) as clip_days, coalesce(key_holds, 0) as key_holds
		from club`)
}

// Signed is the club and member of a signed-in person, asked before every page, and the versions the club is at.
func (s *Store) Signed(ctx context.Context, club, member string) (c Club, m Member, v Versions, err error) {
	err = s.Pool.QueryRow(ctx, `select club_id, club_name, time_zone, units, id, name, email, role, password_hash,
			sign_ins, visitor, shelf, setup from member_signed_in($1, $2)`, club, member).
		Scan(&c.ID, &c.Name, &c.TimeZone, &c.Units, &m.ID, &m.Name, &m.Email, &m.Role, &m.PasswordHash, &m.SignIns, &m.Visitor,
			&v.Shelf, &v.Setup)
	return c, m, v, none(err)
}

// none is ErrNone where a question had no answer.
func none(err error) error {
	if errors.Is(err, pgx.ErrNoRows) {
		return ErrNone
	}
	return err
}

// Members lists the club's people, leads first, with the links by which some may still come in.
func (tx *Tx) Members(ctx context.Context, now time.Time) ([]Member, error) {
	return collect[Member](ctx, tx, "list members", `select id, name, email, role, case
			when password_hash = '' then '' else 'set' end as password_hash, sign_ins, false as visitor,
			(select w.until from way_in w where w.member_id = member.id and w.until > $1) as way_in from member
			where for_session is null
		order by array_position(array['lead', 'coach', 'helper'], role), name collate names`, now)
}

// EndAccess signs a member out everywhere and lets no password fit any more; what they did stays theirs.
func (tx *Tx) EndAccess(ctx context.Context, member string) error {
	if err := tx.exec(ctx, "shut the ways in", `delete from way_in where member_id = $1`, member); err != nil {
		return err
	}
	if err := tx.exec(ctx, "withdraw the member's calendars", `update calendar set withdrawn_at = now()
			where member_id = $1 and withdrawn_at is null`, member); err != nil {
		return err
	}
	tag, err := tx.Exec(ctx, `update member set password_hash = '', sign_ins = sign_ins + 1 where id = $1`, member)
	if err := touched(tag.RowsAffected(), err, "end the member's access"); err != nil {
		return err
	}
	return tx.TellEnded(ctx, member)
}

// SetPassword stores a new password and signs the member out everywhere.
func (tx *Tx) SetPassword(ctx context.Context, member, hash string) (signIns int, err error) {
	if err := tx.exec(ctx, "shut the ways in", `delete from way_in where member_id = $1`, member); err != nil {
		return 0, err
	}
	err = tx.QueryRow(ctx, `update member set password_hash = $2, sign_ins = sign_ins + 1 where id = $1
			returning sign_ins`, member, hash).Scan(&signIns)
	if err == nil {
		err = tx.TellEnded(ctx, member)
	}
	return signIns, err
}

// SignOutEverywhere ends every session of the member.
func (tx *Tx) SignOutEverywhere(ctx context.Context, member string) error {
	if err := tx.exec(ctx, "sign out everywhere", `update member set sign_ins = sign_ins + 1
			where id = $1`, member); err != nil {
		return err
	}
	return tx.TellEnded(ctx, member)
}

// Account is somebody who can sign in to a club.
type Account struct{ ClubID, Club, Member, Hash string }

// Accounts are those of an address, across clubs: at most five, of the oldest club first. None for an address that
// nobody has.
func (s *Store) Accounts(ctx context.Context, address string) ([]Account, error) {
	rows, err := s.Pool.Query(ctx, `select club_id, club, id, password_hash from member_for_sign_in($1)`, address)
	if err != nil {
		return nil, fmt.Errorf("find the account: %w", err)
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Account])
}

// TryLimit is how often something may go wrong for a key (the hash of an address, a device, a network) before the next
// try has to wait.
type TryLimit struct {
	Key  string
	Free int
}

// tryPause is how long the next try waits after so many failures of which so many were free: two seconds, then twice as
// long each time, up to five minutes.
const tryPause = `least(interval '5 minutes', interval '1 second' * power(2, least(failures - $3 + 1, 9)))`

// Try counts a try as failed before it is made, so that any number at once cannot pass a limit, and says how long to
// wait instead where one is reached. Failures of which the last is over an hour old are forgotten.
func (s *Store) Try(ctx context.Context, now time.Time, limits ...TryLimit) (wait time.Duration, err error) {
	for _, l := range limits {
		tag, err := s.Pool.Exec(ctx, `insert into web.sign_in_failure as f (key, failures, last) values ($1, 1, $2)
			on conflict (key) do update set failures = case when f.last < $2 - interval '1 hour' then 1
				else f.failures + 1 end, last = $2
			where f.failures < $3 or f.last < $2 - interval '1 hour'
				or f.last + `+strings.ReplaceAll(tryPause, "failures", "f.failures")+` <= $2`, l.Key, now, l.Free)
		if err != nil {
			return 0, fmt.Errorf("count the try: %w", err)
		}
		if tag.RowsAffected() > 0 {
			continue
		}
		var until time.Time
		err = s.Pool.QueryRow(ctx, `select last + `+tryPause+` from web.sign_in_failure where key = $1
			and $2::timestamptz is not null`, l.Key, now, l.Free).Scan(&until)
		if err != nil && !errors.Is(err, pgx.ErrNoRows) {
			return 0, fmt.Errorf("read the slow-down: %w", err)
		}
		return max(time.Second, until.Sub(now)), nil
	}
	return 0, nil
}

// Worked takes back the one failure that Try counted for each key, and all of those in forget.
func (s *Store) Worked(ctx context.Context, counted []string, forget ...string) error {
	_, err := s.Pool.Exec(ctx, `with gone as (delete from web.sign_in_failure where key = any($2::text[]))
		update web.sign_in_failure set failures = greatest(0, failures - 1) where key = any($1::text[])
			and key <> all($2::text[])`, list(counted), list(forget))
	return err
}

// KnowDevice remembers a device, by the hash of its secret, from which somebody signed in with an address.
func (s *Store) KnowDevice(ctx context.Context, hash, address string, until time.Time) error {
	_, err := s.Pool.Exec(ctx, `insert into web.known_device (hash, address, until) values ($1, $2, $3)
			on conflict (hash, address) do update set until = excluded.until`, hash, address, until)
	return err
}

// KnownDevice reports whether the address was signed in with from the device before.
func (s *Store) KnownDevice(ctx context.Context, hash, address string, now time.Time) (known bool, err error) {
	err = s.Pool.QueryRow(ctx, `select exists (select from web.known_device where hash = $1 and address = $2
			and until > $3)`, hash, address, now).Scan(&known)
	return known, err
}

// Purge forgets failures and devices whose time is over.
func (s *Store) Purge(ctx context.Context, now time.Time) error {
	_, err := s.Pool.Exec(ctx, `with gone as (delete from web.sign_in_failure
			where last < $1::timestamptz - interval '2 hours') delete from web.known_device where until < $1`, now)
	return err
}
