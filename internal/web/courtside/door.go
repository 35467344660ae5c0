package courtside

import (
	"fmt"
	"image/color"
	"net/http"
	"strings"
	"time"

	"github.com/boombuler/barcode/qr"

	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

type doorView struct {
	Session store.Session
	When    string
	Code    string
	Link    string
	Size    int
	Squares string // the QR picture as a path of squares of one unit
	Here    []store.Contact
}

// door shows the code that lets helpers in for this session, to be read out or pointed a phone at.
func door(c *shell.Ctx) error {
	var v doorView
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Session, err = tx.Session(c.Ctx(), c.Param("id")); err != nil {
			return err
		}
		if v.Code, err = tx.SessionCode(c.Ctx(), v.Session.ID, c.Member.ID, false, c.Now); err != nil {
			return err
		}
		v.Here, err = tx.HeardFrom(c.Ctx(), v.Session.ID)
		return err
	})
	if err != nil {
		return err
	}
	v.When = v.Session.StartsAt.In(c.Loc).Format("Mon 2 Jan, 15:04")
	v.Link = c.Whole("/join?code=" + v.Code)
	if v.Size, v.Squares, err = squares(v.Link); err != nil {
		return err
	}
	return c.Bare(pages, http.StatusOK, "door.html", "Let helpers in", v)
}

// newCode makes another code; the old one opens nothing any more. The door is a page of its own, so that loading it
// again makes no third one.
func newCode(c *shell.Ctx) error {
	err := c.In(func(tx *store.Tx) error {
		s, err := tx.Session(c.Ctx(), c.Param("id"))
		if err != nil {
			return err
		}
		_, err = tx.SessionCode(c.Ctx(), s.ID, c.Member.ID, true, c.Now)
		return err
	})
	if err != nil {
		return err
	}
	return c.To("/courtside/" + c.Param("id") + "/door")
}

// squares draws words as a QR picture: how many units it is wide, and a path of squares of one unit. Round it are the
// four quiet units that ISO/IEC 18004 asks for.
func squares(words string) (size int, path string, err error) {
	const quiet = 4
	picture, err := qr.Encode(words, qr.M, qr.Auto)
	if err != nil {
		return 0, "", err
	}
	var b strings.Builder
	wide := picture.Bounds().Dx()
	for y := range wide {
		for x := range wide {
			if picture.At(x, y) == color.Black {
				fmt.Fprintf(&b, "M%d %dh1v1h-1z", x+quiet, y+quiet)
			}
		}
	}
	return wide + 2*quiet, b.String(), nil
}

type joinView struct {
	Form *shell.Form
	Door store.Door
	When string
	Own  bool // a member of the club is signed in
}

// freeCodes is how many wrong codes a network may try before the next one waits.
const freeCodes = 5

// opens finds the session of a code, if it lets people in now. Wrong codes slow the next try down, as wrong passwords
// do; a right one forgives only itself.
func opens(c *shell.Ctx, code string) (d store.Door, says string, err error) {
	code = strings.ToUpper(strings.Join(strings.Fields(code), ""))
	key, now := "c:"+c.Network(), c.Now
	wait, err := c.S.Store.Try(c.Ctx(), now, store.TryLimit{Key: key, Free: freeCodes})
	if err != nil {
		return d, "", err
	}
	if wait > 0 {
		return d, fmt.Sprintf("Too many wrong codes. Wait %d s, then try again.", int(wait.Seconds())+1), nil
	}
	d, err = c.S.Store.ByCode(c.Ctx(), code)
	if store.IsNone(err) {
		return d, "No session has this code. Look at it once more; the lead can also show it as a picture.", nil
	}
	if err == nil {
		err = c.S.Store.Worked(c.Ctx(), []string{key})
	}
	switch {
	case err != nil:
		return d, "", err
	case d.Started && !d.Ended: // however early it was begun, and however late it goes on
	case d.Ended || now.After(d.StartsAt.Add(time.Duration(d.Minutes)*time.Minute+after)):
		return d, "This session is over.", nil
	case now.Before(d.StartsAt.Add(-early)):
		return d, "This session opens an hour before it starts.", nil
	}
	return d, "", nil
}

func joinPage(c *shell.Ctx) error {
	v := joinView{Form: shell.NewForm(c)}
	v.Form.Values = map[string][]string{"code": {c.Query("code")}}
	if c.Query("code") == "" {
		return c.Bare(pages, http.StatusOK, "join.html", "Join", v)
	}
	return v.show(c, http.StatusOK)
}

// show looks the code up and asks for a name, unless a member of the club is signed in.
func (v joinView) show(c *shell.Ctx, status int) error {
	d, says, err := opens(c, v.Form.Get("code"))
	if err != nil {
		return err
	}
	if says != "" {
		v.Form.Wrong("code", "%s", says)
		status = http.StatusUnprocessableEntity
	} else {
		v.Door, v.Own = d, c.Club.ID == d.ClubID
	}
	return c.Bare(pages, status, "join.html", "Join", v)
}

// join lets somebody in: a member of the club as who they are, anybody else as a helper of this one session.
func join(c *shell.Ctx) error {
	v := joinView{Form: shell.NewForm(c)}
	d, says, err := opens(c, v.Form.Get("code"))
	if err != nil {
		return err
	}
	if says != "" {
		v.Form.Wrong("code", "%s", says)
		return c.Bare(pages, http.StatusUnprocessableEntity, "join.html", "Join", v)
	}
	to := "/courtside/" + d.SessionID
	if c.Club.ID == d.ClubID {
		err := c.In(func(tx *store.Tx) error { return tx.Join(c.Ctx(), d.SessionID, c.Member.ID, c.Now) })
		if err != nil {
			return err
		}
		return c.To(to)
	}
	name := v.Form.Text("name", 60, "Your first name, so that the lead knows who is there.")
	if !v.Form.OK() {
		v.Door = d
		return c.Bare(pages, http.StatusUnprocessableEntity, "join.html", "Join", v)
	}
	id, now := store.NewID(), c.Now
	err = c.S.Store.In(c.Ctx(), d.ClubID, func(tx *store.Tx) error {
		if err := tx.AddVisitor(c.Ctx(), id, name, d.SessionID); err != nil {
			return err
		}
		if err := tx.Join(c.Ctx(), d.SessionID, id, now); err != nil {
			return err
		}
		return tx.Tell(c.Ctx(), d.SessionID, "whole")
	})
	if err != nil {
		return err
	}
	if err := c.S.SignIn(c, d.ClubID, id, 1); err != nil {
		return err
	}
	over := d.StartsAt.Add(time.Duration(d.Minutes)*time.Minute + late)
	c.S.Sessions.SetDeadline(c.Ctx(), time.Now().Add(over.Sub(now))) // a sign-in lasts by the real clock, a session by the program's
	return c.To(to)
}
