package stairs

import (
	"bytes"
	"cmp"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/day"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// reportView is a page for a player and guardian: of one child, in kind words.
type reportView struct {
	Club     string
	Name     string
	First    string
	Ways     []reportWay
	Practise []string
	Home     []store.HomeTask
	Keys     []string // had
	Came, Of int      // of the last sessions
	Day      string
	Back     string // to the coach's page; empty: a guardian reads it
	Until    string
}

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
var kind = map[evidence.State]string{evidence.Shown: "you can do this", evidence.Nearly: "nearly there", evidence.Stale: "you could do this: show it again", evidence.Seen: "coming along", evidence.Unseen: "still to come"}

func readReport(c *shell.Ctx, tx *store.Tx, id string, now time.Time, loc *time.Location) (v reportView, err error) {
	if !store.IsID(id) {
		return v, store.ErrNone
	}
	p, err := tx.Player(c.Ctx(), id)
	if err != nil {
		return v, err
	}
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return v, err
	}
	marks, err := tx.Marks(c.Ctx(), store.MarkFilter{Player: id})
	if err != nil {
		return v, err
	}
	decided, err := tx.Decisions(c.Ctx(), store.DecisionFilter{Player: id})
	if err != nil {
		return v, err
	}
	h, err := tx.Hall(c.Ctx(), store.NoSession, "", []string{id}, now)
	if err != nil {
		return v, err
	}
	if v.Home, err = tx.HomeTasks(c.Ctx(), id); err != nil {
		return v, err
	}
	v.Home = slices.DeleteFunc(v.Home, func(t store.HomeTask) bool {
		return t.DoneAt != nil || !t.Until.Holds(day.In(now, loc))
	})
	came, err := tx.Attendances(c.Ctx(), id)
	if err != nil {
		return v, err
	}
	v.Came, v.Of = came.Visits(), len(came)
	v.Name, v.Day = p.Name, now.In(loc).Format("2 Jan 2006")
	v.First, _, _ = strings.Cut(p.Name, " ")
	lacks := map[string]bool{}
	for _, k := range h.Keys {
		if lacks[k.Key] = !k.Has; k.Has {
			v.Keys = append(v.Keys, k.Key)
		}
	}
	for _, pr := range programs {
		all, err := app.StandingFrom(c.Ctx(), tx, pr, []store.Player{p}, marks, now)
		if err != nil {
			return v, err
		}
		if len(all) == 0 {
			continue
		}
		s := all[0]
		w := reportWay{Program: pr.Name, Stage: s.Stage.Name, About: s.Stage.About, Of: len(s.Readiness.Items)}
		if next, ok := s.Next(); ok {
			w.Next = next.Name
		}
		for i, st := range pr.Stages {
			step := reportStep{Name: st.Name, X: float64(i) * 110, Y: 100 - float64(i)*16, Here: st.ID == s.Stage.ID, Done: st.Order < s.Stage.Order}
			if step.Here {
				step.TokenX, step.TokenY = step.X+12+78*s.Readiness.Progress, step.Y-12
			}
			w.Steps = append(w.Steps, step)
		}
		for _, it := range s.Readiness.Items {
			if it.Status.State == evidence.Shown {
				w.Done++
			} else if len(v.Practise) < 4 {
				v.Practise = append(v.Practise, practise(it.Criterion, lacks))
			}
			w.Lines = append(w.Lines, reportLine{it.Criterion.Wording, kind[it.Status.State], string(it.Status.State)})
		}
		for _, d := range decided {
			if d.ProgramID == pr.ID && d.Kind == store.Up && d.Done {
				w.Up = append(w.Up, d.ToStage+", "+d.FromOn.Format("2 Jan 2006"))
			}
		}
		v.Ways = append(v.Ways, w)
	}
	return v, nil
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

// hashOf is what is kept of a link's secret.
func hashOf(secret string) string {
	h := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(h[:])
}

// forGuardian shows the one child of a link to whoever has it. It says the same of a link that is withdrawn, over, or never was.
func forGuardian(c *shell.Ctx) error {
	c.Header("Referrer-Policy", "no-referrer")
	c.Header("X-Robots-Tag", "noindex, nofollow")
	g, err := c.S.Store.ByGuardianLink(c.Ctx(), hashOf(c.Param("secret")), c.S.Now())
	if store.IsNone(err) {
		return c.Bare(pages, http.StatusNotFound, "no-link.html", "This link shows nothing", nil)
	}
	if err != nil {
		return err
	}
	loc := g.Club.Location()
	var v reportView
	err = c.S.Store.In(c.Ctx(), g.Club.ID, func(tx *store.Tx) (err error) {
		v, err = readReport(c, tx, g.PlayerID, c.S.Now().In(loc), loc)
		return err
	})
	if err != nil {
		return err
	}
	v.Club, v.Until = g.Club.Name, g.Until.Format("2 Jan 2006")
	return c.Bare(pages, http.StatusOK, "report.html", v.First, v)
}

// addLink makes a link for a guardian. Its address is shown once: only the hash of its secret is kept.
func addLink(c *shell.Ctx) error {
	f := shell.NewForm(c)
	weeks := f.Int("weeks", 1, 52, "Weeks")
	label := f.Text("label", 60, "For whom is it? It tells links apart when one is withdrawn.")
	if !f.OK() {
		return playerWith(c, http.StatusUnprocessableEntity, func(v *whyView) { v.Form = f })
	}
	secret := shell.RandomKey(24)
	err := c.In(func(tx *store.Tx) error {
		if _, err := tx.Player(c.Ctx(), c.Param("id")); err != nil {
			return err
		}
		return tx.AddGuardianLink(c.Ctx(), store.GuardianLink{ID: store.NewID(), PlayerID: c.Param("id"), Label: label, MadeAt: c.S.Now(), Until: c.Today().Add(7 * weeks)}, hashOf(secret), c.Member.ID)
	})
	if err != nil {
		return err
	}
	return playerWith(c, http.StatusOK, func(v *whyView) { v.Fresh = c.Whole("/for/" + secret) })
}

func withdrawLink(c *shell.Ctx) error {
	var player string
	err := c.In(func(tx *store.Tx) (err error) {
		player, err = tx.WithdrawGuardianLink(c.Ctx(), c.Param("id"), c.S.Now())
		return err
	})
	if err != nil {
		return err
	}
	c.Say("Withdrawn: whoever has the link sees nothing any more.")
	return c.To("/players/" + player + "#guardians")
}

type certificateView struct {
	store.Recorded
	Club  string
	Items []store.EvidenceOfItem
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
		if len(ds) == 0 || ds[0].Kind != store.Up || !ds[0].Done {
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

// listView is a list for somebody else: on screen, on paper, and as a file.
type listView struct {
	Title, About string
	Sheet        exchange.Sheet
	Files        string // address without what follows the last dot
	Back         string
	Programs     []store.Program
	Program      store.Program
}

// file answers with the list as the file that the address asks for.
func (v listView) file(c *shell.Ctx) error {
	var b bytes.Buffer
	kind, err := "text/csv; charset=utf-8", error(nil)
	switch name := c.Param("file"); {
	case strings.HasSuffix(name, ".csv"):
		err = v.Sheet.CSV(&b)
	case strings.HasSuffix(name, ".xlsx"):
		kind = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
		err = v.Sheet.XLSX(&b)
	default:
		return store.ErrNone
	}
	if err != nil {
		return err
	}
	c.Attach(c.Param("file"))
	c.Data(http.StatusOK, kind, b.Bytes())
	return nil
}

// classList is everybody of a class for the coach who takes it next.
func classList(c *shell.Ctx) (v listView, err error) {
	err = c.In(func(tx *store.Tx) error {
		classes, err := tx.Classes(c.Ctx())
		if err != nil {
			return err
		}
		i := slices.IndexFunc(classes, func(k store.Class) bool { return k.ID == c.Param("id") })
		if i < 0 {
			return store.ErrNone
		}
		class := classes[i]
		program, err := findProgram(c, tx, class.ProgramID)
		if err != nil {
			return err
		}
		players, err := tx.Players(c.Ctx(), store.PlayerFilter{Class: class.ID})
		if err != nil {
			return err
		}
		all, err := app.StandingOf(c.Ctx(), tx, program, players, c.Now)
		if err != nil {
			return err
		}
		ids := make([]string, len(players))
		for i, p := range players {
			ids[i] = p.ID
		}
		h, err := tx.Hall(c.Ctx(), store.NoSession, "", ids, c.Now)
		if err != nil {
			return err
		}
		lacks := map[string][]string{}
		for _, k := range h.Keys {
			if !k.Has {
				lacks[k.Player] = append(lacks[k.Player], k.Key)
			}
		}
		v = listView{Title: class.Name, About: fmt.Sprintf("%s · %s %s, %s, %d min · %d of %d places · for the next coach, as of %s", program.Name, time.Weekday(class.Weekday), class.Starts, class.VenueName, class.Minutes, class.Enrolled, class.Places, c.Now.Format("2 Jan 2006")),
			Files: "/stairs/class/" + class.ID + "/class", Back: "/stairs?program=" + program.ID + "&class=" + class.ID,
			Sheet: exchange.Sheet{Name: class.Name, Head: []string{"Player", "Stage", "Week in it", "Shown", "Missing", "Keys lacked", "Mind"}}}
		slices.SortStableFunc(all, func(a, b app.Standing) int {
			return cmp.Or(cmp.Compare(a.Stage.Order, b.Stage.Order), cmp.Compare(a.Player.Name, b.Player.Name))
		})
		for _, s := range all {
			shown := 0
			var missing []string
			for _, it := range s.Readiness.Items {
				if it.Status.State == evidence.Shown {
					shown++
				} else if it.Criterion.Must {
					missing = append(missing, it.Criterion.Wording)
				}
			}
			var mind []string
			for _, l := range s.Player.Limits {
				says := "no " + l.What
				if !l.Until.IsZero() {
					says += " until " + l.Until.Format("2 Jan")
				}
				mind = append(mind, says)
			}
			for _, k := range s.Player.Keeps {
				if k.Apart {
					mind = append(mind, "apart from "+k.Name)
				} else {
					mind = append(mind, "with "+k.Name)
				}
			}
			say := strings.Join(missing, ", ")
			if s.Readiness.Ready {
				say = "ready"
			}
			v.Sheet.Rows = append(v.Sheet.Rows, []string{s.Player.Name, s.Stage.Name, strconv.Itoa(c.Today().Sub(s.Since)/7 + 1), fmt.Sprintf("%d of %d", shown, len(s.Readiness.Items)), say, strings.Join(lacks[s.Player.ID], ", "), strings.Join(mind, ", ")})
		}
		return nil
	})
	return v, err
}

func overview(c *shell.Ctx) error {
	v, err := classList(c)
	if err != nil {
		return err
	}
	return c.Bare(pages, http.StatusOK, "list.html", v.Title, v)
}

func overviewFile(c *shell.Ctx) error {
	v, err := classList(c)
	if err != nil {
		return err
	}
	return v.file(c)
}

// officeList is what an office needs: who is on which stage from when, and in which class next term.
func officeList(c *shell.Ctx) (v listView, err error) {
	var p placesView
	var classes []store.Class
	var enrolled map[string][]string
	err = c.In(func(tx *store.Tx) (err error) {
		if err := p.load(c, tx, c.Query("program"), ""); err != nil {
			return err
		}
		if p.Term.ID == "" && len(p.Programs) > 0 {
			if err := p.who(c, tx); err != nil {
				return err
			}
		}
		if classes, err = tx.Classes(c.Ctx()); err != nil {
			return err
		}
		enrolled, err = tx.Enrolments(c.Ctx())
		return err
	})
	if err == nil && p.Term.ID != "" {
		err = p.place()
	}
	if err != nil {
		return v, err
	}
	names := map[string]string{}
	for _, k := range classes {
		if k.ProgramID == p.Program.ID {
			names[k.ID] = k.Name
		}
	}
	next := map[string]string{}
	for _, k := range p.Classes {
		for _, pl := range k.Players {
			next[pl.ID] = k.Name + ", " + k.Day + " " + k.Starts
		}
	}
	for _, w := range p.Waiting {
		next[w.ID] = fmt.Sprintf("waiting list, no. %d", w.No)
	}
	for _, n := range p.Not {
		next[n.ID] = "does not come back"
	}
	v = listView{Title: "For the office: " + p.Program.Name, About: "as of " + c.Now.Format("2 Jan 2006"), Files: "/stairs/office/office", Back: "/stairs?program=" + p.Program.ID, Programs: p.Programs, Program: p.Program,
		Sheet: exchange.Sheet{Name: p.Program.Name, Head: []string{"Player", "Stage", "Decided", "From", "Class now", "Next term"}}}
	if p.Term.ID != "" {
		v.Sheet.Head[5] = p.Term.Name
	}
	var people []app.Standing
	for _, s := range p.people {
		people = append(people, s)
	}
	slices.SortFunc(people, func(a, b app.Standing) int {
		return cmp.Or(cmp.Compare(strings.ToLower(a.Player.Name), strings.ToLower(b.Player.Name)), cmp.Compare(a.Player.ID, b.Player.ID))
	})
	for _, s := range people {
		row := []string{s.Player.Name, "", "", "", "", next[s.Player.ID]}
		if at, ok := s.Player.In(p.Program.ID); ok {
			st, _ := p.Program.Stage(at.Stage)
			row[1] = st.Name
		}
		if d := s.Decided; d != nil {
			row[2] = d.Words()
			if row[3] = d.FromOn.Format("2 Jan 2006"); d.Waits() {
				row[3] = "waits for a second signature"
			}
		}
		var now []string
		for _, k := range enrolled[s.Player.ID] {
			if names[k] != "" {
				now = append(now, names[k])
			}
		}
		row[4] = strings.Join(now, ", ")
		v.Sheet.Rows = append(v.Sheet.Rows, row)
	}
	return v, nil
}

func office(c *shell.Ctx) error {
	v, err := officeList(c)
	if err != nil {
		return err
	}
	return c.Bare(pages, http.StatusOK, "list.html", v.Title, v)
}

func officeFile(c *shell.Ctx) error {
	v, err := officeList(c)
	if err != nil {
		return err
	}
	return v.file(c)
}
