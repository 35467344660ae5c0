package deciding_test

import (
	"fmt"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
)

var (
	today = day.New(2026, 11, 24)
	noon  = time.Date(2026, 11, 24, 12, 0, 0, 0, time.UTC)
	reef  = coach.Stage{ID: "reef", Name: "Reef"}
	tide  = coach.Stage{ID: "tide", Name: "Tide"}
	rules = deciding.Rules{
		Classes: []deciding.Class{
			{ID: "thu", Name: "Thursday hall", Stages: []string{"tide"}},
			{ID: "sat", Stages: []string{"reef"}},
		},
		Next: season.Term{ID: "w", Name: "Winter", From: today.Add(30)},
	}
)

// Every decision that can be made of a player in Reef, ready or not, and every reason why one cannot.
func TestWhatMayBeDecided(t *testing.T) {
	ready, not := evidence.Readiness{Ready: true}, evidence.Readiness{}
	bare := deciding.Rules{TwoSign: true}
	for _, c := range []struct {
		name   string
		rules  deciding.Rules
		ready  evidence.Readiness
		next   *coach.Stage
		choice deciding.Choice
		want   string // from → to, from a day on; or what is wrong
	}{
		{"up, ready", rules, ready, &tide, deciding.Choice{Kind: deciding.Up}, "reef tide 2026-11-24 false 0"},
		{"up with the term", rules, ready, &tide, deciding.Choice{Kind: deciding.Up, From: "term"}, "reef tide 2026-12-24 false 0"},
		{"up with a term that is not planned", bare, ready, &tide, deciding.Choice{Kind: deciding.Up, From: "term"}, "No term is planned after today; plan one under Places, or decide from now."},
		{"up, not ready", rules, not, &tide, deciding.Choice{Kind: deciding.Up}, "Not everything is shown yet. To move up all the same, give the reason: it is kept with the decision."},
		{"up, not ready, with the reason", bare, not, &tide, deciding.Choice{Kind: deciding.Up, Why: "moves house"}, "reef tide 2026-11-24 true 0"},
		{"up from the top", rules, ready, nil, deciding.Choice{Kind: deciding.Up}, "Reef is the highest stage."},
		{"a try-out", rules, not, &tide, deciding.Choice{Kind: deciding.Try, Visits: "3", Class: "thu"}, "reef tide 2026-11-24 false 3"},
		{"a try-out of thirteen visits", rules, not, &tide, deciding.Choice{Kind: deciding.Try, Visits: "13", Class: "thu"}, "A try-out has 1 to 12 visits."},
		{"a try-out in a class of another stage", rules, not, &tide, deciding.Choice{Kind: deciding.Try, Visits: "2", Class: "sat"}, "Choose the class in which Tide is tried out."},
		{"a try-out that no class takes", bare, not, &tide, deciding.Choice{Kind: deciding.Try, Visits: "2"}, "No class takes Tide, so it cannot be tried out."},
		{"stays at the top", rules, ready, nil, deciding.Choice{Kind: deciding.Stay, Why: "wants to"}, "reef reef 2026-11-24 false 0"},
		{"stays without a reason", rules, ready, &tide, deciding.Choice{Kind: deciding.Stay}, "Give the reason: the player and the next coach will want to know."},
		{"nothing", rules, ready, &tide, deciding.Choice{}, "Choose what is decided."},
	} {
		at := deciding.At{Player: "bo", Program: "p", Stage: reef, Next: c.next, Ready: c.ready}
		d, wrong := c.rules.Decide(at, deciding.Evidence{Stage: "Reef"}, c.choice, noon, today)
		got := fmt.Sprintf(
			"%s %s %s %v %d",
			d.FromStage,
			d.ToStage,
			d.FromOn.Format(time.DateOnly),
			d.TwoSign,
			d.Visits,
		)
		if wrong != c.want && (wrong != "" || got != c.want) {
			t.Errorf("%s: %s %q, want %q", c.name, got, wrong, c.want)
		}
		if wrong == "" && (d.PlayerID != "bo" || d.Evidence.Stage != "Reef" || d.At != noon) {
			t.Errorf("%s keeps %+v", c.name, d)
		}
	}
}

// Bo joined in January, stepped to Reef on 1 March and to Tide on 1 September.
func TestWhoStoodWhereOnADay(t *testing.T) {
	joined, march, september := day.New(2026, 1, 10), day.New(2026, 3, 1), day.New(2026, 9, 1)
	steps := []deciding.Step{{FromStage: "reef", FromOn: september}, {FromStage: "shore", FromOn: march}}
	for _, c := range []struct {
		on, since day.Day
		stage     string
	}{
		{day.New(2026, 10, 1), september, "tide"},
		{september, september, "tide"},
		{september.Add(-1), march, "reef"},
		{march.Add(-1), joined, "shore"},
	} {
		if stage, since := deciding.StoodOn("tide", september, joined, steps, c.on); stage != c.stage ||
			since != c.since {
			t.Errorf(
				"on %s: %s since %s, want %s since %s",
				c.on.Format("2 Jan"),
				stage,
				since.Format("2 Jan"),
				c.stage,
				c.since.Format("2 Jan"),
			)
		}
	}
	came := []time.Time{noon.AddDate(0, 0, -30), noon.AddDate(0, 0, -1), noon}
	if n := deciding.VisitsBy(came, today.Add(-1), noon); n != 2 {
		t.Errorf("%d visits since yesterday, want 2", n)
	}
}

func ExampleRecorded_Stands() {
	up := deciding.Recorded{
		Decision: deciding.Decision{
			Kind:      deciding.Up,
			FromStage: "Reef",
			ToStage:   "Tide",
			TwoSign:   true,
			FromOn:    today,
		},
	}
	fmt.Println(up.Words(), "·", up.Stands(), "·", deciding.Free(&up))
	up.Signed, up.Done = "Tomasz", true
	fmt.Println(up.Words(), "·", up.Stands(), "·", deciding.Free(&up))
	// Output:
	// Reef → Tide · waits for a second signature · false
	// Reef → Tide · signed by Tomasz · true
}
