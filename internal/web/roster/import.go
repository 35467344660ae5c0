package roster

import (
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach/say"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

type columnChoice struct {
	Field exchange.Field
	At    int // the column, or -1
}

type importView struct {
	Text     string
	Problem  string
	Read     bool
	Table    exchange.Table
	Choices  []columnChoice
	Headings []string
	Rows     []exchange.Row
	Shown    []exchange.Row // bad ones first, then the start of the others
	Add      int
	Change   int
	Same     int
	Bad      int
	Fields   []exchange.Field
	StageOf  map[string]string
	Class    string
	Classes  []store.Class
}

// Take is what the button offers.
func (v importView) Take() string {
	var parts []string
	if v.Add > 0 {
		parts = append(parts, "Add "+say.Count(v.Add, "player"))
	}
	if v.Change > 0 {
		parts = append(parts, "change "+strconv.Itoa(v.Change))
	}
	s := say.List(parts)
	if v.Bad > 0 && s != "" {
		s += ", leave " + say.Count(v.Bad, "bad line")
	}
	if s == "" {
		return ""
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

func importPage(c *shell.Ctx) error {
	return c.Page(pages, http.StatusOK, "import.html", "Bring a list", importView{})
}

// readImport takes the file or the pasted text of the request, with the chosen columns and corrections.
func readImport(c *shell.Ctx) (v importView, err error) {
	data, err := v.typed(c)
	if err != nil || v.Problem != "" {
		return v, err
	}
	t, terr := exchange.ReadTable(data, exchange.Roster)
	if terr != nil {
		v.Problem = sentence(terr.Error())
		return v, nil
	}
	v.Read, v.Table, v.Class = true, t, c.Request.PostFormValue("class")
	cols := v.columns(c)
	v.Text = rewrite(t)
	var known exchange.Known
	err = c.In(func(tx *store.Tx) (err error) {
		if v.Classes, err = tx.Classes(c.Ctx()); err != nil {
			return err
		}
		known, v.StageOf, err = knownPeople(c, tx)
		return err
	})
	if err != nil {
		return v, err
	}
	v.Rows = exchange.Compare(t, cols, known)
	v.count()
	return v, nil
}

// typed is the list as it was pasted, or the file that was chosen instead; Problem says why it is not taken.
func (v *importView) typed(c *shell.Ctx) ([]byte, error) {
	if c.TooLarge {
		v.Problem = fmt.Sprintf("That file is too large: a list of players is at most %d MB.", exchange.MaxBytes>>20)
		return nil, nil
	}
	v.Text = c.Request.PostFormValue("text")
	file, head, err := c.Request.FormFile("file")
	if err != nil || head.Size == 0 {
		return []byte(v.Text), nil
	}
	defer file.Close()
	if head.Size > exchange.MaxBytes {
		mb := float64(head.Size) / (1 << 20)
		v.Problem = fmt.Sprintf(
			"%s is %.0f MB; a list of players is at most %d MB.", head.Filename, mb, exchange.MaxBytes>>20,
		)
		return nil, nil
	}
	return io.ReadAll(file)
}

// columns is which column holds what, guessed and then as the coach chose, and corrects what the coach typed anew.
func (v *importView) columns(c *shell.Ctx) map[exchange.Field]int {
	t := v.Table
	cols := t.Guess()
	width := 0
	for _, r := range t.Rows {
		width = max(width, len(r.Cells))
	}
	fixes := exchange.Fix{}
	for name, values := range c.Request.PostForm {
		if f, ok := strings.CutPrefix(name, "col-"); ok {
			delete(cols, exchange.Field(f))
			if at, err := strconv.Atoi(values[0]); err == nil && at >= 0 && at < width {
				cols[exchange.Field(f)] = at
			}
		}
		if rest, ok := strings.CutPrefix(name, "fix-"); ok {
			line, f, _ := strings.Cut(rest, "-")
			if n, err := strconv.Atoi(line); err == nil {
				if fixes[n] == nil {
					fixes[n] = map[exchange.Field]string{}
				}
				fixes[n][exchange.Field(f)] = values[0]
			}
		}
	}
	t.Correct(cols, fixes)
	for i := range width {
		h := "Column " + strconv.Itoa(i+1)
		if i < len(t.Header) && t.Header[i] != "" {
			h = t.Header[i]
		} else if i < len(t.Rows[0].Cells) && t.Rows[0].Cells[i] != "" {
			h += " (" + t.Rows[0].Cells[i] + ")"
		}
		v.Headings = append(v.Headings, h)
	}
	for _, f := range exchange.Fields {
		at, ok := cols[f]
		if !ok {
			at = -1
		}
		v.Choices = append(v.Choices, columnChoice{f, at})
		if ok {
			v.Fields = append(v.Fields, f)
		}
	}
	if _, ok := cols[exchange.Name]; !ok {
		v.Problem = "Which column holds the name? Choose it below; nothing is taken before."
	}
	return cols
}

// rewrite is the table as text with tabs, for the next step of the page; every row stands on the line it came from.
func rewrite(t exchange.Table) string {
	var b strings.Builder
	line := 1
	if len(t.Header) > 0 {
		b.WriteString(strings.Join(t.Header, "\t") + "\n")
		line++
	}
	for _, r := range t.Rows {
		for ; line < r.Line; line++ {
			b.WriteString("\n")
		}
		cells := make([]string, len(r.Cells))
		for i, c := range r.Cells {
			if cells[i] = c; strings.Contains(c, `"`) {
				cells[i] = `"` + strings.ReplaceAll(c, `"`, `""`) + `"`
			}
		}
		b.WriteString(strings.Join(cells, "\t") + "\n")
		line++
	}
	return b.String()
}

func (v *importView) count() {
	const most = 40
	var rest []exchange.Row
	for _, r := range v.Rows {
		switch r.Kind {
		case exchange.Bad:
			v.Bad++
			if v.Bad <= 200 {
				v.Shown = append(v.Shown, r)
			}
			continue
		case exchange.Add:
			v.Add++
		case exchange.Change:
			v.Change++
		default:
			v.Same++
		}
		rest = append(rest, r)
	}
	order := map[exchange.Kind]int{exchange.Change: 0, exchange.Add: 1, exchange.Same: 2}
	slices.SortStableFunc(rest, func(a, b exchange.Row) int { return order[a.Kind] - order[b.Kind] })
	v.Shown = append(v.Shown, rest[:min(len(rest), most)]...)
}

func sentence(s string) string {
	s = strings.ToUpper(s[:1]) + s[1:]
	if !strings.HasSuffix(s, ".") {
		s += "."
	}
	return s
}

// knownPeople is the roster as an import compares with it. A player's stage is that of the first program they are in.
func knownPeople(c *shell.Ctx, tx *store.Tx) (k exchange.Known, stageOf map[string]string, err error) {
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return k, nil, err
	}
	stageOf = map[string]string{}
	for _, p := range programs {
		for _, s := range p.Stages {
			k.Stages = append(
				k.Stages,
				exchange.StageName{ID: s.ID, Program: p.Name, Name: s.Name, ProgramID: p.ID, Order: s.Order},
			)
			stageOf[s.ID] = s.Name
		}
	}
	players, err := tx.Players(c.Ctx(), store.PlayerFilter{})
	if err != nil {
		return k, nil, err
	}
	marked, err := tx.Marked(c.Ctx(), nil)
	if err != nil {
		return k, nil, err
	}
	for _, p := range players {
		e := exchange.Person{
			ID:     p.ID,
			Name:   p.Name,
			Year:   p.BirthYear,
			Side:   p.Side,
			Tags:   p.Tags,
			Stands: map[string]string{},
			Marked: marked[p.ID],
		}
		for _, s := range p.Standings {
			e.Stands[s.Program] = s.Stage
		}
		if len(p.Standings) > 0 {
			e.Stage = p.Standings[0].Stage
		}
		for _, kp := range p.Keeps {
			if kp.Apart {
				e.Apart = append(e.Apart, kp.Name)
			} else {
				e.With = append(e.With, kp.Name)
			}
		}
		k.People = append(k.People, e)
	}
	k.Today = c.Now
	return k, stageOf, nil
}

func preview(c *shell.Ctx) error {
	v, err := readImport(c)
	if err != nil {
		return err
	}
	status := http.StatusOK
	if v.Problem != "" {
		status = http.StatusUnprocessableEntity
	}
	return c.Page(pages, status, "import.html", "Bring a list", v)
}

func take(c *shell.Ctx) error {
	v, err := readImport(c)
	if err != nil {
		return err
	}
	if v.Problem != "" || v.Take() == "" {
		return c.Page(pages, http.StatusUnprocessableEntity, "import.html", "Bring a list", v)
	}
	says := fmt.Sprintf("Took %s from the list", say.Count(v.Add+v.Change, "player"))
	err = c.Change("", says, func(tx *store.Tx) error { return takeRows(c, tx, v) })
	if err != nil {
		return err
	}
	return c.To("/roster")
}

// takeRows stores the rows that add or change somebody, with keeps by name, and enrols the new ones when a class was
// chosen.
func takeRows(c *shell.Ctx, tx *store.Tx, v importView) error {
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return err
	}
	programOf := map[string]string{}
	for _, p := range programs {
		for _, s := range p.Stages {
			programOf[s.ID] = p.ID
		}
	}
	existing, err := tx.Players(c.Ctx(), store.PlayerFilter{})
	if err != nil {
		return err
	}
	named := people{}
	for _, p := range existing {
		named.add(p)
	}
	var players []store.Player
	var rows []exchange.Person // of the players
	var added []string
	for _, r := range v.Rows {
		if r.Kind != exchange.Add && r.Kind != exchange.Change {
			continue
		}
		p := store.Player{
			ID:        r.Person.ID,
			Name:      r.Person.Name,
			BirthYear: r.Person.Year,
			Side:      r.Person.Side,
			Tags:      r.Person.Tags,
			Joined:    c.Today(),
		}
		if p.ID == "" {
			p.ID = store.NewID()
			added = append(added, p.ID)
		}
		if s := r.Person.Stage; s != "" {
			p.Standings = []store.Standing{{Program: programOf[s], Stage: s, Since: c.Today()}}
		}
		named.add(p)
		players, rows = append(players, p), append(rows, r.Person)
	}
	if err := tx.PutPlayers(c.Ctx(), players); err != nil {
		return err
	}
	if err := tx.Loaded(c.Ctx(), len(players)); err != nil {
		return err
	}
	if err := keepTogether(c, tx, players, rows, named); err != nil {
		return err
	}
	if !store.IsID(v.Class) || len(added) == 0 {
		return nil
	}
	enrolled, err := tx.Players(c.Ctx(), store.PlayerFilter{Class: v.Class})
	if err != nil {
		return err
	}
	for _, p := range enrolled {
		added = append(added, p.ID)
	}
	return tx.Enrol(c.Ctx(), v.Class, added)
}

// people finds a player's id by the name, however it is spaced and in whatever case.
type people map[string]string

func (ids people) add(p store.Player)      { ids[nameKey(p.Name)] = p.ID }
func (ids people) find(name string) string { return ids[nameKey(name)] }
func nameKey(name string) string           { return strings.ToLower(strings.Join(strings.Fields(name), " ")) }

// keepTogether keeps whom each row names to stay with or apart from.
func keepTogether(c *shell.Ctx, tx *store.Tx, players []store.Player, rows []exchange.Person, named people) error {
	var pairs []store.Pair
	var who []string
	for i, r := range rows {
		id := players[i].ID
		if len(r.With)+len(r.Apart) > 0 {
			who = append(who, id)
		}
		for _, name := range r.With {
			if o := named.find(name); o != "" {
				pairs = append(pairs, store.Pair{A: id, B: o})
			}
		}
		for _, name := range r.Apart {
			if o := named.find(name); o != "" {
				pairs = append(pairs, store.Pair{A: id, B: o, Apart: true})
			}
		}
	}
	return tx.SetKeeps(c.Ctx(), who, pairs)
}
