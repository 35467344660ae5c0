package terms

import (
	"bytes"
	"cmp"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// listView is a list for somebody else: on screen, on paper, and as a file.
type listView struct {
	Title, About string
	Sheet        exchange.Sheet
	Files        string // address without what follows the last dot
	Back         string
	Programs     []store.Program
	Program      store.Program
}

// listPage shows a list.
func listPage(list func(*shell.Ctx) (listView, error)) func(*shell.Ctx) error {
	return func(c *shell.Ctx) error {
		v, err := list(c)
		if err != nil {
			return err
		}
		return c.Bare(pages, http.StatusOK, "list.html", v.Title, v)
	}
}

// listFile answers with a list as the file that the address asks for.
func listFile(list func(*shell.Ctx) (listView, error)) func(*shell.Ctx) error {
	return func(c *shell.Ctx) error {
		v, err := list(c)
		if err != nil {
			return err
		}
		return v.file(c)
	}
}

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
	var class store.Class
	var program store.Program
	var all []app.Standing
	var keys []store.KeyMark
	err = c.In(func(tx *store.Tx) error {
		classes, err := tx.Classes(c.Ctx())
		if err != nil {
			return err
		}
		i := slices.IndexFunc(classes, func(k store.Class) bool { return k.ID == c.Param("id") })
		if i < 0 {
			return store.ErrNone
		}
		class = classes[i]
		if program, err = app.FindProgram(c.Ctx(), tx, class.ProgramID); err != nil {
			return err
		}
		players, err := tx.Players(c.Ctx(), store.PlayerFilter{Class: class.ID})
		if err != nil {
			return err
		}
		if all, err = app.StandingOf(c.Ctx(), tx, program, players, c.Now); err != nil {
			return err
		}
		ids := make([]string, len(players))
		for i, p := range players {
			ids[i] = p.ID
		}
		said, err := tx.SaidOf(c.Ctx(), ids, c.Now)
		keys = said.Keys
		return err
	})
	if err != nil {
		return v, err
	}
	lacks := map[string][]string{}
	for _, k := range keys {
		if !k.Has {
			lacks[k.Player] = append(lacks[k.Player], k.Key)
		}
	}
	v = classSheet(c, program, class)
	slices.SortStableFunc(all, func(a, b app.Standing) int {
		return cmp.Or(cmp.Compare(a.Stage.Order, b.Stage.Order), cmp.Compare(a.Player.Name, b.Player.Name))
	})
	for _, s := range all {
		shown, missing := shownAndMissing(s)
		weeks := strconv.Itoa(c.Today().Sub(s.Since)/7 + 1)
		v.Sheet.Rows = append(v.Sheet.Rows, []string{
			s.Player.Name, s.Stage.Name, weeks, shown, missing,
			strings.Join(lacks[s.Player.ID], ", "), strings.Join(mind(s.Player), ", "),
		})
	}
	return v, nil
}

// classSheet is the list of a class with nobody in it yet.
func classSheet(c *shell.Ctx, program store.Program, class store.Class) listView {
	about := fmt.Sprintf("%s · %s %s, %s, %d min · %d of %d places · for the next coach, as of %s",
		program.Name, time.Weekday(class.Weekday), class.Starts, class.VenueName, class.Minutes,
		class.Enrolled, class.Places, c.Now.Format("2 Jan 2006"))
	return listView{
		Title: class.Name,
		About: about,
		Files: "/stairs/class/" + class.ID + "/class",
		Back:  "/stairs?program=" + program.ID + "&class=" + class.ID,
		Sheet: exchange.Sheet{
			Name: class.Name,
			Head: []string{"Player", "Stage", "Week in it", "Shown", "Missing", "Keys lacked", "Mind"},
		},
	}
}

// shownAndMissing says how much of a stage is shown, and what of the musts is not.
func shownAndMissing(s app.Standing) (shown, missing string) {
	n := 0
	var not []string
	for _, it := range s.Readiness.Items {
		if it.Status.State == evidence.Shown {
			n++
		} else if it.Criterion.Must {
			not = append(not, it.Criterion.Wording)
		}
	}
	if missing = strings.Join(not, ", "); s.Readiness.Ready {
		missing = "ready"
	}
	return fmt.Sprintf("%d of %d", n, len(s.Readiness.Items)), missing
}

// mind is what the next coach has to know: limits, and with whom or without whom.
func mind(p store.Player) (out []string) {
	for _, l := range p.Limits {
		says := "no " + l.What
		if !l.Until.IsZero() {
			says += " until " + l.Until.Format("2 Jan")
		}
		out = append(out, says)
	}
	for _, k := range p.Keeps {
		if k.Apart {
			out = append(out, "apart from "+k.Name)
		} else {
			out = append(out, "with "+k.Name)
		}
	}
	return out
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
	next := p.nextTerm()
	v = listView{
		Title:    "For the office: " + p.Program.Name,
		About:    "as of " + c.Now.Format("2 Jan 2006"),
		Files:    "/stairs/office/office",
		Back:     "/stairs?program=" + p.Program.ID,
		Programs: p.Programs,
		Program:  p.Program,
		Sheet: exchange.Sheet{
			Name: p.Program.Name,
			Head: []string{"Player", "Stage", "Decided", "From", "Class now", "Next term"},
		},
	}
	if p.Term.ID != "" {
		v.Sheet.Head[5] = p.Term.Name
	}
	var people []app.Standing
	for _, s := range p.people {
		people = append(people, s)
	}
	slices.SortFunc(people, func(a, b app.Standing) int {
		return cmp.Or(
			cmp.Compare(strings.ToLower(a.Player.Name), strings.ToLower(b.Player.Name)),
			cmp.Compare(a.Player.ID, b.Player.ID),
		)
	})
	for _, s := range people {
		var now []string
		for _, k := range enrolled[s.Player.ID] {
			if names[k] != "" {
				now = append(now, names[k])
			}
		}
		v.Sheet.Rows = append(v.Sheet.Rows, officeRow(p.Program, s, strings.Join(now, ", "), next[s.Player.ID]))
	}
	return v, nil
}

// nextTerm says of each player where they are next term.
func (v placesView) nextTerm() map[string]string {
	next := map[string]string{}
	for _, k := range v.Classes {
		for _, pl := range k.Players {
			next[pl.ID] = k.Name + ", " + k.Day + " " + k.Starts
		}
	}
	for _, w := range v.Waiting {
		next[w.ID] = fmt.Sprintf("waiting list, no. %d", w.No)
	}
	for _, n := range v.Not {
		next[n.ID] = "does not come back"
	}
	return next
}

// officeRow is a player's line for the office.
func officeRow(p store.Program, s app.Standing, now, next string) []string {
	row := []string{s.Player.Name, "", "", "", now, next}
	if at, ok := s.Player.In(p.ID); ok {
		st, _ := p.Stage(at.Stage)
		row[1] = st.Name
	}
	if d := s.Decided; d != nil {
		row[2] = d.Words()
		if row[3] = d.FromOn.Format("2 Jan 2006"); d.Waits() {
			row[3] = "waits for a second signature"
		}
	}
	return row
}
