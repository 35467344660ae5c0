package season

import (
	"bytes"
	"fmt"
	"net/http"
	"slices"
	"strconv"

	"gruppo/internal/app"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// clubView is a term as the lead looks at it: each class through its weeks, and what is to be talked about.
type clubView struct {
	Term    season.Term
	Terms   []season.Term
	Weeks   []week
	Rows    []clubRow
	Met     bool // some date was run, and somebody could have come
	Falling []falling
	Steps   []stepUp
}

// clubRow is a class through the weeks.
type clubRow struct {
	store.Class
	Cells    []clubCell // by week
	Came, Of int
	Marks    int
	Ready    int
	Steps    int
	Outgrown string
}

// clubCell is a week of a class; Held says that there was something.
type clubCell struct {
	Held            bool
	Came, Of, Marks int
	Steps           int
}

// Share is how many in a hundred came.
func (c clubCell) Share() int { return share(c.Came, c.Of) }

// Share is how many in a hundred came over the term.
func (r clubRow) Share() int { return share(r.Came, r.Of) }

// High is the height of a week's bar of attendance in units of 24.
func (c clubCell) High() float64 { return 0.24 * float64(c.Share()) }

func share(a, of int) int {
	if of == 0 {
		return 0
	}
	return (100*a + of/2) / of
}

// falling is somebody who has not come for a while.
type falling struct {
	store.Comings
	Class string
	Row   int // missed in a row
}

// stepUp is somebody who stepped up in the term.
type stepUp struct{ Player, Name, Stage, On string }

func club(c *shell.Ctx) error {
	v, err := readClub(c)
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "club.html", "The club", v)
}

func readClub(c *shell.Ctx) (v clubView, err error) {
	var classes []store.Class
	var programs []store.Program
	var meetings []store.Meeting
	var comings []store.Comings
	var enrolled map[string][]string
	venues := map[string]store.Venue{}
	ready, steps := map[string]bool{}, []store.Step{}
	names, stages := map[string]string{}, map[string]string{}
	w := view{Today: c.Today(), zone: c.Club.TimeZone}
	err = c.In(func(tx *store.Tx) (err error) {
		if w.Terms, err = tx.Terms(c.Ctx()); err != nil {
			return err
		}
		w.Term, w.Terms = season.Chosen(w.Terms, w.Today, c.Query("term"))
		if classes, err = tx.Classes(c.Ctx()); err != nil {
			return err
		}
		if programs, err = tx.Ladders(c.Ctx()); err != nil {
			return err
		}
		if meetings, err = tx.Meetings(c.Ctx(), w.Term.From, w.Term.Until); err != nil {
			return err
		}
		if comings, err = tx.LastComings(c.Ctx(), c.Now); err != nil {
			return err
		}
		if enrolled, err = tx.Enrolments(c.Ctx()); err != nil {
			return err
		}
		all, err := tx.Venues(c.Ctx())
		if err != nil {
			return err
		}
		for _, v := range all {
			venues[v.ID] = v
		}
		players, err := tx.Players(c.Ctx(), store.PlayerFilter{})
		if err != nil {
			return err
		}
		for _, p := range programs {
			standing, _, err := app.EverybodyOf(c.Ctx(), tx, p, players, c.Now)
			if err != nil {
				return err
			}
			for _, s := range standing {
				names[s.Player.ID] = s.Player.Name
				ready[s.Player.ID+p.ID] = s.Readiness.Ready
			}
			for i, s := range p.Stages {
				if i+1 < len(p.Stages) {
					stages[s.ID] = p.Stages[i+1].Name
				}
			}
			of, err := tx.Steps(c.Ctx(), p.ID)
			if err != nil {
				return err
			}
			steps = append(steps, of...)
		}
		return nil
	})
	if err != nil {
		return v, err
	}
	w.weeks()
	v.Term, v.Terms, v.Weeks = w.Term, w.Terms, w.Weeks
	steps = slices.DeleteFunc(steps, func(s store.Step) bool { return s.FromOn.Before(v.Term.From) || !v.Term.Until.Holds(s.FromOn) })
	for _, k := range classes {
		r := v.row(k, meetings, steps, enrolled)
		for player, in := range enrolled {
			if slices.Contains(in, k.ID) && ready[player+k.ProgramID] {
				r.Ready++
			}
		}
		use := venues[k.VenueID].Draw(k.Zone).Use
		r.Outgrown = season.Room{Places: k.Places, Enrolled: k.Enrolled, Came: r.lastCame(), Area: use.Length * use.Width, Units: c.Club.Units}.Outgrown()
		v.Rows = append(v.Rows, r)
	}
	v.Met = len(comings) > 0
	for _, x := range comings {
		if season.FallsAway(x.Came) {
			f := falling{Comings: x, Row: season.Missed(x.Came)}
			for _, k := range classes {
				if k.ID == x.Class {
					f.Class = k.Name
				}
			}
			v.Falling = append(v.Falling, f)
		}
	}
	slices.SortStableFunc(v.Falling, func(a, b falling) int { return b.Row - a.Row })
	for _, s := range steps {
		if names[s.PlayerID] != "" {
			v.Steps = append(v.Steps, stepUp{s.PlayerID, names[s.PlayerID], stages[s.FromStage], s.FromOn.Short()})
		}
	}
	return v, nil
}

func (v *clubView) row(k store.Class, meetings []store.Meeting, steps []store.Step, enrolled map[string][]string) clubRow {
	r := clubRow{Class: k, Cells: make([]clubCell, len(v.Weeks))}
	for i, w := range v.Weeks {
		x := &r.Cells[i]
		for _, m := range meetings {
			if m.Class == k.ID && !m.On.Before(w.From) && m.On.Before(w.From.Add(7)) {
				x.Held = true
				x.Came, x.Of, x.Marks = x.Came+m.Came, x.Of+m.Of, x.Marks+m.Marks
			}
		}
		for _, s := range steps {
			if slices.Contains(enrolled[s.PlayerID], k.ID) && !s.FromOn.Before(w.From) && s.FromOn.Before(w.From.Add(7)) {
				x.Steps++
			}
		}
		r.Came, r.Of, r.Marks, r.Steps = r.Came+x.Came, r.Of+x.Of, r.Marks+x.Marks, r.Steps+x.Steps
	}
	return r
}

// lastCame is how many came to the last four dates.
func (r clubRow) lastCame() (out []int) {
	for _, x := range slices.Backward(r.Cells) {
		if x.Held && len(out) < 4 {
			out = append(out, x.Came)
		}
	}
	return out
}

// clubXLSX is the same as a workbook: a sheet of classes by week, and who has not come for a while.
func clubXLSX(c *shell.Ctx) error {
	v, err := readClub(c)
	if err != nil {
		return err
	}
	weeks := exchange.Sheet{
		Name:    "Classes by week",
		Head:    []string{"Class", "Week from", "Came", "Of", "In 100", "Marks", "Steps up"},
		Figures: []int{2, 3, 4, 5, 6},
	}
	all := exchange.Sheet{
		Name:    "Classes",
		Head:    []string{"Class", "Enrolled", "Places", "Came", "Of", "In 100", "Marks", "Ready", "Steps up", "Room"},
		Figures: []int{1, 2, 3, 4, 5, 6, 7, 8},
	}
	n := strconv.Itoa
	for _, r := range v.Rows {
		all.Rows = append(all.Rows, []string{
			r.Name, n(r.Enrolled), n(r.Places), n(r.Came), n(r.Of), n(r.Share()), n(r.Marks), n(r.Ready), n(r.Steps), r.Outgrown,
		})
		for i, x := range r.Cells {
			if x.Held {
				weeks.Rows = append(weeks.Rows, []string{
					r.Name, v.Weeks[i].From.String(), n(x.Came), n(x.Of), n(x.Share()), n(x.Marks), n(x.Steps),
				})
			}
		}
	}
	away := exchange.Sheet{Name: "Not come for a while", Head: []string{"Player", "Class", "Missed in a row", "Came last"}, Figures: []int{2}}
	for _, f := range v.Falling {
		last := ""
		if f.Last != nil {
			last = f.Last.String()
		}
		away.Rows = append(away.Rows, []string{f.Name, f.Class, n(f.Row), last})
	}
	var b bytes.Buffer
	if err := exchange.Workbook(&b, all, weeks, away); err != nil {
		return err
	}
	c.Attach(fmt.Sprintf("%s.xlsx", v.Term.Name))
	c.Data(http.StatusOK, "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", b.Bytes())
	return nil
}

// Says is how long somebody has been away, in words.
func (f falling) Says() string {
	says := "missed " + say.Count(f.Row, "date") + " in a row"
	if f.Last != nil {
		return says + ", came last on " + f.Last.Short()
	}
	return says
}
