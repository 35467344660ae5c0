// Package day holds the civil date: a day of the calendar in the zone of a place, without a time. It is the only place
// where days meet time zones, and where "until a day" means that day included.
package day

import (
	"database/sql/driver"
	"fmt"
	"strings"
	"time"
)

// Day is a day of the calendar. The zero value is no day.
type Day struct {
	y int
	m time.Month
	d int
}

// New is the day of those figures; figures past the end of a month or year count on, as in time.Date.
func New(year int, month time.Month, d int) Day {
	return of(time.Date(year, month, d, 0, 0, 0, 0, time.UTC))
}

// Of is the day that a moment falls on in its own zone.
func Of(t time.Time) Day {
	if t.IsZero() {
		return Day{}
	}
	return of(t)
}

func of(t time.Time) Day {
	y, m, d := t.Date()
	return Day{y, m, d}
}

// In is the day that a moment falls on in a zone.
func In(t time.Time, loc *time.Location) Day { return Of(t.In(loc)) }

// Parse reads a day as 2026-03-10; an empty text is no day.
func Parse(s string) (Day, error) {
	if s == "" {
		return Day{}, nil
	}
	t, err := time.Parse(time.DateOnly, s)
	if err != nil || t.Year() < 1900 || t.Year() > 2200 {
		return Day{}, fmt.Errorf("a day is written like 2026-12-12, not %q", s)
	}
	return of(t), nil
}

// IsZero reports whether it is no day.
func (d Day) IsZero() bool { return d == Day{} }

// String is the day as 2026-03-10, or nothing.
func (d Day) String() string {
	if d.IsZero() {
		return ""
	}
	return d.utc().Format(time.DateOnly)
}

// Format writes the day in a layout of package time.
func (d Day) Format(layout string) string {
	if d.IsZero() {
		return ""
	}
	return d.utc().Format(layout)
}

// Short is the day as it is said in passing: "10 Mar", or nothing.
func (d Day) Short() string { return d.Format("2 Jan") }

func (d Day) utc() time.Time { return time.Date(d.y, d.m, d.d, 0, 0, 0, 0, time.UTC) }

// Year of the day.
func (d Day) Year() int { return d.y }

// Weekday of the day.
func (d Day) Weekday() time.Weekday { return d.utc().Weekday() }

// Add is the day so many days later.
func (d Day) Add(days int) Day {
	if d.IsZero() {
		return d
	}
	return New(d.y, d.m, d.d+days)
}

// Sub is how many days d comes after o.
func (d Day) Sub(o Day) int { return int(d.utc().Sub(o.utc()).Hours() / 24) }

// Compare is negative when d is before o. No day comes before every other.
func (d Day) Compare(o Day) int { return d.utc().Compare(o.utc()) }

// Before and After compare two days.
func (d Day) Before(o Day) bool { return d.Compare(o) < 0 }
func (d Day) After(o Day) bool  { return d.Compare(o) > 0 }

// Holds reports whether what is said "until d" holds on a day: through d itself, and always when d is no day.
func (d Day) Holds(on Day) bool { return d.IsZero() || !on.After(d) }

// Start is the first moment of the day in a zone; of no day, the zero time. Where the clocks skip midnight it is the
// moment after the gap.
func (d Day) Start(loc *time.Location) time.Time {
	if d.IsZero() {
		return time.Time{}
	}
	t := time.Date(d.y, d.m, d.d, 0, 0, 0, 0, loc)
	for of(t) != d { // midnight does not happen: time.Date went back into the day before
		t = t.Add(30 * time.Minute)
	}
	return t
}

// End is the first moment after the day in a zone.
func (d Day) End(loc *time.Location) time.Time { return d.Add(1).Start(loc) }

// MarshalText and UnmarshalText write and read it as 2026-03-10, in JSON too.
func (d Day) MarshalText() ([]byte, error) { return []byte(d.String()), nil }

// UnmarshalText reads what MarshalText writes.
func (d *Day) UnmarshalText(b []byte) (err error) {
	*d, err = Parse(string(b))
	return err
}

// Value gives it to a database as a date, or null.
func (d Day) Value() (driver.Value, error) {
	if d.IsZero() {
		return nil, nil
	}
	return d.String(), nil
}

// Scan takes a date, or null, from a database.
func (d *Day) Scan(v any) (err error) {
	switch v := v.(type) {
	case nil:
		*d = Day{}
	case time.Time:
		*d = of(v)
	case string:
		if v = strings.TrimPrefix(v, "-"); v == "infinity" { // for ever: no day
			v = ""
		}
		*d, err = Parse(v)
	default:
		err = fmt.Errorf("a day cannot be read from %T", v)
	}
	return err
}
