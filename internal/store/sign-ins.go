package store

import (
	"context"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
)

// SignIns keeps what browsers are signed in as, for package scs. A row belongs to no club: it says which one.
type SignIns struct{ Pool *pgxpool.Pool }

// FindCtx gives what is kept under a token; ok is false when it is unknown or over.
func (s SignIns) FindCtx(ctx context.Context, token string) (data []byte, ok bool, err error) {
	rows, err := s.Pool.Query(ctx, "SELECT data FROM sessions WHERE token = $1 AND now() < expiry", token)
	if err != nil {
		return nil, false, err
	}
	found, err := pgx.CollectRows(rows, pgx.RowTo[[]byte])
	if err != nil || len(found) == 0 {
		return nil, false, err
	}
	return found[0], true, nil
}

// CommitCtx keeps data under a token until a time, and forgets all that is over.
func (s SignIns) CommitCtx(ctx context.Context, token string, data []byte, until time.Time) error {
	_, err := s.Pool.Exec(ctx, `WITH over AS (DELETE FROM sessions WHERE expiry < now() AND token <> $1)
		INSERT INTO sessions (token, data, expiry) VALUES ($1, $2, $3)
		ON CONFLICT (token) DO UPDATE SET data = excluded.data, expiry = excluded.expiry`, token, data, until)
	return err
}

// DeleteCtx forgets a token.
func (s SignIns) DeleteCtx(ctx context.Context, token string) error {
	_, err := s.Pool.Exec(ctx, "DELETE FROM sessions WHERE token = $1", token)
	return err
}

// Find, Commit and Delete are the same for callers without a context.
func (s SignIns) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

func (s SignIns) Commit(token string, data []byte, until time.Time) error {
	return s.CommitCtx(context.Background(), token, data, until)
}

func (s SignIns) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }
