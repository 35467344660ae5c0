package say

import (
	"slices"
	"testing"
)

// The rules of English plurals as any school grammar gives them: common practice, no source.
func TestOneAndMany(t *testing.T) {
	for one, many := range map[string]string{"player": "players", "jersey": "jerseys", "try": "tries", "box": "boxes", "bench": "benches", "whiz": "whizes", "pass": "passes", "brush": "brushes", "day": "days",
		"child": "children", "Person": "People", "crash mat": "crash mats", "box of tape": "boxes of tape", "relay": "relays", "key": "keys", "kit": "kit", "": "", "half": "halves", "visit more": "visit mores"} {
		if got := Many(one); got != many {
			t.Errorf("%q: %q, want %q", one, got, many)
		}
	}
	for got, want := range map[string]string{Count(1, "jersey"): "1 jersey", Count(0, "try"): "0 tries", Count(2, "jersey"): "2 jerseys", Last(1, "session"): "the last session", Last(3, "session"): "the last 3 sessions",
		OfLast(2, 3, "session"): "2 of the last 3 sessions", OfLast(1, 1, "session"): "the last session", OfLast(0, 1, "session"): "0 of 1 session",
		Times(1): "once", Times(2): "twice", Times(5): "5 times", Times(0): "never", TimesOf(0, 1): "0 of 1 time", TimesOf(1, 2): "1 of 2 times", Does(1, "rest"): "rests", Does(3, "rest"): "rest", Does(1, "miss"): "misses",
		List(Each([]string{"Wall", "Hoops", "Wall", "Steps", "Wall"})): "Wall 3 times, Hoops and Steps", List(Each(nil)): "",
		List([]string{"a"}): "a", List([]string{"a", "b", "c"}): "a, b and c", List(nil): "", Are([]string{"Ana"}): "Ana is", Are([]string{"Ana", "Ben"}): "Ana and Ben are"} {
		if got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// In a hall nobody may be called by a name that two answer to.
func TestNobodySharesTheNameTheyAreCalledBy(t *testing.T) {
	for _, c := range []struct{ names, want []string }{
		{[]string{"Ana Bell", "Bo", "Ana Cole"}, []string{"Ana B.", "Bo", "Ana C."}},
		{[]string{"Ana Bell", "Ana Berg", "Ana Cole"}, []string{"Ana Bell", "Ana Berg", "Ana C."}},
		{[]string{"Ana", "Ana de Øst", "Zoë Élan Ødegård"}, []string{"Ana", "Ana Ø.", "Zoë"}},
		{[]string{"Ana Bell", "Ana Bell"}, []string{"Ana Bell", "Ana Bell"}}, // then nothing helps
		{nil, nil},
	} {
		if got := Called(c.names); !slices.Equal(got, c.want) {
			t.Errorf("%q are called %q, want %q", c.names, got, c.want)
		}
	}
}
