package exchange

import (
	"bytes"
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/teambition/rrule-go"

	"gruppo/internal/day"
)

// Event is a date in a calendar that others read: from–until by the clock, or whole days where From is set.
type Event struct {
	ID, Name, Where, Says string
	Starts                time.Time
	Minutes               int
	From, Until           day.Day // whole days, that one included
	Off                   bool    // it does not take place
	Changes               int     // how often it was changed
	Address               string  // of its page; empty: none
}

// WriteCalendar writes events as a calendar that is subscribed to (iCalendar, RFC 5545), as of now.
func WriteCalendar(name string, events []Event, now time.Time) string {
	cal := ics.NewCalendarFor("Gruppo")
	cal.SetMethod(ics.MethodPublish)
	cal.SetName(name)
	cal.SetXWRCalName(name)
	cal.SetRefreshInterval("PT1H")
	cal.SetXPublishedTTL("PT1H")
	for _, e := range events {
		v := cal.AddEvent(e.ID + "@gruppo")
		v.SetDtStampTime(now)
		v.SetSummary(e.Name)
		v.SetSequence(e.Changes)
		if !e.From.IsZero() {
			v.SetAllDayStartAt(e.From.Start(time.UTC))
			v.SetAllDayEndAt(e.Until.Add(1).Start(time.UTC)) // the end of a whole day is the day after
			v.SetTimeTransparency(ics.TransparencyTransparent)
		} else {
			v.SetStartAt(e.Starts)
			v.SetEndAt(e.Starts.Add(time.Duration(e.Minutes) * time.Minute))
		}
		if e.Where != "" {
			v.SetLocation(e.Where)
		}
		if e.Says != "" {
			v.SetDescription(e.Says)
		}
		if e.Address != "" {
			v.SetURL(e.Address)
		}
		v.SetStatus(ics.ObjectStatusConfirmed)
		if e.Off {
			v.SetStatus(ics.ObjectStatusCancelled)
		}
	}
	return cal.Serialize(ics.WithNewLineWindows)
}

// Found is what a calendar file has on some days: from–until, that day included.
type Found struct {
	Name        string
	From, Until day.Day
	Whole       bool // whole days, else by the clock
	Line        int
}

// Limits of a calendar file that is brought in.
const (
	MostCalendar = 2 << 20 // bytes
	mostEvents   = 5000
	mostRepeats  = 200
	longestEvent = 366 // days
	mostInterval = 400 // between two times of what repeats
	mostReading  = 5 * time.Second
	mostBy       = 100 // days, weeks and months that a rule names
)

// Unread is an event that could not be read, and why.
type Unread struct {
	Line int
	Why  string
}

// ReadCalendar reads the events of an iCalendar file that touch from–until, in days where the club is, each time that
// one repeats. Events that cannot be read are told by their line; where the whole is no calendar there is an error in
// words.
func ReadCalendar(text []byte, from, until day.Day, loc *time.Location) (found []Found, bad []Unread, err error) {
	if len(text) > MostCalendar {
		return nil, nil, sentence("That is more than a calendar of %d MB; bring in a part of it.", MostCalendar>>20)
	}
	text = bytes.TrimPrefix(text, []byte("\xef\xbb\xbf"))
	if !bytes.HasPrefix(bytes.ToUpper(bytes.TrimSpace(text)), []byte("BEGIN:VCALENDAR")) {
		return nil, nil, sentence("This is no calendar file: one begins with BEGIN:VCALENDAR, and mostly ends in .ics.")
	}
	parts, err := eventsIn(string(text))
	if err != nil {
		return nil, nil, err
	}
	began := time.Now()
	for _, p := range parts {
		if time.Since(began) > mostReading {
			bad = append(bad, Unread{p.line, "from here on too much repeats: bring in a part of the file"})
			break
		}
		got, err := p.read(from, until, loc)
		if err != nil {
			bad = append(bad, Unread{p.line, err.Error()})
			continue
		}
		found = append(found, got...)
	}
	slices.SortStableFunc(found, func(a, b Found) int {
		return cmp.Or(a.From.Compare(b.From), cmp.Compare(a.Name, b.Name))
	})
	return found, bad, nil
}

// part is an event of a file as it stands there, from a line on.
type part struct {
	line  int
	lines []string
}

// eventsIn cuts a file into its events, so that one that cannot be read does not take the others with it.
func eventsIn(text string) (out []part, err error) {
	var now *part
	for i, l := range strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n") {
		switch strings.ToUpper(strings.TrimSpace(l)) {
		case "BEGIN:VEVENT":
			now = &part{line: i + 1}
		case "END:VEVENT":
			if now != nil {
				now.lines = append(now.lines, l)
				out = append(out, *now)
			}
			now = nil
			if len(out) > mostEvents {
				return nil, sentence("That is more than %d events; bring in a part of them.", mostEvents)
			}
			continue
		}
		if now != nil {
			now.lines = append(now.lines, l)
		}
	}
	return out, nil
}

func (p part) read(from, until day.Day, loc *time.Location) (out []Found, err error) {
	whole := "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-\r\n" + strings.Join(p.lines, "\r\n") + "\r\nEND:VCALENDAR\r\n"
	cal, err := ics.ParseCalendar(strings.NewReader(whole))
	if err != nil || len(cal.Events()) != 1 {
		return nil, fmt.Errorf("it is not written as an event")
	}
	e := cal.Events()[0]
	f := Found{Line: p.line, Name: "without a name"}
	if s := e.GetProperty(ics.ComponentPropertySummary); s != nil && strings.TrimSpace(s.Value) != "" {
		f.Name = strings.TrimSpace(strings.ToValidUTF8(s.Value, "?"))
		f.Name = strings.Map(func(r rune) rune {
			if r < ' ' {
				return ' '
			}
			return r
		}, f.Name)
		f.Name = string([]rune(f.Name)[:min(40, len([]rune(f.Name)))])
	}
	if s := e.GetProperty(ics.ComponentPropertyStatus); s != nil && strings.EqualFold(s.Value, "CANCELLED") {
		return nil, nil
	}
	starts, days, err := span(e, &f, loc)
	if err != nil {
		return nil, err
	}
	firsts, err := repeats(e, starts, from.Add(-days), until, loc)
	if err != nil {
		return nil, err
	}
	for _, first := range firsts {
		f.From, f.Until = first, first.Add(days)
		if !f.From.After(until) && !f.Until.Before(from) {
			out = append(out, f)
		}
	}
	return out, nil
}

// span is when an event begins, and how many days after its first its last is.
func span(e *ics.VEvent, f *Found, loc *time.Location) (starts time.Time, days int, err error) {
	p := e.GetProperty(ics.ComponentPropertyDtStart)
	if p == nil {
		return starts, 0, fmt.Errorf("it has no beginning")
	}
	f.Whole = len(strings.TrimSpace(p.Value)) == len("20060102")
	if f.Whole {
		starts, err = e.GetAllDayStartAt()
	} else {
		starts, err = e.GetStartAt()
	}
	if err != nil || starts.Year() < 1900 || starts.Year() > 2200 {
		return starts, 0, fmt.Errorf("its beginning is no date: %.30s", p.Value)
	}
	first := dayOf(starts, f.Whole, loc)
	last := first
	if e.GetProperty(ics.ComponentPropertyDtEnd) != nil {
		ends, err := e.GetEndAt()
		if f.Whole {
			if ends, err = e.GetAllDayEndAt(); err == nil {
				ends = ends.AddDate(0, 0, -1) // the end of a whole day is the day after
			}
		} else if err == nil {
			ends = ends.Add(-time.Second) // what ends at midnight ends on the day before
		}
		if err != nil {
			return starts, 0, fmt.Errorf("its end is no date")
		}
		last = dayOf(ends, f.Whole, loc)
	}
	switch days = last.Sub(first); {
	case last.Before(first):
		days = 0
	case days > longestEvent:
		return starts, 0, fmt.Errorf("it is longer than a year")
	}
	return starts, days, nil
}

func dayOf(t time.Time, whole bool, loc *time.Location) day.Day {
	if whole {
		return day.Of(t)
	}
	return day.In(t, loc)
}

// repeats are the first days of an event within from–until: one, or each time that it repeats.
func repeats(e *ics.VEvent, starts time.Time, from, until day.Day, loc *time.Location) ([]day.Day, error) {
	whole := len(strings.TrimSpace(e.GetProperty(ics.ComponentPropertyDtStart).Value)) == len("20060102")
	rule := e.GetProperty(ics.ComponentPropertyRrule)
	if rule == nil {
		return []day.Day{dayOf(starts, whole, loc)}, nil
	}
	option, err := rrule.StrToROption(rule.Value)
	if err != nil {
		return nil, fmt.Errorf("how it repeats cannot be read")
	}
	if option.Freq > rrule.DAILY || len(option.Byhour)+len(option.Byminute)+len(option.Bysecond) > 0 {
		return nil, fmt.Errorf("it repeats more than once a day")
	}
	by := len(option.Bymonth) + len(option.Bymonthday) + len(option.Byyearday) + len(option.Byweekno) + len(option.Byweekday) +
		len(option.Bysetpos) + len(option.Byeaster)
	if option.Interval < 0 || option.Interval > mostInterval || by > mostBy {
		return nil, fmt.Errorf("how it repeats is too much for a calendar of a season")
	}
	// what comes after the days that are asked for is not looked for
	if last := until.End(loc).AddDate(0, 0, 1); option.Until.IsZero() || option.Until.After(last) {
		option.Until = last
	}
	option.Dtstart = starts
	r, err := rrule.NewRRule(*option)
	if err != nil {
		return nil, fmt.Errorf("how it repeats cannot be read")
	}
	var set rrule.Set
	set.RRule(r)
	for _, p := range e.GetProperties(ics.ComponentPropertyExdate) {
		for _, s := range strings.Split(p.Value, ",") {
			if t, err := rrule.StrToDtStart(s, starts.Location()); err == nil {
				set.ExDate(t)
			}
		}
	}
	times := set.Between(from.Start(loc).AddDate(0, 0, -1), until.End(loc).AddDate(0, 0, 1), true)
	if len(times) > mostRepeats {
		return nil, fmt.Errorf("it repeats more than %d times in that time", mostRepeats)
	}
	var out []day.Day
	for _, t := range times {
		out = append(out, dayOf(t, whole, loc))
	}
	return out, nil
}
