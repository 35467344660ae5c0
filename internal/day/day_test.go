package day

import (
	"encoding/json"
	"testing"
	"time"
	_ "time/tzdata"
)

// "Until 10 March" holds to the end of that day where the club is, whatever zone the moment was written in, and over
// the change of the clocks: Los Angeles goes forward on 8 March 2026, Lisbon on 29 March, Auckland back on 5 April
// (IANA time zone database).
func TestUntilADayHoldsThroughThatDay(t *testing.T) {
	for zone, until := range map[string]Day{"Pacific/Auckland": New(2026, 4, 5), "Europe/Lisbon": New(2026, 3, 29), "America/Los_Angeles": New(2026, 3, 8)} {
		loc, err := time.LoadLocation(zone)
		if err != nil {
			t.Fatal(err)
		}
		for _, server := range []*time.Location{time.UTC, time.FixedZone("east", 14*3600), time.FixedZone("west", -11*3600)} {
			for clock, holds := range map[time.Time]bool{
				time.Date(2026, until.m, until.d, 0, 30, 0, 0, loc):    true,
				time.Date(2026, until.m, until.d, 23, 30, 0, 0, loc):   true,
				time.Date(2026, until.m, until.d+1, 0, 30, 0, 0, loc):  false,
				time.Date(2026, until.m, until.d-1, 23, 30, 0, 0, loc): true,
			} {
				if got := until.Holds(In(clock.In(server), loc)); got != holds {
					t.Errorf("%s at %s: %v", zone, clock, got)
				}
			}
		}
		if hours := until.End(loc).Sub(until.Start(loc)).Hours(); hours != 23 && hours != 25 {
			t.Errorf("%s: the day of the change has %v hours", zone, hours)
		}
	}
	if !(Day{}).Holds(New(2100, 1, 1)) {
		t.Error("until no day ends")
	}
	// Beirut skips midnight itself on 29 March 2026: the day begins at one.
	beirut, err := time.LoadLocation("Asia/Beirut")
	if err != nil {
		t.Fatal(err)
	}
	if s := New(2026, 3, 29).Start(beirut); s.Hour() != 1 || In(s, beirut) != New(2026, 3, 29) {
		t.Errorf("begins at %s", s)
	}
}

func TestDaysAreReadAndWritten(t *testing.T) {
	var in struct{ Until, Never Day }
	if err := json.Unmarshal([]byte(`{"Until":"2026-02-28","Never":""}`), &in); err != nil ||
		in.Until.Add(1) != New(2026, 3, 1) ||
		!in.Never.IsZero() {
		t.Errorf("%v, %v", in, err)
	}
	if b, _ := json.Marshal(in); string(b) != `{"Until":"2026-02-28","Never":""}` {
		t.Error(string(b))
	}
	for _, bad := range []string{"2026-02-30", "10.3.2026", "soon", "2026-2-3", "99999-01-01"} {
		if d, err := Parse(bad); err == nil {
			t.Errorf("%q is %s", bad, d)
		}
	}
	if n := New(2026, 3, 30).Sub(New(2026, 3, 28)); n != 2 {
		t.Errorf("%d days over the change of the clocks", n)
	}
}

// The week begins where it begins there (Unicode CLDR, supplemental weekData).
func TestTheWeekBeginsWhereItBeginsThere(t *testing.T) {
	for zone, first := range map[string]time.Weekday{"Europe/Lisbon": time.Monday, "Pacific/Auckland": time.Monday, "America/Los_Angeles": time.Sunday, "America/Argentina/Cordoba": time.Monday, "Africa/Cairo": time.Saturday, "UTC": time.Monday} {
		days := Week(zone)
		if days[0] != first || len(days) != 7 || InWeek(zone, first) != 0 || InWeek(zone, days[6]) != 6 {
			t.Errorf("%s: %v", zone, days)
		}
	}
}

// A field that was left empty is no day: it begins at no time, instead of being looked for for ever.
func TestNoDayBeginsAtNoTime(t *testing.T) {
	if at := (Day{}).Start(time.UTC); !at.IsZero() || (Day{}).Short() != "" {
		t.Error(at)
	}
}
