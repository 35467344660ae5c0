package web

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"os"
	"regexp"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"

	"gruppo/internal/demo"
	"gruppo/internal/localpg"
	"gruppo/internal/store"
	"gruppo/internal/web/live"
	"gruppo/internal/web/shell"
)

func TestMain(m *testing.M) {
	code := m.Run()
	localpg.Close()
	os.Exit(code)
}

// accountOf is the club and member of an address.
func accountOf(st *store.Store, address string) (club, member string, err error) {
	found, err := st.Accounts(ctx, address)
	if err == nil && len(found) == 0 {
		err = store.ErrNone
	}
	if err != nil {
		return "", "", err
	}
	return found[0].ClubID, found[0].Member, nil
}

var (
	ctx     = context.Background()
	evening = time.Date(2026, 11, 24, 17, 15, 0, 0, time.UTC)
	queries atomic.Int64
)

// counter counts the statements sent to the database.
type counter struct{}

func (counter) TraceQueryStart(c context.Context, _ *pgx.Conn, d pgx.TraceQueryStartData) context.Context {
	if s := strings.ToLower(d.SQL); s != "begin" && s != "commit" && s != "rollback" {
		queries.Add(1)
	}
	return c
}
func (counter) TraceQueryEnd(context.Context, *pgx.Conn, pgx.TraceQueryEndData) {}

// Questions that are asked together are one.
func (counter) TraceBatchStart(c context.Context, _ *pgx.Conn, _ pgx.TraceBatchStartData) context.Context {
	queries.Add(1)
	return c
}
func (counter) TraceBatchQuery(context.Context, *pgx.Conn, pgx.TraceBatchQueryData) {}
func (counter) TraceBatchEnd(context.Context, *pgx.Conn, pgx.TraceBatchEndData)     {}

// site is the program with the demo club, its clock standing at a Tuesday 17:15.
type site struct {
	*httptest.Server
	st    *store.Store
	club  string
	owner string // how the database is reached with all rights
}

// withTheDemo fills a database with the demo club as it stands on that evening.
func withTheDemo(db localpg.Database) error {
	if err := store.Migrate(ctx, db.Owner); err != nil {
		return err
	}
	st, err := store.Open(ctx, db.App)
	if err != nil {
		return err
	}
	defer st.Pool.Close()
	quick := argon2id.Params{Memory: 8, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 32} // hundreds sign in
	hash, err := argon2id.CreateHash(demo.Password, &quick)
	if err != nil {
		return err
	}
	return demo.Load(ctx, st, evening, hash)
}

func serve(t testing.TB) site {
	t.Helper()
	db := localpg.ForTestFilled(t, withTheDemo)
	st, err := store.Open(ctx, db.App, func(c *pgxpool.Config) {
		c.ConnConfig.Tracer = counter{}
		_, east := time.Now().Zone()
		c.ConnConfig.RuntimeParams["timezone"] = fmt.Sprintf("<here>%d", -east/60/60) // the database stands where the program does
	})
	if err != nil {
		t.Fatal(err)
	}
	open, stop := context.WithCancel(ctx)
	s := &shell.Server{
		Store:    st,
		Now:      func() time.Time { return evening.Local() }, // as the clock of a server tells it
		Sessions: shell.NewSessions(st, false),
		Live:     live.Listen(open, st),
	}
	srv := httptest.NewServer(Handler(s))
	t.Cleanup(func() { stop(); srv.CloseClientConnections(); srv.Close(); st.Pool.Close() })
	club, _, err := accountOf(st, demo.Members[0].Email)
	if err != nil {
		t.Fatal(err)
	}
	return site{srv, st, club, db.Owner}
}

type browser struct {
	*http.Client
	site site
	t    testing.TB
}

func (s site) browser(t testing.TB) browser {
	jar, _ := cookiejar.New(nil)
	return browser{
		&http.Client{
			Jar:           jar,
			CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse },
		},
		s,
		t,
	}
}

func (s site) as(t testing.TB, who string) browser {
	t.Helper()
	b := s.browser(t)
	if code, _ := b.post("/sign-in", url.Values{"email": {who + "@saltmarsh.example"}, "password": {demo.Password}}); code != http.StatusSeeOther {
		t.Fatalf("%s could not sign in: %d", who, code)
	}
	return b
}

func (b browser) do(method, path, kind string, body io.Reader, headers ...string) (int, string) {
	b.t.Helper()
	r, err := http.NewRequest(method, b.site.URL+path, body)
	if err != nil {
		b.t.Fatal(err)
	}
	if kind != "" {
		r.Header.Set("Content-Type", kind)
	}
	for i := 0; i+1 < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	res, err := b.Do(r)
	if err != nil {
		b.t.Fatal(err)
	}
	defer res.Body.Close()
	out, _ := io.ReadAll(res.Body)
	if strings.HasPrefix(res.Header.Get("Content-Type"), "text/html") && res.Header.Get("Content-Disposition") == "" {
		out = flat(out)
	}
	return res.StatusCode, string(out)
}

// flat is a page without the line ends of its templates: how one is laid out is no matter of what it says. What stands
// in a textarea stays.
func flat(page []byte) []byte {
	out := make([]byte, 0, len(page))
	for i := 0; i < len(page); i++ {
		if bytes.HasPrefix(page[i:], []byte("<textarea")) {
			end := i + bytes.Index(page[i:], []byte("</textarea>"))
			out, i = append(out, page[i:end]...), end
		}
		if page[i] != '\n' {
			out = append(out, page[i])
			continue
		}
		before := bytes.TrimRight(out, " \t\n")
		after := bytes.TrimLeft(page[i:], " \t\n")
		switch {
		case bytes.HasSuffix(before, []byte(">")) || bytes.HasPrefix(after, []byte("<")):
			out, i = before, len(page)-len(after)-1
		default:
			out = append(out, ' ')
		}
	}
	return out
}

func (b browser) get(path string) (int, string) { b.t.Helper(); return b.do("GET", path, "", nil) }
func (b browser) post(path string, v url.Values) (int, string) {
	b.t.Helper()
	return b.do("POST", path, "application/x-www-form-urlencoded", strings.NewReader(v.Encode()))
}

// tuesday is the id of the demo's next Tuesday session, and squad of one that Bea is not on.
func (s site) session(t testing.TB, class string) (out store.Session) {
	t.Helper()
	err := s.st.In(ctx, s.club, func(tx *store.Tx) error {
		all, err := tx.Sessions(ctx, store.SessionFilter{From: evening, Counted: true})
		for _, x := range all {
			if x.ClassName == class {
				out = x
			}
		}
		return err
	})
	if err != nil || out.ID == "" {
		t.Fatalf("no session of %s: %v", class, err)
	}
	return out
}

// Every route with every role: who may not is turned away, who may is not; nobody sees a server error.
func TestEveryRouteWithEveryRole(t *testing.T) {
	s := serve(t)
	browsers := map[string]browser{
		"":       s.browser(t),
		"lead":   s.as(t, "ines"),
		"coach":  s.as(t, "tomasz"),
		"helper": s.as(t, "bea"),
	}
	tuesday := s.session(t, "Tuesday hall").ID
	nobody := store.NewID()
	for _, r := range Routes {
		if strings.HasPrefix(r.Path, "/sign-out") || strings.HasSuffix(r.Path, "/live") ||
			r.Path == "/account/password" {
			continue // shown by their own tests
		}
		for role, b := range browsers {
			for _, id := range []string{tuesday, nobody, "not-an-id"} {
				path := strings.NewReplacer(":id", id, ":change", id, ":block", "1", ":n", "1", ":what", "cards").Replace(r.Path)
				may := shell.May(role, r.Needs)
				if ends := r.Path == "/sessions/:id/delete" || r.Path == "/sessions/:id/off"; ends && may &&
					id == tuesday {
					continue // the others still need it
				}
				code, body := b.do(r.Method, path, "application/x-www-form-urlencoded", nil)
				switch {
				case code >= 500:
					t.Errorf("%s %s as %q: %d", r.Method, path, role, code)
				case strings.Contains(body, "goroutine") || strings.Contains(body, "SQLSTATE"):
					t.Errorf("%s %s as %q shows its insides", r.Method, path, role)
				case role == "" && r.Needs != shell.Anyone && code != http.StatusSeeOther:
					t.Errorf("%s %s without signing in: %d", r.Method, path, code)
				case role != "" && !may && code != http.StatusForbidden:
					t.Errorf("%s %s as %s: %d, want to be turned away", r.Method, path, role, code)
				case may && role != "helper" && code == http.StatusForbidden:
					t.Errorf("%s %s as %s: turned away", r.Method, path, role)
				}
				if !strings.Contains(r.Path, ":") {
					break
				}
			}
		}
	}
	squad := s.session(t, "Saturday squad").ID
	if code, _ := browsers["helper"].get("/courtside/" + squad); code != http.StatusForbidden {
		t.Errorf("a helper sees a session they are not on: %d", code)
	}
	if code, body := browsers["helper"].get("/courtside/" + tuesday); code != 200 || strings.Contains(body, "Nygaard") {
		t.Errorf("a helper's session: %d, with full names %v", code, strings.Contains(body, "Nygaard"))
	}
}

func TestAnotherClubSeesNothing(t *testing.T) {
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall").ID
	b := s.browser(t)
	if code, body := b.post("/start", url.Values{"club": {"Other"}, "program": {"Judo"}, "name": {"Ola"}, "email": {"ola@other.example"}, "password": {"a long enough one"}, "family": {"ball"}, "zone": {"UTC"}}); code != http.StatusSeeOther {
		t.Fatalf("start a club: %d %s", code, body)
	}
	umar, class := player(t, s, "Umar Farouk").ID, s.session(t, "Tuesday hall").ClassID
	jaya := decidedOf(t, s, player(t, s, "Jaya Menon").ID)[0].ID
	for _, path := range []string{"/players/" + umar, "/players/" + umar + "/report", "/stairs/why/" + umar, "/decisions/" + jaya + "/certificate", "/stairs/class/" + class, "/stairs/class/" + class + "/class.csv", "/stairs/ladder/" + handball(t, s).ID,
		"/sessions/" + tuesday, "/courtside/" + tuesday, "/courtside/" + tuesday + "/state", "/sessions/" + tuesday + "/print", "/sessions/" + tuesday + "/plan.json", "/sessions/" + tuesday + "/floor.svg", "/sessions/" + tuesday + "/what-if", "/sessions/" + tuesday + "/partners/1",
		"/sessions/" + tuesday + "/teams/4", "/sessions/" + tuesday + "/ladder/1", "/sessions/" + tuesday + "/routine/1", "/sessions/" + tuesday + "/proposals", "/sessions/" + tuesday + "/live"} {
		if code, body := b.get(path); code != http.StatusNotFound || strings.Contains(body, "Tuesday hall") ||
			strings.Contains(body, "Umar") ||
			strings.Contains(body, "Jaya") {
			t.Errorf("%s of another club: %d", path, code)
		}
	}
	if _, body := b.get("/roster"); strings.Contains(body, "Nwosu") {
		t.Error("another club's players are shown")
	}
}

func TestTheDoor(t *testing.T) {
	s := serve(t)
	b := s.browser(t)
	res, err := b.Get(s.URL + "/sign-in")
	if err != nil {
		t.Fatal(err)
	}
	res.Body.Close()
	csp := res.Header.Get("Content-Security-Policy")
	if strings.Contains(csp, "unsafe") || !strings.Contains(csp, "default-src 'none'") {
		t.Errorf("policy %q", csp)
	}
	if code, body := b.do("POST", "/sign-in", "application/x-www-form-urlencoded", strings.NewReader("email=ines@saltmarsh.example&password="+demo.Password), "Sec-Fetch-Site", "cross-site"); code != http.StatusForbidden {
		t.Errorf("a form from another site: %d %s", code, body)
	}
	for i, code := 0, 0; code != http.StatusTooManyRequests; i++ { // a slow machine may be slower than the first pauses
		code, _ = b.post("/sign-in", url.Values{"email": {"leila@saltmarsh.example"}, "password": {"wrong"}})
		if i < 5 && code != http.StatusUnprocessableEntity || i > 9 {
			t.Fatalf("wrong try %d: %d", i+1, code)
		}
	}
	if code, body := b.post("/sign-in", url.Values{"email": {"leila@saltmarsh.example"}, "password": {demo.Password}}); code != http.StatusTooManyRequests ||
		!strings.Contains(body, "Wait") {
		t.Errorf("the right password too soon: %d", code)
	}
	secure := httptest.NewRecorder()
	over, stop := context.WithCancel(ctx)
	stop()
	far := &shell.Server{
		Store:    s.st,
		Now:      time.Now,
		Sessions: shell.NewSessions(s.st, true),
		Live:     live.Listen(over, s.st),
	}
	r := httptest.NewRequest(
		"POST",
		"/sign-in",
		strings.NewReader("email=ines@saltmarsh.example&password="+demo.Password),
	)
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	Handler(far).ServeHTTP(secure, r)
	if c := secure.Header().Get("Set-Cookie"); !strings.Contains(c, "Secure") || !strings.Contains(c, "HttpOnly") ||
		!strings.Contains(c, "SameSite=Lax") {
		t.Errorf("cookie %q", c)
	}
	one, two := s.as(t, "tomasz"), s.as(t, "tomasz")
	if code, _ := one.post("/account/password", url.Values{"old": {demo.Password}, "new": {"another long sentence"}}); code != http.StatusSeeOther {
		t.Errorf("change the password: %d", code)
	}
	if code, _ := one.get("/roster"); code != 200 {
		t.Errorf("the device that changed it: %d", code)
	}
	if code, _ := two.get("/roster"); code != http.StatusSeeOther {
		t.Errorf("the other device is still signed in: %d", code)
	}
}

func TestOnlyLeadsDecideAndOnlyOnWhatStands(t *testing.T) {
	s := serve(t)
	ines := s.as(t, "ines")
	_, page := ines.get("/stairs")
	form := regexp.MustCompile(`action="(/players/[^"]+/decide)".*?name="program" value="([^"]+)".*?name="stage" value="([^"]+)"`).
		FindStringSubmatch(strings.ReplaceAll(page, "\n", " "))
	if form == nil {
		t.Fatal("nobody is ready in the demo")
	}
	v := url.Values{"kind": {"up"}, "program": {form[2]}, "stage": {form[3]}}
	if code, _ := s.as(t, "tomasz").post(form[1], v); code != http.StatusForbidden {
		t.Errorf("a coach decided: %d", code)
	}
	if code, _ := ines.post(form[1], v); code != http.StatusSeeOther {
		t.Errorf("the lead could not: %d", code)
	}
	if code, _ := ines.post(form[1], v); code != http.StatusConflict {
		t.Errorf("the same step twice: %d", code)
	}
	v.Set("kind", "stay")
	if code, body := ines.post(form[1], v); code != http.StatusConflict && !strings.Contains(body, "reason") {
		t.Errorf("a stay without a reason: %d", code)
	}
}

func TestCourtsideRefusesWhatCannotBe(t *testing.T) {
	s := serve(t)
	tuesday := s.session(t, "Tuesday hall")
	b := s.as(t, "ines")
	post := func(path string, v any) (int, map[string]any) {
		body, _ := json.Marshal(v)
		code, out := b.do(
			"POST",
			"/courtside/"+tuesday.ID+path,
			"application/json",
			bytes.NewReader(body),
			"Accept",
			"application/json",
		)
		var m map[string]any
		if err := json.Unmarshal([]byte(out), &m); err != nil {
			t.Fatalf("%d %s", code, out)
		}
		return code, m
	}
	if code, m := post("/form", map[string]int{"by": 7}); code != http.StatusUnprocessableEntity || m["says"] == "" {
		t.Errorf("%d %v", code, m)
	}
	var player string
	if err := s.st.In(ctx, s.club, func(tx *store.Tx) error {
		ps, err := tx.Players(ctx, store.PlayerFilter{Class: tuesday.ClassID, Limit: 1})
		player = ps[0].ID
		return err
	}); err != nil {
		t.Fatal(err)
	}
	good := map[string]any{"kind": "said", "id": store.NewID(), "player": player, "state": "present", "at": evening}
	_, m := post("/inbox", map[string]any{"items": []any{good,
		map[string]any{"kind": "said", "id": store.NewID(), "player": store.NewID(), "state": "present"},
		map[string]any{"kind": "said", "id": store.NewID(), "player": player, "state": "asleep"},
		map[string]any{"kind": "tally", "id": store.NewID(), "player": player, "drill": store.NewID(), "tries": "1"},
		map[string]any{
			"kind":   "tally",
			"id":     store.NewID(),
			"player": player,
			"drill":  tuesday.Plan.Stations()[0].Drill,
			"tries":  "12",
		},
		map[string]any{"kind": "mark", "id": store.NewID(), "player": player, "criterion": store.NewID(), "figure": 3},
		map[string]any{"kind": "clock", "id": store.NewID(), "do": "explode"},
		map[string]any{"kind": "note", "id": store.NewID(), "player": player, "what": "word", "note": " "},
		map[string]any{"kind": "has", "id": store.NewID(), "player": player, "key": ""},
		map[string]any{"kind": "climb", "id": store.NewID(), "block": 99},
		map[string]any{"kind": "guest", "id": store.NewID(), "name": ""},
		map[string]any{"kind": "dance", "id": store.NewID(), "player": player},
		map[string]any{"kind": "strike", "id": store.NewID()}}})
	for i, a := range m["answers"].([]any) {
		kept, why := a.(map[string]any)["kept"].(bool), a.(map[string]any)["why"]
		if kept != (i == 0) || i > 0 && why == nil {
			t.Errorf("item %d: kept %v, %v", i, kept, why)
		}
	}
}

func upload(t *testing.T, b browser, name string, data []byte) (int, string) {
	t.Helper()
	var body bytes.Buffer
	w := multipart.NewWriter(&body)
	f, err := w.CreateFormFile("file", name)
	if err != nil {
		t.Fatal(err)
	}
	f.Write(data)
	w.Close()
	return b.do("POST", "/roster/import", w.FormDataContentType(), &body)
}

func TestBadFilesGetASentence(t *testing.T) {
	s := serve(t)
	b := s.as(t, "ines")
	for says, data := range map[string][]byte{"spreadsheet or an archive": []byte("PK\x03\x04junk"), "at most 5 MB": bytes.Repeat([]byte("x"), 50<<20), "nothing in it": {}, "This is a PDF": []byte("%PDF-1.4"), "Which column holds the name": []byte("Stage;Side\nReef;left\n")} {
		if code, body := upload(t, b, "x.csv", data); code != http.StatusUnprocessableEntity ||
			!strings.Contains(body, says) {
			t.Errorf("%q: %d", says, code)
		}
	}
	var big strings.Builder
	big.WriteString("name,born,stage\n")
	for i := range 5000 {
		fmt.Fprintf(&big, "Player %c%d,20%02d,Shore\n", 'A'+i%26, i, 8+i%9)
	}
	if code, body := b.post("/roster/import/take", url.Values{"text": {big.String()}}); code != http.StatusSeeOther {
		t.Errorf("5,000 rows: %d %.300s", code, body)
	}
	if _, body := b.get("/roster"); !strings.Contains(body, "5070 players") {
		t.Error("the 5,000 are not there")
	}
	if code, body := b.post("/roster/import", url.Values{"text": {big.String()}}); code != 200 ||
		!strings.Contains(body, "<b>5000</b> stay as they are") {
		t.Errorf("the same again: %d", code)
	}
}

// The database plans for what is there, small tables too, as soon as it was loaded.
func TestTheDatabaseKnowsWhatWasLoaded(t *testing.T) {
	s := serve(t)
	counted := func(table string) int {
		return in(t, s, func(tx *store.Tx) (n int, err error) {
			return n, tx.QueryRow(ctx, `select reltuples::int from pg_class where relname = $1`, table).Scan(&n)
		})
	}
	for table, least := range map[string]int{"member": 6, "criterion": 20, "venue": 2, "mark": 500} {
		if n := counted(table); n < least {
			t.Errorf("the demo's %ss are counted as %d", table, n)
		}
	}
	var list strings.Builder
	list.WriteString("name,born\n")
	for i := range 150 {
		fmt.Fprintf(&list, "Player %c%d,2012\n", 'A'+i%26, i)
	}
	s.as(t, "ines").post("/roster/import/take", url.Values{"text": {list.String()}})
	if n := counted("player"); n < 220 {
		t.Errorf("of 220 players and more the database has counted %d", n)
	}
}

// At most twelve statements a page, however many players there are: none runs in a loop. Pages that look over several
// programs or classes ask for each of them, and no more than they do today.
func TestPagesAskLittle(t *testing.T) {
	s := serve(t)
	b := s.as(t, "ines")
	tuesday := s.session(t, "Tuesday hall").ID
	mina := player(t, s, "Mina Ferro").ID
	most := map[string]int{"/season": 21, "/season/club": 17, "/players/" + mina: 24, s.linkFor(t, mina): 20}
	for _, path := range pathsOf(tuesday) {
		most[path] = 12
	}
	for path, most := range most {
		b.get(path)
		before := queries.Load()
		if code, _ := b.get(path); code != 200 {
			t.Errorf("%s: %d", path, code)
		}
		if n := queries.Load() - before; n > int64(most) {
			t.Errorf("%s asks the database %d times, at most %d", path, n, most)
		}
	}
}

func pathsOf(session string) []string {
	return []string{"/", "/sessions/" + session, "/courtside/" + session, "/stairs", "/roster", "/marks"}
}
