package store

import (
	"context"
	"time"

	"gruppo/internal/coach/season"
	"gruppo/internal/day"
)

// Theme is what a class is about on one of its dates.
type Theme struct {
	Class string
	On    day.Day
	season.Theme
}

type themeRow struct {
	Class, Kind, Value, Says string
	On                       day.Day
	Pinned                   bool
}

const themeColumns = `select class_id as class, on_day as "on", kind, value, says, pinned from theme`

func (r themeRow) theme() Theme {
	return Theme{
		Class: r.Class,
		On:    r.On,
		Theme: season.Theme{Kind: season.Kind(r.Kind), Value: r.Value, Says: r.Says, Pinned: r.Pinned},
	}
}

// Themes lists the themes of all classes from a day until a day, that one included.
func (tx *Tx) Themes(ctx context.Context, from, until day.Day) (out []Theme, err error) {
	rows, err := collect[themeRow](ctx, tx, "list themes", themeColumns+` where on_day between $1 and $2
		order by class_id, on_day`, from, until)
	for _, r := range rows {
		out = append(out, r.theme())
	}
	return out, err
}

// PutTheme sets the theme of a class on a day; an open one leaves the day open.
func (tx *Tx) PutTheme(ctx context.Context, t Theme) error {
	if t.Kind == season.Open {
		return tx.exec(ctx, "leave the day open", `delete from theme where class_id = $1 and on_day = $2`, t.Class, t.On)
	}
	return tx.exec(ctx, "set the theme", `insert into theme (club_id, class_id, on_day, kind, value, says, pinned)
			values ($1, $2, $3, $4, $5, $6, $7)
		on conflict (club_id, class_id, on_day) do update set kind = excluded.kind, value = excluded.value,
			says = excluded.says, pinned = excluded.pinned`,
		tx.Club, t.Class, t.On, string(t.Kind), t.Value, t.Says, t.Pinned)
}

// DayOff is a holiday or an event, from a day until a day, that one included.
type DayOff struct {
	ID, Kind, Name string
	From, Until    day.Day
}

// The kinds of a day off.
const (
	Holiday = "holiday" // nobody meets
	OnShow  = "event"   // something is on: a cup, a show, an open day
)

// Holds reports whether a day is in it.
func (d DayOff) Holds(on day.Day) bool { return !d.From.After(on) && d.Until.Holds(on) }

// DaysOff lists holidays and events that touch a stretch of days, by their first.
func (tx *Tx) DaysOff(ctx context.Context, from, until day.Day) ([]DayOff, error) {
	return collect[DayOff](ctx, tx, "list holidays and events", `select id, kind, name, from_on as "from",
			until_on as until from day_off
		where until_on >= $1 and from_on <= $2 order by from_on, name collate names`, from, until)
}

// PutDayOff adds a holiday or an event.
func (tx *Tx) PutDayOff(ctx context.Context, d DayOff) error {
	return tx.exec(ctx, "keep the holiday or event", `insert into day_off (club_id, id, kind, name, from_on, until_on)
		values ($1, $2, $3, $4, $5, $6)`, tx.Club, d.ID, d.Kind, d.Name, d.From, d.Until)
}

// DropDayOff takes a holiday or an event off the list; ErrNone where there is none.
func (tx *Tx) DropDayOff(ctx context.Context, id string) error {
	_, err := one[struct{ ID string }](ctx, tx, "take the holiday or event off", `delete from day_off where id = $1 returning id`, id)
	return err
}

// Practised is what happened in a session: the skills of the drills at its stations and in its blocks, and the criteria
// that marks were taken for.
type Practised struct {
	Class   string
	On      day.Day // where the club is
	Session string
	Held    bool
	Skills  []string
	Marked  []string // ids of criteria
	Marks   int
}

// Practised lists the sessions of all classes from a day until a day, that one included, in the club's zone.
func (tx *Tx) Practised(ctx context.Context, from, until day.Day) ([]Practised, error) {
	return collect[Practised](ctx, tx, "list what was practised", `with all_days as (
			select class_id, id, starts_at, `+dayOf("starts_at")+` as on_day from session where cancelled_at is null),
		s as materialized (select * from all_days where on_day between $1 and $2)
		select s.class_id as class, s.on_day as "on", s.id as session, s.id in (select session_id from run_event
			where what = 'end') as held, coalesce(d.skills, '{}') as skills, coalesce(m.marked, '{}') as marked,
			coalesce(m.marks, 0) as marks
		from s
		left join (select x.session_id, array_agg(distinct k) as skills from session_drill x join drill d on d.id = x.drill_id
			cross join unnest(d.skills) k where x.session_id in (select id from s) group by 1) d on d.session_id = s.id
		left join (select session_id, count(*) as marks, coalesce(array_agg(distinct criterion_id::text)
			filter (where criterion_id is not null), '{}') as marked from mark where session_id in (select id from s)
			group by 1) m on m.session_id = s.id
		order by s.starts_at, s.id`, from, until)
}

// Meeting is a session of a class as the club looks back on it.
type Meeting struct {
	Class    string
	On       day.Day // where the club is
	Came, Of int     // of those of whom the register says something
	Marks    int
}

// Meetings lists the sessions that were run from a day until a day, that one included, in the club's zone.
func (tx *Tx) Meetings(ctx context.Context, from, until day.Day) ([]Meeting, error) {
	return collect[Meeting](ctx, tx, "list what was run", `with run as (
			select class_id, id, starts_at, `+dayOf("starts_at")+` as on_day from session
			where id in (select session_id from run_event where what = 'end')),
		s as materialized (select * from run where on_day between $1 and $2)
		select s.class_id as class, s.on_day as "on", coalesce(a.came, 0) as came, coalesce(a.of, 0) as of,
			coalesce(m.marks, 0) as marks
		from s
		left join (select session_id, count(*) filter (where has_come(state)) as came, count(*) as of from attendance
			where state <> '' and session_id in (select id from s) group by 1) a on a.session_id = s.id
		left join (select session_id, count(*) as marks from mark where session_id in (select id from s) group by 1) m
			on m.session_id = s.id
		order by s.starts_at, s.id`, from, until)
}

// Comings is whether somebody came to the last dates of their class, the newest first.
type Comings struct {
	Player, Name, Class string
	Came                []bool
	Last                *day.Day // when they came last, of these
}

// LastComings lists them for everybody in a class, as far as the register says something: at most eight dates back from
// a moment.
func (tx *Tx) LastComings(ctx context.Context, at time.Time) ([]Comings, error) {
	return collect[Comings](ctx, tx, "list who came last", `select p.id as player, p.name, e.class_id as class, x.came, x.last
		from player p join class_player e on e.player_id = p.id
		join (select y.player_id, y.class_id, array_agg(has_come(y.state) order by y.starts_at desc) as came,
				max(`+dayOf("y.starts_at")+`) filter (where has_come(y.state)) as last
			from (select a.player_id, s.class_id, a.state, s.starts_at,
					row_number() over (partition by a.player_id, s.class_id order by s.starts_at desc) as no
				from attendance a join session s on s.id = a.session_id
				where a.state <> '' and s.starts_at < $1 and s.cancelled_at is null) y
			where y.no <= 8 group by y.player_id, y.class_id) x on (x.player_id, x.class_id) = (p.id, e.class_id)
		where p.left_on is null order by p.name collate names, e.class_id`, at)
}

// Booked is a session to come with its place and who leads it.
type Booked struct {
	Class, Name      string
	StartsAt         time.Time
	Minutes          int
	Venue, VenueName string
	Zone             string
	Leaders          []SessionLeader
}

// Bookings lists the sessions of all classes that begin between two moments and take place.
func (tx *Tx) Bookings(ctx context.Context, from, to time.Time) ([]Booked, error) {
	return collect[Booked](ctx, tx, "list what is booked", `select s.class_id as class, c.name, s.starts_at, s.minutes,
			s.venue_id as venue, v.name as venue_name, s.zone,
			(select coalesce(json_agg(json_build_object('member', m.id, 'name', m.name, 'from', sm.from_minute,
				'until', coalesce(sm.until_minute, 0))), '[]') from session_member sm join member m on m.id = sm.member_id
				where sm.session_id = s.id) as leaders
		from session s join class c on c.id = s.class_id join venue v on v.id = s.venue_id
		where s.cancelled_at is null and s.starts_at >= $1 and s.starts_at < $2 order by s.starts_at, s.id`, from, to)
}
