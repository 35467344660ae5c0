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
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/season"
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
		} else if away := regexp.MustCompile(`(href|action)="[^/#"][^"]*"`).FindAllString(body, -1); len(away) > 0 {
			t.Errorf("on the page of a refused note, which has another address, %q lead nowhere", away)
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

// A date that is planned after a later one goes on from the session before it, not from one that is to come.
func TestADateInBetweenGoesOnFromTheOneBefore(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	tuesday := s.session(t, "Tuesday hall")
	plan := func(weeks int) store.Session {
		on := tuesday.StartsAt.AddDate(0, 0, 7*weeks)
		ines.at("/sessions", url.Values{"class": {tuesday.ClassID}, "date": {on.Format(time.DateOnly)}})
		return in(t, s, func(tx *store.Tx) ([]store.Session, error) {
			return tx.Sessions(ctx, store.SessionFilter{Class: tuesday.ClassID, From: on, To: on.Add(time.Hour)})
		})[0]
	}
	later := plan(3)
	p := later.Plan.Clone()
	p.Key = "for the cup"
	in(t, s, func(tx *store.Tx) (int, error) {
		return tx.SetPlan(ctx, later.ID, later.Version, p, tuesday.Leaders[0].Member, evening)
	})
	if got := plan(2).Plan.Key; got != tuesday.Plan.Key {
		t.Errorf("the week before has the key %q, this week's is %q", got, tuesday.Plan.Key)
	}
	if got := plan(4).Plan.Key; got != p.Key {
		t.Errorf("the week after has the key %q", got)
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

// A mark taken in the hall is taken back by who made it, not by another helper; what is late of it then changes nothing.
func TestAMarkIsTakenBackInTheHall(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines, bea := hall{s.as(t, "ines"), tuesday.ID}, hall{s.as(t, "bea"), tuesday.ID}
	ines.clock(store.NewID(), "start")
	femi := player(t, s, "Femi Adeyemi")
	k := reef(t, s, "Catches on the move")
	mark := item("mark", femi.ID, "criterion", k.ID, "figure", 6)
	if !bea.item(mark) {
		t.Fatal("a helper’s mark is not kept")
	}
	said := func() (standing int) {
		for _, m := range ines.state().Marks {
			if !m.Struck {
				standing++
			}
		}
		return standing
	}
	if said() != 1 {
		t.Fatalf("%d marks in the hall", said())
	}
	if !bea.item(map[string]any{"kind": "strike", "id": mark["id"]}) {
		t.Error("one’s own mark cannot be taken back")
	}
	if said() != 0 {
		t.Error("the mark is still there")
	}
	kept := in(t, s, func(tx *store.Tx) ([]coach.Mark, error) {
		return tx.Marks(ctx, store.MarkFilter{Player: femi.ID, Session: tuesday.ID})
	})
	if len(kept) != 1 || !kept[0].Struck || kept[0].StruckWhy != "taken back courtside" {
		t.Errorf("what was taken back is not kept as such: %+v", kept)
	}
	bea.item(mark) // sent once more by a phone that heard no answer
	if said() != 0 {
		t.Error("sent again, the mark is back")
	}
}

// What if somebody can do nothing today, and the hall is another: shown first, then taken in one step, with the place.
func TestWhatIfTheHallIsTakenAndOneCanDoNothing(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	tuesday := s.session(t, "Tuesday hall")
	var elsewhere store.Venue
	for _, p := range in(t, s, func(tx *store.Tx) ([]store.Venue, error) { return tx.Venues(ctx) }) {
		if p.ID != tuesday.Venue.ID {
			elsewhere = p
		}
	}
	bo := player(t, s, "Bo Lindahl")
	what := url.Values{"hurt": {bo.ID}, "hurt-no": {""}, "venue": {elsewhere.ID}, "version": {fmt.Sprint(tuesday.Version)}}
	at := "/sessions/" + tuesday.ID + "/what-if"
	code, body := ines.post(at, what)
	if code != 200 {
		t.Fatalf("what if: %d", code)
	}
	mustHave(t, body, "Bo Lindahl", "moved to "+elsewhere.Name, "Take it")
	ines.at(at+"/take", what)
	now := in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, tuesday.ID) })
	if now.Venue.ID != elsewhere.ID {
		t.Errorf("it is still in %s", now.Venue.Name)
	}
	_, body = ines.get("/sessions/" + tuesday.ID + "?tab=all")
	mustHave(t, body, elsewhere.Name, "16 of 19 coming")
	if _, body := ines.do("POST", "/sessions/"+tuesday.ID+"/undo", "", nil, "HX-Request", "true"); !strings.Contains(body, "17 of 19 coming") || !strings.Contains(body, tuesday.Venue.Name) {
		t.Error("taken back, he is not coming or the hall is the other")
	}
}

// A term step by step: nothing to take over yet, a class that is full by hand, everybody left to the wishes again, and
// a class taken out of it.
func TestATermIsSettledStepByStep(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	p := handball(t, s)
	_, body := ines.get("/stairs/places?program=" + p.ID)
	winter := regexp.MustCompile(`/stairs/places/([0-9a-f-]+)/put`).FindStringSubmatch(body)[1]
	class := func(name string) string {
		return regexp.MustCompile(`data-class="([0-9a-f-]+)" aria-label="` + name).FindStringSubmatch(body)[1]
	}
	thursday := class("Thursday hall")
	put := func(who, to string) (int, string) {
		return ines.post("/stairs/places/"+winter+"/put", url.Values{"program": {p.ID}, "player": {who}, "to": {to}})
	}
	stages := []string{}
	for _, st := range p.Stages {
		stages = append(stages, st.ID)
	}
	small := url.Values{"program": {p.ID}, "class": {thursday}, "class-name": {"Thursday hall"}, "places": {"1"}, "minutes": {"90"}, "weekday": {"4"}, "starts": {"18:00"},
		"venue": {s.session(t, "Tuesday hall").Venue.ID}, "stage": stages}
	for field, wrong := range map[string][2]string{"starts": {"six", "such as 18:00"}, "age-from": {"12", "From 12 until 9 is nobody."}, "venue": {store.NewID(), "Choose a place."}, "stage": {"", "Which stages does it take?"}} {
		bad := url.Values{"age-until": {"9"}}
		for k := range small {
			bad[k] = small[k]
		}
		if bad.Set(field, wrong[0]); field != "age-from" {
			bad.Del("age-until")
		}
		if code, body := ines.post("/stairs/places/"+winter+"/class", bad); code != http.StatusUnprocessableEntity || !strings.Contains(body, wrong[1]) {
			t.Errorf("%s: %d", wrong[1], code)
		}
	}
	ines.at("/stairs/places/"+winter+"/class", small)
	if code, _ := put(player(t, s, "Vera Popova").ID, thursday); code != http.StatusSeeOther {
		t.Fatalf("the only place: %d", code)
	}
	if code, body := put(player(t, s, "Bo Lindahl").ID, thursday); code != http.StatusUnprocessableEntity || !strings.Contains(body, "move somebody out of it first") {
		t.Errorf("two by hand in a class of one: %d", code)
	}
	if _, body := ines.get("/stairs/places?program=" + p.ID); !strings.Contains(body, "put by hand") {
		t.Error("what was put by hand is not said")
	}
	ines.at("/stairs/places/"+winter+"/put", url.Values{"program": {p.ID}})
	wishes := in(t, s, func(tx *store.Tx) ([]store.Wish, error) { return tx.Wishes(ctx, winter) })
	if i := slices.IndexFunc(wishes, func(w store.Wish) bool { return w.Put != "" }); i >= 0 {
		t.Errorf("left to the wishes, and still by hand: %+v", wishes[i])
	}
	out := url.Values{"program": {p.ID}, "class": {thursday}}
	ines.at("/stairs/places/"+winter+"/out", out)
	if _, body := ines.get("/stairs/places?program=" + p.ID); strings.Contains(body, `data-class="`+thursday) {
		t.Error("the class is still in the term")
	}
	if code, _ := ines.post("/stairs/places/"+winter+"/out", out); code != http.StatusNotFound {
		t.Errorf("taken out twice: %d", code)
	}
	ines.at("/stairs/places/term", url.Values{"program": {p.ID}, "name": {"Summer"}, "from": {"2027-04-01"}, "until": {"2027-06-30"}})
	terms := in(t, s, func(tx *store.Tx) ([]season.Term, error) { return tx.Terms(ctx) })
	summer := terms[slices.IndexFunc(terms, func(x season.Term) bool { return x.Name == "Summer" })].ID
	for _, k := range regexp.MustCompile(`data-class="([0-9a-f-]+)"`).FindAllStringSubmatch(second(ines.get("/stairs/places?program="+p.ID+"&term="+summer)), -1) {
		ines.post("/stairs/places/"+summer+"/out", url.Values{"program": {p.ID}, "class": {k[1]}})
	}
	if code, body := ines.post("/stairs/places/"+summer+"/take-over", url.Values{"program": {p.ID}}); code != http.StatusUnprocessableEntity || !strings.Contains(body, "The places are not settled yet.") {
		t.Errorf("a term without classes is taken over: %d", code)
	}
}

// The picture of the Stairs can be asked for what one coach has marked: those alone are in it.
func TestWhatOneCoachHasMarked(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	p := handball(t, s)
	marks := in(t, s, func(tx *store.Tx) ([]coach.Mark, error) { return tx.Marks(ctx, store.MarkFilter{Program: p.ID}) })
	players := in(t, s, func(tx *store.Tx) ([]store.Player, error) { return tx.Players(ctx, store.PlayerFilter{}) })
	all := 0
	for _, who := range []string{"Tomasz Brandt", "Leila Haddad"} {
		id := ""
		for _, m := range marks {
			if m.ByName == who {
				id = m.By
			}
		}
		if id == "" {
			continue
		}
		all++
		_, body := ines.get("/stairs?program=" + p.ID + "&only=list&by=" + id)
		for _, pl := range players {
			stage := ""
			for _, st := range pl.Standings {
				if st.Program == p.ID {
					stage = st.Stage
				}
			}
			st, _ := p.Stage(stage)
			marked := slices.ContainsFunc(marks, func(m coach.Mark) bool {
				return m.PlayerID == pl.ID && m.By == id && !m.Struck &&
					slices.ContainsFunc(st.Criteria, func(k coach.Criterion) bool { return k.ID == m.CriterionID })
			})
			if shown := strings.Contains(body, pl.Name); shown != marked {
				t.Errorf("%s, marked by %s: %v, shown: %v", pl.Name, who, marked, shown)
			}
		}
	}
	if all < 2 {
		t.Error("two coaches have marked, and they are not found")
	}
}

// Figures of a test that cannot be kept say why, one by one, and stop no others.
func TestFiguresThatCannotBeKept(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tomasz := s.as(t, "tomasz")
	at := tomasz.at("/season/tests/new", url.Values{"name": {"Passes in 30 s"}, "class": {s.session(t, "Tuesday hall").ClassID}, "tries": {"1"}, "every": {"1"}, "from": {"2026-11-10"}, "unit-0": {"passes"}})
	said := func(who, day string, measure int, figure string) string {
		return fmt.Sprintf(`{"id":%q,"day":%q,"player":%q,"measure":%d,"try":0,"figure":%s,"at":1}`, store.NewID(), day, who, measure, figure)
	}
	bo := player(t, s, "Bo Lindahl").ID
	items := []string{said(bo, "2026-11-24", 0, "21"), said(store.NewID(), "2026-11-24", 0, "21"), said(bo, "2026-12-24", 0, "21"), said(bo, "2026-11-24", 4, "21"), said(bo, "2026-11-24", 0, "1e300")}
	code, answer := tomasz.do("POST", at+"/figures", "application/json", strings.NewReader(`{"items":[`+strings.Join(items, ",")+`]}`))
	if code != 200 || strings.Count(answer, `"kept":true`) != 1 || !strings.Contains(answer, "That player is not there any more.") {
		t.Errorf("%d %s", code, answer)
	}
}

// What a feeder needs in reach stands on the card of a drill that somebody feeds, and the day's key where the drill has
// none of its own.
func TestACardSaysWhatTheFeederNeeds(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	tuesday := s.session(t, "Tuesday hall")
	fed := drillNamed(t, s, "Jump and catch")
	v := written("name", "Fed from the side", "keys", "", "roles", "feeder", "least", "3")
	bare := strings.TrimPrefix(ines.at("/shelf/new", v), "/shelf/drill/")
	p := &onPlan{ines, "/sessions/" + tuesday.ID, fmt.Sprint(tuesday.Version)}
	stations := tuesday.Plan.First().Stations
	p.edit("key", "", "soft hands today")
	p.edit("drill", stations[0].ID, fed+"@1")
	p.edit("drill", stations[1].ID, bare+"@1")
	_, cards := ines.get("/sessions/" + tuesday.ID + "/print/cards")
	mustHave(t, cards, "Jump and catch", "Fed from the side", "soft hands today")
	if n := len(regexp.MustCompile(`[1-9]\d* balls in the feeder’s reach for a turn`).FindAllString(cards, -1)); n != 2 {
		t.Errorf("%d of two cards say how many balls the feeder needs", n)
	}
}

// The door: a list that is too long, an address that was never given out, a question for figures without signing in,
// and a form of very many fields.
func TestTheDoorSaysWhy(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, nobody := s.as(t, "ines"), s.browser(t)
	tags := strings.Repeat("tag,", 31)
	if code, body := ines.post("/roster/new", url.Values{"name": {"Tagged Much"}, "tags": {tags}}); code != http.StatusUnprocessableEntity || !strings.Contains(body, "That is 31; 30 are the most.") || !strings.Contains(body, "tag,tag") {
		t.Errorf("31 tags: %d", code)
	}
	if code, body := nobody.do("GET", "/courtside/"+s.session(t, "Tuesday hall").ID+"/state", "", nil, "Accept", "application/json"); code != http.StatusUnauthorized || !strings.Contains(body, "what is waiting here stays") {
		t.Errorf("a phone that is signed out: %d %s", code, body)
	}
	if code, _ := nobody.get("/assets/client/never.js"); code != http.StatusNotFound {
		t.Errorf("a file that is none: %d", code)
	}
	many := url.Values{}
	for i := range 20_001 {
		many.Set(fmt.Sprint("f", i), "")
	}
	if code, body := ines.post("/sessions/kit", many); code < 400 || code >= 500 || strings.Contains(body, "goroutine") {
		t.Errorf("twenty thousand fields: %d", code)
	}
	r, err := http.NewRequest("POST", s.URL+"/roster/player/"+player(t, s, "Bo Lindahl").ID+"/leave", nil)
	if err != nil {
		t.Fatal(err)
	}
	r.Header.Set("HX-Request", "true")
	res, err := ines.Do(r)
	if err != nil {
		t.Fatal(err)
	}
	res.Body.Close()
	if res.StatusCode != 200 || res.Header.Get("HX-Redirect") == "" {
		t.Errorf("a part of a page is sent on: %d to %q", res.StatusCode, res.Header.Get("HX-Redirect"))
	}
}

// Two coaches of one first name are told apart where two classes meet at once.
func TestACoachInTwoHallsIsNamed(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	p := handball(t, s)
	brandt := member(t, s, "Tomasz Brandt")
	ines.post("/account/people", url.Values{"name": {"Tomasz Vance"}, "email": {"vance@saltmarsh.example"}, "role": {"coach"}})
	for name, lead := range map[string]string{"Beach": brandt, "Pier": member(t, s, "Tomasz Vance")} {
		ines.at("/sessions/class/new", url.Values{"name": {name}, "weekday": {"4"}, "starts": {"18:00"}, "minutes": {"60"}, "places": {"24"}, "program": {p.ID}, "stage": {p.Stages[0].ID},
			"venue": {""}, "venue-name": {name + " hall"}, "floor": {"hall"}, "length": {"30"}, "width": {"20"}, "member": {lead}})
	}
	_, body := ines.get("/season")
	mustHave(t, body, "both with Tomasz B.") // on Thursday, in the hall and on the beach
	if strings.Contains(body, "with Tomasz V.") {
		t.Error("who leads one class is said to lead two at once")
	}
}

// The same page is open on two devices: who keeps last is told that the other has changed it, loses nothing that was
// typed, takes nothing back unseen, and keeps it the second time.
func TestNobodyOverwritesUnseen(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, other := s.as(t, "ines"), s.as(t, "ines") // a second device of a lead, who may all of it
	bo := player(t, s, "Bo Lindahl")
	class := s.session(t, "Tuesday hall")
	filled := func(b browser, path string) url.Values {
		_, body := b.get(path)
		v := url.Values{}
		for _, m := range regexp.MustCompile(`<input[^>]*>`).FindAllString(body, -1) {
			name, value := regexp.MustCompile(` name="([^"]*)"`).FindStringSubmatch(m), regexp.MustCompile(` value="([^"]*)"`).FindStringSubmatch(m)
			if name == nil || value == nil || strings.Contains(m, "checkbox") && !strings.Contains(m, " checked") {
				continue
			}
			v.Add(name[1], html.UnescapeString(value[1]))
		}
		for _, m := range regexp.MustCompile(`(?s)<select[^>]* name="([^"]*)".*?</select>`).FindAllStringSubmatch(body, -1) {
			if on := regexp.MustCompile(`value="([^"]*)"[^>]* selected`).FindStringSubmatch(m[0]); on != nil {
				v.Set(m[1], on[1])
			}
		}
		return v
	}
	test := other.at("/season/tests/new", url.Values{"name": {"Passes in 30 s"}, "class": {class.ClassID}, "tries": {"1"}, "every": {"1"}, "from": {"2026-11-10"}, "unit-0": {"passes"}})
	practice := other.at("/season/home/new", url.Values{"player": {bo.ID}, "what-0": {"Wall passing"}, "much-0": {"2 min"}, "sets": {"1"}, "day": {"1"}, "from": {"2026-11-24"}, "until": {"2026-12-24"}})
	for path, change := range map[string][3][2]string{
		test + "/change":                   {{"conditions", "the same shoes"}, {"name", "Passes"}, {"name", "Passes"}},
		practice + "/change":               {{"sets", "3"}, {"says", "Every other day."}, {"says", "Every other day."}},
		"/roster/player/" + bo.ID:          {{"limit", "jumping"}, {"tags", "left-handed"}, {"tags", "left-handed"}},
		"/sessions/class/" + class.ClassID: {{"places", "27"}, {"name", "Tuesday big hall"}, {"name", "Tuesday big hall"}},
		"/shelf/drill/" + drillNamed(t, s, "Wall passing") + "/edit": {{"least", "3"}, {"most", "7"}, {"most", "7"}},
		"/stairs/criterion/" + reef(t, s, "Catches on the move").ID:  {{"wording", "Catches running"}, {"skill", "gripping"}, {"skill", "gripping"}},
		"/stairs/stage/" + reef(t, s, "Catches on the move").StageID: {{"about", "Joins things."}, {"name", "Reefs"}, {"name", "Reefs"}},
		"/sessions/kit":                     {{"count-0", "77"}, {"count-1", "78"}, {"count-1", "78"}},
		"/sessions/venue/" + class.Venue.ID: {{"name", "Old hall"}, {"zone-name-0", "west"}, {"zone-name-0", "west"}},
	} {
		stale := filled(ines, path)
		first := filled(other, path)
		first.Set(change[0][0], change[0][1])
		if change[0][0] == "limit" {
			first["limit"], first["until"] = []string{"jumping"}, []string{"2026-12-24"}
		}
		other.at(path, first)
		stale.Set(change[1][0], change[1][1])
		code, body := ines.post(path, stale)
		if code != http.StatusUnprocessableEntity || !strings.Contains(body, "since you opened this page") || !strings.Contains(body, `value="`+change[1][1]+`"`) {
			t.Errorf("%s kept over what another has changed: %d", path, code)
			continue
		}
		if now := filled(ines, path); now.Get(change[0][0]) != change[0][1] {
			t.Errorf("%s: what the other has changed is gone: %q", path, now.Get(change[0][0]))
		}
		stale.Set("shown", regexp.MustCompile(`name="shown" value="([^"]*)"`).FindStringSubmatch(body)[1])
		ines.at(path, stale)
		if now := filled(ines, path); now.Get(change[2][0]) != change[2][1] {
			t.Errorf("%s: sent once more it is not kept", path)
		}
		again := filled(ines, path) // and as it is, nobody having changed it
		ines.at(path, again)
	}
}

// The page of a routine week by week is there with what was shown on two days, in a club of nobody's demo.
func TestARoutineHasItsPage(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	skipping := s.session(t, "Skipping club")
	drill := drillNamed(t, s, "Eight-count routine")
	p := &onPlan{ines, "/sessions/" + skipping.ID, fmt.Sprint(skipping.Version)}
	p.edit("add-block", "", "run")
	plan := in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, skipping.ID) }).Plan
	at := slices.IndexFunc(plan.Blocks, func(b doc.Block) bool { return b.Kind == doc.Run })
	p.edit("exercise", plan.Blocks[at].ID, drill+"@1")
	who := in(t, s, func(tx *store.Tx) ([]store.Player, error) {
		return tx.Players(ctx, store.PlayerFilter{Class: skipping.ClassID})
	})[:2]
	by := member(t, s, "Leila Haddad")
	for week, points := range [][]bool{{true, true, false, false, true, true, true, true}, {true, true, true, true, true, true, false, true}} {
		for i, pl := range who {
			if i == 1 && week == 0 {
				continue // came on the last day alone
			}
			m := coach.Mark{ID: store.NewID(), PlayerID: pl.ID, DrillID: drill, Points: points, Tries: 8, At: evening.AddDate(0, 0, 7*week-8), By: by, Note: "1 fall: Side swing"}
			for _, clean := range points {
				if clean {
					m.Figure++
				}
			}
			in(t, s, func(tx *store.Tx) (bool, error) { return true, tx.AddMark(ctx, m) })
		}
	}
	code, body := ines.get(fmt.Sprintf("/sessions/%s/routine/%d", skipping.ID, at))
	if code != 200 {
		t.Fatalf("%d", code)
	}
	mustHave(t, body, "1 player showed it on 16 Nov and on 23 Nov: 6 of 8 skills were clean then, now 7 of 8", "7 of 8", `<span class="is-good">+1</span>`, "1 fall: Side swing",
		"88 in 100 clean, 2 players", "2 of 2")
}
