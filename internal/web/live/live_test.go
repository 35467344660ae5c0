package live

import (
	"bytes"
	"context"
	"strings"
	"testing"
)

// Whoever falls far behind is told to read everything again, instead of all that they missed; others hear each notice, of their session alone.
func TestWhoFallsBehindReadsAgain(t *testing.T) {
	l := &Notices{open: map[string]map[chan string]bool{}}
	slow, done := l.Of("tuesday")
	defer done()
	other, gone := l.Of("thursday")
	for range 200 {
		l.pass("tuesday", "plan 2")
	}
	var heard []string
	for len(slow) > 0 {
		heard = append(heard, <-slow)
	}
	if len(heard) == 0 || len(heard) > 65 || !strings.Contains(strings.Join(heard, " "), "again") {
		t.Errorf("far behind, %d notices wait: %v", len(heard), heard[:min(3, len(heard))])
	}
	if len(other) > 0 {
		t.Errorf("another session hears %q", <-other)
	}
	l.pass("", "again") // to everybody, after the database was away
	if len(slow) != 1 || len(other) != 1 {
		t.Error("not everybody is told to read again")
	}
	gone()
	if len(l.open) != 1 {
		t.Errorf("who left is still listened for: %v", l.open)
	}
}

func TestAStreamSaysWhatIsTheReadersToKnow(t *testing.T) {
	notices := make(chan string, 8)
	for _, n := range []string{"plan 8", "a secret", "ended"} {
		notices <- n
	}
	var out bytes.Buffer
	flushed := 0
	Stream(context.Background(), &out, func() error { flushed++; return nil }, notices, Reader{
		Version: 7,
		Still:   func() bool { return true },
		See: func(what string) (string, bool) {
			if what == "a secret" {
				return "", false
			}
			return what, what == "ended"
		},
	})
	want := "retry: 1000\ndata: hello 7\n\ndata: plan 8\n\n: still here\n\n"
	if out.String() != want || flushed != 3 {
		t.Errorf("%d flushes of %q, want %q", flushed, out.String(), want)
	}
}
