package localpg

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"sync/atomic"
	"testing"
)

var (
	shared     *Cluster
	sharedErr  error
	sharedOnce sync.Once
	sharedLast atomic.Int64
)

// ForTest gives the test a fresh, empty database on a private server of its package, dropped when the test ends.
// Call Close from TestMain. It lives here, outside _test files, because the tests of several packages need it.
func ForTest(t testing.TB) Database {
	t.Helper()
	return forTest(t, func(ctx context.Context, name string) (Database, error) { return shared.Database(ctx, name) })
}

var (
	filledErr  error
	filledOnce sync.Once
)

// ForTestFilled gives the test a copy of a database that fill made, once for all tests of the package.
func ForTestFilled(t testing.TB, fill func(Database) error) Database {
	t.Helper()
	return forTest(t, func(ctx context.Context, name string) (Database, error) {
		filledOnce.Do(func() {
			var filled Database
			if filled, filledErr = shared.Database(ctx, "filled"); filledErr == nil {
				filledErr = fill(filled)
			}
		})
		if filledErr != nil {
			return Database{}, filledErr
		}
		return shared.copyOf(ctx, "filled", name)
	})
}

func forTest(t testing.TB, made func(ctx context.Context, name string) (Database, error)) Database {
	t.Helper()
	ctx := context.Background()
	sharedOnce.Do(func() {
		dir := filepath.Join(os.TempDir(), fmt.Sprintf("gruppo-test-%d", os.Getpid()))
		shared, sharedErr = Start(ctx, dir, "fsync=off", "full_page_writes=off", "synchronous_commit=off")
	})
	if sharedErr != nil {
		t.Fatal(sharedErr)
	}
	name := fmt.Sprintf("t%d", sharedLast.Add(1))
	db, err := made(ctx, name)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		if err := shared.Drop(ctx, name); err != nil {
			t.Error(err)
		}
	})
	return db
}

// Close stops the server that ForTest started, if it did, and removes its folder.
func Close() {
	if shared == nil {
		return
	}
	if err := shared.Stop(); err != nil {
		fmt.Fprintln(os.Stderr, err)
	}
	os.RemoveAll(shared.Dir)
}
