package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/jackc/pgx/v5"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/run"
	"gruppo/internal/coach/register"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
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
	Plan       doc.Plan
	Version    int
	ChangedBy  string // name; empty: nobody yet
	ChangedAt  *time.Time
	Leaders    []SessionLeader
	Expected   int // of the register, who is coming; only where it was asked for, like the two counts below
	Enrolled   int // in the register: the class, guests, and who tries it out
	MarksTaken int
	Started    bool
	Ended      bool
	Cancelled  bool // it does not take place
	MovedFrom  *time.Time
	Changes    int // how often its date was changed
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
	Classes   []string
	Member    string // only those this member is on
	From, To  time.Time
	Newest    bool // newest first
	Cancelled bool // also those that do not take place
	Counted   bool // with who comes and what was marked
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
		Enrolled, Coming, MarksTaken      int
		Started, Ended, Cancelled         bool
		MovedFrom                         *time.Time
		DateChanges                       int
	}
	var w where
	w.and(f.ID != "", `s.id = ?`, f.ID)
	w.and(f.Class != "", `s.class_id = ?`, f.Class)
	w.and(f.Classes != nil, `s.class_id = any(?::uuid[])`, f.Classes)
	w.and(!f.From.IsZero(), `s.starts_at + make_interval(mins => s.minutes) >= ?::timestamptz`, f.From)
	w.and(!f.From.IsZero(), `s.starts_at >= ?`, f.From.AddDate(0, 0, -1)) // none is longer than a day
	w.and(!f.To.IsZero(), `s.starts_at < ?`, f.To)
	w.and(f.Member != "", `exists (select from session_member me where me.session_id = s.id and me.member_id = ?)`, f.Member)
	w.and(!f.Cancelled && f.ID == "", `s.cancelled_at is null`)
	order, limit := "s.starts_at", ""
	if f.Newest {
		order += " desc"
	}
	if f.Limit > 0 {
		limit = fmt.Sprint(" limit ", f.Limit)
	}
	counted := `(select count(*) as enrolled, count(*) filter (where is_coming(e.state, e.until_minute, e.no_what)) as coming,
			(select count(*) from mark k where k.session_id = s.id) as marks_taken
		from expected e where e.session_id = s.id)`
	if !f.Counted {
		counted = `(select 0::bigint as enrolled, 0::bigint as coming, 0::bigint as marks_taken)`
	}
	// those that are asked for first: what is counted for each is not counted for others
	which := "(select * from session s" + w.String() + " order by " + order + ", s.id" + limit + ")"
	rows, err := collect[row](ctx, tx, "list sessions", `select s.id, s.class_id, c.name as class_name, c.program_id,
			s.starts_at, s.minutes, v.id as venue_id, v.name as venue_name, v.floor as venue_floor,
			v.length, v.width, v.zones, v.blocked, s.zone, s.plan, s.version, b.name as changed_by, s.changed_at,
			(select coalesce(json_agg(json_build_object('member', m.id, 'name', m.name, 'role', m.role, 'from',
				sm.from_minute, 'until', coalesce(sm.until_minute, 0))
				order by array_position(array['lead', 'coach', 'helper'], m.role), m.name collate names), '[]')
					from session_member sm join member m on m.id = sm.member_id where sm.session_id = s.id) as leaders,
			x.enrolled, x.coming, x.marks_taken,
			exists (select from run_event r where r.session_id = s.id and r.what = 'start') as started,
			exists (select from run_event r where r.session_id = s.id
				and r.what = 'end') as ended, s.cancelled_at is not null as cancelled, s.moved_from,
			s.date_changes
		from `+which+` s join class c on c.id = s.class_id join venue v on v.id = s.venue_id left
			join member b on b.id = s.changed_by
			cross join lateral `+counted+` x
		order by `+order+`, c.name`, w.args...)
	if err != nil {
		return nil, err
	}
	out := make([]Session, len(rows))
	for i, r := range rows {
		out[i] = Session{
			ID:        r.ID,
			ClassID:   r.ClassID,
			ClassName: r.ClassName,
			ProgramID: r.ProgramID,
			StartsAt:  r.StartsAt,
			Minutes:   r.Minutes,
			Venue: Venue{
				r.VenueID,
				r.VenueName,
				r.VenueFloor,
				r.Length,
				r.Width,
				r.Zones,
				r.Blocked,
			},
			Zone:       r.Zone,
			Version:    r.Version,
			ChangedAt:  r.ChangedAt,
			Leaders:    r.Leaders,
			Enrolled:   r.Enrolled,
			Expected:   r.Coming,
			Started:    r.Started,
			Ended:      r.Ended,
			Cancelled:  r.Cancelled,
			MovedFrom:  r.MovedFrom,
			Changes:    r.DateChanges,
			MarksTaken: r.MarksTaken,
		}
		if r.ChangedBy != nil {
			out[i].ChangedBy = *r.ChangedBy
		}
		if out[i].Plan, err = readPlan(r.Plan); err != nil {
			return nil, fmt.Errorf("read the plan of session %s: %w", r.ID, err)
		}
	}
	return out, nil
}

// lately are the plans that were read last, by their text: a class's past is read again with each of its pages.
var lately, _ = lru.New[string, doc.Plan](512) // fails for no size only

func readPlan(text []byte) (p doc.Plan, err error) {
	p, known := lately.Get(string(text))
	if !known {
		if err := json.Unmarshal(text, &p); err != nil {
			return p, err
		}
		lately.Add(string(text), p)
	}
	return p.Clone(), nil
}

// planRead is a plan that comes in the middle of another document.
type planRead struct{ doc.Plan }

// UnmarshalJSON reads it like any plan.
func (p *planRead) UnmarshalJSON(text []byte) (err error) {
	p.Plan, err = readPlan(text)
	return err
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
	err = taken(tx.exec(ctx, "make the session", `insert into session (club_id, id, class_id, starts_at, minutes,
			venue_id, plan, zone) values ($1, $2, $3, $4, $5, $6, $7, $8)`,
		tx.Club, s.ID, s.ClassID, s.StartsAt, s.Minutes, s.Venue.ID, doc, s.Zone))
	if err != nil {
		return err
	}
	return tx.exec(ctx, "put the class's members on the session", `insert into session_member (club_id, session_id,
			member_id, until_minute)
		select club_id, $1, member_id, until_minute from class_member where class_id = $2`, s.ID, s.ClassID)
}

// SetPlan stores the plan if the session still has the version it was made on, and returns the new one; else
// ErrChangedSince.
func (tx *Tx) SetPlan(
	ctx context.Context,
	session string,
	version int,
	p doc.Plan,
	by string,
	at time.Time,
) (next int, err error) {
	doc, err := json.Marshal(p)
	if err != nil {
		return 0, err
	}
	err = tx.QueryRow(ctx, `update session set plan = $3,
		version = version + 1 + (select count(*) from change where subject = $1
			and undone_at is not null), -- no number twice, also after an undo
		changed_by = $4, changed_at = $5 where id = $1 and version = $2
			returning version`, session, version, doc, by, at).Scan(&next)
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
		if err := tx.exec(ctx, "take the member off the session", `delete from session_member where session_id = $1
			and member_id = $2`, session, l.Member); err != nil {
			return err
		}
		return tx.TellEnded(ctx, l.Member)
	}
	return tx.exec(ctx, "put the member on the session", `insert into session_member (club_id, session_id, member_id,
			from_minute, until_minute) values ($1, $2, $3, $4, nullif($5, 0))
		on conflict (club_id, session_id, member_id) do update
			set from_minute = excluded.from_minute,
			until_minute = excluded.until_minute`, tx.Club, session, l.Member, l.From, l.Until)
}

// PlanDrills are the drills of a plan, each in the edition it was planned with, by id.
func (tx *Tx) PlanDrills(ctx context.Context, plans ...doc.Plan) (map[string]coach.Drill, error) {
	ids, editions := []string{}, []int{}
	for _, p := range plans {
		for _, t := range p.Tasks() {
			ids, editions = append(ids, t.Drill), append(editions, t.Edition)
		}
	}
	ds, err := tx.drills(ctx, `select drill_id as id, edition, doc from drill_edition
			where (drill_id, edition) in (select * from unnest($1::uuid[], $2::int[]))`, ids, editions)
	out := map[string]coach.Drill{}
	for _, d := range ds {
		out[d.ID] = d
	}
	return out, err
}

// Move puts a session at another time. ErrTaken when the class meets then already.
func (tx *Tx) Move(ctx context.Context, session string, to time.Time) error {
	return taken(tx.exec(ctx, "move the session", `update session set starts_at = $2,
			date_changes = date_changes + 1, moved_from = case
			when moved_from is distinct from $2::timestamptz then coalesce(moved_from, starts_at) end where id = $1`, session, to))
}

// SetBooking changes where a session is and for how many minutes it is booked.
func (tx *Tx) SetBooking(ctx context.Context, session string, minutes int, venue, zone string) error {
	return tx.exec(ctx, "keep the booking", `update session set minutes = $2, venue_id = $3, zone = $4
			where id = $1`, session, minutes, venue, zone)
}

// Attendance is what was said about a player in a session.
type Attendance struct {
	PlayerID    string
	State       register.Word
	Guest       bool   // not of the class
	FromMinute  int    // late or back from: minutes after the start
	UntilMinute int    // left: minutes after the start; 0: to the end
	NoWhat      string // a limit for today
}

// Said is it as the rules of the register read it.
func (a Attendance) Said() register.Said {
	return register.Said{Word: a.State, Guest: a.Guest, From: a.FromMinute, Until: a.UntilMinute, No: a.NoWhat}
}

// SetAttendance keeps the newest word about the player, by the time it was said, and reports whether this one is it.
// One that takes a word back is kept too, so that an older word arriving later does not bring it back. Whether somebody
// is a guest is told by AddGuest alone.
func (tx *Tx) SetAttendance(
	ctx context.Context,
	session string,
	a Attendance,
	by string,
	at time.Time,
) (newest bool, err error) {
	tag, err := tx.Exec(ctx, `insert into attendance (club_id, session_id, player_id, state, said_at, by_member,
			from_minute, until_minute, no_what) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)
		on conflict (club_id, session_id, player_id) do update
			set state = excluded.state, said_at = excluded.said_at, by_member = excluded.by_member,
			from_minute = excluded.from_minute, until_minute = excluded.until_minute, no_what = excluded.no_what
		where attendance.said_at <= excluded.said_at`, tx.Club, session, a.PlayerID, string(a.State), at, by, a.FromMinute, a.UntilMinute, a.NoWhat)
	if err != nil {
		return false, fmt.Errorf("keep the register: %w", err)
	}
	return tag.RowsAffected() > 0, nil
}

// AddGuest puts somebody who is not of the class into the session's register, with a first word about them where
// nothing newer was said.
func (tx *Tx) AddGuest(ctx context.Context, session, player string, word register.Word, by string, at time.Time) error {
	return tx.exec(ctx, "keep the guest", `insert into attendance (club_id, session_id, player_id, state, said_at,
			by_member, guest) values ($1, $2, $3, $4, $5, $6, true)
		on conflict (club_id, session_id, player_id) do update set guest = true,
			state = case when attendance.said_at <= excluded.said_at and excluded.state <> '' then excluded.state
				else attendance.state end,
			said_at = greatest(attendance.said_at, excluded.said_at)`, tx.Club, session, player, string(word), at, by)
}

// Expected lists the players of the session's class, its guests and those who try it out, with what was said about
// each.
func (tx *Tx) Expected(ctx context.Context, s Session) (players []Player, said map[string]Attendance, err error) {
	rows, err := collect[Attendance](ctx, tx, "read the register", `select player_id, state, guest, from_minute,
			until_minute, no_what from expected where session_id = $1`, s.ID)
	if err != nil {
		return nil, nil, err
	}
	said = map[string]Attendance{}
	ids := []string{}
	for _, r := range rows {
		said[r.PlayerID] = r
		ids = append(ids, r.PlayerID)
	}
	players, err = tx.Players(ctx, PlayerFilter{IDs: ids})
	names := make([]string, len(players))
	for i, p := range players {
		names[i] = p.Name
	}
	for i, called := range say.Called(names) {
		players[i].Called = called
	}
	return players, said, err
}

// InRegister reports whether a player is in the session's register.
func (tx *Tx) InRegister(ctx context.Context, session, player string) (in bool, err error) {
	err = tx.QueryRow(ctx, `select exists (select from expected where session_id = $1
			and player_id = $2)`, session, player).Scan(&in)
	return in, err
}

// Ground is what a plan stands on beside its players and drills.
type Ground struct {
	Kit   []coach.Kit
	Care  Care
	Taken []struct {
		What    string    `json:"what"`
		Starts  time.Time `json:"starts"`
		Minutes int       `json:"minutes"`
	}
	Elsewhere []struct { // where the session's leaders are booked at its time
		Leader  string    `json:"leader"`
		What    string    `json:"what"`
		Starts  time.Time `json:"starts"`
		Minutes int       `json:"minutes"`
	}
	Past
	Notes      []Note        // of the class's players, open and due by the day
	Looks      Looked        // that are planned for this session
	Theme      *season.Theme // of the day, where it has one
	CameUp     *CameUp
	Tests      [][2]string // that come back on the day: id and name
	Undo, Redo string      // what would be taken back, and done again
}

// CameUp is what a class had in the term of a day: skills of the drills of its sessions and of the themes of days to come,
// and the criteria that marks were taken for.
type CameUp struct {
	From   day.Day  `json:"from"`
	Until  day.Day  `json:"until"`
	Skills []string `json:"skills"`
	Marked []string `json:"marked"`
}

// Past is what a class had before a session.
type Past struct {
	History []struct { // its last sessions, the newest first
		Starts time.Time `json:"starts"`
		Plan   planRead  `json:"plan"`
	}
	Rounds Rounds   // what its last rounds really gave
	Away   []string // ids of those who missed, or sat out, the last session that was run
	Shows  Said     // of criteria and drills
}

// Past reads it in one question.
func (tx *Tx) Past(ctx context.Context, s Session) (Past, error) {
	return one[Past](ctx, tx, "read what the class had before",
		strings.NewReplacer("$6", "$1", "$4", "$2").Replace(`select `+pastOf), s.ClassID, s.StartsAt)
}

// pastOf is what class $6 had before $4.
const pastOf = `(select coalesce(json_agg(h), '[]') from (select o.starts_at as starts, o.plan from session o
			where o.class_id = $6 and o.starts_at < $4 order by o.starts_at desc limit 8) h) as history,
		(select coalesce(json_agg(r), '[]') from (` + roundsOf + `) r) as rounds,
		(select coalesce(json_agg(a.player_id), '[]') from attendance a where a.state in ('absent', 'hurt') and a.session_id = (select o.id
			from session o where o.class_id = $6 and o.starts_at < $4 and exists (select from run_event r where r.session_id = o.id
				and r.what = 'end') order by o.starts_at desc limit 1)) as away,
		` + saidOf + ` as shows`

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
	if d.Work > 0 { // paced by its turns
		return d
	}
	var rounds []load.Round
	for _, r := range rs {
		if r.Drill == d.ID {
			rounds = append(
				rounds,
				load.Round{
					Time:    time.Duration(r.Seconds * float64(time.Second)),
					AtOnce:  r.Places,
					Players: r.Players,
					Counted: r.Counted,
					Tries:   r.Tries,
				},
			)
		}
	}
	d.Pace, d.Paced = load.Learned(d.Pace, rounds)
	return d
}

// goesOn is a session that takes place and has not ended: it has its hall, and its leaders.
const goesOn = `o.cancelled_at is null and not exists (select from run_event e where e.session_id = o.id and e.what = 'end')`

// Ground reads it in one question.
func (tx *Tx) Ground(ctx context.Context, s Session) (Ground, error) {
	return one[Ground](ctx, tx, "read what the plan stands on", `select
		(select coalesce(json_agg(json_build_object('ID', k.id, 'Name', k.name, 'Count', k.count, 'StandsIn',
			k.stands_in) order by k.name collate names), '[]') from kit k) as kit,
		(select json_build_object('PerAdult', coalesce(per_adult, 0), 'MostForfeits', most_forfeits) from club) as care,
		(select coalesce(json_agg(json_build_object('what', c.name, 'starts', o.starts_at, 'minutes', o.minutes)),
			'[]') from session o join class c on c.id = o.class_id
			where o.venue_id = $2 and `+goesOn+` and o.id <> $1 and (o.zone = $3 or o.zone = ''
				or $3 = '') and o.starts_at < $5 and o.starts_at + make_interval(mins => o.minutes) > $4) as taken,
		(select coalesce(json_agg(json_build_object('leader', l.member_id, 'what', c.name, 'starts',
			o.starts_at + make_interval(mins => l.from_minute), 'minutes', coalesce(l.until_minute,
			o.minutes) - l.from_minute)), '[]')
			from session_member l join session o on o.id = l.session_id join class c on c.id = o.class_id
			where l.member_id in (select member_id from session_member where session_id = $1)
				and `+goesOn+` and o.id <> $1 and o.starts_at < $5
				and o.starts_at + make_interval(mins => o.minutes) > $4) as elsewhere,
		`+pastOf+`,
		(select coalesce(json_agg(json_build_object(`+noteJSON+`) order by n.at desc, n.id), '[]') from player_note n
			join member m on m.id = n.by_member
			where n.player_id in (select player_id from class_player where class_id = $6)
				and n.session_id is distinct from $1 and `+noteOpen(dayOf("$4::timestamptz"))+`) as notes,
		`+looksOf+` as looks,
		(select json_build_object('Kind', t.kind, 'Value', t.value, 'Says', t.says, 'Pinned', t.pinned) from theme t
			where t.class_id = $6 and t.on_day = `+dayOf("$4::timestamptz")+`) as theme,
		(select coalesce(json_agg(json_build_array(t.id, t.name) order by t.name), '[]') from test t where t.class_id = $6
			and is_due(t, $4::timestamptz)) as tests,
		`+cameUpOf+` as came_up,
		coalesce((select says from change where subject = $1 and undone_at is null order by at desc
			limit 1), '') as undo,
		coalesce((`+redoable+`), '') as redo`, s.ID, s.Venue.ID, s.Zone, s.StartsAt, s.Ends(), s.ClassID)
}

// cameUpOf is what class $6 had in the term of the day of $4, but in session $1.
var cameUpOf = `(select json_build_object('from', t.from_on, 'until', t.until_on,
			'skills', (select coalesce(json_agg(distinct k), '[]') from (
				select unnest(d.skills) as k from session o join session_drill x on x.session_id = o.id join drill d on d.id = x.drill_id
					where o.class_id = $6 and o.id <> $1 and o.cancelled_at is null and ` + dayOf("o.starts_at") + ` between t.from_on and t.until_on
				union all select h.value from theme h where h.class_id = $6 and h.kind = 'skill' and h.on_day > t.on_day and h.on_day <= t.until_on) s),
			'marked', (select coalesce(json_agg(distinct m.criterion_id), '[]') from session o join mark m on m.session_id = o.id
				where o.class_id = $6 and m.criterion_id is not null and ` + dayOf("o.starts_at") + ` between t.from_on and t.until_on))
		from (select from_on, until_on, ` + dayOf("$4::timestamptz") + ` as on_day from term) t
			where t.on_day between t.from_on and t.until_on order by t.from_on desc limit 1)`

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

// Said are what coaches said of criteria and drills: criterion, drill, "true" or "false".
type Said [][3]string

// Showing is it as the rules read it.
func (s Said) Showing() coach.Showing {
	out := coach.Showing{}
	for _, x := range s {
		out.Say(x[0], x[1], x[2] == "true")
	}
	return out
}

const saidOf = `(select coalesce(json_agg(json_build_array(k.criterion_id, k.drill_id, k.shows::text)), '[]')
			from criterion_drill k)`

// Showing reads which drills show which criteria.
func (tx *Tx) Showing(ctx context.Context) (coach.Showing, error) {
	type row struct{ Shows Said }
	r, err := one[row](ctx, tx, "read which drills show what", `select `+saidOf+` as shows`)
	return r.Shows.Showing(), err
}

// SetShows says that a drill shows a criterion, or does not; as the skills say where shows is nil.
func (tx *Tx) SetShows(ctx context.Context, criterion, drill string, shows *bool) error {
	if shows == nil {
		return tx.exec(ctx, "take back what a drill shows", `delete from criterion_drill where criterion_id = $1
			and drill_id = $2`, criterion, drill)
	}
	return tx.exec(ctx, "say what a drill shows", `insert into criterion_drill (club_id, criterion_id, drill_id,
			shows) values ($1, $2, $3, $4)
		on conflict (club_id, criterion_id, drill_id) do update
			set shows = excluded.shows`, tx.Club, criterion, drill, *shows)
}

const looksOf = `(select coalesce(json_agg(json_build_array(l.player_id, l.criterion_id)), '[]') from look l
			where l.session_id = $1
	and not exists (select from mark m where m.session_id = $1 and m.player_id = l.player_id
		and m.criterion_id = l.criterion_id and (l.side = '' or m.side = l.side)))`

// roundsOf are the last rounds of class $6 before $4.
const roundsOf = `select r.drill_id as drill, r.seconds, r.places, r.players, r.counted, r.tries from round_done r
			join session o on o.id = r.session_id where o.class_id = $6 and o.starts_at < $4
			and o.starts_at > $4 - interval '26 weeks' order by o.starts_at desc limit 200`

// redoable is the change undone last, of those made after the last that stands.
const redoable = `select says from change where subject = $1 and undone_at is not null
	and at > coalesce((select max(at) from change where subject = $1 and undone_at is null), '-infinity')
		order by undone_at desc limit 1`

// AddEvent keeps what the leader did to the clock; one sent twice is kept once.
func (tx *Tx) AddEvent(ctx context.Context, id, session, what string, at time.Time, by string) error {
	return tx.exec(ctx, "keep the clock's event", `insert into run_event (club_id, id, session_id, what, at,
			by_member) values ($1, $2, $3, $4, $5, $6) on conflict do nothing`,
		tx.Club, id, session, what, at, by)
}

// Events lists what was done to the session's clock.
func (tx *Tx) Events(ctx context.Context, session string) ([]run.Event, error) {
	rows, err := tx.Query(
		ctx,
		`select id, what as do, at from run_event where session_id = $1 order by at, id`,
		session,
	)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[run.Event])
}

// AccessEnded begins the notice that a member's access ended, on one device or all; the member's id follows.
const AccessEnded = "access ended "

// TellEnded wakes every open page of the member, so that it closes where they may not be any more.
func (tx *Tx) TellEnded(ctx context.Context, member string) error {
	return tx.exec(ctx, "tell that access ended", `select pg_notify('gruppo', $1)`, " "+AccessEnded+member)
}

// Tell wakes every program instance's listeners to the session when the transaction commits.
func (tx *Tx) Tell(ctx context.Context, session, what string) error {
	return tx.exec(ctx, "tell the others", `select pg_notify('gruppo', $1)`, session+" "+what)
}

// Visits counts the sessions each of the players came to since reaching the stage; of all of the program where players is nil.
func (tx *Tx) Visits(ctx context.Context, program string, players []string) (map[string]int, error) {
	type row struct {
		PlayerID string
		Visits   int
	}
	// the visits of the view, with its classes found first: among many clubs the planner would join them last, for each
	var w where
	w.and(true, `st.program_id = ?`, program)
	w.and(true, `s.class_id = any(array(select id from class where program_id = ?))`, program)
	w.and(players != nil, `a.player_id = any(?::uuid[])`, players)
	w.and(true, `has_come(a.state) and `+dayOf("s.starts_at")+` >= st.since`)
	rows, err := collect[row](ctx, tx, "count visits", `select a.player_id, count(*)::int as visits from attendance a
		join session s on s.id = a.session_id join standing st on st.player_id = a.player_id`+w.String()+`
		group by a.player_id`, w.args...)
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
	rows, err := collect[row](ctx, tx, "list visits", `select player_id, starts_at from visit
			where program_id = $1`, program)
	out := map[string][]time.Time{}
	for _, r := range rows {
		out[r.PlayerID] = append(out[r.PlayerID], r.StartsAt)
	}
	return out, err
}

// IsNone reports whether err says that something is not there.
func IsNone(err error) bool { return errors.Is(err, ErrNone) }
