package exchange

import (
	"strings"
	"testing"
	"time"

	"gruppo/internal/day"
)

// The events are those of RFC 5545, sections 3.6.1 (a conference from 28 June to 8 July 2007 whose DTEND is the 9th; an
// anniversary that repeats each year) and 3.8.5.3 (daily for ten occurrences; every other week on Monday, Wednesday and
// Friday until 24 December 1997, from 1 September), from memory.
func TestACalendarIsReadAsTheStandardSays(t *testing.T) {
	newYork, err := time.LoadLocation("America/New_York")
	if err != nil {
		t.Fatal(err)
	}
	file := func(events ...string) []byte {
		return []byte("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nBEGIN:VEVENT\r\nUID:1\r\n" + strings.Join(events, "\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\nUID:2\r\n") +
			"\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n")
	}
	got, bad, err := ReadCalendar(file(
		"DTSTART;VALUE=DATE:20070628\r\nDTEND;VALUE=DATE:20070709\r\nSUMMARY:Festival International de Jazz de \r\n Montreal",
		"DTSTART;VALUE=DATE:19971102\r\nRRULE:FREQ=YEARLY\r\nSUMMARY:Our Blissful Anniversary",
	), day.New(2007, 7, 8), day.New(2008, 12, 31), newYork)
	if err != nil || len(bad) > 0 || len(got) != 3 {
		t.Fatal(got, bad, err)
	}
	if f := got[0]; f.Name != "Festival International de Jazz de Montrea" && f.Name != "Festival International de Jazz de Montre" ||
		f.From.String() != "2007-06-28" || f.Until.String() != "2007-07-08" || !f.Whole {
		t.Errorf("%+v", f)
	}
	if got[1].From.String() != "2007-11-02" || got[2].From.String() != "2008-11-02" {
		t.Errorf("each year: %+v", got[1:])
	}
	got, _, _ = ReadCalendar(file(
		"DTSTART;TZID=America/New_York:19970902T090000\r\nRRULE:FREQ=DAILY;COUNT=10\r\nEXDATE;TZID=America/New_York:19970904T090000\r\nSUMMARY:Ten",
		"DTSTART;TZID=America/New_York:19970901T090000\r\nRRULE:FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR\r\nSUMMARY:Fortnight",
		"DTSTART:19970903T023000Z\r\nDTEND:19970903T040000Z\r\nSUMMARY:The evening before, in New York",
		"DTSTART;VALUE=DATE:19970905\r\nSTATUS:CANCELLED\r\nSUMMARY:Off",
	), day.New(1997, 9, 1), day.New(1997, 9, 19), newYork)
	days := map[string]string{}
	for _, f := range got {
		days[f.Name] += f.From.Format(" 2")
	}
	for name, want := range map[string]string{
		"Ten": " 2 3 5 6 7 8 9 10 11", "Fortnight": " 1 3 5 15 17 19", "The evening before, in New York": " 2", "Off": "",
	} {
		if days[name] != want {
			t.Errorf("%s: %s, want %s", name, days[name], want)
		}
	}

	got, bad, err = ReadCalendar(file(
		"DTSTART:yesterday\r\nSUMMARY:Broken", "SUMMARY:Never", "DTSTART:20260101T000000Z\r\nRRULE:FREQ=SECONDLY\r\nSUMMARY:Always",
		"DTSTART:20260101T000000Z\r\nRRULE:FREQ=SOMETIMES", "DTSTART;VALUE=DATE:20260101\r\nSUMMARY:Good",
	), day.New(2026, 1, 1), day.New(2026, 2, 1), time.UTC)
	if err != nil || len(got) != 1 || len(bad) != 4 || bad[0].Line != 4 || bad[0].Why != "its beginning is no date: yesterday" {
		t.Errorf("%+v %+v %v", got, bad, err)
	}
	if _, _, err := ReadCalendar([]byte("name,born"), day.Day{}, day.Day{}, time.UTC); err == nil || !strings.Contains(err.Error(), "no calendar file") {
		t.Error(err)
	}
}

// What we write we can read; that others can is shown in e2e/calendar.spec.js with another library.
func TestACalendarComesBack(t *testing.T) {
	lisbon, err := time.LoadLocation("Europe/Lisbon")
	if err != nil {
		t.Fatal(err)
	}
	text := WriteCalendar("Ünï; a,b\\n", []Event{
		{ID: "a", Name: strings.Repeat("Ö", 60) + ", x; y", Starts: time.Date(2026, 12, 1, 18, 0, 0, 0, lisbon), Minutes: 90, Where: "Hall; 2"},
		{ID: "b", Name: "Break", From: day.New(2026, 12, 20), Until: day.New(2027, 1, 3)},
		{ID: "c", Name: "Off", Starts: time.Date(2026, 12, 2, 18, 0, 0, 0, lisbon), Minutes: 60, Off: true},
	}, time.Date(2026, 11, 1, 0, 0, 0, 0, time.UTC))
	for _, l := range strings.Split(strings.TrimSuffix(text, "\r\n"), "\r\n") {
		if len(l) > 75 || strings.ContainsAny(l, "\r\n") {
			t.Errorf("a line of %d bytes: %q", len(l), l)
		}
	}
	got, bad, err := ReadCalendar([]byte(text), day.New(2026, 11, 1), day.New(2027, 2, 1), lisbon)
	if err != nil || len(bad) > 0 || len(got) != 2 || got[0].From != day.New(2026, 12, 1) || got[1].Until != day.New(2027, 1, 3) {
		t.Errorf("%+v %+v %v", got, bad, err)
	}
}

func FuzzReadCalendar(f *testing.F) {
	f.Add([]byte("BEGIN:VCALENDAR\nBEGIN:VEVENT\nDTSTART;VALUE=DATE:20260101\nRRULE:FREQ=YEARLY;BYDAY=1MO\nEXDATE:20260101\nEND:VEVENT\nEND:VCALENDAR"))
	f.Add([]byte("BEGIN:VCALENDAR\nBEGIN:VEVENT\nDTSTART;TZID=Nowhere/At_All:20260101T0900\nDTEND:1\nDURATION:P1D\nEND:VEVENT"))
	f.Fuzz(func(t *testing.T, text []byte) {
		from, until := day.New(2026, 1, 1), day.New(2026, 12, 31)
		got, _, _ := ReadCalendar(text, from, until, time.UTC)
		for _, g := range got {
			if g.Name == "" || g.Until.Before(g.From) || g.From.After(until) || g.Until.Before(from) {
				t.Errorf("%+v", g)
			}
		}
	})
}
