package season

import (
	"fmt"
	"testing"
	"time"
)

// By looking at a week's times.
func TestTwoClassesAtOnceAreFound(t *testing.T) {
	at := func(day, hour, minute int) time.Time { return time.Date(2026, 12, day, hour, minute, 0, 0, time.UTC) }
	ines, leila := map[string]string{"i": "Ines"}, map[string]string{"l": "Leila"}
	book := func(class string, starts time.Time, place, zone string, by map[string]string) Booking {
		return Booking{Class: class, Name: class, Starts: starts, Minutes: 90, Place: place, PlaceName: "Hall " + place, Zone: zone, Leaders: by}
	}
	got := Clashes([]Booking{
		book("B", at(1, 19, 0), "a", "", leila), book("A", at(1, 18, 0), "a", "", ines), // half an hour of the same hall
		book("A", at(8, 18, 0), "a", "", ines), book("B", at(8, 19, 0), "a", "", leila), // again
		book("C", at(2, 18, 0), "a", "left", ines), book("D", at(2, 18, 0), "a", "right", leila), // each its half
		book("E", at(3, 18, 0), "a", "left", ines), book("F", at(3, 19, 0), "b", "", ines), // one coach in two halls
		book("G", at(4, 18, 0), "a", "", ines), book("H", at(4, 19, 30), "a", "", ines), // one after the other
	})
	want := "[A and B: both in Hall a, Tue 1 Dec 19:00, and 1 time more. E and F: both with Ines, Thu 3 Dec 19:00.]"
	if fmt.Sprint(got) != want {
		t.Errorf("%v", got)
	}
}
