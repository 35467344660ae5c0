package evidence

import (
	"slices"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/day"
)

func TestWhatAPlayerTendsToDo(t *testing.T) {
	passes := coach.Criterion{ID: "p", Wording: "passes", Measure: coach.Streak, Want: 6, BothSides: true, Rule: coach.EvidenceRule{Good: 2}}
	runs := coach.Criterion{ID: "r", Wording: "runs", Measure: coach.Time, Want: 8}
	never := coach.Criterion{ID: "n", Wording: "never", Measure: coach.Streak, Want: 6}
	at := time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC)
	mark := func(c coach.Criterion, side coach.Side, figure float64, daysAgo int) coach.Mark {
		return coach.Mark{CriterionID: c.ID, Side: side, Figure: figure, At: at.AddDate(0, 0, -daysAgo)}
	}
	marks := []coach.Mark{
		mark(passes, coach.Right, 7, 2), mark(passes, coach.Right, 6, 9), mark(passes, coach.Left, 2, 1), mark(passes, coach.Left, 3, 16),
		mark(runs, coach.AnySide, 9.5, 3), mark(runs, coach.AnySide, 7.9, -1), // tomorrow's is not known yet
	}
	marks = append(marks, coach.Mark{CriterionID: "r", Figure: 3, At: at.AddDate(0, 0, -1), Struck: true})
	got := PatternsOf(coach.Stage{Criteria: []coach.Criterion{passes, runs, never}}, marks, at)
	if !slices.Equal(got.Lacks, []string{"left: passes"}) {
		t.Errorf("lacks %q", got.Lacks)
	}
	if len(got.Lately) != 2 || got.Lately["p"] != marks[1].Said(passes)+" · "+marks[0].Said(passes)+" · "+marks[2].Said(passes) || got.Lately["r"] != marks[4].Said(runs) {
		t.Errorf("lately %q", got.Lately)
	}
	alike := []coach.Mark{mark(passes, coach.Both, 7, 2), mark(passes, coach.Both, 6, 9)}
	if p := PatternsOf(coach.Stage{Criteria: []coach.Criterion{passes}}, alike, at); p.Lacks != nil {
		t.Errorf("both sides are alike: %q", p.Lacks)
	}
}

func TestOneMarkShortIsOfWhatIsAsked(t *testing.T) {
	at := time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC)
	k := func(id string, must bool) coach.Criterion {
		return coach.Criterion{ID: id, Must: must, Measure: coach.Streak, Want: 6, Rule: coach.EvidenceRule{Good: 1}}
	}
	stage := coach.Stage{Criteria: []coach.Criterion{k("a", true), k("b", false), k("c", false)}}
	stage.StepUp.Choose = 1
	for shown, want := range map[string]string{"": "", "a": "bc", "b": "a", "bc": "a", "ab": ""} {
		var marks []coach.Mark
		for _, id := range shown {
			marks = append(marks, coach.Mark{CriterionID: string(id), Figure: 7, At: at.AddDate(0, 0, -1)})
		}
		got := ""
		for _, c := range Ready(stage, marks, 0, day.Day{}, at).Last() {
			got += c.ID
		}
		if got != want {
			t.Errorf("shown %q: one of %q is short, want %q", shown, got, want)
		}
	}
}
