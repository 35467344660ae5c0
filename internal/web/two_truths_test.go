package web

import (
	"encoding/json"
	"fmt"
	"html"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"gruppo/internal/store"
)

// What a phone gets of a station, and of its groups.
type phoneState struct {
	Stations []struct {
		Name, Target, Key string
		N                 int
		Visits            []int
		Forms             []struct {
			Target string
			N      int
			Each   int
		}
	}
	Groups  []struct{ Players []string }
	Players []struct{ ID, Name, Called, Said string }
	Key     string
}

// read is a page's words without its tags, as one line.
func words(page string) string {
	page = unread.ReplaceAllString(page, " ")
	return spaces.ReplaceAllString(html.UnescapeString(tag.ReplaceAllString(page, " ")), " ")
}

// Plans that are proposed, in two sports and several shapes, and an evening that is run on each: what is asked, with which
// key, who has how many tries and who was seen is the same on the plan, on paper, on the phone and in what happened.
func TestTwoScreensNeverContradictEachOther(t *testing.T) {
	t.Parallel()
	s := serve(t)
	for _, c := range []struct{ class, shape, aim string }{
		{"Tuesday hall", "circuit", "skill passing"},
		{"Thursday hall", "game-key-game", "skill shooting"},
		{"Skipping club", "circuit", "skill rope rhythm"},
		{"Saturday squad", "parts", "skill defending"},
	} {
		session := s.session(t, c.class)
		who := map[string]string{"Skipping club": "leila", "Thursday hall": "tomasz"}[c.class]
		if who == "" {
			who = "ines"
		}
		b := hall{s.as(t, who), session.ID}
		p := &onPlan{b.browser, "/sessions/" + session.ID, strconv.Itoa(session.Version)}
		p.send("/propose", url.Values{"shape": {c.shape}, "aim": {c.aim}})
		read := func() (st phoneState) {
			_, raw := b.get("/courtside/" + session.ID + "/state")
			if err := json.Unmarshal([]byte(raw), &st); err != nil {
				t.Fatalf("%s: %v", c.class, err)
			}
			return st
		}
		st := read()
		if len(st.Stations) == 0 {
			t.Fatalf("%s has no stations", c.class)
		}
		_, plan := b.get("/sessions/" + session.ID)
		_, sheet := b.get("/sessions/" + session.ID + "/print")
		_, cards := b.get("/sessions/" + session.ID + "/print/cards")
		for i, at := range st.Stations {
			mark := fmt.Sprintf("%s, %s, station %d", c.class, c.shape, i+1)
			for where, page := range map[string]string{"plan": html.UnescapeString(plan), "sheet": words(sheet), "cards": words(cards)} {
				if !strings.Contains(page, at.Target) {
					t.Errorf("%s: the phone asks %q, the %s does not", mark, at.Target, where)
				}
				if where != "plan" && !strings.Contains(page, at.Key) {
					t.Errorf("%s: the phone’s key is %q, the %s has another", mark, at.Key, where)
				}
			}
			for _, g := range at.Visits {
				if g < 0 {
					continue
				}
				f := at.Forms[g]
				asked := at.N
				if f.N > 0 {
					asked = f.N
				}
				if strings.Contains(at.Target+f.Target, "good ones") && f.Each > 0 && asked > f.Each {
					t.Errorf("%s: %d good ones are asked of who has %d tries", mark, asked, f.Each)
				}
			}
		}
		// an evening: every third is looked at, one pair counts
		b.clock(store.NewID(), "start")
		seen := map[string]bool{}
		for i, pl := range st.Players {
			if i%3 == 0 && pl.Said != "away" && pl.Said != "absent" {
				b.item(item("looked", pl.ID))
				seen[pl.Name] = true
			}
		}
		b.clock(store.NewID(), "end")
		_, page := b.get("/sessions/" + session.ID + "/run")
		m := regexp.MustCompile(`(\d+) of (\d+) seen`).FindStringSubmatch(page)
		_, unseen, _ := strings.Cut(page, "Seen by nobody:")
		unseen, _, _ = strings.Cut(unseen, "</p>")
		came := 0
		for _, pl := range st.Players {
			if pl.Said == "away" || pl.Said == "absent" {
				continue
			}
			came++
			if strings.Contains(unseen, pl.Name) == seen[pl.Name] {
				t.Errorf("%s: %s was looked at: %v; what happened says seen by nobody:%s", c.class, pl.Name, seen[pl.Name], unseen)
			}
		}
		if m == nil || m[1] != fmt.Sprint(len(seen)) || m[2] != fmt.Sprint(came) {
			t.Errorf("%s: %v, and %d of %d were looked at", c.class, m, len(seen), came)
		}
	}
}
