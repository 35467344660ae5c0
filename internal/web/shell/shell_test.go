package shell

import (
	"net/url"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"

	"gruppo/internal/coach/plan/doc"
)

func TestPasswords(t *testing.T) {
	hashed := func(password string) string {
		hash, err := HashPassword(t.Context(), password)
		if err != nil {
			t.Fatal(err)
		}
		return hash
	}
	fits := func(password, hash string) bool {
		ok, err := PasswordFits(t.Context(), password, hash)
		if err != nil {
			t.Fatal(err)
		}
		return ok
	}
	hash := hashed("a boat in the rain")
	// RFC 9106, section 4, second recommended option, with 2 lanes
	if !strings.HasPrefix(hash, "$argon2id$v=19$m=65536,t=3,p=2$") {
		t.Errorf("hash %q", hash)
	}
	if !fits("a boat in the rain", hash) || fits("a boat in the Rain", hash) || fits("", hash) {
		t.Error("the wrong password fits, or the right one does not")
	}
	if hashed("a boat in the rain") == hash {
		t.Error("two hashes of one password are alike: no salt")
	}
	for _, broken := range []string{"", "x", "$argon2id$v=19$m=1$a$b", strings.Replace(hash, "v=19", "v=18", 1), hash[:len(hash)-60]} {
		if fits("a boat in the rain", broken) {
			t.Errorf("a password fits %q", broken)
		}
	}
}

func TestFormsSayWhatIsWrongOnce(t *testing.T) {
	f := &Form{
		Values: url.Values{
			"n":     {"12 players"},
			"x":     {"7,5"},
			"nan":   {"NaN"},
			"lines": {" a \n\n b\n"},
			"words": {"x, ,y"},
			"long":  {"ééééé"},
		},
		Errors: map[string]string{},
	}
	if f.Int("n", 1, 20, "Players"); !strings.Contains(f.Errors["n"], "from 1 to 20") {
		t.Errorf("12 players: %q", f.Errors["n"])
	}
	if x := f.Float("x", 0, 10, "Length"); x != 7.5 || f.Errors["x"] != "" {
		t.Errorf("a comma for the point: %v %q", x, f.Errors["x"])
	}
	if f.Float("nan", 0, 10, "Length"); f.Errors["nan"] == "" {
		t.Error("not a number was taken for one")
	}
	if l := f.Lines("lines", 5); !slices.Equal(l, []string{"a", "b"}) {
		t.Errorf("lines %q", l)
	}
	if w := f.Commas("words"); !slices.Equal(w, []string{"x", "y"}) {
		t.Errorf("words %q", w)
	}
	if f.Text("long", 5, ""); f.Errors["long"] != "" {
		t.Error("five letters counted as more than five")
	}
	f.Wrong("n", "something else")
	if strings.Contains(f.Errors["n"], "else") {
		t.Error("the second word about a field replaced the first")
	}
}

func TestEveryShapeHasAnOutlineOfItsOwn(t *testing.T) {
	seen := map[string]string{}
	for _, s := range doc.Shapes {
		path := ShapePath(s.Key)
		if path == "" || seen[path] != "" {
			t.Errorf("%s has the outline %q, as %q", s.Key, path, seen[path])
		}
		seen[path] = s.Key
	}
	if len(doc.Shapes) < doc.Most {
		t.Error("more groups can be made than there are shapes")
	}
}

func TestInitialsInAnyScript(t *testing.T) {
	for name, want := range map[string]string{"Aino Laine": "AL", "Zoë": "Z", "مريم السيد": "ما", "  ": "?", "Jo van der Berg": "JB", "山田 太郎": "山太"} {
		if got := Initials(name); got != want {
			t.Errorf("%q: %q, want %q", name, got, want)
		}
	}
}

func TestWhoMayDoWhat(t *testing.T) {
	for a, roles := range may {
		if !slices.Contains(roles, "lead") {
			t.Errorf("the lead may not %s", a)
		}
		if slices.Contains(roles, "helper") && !slices.Contains([]Action{OwnAccount, SeeToday, RunSession}, a) {
			t.Errorf("a helper may %s", a)
		}
	}
	if May("", SeeToday) || May("guardian", SeeToday) || !May("", Anyone) {
		t.Error("somebody without a role gets in, or the door is shut to all")
	}
}

// Sixty at once do not take the machine: two are hashed, a few wait, the others are told so at once.
func TestHashingTakesTurns(t *testing.T) {
	hash, err := HashPassword(t.Context(), "a boat in the rain")
	if err != nil {
		t.Fatal(err)
	}
	var told, done atomic.Int64
	var all sync.WaitGroup
	for range 60 {
		all.Go(func() {
			if _, err := PasswordFits(t.Context(), "a boat in the rain", hash); err != nil {
				told.Add(1)
			} else {
				done.Add(1)
			}
			if n := len(hashTurns); n > hashesAtOnce {
				t.Errorf("%d at once", n)
			}
		})
	}
	all.Wait()
	if done.Load() < hashesAtOnce || told.Load() == 0 || len(hashQueue) != 0 {
		t.Errorf("%d were hashed, %d told to wait, %d still hold a place", done.Load(), told.Load(), len(hashQueue))
	}
}

// One club that asks for ten large works at once starves no other: its second waits for its first, and the other club
// goes at once.
func TestLargeWorkTakesTurns(t *testing.T) {
	var h heavy
	first, err := h.enter(t.Context(), "one")
	if err != nil {
		t.Fatal(err)
	}
	waiting := make(chan error, 10)
	for range 10 {
		go func() {
			done, err := h.enter(t.Context(), "one")
			if err == nil {
				done()
			}
			waiting <- err
		}()
	}
	for range 10 - heavyQueue + 1 { // who finds no place in the queue hears so at once
		if err := <-waiting; err == nil {
			t.Error("let in while the club's own work goes on")
		}
	}
	other, err := h.enter(t.Context(), "two")
	if err != nil {
		t.Fatalf("the other club: %v", err)
	}
	other()
	first()
	for range heavyQueue - 1 {
		if err := <-waiting; err != nil {
			t.Errorf("who waited in the queue: %v", err)
		}
	}
	if len(h.clubs) != 0 || len(h.all) != 0 {
		t.Errorf("something is still held: %v", h.users)
	}
}

func TestARedirectNeverLeavesTheHouse(t *testing.T) {
	for _, there := range []string{"/", "/players/1?program=2#home", "/sign-in?to=%2Froster", "/stairs?q=a%20b"} {
		if got := Own(there, "/x"); got != there {
			t.Errorf("%q leads to %q", there, got)
		}
	}
	for _, away := range []string{"", "roster", "//evil.example", "/\\evil.example", "http://evil.example/", "https:/evil", "javascript:alert(1)", "/a\nb", "/a\tb", "/a\x00", "/\r\nSet-Cookie: a=b", " /a", "/%zz"} {
		if got := Own(away, "/x"); got != "/x" {
			t.Errorf("%q leads to %q", away, got)
		}
	}
}

// What a coach writes is text: no picture from elsewhere, no script, no style, and links that tell nobody where they
// were read.
func TestWrittenTextLoadsNothing(t *testing.T) {
	html := string(
		Markdown(
			"![x](https://elsewhere.example/x.png) <img src=//elsewhere.example/y> <script>x</script> <p style='background:url(//z)'>*soft* hands\n\n- [how](https://club.example/how) [not](javascript:x) [nor](data:text/html,x)\n\n|cone|metres|\n|---|---|\n|red|4|",
		),
	)
	for _, bad := range []string{"<img", "elsewhere", "script", "style", "data:"} {
		if strings.Contains(html, bad) {
			t.Errorf("%q stands in %s", bad, html)
		}
	}
	for _, good := range []string{"<em>soft</em>", `href="https://club.example/how"`, "noreferrer", "<td>red</td>"} {
		if !strings.Contains(html, good) {
			t.Errorf("%q is missing in %s", good, html)
		}
	}
}
