package web

import (
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"golang.org/x/net/html"

	"gruppo/internal/store"
)

// field is one of a form, as a browser would send it.
type field struct {
	name, kind, value string
	on                bool     // a box or a button of several that is chosen
	options           []string // of a list
	most              int      // characters it takes; 0: as many as one likes
	needed            bool     // a browser sends nothing before something stands in it
	only              []string // such as "floor=hall|field": it is there while these fields say so
}

// sheet is a form of a page.
type sheet struct {
	action string
	fields []field
	button bool // there is one to send it with
}

func attr(n *html.Node, name string) string {
	for _, a := range n.Attr {
		if a.Key == name {
			return a.Val
		}
	}
	return ""
}

func has(n *html.Node, name string) bool {
	return slices.ContainsFunc(n.Attr, func(a html.Attribute) bool { return a.Key == name })
}

// text is what stands in an element.
func text(n *html.Node) (out string) {
	for c := range n.Descendants() {
		if c.Type == html.TextNode {
			out += c.Data
		}
	}
	return out
}

// sheets are the forms of a page that change something.
func sheets(t *testing.T, at, page string) (out []sheet) {
	t.Helper()
	if !strings.Contains(page, "<form") {
		return nil
	}
	root, err := html.Parse(strings.NewReader(page))
	if err != nil {
		t.Fatalf("%s: %v", at, err)
	}
	var forms []*html.Node
	controls := map[string][]*html.Node{} // that stand elsewhere and name their form
	for n := range root.Descendants() {
		switch {
		case n.Type != html.ElementNode:
		case n.Data == "form" && strings.EqualFold(attr(n, "method"), "post"):
			forms = append(forms, n)
		case has(n, "form"):
			controls[attr(n, "form")] = append(controls[attr(n, "form")], n)
		}
	}
	for _, n := range forms {
		f := sheet{action: attr(n, "action")}
		if f.action == "" {
			f.action = at
		}
		plain := false // it is sent by a button that says nothing of its own
		add := func(e *html.Node) {
			if e.Type != html.ElementNode || has(e, "disabled") {
				return
			}
			w, is := control(n, e)
			if is && w.kind == "button" {
				f.button = true
				plain = plain || w.name == ""
			}
			if is && w.name != "" {
				f.fields = append(f.fields, w)
			}
		}
		for e := range n.Descendants() {
			if !has(e, "form") {
				add(e)
			}
		}
		for _, e := range controls[attr(n, "id")] {
			add(e)
		}
		if plain {
			f.fields = slices.DeleteFunc(f.fields, func(w field) bool { return w.kind == "button" })
		}
		out = append(out, f)
	}
	return out
}

// control is an element as a field of a form, if it is one.
func control(form, e *html.Node) (w field, is bool) {
	w = field{name: attr(e, "name"), kind: attr(e, "type"), value: attr(e, "value")}
	switch e.Data {
	case "button":
		w.kind = "button"
	case "input":
		w.on = has(e, "checked")
	case "textarea":
		w.kind, w.value = "textarea", strings.TrimPrefix(text(e), "\n")
	case "select":
		w.kind = "select"
		for o := range e.Descendants() {
			if o.Type != html.ElementNode || o.Data != "option" {
				continue
			}
			value := attr(o, "value")
			if !has(o, "value") {
				value = strings.TrimSpace(text(o))
			}
			if len(w.options) == 0 || has(o, "selected") {
				w.value = value
			}
			w.options = append(w.options, value)
		}
	default:
		return w, false
	}
	w.most, _ = strconv.Atoi(attr(e, "maxlength"))
	w.needed = has(e, "required") && !has(form, "novalidate")
	for p := e.Parent; has(form, "data-parts") && p != nil && p != form; p = p.Parent {
		if has(p, "data-for") {
			w.only = append(w.only, attr(p, "data-for"))
		}
	}
	return w, true
}

// fill types nonsense into every line, chooses what was not chosen and crosses every box that was empty; words is what is typed.
func (f sheet) fill(words string) url.Values {
	v := url.Values{}
	radio := map[string]string{}
	for _, w := range f.fields {
		switch w.kind {
		case "hidden":
			v.Add(w.name, w.value)
		case "file":
		case "submit", "button":
			if !v.Has(w.name) {
				v.Set(w.name, w.value)
			}
		case "checkbox":
			if !w.on {
				v.Add(w.name, w.value)
			}
		case "radio":
			if _, seen := radio[w.name]; !seen || !w.on {
				radio[w.name] = w.value
			}
		case "select":
			if len(w.options) == 0 {
				continue
			}
			at := slices.Index(w.options, w.value)
			v.Add(w.name, w.options[(at+1)%len(w.options)])
		case "date":
			v.Add(w.name, "2026-12-08")
		case "time":
			v.Add(w.name, "19:07")
		default:
			typed := []rune(words)
			if w.most > 0 {
				typed = typed[:min(len(typed), w.most)]
			}
			v.Add(w.name, strings.TrimSpace(string(typed)))
		}
	}
	for name, value := range radio {
		v.Set(name, value)
	}
	return v
}

// as is what a browser sends when nothing was touched.
func (f sheet) as() url.Values {
	v := url.Values{}
	for _, w := range f.fields {
		switch {
		case w.kind == "file" || w.kind == "button" || w.kind == "submit" || f.away(w):
		case (w.kind == "checkbox" || w.kind == "radio") && !w.on:
		default:
			v.Add(w.name, w.value)
		}
	}
	return v
}

// away says whether a field is not there for what is chosen in the others.
func (f sheet) away(w field) bool {
	return slices.ContainsFunc(w.only, func(only string) bool {
		name, values, _ := strings.Cut(only, "=")
		return slices.ContainsFunc(f.fields, func(o field) bool {
			return o.name == name && !slices.Contains(strings.Split(values, "|"), o.value)
		})
	})
}

// other is another value that a field could take.
func (w field) other() string {
	if n, err := strconv.Atoi(w.value); err == nil && w.kind != "select" {
		return strconv.Itoa(n + 1)
	}
	switch w.kind {
	case "select":
		at := slices.Index(w.options, w.value)
		return w.options[(at+1)%len(w.options)]
	case "date":
		return "2026-12-08"
	case "time":
		return "19:07"
	}
	return strings.TrimSpace(w.value + " more")
}

// typed says whether there is anything to lose in a form, and whether a browser would send it filled with words.
func (f sheet) typed(words string) bool {
	some := false
	for _, w := range f.fields {
		some = some || !slices.Contains(kept, w.kind)
		if w.needed && words == "" {
			return false
		}
	}
	return some
}

// kept are the fields that nobody types in, or that no page may show again.
var kept = []string{"hidden", "file", "submit", "button", "password"}

// lost is what was sent and does not stand in the form any more.
func (f sheet) lost(sent url.Values) (out []string) {
	now := url.Values{}
	for _, w := range f.fields {
		switch w.kind {
		case "checkbox", "radio":
			if w.on {
				now.Add(w.name, w.value)
			}
		default:
			now.Add(w.name, w.value)
		}
	}
	for _, w := range f.fields {
		if slices.Contains(kept, w.kind) {
			continue
		}
		if w.name == "v-order" || strings.HasPrefix(w.name, "v-") && sent.Get("v-name") == "" {
			continue // easier and harder forms are counted anew, and one without a name is none
		}
		a, b := sent[w.name], now[w.name]
		same := slices.Equal(slices.Sorted(slices.Values(a)), slices.Sorted(slices.Values(b)))
		if w.kind != "checkbox" && w.kind != "radio" { // empty lines come and go
			same = !slices.ContainsFunc(a, func(x string) bool { return x != "" && !slices.Contains(b, x) })
		}
		if !same {
			out = append(out, fmt.Sprintf("%s: %.40q is %.40q", w.name, a, b))
		}
	}
	return out
}

// makesNew says whether a form begins anew when it was taken: its first line is empty, or it asks for a date.
func (f sheet) makesNew() bool {
	i := slices.IndexFunc(f.fields, func(w field) bool {
		return !slices.Contains(kept, w.kind) && w.kind != "select" && w.kind != "checkbox" && w.kind != "radio"
	})
	return i >= 0 && f.fields[i].value == "" || strings.HasSuffix(f.action, "/copy") || f.action == "/sessions"
}

// change is what a browser sends when only the i-th field was changed; nil if there is nothing to change in it.
func (f sheet) change(i int) url.Values {
	w, v, at := f.fields[i], f.as(), 0
	if slices.Contains(kept, w.kind) || w.kind == "select" && len(w.options) < 2 || f.away(w) || w.name == "v-order" {
		return nil
	}
	for _, o := range f.fields[:i] {
		if o.name == w.name && !f.away(o) {
			at++
		}
	}
	switch {
	case w.kind == "checkbox" && w.on:
		v[w.name] = slices.DeleteFunc(v[w.name], func(x string) bool { return x == w.value })
	case w.kind == "checkbox":
		v.Add(w.name, w.value)
	case w.kind == "radio":
		v.Set(w.name, w.value)
	case w.name == "v-what" && v["v-says"][at] == "" || w.kind == "select" && strings.HasPrefix(w.name, "v-") && w.name != "v-what" && v["v-name"][at] == "":
		return nil // of an easier or harder form that there is not
	default:
		v[w.name][at] = w.other()
	}
	return v
}

// aside are fields that count by themselves, and those that a criterion of another measure does not have.
var aside = []string{"shown", "version", "v-order", "of", "tolerance", "points"}

// whose is what a form says of itself without being asked.
func (f sheet) whose() (out string) {
	for _, w := range f.fields {
		if w.kind == "hidden" && w.name != "shown" && w.name != "version" {
			out += w.name + "=" + w.value + " "
		}
	}
	return out
}

// said is what stands in a form under a name, in no order and without empty lines.
func said(v []string) []string {
	return slices.DeleteFunc(slices.Sorted(slices.Values(v)), func(x string) bool { return x == "" })
}

// asked is a form of a page.
type asked struct {
	browser
	at string
	n  int // which of the page's
}

// read is the form as it is now, if it is still there.
func (a asked) read(t *testing.T) (f sheet, ok bool) {
	t.Helper()
	_, page := a.get(a.at)
	if now := sheets(t, a.at, page); a.n < len(now) {
		return now[a.n], true
	}
	return f, false
}

// Every form of the demo, as its lead meets it: what is changed in it and taken stands in it when it is opened again, and
// what is refused comes back as it was typed. A page that was followed to from another is come to.
func TestEveryFormKeepsWhatIsTyped(t *testing.T) {
	t.Parallel()
	s := serve(t)
	var forms, edits []asked
	seen := map[string]int{}
	see := func(b browser, at, page string) {
		for n, f := range sheets(t, at, page) {
			if !f.typed("words") {
				continue
			}
			kind := ids.ReplaceAllString(f.action, "*")
			if seen[kind]++; seen[kind] == 1 && !f.as().Has("do") && !f.makesNew() {
				edits = append(edits, asked{b, at, n})
			}
			if seen[kind] <= 2 {
				forms = append(forms, asked{b, at, n})
			}
		}
	}
	ines, nobody := s.as(t, "ines"), s.browser(t)
	ines.crawl(func(from, at string, code int, page string) {
		if code != http.StatusOK && code != http.StatusSeeOther {
			t.Errorf("from %s to %s: %d", from, at, code)
		}
		see(ines, at, page)
	})
	kept := 0
	for _, form := range edits {
		kept += form.keeps(t)
	}
	see(nobody, "/start", second(nobody.get("/start")))
	see(nobody, "/sign-in", second(nobody.get("/sign-in")))
	refused := 0
	for _, form := range forms {
		for _, words := range []string{"zz 7 <b>é", strings.Repeat("word ", 100) + "end", ""} {
			refused += form.losesNothing(t, words)
		}
	}
	if kept < 100 || len(forms) < 40 || refused < 60 {
		t.Errorf("only %d changes were kept; %d forms were found, and %d refused", kept, len(forms), refused)
	}
}

// keeps changes one field after the other, and counts what was taken; it stands there then, and nothing else has changed.
func (form asked) keeps(t *testing.T) (taken int) {
	t.Helper()
	now, ok := form.read(t)
	whose := now.whose()
	for i := 0; ok && i < len(now.fields); i++ {
		sent := now.change(i)
		if sent == nil {
			continue
		}
		if code, _ := form.post(now.action, sent); code != http.StatusSeeOther {
			continue
		}
		taken++
		was := now.as()
		if now, ok = form.read(t); !ok || now.whose() != whose {
			break // another stands there now
		}
		for name, is := range now.as() {
			if want, told := sent[name]; told && !slices.Contains(aside, name) && !slices.Equal(said(is), said(want)) {
				t.Errorf("%s on %s: %q of %s was sent for %q, and is %q", now.action, form.at, want, name, was[name], is)
			}
		}
	}
	return taken
}

// losesNothing fills the form with words and chooses what was not chosen; where it is refused, and one is counted, all of
// it stands there still, with a word about what was wrong.
func (form asked) losesNothing(t *testing.T, words string) (refused int) {
	t.Helper()
	f, ok := form.read(t)
	if !ok || !f.typed(words) {
		return 0 // what was taken just now has changed the page
	}
	sent := f.fill(words)
	code, page := form.post(f.action, sent)
	if code >= http.StatusInternalServerError {
		t.Errorf("%s on %s with %.9q: %d", f.action, form.at, words, code)
	}
	if code != http.StatusUnprocessableEntity {
		return 0
	}
	if !strings.Contains(page, `role="alert"`) {
		t.Errorf("%s on %s with %.9q is refused without a word", f.action, form.at, words)
	}
	back := sheets(t, f.action, page)
	i := slices.IndexFunc(back, func(b sheet) bool {
		return b.action == f.action && !slices.ContainsFunc(b.fields, func(w field) bool {
			return w.kind == "hidden" && !slices.Contains([]string{"shown", "version", "rows"}, w.name) && sent.Get(w.name) != w.value
		})
	})
	if i < 0 {
		t.Errorf("%s on %s with %.9q: the form is not on the page that refuses it: %v", f.action, form.at, words, sent)
		return 1
	}
	if lost := back[i].lost(sent); len(lost) > 0 {
		t.Errorf("%s on %s with %.9q: %q", f.action, form.at, words, lost)
	}
	for _, about := range regexp.MustCompile(`data-field="([^"]*)"`).FindAllStringSubmatch(page, -1) {
		if !slices.ContainsFunc(back[i].fields, func(w field) bool { return w.name == about[1] }) {
			t.Errorf("%s on %s with %.9q: what is said of %q marks no field", f.action, form.at, words, about[1])
		}
	}
	return 1
}

// The form for a new class of the term begins with what is usual, though there is nothing typed yet.
func TestANewClassOfTheTermBeginsWithWhatIsUsual(t *testing.T) {
	t.Parallel()
	s := serve(t)
	at := "/stairs/places?program=" + handball(t, s).ID
	for _, f := range sheets(t, at, second(s.as(t, "ines").get(at))) {
		if v := f.as(); v.Has("class-name") && v.Get("class") == "" {
			if v.Get("weekday") != "1" || v.Get("starts") != "18:00" || v.Get("minutes") != "60" || v.Get("places") != "16" {
				t.Errorf("it begins with %v", v)
			}
			return
		}
	}
	t.Error("there is no form for a new class")
}

// What cannot be kept as it stands is asked about, not dropped: half a line is not no line.
func TestHalfALineIsAskedAbout(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	tuesday := s.session(t, "Tuesday hall")
	drill := "/shelf/drill/" + drillNamed(t, s, "Colour call") + "/edit"
	away := ""
	for _, m := range in(t, s, func(tx *store.Tx) ([]store.Member, error) { return tx.Members(ctx, evening) }) {
		if !slices.ContainsFunc(tuesday.Leaders, func(l store.SessionLeader) bool { return l.Member == m.ID }) {
			away = m.ID
		}
	}
	for _, half := range []struct {
		at, name, value, says string
		row                   int
	}{
		{"/sessions/kit", "count-14", "5", "What is it called?", 0},
		{"/sessions/venue/" + tuesday.Venue.ID, "blocked-x-3", "4", "What is it called?", 0},
		{"/sessions/venue/" + tuesday.Venue.ID, "lay-kind-1", "handball", "How many?", 0},
		{"/sessions/class/" + tuesday.ClassID, "until-" + away, "20", "as well, or take the minutes out", 0},
		{"/roster/player/" + player(t, s, "Bo Lindahl").ID, "until", "2026-12-24", "What is not to be done until then?", -1},
		{drill, "v-target", "5", "name", -1},
		{drill, "v-target", "7.5", "the target is a whole number", 0},
	} {
		_, page := ines.get(half.at)
		forms := sheets(t, half.at, page)
		at := slices.IndexFunc(forms, func(f sheet) bool { return f.as().Has(half.name) })
		if at < 0 {
			t.Errorf("%s has no %s", half.at, half.name)
			continue
		}
		sent := forms[at].as()
		if half.row < 0 {
			half.row = len(sent[half.name]) - 1
		}
		sent[half.name][half.row] = half.value
		code, page := ines.post(forms[at].action, sent)
		if code != http.StatusUnprocessableEntity || !strings.Contains(page, half.says) {
			t.Errorf("%s of %q on %s: %d", half.name, half.value, half.at, code)
		}
	}
}

// Who presses a second button before the first is answered, or loses the network just then, has done what they did: the
// server goes on with what it was sent.
func TestWhatWasSentIsDoneThoughNobodyWaits(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	ines.Client.Timeout = 300 * time.Millisecond
	in(t, s, func(tx *store.Tx) (string, error) { // nobody is written down while this goes on
		if _, err := tx.Exec(ctx, `lock table player in exclusive mode`); err != nil {
			return "", err
		}
		_, err := ines.Client.PostForm(s.URL+"/roster/new", url.Values{"name": {"Zed Zimmer"}})
		if err == nil {
			t.Error("answered before it was done")
		}
		return "", nil
	})
	for until := time.Now().Add(10 * time.Second); ; time.Sleep(20 * time.Millisecond) {
		found := in(t, s, func(tx *store.Tx) ([]store.Player, error) {
			return tx.Players(ctx, store.PlayerFilter{Words: "Zed Zimmer"})
		})
		if len(found) == 1 {
			return
		}
		if time.Now().After(until) {
			t.Fatal("gone with the answer")
		}
	}
}
