package families

import (
	"fmt"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/home"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// usualWeeks is for how long a task is given where no term says so.
const usualWeeks = 4

type practiceFormView struct {
	Form     *shell.Form
	ID       string
	Rows     []int // of parts
	Weekdays []time.Weekday
	Classes  []store.Class
	Players  []store.Player
	Drills   []string
	Criteria []choice
	Most     int
	Folded   bool // whether what is rarely asked is out of sight
	drills   []coach.Drill
	classes  map[string][]string // of each player
}

type choice struct{ ID, Words string }

// Typed is a field of a part.
func (v practiceFormView) Typed(field string, row int) string {
	return v.Form.Get(fmt.Sprint(field, "-", row))
}

func (v *practiceFormView) load(c *shell.Ctx, tx *store.Tx) (err error) {
	v.Weekdays = day.Week(c.Club.TimeZone)
	if v.Classes, err = tx.Classes(c.Ctx()); err != nil {
		return err
	}
	if v.Players, err = tx.Players(c.Ctx(), store.PlayerFilter{}); err != nil {
		return err
	}
	if v.drills, err = tx.Drills(c.Ctx()); err != nil {
		return err
	}
	for _, d := range v.drills {
		v.Drills = append(v.Drills, d.Name)
	}
	if v.classes, err = tx.Enrolments(c.Ctx()); err != nil {
		return err
	}
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return err
	}
	for _, p := range programs {
		for _, s := range p.Stages {
			for _, k := range s.Criteria {
				if k.Measure.AtHome() {
					v.Criteria = append(v.Criteria, choice{k.ID, s.Name + ": " + k.Wording + counts(k)})
				}
			}
		}
	}
	most, err := app.HomeMost(c.Ctx(), tx)
	v.Most = int(most.Minutes())
	return err
}

// counts says whether figures from home count for a criterion.
func counts(k coach.Criterion) string {
	if k.Home {
		return " (figures from home count)"
	}
	return ""
}

// rows are the parts that the form shows: those that are filled, and one to write in.
func (v *practiceFormView) rows(more bool) {
	filled := 0
	for i := range home.MostParts {
		if v.Typed("what", i) != "" {
			filled = i + 1
		}
	}
	n := max(1, filled)
	if more {
		shown, _ := strconv.Atoi(v.Form.Get("rows")) // without it: as many as are filled
		n = min(home.MostParts, max(n, shown)+1)
	}
	v.Rows = nil
	for i := range n {
		v.Rows = append(v.Rows, i)
	}
	f := v.Form
	v.Folded = true
	for _, name := range []string{"more", "percent", "steps", "mix", "levels", "criterion", "name", "says"} {
		v.Folded = v.Folded && (f.Get(name) == "" || f.Get(name) == "0") && f.Errors[name] == ""
	}
	v.Folded = v.Folded && f.Errors["grow"] == ""
}

func practiceForm(c *shell.Ctx) error {
	v := practiceFormView{Form: shell.NewForm(c), ID: c.Param("id")}
	v.Form.Values = map[string][]string{"sets": {"1"}}
	err := c.In(func(tx *store.Tx) error {
		if err := v.load(c, tx); err != nil {
			return err
		}
		if v.ID == "" {
			return v.fillNew(c, tx)
		}
		t, err := tx.HomeTask(c.Ctx(), v.ID, c.Today())
		v.fill(t)
		v.Form.Shows(filled(t))
		return err
	})
	if err != nil {
		return err
	}
	v.rows(false)
	return c.Page(seasonPages, http.StatusOK, "practice-form.html", "Practice at home", v)
}

// fillNew begins with whom and what the address names.
func (v *practiceFormView) fillNew(c *shell.Ctx, tx *store.Tx) error {
	f := v.Form.Values
	f.Set("from", c.Today().String())
	terms, err := tx.Terms(c.Ctx())
	if err != nil {
		return err
	}
	until := c.Today().Add(7 * usualWeeks)
	if now, _ := season.TermAt(terms, c.Today()); now.ID != "" {
		until = now.Until
	}
	f.Set("until", until.String())
	for i, d := range v.Weekdays {
		if i%2 == 0 && i < 6 {
			f.Add("day", strconv.Itoa(int(d)))
		}
	}
	f.Set("class", c.Query("class"))
	if p := c.Query("player"); p != "" {
		f.Add("player", p)
	}
	for _, d := range v.drills {
		if d.ID == c.Query("drill") {
			f.Set("what-0", d.Name)
		}
	}
	f.Set("criterion", c.Query("criterion"))
	if w := c.Query("what"); w != "" && f.Get("what-0") == "" {
		f.Set("what-0", w)
	}
	return nil
}

// fill shows a task as it is.
func (v *practiceFormView) fill(t store.HomeTask) {
	f := v.Form.Values
	f.Set("name", t.Name)
	f.Set("class", t.Class)
	for _, p := range t.For {
		if p.Named {
			f.Add("player", p.Player)
		}
	}
	for i, p := range t.Parts {
		f.Set(fmt.Sprint("what-", i), p.What)
		f.Set(fmt.Sprint("much-", i), p.Much())
		f.Set(fmt.Sprint("care-", i), strings.Join(p.Care, ", "))
		f.Set(fmt.Sprint("instead-", i), p.Instead)
	}
	f.Set("sets", strconv.Itoa(max(1, t.Sets)))
	for _, d := range t.Days {
		f.Add("day", strconv.Itoa(int(d)))
	}
	f.Set("from", t.From.String())
	f.Set("until", t.Until.String())
	for name, n := range map[string]int{"more": t.MoreSets, "most": t.MostSets, "percent": t.Percent} {
		if n > 0 {
			f.Set(name, strconv.Itoa(n))
		}
	}
	for name, on := range map[string]bool{"steps": t.Steps, "mix": t.Mix, "lower": t.Lower} {
		if on {
			f.Set(name, "1")
		}
	}
	var levels []string
	for _, x := range t.Levels {
		levels = append(levels, coach.Figure(x))
	}
	f.Set("levels", strings.Join(levels, ", "))
	f.Set("unit", t.Unit)
	f.Set("says", t.Says)
	f.Set("criterion", t.Criterion)
}

// filled is a task as the form shows it.
func filled(t store.HomeTask) url.Values {
	v := practiceFormView{Form: &shell.Form{Values: url.Values{}}}
	v.fill(t)
	return v.Form.Values
}

func savePractice(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := practiceFormView{Form: f, ID: c.Param("id")}
	t := store.HomeTask{ID: v.ID, At: c.Now}
	says := "Changed the practice"
	if t.ID == "" {
		t.ID, says, c.Back = store.NewID(), "Gave practice for home", "/season/home"
	}
	var again bool // the form is shown once more
	err := c.Change("", says, func(tx *store.Tx) error {
		if err := v.load(c, tx); err != nil {
			return err
		}
		if v.ID != "" {
			was, err := tx.HomeTask(c.Ctx(), v.ID, c.Today())
			if err != nil {
				return err
			}
			if f.Get("add") == "" {
				f.Since(was.Name, filled(was))
			}
		}
		named := v.read(c, &t)
		if again = f.Get("add") != "" || !f.OK(); again {
			return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "Something typed is not right yet."}
		}
		return tx.PutHomeTask(c.Ctx(), t, named, c.Member.ID)
	})
	if again {
		status := http.StatusUnprocessableEntity
		if f.Get("add") != "" {
			f.Errors, status = map[string]string{}, http.StatusOK
		}
		v.rows(f.Get("add") != "")
		return c.Page(seasonPages, status, "practice-form.html", "Practice at home", v)
	}
	if err != nil {
		return err
	}
	return c.To("/season/home/" + t.ID)
}

// read reads the form into a task, and who has it by name.
func (v *practiceFormView) read(c *shell.Ctx, t *store.HomeTask) (named []string) {
	f := v.Form
	v.readParts(t)
	t.Sets = f.Int("sets", 1, home.MostSets, "Sets")
	for _, d := range v.Weekdays {
		if slices.Contains(f.All("day"), strconv.Itoa(int(d))) {
			t.Days = append(t.Days, d)
		}
	}
	t.From, t.Until = f.Day("from", "From which day on?"), f.Day("until", "")
	whole := func(name string, most int, what string) (n int) {
		if f.Get(name) != "" {
			n = f.Int(name, 0, most, what)
		}
		return n
	}
	t.MoreSets, t.MostSets = whole("more", 5, "Sets more each week"), whole("most", home.MostSets, "Up to how many sets")
	t.Percent = whole("percent", 25, "In 100 more each week")
	t.Steps, t.Mix, t.Lower = f.Get("steps") != "", f.Get("mix") != "", f.Get("lower") != ""
	t.Unit, t.Says = f.Text("unit", 20, ""), f.Text("says", 200, "")
	for _, w := range strings.FieldsFunc(f.Get("levels"), func(r rune) bool { return r == ';' || r == ' ' || r == ',' }) {
		x, err := strconv.ParseFloat(w, 64)
		if err != nil || !(x >= 0 && x <= 100000) {
			f.Wrong("levels", "Levels are numbers, such as 10, 20, 40.")
		}
		t.Levels = append(t.Levels, x)
	}
	if t.Name = f.Text("name", 60, ""); t.Name == "" && len(t.Parts) > 0 {
		t.Name = string([]rune(t.Parts[0].What)[:min(60, len([]rune(t.Parts[0].What)))])
	}
	if t.Criterion = f.Get("criterion"); t.Criterion != "" &&
		!slices.ContainsFunc(v.Criteria, func(k choice) bool { return k.ID == t.Criterion }) {
		f.Wrong("criterion", "That criterion cannot be measured at home.")
	}
	named, children := v.readWhom(c, t)
	for _, b := range t.Check(time.Duration(v.Most)*time.Minute, children) {
		f.Wrong(b.Field, "%s", b.Says)
	}
	return named
}

func (v *practiceFormView) readParts(t *store.HomeTask) {
	f := v.Form
	for i := range home.MostParts {
		what := v.Typed("what", i)
		seconds, count, ok := home.ParseMuch(v.Typed("much", i))
		if !ok {
			f.Wrong(fmt.Sprint("much-", i), "How much is written like 2 min, 45 s or 20.")
		}
		if what == "" {
			if v.Typed("much", i) != "" {
				f.Wrong(fmt.Sprint("much-", i), "What is done so long, or so often?")
			}
			continue
		}
		p := home.Part{What: what, Seconds: seconds, Count: count, Instead: f.Text(fmt.Sprint("instead-", i), 80, "")}
		if care := f.Text(fmt.Sprint("care-", i), 300, ""); care != "" {
			p.Care = []string{care} // whole, as it was written
		}
		for _, d := range v.drills {
			if strings.EqualFold(d.Name, what) {
				p.Drill, p.What, p.Each = d.ID, d.Name, math.Round(d.Try().Seconds()*10)/10
			}
		}
		t.Parts = append(t.Parts, p)
	}
}

// readWhom reads whom it is for; children says that somebody of them is known to be under 16.
func (v *practiceFormView) readWhom(c *shell.Ctx, t *store.HomeTask) (named []string, children bool) {
	f := v.Form
	t.Class = f.Get("class")
	at := slices.IndexFunc(v.Classes, func(k store.Class) bool { return k.ID == t.Class })
	if t.Class != "" && at < 0 {
		f.Wrong("class", "Choose the class.")
	}
	for _, p := range v.Players {
		by := slices.Contains(f.All("player"), p.ID)
		if by {
			named = append(named, p.ID)
		}
		if by || slices.Contains(v.classes[p.ID], t.Class) {
			children = children || app.Under16(p.BirthYear, c.Today())
		}
	}
	if t.Class == "" && len(named) == 0 {
		f.Wrong("class", "Whom is it for? Choose a class, or players.")
	}
	return named, children
}

// Whom says how many are ticked by name.
func (v practiceFormView) Whom() string {
	if n := len(v.Form.All("player")); n > 0 {
		return say.Count(n, "player") + " by name"
	}
	return "players by name"
}
