package seen_test

import (
	"encoding/json"
	"fmt"
	"os"
	"reflect"
	"slices"
	"testing"

	"gruppo/internal/coach/seen"
)

// The evenings are those that the phone's seen.js is held to.
func TestWhoWasSeenAndByWhom(t *testing.T) {
	raw, err := os.ReadFile("testdata/seen.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []struct {
		Name    string
		Evening seen.Evening
		Seen    map[string][]string
	}
	if err := json.Unmarshal(raw, &cases); err != nil {
		t.Fatal(err)
	}
	for _, c := range cases {
		got := seen.By(c.Evening)
		for _, by := range got {
			slices.Sort(by)
		}
		if !reflect.DeepEqual(got, c.Seen) {
			t.Errorf("%s: %v, want %v", c.Name, got, c.Seen)
		}
	}
}

func ExampleBy() {
	pair := seen.Point{Whose: "ada ben", By: "lead"}
	fmt.Println(seen.By(seen.Evening{Points: []seen.Point{pair}}))
	// Output: map[ada:[lead] ben:[lead]]
}
