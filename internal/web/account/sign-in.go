package account

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"net/http"
	"net/mail"
	"strings"
	"sync"
	"time"

	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// How often a password may be wrong before the next try waits: for an address from devices it was never used on, for a
// device it was used on, and for everybody of a network.
const (
	freeTries    = 5
	freeNetwork  = 30
	freeStarts   = 30
	deviceCookie = "gruppo-device"
	deviceTime   = 365 * 24 * time.Hour
)

func signInPage(c *shell.Ctx) error {
	if c.Member.ID != "" {
		return c.To("/")
	}
	return c.Bare(pages, http.StatusOK, "sign-in.html", "Sign in", view{Form: shell.NewForm(c), To: c.Query("to")})
}

// address reads an e-mail address as it is kept: the address alone, in small letters.
func address(f *shell.Form, need string) string {
	typed := f.Text("email", 200, need)
	a, err := mail.ParseAddress(typed)
	if err != nil || strings.ContainsAny(a.Address, " <>\"") {
		f.Wrong("email", "That does not look like an e-mail address: it needs a name, an @ and a place.")
		return typed
	}
	return strings.ToLower(a.Address)
}

// nobody is the hash that a password is checked against when the address has no account, so that both take as long.
var nobody = sync.OnceValues(
	func() (string, error) { return shell.HashPassword(context.Background(), shell.RandomKey(8)) },
)

func hashOf(kind, s string) string {
	sum := sha256.Sum256([]byte(kind + " " + s))
	return hex.EncodeToString(sum[:16])
}

// guards are the limits a try has to pass: a device that the address was signed in on before has its own, so that wrong
// tries elsewhere do not shut it out.
func guards(c *shell.Ctx, email string) (limits []store.TryLimit, err error) {
	who := hashOf("address", email)
	if cookie, bad := c.Request.Cookie(deviceCookie); bad == nil {
		device := hashOf("device", cookie.Value)
		known, err := c.S.Store.KnownDevice(c.Ctx(), device, who, time.Now())
		if err != nil {
			return nil, err
		}
		if known {
			return []store.TryLimit{{Key: "d:" + device, Free: freeTries}}, nil
		}
	}
	return []store.TryLimit{{Key: "n:" + c.Network(), Free: freeNetwork}, {Key: "a:" + who, Free: freeTries}}, nil
}

func signIn(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := view{Form: f, To: f.Get("to")}
	if club := f.Get("club"); club != "" {
		return chooseClub(c, club, v)
	}
	email := address(f, "Type the e-mail address of your account.")
	if !f.OK() {
		return c.Bare(pages, http.StatusUnprocessableEntity, "sign-in.html", "Sign in", v)
	}
	limits, err := guards(c, email)
	if err != nil {
		return err
	}
	wait, err := c.S.Store.Try(c.Ctx(), time.Now(), limits...)
	if err != nil {
		return err
	}
	if wait > 0 {
		f.Wrong("password", "Too many wrong tries. Wait %d seconds, then try again.", int(wait.Seconds())+1)
		return c.Bare(pages, http.StatusTooManyRequests, "sign-in.html", "Sign in", v)
	}
	fits, err := fitting(c, email, f.Values.Get("password"))
	if err != nil {
		return err
	}
	if len(fits) == 0 {
		f.Wrong("password", "Address and password do not fit together.")
		return c.Bare(pages, http.StatusUnprocessableEntity, "sign-in.html", "Sign in", v)
	}
	last := len(limits) - 1
	var counted []string
	for _, l := range limits[:last] {
		counted = append(counted, l.Key)
	}
	if err := c.S.Store.Worked(c.Ctx(), counted, limits[last].Key); err != nil {
		return err
	}
	if len(fits) > 1 { // one address in several clubs
		var ids []string
		for _, a := range fits {
			ids = append(ids, a.ClubID+" "+a.Member)
		}
		c.S.Sessions.Put(c.Ctx(), "clubs", strings.Join(append(ids, email), "\n"))
		v.Clubs = fits
		return c.Bare(pages, http.StatusOK, "sign-in.html", "Sign in", v)
	}
	if err := letIn(c, email, fits[0]); err != nil {
		return err
	}
	return c.To(v.To)
}

// fitting are the accounts of the address that the password fits.
func fitting(c *shell.Ctx, email, password string) (fits []store.Account, err error) {
	accounts, err := c.S.Store.Accounts(c.Ctx(), email)
	if err != nil {
		return nil, err
	}
	if len(accounts) == 0 {
		hash, err := nobody()
		if err == nil {
			_, err = shell.PasswordFits(c.Ctx(), password, hash)
		}
		return nil, err
	}
	for _, a := range accounts {
		ok, err := shell.PasswordFits(c.Ctx(), password, a.Hash)
		if err != nil {
			return nil, err
		}
		if ok {
			fits = append(fits, a)
		}
	}
	return fits, nil
}

// chooseClub signs in to one of the clubs that the password fitted a moment ago.
func chooseClub(c *shell.Ctx, club string, v view) error {
	lines := strings.Split(c.S.Sessions.PopString(c.Ctx(), "clubs"), "\n")
	email := lines[len(lines)-1]
	for _, l := range lines[:len(lines)-1] {
		if id, member, _ := strings.Cut(l, " "); id == club {
			if err := letIn(c, email, store.Account{ClubID: id, Member: member}); err != nil {
				return err
			}
			return c.To(v.To)
		}
	}
	v.Form.Wrong("password", "Type your password once more.")
	return c.Bare(pages, http.StatusUnprocessableEntity, "sign-in.html", "Sign in", v)
}

// letIn signs somebody in and remembers the device.
func letIn(c *shell.Ctx, email string, a store.Account) error {
	_, m, _, err := c.S.Store.Signed(c.Ctx(), a.ClubID, a.Member)
	if err != nil {
		return err
	}
	if err := c.S.SignIn(c, a.ClubID, a.Member, m.SignIns); err != nil {
		return err
	}
	secret := shell.RandomKey(24)
	if old, err := c.Request.Cookie(deviceCookie); err == nil && len(old.Value) == len(secret) {
		secret = old.Value
	}
	http.SetCookie(
		c.Writer,
		&http.Cookie{
			Name:     deviceCookie,
			Value:    secret,
			Path:     "/sign-in",
			MaxAge:   int(deviceTime.Seconds()),
			HttpOnly: true,
			SameSite: http.SameSiteLaxMode,
			Secure:   c.S.Sessions.Cookie.Secure,
		},
	)
	return c.S.Store.KnowDevice(c.Ctx(), hashOf("device", secret), hashOf("address", email), time.Now().Add(deviceTime))
}
