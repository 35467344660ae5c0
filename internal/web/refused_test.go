package web

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"testing"

	"golang.org/x/net/html"
)

// field is one of a form, as a browser would send it.
type field struct {
	name, kind, value string
	on                bool     // a box or a button of several that is chosen
	options           []string // of a list
	most              int      // characters it takes; 0: as many as one likes
	needed            bool     // a browser sends nothing before something stands in it
}

// sheet is a form of a page.
type sheet struct {
	action string
	fields []field
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
	root, err := html.Parse(strings.NewReader(page))
	if err != nil {
		t.Fatalf("%s: %v", at, err)
	}
	for n := range root.Descendants() {
		if n.Type != html.ElementNode || n.Data != "form" || !strings.EqualFold(attr(n, "method"), "post") {
			continue
		}
		f := sheet{action: attr(n, "action")}
		if f.action == "" {
			f.action = at
		}
		id, plain := attr(n, "id"), false
		for e := range root.Descendants() {
			if e.Type != html.ElementNode || has(e, "disabled") || !of(e, n, id) {
				continue
			}
			if attr(e, "name") == "" {
				plain = plain || e.Data == "button"
				continue
			}
			w := field{name: attr(e, "name"), kind: attr(e, "type"), value: attr(e, "value")}
			w.most, _ = strconv.Atoi(attr(e, "maxlength"))
			w.needed = has(e, "required") && !has(n, "novalidate")
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
				continue
			}
			f.fields = append(f.fields, w)
		}
		if plain { // it is sent by a button that says nothing of its own
			f.fields = slices.DeleteFunc(f.fields, func(w field) bool { return w.kind == "button" })
		}
		out = append(out, f)
	}
	return out
}

// of says whether a field belongs to a form: it stands in it, or names it.
func of(e, form *html.Node, id string) bool {
	if has(e, "form") {
		return id != "" && attr(e, "form") == id
	}
	for p := e.Parent; p != nil; p = p.Parent {
		if p == form {
			return true
		}
	}
	return false
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

// Whatever form is refused comes back with all that was typed, chosen and crossed in it.
func TestARefusedFormLosesNothing(t *testing.T) {
	t.Parallel()
	s := serve(t)
	type found struct {
		browser
		at string
		n  int // which of the page's
	}
	var all []found
	seen := map[string]int{}
	see := func(b browser, at, page string) {
		for n, f := range sheets(t, at, page) {
			kind := ids.ReplaceAllString(f.action, "*")
			if seen[kind]++; seen[kind] <= 2 && f.typed("words") {
				all = append(all, found{b, at, n})
			}
		}
	}
	ines, nobody := s.as(t, "ines"), s.browser(t)
	ines.crawl(func(_, at string, _ int, page string) { see(ines, at, page) })
	see(nobody, "/start", second(nobody.get("/start")))
	see(nobody, "/sign-in", second(nobody.get("/sign-in")))
	refused := 0
	for _, f := range all {
		for _, words := range []string{"zz 7 <b>é", strings.Repeat("word ", 100) + "end", ""} {
			_, page := f.get(f.at)
			now := sheets(t, f.at, page)
			if f.n >= len(now) || !now[f.n].typed(words) {
				continue // what was taken just now has changed the page
			}
			form := now[f.n]
			sent := form.fill(words)
			code, page := f.post(form.action, sent)
			if code >= http.StatusInternalServerError {
				t.Errorf("%s on %s with %.9q: %d", form.action, f.at, words, code)
			}
			if code != http.StatusUnprocessableEntity {
				continue
			}
			refused++
			back := sheets(t, form.action, page)
			i := slices.IndexFunc(back, func(b sheet) bool {
				return b.action == form.action && !slices.ContainsFunc(b.fields, func(w field) bool {
					return w.kind == "hidden" && !slices.Contains([]string{"shown", "version", "rows"}, w.name) && sent.Get(w.name) != w.value
				})
			})
			if i < 0 {
				t.Errorf("%s on %s with %.9q: the form is not on the page that refuses it: %v", form.action, f.at, words, sent)
			} else if lost := back[i].lost(sent); len(lost) > 0 {
				t.Errorf("%s on %s with %.9q: %q", form.action, f.at, words, lost)
			}
		}
	}
	if len(all) < 40 || refused < 60 {
		t.Errorf("only %d forms were found, and %d refused", len(all), refused)
	}
}
