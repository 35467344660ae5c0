package coach_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

// The rules take values and return values: no files, no network, no clock, no database, no pages.
func TestTheRulesImportNoInputOrOutput(t *testing.T) {
	allowed := []string{
		"bytes",
		"cmp",
		"encoding/json",
		"errors",
		"fmt",
		"hash/fnv",
		"iter",
		"maps",
		"math",
		"math/bits",
		"math/rand/v2",
		"reflect",
		"slices",
		"sort",
		"strconv",
		"strings",
		"time",
		"unicode",
		"unicode/utf8",
	}
	files := 0
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		// plantest is for tests
		if err != nil || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") ||
			filepath.Base(filepath.Dir(path)) == "plantest" {
			return err
		}
		files++
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.SkipObjectResolution)
		if err != nil {
			return err
		}
		for _, imp := range f.Imports {
			name := strings.Trim(imp.Path.Value, `"`)
			if !slices.Contains(allowed, name) && !strings.HasPrefix(name, "gonum.org/") &&
				!strings.HasPrefix(name, "gruppo/internal/coach") &&
				name != "gruppo/internal/day" {
				t.Errorf("%s imports %s", path, name)
			}
		}
		return nil
	})
	if err != nil || files < 8 {
		t.Fatalf("%d files read, %v", files, err)
	}
}
