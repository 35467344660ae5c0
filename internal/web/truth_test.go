package web

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"

	"gruppo/internal/coach"
	"gruppo/internal/demo"
	"gruppo/internal/store"
)

// sent posts items to the inbox and gives the answers back.
func (h hall) sent(items ...any) (answers []struct {
	ID     string
	Kept   bool
	Status int
	Why    string
}) {
	h.t.Helper()
	var out struct {
		Answers []struct {
			ID     string
			Kept   bool
			Status int
			Why    string
		}
	}
	if code := h.post("/inbox", map[string]any{"items": items}, &out); code != 200 || len(out.Answers) != len(items) {
		h.t.Fatalf("%d answers to %d items: %d", len(out.Answers), len(items), code)
	}
	return out.Answers
}

// A guest is a guest whatever is said: late, left or hurt, they stay in the session, their marks are taken, and the
// pages count them as the plan does.
func TestAGuestStaysWhateverIsSaid(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines := hall{s.as(t, "ines"), tuesday.ID}
	guest := store.NewID()
	bring := item("guest", guest, "name", "Lou Vance")
	bring["id"], bring["at"] = guest, evening.Add(-20*time.Minute)
	if a := ines.sent(bring)[0]; !a.Kept {
		t.Fatalf("the guest is not brought in: %+v", a)
	}
	id := ""
	for _, p := range ines.state().Players {
		if strings.HasPrefix(p.Name, "Lou") {
			id = p.ID
		}
	}
	ines.clock(store.NewID(), "start")
	for i, said := range []string{"late", "present", "left", "hurt", "absent"} {
		word := item("said", id, "state", said, "minute", 20)
		word["at"] = evening.Add(time.Duration(i-10) * time.Minute)
		if a := ines.sent(word)[0]; !a.Kept {
			t.Fatalf("%s of a guest: %+v", said, a)
		}
		there := false
		for _, p := range ines.state().Players {
			there = there || p.ID == id && p.Said == said
		}
		if !there {
			t.Errorf("%s, the guest is gone from the session", said)
		}
		if a := ines.sent(item("tally", id, "drill", tuesday.Plan.Stations()[0].Drill, "tries", "101", "revision", 1, "done", true, "round", i+1))[0]; !a.Kept {
			t.Errorf("%s, the guest's mark is refused: %+v", said, a)
		}
	}
	// An older word that arrives late, and one taken back: the newest by time stands.
	old := item("said", id, "state", "present")
	old["at"] = evening.Add(-8 * time.Minute)
	ines.sent(old)
	for _, p := range ines.state().Players {
		if p.ID == id && p.Said != "absent" {
			t.Errorf("an older word (%q) stands over a newer one", p.Said)
		}
	}
	list := count(t, s.as(t, "ines"), "/", `(\d+) of (\d+)`)
	plan := count(t, ines.browser, "/sessions/"+tuesday.ID, `(\d+) of (\d+) coming`)
	if len(plan) == 0 || !strings.Contains(strings.Join(list, " "), plan[0]) {
		t.Errorf("Today says %v, the plan %v", list, plan)
	}
}

// count finds words on a page.
func count(t *testing.T, b browser, path, pattern string) (out []string) {
	t.Helper()
	_, page := b.get(path)
	for _, m := range regexp.MustCompile(pattern).FindAllString(page, -1) {
		out = append(out, strings.TrimSuffix(m, " coming"))
	}
	return out
}

// A series that is closed by the end and arrives again, whole, with the revision it had: it is there, whole, once.
func TestASeriesArrivesWholeHoweverItArrives(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines, bea := hall{s.as(t, "ines"), tuesday.ID}, hall{s.as(t, "bea"), tuesday.ID}
	drill := tuesday.Plan.Stations()[0].Drill
	ines.clock(store.NewID(), "start")
	for name, c := range map[string]struct {
		who         string
		first, last []any // what was sent before the end, and after it
	}{
		"equal revision":       {"Femi Adeyemi", []any{"tries", "110", "revision", 3}, []any{"tries", "1101", "revision", 3, "done", true}},
		"first after the end":  {"Bo Lindahl", nil, []any{"tries", "1101", "revision", 4, "done", true}},
		"open, then done":      {"Aino Laine", []any{"tries", "11", "revision", 2}, []any{"tries", "1101", "revision", 5, "done", true}},
		"done, then open late": {"Umar Farouk", []any{"tries", "1101", "revision", 5, "done", true}, []any{"tries", "11", "revision", 2}},
	} {
		p := player(t, s, c.who)
		if !in(t, s, func(tx *store.Tx) (bool, error) { return tx.InRegister(ctx, tuesday.ID, p.ID) }) {
			bring := item("guest", p.ID, "name", p.Name)
			ines.sent(bring)
		}
		tally := item("tally", p.ID, append([]any{"drill", drill, "round", 1}, c.last...)...)
		first := item("tally", p.ID, append([]any{"drill", drill, "round", 1}, c.first...)...)
		first["id"] = tally["id"]
		if c.first != nil {
			bea.sent(first)
		}
		defer func() {
			if c.first == nil { // arriving open, after the end, and then done
				open := item("tally", p.ID, "drill", drill, "round", 1, "tries", "1", "revision", 1)
				open["id"] = tally["id"]
				bea.sent(open)
			}
			if a := bea.sent(tally)[0]; !a.Kept {
				t.Errorf("%s: %+v", name, a)
			}
			var good, all float64
			for _, m := range in(t, s, func(tx *store.Tx) ([]coach.Mark, error) {
				return tx.Marks(ctx, store.MarkFilter{Player: p.ID, Session: tuesday.ID})
			}) {
				if m.DrillID == drill && !m.Struck {
					good, all = good+m.Figure, all+1
				}
			}
			if good != 3 || all != 1 {
				t.Errorf("%s: %v good in %v marks, want 3 in one", name, good, all)
			}
		}()
	}
	ines.clock(store.NewID(), "end")
}

// One item that cannot be taken stops no other: it is answered with why, and listed for the coach.
func TestARefusedItemStopsNoOther(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines := hall{s.as(t, "ines"), tuesday.ID}
	femi := player(t, s, "Femi Adeyemi")
	good := item("tally", femi.ID, "drill", tuesday.Plan.Stations()[0].Drill, "tries", "1", "revision", 1)
	bad := item("tally", store.NewID(), "drill", tuesday.Plan.Stations()[0].Drill, "tries", "1", "revision", 1)
	a := ines.sent(bad, "no item at all", map[string]any{"kind": "tally", "id": 7}, item("dance", femi.ID), good)
	for i, r := range a[:4] {
		if r.Kept || r.Status != http.StatusUnprocessableEntity || r.Why == "" {
			t.Errorf("item %d: %+v", i, r)
		}
	}
	if !a[4].Kept {
		t.Errorf("the good one behind them: %+v", a[4])
	}
	ines.clock(store.NewID(), "start")
	_, page := ines.get("/sessions/" + tuesday.ID + "/run")
	mustHave(t, page, "Sent and not taken", "Counted tries", "Ines")
	ines.at("/sessions/"+tuesday.ID+"/refused", nil)
	if _, page = ines.get("/sessions/" + tuesday.ID + "/run"); strings.Contains(page, "Sent and not taken") {
		t.Error("put aside, they are listed still")
	}
}

// A series of one drill is no evidence for a criterion that a coach said the drill does not show.
func TestACriterionIsMarkedOnlyWhereItIsShown(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines := hall{s.as(t, "ines"), tuesday.ID}
	femi := player(t, s, "Femi Adeyemi")
	d := in(t, s, func(tx *store.Tx) (coach.Drill, error) { return tx.Drill(ctx, tuesday.Plan.Stations()[0].Drill) })
	var k coach.Criterion
	for _, st := range handball(t, s).Stages {
		for _, o := range st.Criteria {
			if len(d.Skills) > 0 && o.Skill == d.Skills[0] && o.Measure == coach.Makes && !o.BothSides {
				k = o
			}
		}
	}
	if k.ID == "" {
		t.Skip("the first station shows no criterion of makes")
	}
	mark := func() map[string]any {
		return item(
			"tally",
			femi.ID,
			"criterion",
			k.ID,
			"from",
			d.ID,
			"tries",
			"1111111111",
			"revision",
			1,
			"done",
			true,
		)
	}
	if a := ines.sent(mark())[0]; !a.Kept {
		t.Fatalf("where it is shown: %+v", a)
	}
	ines.at("/stairs/criterion/"+k.ID+"/drill", url.Values{"drill": {d.ID}, "shows": {"no"}})
	if a := ines.sent(mark())[0]; a.Kept || !strings.Contains(a.Why, d.Name) {
		t.Errorf("where a coach said it is not: %+v", a)
	}
	_, page := ines.get("/shelf/drill/" + d.ID)
	mustHave(t, page, "not: "+k.Wording, "It does")
	_, page = ines.get("/stairs/criterion/" + k.ID)
	mustHave(t, page, "Shows it too", d.Name)
}

// A stream that is open when access ends is closed, and so is one of somebody who signs out or is taken off the
// session.
func TestAStreamEndsWithAccess(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	lead := s.as(t, "ines")
	for name, end := range map[string]func(b browser){
		"access ended":        func(browser) { lead.at("/account/people/"+tuesday.Leaders[2].Member+"/end", nil) },
		"signed out":          func(b browser) { b.at("/sign-out", nil) },
		"signed out anywhere": func(b browser) { s.as(t, "kofi").at("/sign-out-everywhere", nil) },
	} {
		who := map[string]string{"access ended": "bea", "signed out": "tomasz", "signed out anywhere": "kofi"}[name]
		if who == "kofi" {
			lead.at(
				"/sessions/"+tuesday.ID+"/leader",
				url.Values{"member": {member(t, s, "Kofi Mensah")}, "from": {""}, "until": {""}},
			)
		}
		b := s.as(t, who)
		res, err := b.Get(s.URL + "/courtside/" + tuesday.ID + "/live")
		if err != nil || res.StatusCode != 200 {
			t.Fatalf("%s: %v %v", name, res, err)
		}
		time.Sleep(300 * time.Millisecond) // the listener has connected
		closed := make(chan struct{})
		go func() { io.Copy(io.Discard, res.Body); close(closed) }()
		end(b)
		select {
		case <-closed:
		case <-time.After(20 * time.Second):
			t.Errorf("%s: the stream is open still", name)
		}
		res.Body.Close()
	}
}

// member is the id of somebody of the demo club.
func member(t *testing.T, s site, name string) string {
	t.Helper()
	return in(t, s, func(tx *store.Tx) (id string, err error) {
		return id, tx.QueryRow(ctx, `select id from member where name = $1`, name).Scan(&id)
	})
}

// Sixteen guesses at once pass no more than the free ones; a header that names another address changes nothing; an
// address without an account answers alike; and the coach's own device is let in all the while.
func TestGuessingIsSlow(t *testing.T) {
	t.Parallel()
	s := serve(t)
	own := s.as(t, "leila") // this device was signed in on before
	own.at("/sign-out", nil)
	guess := func(b browser, email, from string) (int, string) {
		return b.do(
			"POST",
			"/sign-in",
			"application/x-www-form-urlencoded",
			strings.NewReader(url.Values{"email": {email}, "password": {"a wrong password"}}.Encode()),
			"X-Forwarded-For",
			from,
		)
	}
	for _, email := range []string{"leila@saltmarsh.example", "nobody@saltmarsh.example"} {
		var mu sync.Mutex
		answers := map[int]int{}
		var all sync.WaitGroup
		for i := range 16 {
			all.Go(func() {
				code, _ := guess(s.browser(t), email, fmt.Sprintf("203.0.%d.9", i))
				mu.Lock()
				answers[code]++
				mu.Unlock()
			})
		}
		all.Wait()
		if answers[http.StatusUnprocessableEntity] > 5 ||
			answers[http.StatusUnprocessableEntity]+answers[http.StatusTooManyRequests] != 16 {
			t.Errorf("16 guesses at %s: %v", email, answers)
		}
	}
	if code, _ := own.post("/sign-in", url.Values{"email": {"leila@saltmarsh.example"}, "password": {demo.Password}}); code != http.StatusSeeOther {
		t.Errorf("her own device is locked out by others' guesses: %d", code)
	}
	for range 40 { // across addresses, from one network
		if code, _ := guess(s.browser(t), store.NewID()+"@saltmarsh.example", ""); code == http.StatusTooManyRequests {
			return
		}
	}
	t.Error("guessing across addresses is free")
}

// The session's secret is kept as a hash: who reads the table signs in as nobody.
func TestWhatIsKeptOpensNothing(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	u, _ := url.Parse(s.URL)
	var secrets []string
	for _, c := range b.Jar.Cookies(u) {
		secrets = append(secrets, c.Value)
	}
	l := s.look(t, "")
	for _, secret := range secrets {
		for _, table := range []string{"web.sessions", "web.known_device"} {
			var n int
			if err := l.QueryRow(ctx, `select count(*) from `+table+` x where x::text like '%' || $1 || '%'`, secret).Scan(&n); err != nil ||
				n > 0 {
				t.Errorf("%s holds a secret as it is: %d, %v", table, n, err)
			}
		}
	}
}

// While the database is away there is a page that says so, or JSON where a script asked; HEAD answers where GET does;
// and when it is back all goes on.
func TestADatabaseThatIsAwayIsSaid(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	for _, path := range []string{"/", "/roster", "/shelf", "/sign-in"} {
		res, err := b.Head(s.URL + path)
		if err != nil {
			t.Fatal(err)
		}
		res.Body.Close()
		if want, _ := b.get(path); res.StatusCode != want {
			t.Errorf("HEAD %s: %d, GET %d", path, res.StatusCode, want)
		}
	}
	config, err := pgx.ParseConfig(s.owner)
	if err != nil {
		t.Fatal(err)
	}
	ours := config.Database
	config.Database = "postgres"
	owner, err := pgx.ConnectConfig(ctx, config)
	if err != nil {
		t.Fatal(err)
	}
	defer owner.Close(ctx)
	do := func(sql string) {
		if _, err := owner.Exec(ctx, sql); err != nil {
			t.Fatal(err)
		}
	}
	do(`alter database ` + ours + ` allow_connections false`)
	s.st.Pool.Reset()
	if code, body := b.get("/roster"); code != http.StatusServiceUnavailable || !strings.Contains(body, "<html") ||
		strings.Contains(body, "pool") {
		t.Errorf("a page without a database: %d %.200s", code, body)
	}
	code, body := b.do("GET", "/courtside/"+store.NewID()+"/state", "", nil, "Accept", "application/json")
	var says struct{ Says string }
	if json.Unmarshal([]byte(body), &says) != nil || code != http.StatusServiceUnavailable {
		t.Errorf("JSON without a database: %d %.200s", code, body)
	}
	do(`alter database ` + ours + ` allow_connections true`)
	for range 40 { // the pool finds its way back by itself
		if code, _ := b.get("/roster"); code == 200 {
			return
		}
		time.Sleep(100 * time.Millisecond)
	}
	t.Error("it does not go on when the database is back")
}

// Two lines of one name of which one has no birth year, and a second child of the same name and year: a sentence, and
// done on purpose.
func TestTwoOfOneName(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	bo := player(t, s, "Bo Lindahl")
	text := fmt.Sprintf("name,born\nBo Lindahl,%d\nBo Lindahl,\n", bo.BirthYear)
	for _, path := range []string{"/roster/import", "/roster/import/take"} {
		if code, _ := b.post(path, url.Values{"text": {text}}); code >= 500 {
			t.Errorf("%s: %d", path, code)
		}
	}
	twin := url.Values{"name": {"bo  lindahl"}, "born": {strconv.Itoa(bo.BirthYear)}}
	code, page := b.post("/roster/new", twin)
	if code != http.StatusUnprocessableEntity || !strings.Contains(page, "This is another person") ||
		!strings.Contains(page, "bo  lindahl") && !strings.Contains(page, "bo lindahl") {
		t.Errorf("a second Bo Lindahl without a word: %d", code)
	}
	twin.Set("another", "1")
	if code, _ := b.post("/roster/new", twin); code != http.StatusSeeOther {
		t.Errorf("on purpose: %d", code)
	}
}

// After the first mark the roster's form lifts nobody: deciding is the only door to a standing. Before it, it is a
// correction.
func TestTheFormLiftsNobodyPastDeciding(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "tomasz")
	p := handball(t, s)
	top := p.Stages[len(p.Stages)-1]
	umar := player(t, s, "Umar Farouk")
	stands := func(who store.Player) string {
		now := player(t, s, who.Name)
		at, _ := now.In(p.ID)
		return at.Stage
	}
	was := stands(umar)
	code, page := b.post(
		"/roster/player/"+umar.ID,
		url.Values{"name": {umar.Name}, "born": {strconv.Itoa(umar.BirthYear)}, "stage-" + p.ID: {top.ID}},
	)
	if stands(umar) != was || code != http.StatusUnprocessableEntity || !strings.Contains(page, "decid") {
		t.Errorf("lifted by the form: %d", code)
	}
	b.at("/roster/new", url.Values{"name": {"Zed Zimmer"}, "born": {"2015"}, "stage-" + p.ID: {p.Stages[0].ID}})
	zed := player(t, s, "Zed Zimmer")
	b.at("/roster/player/"+zed.ID, url.Values{"name": {zed.Name}, "born": {"2015"}, "stage-" + p.ID: {p.Stages[1].ID}})
	if stands(zed) != p.Stages[1].ID {
		t.Error("a stage set wrongly cannot be corrected before the first mark")
	}
	b.at("/roster/player/"+zed.ID, url.Values{"name": {zed.Name}, "born": {"2015"}, "stage-" + p.ID: {""}})
	if stands(zed) != "" {
		t.Error("not in this program was said to be done and is not")
	}
}

// The player's page, the report and the guardian's page count the same visits.
func TestVisitsAreCountedAlike(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	for _, name := range []string{"Umar Farouk", "Femi Adeyemi", "Bo Lindahl"} {
		p := player(t, s, name)
		_, body := ines.post("/players/"+p.ID+"/link", url.Values{"label": {"x"}, "weeks": {"2"}})
		link := regexp.MustCompile(`/for/[0-9a-f]{48}`).FindString(body)
		said := map[string]bool{}
		for _, path := range []string{"/players/" + p.ID, "/players/" + p.ID + "/report", link} {
			_, page := ines.get(path)
			said[regexp.MustCompile(`\d+ of the last \d+`).FindString(page)] = true
		}
		if len(said) != 1 || said[""] {
			t.Errorf("%s: visits are counted in several ways: %v", name, said)
		}
	}
}

// A tap in the hall asks for what it needs and no more: nothing is worked out while the database waits.
func TestATapAsksLittle(t *testing.T) {
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines := hall{s.as(t, "ines"), tuesday.ID}
	femi := player(t, s, "Femi Adeyemi")
	ines.clock(store.NewID(), "start")
	for name, it := range map[string]map[string]any{
		"a try":      item("tally", femi.ID, "drill", tuesday.Plan.Stations()[0].Drill, "tries", "1", "revision", 1),
		"the word":   item("said", femi.ID, "state", "present"),
		"a note":     item("note", femi.ID, "what", "talk", "note", "at home"),
		"the clock":  {"kind": "clock", "id": store.NewID(), "do": "more", "at": evening.Add(time.Minute)},
		"first look": item("looked", femi.ID),
	} {
		before := queries.Load()
		ines.sent(it)
		if n := queries.Load() - before; n > 16 {
			t.Errorf("%s asks %d times", name, n)
		}
	}
}

// A skill with more drills than a path can lay out is told, not a crash.
func TestAPathOfVeryManyDrills(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	err := s.st.In(ctx, s.club, func(tx *store.Tx) error {
		for i := range 130 {
			d := coach.Drill{
				ID:       store.NewID(),
				Name:     fmt.Sprintf("Throw %d", i),
				Purpose:  "To throw.",
				Setup:    "As said.",
				Skills:   []string{"shooting"},
				Approach: "technique-first",
				Practice: "blocked",
				Form:     "cooperative",
				Places:   1,
				Least:    1,
				Most:     6,
				Pace:     6,
				Chance:   0.5,
				Leader:   coach.SelfRun,
				Length:   6,
				Width:    4,
				Keys:     []string{"Step in"},
			}
			if err := tx.PutDrill(ctx, d, evening); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	if code, page := b.get("/shelf/path?skill=shooting"); code != 200 || !strings.Contains(page, "<svg") {
		t.Errorf("the path of 130 drills: %d", code)
	}
}

// A guest's id that is a player's brings that player in as a guest: the name and tags that stand on the roster stay.
func TestAGuestNeverOverwritesAPlayer(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines := hall{s.as(t, "ines"), tuesday.ID}
	all := in(t, s, func(tx *store.Tx) ([]store.Player, error) { return tx.Players(ctx, store.PlayerFilter{}) })
	expected := map[string]bool{}
	for _, p := range ines.state().Players {
		expected[p.ID] = true
	}
	for _, p := range all {
		if expected[p.ID] {
			continue
		}
		g := item("guest", p.ID, "name", "Somebody Else")
		g["id"] = p.ID
		ines.sent(g)
		now := in(t, s, func(tx *store.Tx) ([]store.Player, error) {
			return tx.Players(ctx, store.PlayerFilter{IDs: []string{p.ID}})
		})
		if now[0].Name != p.Name || fmt.Sprint(now[0].Tags) != fmt.Sprint(p.Tags) {
			t.Errorf("%s %v became %s %v", p.Name, p.Tags, now[0].Name, now[0].Tags)
		}
		return
	}
}

// Several may come late and several be hurt, each with what is said of them; and it is kept so.
func TestSeveralAreLateAndHurt(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	b := s.as(t, "ines")
	aino, bo, femi := player(t, s, "Aino Laine").ID, player(t, s, "Bo Lindahl").ID, player(t, s, "Femi Adeyemi").ID
	what := url.Values{
		"late":    {aino, "", bo},
		"late-at": {"10", "15", "25"},
		"hurt":    {femi, ""},
		"hurt-no": {"jumping", ""},
		"version": {strconv.Itoa(tuesday.Version)},
	}
	_, page := b.post("/sessions/"+tuesday.ID+"/what-if", what)
	mustHave(t, page, "Aino Laine comes at 18:10", "Bo Lindahl comes at 18:25", "Femi Adeyemi: no jumping today")
	bad := url.Values{"late": {aino, bo}, "late-at": {"10", "soon"}}
	if code, page := b.post("/sessions/"+tuesday.ID+"/what-if", bad); code != http.StatusUnprocessableEntity ||
		!strings.Contains(page, `value="soon"`) ||
		!strings.Contains(page, "a whole number from 0 to 480") {
		t.Errorf("late by no number: %d", code)
	}
	b.at("/sessions/"+tuesday.ID+"/what-if/take", what)
	said := in(t, s, func(tx *store.Tx) (map[string]store.Attendance, error) {
		_, said, err := tx.Expected(ctx, tuesday)
		return said, err
	})
	if said[aino].FromMinute != 10 || said[bo].FromMinute != 25 || said[femi].NoWhat != "jumping" {
		t.Errorf("kept: %+v %+v %+v", said[aino], said[bo], said[femi])
	}
}

// A pack that is taken never touches a colleague's private drill, whatever id it carries.
func TestAPackLeavesPrivateDrillsAlone(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tomasz, ines := s.as(t, "tomasz"), s.as(t, "ines")
	at := tomasz.at("/shelf/new", written("name", "Tomasz alone"))
	id := at[strings.LastIndex(at, "/")+1:]
	tomasz.at(at+"/share", url.Values{"with": {"private"}})
	_, pack := tomasz.get("/shelf/pack/file?name=ours&id=" + id)
	var doc map[string]any
	if err := json.Unmarshal([]byte(pack), &doc); err != nil {
		t.Fatalf("%v %.200s", err, pack)
	}
	changed := strings.ReplaceAll(pack, "Many passes", "Overwritten")
	if changed == pack || !strings.Contains(pack, id) {
		t.Fatalf("the pack does not hold the drill: %.300s", pack)
	}
	ines.post("/shelf/pack/take", url.Values{"text": {changed}, "take-" + id: {"edition"}})
	if _, page := tomasz.get(at); !strings.Contains(page, "Many passes") || strings.Contains(page, "Overwritten") {
		t.Error("a colleague's private drill was overwritten")
	}
}

// A session that was begun early is open to its helpers, on whatever day; one that is cancelled is open to nobody.
func TestHelpersComeInWhenItRuns(t *testing.T) {
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines, bea := s.as(t, "ines"), s.as(t, "bea")
	do := func(sql string, args ...any) {
		in(t, s, func(tx *store.Tx) (int, error) { _, err := tx.Exec(ctx, sql, args...); return 0, err })
	}
	at := "/courtside/" + tuesday.ID
	do(`update session set starts_at = starts_at + interval '3 days' where id = $1`, tuesday.ID)
	if code, body := bea.get(at); code != http.StatusForbidden || !strings.Contains(body, "This opens for you at") {
		t.Errorf("three days before: %d", code)
	}
	ines.do(
		"POST",
		at+"/inbox",
		"application/json",
		strings.NewReader(
			`{"items":[{"id":"`+store.NewID()+`","kind":"clock","do":"start","at":"2026-11-24T17:15:00Z"}]}`,
		),
		"Accept",
		"application/json",
	)
	if code, _ := bea.get(at); code != http.StatusOK {
		t.Errorf("begun three days early: %d", code)
	}
	_, me, err := accountOf(s.st, "ines@saltmarsh.example")
	if err != nil {
		t.Fatal(err)
	}
	code := in(t, s, func(tx *store.Tx) (string, error) { return tx.SessionCode(ctx, tuesday.ID, me, false, evening) })
	if status, body := s.browser(t).get("/join?code=" + code); status != http.StatusOK ||
		!strings.Contains(body, "Your first name") {
		t.Errorf("by its code: %d", status)
	}
	squad := s.session(t, "Saturday squad").ID
	ines.post("/sessions/"+squad+"/off", nil)
	if code, body := ines.get("/courtside/" + squad); code != http.StatusConflict ||
		!strings.Contains(body, "does not take place on Sat 28 Nov") {
		t.Errorf("a cancelled session: %d", code)
	}
	if _, body := ines.get("/"); !strings.Contains(body, "does not take place") {
		t.Error("Today does not say that one is cancelled")
	}
	if code, body := ines.post("/sessions/"+tuesday.ID+"/delete", nil); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "was run, marked or noted") {
		t.Errorf("a session that runs is deleted: %d", code)
	}
}

// What a coach writes in lines is a list wherever it is read: drill page, card, sheet and phone.
func TestALineIsALineOnEveryPaper(t *testing.T) {
	s := serve(t)
	ines, tuesday := s.as(t, "ines"), s.session(t, "Tuesday hall")
	drill := tuesday.Plan.Stations()[0].Drill
	write := func(drill, setup string) {
		in(t, s, func(tx *store.Tx) (int, error) {
			_, err := tx.Exec(ctx, `update drill_edition set doc = jsonb_set(doc, '{setup}', to_jsonb($2::text))
				|| '{"purpose": "Hands early, then the feet."}' where drill_id = $1`, drill, setup)
			return 0, err
		})
	}
	write(drill, "- cones\n- ropes\n\n|a|b|\n|-|-|\n|1|2|")
	write(tuesday.Plan.Stations()[1].Drill, "") // then what it is for is all that a helper has to go by
	for _, page := range []string{"/shelf/drill/" + drill, "/shelf/drill/" + drill + "/print", "/shelf/cards?id=" + drill, "/sessions/" + tuesday.ID + "/print", "/sessions/" + tuesday.ID + "/print/cards"} {
		if _, body := ines.get(page); !strings.Contains(body, "<li>ropes</li>") ||
			!strings.Contains(body, "<td>1</td>") {
			t.Errorf("%s: no list, or no table", page)
		}
	}
	if _, body := ines.get("/courtside/" + tuesday.ID + "/state"); !strings.Contains(
		body,
		`\u003cli\u003eropes\u003c/li\u003e`,
	) {
		t.Error("the phone has no list")
	}
	for _, page := range []string{"/sessions/" + tuesday.ID + "/print", "/sessions/" + tuesday.ID + "/print/cards", "/courtside/" + tuesday.ID + "/state"} {
		mustHave(t, second(ines.get(page)), "Hands early, then the feet.")
	}
}
