package suggest

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"unicode"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
)

// Look is what a coach looks for on the shelf. What is left zero does not matter. Of For it uses Size, Length, Width,
// Leaders, Kit, Recent.
type Look struct {
	For
	Words            [][]string // of each word typed, the words of the shelf that it may be
	Skill            string
	Stage            string
	Form             string
	Approach         string
	Moves, Situation string
	Phase            Phase
	Minutes          int  // at hand
	Rested           int  // weeks in which it was not used
	NoLeader         bool // nobody is free: only what runs itself

	lacks map[string][]coach.KitRow // kit short, by what is needed: many drills need the same
}

// Phase is how far players are in a skill.
type Phase string

const (
	Discovering Phase = "discovering"
	Linking     Phase = "linking"
	Automatic   Phase = "automatic"
)

// Phases in their order.
var Phases = []Phase{Discovering, Linking, Automatic}

// Takes reports whether an order of tries suits the phase: the same again for first-timers, as in a game as soon as
// they can just do it (common practice, no source).
func (p Phase) Takes(practice string) bool {
	switch p {
	case Discovering:
		return practice != "random"
	case Automatic:
		return practice != "blocked"
	}
	return true
}

// Find looks a shelf through. Skill, stage, form, approach and phase choose; of what is at hand (players, leader, kit,
// floor, minutes, weeks) every result says why it fits and what is missing. What misses nothing comes first, then the
// better word, then the name.
func Find(shelf []*coach.Drill, l Look) []Suggestion {
	var out []Suggestion
	names := map[*coach.Drill]string{}
	l.lacks = map[string][]coach.KitRow{}
	for _, d := range shelf {
		if l.Skill != "" && !slices.Contains(d.Skills, l.Skill) || l.Form != "" && d.Form != l.Form || l.Approach != "" && d.Approach != l.Approach ||
			l.Moves != "" && d.Moves != l.Moves || l.Situation != "" && !strings.EqualFold(d.Situation, l.Situation) ||
			l.Phase != "" && !l.Phase.Takes(d.Practice) ||
			l.Stage != "" && !suitsStage(d, l.Stage) {
			continue
		}
		names[d] = strings.ToLower(d.Name)
		s := Suggestion{Drill: d, Score: l.named(names[d])}
		l.hands(&s)
		out = append(out, s)
	}
	slices.SortFunc(out, func(a, b Suggestion) int {
		return cmp.Or(
			len(a.But)-len(b.But),
			cmp.Compare(b.Score, a.Score),
			strings.Compare(names[a.Drill], names[b.Drill]),
			strings.Compare(a.Drill.ID, b.Drill.ID),
		)
	})
	return out
}

func suitsStage(d *coach.Drill, stage string) bool {
	same := func(suits string) bool { return strings.EqualFold(suits, stage) }
	return same(d.Suits) || slices.ContainsFunc(d.Variants, func(v coach.Variant) bool { return same(v.Suits) })
}

// named counts the words that stand in the name, in small letters; those as they were typed count more.
func (l Look) named(name string) (n float64) {
	for _, ways := range l.Words {
		for i, w := range ways {
			if strings.Contains(name, w) {
				if n++; i == 0 {
					n++
				}
				break
			}
		}
	}
	return n
}

// hands compares with what is at hand.
func (l Look) hands(s *Suggestion) {
	d := s.Drill
	yes := func(format string, args ...any) { s.Because = append(s.Because, fmt.Sprintf(format, args...)) }
	no := func(format string, args ...any) { s.But = append(s.But, fmt.Sprintf(format, args...)) }
	if l.Size > 0 {
		switch {
		case l.Size < d.Least:
			no("for at least %d", d.Least)
		case l.Size > d.Most:
			no("for at most %d", d.Most)
		default:
			yes("for %d to %d", d.Least, d.Most)
		}
	}
	if l.NoLeader || len(l.Leaders) > 0 {
		switch {
		case d.Leader == coach.SelfRun:
			yes("runs itself")
		case slices.ContainsFunc(l.Leaders, d.Leader.Enough):
			yes("%s is enough", d.Leader)
		default:
			no("needs %s", d.Leader)
		}
	}
	if l.Length > 0 {
		if Fits(*d, l.Length, l.Width) {
			yes("%s is room enough", l.Units.Area(d.Length, d.Width))
		} else {
			no("needs %s", l.Units.Area(d.Length, d.Width))
		}
	}
	if l.Minutes > 0 && d.Minutes[1] > 0 {
		if l.Minutes < d.Minutes[0] {
			no("takes at least %d min", d.Minutes[0])
		} else {
			yes("%d–%d min", d.Minutes[0], d.Minutes[1])
		}
	}
	if len(l.Kit) > 0 {
		key := fmt.Sprint(max(l.Size, d.Least), d.Kit)
		short, known := l.lacks[key]
		if !known {
			short = l.short(*d)
			l.lacks[key] = short
		}
		for _, r := range short {
			no("%s", shortSays(r))
		}
		if len(short) == 0 && len(d.Kit) > 0 {
			yes("the kit is there")
		}
	}
	if weeks, had := l.Recent[d.ID]; had {
		switch {
		case l.Rested > 0 && weeks < float64(l.Rested):
			no("used %s", ago(weeks))
		case l.Rested > 0:
			yes("not for %.0f weeks", math.Floor(weeks))
		}
	} else if l.Rested > 0 {
		yes("not used lately")
	}
}

func ago(weeks float64) string {
	if weeks < 1 {
		return "this week"
	}
	return say.Count(int(weeks), "week") + " ago"
}

// Fits reports whether a drill's area lies in the floor at hand, either way round.
func Fits(d coach.Drill, length, width float64) bool {
	return d.Length <= length && d.Width <= width || d.Width <= length && d.Length <= width
}

// short lists the kit that is not there for the size of the group.
func (f For) short(d coach.Drill) []coach.KitRow {
	return slices.DeleteFunc(
		coach.Pack(coach.Needs(d.Kit), max(f.Size, d.Least), f.Kit),
		func(r coach.KitRow) bool { return r.Short == 0 },
	)
}

func shortSays(r coach.KitRow) string { return say.Count(r.Short, r.Name) + " short" }

// Words are the words of a text in small letters, in the order they first come. Accents are left out if the text comes
// with them set apart (Unicode normal form D). Where a script sets no space between words, each of its letters is one.
func Words(text string) []string {
	var out []string
	var word []rune
	seen := map[string]bool{}
	end := func() {
		if w := string(word); w != "" && !seen[w] {
			seen[w] = true
			out = append(out, w)
		}
		word = word[:0]
	}
	for _, r := range text {
		switch {
		case unicode.In(r, unicode.Mn):
		case unicode.In(r, unicode.Han, unicode.Hiragana, unicode.Katakana, unicode.Thai, unicode.Lao, unicode.Khmer):
			end()
			word = append(word, r)
			end()
		case unicode.IsLetter(r) || unicode.IsDigit(r):
			word = append(word, unicode.ToLower(r))
		default:
			end()
		}
	}
	end()
	return out
}

// Like finds the words of a vocabulary that a typed word may be: itself, what begins with it, and where typing errors
// are likely what is one change away (from four letters on) or two (from eight). The nearest come first.
func Like(vocabulary []string, typed string) []string {
	n := len([]rune(typed))
	errors := 0
	if n >= 4 {
		errors = 1 + min(1, n/8)
	}
	type near struct {
		word string
		far  int
	}
	var found []near
	for _, w := range vocabulary {
		switch {
		case w == typed:
			found = append(found, near{w, -1})
		case strings.HasPrefix(w, typed):
			found = append(found, near{w, 0})
		case errors > 0:
			if d := len([]rune(w)) - n; d > errors || d < -errors {
				continue
			}
			if far := Distance(w, typed); far <= errors {
				found = append(found, near{w, far})
			}
		}
	}
	slices.SortStableFunc(found, func(a, b near) int { return a.far - b.far })
	out := make([]string, len(found))
	for i, f := range found {
		out[i] = f.word
	}
	return out
}

// Distance is how many letters have to be put in, taken out, changed, or swapped with their neighbour to make one word
// of another, no letter more than once: the restricted edit distance (F. J. Damerau, Communications of the ACM 7 (1964)
// 171–176; V. I. Levenshtein 1966).
func Distance(a, b string) int {
	x, y := []rune(a), []rune(b)
	before, last, row := make([]int, len(y)+1), make([]int, len(y)+1), make([]int, len(y)+1)
	for j := range last {
		last[j] = j
	}
	for i := 1; i <= len(x); i++ {
		row[0] = i
		for j := 1; j <= len(y); j++ {
			change := 1
			if x[i-1] == y[j-1] {
				change = 0
			}
			row[j] = min(last[j]+1, row[j-1]+1, last[j-1]+change)
			if i > 1 && j > 1 && x[i-1] == y[j-2] && x[i-2] == y[j-1] {
				row[j] = min(row[j], before[j-2]+1)
			}
		}
		before, last, row = last, row, before
	}
	return last[len(y)]
}
