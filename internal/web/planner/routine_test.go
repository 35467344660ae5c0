package planner

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/store"
)

// Two run-throughs of a Tuesday and one a week later: the best of a day counts, what was struck out does not, and the
// skill that fails most is on top, with how it was before. Who was away on one of the days says nothing about a change:
// not Cem, who never came, nor Dana, who came on the last day alone.
func TestARoutineWeekByWeek(t *testing.T) {
	tuesday := time.Date(2026, 11, 17, 18, 0, 0, 0, time.UTC)
	mark := func(player string, at time.Time, note string, clean ...bool) coach.Mark {
		m := coach.Mark{PlayerID: player, At: at, Note: note, Points: clean, Tries: len(clean)}
		for _, c := range clean {
			if c {
				m.Figure++
			}
		}
		return m
	}
	struck := mark("a", tuesday, "", true, true, true)
	struck.Struck = true
	v := routineView{Drill: coach.Drill{Routine: []string{"mount", "turn", "dismount"}}}
	v.Players = []store.Player{{ID: "a", Name: "Ada"}, {ID: "b", Name: "Bo"}, {ID: "c", Name: "Cem"}, {ID: "d", Name: "Dana"}}
	v.compare([]coach.Mark{
		mark("a", tuesday, "", false, false, true),
		mark("a", tuesday.Add(time.Minute), "1 fall: turn", true, false, true),
		struck,
		mark("b", tuesday, "", true, true, true),
		mark("a", tuesday.AddDate(0, 0, 7), "", true, true, true),
		mark("b", tuesday.AddDate(0, 0, 7), "", true, false, false),
		mark("d", tuesday.AddDate(0, 0, 7), "", true, true, true),
	}, time.UTC)
	for got, want := range map[string]string{
		fmt.Sprint(v.Went.Days):     "[2026-11-17 2026-11-24]",
		fmt.Sprint(v.Rows[0].Cells): "[{2 of 3 1 fall: turn 0} {3 of 3  1}]",
		fmt.Sprint(v.Rows[1].Cells): "[{3 of 3  0} {1 of 3  -2}]",
		fmt.Sprint(v.Rows[2].Cells): "[{  0} {  0}]",
		fmt.Sprint(v.Class()):       "[83 in 100 clean, 2 players 78 in 100 clean, 3 players]",
		fmt.Sprint(v.Weak):          "[{turn 1 of 3 1 of 2 0.3333333333333333} {dismount 1 of 3 0 of 2 0.3333333333333333}]",
		v.Says(): "Best run-through of each day. 2 players showed it on 17 Nov and on 24 Nov: " +
			"5 of 6 skills were clean then, now 4 of 6 (30 to 90 in 100).",
	} {
		if got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
}

// A routine that was made longer is not compared skill by skill with what it was, and one day alone is no change.
func TestARoutineThatGrew(t *testing.T) {
	at := time.Date(2026, 11, 17, 18, 0, 0, 0, time.UTC)
	three := coach.Mark{PlayerID: "a", At: at, Figure: 3, Tries: 3, Points: []bool{true, true, true}}
	five := coach.Mark{PlayerID: "a", At: at.AddDate(0, 0, 7), Figure: 4, Tries: 5, Points: []bool{true, true, true, true, false}}
	v := routineView{Drill: coach.Drill{Routine: []string{"mount", "turn", "leap", "roll", "dismount"}}}
	if got := v.Says(); !strings.HasPrefix(got, "Nobody has run through it yet") {
		t.Error(got)
	}
	v.Players = []store.Player{{ID: "a", Name: "Ada"}}
	v.compare([]coach.Mark{three}, time.UTC)
	if got := v.Says(); got != "Best run-through of each day." {
		t.Errorf("one day: %s", got)
	}
	v = routineView{Drill: v.Drill, planView: planView{Loaded: app.Loaded{Players: v.Players}}}
	v.compare([]coach.Mark{three, five}, time.UTC)
	if got := fmt.Sprint(v.Rows[0].Cells); got != "[{3 of 3  0} {4 of 5  0}]" {
		t.Error(got)
	}
	if v.Drill.Routine = nil; !strings.HasPrefix(v.Says(), "Write the routine’s skills down") {
		t.Error(v.Says())
	}
}
