package home_test

import (
	"fmt"

	"gruppo/internal/coach/home"
)

func ExampleParseMuch() {
	for _, text := range []string{"2 min", "1:30", "45 s", "20", "twice"} {
		seconds, count, ok := home.ParseMuch(text)
		fmt.Println(text, seconds, count, ok)
	}
	// Output:
	// 2 min 120 0 true
	// 1:30 90 0 true
	// 45 s 45 0 true
	// 20 0 20 true
	// twice 0 0 false
}
