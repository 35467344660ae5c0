package day

import (
	"strings"
	"testing"
	"time"
	_ "time/tzdata"
)

var start = time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC) // a Tuesday

// The European Union's summer time (Directive 2000/84/EC) begins at 01:00 UTC on the last Sunday of March: in Lisbon
// the clocks go from 01:00 to 02:00, in Berlin from 02:00 to 03:00.
func TestTheHourThatIsSkipped(t *testing.T) {
	for zone, clocks := range map[string][2]string{"Europe/Lisbon": {"01:30", "02:30"}, "Europe/Berlin": {"02:15", "03:15"}} {
		loc, err := time.LoadLocation(zone)
		if err != nil {
			t.Fatal(err)
		}
		at, note, err := On(time.Date(2026, 3, 29, 0, 0, 0, 0, loc), clocks[0], loc)
		if err != nil || at.Format("15:04") != clocks[1] || !strings.Contains(note, "29 Mar") ||
			!strings.Contains(note, clocks[0]) {
			t.Errorf("%s: %s, %q, %v", zone, at, note, err)
		}
		if at, note, _ := On(time.Date(2026, 3, 29, 0, 0, 0, 0, loc), "18:00", loc); note != "" || at.Hour() != 18 {
			t.Errorf("%s: an evening of that day: %s, %q", zone, at, note)
		}
	}
	if _, _, err := On(start, "half six", time.UTC); err == nil {
		t.Error("half six was understood")
	}
	if d := Next(time.Tuesday, start); !d.Equal(start) {
		t.Errorf("the next Tuesday from a Tuesday is %s", d)
	}
	if d := Next(time.Monday, start); d.Day() != 30 {
		t.Errorf("the next Monday is %s", d)
	}
}
