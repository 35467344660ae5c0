package web

import (
	"fmt"
	"html"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/demo"
	"gruppo/internal/store"
)

// What lies beside the ways of the other stories: each was found by asking which lines no test had ever run.

// Who coaches in two clubs types one address and is asked where today; a club that the password never fitted is not
// entered, and the choice holds once.
func TestOneAddressInTwoClubs(t *testing.T) {
	t.Parallel()
	s := serve(t)
	other := s.browser(t)
	if code, body := other.post("/start", url.Values{"club": {"Harbour gym"}, "program": {"Shapes"}, "name": {"Ines Okafor"}, "email": {"ines@saltmarsh.example"},
		"password": {demo.Password}, "family": {"apparatus"}, "zone": {"UTC"}}); code != http.StatusSeeOther {
		t.Fatalf("a second club: %d %.300s", code, body)
	}
	b := s.browser(t)
	typed := url.Values{"email": {"ines@saltmarsh.example"}, "password": {demo.Password}, "to": {"/roster"}}
	code, body := b.post("/sign-in", typed)
	if code != 200 {
		t.Fatalf("signing in: %d", code)
	}
	mustHave(t, body, "known in 2 clubs", "Harbour gym", demo.ClubName)
	gym := regexp.MustCompile(`value="([0-9a-f-]{36})"><bdi>Harbour gym`).FindStringSubmatch(body)[1]
	if code, _ := b.get("/roster"); code != http.StatusSeeOther {
		t.Errorf("in before a club is chosen: %d", code)
	}
	if code, body := b.post("/sign-in", url.Values{"club": {store.NewID()}}); code != http.StatusUnprocessableEntity || !strings.Contains(body, "Type your password once more.") {
		t.Errorf("a club that is not theirs: %d", code)
	}
	if code, _ := b.post("/sign-in", url.Values{"club": {gym}}); code != http.StatusUnprocessableEntity {
		t.Errorf("the choice holds twice: %d", code)
	}
	b.post("/sign-in", typed)
	if code, _ := b.post("/sign-in", url.Values{"club": {gym}, "to": {"/roster"}}); code != http.StatusSeeOther {
		t.Fatalf("the club is chosen: %d", code)
	}
	if code, body := b.get("/roster"); code != 200 || !strings.Contains(body, "Harbour gym") || strings.Contains(body, "Bo Lindahl") {
		t.Errorf("the roster of the other club: %d", code)
	}
}

// A lead cannot leave the club without one, and whoever guesses at a password from a page left open is slowed.
func TestTheOwnAccountIsGuarded(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, tomasz := s.as(t, "ines"), s.as(t, "tomasz")
	if code, body := ines.post("/account/people/"+member(t, s, "Ines Okafor")+"/end", nil); code != http.StatusUnprocessableEntity || !strings.Contains(body, "You cannot shut yourself out.") {
		t.Errorf("shut out by oneself: %d", code)
	}
	guess := url.Values{"old": {"a guess, and a long one"}, "new": {"something else entirely"}}
	for i, code := 0, 0; code != http.StatusTooManyRequests; i++ {
		var body string
		code, body = tomasz.post("/account/password", guess)
		if i > 9 {
			t.Fatalf("guess %d: %d", i, code)
		}
		if code == http.StatusTooManyRequests && !strings.Contains(body, "Too many wrong tries. Wait ") {
			t.Error("it does not say how long to wait")
		}
	}
	guess.Set("old", demo.Password)
	if code, _ := tomasz.post("/account/password", guess); code != http.StatusTooManyRequests {
		t.Errorf("the right one too soon: %d", code)
	}
	if code, body := ines.post("/account/care", url.Values{"forfeits": {"501"}, "holds": {"49"}, "clips": {"61"}, "home": {"0"}}); code != http.StatusUnprocessableEntity ||
		strings.Count(body, `class="help is-danger"`) != 4 || !strings.Contains(body, `value="501"`) {
		t.Errorf("limits that cannot be: %d, %d marked", code, strings.Count(body, `class="help is-danger"`))
	}
	ines.at("/account/care", url.Values{"forfeits": {"0"}})
	if care := in(t, s, func(tx *store.Tx) (store.Care, error) { return tx.Care(ctx) }); care.MostForfeits == nil || *care.MostForfeits != 0 {
		t.Errorf("no repetitions at all is a limit too: %+v", care)
	}
}

// Courts are laid out by number, as many as go in; laid out anew they take the place of those before, and what was
// drawn by hand stays.
func TestCourtsAreLaidOutByNumber(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	hall := url.Values{"name": {"Harbour gym"}, "floor": {"hall"}, "length": {"32"}, "width": {"16"}, "zone-name-0": {"stage"}, "zone-x-0": {"0"}, "zone-y-0": {"0"}, "zone-l-0": {"3"}, "zone-w-0": {"3"}}
	lay := func(pairs ...string) url.Values {
		v := url.Values{}
		for k := range hall {
			v[k] = hall[k]
		}
		for i := 0; i < len(pairs); i += 2 {
			v.Set(fmt.Sprint("lay-n-", i/2), pairs[i])
			v.Set(fmt.Sprint("lay-kind-", i/2), pairs[i+1])
		}
		return v
	}
	for says, v := range map[string]url.Values{
		"Which court?":       lay("2", "the moon"),
		"from 0 to 12":       lay("13", "badminton"),
		"At most 5 go into":  lay("6", "badminton"), // 5 × 6.10 m = 30.50 m, and 13.40 m the other way
		"None go into":       lay("1", "handball"),
		"They do not all go": lay("4", "badminton", "2", "basketball"),
	} {
		if code, body := b.post("/sessions/venue", v); code != http.StatusUnprocessableEntity || !strings.Contains(body, says) || !strings.Contains(body, `value="stage"`) {
			t.Errorf("%s: %d", says, code)
		}
	}
	zones := func() (out []string) {
		for _, p := range in(t, s, func(tx *store.Tx) ([]store.Venue, error) { return tx.Venues(ctx) }) {
			if p.Name == "Harbour gym" {
				hall.Set("at", p.ID)
				for _, z := range p.Zones {
					out = append(out, z.Name)
				}
			}
		}
		return out
	}
	b.at("/sessions/venue", lay("4", "badminton"))
	if z := zones(); len(z) != 5 || !slices.Contains(z, "stage") {
		t.Errorf("four courts beside the stage: %q", z)
	}
	_, form := b.get("/sessions/venue/" + hall.Get("at"))
	shown := lay("2", "badminton")
	for _, m := range regexp.MustCompile(`name="(zone-[a-z]+-\d+)"[^>]*value="([^"]*)"`).FindAllStringSubmatch(form, -1) {
		shown.Set(m[1], m[2])
	}
	b.at("/sessions/venue/"+hall.Get("at"), shown)
	if z := zones(); len(z) != 3 || !slices.Contains(z, "stage") {
		t.Errorf("two courts in place of four: %q", z)
	}
}

// Two names of the kit list can change places, and a page that was opened before somebody else added a thing does not
// take it away.
func TestTheKitListOfTwoCoaches(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, tomasz := s.as(t, "ines"), s.as(t, "tomasz")
	kit := func() (out []coach.Kit) {
		return in(t, s, func(tx *store.Tx) ([]coach.Kit, error) { return tx.Kit(ctx) })
	}
	form := func() url.Values {
		v := url.Values{}
		for i, k := range kit() {
			v.Set(fmt.Sprint("id-", i), k.ID)
			v.Set(fmt.Sprint("name-", i), k.Name)
			v.Set(fmt.Sprint("count-", i), fmt.Sprint(k.Count))
			v.Set(fmt.Sprint("stands-", i), strings.Join(k.StandsIn, ", "))
		}
		return v
	}
	stale := form()
	was := kit()
	swapped := form()
	swapped.Set("name-0", was[1].Name)
	swapped.Set("name-1", was[0].Name)
	ines.at("/sessions/kit", swapped)
	for i, j := range []int{1, 0} {
		now := kit()
		if k := slices.IndexFunc(now, func(k coach.Kit) bool { return k.ID == was[i].ID }); now[k].Name != was[j].Name {
			t.Errorf("%s is called %s", was[i].Name, now[k].Name)
		}
	}
	more := form()
	more.Set("name-90", "parachute")
	more.Set("count-90", "1")
	tomasz.at("/sessions/kit", more)
	stale.Set("name-2", "") // taken off on purpose
	ines.at("/sessions/kit", stale)
	now := kit()
	if !slices.ContainsFunc(now, func(k coach.Kit) bool { return k.Name == "parachute" }) {
		t.Error("what Tomasz added meanwhile is gone")
	}
	if slices.ContainsFunc(now, func(k coach.Kit) bool { return k.ID == was[2].ID }) || len(now) != len(was) {
		t.Errorf("of %d things %d are left after one was taken off and one was added", len(was), len(now))
	}
	if code, body := ines.post("/sessions/kit", url.Values{"name-0": {"Parachute"}, "count-0": {"1"}, "name-1": {"parachute"}, "count-1": {"2"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "This stands on the list already") {
		t.Errorf("one thing twice: %d", code)
	}
}

// What a coach notes beside a drill is their own: kept, refused when empty or too long with what was typed, and taken
// away by nobody else.
func TestNotesBesideADrill(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, tomasz := s.as(t, "ines"), s.as(t, "tomasz")
	drill := "/shelf/drill/" + drillNamed(t, s, "Wall passing")
	for says, typed := range map[string]string{"What did you notice?": " ", "500 are the most.": strings.Repeat("long ", 101)} {
		if code, body := tomasz.post(drill+"/notes", url.Values{"says": {typed}}); code != http.StatusUnprocessableEntity || !strings.Contains(body, says) ||
			!strings.Contains(body, strings.TrimSpace(typed)) {
			t.Errorf("%q: %d", says, code)
		}
	}
	tomasz.post(drill+"/notes", url.Values{"says": {"Too loud beside the choir."}})
	_, body := tomasz.get(drill)
	mustHave(t, body, "Too loud beside the choir.")
	note := regexp.MustCompile(`name="drop" value="([0-9a-f-]{36})"`).FindStringSubmatch(body)
	if note == nil {
		t.Fatal("one’s own note cannot be taken away")
	}
	if code, _ := ines.post(drill+"/notes", url.Values{"drop": {note[1]}}); code != http.StatusNotFound {
		t.Errorf("somebody else’s note is taken away: %d", code)
	}
	if code, _ := tomasz.post(drill+"/notes", url.Values{"drop": {"the last one"}}); code != http.StatusNotFound {
		t.Errorf("a note that is none: %d", code)
	}
	tomasz.post(drill+"/notes", url.Values{"drop": {note[1]}})
	if _, body := tomasz.get(drill); strings.Contains(body, "beside the choir") {
		t.Error("the note is still there")
	}
}

// The shelf is asked what fits the class's own floor, and what rested; a link of a drill to itself is refused, and
// what another club shares is looked at before it is copied.
func TestTheShelfIsAskedMore(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	// found are the drills of a whole list, page after page, and of which something is missing.
	found := func(query string) (all, missing []string) {
		item := regexp.MustCompile(`<li class="panel drill-card( is-missing)?">.*?/shelf/drill/([0-9a-f-]{36})`)
		for next := "/shelf?" + query; next != ""; {
			_, body := ines.get(next)
			for _, m := range item.FindAllStringSubmatch(body, -1) {
				if all = append(all, m[2]); m[1] != "" {
					missing = append(missing, m[2])
				}
			}
			more := regexp.MustCompile(`class="more" hx-get="([^"]+)"`).FindStringSubmatch(body)
			if next = ""; more != nil {
				next = html.UnescapeString(more[1])
			}
		}
		return all, missing
	}
	all, tired := found("rested=2")
	if len(tired) == 0 || len(tired) == len(all) || !slices.Equal(all[len(all)-len(tired):], tired) {
		t.Errorf("of %d drills %d were used lately, and they do not come last", len(all), len(tired))
	}
	used := in(t, s, func(tx *store.Tx) (map[string]time.Time, error) { return tx.LastUsed(ctx, evening, 26) })
	for _, id := range all {
		if at, ok := used[id]; slices.Contains(tired, id) != (ok && evening.Sub(at) < 14*24*time.Hour) {
			t.Errorf("a drill last used on %s is said to have been used lately: %v", at.Format("2 Jan"), slices.Contains(tired, id))
		}
	}
	if _, big := found("class=" + s.session(t, "Tuesday hall").ClassID); len(big) == len(all) {
		t.Error("nothing fits the hall of the class")
	}
	wall := drillNamed(t, s, "Wall passing")
	if code, body := ines.post("/shelf/drill/"+wall+"/links", url.Values{"kind": {"after"}, "other": {wall}}); code != http.StatusUnprocessableEntity || !strings.Contains(body, "A drill cannot be linked to itself.") {
		t.Errorf("linked to itself: %d", code)
	}
	ines.at("/shelf/drill/"+wall+"/share", url.Values{"with": {"all"}})
	far := s.browser(t)
	far.at("/start", url.Values{"club": {"Far club"}, "program": {"Judo"}, "name": {"Ola"}, "email": {"ola@far.example"}, "password": {"a long enough one"}, "family": {"ball"}, "zone": {"UTC"}})
	_, body := far.get("/shelf?of=others")
	mustHave(t, body, "Wall passing", "/shelf/other/"+wall)
	_, body = far.get("/shelf/other/" + wall)
	mustHave(t, body, "Wall passing", demo.ClubName, "<svg")
	if code, _ := far.get("/shelf/other/" + drillNamed(t, s, "Lob and catch")); code != http.StatusNotFound {
		t.Errorf("a drill that is not shared: %d", code)
	}
}

// A session cannot be moved to a day on which the class meets already, and says so at the day.
func TestASessionIsNotMovedOntoAnother(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	tuesday := s.session(t, "Tuesday hall")
	next := tuesday.StartsAt.AddDate(0, 0, 7)
	ines.at("/sessions", url.Values{"class": {tuesday.ClassID}, "date": {next.Format(time.DateOnly)}})
	to := url.Values{"to-day": {next.Format(time.DateOnly)}, "to-time": {next.Format("15:04")}}
	code, body := ines.post("/sessions/"+tuesday.ID+"/move", to)
	if code != http.StatusUnprocessableEntity || !strings.Contains(body, "The class has a session then already.") || !strings.Contains(body, to.Get("to-day")) {
		t.Errorf("moved onto another: %d", code)
	}
	if now := s.session(t, "Tuesday hall"); !now.StartsAt.Equal(tuesday.StartsAt) && now.ID == tuesday.ID {
		t.Errorf("it was moved all the same, to %s", now.StartsAt)
	}
}

// A list brought into a class leaves those in it who were there, and a pencilled correction is taken for the line it
// stands on.
func TestAListIsBroughtIntoAClass(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	class := s.session(t, "Tuesday hall").ClassID
	there := func() (out []string) {
		for _, p := range in(t, s, func(tx *store.Tx) ([]store.Player, error) { return tx.Players(ctx, store.PlayerFilter{Class: class}) }) {
			out = append(out, p.Name)
		}
		return out
	}
	was := there()
	list := "name,born,stage\nNell Ash,2013,Reef\nOrla Birk,21,Reef\n"
	sent := url.Values{"text": {list}, "class": {class}}
	if code, body := ines.post("/roster/import", sent); code != 200 || !strings.Contains(body, "four digits") {
		t.Errorf("a year that is none: %d", code)
	}
	sent.Set("fix-3-year", "2012")
	ines.at("/roster/import/take", sent)
	now := there()
	if len(now) != len(was)+2 || !slices.Contains(now, "Nell Ash") || !slices.Contains(now, "Orla Birk") {
		t.Errorf("in the class are %d, there were %d", len(now), len(was))
	}
	if orla := player(t, s, "Orla Birk"); orla.BirthYear != 2012 {
		t.Errorf("Orla is born %d", orla.BirthYear)
	}
}
