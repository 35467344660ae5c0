package shelf

import (
	"cmp"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

type formView struct {
	Form   *shell.Form
	ID     string
	Name   string
	Rows   []formRow
	Stages []string

	Situations []string // that drills of the shelf serve

	Gives   *drillView // what it would give, as far as it is written
	Problem string
}

// formRow is one easier or harder form as it stands in the fields.
type formRow struct {
	No                        int
	Name, Side, Suits, Target string
	Chance, Pace              string
	Length, Width             string
	Changes                   [3]coach.Change
	Else                      string
	Blank                     bool
}

func form(c *shell.Ctx) error {
	v := formView{Form: shell.NewForm(c), ID: c.Param("id")}
	d := exchange.Usual()
	if v.ID != "" {
		var err error
		if d, err = named(c); err != nil {
			return err
		}
		v.Name = d.Name
	} else {
		d.Author = c.Member.Name
	}
	if v.Form.Values = typed(d, c.Club.Units); v.ID != "" {
		v.Form.Shows(d)
	}
	return v.show(c, http.StatusOK)
}

func (v formView) show(c *shell.Ctx, status int) error {
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Stages, err = stageNames(c, tx); err != nil {
			return err
		}
		v.Situations, err = situations(c, tx)
		return err
	})
	if err != nil {
		return err
	}
	v.Rows = rowsOf(v.Form.Values)
	for range 2 {
		v.Rows = append(v.Rows, formRow{No: len(v.Rows) + 1, Blank: true, Side: "harder"})
	}
	return c.Page(pages, status, "drill-form.html", "Drill", v)
}

// Movements are the ways to move, for choosing one.
func (formView) Movements() []string { return coach.Movements }

// typed are a drill's fields as the form shows them.
func typed(d coach.Drill, units coach.Units) url.Values {
	f := url.Values{}
	for k, s := range map[string]string{"name": d.Name, "purpose": d.Purpose, "setup": d.Setup, "skills": strings.Join(d.Skills, ", "), "leader": string(d.Leader), "target": string(d.Target.Kind),
		"keys": strings.Join(d.Keys, "\n"), "cautions": strings.Join(d.Cautions, "\n"), "kit": strings.Join(d.Kit, ", "), "asks": strings.Join(d.Asks, ", "), "roles": strings.Join(d.Roles, ", "),
		"warms": strings.Join(d.Warms, ", "), "not-before": strings.Join(d.NotBefore, ", "), "after": strings.Join(d.After, ", "), "practice": d.Practice, "approach": d.Approach, "form": d.Form,
		"moves": d.Moves, "situation": d.Situation, "forfeits": strings.Join(d.Forfeits, "\n"), "table": tableText(d.Table), "routine": strings.Join(d.Routine, "\n"),
		"suits": d.Suits, "author": d.Author, "licence": d.Licence, "back": d.Target.Back, "swap": d.Target.Swap, "better": d.Target.Better, "opens": d.Target.Opens, "rules": d.Target.Rules} {
		f.Set(k, s)
	}
	for k, x := range map[string]float64{"places": float64(d.Places), "least": float64(d.Least), "most": float64(d.Most), "pace": d.Pace,
		"try": math.Round(600/max(d.Pace, 0.1)) / 10, "chance": d.Chance * 10, "n": float64(d.Target.N)} {
		f.Set(k, coach.Figure(x))
	}
	for k, m := range map[string]float64{"length": d.Length, "width": d.Width, "clearance": d.Clearance, "fire": d.Fire} {
		f.Set(k, units.Length(m))
	}
	for k, n := range map[string]int{"work": d.Work, "rest": d.Rest, "series": d.Series, "against": d.Target.Against, "seconds": d.Target.Seconds, "of-skills": d.Target.Skills, "of": d.Target.Of, "minus": d.Target.Minus, "bonus": d.Target.Bonus, "from-min": d.Minutes[0], "to-min": d.Minutes[1]} {
		if n > 0 {
			f.Set(k, strconv.Itoa(n))
		}
	}
	if d.Target.BonusIn > 0 {
		f.Set("bonus-in", coach.Figure(d.Target.BonusIn*10))
	}
	if d.Hard {
		f.Set("hard", "1")
	}
	for i, v := range d.Variants {
		side := "easier"
		if i >= d.Easier {
			side = "harder"
		}
		set := func(name, value string) { f.Add("v-"+name, value) }
		set("order", strconv.Itoa(i+1))
		set("name", v.Name)
		set("side", side)
		set("suits", v.Suits)
		for name, x := range map[string]float64{"target": float64(v.Target), "chance": v.Chance * 10, "pace": v.Pace} {
			own := "" // as the drill has it
			if x > 0 {
				own = coach.Figure(x)
			}
			set(name, own)
		}
		for name, m := range map[string]float64{"length": v.Length, "width": v.Width} {
			own := "" // as the drill has it
			if m > 0 {
				own = units.Length(m)
			}
			set(name, own)
		}
		set("else", v.Differs)
		for j := range 3 {
			change := coach.Change{}
			if j < len(v.Changes) {
				change = v.Changes[j]
			}
			set("what", change.What)
			set("says", change.Says)
		}
	}
	return f
}

// rowsOf reads the rows of forms back, as they were typed.
func rowsOf(f url.Values) (out []formRow) {
	at := func(name string, i int) string {
		if vs := f["v-"+name]; i < len(vs) {
			return strings.TrimSpace(vs[i])
		}
		return ""
	}
	for i := range min(len(f["v-name"]), 12) {
		r := formRow{
			No:     len(out) + 1,
			Name:   at("name", i),
			Side:   at("side", i),
			Suits:  at("suits", i),
			Target: at("target", i),
			Chance: at("chance", i),
			Pace:   at("pace", i),
			Length: at("length", i),
			Width:  at("width", i),
			Else:   at("else", i),
		}
		any := r.Name + r.Else + r.Target + r.Chance + r.Pace + r.Length + r.Width
		for j := range 3 {
			r.Changes[j] = coach.Change{What: at("what", 3*i+j), Says: at("says", 3*i+j)}
			any += r.Changes[j].Says
		}
		if n, err := strconv.Atoi(at("order", i)); err == nil {
			r.No = n
		}
		if any != "" {
			out = append(out, r)
		}
	}
	slices.SortStableFunc(out, func(a, b formRow) int { return cmp.Or(sideOrder(a.Side)-sideOrder(b.Side), a.No-b.No) })
	for i := range out {
		out[i].No = i + 1
	}
	return out
}

func sideOrder(side string) int {
	if side == "easier" {
		return 0
	}
	return 1
}

// readForm puts what was typed into the drill; what the form does not show stays as it is. Everything wrong is noted at
// its field.
func readForm(f *shell.Form, d coach.Drill) coach.Drill {
	number := func(name string) float64 {
		s := strings.Replace(f.Get(name), ",", ".", 1)
		if s == "" {
			return 0
		}
		x, err := strconv.ParseFloat(s, 64)
		if err != nil {
			f.Wrong(name, "%q is not a number.", f.Get(name))
		}
		return x
	}
	whole := func(name string) int {
		x := number(name)
		if x != float64(int(x)) {
			f.Wrong(name, "A whole number, please.")
		}
		return int(x)
	}
	d.Name, d.Purpose, d.Setup = fields(f.Get("name")), f.Get("purpose"), f.Get("setup")
	d.Skills, d.Kit, d.Asks, d.Roles = f.Commas("skills"), f.Commas("kit"), f.Commas("asks"), f.Commas("roles")
	d.Warms, d.NotBefore, d.After = f.Commas("warms"), f.Commas("not-before"), f.Commas("after")
	d.Tidy()
	d.Keys, d.Cautions = f.Lines("keys", 12), f.Lines("cautions", 12)
	d.Places, d.Least, d.Most = whole("places"), whole("least"), whole("most")
	metres := func(name string, was float64) float64 {
		if f.Get(name) == "" {
			return 0
		}
		return f.Length(name, 0, 400, was, "A length")
	}
	d.Pace = pace(f, number)
	d.Length, d.Width = metres("length", d.Length), metres("width", d.Width)
	d.Clearance, d.Fire = metres("clearance", d.Clearance), metres("fire", d.Fire)
	d.Chance = number("chance") / 10
	d.Work, d.Rest, d.Series = whole("work"), whole("rest"), whole("series")
	d.Minutes = [2]int{whole("from-min"), whole("to-min")}
	d.Practice, d.Approach, d.Form, d.Suits = f.Get("practice"), f.Get("approach"), f.Get("form"), f.Get("suits")
	d.Moves, d.Situation = f.Get("moves"), fields(f.Get("situation"))
	d.Routine = f.Lines("routine", coach.MostSkills)
	d.Forfeits, d.Table = f.Lines("forfeits", 12), readTable(f.Values.Get("table"))
	d.Author, d.Licence = f.Get("author"), f.Get("licence")
	d.Hard, d.Leader = f.Get("hard") != "", coach.Leader(f.Get("leader"))
	d.Target = readTarget(f, whole, number)
	readVariants(f, &d)
	for _, t := range d.Check() {
		f.Wrong(t.Field, "%s", t.Says)
	}
	return d
}

// pace reads how fast a drill is: tries a minute, or seconds for each; where both are typed they have to say the same.
func pace(f *shell.Form, number func(string) float64) float64 {
	if f.Get("pace") == "" && f.Get("try") != "" {
		if try := number("try"); try > 0 {
			return 60 / try
		}
		f.Wrong("try", "Seconds for each: more than 0.")
		return 0
	}
	p := number("pace")
	if f.Get("try") == "" || p <= 0 {
		return p
	}
	if try := number("try"); try > 0 && math.Abs(60/p-try) > 0.06+0.02*try {
		f.Wrong("try", "%s a minute are %s s each. Empty one of the two, and the other counts.", coach.Figure(p),
			coach.Figure(math.Round(600/p)/10))
	}
	return p
}

// tableText is a drill's table as it is typed: a line for each row, its cells between bars. readTable reads it back.
func tableText(rows [][]string) string {
	var lines []string
	for _, r := range rows {
		lines = append(lines, strings.Join(r, " | "))
	}
	return strings.Join(lines, "\n")
}

func readTable(text string) (rows [][]string) {
	columns := 0
	for line := range strings.Lines(text) {
		if line = strings.Trim(strings.TrimSpace(line), "|"); line == "" {
			continue
		}
		var row []string
		for cell := range strings.SplitSeq(line, "|") {
			row = append(row, fields(cell))
		}
		rows, columns = append(rows, row), max(columns, len(row))
	}
	for i := range rows {
		rows[i] = append(rows[i], make([]string, columns-len(rows[i]))...)
	}
	return rows
}

// readTarget reads what the chosen kind of target needs; what stands in the fields of the others is let go.
func readTarget(f *shell.Form, whole func(string) int, number func(string) float64) coach.Target {
	t := coach.Target{Kind: coach.TargetKind(f.Get("target"))}
	if t.Kind != coach.NoTarget {
		t.N = whole("n")
	}
	switch t.Kind {
	case coach.InATime:
		t.Seconds = whole("seconds")
	case coach.Race:
		t.Against, t.Swap = whole("against"), f.Get("swap")
	case coach.SetOfStreaks:
		t.Skills, t.Back = whole("of-skills"), f.Get("back")
	case coach.FewFaults:
		t.Of = whole("of")
	case coach.Score:
		t.Minus, t.Bonus = whole("minus"), whole("bonus")
		t.Better, t.BonusIn = fields(f.Get("better")), number("bonus-in")/10
	case coach.Gate:
		t.Opens = fields(f.Get("opens"))
	case coach.OwnRules:
		t.Rules = fields(f.Get("rules"))
	}
	return t
}

// readVariants reads the drill's easier and harder forms, row by row.
func readVariants(f *shell.Form, d *coach.Drill) {
	before := d.Variants
	d.Variants, d.Easier = nil, 0
	for _, r := range rowsOf(f.Values) {
		v := coach.Variant{Name: fields(r.Name), Suits: r.Suits, Differs: r.Else}
		for _, k := range r.Changes {
			if k.Says != "" {
				if k.What == "" {
					k.What = coach.Aspects[0]
				}
				v.Changes = append(v.Changes, k)
			}
		}
		figure := func(s string) float64 {
			if s == "" {
				return 0
			}
			x, err := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
			if err != nil {
				f.Wrong("variants", "%s: %q is not a number.", r.Name, s)
			}
			return x
		}
		long := func(s string) float64 {
			m, ok := f.Units.ParseLength(s)
			if s != "" && !ok {
				f.Wrong("variants", "%s: %q is not a length.", r.Name, s)
			}
			return m
		}
		n := figure(r.Target)
		if n != math.Trunc(n) {
			f.Wrong("variants", "%s: the target is a whole number.", r.Name)
		}
		v.Target, v.Chance, v.Pace = int(n), figure(r.Chance)/10, figure(r.Pace)
		v.Length, v.Width = long(r.Length), long(r.Width)
		if i := slices.IndexFunc(before, func(o coach.Variant) bool { return o.Name == v.Name }); i >= 0 &&
			d.Target.Kind == coach.Race {
			v.Against = before[i].Against // has no field of its own
		}
		if r.Side == "easier" {
			d.Easier++
		}
		d.Variants = append(d.Variants, v)
	}
}

// gives answers with what the drill in the fields would give a group, while it is written.
func gives(c *shell.Ctx) error {
	v := drillView{Drill: readForm(shell.NewForm(c), exchange.Usual())}
	for _, t := range v.Drill.Check() {
		if t.Field != "name" && t.Field != "skills" {
			return c.Part(pages, "gives", formView{Problem: t.Says})
		}
	}
	v.Forms, v.Own = v.Drill.Forms()
	v.As, v.At = v.Drill, v.Own
	v.work(c, work.Input{})
	return c.Part(pages, "gives", formView{Gives: &v})
}

func save(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := formView{Form: f, ID: c.Param("id"), Name: f.Get("name")}
	d := exchange.Usual()
	if v.ID != "" {
		var err error
		if d, err = named(c); err != nil {
			return err
		}
		f.Since(d.Name, d)
	}
	was := d
	d = readForm(f, d)
	if !f.OK() {
		return v.show(c, http.StatusUnprocessableEntity)
	}
	says := "Kept a new edition of " + d.Name
	if d.ID == "" {
		d.ID, says, c.Back = store.NewID(), "Added "+d.Name, "/shelf"
	} else if len(coach.Compare(was, d, c.Club.Units)) == 0 {
		c.Say("Nothing was changed, so there is no new edition.")
		return c.To("/shelf/drill/" + d.ID)
	}
	if err := c.Change("", says, func(tx *store.Tx) error { return tx.PutDrill(c.Ctx(), d, c.Now) }); err != nil {
		return err
	}
	return c.To("/shelf/drill/" + d.ID)
}
