package store

import (
	"context"
	"crypto/rand"
	"errors"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/run"
	"gruppo/internal/day"
)

// Door is the session that a code opens.
type Door struct {
	ClubID, Club     string
	SessionID, Class string
	StartsAt         time.Time
	Minutes          int
	Started, Ended   bool
}

// codeLetters are those that are not taken for one another when they are read out.
const codeLetters = "23456789ABCDEFGHJKMNPQRSTUVWXYZ"

// SessionCode is the code that lets people in, made when there is none yet, or anew.
func (tx *Tx) SessionCode(ctx context.Context, session, by string, anew bool, at time.Time) (code string, err error) {
	if !anew {
		err = tx.QueryRow(ctx, `select code from session_code where session_id = $1`, session).Scan(&code)
		if err == nil || !errors.Is(err, pgx.ErrNoRows) {
			return code, err
		}
	}
	b := make([]byte, 6)
	for i := range b {
		for { // each letter as likely as any other
			rand.Read(b[i : i+1])
			if int(b[i]) < 256/len(codeLetters)*len(codeLetters) {
				b[i] = codeLetters[int(b[i])%len(codeLetters)]
				break
			}
		}
	}
	return string(b), tx.exec(ctx, "keep the code", `insert into session_code (club_id, session_id, code, by_member,
			made_at) values ($1, $2, $3, $4, $5)
		on conflict (club_id, session_id) do update set code = excluded.code, by_member = excluded.by_member,
			made_at = excluded.made_at`, tx.Club, session, string(b), by, at)
}

// ByCode is the session a code opens, across clubs; ErrNone when there is none.
func (s *Store) ByCode(ctx context.Context, code string) (d Door, err error) {
	err = s.Pool.QueryRow(ctx, `select club_id, club, session_id, class, starts_at, minutes, started, ended
			from session_by_code($1)`, code).Scan(&d.ClubID, &d.Club, &d.SessionID, &d.Class, &d.StartsAt, &d.Minutes, &d.Started, &d.Ended)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNone
	}
	return d, err
}

// AddVisitor makes somebody without an account a helper of one session, who can sign in to nothing else.
func (tx *Tx) AddVisitor(ctx context.Context, id, name, session string) error {
	return tx.exec(ctx, "let the helper in", `insert into member (club_id, id, name, email, role, password_hash,
			for_session) values ($1, $2, $3, $4, 'helper', '', $5)`, tx.Club, id, name, id+"@visitor.invalid", session)
}

// Join puts a member on the session, if they are not on it already.
func (tx *Tx) Join(ctx context.Context, session, member string, at time.Time) error {
	return tx.exec(ctx, "join the session", `insert into session_member (club_id, session_id, member_id, heard_at)
			values ($1, $2, $3, $4) on conflict do nothing`, tx.Club, session, member, at)
}

// Heard notes that a device of the member is in touch; at most every ten seconds.
func (tx *Tx) Heard(ctx context.Context, session, member string, at time.Time) error {
	return tx.exec(ctx, "note who is in touch", `update session_member set heard_at = $3::timestamptz
			where session_id = $1 and member_id = $2 and (heard_at is null
			or heard_at < $3::timestamptz - interval '10 seconds')`, session, member, at)
}

// Hall is what is kept of a running session beside its plan and marks.
type Hall struct {
	Events    []run.Event
	Tallies   []Tally
	Keys      []KeyMark // the newest word about every key of the players
	Notes     []Note    // open ones of the players that are due by the day, and all of this session
	Climbs    []Climb
	Looked    []Looking // in the first look
	Heard     []Contact
	Looks     Looked       // that are planned for this session
	Crossings []Crossing   // of gates
	Tests     [][2]string  // of the class that come back on the day: id and name
	AtHome    []HomeLately // practice of the players in the last week
	Feedback  []Feedback
	Points    []Point     // of pairs and teams
	Zones     []Zone      // where the good ones of the players went, of all sessions
	Itself    bool        // it ended by itself
	Holds     int         // from how many of a hundred a key holds; 0: the usual
	ClipDays  int         // for how many days a mirror keeps a clip; 0: none
	Bridges   [][2]string // from a drill of the plan to a bridge before it: its id, and the bridge's name
}

// HomeLately is a task of a player, with the days of the last week on which it was done.
type HomeLately struct {
	Player string         `json:"player"`
	Days   []time.Weekday `json:"days"`
	From   day.Day        `json:"from"`
	Until  day.Day        `json:"until"`
	Ends   day.Day        `json:"ends"`
	Done   []day.Day      `json:"done"`
}

// KeysAndNotes are the newest word about every key of players, and their open notes that are due by a day.
type KeysAndNotes struct {
	Keys  []KeyMark
	Notes []Note
}

// SaidOf reads it.
func (tx *Tx) SaidOf(ctx context.Context, players []string, by time.Time) (KeysAndNotes, error) {
	return one[KeysAndNotes](ctx, tx, "read what was said", `select `+keysOf+` as keys,
		(select coalesce(json_agg(json_build_object(`+noteJSON+`) order by n.at desc, n.id), '[]') from player_note n
			join member m on m.id = n.by_member where n.player_id = any($1::uuid[]) and `+noteOpen("$2::date")+`) as notes`, players, by)
}

const (
	keysOf = `(select coalesce(json_agg(k), '[]') from (select distinct on (player_id, key) id, player_id as player, key,
			has, session_id as session, at, by_member as by from key_mark where player_id = any($1::uuid[])
			order by player_id, key, at desc, id desc) k)`
)

// noteOpen is a note that is to be seen on a day: not done, and not put off to a later one.
func noteOpen(day string) string {
	return `n.done_at is null and n.kind <> 'effort' and (n.due is null or n.due <= ` + day + `)`
}

// Hall reads it in one question. It notes that a device of the member is in touch, at most every ten seconds.
func (tx *Tx) Hall(ctx context.Context, session, member string, players []string, at time.Time) (Hall, error) {
	return one[Hall](ctx, tx, "read the hall", `with touch as (update session_member set heard_at = $4::timestamptz
			where session_id = $1 and member_id = $2 and (heard_at is null
			or heard_at < $4::timestamptz - interval '10 seconds'))
		select (select coalesce(json_agg(json_build_object('id', id, 'do', what, 'at', at) order by at, id), '[]')
			from run_event where session_id = $1) as events,
		(select coalesce(json_agg(json_build_object(`+tallyJSON+`) order by at, id), '[]') from tally
			where session_id = $1) as tallies,
		`+strings.ReplaceAll(keysOf, "$1", "$3")+` as keys,
		(select coalesce(json_agg(json_build_object(`+noteJSON+`) order by n.at desc, n.id), '[]') from player_note n
			join member m on m.id = n.by_member
			where n.session_id = $1 or n.player_id = any($3::uuid[]) and `+noteOpen(dayOf("$4::timestamptz"))+`) as notes,
		(select coalesce(json_agg(json_build_object('id', id, 'block', block, 'unit', unit, 'step', step, 'at', at,
			'by', by_member, 'player', coalesce(player_id::text, '')) order by at, id), '[]') from climb where session_id = $1) as climbs,
		(select coalesce(json_agg(json_build_object('player', l.player_id, 'by', l.by_member, 'byName', m.name, 'at',
			l.at) order by l.at, l.id), '[]') from looked l join member m on m.id = l.by_member
			where l.session_id = $1) as looked,
		(select coalesce(json_agg(json_build_object('member', m.id, 'name', m.name, 'at', s.heard_at)
			order by m.name), '[]') from session_member s join member m on m.id = s.member_id where s.session_id = $1
			and s.heard_at is not null) as heard,
		`+looksOf+` as looks,
		(select coalesce(json_agg(json_build_object('id', id, 'what', what, 'lane', lane, 'at', at) order by at, id), '[]')
			from crossing where session_id = $1) as crossings,
		(select coalesce(json_agg(json_build_array(t.id, t.name) order by t.name), '[]') from test t join session s
			on s.class_id = t.class_id where s.id = $1 and is_due(t, s.starts_at)) as tests,
		(select coalesce(json_agg(json_build_object('player', o.player_id, 'days', coalesce(t.doc->'days', '[]'), 'from', t.from_on,
			'until', coalesce(t.until::text, ''), 'ends', coalesce(t.ended_on::text, ''), 'done', (select coalesce(json_agg(d.on_day), '[]') from home_day d
				where d.task_id = t.id and d.player_id = o.player_id and d.done and d.on_day > `+dayOf("$4::timestamptz")+` - 8))), '[]')
			from home_of o join home_task t on t.id = o.task_id where o.player_id = any($3::uuid[])
				and coalesce(least(t.until, t.ended_on), 'infinity') >= `+dayOf("$4::timestamptz")+` - 7) as at_home,
		(select coalesce(json_agg(json_build_object('id', id, 'player', coalesce(player_id::text, ''), 'unit', unit, 'key', key,
			'how', how, 'said', said, 'at', at, 'by', by_member) order by at, id), '[]') from feedback where session_id = $1) as feedback,
		(select coalesce(json_agg(json_build_object('id', id, 'place', place, 'turn', turn, 'whose', whose, 'player',
			coalesce(player_id::text, ''), 'good', good, 'undone', undone, 'at', at, 'by', by_member) order by at, id), '[]')
			from point where session_id = $1) as points,
		(select coalesce(json_agg(json_build_object('Player', player_id, 'Zone', zone, 'N', n)), '[]') from (
			select player_id, z::int as zone, count(*) as n from tally, unnest(string_to_array(zones, ',')) z
				where player_id = any($3::uuid[]) and zones <> '' and z between '1' and '6' group by player_id, z) k) as zones,
		exists (select from run_event where session_id = $1 and itself) as itself,
		(select coalesce(key_holds, 0) from club) as holds, (select coalesce(clip_days, 0) from club) as clip_days,
		(select coalesce(json_agg(json_build_array(l.other_id, d.name) order by d.name collate names), '[]') from drill_link l
			join drill d on d.id = l.drill_id where l.kind = 'bridge' and d.off_at is null and `+strings.ReplaceAll(mine, "nullif($1, '')::uuid", "$2")+`
				and l.other_id in (select x.drill_id from session_drill x where x.session_id = $1)) as bridges`,
		session, null(member), players, at)
}

const (
	tallyJSON = `'id', id, 'player', player_id, 'criterion', coalesce(criterion_id::text, ''), 'drill', coalesce(drill_id::text, ''), 'side', side, 'round', round, 'tries', tries, 'revision', revision, 'done', done, 'at', at, 'by', by_member, 'zones', zones, 'form', form`
	noteJSON  = `'id', n.id, 'player', n.player_id, 'session', coalesce(n.session_id::text, ''), 'kind', n.kind,
			'says', n.says, 'due', n.due, 'at', n.at, 'by', n.by_member, 'byName', m.name, 'playerName', (select name
			from player p where p.id = n.player_id)`
)

// HeardFrom lists when the session's members were last in touch, by their names.
func (tx *Tx) HeardFrom(ctx context.Context, session string) ([]Contact, error) {
	return collect[Contact](ctx, tx, "list who is in touch", `select m.id as member, m.name, s.heard_at as at
			from session_member s join member m on m.id = s.member_id where s.session_id = $1
			and s.heard_at is not null order by m.name`, session)
}

// Contact is when a member's device was last in touch.
type Contact struct {
	Member string    `json:"member"`
	Name   string    `json:"name"`
	At     time.Time `json:"at"`
}

// KeyMark says that a player has a key, or lacks it.
type KeyMark struct {
	ID      string    `json:"id"`
	Player  string    `json:"player"`
	Key     string    `json:"key"`
	Has     bool      `json:"has"`
	Session string    `json:"session"`
	At      time.Time `json:"at"`
	By      string    `json:"by"`
}

// AddKeyMark keeps it; one sent twice is kept once.
func (tx *Tx) AddKeyMark(ctx context.Context, k KeyMark) error {
	return tx.exec(ctx, "keep the key", `insert into key_mark (club_id, id, player_id, key, has, session_id, at,
			by_member) values ($1, $2, $3, $4, $5, $6, $7, $8)
			on conflict do nothing`, tx.Club, k.ID, k.Player, k.Key, k.Has, null(k.Session), k.At, k.By)
}

// Note is something about a player that is to come back.
type Note struct {
	ID         string     `json:"id"`
	Player     string     `json:"player"`
	PlayerName string     `json:"playerName,omitempty"`
	Session    string     `json:"session"`
	Kind       string     `json:"kind"`
	Says       string     `json:"says"`
	Due        day.Day    `json:"due,omitzero"`
	At         time.Time  `json:"at"`
	By         string     `json:"by"`
	ByName     string     `json:"byName"`
	DoneAt     *time.Time `json:"-"`
}

// NoteKinds are the kinds of notes with their words, in the order a coach meets them.
var NoteKinds = []struct{ Kind, Words string }{
	{"effort", "Great effort"},
	{"follow", "Follow up"},
	{"talk", "Talk to guardian"},
	{"clip", "Clip to look at"},
	{"hurt", "Hurt"},
	{"word", "Note"},
	{"cue", "Own word for the key"},
}

// Words is the note's kind in words.
func (n Note) Words() string {
	for _, k := range NoteKinds {
		if k.Kind == n.Kind {
			return k.Words
		}
	}
	return n.Kind
}

// AddNote keeps a note; one sent twice is kept once.
func (tx *Tx) AddNote(ctx context.Context, n Note) error {
	return tx.exec(ctx, "keep the note", `insert into player_note (club_id, id, player_id, session_id, kind, says,
			due, at, by_member) values ($1, $2, $3, $4, $5, $6, $7, $8, $9) on conflict do nothing`,
		tx.Club, n.ID, n.Player, null(n.Session), n.Kind, n.Says, n.Due, n.At, n.By)
}

// NoteFilter narrows notes. Zero fields do not.
type NoteFilter struct {
	Player, Session string
	Players         []string // any of these, when not nil
	Open            bool     // not done yet
	Due             day.Day  // due on this day or before it, or without a day
}

// Notes lists notes, newest first.
func (tx *Tx) Notes(ctx context.Context, f NoteFilter) ([]Note, error) {
	var w where
	w.and(f.Player != "", `n.player_id = ?`, f.Player)
	w.and(f.Session != "", `n.session_id = ?`, f.Session)
	w.and(f.Players != nil, `n.player_id = any(?::uuid[])`, f.Players)
	w.and(f.Open, `n.done_at is null and n.kind <> 'effort'`)
	w.and(!f.Due.IsZero(), `(n.due is null or n.due <= ?)`, f.Due)
	return collect[Note](ctx, tx, "list notes", `select n.id, n.player_id as player, p.name as player_name,
			coalesce(n.session_id::text, '') as session, n.kind, n.says, n.due, n.at, n.by_member as by,
			m.name as by_name, n.done_at
		from player_note n join player p on p.id = n.player_id join member m on m.id = n.by_member`+w.String()+`
		order by n.at desc, n.id limit 200`, w.args...)
}

// NoteDone ticks a note off.
func (tx *Tx) NoteDone(ctx context.Context, id string, at time.Time) error {
	tag, err := tx.Exec(ctx, `update player_note set done_at = $2 where id = $1`, id, at)
	return touched(tag.RowsAffected(), err, "tick the note off")
}

// Looking says that somebody looked at a player in the first look.
type Looking struct {
	Player string    `json:"player"`
	By     string    `json:"by"`
	ByName string    `json:"byName"`
	At     time.Time `json:"at"`
}

// AddLooking keeps it; one sent twice is kept once.
func (tx *Tx) AddLooking(ctx context.Context, id, session string, l Looking) error {
	return tx.exec(ctx, "keep who was looked at", `insert into looked (club_id, id, session_id, player_id, by_member,
			at) values ($1, $2, $3, $4, $5, $6) on conflict do nothing`, tx.Club, id, session, l.Player, l.By, l.At)
}

// Refused is something a device sent that could not be taken.
type Refused struct {
	ID     string
	Why    string
	ByName string
	At     time.Time
	Item   map[string]any
}

// mostRefused is how many are kept of one session.
const mostRefused = 300

// AddRefused keeps it for the coach to see; one sent twice is kept once.
func (tx *Tx) AddRefused(ctx context.Context, id, session, by, why string, item []byte, at time.Time) error {
	return tx.exec(ctx, "keep what was refused", `insert into refused (club_id, id, session_id, by_member, at, why,
			item) select $1, $2, $3, $4, $5, $6, $7
		where (select count(*) from refused where session_id = $3) < $8
			on conflict do nothing`, tx.Club, id, session, by, at, why, item, mostRefused)
}

// Refusals lists what was refused of a session's devices and not put aside yet.
func (tx *Tx) Refusals(ctx context.Context, session string) ([]Refused, error) {
	return collect[Refused](ctx, tx, "list what was refused", `select r.id, r.why, m.name as by_name, r.at, r.item
			from refused r join member m on m.id = r.by_member where r.session_id = $1 and r.seen_at is null
			order by r.at, r.id`, session)
}

// PutAside says that a coach has seen what was refused of a session.
func (tx *Tx) PutAside(ctx context.Context, session string, at time.Time) error {
	return tx.exec(ctx, "put aside what was refused", `update refused set seen_at = $2 where session_id = $1
			and seen_at is null`, session, at)
}

// Everybody stands in a Climb's unit where it is no step of a group but so many more counted by all at a gate; its
// block is then the place: a station, or from 100 on what everybody does in a block.
const Everybody = -1

// Climb is where a group stands on the ladder of a block.
type Climb struct {
	ID     string    `json:"id"`
	Block  int       `json:"block"`
	Unit   int       `json:"unit"`
	Player string    `json:"player,omitempty"` // who climbs alone, or the first of a pair; empty: the unit's group
	Step   int       `json:"step"`
	At     time.Time `json:"at"`
	By     string    `json:"by"`
}

// AddClimb keeps a step; one sent twice is kept once.
func (tx *Tx) AddClimb(ctx context.Context, session string, k Climb) error {
	return tx.exec(ctx, "keep the step", `insert into climb (club_id, id, session_id, block, unit, step, at,
			by_member, player_id) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)
			on conflict do nothing`, tx.Club, k.ID, session, k.Block, k.Unit, k.Step, k.At, k.By, null(k.Player))
}

// PutRounds keeps what the rounds of a session gave, in place of what was kept before.
func (tx *Tx) PutRounds(ctx context.Context, session string, rounds []run.Given) error {
	if err := tx.exec(ctx, "clear the rounds", `delete from round_done where session_id = $1`, session); err != nil {
		return err
	}
	for _, r := range rounds {
		err := tx.exec(ctx, "keep the round", `insert into round_done (club_id, session_id, round, station, unit,
			drill_id, seconds, places, players, counted, tries, planned)
			values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)`,
			tx.Club, session, r.Round, r.Station, r.Group, r.Drill, r.Time.Seconds(), r.AtOnce, r.Players,
			r.Counted, r.Tries, r.Planned)
		if err != nil {
			return err
		}
	}
	return nil
}

// Rounds lists what the rounds of a session gave.
func (tx *Tx) Rounds(ctx context.Context, session string) ([]run.Given, error) {
	rows, err := tx.Query(ctx, `select round, station, unit, drill_id, seconds, places, players, counted, tries,
			planned from round_done where session_id = $1 order by round, station, unit`, session)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, func(row pgx.CollectableRow) (g run.Given, err error) {
		var seconds float64
		err = row.Scan(
			&g.Round,
			&g.Station,
			&g.Group,
			&g.Drill,
			&seconds,
			&g.AtOnce,
			&g.Players,
			&g.Counted,
			&g.Tries,
			&g.Planned,
		)
		g.Time = time.Duration(seconds * float64(time.Second))
		return g, err
	})
}

// Paced is a drill at the pace that the last rounds of a class showed.
func (tx *Tx) Paced(ctx context.Context, class string, d coach.Drill, at time.Time) (coach.Drill, error) {
	type row struct{ Rounds Rounds }
	r, err := one[row](ctx, tx, "read the class's rounds", `select (select coalesce(json_agg(r), '[]')
			from (`+strings.NewReplacer("$6", "$1", "$4", "$2").Replace(roundsOf)+`) r) as rounds`, class, at)
	return r.Rounds.Paced(d), err
}
