package season

import (
	"testing"

	"gruppo/internal/day"
	"gruppo/internal/store"
)

// Weeks that no term has are never out of reach: they stand among the terms, and are shown unless they are the break
// between two.
func TestWeeksOutsideOfTerms(t *testing.T) {
	today := day.New(2026, 12, 1)
	term := func(name string, from, until day.Day) store.Term {
		return store.Term{ID: name, Name: name, From: from, Until: until}
	}
	autumn := term("Autumn", day.New(2026, 9, 1), day.New(2026, 11, 27))
	running := term("Autumn", day.New(2026, 9, 1), day.New(2026, 12, 20))
	spring := term("Spring", day.New(2027, 1, 4), day.New(2027, 3, 26))
	for what, c := range map[string]struct {
		terms  []store.Term
		asked  string
		shows  string
		from   day.Day
		listed int
	}{
		"no term yet":              {nil, "", "These weeks", day.New(2026, 11, 3), 1},
		"the first is planned":     {[]store.Term{spring}, "", "These weeks", day.New(2026, 11, 3), 2},
		"and asked for":            {[]store.Term{spring}, "Spring", "Spring", spring.From, 2},
		"a break between two":      {[]store.Term{autumn, spring}, "", "Spring", spring.From, 3},
		"and its weeks asked for":  {[]store.Term{autumn, spring}, "now", "These weeks", day.New(2026, 11, 28), 3},
		"the last is over":         {[]store.Term{autumn}, "", "These weeks", day.New(2026, 11, 28), 2},
		"in a term":                {[]store.Term{running, spring}, "", "Autumn", running.From, 2},
		"a term that is not there": {[]store.Term{running, spring}, "now", "Autumn", running.From, 2},
	} {
		v := view{Terms: c.terms, Today: today}
		v.chooseTerm(c.asked)
		if v.Term.Name != c.shows || v.Term.From != c.from || len(v.Terms) != c.listed {
			t.Errorf("%s: %s from %v, of %d", what, v.Term.Name, v.Term.From, len(v.Terms))
		}
		if v.Term.Name == "These weeks" && len(c.terms) > 0 && c.terms[len(c.terms)-1].ID == "Spring" && v.Term.Until != day.New(2027, 1, 3) {
			t.Errorf("%s: until %v, when Spring has begun", what, v.Term.Until)
		}
	}
}
