package decisions

import (
	"fmt"
	"net/http"
	"slices"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// meetingView is who could be ready by a day, and the looks that takes.
type meetingView struct {
	Programs  []store.Program
	Program   store.Program
	By        string // the day, as typed
	ByWords   string
	Term      season.Term
	Wrong     string
	Ready     []evidence.Prospect
	Could     []evidence.Prospect
	Not       []evidence.Prospect
	Sessions  []sessionLooks
	Looks     int
	Planned   int             // looks that are planned into these sessions already
	Fading    map[string]bool // ready now, but not by then unless looked at again
	MayChange bool

	until    time.Time // the last moment of the day
	sessions []store.Session
	meetings []evidence.Meeting
	who      []evidence.Candidate
}

type sessionLooks struct {
	Session store.Session
	When    string
	Planned bool // there is a session to plan into; else only a day on which the class meets
	By      []looksBy
}

type looksBy struct {
	Name  string
	Looks []evidence.LookAt
}

func (v *meetingView) load(c *shell.Ctx, tx *store.Tx, program, by string) error {
	var err error
	v.MayChange = c.May(shell.ChangePlan)
	if v.Programs, err = tx.Ladders(c.Ctx()); err != nil || len(v.Programs) == 0 {
		return err
	}
	v.Program = app.Chosen(v.Programs, program)
	if err := v.readUntil(c, tx, by); err != nil {
		return err
	}
	all, byPlayer, err := app.Everybody(c.Ctx(), tx, v.Program, c.Now)
	if err != nil {
		return err
	}
	enrolled, err := tx.Enrolments(c.Ctx())
	if err != nil {
		return err
	}
	if v.sessions, v.meetings, err = v.ahead(c, tx, v.until); err != nil {
		return err
	}
	var ids []string
	for _, s := range v.sessions {
		if s.ID != "" {
			ids = append(ids, s.ID)
		}
	}
	planned, err := tx.Looks(c.Ctx(), ids)
	if err != nil {
		return err
	}
	v.Planned = len(planned)
	v.Fading = map[string]bool{}
	for _, s := range all {
		v.Fading[s.Player.ID] = s.Readiness.Ready
		if _, up := s.Next(); !up {
			continue
		}
		cand := evidence.Candidate{
			ID:     s.Player.ID,
			Name:   s.Player.Name,
			Stage:  s.Stage,
			Marks:  byPlayer[s.Player.ID],
			Visits: s.Visits,
			Since:  s.Since,
		}
		for i, m := range v.sessions {
			if slices.Contains(enrolled[s.Player.ID], m.ClassID) {
				cand.Meetings = append(cand.Meetings, i)
			}
		}
		v.who = append(v.who, cand)
	}
	return nil
}

// readUntil is the meeting's day: the one that was typed, else the term's last, else four weeks from now.
func (v *meetingView) readUntil(c *shell.Ctx, tx *store.Tx, by string) error {
	terms, err := tx.Terms(c.Ctx())
	if err != nil {
		return err
	}
	v.Term, _ = season.TermAt(terms, c.Today())
	last := c.Today().Add(28)
	if v.Term.ID != "" {
		last = v.Term.Until
	}
	v.By = last.String()
	if by != "" {
		v.By = by
		if d, err := day.Parse(by); err != nil || d.Before(c.Today()) || d.Sub(c.Today()) > 366 {
			v.Wrong = "A day from today to a year from now."
		} else {
			last = d
		}
	}
	v.ByWords = last.Format("2 Jan")
	v.until = last.End(c.Loc).Add(-time.Second)
	return nil
}

// work finds who could be ready, and puts the looks that takes into the sessions.
func (v *meetingView) work(c *shell.Ctx) {
	sessions := v.sessions
	names := map[string]string{}
	for _, s := range sessions {
		for _, l := range s.Leaders {
			names[l.Member] = l.Name
		}
	}
	looks := make([]map[string][]evidence.LookAt, len(sessions))
	for _, p := range evidence.Prospects(v.who, v.meetings, v.until) {
		switch {
		case p.Ready:
			v.Ready = append(v.Ready, p)
		case p.Could:
			v.Could = append(v.Could, p)
			for _, l := range p.Looks {
				if looks[l.Meeting] == nil {
					looks[l.Meeting] = map[string][]evidence.LookAt{}
				}
				looks[l.Meeting][l.By] = append(looks[l.Meeting][l.By], l)
				v.Looks++
			}
		default:
			v.Not = append(v.Not, p)
		}
	}
	for i, s := range sessions {
		if looks[i] == nil {
			continue
		}
		row := sessionLooks{Session: s, When: s.StartsAt.In(c.Loc).Format("Mon 2 Jan, 15:04"), Planned: s.ID != ""}
		for _, l := range s.Leaders {
			if ls := looks[i][l.Member]; len(ls) > 0 {
				row.By = append(row.By, looksBy{names[l.Member], ls})
			}
		}
		v.Sessions = append(v.Sessions, row)
	}
}

// ahead are the sessions of the program until a day: those that are planned, and the days on which its classes meet
// beyond them.
func (v *meetingView) ahead(
	c *shell.Ctx,
	tx *store.Tx,
	until time.Time,
) (out []store.Session, meetings []evidence.Meeting, err error) {
	classes, err := tx.Classes(c.Ctx())
	if err != nil {
		return nil, nil, err
	}
	planned, err := tx.Sessions(c.Ctx(), store.SessionFilter{From: c.Now, To: until.AddDate(0, 0, 1)})
	if err != nil {
		return nil, nil, err
	}
	known := map[string]bool{}
	for _, s := range planned {
		if s.ProgramID == v.Program.ID && !s.Ended {
			out = append(out, s)
		}
		known[s.ClassID+s.StartsAt.In(c.Loc).Format(time.DateOnly)] = true
	}
	for _, k := range classes {
		if k.ProgramID != v.Program.ID {
			continue
		}
		clock, err := time.Parse("15:04", k.Starts)
		if err != nil {
			return nil, nil, fmt.Errorf("read when %s starts: %w", k.Name, err)
		}
		for d := c.Now; !d.After(until); d = d.AddDate(0, 0, 1) {
			at := time.Date(d.Year(), d.Month(), d.Day(), clock.Hour(), clock.Minute(), 0, 0, c.Loc)
			if int(at.Weekday()) != k.Weekday || at.Before(c.Now) || known[k.ID+at.Format(time.DateOnly)] {
				continue
			}
			s := store.Session{
				ClassID:   k.ID,
				ClassName: k.Name,
				ProgramID: k.ProgramID,
				StartsAt:  at,
				Minutes:   k.Minutes,
			}
			for _, m := range k.Members {
				s.Leaders = append(s.Leaders, store.SessionLeader{Member: m.Member, Name: m.Name, Role: m.Role})
			}
			out = append(out, s)
		}
	}
	slices.SortStableFunc(out, func(a, b store.Session) int { return a.StartsAt.Compare(b.StartsAt) })
	for _, s := range out {
		// what is not planned there yet still can be
		m := evidence.Meeting{ID: s.ID, At: s.StartsAt, Shows: func(coach.Criterion) bool { return true }}
		for _, l := range s.Leaders {
			if l.Role != "helper" {
				m.By = append(m.By, l.Member)
			}
		}
		meetings = append(meetings, m)
	}
	return out, meetings, nil
}

func meeting(c *shell.Ctx) error {
	var v meetingView
	err := c.In(func(tx *store.Tx) error { return v.load(c, tx, c.Query("program"), c.Query("by")) })
	if err != nil {
		return err
	}
	v.work(c)
	status := http.StatusOK
	if v.Wrong != "" {
		status = http.StatusUnprocessableEntity
	}
	return c.Page(pages, status, "meeting.html", "Before the meeting", v)
}

// planLooks plans the looks into the sessions that there are: the planner and the hall ask for them first.
func planLooks(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var v meetingView
	err := c.In(func(tx *store.Tx) error { return v.load(c, tx, f.Get("program"), f.Get("by")) })
	if err != nil {
		return err
	}
	if v.Wrong != "" {
		return c.Page(pages, http.StatusUnprocessableEntity, "meeting.html", "Before the meeting", v)
	}
	v.work(c)
	var looks []store.Look
	for _, s := range v.Sessions {
		if !s.Planned {
			continue
		}
		for _, b := range s.By {
			for _, l := range b.Looks {
				looks = append(
					looks,
					store.Look{
						SessionID:   s.Session.ID,
						PlayerID:    l.Player,
						CriterionID: l.Criterion.ID,
						Side:        string(l.Side),
						By:          l.By,
					},
				)
			}
		}
	}
	err = c.Change(
		"",
		"Planned looks into the coming sessions",
		func(tx *store.Tx) error { return tx.PutLooks(c.Ctx(), v.Program.ID, c.Now, looks) },
	)
	if err != nil {
		return err
	}
	c.Say(say.Count(len(looks), "look") + " planned: these sessions’ plans and registers ask for them first.")
	return c.To("/stairs/meeting?program=" + v.Program.ID + "&by=" + v.By)
}
