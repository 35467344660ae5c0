package coach

import (
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach/say"
)

// Kit is a thing the club has, how many, and what it can stand in for.
type Kit struct {
	ID       string
	Name     string // in the singular: ball, cone, tall box
	Count    int
	StandsIn []string // names of things it can take the place of
}

// Need is what a drill asks for, read from a coach's words.
type Need struct {
	Name string   // in the singular
	N    int      // how many; with Each for every player
	Each bool     // one for each player
	Or   []string // what will do as well
}

// Needs reads lines such as "6 balls", "a ball each", "2 screens or tall boxes", "tape for targets". Without a number
// one is meant.
func Needs(lines []string) []Need {
	var out []Need
	for _, line := range lines {
		words := strings.ToLower(strings.TrimSpace(line))
		if words == "" {
			continue
		}
		words, _, _ = strings.Cut(words, " for ")
		n := Need{N: 1}
		words, n.Each = strings.CutSuffix(words, " each")
		ways := strings.Split(words, " or ")
		n.N, ways[0] = howMany(ways[0])
		n.Name = Singular(ways[0])
		for _, w := range ways[1:] {
			n.Or = append(n.Or, Singular(strings.TrimPrefix(strings.TrimSpace(w), "a ")))
		}
		out = append(out, n)
	}
	return out
}

// numbers are written out up to twelve.
var numbers = []string{"", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"}

// howMany reads the number that words begin with, "4 walls", "four walls" or "a wall", and what it is of; one, where they
// begin with none.
func howMany(words string) (n int, of string) {
	head, rest, more := strings.Cut(words, " ")
	if !more {
		return 1, words
	}
	if k, err := strconv.Atoi(head); err == nil && k > 0 {
		return k, rest
	}
	if k := slices.Index(numbers, strings.ToLower(head)); k > 0 {
		return k, rest
	}
	if head == "a" || head == "an" {
		return 1, rest
	}
	return 1, words
}

// InRoles is how many of a group the drill's roles take: "four reserves" are four.
func (d Drill) InRoles() (n int) {
	for _, role := range d.Roles {
		k, _ := howMany(strings.TrimSpace(role))
		n += min(k, 60)
	}
	return n
}

// Singular is the name of one of them: balls → ball, boxes → box. It knows the plurals that kit comes in, not all of
// English.
func Singular(s string) string {
	s = strings.TrimSpace(s)
	for _, end := range []string{"xes", "ches", "shes"} {
		if strings.HasSuffix(s, end) {
			return strings.TrimSuffix(s, "es")
		}
	}
	if strings.HasSuffix(s, "s") && !strings.HasSuffix(s, "ss") && len(s) > 3 {
		return strings.TrimSuffix(s, "s")
	}
	return s
}

// KitRow is one line of the packing list.
type KitRow struct {
	Name  string
	Need  int
	Have  int
	Using []string // what stands in: "2 tall boxes for screens"
	Short int
	// Unlisted: the club has not said yet what it has.
	Unlisted bool
}

// Pack works the packing list out from what is needed at the same time: what the club has first, then what a drill says
// will do as well and what the club says can stand in. Needs for the same thing add up; what is not in the stock list
// at all counts as not had. A club that has listed nothing yet has not said what it has: nothing is short then.
func Pack(needs []Need, players int, stock []Kit) []KitRow {
	left := map[string]int{}
	for _, k := range stock {
		left[Singular(strings.ToLower(k.Name))] += k.Count
	}
	var rows []KitRow
	or := map[string][]string{}
	for _, n := range needs {
		want := n.N
		if n.Each {
			want *= players
		}
		i := slices.IndexFunc(rows, func(r KitRow) bool { return r.Name == n.Name })
		if i < 0 {
			i = len(rows)
			rows = append(rows, KitRow{Name: n.Name, Have: left[n.Name], Unlisted: len(stock) == 0})
		}
		rows[i].Need += want
		or[n.Name] = append(or[n.Name], n.Or...)
	}
	if len(stock) == 0 {
		return rows
	}
	for i := range rows {
		r := &rows[i]
		r.Short = max(0, r.Need-r.Have)
		left[r.Name] = max(0, left[r.Name]-r.Need)
	}
	for i := range rows { // what is left over stands in
		r := &rows[i]
		ways := or[r.Name]
		for _, k := range stock {
			if slices.ContainsFunc(k.StandsIn, func(s string) bool { return Singular(strings.ToLower(s)) == r.Name }) {
				ways = append(ways, Singular(strings.ToLower(k.Name)))
			}
		}
		for _, w := range ways {
			if use := min(r.Short, left[w]); use > 0 && w != r.Name {
				left[w] -= use
				r.Short -= use
				r.Using = append(r.Using, say.Count(use, w))
			}
		}
	}
	return rows
}
