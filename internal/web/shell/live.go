package shell

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"net/http"
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

// pass gives a notice to the listeners of a session, or of all when it is empty. A listener that is far behind is told to read the whole state
// instead of all that waits for it.
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

// Listen gives notices about a session until done is called.
func (l *Live) Listen(session string) (notices <-chan string, done func()) {
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

// still asks whether the member is signed in here as before, and may go on.
func (c *Ctx) still(may func() error) error {
	fresh, err := c.S.Sessions.Load(context.Background(), c.S.Sessions.Token(c.Ctx()))
	if err != nil {
		return err
	}
	_, m, err := c.S.Store.Signed(c.Ctx(), c.Club.ID, c.Member.ID)
	if err != nil {
		return err
	}
	if c.S.Sessions.GetString(fresh, "member") != m.ID || c.S.Sessions.GetInt(fresh, "sign-ins") != m.SignIns || m.Role != c.Member.Role {
		return store.ErrNone
	}
	return may()
}

// Stream answers with server-sent events: one whenever something of the session changed, until the page is closed. may gives the session's version to
// those who may see it; it is asked first, at each beat, and at once when somebody's access ended. see says what of a notice is theirs to know.
// The first word is "hello" and the version as it is once the stream listens, so that a page knows whether something changed while it was loading.
func (c *Ctx) Stream(session string, may func() (version int, err error), see func(what string) string) error {
	notices, done := c.S.Live.Listen(session)
	defer done()
	version, err := may()
	if err != nil {
		return err
	}
	still := func() bool {
		return c.still(func() error { _, err := may(); return err }) == nil
	}
	// Flush below gin and the session's writer, which cannot.
	var w http.ResponseWriter = c.Writer
	if u, ok := w.(interface{ Unwrap() http.ResponseWriter }); ok {
		w = u.Unwrap()
	}
	flush := http.NewResponseController(w)
	c.Header("Content-Type", "text/event-stream")
	c.Header("X-Accel-Buffering", "no")
	c.Writer.WriteHeaderNow()
	beat := time.NewTicker(15 * time.Second)
	defer beat.Stop()
	say := fmt.Sprintf("retry: 1000\ndata: hello %d\n\n", version)
	for {
		if _, err := io.WriteString(c.Writer, say); err != nil {
			return nil
		}
		if err := flush.Flush(); err != nil {
			return nil
		}
		select {
		case <-c.Ctx().Done():
			return nil
		case what := <-notices:
			say = "data: " + see(what) + "\n\n"
			if who, ended := strings.CutPrefix(what, store.AccessEnded); ended {
				if say = ": still here\n\n"; who == c.Member.ID && !still() {
					return nil
				}
			}
		case <-beat.C:
			if !still() {
				return nil
			}
			say = ": still here\n\n"
		}
	}
}
