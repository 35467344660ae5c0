package web

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"gruppo/internal/coach"
	"gruppo/internal/coach/path"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// written is a drill as the form sends it, with some fields changed.
func written(over ...string) url.Values {
	v := url.Values{}
	pairs := []string{
		"name",
		"Long lines",
		"skills",
		"queueing",
		"purpose",
		"Many passes",
		"setup",
		"Markers, then *balls*.",
		"least",
		"2",
		"most",
		"14",
		"places",
		"1",
		"pace",
		"10",
		"length",
		"12",
		"width",
		"6",
		"clearance",
		"1",
		"fire",
		"0",
		"chance",
		"8",
		"leader",
		"none",
		"target",
		"streak",
		"n",
		"10",
		"practice",
		"blocked",
		"approach",
		"technique-first",
		"form",
		"cooperative",
		"keys",
		"Step in\nWrist last",
		"from-min",
		"20",
		"to-min",
		"20",
	}
	for _, list := range [][]string{pairs, over} {
		for i := 0; i+1 < len(list); i += 2 {
			v.Set(list[i], list[i+1])
		}
	}
	return v
}

// drillNamed is the id of a drill on the demo's shelf, as Ines sees it.
func drillNamed(t testing.TB, s site, name string) string {
	t.Helper()
	return in(t, s, func(tx *store.Tx) (string, error) { return tx.DrillNamed(ctx, name) })
}

// at posts and gives back where it leads.
func (b browser) at(path string, v url.Values) string {
	b.t.Helper()
	code, to, _ := b.sent(path, v)
	if code != http.StatusSeeOther {
		b.t.Fatalf("POST %s: %d", path, code)
	}
	return to
}

// sent posts and gives back what comes of it: where it leads, or the page that answers.
func (b browser) sent(path string, v url.Values) (code int, to, page string) {
	b.t.Helper()
	r, err := b.PostForm(b.site.URL+path, v)
	if err != nil {
		b.t.Fatal(err)
	}
	defer r.Body.Close()
	body, err := io.ReadAll(r.Body)
	if err != nil {
		b.t.Fatal(err)
	}
	return r.StatusCode, r.Header.Get("Location"), string(body)
}

func mustHave(t testing.TB, body string, words ...string) {
	t.Helper()
	for _, w := range words {
		if !strings.Contains(body, w) {
			t.Errorf("the page lacks %q", w)
		}
	}
}

func TestADrillPageDoesTheArithmetic(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	page := b.at("/shelf/new", written())
	// Twelve in one line, ten balls a minute, twenty minutes: 16.7 each (common practice, no source). Ten in a row at 8
	// in 10: 41.566 tries (Feller I, XIII.7), which nobody's marks change, since nobody has any.
	_, body := b.get(page + "?group=12&min=20")
	row := regexp.MustCompile(`<tr class="is-here"><td>12</td><td class="num">(\d+)</td>`).FindStringSubmatch(body)
	if row == nil || row[1] != "17" {
		t.Errorf("twelve in one line get %v tries", row)
	}
	mustHave(t, body, "<em>balls</em>", "20 min", "One place more would give 33 tries instead of 17.")
	drill, stage := regexp.MustCompile(`They make (\d+) in 10`).
		FindStringSubmatch(body),
		regexp.MustCompile(`is-here"><th scope="row">10</th>.*?<td class="num">(\d+)</td>`).
			FindStringSubmatch(body)
	if drill == nil || drill[1] != "8" || stage == nil || stage[1] != "42" {
		t.Errorf("ten in a row at %v in 10 asks %v tries", drill, stage)
	}
	// In three lines it is 50; the form answers the same while it is written.
	code, gives := b.post("/shelf/gives", written("places", "3", "least", "12", "most", "12"))
	if code != 200 || !strings.Contains(gives, `<td>12</td><td class="num">50</td>`) ||
		!strings.Contains(gives, "About <b>42</b> tries") {
		t.Errorf("while it is written: %d %s", code, gives)
	}
	if _, gives := b.post("/shelf/gives", written("pace", "")); !strings.Contains(
		gives,
		"Repetitions a minute: a number from 0.1 to 200",
	) {
		t.Error("an unfinished drill is not said: " + gives)
	}
}

func TestADrillIsWrittenKeptAndShared(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, tomasz := s.as(t, "ines"), s.as(t, "tomasz")
	for says, v := range map[string]url.Values{
		"What do you call it?":                written("name", ""),
		"At most 3 is fewer than at least 12": written("least", "12", "most", "3"),
		"&#34;quick&#34; is not a number":     written("pace", "quick"),
		"Form 1 needs a name of its own":      written("v-name", "", "v-says", "smaller", "v-what", "space", "v-side", "easier"),
	} {
		code, body := ines.post("/shelf/new", v)
		if code != http.StatusUnprocessableEntity || !strings.Contains(body, says) ||
			!strings.Contains(body, "Step in\nWrist last") {
			t.Errorf("%q: %d, or what was typed is lost", says, code)
		}
	}
	bothHands := slices.Clip(strings.Split("v-name|Both hands|v-side|easier|v-what|hand|v-says|both hands|v-pace|7|v-order|1", "|"))
	page := ines.at(
		"/shelf/new",
		written(append(bothHands, "setup", "<script>alert(1)</script> [link](javascript:alert(2))")...),
	)
	_, body := ines.get(page)
	mustHave(t, body, "Both hands", "both hands", "edition 1")
	if strings.Contains(body, "<script>alert") || strings.Contains(body, "javascript:alert") {
		t.Error("a script in the text reached the page")
	}
	// A new edition says what differs; saving the same again makes none; a form's own figures stay.
	change := written(append(bothHands, "keys", "Step in\nElbow up")...)
	ines.at(page+"/edit", change)
	ines.at(page+"/edit", change)
	if _, body = ines.get(page); !strings.Contains(body, "edition 2") || strings.Contains(body, "edition 3") {
		t.Error("not the second edition")
	}
	_, body = ines.get(page + "/editions")
	mustHave(t, body, "<del>Wrist last</del>", "<ins>Elbow up</ins>")
	_, body = ines.get(page + "/edit")
	mustHave(t, body, `name="v-pace" value="7"`)
	// A copy is one's own until it is shared, and keeps where it came from.
	own := ines.at(page+"/copy", nil)
	if code, _ := tomasz.get(own); code != http.StatusNotFound {
		t.Errorf("another's private drill: %d", code)
	}
	if _, body := tomasz.get("/shelf?q=own+copy"); strings.Contains(body, "Long lines, own copy") {
		t.Error("another's private drill is found")
	}
	_, body = ines.get(own)
	mustHave(t, body, "A copy of Long lines, edition 2, by Saltmarsh Sports School", "yours alone")
	ines.at(page+"/edit", written("keys", "Step in\nElbow up\nLook")) // the original grows
	_, body = ines.get(own)
	mustHave(t, body, "The original is at edition 3 now.")
	ines.at(own+"/editions", url.Values{"original": {"1"}})
	if _, body = ines.get(own); strings.Contains(body, "The original is at edition") ||
		!strings.Contains(body, "Look") {
		t.Error("the newer original was not taken over")
	}
	ines.at(own+"/share", url.Values{"with": {"club"}})
	if code, _ := tomasz.get(own); code != 200 {
		t.Errorf("shared with the club: %d", code)
	}
	if code, body := tomasz.post(own+"/share", url.Values{"with": {"private"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "Only who put a drill on the shelf") {
		t.Errorf("another takes it for themselves: %d", code)
	}
	tomasz.at(page+"/notes", url.Values{"says": {"Too long a queue with six"}})
	_, body = ines.get(page)
	mustHave(t, body, "Too long a queue with six", "Tomasz")
}

func TestLinksRefuseALoopByName(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	first, second := b.at("/shelf/new", written("name", "First steps")), b.at(
		"/shelf/new",
		written("name", "Second steps"),
	)
	b.at(second+"/links", url.Values{"kind": {"after"}, "name": {"first  STEPS"}})
	code, body := b.post(first+"/links", url.Values{"kind": {"after"}, "name": {"Second steps"}})
	if code != http.StatusUnprocessableEntity ||
		!strings.Contains(
			body,
			"That would go round in a loop: First steps comes after Second steps comes after First steps.",
		) {
		t.Errorf("a loop: %d", code)
	}
	mustHave(t, body, `value="Second steps"`)
	if code, body = b.post(first+"/links", url.Values{"kind": {"bridge"}, "name": {"Nowhere"}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "No drill on the shelf is called &#34;Nowhere&#34;") {
		t.Errorf("a link to nothing: %d", code)
	}
	_, body = b.get("/shelf/path?skill=queueing")
	mustHave(t, body, "Second steps comes after First steps")
	_, body = b.get(first)
	mustHave(t, body, "before", "Second steps")
}

func TestADrillInUseCannotVanish(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	tuesday := s.session(t, "Tuesday hall")
	wall := drillNamed(t, s, "Wall passing")
	b.at("/shelf/drill/"+wall+"/edit", written("name", "Wall passing", "skills", "passing"))
	if _, body := b.get("/sessions/" + tuesday.ID); !strings.Contains(body, "newer") {
		t.Error("the plan does not offer the newer edition")
	}
	b.at("/shelf/drill/"+wall+"/off", url.Values{"off": {"1"}})
	_, body := b.get("/shelf")
	mustHave(t, body, "Wall passing is off the shelf;", "ahead keep it")
	offer := regexp.MustCompile(`action="/undo/([0-9a-f-]+)"`).FindStringSubmatch(body)
	if _, body := b.get("/shelf?q=wall+passing"); strings.Contains(body, ">Wall passing") {
		t.Error("it is still on the shelf")
	}
	if _, body := b.get("/sessions/" + tuesday.ID); !strings.Contains(body, "Wall passing") {
		t.Error("it vanished from the plan")
	}
	b.post("/undo/"+offer[1], nil)
	if _, body := b.get("/shelf?q=wall+passing"); !strings.Contains(body, ">Wall passing") {
		t.Error("undo did not put it back")
	}
}

func sendPack(b browser, path string, data []byte, fields ...string) (int, string) {
	var body bytes.Buffer
	w := multipart.NewWriter(&body)
	f, _ := w.CreateFormFile("file", "drills.json")
	f.Write(data)
	for i := 0; i+1 < len(fields); i += 2 {
		w.WriteField(fields[i], fields[i+1])
	}
	w.Close()
	return b.do("POST", path, w.FormDataContentType(), &body)
}

func TestDrillsTravelFromOneClubToAnother(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	ola := s.browser(t)
	ola.at(
		"/start",
		url.Values{
			"club":     {"Harbour"},
			"program":  {"Ball"},
			"name":     {"Ola"},
			"email":    {"ola@other.example"},
			"password": {"a long enough one"},
			"family":   {"ball"},
			"zone":     {"UTC"},
		},
	)
	hoop, standing := drillNamed(t, s, "Hoop throws"), drillNamed(t, s, "Standing throw")
	_, pack := ines.get("/shelf/pack/file?name=Throws&id=" + hoop + "&id=" + standing)
	if n := strings.Count(pack, `"picture": "<svg`); n != 2 {
		t.Errorf("%d pictures in the pack", n)
	}
	for says, bad := range map[string]string{
		"version 2":                    strings.Replace(pack, `"version": 1`, `"version": 2`, 1),
		"breaks off or is damaged":     pack[:len(pack)/3],
		"neither in the pack nor":      strings.Replace(pack, `"id": "`+hoop, `"id": "`+store.NewID(), 1),
		"its picture carries a script": strings.Replace(pack, `"picture": "<svg`, `"picture": "<svg onload='x()'`, 1),
		"which this program does not":  strings.Replace(pack, `"purpose"`, `"mood": 1, "purpose"`, 1),
		"at most 20 MB":                strings.Repeat("{", 100<<20),
	} {
		if code, body := sendPack(ola, "/shelf/pack", []byte(bad)); code != http.StatusUnprocessableEntity ||
			!strings.Contains(body, says) {
			t.Errorf("%q: %d", says, code)
		}
		if code, _ := sendPack(ola, "/shelf/pack/take", []byte(bad)); code != http.StatusUnprocessableEntity {
			t.Errorf("%q was taken: %d", says, code)
		}
	}
	if _, body := ola.get("/shelf"); strings.Contains(body, "Hoop throws") {
		t.Fatal("half a bad pack was taken")
	}
	if code, body := sendPack(ola, "/shelf/pack", []byte(pack)); code != 200 ||
		!strings.Contains(body, "<b>2</b> new") {
		t.Fatalf("look it over: %d", code)
	}
	sendPack(ola, "/shelf/pack/take", []byte(pack))
	_, body := ola.get("/shelf/drill/" + standing)
	mustHave(t, body, "A copy of Standing throw, edition 1, by Saltmarsh Sports School (CC BY 4.0)", "Hoop throws")
	if _, body := sendPack(ola, "/shelf/pack", []byte(pack)); !strings.Contains(body, "<b>2</b> there as they are") ||
		!strings.Contains(body, "Nothing to take") {
		t.Error("the same pack again is not recognised")
	}
	// The giver's drill changes: the pack shows both sides, and each way of taking it does what it says.
	d := in(t, s, func(tx *store.Tx) (coach.Drill, error) { return tx.Drill(ctx, hoop) })
	d.Keys = append([]string{"Look at the hoop"}, d.Keys...)
	if err := s.st.In(ctx, s.club, func(tx *store.Tx) error { return tx.PutDrill(ctx, d, evening) }); err != nil {
		t.Fatal(err)
	}
	_, pack = ines.get("/shelf/pack/file?id=" + hoop + "&id=" + standing)
	_, body = sendPack(ola, "/shelf/pack", []byte(pack))
	mustHave(t, body, "there and different", "<ins>Look at the hoop</ins>", "keep ours")
	for _, way := range []struct{ take, says string }{{"", "Nothing was taken"}, {"copy", "Took 1 drill"}, {"edition", "Took 1 drill"}} {
		sendPack(ola, "/shelf/pack/take", []byte(pack), "take-"+hoop, way.take)
		if _, body := ola.get("/shelf/pack"); !strings.Contains(body, way.says) {
			t.Errorf("taking it %q is not answered with %q", way.take, way.says)
		}
	}
	_, body = ola.get("/shelf/drill/" + hoop)
	mustHave(t, body, "edition 2", "Look at the hoop")
	_, body = ola.get("/shelf")
	mustHave(t, body, "Hoop throws, from a pack")
	// Shared with every club: seen, copied and followed without a file.
	ines.at("/shelf/drill/"+drillNamed(t, s, "Colour call")+"/share", url.Values{"with": {"all"}})
	_, body = ola.get("/shelf?of=others")
	mustHave(t, body, "Colour call", "Saltmarsh Sports School")
	if strings.Contains(body, "Wall passing") {
		t.Error("what is the club's alone is shown to another")
	}
	own := ola.at("/shelf/other/"+drillNamed(t, s, "Colour call")+"/copy", nil)
	_, body = ola.get(own)
	mustHave(t, body, "A copy of Colour call, edition 1, by Saltmarsh Sports School")
	if code, _ := ola.post("/shelf/other/"+drillNamed(t, s, "Wall passing")+"/copy", nil); code != http.StatusNotFound {
		t.Errorf("a drill that is not shared was copied: %d", code)
	}
}

func TestADrawingIsCheckedBeforeItIsKept(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	page := b.at("/shelf/new", written())
	doc := func(kind string) url.Values {
		d, _ := json.Marshal(
			coach.Drawing{
				Floor:  "hall",
				Length: 8,
				Width:  6,
				Things: []coach.Thing{{Kind: kind, X: 2, Y: 2, No: 1, Says: "<b>bold</b>"}},
			},
		)
		return url.Values{"doc": {string(d)}, "step": {"0"}}
	}
	if code, body := b.post("/shelf/drawing", doc("player")); code != 200 || !strings.Contains(body, "&lt;b&gt;bold") {
		t.Errorf("the board: %d", code)
	}
	for _, bad := range []url.Values{doc("dragon"), {"doc": {"{"}}} {
		if code, body := b.post(page+"/drawing", bad); code != http.StatusUnprocessableEntity ||
			strings.Contains(body, "SQLSTATE") {
			t.Errorf("a bad drawing: %d", code)
		}
	}
	b.at(page+"/drawing", doc("player"))
	_, svg := b.get(page + "/drawing.svg")
	if !strings.HasPrefix(svg, "<svg") || strings.Contains(svg, "<b>") || !strings.Contains(svg, "xmlns") {
		t.Errorf("the file: %.200s", svg)
	}
}

// manyDrills fills the shelf with the demo's drills again and again under other names.
func manyDrills(t testing.TB, s site, n int) {
	b, err := os.ReadFile(filepath.Join("..", "demo", "drills.pack.json"))
	var p struct {
		Drills []struct{ Drill coach.Drill }
	}
	if err == nil {
		err = json.Unmarshal(b, &p)
	}
	if err != nil {
		t.Fatal(err)
	}
	words := strings.Fields(
		"amber birch cedar delta ember fjord gale heron isle jetty kelp lagoon marsh narrow otter pebble quay ridge shoal tern",
	)
	err = s.st.In(ctx, s.club, func(tx *store.Tx) error {
		last := ""
		for i := range n {
			d := p.Drills[i%len(p.Drills)].Drill
			d.ID, d.Name = store.NewID(), fmt.Sprintf("%s %s %s %d", d.Name, words[i%20], words[i/20%20], i)
			if err := tx.PutDrill(ctx, d, evening); err != nil {
				return err
			}
			if last != "" {
				if err := tx.PutLink(ctx, path.Link{Drill: d.ID, Kind: path.After, Other: last}); err != nil {
					return err
				}
			}
			if last = d.ID; i%7 == 0 {
				last = ""
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
}

// Finding in 5,000 drills, from the keystroke to the answer.
func BenchmarkFind(b *testing.B) {
	shell.GC()
	s := serve(b)
	manyDrills(b, s, 5000)
	br := s.as(b, "ines")
	class := s.session(b, "Tuesday hall").ClassID
	for _, ask := range []struct{ name, query string }{{"Word", "q=catch"}, {"TypingError", "q=gatehr+lagon"}, {"AtHand", "players=9&leader=none&class=" + class + "&kit=1&rested=4&minutes=10&skill=passing"}, {"Everything", "q=pass&players=9&leader=helper&class=" + class + "&kit=1&stage=Reef&phase=linking"}} {
		b.Run(ask.name, func(b *testing.B) {
			c := costs(s)
			for b.Loop() {
				c.request(func() int {
					code, body := br.do("GET", "/shelf?"+ask.query, "", nil, "HX-Request", "true")
					if code != 200 || !strings.Contains(body, "drill-card") {
						b.Fatalf("%d %.300s", code, body)
					}
					return len(body)
				})
			}
			c.report(b, s)
		})
	}
}

// A loop cannot be made round a drill that is off the shelf: not by linking, not by putting it back, not by undoing,
// not by two at once.
func TestNoLoopRoundADrillThatIsAway(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	at := map[string]string{}
	for _, name := range []string{"Loop A", "Loop B", "Loop C"} {
		at[name] = b.at("/shelf/new", written("name", name))
	}
	link := func(from, to string) int {
		code, _ := b.post(at[from]+"/links", url.Values{"kind": {"after"}, "name": {to}})
		return code
	}
	if link("Loop A", "Loop B") != http.StatusSeeOther || link("Loop C", "Loop A") != http.StatusSeeOther {
		t.Fatal("the first links are refused")
	}
	b.at(at["Loop A"]+"/off", url.Values{"off": {"1"}})
	if code := link("Loop B", "Loop C"); code != http.StatusUnprocessableEntity { // round the drill that is away
		b.post(at["Loop A"]+"/off", url.Values{"off": {""}})
		t.Errorf("linked round a drill that is away: %d", code)
	}
	if code, _ := b.post(at["Loop A"]+"/off", url.Values{"off": {""}}); code != http.StatusSeeOther {
		t.Errorf("put back: %d", code)
	}
	// Two at once: of two links that close a loop together, one is refused.
	for _, name := range []string{"Loop D", "Loop E"} {
		at[name] = b.at("/shelf/new", written("name", name))
	}
	codes := make(chan int, 2)
	for _, pair := range [][2]string{{"Loop D", "Loop E"}, {"Loop E", "Loop D"}} {
		go func() { codes <- link(pair[0], pair[1]) }()
	}
	if a, c := <-codes, <-codes; a == c {
		t.Errorf("both of two links that make a loop: %d and %d", a, c)
	}
	// Undoing: the link was taken away, others made since close the loop.
	links := in(t, s, func(tx *store.Tx) ([]path.Link, error) { return tx.Links(ctx) })
	if loop := path.Round(links); loop != nil {
		t.Errorf("there is a loop: %v", loop)
	}
	b.post(
		at["Loop C"]+"/links",
		url.Values{"kind": {"after"}, "other": {at["Loop A"][len("/shelf/drill/"):]}, "drop": {"1"}},
	)
	dropped := in(t, s, func(tx *store.Tx) (id string, err error) {
		return id, tx.QueryRow(ctx, `select id from change order by at desc, id desc limit 1`).Scan(&id)
	})
	if link("Loop B", "Loop C") != http.StatusSeeOther {
		t.Fatal("with the link gone, another is refused")
	}
	b.post("/undo/"+dropped, url.Values{"to": {"/shelf"}})
	links = in(t, s, func(tx *store.Tx) ([]path.Link, error) { return tx.Links(ctx) })
	if loop := path.Round(links); loop != nil {
		t.Errorf("undoing made a loop: %v", loop)
	}
	if code, _ := b.get("/shelf/path?skill=queueing"); code != http.StatusOK {
		t.Errorf("the path page: %d", code)
	}
}

// A drill has one pace: seconds for each say it as well, and where both are typed that say something else it is said where
// they are typed.
func TestADrillHasOnePace(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	code, page := b.post("/shelf/new", written("name", "Too fast", "pace", "60", "try", "6"))
	if code != http.StatusUnprocessableEntity || !strings.Contains(page, "60 a minute are 1 s each") ||
		!strings.Contains(page, `value="60"`) || !strings.Contains(page, `value="6"`) {
		t.Errorf("60 tries a minute of 6 s each: %d", code)
	}
	at := b.at("/shelf/new", written("name", "By seconds", "pace", "", "try", "7.5"))
	_, form := b.get(at + "/edit")
	mustHave(t, form, `name="pace" aria-label="Tries a minute at one place" value="8"`,
		`name="try" aria-label="Seconds a try takes" value="7.5"`)
}
