// Package live passes on what changes: notices of the database to the pages that are open on this instance, as
// server-sent events.
package live

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"strings"
	"sync"
	"time"

	"github.com/jackc/pgx/v5"

	"gruppo/internal/store"
)

// Notices passes the database's notices on to the pages that are open on this instance of the program.
type Notices struct {
	mu   sync.Mutex
	open map[string]map[chan string]bool // session id → listeners
}

// Listen listens to the database until ctx ends, and reconnects when the connection is lost.
func Listen(ctx context.Context, st *store.Store) *Notices {
	l := &Notices{open: map[string]map[chan string]bool{}}
	go func() {
		for ctx.Err() == nil {
			if err := l.listen(ctx, st); err != nil && ctx.Err() == nil {
				slog.Warn("listening to the database stopped, trying again", "error", err)
				time.Sleep(time.Second)
			}
		}
	}()
	return l
}

func (l *Notices) listen(ctx context.Context, st *store.Store) error {
	conn, err := pgx.ConnectConfig(ctx, st.Pool.Config().ConnConfig.Copy())
	if err != nil {
		return err
	}
	defer conn.Close(context.Background())
	if _, err := conn.Exec(ctx, "listen gruppo"); err != nil {
		return err
	}
	l.pass("", "again") // something may have been missed while not listening
	for {
		n, err := conn.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		session, what, _ := strings.Cut(n.Payload, " ")
		l.pass(session, what)
	}
}

// pass gives a notice to the listeners of a session, or of all when it is empty. A listener that is far behind is told
// to read the whole state instead of all that waits for it.
func (l *Notices) pass(session, what string) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for id, listeners := range l.open {
		if session != "" && id != session {
			continue
		}
		for ch := range listeners {
			select {
			case ch <- what:
				continue
			default:
			}
			for len(ch) > 0 {
				select {
				case <-ch:
				default:
				}
			}
			ch <- "again" // there is room: only this goroutine sends
		}
	}
}

// Of gives notices about a session until done is called.
func (l *Notices) Of(session string) (notices <-chan string, done func()) {
	ch := make(chan string, 64)
	l.mu.Lock()
	if l.open[session] == nil {
		l.open[session] = map[chan string]bool{}
	}
	l.open[session][ch] = true
	l.mu.Unlock()
	return ch, func() {
		l.mu.Lock()
		delete(l.open[session], ch)
		if len(l.open[session]) == 0 {
			delete(l.open, session)
		}
		l.mu.Unlock()
	}
}

// Reader is who reads a stream.
type Reader struct {
	Version int                                       // of what the page shows, as it is once the stream listens
	See     func(what string) (says string, end bool) // what of a notice is theirs to know; empty: nothing
	Still   func() bool                               // whether they may go on; asked at each beat
}

// beat is how often a stream that has nothing to say is heard of.
const beat = 15 * time.Second

// Stream writes server-sent events until ctx ends or the reader may not go on. The first word is "hello" and the
// version, so that a page knows whether something changed while it was loading.
func Stream(ctx context.Context, w io.Writer, flush func() error, notices <-chan string, r Reader) {
	ticks := time.NewTicker(beat)
	defer ticks.Stop()
	says := fmt.Sprintf("retry: 1000\ndata: hello %d\n\n", r.Version)
	for {
		if _, err := io.WriteString(w, says); err != nil {
			return
		}
		if err := flush(); err != nil {
			return
		}
		says = ": still here\n\n"
		select {
		case <-ctx.Done():
			return
		case what := <-notices:
			words, end := r.See(what)
			if end {
				return
			}
			if words != "" {
				says = "data: " + words + "\n\n"
			}
		case <-ticks.C:
			if !r.Still() {
				return
			}
		}
	}
}
