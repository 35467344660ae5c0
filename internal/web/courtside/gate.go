package courtside

import (
	"encoding/json"
	"net/http"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// mostCrossings are sent at once.
const mostCrossings = 200

// outside is one thing a device outside the program saw: a beam that was crossed, or so many more of what a station
// counts.
type outside struct {
	ID      string    `json:"id"`
	What    string    `json:"what"` // start, finish or count
	Lane    int       `json:"lane"` // from 1; without it the first
	Station int       `json:"station"`
	N       int       `json:"n"`
	At      time.Time `json:"at"`
}

// gate takes what devices outside saw, into the session whose door code they know: each thing once however often it is
// sent, and each for itself. What it takes is described in docs/gate.md.
func gate(c *shell.Ctx) error {
	var in struct{ Items []outside }
	if err := json.NewDecoder(c.Request.Body).Decode(&in); err != nil || len(in.Items) > mostCrossings {
		return refuse("What this device sent could not be read.")
	}
	d, says, err := opens(c, c.Param("code"))
	if err != nil {
		return err
	}
	if says != "" {
		return &shell.Problem{Status: http.StatusForbidden, Says: says}
	}
	answers := make([]answer, 0, len(in.Items))
	err = c.S.Store.In(c.Ctx(), d.ClubID, func(tx *store.Tx) error {
		var news delta
		for _, it := range in.Items {
			a := answer{ID: it.ID, Kept: true}
			if err := it.keep(c, tx, d.SessionID, &news); err != nil {
				p, final := shell.Refusal(err)
				if !final {
					return err
				}
				a.Kept, a.Status, a.Why = false, p.Status, p.Says
			}
			answers = append(answers, a)
		}
		return news.tell(c, tx, d.SessionID)
	})
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, map[string]any{"answers": answers})
	return nil
}

func (it outside) keep(c *shell.Ctx, tx *store.Tx, session string, news *delta) error {
	now := c.Now
	switch {
	case !store.IsID(it.ID):
		return doc.Input("id", "Each thing has an id of its own, a UUID.")
	case it.At.IsZero() || it.At.After(now.Add(time.Minute)) || it.At.Before(now.Add(-app.Late)):
		return doc.Input("at", "Its time is too far away; is the device's clock right?")
	}
	if it.What == "count" {
		return it.count(c, tx, session, news)
	}
	k := store.Crossing{ID: it.ID, What: it.What, Lane: max(1, it.Lane), At: it.At}
	if k.Lane > 20 || k.What != "start" && k.What != "finish" {
		return doc.Input("what", "A start, a finish or a count, on a lane from 1 to 20.")
	}
	news.Crossings = append(news.Crossings, k)
	return tx.AddCrossing(c.Ctx(), session, k)
}

// count adds to what all count together at a station.
func (it outside) count(c *shell.Ctx, tx *store.Tx, session string, news *delta) error {
	s, err := tx.Session(c.Ctx(), session)
	if err != nil {
		return err
	}
	by, err := tx.CodeBy(c.Ctx(), session)
	if err != nil {
		return err
	}
	b := app.OpenInbox(c.Ctx(), tx, s, by, c.Now)
	item := app.Item{Kind: "count", Block: it.Station - 1, Step: it.N}
	item.ID, item.At = it.ID, it.At
	if err := b.Take(item); err != nil {
		return err
	}
	news.Climbs = append(news.Climbs, b.Changed.Climbs...)
	return nil
}
