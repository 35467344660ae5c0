package web

import (
	"fmt"
	"net/http"
	"testing"
	"time"
)

// A club's days and hours are its own: wherever in the world the server stands, every page says the same.
// It does not run beside others, since a program has one zone for all.
func TestNoPageHangsOnTheServersZone(t *testing.T) {
	here := time.Local
	t.Cleanup(func() { time.Local = here })
	told := map[string]string{}
	for _, hours := range []int{14, -12} {
		t.Run(fmt.Sprint(hours), func(t *testing.T) {
			time.Local = time.FixedZone("", hours*60*60)
			failed := map[string]bool{}
			s := serve(t)
			ines := s.as(t, "ines")
			hall := "/courtside/" + s.session(t, "Tuesday hall").ID
			ines.get(hall + "/state")
			mustHave(t, second(ines.get(hall+"/door")), "Ines Okafor, 17:15") // and a code that is another each time
			kinds := ines.crawl(func(_, at string, code int, page string) {
				if hours == 14 {
					told[at] = page
				}
				kind := ids.ReplaceAllString(at, "*")
				if then, now := firstDifference(told[at], page); now != then && !failed[kind] {
					failed[kind] = true
					t.Errorf("%s says %q, and %q where the server stands 26 hours further west", at, then, now)
				}
				if code >= http.StatusInternalServerError {
					t.Errorf("%s: %d", at, code)
				}
			})
			if kinds < 30 {
				t.Errorf("only %d kinds of pages", kinds)
			}
		})
	}
}

// firstDifference is what stands around the first place where two texts differ.
func firstDifference(a, b string) (inA, inB string) {
	n := min(len(a), len(b))
	i := 0
	for i < n && a[i] == b[i] {
		i++
	}
	around := func(s string) string { return s[max(0, i-40):min(len(s), i+20)] }
	return around(a), around(b)
}
