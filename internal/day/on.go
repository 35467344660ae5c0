package day

import (
	"fmt"
	"time"
)

// On puts a time of day on a date in a place's own time. Where daylight saving skips that moment, it is put as much
// later as the clocks jump, and note says so.
func On(date time.Time, clock string, loc *time.Location) (at time.Time, note string, err error) {
	hm, err := time.Parse("15:04", clock)
	if err != nil {
		return time.Time{}, "", fmt.Errorf("a time is written like 18:00, not %q", clock)
	}
	y, m, d := date.Date()
	at = time.Date(y, m, d, hm.Hour(), hm.Minute(), 0, 0, loc)
	if at.Hour() == hm.Hour() && at.Minute() == hm.Minute() {
		return at, "", nil
	}
	// In the gap: count on from the last hour that exists, with the offset from before the jump.
	_, before := time.Date(y, m, d, 0, 0, 0, 0, loc).Zone()
	at = time.Date(y, m, d, hm.Hour(), hm.Minute(), 0, 0, time.UTC).Add(-time.Duration(before) * time.Second).In(loc)
	return at, fmt.Sprintf(
		"On %s the clocks go forward and %s does not happen; the session begins at %s.",
		at.Format("2 Jan"),
		clock,
		at.Format("15:04"),
	), nil
}

// Next is the first day on or after the given one that falls on the weekday.
func Next(weekday time.Weekday, from time.Time) time.Time {
	return from.AddDate(0, 0, (int(weekday)-int(from.Weekday())+7)%7)
}
