package coach

import (
	"fmt"
	"testing"

	"gruppo/internal/coach/say"
)

// Common practice, no source: a rolled sock stands in for a beanbag, a box for a target.
func TestKitIsReadAndPacked(t *testing.T) {
	needs := Needs(
		[]string{
			"6 balls",
			"a ball each",
			"2 screens or tall boxes",
			"tape for targets",
			"8 beanbags",
			"",
			"a whistle",
		},
	)
	if got := fmt.Sprint(needs); got != "[{ball 6 false []} {ball 1 true []} {screen 2 false [tall box]} {tape 1 false []} {beanbag 8 false []} {whistle 1 false []}]" {
		t.Error(got)
	}
	rows := Pack(
		needs,
		5,
		[]Kit{
			{Name: "Ball", Count: 12},
			{Name: "Tall box", Count: 3},
			{Name: "Screens", Count: 1},
			{Name: "rolled sock", Count: 6, StandsIn: []string{"beanbags"}},
			{Name: "Tape", Count: 4},
		},
	)
	for i, want := range []string{"{ball 11 12 [] 0 false}", "{screen 2 1 [1 tall box] 0 false}", "{tape 1 4 [] 0 false}", "{beanbag 8 0 [6 rolled socks] 2 false}", "{whistle 1 0 [] 1 false}"} {
		if got := fmt.Sprint(rows[i]); got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
	// Two stations at once share what there is.
	if rows := Pack(Needs([]string{"8 cones", "8 cones"}), 0, []Kit{{Name: "cone", Count: 12}}); len(rows) != 1 ||
		rows[0].Short != 4 {
		t.Errorf("%+v", rows)
	}
	// Who has listed nothing has not said that there is nothing.
	if rows := Pack(Needs([]string{"8 cones"}), 0, nil); len(rows) != 1 || rows[0].Short != 0 || !rows[0].Unlisted {
		t.Errorf("%+v", rows)
	}
	if say.Count(2, "tall box") != "2 tall boxes" {
		t.Error(say.Count(2, "tall box"))
	}
}

// What words say is as many as they say.
func TestNumbersInWords(t *testing.T) {
	for line, want := range map[string]Need{
		"four walls": {Name: "wall", N: 4}, "a wall": {Name: "wall", N: 1}, "two boxes each": {Name: "box", N: 2, Each: true},
		"wall": {Name: "wall", N: 1},
	} {
		if got := Needs([]string{line})[0]; got.Name != want.Name || got.N != want.N || got.Each != want.Each {
			t.Errorf("%q: %+v", line, got)
		}
	}
	d := Drill{Roles: []string{"feeder", "two target players", "4 reserves"}}
	if n := d.InRoles(); n != 7 {
		t.Errorf("%v take %d players, want 7", d.Roles, n)
	}
}
