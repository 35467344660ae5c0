package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan"
)

// Session is one meeting of a class.
type Session struct {
	ID         string
	ClassID    string
	ClassName  string
	ProgramID  string
	StartsAt   time.Time
	Minutes    int
	Venue      Venue
	Zone       string // of the venue; empty: all of it
	Plan       plan.Plan
	Version    int
	ChangedBy  string // name; empty: nobody yet
	ChangedAt  *time.Time
	Leaders    []SessionLeader
	Expected   int // enrolled less those who said they stay away
	Enrolled   int
	Started    bool
	Ended      bool
	MarksTaken int
}

// SessionLeader is a member who is there from–until, in minutes after the start. Until 0: to the end.
type SessionLeader struct {
	Member string `json:"member"`
	Name   string `json:"name"`
	Role   string `json:"role"`
	From   int    `json:"from"`
	Until  int    `json:"until"`
}

// Ends is when the booked time is over.
func (s Session) Ends() time.Time { return s.StartsAt.Add(time.Duration(s.Minutes) * time.Minute) }

// SessionFilter narrows the sessions. Zero fields do not.
type SessionFilter struct {
	ID, Class string
	Member    string // only those this member is on
	From, To  time.Time
	Newest    bool // newest first
	Limit     int
}

// Sessions lists sessions by their start.
func (tx *Tx) Sessions(ctx context.Context, f SessionFilter) ([]Session, error) {
	type row struct {
		ID, ClassID, ClassName, ProgramID string
		StartsAt                          time.Time
		Minutes                           int
		VenueID, VenueName, VenueFloor    string
		Length, Width                     float64
		Zones, Blocked                    []floor.Area
		Zone                              string
		Plan                              []byte
		Version                           int
		ChangedBy                         *string
		ChangedAt                         *time.Time
		Leaders                           []SessionLeader
		Enrolled, Away, MarksTaken        int
		Started, Ended                    bool
	}
	order, limit := "s.starts_at, c.name", any(nil)
	if f.Newest {
		order = "s.starts_at desc, c.name"
	}
	if f.Limit > 0 {
		limit = f.Limit
	}
	from, to := any(nil), any(nil)
	if !f.From.IsZero() {
		from = f.From
	}
	if !f.To.IsZero() {
		to = f.To
	}
	rows, err := collect[row](ctx, tx, "list sessions", `select s.id, s.class_id, c.name as class_name, c.program_id, s.starts_at, s.minutes, v.id as venue_id, v.name as venue_name, v.floor as venue_floor,
			v.length, v.width, v.zones, v.blocked, s.zone, s.plan, s.version, b.name as changed_by, s.changed_at,
			(select coalesce(json_agg(json_build_object('member', m.id, 'name', m.name, 'role', m.role, 'from', sm.from_minute, 'until', coalesce(sm.until_minute, 0))
				order by array_position(array['lead', 'coach', 'helper'], m.role), m.name), '[]') from session_member sm join member m on m.id = sm.member_id where sm.session_id = s.id) as leaders,
			(select count(*) from class_player e where e.class_id = s.class_id) + (select count(*) from attendance a where a.session_id = s.id and a.state = 'guest') as enrolled,
			(select count(*) from attendance a where a.session_id = s.id and a.state in ('away', 'absent')) as away,
			(select count(*) from mark k where k.session_id = s.id) as marks_taken,
			exists (select from run_event r where r.session_id = s.id and r.what = 'start') as started,
			exists (select from run_event r where r.session_id = s.id and r.what = 'end') as ended
		from session s join class c on c.id = s.class_id join venue v on v.id = s.venue_id left join member b on b.id = s.changed_by
		where ($1::uuid is null or s.id = $1) and ($2::uuid is null or s.class_id = $2)
			and ($3::timestamptz is null or s.starts_at + make_interval(mins => s.minutes) >= $3) and ($4::timestamptz is null or s.starts_at < $4)
			and ($6::uuid is null or exists (select from session_member me where me.session_id = s.id and me.member_id = $6))
		order by `+order+` limit $5`, null(f.ID), null(f.Class), from, to, limit, null(f.Member))
	if err != nil {
		return nil, err
	}
	out := make([]Session, len(rows))
	for i, r := range rows {
		out[i] = Session{ID: r.ID, ClassID: r.ClassID, ClassName: r.ClassName, ProgramID: r.ProgramID, StartsAt: r.StartsAt, Minutes: r.Minutes,
			Venue: Venue{r.VenueID, r.VenueName, r.VenueFloor, r.Length, r.Width, r.Zones, r.Blocked}, Zone: r.Zone, Version: r.Version, ChangedAt: r.ChangedAt, Leaders: r.Leaders,
			Enrolled: r.Enrolled, Expected: max(0, r.Enrolled-r.Away), Started: r.Started, Ended: r.Ended, MarksTaken: r.MarksTaken}
		if r.ChangedBy != nil {
			out[i].ChangedBy = *r.ChangedBy
		}
		if err := json.Unmarshal(r.Plan, &out[i].Plan); err != nil {
			return nil, fmt.Errorf("read the plan of session %s: %w", r.ID, err)
		}
	}
	return out, nil
}

// Session is one session, or ErrNone.
func (tx *Tx) Session(ctx context.Context, id string) (Session, error) {
	ss, err := tx.Sessions(ctx, SessionFilter{ID: id})
	if err == nil && len(ss) == 0 {
		return Session{}, fmt.Errorf("find the session: %w", ErrNone)
	}
	if err != nil {
		return Session{}, err
	}
	return ss[0], nil
}

// AddSession makes a session of a class, led by the class's members. ErrTaken when the class meets then already.
func (tx *Tx) AddSession(ctx context.Context, s Session) error {
	doc, err := json.Marshal(s.Plan)
	if err != nil {
		return err
	}
	err = taken(tx.exec(ctx, "make the session", `insert into session (club_id, id, class_id, starts_at, minutes, venue_id, plan, zone) values ($1, $2, $3, $4, $5, $6, $7, $8)`,
		tx.Club, s.ID, s.ClassID, s.StartsAt, s.Minutes, s.Venue.ID, doc, s.Zone))
	if err != nil {
		return err
	}
	return tx.exec(ctx, "put the class's members on the session", `insert into session_member (club_id, session_id, member_id, until_minute)
		select club_id, $1, member_id, until_minute from class_member where class_id = $2`, s.ID, s.ClassID)
}

// SetPlan stores the plan if the session still has the version it was made on, and returns the new one; else ErrChangedSince.
func (tx *Tx) SetPlan(ctx context.Context, session string, version int, p plan.Plan, by string, at time.Time) (next int, err error) {
	doc, err := json.Marshal(p)
	if err != nil {
		return 0, err
	}
	err = tx.QueryRow(ctx, `update session set plan = $3,
		version = version + 1 + (select count(*) from change where subject = $1 and undone_at is not null), -- no number twice, also after an undo
		changed_by = $4, changed_at = $5 where id = $1 and version = $2 returning version`, session, version, doc, by, at).Scan(&next)
	if errors.Is(err, pgx.ErrNoRows) {
		return 0, ErrChangedSince
	}
	if err != nil {
		return 0, fmt.Errorf("keep the plan: %w", err)
	}
	return next, tx.Tell(ctx, session, fmt.Sprint("plan ", next))
}

// SetSessionLeader puts a member on the session from–until, or takes them off.
func (tx *Tx) SetSessionLeader(ctx context.Context, session string, l SessionLeader, there bool) error {
	if !there {
		return tx.exec(ctx, "take the member off the session", `delete from session_member where session_id = $1 and member_id = $2`, session, l.Member)
	}
	return tx.exec(ctx, "put the member on the session", `insert into session_member (club_id, session_id, member_id, from_minute, until_minute) values ($1, $2, $3, $4, nullif($5, 0))
		on conflict (club_id, session_id, member_id) do update set from_minute = excluded.from_minute, until_minute = excluded.until_minute`, tx.Club, session, l.Member, l.From, l.Until)
}

// PlanDrills are the drills of a plan, each in the edition it was planned with, by id.
func (tx *Tx) PlanDrills(ctx context.Context, plans ...plan.Plan) (map[string]coach.Drill, error) {
	ids, editions := []string{}, []int{}
	for _, p := range plans {
		for _, t := range p.Tasks() {
			ids, editions = append(ids, t.Drill), append(editions, t.Edition)
		}
	}
	ds, err := tx.drills(ctx, `select drill_id as id, edition, doc from drill_edition where (drill_id, edition) in (select * from unnest($1::uuid[], $2::int[]))`, ids, editions)
	out := map[string]coach.Drill{}
	for _, d := range ds {
		out[d.ID] = d
	}
	return out, err
}

// SetBooking changes where a session is and for how many minutes it is booked.
func (tx *Tx) SetBooking(ctx context.Context, session string, minutes int, venue, zone string) error {
	return tx.exec(ctx, "keep the booking", `update session set minutes = $2, venue_id = $3, zone = $4 where id = $1`, session, minutes, venue, zone)
}

// Attendance is what was said about a player in a session.
type Attendance struct {
	PlayerID    string
	State       string // away, present, late, absent, left, hurt, guest
	FromMinute  int    // late or back from: minutes after the start
	UntilMinute int    // left: minutes after the start; 0: to the end
	NoWhat      string // a limit for today
}

// SetAttendance keeps the newest word about the player; an empty state takes it back.
func (tx *Tx) SetAttendance(ctx context.Context, session string, a Attendance, by string, at time.Time) error {
	if a.State == "" {
		return tx.exec(ctx, "take back the register", `delete from attendance where session_id = $1 and player_id = $2 and said_at <= $3`, session, a.PlayerID, at)
	}
	return tx.exec(ctx, "keep the register", `insert into attendance (club_id, session_id, player_id, state, said_at, by_member, from_minute, until_minute, no_what) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)
		on conflict (club_id, session_id, player_id) do update set state = excluded.state, said_at = excluded.said_at, by_member = excluded.by_member,
			from_minute = excluded.from_minute, until_minute = excluded.until_minute, no_what = excluded.no_what
		where attendance.said_at <= excluded.said_at`, tx.Club, session, a.PlayerID, a.State, at, by, a.FromMinute, a.UntilMinute, a.NoWhat)
}

// Expected lists the players of the session's class, its guests and those who try it out, with what was said about each.
func (tx *Tx) Expected(ctx context.Context, s Session) (players []Player, said map[string]Attendance, err error) {
	type row struct {
		Attendance
		TriesOut bool
	}
	rows, err := collect[row](ctx, tx, "read the register", `select player_id, state, from_minute, until_minute, no_what, false as tries_out from attendance where session_id = $1
		union all select distinct d.player_id, '', 0, 0, '', true from decision d where d.kind = 'try' and d.class_id = $2 and d.at < $3
			and (exists (select from attendance a where a.session_id = $1 and a.player_id = d.player_id) or exists (select from open_tryout o where o.id = d.id and o.came < o.visits))
		order by tries_out`, s.ID, s.ClassID, s.Ends())
	if err != nil {
		return nil, nil, err
	}
	said = map[string]Attendance{}
	var guests []string
	for _, r := range rows {
		if _, known := said[r.PlayerID]; r.TriesOut && !known {
			r.State = "guest"
		}
		if r.State != "" {
			said[r.PlayerID] = r.Attendance
		}
		if r.TriesOut || r.State == "guest" {
			guests = append(guests, r.PlayerID)
		}
	}
	players, err = tx.Players(ctx, PlayerFilter{Class: s.ClassID, Also: guests})
	return players, said, err
}

// Ground is what a plan stands on beside its players and drills.
type Ground struct {
	Kit      []coach.Kit
	PerAdult int
	Taken    []struct {
		What    string    `json:"what"`
		Starts  time.Time `json:"starts"`
		Minutes int       `json:"minutes"`
	}
	History []struct { // the class's last sessions before, the newest first
		Starts   time.Time      `json:"starts"`
		Deal     [][]string     `json:"deal"`
		Stations []plan.Station `json:"stations"`
	}
	Notes      []Note // of the class's players, open and due by the day
	Rounds     Rounds // what the class's last rounds really gave
	Looks      Looked // that are planned for this session
	Undo, Redo string // what would be taken back, and done again
}

// Rounds are what the last rounds of a class really gave.
type Rounds []struct {
	Drill   string  `json:"drill"`
	Seconds float64 `json:"seconds"`
	Places  int     `json:"places"`
	Players int     `json:"players"`
	Counted int     `json:"counted"`
	Tries   int     `json:"tries"`
}

// Paced is a drill at the pace that the rounds showed.
func (rs Rounds) Paced(d coach.Drill) coach.Drill {
	var rounds []load.Round
	for _, r := range rs {
		if r.Drill == d.ID {
			rounds = append(rounds, load.Round{Time: time.Duration(r.Seconds * float64(time.Second)), AtOnce: r.Places, Players: r.Players, Counted: r.Counted, Tries: r.Tries})
		}
	}
	d.Pace, d.Paced = load.Learned(d.Pace, rounds)
	return d
}

// Ground reads it in one question.
func (tx *Tx) Ground(ctx context.Context, s Session) (Ground, error) {
	return one[Ground](ctx, tx, "read what the plan stands on", `select
		(select coalesce(json_agg(json_build_object('ID', k.id, 'Name', k.name, 'Count', k.count, 'StandsIn', k.stands_in) order by lower(k.name)), '[]') from kit k) as kit,
		(select coalesce(per_adult, 0) from club) as per_adult,
		(select coalesce(json_agg(json_build_object('what', c.name, 'starts', o.starts_at, 'minutes', o.minutes)), '[]') from session o join class c on c.id = o.class_id
			where o.venue_id = $2 and o.id <> $1 and (o.zone = $3 or o.zone = '' or $3 = '') and o.starts_at < $5 and o.starts_at + make_interval(mins => o.minutes) > $4) as taken,
		(select coalesce(json_agg(h), '[]') from (select o.starts_at as starts, o.plan->'deal' as deal, o.plan->'stations' as stations from session o
			where o.class_id = $6 and o.starts_at < $4 order by o.starts_at desc limit 8) h) as history,
		(select coalesce(json_agg(json_build_object(`+noteJSON+`) order by n.at desc, n.id), '[]') from player_note n join member m on m.id = n.by_member
			where n.player_id in (select player_id from class_player where class_id = $6) and n.session_id is distinct from $1 and n.done_at is null and n.kind <> 'effort' and (n.due is null or n.due <= $4::date)) as notes,
		(select coalesce(json_agg(r), '[]') from (`+roundsOf+`) r) as rounds,
		`+looksOf+` as looks,
		coalesce((select says from change where subject = $1 and undone_at is null order by at desc limit 1), '') as undo,
		coalesce((`+redoable+`), '') as redo`, s.ID, s.Venue.ID, s.Zone, s.StartsAt, s.Ends(), s.ClassID)
}

// Looked are the looks that are planned for a session and not taken yet: player, then criterion.
type Looked [][2]string

// ByPlayer lists the criteria of each player.
func (l Looked) ByPlayer() map[string][]string {
	out := map[string][]string{}
	for _, x := range l {
		out[x[0]] = append(out[x[0]], x[1])
	}
	return out
}

const looksOf = `(select coalesce(json_agg(json_build_array(l.player_id, l.criterion_id)), '[]') from look l where l.session_id = $1
	and not exists (select from mark m where m.session_id = $1 and m.player_id = l.player_id and m.criterion_id = l.criterion_id and (l.side = '' or m.side = l.side)))`

// roundsOf are the last rounds of class $6 before $4.
const roundsOf = `select r.drill_id as drill, r.seconds, r.places, r.players, r.counted, r.tries from round_done r join session o on o.id = r.session_id where o.class_id = $6 and o.starts_at < $4 and o.starts_at > $4 - interval '26 weeks' order by o.starts_at desc limit 200`

// redoable is the change undone last, of those made after the last that stands.
const redoable = `select says from change where subject = $1 and undone_at is not null
	and at > coalesce((select max(at) from change where subject = $1 and undone_at is null), '-infinity') order by undone_at desc limit 1`

// AddEvent keeps what the leader did to the clock; one sent twice is kept once.
func (tx *Tx) AddEvent(ctx context.Context, id, session, what string, at time.Time, by string) error {
	return tx.exec(ctx, "keep the clock's event", `insert into run_event (club_id, id, session_id, what, at, by_member) values ($1, $2, $3, $4, $5, $6) on conflict do nothing`,
		tx.Club, id, session, what, at, by)
}

// Events lists what was done to the session's clock.
func (tx *Tx) Events(ctx context.Context, session string) ([]plan.Event, error) {
	rows, err := tx.Query(ctx, `select id, what as do, at from run_event where session_id = $1 order by at, id`, session)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[plan.Event])
}

// Tell wakes every program instance's listeners to the session when the transaction commits.
func (tx *Tx) Tell(ctx context.Context, session, what string) error {
	return tx.exec(ctx, "tell the others", `select pg_notify('gruppo', $1)`, session+" "+what)
}

// Visits counts the sessions each player came to since reaching the stage.
func (tx *Tx) Visits(ctx context.Context, program string) (map[string]int, error) {
	type row struct {
		PlayerID string
		Visits   int
	}
	rows, err := collect[row](ctx, tx, "count visits", `select a.player_id, count(*)::int as visits from attendance a
		join session s on s.id = a.session_id join class c on c.id = s.class_id
		join standing st on st.player_id = a.player_id and st.program_id = c.program_id
		where c.program_id = $1 and a.state in ('present', 'late', 'left', 'hurt') and s.starts_at >= st.since group by a.player_id`, program)
	out := map[string]int{}
	for _, r := range rows {
		out[r.PlayerID] = r.Visits
	}
	return out, err
}

// CameOn lists when each player came to a session of the program.
func (tx *Tx) CameOn(ctx context.Context, program string) (map[string][]time.Time, error) {
	type row struct {
		PlayerID string
		StartsAt time.Time
	}
	rows, err := collect[row](ctx, tx, "list visits", `select a.player_id, s.starts_at from attendance a join session s on s.id = a.session_id join class c on c.id = s.class_id
		where c.program_id = $1 and a.state in ('present', 'late', 'left', 'hurt')`, program)
	out := map[string][]time.Time{}
	for _, r := range rows {
		out[r.PlayerID] = append(out[r.PlayerID], r.StartsAt)
	}
	return out, err
}

// IsNone reports whether err says that something is not there.
func IsNone(err error) bool { return errors.Is(err, ErrNone) }
