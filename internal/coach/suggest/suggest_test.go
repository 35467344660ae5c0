package suggest

import (
	"slices"
	"strings"
	"testing"

	"gruppo/internal/coach"
)

// What a coach would say of each; no published source.
func TestWhatCannotBeDoneLosesToWhatCan(t *testing.T) {
	base := coach.Drill{
		ID:     "base",
		Name:   "Base",
		Skills: []string{"passing"},
		Least:  2,
		Most:   6,
		Length: 8,
		Width:  6,
		Leader: coach.SelfRun,
	}
	with := func(id string, f func(*coach.Drill)) coach.Drill {
		d := base
		d.ID, d.Name = id, id
		f(&d)
		return d
	}
	group := For{
		Use:     Station,
		Aim:     "catching",
		Lacks:   map[string]int{"passing": 9, "catching": 3},
		Players: 12,
		Size:    4,
		Length:  40,
		Width:   20,
		Leaders: []coach.Role{coach.RoleHelper},
		Limits: map[string]int{
			"jumping": 1,
		},
		Stages: []string{"Shore"},
		Recent: map[string]float64{"lately": 1, "long ago": 6},
		Kit:    []coach.Kit{{Name: "ball", Count: 4}},
	}
	shelf := []coach.Drill{base,
		with(
			"no leader",
			func(d *coach.Drill) { d.Leader = coach.AnyCoach; d.Skills = []string{"catching", "passing"} },
		),
		with("no room", func(d *coach.Drill) { d.Length = 50; d.Skills = []string{"catching"} }),
		with("too many", func(d *coach.Drill) { d.Most = 3 }),
		with("no kit", func(d *coach.Drill) { d.Kit = []string{"10 balls"} }),
		with("jumps", func(d *coach.Drill) { d.Asks = []string{"jumping"} }),
		with("lately", func(d *coach.Drill) {}),
		with("long ago", func(d *coach.Drill) {}),
		with("aim", func(d *coach.Drill) { d.Skills = []string{"catching"} }),
		with("suits", func(d *coach.Drill) { d.Variants = []coach.Variant{{Name: "closer", Suits: "Shore"}} }),
		with("for all", func(d *coach.Drill) { d.Most = 30 }),
		with("steps ahead", func(d *coach.Drill) { d.After = []string{"passing"} }),
	}
	rank := map[string]int{}
	out := Drills(shelf, group)
	for i, s := range out {
		rank[s.Drill.ID] = i
		if why := strings.Join(append(s.Because, s.But...), "; "); why == "" {
			t.Errorf("%s has no reason", s.Drill.ID)
		}
	}
	for _, pair := range [][2]string{{"aim", "base"}, {"suits", "base"}, {"long ago", "base"}, {"base", "lately"}, {"base", "jumps"}, {"base", "no kit"}, {"base", "too many"}, {"too many", "no leader"}, {"too many", "no room"}, {"base", "steps ahead"}, {"base", "for all"}, {"for all", "no leader"}} {
		if rank[pair[0]] >= rank[pair[1]] {
			t.Errorf("%s (%v) should come before %s (%v)", pair[0], out[rank[pair[0]]], pair[1], out[rank[pair[1]]])
		}
	}
	if s := out[rank["no kit"]]; !strings.Contains(strings.Join(s.But, " "), "6 balls short") {
		t.Errorf("no kit: %v", s.But)
	}
	group.Chosen = []coach.Drill{base}
	if s := Drills(shelf, group); len(s) != len(shelf)-1 || s[0].Drill.ID != "aim" {
		t.Errorf("with Base chosen: %v", s[0])
	}
}

func TestEachUseLooksForItsOwn(t *testing.T) {
	shelf := []coach.Drill{
		{ID: "warm", Name: "warm", Skills: []string{"movement"}, Least: 2, Most: 30, Length: 5, Width: 5},
		{
			ID:       "game",
			Name:     "game",
			Skills:   []string{"reading"},
			Approach: "game-first",
			Form:     "live",
			Least:    2,
			Most:     12,
			Length:   5,
			Width:    5,
			Hard:     true,
		},
		{
			ID:     "sprint",
			Name:   "sprint",
			Skills: []string{"speed"},
			Work:   10,
			Rest:   60,
			Hard:   true,
			Least:  2,
			Most:   12,
			Length: 5,
			Width:  5,
		},
		{
			ID:       "pair",
			Name:     "pair",
			Skills:   []string{"catching"},
			Form:     "cooperative",
			Approach: "technique-first",
			Practice: "blocked",
			Least:    2,
			Most:     8,
			Length:   5,
			Width:    5,
		},
	}
	for use, want := range map[Use]string{WarmUp: "warm", Game: "game", AllOut: "sprint", Parts: "pair"} {
		if got := Drills(shelf, For{Use: use, Players: 10, Size: 5, Length: 20, Width: 10})[0].Drill.ID; got != want {
			t.Errorf("for %s: %s, want %s", use, got, want)
		}
	}
}

// Pairs play beside each other, and a routine or a sprint is shown in turns: what is written for two, or for twelve, is for a class of twenty-four too.
func TestWhatIsDoneInPairsOrInTurnsIsForAnyNumber(t *testing.T) {
	of := func(id string, least, most int) coach.Drill {
		return coach.Drill{ID: id, Name: id, Skills: []string{"clears"}, Least: least, Most: most, Length: 5, Width: 5}
	}
	point, rally, routine, sprint := of("point", 2, 2), of("rally", 2, 2), of("routine", 1, 12), of("sprint", 1, 6)
	point.Target = coach.Target{Kind: coach.Race, N: 11}
	rally.Target = coach.Target{Kind: coach.RallyLadder, N: 7}
	routine.Routine = []string{"mount", "turn", "dismount"}
	sprint.Work, sprint.Rest, sprint.Hard = 10, 60, true
	for use, want := range map[Use]coach.Drill{Contest: point, Partner: rally, Routine: routine, AllOut: sprint} {
		got := Drills([]coach.Drill{want}, For{Use: use, Players: 24, Size: 24, Length: 20, Width: 10})[0]
		if got.Score < 15 || slices.ContainsFunc(got.But, func(b string) bool { return strings.Contains(b, "for at most") }) {
			t.Errorf("for %s, 24 players: %s has %.0f, but %v", use, want.Name, got.Score, got.But)
		}
	}
	if got := Drills([]coach.Drill{rally}, For{Use: Partner, Players: 1, Size: 1, Length: 20, Width: 10})[0]; !slices.Contains(got.But, "for at least 2") {
		t.Errorf("one alone has no partner: %v", got.But)
	}
}

func TestWhatNeverComesUpIsSaidFirst(t *testing.T) {
	passing, balance := coach.Drill{
		ID:     "p",
		Skills: []string{"passing", "catching"},
	}, coach.Drill{
		ID:     "b",
		Skills: []string{"balance"},
	}
	recent := map[string]float64{"p": 3, "b": 1}
	for skill, want := range map[string]float64{"catching": 3, "balance": 1, "defending": -1} {
		if got := Last([]coach.Drill{passing, balance}, recent, skill); got != want {
			t.Errorf("%s was last on %v weeks ago, want %v", skill, got, want)
		}
	}
}

func BenchmarkDrills(b *testing.B) {
	shelf := make([]coach.Drill, 200)
	for i := range shelf {
		shelf[i] = coach.Drill{
			ID:     string(rune('a' + i)),
			Name:   "d",
			Skills: []string{"passing"},
			Least:  2,
			Most:   8,
			Length: 8,
			Width:  6,
			Kit:    []string{"6 balls", "4 cones"},
		}
	}
	f := For{
		Use:     Station,
		Aim:     "passing",
		Players: 30,
		Size:    5,
		Length:  40,
		Width:   20,
		Kit:     []coach.Kit{{Name: "ball", Count: 20}, {Name: "cone", Count: 30}},
	}
	b.ReportAllocs()
	for b.Loop() {
		Drills(shelf, f)
	}
}

// In a small hall not all pairs play at once: the drill that leaves more of them playing is better, and the other says why.
func TestPairsThatWaitForRoom(t *testing.T) {
	wide := coach.Drill{ID: "wide", Name: "Wide", Least: 2, Most: 2, Length: 6, Width: 4, Clearance: 1, Asks: []string{"Jumping"}}
	slim := coach.Drill{ID: "slim", Name: "Slim", Least: 2, Most: 2, Length: 4, Width: 1}
	got := Drills([]coach.Drill{wide, slim}, For{
		Use: Partner, Size: 12, Players: 12, Length: 15, Width: 12, Units: coach.Imperial, Limits: map[string]int{"jumping": 1},
	})
	if got[0].Drill.ID != "slim" || len(got[0].But) != 0 {
		t.Errorf("%s first, but %v", got[0].Drill.Name, got[0].But)
	}
	// two of 6 × 4 m stand in 15 m with a metre round each, and two in 12 m
	for _, but := range []string{"room for 4 of 6 pairs at once", "asks for Jumping, which 1 player must not"} {
		if !slices.Contains(got[1].But, but) {
			t.Errorf("%q lacks %q", got[1].But, but)
		}
	}
	hall := For{Use: Station, Size: 2, Players: 2, Length: 3, Width: 3, Units: coach.Imperial}
	if got := Drills([]coach.Drill{wide}, hall); !slices.Contains(got[0].But, "needs 19.5 × 13 ft") {
		t.Errorf("in a club that reads feet: %q", got[0].But)
	}
}
