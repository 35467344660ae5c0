// Package account is signing in and out, starting a club, and one's own account.
package account

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"errors"
	"fmt"
	"net/http"
	"net/mail"
	"net/url"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/sign-in", Needs: shell.Anyone, Handle: signInPage},
	{Method: "POST", Path: "/sign-in", Needs: shell.Anyone, Handle: signIn},
	{Method: "GET", Path: "/start", Needs: shell.Anyone, Handle: startPage},
	{Method: "POST", Path: "/start", Needs: shell.Anyone, Handle: start},
	{Method: "GET", Path: "/account", Needs: shell.OwnAccount, Handle: accountPage},
	{Method: "POST", Path: "/account/password", Needs: shell.OwnAccount, Handle: changePassword},
	{Method: "POST", Path: "/account/people", Needs: shell.ManagePeople, Handle: addPerson},
	{Method: "POST", Path: "/account/care", Needs: shell.ManagePeople, Handle: care},
	{Method: "POST", Path: "/account/deciding", Needs: shell.ManagePeople, Handle: twoSign},
	{Method: "POST", Path: "/account/people/:id/end", Needs: shell.ManagePeople, Handle: endAccess},
	{Method: "POST", Path: "/sign-out", Needs: shell.OwnAccount, Handle: signOut},
	{Method: "POST", Path: "/sign-out-everywhere", Needs: shell.OwnAccount, Handle: signOutEverywhere},
	{Method: "POST", Path: "/undo/:change", Needs: shell.UndoOwn, Handle: undo},
}

type view struct {
	Form     *shell.Form
	To       string
	People   []store.Member // of the club, for who may bring them in
	PerAdult int            // the club's own limit
	TwoSign  bool           // a step up waits for a second signature
	Fresh    *store.Member  // just brought in
	First    string         // their first password, shown once
}

func signInPage(c *shell.Ctx) error {
	if c.Member.ID != "" {
		return c.To("/")
	}
	return c.Bare(pages, http.StatusOK, "sign-in.html", "Sign in", view{Form: shell.NewForm(c), To: c.Query("to")})
}

// unknown is the hash that a password is checked against when the address has no account, so that both take as long.
var unknown = shell.HashPassword(shell.RandomKey(8))

func signIn(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := view{Form: f, To: f.Get("to")}
	email, password := strings.ToLower(f.Get("email")), f.Values.Get("password")
	if _, err := mail.ParseAddress(email); err != nil {
		f.Wrong("email", "Type the e-mail address of your account, like ines@example.org.")
		return c.Bare(pages, http.StatusUnprocessableEntity, "sign-in.html", "Sign in", v)
	}
	sum := sha256.Sum256([]byte(email))
	byAddress := "a:" + hex.EncodeToString(sum[:16])
	wait, err := c.S.Store.SignInWait(c.Ctx(), time.Now(), byAddress)
	if err != nil {
		return err
	}
	if wait > 0 {
		f.Wrong("password", "Too many wrong tries. Wait %d seconds, then try again.", int(wait.Seconds())+1)
		return c.Bare(pages, http.StatusTooManyRequests, "sign-in.html", "Sign in", v)
	}
	club, member, hash, err := c.S.Store.ForSignIn(c.Ctx(), email)
	if err != nil && !store.IsNone(err) {
		return err
	}
	if hash == "" {
		hash = unknown
	}
	if !shell.PasswordFits(password, hash) || member == "" {
		if err := c.S.Store.SignInFailed(c.Ctx(), time.Now(), byAddress); err != nil {
			return err
		}
		f.Wrong("password", "Address and password do not fit together.")
		return c.Bare(pages, http.StatusUnprocessableEntity, "sign-in.html", "Sign in", v)
	}
	if err := c.S.Store.SignInWorked(c.Ctx(), byAddress); err != nil {
		return err
	}
	_, m, err := c.S.Store.Signed(c.Ctx(), club, member)
	if err != nil {
		return err
	}
	if err := c.S.SignIn(c, club, member, m.SignIns); err != nil {
		return err
	}
	return c.To(here(v.To, "/"))
}

// here is a path of this site, or the other where it could lead elsewhere.
func here(path, other string) string {
	if !strings.HasPrefix(path, "/") || strings.HasPrefix(path, "//") || strings.Contains(path, "\\") {
		return other
	}
	return path
}

func startPage(c *shell.Ctx) error {
	return c.Bare(pages, http.StatusOK, "start.html", "Start a club", view{Form: shell.NewForm(c)})
}

func start(c *shell.Ctx) error {
	f := shell.NewForm(c)
	club := store.Club{ID: store.NewID(), Name: f.Text("club", 80, "What is your club or school called?"), TimeZone: f.Get("zone")}
	m := store.Member{ID: store.NewID(), Name: f.Text("name", 80, "What do people call you?"), Email: strings.ToLower(f.Text("email", 200, "You sign in with this address.")), Role: "lead"}
	program := f.Text("program", 60, "Which sport or activity? You can change it later.")
	if _, err := mail.ParseAddress(m.Email); err != nil {
		f.Wrong("email", "That does not look like an e-mail address: it needs a name, an @ and a place.")
	}
	if club.TimeZone == "" {
		club.TimeZone = "UTC"
	}
	if _, err := time.LoadLocation(club.TimeZone); err != nil || club.TimeZone == "Local" {
		f.Wrong("zone", "That time zone is not known. Write it like Europe/Lisbon.")
	}
	checkPassword(f, "password", m.Email)
	if !f.OK() {
		return c.Bare(pages, http.StatusUnprocessableEntity, "start.html", "Start a club", view{Form: f})
	}
	m.PasswordHash = shell.HashPassword(f.Values.Get("password"))
	err := c.S.Store.In(c.Ctx(), club.ID, func(tx *store.Tx) error {
		if err := tx.AddClub(c.Ctx(), club); err != nil {
			return err
		}
		if err := tx.AddMember(c.Ctx(), m); err != nil {
			return err
		}
		_, err := tx.AddLadder(c.Ctx(), program, coach.StarterLadder(), c.S.Now())
		return err
	})
	if errors.Is(err, store.ErrTaken) {
		f.Wrong("email", "There is an account with this address already. Sign in with it instead.")
		return c.Bare(pages, http.StatusUnprocessableEntity, "start.html", "Start a club", view{Form: f})
	}
	if err != nil {
		return err
	}
	if err := c.S.SignIn(c, club.ID, m.ID, 1); err != nil {
		return err
	}
	return c.To("/")
}

// checkPassword follows NIST SP 800-63B: length is what counts, and not what others know.
func checkPassword(f *shell.Form, field, email string) {
	p := f.Values.Get(field)
	switch {
	case len([]rune(p)) < 10:
		f.Wrong(field, "At least 10 characters; a short sentence is good.")
	case len(p) > 200:
		f.Wrong(field, "At most 200 characters.")
	case strings.EqualFold(p, email), strings.Trim(p, p[:1]) == "":
		f.Wrong(field, "That is easy to guess. Take a short sentence instead.")
	}
}

func accountPage(c *shell.Ctx) error {
	return answer(c, http.StatusOK, view{Form: shell.NewForm(c)})
}

func answer(c *shell.Ctx, status int, v view) error {
	if c.May(shell.ManagePeople) {
		err := c.In(func(tx *store.Tx) (err error) {
			if v.PerAdult, err = tx.PerAdult(c.Ctx()); err != nil {
				return err
			}
			if v.TwoSign, err = tx.TwoSign(c.Ctx()); err != nil {
				return err
			}
			v.People, err = tx.Members(c.Ctx())
			return err
		})
		if err != nil {
			return err
		}
	}
	return c.Page(pages, status, "account.html", "Your account", v)
}

// care keeps the club's own limit of players for each adult; plans are checked against it.
func care(c *shell.Ctx) error {
	f := shell.NewForm(c)
	n := 0
	if f.Get("adult") != "" {
		n = f.Int("adult", 1, 100, "Players for each adult")
	}
	if !f.OK() {
		return answer(c, http.StatusUnprocessableEntity, view{Form: f})
	}
	if err := c.In(func(tx *store.Tx) error { return tx.SetPerAdult(c.Ctx(), n) }); err != nil {
		return err
	}
	c.Say("Kept. Plans are checked against it from now on.")
	return c.To("/account")
}

// twoSign keeps whether a step up waits for a second signature.
func twoSign(c *shell.Ctx) error {
	on := shell.NewForm(c).Get("two") != ""
	if err := c.In(func(tx *store.Tx) error { return tx.SetTwoSign(c.Ctx(), on) }); err != nil {
		return err
	}
	c.Say(map[bool]string{true: "Kept: a step up now waits for a second signature.", false: "Kept: a step up needs one signature."}[on])
	return c.To("/account")
}

// addPerson brings a coach or helper in, with a first password that is shown once to hand on.
func addPerson(c *shell.Ctx) error {
	f := shell.NewForm(c)
	m := store.Member{ID: store.NewID(), Name: f.Text("name", 80, "What do people call them?"), Email: strings.ToLower(f.Text("email", 200, "They sign in with this address.")), Role: f.Get("role")}
	if _, err := mail.ParseAddress(m.Email); err != nil {
		f.Wrong("email", "That does not look like an e-mail address.")
	}
	if m.Role != "lead" && m.Role != "coach" && m.Role != "helper" {
		f.Wrong("role", "Lead, coach or helper?")
	}
	if !f.OK() {
		return answer(c, http.StatusUnprocessableEntity, view{Form: f})
	}
	first := shell.RandomKey(6)
	m.PasswordHash = shell.HashPassword(first)
	err := c.In(func(tx *store.Tx) error { return tx.AddMember(c.Ctx(), m) })
	if errors.Is(err, store.ErrTaken) {
		f.Wrong("email", "There is an account with this address already, here or in another club.")
		return answer(c, http.StatusUnprocessableEntity, view{Form: f})
	}
	if err != nil {
		return err
	}
	f.Values = nil
	return answer(c, http.StatusOK, view{Form: f, Fresh: &m, First: first})
}

func endAccess(c *shell.Ctx) error {
	if c.Param("id") == c.Member.ID {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "You cannot shut yourself out. Ask another lead."}
	}
	if !store.IsID(c.Param("id")) {
		return store.ErrNone
	}
	if err := c.Change("", "Ended somebody’s access", func(tx *store.Tx) error { return tx.EndAccess(c.Ctx(), c.Param("id")) }); err != nil {
		return err
	}
	return c.To("/account")
}

func changePassword(c *shell.Ctx) error {
	f := shell.NewForm(c)
	if !shell.PasswordFits(f.Values.Get("old"), c.Member.PasswordHash) {
		f.Wrong("old", "That is not your password now.")
	}
	checkPassword(f, "new", c.Member.Email)
	if !f.OK() {
		return answer(c, http.StatusUnprocessableEntity, view{Form: f})
	}
	var signIns int
	err := c.In(func(tx *store.Tx) (err error) {
		signIns, err = tx.SetPassword(c.Ctx(), c.Member.ID, shell.HashPassword(f.Values.Get("new")))
		return err
	})
	if err != nil {
		return err
	}
	if err := c.S.SignIn(c, c.Club.ID, c.Member.ID, signIns); err != nil {
		return err
	}
	c.Say("Your password is changed. Every other device is signed out.")
	return c.To("/account")
}

func signOut(c *shell.Ctx) error {
	if err := c.S.Sessions.Destroy(c.Ctx()); err != nil {
		return fmt.Errorf("sign out: %w", err)
	}
	return c.To("/sign-in")
}

func signOutEverywhere(c *shell.Ctx) error {
	if err := c.In(func(tx *store.Tx) error { return tx.SignOutEverywhere(c.Ctx(), c.Member.ID) }); err != nil {
		return err
	}
	return signOut(c)
}

// undo takes a change back and returns to the page it was offered on.
func undo(c *shell.Ctx) error {
	if !store.IsID(c.Param("change")) {
		return store.ErrNone
	}
	u, err := c.S.Store.Undo(c.Ctx(), c.Club.ID, c.Member.ID, c.Param("change"))
	switch {
	case errors.Is(err, store.ErrChangedSince):
		c.Say("This was changed again since, so it cannot be undone by itself.")
	case store.IsNone(err):
		c.Say("That is undone already, or somebody else’s change.")
	case err != nil:
		return err
	default:
		c.Say("Undone: " + u.Says)
		if u.Subject != "" {
			if err := c.In(func(tx *store.Tx) error { return tx.Tell(c.Ctx(), u.Subject, "plan") }); err != nil {
				return err
			}
		}
	}
	back := "/"
	if u, err := url.Parse(c.GetHeader("Referer")); err == nil && u.Host == c.Request.Host {
		back = here(u.RequestURI(), "/")
	}
	return c.To(here(shell.NewForm(c).Get("to"), back))
}
