package shell

import (
	"context"
	"net/http"
	"strings"

	"gruppo/internal/store"
	"gruppo/internal/web/live"
)

// still asks whether the member is signed in here as before, and may go on.
func (c *Ctx) still(may func() error) error {
	fresh, err := c.S.Sessions.Load(context.Background(), c.S.Sessions.Token(c.Ctx()))
	if err != nil {
		return err
	}
	_, m, _, err := c.S.Store.Signed(c.Ctx(), c.Club.ID, c.Member.ID)
	if err != nil {
		return err
	}
	if c.S.Sessions.GetString(fresh, "member") != m.ID || c.S.Sessions.GetInt(fresh, "sign-ins") != m.SignIns ||
		m.Role != c.Member.Role {
		return store.ErrNone
	}
	return may()
}

// Stream answers with server-sent events: one whenever something of the session changed, until the page is closed. may
// gives the session's version to those who may see it; it is asked first, at each beat, and at once when somebody's
// access ended. see says what of a notice is theirs to know.
func (c *Ctx) Stream(session string, may func() (version int, err error), see func(what string) string) error {
	notices, done := c.S.Live.Of(session)
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
	flush := http.NewResponseController(w).Flush
	c.Header("Content-Type", "text/event-stream")
	c.Header("X-Accel-Buffering", "no")
	c.Writer.WriteHeaderNow()
	live.Stream(
		c.Ctx(),
		c.Writer,
		flush,
		notices,
		live.Reader{Version: version, Still: still, See: func(what string) (string, bool) {
			if who, ended := strings.CutPrefix(what, store.AccessEnded); ended {
				return "", who == c.Member.ID && !still()
			}
			return see(what), false
		}},
	)
	return nil
}
