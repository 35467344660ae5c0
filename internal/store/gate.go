package store

import (
	"context"
	"time"
)

// Crossing is a beam of a timing gate that was crossed.
type Crossing struct {
	ID   string    `json:"id"`
	What string    `json:"what"` // start or finish
	Lane int       `json:"lane"`
	At   time.Time `json:"at"`
}

// AddCrossing keeps it; one sent twice is kept once.
func (tx *Tx) AddCrossing(ctx context.Context, session string, c Crossing) error {
	return tx.exec(ctx, "keep the crossing", `insert into crossing (club_id, id, session_id, what, lane, at)
			values ($1, $2, $3, $4, $5, $6) on conflict do nothing`, tx.Club, c.ID, session, c.What, c.Lane, c.At)
}

// CodeBy is the member who made the session's code: what a device outside says is said for them.
func (tx *Tx) CodeBy(ctx context.Context, session string) (Member, error) {
	return one[Member](ctx, tx, "find who let the device in", `select m.id, m.name, m.email, m.role, '' as password_hash,
			m.sign_ins, false as visitor, null::timestamptz as way_in from session_code k join member m on m.id = k.by_member
		where k.session_id = $1`, session)
}
