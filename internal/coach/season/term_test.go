package season_test

import (
	"testing"

	"gruppo/internal/coach/season"
	"gruppo/internal/day"
)

// Weeks that no term has are never out of reach: they stand among the terms, and are shown unless they are the break
// between two.
func TestWeeksOutsideOfTerms(t *testing.T) {
	today := day.New(2026, 12, 1)
	term := func(name string, from, until day.Day) season.Term {
		return season.Term{ID: name, Name: name, From: from, Until: until}
	}
	autumn := term("Autumn", day.New(2026, 9, 1), day.New(2026, 11, 27))
	running := term("Autumn", day.New(2026, 9, 1), day.New(2026, 12, 20))
	spring := term("Spring", day.New(2027, 1, 4), day.New(2027, 3, 26))
	for what, c := range map[string]struct {
		terms  []season.Term
		asked  string
		shows  string
		from   day.Day
		listed int
	}{
		"no term yet":              {nil, "", "These weeks", day.New(2026, 11, 3), 1},
		"the first is planned":     {[]season.Term{spring}, "", "These weeks", day.New(2026, 11, 3), 2},
		"and asked for":            {[]season.Term{spring}, "Spring", "Spring", spring.From, 2},
		"a break between two":      {[]season.Term{autumn, spring}, "", "Spring", spring.From, 3},
		"and its weeks asked for":  {[]season.Term{autumn, spring}, "now", "These weeks", day.New(2026, 11, 28), 3},
		"the last is over":         {[]season.Term{autumn}, "", "These weeks", day.New(2026, 11, 28), 2},
		"in a term":                {[]season.Term{running, spring}, "", "Autumn", running.From, 2},
		"a term that is not there": {[]season.Term{running, spring}, "now", "Autumn", running.From, 2},
	} {
		shown, all := season.Chosen(c.terms, today, c.asked)
		if shown.Name != c.shows || shown.From != c.from || len(all) != c.listed {
			t.Errorf("%s: %s from %v, of %d", what, shown.Name, shown.From, len(all))
		}
		if shown.Name == "These weeks" && len(c.terms) > 0 && c.terms[len(c.terms)-1].ID == "Spring" && shown.Until != day.New(2027, 1, 3) {
			t.Errorf("%s: until %v, when Spring has begun", what, shown.Until)
		}
	}
}

// A term holds its last day, and the day after it is a break.
func TestTermOfADay(t *testing.T) {
	autumn := season.Term{ID: "a", Name: "Autumn", From: day.New(2026, 9, 1), Until: day.New(2026, 11, 27)}
	spring := season.Term{ID: "s", Name: "Spring", From: day.New(2027, 1, 4), Until: day.New(2027, 3, 26)}
	for on, want := range map[day.Day]string{
		day.New(2026, 8, 31): ", then Autumn", autumn.From: "Autumn, then Spring", autumn.Until: "Autumn, then Spring",
		autumn.Until.Add(1): ", then Spring", spring.Until: "Spring, then ", spring.Until.Add(1): ", then ",
	} {
		if now, next := season.TermAt([]season.Term{autumn, spring}, on); now.Name+", then "+next.Name != want {
			t.Errorf("on %v: %s, then %s; want %s", on, now.Name, next.Name, want)
		}
	}
}
