package check

import (
	"fmt"
	"slices"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
)

// NeverUp: in the second half of a term something that players lack has not come up, no day to come is for it, and this
// plan does not have it either.
type NeverUp struct {
	OfPlan
	Wordings []string
	Skill    string // of the first
}

func (f NeverUp) Which() string { return f.Skill }

func (f NeverUp) Says() string {
	for i := range f.Wordings {
		f.Wordings[i] = "“" + f.Wordings[i] + "”"
	}
	return fmt.Sprintf("%s never came up this term, and no day to come is for it.", say.Few(f.Wordings))
}

func neverUp(c *checking) {
	up := c.in.CameUp
	if up == nil || 2*day.Of(c.in.Start).Sub(up.From) < up.Until.Sub(up.From) {
		return
	}
	here := map[string]bool{} // skills of this plan
	for _, t := range c.Plan.Tasks() {
		for _, k := range c.in.Drills[t.Drill].Skills {
			here[k] = true
		}
	}
	f := NeverUp{OfPlan: OfPlan{"Criterion"}}
	known := map[string]bool{}
	for _, p := range c.in.Players {
		for _, k := range c.in.Missing[p.ID] {
			if known[k.ID] || here[k.Skill] || slices.Contains(up.Skills, k.Skill) || slices.Contains(up.Marked, k.ID) {
				continue
			}
			known[k.ID] = true
			if f.Skill == "" {
				f.Skill = k.Skill
			}
			f.Wordings = append(f.Wordings, k.Wording)
		}
	}
	if len(f.Wordings) > 0 {
		c.find(Note, work.Always, f, c.practises(f.Skill)...)
	}
}

// practises puts a drill of the shelf for a skill at the last station.
func (c *checking) practises(skill string) []Mend {
	at := slices.IndexFunc(c.in.Shelf, func(d coach.Drill) bool { return slices.Contains(d.Skills, skill) })
	if at < 0 || len(c.Stations) < 2 {
		return nil
	}
	d, last := c.in.Shelf[at], c.Stations[len(c.Stations)-1]
	words := strings.TrimSpace(d.Name) + " at " + stationOf(last).Station.Name
	return []Mend{mend(words, edit.Drill{Station: last.ID, Task: doc.Task{Drill: d.ID, Edition: d.Edition}})}
}
