// Package say is the grammar of everything the program says: one and many, lists, and who is or are.
package say

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"
)

// odd are the plurals that no rule makes.
var odd = map[string]string{
	"child":  "children",
	"person": "people",
	"foot":   "feet",
	"man":    "men",
	"woman":  "women",
	"shelf":  "shelves",
	"half":   "halves",
	"leaf":   "leaves",
	"knife":  "knives",
}

// same are words that are alike for one and many.
var same = map[string]bool{
	"kit":    true,
	"chalk":  true,
	"tape":   true,
	"water":  true,
	"sheep":  true,
	"series": true,
	"min":    true,
	"s":      true,
	"m":      true,
}

// Many is the plural of a word, or of the last word of a phrase: "jersey" → "jerseys", "try" → "tries", "crash mat" →
// "crash mats", "box of tape" → "boxes of tape".
func Many(one string) string {
	if head, rest, ok := strings.Cut(one, " of "); ok {
		return Many(head) + " of " + rest
	}
	before, last := "", one
	if i := strings.LastIndexByte(one, ' '); i >= 0 {
		before, last = one[:i+1], one[i+1:]
	}
	lower := strings.ToLower(last)
	switch {
	case last == "" || same[lower]:
		return one
	case odd[lower] != "":
		return before + last[:1] + odd[lower][1:]
	case strings.HasSuffix(lower, "y") && len(last) > 1 && !strings.ContainsRune("aeiou", rune(lower[len(lower)-2])):
		return before + last[:len(last)-1] + "ies"
	case strings.HasSuffix(lower, "s"),
		strings.HasSuffix(lower, "x"),
		strings.HasSuffix(lower, "z"),
		strings.HasSuffix(lower, "ch"),
		strings.HasSuffix(lower, "sh"):
		return before + last + "es"
	}
	return before + last + "s"
}

// Of is the word for so many, without the number: "player", "players".
func Of(n int, one string) string {
	if n == 1 {
		return one
	}
	return Many(one)
}

// Count is "1 player", "2 players".
func Count(n int, one string) string { return fmt.Sprint(n, " ", Of(n, one)) }

// Last is "the last session", "the last 3 sessions".
func Last(n int, one string) string {
	if n == 1 {
		return "the last " + one
	}
	return "the last " + Count(n, one)
}

// OfLast is "2 of the last 3 sessions"; of one only, "the last session" or "0 of 1 session".
func OfLast(n, of int, one string) string {
	switch {
	case of == 1 && n == 1:
		return Last(1, one)
	case of == 1:
		return fmt.Sprintf("%d of %s", n, Count(of, one))
	}
	return fmt.Sprintf("%d of %s", n, Last(of, one))
}

// Times is "once", "twice", "3 times", "never" for none.
func Times(n int) string {
	switch n {
	case 0:
		return "never"
	case 1:
		return "once"
	case 2:
		return "twice"
	}
	return fmt.Sprintf("%d times", n)
}

// TimesOf is "1 of 1 time", "2 of 3 times".
func TimesOf(n, of int) string { return fmt.Sprintf("%d of %s", n, Count(of, "time")) }

// Verb is the form of a verb for so many: Verb(1, "is", "are").
func Verb(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return many
}

// Does is a regular verb for so many: "rests" for one, "rest" for more.
func Does(n int, verb string) string {
	if n != 1 {
		return verb
	}
	if strings.HasSuffix(verb, "o") || strings.HasSuffix(verb, "ch") || strings.HasSuffix(verb, "sh") ||
		strings.HasSuffix(verb, "ss") {
		return verb + "es"
	}
	return verb + "s"
}

// List joins words the way they are spoken: "a, b and c".
func List(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}

// Each names words once, in their order, with how often where that is more than once: "Wall, Hoops twice".
func Each(words []string) (out []string) {
	n := map[string]int{}
	for _, w := range words {
		n[w]++
	}
	for _, w := range words {
		if n[w] > 1 {
			out = append(out, w+" "+Times(n[w]))
		} else if n[w] == 1 {
			out = append(out, w)
		}
		n[w] = 0
	}
	return out
}

// Few is a list of names that stays short: of more than four, three and how many more there are.
func Few(names []string) string {
	if len(names) > 4 {
		names = append(slices.Clone(names[:3]), fmt.Sprintf("%d more", len(names)-3))
	}
	return List(names)
}

// Upper begins a sentence: the first letter in upper case.
func Upper(s string) string {
	first, size := utf8.DecodeRuneInString(s)
	return string(unicode.ToUpper(first)) + s[size:]
}

// Are is a list with its verb: "Ana is", "Ana and Ben are".
func Are(words []string) string { return List(words) + " " + Verb(len(words), "is", "are") }

// First is the first name of a full one.
func First(name string) string {
	first, _, _ := strings.Cut(name, " ")
	return first
}

// Called are the names by which people who are together are told apart: the first name; with the initial of the last
// where two share it; the whole name where that does not help either.
func Called(names []string) []string {
	out := slices.Clone(names)
	taken := make([]bool, len(names))
	for _, shorter := range []func(string) string{First, initialed} {
		many := map[string]int{}
		for _, n := range names {
			many[shorter(n)]++
		}
		for i, n := range names {
			if s := shorter(n); !taken[i] && many[s] == 1 {
				out[i], taken[i] = s, true
			}
		}
	}
	return out
}

// initialed is a first name with the initial of the last: "Ana B.".
func initialed(name string) string {
	words := strings.Fields(name)
	if len(words) < 2 {
		return name
	}
	last, _ := utf8.DecodeRuneInString(words[len(words)-1])
	return words[0] + " " + string(last) + "."
}
