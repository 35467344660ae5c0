// Package account is signing in and out, starting a club, and one's own account.
package account

import (
	"embed"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/exchange"
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
	{Method: "POST", Path: "/account/people/:id/link", Needs: shell.ManagePeople, Handle: renew},
	{Method: "GET", Path: "/in/:secret", Needs: shell.Anyone, Handle: wayInPage},
	{Method: "POST", Path: "/in/:secret", Needs: shell.Anyone, Handle: useWayIn},
	{Method: "POST", Path: "/account/club", Needs: shell.ManagePeople, Handle: saveClub},
	{Method: "POST", Path: "/account/people/:id/end", Needs: shell.ManagePeople, Handle: endAccess},
	{Method: "POST", Path: "/sign-out", Needs: shell.OwnAccount, Handle: signOut},
	{Method: "POST", Path: "/sign-out-everywhere", Needs: shell.OwnAccount, Handle: signOutEverywhere},
	{Method: "POST", Path: "/undo/:change", Needs: shell.UndoOwn, Handle: undo},
}

type view struct {
	Form    *shell.Form
	To      string
	People  []store.Member  // of the club, for who may bring them in
	TwoSign bool            // a step up waits for a second signature
	Fresh   *store.Member   // just brought in, or whose password is renewed
	Clubs   []store.Account // of one address and password, to choose from
	Link    string          // by which they choose a password, shown once
}

func startPage(c *shell.Ctx) error {
	return c.Bare(pages, http.StatusOK, "start.html", "Start a club", view{Form: shell.NewForm(c)})
}

func start(c *shell.Ctx) error {
	f := shell.NewForm(c)
	club := store.Club{
		ID:       store.NewID(),
		Name:     f.Text("club", 80, "What is your club or school called?"),
		TimeZone: "UTC",
		Units:    coach.Metric,
	}
	if f.Get("zone") != "" {
		club.TimeZone = zoneOf(f)
	}
	if f.Get("units") == string(coach.Imperial) {
		club.Units = coach.Imperial
	}
	family := coach.Family(f.Get("family"))
	m := store.Member{
		ID:    store.NewID(),
		Name:  f.Text("name", 80, "What do people call you?"),
		Email: address(f, "You sign in with this address."),
		Role:  "lead",
	}
	program := f.Text("program", 60, "Which sport or activity? You can change it later.")
	if !family.Known() {
		f.Wrong("family", "Which of these comes nearest? It chooses the first ladder; all of it can be changed.")
	}
	checkPassword(f, "password", m.Email)
	if !f.OK() {
		return c.Bare(pages, http.StatusUnprocessableEntity, "start.html", "Start a club", view{Form: f})
	}
	wait, err := c.S.Store.Try(c.Ctx(), time.Now(), store.TryLimit{Key: "s:" + c.Network(), Free: freeStarts})
	if err != nil {
		return err
	}
	if wait > 0 {
		f.Wrong(
			"club",
			"Many clubs were started from your network just now. Wait %d seconds, then try again.",
			int(wait.Seconds())+1,
		)
		return c.Bare(pages, http.StatusTooManyRequests, "start.html", "Start a club", view{Form: f})
	}
	if m.PasswordHash, err = shell.HashPassword(c.Ctx(), f.Values.Get("password")); err != nil {
		return err
	}
	ladder, err := exchange.Starter(family)
	if err != nil {
		return err
	}
	err = c.S.Store.In(c.Ctx(), club.ID, func(tx *store.Tx) error {
		if err := tx.AddClub(c.Ctx(), club); err != nil {
			return err
		}
		if err := tx.AddMember(c.Ctx(), m); err != nil {
			return err
		}
		_, err := tx.AddLadder(c.Ctx(), program, family, ladder, c.Now)
		return err
	})
	if err != nil {
		return err
	}
	if err := letIn(c, m.Email, store.Account{ClubID: club.ID, Member: m.ID}); err != nil {
		return err
	}
	return c.To("/")
}

//go:embed common.txt
var commonText string

// common are those of the 10,000 commonest passwords that are long enough to be chosen; docs/third-party.md says from
// where.
var common = strings.Fields(commonText)

// checkPassword follows NIST SP 800-63B: length is what counts, and not what others know.
func checkPassword(f *shell.Form, field, email string) {
	p := f.Values.Get(field)
	switch {
	case len([]rune(p)) < 10:
		f.Wrong(field, "At least 10 characters; a short sentence is good.")
	case len(p) > 200:
		f.Wrong(field, "At most 200 characters.")
	case strings.EqualFold(p, email), strings.Trim(p, p[:1]) == "", slices.Contains(common, strings.ToLower(p)):
		f.Wrong(field, "That is easy to guess. Take a short sentence instead.")
	}
}

func accountPage(c *shell.Ctx) error {
	return answer(c, http.StatusOK, view{Form: shell.NewForm(c)})
}

func answer(c *shell.Ctx, status int, v view) error {
	if c.May(shell.ManagePeople) {
		err := c.In(func(tx *store.Tx) (err error) {
			care, err := tx.Care(c.Ctx())
			if err != nil {
				return err
			}
			showSettings(v.Form, c.Club, care)
			if v.TwoSign, err = tx.TwoSign(c.Ctx()); err != nil {
				return err
			}
			v.People, err = tx.Members(c.Ctx(), c.Now)
			return err
		})
		if err != nil {
			return err
		}
	}
	return c.Page(pages, status, "account.html", "Your account", v)
}

// showSettings fills in the fields of the club and of care that were not typed just now.
func showSettings(f *shell.Form, club store.Club, care store.Care) {
	if f.Values == nil { // another form of the page was refused
		f.Values = url.Values{}
	}
	words := func(field, says string) {
		if !f.Values.Has(field) {
			f.Values.Set(field, says)
		}
	}
	words("club", club.Name)
	words("zone", club.TimeZone)
	words("units", string(club.Units))
	show := func(field string, n int, set bool) {
		if set {
			words(field, strconv.Itoa(n))
		}
	}
	show("adult", care.PerAdult, care.PerAdult > 0)
	if n := care.MostForfeits; n != nil {
		show("forfeits", *n, true)
	}
	show("home", care.HomeMinutes, care.HomeMinutes > 0)
	show("holds", care.KeyHolds, care.KeyHolds > 0)
	show("clips", care.ClipDays, care.ClipDays > 0)
}

// care keeps the club's own limit of players for each adult; plans are checked against it.
func care(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var care store.Care
	if f.Get("adult") != "" {
		care.PerAdult = f.Int("adult", 1, 100, "Players for each adult")
	}
	if f.Get("forfeits") != "" {
		n := f.Int("forfeits", 0, 500, "Repetitions after faults")
		care.MostForfeits = &n
	}
	if f.Get("home") != "" {
		care.HomeMinutes = f.Int("home", 1, 240, "Minutes at home")
	}
	if f.Get("holds") != "" {
		care.KeyHolds = f.Int("holds", 50, 100, "Of a hundred")
	}
	if f.Get("clips") != "" {
		care.ClipDays = f.Int("clips", 1, 60, "Days")
	}
	if !f.OK() {
		return answer(c, http.StatusUnprocessableEntity, view{Form: f})
	}
	if err := c.In(func(tx *store.Tx) error { return tx.SetCare(c.Ctx(), care) }); err != nil {
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
	if on {
		c.Say("Kept: a step up now waits for a second signature.")
	} else {
		c.Say("Kept: a step up needs one signature.")
	}
	return c.To("/account")
}

// saveClub keeps what the club is called, where it is and what it measures in.
func saveClub(c *shell.Ctx) error {
	f := shell.NewForm(c)
	club := c.Club
	club.Name = f.Text("club", 80, "What is your club or school called?")
	club.TimeZone, club.Units = zoneOf(f), coach.Units(f.Get("units"))
	if club.Units != coach.Metric && club.Units != coach.Imperial {
		f.Wrong("units", "Metres, or feet and yards?")
	}
	if !f.OK() {
		return answer(c, http.StatusUnprocessableEntity, view{Form: f})
	}
	if err := c.In(func(tx *store.Tx) error { return tx.SetClub(c.Ctx(), club) }); err != nil {
		return err
	}
	c.Say("Kept.")
	return c.To("/account")
}

// zoneOf reads a time zone by its name.
func zoneOf(f *shell.Form) string {
	zone := f.Get("zone")
	if _, err := time.LoadLocation(zone); err != nil || zone == "Local" || zone == "" {
		f.Wrong("zone", "That time zone is not known. Write it like Europe/Lisbon.")
	}
	return zone
}

// addPerson brings a coach or helper in, with a link to hand on by which they choose a password.
func addPerson(c *shell.Ctx) error {
	f := shell.NewForm(c)
	m := store.Member{
		ID:    store.NewID(),
		Name:  f.Text("name", 80, "What do people call them?"),
		Email: address(f, "They sign in with this address."),
		Role:  f.Get("role"),
	}
	if m.Role != "lead" && m.Role != "coach" && m.Role != "helper" {
		f.Wrong("role", "Lead, coach or helper?")
	}
	if !f.OK() {
		return answer(c, http.StatusUnprocessableEntity, view{Form: f})
	}
	secret, hash := NewWayIn()
	err := c.In(func(tx *store.Tx) error {
		if err := tx.AddMember(c.Ctx(), m); err != nil {
			return err
		}
		return tx.AddWayIn(c.Ctx(), m.ID, hash, c.Now.Add(WayInTime))
	})
	if errors.Is(err, store.ErrTaken) {
		f.Wrong("email", "Somebody of your club has this address already.")
		return answer(c, http.StatusUnprocessableEntity, view{Form: f})
	}
	if err != nil {
		return err
	}
	f.Values = nil
	return answer(c, http.StatusOK, view{Form: f, Fresh: &m, Link: c.Whole(WayInPath(secret))})
}

func endAccess(c *shell.Ctx) error {
	if c.Param("id") == c.Member.ID {
		return &shell.Problem{
			Status: http.StatusUnprocessableEntity,
			Says:   "You cannot shut yourself out. Ask another lead.",
		}
	}
	if err := c.Change("", "Ended somebody’s access", func(tx *store.Tx) error { return tx.EndAccess(c.Ctx(), c.Param("id")) }); err != nil {
		return err
	}
	return c.To("/account")
}

func changePassword(c *shell.Ctx) error {
	f := shell.NewForm(c)
	wait, err := c.S.Store.Try(c.Ctx(), time.Now(), store.TryLimit{Key: "p:" + c.Member.ID, Free: freeTries})
	if err != nil {
		return err
	}
	if wait > 0 {
		f.Wrong("old", "Too many wrong tries. Wait %d seconds, then try again.", int(wait.Seconds())+1)
		return answer(c, http.StatusTooManyRequests, view{Form: f})
	}
	fits, err := shell.PasswordFits(c.Ctx(), f.Values.Get("old"), c.Member.PasswordHash)
	if err != nil {
		return err
	}
	if !fits {
		f.Wrong("old", "That is not your password now.")
	} else if err := c.S.Store.Worked(c.Ctx(), nil, "p:"+c.Member.ID); err != nil {
		return err
	}
	checkPassword(f, "new", c.Member.Email)
	if !f.OK() {
		return answer(c, http.StatusUnprocessableEntity, view{Form: f})
	}
	hash, err := shell.HashPassword(c.Ctx(), f.Values.Get("new"))
	if err != nil {
		return err
	}
	var signIns int
	err = c.In(func(tx *store.Tx) (err error) {
		signIns, err = tx.SetPassword(c.Ctx(), c.Member.ID, hash)
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
	if err := c.In(func(tx *store.Tx) error { return tx.TellEnded(c.Ctx(), c.Member.ID) }); err != nil {
		return err
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
	u, err := c.S.Store.Undo(c.Ctx(), c.Club.ID, c.Member.ID, c.Param("change"))
	var loop *store.LoopError
	switch {
	case errors.As(err, &loop):
		c.Say("With what was linked since, that would go round in a loop, so it was not undone.")
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
		back = u.RequestURI()
	}
	return c.To(shell.Own(shell.NewForm(c).Get("to"), back))
}
