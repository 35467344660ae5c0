package courtside

import (
	"bytes"
	"encoding/json"
	"net/http"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"gruppo/internal/app"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

type answer struct {
	ID     string `json:"id"`
	Kept   bool   `json:"kept"`             // it is there, or a newer state of it
	Status int    `json:"status,omitempty"` // 422: it cannot be taken, and need not be sent again
	Why    string `json:"why,omitempty"`
}

// delta is what an inbox changed: every open device takes it over as it comes, without asking for the whole state.
type delta struct {
	By        string           `json:"by"`
	Marks     []mark           `json:"marks,omitempty"`
	Tallies   []store.Tally    `json:"tallies,omitempty"`
	Said      []app.SaidWord   `json:"said,omitempty"`
	Events    []event          `json:"events,omitempty"`
	Keys      []store.KeyMark  `json:"keys,omitempty"`
	Notes     []store.Note     `json:"notes,omitempty"`
	Climbs    []store.Climb    `json:"climbs,omitempty"`
	Looked    []store.Looking  `json:"looked,omitempty"`
	Crossings []store.Crossing `json:"crossings,omitempty"`
	Feedback  []store.Feedback `json:"feedback,omitempty"`
	Points    []store.Point    `json:"points,omitempty"`
	Whole     bool             `json:"-"` // more changed than is said here
}

// mostNotice is how much PostgreSQL lets a notice carry, with room to spare.
const mostNotice = 7000

// tell wakes the devices: with what changed, or, where that is too much, to read the whole.
func (d delta) tell(c *shell.Ctx, tx *store.Tx, session string) error {
	b, err := json.Marshal(d)
	if err != nil {
		return err
	}
	if d.Whole || len(b) > mostNotice {
		b = []byte("whole")
	}
	return tx.Tell(c.Ctx(), session, string(b))
}

// forHelper leaves of a notice what a helper may see: the register with the limits of today, the clock and the ladders,
// and of the rest what they did themselves.
func forHelper(what, me string) string {
	var d delta
	if !strings.HasPrefix(what, "{") || json.Unmarshal([]byte(what), &d) != nil {
		return what
	}
	if d.By != me {
		d.Marks, d.Tallies, d.Keys, d.Notes, d.Looked, d.Feedback = nil, nil, nil, nil, nil, nil
	}
	b, err := json.Marshal(d)
	if err != nil {
		return "whole"
	}
	return string(b)
}

// changed is what an inbox changed, as devices take it over.
func changed(b *app.Inbox) (d delta, err error) {
	ch := b.Changed
	d = delta{
		By:      b.By.ID,
		Tallies: ch.Tallies,
		Said:    ch.Said,
		Keys:    ch.Keys,
		Notes:   ch.Notes,
		Climbs:  ch.Climbs,
		Looked:  ch.Looked,
		Whole:   ch.Whole,

		Feedback: ch.Feedback,
		Points:   ch.Points,
	}
	for _, v := range ch.Clock {
		d.Events = append(d.Events, event{v.ID, v.Do, ms(v.At)})
	}
	if len(ch.Marks) == 0 {
		return d, nil
	}
	program, err := b.Program()
	for _, m := range ch.Marks {
		d.Marks = append(d.Marks, markOf(program, m))
	}
	return d, err
}

// enter opens the inbox to the member if they may be courtside there: a helper only where they are on it, while it is
// on.
func enter(c *shell.Ctx, tx *store.Tx) (*app.Inbox, error) {
	s, err := tx.Session(c.Ctx(), c.Param("id"))
	if err != nil {
		return nil, err
	}
	b := app.OpenInbox(c.Ctx(), tx, s, c.Member, c.Now)
	b.MayStrike = c.May(shell.StrikeMarks)
	return b, admitted(c, s, late)
}

// inbox takes what a device kept: each item once, however often it is sent, in the order it was done, and each for
// itself. One that cannot be taken is answered with the reason, stands in a list that the coach sees, and holds up no
// other.
func inbox(c *shell.Ctx) error {
	var in struct{ Items []json.RawMessage }
	if err := json.NewDecoder(c.Request.Body).Decode(&in); err != nil || len(in.Items) > mostItems {
		return refuse("What this device sent could not be read.")
	}
	answers := make([]answer, 0, len(in.Items))
	ended := false
	err := c.In(func(tx *store.Tx) error {
		b, err := enter(c, tx)
		if err != nil {
			return err
		}
		for _, raw := range in.Items {
			a, err := take(c, tx, b, raw)
			if err != nil {
				return err
			}
			answers = append(answers, a)
		}
		ended = slices.ContainsFunc(b.Changed.Clock, func(v app.Done) bool { return v.Do == "end" })
		if err := tx.Heard(c.Ctx(), b.Session.ID, c.Member.ID, c.Now); err != nil {
			return err
		}
		d, err := changed(b)
		if err != nil {
			return err
		}
		return d.tell(c, tx, b.Session.ID)
	})
	if err == nil && ended {
		err = app.KeepRounds(c.Ctx(), c.S.Store, c.Club.ID, c.Param("id"), c.Now, c.Loc)
	}
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, gin.H{"answers": answers})
	return nil
}

// take keeps one item, or says why it cannot be. What it had written by then is taken back.
func take(c *shell.Ctx, tx *store.Tx, b *app.Inbox, raw json.RawMessage) (answer, error) {
	var it app.Item
	bad := json.Unmarshal(raw, &it)
	a := answer{ID: it.ID}
	before := b.Changed
	err := tx.Apart(c.Ctx(), func() error {
		if bad != nil {
			return refuse("It could not be read.")
		}
		return b.Take(it)
	})
	if err == nil {
		a.Kept = true
		return a, nil
	}
	p, final := shell.Refusal(err)
	if !final {
		return a, err
	}
	b.Changed = before
	a.Status, a.Why = http.StatusUnprocessableEntity, p.Says
	id := it.ID
	if !store.IsID(id) {
		id = store.NewID()
	}
	if slices.Contains([]string{"clock", "strike", "climb"}, it.Kind) { // nothing was written down that could be lost
		return a, nil
	}
	if bytes.IndexByte(raw, '{') != 0 || !utf8.Valid(raw) || len(raw) > mostKept || !json.Valid(raw) ||
		bytes.Contains(raw, []byte(`\u0000`)) {
		raw = []byte("{}")
	}
	return a, tx.AddRefused(c.Ctx(), id, b.Session.ID, c.Member.ID, p.Says, raw, c.Now)
}

// mostInbox is how many bytes a device sends at once, mostItems how many things, mostKept how many bytes are kept of
// one that was refused.
const mostInbox, mostItems, mostKept = 4 << 20, 2000, 4 << 10
