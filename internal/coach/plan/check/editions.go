package check

import (
	"fmt"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// checkEditions offers the newer edition of what was changed on the shelf since.
func (pic *checking) checkEditions(in work.Input) {
	newest := map[string]coach.Drill{}
	for _, d := range in.Shelf {
		newest[d.ID] = d
	}
	seen := map[string]bool{}
	for i, t := range pic.Plan.Tasks() {
		d := newest[t.Drill]
		if d.Edition <= t.Edition || seen[t.Drill] {
			continue
		}
		seen[t.Drill] = true
		where := "Plan"
		if i < len(pic.Stations) {
			where = fmt.Sprintf("Station %d", i+1)
		}
		var what []string
		for _, c := range coach.Compare(in.Drill(t.Drill), d) {
			if c.What != "Diagram" { // planning does not read it
				what = append(what, strings.ToLower(c.What))
			}
		}
		says := fmt.Sprintf("%s has a newer edition", d.Name)
		if len(what) > 0 {
			says += ": " + say.List(what) + " changed"
		}
		pic.find(Note, "edition "+t.Drill, where, work.Always, says+".", mend("Take it", "edition", 0, fmt.Sprintf("%s@%d", t.Drill, d.Edition)))
	}
}
