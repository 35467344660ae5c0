package shell

import (
	"io/fs"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
)

// A class name means one thing: a rule for a state (is-…) names what it is a state of, a class is ruled in one file of
// styles, and none of ours is the name of one of Bulma's own things.
func TestAClassNameMeansOneThing(t *testing.T) {
	media := regexp.MustCompile(`@media[^{]*\{`)
	rule := regexp.MustCompile(`([^{}]+)\{[^{}]*\}`)
	within := regexp.MustCompile(`\([^()]*\)`) // :not(…), :has(…)
	class := regexp.MustCompile(`\.([A-Za-z][\w-]*)`)
	shapes := []string{
		"is-circle",
		"is-triangle",
		"is-square",
		"is-diamond",
		"is-pentagon",
		"is-star",
		"is-hexagon",
		"is-cross",
	}
	states := append([]string{"is-bad", "is-bare"}, shapes...) // these are the same wherever they stand
	where := map[string]string{}                               // class → the file that rules it
	for _, part := range styleParts {
		text, err := styleFiles.ReadFile("styles/" + part + ".css")
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range rule.FindAllStringSubmatch(media.ReplaceAllString(string(text), ""), -1) {
			for _, selector := range strings.Split(within.ReplaceAllString(m[1], ""), ",") {
				selector = strings.TrimSpace(selector)
				first := strings.FieldsFunc(selector, func(r rune) bool { return strings.ContainsRune(" >+~", r) })
				if len(first) == 0 || !strings.HasPrefix(first[0], ".") {
					continue
				}
				names := class.FindAllStringSubmatch(first[0], -1)
				if len(names) != 1 {
					continue
				}
				name := names[0][1]
				alone := !slices.ContainsFunc(
					class.FindAllStringSubmatch(selector, -1),
					func(m []string) bool { return !strings.HasPrefix(m[1], "is-") },
				)
				if alone && !slices.Contains(states, name) {
					t.Errorf("%s: %q rules every %s there is: name what it is a state of", part, selector, name)
				}
				if part == "base" { // of every page
					continue
				}
				if was, ok := where[name]; ok && was != part {
					t.Errorf("%q: .%s is ruled in %s.css and in %s.css: two meanings?", selector, name, was, part)
				}
				where[name] = part
			}
		}
	}
	bulma := map[string]bool{}
	for _, m := range class.FindAllSubmatch(shipped["lib/bulma.min.css"].text, -1) {
		bulma[string(m[1])] = true
	}
	// Bulma's, dressed by us
	ours := []string{
		"button",
		"checkbox",
		"field",
		"help",
		"icon",
		"input",
		"label",
		"progress",
		"select",
		"table",
		"textarea",
	}
	for name := range where {
		if bulma[name] && !slices.Contains(ours, name) {
			t.Errorf(".%s is Bulma's: what it says there comes along", name)
		}
	}
}

// Every file of styles is joined into the one that pages load.
func TestEveryStyleIsJoined(t *testing.T) {
	files, err := styleFiles.ReadDir("styles")
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range files {
		if !slices.Contains(styleParts, strings.TrimSuffix(f.Name(), ".css")) {
			t.Errorf("%s is in no page: name it in styleParts", f.Name())
		}
	}
}

// What stands in an empty field is of no sport and of no club: a gymnast's coach reads it too.
func TestPlaceholdersAreOfNoSport(t *testing.T) {
	placeholder := regexp.MustCompile(`placeholder="([^"]*)"`)
	bad := regexp.MustCompile(
		`(?i)\b(goal\w*|ball\w*|racket\w*|court\w*|game\w*|team\w*|pass\w*|catch\w*|throw\w*|shot\w*|elbow|handball|skipping|reef|shore|tide|deep|saltmarsh|harbour|lisbon|femi|ines|tuesday)\b`,
	)
	root := os.DirFS("..")
	seen := 0
	err := fs.WalkDir(root, ".", func(name string, _ fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(name, ".html") {
			return err
		}
		text, err := fs.ReadFile(root, name)
		for _, m := range placeholder.FindAllStringSubmatch(string(text), -1) {
			seen++
			if word := bad.FindString(m[1]); word != "" {
				t.Errorf("%s: %q in the placeholder %q", name, word, m[1])
			}
		}
		return err
	})
	if err != nil || seen < 20 {
		t.Fatalf("%d placeholders, %v", seen, err)
	}
}
