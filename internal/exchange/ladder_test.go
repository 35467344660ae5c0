package exchange

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"strings"
	"testing"

	"github.com/xuri/excelize/v2"

	"gruppo/internal/coach"
)

func ladderFile(t testing.TB) []byte {
	t.Helper()
	stages, err := Starter(coach.BallGames)
	if err != nil {
		t.Fatal(err)
	}
	var b bytes.Buffer
	if err := WriteLadder(&b, "Judo", stages); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func TestALadderComesBackAsItWent(t *testing.T) {
	name, stages, err := ReadLadder(ladderFile(t))
	if err != nil || name != "Judo" {
		t.Fatal(name, err)
	}
	var again bytes.Buffer
	if err := WriteLadder(&again, name, stages); err != nil || !bytes.Equal(again.Bytes(), ladderFile(t)) {
		t.Errorf("written again it differs: %v", err)
	}
	many := strings.Replace(
		string(ladderFile(t)),
		`"stages": [`,
		`"stages": [`+strings.Repeat(
			`{"name":"x","colour":"#000000","stepUp":{"choose":0,"visits":0,"weeks":0},"criteria":[]},`,
			2,
		),
		1,
	)
	if _, _, err := ReadLadder([]byte(many)); err == nil ||
		!strings.Contains(err.Error(), "Stage 2: there is a stage x already") {
		t.Errorf("two stages of one name: %v", err)
	}
}

// What is wrong with a ladder's file is said with the line or the stage it stands in.
func TestABadLadderSaysWhere(t *testing.T) {
	good := string(ladderFile(t))
	stage := `{"name":"x","colour":"#000000","stepUp":{"choose":0,"visits":0,"weeks":0},"criteria":[%s]}`
	with := func(inside string) string {
		return `{"format":"gruppo-ladder","version":1,"name":"Judo","stages":[` + inside + `]}`
	}
	for says, text := range map[string]string{
		"is not what it should be: number":                  strings.Replace(good, `"name": "Judo"`, `"name": 7`, 1),
		"the file has something this program does not know": strings.Replace(good, `"name": "Judo"`, `"name": "Judo", "belt": "black"`, 1),
		"The ladder needs a name of at most 40 characters.": strings.Replace(good, `"name": "Judo"`, `"name": "  "`, 1),
		"The ladder has no stages.":                         with(""),
		"That is 21 stages; 20 are the most.":               with(strings.TrimSuffix(strings.Repeat(fmt.Sprintf(stage, "")+",", 21), ",")),
		"1 MB; a ladder is a few kilobytes":                 good + strings.Repeat(" ", 1<<20),
		"Stage 1, x, criterion 1":                           with(fmt.Sprintf(stage, `{"wording":"","skill":"falling","measure":"check"}`)),
	} {
		if name, stages, err := ReadLadder([]byte(text)); err == nil || !strings.Contains(err.Error(), says) || name != "" && stages != nil {
			t.Errorf("%q, want %q", err, says)
		}
	}
}

// Whatever is read can be written, and what is written says the same.
func FuzzReadLadder(f *testing.F) {
	f.Add(ladderFile(f))
	f.Add([]byte(`{"format":"gruppo-ladder","version":1,"name":"x","stages":[]}`))
	f.Fuzz(func(t *testing.T, b []byte) {
		name, stages, err := ReadLadder(b)
		if err != nil {
			return
		}
		var out bytes.Buffer
		if err := WriteLadder(&out, name, stages); err != nil {
			t.Fatal(err)
		}
		again, more, err := ReadLadder(out.Bytes())
		if err != nil || again != name || fmt.Sprintf("%+v", more) != fmt.Sprintf("%+v", stages) {
			t.Errorf("%v\n%+v\n%+v", err, stages, more)
		}
	})
}

// A list opens in a spreadsheet with every name as it is, and none of them is run.
func TestListsAreReadByOthers(t *testing.T) {
	s := Sheet{
		Name: "Tuesday: hall/[A]",
		Head: []string{"Player", "Note"},
		Rows: [][]string{{"Zoë Müller", "a, \"b\"\nc"}, {"=HYPERLINK(1)", "+1"}, {"-", ""}},
	}
	var c, x bytes.Buffer
	if err := s.CSV(&c); err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(strings.NewReader(strings.TrimPrefix(c.String(), "\ufeff"))).ReadAll()
	if err != nil || len(rows) != 4 || rows[1][0] != "Zoë Müller" || rows[1][1] != "a, \"b\"\nc" ||
		rows[2][0] != "'=HYPERLINK(1)" ||
		rows[2][1] != "'+1" {
		t.Errorf("%q, %v", rows, err)
	}
	if err := s.XLSX(&x); err != nil {
		t.Fatal(err)
	}
	f, err := excelize.OpenReader(&x)
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	sheet := f.GetSheetList()[0]
	got, _ := f.GetCellValue(sheet, "A3")
	formula, _ := f.GetCellFormula(sheet, "A3")
	if got != "=HYPERLINK(1)" || formula != "" || sheet != "Tuesday  hall  A " {
		t.Errorf("cell %q, formula %q, sheet %q", got, formula, sheet)
	}
}
