package web

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/store"
)

var linkIn = regexp.MustCompile(`/for/[0-9a-f]{48}`)

// linkFor makes a guardian's link for a player.
func (s site) linkFor(t testing.TB, id string) string {
	t.Helper()
	_, body := s.as(t, "ines").post("/players/"+id+"/link", url.Values{"label": {"at home"}, "weeks": {"12"}})
	link := linkIn.FindString(body)
	if link == "" {
		t.Fatal("no link is shown")
	}
	return link
}

// says sends what a guardian's page kept, and returns what was not taken, by its number.
func (b browser) says(t *testing.T, link string, items ...map[string]any) map[string]string {
	t.Helper()
	for i := range items {
		items[i]["id"] = fmt.Sprint(i)
	}
	body, _ := json.Marshal(map[string]any{"items": items})
	code, answer := b.do("POST", link+"/days", "application/json", strings.NewReader(string(body)))
	if code != http.StatusOK {
		t.Fatalf("what was said: %d %s", code, answer)
	}
	var got struct {
		Answers []struct {
			ID, Why string
			Kept    bool
		}
	}
	if err := json.Unmarshal([]byte(answer), &got); err != nil || len(got.Answers) != len(items) {
		t.Fatal(err, answer)
	}
	out := map[string]string{}
	for _, a := range got.Answers {
		if !a.Kept {
			out[a.ID] = a.Why
		}
	}
	return out
}

// A class task is given, ticked at two homes, and seen by the coach; what may count counts, once.
func TestPracticeAtHomeAnswersBack(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	bo, mina := player(t, s, "Bo Lindahl"), player(t, s, "Mina Ferro")
	p := handball(t, s)
	var rally coach.Criterion // one that is measured with one figure
	for _, st := range p.Stages {
		for _, k := range st.Criteria {
			if k.Measure == coach.Streak && rally.ID == "" {
				rally = k
			}
		}
	}
	given := url.Values{
		"class": {s.session(t, "Tuesday hall").ClassID}, "what-0": {"Wall passes"}, "much-0": {"20 ×"}, "what-1": {"Lob and catch"}, "much-1": {"1:30"},
		"sets": {"2"}, "day": {"2", "4"}, "from": {"2026-11-17"}, "until": {"2026-12-20"}, "steps": {"1"}, "unit": {"in a row"}, "criterion": {rally.ID},
	}
	for field, wrong := range map[string]struct{ typed, says string }{
		"much-0": {"often", "How much is written like"},
		"until":  {"2026-11-01", "cannot be before the first"},
		"sets":   {"0", "from 1 to 20"},
		"levels": {"30, 10", "from the easiest to the hardest"},
		"what-0": {strings.Repeat("x", 121), "120 are the most"},
	} {
		v := url.Values{}
		for k := range given {
			v[k] = given[k]
		}
		v.Set(field, wrong.typed)
		if code, body := ines.post("/season/home/new", v); code != http.StatusUnprocessableEntity || !strings.Contains(body, wrong.says) ||
			!strings.Contains(body, `value="`+wrong.typed) || !strings.Contains(body, `value="1:30"`) {
			t.Errorf("%s: %d, or something typed is lost", wrong.says, code)
		}
	}
	at := ines.at("/season/home/new", given)
	id := strings.TrimPrefix(at, "/season/home/")
	home, other, stranger := s.linkFor(t, bo.ID), s.linkFor(t, mina.ID), s.browser(t)
	_, page := stranger.get(home)
	mustHave(t, page, "Wall passes", "20 × 2: about 2 min", "Tuesday and Thursday, until 20 Dec", "after “easy” 3 times more", "write to Ines")
	if strings.Contains(page, "Lob and catch") || strings.Contains(page, "Mina") {
		t.Error("what is not open yet is shown, or another child")
	}

	said := func(day, felt string, figure any, minutes int) map[string]any {
		return map[string]any{
			"task": id, "day": day, "done": true, "felt": felt, "figure": figure, "words": "",
			"at": evening.Add(time.Duration(minutes) * time.Minute).UnixMilli(),
		}
	}
	first := said("2026-11-19", "easy", 12, -60)
	if no := stranger.says(t, home, first, said("2026-11-24", "easy", 9, -50), said("2026-11-17", "easy", nil, -40)); len(no) > 0 {
		t.Fatalf("not taken: %v", no)
	}
	stranger.says(t, home, first, first) // sent again
	stranger.says(t, home, said("2026-11-24", "hard", 3, -55))
	no := stranger.says(t, home, said("2026-12-03", "", nil, 0), said("2026-11-16", "", nil, 0), said("2026-11-19", "great", nil, 0),
		map[string]any{"task": store.NewID(), "day": "2026-11-19", "done": true, "at": 1})
	if len(no) != 4 {
		t.Errorf("days to come, before it began, felt like nothing, of another task: only %v were refused", no)
	}
	_, page = stranger.get(home)
	mustHave(t, page, "Lob and catch", "Best so far: 12 in a row")
	_, seen := ines.get(at)
	mustHave(t, seen, "3 of 3", "Part 2 of 2", "they are shown, and count for nothing", "best 12 in a row")
	marks := func() (n []coach.Mark) {
		all := in(t, s, func(tx *store.Tx) ([]coach.Mark, error) {
			return tx.Marks(ctx, store.MarkFilter{Player: bo.ID, Criterion: rally.ID})
		})
		for _, m := range all {
			if m.Home && !m.Struck {
				n = append(n, m)
			}
		}
		return n
	}
	if len(marks()) != 0 {
		t.Error("it counts although the club did not say so")
	}
	in(t, s, func(tx *store.Tx) (struct{}, error) {
		rally.Home = true
		return struct{}{}, tx.PutCriterion(ctx, rally, evening.Add(-time.Hour))
	})
	stranger.says(t, home, said("2026-11-24", "easy", 15, -30))
	stranger.says(t, home, said("2026-11-24", "easy", 15, -29))
	stranger.says(t, home, said("2026-11-24", "easy", 17, -28))
	if m := marks(); len(m) != 1 || m[0].Figure != 17 || m[0].SessionID != "" {
		t.Errorf("marks from home: %+v", m)
	}
	if _, page := ines.get("/players/" + bo.ID); !strings.Contains(page, "at home") {
		t.Error("the mark does not say where it was made")
	}

	// without scripts, and for the other child: the same
	form := url.Values{"task": {id}, "day": {"2026-11-24"}}
	stranger.at(other+"/day", form)
	form.Set("about", "1")
	form.Set("felt", "hard")
	form.Set("words", "tired")
	stranger.at(other+"/day", form)
	_, seen = ines.get(at)
	mustHave(t, seen, "1 of 3", "tired", "Part 1 of 2")
	form.Set("figure", "lots")
	if code, body := stranger.post(other+"/day", form); code != http.StatusUnprocessableEntity || !strings.Contains(body, "a number from 0") {
		t.Errorf("a figure that is none: %d", code)
	}
	ines.at(at+"/open", url.Values{"player": {mina.ID}, "parts": {"2"}})
	if _, page := stranger.get(other); !strings.Contains(page, "Lob and catch") {
		t.Error("the coach opened the next part")
	}
	if _, sheet := ines.get(at + "/sheet"); strings.Count(sheet, `class="practice-page"`) != 19 || !strings.Contains(sheet, "practice-box") {
		t.Error("a sheet for each player, with boxes")
	}
	ines.at(at+"/end", nil)
	links := in(t, s, func(tx *store.Tx) ([]store.GuardianLink, error) { return tx.GuardianLinks(ctx, bo.ID) })
	ines.at("/links/"+links[0].ID+"/withdraw", nil)
	if code, _ := stranger.do("POST", home+"/days", "application/json", strings.NewReader(`{"items":[]}`)); code != http.StatusNotFound {
		t.Errorf("a withdrawn link takes answers: %d", code)
	}
}

// What a child must not do now is left out at home too, on every page and paper; a limit about pictures holds nothing back.
// What a drill says stands on the family's page and on paper, whole: how it is set up, what to look for, easier and harder
// ways, and a caution with a comma is one sentence.
func TestPracticeAtHomeSaysTheWholeDrill(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, bo := s.as(t, "ines"), player(t, s, "Bo Lindahl")
	at := ines.at("/season/home/new", url.Values{
		"player": {bo.ID}, "what-0": {"Lob and catch"}, "much-0": {"20 ×"}, "care-0": {"Look up, then throw, never at a window"},
		"sets": {"1"}, "day": {"2"}, "from": {"2026-11-17"}, "until": {"2026-12-20"},
	})
	var lob coach.Drill
	for _, d := range in(t, s, func(tx *store.Tx) ([]coach.Drill, error) {
		return tx.DrillsOf(ctx, []string{drillNamed(t, s, "Lob and catch")})
	}) {
		lob = d
	}
	_, page := s.browser(t).get(s.linkFor(t, bo.ID))
	_, sheet := ines.get(at + "/sheet")
	for where, html := range map[string]string{"the family’s page": page, "the sheet": sheet} {
		read := words(html)
		for _, says := range []string{
			"Look up, then throw, never at a window", lob.Keys[0], lob.Cautions[0], lob.Variants[0].Name, words(lob.How())[:30],
		} {
			if !strings.Contains(read, says) {
				t.Errorf("%s does not say “%s”", where, says)
			}
		}
	}
}

func TestPracticeAtHomeLeavesOutWhatIsForbidden(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	tove, bo := player(t, s, "Tove Nygaard"), player(t, s, "Bo Lindahl") // Tove must not jump
	in(t, s, func(tx *store.Tx) (struct{}, error) {
		return struct{}{}, tx.SetLimits(ctx, bo.ID, []store.Limit{{What: "pictures"}})
	})
	at := ines.at("/season/home/new", url.Values{
		"class": {s.session(t, "Tuesday hall").ClassID}, "what-0": {"Jump-shot approach"}, "much-0": {"10 ×"}, "what-1": {"Lob and catch"},
		"much-1": {"10 ×"}, "sets": {"1"}, "more": {"1"}, "most": {"4"}, "day": {"2", "4"}, "from": {"2026-11-17"}, "until": {"2026-12-20"},
	})
	_, coach := ines.get(at)
	mustHave(t, coach, "Tove must not: jumping", "leaves out Jump-shot approach")
	if strings.Count(coach, "leaves out") != 1 || strings.Contains(coach, "must not: pictures") {
		t.Error("somebody else leaves something out, or a picture holds a practice back")
	}
	_, page := s.browser(t).get(s.linkFor(t, tove.ID))
	mustHave(t, page, "Tove must not, for now: jumping.", "It asks for jumping: leave it out.")
	if strings.Count(page, "leave it out.") != 1 {
		t.Error("the other part asks for nothing that is forbidden")
	}
	if _, page := s.browser(t).get(s.linkFor(t, bo.ID)); strings.Contains(page, "must not") || strings.Contains(page, "leave it out") {
		t.Error("Bo may do all of it")
	}
	_, paper := ines.get(at + "/sheet")
	mustHave(t, paper, "Must not, for now: jumping.", "It asks for jumping: leave it out.")
	_, report := ines.get("/players/" + tove.ID + "/report")
	mustHave(t, report, "without what asks for jumping")
}

// A practice that was just given asks for nothing yet, and its table begins with its first week; two of one first name are
// told apart on paper and in the list.
func TestAPracticeThatWasJustGiven(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines := s.as(t, "ines")
	ines.post("/roster/new", url.Values{"name": {"Bo Sand"}})
	given := url.Values{
		"player": {player(t, s, "Bo Lindahl").ID, player(t, s, "Bo Sand").ID}, "what-0": {"Wall passes"}, "much-0": {"20 ×"}, "sets": {"1"},
		"day": {"5"}, "from": {"2026-11-25"}, "until": {"2026-12-20"}, // a Wednesday; Fridays are asked for
	}
	at := ines.at("/season/home/new", given)
	_, list := ines.get("/season/home")
	mustHave(t, list, "Bo Lindahl and Bo Sand", "no day is due yet")
	_, page := ines.get(at)
	if weeks := strings.Count(page, `colspan="7"`); weeks != 1 || strings.Contains(page, "0 of 0") {
		t.Errorf("its table has %d weeks, or counts nothing of nothing", weeks)
	}
	_, paper := ines.get(at + "/sheet")
	mustHave(t, paper, "<bdi>Bo L.</bdi>: ", "<bdi>Bo S.</bdi>: ")
}
