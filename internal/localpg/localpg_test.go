package localpg

import (
	"context"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"

	"github.com/jackc/pgx/v5"
)

// A server is killed hard in the middle of work; the next start finds what was committed. Two folders run side by side.
func TestSurvivesBeingKilled(t *testing.T) {
	ctx := context.Background()
	base, err := os.MkdirTemp("", "gruppo-localpg")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { os.RemoveAll(base) })
	if err := os.Chmod(base, 0o755); err != nil {
		t.Fatal(err)
	}
	first, err := Start(ctx, filepath.Join(base, "one"))
	if err != nil {
		t.Fatal(err)
	}
	db, err := first.Database(ctx, "club")
	if err != nil {
		t.Fatal(err)
	}
	conn, err := pgx.Connect(ctx, db.Owner)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := conn.Exec(ctx, "create table kept (n int); insert into kept values (7)"); err != nil {
		t.Fatal(err)
	}
	if _, err := pgx.Connect(ctx, strings.Replace(db.App, first.passwordOf("gruppo_app"), first.passwordOf("gruppo_owner"), 1)); err == nil ||
		!strings.Contains(err.Error(), "password") {
		t.Errorf("a guessed password: %v", err)
	}
	other, err := Start(ctx, filepath.Join(base, "two"))
	if err != nil {
		t.Fatal(err)
	}
	if other.Port == first.Port {
		t.Error("two clusters on one port")
	}
	if err := other.Stop(); err != nil {
		t.Error(err)
	}
	again, err := Start(ctx, filepath.Join(base, "one")) // still running: taken over
	if err != nil || again.Port != first.Port {
		t.Fatalf("taking over: port %d, was %d, %v", again.Port, first.Port, err)
	}
	pid, _, _ := strings.Cut(read(t, filepath.Join(first.data(), "postmaster.pid")), "\n")
	n, err := strconv.Atoi(pid)
	if err != nil {
		t.Fatal(err)
	}
	if err := syscall.Kill(n, syscall.SIGKILL); err != nil {
		t.Fatal(err)
	}
	last, err := Start(ctx, filepath.Join(base, "one"))
	if err != nil {
		t.Fatal(err)
	}
	defer last.Stop()
	if db, err = last.Database(ctx, "club"); err != nil {
		t.Fatal(err)
	}
	if conn, err = pgx.Connect(ctx, db.Owner); err != nil {
		t.Fatal(err)
	}
	var kept int
	if err := conn.QueryRow(ctx, "select n from kept").Scan(&kept); err != nil || kept != 7 {
		t.Errorf("after the kill: %d, %v", kept, err)
	}
}

func read(t *testing.T, name string) string {
	t.Helper()
	b, err := os.ReadFile(name)
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}
