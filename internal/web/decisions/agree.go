package decisions

import (
	"cmp"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// agreeView is how far markers agree, by criterion.
type agreeView struct {
	Programs []store.Program
	Program  store.Program
	Rows     []agreeRow
	Alone    []agreeRow // which two people have not marked near in time
	Talk     int
}

type agreeRow struct {
	Stage     string
	Criterion coach.Criterion
	Markers   []evidence.Markers
	Talk      bool
	Side      string // whom to mark side by side, and when
}

// Enough are the pairs of markers of whom something can be said.
func (r agreeRow) Enough() []evidence.Markers {
	return slices.DeleteFunc(slices.Clone(r.Markers), evidence.Markers.Few)
}

// Few names the pairs with too few players in common.
func (r agreeRow) Few() string {
	var out []string
	for _, m := range r.Markers {
		if m.Few() {
			a, _, _ := strings.Cut(m.A, " ")
			b, _, _ := strings.Cut(m.B, " ")
			out = append(out, fmt.Sprintf("%s and %s %d", a, b, m.Agree.N))
		}
	}
	return strings.Join(out, ", ")
}

// Kappa writes κ with its words.
func (r agreeRow) Kappa(m evidence.Markers) string {
	return fmt.Sprintf("%s (κ %.2f)", evidence.KappaWords(m.Kappa), m.Kappa)
}

func agree(c *shell.Ctx) error {
	var v agreeView
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Programs, err = tx.Ladders(c.Ctx()); err != nil || len(v.Programs) == 0 {
			return err
		}
		v.Program = app.Chosen(v.Programs, c.Query("program"))
		marks, err := tx.Marks(c.Ctx(), store.MarkFilter{Ladder: v.Program.ID})
		if err != nil {
			return err
		}
		players, err := tx.Players(c.Ctx(), store.PlayerFilter{})
		if err != nil {
			return err
		}
		enrolled, err := tx.Enrolments(c.Ctx())
		if err != nil {
			return err
		}
		ahead, err := tx.Sessions(c.Ctx(), store.SessionFilter{From: c.Now, To: c.Now.AddDate(0, 0, 14)})
		if err != nil {
			return err
		}
		all, err := app.StandingFrom(c.Ctx(), tx, v.Program, players, marks, c.Now)
		if err != nil {
			return err
		}
		for _, s := range v.Program.Stages {
			for _, k := range s.Criteria {
				r := agreeRow{Stage: s.Name, Criterion: k, Markers: evidence.Compare(k, marks)}
				r.Talk = slices.ContainsFunc(r.Markers, func(m evidence.Markers) bool { return m.Talk })
				if r.Talk {
					v.Talk++
				}
				for _, m := range r.Markers {
					if (m.Talk || m.Few()) && r.Side == "" {
						r.Side = sideBySide(k, s, m, all, enrolled, ahead, c.Loc)
					}
				}
				if len(r.Markers) == 0 {
					v.Alone = append(v.Alone, r)
					continue
				}
				v.Rows = append(v.Rows, r)
			}
		}
		slices.SortStableFunc(v.Rows, func(a, b agreeRow) int { return cmp.Compare(rankOf(a), rankOf(b)) })
		return nil
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "agree.html", "Agreement", v)
}

// rankOf puts those to talk about first, then those that something is known of.
func rankOf(r agreeRow) int {
	switch {
	case r.Talk:
		return 0
	case slices.ContainsFunc(r.Markers, func(m evidence.Markers) bool { return !m.Few() }):
		return 1
	}
	return 2
}

// sideBySide names three players on the edge whom both could mark in the first session that both are at.
func sideBySide(
	k coach.Criterion,
	s coach.Stage,
	m evidence.Markers,
	all []app.Standing,
	enrolled map[string][]string,
	ahead []store.Session,
	loc *time.Location,
) string {
	for _, a := range ahead {
		there := func(id string) bool {
			return slices.ContainsFunc(a.Leaders, func(l store.SessionLeader) bool { return l.Member == id })
		}
		if a.Ended || !there(m.IDs[0]) || !there(m.IDs[1]) {
			continue
		}
		var open []app.Standing
		for _, p := range all {
			if p.Stage.ID == s.ID && slices.Contains(enrolled[p.Player.ID], a.ClassID) {
				open = append(open, p)
			}
		}
		far := func(p app.Standing) float64 { // nearest to the edge first: there markers differ
			for _, it := range p.Readiness.Items {
				if it.Criterion.ID == k.ID {
					return math.Abs(it.Status.Share - 0.5)
				}
			}
			return 1
		}
		slices.SortStableFunc(open, func(a, b app.Standing) int { return cmp.Compare(far(a), far(b)) })
		if len(open) >= 3 {
			return fmt.Sprintf(
				"Mark %s, %s and %s side by side on %s.",
				open[0].Player.Name,
				open[1].Player.Name,
				open[2].Player.Name,
				a.StartsAt.In(loc).Format("Mon 2 Jan"),
			)
		}
	}
	return ""
}
