package places

import (
	"fmt"

	"gruppo/internal/coach/say"
)

// waiting lists who has no place, in order of decision, with what would free one.
func waiting(classes []Class, players []Player, in, fixed map[string]string) (out []Waiting) {
	count := map[string]int{}
	byID := map[string]Player{}
	for _, p := range players {
		byID[p.ID] = p
		if at, ok := in[p.ID]; ok {
			count[at]++
		}
	}
	free := func(c Class) bool { return count[c.ID] < c.Places }
	var left []Player
	for _, p := range players {
		if _, ok := in[p.ID]; !ok {
			left = append(left, p)
		}
	}
	for _, p := range left {
		w := Waiting{Player: p.ID}
		var stageFits, suits []Class
		for _, c := range classes {
			if takes(c, p) {
				stageFits = append(stageFits, c)
				if fits(c, p) {
					suits = append(suits, c)
				}
			}
		}
		at, byHand := fixed[p.ID]
		switch {
		case byHand && at == "":
			w.Why = "kept on the list by hand"
		case len(stageFits) == 0:
			w.Why = "no class takes this stage and age"
		case len(suits) == 0:
			w.Why = "no class of this stage is at a time that suits"
			for _, c := range stageFits {
				if free(c) {
					w.Frees = append(w.Frees, fmt.Sprintf("%s has room, if its time could be made to suit", c.Name))
				}
			}
		default:
			w.Why = "full: " + say.List(names(suits))
		}
		if at == "" && len(suits) > 0 {
			w.Frees = append(w.Frees, swaps(suits, classes, players, in, fixed, free)...)
			for _, c := range suits {
				n := 0
				for _, o := range left {
					if fits(c, o) {
						n++
					}
				}
				if n > 1 {
					w.Frees = append(
						w.Frees,
						fmt.Sprintf("a second group beside %s would take %d of the list", c.Name, min(n, c.Places)),
					)
				} else {
					w.Frees = append(w.Frees, "one more place in "+c.Name)
				}
			}
		}
		out = append(out, w)
	}
	return out
}

// swaps are players in a class that would suit whose stage would also go to one with room, if its time did.
func swaps(
	suits, classes []Class,
	players []Player,
	in, fixed map[string]string,
	free func(Class) bool,
) (out []string) {
	for _, c := range suits {
		for _, q := range players {
			if in[q.ID] != c.ID || fixed[q.ID] != "" {
				continue
			}
			for _, d := range classes {
				if d.ID != c.ID && free(d) && takes(d, q) && len(out) < 2 {
					out = append(
						out,
						fmt.Sprintf("%s could go to %s instead of %s, if the time suited", q.Name, d.Name, c.Name),
					)
				}
			}
		}
	}
	return out
}

func names(cs []Class) (out []string) {
	for _, c := range cs {
		out = append(out, c.Name)
	}
	return out
}
