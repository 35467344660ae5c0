package shelf

import (
	"testing"

	"gruppo/internal/coach"
	"gruppo/internal/store"
)

// The path opens on what the club works on: of the skills on its ladders the one with the most drills, however many drills
// another skill has; and on the fullest of all where no ladder asks for any that has drills.
func TestThePathOpensOnWhatTheClubAsksFor(t *testing.T) {
	drill := func(id string, skills ...string) *store.Card {
		return &store.Card{Drill: coach.Drill{ID: id, Name: id, Skills: skills}}
	}
	cards := []*store.Card{
		drill("a", "warm-up"), drill("b", "warm-up"), drill("c", "warm-up"), drill("d", "serve"), drill("e", "serve"), drill("f", "return"),
	}
	for _, c := range []struct {
		ladder       []string
		asked, opens string
	}{
		{[]string{"return", "Serve"}, "", "serve"},
		{[]string{"return", "smash"}, "", "return"},
		{[]string{"smash"}, "", "warm-up"},
		{nil, "", "warm-up"},
		{[]string{"serve"}, "warm-up", "warm-up"},
	} {
		v := pathView{Skill: c.asked}
		v.draw(cards, nil, c.ladder)
		if v.Skill != c.opens {
			t.Errorf("a ladder of %v opens on %q, not on %q", c.ladder, v.Skill, c.opens)
		}
	}
}
