package web

import (
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"

	"golang.org/x/net/html"

	"gruppo/internal/coach/plan/doc"
)

// choice is one thing that can be chosen, pressed or typed on a plan's page, as its script sends it.
type choice struct {
	do, at, value string
	list          bool // of a list that shows what is chosen
}

// whose is what a list is about: some say themselves for whom it is chosen, "group 2=…".
func (c choice) whose() string {
	whom, _, _ := strings.Cut(c.value, "=")
	if whom == c.value {
		whom = ""
	}
	return strings.Join([]string{c.do, c.at, whom}, " ")
}

// choices are all that a plan's page offers; chosen is what its lists show, by what they change.
func choices(t *testing.T, page string) (all []choice, chosen map[string]string) {
	t.Helper()
	root, err := html.Parse(strings.NewReader(page))
	if err != nil {
		t.Fatal(err)
	}
	chosen = map[string]string{}
	for form := range root.Descendants() {
		if form.Type != html.ElementNode || form.Data != "form" || !has(form, "data-do") {
			continue
		}
		do, at := attr(form, "data-do"), attr(form, "data-at")
		for e := range form.Descendants() {
			if e.Type != html.ElementNode || has(e, "disabled") || attr(e, "aria-disabled") == "true" {
				continue
			}
			w, is := control(form, e)
			switch {
			case !is || w.name != "value":
			case w.kind == "select":
				list := w.value != "" && !strings.HasPrefix(do, "add-") // else it adds something, and is as it was again
				if list {
					chosen[choice{do, at, w.value, true}.whose()] = w.value
				}
				others := slices.DeleteFunc(w.options, func(o string) bool { return o == "" || o == w.value })
				for i, o := range others {
					if i < 2 || i == len(others)-1 || i == len(others)/2 { // of seventy drills these will do
						all = append(all, choice{do, at, o, list})
					}
				}
			case w.kind == "button":
				all = append(all, choice{do, at, w.value, false})
			default:
				all = append(all, choice{do, at, attr(e, "data-before") + w.other(), false})
			}
		}
	}
	return all, chosen
}

// Whatever a plan's page offers can be done, and a list then shows what was chosen in it; it can be taken back each time.
func TestWhatAPlanOffersCanBeChosen(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tuesday := withMore(t, s, s.session(t, "Tuesday hall"))
	p := &onPlan{s.as(t, "ines"), "/sessions/" + tuesday.ID, ""}
	_, page := p.get(p.at + "?tab=all")
	p.version = strings.Split(strings.SplitN(page, `data-version="`, 2)[1], `"`)[0]
	for _, kind := range doc.Kinds {
		if !slices.ContainsFunc(tuesday.Plan.Blocks, func(b doc.Block) bool { return b.Kind == kind }) {
			page = p.edit("add-block", "", string(kind))
		}
	}
	offered, _ := choices(t, page)
	if len(offered) < 150 {
		t.Errorf("only %d things are offered", len(offered))
	}
	for _, c := range offered {
		was := p.version
		code, body := p.try("/plan", url.Values{"do": {c.do}, "at": {c.at}, "value": {c.value}})
		if code != http.StatusOK {
			if c.do != "area" { // "20 × 12 more" is no area, and is said to be none
				t.Errorf("%+v: %d", c, code)
			}
			continue
		}
		if c.list {
			if _, chosen := choices(t, body); chosen[c.whose()] != c.value && chosen[c.whose()] != "" {
				t.Errorf("%+v: the list shows %q", c, chosen[c.whose()])
			}
		}
		if p.version != was {
			p.send("/undo", url.Values{})
		}
	}
}
