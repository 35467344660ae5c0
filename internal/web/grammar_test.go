package web

import (
	"html"
	"regexp"
	"strings"
	"testing"
)

var (
	unread = regexp.MustCompile(`(?s)<(script|style|template|svg)\b.*?</(script|style|template|svg)>`)
	ends   = regexp.MustCompile(`</?(p|li|td|th|tr|div|section|h[1-6]|dd|dt|button|option|label|summary|header|ul|ol|table|br|legend|a|small)\b[^>]*>`)
	tag    = regexp.MustCompile(`<[^>]*>`)
	spaces = regexp.MustCompile(`[ \t\n]+`)
	wrongs = []*regexp.Regexp{
		regexp.MustCompile(`(^|[^.,:–−\d-])1 (turns|points|courts|areas|tries|players|minutes|weeks|days|rounds|marks|drills|stations|groups|balls|letters|faults|falls|sessions|children|forms|skills|people|steps|pairs|places|notes|keys|classes|stages|criteria|strokes|things|dates)\b`),
		regexp.MustCompile(`\pL :(\s|$)`),                        // a space before a colon
		regexp.MustCompile(`\b(for|of|to|with|and) [.,;](\s|$)`), // a word that is missing
		regexp.MustCompile(`,\s*,|·\s*·|“\s*”|\(\s*\)`),          // nothing between two marks
		regexp.MustCompile(`\pL \.(\s|$)`),                       // a space before a full stop
	}
)

// grammar is what a page says that nobody would: one of many, a word that is missing, a space before a mark.
func grammar(page string) (out []string) {
	if !strings.HasPrefix(strings.TrimSpace(page), "<") || strings.Contains(page, `x-data="`) { // its words are put in by the browser, where the wanderer reads them
		return nil
	}
	text := tag.ReplaceAllString(ends.ReplaceAllString(unread.ReplaceAllString(page, ""), "\x01"), "")
	for _, part := range strings.Split(html.UnescapeString(text), "\x01") {
		part = strings.TrimSpace(spaces.ReplaceAllString(part, " "))
		for _, w := range wrongs {
			if at := w.FindStringIndex(part); at != nil {
				out = append(out, part[max(0, at[0]-40):min(len(part), at[1]+20)])
			}
		}
	}
	return out
}

func TestTheNetOfGrammarCatches(t *testing.T) {
	for page, caught := range map[string]bool{
		"<p>1 turns</p>": true, "<p>21 turns</p>": false, "<p>0.1 points</p>": false, "<p>has a form for .</p>": true,
		"<p><b>Aria</b> : not seen</p>": true, "<p>7 : 5</p>": false, "<p>To, , now</p>": true, "<p>Shown “”.</p>": true,
		"<p>1 turn, 2 turns.</p>": false,
	} {
		if got := grammar(page); len(got) > 0 != caught {
			t.Errorf("%s: %q", page, got)
		}
	}
}
