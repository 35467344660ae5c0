package store

import (
	"context"
	"time"

	"gruppo/internal/day"
)

// Calendar is an address by which others read dates: of a member, or of a class.
type Calendar struct {
	ID, Member, Class   string
	MadeAt              time.Time
	WithdrawnAt, SeenAt *time.Time
}

// Calendars lists the addresses that work: of a member, and of all classes.
func (tx *Tx) Calendars(ctx context.Context, member string) ([]Calendar, error) {
	return collect[Calendar](ctx, tx, "list calendars", `select id, coalesce(member_id::text, '') as member,
			coalesce(class_id::text, '') as class, made_at, withdrawn_at, seen_at from calendar
		where withdrawn_at is null and (member_id is null or member_id::text = $1) order by made_at desc`, member)
}

// AddCalendar keeps an address by the hash of its secret.
func (tx *Tx) AddCalendar(ctx context.Context, k Calendar, hash, by string) error {
	return tx.exec(ctx, "keep the calendar's address", `insert into calendar (club_id, id, member_id, class_id, hash,
			by_member, made_at) values ($1, $2, $3, $4, $5, $6, $7)`,
		tx.Club, k.ID, null(k.Member), null(k.Class), hash, by, k.MadeAt)
}

// WithdrawCalendar ends an address at once: of a member only their own, of a class anybody's. It returns the class.
func (tx *Tx) WithdrawCalendar(ctx context.Context, id, member string, at time.Time) (class string, err error) {
	type row struct{ Class string }
	r, err := one[row](ctx, tx, "withdraw the calendar", `update calendar set withdrawn_at = coalesce(withdrawn_at, $3)
			where id = $1 and (member_id is null or member_id::text = $2) returning coalesce(class_id::text, '') as class`,
		id, member, at)
	return r.Class, err
}

// CalendarShown is what an address shows.
type CalendarShown struct {
	Club          Club
	Member, Class string
}

// ByCalendar is what the address with that hash shows, across clubs; ErrNone when it is unknown or withdrawn.
func (s *Store) ByCalendar(ctx context.Context, hash string, at time.Time) (k CalendarShown, err error) {
	err = s.Pool.QueryRow(ctx, `select club_id, club, time_zone, coalesce(member_id::text, ''), coalesce(class_id::text, '')
			from calendar_page($1, $2)`, hash, at).Scan(&k.Club.ID, &k.Club.Name, &k.Club.TimeZone, &k.Member, &k.Class)
	return k, none(err)
}

// Mail is what would be sent to somebody.
type Mail struct {
	ID, About, To, Subject, Body string
	At                           time.Time
}

// AddMail keeps a mail, once for what it is about.
func (tx *Tx) AddMail(ctx context.Context, m Mail) error {
	return tx.exec(ctx, "keep the mail", `insert into mail (club_id, id, about, to_address, subject, body, at)
			values ($1, $2, $3, $4, $5, $6, $7) on conflict (club_id, about) do nothing`,
		tx.Club, m.ID, m.About, m.To, m.Subject, m.Body, m.At)
}

// Mails lists the newest mails.
func (tx *Tx) Mails(ctx context.Context) ([]Mail, error) {
	return collect[Mail](ctx, tx, "list mails", `select id, about, to_address as "to", subject, body, at from mail
			order by at desc, id desc limit 100`)
}

// Reminded is a link whose reader asked for reminders.
type Reminded struct{ Link, Player, Name, Mail, Key, Base string }

// RemindedOf lists the links with reminders of some players; nil: of all. With a day those are left out that were
// reminded on it.
func (tx *Tx) RemindedOf(ctx context.Context, players []string, at time.Time, on day.Day) ([]Reminded, error) {
	return collect[Reminded](ctx, tx, "list who wants reminders", `select g.id as link, g.player_id as player, p.name, g.mail,
			g.mail_key as key, g.base from guardian_link g join player p on p.id = g.player_id
		where g.mail <> '' and g.withdrawn_at is null and p.left_on is null and ($1::uuid[] is null or g.player_id = any($1))
			and g.until_on >= `+dayOf("$2::timestamptz")+`
			and not exists (select from mail m where m.about = $3 || g.id || ' ' || $4) order by g.id`,
		players, at, HomeMail, on.String())
}

// HomeMail begins what a reminder of practice is about; the link and the day follow.
const HomeMail = "home "

// EndReminders ends those of a key, across clubs, and says whether there were any.
func (s *Store) EndReminders(ctx context.Context, key string) (was bool, err error) {
	err = s.Pool.QueryRow(ctx, `select end_reminders($1)`, key).Scan(&was)
	return was, err
}

// ClubsToRemind lists the clubs in which somebody wants reminders.
func (s *Store) ClubsToRemind(ctx context.Context) (out []Club, err error) {
	rows, err := s.Pool.Query(ctx, `select club_id, time_zone from clubs_to_remind()`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var c Club
		if err := rows.Scan(&c.ID, &c.TimeZone); err != nil {
			return nil, err
		}
		out = append(out, c)
	}
	return out, rows.Err()
}
