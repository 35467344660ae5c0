package shell

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"net/http"
	"net/netip"
	"net/url"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/alexedwards/scs/v2"

	"gruppo/internal/store"
)

// A sign-in ends after 14 days in which nobody came, and in any case after 90; it is lengthened once a day at most.
const (
	idle     = 14 * 24 * time.Hour
	longest  = 90 * 24 * time.Hour
	renewing = idle - 24*time.Hour
)

// NewSessions keeps browser sessions in PostgreSQL. The cookie is Secure unless the program serves loopback only.
func NewSessions(st *store.Store, secure bool) *scs.SessionManager {
	m := scs.New()
	m.Store = store.SignIns{Pool: st.Pool}
	m.HashTokenInStore = true
	m.Lifetime = idle
	m.Cookie.Name = "gruppo"
	m.Cookie.HttpOnly = true
	m.Cookie.SameSite = http.SameSiteLaxMode
	m.Cookie.Secure = secure
	return m
}

// SignIn makes the request's session the member's, under a new token.
func (s *Server) SignIn(c *Ctx, club, member string, signIns int) error {
	if err := s.Sessions.RenewToken(c.Ctx()); err != nil {
		return fmt.Errorf("renew the session: %w", err)
	}
	s.Sessions.Put(c.Ctx(), "club", club)
	s.Sessions.Put(c.Ctx(), "member", member)
	s.Sessions.Put(c.Ctx(), "sign-ins", signIns)
	s.Sessions.Put(c.Ctx(), "since", time.Now().Unix())
	return nil
}

// admit fills in who asks, and turns away who may not.
func (s *Server) admit(c *Ctx, r Route) error {
	club, member := s.Sessions.GetString(c.Ctx(), "club"), s.Sessions.GetString(c.Ctx(), "member")
	if club != "" {
		var now store.Versions
		var err error
		if c.Club, c.Member, now, err = s.Store.Signed(c.Ctx(), club, member); err != nil && !errors.Is(err, store.ErrNone) {
			return err
		}
		if err != nil || c.Member.SignIns != s.Sessions.GetInt(c.Ctx(), "sign-ins") { // signed out everywhere, or gone
			if err := s.Sessions.Destroy(c.Ctx()); err != nil {
				return err
			}
			c.Club, c.Member = store.Club{}, store.Member{}
		} else {
			c.Loc = c.Club.Location()
			c.Now = c.Now.In(c.Loc)
			if reads := c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead; reads && !r.stays() {
				c.versions = &now
			}
			s.lengthen(c)
		}
	}
	if r.Needs == Anyone {
		return nil
	}
	if c.Member.ID == "" {
		c.Abort()
		if strings.Contains(c.GetHeader("Accept"), "application/json") {
			return &Problem{
				http.StatusUnauthorized,
				"You are signed out on this device. Sign in again; what is waiting here stays.",
			}
		}
		to := "/sign-in"
		if c.Request.Method == http.MethodGet && c.Request.URL.Path != "/" {
			to += "?to=" + url.QueryEscape(c.Request.URL.RequestURI())
		}
		return c.To(to)
	}
	if !c.May(r.Needs) {
		return &Problem{http.StatusForbidden, "That is not yours to do here. Ask the club's lead."}
	}
	return nil
}

// lengthen keeps somebody who comes signed in. A helper of one session has an end of their own.
func (s *Server) lengthen(c *Ctx) {
	now := time.Now()
	since := time.Unix(s.Sessions.GetInt64(c.Ctx(), "since"), 0)
	if !c.Member.Visitor && s.Sessions.Deadline(c.Ctx()).Before(now.Add(renewing)) &&
		now.Add(idle).Before(since.Add(longest)) {
		s.Sessions.SetDeadline(c.Ctx(), now.Add(idle))
	}
}

// Network is the block of addresses a request comes from: what one household or school has.
func (c *Ctx) Network() string {
	ip, err := netip.ParseAddr(c.ClientIP())
	if err != nil {
		return "unknown"
	}
	bits := 56
	if ip = ip.Unmap(); ip.Is4() {
		bits = 24
	}
	block, err := ip.Prefix(bits)
	if err != nil {
		return "unknown"
	}
	return block.String()
}

// hashing is how passwords are hashed: argon2id with the second recommended setting of RFC 9106, 64 MiB and 3 passes,
// here with 2 lanes.
var hashing = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: 2, SaltLength: 16, KeyLength: 32}

// Hashing takes memory and time, so few go on at once, and few more wait: sixty parallel tries hold up nobody else.
const (
	hashesAtOnce = 2
	hashesWait   = 12
)

var hashTurns, hashQueue = make(chan struct{}, hashesAtOnce), make(chan struct{}, hashesAtOnce+hashesWait)

var errHashes = &Problem{
	http.StatusServiceUnavailable,
	"Many people are signing in just now. Wait a moment, then try again.",
}

// inHashTurn runs f when its turn has come, or says that there are too many.
func inHashTurn(ctx context.Context, f func() error) error {
	select {
	case hashQueue <- struct{}{}:
		defer func() { <-hashQueue }()
	default:
		return errHashes
	}
	select {
	case hashTurns <- struct{}{}:
		defer func() { <-hashTurns }()
		return f()
	case <-ctx.Done():
		return ctx.Err()
	}
}

// HashPassword is the argon2id hash of a password in the usual encoding.
func HashPassword(ctx context.Context, password string) (hash string, err error) {
	err = inHashTurn(ctx, func() (err error) {
		hash, err = argon2id.CreateHash(password, hashing)
		return err
	})
	return hash, err
}

// PasswordFits reports whether the password is the one that was hashed; nothing fits a hash that is none.
func PasswordFits(ctx context.Context, password, hash string) (fits bool, err error) {
	if hash == "" {
		return false, nil
	}
	err = inHashTurn(ctx, func() error {
		ok, bad := argon2id.ComparePasswordAndHash(password, hash)
		fits = ok && bad == nil // a hash that cannot be read fits nothing
		return nil
	})
	return fits, err
}

// RandomKey is a fresh secret of n bytes, in hex.
func RandomKey(n int) string {
	b := make([]byte, n)
	rand.Read(b)
	return hex.EncodeToString(b)
}

// HashOf is what is kept of a link's secret.
func HashOf(secret string) string {
	h := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(h[:])
}
