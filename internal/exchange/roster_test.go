package exchange

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

var today = time.Date(2026, 11, 24, 0, 0, 0, 0, time.UTC)

var stages = []StageName{
	{ID: "s1", Program: "Handball", Name: "Shore", ProgramID: "p", Order: 1},
	{ID: "s2", Program: "Handball", Name: "Reef", ProgramID: "p", Order: 2},
}

func read(t *testing.T, text string) Table {
	t.Helper()
	tab, err := ReadTable([]byte(text), Roster)
	if err != nil {
		t.Fatal(err)
	}
	return tab
}

const list = "Name;Born;Stage;Side;Keep with\nFemi Adeyemi;2016;Reef;left;Zoë Müller\nZoë Müller;2017;Shore;;\n"

// RFC 4180 for the format; the letters come back the same from every encoding a spreadsheet writes.
func TestTheSameListInEveryEncoding(t *testing.T) {
	latin, err := charmap.Windows1252.NewEncoder().String(list)
	if err != nil {
		t.Fatal(err)
	}
	utf16, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().String(list)
	if err != nil {
		t.Fatal(err)
	}
	for name, text := range map[string]string{"UTF-8": list, "with a mark": "\ufeff" + list, "Windows-1252": latin, "UTF-16": utf16,
		"tabs": strings.ReplaceAll(list, ";", "\t"), "commas": strings.ReplaceAll(list, ";", ","), "old line ends": strings.ReplaceAll(list, "\n", "\r\n")} {
		tab := read(t, text)
		rows := Compare(tab, tab.Guess(), Known{Stages: stages, Today: today})
		if len(rows) != 2 || rows[0].Kind != Add || rows[1].Person.Name != "Zoë Müller" ||
			rows[0].Person.Stage != "s2" ||
			rows[0].Person.With[0] != "Zoë Müller" ||
			rows[0].Person.Side != "left" {
			t.Errorf("%s: %+v", name, rows)
		}
	}
}

func TestQuotesAndLineBreaks(t *testing.T) {
	tab := read(t, "name,tags\n\"Lee, Jo \"\"JJ\"\"\",\"fast\nbrave\"\nAmal,\"a;b\"\n")
	if got := tab.Rows[0].Cells; got[0] != `Lee, Jo "JJ"` || got[1] != "fast brave" {
		t.Errorf("cells %q", got)
	}
	if tab.Rows[1].Line != 4 {
		t.Errorf("the second player begins on line %d, want 4", tab.Rows[1].Line)
	}
	if tab := read(t, "name\tkeep apart\nAmal\tBo;Cy;Di;Ed\nBo\tAmal;Cy;Di;Ed\n"); len(tab.Rows[0].Cells) != 2 {
		t.Errorf("a list inside a cell was taken for columns: %q", tab.Rows[0].Cells)
	}
	if tab := read(t, "name,year\nJo \"JJ\" Lee,2015\n"); tab.Rows[0].Cells[0] != `Jo "JJ" Lee` {
		t.Errorf("quotes inside a name: %q", tab.Rows[0].Cells)
	}
}

func TestBadRowsAreNamedAndCanBeCorrected(t *testing.T) {
	tab := read(t, `name,birth year,stage,side,keep apart
Ada,2031,Reef,left,
,2015,Shore,,
Bo,2015,Moon,up,
Cy,2014,Reef,,Nobody Known
Ada,2031,Reef,,
مريم السيد,2016,Shore,right,Cy
`)
	known := Known{Stages: stages, Today: today}
	rows := Compare(tab, tab.Guess(), known)
	want := map[int]map[Field]string{
		2: {Year: "2031 has not come yet"},
		3: {Name: "no name"},
		4: {Stage: "Shore and Reef", Side: "left, right or both"},
		5: {Apart: "Nobody Known"},
	}
	for _, r := range rows {
		for f, says := range want[r.Line] {
			if r.Kind != Bad || !strings.Contains(r.Problems[f], says) {
				t.Errorf("line %d, %s: %q, want %q", r.Line, f, r.Problems[f], says)
			}
		}
	}
	if !strings.Contains(rows[4].Problems[Name]+rows[4].Problems[Year], "2031") || rows[5].Kind != Bad ||
		!strings.Contains(rows[5].Problems[Apart], "line 5") ||
		rows[5].Person.Name != "مريم السيد" {
		t.Errorf("%+v", rows[4:])
	}
	friend := read(t, "name,year,keep with\nGia,2031,\nHal,2014,Gia\nIdo,2014,Hal\n")
	for i, r := range Compare(friend, friend.Guess(), known) {
		if r.Kind != Bad || i > 0 && !strings.Contains(r.Problems[With], fmt.Sprintf("line %d", i+1)) {
			t.Errorf("line %d, whose friend is not taken: %s %v", r.Line, r.Kind, r.Problems)
		}
	}
	tab.Correct(
		tab.Guess(),
		Fix{2: {Year: "2015"}, 3: {Name: "Di"}, 4: {Stage: "reef", Side: "R"}, 5: {Apart: "Bo"}, 6: {Year: "2013"}},
	)
	fixed := Compare(tab, tab.Guess(), known)
	for _, r := range fixed {
		if r.Kind != Add {
			t.Errorf("after correcting, line %d: %s %v", r.Line, r.Kind, r.Problems)
		}
	}
}

func TestTheSameFileAgainChangesNothing(t *testing.T) {
	tab := read(t, list)
	known := Known{Stages: stages, Today: today, People: []Person{
		{
			ID:    "1",
			Name:  "Femi Adeyemi",
			Year:  2016,
			Stage: "s2",
			Side:  "left",
			Tags:  []string{"captain"},
			With:  []string{"Zoë Müller"},
		},
		{ID: "2", Name: "Zoë Müller", Year: 2017, Stage: "s1", With: []string{"Femi Adeyemi"}}}}
	for _, r := range Compare(tab, tab.Guess(), known) {
		if r.Kind != Same {
			t.Errorf("line %d: %s %v", r.Line, r.Kind, r.Changes)
		}
		if r.Person.ID == "1" && len(r.Person.Tags) != 1 {
			t.Error("the tags, which the file does not have, are lost")
		}
	}
	known.People[0].Stage = "s1"
	if r := Compare(tab, tab.Guess(), known)[0]; r.Kind != Change || r.Changes[0] != "stage" {
		t.Errorf("a new stage: %s %v", r.Kind, r.Changes)
	}
	known.People = append(known.People, Person{ID: "3", Name: "femi adeyemi", Year: 2010})
	if r := Compare(tab, tab.Guess(), known)[0]; r.Person.ID != "1" {
		t.Errorf("the birth year does not tell two of the same name apart: %+v", r)
	}
	names := read(t, "name\nFemi Adeyemi\n")
	if r := Compare(names, names.Guess(), known)[0]; r.Kind != Bad || !strings.Contains(r.Problems[Name], "2 players") {
		t.Errorf("without a year: %+v", r)
	}
}

func TestWrongFilesAreNamed(t *testing.T) {
	for says, file := range map[string]string{"spreadsheet": "PK\x03\x04....", "PDF": "%PDF-1.7", "picture": "\x89PNG\r\n", "nothing": "  \n\n", "not a text": "a\x00b", "no player": "name,stage\n",
		"5 MB": strings.Repeat("x", MaxBytes+1), "line 3": "name,year\nJo,2015\n\"Amal,2014\n"} {
		if _, err := ReadTable([]byte(file), Roster); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%.20q: %v, want %q", file, err, says)
		}
	}
}

func BenchmarkFiveThousandRows(b *testing.B) {
	var sb strings.Builder
	sb.WriteString("name,born,stage,side\n")
	for i := range 5000 {
		fmt.Fprintf(&sb, "Player %d,20%02d,Reef,left\n", i, 8+i%10)
	}
	for b.Loop() {
		tab, err := ReadTable([]byte(sb.String()), Roster)
		if err != nil {
			b.Fatal(err)
		}
		Compare(tab, tab.Guess(), Known{Stages: stages, Today: today})
	}
}

func FuzzReadTable(f *testing.F) {
	f.Add([]byte(list))
	f.Add([]byte("a\"b,c\n\"d"))
	f.Fuzz(func(t *testing.T, b []byte) {
		tab, err := ReadTable(b, Roster)
		if err != nil {
			return
		}
		if rows := Compare(tab, tab.Guess(), Known{Today: today}); len(rows) != len(tab.Rows) {
			t.Errorf("%d rows from %d", len(rows), len(tab.Rows))
		}
	})
}

// Two lines of one name of which one has no birth year would both be the same player of the roster.
func TestTwoLinesAreNeverOnePlayer(t *testing.T) {
	known := Known{People: []Person{{ID: "p1", Name: "Ana Costa", Year: 2015}}, Stages: stages, Today: today}
	for _, text := range []string{"name,born\nAna Costa,2015\nAna Costa,\n", "name,born\nAna Costa,\nana  costa,2015\n", "name,born\nAna Costa,\nAna Costa,2016\n"} {
		tab := read(t, text)
		rows := Compare(tab, tab.Guess(), known)
		ids := map[string]int{}
		for _, r := range rows {
			if len(r.Problems) == 0 && r.Person.ID != "" {
				ids[r.Person.ID]++
			}
		}
		if ids["p1"] > 1 || !strings.Contains(rows[1].Problems[Name], "line 2") {
			t.Errorf("%q: %v, %v", text, ids, rows[1].Problems)
		}
	}
}

// Of a name in two programs a list says which it means, and nobody is kept with and apart from the same player.
func TestWordsOfAListThatMeanTwoThings(t *testing.T) {
	two := append([]StageName{{ID: "j1", Program: "Judo", Name: "Shore", ProgramID: "q", Order: 1}}, stages...)
	tab := read(t, "name;stage;keep with;keep apart\nAna;shore;;\nBo;judo: SHORE;;\nCem;Handball: Reef;;\nDana;Peak;;\nEli;;Ana, Bo;bo\nFay;Reef;Gus;Ana\n")
	rows := Compare(tab, tab.Guess(), Known{Stages: two, Today: today})
	for i, want := range []map[Field]string{
		{Stage: "2 programs have a stage shore; write one of: Judo: Shore, Handball: Shore."},
		nil,
		nil,
		{Stage: "No stage is called Peak; there are Judo: Shore, Handball: Shore and Reef."},
		{Apart: "Bo is to be kept with and apart at once."},
		{With: "Gus"},
	} {
		for f, says := range want {
			if !strings.HasPrefix(rows[i].Problems[f], says) && !strings.Contains(rows[i].Problems[f], says) {
				t.Errorf("line %d, %s: %q, want %q", rows[i].Line, f, rows[i].Problems[f], says)
			}
		}
		if len(want) == 0 && len(rows[i].Problems) > 0 {
			t.Errorf("line %d: %v", rows[i].Line, rows[i].Problems)
		}
	}
	if rows[1].Person.Stage != "j1" || rows[2].Person.Stage != "s2" {
		t.Errorf("stages %s and %s", rows[1].Person.Stage, rows[2].Person.Stage)
	}
}

// Deciding is the only door to a standing: a list corrects it until somebody has been marked, and not after.
func TestAListLiftsNobodyWhoWasMarked(t *testing.T) {
	person := Person{
		ID:     "p1",
		Name:   "Ana Costa",
		Stage:  "s1",
		Stands: map[string]string{"p": "s1"},
		Marked: map[string]int{},
	}
	tab := read(t, "name,stage\nAna Costa,Reef\n")
	compare := func(p Person) Row {
		return Compare(tab, tab.Guess(), Known{People: []Person{p}, Stages: stages, Today: today})[0]
	}
	if r := compare(person); r.Kind != Change {
		t.Errorf("before the first mark: %+v", r)
	}
	person.Marked["p"] = 1
	if r := compare(person); r.Kind != Bad || !strings.Contains(r.Problems[Stage], "decided on the Stairs") {
		t.Errorf("after the first mark: %+v", r)
	}
	person.Stands = map[string]string{} // left the program, and comes back
	if r := compare(person); r.Kind != Bad {
		t.Errorf("back, and higher: %+v", r)
	}
	person.Marked["p"] = 2
	if r := compare(person); r.Kind != Change {
		t.Errorf("back where they were: %+v", r)
	}
}

func TestAListIsBounded(t *testing.T) {
	for says, text := range map[string]string{
		"line 1 has 200001 columns; a list has at most 60": strings.Repeat("1,", 200_000),
		"more than 20000 rows":                             strings.Repeat("a\n", 1_000_000),
		"line 2: a cell of 9000 letters":                   "name\n" + strings.Repeat("x", 9000) + "\n",
	} {
		if _, err := ReadTable([]byte(text), Roster); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v", says, err)
		}
	}
	// A long chain of players kept with the next, of whom the last has no letter in the name: all wait for it, in one
	// pass.
	var chain strings.Builder
	chain.WriteString("name,keep with\n")
	const n = 19_999
	for i := range n {
		fmt.Fprintf(&chain, "Player %d,Player %d\n", i, i+1)
	}
	fmt.Fprintf(&chain, "Player %d,Nobody\n", n)
	tab := read(t, chain.String())
	bad := 0
	for _, r := range Compare(tab, tab.Guess(), Known{Today: today}) {
		if r.Kind == Bad {
			bad++
		}
	}
	if bad != n+1 {
		t.Errorf("%d of %d wait", bad, n+1)
	}
	tab = read(t, "name,keep with\nAna,"+strings.Repeat("Bo;", 70)+"\n")
	if r := Compare(tab, tab.Guess(), Known{Today: today})[0]; !strings.Contains(r.Problems[With], "60 are the most") {
		t.Errorf("seventy friends: %v", r.Problems)
	}
}
