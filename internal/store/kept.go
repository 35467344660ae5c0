package store

import (
	"context"
	"fmt"
	"sync"
)

// Versions name what programs keep of a club in memory: any change gives another name, never one that was before.
type Versions struct {
	Shelf, Setup string
}

// kept is what is kept of a club's shelf or of its setup as of a version, each part once it was asked for.
type kept struct {
	version string
	parts   sync.Map
}

// keep gives a part of what is kept, and reads it where this version of it was not asked for yet. What it gives is
// everybody's: nobody may change it.
func keep[T any](ctx context.Context, tx *Tx, of, part string, read func() (T, error)) (out T, err error) {
	v, err := tx.versions(ctx)
	if err != nil {
		return out, err
	}
	version := v.Setup
	if of == "shelf" {
		version = v.Shelf
	}
	k, known := tx.store.kept.Get(tx.Club + of)
	if !known || k.version != version {
		k = &kept{version: version}
		tx.store.kept.Add(tx.Club+of, k)
	}
	if p, known := k.parts.Load(part); known {
		return p.(T), nil
	}
	if out, err = read(); err == nil {
		k.parts.Store(part, out)
	}
	return out, err
}

// versions are those that who asks was told at the door; whoever may have changed something asks again.
func (tx *Tx) versions(ctx context.Context) (v Versions, err error) {
	if tx.Versions != nil {
		return *tx.Versions, nil
	}
	err = tx.QueryRow(ctx, `select coalesce(max(id::text) filter (where of = 'shelf'), ''),
			coalesce(max(id::text) filter (where of = 'setup'), '') from version`).Scan(&v.Shelf, &v.Setup)
	if err != nil {
		return v, fmt.Errorf("read the versions: %w", err)
	}
	return v, nil
}
