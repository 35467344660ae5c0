package run_test

import (
	"fmt"
	"time"

	"gruppo/internal/coach/plan/run"
	"gruppo/internal/coach/plan/work"
)

// Ten minutes of warm-up begin two minutes late and stand still for three: all after them is five minutes late.
func ExampleFold() {
	at := func(minute int) time.Time { return time.Date(2026, 11, 24, 18, minute, 0, 0, time.UTC) }
	t := run.Fold(
		[]work.Segment{{Label: "Warm-up", Duration: 10 * time.Minute}, {Label: "Game", Duration: 20 * time.Minute}},
		[]run.Event{{ID: "1", Do: "start", At: at(2)}, {ID: "2", Do: "pause", At: at(5)}, {ID: "3", Do: "resume", At: at(8)}},
	)
	for _, b := range t.Bounds {
		fmt.Println(b.Format("15:04"))
	}
	fmt.Println("at 18:14 it is segment", t.Index(at(14)))
	// Output:
	// 18:02
	// 18:15
	// 18:35
	// at 18:14 it is segment 0
}
