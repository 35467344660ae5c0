package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/xuri/excelize/v2"

	"gruppo/internal/store"
)

// A test is set up, entered on three Tuesdays by the pad and by a form, and says whose change is real.
func TestATestComesBackAndTellsChangeFromNoise(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tomasz := s.as(t, "tomasz")
	class := s.session(t, "Tuesday hall").ClassID
	setUp := url.Values{"name": {"Wall passes in 30 s"}, "class": {class}, "tries": {"2"}, "every": {"1"}, "from": {"2026-11-10"}, "unit-0": {"passes"}}
	for field, wrong := range map[string][2]string{
		"name": {"", "What is the test called?"}, "tries": {"9", "from 1 to 3"}, "every": {"0", "from 1 to 26"}, "class": {store.NewID(), "Choose the class."},
	} {
		v := url.Values{}
		for k := range setUp {
			v[k] = setUp[k]
		}
		v.Set(field, wrong[0])
		if code, body := tomasz.post("/season/tests/new", v); code != http.StatusUnprocessableEntity || !strings.Contains(body, wrong[1]) ||
			!strings.Contains(body, `value="passes"`) {
			t.Errorf("%s: %d", wrong[1], code)
		}
	}
	at := tomasz.at("/season/tests/new", setUp)
	names := []string{"Bo Lindahl", "Mina Ferro", "Aino Laine", "Femi Adeyemi", "Pia Grant"}
	ids := map[string]string{}
	for _, n := range names {
		ids[n] = player(t, s, n).ID
	}
	said := func(day, who string, try int, figure any, at int) string {
		f := "null"
		if figure != nil {
			f = fmt.Sprint(figure)
		}
		return fmt.Sprintf(`{"id":"%s %s %d %d","day":"%s","player":"%s","measure":0,"try":%d,"figure":%s,"at":%d}`, day, who, try, at, day, ids[who], try, f, at)
	}
	var items []string
	for week, day := range []string{"2026-11-10", "2026-11-17", "2026-11-24"} {
		for i, n := range names {
			base := 20 + 3*i
			if n == "Bo Lindahl" {
				base += 6 * week // better each week, well beyond what two tries differ by
			}
			items = append(items, said(day, n, 0, base+(i+week)%2, 100), said(day, n, 1, base+1-(i*week)%3, 100))
		}
	}
	items = append(items, items[0], said("2026-11-24", "Pia Grant", 1, 99, 50), said("2026-11-24", "Nobody", 0, 1, 1), said("2026-12-24", "Pia Grant", 0, 1, 1))
	code, answer := tomasz.do("POST", at+"/figures", "application/json", strings.NewReader(`{"items":[`+strings.Join(items, ",")+`]}`))
	if code != 200 || strings.Count(answer, `"kept":true`) != len(items)-2 {
		t.Fatalf("%d %s", code, answer)
	}
	_, page := tomasz.get(at)
	mustHave(t, page, "Wall passes in 30 s", "A change counts from", "passes on: two tries of one day differ by", "next on Tue 24 Nov")
	row := func(page, name string) string {
		_, rest, _ := strings.Cut(page, "<bdi>"+name)
		row, _, _ := strings.Cut(rest, "</tr>")
		return row
	}
	if r := row(page, "Bo Lindahl"); !strings.Contains(r, "better, sure") {
		t.Errorf("what is real: %s", r)
	}
	if r := row(page, "Mina Ferro"); !strings.Contains(r, "as before") {
		t.Errorf("what is noise: %s", r)
	}
	if strings.Contains(page, ">99<") {
		t.Error("an older word came later, and stands")
	}
	if _, season := tomasz.get("/season?class=" + class); !strings.Contains(season, "Wall passes in 30 s") || !strings.Contains(season, "as before, or for the first time") {
		t.Error("the season does not show it")
	}

	// without scripts: all of it, or nothing, and what was typed stays
	form := url.Values{"day": {"2026-11-24"}, ids["Mina Ferro"] + " 0 0": {"many"}, ids["Pia Grant"] + " 0 0": {"41,5"}}
	if code, body := tomasz.post(at+"/pad?day=2026-11-24", form); code != http.StatusUnprocessableEntity || !strings.Contains(body, `value="many"`) ||
		!strings.Contains(body, "A figure: a number from") {
		t.Errorf("a figure that is none: %d", code)
	}
	form.Set(ids["Mina Ferro"]+" 0 0", "")
	tomasz.at(at+"/pad?day=2026-11-24", form)
	_, pad := tomasz.get(at + "/pad?day=2026-11-24")
	mustHave(t, pad, `value="41.5"`)
	if code, _ := s.as(t, "bea").get(at + "/pad"); code != http.StatusForbidden {
		t.Errorf("a helper at the pad: %d", code)
	}
	tomasz.at(at+"/end", nil)
	if _, page := tomasz.get(at); !strings.Contains(page, "does not come back any more") {
		t.Error("ended, it comes back")
	}
}

// A class misses dates from its first session on: one that begins today has missed nothing of this term, one that met before has.
func TestNobodyMissedWhatHadNotBegun(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	began := func(weeks int) (missed int) {
		in(t, s, func(tx *store.Tx) (struct{}, error) {
			_, err := tx.Exec(ctx, `update session set class_id = (select id from class where name = 'Saturday squad')
				where class_id = (select id from class where name = 'Adult beginners') and starts_at < $1 and starts_at > $2`, evening, evening.AddDate(0, 0, -7*weeks))
			return struct{}{}, err
		})
		_, page := ines.get("/season")
		row := page[strings.Index(page, ">Adult beginners<"):]
		return strings.Count(row[:strings.Index(row, "</tr>")], ">missed<")
	}
	if n := began(3); n != 3 {
		t.Errorf("three weeks without it: %d missed", n)
	}
	if n := began(100); n != 0 {
		t.Errorf("it begins this week, and has missed %d", n)
	}
}

// The lead's page: who has not come three times in a row, which class is full, what clashes; and the same as a workbook.
func TestTheLeadLooksAtTheWholeClub(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	bo := player(t, s, "Bo Lindahl")
	tuesday := s.session(t, "Tuesday hall")
	in(t, s, func(tx *store.Tx) (struct{}, error) {
		_, err := tx.Exec(ctx, `update attendance set state = 'absent' where player_id = $1 and session_id in
			(select id from session where class_id = $2 and starts_at < $3 order by starts_at desc limit 3)`, bo.ID, tuesday.ClassID, evening)
		if err == nil {
			_, err = tx.Exec(ctx, `update class set places = 19 where id = $1`, tuesday.ClassID)
		}
		return struct{}{}, err
	})
	_, page := ines.get("/season/club")
	mustHave(t, page, "Bo Lindahl</bdi></a>, Tuesday hall", "missed 3 dates in a row, came last on", "full", "Stepped up", "↑1")
	code, book := ines.get("/season/club.xlsx")
	f, err := excelize.OpenReader(strings.NewReader(book))
	if code != 200 || err != nil {
		t.Fatal(code, err)
	}
	away, err := f.GetRows("Not come for a while")
	if err != nil || len(away) != 2 || away[1][0] != "Bo Lindahl" || away[1][2] != "3" {
		t.Errorf("%v %v", away, err)
	}
	if kind, _ := f.GetCellType("Classes", "B2"); kind != excelize.CellTypeUnset && kind != excelize.CellTypeNumber {
		t.Errorf("a figure is kept as %v", kind)
	}
	if code, _ := s.as(t, "tomasz").get("/season/club"); code != http.StatusForbidden {
		t.Errorf("a coach at the lead's page: %d", code)
	}
	// Thursday moves onto Tuesday's time and hall
	thursday := s.session(t, "Thursday hall")
	ines.at("/sessions/"+thursday.ID+"/move", url.Values{"to-day": {"2026-12-01"}, "to-time": {"18:30"}})
	_, page = ines.get("/season")
	mustHave(t, page, "Tuesday hall and Thursday hall: both", "Tue 1 Dec 18:30")
}
