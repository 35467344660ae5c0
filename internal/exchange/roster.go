package exchange

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"

	"gruppo/internal/coach/say"
)

// Field is a column that a roster can have.
type Field string

const (
	Name  Field = "name"
	Year  Field = "year"
	Stage Field = "stage"
	Side  Field = "side"
	Tags  Field = "tags"
	With  Field = "with"
	Apart Field = "apart"
)

// Fields in the order they are shown.
var Fields = []Field{Name, Year, Stage, Side, Tags, With, Apart}

// String is the column's name on the page.
func (f Field) String() string {
	return map[Field]string{Name: "Shown name", Year: "Birth year", Stage: "Stage", Side: "Side", Tags: "Tags", With: "Keep with", Apart: "Keep apart"}[f]
}

var headings = map[Field][]string{
	Name: {
		"name",
		"shown name",
		"player",
		"full name",
		"display name",
		"nombre",
		"nom",
		"nome",
		"jogador",
		"spieler",
		"joueur",
		"naam",
	},
	Year: {
		"birth year",
		"year of birth",
		"born",
		"year",
		"birthyear",
		"yob",
		"dob",
		"date of birth",
		"birth date",
		"birthdate",
		"geburtsjahr",
		"jahrgang",
		"ano",
		"ano de nascimento",
		"année",
		"año",
	},
	Stage: {"stage", "level", "step", "grade", "stufe", "nivel", "nível", "niveau"},
	Side:  {"side", "hand", "foot", "dominant", "dominant hand", "seite", "lado", "côté", "mão"},
	Tags:  {"tags", "tag", "labels", "notes", "group"},
	With:  {"keep with", "keep-with", "together", "with", "friends", "friend"},
	Apart: {"keep apart", "keep-apart", "apart", "not with", "separate"},
}

func field(heading string) (Field, bool) {
	h := strings.ToLower(strings.Trim(heading, " :*_"))
	h = strings.ReplaceAll(h, "_", " ")
	for _, f := range Fields {
		if slices.Contains(headings[f], h) {
			return f, true
		}
	}
	return "", false
}

// Roster is a list of players.
var Roster = List{"player", func(h string) bool { _, ok := field(h); return ok }}

// Columns says which column holds each field; a field that is not there is missing from the map.
type Columns map[Field]int

// Guess recognises the columns by their headings. Without headings the first is the name and a column of years the
// birth year.
func (t Table) Guess() Columns {
	out := Columns{}
	for i, h := range t.Header {
		if f, ok := field(h); ok {
			if _, twice := out[f]; !twice {
				out[f] = i
			}
		}
	}
	if _, ok := out[Name]; ok || len(t.Header) > 0 {
		return out
	}
	out[Name] = 0
	for i := range t.Rows[0].Cells {
		if y, err := strconv.Atoi(t.Rows[0].Cells[i]); err == nil && y > 1900 && y < 2200 {
			out[Year] = i
		}
	}
	return out
}

// Person is a player as the file and the roster know them.
type Person struct {
	ID    string // empty: not in the roster yet
	Name  string
	Year  int
	Stage string // id
	Side  string
	Tags  []string
	With  []string // names
	Apart []string

	Stands map[string]string // of the roster: program → stage
	Marked map[string]int    // of the roster: program → order of the highest stage at which they were marked; missing where nobody has
	stage  StageName         // of a row: the one named
}

// mayStand says why a list cannot put a player of the roster on the stage of a row; empty when it can. Before the first
// mark it corrects a mistake.
func (p Person) mayStand(row Person) string {
	if row.Stage == "" || p.Stands[row.stage.ProgramID] == row.Stage {
		return ""
	}
	highest, marked := p.Marked[row.stage.ProgramID]
	if _, in := p.Stands[row.stage.ProgramID]; marked && (in || row.stage.Order > highest) {
		return p.Name + " has been marked here already: another stage is decided on the Stairs, not listed."
	}
	return ""
}

// Kind of what a row would do.
type Kind string

const (
	Add    Kind = "add"
	Change Kind = "change"
	Same   Kind = "same"
	Bad    Kind = "bad"
)

// Row is what a line of the file would do.
type Row struct {
	Line     int
	Kind     Kind
	Person   Person
	Cells    map[Field]string
	Problems map[Field]string
	Changes  []string // in words
}

// StageName names a stage for finding it: by its own name, or "Program: Stage" where two have the same.
type StageName struct {
	ID, Program, Name string
	ProgramID         string
	Order             int // in the program
}

// Known is what rows are compared with.
type Known struct {
	People []Person
	Stages []StageName
	Today  time.Time
}

// Fix replaces cells: by line and field.
type Fix map[int]map[Field]string

// Correct puts corrected cells in their place in the table.
func (t Table) Correct(cols Columns, fixes Fix) {
	for r, rec := range t.Rows {
		for f, v := range fixes[rec.Line] {
			i, ok := cols[f]
			for ok && i >= len(t.Rows[r].Cells) {
				t.Rows[r].Cells = append(t.Rows[r].Cells, "")
			}
			if ok {
				t.Rows[r].Cells[i] = strings.TrimSpace(v)
			}
		}
	}
}

// Compare works out what each row would do to the roster. A row with a problem does nothing. Only the fields that have
// a column are compared, so a file with names alone changes nothing else.
func Compare(t Table, cols Columns, known Known) []Row {
	rows := make([]Row, 0, len(t.Rows))
	for _, rec := range t.Rows {
		r := Row{Line: rec.Line, Cells: map[Field]string{}, Problems: map[Field]string{}}
		for f, i := range cols {
			if i >= 0 && i < len(rec.Cells) {
				r.Cells[f] = rec.Cells[i]
			}
		}
		r.read(cols, known)
		rows = append(rows, r)
	}
	find := newFinder(known.People, rows)
	before := map[string]Person{}
	for _, p := range known.People {
		before[p.ID] = p
	}
	for i := range rows {
		find.match(&rows[i], rows)
	}
	for i := range rows {
		r := &rows[i]
		for _, f := range []Field{With, Apart} {
			for _, name := range r.names(f) {
				if !find.knows(name) {
					r.wrong(f, "Nobody called %s is in this list or the roster.", name)
				} else if key(name) == key(r.Person.Name) {
					r.wrong(f, "%s cannot be kept %s.", name, map[Field]string{With: "with themselves", Apart: "apart from themselves"}[f])
				}
			}
		}
	}
	for i := range rows { // a keep named on one of two lines holds for both
		for _, n := range rows[i].Person.With {
			find.mirror(rows, n, rows[i].Person.Name, With)
		}
		for _, n := range rows[i].Person.Apart {
			find.mirror(rows, n, rows[i].Person.Name, Apart)
		}
	}
	find.wait(rows)
	for i := range rows {
		rows[i].judge(cols, before)
	}
	return rows
}

// wait finds who waits for a line that is not taken: a keep with somebody whom only a line with a problem would add.
// They are not taken either, nor who waits for them.
func (f finder) wait(rows []Row) {
	good := map[string]int{}    // lines of a name that can be taken
	named := map[string][]int{} // lines that name somebody who is not on the roster
	var bad []int
	for i := range rows {
		if len(rows[i].Problems) > 0 {
			bad = append(bad, i)
		} else {
			good[key(rows[i].Person.Name)]++
		}
		for _, n := range append(slices.Clone(rows[i].Person.With), rows[i].Person.Apart...) {
			if k := key(n); len(f.roster[k]) == 0 {
				named[k] = append(named[k], i)
			}
		}
	}
	for n := 0; n < len(bad); n++ {
		k := key(rows[bad[n]].Person.Name)
		if good[k] > 0 {
			continue
		}
		for _, i := range named[k] {
			r := &rows[i]
			if len(r.Problems) > 0 {
				continue
			}
			for _, field := range []Field{With, Apart} {
				for _, name := range r.names(field) {
					if key(name) == k {
						r.wrong(
							field,
							"%s stands on line %d, which has to be corrected first.",
							name,
							rows[f.inFile[k][0]].Line,
						)
					}
				}
			}
			if own := key(r.Person.Name); len(r.Problems) > 0 {
				good[own]--
				bad = append(bad, i)
			}
		}
		named[k] = nil
	}
}

// mirror adds name to the list of the row called to, where that row has a list of its own.
func (f finder) mirror(rows []Row, to, name string, list Field) {
	for _, i := range f.inFile[key(to)] {
		if rows[i].Cells[list] == "" || len(rows[i].names(list)) > 20*maxNames ||
			slices.ContainsFunc(rows[i].names(list), func(n string) bool { return key(n) == key(name) }) {
			continue
		}
		if list == With {
			rows[i].Person.With = append(rows[i].Person.With, name)
		} else {
			rows[i].Person.Apart = append(rows[i].Person.Apart, name)
		}
	}
}

func (r *Row) wrong(f Field, format string, args ...any) {
	if r.Problems[f] == "" {
		r.Problems[f] = fmt.Sprintf(format, args...)
	}
}

func (r *Row) names(f Field) []string {
	if f == With {
		return r.Person.With
	}
	return r.Person.Apart
}

func (r *Row) read(cols Columns, known Known) {
	p := &r.Person
	p.Name = r.Cells[Name]
	switch {
	case p.Name == "":
		r.wrong(Name, "There is no name on this line.")
	case len([]rune(p.Name)) > 80:
		r.wrong(Name, "A name of %d letters; 80 are the most.", len([]rune(p.Name)))
	case !strings.ContainsFunc(p.Name, unicode.IsLetter):
		r.wrong(Name, "There is no letter in this name.")
	}
	if y := r.Cells[Year]; y != "" {
		var why string
		if p.Year, why = BirthYear(y, known.Today); why != "" {
			r.wrong(Year, "%s", why)
		}
	}
	if s := r.Cells[Stage]; s != "" {
		st, why := findStage(known.Stages, s)
		p.Stage, p.stage = st.ID, st
		if why != "" {
			r.wrong(Stage, "%s", why)
		}
	}
	if s := strings.ToLower(r.Cells[Side]); s != "" {
		for side, words := range map[string][]string{"left": {"left", "l", "links", "izquierda", "esquerda", "gauche"}, "right": {"right", "r", "rechts", "derecha", "direita", "droite"}, "both": {"both", "b", "beide", "ambas", "les deux"}} {
			if slices.Contains(words, s) {
				p.Side = side
			}
		}
		if p.Side == "" {
			r.wrong(Side, "A side is left, right or both.")
		}
	}
	p.Tags, p.With, p.Apart = split(r.Cells[Tags]), split(r.Cells[With]), split(r.Cells[Apart])
	for f, list := range map[Field][]string{Tags: p.Tags, With: p.With, Apart: p.Apart} {
		if len(list) > maxNames {
			r.wrong(f, "That is %d; %d are the most.", len(list), maxNames)
		}
	}
	for _, n := range p.With {
		if slices.ContainsFunc(p.Apart, func(o string) bool { return key(o) == key(n) }) {
			r.wrong(Apart, "%s is to be kept with and apart at once.", n)
		}
	}
}

// BirthYear reads a year, or the year of a date, and says what is wrong with it.
func BirthYear(s string, today time.Time) (int, string) {
	y := 0
	digits := func(r rune) bool { return !unicode.IsDigit(r) }
	for _, part := range strings.FieldsFunc(s, digits) {
		if len(part) == 4 {
			y, _ = strconv.Atoi(part)
		}
	}
	switch {
	case y == 0:
		return 0, "A birth year has four digits, like 2016."
	case y > today.Year():
		return 0, fmt.Sprintf("%d has not come yet.", y)
	case y < today.Year()-110:
		return 0, fmt.Sprintf("%d would be over 110 years ago.", y)
	}
	return y, ""
}

// findStage finds the stage of a name, with or without its program before it.
func findStage(stages []StageName, s string) (found StageName, why string) {
	var all, fits []string
	for _, st := range stages {
		whole := st.Program + ": " + st.Name
		if strings.EqualFold(st.Name, s) || strings.EqualFold(whole, s) {
			found, fits = st, append(fits, whole)
		}
		if slices.ContainsFunc(stages, func(o StageName) bool { return o != st && strings.EqualFold(o.Name, st.Name) }) {
			all = append(all, whole)
		} else {
			all = append(all, st.Name)
		}
	}
	switch {
	case len(fits) == 0:
		return found, fmt.Sprintf("No stage is called %s; there are %s.", s, say.List(all))
	case len(fits) > 1:
		return StageName{}, fmt.Sprintf("%d programs have a stage %s; write one of: %s.", len(fits), s, strings.Join(fits, ", "))
	}
	return found, ""
}

func split(s string) []string {
	var out []string
	for _, w := range strings.FieldsFunc(s, func(r rune) bool { return r == ';' || r == ',' || r == '|' || r == '/' }) {
		if w = strings.TrimSpace(w); w != "" {
			out = append(out, w)
		}
	}
	return out
}

func key(name string) string { return strings.ToLower(strings.Join(strings.Fields(name), " ")) }

// finder finds people by name, and by birth year where two have the same name.
type finder struct {
	roster map[string][]Person
	inFile map[string][]int // indices of rows
	taken  map[string]int   // player → the line that is them
}

func newFinder(people []Person, rows []Row) finder {
	f := finder{map[string][]Person{}, map[string][]int{}, map[string]int{}}
	for _, p := range people {
		f.roster[key(p.Name)] = append(f.roster[key(p.Name)], p)
	}
	for i, r := range rows {
		f.inFile[key(r.Person.Name)] = append(f.inFile[key(r.Person.Name)], i)
	}
	return f
}

func (f finder) knows(name string) bool { return len(f.roster[key(name)])+len(f.inFile[key(name)]) > 0 }

func (f finder) match(r *Row, rows []Row) {
	k := key(r.Person.Name)
	if k == "" {
		return
	}
	for _, i := range f.inFile[k] {
		o := rows[i]
		if o.Line >= r.Line {
			break
		}
		if o.Person.Year == r.Person.Year {
			r.wrong(
				Name,
				"The same name as on line %d. If they are two people, tell them apart by a birth year or an initial.",
				o.Line,
			)
			return
		}
		if len(f.roster[k]) > 0 && (o.Person.Year == 0 || r.Person.Year == 0) { // both would be the one on the roster
			r.wrong(
				Name,
				"The same name as on line %d, and one of the two lines has no birth year: which of them is who? Add it, or an initial.",
				o.Line,
			)
			return
		}
	}
	var fits []Person
	for _, p := range f.roster[k] {
		if r.Person.Year == 0 || p.Year == 0 || p.Year == r.Person.Year {
			fits = append(fits, p)
		}
	}
	if exact := slices.IndexFunc(fits, func(p Person) bool { return r.Person.Year != 0 && p.Year == r.Person.Year }); exact >= 0 {
		fits = fits[exact : exact+1]
	}
	switch len(fits) {
	case 0:
	case 1:
		r.Person.ID = fits[0].ID
		if taken, twice := f.taken[r.Person.ID]; twice {
			r.wrong(
				Name,
				"This would be the same player as on line %d. Add a birth year or an initial to tell them apart.",
				taken,
			)
			return
		}
		f.taken[r.Person.ID] = r.Line
		if why := fits[0].mayStand(r.Person); why != "" {
			r.wrong(Stage, "%s", why)
		}
	default:
		r.wrong(
			Name,
			"%d players in the roster are called %s. Add the birth year to say which.",
			len(fits),
			r.Person.Name,
		)
	}
}

// judge says what the row does, once its problems are known.
func (r *Row) judge(cols Columns, roster map[string]Person) {
	if len(r.Problems) > 0 {
		r.Kind = Bad
		return
	}
	if r.Person.ID == "" {
		r.Kind = Add
		return
	}
	before := roster[r.Person.ID]
	p := &r.Person
	changed := func(f Field, same bool, words string) {
		if _, has := cols[f]; has && !same && r.Cells[f] != "" { // an empty cell takes nothing away
			r.Changes = append(r.Changes, words)
		}
	}
	sameNames := func(a, b []string) bool {
		x, y := make([]string, 0, len(a)), make([]string, 0, len(b))
		for _, n := range a {
			x = append(x, key(n))
		}
		for _, n := range b {
			y = append(y, key(n))
		}
		slices.Sort(x)
		slices.Sort(y)
		return slices.Equal(slices.Compact(x), slices.Compact(y))
	}
	changed(Name, before.Name == p.Name, "name")
	changed(Year, before.Year == p.Year, "birth year")
	changed(Stage, before.Stage == p.Stage, "stage")
	changed(Side, before.Side == p.Side, "side")
	changed(Tags, sameNames(before.Tags, p.Tags), "tags")
	changed(With, sameNames(before.With, p.With), "keep with")
	changed(Apart, sameNames(before.Apart, p.Apart), "keep apart")
	r.Kind = Same
	if len(r.Changes) > 0 {
		r.Kind = Change
	}
	// What the file does not say stays as it is.
	keep := func(f Field, restore func()) {
		if r.Cells[f] == "" {
			restore()
		}
	}
	keep(Year, func() { p.Year = before.Year })
	keep(Stage, func() { p.Stage = before.Stage })
	keep(Side, func() { p.Side = before.Side })
	keep(Tags, func() { p.Tags = before.Tags })
	keep(With, func() { p.With = before.With })
	keep(Apart, func() { p.Apart = before.Apart })
}
