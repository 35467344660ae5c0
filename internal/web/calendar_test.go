package web

import (
	"bytes"
	"mime/multipart"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/store"
)

// A calendar's address shows dates and no child, follows what is moved and cancelled, and ends.
func TestDatesAreReadElsewhereUntilTheAddressIsWithdrawn(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, bea, stranger := s.as(t, "ines"), s.as(t, "bea"), s.browser(t)
	tuesday := s.session(t, "Tuesday hall")
	address := regexp.MustCompile(`/calendar/[0-9a-f]{48}\.ics`)
	made := func(b browser, class string) string {
		_, body := b.post("/calendars", url.Values{"class": {class}})
		return address.FindString(body)
	}
	mine, class := made(bea, ""), made(ines, tuesday.ClassID)
	if code, _ := bea.post("/calendars", url.Values{"class": {tuesday.ClassID}}); code != http.StatusNotFound {
		t.Errorf("a helper made a class's address: %d", code)
	}
	for _, at := range []string{mine, class} {
		code, text := stranger.get(at)
		if code != 200 || !strings.Contains(text, "SUMMARY:Tuesday hall: catching") && !strings.Contains(text, "SUMMARY:Tuesday hall") {
			t.Fatalf("%s: %d %s", at, code, text)
		}
		for _, p := range in(t, s, func(tx *store.Tx) ([]store.Player, error) { return tx.Players(ctx, store.PlayerFilter{}) }) {
			if strings.Contains(text, p.Name) {
				t.Errorf("the calendar names %s", p.Name)
			}
		}
	}
	if _, text := stranger.get(mine); strings.Contains(text, "Saturday squad") {
		t.Error("a helper's calendar has sessions that they are not on")
	}

	// moved, with who is told; a family that asked for mail has it, and the others are named
	link := s.linkFor(t, player(t, s, "Bo Lindahl").ID)
	if code, body := stranger.post(link+"/mail", url.Values{"mail": {"not an address"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, `value="not an address"`) {
		t.Errorf("a mail address that is none: %d", code)
	}
	stranger.at(link+"/mail", url.Values{"mail": {"bos-mother@example.org"}})
	at := ines.at("/sessions/"+tuesday.ID+"/move", url.Values{"to-day": {"2026-11-25"}, "to-time": {"17:30"}})
	_, page := ines.get(at)
	mustHave(t, page, "is moved to Wed 25 Nov, 17:30", "1 family has mail", "yourself: they asked for no mail")
	_, text := stranger.get(class)
	mustHave(t, strings.ReplaceAll(text, "\r\n ", ""), "DTSTART:20261125T173000Z", "Moved from Tue 24 Nov 18:00", "SEQUENCE:1")
	ines.at("/sessions/"+tuesday.ID+"/off", nil)
	_, text = stranger.get(link + "/dates.ics")
	mustHave(t, text, "STATUS:CANCELLED", "SEQUENCE:2")
	_, box := ines.get("/account/mail")
	mustHave(t, box, "to bos-mother@example.org", "to tomasz@saltmarsh.example", "does not take place")
	_, page = stranger.get(link)
	mustHave(t, page, "does not take place")
	if code, _ := s.as(t, "tomasz").get("/account/mail"); code != http.StatusForbidden {
		t.Errorf("a coach reads the club's mails: %d", code)
	}

	// reminders of practice: in the afternoon of a day that is asked for and not ticked, once, until they are ended
	given := ines.at("/season/home/new", url.Values{"class": {tuesday.ClassID}, "what-0": {"Hops"}, "sets": {"1"}, "from": {"2026-11-24"}})
	remind := func(at time.Time) (n int) {
		return in(t, s, func(tx *store.Tx) (int, error) { return app.Remind(ctx, tx, at) })
	}
	if remind(time.Date(2026, 11, 25, 15, 59, 0, 0, time.UTC)) != 0 || remind(time.Date(2026, 11, 25, 16, 0, 0, 0, time.UTC)) != 1 {
		t.Error("reminded before the afternoon, or not at all")
	}
	remind(time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC))
	_, box = ines.get("/account/mail")
	if n := strings.Count(box, "<h2>Practice today: Hops"); n != 1 {
		t.Errorf("reminded %d times: %s", n, given)
	}
	end := regexp.MustCompile(`/reminders/[0-9a-f]+`).FindString(box)
	if code, page := stranger.get(end); code != 200 || !strings.Contains(page, "No more reminders?") {
		t.Errorf("%s: %d", end, code)
	}
	stranger.post(end, nil)
	if remind(time.Date(2026, 11, 26, 17, 0, 0, 0, time.UTC)) != 0 {
		t.Error("reminded after it was ended")
	}

	// withdrawn, with the link, and with the member's access
	_, page = ines.get("/calendars")
	ines.at(regexp.MustCompile(`/calendars/[0-9a-f-]{36}/withdraw`).FindString(page), nil)
	links := in(t, s, func(tx *store.Tx) ([]store.GuardianLink, error) {
		return tx.GuardianLinks(ctx, player(t, s, "Bo Lindahl").ID)
	})
	ines.at("/links/"+links[0].ID+"/withdraw", nil)
	for _, l := range tuesday.Leaders {
		if l.Name == "Bea Lindqvist" {
			ines.at("/account/people/"+l.Member+"/end", nil)
		}
	}
	for _, at := range []string{class, mine, link + "/dates.ics", "/calendar/" + strings.Repeat("0", 48) + ".ics"} {
		if code, _ := stranger.get(at); code != http.StatusNotFound {
			t.Errorf("%s still answers: %d", at, code)
		}
	}
}

// A calendar is looked into first; only what is agreed to is taken, and that can be undone.
func TestHolidaysAreBroughtInFromACalendar(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	send := func(name, text string) (int, string) {
		var b bytes.Buffer
		w := multipart.NewWriter(&b)
		f, err := w.CreateFormFile("file", name)
		if err != nil {
			t.Fatal(err)
		}
		f.Write([]byte(text))
		w.Close()
		return ines.do("POST", "/season/calendar", w.FormDataContentType(), &b)
	}
	code, page := send("school.ics", "BEGIN:VCALENDAR\nBEGIN:VEVENT\nDTSTART;VALUE=DATE:20261208\nSUMMARY:Teachers' day\nEND:VEVENT\nBEGIN:VEVENT\nDTSTART:nonsense\nEND:VEVENT\n"+
		"BEGIN:VEVENT\nDTSTART:20261210T200000Z\nDTEND:20261210T220000Z\nSUMMARY:Concert <b>\nEND:VEVENT\nEND:VCALENDAR\n")
	if code != 200 {
		t.Fatal(code, page)
	}
	mustHave(t, page, "Teachers&#39; day", "Tue 8 Dec 2026", "Concert &lt;b&gt;", "Line 6 could not be read")
	days := func() (n int) {
		return in(t, s, func(tx *store.Tx) (n int, err error) {
			return n, tx.QueryRow(ctx, `select count(*) from day_off`).Scan(&n)
		})
	}
	before := days()
	to := ines.at("/season/calendar/take", url.Values{
		"name-0": {"Teachers' day"}, "from-0": {"2026-12-08"}, "until-0": {"2026-12-08"}, "as-0": {"holiday"},
		"name-1": {"Concert"}, "from-1": {"2026-12-10"}, "until-1": {"2026-12-10"}, "as-1": {""},
	})
	if _, page := ines.get(to); days() != before+1 || !strings.Contains(page, "Teachers") || !strings.Contains(page, "Undo") {
		t.Errorf("%d days off, %d before", days(), before)
	}
	for name, text := range map[string]string{"list.csv": "name,born\n", "": "", "big.ics": strings.Repeat("BEGIN:VCALENDAR\n", 1<<18)} {
		if code, _ := send(name, text); code != http.StatusUnprocessableEntity {
			t.Errorf("%q: %d", name, code)
		}
	}
}

// A class is taken out although something was noted in a date ahead: that date stays. And a limit without an end has no
// "until" on the roster.
func TestAClassWithANotedDateAheadIsTakenOut(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	tuesday, bo := s.session(t, "Tuesday hall"), player(t, s, "Bo Lindahl")
	in(t, s, func(tx *store.Tx) (struct{}, error) {
		if _, err := tx.Exec(ctx, `update session set starts_at = starts_at + interval '7 days' where id = $1`, tuesday.ID); err != nil {
			return struct{}{}, err
		}
		if err := tx.SetLimits(ctx, bo.ID, []store.Limit{{What: "jumping"}}); err != nil {
			return struct{}{}, err
		}
		note := store.Note{ID: store.NewID(), Player: bo.ID, Session: tuesday.ID, Kind: "follow", Says: "ask", At: evening, By: tuesday.Leaders[0].Member}
		return struct{}{}, tx.AddNote(ctx, note)
	})
	_, roster := ines.get("/roster")
	mustHave(t, roster, "no jumping</span>")
	if code, body := ines.post("/sessions/out/class/"+tuesday.ClassID, nil); code != http.StatusSeeOther {
		t.Fatalf("%d %.300s", code, body)
	}
	if left := in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, tuesday.ID) }); left.ID != tuesday.ID {
		t.Error("the noted date is gone")
	}
}
