package web

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"html"
	"mime/multipart"
	"net/http"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/store"
)

// in reads something of the demo club straight from the store.
func in[T any](t testing.TB, s site, f func(*store.Tx) (T, error)) (out T) {
	t.Helper()
	if err := s.st.In(ctx, s.club, func(tx *store.Tx) (err error) { out, err = f(tx); return err }); err != nil {
		t.Fatal(err)
	}
	return out
}

func player(t testing.TB, s site, name string) store.Player {
	t.Helper()
	ps := in(
		t,
		s,
		func(tx *store.Tx) ([]store.Player, error) { return tx.Players(ctx, store.PlayerFilter{Words: name}) },
	)
	if len(ps) != 1 {
		t.Fatalf("%d players called %s", len(ps), name)
	}
	return ps[0]
}

func TestThePlayerFormKeepsWhatWasTyped(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	for says, v := range map[string]url.Values{
		"A name, as it is shown":                    {"year": {"2015"}, "tags": {"typed"}},
		"2040 has not come yet.":                    {"name": {"A"}, "year": {"2040"}, "tags": {"typed"}},
		"four digits":                               {"name": {"A"}, "year": {"last"}, "tags": {"typed"}},
		"called Nobody":                             {"name": {"A"}, "with": {"Nobody"}, "tags": {"typed"}},
		"kept with and apart at once":               {"name": {"A"}, "with": {"Bo Lindahl"}, "apart": {"Bo Lindahl"}, "tags": {"typed"}},
		"Until when?":                               {"name": {"A"}, "limit": {"jumping"}, "until": {"soon"}, "tags": {"typed"}},
		"81 characters; 80 are the most":            {"name": {strings.Repeat("x", 81)}, "tags": {"typed"}},
		"Nobody is kept with or apart from themsel": {"name": {"Solo One"}, "with": {"Solo One"}, "tags": {"typed"}},
	} {
		code, body := b.post("/roster/new", v)
		if code != http.StatusUnprocessableEntity || !strings.Contains(body, says) ||
			!strings.Contains(body, `value="typed"`) {
			t.Errorf("%q: %d, kept what was typed: %v", says, code, strings.Contains(body, `value="typed"`))
		}
	}
	if all := in(t, s, func(tx *store.Tx) (int, error) {
		n, _, err := tx.CountPlayers(ctx, store.PlayerFilter{})
		return n, err
	}); all != 70 {
		t.Errorf("%d players after refusals, want 70", all)
	}
	// Names are text everywhere, and a search takes signs as they are.
	if code, _ := b.post("/roster/new", url.Values{"name": {`<script>alert(1)</script> 100%`}}); code != http.StatusSeeOther {
		t.Fatalf("add: %d", code)
	}
	if _, body := b.get("/roster?q=" + url.QueryEscape("100%")); strings.Contains(body, "<script>alert") ||
		!strings.Contains(body, "&lt;script&gt;") {
		t.Error("a name is not shown as text")
	}
	if _, body := b.get("/roster?q=" + url.QueryEscape("%")); strings.Count(body, `href="/roster/player/`) != 1 {
		t.Errorf("searching for %% finds %d", strings.Count(body, `href="/roster/player/`))
	}
}

func TestUndoOverTheWeb(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	p := player(t, s, "Bo Lindahl")
	if code, _ := b.post("/roster/player/"+p.ID+"/leave", nil); code != http.StatusSeeOther {
		t.Fatalf("leave: %d", code)
	}
	_, body := b.get("/roster")
	offer := regexp.MustCompile(`action="/undo/([0-9a-f-]+)"`).FindStringSubmatch(body)
	if offer == nil || strings.Contains(body, "Bo Lindahl</bdi></a>") {
		t.Fatal("no undo is offered, or the player is still there")
	}
	if code, _ := s.as(t, "bea").post("/undo/"+offer[1], nil); code != http.StatusForbidden {
		t.Errorf("a helper undid: %d", code)
	}
	tomasz := s.as(t, "tomasz")
	tomasz.post("/undo/"+offer[1], nil)
	if _, body := tomasz.get("/roster"); strings.Contains(body, "Undone") ||
		strings.Contains(body, "Bo Lindahl</bdi></a>") {
		t.Error("a coach undid the lead's change")
	}
	b.post("/undo/"+offer[1], url.Values{"to": {"//evil.example"}})
	if _, body := b.get("/roster"); !strings.Contains(body, "Undone: Bo Lindahl has left") ||
		!strings.Contains(body, "Bo Lindahl</bdi></a>") {
		t.Error("the player is not back")
	}
	b.post("/undo/"+offer[1], nil)
	if _, body := b.get("/roster"); !strings.Contains(body, "That is undone already") {
		t.Error("undone twice")
	}
}

// criterionForm is a good criterion as it is sent: 8 of 10, twice out of the last three, on two days. Then name and value
// of what is otherwise.
func criterionForm(wording, skill string, change ...string) url.Values {
	v := url.Values{
		"wording":   {wording},
		"skill":     {skill},
		"measure":   {"makes"},
		"want":      {"8"},
		"of":        {"10"},
		"good":      {"2"},
		"last":      {"3"},
		"days":      {"2"},
		"people":    {"1"},
		"weeks":     {"6"},
		"tolerance": {"0"},
		"must":      {"choose"},
	}
	for i := 0; i+1 < len(change); i += 2 {
		v.Set(change[i], change[i+1])
	}
	return v
}

func TestTheLadderRefusesWhatCannotBe(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	_, body := b.get("/stairs/ladder")
	stage := regexp.MustCompile(`/stairs/criterion/([0-9a-f-]+)" aria-label="Add a criterion to Shore"`).FindStringSubmatch(body)[1]
	good := func(change ...string) url.Values { return criterionForm("Hops", "footwork", change...) }
	for says, v := range map[string]url.Values{
		"12 good ones out of 10 tries cannot be":      good("want", "12"),
		"Choose how it is measured":                   good("measure", "vibes"),
		"Name the points that must be seen":           good("measure", "check"),
		"Describe each grade":                         good("measure", "grade", "want", "3", "points", "a\nb"),
		"3 good marks out of the last 2 cannot be":    good("good", "3", "last", "2", "days", "1"),
		"need at least as many good marks":            good("good", "1", "last", "0", "days", "3"),
		"Days: a whole number from 1 to 12":           good("days", "many"),
		"What does the player show?":                  good("wording", " "),
		"a number from 1 to 3600":                     good("measure", "count", "of", "-1"),
		"The figure that is good enough: a number fr": good("measure", "hold", "want", "long"),
	} {
		if code, body := b.post("/stairs/criterion/"+stage, v); code != http.StatusUnprocessableEntity ||
			!strings.Contains(body, says) {
			t.Errorf("%q: %d", says, code)
		}
	}
	for _, v := range []url.Values{good(), good("measure", "hold", "want", "7,5"), good("measure", "check", "points", "one\ntwo"), good("measure", "angle", "want", "45", "tolerance", "10")} {
		if code, body := b.post("/stairs/criterion/"+stage, v); code != http.StatusSeeOther {
			t.Errorf("%v: %d %.200s", v, code, body)
		}
	}
	if _, body := b.get("/stairs/ladder"); !strings.Contains(body, "7.5 s") || !strings.Contains(body, "45° ± 10°") {
		t.Error("the new criteria are not in the ladder")
	}
	if code, body := b.post("/stairs/stage/"+stage, url.Values{"name": {"reef"}, "colour": {"#123456"}, "choose": {"0"}, "visits": {"0"}, "weeks": {"0"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "has a stage reef already") {
		t.Errorf("two stages of one name: %d", code)
	}
}

func TestAPlanByTheWeb(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "tomasz")
	tuesday := s.session(t, "Tuesday hall")
	at := "/sessions/" + tuesday.ID
	version := tuesday.Version
	edit := func(do, value, id string) (int, string) {
		return b.do(
			"POST",
			at+"/plan",
			"application/x-www-form-urlencoded",
			strings.NewReader(
				url.Values{"do": {do}, "value": {value}, "at": {id}, "version": {strconv.Itoa(version)}}.Encode(),
			),
			"HX-Request",
			"true",
		)
	}
	if code, body := edit("work", "420", ""); code != 200 || !strings.Contains(body, "7:00") ||
		!strings.Contains(body, "Take back: Plan: rounds of 7:00") {
		t.Errorf("a longer round: %d", code)
	}
	if _, body := edit("work", "480", ""); !strings.Contains(body, "Tomasz Brandt changed this plan a moment ago") ||
		!strings.Contains(body, "Do it on this one") ||
		!strings.Contains(body, "7:00") {
		t.Error("a change made on an old version is not shown as such")
	}
	version++ // the refused change was rolled back, with its note
	for says, e := range map[string][3]string{
		"Choose a drill from the shelf.":      {"drill", "nonsense", "s1"},
		"That drill is not on the shelf.":     {"drill", store.NewID() + "@1", "s1"},
		"Groups from 1 to 8, please.":         {"groups", "11", ""},
		"The plan does not know that change.": {"sing", "", ""},
	} {
		// a refusal is counted as one
		if code, body := edit(e[0], e[1], e[2]); code != http.StatusUnprocessableEntity ||
			!strings.Contains(body, says) {
			t.Errorf("%q: %d", says, code)
		}
	}
	if code, body := b.do("POST", at+"/undo", "", nil, "HX-Request", "true"); code != 200 ||
		!strings.Contains(body, "6:00") {
		t.Errorf("take back: %d", code)
	}
	aino := player(t, s, "Aino Laine")
	if _, body := b.do("POST", at+"/coming", "application/x-www-form-urlencoded", strings.NewReader("away=1&player="+aino.ID), "HX-Request", "true"); !strings.Contains(
		body,
		"16 of 19 coming",
	) {
		t.Error("somebody stays away and the plan does not know")
	}
	if _, body := b.do("POST", at+"/leader", "application/x-www-form-urlencoded", strings.NewReader("until=ten&member="+tuesday.Leaders[0].Member), "HX-Request", "true"); !strings.Contains(
		body,
		"Leaves after how many minutes: a whole number",
	) {
		t.Error("a leader leaves after ten, in words")
	}
	if code, body := b.get(at + "/print"); code != 200 || !strings.Contains(body, "Who goes where") ||
		strings.Contains(body, "<nav") {
		t.Errorf("print: %d", code)
	}
	class := url.Values{"class": {tuesday.ClassID}, "date": {tuesday.StartsAt.Format(time.DateOnly)}}
	if code, body := b.post("/sessions", class); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "has a session on 24 Nov already") {
		t.Errorf("the same date twice: %d", code)
	}
	class.Set("date", "someday")
	if code, body := b.post("/sessions", class); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "Which day?") {
		t.Errorf("no date: %d", code)
	}
}

// onPlan is a browser on the demo's Tuesday plan: it sends edits with the version the last answer showed.
type onPlan struct {
	browser
	at, version string
}

// send wants to be taken, or refused with a word.
func (p *onPlan) send(path string, v url.Values) string {
	p.t.Helper()
	code, body := p.try(path, v)
	if refused := code == http.StatusUnprocessableEntity; code != 200 && !refused ||
		refused && !strings.Contains(body, "role=\"alert\"") {
		p.t.Fatalf("%s %v: %d", path, v, code)
	}
	return body
}

func (p *onPlan) try(path string, v url.Values) (code int, body string) {
	v.Set("version", p.version)
	if !v.Has("tab") {
		v.Set("tab", "all")
	}
	code, body = p.do(
		"POST",
		p.at+path,
		"application/x-www-form-urlencoded",
		strings.NewReader(v.Encode()),
		"HX-Request",
		"true",
	)
	if m := regexp.MustCompile(`data-version="(\d+)"`).FindStringSubmatch(body); m != nil {
		p.version = m[1]
	}
	return code, body
}

func (p *onPlan) edit(do, at, value string) string {
	p.t.Helper()
	return p.send("/plan", url.Values{"do": {do}, "at": {at}, "value": {value}})
}

func TestAPlanIsProposedPinnedMendedAndTakenBack(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	p := &onPlan{s.as(t, "ines"), "/sessions/" + tuesday.ID, strconv.Itoa(tuesday.Version)}
	body := p.send("/propose", url.Values{"shape": {"circuit"}, "aim": {"skill passing"}})
	if !strings.Contains(body, "For passing;") || !strings.Contains(body, "Again: all that is not pinned") ||
		strings.Contains(body, "is-stop") {
		t.Error("the proposal does not say what it is for, or stops")
	}
	stations := func() (out []string) {
		for _, st := range in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, tuesday.ID) }).Plan.Stations() {
			out = append(out, st.Drill)
		}
		return out
	}
	p.edit("pin", "", "station s2")
	before, changed := stations(), false
	for range 4 {
		p.send("/propose", url.Values{"shape": {"circuit"}, "aim": {"skill passing"}})
		now := stations()
		if now[1] != before[1] {
			t.Fatal("the pinned station changed")
		}
		changed = changed || fmt.Sprint(now) != fmt.Sprint(before)
	}
	if !changed {
		t.Error("again and again the same")
	}
	// Too long: what could give is offered, applied by its button, taken back and done again.
	p.edit("add-block", "", "game")
	body = p.edit("add-block", "", "game")
	over := regexp.MustCompile(`The plan runs [\d:]+ over the booked time`).FindString(body)
	if over == "" {
		t.Fatal("two games more and the plan is not too long")
	}
	if body = p.edit("mend", "0", "TooLong Time"); strings.Contains(body, over) {
		t.Error("the mend changed nothing")
	}
	if body = p.send("/undo", url.Values{}); !strings.Contains(body, over) ||
		!strings.Contains(body, "Do again: Plan: mended") {
		t.Error("the mend was not taken back")
	}
	if body = p.send("/redo", url.Values{}); strings.Contains(body, over) || strings.Contains(body, "Do again: ") {
		t.Error("the mend was not done again")
	}
	if body = p.send("/redo", url.Values{}); !strings.Contains(body, "There is nothing to do again.") {
		t.Error("done again twice")
	}
	if body = p.edit("mend", "7", "TooLong Time"); !strings.Contains(body, "That is settled already.") {
		t.Error("a mend that is gone")
	}
	// Moving one station moves no other, and a bad place says so.
	places := func(body string) []string {
		return regexp.MustCompile(`data-place="[\d.]+ [^"]+"`).FindAllString(body, -1)
	}
	was := places(p.edit("key", "", "soft hands"))
	first := in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, tuesday.ID) }).Plan.Stations()[0].ID
	now := places(p.edit("spot", first, "30 1 0 6 5"))
	for i := range was {
		if (was[i] == now[i]) != (i > 0) {
			t.Errorf("station %d: %s, was %s", i+1, now[i], was[i])
		}
	}
	if body = p.edit("spot", first, "30 1 0 six 5"); !strings.Contains(body, "&#34;six&#34; is not a length.") {
		t.Error("a place in words")
	}
}

// Whoever has the plan open hears of a change, with the version it has then, on any instance of the program.
func TestAnOpenPlanHearsOfChanges(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	tomasz := s.as(t, "tomasz")
	res, err := tomasz.Get(s.URL + "/sessions/" + tuesday.ID + "/live")
	if err != nil || res.StatusCode != 200 {
		t.Fatal(err)
	}
	defer res.Body.Close()
	heard := make(chan string, 8)
	go func() {
		lines := bufio.NewScanner(res.Body)
		for lines.Scan() {
			if what, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				heard <- what
			}
		}
	}()
	expect := func(want string) {
		t.Helper()
		for {
			select {
			case got := <-heard:
				if got == want {
					return
				}
			case <-time.After(20 * time.Second):
				t.Fatalf("%q was not heard", want)
			}
		}
	}
	expect("hello " + strconv.Itoa(tuesday.Version))
	p := &onPlan{s.as(t, "ines"), "/sessions/" + tuesday.ID, strconv.Itoa(tuesday.Version)}
	p.edit("work", "", "300")
	expect("plan " + p.version)
	p.edit("minutes", "b1", "8")
	expect("plan " + p.version)
	p.send("/undo", url.Values{})
	expect("plan " + p.version)
	if code, _ := s.as(t, "bea").get("/sessions/" + tuesday.ID + "/live"); code != http.StatusForbidden {
		t.Errorf("a helper listens to the plan: %d", code)
	}
}

func TestLeadersComeAndGo(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	p := &onPlan{s.as(t, "ines"), "/sessions/" + tuesday.ID, strconv.Itoa(tuesday.Version)}
	tomasz := tuesday.Leaders[1]
	for says, v := range map[string]url.Values{
		"Nobody can leave before they come.":     {"member": {tomasz.Member}, "from": {"40"}, "until": {"30"}},
		"Comes after how many minutes: a whole":  {"member": {tomasz.Member}, "from": {"soon"}},
		"Tomasz comes at 18:30, after round 1 h": {"member": {tomasz.Member}, "from": {"30"}},
		"Feint past a screen needs a helper":     {"member": {tomasz.Member}, "off": {"1"}},
	} {
		if body := p.send("/leader", v); !strings.Contains(body, says) {
			t.Errorf("%q is not said", says)
		}
		p.send("/leader", url.Values{"member": {tomasz.Member}})
	}
	// Leaders who move along are asked for by group.
	if body := p.edit("leaders", "", "move"); !strings.Contains(body, "Who goes with whom") ||
		!strings.Contains(body, "Who goes with the Circles") {
		t.Error("leaders move, and nobody asks with whom")
	}
	if body := p.edit("goes-with", "", "1 "+tomasz.Member); !strings.Contains(body, "whoever comes with the group") &&
		!strings.Contains(body, "who comes with the group") {
		t.Error("the floor does not say that leaders come with the group")
	}
}

func TestWhatIfIsShownAndTaken(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	b := s.as(t, "ines")
	at := "/sessions/" + tuesday.ID + "/what-if"
	aino, bea := player(t, s, "Aino Laine"), tuesday.Leaders[2]
	if bea.Name != "Bea Lindqvist" {
		t.Fatal(bea)
	}
	what := url.Values{
		"absent":     {aino.ID},
		"gone":       {bea.Member},
		"gone-at":    {"30"},
		"guest":      {"new"},
		"guest-name": {"Lou Vance"},
		"time":       {"10"},
		"version":    {strconv.Itoa(tuesday.Version)},
		"hurt":       {player(t, s, "Bo Lindahl").ID},
		"hurt-no":    {"running"},
	}
	code, body := b.post(at, what)
	for _, want := range []string{"Aino Laine is not there", "Bea Lindqvist leaves at 18:30", "Lou Vance comes as a guest", "Bo Lindahl: no running today", "of 80 instead of", "Take it"} {
		if !strings.Contains(body, want) {
			t.Errorf("%d: what if does not say %q", code, want)
		}
	}
	same := in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, tuesday.ID) })
	if same.Version != tuesday.Version || same.Minutes != 90 {
		t.Error("looking changed the plan")
	}
	for says, v := range map[string]url.Values{"Say what happens": {}, "What is the guest called?": {"guest": {"new"}}, "At least ten minutes must be left": {"time": {"85"}}, "Minutes lost: a whole number": {"time": {"ten"}}} {
		if code, body := b.post(at, v); code != http.StatusUnprocessableEntity ||
			!strings.Contains(strings.ToLower(body), strings.ToLower(says)) {
			t.Errorf("%q: %d", says, code)
		}
	}
	if code, _ := b.post(at+"/take", what); code != http.StatusSeeOther {
		t.Fatalf("take it: %d", code)
	}
	_, body = b.get("/sessions/" + tuesday.ID + "?tab=all")
	for _, want := range []string{"17 of 20 coming", "Lou Vance", "no running", "of 80 min", "leaves at 18:30"} {
		if !strings.Contains(body, want) {
			t.Errorf("after taking it the plan does not say %q", want)
		}
	}
	if code, body := b.post(at+"/take", what); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "changed the plan in the meantime") {
		t.Errorf("taken twice: %d", code)
	}
	// All of it is one change, and is taken back as one.
	if _, body := b.do("POST", "/sessions/"+tuesday.ID+"/undo", "", nil, "HX-Request", "true"); !strings.Contains(
		body,
		"17 of 19 coming",
	) ||
		!strings.Contains(body, "of 90 min") ||
		strings.Contains(body, "Lou Vance") {
		t.Error("taking it back left something")
	}
}

func TestPlansTravel(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	b := s.as(t, "tomasz")
	at := "/sessions/" + tuesday.ID
	_, file := b.get(at + "/plan.json")
	if !strings.Contains(file, `"format": "gruppo-plan"`) || !strings.Contains(file, "Wall passing") {
		t.Fatal(file[:200])
	}
	for path, want := range map[string]string{"/floor.svg": "<style>", "/strip.svg": "Warm-up", "/print/cards": "Walk it: no ball", "/print/pairings": "move on one", "/print/kit": "screen"} {
		if code, body := b.get(at + path); code != 200 || !strings.Contains(body, want) {
			t.Errorf("%s: %d", path, code)
		}
		if _, body := b.get(at + path); strings.Contains(body, "No jumping") {
			t.Errorf("%s says who must not jump", path)
		}
	}
	if _, body := b.get(at + "/print"); !strings.Contains(body, "something to stop for") {
		t.Error("the sheet does not say that there is something to stop for")
	}
	thursday := s.session(t, "Thursday hall")
	read := func(file string, more ...string) (int, string) {
		var body bytes.Buffer
		w := multipart.NewWriter(&body)
		part, _ := w.CreateFormFile("file", "plan.json")
		_, _ = part.Write([]byte(file))
		for _, m := range more {
			_ = w.WriteField(m, "1")
		}
		w.Close()
		return b.do("POST", "/sessions/"+thursday.ID+"/plan.json", w.FormDataContentType(), &body)
	}
	strange := regexp.MustCompile(`"drill": "[^"]+"`).
		ReplaceAllString(strings.Replace(file, `"name": "Wall passing"`, `"name": "Wall something"`, 1), `"drill": "elsewhere"`)
	for says, f := range map[string]string{"damaged at line": file[:300], "does not say that it is one": "{}", "Your shelf does not have": strange} {
		if code, body := read(f); code != http.StatusUnprocessableEntity || !strings.Contains(body, says) {
			t.Errorf("%q: %d", says, code)
		}
	}
	if now := in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, thursday.ID) }); now.Version != thursday.Version {
		t.Error("a bad file changed the plan")
	}
	if code, _ := read(file); code != http.StatusSeeOther {
		t.Fatalf("read the plan: %d", code)
	}
	now := in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, thursday.ID) })
	dealt := 0
	for _, g := range now.Plan.Deals[0].Players {
		dealt += len(g)
	}
	if len(now.Plan.Stations()) != 4 || dealt != thursday.Expected ||
		now.Plan.Stations()[3].Leader == tuesday.Plan.Stations()[3].Leader {
		t.Errorf(
			"read for Thursday: %d stations, %d of %d dealt, led by %s",
			len(now.Plan.Stations()),
			dealt,
			thursday.Expected,
			now.Plan.Stations()[3].Leader,
		)
	}
	// Copied to another date of another class, in a smaller hall.
	shore := s.session(t, "Saturday Shore")
	date := shore.StartsAt.AddDate(0, 0, 7).Format(time.DateOnly)
	if code, _ := b.post(at+"/copy", url.Values{"class": {shore.ClassID}, "date": {date}}); code != http.StatusSeeOther {
		t.Fatalf("copy: %d", code)
	}
	copied := in(t, s, func(tx *store.Tx) ([]store.Session, error) {
		return tx.Sessions(ctx, store.SessionFilter{Class: shore.ClassID, From: shore.Ends().Add(time.Hour)})
	})
	if len(copied) != 1 || len(copied[0].Plan.Stations()) != 4 {
		t.Fatalf("%d sessions", len(copied))
	}
	if _, body := b.get("/sessions/" + copied[0].ID); !strings.Contains(
		body,
		"there is no such place left on the floor",
	) {
		t.Error("four stations of a hall in a gym, and nothing is found")
	}
	if code, body := b.post(at+"/copy", url.Values{"class": {tuesday.ClassID}, "date": {tuesday.StartsAt.Format(time.DateOnly)}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "this very session") {
		t.Errorf("copied onto itself: %d", code)
	}
}

func TestScoresAreCarriedOn(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "tomasz")
	at := "/sessions/" + s.session(t, "Tuesday hall").ID + "/partners/1"
	if code, _ := b.post(at, url.Values{"turn": {"0"}, "a0": {"4"}, "a1": {"7"}}); code != http.StatusSeeOther {
		t.Fatalf("keep: %d", code)
	}
	_, body := b.get(at)
	if strings.Count(body, "from 7") < 2 || !strings.Contains(body, "All 17 meet in 17 rounds") {
		t.Error("with a new partner the pair does not carry on from the higher score")
	}
	if code, body := b.post(at, url.Values{"turn": {"0"}, "a0": {"four"}, "a1": {"12"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "A score: a whole number") ||
		!strings.Contains(body, `value="four"`) ||
		!strings.Contains(body, `value="12"`) {
		t.Errorf("a score in words: %d, or something typed was lost", code)
	}
	if _, body := b.get(at); strings.Contains(body, `value="12"`) || !strings.Contains(body, `value="7"`) {
		t.Error("a turn with a bad score was kept in part")
	}
	if code, _ := b.get(strings.TrimSuffix(at, "1") + "0"); code != http.StatusNotFound {
		t.Errorf("partners of the warm-up: %d", code)
	}
}

func TestPlacesKitAndCare(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	venue := url.Values{
		"name":        {"Pier court"},
		"floor":       {"hall"},
		"length":      {"20"},
		"width":       {"10"},
		"zone-name-0": {"west"},
		"zone-x-0":    {"0"},
		"zone-y-0":    {"0"},
		"zone-l-0":    {"10"},
		"zone-w-0":    {"10"},
	}
	for says, change := range map[string][2]string{"reaches beyond the floor": {"zone-l-0", "30"}, "What is the place called?": {"name", ""}, "Choose a floor.": {"floor", "moon"}, "Length in metres": {"length", "long"}} {
		bad := url.Values{}
		for k, v := range venue {
			bad[k] = v
		}
		bad.Set(change[0], change[1])
		if code, body := b.post("/sessions/venue", bad); code != http.StatusUnprocessableEntity ||
			!strings.Contains(body, says) ||
			!strings.Contains(body, `value="west"`) {
			t.Errorf("%q: %d", says, code)
		}
	}
	if code, _ := b.post("/sessions/venue", venue); code != http.StatusSeeOther {
		t.Errorf("a place: %d", code)
	}
	if code, body := b.post("/sessions/kit", url.Values{"name-0": {"ball"}, "count-0": {"many"}, "name-1": {"Ball"}, "count-1": {"3"}, "stands-1": {"beanbag"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "How many: a whole number") ||
		!strings.Contains(body, "This stands on the list already") ||
		!strings.Contains(body, `value="beanbag"`) {
		t.Errorf("bad kit: %d", code)
	}
	two := url.Values{"name-0": {"ball"}, "count-0": {"2"}}
	second := url.Values{"name-0": {"parasol"}, "count-0": {"1"}, "name-1": {"ball"}, "count-1": {"2"}}
	if code, body := b.post("/sessions/kit", second); code != http.StatusUnprocessableEntity ||
		!regexp.MustCompile(`(?s)value="ball".{0,300}This stands on the list already`).MatchString(body) || strings.Count(body, "on the list already") != 1 {
		t.Errorf("a second line of balls: %d", code)
	}
	for _, k := range in(t, s, func(tx *store.Tx) ([]coach.Kit, error) { return tx.Kit(ctx) }) {
		if k.Name == "ball" {
			two.Set("id-0", k.ID)
		}
	}
	if code, _ := b.post("/sessions/kit", two); code != http.StatusSeeOther {
		t.Errorf("kit: %d", code)
	}
	tuesday := "/sessions/" + s.session(t, "Tuesday hall").ID
	if _, body := b.get(tuesday); !regexp.MustCompile(`\d+ balls needed, the club has 2: \d+ short`).MatchString(body) {
		t.Error("two balls, and nothing is short")
	}
	if code, body := b.post("/account/care", url.Values{"adult": {"0"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "Players for each adult") {
		t.Errorf("no players for an adult: %d", code)
	}
	b.post("/account/care", url.Values{"adult": {"5"}})
	if _, body := b.get(tuesday); !strings.Contains(body, "From 18:50 there are 3 adults for 17 players") {
		t.Error("Bea leaves, and the club's setting is not checked")
	}
}

func TestALeadBringsPeopleIn(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	if code, body := ines.post("/account/people", url.Values{"name": {"Noor"}, "email": {"bea@saltmarsh.example"}, "role": {"helper"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "Somebody of your club has this address already") {
		t.Errorf("an address twice: %d", code)
	}
	handed := regexp.MustCompile(`<b class="fresh-link">https?://[^/]+(/in/[0-9a-f]+)</b>`)
	code, body := ines.post(
		"/account/people",
		url.Values{"name": {"Noor Vance"}, "email": {"Noor@saltmarsh.example"}, "role": {"coach"}},
	)
	link := handed.FindStringSubmatch(body)
	if code != 200 || link == nil {
		t.Fatalf("bring in: %d", code)
	}
	noor := s.browser(t)
	if code, body := noor.get(link[1]); code != 200 || !strings.Contains(body, "Welcome, Noor") {
		t.Errorf("the link: %d", code)
	}
	if code, body := noor.post(link[1], url.Values{"password": {"short"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "At least 10 characters") {
		t.Errorf("a short password: %d", code)
	}
	chosen := url.Values{"email": {"noor@saltmarsh.example"}, "password": {"gulls over the quay"}}
	if code, _ := noor.post(link[1], chosen); code != http.StatusSeeOther {
		t.Fatalf("choose a password: %d", code)
	}
	if code, body := s.browser(t).post(link[1], chosen); code != http.StatusNotFound ||
		!strings.Contains(body, "was used") {
		t.Errorf("the link a second time: %d", code)
	}
	// A forgotten one is renewed in the same way: only the newest link works, and what was open is signed out once it
	// is used.
	id := regexp.MustCompile(`aria-label="A link for Noor Vance`).FindStringIndex(body)
	at := regexp.MustCompile(`/account/people/([0-9a-f-]+)/link"`).FindAllStringSubmatch(body[:id[0]], -1)
	member := at[len(at)-1][1]
	_, body = ines.post("/account/people/"+member+"/link", nil)
	first := handed.FindStringSubmatch(body)[1]
	_, body = ines.post("/account/people/"+member+"/link", nil)
	if code, _ := s.browser(t).get(first); code != http.StatusNotFound {
		t.Errorf("the link before the newest: %d", code)
	}
	elsewhere := s.browser(t)
	if code, _ := elsewhere.post(handed.FindStringSubmatch(body)[1], url.Values{"password": {"nets drying in the sun"}}); code != http.StatusSeeOther {
		t.Errorf("renewed: %d", code)
	}
	if code, _ := noor.get("/roster"); code != http.StatusSeeOther {
		t.Errorf("signed in with the old password still: %d", code)
	}
	noor = elsewhere
	first = "nets drying in the sun"
	if code, body := noor.get("/account"); code != 200 || strings.Contains(body, "Bring them in") {
		t.Errorf("a coach's account: %d", code)
	}
	ines.post("/account/people/"+member+"/end", nil)
	if code, _ := noor.get("/roster"); code != http.StatusSeeOther {
		t.Errorf("still signed in: %d", code)
	}
	if code, _ := noor.post("/sign-in", url.Values{"email": {"noor@saltmarsh.example"}, "password": {first}}); code != http.StatusUnprocessableEntity {
		t.Errorf("still gets in: %d", code)
	}
}

// hall is what the phone does: clock, inbox, state.
type hall struct {
	browser
	id string
}

func (h hall) post(path string, v any, into any) int {
	h.t.Helper()
	body, err := json.Marshal(v)
	if err != nil {
		h.t.Fatal(err)
	}
	code, out := h.do(
		"POST",
		"/courtside/"+h.id+path,
		"application/json",
		bytes.NewReader(body),
		"Accept",
		"application/json",
	)
	if into != nil {
		if err := json.Unmarshal([]byte(out), into); err != nil {
			h.t.Fatalf("%d %.300s", code, out)
		}
	}
	return code
}

type hallState struct {
	Events []struct {
		ID, Do string
		At     int64
	}
	Tallies []store.Tally
	Players []struct {
		ID, Name, Said, Cue string
		Due                 []string
	}
	Feedback []store.Feedback
	Points   []store.Point
	Itself   bool
	Keys     []store.KeyMark
	Notes    []store.Note
	Gives    []string
	Over     int
	Marks    []struct {
		ID, Said, By  string
		Meets, Struck bool
	}
}

func (h hall) state() (st hallState) {
	h.t.Helper()
	_, out := h.do("GET", "/courtside/"+h.id+"/state", "", nil, "Accept", "application/json")
	if err := json.Unmarshal([]byte(out), &st); err != nil {
		h.t.Fatalf("%.300s", out)
	}
	return st
}

// clock does something to the clock and says whether it was kept.
func (h hall) clock(id, do string) bool {
	return h.item(map[string]any{"kind": "clock", "id": id, "do": do, "at": evening})
}

// item sends one thing and says whether it was kept.
func (h hall) item(item map[string]any) bool {
	var out struct{ Answers []struct{ Kept bool } }
	return h.post("/inbox", map[string]any{"items": []any{item}}, &out) == 200 && out.Answers[0].Kept
}

func TestTheHallFromStartToEnd(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines, bea := hall{s.as(t, "ines"), tuesday.ID}, hall{s.as(t, "bea"), tuesday.ID}
	if bea.clock(store.NewID(), "start") {
		t.Error("a helper started the clock")
	}
	start := store.NewID()
	for range 2 { // the phone is not sure that it arrived, and sends it again
		if !ines.clock(start, "start") {
			t.Fatal("not started")
		}
	}
	st := ines.state()
	if len(st.Events) != 1 || st.Events[0].Do != "start" ||
		time.UnixMilli(st.Events[0].At).Sub(evening).Abs() > time.Second {
		t.Fatalf("the clock's events: %+v", st.Events)
	}
	femi, aino := player(t, s, "Femi Adeyemi"), player(t, s, "Aino Laine")
	ladder := in(t, s, func(tx *store.Tx) ([]store.Program, error) { return tx.Ladders(ctx) })
	catch := ladder[0].Stages[0].Criteria[0] // 7 of 10
	streak := ladder[0].Stages[1].Criteria[1]
	if catch.Measure != coach.Makes || streak.Measure != coach.Streak {
		t.Fatal("the demo's ladder has changed")
	}
	item := func(p store.Player, k coach.Criterion, tries string, revision int, done bool) map[string]any {
		return map[string]any{
			"kind":      "tally",
			"id":        store.NewID(),
			"player":    p.ID,
			"criterion": k.ID,
			"tries":     tries,
			"revision":  revision,
			"done":      done,
			"at":        evening,
		}
	}
	done, open, again := item(femi, catch, "1101111011", 10, true), item(aino, streak, "110111", 6, false), item(
		femi,
		catch,
		"1111111111",
		10,
		true,
	)
	for range 3 {
		if code := ines.post("/inbox", map[string]any{"items": []any{done, open}}, nil); code != 200 {
			t.Fatalf("inbox: %d", code)
		}
	}
	bea.post("/inbox", map[string]any{"items": []any{again}}, nil) // two markers of one player both count
	st = ines.state()
	if len(st.Marks) != 2 || st.Marks[0].Said != "8 of 10" || !st.Marks[0].Meets || len(st.Tallies) != 3 {
		t.Fatalf("marks %+v, %d series", st.Marks, len(st.Tallies))
	}
	if own := bea.state(); len(own.Marks) != 1 || len(own.Tallies) != 1 {
		t.Errorf("the helper reads %d marks and %d series, made one", len(own.Marks), len(own.Tallies))
	}
	strike := map[string]any{"kind": "strike", "id": done["id"]}
	var refused struct{ Answers []struct{ Kept bool } }
	bea.post("/inbox", map[string]any{"items": []any{strike}}, &refused)
	if refused.Answers[0].Kept {
		t.Error("a helper struck out another's mark")
	}
	for _, do := range []string{"pause", "resume", "more", "skip", "end"} {
		if !ines.clock(store.NewID(), do) {
			t.Errorf("%s was not kept", do)
		}
	}
	st = ines.state()
	if len(st.Events) != 6 || len(st.Marks) != 3 ||
		st.Marks[2].Said != "3 in a row" && st.Marks[1].Said != "3 in a row" {
		t.Errorf("events %+v; the open series became %+v", st.Events, st.Marks)
	}
	marks := in(t, s, func(tx *store.Tx) ([]coach.Mark, error) {
		return tx.Marks(ctx, store.MarkFilter{Player: femi.ID, Session: tuesday.ID})
	})
	if len(marks) != 2 || marks[0].By == marks[1].By {
		t.Errorf("femi's marks: %+v", marks)
	}
	_, page := ines.get("/players/" + femi.ID)
	if !strings.Contains(page, "8 of 10") || !strings.Contains(page, "Bea Lindqvist") {
		t.Error("the player's page does not show what was seen")
	}
	if code, body := ines.browser.post("/marks/"+marks[0].ID+"/strike", url.Values{"why": {" "}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "Say why") {
		t.Errorf("struck out without a reason: %d", code)
	}
	ines.browser.post("/marks/"+marks[0].ID+"/strike", url.Values{"why": {"wrong child"}})
	if _, page := ines.get("/players/" + femi.ID); !strings.Contains(page, "struck out: wrong child") {
		t.Error("the struck-out mark and its reason are not to be seen")
	}
}

// The live stream says when something changed; the page then reads the state.
func TestTheStreamWakesThePage(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	b := hall{s.as(t, "ines"), tuesday.ID}
	res, err := b.Get(s.URL + "/courtside/" + tuesday.ID + "/live")
	if err != nil || res.Header.Get("Content-Type") != "text/event-stream" {
		t.Fatal(res, err)
	}
	defer res.Body.Close()
	buf := make([]byte, 256)
	n, _ := res.Body.Read(buf)
	if !strings.Contains(string(buf[:n]), "data: hello") {
		t.Fatalf("greeting %q", buf[:n])
	}
	time.Sleep(300 * time.Millisecond) // the listener has connected
	b.clock(store.NewID(), "start")
	heard := make(chan string, 1)
	go func() { n, _ := res.Body.Read(buf); heard <- string(buf[:n]) }()
	select {
	case got := <-heard:
		if !strings.Contains(got, "data: ") {
			t.Errorf("heard %q", got)
		}
	case <-time.After(10 * time.Second):
		t.Error("nothing was heard of the start")
	}
}

// Plans of every size hold together: nobody is forgotten, no two groups share a station, and the minutes add up.
func TestEveryDemoPlanAddsUp(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	for _, class := range []string{"Tuesday hall", "Thursday hall", "Saturday Shore", "Saturday squad", "Adult beginners"} {
		session := s.session(t, class)
		if code, _ := b.get("/sessions/" + session.ID); code != 200 {
			t.Errorf("%s: %d", class, code)
		}
		dealt := map[string]bool{}
		for _, g := range session.Plan.Deals[0].Players {
			for _, id := range g {
				if dealt[id] {
					t.Errorf("%s: a player is in two groups", class)
				}
				dealt[id] = true
			}
		}
		if len(dealt) != session.Expected {
			t.Errorf("%s: %d dealt, %d expected", class, len(dealt), session.Expected)
		}
		if len(session.Plan.Stations()) < 3 || len(session.Plan.Blocks) < 3 ||
			session.Plan.Blocks[0].Kind != doc.Together {
			t.Errorf("%s: %s", class, fmt.Sprint(session.Plan))
		}
	}
}

// Going back in the browser's history asks for the whole page, where a filter had asked for a part of it.
func TestGoingBackBringsTheWholePage(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	for _, page := range []string{"/roster?q=bo", "/shelf?q=wall", "/stairs?weeks=8", "/sessions/" + s.session(t, "Tuesday hall").ID} {
		_, part := ines.do("GET", page, "", nil, "HX-Request", "true")
		_, whole := ines.do("GET", page, "", nil, "HX-Request", "true", "HX-History-Restore-Request", "true")
		if strings.Contains(part, "<nav") || !strings.Contains(whole, "<nav") {
			t.Errorf(
				"%s: a part with the frame %v, the whole without %v",
				page,
				strings.Contains(part, "<nav"),
				!strings.Contains(whole, "<nav"),
			)
		}
	}
}

// Taking back what was just made leads to a page that is there, not to the one that has gone with it.
func TestTakingBackWhatIsNewLeadsSomewhere(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	class, program := s.session(t, "Tuesday hall").ClassID, handball(t, s).ID
	for path, typed := range map[string]url.Values{
		"/season/home/new": {
			"class": {class}, "what-0": {"Wall passes"}, "much-0": {"20 ×"}, "sets": {"1"}, "day": {"2"}, "from": {"2026-11-24"},
		},
		"/season/tests/new": {
			"class": {class}, "name": {"Hops"}, "tries": {"2"}, "every": {"1"}, "from": {"2026-11-24"}, "measure-0": {"Hops"}, "unit-0": {"hops"},
		},
		"/sessions/venue":     {"name": {"Lower hall"}, "floor": {"hall"}, "length": {"20"}, "width": {"12"}},
		"/stairs/places/term": {"program": {program}, "name": {"Summer"}, "from": {"2027-04-01"}, "until": {"2027-06-30"}},
	} {
		at := ines.at(path, typed)
		_, page := ines.get(at)
		offer := regexp.MustCompile(`action="(/undo/[0-9a-f-]+)">\s*<input type="hidden" name="to" value="([^"]*)"`).FindStringSubmatch(page)
		if offer == nil {
			t.Errorf("%s: %s offers no undo", path, at)
			continue
		}
		to := html.UnescapeString(offer[2])
		if to == "" {
			to = at // where it was offered
		}
		back := ines.at(offer[1], url.Values{"to": {to}})
		if code, body := ines.get(back); code != http.StatusOK || !strings.Contains(body, "Undone: ") {
			t.Errorf("%s: undone, it leads to %s: %d", path, back, code)
		}
	}
}

// On paper a station says whom it needs where nobody is put there; a drill of one edition offers nothing to compare.
func TestNobodyAndOnlyOne(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	plan := "/sessions/" + s.session(t, "Adult beginners").ID
	_, page := ines.get(plan)
	_, paper := ines.get(plan + "/print")
	if strings.Contains(page, "needs a helper") != strings.Contains(paper, "<td>a helper</td>") {
		t.Error("the plan and its paper disagree about who is needed")
	}
	mustHave(t, paper, "<td>a helper</td>", "<td>runs itself</td>")

	_, shelf := ines.get("/shelf")
	drill := regexp.MustCompile(`/shelf/drill/[0-9a-f-]{36}`).FindString(shelf)
	_, one := ines.get(drill + "/editions")
	mustHave(t, one, "1 edition")
	if strings.Contains(one, "Compare") || strings.Contains(one, "They do not differ") {
		t.Error("one edition is compared with itself")
	}
}
