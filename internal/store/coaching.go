package store

import (
	"context"
	"time"

	"github.com/jackc/pgx/v5"
)

// Feedback is what was said to a player or a group, or how far the teaching of a key is with a group.
type Feedback struct {
	ID     string    `json:"id"`
	Player string    `json:"player"` // empty: the group
	Unit   int       `json:"unit"`   // the group's number; -1: a player, or everybody
	Key    string    `json:"key"`
	How    string    `json:"how"`  // one of Hows, or step
	Said   string    `json:"said"` // what a group that was asked answered; of a step, which
	At     time.Time `json:"at"`
	By     string    `json:"by"`
}

// How is a kind of feedback with its words.
type How struct {
	How   string `json:"how"`
	Words string `json:"words"`
}

// Hows are the kinds of feedback, in the order in which they are offered.
var Hows = []How{
	{"told", "told"},
	{"corrected", "corrected"},
	{"asked", "asked"},
	{"before", "said before"},
	{"filmed", "filmed"},
	{"praised", "praised"},
}

// AddFeedback keeps it; one sent twice is kept once.
func (tx *Tx) AddFeedback(ctx context.Context, session string, f Feedback) error {
	return tx.exec(ctx, "keep the feedback", `insert into feedback (club_id, id, session_id, player_id, unit, key, how,
			said, at, by_member) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) on conflict do nothing`,
		tx.Club, f.ID, session, null(f.Player), f.Unit, f.Key, f.How, f.Said, f.At, f.By)
}

// Point is a try of a pair or of a team.
type Point struct {
	ID     string    `json:"id"`
	Place  int       `json:"place"` // the station from 0, or a block from 100 on
	Turn   string    `json:"turn"`  // the round, and the turn in it: "2.0"
	Whose  string    `json:"whose"` // the ids of two players, or "team"
	Player string    `json:"player"`
	Good   bool      `json:"good"`
	Undone bool      `json:"undone"`
	At     time.Time `json:"at"`
	By     string    `json:"by"`
}

// AddPoint keeps it; one sent twice is kept once. Taken back it stays so, in whichever order the two come.
func (tx *Tx) AddPoint(ctx context.Context, session string, p Point) error {
	return tx.exec(ctx, "keep the point", `insert into point (club_id, id, session_id, place, turn, whose, player_id, good,
			undone, at, by_member) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)
		on conflict (club_id, id) do update set undone = point.undone or excluded.undone
			where point.by_member = excluded.by_member`,
		tx.Club, p.ID, session, p.Place, p.Turn, p.Whose, null(p.Player), p.Good, p.Undone, p.At, p.By)
}

// Zone counts how many good ones of a player went where, of all sessions.
type Zone struct {
	Player string
	Zone   int
	N      int
}

// LeftOpen is a session that was started and that nobody ended, with who started it and when it will have ended.
type LeftOpen struct {
	ClubID, TimeZone, SessionID, ByMember string
	Ended                                 time.Time
}

// LeftOpen lists them, across clubs: so long after they should have been over, and after the last touch of the clock.
func (s *Store) LeftOpen(ctx context.Context, at time.Time, after time.Duration) ([]LeftOpen, error) {
	rows, err := s.Pool.Query(ctx, `select club_id, time_zone, session_id, by_member, ended from sessions_left_open($1, $2)`, at, after)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByName[LeftOpen])
}

// EndItself ends a session that nobody ended.
func (tx *Tx) EndItself(ctx context.Context, session, by string, at time.Time) error {
	return tx.exec(ctx, "end the session by itself", `insert into run_event (club_id, id, session_id, what, at, by_member,
			itself) values ($1, $2, $3, 'end', $4, $5, true)`, tx.Club, NewID(), session, at, by)
}

// LookAtNext plans that somebody looks at a player in the next session of the class, at the criteria that are due. It
// answers whether there is such a session.
func (tx *Tx) LookAtNext(ctx context.Context, session, player string, criteria []string) (bool, error) {
	r, err := one[struct{ Planned bool }](ctx, tx, "plan the look", `with n as (select o.id from session o
				join session s on s.class_id = o.class_id where s.id = $2 and o.starts_at > s.starts_at
				and o.cancelled_at is null order by o.starts_at limit 1),
			put as (insert into look (club_id, session_id, player_id, criterion_id, side)
				select $1, n.id, $3, c, '' from n, unnest($4::uuid[]) c on conflict do nothing)
		select exists (select from n) as planned`, tx.Club, session, player, criteria)
	return r.Planned, err
}
