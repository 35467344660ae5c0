package shell

import (
	"context"
	"log/slog"
	"strings"
	"sync"
	"time"

	"github.com/jackc/pgx/v5"

	"gruppo/internal/store"
)

// Live passes the database's notices on to the pages that are open on this instance of the program.
type Live struct {
	mu   sync.Mutex
	open map[string]map[chan string]bool // session id → listeners
}

// NewLive listens to the database until ctx ends, and reconnects when the connection is lost.
func NewLive(ctx context.Context, st *store.Store) *Live {
	l := &Live{open: map[string]map[chan string]bool{}}
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

func (l *Live) listen(ctx context.Context, st *store.Store) error {
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

// pass gives a notice to the listeners of a session, or of all when it is empty. A listener that has one waiting already
// needs no second: it reads the whole state anyway.
func (l *Live) pass(session, what string) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for id, listeners := range l.open {
		if session != "" && id != session {
			continue
		}
		for ch := range listeners {
			select {
			case ch <- what:
			default:
			}
		}
	}
}

// Listen gives notices about a session until done is called.
func (l *Live) Listen(session string) (notices <-chan string, done func()) {
	ch := make(chan string, 1)
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
