package suggest

import (
	"slices"
	"strings"
	"testing"

	"gruppo/internal/coach"
)

// F. J. Damerau (1964) names the four errors that make up more than 80 % of all: a wrong, a missing, an extra letter,
// and two swapped. That "ca" is three from "abc" sets the restricted distance apart from the unrestricted one, which
// gives two (common example, from memory).
func TestDistanceCountsTypingErrors(t *testing.T) {
	for _, c := range []struct {
		a, b string
		far  int
	}{{"pass", "pass", 0}, {"catch", "cotch", 1}, {"catch", "cach", 1}, {"catch", "cattch", 1}, {"catch", "cacth", 1}, {"kitten", "sitting", 3}, {"ca", "abc", 3}, {"", "run", 3}, {"über", "uber", 1}} {
		if got := Distance(c.a, c.b); got != c.far || Distance(c.b, c.a) != c.far {
			t.Errorf("%q and %q are %d apart, want %d", c.a, c.b, got, c.far)
		}
	}
}

func TestWordsOfAnyLanguage(t *testing.T) {
	for text, want := range map[string]string{
		"Seven-metre throws, 2 v 1": "seven metre throws 2 v 1",
		"Fange\u0301 Ball\u0308":    "fange ball", // set apart, as the store does
		"Бросок с места":            "бросок с места",
		"رمية":                      "رمية",
		"投げる":                       "投 げ る",
		"throw throw":               "throw",
	} {
		if got := strings.Join(Words(text), " "); got != want {
			t.Errorf("%q is %q, want %q", text, got, want)
		}
	}
	shelf := []string{"catch", "catching", "coach", "throw", "three"}
	if got := Like(shelf, "cacth"); !slices.Equal(got, []string{"catch"}) {
		t.Errorf("cacth may be %v", got)
	}
	// too short for errors; the rest is still being typed
	if got := Like(shelf, "cat"); !slices.Equal(got, []string{"catch", "catching"}) {
		t.Errorf("cat may be %v", got)
	}
	if got := Like(shelf, "thwor"); len(got) > 0 { // two errors in five letters: something else is meant
		t.Errorf("thwor may be %v", got)
	}
}

// Nine players, no coach free, ten minutes, a small floor, five balls: what fits is first, and each says why and what
// is missing.
func TestFindSaysWhyAndWhatIsMissing(t *testing.T) {
	base := coach.Drill{
		Name:     "Rally",
		Skills:   []string{"catching"},
		Practice: "blocked",
		Least:    2,
		Most:     30,
		Length:   6,
		Width:    4,
		Leader:   coach.SelfRun,
		Kit:      []string{"a ball for two"},
		Minutes:  [2]int{4, 8},
	}
	with := func(name string, f func(*coach.Drill)) *coach.Drill {
		d := base
		d.ID, d.Name = name, name
		f(&d)
		return &d
	}
	shelf := []*coach.Drill{
		with("Two only", func(d *coach.Drill) { d.Most = 2 }),
		with("Coached", func(d *coach.Drill) { d.Leader = coach.AnyCoach }),
		with("Wide", func(d *coach.Drill) { d.Length = 20 }),
		with("Long", func(d *coach.Drill) { d.Minutes = [2]int{15, 20} }),
		with("Ball each", func(d *coach.Drill) { d.Kit = []string{"a ball each"} }),
		with("Last week", func(*coach.Drill) {}),
		with("Rally", func(*coach.Drill) {}),
		with("Other skill", func(d *coach.Drill) { d.Skills = []string{"passing"} }),
		with("Random", func(d *coach.Drill) { d.Practice = "random" }),
	}
	l := Look{
		For: For{
			Size:   9,
			Length: 15,
			Width:  12,
			Kit:    []coach.Kit{{Name: "ball", Count: 5}},
			Recent: map[string]float64{"Last week": 1.2},
		},
		Skill:    "catching",
		Phase:    Discovering,
		Minutes:  10,
		Rested:   3,
		NoLeader: true,
	}
	got := Find(shelf, l)
	if len(got) != 7 || got[0].Drill.Name != "Rally" || len(got[0].But) > 0 {
		t.Fatalf("%d found, first %+v", len(got), got[0])
	}
	if why := strings.Join(got[0].Because, ", "); why != "for 2 to 30, runs itself, 6 × 4 m is room enough, 4–8 min, the kit is there, not used lately" {
		t.Errorf("Rally fits because %s", why)
	}
	missing := map[string]string{
		"Two only":  "for at most 2",
		"Coached":   "needs a coach",
		"Wide":      "needs 20 × 4 m",
		"Long":      "takes at least 15 min",
		"Ball each": "4 balls short",
		"Last week": "used 1 week ago",
	}
	for _, s := range got[1:] {
		if !slices.Contains(s.But, missing[s.Drill.Name]) || len(s.But) != 1 {
			t.Errorf("%s lacks %v, want %q", s.Drill.Name, s.But, missing[s.Drill.Name])
		}
	}
	// A coach who is there is enough for what needs a helper, not for what needs a qualified one.
	l = Look{For: For{Leaders: []coach.Role{coach.RoleCoach}}}
	for leader, fits := range map[coach.Leader]bool{coach.AnyHelper: true, coach.AnyCoach: true, coach.Qualified: false} {
		if s := Find([]*coach.Drill{with("x", func(d *coach.Drill) { d.Leader = leader })}, l)[0]; (len(s.But) == 0) != fits {
			t.Errorf("a coach for %q: %v", leader, s.But)
		}
	}
}
