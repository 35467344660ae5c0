package evidence

import (
	"slices"
	"testing"

	"gruppo/internal/coach"
)

// Fewer than seven in ten is common practice, no source; pads.test.mjs holds the phone to the same.
func TestTheKeyToTeachIsTheFirstThatTooFewHave(t *testing.T) {
	has := map[string][]string{"a": {"k1", "k2"}, "b": {"k1"}, "c": {"k1", "k2"}, "d": {"k1", "k2", "k3"}}
	of := func(p, k string) bool { return slices.Contains(has[p], k) }
	keys := []string{"k1", "k2", "k3"}
	for _, c := range []struct {
		players  []string
		at, lack int
	}{{[]string{"a", "b", "c", "d"}, 2, 3}, {[]string{"a", "b"}, 1, 1}, {[]string{"d"}, -1, 0}, {nil, -1, 0}, {[]string{"nobody looked"}, 0, 1}} {
		if at, lack := Teach(keys, c.players, of); at != c.at || lack != c.lack {
			t.Errorf("%v: key %d, %d lack it; want %d, %d", c.players, at, lack, c.at, c.lack)
		}
	}
}

func TestWhatIsDue(t *testing.T) {
	item := func(s State, must bool) Item {
		return Item{Criterion: coach.Criterion{Must: must}, Status: Status{State: s}}
	}
	for _, c := range []struct {
		Item
		due bool
	}{{item(Shown, true), false}, {item(Nearly, false), true}, {item(Stale, true), true}, {item(Unseen, true), true}, {item(Unseen, false), false}, {item(Seen, true), false}} {
		if c.Due() != c.due {
			t.Errorf("%s, must %v: due %v", c.Status.State, c.Criterion.Must, c.Due())
		}
	}
}
