package exchange

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach"
)

// DrillList is a plain list of drills to begin with.
var DrillList = List{"drill", func(h string) bool { return drillField(h) != "" }}

// DrillColumns are the columns that a list of drills can have, with the headings that are understood. Only the name is
// needed.
var DrillColumns = []struct {
	Name     string
	Headings []string
}{
	{"name", []string{"name", "drill", "exercise", "title"}},
	{"purpose", []string{"purpose", "aim", "what for", "description"}},
	{"setup", []string{"setup", "setting up", "organisation", "organization"}},
	{"skills", []string{"skills", "skill"}},
	{"least", []string{"least", "players from", "min players", "players"}},
	{"most", []string{"most", "players to", "max players"}},
	{"places", []string{"places", "at once"}},
	{"length", []string{"length"}},
	{"width", []string{"width"}},
	{"minutes", []string{"minutes", "time", "duration"}},
	{"leader", []string{"leader", "who"}},
	{"keys", []string{"keys", "coaching points", "points"}},
	{"kit", []string{"kit", "equipment", "material"}},
	{"cautions", []string{"cautions", "mind", "safety"}},
}

func drillField(heading string) string {
	h := strings.ToLower(strings.Trim(heading, " :*_"))
	for _, c := range DrillColumns {
		if slices.Contains(c.Headings, h) {
			return c.Name
		}
	}
	return ""
}

// BadLine is a line of a list that cannot be taken, with why.
type BadLine struct {
	Line      int
	Name, Why string
}

// ReadDrills makes a pack of a plain list: name, and what else its headings say; lists inside a cell stand between
// semicolons or bars, ranges as 3-6. What a list does not say begins with usual values, for the coach to go over. Lines
// that cannot be are left out and named. newID gives each drill its id.
func ReadDrills(b []byte, newID func() string) (p Pack, bad []BadLine, err error) {
	t, err := ReadTable(b, DrillList)
	if err != nil {
		return p, nil, sentence("%s.", upperFirst(err.Error()))
	}
	at := map[string]int{"name": 0}
	if len(t.Header) > 0 {
		at = map[string]int{}
		for i, h := range t.Header {
			if f := drillField(h); f != "" {
				if _, twice := at[f]; !twice {
					at[f] = i
				}
			}
		}
		if _, ok := at["name"]; !ok {
			return p, nil, sentence("No column is headed name. Nothing was taken.")
		}
	}
	for _, r := range t.Rows {
		cell := func(f string) string {
			if i, ok := at[f]; ok && i < len(r.Cells) {
				return r.Cells[i]
			}
			return ""
		}
		d, why := listed(cell)
		if trouble := d.Check(); why == "" && len(trouble) > 0 {
			why = trouble[0].Field + ": " + trouble[0].Says
		}
		if why != "" {
			bad = append(bad, BadLine{r.Line, d.Name, why})
			continue
		}
		p.Drills = append(p.Drills, PackDrill{ID: newID(), Edition: 1, Drill: d})
	}
	return p, bad, nil
}

// Usual is a drill as it begins: what is not said yet.
func Usual() coach.Drill {
	return coach.Drill{
		Approach:  "technique-first",
		Practice:  "blocked",
		Form:      "cooperative",
		Places:    2,
		Least:     3,
		Most:      6,
		Pace:      6,
		Length:    8,
		Width:     6,
		Clearance: 1,
		Chance:    0.7,
		Leader:    coach.SelfRun,
	}
}

func listed(cell func(string) string) (d coach.Drill, why string) {
	d = Usual()
	d.Name, d.Purpose, d.Setup = cell("name"), cell("purpose"), cell("setup")
	d.Keys, d.Kit, d.Cautions = parts(cell("keys")), parts(cell("kit")), parts(cell("cautions"))
	for _, s := range split(cell("skills")) {
		d.Skills = append(d.Skills, strings.ToLower(s))
	}
	if len(d.Skills) == 0 {
		d.Skills = []string{"movement"}
	}
	numbers := func(f string) (low, high float64, said bool) {
		s := strings.NewReplacer("–", "-", ",", ".").Replace(cell(f))
		if s == "" || why != "" {
			return 0, 0, false
		}
		a, b, isRange := strings.Cut(s, "-")
		low, err := strconv.ParseFloat(strings.TrimSpace(a), 64)
		high = low
		if isRange && err == nil {
			high, err = strconv.ParseFloat(strings.TrimSpace(b), 64)
		}
		if err != nil {
			why = fmt.Sprintf("%s: %q is not a number, nor a range such as 3-6.", f, cell(f))
			return 0, 0, false
		}
		if high < low {
			why = fmt.Sprintf("%s: %q goes down; write the smaller number first.", f, cell(f))
		}
		return low, high, true
	}
	if low, high, said := numbers("least"); said {
		d.Least, d.Most = int(low), max(int(high), d.Most)
		if high > low {
			d.Most = int(high)
		}
	}
	if low, _, said := numbers("most"); said {
		d.Most = int(low)
	}
	if low, _, said := numbers("places"); said {
		d.Places = int(low)
	}
	if low, _, said := numbers("length"); said {
		d.Length = low
	}
	if low, _, said := numbers("width"); said {
		d.Width = low
	}
	if low, high, said := numbers("minutes"); said {
		d.Minutes = [2]int{int(low), int(high)}
	}
	if s := strings.TrimPrefix(strings.ToLower(cell("leader")), "a "); s != "" {
		leaders := map[string]coach.Leader{
			"none":            coach.SelfRun,
			"nobody":          coach.SelfRun,
			"self":            coach.SelfRun,
			"helper":          coach.AnyHelper,
			"coach":           coach.AnyCoach,
			"qualified":       coach.Qualified,
			"qualified coach": coach.Qualified,
		}
		l, ok := leaders[s]
		if !ok && why == "" {
			why = fmt.Sprintf("leader: %q is not one of nobody, helper, coach and qualified coach.", s)
		}
		d.Leader = l
	}
	return d, why
}

func parts(s string) (out []string) {
	for _, w := range strings.FieldsFunc(s, func(r rune) bool { return r == ';' || r == '|' }) {
		if w = strings.TrimSpace(w); w != "" {
			out = append(out, w)
		}
	}
	return out
}

func upperFirst(s string) string { return strings.ToUpper(s[:1]) + s[1:] }
