// Package families is what goes home and what comes back: the report, the certificate, practice, and the pages that
// guardians open by their links.
package families

import (
	"embed"
	"fmt"
	"net/http"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

// What goes home has a page of its own; what is given to do there belongs to the season.
var pages, seasonPages = shell.NewPages("", files), shell.NewPages("Season", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/players/:id/report", Needs: shell.SeeMarks, Handle: report},
	{Method: "GET", Path: "/decisions/:id/certificate", Needs: shell.SeeMarks, Handle: certificate},
	{Method: "GET", Path: "/for/:secret", Needs: shell.Anyone, Handle: forGuardian},
	{Method: "POST", Path: "/for/:secret/days", Needs: shell.Anyone, Handle: takeDays, JSON: true},
	{Method: "POST", Path: "/for/:secret/day", Needs: shell.Anyone, Handle: byLink(takeDay)},
	{Method: "POST", Path: "/for/:secret/mail", Needs: shell.Anyone, Handle: byLink(setMail)},
	{Method: "GET", Path: "/for/:secret/dates.ics", Needs: shell.Anyone, Handle: guardianCalendar},
	{Method: "GET", Path: "/reminders/:secret", Needs: shell.Anyone, Handle: remindersEnd},
	{Method: "POST", Path: "/reminders/:secret", Needs: shell.Anyone, Handle: remindersEnd},
	{Method: "GET", Path: "/account/mail", Needs: shell.ManagePeople, Handle: mailbox},
	{Method: "GET", Path: "/season/home", Needs: shell.SeeMarks, Handle: listPractice},
	{Method: "GET", Path: "/season/home/new", Needs: shell.EnterMarks, Handle: practiceForm},
	{Method: "POST", Path: "/season/home/new", Needs: shell.EnterMarks, Handle: savePractice},
	{Method: "GET", Path: "/season/home/:id", Needs: shell.SeeMarks, Handle: onePractice},
	{Method: "GET", Path: "/season/home/:id/change", Needs: shell.EnterMarks, Handle: practiceForm},
	{Method: "POST", Path: "/season/home/:id/change", Needs: shell.EnterMarks, Handle: savePractice},
	{Method: "POST", Path: "/season/home/:id/end", Needs: shell.EnterMarks, Handle: endPractice},
	{Method: "POST", Path: "/season/home/:id/open", Needs: shell.EnterMarks, Handle: openPart},
	{Method: "GET", Path: "/season/home/:id/sheet", Needs: shell.SeeMarks, Handle: practiceSheet},
}

// reportView is a page for a player and guardian: of one child, in kind words.
type reportView struct {
	Club     string
	Name     string
	First    string
	Ways     []reportWay
	Practise []string
	Home     []homeView
	Lately   []string // shown in the last weeks, with the day
	Keys     []string // had
	Came, Of int      // of the last sessions
	Day      string
	Back     string // to the coach's page; empty: a guardian reads it
	Until    string
}

// CameTo is how often the child came lately.
func (v reportView) CameTo() string { return say.OfLast(v.Came, v.Of, "session") }

// reportWay is one program's ladder with where the child stands.
type reportWay struct {
	Program  string
	Steps    []reportStep
	Stage    string
	About    string
	Next     string
	Done, Of int
	Lines    []reportLine
	Up       []string // steps that were taken, with the day
}

// Box is the part of the drawing that is shown: the steps, and room for a token above the highest.
func (w reportWay) Box() string {
	n := len(w.Steps)
	top := 100 - 16*(n-1) - 28
	return fmt.Sprintf("-6 %d %d %d", top, max(340, 110*n+12), 142-top)
}

type reportStep struct {
	Name           string
	X, Y           float64
	Here, Done     bool
	TokenX, TokenY float64
}

type reportLine struct{ Wording, Kind, State string }

// kind is a state in words for a child.
var kind = map[evidence.State]string{
	evidence.Shown:  "you can do this",
	evidence.Nearly: "nearly there",
	evidence.Stale:  "you could do this: show it again",
	evidence.Seen:   "coming along",
	evidence.Unseen: "still to come",
}

// readReport reads what is told of one player at home.
func readReport(c *shell.Ctx, tx *store.Tx, id string, now time.Time, loc *time.Location) (v reportView, err error) {
	if !store.IsID(id) {
		return v, store.ErrNone
	}
	p, err := tx.Player(c.Ctx(), id)
	if err != nil {
		return v, err
	}
	v.Name, v.First, v.Day = p.Name, say.First(p.Name), now.In(loc).Format("2 Jan 2006")
	if v.Home, err = homeViews(c, tx, p, day.In(now, loc)); err != nil {
		return v, err
	}
	came, err := tx.Attendances(c.Ctx(), id)
	if err != nil {
		return v, err
	}
	v.Came, v.Of = came.Visits(), len(came)
	said, err := tx.SaidOf(c.Ctx(), []string{id}, now)
	if err != nil {
		return v, err
	}
	lacks := map[string]bool{}
	for _, k := range said.Keys {
		if lacks[k.Key] = !k.Has; k.Has {
			v.Keys = append(v.Keys, k.Key)
		}
	}
	return v, v.readWays(c, tx, p, lacks, now)
}

// readWays reads where the player stands on the ladder of each program.
func (v *reportView) readWays(
	c *shell.Ctx, tx *store.Tx, p store.Player, lacks map[string]bool, now time.Time,
) error {
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return err
	}
	marks, err := tx.Marks(c.Ctx(), store.MarkFilter{Player: p.ID})
	if err != nil {
		return err
	}
	decided, err := tx.Decisions(c.Ctx(), store.DecisionFilter{Player: p.ID})
	if err != nil {
		return err
	}
	for _, pr := range programs {
		all, err := app.StandingFrom(c.Ctx(), tx, pr, []store.Player{p}, marks, now)
		if err != nil {
			return err
		}
		if len(all) == 0 {
			continue
		}
		w := wayOf(pr, all[0])
		for _, it := range all[0].Readiness.Items {
			if it.Status.State == evidence.Shown {
				w.Done++
				v.lately(it, now)
			} else if len(v.Practise) < 4 {
				v.Practise = append(v.Practise, practise(it.Criterion, lacks))
			}
			w.Lines = append(w.Lines, reportLine{it.Criterion.Wording, kind[it.Status.State], string(it.Status.State)})
		}
		for _, d := range decided {
			if d.ProgramID == pr.ID && d.Kind == deciding.Up && d.Done {
				w.Up = append(w.Up, d.ToStage+", "+d.FromOn.Format("2 Jan 2006"))
			}
		}
		v.Ways = append(v.Ways, w)
	}
	return nil
}

// latelyDays is for how many days something counts as shown lately.
const latelyDays = 42

// lately notes what was shown in the last weeks.
func (v *reportView) lately(it evidence.Item, now time.Time) {
	var newest time.Time
	for _, m := range it.Status.Last {
		if m.At.After(newest) {
			newest = m.At
		}
	}
	if now.Sub(newest) < latelyDays*24*time.Hour {
		v.Lately = append(v.Lately, it.Criterion.Wording+", "+newest.In(now.Location()).Format("2 Jan"))
	}
}

// wayOf draws a program's steps, with the player on theirs.
func wayOf(pr store.Program, s app.Standing) reportWay {
	w := reportWay{Program: pr.Name, Stage: s.Stage.Name, About: s.Stage.About, Of: len(s.Readiness.Items)}
	if next, ok := s.Next(); ok {
		w.Next = next.Name
	}
	for i, st := range pr.Stages {
		step := reportStep{
			Name: st.Name,
			X:    float64(i) * 110,
			Y:    100 - float64(i)*16,
			Here: st.ID == s.Stage.ID,
			Done: st.Order < s.Stage.Order,
		}
		if step.Here {
			step.TokenX, step.TokenY = step.X+12+78*s.Readiness.Progress, step.Y-12
		}
		w.Steps = append(w.Steps, step)
	}
	return w
}

// practise names a criterion with the one key that helps now: the first that is lacked, else the first.
func practise(k coach.Criterion, lacks map[string]bool) string {
	key := ""
	for _, x := range k.Keys {
		if key == "" || lacks[x] {
			key = x
		}
		if lacks[x] {
			break
		}
	}
	if key == "" {
		return k.Wording
	}
	return k.Wording + ": " + key
}

func report(c *shell.Ctx) error {
	var v reportView
	err := c.In(func(tx *store.Tx) (err error) {
		v, err = readReport(c, tx, c.Param("id"), c.Now, c.Loc)
		return err
	})
	if err != nil {
		return err
	}
	v.Club, v.Back = c.Club.Name, "/players/"+c.Param("id")
	return c.Bare(pages, http.StatusOK, "report.html", v.Name, v)
}

type certificateView struct {
	deciding.Recorded
	Club  string
	Items []deciding.EvidenceOfItem
	Day   string
}

// certificate says that a stage is reached; it is printed of a step up that was carried out.
func certificate(c *shell.Ctx) error {
	v := certificateView{Club: c.Club.Name}
	err := c.In(func(tx *store.Tx) error {
		ds, err := tx.Decisions(c.Ctx(), store.DecisionFilter{ID: c.Param("id")})
		if err != nil {
			return err
		}
		if len(ds) == 0 || ds[0].Kind != deciding.Up || !ds[0].Done {
			return store.ErrNone
		}
		v.Recorded = ds[0]
		return nil
	})
	if err != nil {
		return err
	}
	for _, it := range v.Evidence.Items {
		if it.State == string(evidence.Shown) {
			v.Items = append(v.Items, it)
		}
	}
	v.Day = v.FromOn.Format("2 Jan 2006")
	return c.Bare(pages, http.StatusOK, "certificate.html", "Certificate", v)
}
