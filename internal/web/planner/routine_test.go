package planner

import (
	"fmt"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/store"
)

// Two run-throughs of a Tuesday and one a week later: the best of a day counts, what was struck out does not, and the
// skill that fails most is on top, with how it was before.
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
	v.Players = []store.Player{{ID: "a", Name: "Ada"}, {ID: "b", Name: "Bo"}, {ID: "c", Name: "Cem"}}
	v.compare([]coach.Mark{
		mark("a", tuesday, "", false, false, true),
		mark("a", tuesday.Add(time.Minute), "1 fall: turn", true, false, true),
		struck,
		mark("b", tuesday, "", true, true, true),
		mark("a", tuesday.AddDate(0, 0, 7), "", true, true, true),
		mark("b", tuesday.AddDate(0, 0, 7), "", true, false, false),
	}, time.UTC)
	for got, want := range map[string]string{
		fmt.Sprint(v.Days):          "[17 Nov 24 Nov]",
		fmt.Sprint(v.Rows[0].Cells): "[{2 of 3 1 fall 0 true} {3 of 3  1 false}]",
		fmt.Sprint(v.Rows[1].Cells): "[{3 of 3  0 true} {1 of 3  -2 false}]",
		fmt.Sprint(v.Rows[2].Cells): "[{  0 false} {  0 false}]",
		v.Class[0]:                  "83 in 100 clean, 2 players",
		fmt.Sprint(v.Weak):          "[{turn 1 of 2 1 of 2 0.5} {dismount 1 of 2 0 of 2 0.5}]",
	} {
		if got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
}
