package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"

	"gruppo/internal/coach"
	"gruppo/internal/coach/path"
	"gruppo/internal/coach/plan/doc"
)

// demoPack is the demo's shelf: a real pack of 73 drills.
func demoPack(t testing.TB) (Pack, []byte) {
	t.Helper()
	b, err := os.ReadFile(filepath.Join("..", "demo", "drills.pack.json"))
	if err != nil {
		t.Fatal(err)
	}
	p, err := ReadPack(b)
	if err != nil {
		t.Fatal(err)
	}
	return p, b
}

func written(t testing.TB, p Pack) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := WritePack(&b, p); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func TestAPackComesBackAsItWasWritten(t *testing.T) {
	p, _ := demoPack(t)
	p.Drills[0].Picture = "<svg/>"
	back, err := ReadPack(written(t, p))
	if err != nil || !reflect.DeepEqual(p, back) {
		t.Fatalf("it changed on the way: %v", err)
	}
	// Skills come in as criteria have them.
	p.Drills[0].Drill.Skills = []string{"Passing"}
	if back, err := ReadPack(written(t, p)); err != nil || back.Drills[0].Drill.Skills[0] != "passing" {
		t.Errorf("%v, %q", err, back.Drills[0].Drill.Skills)
	}
	// A pack that its own reader would refuse is not written.
	p.Drills[0].Drill.Leader = "robot"
	if err := WritePack(&bytes.Buffer{}, p); err == nil {
		t.Error("a pack with an unknown leader was written")
	}
}

func TestABadPackSaysWhyAndGivesNothing(t *testing.T) {
	p, whole := demoPack(t)
	one := p
	one.Drills = p.Drills[:1]
	good := string(written(t, one))
	with := func(old, new string) []byte {
		if !strings.Contains(good, old) {
			t.Fatalf("no %q in the pack", old)
		}
		return []byte(strings.Replace(good, old, new, 1))
	}
	twice := one
	twice.Drills = []PackDrill{p.Drills[0], p.Drills[0]}
	for says, b := range map[string][]byte{
		"version 9":     with(`"version": 1`, `"version": 9`),
		"breaks off":    whole[:len(whole)/2],
		"not a pack":    []byte(`{"format": "shopping-list", "version": 1}`),
		"at most 20 MB": bytes.Repeat([]byte("x"), MostPack+1),
		`Drill 1, Roll and gather, drill: it has "colour", which this program does not know`: with(`"purpose":`, `"colour": "red", "purpose":`),
		`"id" is missing`:              with(`"id": "`+p.Drills[0].ID+`",`, ``),
		"its picture carries a script": with(`"drill": {`, `"picture": "<svg onload='alert(1)'/>", "drill": {`),
		"its text carries a script":    with(p.Drills[0].Drill.Purpose, `Catch <script>alert(1)</script>`),
		"has the same id as drill 1":   written(t, twice),
	} {
		got, err := ReadPack(b)
		var in *doc.ErrInput
		if !errors.As(err, &in) || !strings.Contains(in.Says, says) {
			t.Errorf("want %q, got %v (%d drills)", says, err, len(got.Drills))
		}
	}
	one.Drills[0].Links = []PackLink{{path.After, p.Drills[1].ID}}
	if err := one.DeadLinks(nil); err == nil ||
		!strings.Contains(err.Error(), "neither in the pack nor on your shelf") {
		t.Errorf("a link to nothing: %v", err)
	}
	if err := one.DeadLinks([]coach.Drill{{ID: p.Drills[1].ID}}); err != nil {
		t.Errorf("a link to the shelf: %v", err)
	}
}

func TestWhatIsThereIsRecognised(t *testing.T) {
	p, _ := demoPack(t)
	p.Drills = p.Drills[:5]
	ours := func(i int) coach.Drill { d := p.Drills[i].Drill; d.ID = p.Drills[i].ID; return d }
	same, changed, copied, named := ours(0), ours(1), ours(2), ours(3)
	changed.Keys = append([]string{"Ours first"}, changed.Keys...)
	copied.ID, copied.Origin = "another", &coach.Origin{Drill: p.Drills[2].ID}
	named.ID, named.Name, named.Most = "third", strings.ToUpper(named.Name), 40
	meets := p.Meet([]coach.Drill{same, changed, copied, named}, coach.Metric)
	for i, want := range []Kind{Same, Change, Same, Change, Add} {
		if meets[i].How != want {
			t.Errorf("%s is %q, want %q: %v", meets[i].PackDrill.Drill.Name, meets[i].How, want, meets[i].Diffs)
		}
	}
	if d := meets[1].Diffs; len(d) != 1 || d[0].What != "Keys" || d[0].Out[0] != "Ours first" {
		t.Errorf("side by side: %v", d)
	}
	if meets[3].By != "the same name" {
		t.Errorf("the fourth is recognised by %s", meets[3].By)
	}
}

func TestAPlainListToBeginWith(t *testing.T) {
	n := 0
	id := func() string { n++; return string(rune('a' + n)) }
	p, bad, err := ReadDrills(
		[]byte(
			"Drill;Skill;Players;Keys;Who;Time\nLong lines;Passing, Catching;4-12;Step in | Wrist last;the lead\nNo one;;5;;nobody;\nTwo;;many;;;\nThree;;8-4;;;\n;x;;;;\nQuick;;;;A helper;5-10\n",
		),
		id,
	)
	if err != nil {
		t.Fatal(err)
	}
	var lines []string
	for _, b := range bad {
		lines = append(lines, strings.Join([]string{string(rune('0' + b.Line)), b.Name, b.Why}, " "))
	}
	got := strings.Join(lines, "\n")
	for _, want := range []string{`2 Long lines leader: "the lead" is not one of`, `4 Two least: "many" is not a number`, `5 Three least: "8-4" goes down`, "6  name: What do you call it?"} {
		if !strings.Contains(got, want) {
			t.Errorf("want %q in\n%s", want, got)
		}
	}
	if len(p.Drills) != 2 || p.Drills[0].Drill.Name != "No one" || p.Drills[0].Drill.Least != 5 ||
		p.Drills[1].Drill.Leader != coach.AnyHelper ||
		p.Drills[1].Drill.Minutes != [2]int{5, 10} {
		t.Errorf("taken: %+v", p.Drills)
	}
}

// Whatever is brought, the reader answers with drills that hold or with a sentence, and what it took can be written and
// read again.
func FuzzReadPack(f *testing.F) {
	p, _ := demoPack(f)
	p.Drills = p.Drills[:2]
	f.Add(written(f, p))
	f.Add([]byte(`{"format":"gruppo-pack","version":1,"name":"","club":"","made":"","drills":[]}`))
	f.Add([]byte(`[`))
	f.Fuzz(func(t *testing.T, b []byte) {
		p, err := ReadPack(b)
		if err != nil {
			var in *doc.ErrInput
			if !errors.As(err, &in) || in.Says == "" {
				t.Fatalf("not a sentence: %v", err)
			}
			return
		}
		for _, d := range p.Drills {
			if bad := d.Drill.Check(); len(bad) > 0 {
				t.Fatal(bad)
			}
		}
		again, err := ReadPack(written(t, p))
		if err != nil {
			t.Fatal(err)
		}
		a, _ := json.Marshal(p)
		if c, _ := json.Marshal(again); !bytes.Equal(a, c) {
			t.Fatalf("%s\n%s", a, c)
		}
	})
}

// A plain list of drills becomes drills that hold, each line that cannot be is named with why, and none is in both.
func FuzzReadDrills(f *testing.F) {
	f.Add([]byte("name,skills,players,minutes\nWall passes,passing;catching,3-6,5-10\n,,,\nTag,,x,\n"))
	f.Add([]byte("name;purpose\nA;\"b\nc\"\n"))
	f.Fuzz(func(t *testing.T, b []byte) {
		n := 0
		p, bad, err := ReadDrills(b, func() string { n++; return fmt.Sprintf("00000000-0000-4000-8000-%012d", n) })
		if err != nil {
			return
		}
		for _, d := range p.Drills {
			if wrong := d.Drill.Check(); len(wrong) > 0 {
				t.Fatal(wrong)
			}
		}
		for _, l := range bad {
			if l.Line < 1 || l.Why == "" {
				t.Fatalf("%+v", l)
			}
		}
	})
}
