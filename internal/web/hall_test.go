package web

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/partners"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
	"gruppo/internal/store"
)

// item is something a device sends, with a number of its own.
func item(kind, player string, more ...any) map[string]any {
	m := map[string]any{"kind": kind, "id": store.NewID(), "player": player, "at": evening}
	for i := 0; i+1 < len(more); i += 2 {
		m[more[i].(string)] = more[i+1]
	}
	return m
}

func TestWhatArrivesAfterTheEndCounts(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines, bea := hall{s.as(t, "ines"), tuesday.ID}, hall{s.as(t, "bea"), tuesday.ID}
	femi := player(t, s, "Femi Adeyemi")
	drill := tuesday.Plan.Stations()[0].Drill
	ines.clock(store.NewID(), "start")
	counted := item("tally", femi.ID, "drill", drill, "tries", "1101", "revision", 4, "round", 1)
	if !bea.item(counted) {
		t.Fatal("not kept")
	}
	ines.clock(store.NewID(), "end") // Bea's phone has no network just now
	counted["tries"], counted["revision"], counted["done"] = "1101111", 7, true
	for range 2 {
		if !bea.item(counted) {
			t.Fatal("refused after the end")
		}
	}
	var marks []coach.Mark
	for _, m := range in(t, s, func(tx *store.Tx) ([]coach.Mark, error) {
		return tx.Marks(ctx, store.MarkFilter{Player: femi.ID, Session: tuesday.ID})
	}) {
		if m.DrillID == drill {
			marks = append(marks, m)
		}
	}
	if len(marks) != 2 || !marks[0].Struck && !marks[1].Struck || marks[0].Figure+marks[1].Figure != 3+6 {
		t.Fatalf("want the mark of 3 of 4 struck out, and one of 6 of 7: %+v", marks)
	}
	_, page := ines.get("/sessions/" + tuesday.ID + "/run")
	mustHave(t, page, "what happened", "Warm-up", "left out", "Seen by nobody")
}

// A try of a pair, a look and a word are all that was done: what happened says of whom, and of nobody else.
func TestWhoWasCountedInAPairWasSeen(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines := hall{s.as(t, "ines"), tuesday.ID}
	plan := &onPlan{ines.browser, "/sessions/" + tuesday.ID, strconv.Itoa(tuesday.Version)}
	for _, b := range tuesday.Plan.Blocks {
		if b.Kind == doc.Game {
			plan.edit("game", b.ID, "1 5 5 0 0 0 0")
		}
	}
	l := in(t, s, func(tx *store.Tx) (app.Loaded, error) { return app.ReadRunning(ctx, tx, tuesday.ID, evening, time.UTC) })
	saw := l.Input.Players[:4] // a pair, one looked at, one praised
	ines.clock(store.NewID(), "start")
	ines.item(item("point", "", "block", 0, "turn", "1.0", "whose", saw[0].ID+" "+saw[1].ID, "good", true))
	l.Work()
	game := slices.IndexFunc(l.Picture.Blocks, func(b work.Span) bool { return l.Input.Match(b) != nil })
	if game < 0 {
		t.Fatal("no game is planned")
	}
	sides := l.Input.Match(l.Picture.Blocks[game]).Sides
	for _, good := range []bool{true, false, true} { // nobody is looked at by counting goals
		ines.item(item("point", "", "block", app.Beside+game, "turn", "0.0", "whose", "s0 s1", "good", good))
	}
	ines.item(item("looked", saw[2].ID))
	ines.item(item("feedback", saw[3].ID, "what", "praised"))
	ines.clock(store.NewID(), "end")
	_, page := ines.get("/sessions/" + tuesday.ID + "/run")
	mustHave(t, page, "what happened", fmt.Sprintf("4 of %d seen", len(l.Input.Players)), "Seen by nobody", "Results",
		fmt.Sprintf("%s 2 : 1 %s", sides[0].Shape.Name, sides[1].Shape.Name))
	_, unseen, _ := strings.Cut(page, "Seen by nobody:")
	unseen, _, _ = strings.Cut(unseen, "</p>")
	for i, p := range l.Input.Players {
		if strings.Contains(unseen, p.Name) != (i >= len(saw)) {
			t.Errorf("%s, number %d: seen by nobody are%s", p.Name, i, unseen)
		}
	}
}

// A session has its hall until it ends.
func TestWhatHasEndedBlocksNoHall(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines, other := hall{s.as(t, "ines"), tuesday.ID}, tuesday
	other.ID = store.NewID()
	taken := func() int {
		return len(in(t, s, func(tx *store.Tx) (store.Ground, error) { return tx.Ground(ctx, other) }).Taken)
	}
	before := taken()
	ines.clock(store.NewID(), "start")
	if n := taken(); n != before || n == 0 {
		t.Errorf("while it is on %d have the hall, before it %d", n, before)
	}
	ines.clock(store.NewID(), "end")
	if n := taken(); n != before-1 {
		t.Errorf("after its end %d have the hall, before %d", n, before)
	}
}

func TestWhatTheOthersHear(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	listen := func(who string) <-chan string {
		b := s.as(t, who)
		res, err := b.Get(s.URL + "/courtside/" + tuesday.ID + "/live")
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { res.Body.Close() })
		heard := make(chan string, 20)
		go func() {
			buf := make([]byte, 1<<16)
			for {
				n, err := res.Body.Read(buf)
				if err != nil {
					return
				}
				if strings.Contains(string(buf[:n]), `{"by"`) {
					heard <- string(buf[:n])
				}
			}
		}()
		return heard
	}
	leila, bea := listen("leila"), listen("bea")
	time.Sleep(300 * time.Millisecond) // the listener has connected
	ines := hall{s.as(t, "ines"), tuesday.ID}
	femi := player(t, s, "Femi Adeyemi")
	ines.post(
		"/inbox",
		map[string]any{
			"items": []any{
				item("said", femi.ID, "state", "hurt", "no", "overhead"),
				item("note", femi.ID, "what", "talk", "note", "at home"),
				item("has", femi.ID, "key", "Elbow over ear", "has", true),
				item("tally", femi.ID, "drill", tuesday.Plan.Stations()[0].Drill, "tries", "11", "revision", 2),
			},
		},
		nil,
	)
	for who, heard := range map[string]<-chan string{"leila": leila, "bea": bea} {
		select {
		case got := <-heard:
			private := strings.Contains(got, "at home") || strings.Contains(got, "Elbow") ||
				strings.Contains(got, `"tries"`)
			// what a child must not do is for whoever stands there
			if private != (who == "leila") || !strings.Contains(got, "hurt") || !strings.Contains(got, "overhead") {
				t.Errorf("%s hears %s", who, got)
			}
		case <-time.After(10 * time.Second):
			t.Errorf("%s heard nothing", who)
		}
	}
	// More than a notice can carry: read the whole.
	var many []any
	for range 60 {
		many = append(many, item("note", femi.ID, "what", "word", "note", strings.Repeat("long ", 40)))
	}
	ines.post("/inbox", map[string]any{"items": many}, nil)
	if n := len(ines.state().Notes); n != 61 {
		t.Errorf("%d notes", n)
	}
}

func TestTheDoorToTheHall(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday, squad := s.session(t, "Tuesday hall"), s.session(t, "Saturday squad")
	_, me, err := accountOf(s.st, "ines@saltmarsh.example")
	if err != nil {
		t.Fatal(err)
	}
	code := func(session string) string {
		return in(t, s, func(tx *store.Tx) (string, error) { return tx.SessionCode(ctx, session, me, false, evening) })
	}
	lead := s.as(t, "ines")
	_, page := lead.get("/courtside/" + tuesday.ID + "/door")
	mustHave(t, page, code(tuesday.ID), "/join?code=")
	guest := s.browser(t)
	if status, body := guest.get("/join?code=" + code(squad.ID)); status != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "opens an hour before it starts") {
		t.Errorf("four days early: %d", status)
	}
	if status, body := guest.post("/join", url.Values{"code": {code(tuesday.ID)}}); status != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "Your first name") {
		t.Errorf("without a name: %d", status)
	}
	to := guest.at("/join", url.Values{"code": {strings.ToLower(code(tuesday.ID))}, "name": {"Renata"}})
	status, page := guest.get(to)
	if status != 200 || strings.Contains(page, "Lindahl") || strings.Contains(page, "Nwosu") ||
		!strings.Contains(page, "Bo") {
		t.Errorf("the visitor's page: %d, or full names in it", status)
	}
	visitor := hall{guest, tuesday.ID}
	femi := player(t, s, "Femi Adeyemi")
	if !visitor.item(item("tally", femi.ID, "drill", tuesday.Plan.Stations()[0].Drill, "tries", "1", "revision", 1)) {
		t.Error("the visitor may not count")
	}
	if visitor.item(item("guest", "", "name", "A friend")) || visitor.clock(store.NewID(), "start") {
		t.Error("the visitor brings guests in, or starts the clock")
	}
	for _, path := range []string{"/roster", "/players/" + femi.ID, "/courtside/" + squad.ID, "/courtside/" + tuesday.ID + "/door", "/marks"} {
		if status, _ := guest.get(path); status != http.StatusForbidden {
			t.Errorf("%s for a visitor: %d", path, status)
		}
	}
	_, page = lead.get("/account")
	if strings.Contains(page, "Renata") {
		t.Error("a visitor is listed as somebody who signs in")
	}
	// A new code closes the old one; wrong ones slow down; the end closes it.
	old := code(tuesday.ID)
	lead.post("/courtside/"+tuesday.ID+"/door", nil)
	for i := range 7 {
		status, body := s.browser(t).get("/join?code=" + old)
		if i < 5 && !strings.Contains(body, "No session has this code") ||
			i == 6 && !strings.Contains(body, "Too many wrong codes") ||
			status != http.StatusUnprocessableEntity {
			t.Errorf("try %d of an old code: %d", i+1, status)
		}
	}
}

func TestMarksAreEnteredAtTheDesk(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "tomasz")
	ladder := in(t, s, func(tx *store.Tx) ([]store.Program, error) { return tx.Ladders(ctx) })
	bo := player(t, s, "Bo Lindahl")
	byMeasure := map[coach.Measure]coach.Criterion{}
	for _, st := range ladder[0].Stages {
		for _, k := range st.Criteria {
			byMeasure[k.Measure] = k
		}
	}
	enter := func(m coach.Measure, more ...string) (int, string) {
		k := byMeasure[m]
		v := url.Values{"player": {bo.ID}, "criterion": {k.ID}, "day": {"2026-11-20"}}
		if k.BothSides {
			v.Set("side", "left")
		}
		for i := 0; i+1 < len(more); i += 2 {
			v.Add(more[i], more[i+1])
		}
		return b.post("/marks/cell", v)
	}
	for _, c := range []struct {
		measure coach.Measure
		more    []string
		says    string
	}{{coach.Makes, []string{"taps", "1101111111"}, "<b>9 of 10</b>"}, {coach.Makes, []string{"tries", "8 of 10"}, "<b>8 of 10</b>"}, {coach.Streak, []string{"taps", "110111"}, "<b>3 in a row</b>"}, {coach.Streak, []string{"tries", "10"}, "<b>10 in a row</b>"}, {coach.Streak, []string{"tries", "11"}, "<b>11 in a row</b>"}, {coach.Streak, []string{"tries", "100"}, "<b>100 in a row</b>"}, {coach.Streak, []string{"tries", "1"}, "<b>1 in a row</b>"}, {coach.Streak, []string{"tries", "12"}, "<b>12 in a row</b>"},
		{coach.Hold, []string{"figure", "12,5"}, "<b>12.5 s</b>"}, {coach.Grade, []string{"figure", "2"}, "<b>grade 2</b>"}, {coach.Check, []string{"point", "0"}, "points"}} {
		code, body := enter(c.measure, c.more...)
		if code != 200 || !strings.Contains(body, "Kept.") || !strings.Contains(body, c.says) ||
			!strings.Contains(body, "Fri 20 Nov") {
			t.Errorf("%s %v: %d, or not %q", c.measure, c.more, code, c.says)
		}
	}
	for says, more := range map[string][]string{"such as 8 of 10": {"tries", "12 of 10"}, "Tap good and miss": {"tries", "many"}, "or type 8 of 10.": {"tries", "10"}, "today or before": {"tries", "1", "day", "2027-01-01"}} {
		if more[len(more)-2] == "day" {
			k := byMeasure[coach.Makes]
			_, body := b.post(
				"/marks/cell",
				url.Values{
					"player":    {bo.ID},
					"criterion": {k.ID},
					"day":       {"2027-01-01"},
					"tries":     {"8 of 10"},
					"side":      {"left"},
				},
			)
			mustHave(t, body, says, `value="8 of 10"`)
			continue
		}
		_, body := enter(coach.Makes, more...)
		mustHave(t, body, says, `value="`+more[1]+`"`)
	}
	k := byMeasure[coach.Makes]
	marks := in(t, s, func(tx *store.Tx) ([]coach.Mark, error) {
		return tx.Marks(ctx, store.MarkFilter{Player: bo.ID, Criterion: k.ID})
	})
	back := "/marks?player=" + bo.ID + "&criterion=" + k.ID
	if to := b.at("/marks/"+marks[len(marks)-1].ID+"/strike", url.Values{"why": {"another child"}, "to": {back}}); to != back {
		t.Errorf("struck out, and led to %s", to)
	}
	_, body := b.get(back)
	mustHave(t, body, "struck out: another child", "entered at the desk")
}

func TestNotesComeBackUntilTheyAreDone(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	_, today := b.get("/")
	mustHave(t, today, "To come back to", "lands on one leg, look again")
	tuesday := s.session(t, "Tuesday hall")
	_, plan := b.get("/sessions/" + tuesday.ID + "?tab=people")
	mustHave(t, plan, "lands on one leg, look again")
	id := in(t, s, func(tx *store.Tx) (string, error) {
		notes, err := tx.Notes(ctx, store.NoteFilter{Open: true})
		for _, n := range notes {
			if n.Kind == "follow" {
				return n.ID, err
			}
		}
		return "", err
	})
	if to := b.at("/notes/"+id+"/done", url.Values{"to": {"//evil.example"}}); to != "/" {
		t.Errorf("led to %s", to)
	}
	if _, today = b.get("/"); strings.Contains(today, "look again") {
		t.Error("it still comes back")
	}
}

// Fifty devices on one session: each hears every mark, and one after the other makes one. Reports the time of a mark,
// the processor and the memory.
func BenchmarkHall(b *testing.B) {
	s := serve(b)
	tuesday := s.session(b, "Tuesday hall")
	who := []string{"ines", "tomasz", "leila", "bea", "kofi"}
	browsers := make([]browser, len(who))
	for i, w := range who {
		browsers[i] = s.as(b, w)
	}
	for i := range 50 {
		res, err := browsers[i%3].Get(s.URL + "/courtside/" + tuesday.ID + "/live")
		if err != nil {
			b.Fatal(err)
		}
		defer res.Body.Close()
		go func() {
			buf := make([]byte, 1<<14)
			for {
				if _, err := res.Body.Read(buf); err != nil {
					return
				}
			}
		}()
	}
	players := in(b, s, func(tx *store.Tx) ([]store.Player, error) {
		return tx.Players(ctx, store.PlayerFilter{Class: tuesday.ClassID})
	})
	var mu sync.Mutex
	var took []time.Duration
	seconds := 60
	if n, err := strconv.Atoi(os.Getenv("HALL_SECONDS")); err == nil {
		seconds = n
	}
	for b.Loop() {
		cpu := used()
		var wait sync.WaitGroup
		end := time.Now().Add(time.Duration(seconds) * time.Second)
		for d := range 50 { // each makes a mark a second
			wait.Go(func() {
				time.Sleep(time.Duration(d) * 20 * time.Millisecond)
				br := browsers[d%3]
				for i := 0; time.Now().Before(end); i++ {
					next := time.Now().Add(time.Second)
					body, _ := json.Marshal(
						map[string]any{
							"items": []any{
								item(
									"tally",
									players[(d+i)%len(players)].ID,
									"drill",
									tuesday.Plan.Stations()[0].Drill,
									"tries",
									"1011",
									"revision",
									4,
									"done",
									true,
								),
							},
						},
					)
					start := time.Now()
					code, out := br.do(
						"POST",
						"/courtside/"+tuesday.ID+"/inbox",
						"application/json",
						strings.NewReader(string(body)),
						"Accept",
						"application/json",
					)
					if code != 200 || !strings.Contains(out, `"kept":true`) {
						b.Error(code, out)
						return
					}
					mu.Lock()
					took = append(took, time.Since(start))
					mu.Unlock()
					time.Sleep(time.Until(next))
				}
			})
		}
		wait.Wait()
		// of this process: the program, fifty clients, no database
		b.ReportMetric(100*(used()-cpu).Seconds()/float64(seconds), "%cpu")
	}
	slices.Sort(took)
	var m runtime.MemStats
	runtime.ReadMemStats(&m)
	b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "ms-p50")
	b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "ms-p95")
	b.ReportMetric(float64(len(took)), "marks")
	b.ReportMetric(float64(m.HeapInuse>>20), "MB-heap")
}

// used is the processor time of this process.
func used() time.Duration {
	b, err := os.ReadFile("/proc/self/stat")
	if err != nil {
		return 0
	}
	f := strings.Fields(string(b[strings.LastIndexByte(string(b), ')')+1:]))
	var user, system int64
	fmt.Sscan(f[11], &user)
	fmt.Sscan(f[12], &system)
	return time.Duration(user+system) * 10 * time.Millisecond // ticks of a hundredth of a second
}

// Who plays with whom is the same in the hall as where it was planned and printed, and stays so while marks are taken:
// sides are even from what was known before the session, partners meet as seldom as in the weeks before.
func TestTheHallShowsWhoWasPlanned(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := withMore(t, s, s.session(t, "Tuesday hall"))
	lead := hall{s.as(t, "ines"), tuesday.ID}
	plan := onPlan{browser: lead.browser, at: "/sessions/" + tuesday.ID, version: strconv.Itoa(tuesday.Version)}
	pairs := tuesday.Plan.Blocks[1].ID
	lisbon, err := time.LoadLocation("Europe/Lisbon") // where the club is: a mark of late in the evening is of another day elsewhere
	if err != nil {
		t.Fatal(err)
	}
	for _, way := range rotate.Ways {
		plan.edit("change-by", pairs, string(way))
		planned := in(t, s, func(tx *store.Tx) (string, error) {
			l, err := app.Read(ctx, tx, tuesday.ID, evening, lisbon)
			if err != nil {
				return "", err
			}
			l.Work()
			return whoPlays(l), nil
		})
		for _, when := range []string{"before", "while marks are taken"} {
			if got := lead.whoPlays(t); got != planned {
				t.Errorf("%s, %s: the hall has\n%s\nplanned was\n%s", way, when, got, planned)
			}
			for _, p := range lead.state().Players[:4] {
				lead.item(item("mark", p.ID, "drill", tuesday.Plan.Stations()[0].Drill, "figure", 9))
				if len(p.Due) > 0 {
					lead.item(item("mark", p.ID, "criterion", p.Due[0], "figure", 99, "tries", 99))
				}
			}
		}
	}
}

// whoPlays are a plan's pairs of the second block, turn by turn, and the sides of its games, by first names.
func whoPlays(l app.Loaded) string {
	var b strings.Builder
	names := func(players []coach.Player) {
		for _, p := range players {
			b.WriteString(say.First(p.Name) + " ")
		}
		b.WriteString("/ ")
	}
	for _, span := range l.Picture.Blocks {
		if m := l.Input.Match(span); m != nil {
			for _, side := range m.Sides {
				names(side.Players)
			}
		}
	}
	for _, turn := range partners.Turns(l.Input, l.Picture.Blocks[1].Block, 0) {
		for _, team := range turn.Teams {
			names(team)
		}
		b.WriteString("; ")
	}
	return b.String()
}

// whoPlays is the same as a phone has it.
func (h hall) whoPlays(t *testing.T) string {
	var st struct {
		Matches  []struct{ Sides []struct{ Names []string } }
		Pairings []struct {
			Names []string
			Turns []struct{ Teams [][]int }
		}
	}
	_, out := h.do("GET", "/courtside/"+h.id+"/state", "", nil, "Accept", "application/json")
	if err := json.Unmarshal([]byte(out), &st); err != nil || len(st.Pairings) != 1 || len(st.Matches) != 1 {
		t.Fatalf("%v: %d pairings, %d games", err, len(st.Pairings), len(st.Matches))
	}
	var b strings.Builder
	for _, side := range st.Matches[0].Sides {
		for _, n := range side.Names {
			b.WriteString(say.First(n) + " ")
		}
		b.WriteString("/ ")
	}
	for _, turn := range st.Pairings[0].Turns {
		for _, team := range turn.Teams {
			for _, i := range team {
				b.WriteString(say.First(st.Pairings[0].Names[i]) + " ")
			}
			b.WriteString("/ ")
		}
		b.WriteString("; ")
	}
	return b.String()
}

// A timing gate with the door's code: what it sends arrives once, on every device; without the code nothing does.
func TestAGateSendsCrossingsOnce(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, device := s.as(t, "ines"), s.browser(t)
	tuesday := s.session(t, "Tuesday hall")
	code := in(t, s, func(tx *store.Tx) (string, error) {
		return tx.SessionCode(ctx, tuesday.ID, tuesday.Leaders[0].Member, false, evening)
	})
	send := func(code string, items ...string) (int, string) {
		return device.do("POST", "/gate/"+code, "application/json", strings.NewReader(`{"items":[`+strings.Join(items, ",")+`]}`), "Accept", "application/json")
	}
	item := func(what string, ms int, more string) string {
		at := evening.Add(time.Duration(ms) * time.Millisecond).Format(time.RFC3339Nano)
		return fmt.Sprintf(`{"id":"%s","what":"%s","at":"%s"%s}`, store.NewID(), what, at, more)
	}
	start, finish := item("start", -9000, ""), item("finish", -3570, `,"lane":1`)
	for range 3 { // the network is bad: sent again and again
		if status, body := send(code, start, finish); status != 200 || strings.Count(body, `"kept":true`) != 2 {
			t.Fatalf("%d %s", status, body)
		}
	}
	_, body := send(code, item("start", 3_600_000, ""), item("jump", 0, ""), item("finish", 0, `,"lane":99`), `{"id":"1","what":"start"}`, item("count", 0, `,"station":99,"n":1`))
	if strings.Contains(body, `"kept":true`) || strings.Count(body, `"why"`) != 5 {
		t.Errorf("what cannot be was taken: %s", body)
	}
	if status, _ := send("WRONG1", start); status != http.StatusForbidden {
		t.Errorf("a wrong code: %d", status)
	}
	var st struct {
		Crossings []struct {
			What string
			Lane int
			At   time.Time
		}
	}
	_, state := ines.get("/courtside/" + tuesday.ID + "/state")
	if err := json.Unmarshal([]byte(state), &st); err != nil || len(st.Crossings) != 2 || st.Crossings[1].At.Sub(st.Crossings[0].At) != 5430*time.Millisecond {
		t.Errorf("%v %+v", err, st.Crossings)
	}
	if status, body := send(code, item("count", 0, `,"station":1,"n":2`)); status != 200 || !strings.Contains(body, `"kept":true`) {
		t.Errorf("a count: %d %s", status, body)
	}
}

// What is said in the hall beside figures: feedback and its mix, the points of pairs that every device shares and each
// takes back once, who was not seen goes to the next session, and a session that nobody ended ends itself.
func TestWhatIsSaidAndSharedInTheHall(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines, bea := hall{s.as(t, "ines"), tuesday.ID}, hall{s.as(t, "bea"), tuesday.ID}
	bo, femi, rui := player(t, s, "Bo Lindahl"), player(t, s, "Femi Adeyemi"), player(t, s, "Rui Costa")
	ines.clock(store.NewID(), "start")
	point := func(good bool) map[string]any {
		return item("point", "", "block", 0, "turn", "1.0", "whose", bo.ID+" "+femi.ID, "good", good)
	}
	first, second := point(true), point(false)
	taken := map[string]any{}
	for k, v := range second {
		taken[k] = v
	}
	taken["undone"] = true
	for _, it := range []map[string]any{
		item("feedback", bo.ID, "what", "told", "key", "elbow over ear", "unit", -1),
		item("feedback", bo.ID, "what", "praised", "unit", -1),
		item("feedback", "", "what", "asked", "note", "some", "key", "elbow over ear", "unit", 1),
		item("feedback", "", "what", "step", "note", "whole", "key", "elbow over ear", "unit", 1),
		item("note", bo.ID, "what", "cue", "note", "fly"),
		first, first, taken, second, // sent twice; and taken back before it came
		item("carry", femi.ID), // no session is planned yet: a note
	} {
		if !ines.item(it) {
			t.Errorf("not kept: %v", it)
		}
	}
	next := tuesday
	next.ID, next.StartsAt = store.NewID(), tuesday.StartsAt.AddDate(0, 0, 7)
	in(t, s, func(tx *store.Tx) (bool, error) { return true, tx.AddSession(ctx, next) })
	again := item("carry", rui.ID)
	for range 2 { // the network is bad
		if !ines.item(again) {
			t.Error("not carried")
		}
	}
	if slices.ContainsFunc(ines.state().Notes, func(n store.Note) bool { return n.Player == rui.ID && n.Kind == "follow" }) {
		t.Error("sent twice, a look became a note as well")
	}
	if !bea.item(item("feedback", bo.ID, "what", "corrected", "unit", -1)) || bea.item(item("carry", rui.ID)) {
		t.Error("a helper gives feedback, and carries nobody over")
	}
	for _, it := range []map[string]any{
		item("feedback", bo.ID, "what", "shouted"),
		item("feedback", "", "what", "asked", "note", "perhaps"),
		item("point", "", "block", 0, "turn", "1.0", "whose", bo.ID+" "+store.NewID(), "good", true),
		item("point", "", "block", 0, "turn", "now", "whose", bo.ID+" "+femi.ID, "good", true),
		item("point", "", "block", 77, "turn", "1.0", "whose", bo.ID+" "+femi.ID, "good", true),
	} {
		if ines.item(it) {
			t.Errorf("taken: %v", it)
		}
	}
	st := ines.state()
	if len(st.Feedback) != 5 || len(st.Points) != 2 || st.Points[0].Undone || !st.Points[1].Undone {
		t.Errorf("%+v %+v", st.Feedback, st.Points)
	}
	if own := bea.state(); len(own.Feedback) != 1 || own.Feedback[0].How != "corrected" {
		t.Errorf("a helper sees what others said: %+v", own.Feedback)
	}
	for _, p := range st.Players {
		if p.ID == bo.ID && p.Cue != "fly" {
			t.Errorf("Bo's own word: %q", p.Cue)
		}
	}
	looks := in(t, s, func(tx *store.Tx) (n int, err error) {
		err = tx.QueryRow(ctx, `select count(*) from look l join session n on n.id = l.session_id where l.player_id = $1
			and n.class_id = $2 and n.starts_at > $3`, rui.ID, tuesday.ClassID, tuesday.StartsAt).Scan(&n)
		return n, err
	})
	if looks == 0 || !slices.ContainsFunc(ines.state().Notes, func(n store.Note) bool { return n.Player == femi.ID && n.Kind == "follow" }) {
		t.Error("who was not seen is not looked at first the next time", looks)
	}
	for _, after := range []struct {
		hours time.Duration
		ended int
	}{{4, 0}, {6, 1}, {7, 0}} { // it lasts an hour and a half
		if n, err := app.EndLeftOpen(ctx, s.st, evening.Add(after.hours*time.Hour)); err != nil || n != after.ended {
			t.Errorf("after %d hours: %d ended, %v", after.hours, n, err)
		}
	}
	if !ines.state().Itself {
		t.Error("it does not say that it ended by itself")
	}
	_, page := ines.get("/sessions/" + tuesday.ID + "/run")
	mustHave(t, page, "what happened", "ended by itself", "Told 1, corrected 1, asked 1, praised 1.", "Never said before and filmed.", "“elbow over ear”: some knew")
}

// A group, or one player, takes the bridge before a station's drill, and comes back.
func TestTheBridgeIsTakenInTheHall(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	ines, bea := hall{s.as(t, "ines"), tuesday.ID}, hall{s.as(t, "bea"), tuesday.ID}
	rui := player(t, s, "Rui Costa")
	drills := in(t, s, func(tx *store.Tx) ([]*store.Card, error) { return tx.Cards(ctx) })
	at := tuesday.Plan.Stations()[0].Drill
	bridge := drills[slices.IndexFunc(drills, func(d *store.Card) bool { return d.ID != at })]
	in(t, s, func(tx *store.Tx) (bool, error) {
		_, err := tx.Exec(ctx, `insert into drill_link (club_id, drill_id, kind, other_id) values ($1, $2, 'bridge', $3) on conflict do nothing`, s.club, bridge.ID, at)
		return true, err
	})
	take := func(h hall, body string) int {
		code, _ := h.do("POST", "/courtside/"+tuesday.ID+"/bridge", "application/json", strings.NewReader(body), "Accept", "application/json")
		return code
	}
	plan := func() doc.Plan {
		return in(t, s, func(tx *store.Tx) (doc.Plan, error) { n, err := tx.Session(ctx, tuesday.ID); return n.Plan, err })
	}
	for _, want := range []int{1, 0} { // there, and back
		if code := take(ines, `{"station":0,"group":0}`); code != 200 || len(plan().Stations()[0].Own) != want {
			t.Errorf("the group: %d, %v", code, plan().Stations()[0].Own)
		}
		if code := take(ines, `{"station":0,"group":0,"player":"`+rui.ID+`"}`); code != 200 || len(plan().Stations()[0].Side) != want {
			t.Errorf("one: %d, %v", code, plan().Stations()[0].Side)
		}
	}
	for body, want := range map[string]int{`{"station":99,"group":0}`: 422, `{"station":0,"group":-1}`: 422, `{"station":0,"group":0,"player":"` + store.NewID() + `"}`: 422, `{`: 422} {
		if code := take(ines, body); code != want {
			t.Errorf("%s: %d", body, code)
		}
	}
	if code := take(bea, `{"station":0,"group":0}`); code != http.StatusForbidden {
		t.Errorf("a helper: %d", code)
	}
	if len(plan().Stations()[0].Own) != 0 {
		t.Error("a helper changed the plan")
	}
}
