package shell

import (
	"io/fs"
	"os"
	"path"
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"
)

// Templates are read by people too: lines that fit a window, indented by two, one block a line, and no template longer
// than a screen.
func TestTemplatesCanBeRead(t *testing.T) {
	const widest, screen = 120, 60
	begins := regexp.MustCompile(`^\{\{-? ?define "([^"]+)"`)
	ends := regexp.MustCompile(`^\{\{-? ?end ?-?\}\}`)
	block := regexp.MustCompile(
		`<(?:div|p|section|article|ul|ol|li|table|tr|form|fieldset|header|footer|details|h[123])[ >]`,
	)
	inDrawing := regexp.MustCompile(` (?:d|points)="[^"]*"`)
	root := os.DirFS("..")
	const everywhere = "shell/templates"
	defined := map[[2]string]string{} // by folder and name
	err := fs.WalkDir(root, ".", func(name string, _ fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(name, ".html") {
			return err
		}
		text, err := fs.ReadFile(root, name)
		if err != nil {
			return err
		}
		part, lines := "the page", 0 // what stands outside of every define
		inPage := 0
		for i, line := range strings.Split(string(text), "\n") {
			trimmed := strings.TrimLeft(line, " ")
			switch {
			case utf8.RuneCountInString(inDrawing.ReplaceAllString(line, "")) > widest:
				t.Errorf("%s:%d: longer than %d", name, i+1, widest)
			case (len(line)-len(trimmed))%2 != 0 || strings.ContainsRune(line, '\t'):
				t.Errorf("%s:%d: indented by two", name, i+1)
			case len(block.FindAllString(line, -1)) > 2:
				t.Errorf("%s:%d: a block a line", name, i+1)
			}
			if m := begins.FindStringSubmatch(line); m != nil && !strings.HasSuffix(line, "{{end}}") {
				part, lines = m[1], 0
				at := [2]string{path.Dir(name), part}
				if first := defined[at]; first != "" {
					t.Errorf("%s:%d: %q is another part of %s", name, i+1, part, first)
				}
				defined[at] = name
			}
			if part == "the page" {
				if trimmed != "" {
					inPage++
				}
				continue
			}
			if lines++; !ends.MatchString(line) {
				continue
			}
			if lines > screen+5 {
				t.Errorf("%s: %q has %d lines: name its parts", name, part, lines)
			}
			part = "the page"
		}
		if inPage > screen+5 {
			t.Errorf("%s has %d lines outside of its parts: name them", name, inPage)
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	for at, name := range defined {
		if shared := defined[[2]string{everywhere, at[1]}]; shared != "" && at[0] != everywhere {
			t.Errorf("%s: %q is another part of %s, which every page has", name, at[1], shared)
		}
	}
}
