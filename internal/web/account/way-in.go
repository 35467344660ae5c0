package account

import (
	"errors"
	"net/http"
	"time"

	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// WayInTime is how long a link to choose a password works.
const WayInTime = 24 * time.Hour

// NewWayIn is a secret for a link, and the hash of it that is kept.
func NewWayIn() (secret, hash string) {
	secret = shell.RandomKey(24)
	return secret, hashOf("way in", secret)
}

// WayInPath is the address of a link.
func WayInPath(secret string) string { return "/in/" + secret }

type wayInView struct {
	Form *shell.Form
	Who  store.WayIn
}

// renew makes a link by which somebody of the club chooses a new password.
func renew(c *shell.Ctx) error {
	var m store.Member
	secret, hash := NewWayIn()
	err := c.In(func(tx *store.Tx) (err error) {
		if m, err = tx.MemberOf(c.Ctx(), c.Param("id")); err != nil {
			return err
		}
		return tx.AddWayIn(c.Ctx(), m.ID, hash, c.Now.Add(WayInTime))
	})
	if err != nil {
		return err
	}
	return answer(c, http.StatusOK, view{Form: &shell.Form{}, Fresh: &m, Link: c.Whole(WayInPath(secret))})
}

// wayIn finds whose link it is; one that was used or is over says what to do.
func wayIn(c *shell.Ctx) (store.WayIn, error) {
	who, err := c.S.Store.WayInOf(c.Ctx(), hashOf("way in", c.Param("secret")), c.Now)
	if store.IsNone(err) {
		return who, &shell.Problem{
			Status: http.StatusNotFound,
			Says:   "This link was used, or its day is over. Ask your lead for another; a lead alone makes one on the server with “gruppo reset” and their name.",
		}
	}
	return who, err
}

func wayInPage(c *shell.Ctx) error {
	who, err := wayIn(c)
	if err != nil {
		return err
	}
	c.Header("Referrer-Policy", "no-referrer") // the address is the key
	return c.Bare(pages, http.StatusOK, "way-in.html", "Choose a password", wayInView{shell.NewForm(c), who})
}

func useWayIn(c *shell.Ctx) error {
	who, err := wayIn(c)
	if err != nil {
		return err
	}
	f := shell.NewForm(c)
	checkPassword(f, "password", who.Email)
	if !f.OK() {
		return c.Bare(pages, http.StatusUnprocessableEntity, "way-in.html", "Choose a password", wayInView{f, who})
	}
	password, err := shell.HashPassword(c.Ctx(), f.Values.Get("password"))
	if err != nil {
		return err
	}
	err = c.S.Store.In(c.Ctx(), who.ClubID, func(tx *store.Tx) error {
		_, err := tx.UseWayIn(c.Ctx(), hashOf("way in", c.Param("secret")), password, c.Now)
		return err
	})
	if errors.Is(err, store.ErrNone) {
		_, err = wayIn(c) // somebody was quicker
	}
	if err != nil {
		return err
	}
	if err := letIn(c, who.Email, store.Account{ClubID: who.ClubID, Member: who.ID}); err != nil {
		return err
	}
	return c.To("/")
}
