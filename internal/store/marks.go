package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgtype"

	"gruppo/internal/coach"
	"gruppo/internal/coach/target"
)

// MarkFilter narrows marks. Zero fields do not.
type MarkFilter struct {
	Player, Session, Criterion string
	Drill                      string // that count for no criterion
	Program                    string // marks for criteria of the stage each player is on now
	Ladder                     string // marks for criteria of any stage of a program
	ID                         string
	Players                    []string // any of these, when not nil
}

// Marks lists marks, oldest first, struck-out ones included.
func (tx *Tx) Marks(ctx context.Context, f MarkFilter) ([]coach.Mark, error) {
	var w where
	w.and(f.ID != "", `m.id = ?`, f.ID)
	w.and(f.Player != "", `m.player_id = ?`, f.Player)
	w.and(f.Players != nil, `m.player_id = any(?::uuid[])`, f.Players)
	w.and(f.Session != "", `m.session_id = ?`, f.Session)
	w.and(f.Drill != "", `m.drill_id = ?`, f.Drill)
	w.and(f.Criterion != "", `m.criterion_id = ?`, f.Criterion)
	stands := ""
	if f.Program != "" {
		stands = `join criterion c on c.id = m.criterion_id
			join standing s on (s.player_id, s.stage_id) = (m.player_id, c.stage_id)`
		w.and(true, `s.program_id = ?`, f.Program)
	}
	w.and(f.Ladder != "", `m.criterion_id in (select c.id from criterion c join stage s on s.id = c.stage_id
		where s.program_id = ?)`, f.Ladder)
	rows, err := tx.Query(ctx, `select m.id, m.player_id, m.criterion_id, m.drill_id, m.session_id, m.side, m.figure,
			m.tries, m.points, m.at, m.by_member, b.name, m.note, m.home, x.mark_id is not null, coalesce(x.why, '')
		from mark m join member b on b.id = m.by_member left join strike x on x.mark_id = m.id
		`+stands+w.String()+` order by m.at, m.id`, w.args...)
	if err != nil {
		return nil, fmt.Errorf("list marks: %w", err)
	}
	out, written := make([]coach.Mark, 0, 128), ids{}
	var m coach.Mark
	var player, criterion, drill, session, by pgtype.UUID
	_, err = pgx.ForEachRow(rows, []any{&m.ID, &player, &criterion, &drill, &session, &m.Side, &m.Figure, &m.Tries,
		&m.Points, &m.At, &by, &m.ByName, &m.Note, &m.Home, &m.Struck, &m.StruckWhy}, func() error {
		m.PlayerID, m.CriterionID = written.of(player), written.of(criterion)
		m.DrillID, m.SessionID, m.By = written.of(drill), written.of(session), written.of(by)
		out = append(out, m)
		return nil
	})
	return out, err
}

// AddMark keeps a mark; one sent twice is kept once.
func (tx *Tx) AddMark(ctx context.Context, m coach.Mark) error {
	points := m.Points
	if points == nil {
		points = []bool{}
	}
	return tx.exec(ctx, "keep the mark", `insert into mark (club_id, id, player_id, criterion_id, drill_id,
			session_id, side, figure, tries, points, at, by_member, note, home)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14) on conflict do nothing`,
		tx.Club, m.ID, m.PlayerID, null(m.CriterionID), null(m.DrillID), null(m.SessionID), string(m.Side),
		m.Figure, m.Tries, points, m.At, m.By, m.Note, m.Home)
}

// Strike strikes a mark out; the mark itself stays.
func (tx *Tx) Strike(ctx context.Context, mark, by, why string, at time.Time) error {
	return tx.exec(ctx, "strike the mark out", `insert into strike (club_id, mark_id, at, by_member, why)
			values ($1, $2, $3, $4, $5) on conflict do nothing`, tx.Club, mark, at, by, why)
}

// Tally is a series of tries while it grows: '1' a good one, '0' a miss.
type Tally struct {
	ID        string    `json:"id"`
	Player    string    `json:"player"`
	Criterion string    `json:"criterion"`
	Drill     string    `json:"drill"`
	Side      string    `json:"side"`
	Round     int       `json:"round"`
	Tries     string    `json:"tries"`
	Revision  int       `json:"revision"`
	Done      bool      `json:"done"`
	At        time.Time `json:"at"`
	By        string    `json:"by"`
	Form      string    `json:"form,omitempty"` // of the drill, in which it was counted; empty: as it is written
	Zones     string    `json:"zones"`          // where the good ones went, beside the tries: "1,0,5", 0 for not said
}

// Kept is what became of a series that arrived.
type Kept struct {
	Stored bool   // it is now the kept one; else a newer state of it was there already
	Before string // the tries kept before
	MarkID string // the mark it had become before; empty: none
}

// ErrFinished is returned for more of a series that whoever counts it had finished, or that is somebody else's.
var ErrFinished = errors.New("finished")

// PutTally keeps the newest state of a series. One that only the end of the session closed goes on with whatever
// arrives later; an older state changes nothing, and the same again is kept once.
func (tx *Tx) PutTally(ctx context.Context, session string, t Tally, closed bool) (k Kept, err error) {
	tag, err := tx.Exec(
		ctx,
		`insert into tally (club_id, id, session_id, player_id, criterion_id, drill_id, side,
			round, tries, revision, done, at, by_member, zones, closed, form)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16) on conflict do nothing`,
		tx.Club,
		t.ID,
		session,
		t.Player,
		null(t.Criterion),
		null(t.Drill),
		t.Side,
		t.Round,
		t.Tries,
		t.Revision,
		t.Done,
		t.At,
		t.By,
		t.Zones,
		closed,
		t.Form,
	)
	if err != nil {
		return k, fmt.Errorf("keep the tally: %w", err)
	}
	if tag.RowsAffected() > 0 {
		return Kept{Stored: true}, nil
	}
	type row struct {
		Tries, By, MarkID string
		Revision          int
		Done, Closed      bool
	}
	was, err := one[row](ctx, tx, "read the tally", `select tries, by_member as by, coalesce(mark_id::text,
			'') as mark_id, revision, done, closed from tally where id = $1
			and session_id = $2 for update`, t.ID, session)
	if err != nil {
		return k, err
	}
	k = Kept{Before: was.Tries, MarkID: was.MarkID}
	same := t.Tries == was.Tries
	switch {
	case was.By != t.By:
		return k, ErrFinished
	case t.Revision < was.Revision, same && t.Done == was.Done && closed == was.Closed, same && was.Done && closed:
		return k, nil
	case was.Done && !was.Closed && !same:
		return k, ErrFinished
	case t.Revision == was.Revision && !same && len(t.Tries) <= len(was.Tries):
		return k, nil // of two states with one number the longer stands
	}
	k.Stored = true
	return k, tx.exec(ctx, "keep the tally", `update tally set tries = $2, revision = $3, done = $4, at = $5,
			zones = $6, closed = $7 where id = $1`, t.ID, t.Tries, t.Revision, t.Done, t.At, t.Zones, closed)
}

// MarkTally says which mark a series became.
func (tx *Tx) MarkTally(ctx context.Context, tally, mark string) error {
	return tx.exec(ctx, "note the tally's mark", `update tally set mark_id = $2 where id = $1`, tally, null(mark))
}

// MarkOf is the mark that a series became; the id itself where it is that of a mark.
func (tx *Tx) MarkOf(ctx context.Context, id string) (mark string, err error) {
	err = tx.QueryRow(ctx, `select coalesce((select mark_id from tally where id = $1), $1::uuid)::text`, id).Scan(&mark)
	return mark, err
}

// Tallies lists the session's series.
func (tx *Tx) Tallies(ctx context.Context, session string) ([]Tally, error) {
	return collect[Tally](ctx, tx, "list tallies", `select id, player_id as player, coalesce(criterion_id::text,
			'') as criterion, coalesce(drill_id::text, '') as drill, side, round, tries, revision, done, at,
			by_member as by, zones, form
		from tally where session_id = $1 order by at, id`, session)
}

// Tries gathers what was marked of the players, by the criterion's skill or "drill " and the drill's id, for working
// out chances.
func (tx *Tx) Tries(
	ctx context.Context,
	players []string,
	at time.Time,
) (map[string]map[string][]target.Series, error) {
	type row struct {
		PlayerID, Skill    string
		Made, Tries, Weeks float64
	}
	rows, err := collect[row](ctx, tx, "gather tries", `select m.player_id, coalesce(c.skill,
			'drill ' || m.drill_id) as skill, m.figure as made, m.tries::float8 as tries, extract(epoch
			from $2 - m.at)::float8 / 604800 as weeks
		from mark m left join criterion c on c.id = m.criterion_id left join strike x on x.mark_id = m.id
		where m.player_id = any($1::uuid[]) and x.mark_id is null and m.tries > 0 and (c.measure = 'makes'
			or m.criterion_id is null and m.drill_id is not null and m.figure <= m.tries)
			and m.at > $2 - interval '26 weeks'`, players, at)
	out := map[string]map[string][]target.Series{}
	for _, r := range rows {
		if out[r.PlayerID] == nil {
			out[r.PlayerID] = map[string][]target.Series{}
		}
		out[r.PlayerID][r.Skill] = append(
			out[r.PlayerID][r.Skill],
			target.Series{Made: r.Made, Tries: r.Tries, Weeks: r.Weeks},
		)
	}
	return out, err
}

// stationDrills are the drills at the stations of session s, in a plan of any version.
const stationDrills = `(select jsonb_path_query(s.plan, '$.blocks[*].circuit.stations[*].drill') as drill union all
			select jsonb_path_query(s.plan, '$.stations[*].drill'))`

// LiveSkills are, by session, the criteria among the marks' whose skill a station of that session has in random order
// or in live play.
func (tx *Tx) LiveSkills(ctx context.Context, marks []coach.Mark) (map[string][]string, error) {
	var sessions, criteria []string
	for _, m := range marks {
		if m.SessionID != "" && m.CriterionID != "" {
			sessions, criteria = append(sessions, m.SessionID), append(criteria, m.CriterionID)
		}
	}
	type row struct{ SessionID, CriterionID string }
	rows, err := collect[row](ctx, tx, "find live practice", `select distinct s.id as session_id,
			c.id as criterion_id from unnest($1::uuid[], $2::uuid[]) x (s, c) join session s on s.id = x.s
			join criterion c on c.id = x.c
		join lateral `+stationDrills+` t on true join drill d on d.id = (t.drill #>> '{}')::uuid left join criterion_drill k on (k.criterion_id, k.drill_id) = (c.id, d.id)
		where coalesce(k.shows, c.skill = any(d.skills)) and (d.practice = 'random' or d.form = 'live')`, list(sessions), list(criteria))
	out := map[string][]string{}
	for _, r := range rows {
		out[r.SessionID] = append(out[r.SessionID], r.CriterionID)
	}
	return out, err
}
