package coach

import (
	"encoding/json"
	"math"
	"reflect"
	"slices"
	"strings"
	"testing"
)

func jumpShot() Drill {
	return Drill{
		Name:     "Jump-shot approach",
		Purpose:  "Three steps and a throw.",
		Skills:   []string{"shooting"},
		Approach: "technique-first",
		Practice: "blocked",
		Form:     "cooperative",
		Places:   2,
		Least:    3,
		Most:     6,
		Pace:     5,
		Length:   12,
		Width:    8,
		Chance:   0.7,
		Leader:   AnyCoach,
		Keys:     []string{"Last step longest", "Elbow over ear"},
		Target:   Target{Kind: RunOf, N: 8},
		Easier:   1,
		Suits:    "Reef",
		Variants: []Variant{
			{Name: "Walk it", Changes: []Change{{"ball", "no ball"}}, Suits: "Shore", Target: 5, Chance: 0.9},
			{
				Name:    "Fed ball",
				Changes: []Change{{"feed", "the pass arrives on step two"}},
				Suits:   "Tide",
				Pace:    4,
				Length:  14,
			},
		},
	}
}

func TestAFormSaysOnlyWhatDiffers(t *testing.T) {
	d := jumpShot()
	forms, own := d.Forms()
	if len(forms) != 3 || own != 1 || forms[0].Name != "Walk it" || forms[1].Name != AsWritten ||
		forms[1].Suits != "Reef" {
		t.Fatalf("easiest first, the drill as it is in its place: %+v, %d", forms, own)
	}
	easy := d.As(forms[0])
	if easy.Target.N != 5 || easy.Chance != 0.9 || easy.Pace != 5 || easy.Length != 12 {
		t.Errorf("walking it: %+v", easy)
	}
	if hard := d.As(forms[2]); hard.Target.N != 8 || hard.Chance != 0.7 || hard.Pace != 4 || hard.Length != 14 ||
		hard.Width != 8 {
		t.Errorf("with a fed ball: %+v", hard)
	}
	if says := forms[0].Says(); says != "no ball, to 5" {
		t.Errorf("it differs by %q", says)
	}
}

func TestWhatCannotBeInADrill(t *testing.T) {
	if bad := jumpShot().Check(); len(bad) > 0 {
		t.Fatal(bad)
	}
	for says, change := range map[string]func(*Drill){
		"name: What do you call it?":                   func(d *Drill) { d.Name = " " },
		"name: That is 81 characters":                  func(d *Drill) { d.Name = strings.Repeat("ü", 81) },
		"skills: At least one skill":                   func(d *Drill) { d.Skills = nil },
		"keys: That is 13 lines":                       func(d *Drill) { d.Keys = make([]string, 13) },
		"most: At most 2 is fewer than at least 3":     func(d *Drill) { d.Most = 2 },
		"pace: Repetitions a minute: a number":         func(d *Drill) { d.Pace = math.NaN() },
		"chance: Good ones in 10: a number from 0.5":   func(d *Drill) { d.Chance = 0 },
		"minutes: Minutes: a number from 8":            func(d *Drill) { d.Minutes = [2]int{8, 5} },
		`form: "loud" is not one of`:                   func(d *Drill) { d.Form = "loud" },
		"leader: Choose who":                           func(d *Drill) { d.Leader = "robot" },
		`target: The kind of target "luck"`:            func(d *Drill) { d.Target.Kind = "luck" },
		"n: How many: a whole number":                  func(d *Drill) { d.Target.N = 0 },
		"of-skills: How many skills":                   func(d *Drill) { d.Target.Kind = SetOfStreaks },
		"variants: Form 2 needs a name":                func(d *Drill) { d.Variants[1].Name = "Walk it" },
		"variants: Fed ball: say what differs":         func(d *Drill) { d.Variants[1].Changes = nil },
		`variants: Walk it: "mood" cannot differ`:      func(d *Drill) { d.Variants[0].Changes[0].What = "mood" },
		"variants: Walk it: one of its figures cannot": func(d *Drill) { d.Variants[0].Chance = 2 },
	} {
		d := jumpShot()
		change(&d)
		var all []string
		for _, b := range d.Check() {
			all = append(all, b.Field+": "+b.Says)
		}
		if !strings.Contains(strings.Join(all, "\n"), says) {
			t.Errorf("want %q, got %q", says, all)
		}
	}
}

func TestWhatAnEditionChanged(t *testing.T) {
	was, now := jumpShot(), jumpShot()
	if diff := Compare(was, now, Metric); len(diff) > 0 {
		t.Fatal(diff)
	}
	now.Keys = []string{"Elbow over ear", "Land on the foot you left"}
	now.Most, now.Target.N = 8, 6
	now.Variants = append(
		now.Variants,
		Variant{Name: "Live", Changes: []Change{{"defenders", "one who may move"}}, Suits: "Deep"},
	)
	now.Diagram = &Drawing{Floor: "hall", Things: make([]Thing, 2)}
	var got []string
	for _, d := range Compare(was, now, Metric) {
		got = append(got, d.What+": "+strings.Join(d.Out, "|")+" → "+strings.Join(d.In, "|"))
	}
	want := []string{
		"Players: 3–6 → 3–8",
		"Scored: 8 in a row, a miss starts again → 6 in a row, a miss starts again",
		"Keys: Last step longest → Land on the foot you left",
		"Forms:  → Live (harder): one who may move (defenders), for Deep",
		"Diagram:  → 2 things, 0 steps",
	}
	if strings.Join(got, "\n") != strings.Join(want, "\n") {
		t.Errorf("got\n%s", strings.Join(got, "\n"))
	}
	now = was
	now.Length, now.Width, now.Fire = 20*Foot, 10*Foot, 30*Foot
	feet := Compare(was, now, Imperial)
	if len(feet) != 2 || !strings.HasPrefix(feet[0].In[0], "20 × 10 ft") || feet[1].In[0] != "30 ft" {
		t.Errorf("a club that measures in feet reads %v", feet)
	}
	now = was
	now.Keys = []string{was.Keys[1], was.Keys[0]}
	if diff := Compare(was, now, Metric); len(diff) != 1 || diff[0].In[0] != "Elbow over ear and Last step longest" {
		t.Errorf("another order of keys: %v", diff)
	}
}

// Nothing of a drill can be changed without a word: a change that nobody sees would be taken for none, and not kept.
func TestEveryChangeOfADrillIsSaid(t *testing.T) {
	full := jumpShot()
	full.Work, full.Rest, full.Series, full.Minutes = 30, 15, 2, [2]int{6, 12}
	full.Table, full.Forfeits, full.Routine = [][]string{{"call", "do"}, {"red", "left"}}, []string{"5 jumps"}, []string{"roll"}
	full.Diagram = &Drawing{Floor: "hall", Things: make([]Thing, 1)}
	full.Easier = 0
	full.Variants = []Variant{{Name: "Live", Changes: []Change{{"defenders", "one who may move"}}, Differs: "no bounce",
		Suits: "Deep", Target: 5, Against: 4, Chance: 0.5, Pace: 3, Length: 9, Width: 7}}
	targets := []Target{
		{Kind: RunOf, N: 5}, {Kind: SetOfStreaks, N: 2, Skills: 3, Back: "one back"}, {Kind: InATime, Seconds: 30}, {Kind: FewFaults, N: 1, Of: 9},
		{Kind: Race, N: 7, Against: 5, Swap: "end"}, {Kind: Gate, N: 9, Opens: "the far goal"}, {Kind: OwnRules, Rules: "as agreed"},
		{Kind: Score, N: 9, Minus: 1, Bonus: 2, BonusIn: 0.2, Better: "beyond the line"},
	}
	of := map[string]TargetKind{"N": RunOf, "Skills": SetOfStreaks, "Back": SetOfStreaks, "Seconds": InATime, "Of": FewFaults, "Against": Race, "Swap": Race,
		"Opens": Gate, "Rules": OwnRules, "Minus": Score, "Bonus": Score, "BonusIn": Score, "Better": Score}
	aside := []string{"ID", "Edition", "Origin", "Paced", "Diagram"} // which it is, not what it says; and the drawing is compared whole
	var other func(v reflect.Value)
	other = func(v reflect.Value) {
		switch v.Kind() {
		case reflect.String:
			v.SetString(map[string]string{"end": "half", "one back": "all over"}[v.String()] + "half")
		case reflect.Int:
			v.SetInt(v.Int() + 1)
		case reflect.Float64:
			v.SetFloat(v.Float() + 0.1)
		case reflect.Bool:
			v.SetBool(!v.Bool())
		case reflect.Slice:
			if v.Len() == 0 {
				v.Set(reflect.Append(v, reflect.New(v.Type().Elem()).Elem()))
			}
			other(v.Index(0))
		case reflect.Array:
			other(v.Index(0))
		default:
			t.Fatalf("what else can a %s be?", v.Kind())
		}
	}
	copied := func(d Drill) (out Drill) {
		text, err := json.Marshal(d)
		if err == nil {
			err = json.Unmarshal(text, &out)
		}
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	said := func(was, now Drill, field string) {
		for _, units := range []Units{Metric, Imperial} {
			if len(Compare(was, now, units)) == 0 {
				t.Errorf("another %s is taken for none in %s", field, units.Word())
			}
		}
	}
	for i := range reflect.TypeFor[Drill]().NumField() {
		field := reflect.TypeFor[Drill]().Field(i).Name
		if slices.Contains(aside, field) || field == "Target" || field == "Variants" {
			continue
		}
		now := copied(full)
		other(reflect.ValueOf(&now).Elem().Field(i))
		said(full, now, field)
	}
	for i := range reflect.TypeFor[Variant]().NumField() {
		now := copied(full)
		f := reflect.ValueOf(&now.Variants[0]).Elem().Field(i)
		if field := reflect.TypeFor[Variant]().Field(i).Name; field != "Changes" {
			other(f)
			said(full, now, "form's "+field)
			continue
		}
		for j := range 2 {
			now := copied(full)
			other(reflect.ValueOf(&now.Variants[0].Changes[0]).Elem().Field(j))
			said(full, now, "change of a form")
		}
	}
	for _, target := range targets {
		was := copied(full)
		was.Target = target
		for i := range reflect.TypeFor[Target]().NumField() {
			if field := reflect.TypeFor[Target]().Field(i).Name; of[field] == target.Kind {
				now := copied(was)
				other(reflect.ValueOf(&now.Target).Elem().Field(i))
				said(was, now, "target's "+field)
			} else if field != "Kind" && of[field] == "" {
				t.Errorf("which target has %s?", field)
			}
		}
	}
}

// What somebody must not do is met however it was typed, by whom, and where.
func TestALimitIsMetHoweverItIsWritten(t *testing.T) {
	d := Drill{Asks: []string{"Jumping", "overhead"}}
	for typed, asks := range map[string]bool{
		"jumping": true, "No jumping": true, " JUMPING ": true, "no overhead": true, "": false, "running": false, "no": false, "nothing": false,
	} {
		if got := d.AsksFor([]string{typed}); (len(got) > 0) != asks {
			t.Errorf("%q: %q", typed, got)
		}
	}
}
