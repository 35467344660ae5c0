package deal

import (
	"math/rand/v2"
	"slices"
)

// Weeks deals n players, counted from 0, into groups for several weeks (or rounds) so that as few pairs as possible are
// together twice. Where the groups are of one size it first looks for a starter: one deal whose turns round a ring,
// with some players standing still, repeat no pair, as in the classical solutions of Kirkman's problem. Else, and where
// none is found, it swaps players from many starts, which gives few repeats but not always the fewest.
func Weeks(n, groups, weeks int, seed uint64) [][][]int {
	groups = max(1, min(groups, n))
	rng := rand.New(rand.NewPCG(seed, 0x7765656b73))
	if n%groups == 0 && (n/groups-1)*weeks <= n-1 {
		for range 3 {
			for still := range n/groups + 1 {
				for ring := n - still; ring >= max(weeks, 2); ring-- {
					if (n-still)%ring != 0 {
						continue
					}
					s := starter{n: n, size: n / groups, weeks: weeks, ring: ring, rng: rng, budget: 30_000}
					if s.find() {
						return s.turned()
					}
				}
			}
		}
	}
	return swapped(n, groups, weeks, rng)
}

// starter looks for the first week's groups. Players from n − still on stand still; the others go round rings of the
// same length.
type starter struct {
	n, size, weeks, ring int
	rng                  *rand.Rand
	budget               int
	met                  []bool // n × n
	at                   []int  // group of each player, -1: none yet
	groups               [][]int
}

// turn is where a player is after w weeks.
func (s *starter) turn(i, w int) int {
	rings := s.n / s.ring * s.ring
	if i >= rings {
		return i
	}
	return i/s.ring*s.ring + (i%s.ring+w)%s.ring
}

// meet notes that two are together in the first week, and with it in every week; false when some pair has met before.
func (s *starter) meet(a, b int) bool {
	for w := range s.weeks {
		x, y := s.turn(a, w), s.turn(b, w)
		if s.met[x*s.n+y] {
			s.part(a, b, w)
			return false
		}
		s.met[x*s.n+y], s.met[y*s.n+x] = true, true
	}
	return true
}

func (s *starter) part(a, b, weeks int) {
	for w := range weeks {
		x, y := s.turn(a, w), s.turn(b, w)
		s.met[x*s.n+y], s.met[y*s.n+x] = false, false
	}
}

func (s *starter) find() bool {
	s.met, s.at = make([]bool, s.n*s.n), slices.Repeat([]int{-1}, s.n)
	return s.fill(nil)
}

// fill completes the group begun, or begins the next with the last player free.
func (s *starter) fill(group []int) bool {
	if s.budget--; s.budget < 0 {
		return false
	}
	if len(group) == s.size {
		s.groups = append(s.groups, slices.Clone(group))
		if len(s.groups)*s.size == s.n || s.fill(nil) {
			return true
		}
		s.groups = s.groups[:len(s.groups)-1]
		return false
	}
	if len(group) == 0 {
		i := s.n - 1
		for s.at[i] >= 0 {
			i--
		}
		s.at[i] = len(s.groups)
		ok := s.fill([]int{i})
		if !ok {
			s.at[i] = -1
		}
		return ok
	}
	for _, i := range s.rng.Perm(s.n) {
		if s.at[i] >= 0 || len(group) > 1 && i > group[len(group)-1] {
			continue // within a group in falling order: each group is tried once
		}
		k := 0
		for k < len(group) && s.meet(group[k], i) {
			k++
		}
		if k == len(group) {
			s.at[i] = len(s.groups)
			if s.fill(append(group, i)) {
				return true
			}
			s.at[i] = -1
		}
		for k--; k >= 0; k-- {
			s.part(group[k], i, s.weeks)
		}
	}
	return false
}

func (s *starter) turned() [][][]int {
	out := make([][][]int, s.weeks)
	for w := range out {
		for _, g := range s.groups {
			turned := make([]int, len(g))
			for i, p := range g {
				turned[i] = s.turn(p, w)
			}
			slices.Sort(turned)
			out[w] = append(out[w], turned)
		}
	}
	return out
}

// swapped deals by chance and then swaps two players of a week wherever that lowers the repeats.
func swapped(n, groups, weeks int, rng *rand.Rand) [][][]int {
	var best [][]int // per week, the players in the order of the groups
	bestCost := -1
	group := make([]int, n) // of each seat
	for i := range group {
		group[i] = i % groups
	}
	slices.Sort(group)
	for range 4 {
		met := make([]int, n*n)
		deal := make([][]int, weeks)
		count := func(w, seat, by int) {
			for other := range n {
				if group[other] == group[seat] && other != seat {
					a, b := deal[w][seat], deal[w][other]
					met[a*n+b] += by
					met[b*n+a] += by
				}
			}
		}
		cost := func(w, seat int) (c int) {
			for other := range n {
				if group[other] == group[seat] && other != seat {
					m := met[deal[w][seat]*n+deal[w][other]]
					c += m*m - (m-1)*(m-1)
				}
			}
			return c
		}
		for w := range deal {
			deal[w] = rng.Perm(n)
			for seat := range n {
				for other := range seat {
					if group[other] == group[seat] {
						a, b := deal[w][seat], deal[w][other]
						met[a*n+b]++
						met[b*n+a]++
					}
				}
			}
		}
		swap := func(w, i, j int) {
			count(w, i, -1)
			count(w, j, -1)
			deal[w][i], deal[w][j] = deal[w][j], deal[w][i]
			count(w, i, 1)
			count(w, j, 1)
		}
		for better := true; better; {
			better = false
			for w := range deal {
				for i := range n {
					for j := range i {
						if group[i] == group[j] {
							continue
						}
						before := cost(w, i) + cost(w, j)
						swap(w, i, j)
						if cost(w, i)+cost(w, j) < before {
							better = true
						} else {
							swap(w, i, j)
						}
					}
				}
			}
		}
		total := 0
		for _, m := range met {
			total += max(0, m-1)
		}
		if bestCost < 0 || total < bestCost {
			best, bestCost = deal, total
		}
	}
	out := make([][][]int, weeks)
	for w, players := range best {
		out[w] = make([][]int, groups)
		for seat, p := range players {
			out[w][group[seat]] = append(out[w][group[seat]], p)
		}
		for _, g := range out[w] {
			slices.Sort(g)
		}
	}
	return out
}
