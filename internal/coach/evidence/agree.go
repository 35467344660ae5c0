package evidence

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
)

// Agreement is how far two markers agree about the same players. Table[i][j] counts the players whom the first put into
// category i and the second into j.
type Agreement struct {
	N        int
	Share    float64 // put into the same category
	Kappa    float64 // agreement beyond chance: J. Cohen, Educational and Psychological Measurement 20 (1960) 37–46
	Weighted float64 // the same with near misses counting in part: J. Cohen, Psychological Bulletin 70 (1968) 213–220, linear weights
}

// Agree works the agreement out. Where chance alone would agree about everybody, κ is 1 when they do.
func Agree(table [][]int) Agreement {
	k := len(table)
	rows, cols := make([]float64, k), make([]float64, k)
	n := 0.0
	for i, r := range table {
		for j, x := range r {
			rows[i] += float64(x)
			cols[j] += float64(x)
			n += float64(x)
		}
	}
	a := Agreement{N: int(n)}
	if n == 0 {
		return a
	}
	beyond := func(weight func(i, j int) float64) (seen, kappa float64) {
		chance := 0.0
		for i := range k {
			for j := range k {
				seen += weight(i, j) * float64(table[i][j]) / n
				chance += weight(i, j) * rows[i] / n * cols[j] / n
			}
		}
		if chance > 1-1e-12 {
			return seen, seen
		}
		return seen, (seen - chance) / (1 - chance)
	}
	a.Share, a.Kappa = beyond(func(i, j int) float64 {
		if i == j {
			return 1
		}
		return 0
	})
	_, a.Weighted = beyond(func(i, j int) float64 { return 1 - math.Abs(float64(i-j))/math.Max(1, float64(k-1)) })
	return a
}

// KappaWords are the words for a κ: J. R. Landis, G. G. Koch, Biometrics 33 (1977) 159–174.
func KappaWords(kappa float64) string {
	switch {
	case kappa < 0:
		return "poor"
	case kappa <= 0.20:
		return "slight"
	case kappa <= 0.40:
		return "fair"
	case kappa <= 0.60:
		return "moderate"
	case kappa <= 0.80:
		return "substantial"
	}
	return "almost perfect"
}

// EnoughShared is how many players two markers must both have marked before their agreement is given.
const EnoughShared = 10

// sideBySide is how far apart two marks may be to count as marks of the same state of the player.
const sideBySide = 7 * 24 * time.Hour

// Markers is the agreement of two markers about a criterion.
type Markers struct {
	A, B  string // names
	IDs   [2]string
	Agree Agreement
	Kappa float64 // the weighted one for grades
	Talk  bool    // enough was shared, and they agree too little
	Flat  bool    // they agree, but about so nearly the same mark for everybody that κ says nothing
}

// alike is the share from which two markers are taken to agree although κ is low: where nearly everybody gets the same
// mark, κ is low whatever they do (our choice; no source).
const alike = 0.85

// Few reports whether too little was shared to say.
func (m Markers) Few() bool { return m.Agree.N < EnoughShared }

// Compare finds the players whom two people marked on c within a week of one another on the same side, each mark used
// once, and gives the agreement of every two of them, in the order of their names. Grades are compared as grades,
// everything else by whether it met the standard.
func Compare(c coach.Criterion, marks []coach.Mark) []Markers {
	type spot struct {
		player string
		side   coach.Side
	}
	at := map[spot][]coach.Mark{}
	names := map[string]string{}
	for _, m := range marks {
		if m.CriterionID == c.ID && Counts(c, m) {
			s := spot{m.PlayerID, m.Side}
			at[s] = append(at[s], m)
			names[m.By] = m.ByName
		}
	}
	size := 2
	category := func(m coach.Mark) int {
		if Meets(c, m) {
			return 1
		}
		return 0
	}
	if c.Measure == coach.Grade {
		size = max(len(c.Points), 2)
		category = func(m coach.Mark) int { return min(size-1, max(0, int(m.Figure)-1)) }
	}
	tables := map[[2]string][][]int{}
	for _, ms := range at {
		slices.SortFunc(ms, func(a, b coach.Mark) int { return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.ID, b.ID)) })
		used := make([]bool, len(ms))
		for i, m := range ms {
			for j := i + 1; j < len(ms) && ms[j].At.Sub(m.At) <= sideBySide; j++ {
				if used[i] || used[j] || ms[j].By == m.By {
					continue
				}
				used[i], used[j] = true, true
				a, b := m, ms[j]
				if cmp.Or(cmp.Compare(a.ByName, b.ByName), cmp.Compare(a.By, b.By)) > 0 {
					a, b = b, a
				}
				key := [2]string{a.By, b.By}
				if tables[key] == nil {
					tables[key] = make([][]int, size)
					for r := range tables[key] {
						tables[key][r] = make([]int, size)
					}
				}
				tables[key][category(a)][category(b)]++
			}
		}
	}
	var out []Markers
	for key, t := range tables {
		m := Markers{A: names[key[0]], B: names[key[1]], IDs: key, Agree: Agree(t)}
		if m.Kappa = m.Agree.Kappa; c.Measure == coach.Grade {
			m.Kappa = m.Agree.Weighted
		}
		m.Talk = !m.Few() && m.Kappa <= 0.60 && m.Agree.Share < alike
		m.Flat = !m.Few() && m.Kappa <= 0.60 && m.Agree.Share >= alike
		out = append(out, m)
	}
	slices.SortFunc(out, func(a, b Markers) int {
		return cmp.Or(cmp.Compare(a.A, b.A), cmp.Compare(a.B, b.B), cmp.Compare(a.IDs[0]+a.IDs[1], b.IDs[0]+b.IDs[1]))
	})
	return out
}

// Advice says what the agreement asks for; empty when nothing.
func (m Markers) Advice() string {
	switch {
	case m.Few():
		return fmt.Sprintf(
			"Only %s by both so far: too few to say. Mark some side by side.",
			say.Count(m.Agree.N, "player"),
		)
	case m.Talk:
		return "Talk about this one together: the same players get different marks."
	}
	return ""
}
