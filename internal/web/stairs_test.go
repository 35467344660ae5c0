package web

import (
	"bytes"
	"fmt"
	"mime/multipart"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// reef is the criterion of the demo's second stage with that wording.
func reef(t testing.TB, s site, wording string) coach.Criterion {
	t.Helper()
	for _, p := range in(t, s, func(tx *store.Tx) ([]store.Program, error) { return tx.Ladders(ctx) }) {
		for _, st := range p.Stages {
			for _, k := range st.Criteria {
				if st.Name == "Reef" && k.Wording == wording {
					return k
				}
			}
		}
	}
	t.Fatalf("no criterion %q", wording)
	return coach.Criterion{}
}

func handball(t testing.TB, s site) store.Program {
	t.Helper()
	return in(t, s, func(tx *store.Tx) ([]store.Program, error) { return tx.Ladders(ctx) })[0]
}

func decidedOf(t testing.TB, s site, player string) []deciding.Recorded {
	t.Helper()
	return in(t, s, func(tx *store.Tx) ([]deciding.Recorded, error) {
		return tx.Decisions(ctx, store.DecisionFilter{Player: player})
	})
}

func TestAStricterCriterionShowsWhoDropsBack(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	k := reef(t, s, "Catches on the move")
	umar := player(t, s, "Umar Farouk") // ready with 9 of 10 twice
	at := "/stairs/criterion/" + k.ID
	form := func(change ...string) url.Values {
		return criterionForm(k.Wording, k.Skill, append([]string{"weeks", "8", "must", "must", "judged", "result"}, change...)...)
	}
	_, body := ines.post(at+"/try", form("want", "10"))
	mustHave(t, body, "would drop back", "Umar Farouk", "How strict is it?")
	if strings.Contains(body, "wrong") {
		t.Error("a good criterion is called wrong")
	}
	_, body = ines.post(at+"/try", form("want", "12"))
	mustHave(t, body, "12 good ones out of 10 tries cannot be")
	_, body = ines.post(at+"/try", form("last", "0"))
	mustHave(t, body, "Hard on the strong", "46 times in 100", "data-fill=")
	_, body = ines.post(at+"/try", form("good", "1", "last", "0", "days", "1"))
	mustHave(t, body, "Easy to slip through", "17 times in 100", "data-fill=")

	if code, body := ines.post(at, form("want", "10")); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "save once more") ||
		!strings.Contains(body, `value="10"`) {
		t.Fatalf("saved without having been shown who drops back: %d", code)
	}
	seen := regexp.MustCompile(`name="seen" form="criterion" value="([^"]+)"`).
		FindStringSubmatch(func() string { _, b := ines.post(at, form("want", "10")); return b }())
	if seen == nil || !strings.Contains(seen[1], umar.ID) {
		t.Fatal("the list of those who drop back is not asked for")
	}
	if code, _ := ines.post(at, form("want", "10", "seen", seen[1])); code != http.StatusSeeOther {
		t.Fatalf("saved with the list seen: %d", code)
	}
	if now := reef(t, s, k.Wording); now.Edition != k.Edition+1 || now.Want != 10 {
		t.Errorf("edition %d of %v", now.Edition, now.Want)
	}
	_, body = ines.get(at)
	mustHave(t, body, "Editions", "8 of 10; 2 good of the last 3")
	if _, body := ines.get("/players/" + umar.ID); strings.Contains(body, "Everything asked for is shown") {
		t.Error("still ready by the stricter criterion")
	}
	offer := regexp.MustCompile(`/undo/([0-9a-f-]+)`).FindStringSubmatch(body)
	if offer == nil {
		t.Fatal("no undo offered")
	}
	ines.post("/undo/"+offer[1], nil)
	if now := reef(t, s, k.Wording); now.Edition != k.Edition || now.Want != 8 {
		t.Errorf("undone: edition %d, want %v", now.Edition, now.Want)
	}
}

func TestAnotherRuleForSteppingUpIsShownFirst(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	reef := handball(t, s).Stages[1]
	v := url.Values{
		"name":   {"Reef"},
		"about":  {reef.About},
		"colour": {reef.Colour},
		"choose": {"1"},
		"visits": {"200"},
		"weeks":  {"4"},
	}
	code, body := ines.post("/stairs/stage/"+reef.ID, v)
	if code != http.StatusUnprocessableEntity {
		t.Fatalf("200 visits are asked at once: %d", code)
	}
	mustHave(t, body, "would drop back", "Umar Farouk", `value="200"`)
	v.Set("seen", regexp.MustCompile(`name="seen" value="([^"]+)"`).FindStringSubmatch(body)[1])
	ines.at("/stairs/stage/"+reef.ID, v)
	if _, body := ines.get("/stairs"); strings.Contains(body, "Umar Farouk, Reef, everything shown") {
		t.Error("still ready")
	}
}

func TestManyAreDecidedAtOnceAndOneAgainstTheEvidence(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	p := handball(t, s)
	umar, femi, wen := player(t, s, "Umar Farouk"), player(t, s, "Femi Adeyemi"), player(t, s, "Sana Iqbal")
	stage := func(x store.Player) string { at, _ := x.In(p.ID); return at.Stage }
	v := url.Values{"program": {p.ID}, "player": {umar.ID, femi.ID, wen.ID}, "from": {"term"}}
	for _, x := range []store.Player{umar, femi, wen} {
		v.Set("stage-"+x.ID, stage(x))
		v.Set("kind-"+x.ID, "up")
	}
	v.Set("why-"+umar.ID, "asked for it himself")
	code, body := ines.post("/stairs/decide", v)
	if code != http.StatusUnprocessableEntity || !strings.Contains(body, "Nothing is recorded yet") ||
		!strings.Contains(body, "give the reason") ||
		!strings.Contains(body, "asked for it himself") {
		t.Fatalf("against the evidence without a reason: %d", code)
	}
	if n := len(decidedOf(t, s, femi.ID)); n != 0 {
		t.Fatalf("%d recorded although one line was wrong", n)
	}
	v.Set("why-"+wen.ID, "plays a head taller than the group, and trains with Tide anyway")
	if to := ines.at("/stairs/decide", v); !strings.HasPrefix(to, "/stairs/record") {
		t.Fatal(to)
	}
	d := decidedOf(t, s, wen.ID)[0]
	if d.Evidence.Ready || len(d.Evidence.Items) != 6 || !d.Ahead() || d.Done {
		t.Errorf("kept %+v", d)
	}
	_, body = ines.get("/stairs/record?program=" + p.ID)
	mustHave(t, body, "against the evidence", "plays a head taller", "from 19 Dec 2026", "asked for it himself")
	if got := player(t, s, "Umar Farouk"); stage(got) != stage(umar) {
		t.Error("moved before the term began")
	}
	n, err := s.st.StepUpDue(ctx, time.Date(2026, 12, 19, 8, 0, 0, 0, time.UTC))
	if err != nil || n != 3 {
		t.Fatalf("%d stepped up when the term began, %v", n, err)
	}
	if n, _ := s.st.StepUpDue(ctx, time.Date(2026, 12, 20, 8, 0, 0, 0, time.UTC)); n != 0 {
		t.Error("stepped up twice")
	}
	got := player(t, s, "Umar Farouk")
	if at, _ := got.In(p.ID); at.Stage != p.Stages[2].ID || at.Since.String() != "2026-12-19" {
		t.Errorf("stands on %+v", at)
	}
	_, body = ines.get("/decisions/" + decidedOf(t, s, umar.ID)[0].ID + "/certificate")
	mustHave(t, body, "Umar Farouk", "Tide", "19 Dec 2026", "Catches on the move")

	// A past day shows people where they were then.
	_, body = ines.do("GET", "/stairs?program="+p.ID+"&back=85", "", nil, "HX-Request", "true")
	rosa := player(t, s, "Rosa Marin") // Reef to Tide on 5 September
	if !regexp.MustCompile(`id="t-` + rosa.ID + `"[^>]*data-step="` + p.Stages[1].ID).MatchString(body) {
		t.Error("85 days ago Rosa does not stand on Reef")
	}
}

func TestTheSecondSignature(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, tomasz := s.as(t, "ines"), s.as(t, "tomasz")
	p := handball(t, s)
	umar := player(t, s, "Umar Farouk")
	at, _ := umar.In(p.ID)
	ines.at("/account/deciding", url.Values{"two": {"1"}})
	ines.at("/players/"+umar.ID+"/decide", url.Values{"kind": {"up"}, "program": {p.ID}, "stage": {at.Stage}})
	d := decidedOf(t, s, umar.ID)[0]
	if !d.Waits() || d.Done {
		t.Fatalf("does not wait: %+v", d)
	}
	if code, _ := ines.post("/decisions/"+d.ID+"/sign", nil); code != http.StatusUnprocessableEntity {
		t.Errorf("signed by who decided: %d", code)
	}
	_, body := tomasz.get("/stairs?program=" + p.ID)
	mustHave(t, body, "Sign 1 decision")
	tomasz.at("/decisions/"+d.ID+"/sign", nil)
	if d = decidedOf(t, s, umar.ID)[0]; d.Waits() || !d.Done || d.Signed != "Tomasz Brandt" {
		t.Errorf("after signing: %+v", d)
	}
	if code, _ := tomasz.post("/decisions/"+d.ID+"/sign", nil); code != http.StatusConflict {
		t.Errorf("signed twice: %d", code)
	}
	// A later decision supersedes one that still waits.
	femi := player(t, s, "Femi Adeyemi")
	at, _ = femi.In(p.ID)
	v := url.Values{"kind": {"up"}, "program": {p.ID}, "stage": {at.Stage}}
	ines.at("/players/"+femi.ID+"/decide", v)
	v.Set("kind", "stay")
	v.Set("why", "moves house, let us wait")
	ines.at("/players/"+femi.ID+"/decide", v)
	ds := decidedOf(t, s, femi.ID)
	if code, _ := tomasz.post("/decisions/"+ds[1].ID+"/sign", nil); code != http.StatusConflict || !ds[1].Superseded {
		t.Errorf("a superseded decision was signed: %d", code)
	}
	// So does a correction on the roster: who is no longer where it was decided from can be decided about again.
	aino := player(t, s, "Aino Laine")
	at, _ = aino.In(p.ID)
	ines.at("/players/"+aino.ID+"/decide", url.Values{"kind": {"up"}, "program": {p.ID}, "stage": {at.Stage}})
	in(t, s, func(tx *store.Tx) (int, error) {
		_, err := tx.Exec(
			ctx,
			`update standing set stage_id = $2 where player_id = $1 and program_id = $3`,
			aino.ID,
			p.Stages[0].ID,
			p.ID,
		)
		return 0, err
	})
	if d := decidedOf(t, s, aino.ID)[0]; d.Waits() || !d.Superseded {
		t.Errorf("after a correction it still waits: %+v", d)
	}
}

func TestATryOutIsAGuestForSoManyVisits(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	p := handball(t, s)
	umar := player(t, s, "Umar Farouk")
	at, _ := umar.In(p.ID)
	thursday := s.session(t, "Thursday hall")
	v := url.Values{
		"kind":    {"try"},
		"program": {p.ID},
		"stage":   {at.Stage},
		"visits":  {"many"},
		"class":   {thursday.ClassID},
	}
	if code, body := ines.post("/players/"+umar.ID+"/decide", v); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "1 to 12 visits") ||
		!strings.Contains(body, `value="many"`) {
		t.Fatalf("many visits: %d", code)
	}
	v.Set("visits", "1")
	ines.at("/players/"+umar.ID+"/decide", v)
	expected := func() bool {
		return slices.ContainsFunc(
			in(
				t,
				s,
				func(tx *store.Tx) ([]store.Player, error) { ps, _, err := tx.Expected(ctx, thursday); return ps, err },
			),
			func(x store.Player) bool { return x.ID == umar.ID },
		)
	}
	if !expected() {
		t.Error("not expected in the class that is tried out")
	}
	in(t, s, func(tx *store.Tx) (int, error) {
		_, member, _ := accountOf(s.st, "ines@saltmarsh.example")
		_, err := tx.SetAttendance(
			ctx,
			thursday.ID,
			store.Attendance{PlayerID: umar.ID, State: "present"},
			member,
			evening,
		)
		return 0, err
	})
	if !expected() {
		t.Error("gone from the register as soon as they came")
	}
	if d := decidedOf(t, s, umar.ID)[0]; !d.TryOver() || d.Came != 1 {
		t.Errorf("after the visit: %+v", d)
	}
	_, body := ines.get("/stairs/decide?program=" + p.ID)
	mustHave(t, body, "try-out over")
}

func TestPlacesAreFilledOverriddenTakenOverAndUndone(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	p := handball(t, s)
	_, body := ines.get("/stairs/places?program=" + p.ID)
	mustHave(
		t,
		body,
		"Places, Winter",
		"Waiting list <span class=\"num\">2</span>",
		"second group beside Thursday hall would take 2",
		"from 18 years",
		"Does not come back",
	)
	term := regexp.MustCompile(`/stairs/places/([0-9a-f-]+)/put`).FindStringSubmatch(body)[1]
	class := func(name string) string {
		return regexp.MustCompile(`data-class="([0-9a-f-]+)" aria-label="` + name).FindStringSubmatch(body)[1]
	}
	vera := player(t, s, "Vera Popova") // in the Tuesday hall
	put := func(who, to string) (int, string) {
		return ines.post("/stairs/places/"+term+"/put", url.Values{"program": {p.ID}, "player": {who}, "to": {to}})
	}
	if code, _ := put(vera.ID, class("Thursday hall")); code != http.StatusSeeOther {
		t.Fatalf("put by hand: %d", code)
	}
	_, body = ines.get("/stairs/places?program=" + p.ID)
	mustHave(
		t,
		body,
		"What you put by hand costs",
		"1 more is without a place",
		"Waiting list <span class=\"num\">3</span>",
	)
	if code, _ := put(vera.ID, store.NewID()); code != http.StatusNotFound {
		t.Errorf("put into no class: %d", code)
	}
	before := in(t, s, func(tx *store.Tx) (map[string][]string, error) { return tx.Enrolments(ctx) })
	ines.at("/stairs/places/"+term+"/take-over", url.Values{"program": {p.ID}})
	after := in(t, s, func(tx *store.Tx) (map[string][]string, error) { return tx.Enrolments(ctx) })
	if fmt.Sprint(after[vera.ID]) == fmt.Sprint(before[vera.ID]) {
		t.Error("Vera is enrolled where she was")
	}
	_, body = ines.get("/stairs/places?program=" + p.ID)
	mustHave(t, body, "enrolled as placed", "taken over")
	offer := regexp.MustCompile(`/undo/([0-9a-f-]+)`).FindStringSubmatch(body)
	ines.post("/undo/"+offer[1], nil)
	if undone := in(t, s, func(tx *store.Tx) (map[string][]string, error) { return tx.Enrolments(ctx) }); fmt.Sprint(
		undone,
	) != fmt.Sprint(before) {
		t.Error("undone, the enrolments are not as they were")
	}
	if code, body := ines.post("/stairs/places/term", url.Values{"program": {p.ID}, "name": {"winter"}, "from": {"2027-01-01"}, "until": {"2026-12-01"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "a term Winter already") ||
		!strings.Contains(body, "After the first day") {
		t.Errorf("a term that cannot be: %d", code)
	}
	_, list := ines.get("/stairs/office/office.csv?program=" + p.ID)
	mustHave(t, list, "Player,Stage,Decided,From,Class now,Winter", "waiting list, no. 1", "does not come back")
	if code, book := ines.get("/stairs/office/office.xlsx?program=" + p.ID); code != 200 ||
		!strings.HasPrefix(book, "PK") {
		t.Errorf("no workbook: %d", code)
	}
}

func TestAGuardianReadsOneChildUntilTheLinkIsWithdrawn(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, stranger := s.as(t, "ines"), s.browser(t)
	umar := player(t, s, "Umar Farouk")
	at := "/players/" + umar.ID + "/link"
	if code, body := ines.post(at, url.Values{"label": {""}, "weeks": {"900"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "For whom is it?") ||
		!strings.Contains(body, "1 to 52") {
		t.Errorf("a link for nobody, for ever: %d", code)
	}
	if code, _ := s.as(t, "tomasz").post(at, url.Values{"label": {"x"}, "weeks": {"1"}}); code != http.StatusForbidden {
		t.Errorf("a coach made a link: %d", code)
	}
	_, body := ines.post(at, url.Values{"label": {"father"}, "weeks": {"12"}})
	link := regexp.MustCompile(`/for/[0-9a-f]{48}`).FindString(body)
	if link == "" {
		t.Fatal("no link is shown")
	}
	if _, again := ines.get("/players/" + umar.ID); strings.Contains(again, link) {
		t.Error("the secret is shown a second time")
	}
	code, page := stranger.get(link)
	if code != 200 {
		t.Fatalf("the guardian is turned away: %d", code)
	}
	mustHave(t, page, "Umar’s page", "Reef", "Shown lately", "Comes next", "16 February 2027")
	for _, p := range in(t, s, func(tx *store.Tx) ([]store.Player, error) { return tx.Players(ctx, store.PlayerFilter{}) }) {
		if p.ID != umar.ID && strings.Contains(page, p.Name) {
			t.Errorf("the page names %s too", p.Name)
		}
	}
	if strings.Contains(page, "/players/") || strings.Contains(page, strconv.Itoa(umar.BirthYear)) ||
		strings.Contains(page, "Okafor") {
		t.Error("the page shows more than a guardian needs", page)
	}
	for _, other := range []string{"/for/" + strings.Repeat("0", 48), link + "0", "/players/" + umar.ID, "/players/" + umar.ID + "/report"} {
		if code, page := stranger.get(other); code == 200 || strings.Contains(page, "Umar") {
			t.Errorf("%s without signing in: %d", other, code)
		}
	}
	links := in(t, s, func(tx *store.Tx) ([]store.GuardianLink, error) { return tx.GuardianLinks(ctx, umar.ID) })
	if len(links) != 1 || links[0].SeenAt == nil {
		t.Errorf("links %+v", links)
	}
	ines.at("/links/"+links[0].ID+"/withdraw", nil)
	if code, page := stranger.get(link); code != http.StatusNotFound || strings.Contains(page, "Umar") {
		t.Errorf("a withdrawn link: %d", code)
	}
	_, body = ines.post(at, url.Values{"label": {"mother"}, "weeks": {"1"}})
	hash := in(t, s, func(tx *store.Tx) (h string, err error) {
		err = tx.QueryRow(ctx, `select hash from guardian_link where label = 'mother'`).Scan(&h)
		return h, err
	})
	if strings.Contains(body, hash) {
		t.Error("what is kept opens the page")
	}
	if _, err := s.st.ByGuardianLink(ctx, hash, evening.AddDate(0, 0, 6)); err != nil {
		t.Errorf("within its week: %v", err)
	}
	if _, err := s.st.ByGuardianLink(ctx, hash, evening.AddDate(0, 0, 8)); !store.IsNone(err) {
		t.Errorf("after its week: %v", err)
	}
}

func TestLooksArePlannedIntoTheComingSessions(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	p := handball(t, s)
	tuesday := s.session(t, "Tuesday hall")
	_, body := ines.get("/stairs/meeting?program=" + p.ID)
	mustHave(t, body, "by 18 Dec, when Autumn ends", "Plan these looks", "Ready already", "Not by then")
	ines.at("/stairs/meeting", url.Values{"program": {p.ID}, "by": {"2026-12-18"}})
	looks := in(t, s, func(tx *store.Tx) ([]store.Look, error) { return tx.Looks(ctx, []string{tuesday.ID}) })
	if len(looks) < 5 {
		t.Fatalf("%d looks planned for Tuesday", len(looks))
	}
	_, body = ines.get("/sessions/" + tuesday.ID + "?tab=criteria")
	if !regexp.MustCompile(`mark \d+ today`).MatchString(body) {
		t.Error("the plan does not ask for the looks")
	}
	st := hall{ines, tuesday.ID}.state()
	due := 0
	for _, x := range st.Players {
		for _, l := range looks {
			if l.PlayerID == x.ID && slices.Contains(x.Due, l.CriterionID) {
				due++
			}
		}
	}
	if due != len(looks) {
		t.Errorf("%d of %d looks are due in the hall", due, len(looks))
	}
	// Planned again for today alone, what stood in the sessions after it is gone.
	later := func() int {
		return in(t, s, func(tx *store.Tx) (n int, err error) {
			return n, tx.QueryRow(ctx, `select count(*) from look l join session s on s.id = l.session_id where s.starts_at > $1`, tuesday.Ends()).
				Scan(&n)
		})
	}
	if later() == 0 {
		t.Fatal("no looks are planned after Tuesday")
	}
	ines.at("/stairs/meeting", url.Values{"program": {p.ID}, "by": {"2026-11-24"}})
	if n := later(); n > 0 {
		t.Errorf("%d looks stay planned in sessions that have none left", n)
	}
	if code, body := ines.get("/stairs/meeting?by=yesterday"); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "A day from today") {
		t.Errorf("no day: %d", code)
	}
}

func TestALadderTravelsAsAFile(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	p := handball(t, s)
	_, file := ines.get("/stairs/ladder/" + p.ID)
	send := func(text string) (int, string) {
		var b bytes.Buffer
		m := multipart.NewWriter(&b)
		w, _ := m.CreateFormFile("file", "ladder.json")
		w.Write([]byte(text))
		m.Close()
		return ines.do("POST", "/stairs/ladder", m.FormDataContentType(), &b)
	}
	for says, bad := range map[string]string{
		"damaged at line":                        file[:len(file)/2],
		"not a ladder file":                      `{"format":"something"}`,
		"written by a newer":                     strings.Replace(file, `"version": 1`, `"version": 9`, 1),
		"Stage 2, Reef, criterion 1, want":       strings.Replace(file, "\"want\": 8,\n", "\"want\": 80,\n", 1),
		"something this program does not know":   strings.Replace(file, `"skill"`, `"skil"`, 1),
		"&#34;stages.criteria.must&#34; is not ": strings.Replace(file, `"must": true`, `"must": "yes"`, 1),
	} {
		if code, body := send(bad); code != http.StatusUnprocessableEntity || !strings.Contains(body, says) {
			t.Errorf(
				"%s: %d %s",
				says,
				code,
				regexp.MustCompile(`is-danger[^<]*<`).FindString(strings.ReplaceAll(body, "role=\"alert\">", "")),
			)
		}
	}
	if code, body := send(file); code != http.StatusSeeOther {
		t.Fatalf("its own file: %d %.300s", code, body)
	}
	ines.at("/stairs/ladder/"+p.ID+"/copy", nil)
	all := in(t, s, func(tx *store.Tx) ([]store.Program, error) { return tx.Ladders(ctx) })
	byName := map[string]store.Program{}
	for _, x := range all {
		byName[x.Name] = x
	}
	for _, name := range []string{"Handball 2", "Handball 3"} {
		q := byName[name]
		if len(q.Stages) != 4 {
			t.Fatalf("%s has %d stages", name, len(q.Stages))
		}
		for i, st := range q.Stages {
			for j, k := range st.Criteria {
				was := p.Stages[i].Criteria[j]
				was.ID, was.StageID, was.Edition, k.ID, k.StageID, k.Edition = "", "", 0, "", "", 0
				if fmt.Sprintf("%+v", k) != fmt.Sprintf("%+v", was) {
					t.Errorf("%s: %+v, was %+v", name, k, was)
				}
			}
		}
	}
}

// fiveHundred adds 440 players to the sixty, each with four marks on every criterion of their stage.
func fiveHundred(t testing.TB, s site) store.Program {
	t.Helper()
	p := handball(t, s)
	var many []store.Player
	for i := range 440 {
		many = append(
			many,
			store.Player{
				ID:        store.NewID(),
				Name:      fmt.Sprintf("Extra Player %03d", i),
				Joined:    day.Of(evening).Add(-50),
				Standings: []store.Standing{{Program: p.ID, Stage: p.Stages[i%4].ID, Since: day.New(2026, 9, 20)}},
			},
		)
	}
	in(t, s, func(tx *store.Tx) (int, error) {
		if err := tx.PutPlayers(ctx, many); err != nil {
			return 0, err
		}
		_, err := tx.Exec(ctx, `insert into mark (club_id, id, player_id, criterion_id, figure, tries, at, by_member)
			select p.club_id, gen_random_uuid(), p.id, c.id, c.want - (hashtext(p.name || c.id || g) % 3), c.of::int, $1::timestamptz - make_interval(weeks => g), (select id from member where role = 'lead')
			from player p join standing s on s.player_id = p.id join criterion c on c.stage_id = s.stage_id cross join generate_series(1, 4) g where p.name like 'Extra%' and hashtext(p.name || c.id) % 3 <> 0`, evening)
		return 0, err
	})
	return p
}

func BenchmarkFiveHundredOnTheStairs(b *testing.B) {
	shell.GC()
	s := serve(b)
	p := fiveHundred(b, s)
	ines := s.as(b, "ines")
	for _, back := range []string{"0", "40"} {
		b.Run("back "+back, func(b *testing.B) {
			c := costs(s)
			for b.Loop() {
				c.page(ines, "/stairs?program="+p.ID+"&back="+back)
			}
			c.report(b, s)
		})
	}
}

func TestTheStairsHoldFiveHundredAndFive(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	p := fiveHundred(t, s)
	for _, c := range []struct {
		query string
		n     int
	}{{"", 500}, {"&class=" + s.session(t, "Saturday squad").ClassID, 7}} {
		_, body := ines.get("/stairs?program=" + p.ID + c.query)
		tokens := regexp.MustCompile(`<circle cx="([0-9.]+)" cy="([0-9.-]+)" r="([0-9.]+)"`).
			FindAllStringSubmatch(body[strings.Index(body, `class="stairs`):], -1)
		if len(tokens) != c.n {
			t.Fatalf("%d tokens, want %d", len(tokens), c.n)
		}
		at := map[string]int{}
		for _, m := range tokens {
			if y, _ := strconv.ParseFloat(m[2], 64); y < 0 || y > 560 {
				t.Fatalf("a token stands at height %s, outside the picture", m[2])
			}
			at[m[1]+" "+m[2]]++
		}
		for where, n := range at {
			if n > 1 {
				t.Errorf("%d tokens stand on one another at %s", n, where)
			}
		}
	}
	for _, only := range []string{"ready", "short", "stale", "slipping", "stuck", "new", "tryout"} {
		_, body := ines.get("/stairs?program=" + p.ID + "&only=" + only)
		n, _ := strconv.Atoi(
			regexp.MustCompile(`aria-pressed="true"[^>]*>[^<]*<b class="num">(\d+)`).FindStringSubmatch(body)[1],
		)
		if lit := strings.Count(body, `<a class="who`) - strings.Count(body, "is-faint"); lit != n || n == 0 {
			t.Errorf("%s: %d lit, %d counted", only, lit, n)
		}
	}
}

func TestThePlayersPageAnswersWhatIsMissing(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	yara := player(t, s, "Yara Haddad") // one mark short
	at := "/players/" + yara.ID
	_, body := ines.get(at)
	mustHave(
		t,
		body,
		"One mark short",
		"Tue 24 Nov, round ",
		"counted by Bea Lindqvist",
		"Skills over time",
		"Attendance",
		"came to 12 of the last 12",
		"Catch off the wall",
		"best 36 catches from home",
	)
	if n := strings.Count(body, `class="cell-chart"`); n < 5 || n != strings.Count(body, `class="want" x1=`) {
		t.Errorf("%d charts, %d standards drawn", n, strings.Count(body, `class="want" x1=`))
	}
	p := handball(t, s)
	_, body = ines.do("GET", "/stairs/why/"+yara.ID+"?program="+p.ID, "", nil, "HX-Request", "true")
	mustHave(t, body, `id="why"`, "Yara Haddad", "Move up to Tide")
	if strings.Contains(body, "<html") || strings.Contains(body, "Umar") {
		t.Error("more than the panel comes back")
	}
	_, report := ines.get(at + "/report")
	mustHave(t, report, "Catch off the wall", "until 8 Dec", "nearly there", "5 of 6 things of this stage", "Back")
}

func TestMarkersAreComparedAndAClassIsHandedOn(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tomasz := s.as(t, "tomasz")
	p := handball(t, s)
	_, body := tomasz.get("/stairs/agree?program=" + p.ID)
	mustHave(
		t,
		body,
		"Reads the free player",
		"Talk about this one together.",
		"55 in 100 alike of 11",
		"fair (κ 0.40)",
		"side by side on Thu 26 Nov",
		"which says little",
		"Fewer than ten say nothing yet.",
		"Not marked by two people within a week",
	)
	first, second := strings.Index(body, "Reads the free player"), strings.Index(body, "Catches a lobbed ball")
	if first > second {
		t.Error("what there is to talk about does not stand first")
	}
	class := s.session(t, "Tuesday hall").ClassID
	_, body = tomasz.get("/stairs/class/" + class)
	mustHave(t, body, "Tuesday hall", "for the next coach", "no jumping until 12 Dec", "with Davina Nwosu", "ready")
	_, list := tomasz.get("/stairs/class/" + class + "/class.csv")
	if n := strings.Count(list, "\r\n"); n != 20 { // the heading, and nineteen
		t.Errorf("%d lines in the list", n)
	}
	if code, _ := tomasz.get("/stairs/class/" + class + "/class.exe"); code != http.StatusNotFound {
		t.Errorf("a file of no kind: %d", code)
	}
}

func TestEveryMeasureIsWrittenTriedAndKept(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	shore := handball(t, s).Stages[0]
	for i, c := range []struct {
		measure, want, of, tolerance, points string
		standard, axis                       string
	}{
		{"check", "", "", "", "heel\nelbow", "both points", "looks in 100"}, {"grade", "2", "", "", "a\nb\nc", "grade 2", "looks in 100"},
		{"makes", "6", "8", "", "", "6 of 8", "good tries in 100"}, {"streak", "7", "", "", "", "7 in a row", "rest on 21 tries"},
		{"count", "33", "20", "", "", "33 in 20 s", "looks in 100"}, {"hold", "7,5", "", "", "", "7.5 s", "looks in 100"}, {"faults", "2", "", "", "", "at most 2", "looks in 100"},
		{"time", "9,8", "", "", "", "at most 9.8 s", "looks in 100"}, {"tries", "4", "", "", "", "at most 4", "looks in 100"}, {"distance", "6", "", "", "", "at least 6 m", "looks in 100"},
		{"angle", "45", "", "10", "", "45° ± 10°", "looks in 100"},
	} {
		v := url.Values{
			"wording":   {"Wording of " + c.measure},
			"skill":     {"Odd Skill"},
			"measure":   {c.measure},
			"want":      {c.want},
			"of":        {c.of},
			"tolerance": {c.tolerance},
			"points":    {c.points},
			"keys":      {"one\ntwo"},
			"good": {
				"2",
			},
			"last":   {"4"},
			"days":   {"2"},
			"people": {"2"},
			"weeks":  {"0"},
			"must":   {"choose"},
			"judged": {"result"},
			"sides":  {"1"},
		}
		_, body := ines.post("/stairs/criterion/"+shore.ID+"/try", v)
		mustHave(
			t,
			body,
			c.axis,
			"this one: 2 good of the last 4, on 2 days, by 2 people",
			"Nobody of 24 on this stage",
		)
		if to := ines.at("/stairs/criterion/"+shore.ID, v); to != "/stairs/ladder#"+shore.ID {
			t.Errorf("%s leads to %s", c.measure, to)
		}
		k := handball(t, s).Stages[0].Criteria[len(shore.Criteria)+i]
		if k.Standard() != c.standard || k.Must || !k.ByResult || !k.BothSides || k.Skill != "odd skill" ||
			len(k.Keys) != 2 ||
			k.Rule != (coach.EvidenceRule{Good: 2, Last: 4, Days: 2, People: 2}) {
			t.Errorf("%s is kept as %+v", c.measure, k)
		}
		if _, form := ines.get("/stairs/criterion/" + k.ID); !strings.Contains(form, `value="Wording of `+c.measure) {
			t.Errorf("%s is not in its form", c.measure)
		}
	}
	order := func() (out []string) {
		for _, k := range handball(t, s).Stages[0].Criteria[:3] {
			out = append(out, k.Wording)
		}
		return out
	}
	was := order()
	ines.at("/stairs/criterion/"+shore.Criteria[1].ID+"/move", url.Values{"to": {"up"}})
	if got := order(); got[0] != was[1] || got[1] != was[0] || got[2] != was[2] {
		t.Errorf("moved up: %v, was %v", got, was)
	}
	ines.at("/stairs/criterion/"+shore.Criteria[1].ID+"/move", url.Values{"to": {"up"}}) // it is the first already
	if got := order(); got[0] != was[1] {
		t.Errorf("moved up from the top: %v", got)
	}
}
