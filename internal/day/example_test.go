package day_test

import (
	"fmt"
	"time"

	"gruppo/internal/day"
)

// On the night in which summer time begins there is no 02:30.
func ExampleOn() {
	berlin, err := time.LoadLocation("Europe/Berlin")
	if err != nil {
		fmt.Println(err)
		return
	}
	at, note, err := day.On(time.Date(2026, 3, 29, 0, 0, 0, 0, time.UTC), "02:30", berlin)
	fmt.Println(at.Format("15:04 MST"), err)
	fmt.Println(note)
	// Output:
	// 03:30 CEST <nil>
	// On 29 Mar the clocks go forward and 02:30 does not happen; the session begins at 03:30.
}
