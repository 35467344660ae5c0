package store

import (
	"context"
	"fmt"
	"time"
)

// WayIn is somebody who may choose a password by a link that works once.
type WayIn struct {
	ClubID, Club string
	ID           string // of the member
	Name, Email  string
	Fresh        bool // they have no password yet
}

// AddWayIn makes a link of a member, by the hash of its secret, that works until the given time; those made before work
// no more.
func (tx *Tx) AddWayIn(ctx context.Context, member, hash string, until time.Time) error {
	if err := tx.exec(ctx, "shut the ways in of before", `delete from way_in where member_id = $1`, member); err != nil {
		return err
	}
	return tx.exec(ctx, "make a way in", `insert into way_in (club_id, hash, member_id, until)
			values ($1, $2, $3, $4)`, tx.Club, hash, member, until)
}

// WayInOf is whose link has that hash, or ErrNone when it is over or was used.
func (s *Store) WayInOf(ctx context.Context, hash string, now time.Time) (w WayIn, err error) {
	err = s.Pool.QueryRow(ctx, `select club_id, club, id, name, email, fresh from way_in_of($1,
			$2)`, hash, now).Scan(&w.ClubID, &w.Club, &w.ID, &w.Name, &w.Email, &w.Fresh)
	return w, none(err)
}

// UseWayIn sets the password of a link's member, once: ErrNone when somebody was quicker.
func (tx *Tx) UseWayIn(ctx context.Context, hash, password string, now time.Time) (signIns int, err error) {
	var member string
	if err := tx.QueryRow(ctx, `delete from way_in where hash = $1 and until > $2
			returning member_id`, hash, now).Scan(&member); err != nil {
		return 0, none(err)
	}
	return tx.SetPassword(ctx, member, password)
}

// Reset finds the members of a name or an address in all clubs, makes a link for each and gives it: for somebody who
// has the server, and nobody else.
func (s *Store) Reset(
	ctx context.Context,
	who string,
	until time.Time,
	secret func() (secret, hash string),
) (links map[WayIn]string, err error) {
	rows, err := s.Pool.Query(ctx, `select club_id, club, id, name, email from members_called($1)`, who)
	if err != nil {
		return nil, fmt.Errorf("find %s: %w", who, err)
	}
	defer rows.Close()
	links = map[WayIn]string{}
	for rows.Next() {
		var w WayIn
		if err := rows.Scan(&w.ClubID, &w.Club, &w.ID, &w.Name, &w.Email); err != nil {
			return nil, fmt.Errorf("find %s: %w", who, err)
		}
		links[w] = ""
	}
	if err := rows.Err(); err != nil {
		return nil, fmt.Errorf("find %s: %w", who, err)
	}
	for w := range links {
		open, hash := secret()
		if err := s.In(ctx, w.ClubID, func(tx *Tx) error { return tx.AddWayIn(ctx, w.ID, hash, until) }); err != nil {
			return nil, err
		}
		links[w] = open
	}
	return links, nil
}
