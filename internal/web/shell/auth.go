package shell

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/alexedwards/scs/pgxstore"
	"github.com/alexedwards/scs/v2"
	"golang.org/x/crypto/argon2"

	"gruppo/internal/store"
)

// NewSessions keeps browser sessions in PostgreSQL. The cookie is Secure unless the program serves loopback only.
func NewSessions(st *store.Store, secure bool) *scs.SessionManager {
	m := scs.New()
	m.Store = pgxstore.New(st.Pool)
	m.Lifetime = 30 * 24 * time.Hour
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
	return nil
}

// admit fills in who asks, and turns away who may not.
func (s *Server) admit(c *Ctx, r Route) error {
	club, member := s.Sessions.GetString(c.Ctx(), "club"), s.Sessions.GetString(c.Ctx(), "member")
	if club != "" {
		var err error
		if c.Club, c.Member, err = s.Store.Signed(c.Ctx(), club, member); err != nil && !errors.Is(err, store.ErrNone) {
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
		}
	}
	if r.Needs == Anyone {
		return nil
	}
	if c.Member.ID == "" {
		c.Abort()
		if strings.Contains(c.GetHeader("Accept"), "application/json") {
			return &Problem{http.StatusUnauthorized, "You are signed out on this device. Sign in again; what is waiting here stays."}
		}
		to := "/sign-in"
		if c.Request.Method == http.MethodGet && c.Request.URL.Path != "/" {
			to += "?to=" + strings.ReplaceAll(c.Request.URL.RequestURI(), "&", "%26")
		}
		return c.To(to)
	}
	if !c.May(r.Needs) {
		return &Problem{http.StatusForbidden, "That is not yours to do here. Ask the club's lead."}
	}
	return nil
}

// HashPassword is the argon2id hash in the usual encoding, with the second recommended setting of RFC 9106: 64 MiB, 3 passes,
// here with 2 lanes.
func HashPassword(password string) string {
	salt := make([]byte, 16)
	rand.Read(salt)
	const memory, passes, lanes = 64 * 1024, 3, 2
	key := argon2.IDKey([]byte(password), salt, passes, memory, lanes, 32)
	enc := base64.RawStdEncoding
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, memory, passes, lanes, enc.EncodeToString(salt), enc.EncodeToString(key))
}

// PasswordFits reports whether the password is the one that was hashed.
func PasswordFits(password, hash string) bool {
	var version int
	var memory, passes uint32
	var lanes uint8
	parts := strings.Split(hash, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false
	}
	if _, err := fmt.Sscanf(parts[2]+" "+parts[3], "v=%d m=%d,t=%d,p=%d", &version, &memory, &passes, &lanes); err != nil || version != argon2.Version {
		return false
	}
	salt, err1 := base64.RawStdEncoding.DecodeString(parts[4])
	want, err2 := base64.RawStdEncoding.DecodeString(parts[5])
	if err1 != nil || err2 != nil || len(want) == 0 {
		return false
	}
	got := argon2.IDKey([]byte(password), salt, passes, memory, lanes, uint32(len(want)))
	return subtle.ConstantTimeCompare(got, want) == 1
}

// RandomKey is a fresh secret of n bytes, in hex.
func RandomKey(n int) string {
	b := make([]byte, n)
	rand.Read(b)
	return hex.EncodeToString(b)
}
