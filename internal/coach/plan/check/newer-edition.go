package check

import (
	"fmt"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
)

// NewerEdition: a drill was changed on the shelf since the plan took it.
type NewerEdition struct {
	At      Subject // the first station that has it, or the plan
	Drill   coach.Drill
	Changed []string
}

func (f NewerEdition) About() []Subject { return []Subject{f.At} }
func (f NewerEdition) Which() string    { return f.Drill.ID }

func (f NewerEdition) Says() string {
	says := fmt.Sprintf("%s has a newer edition", f.Drill.Name)
	if len(f.Changed) > 0 {
		says += ": " + say.List(f.Changed) + " changed"
	}
	return says + "."
}

func newerEdition(c *checking) {
	newest := map[string]coach.Drill{}
	for _, d := range c.in.Shelf {
		newest[d.ID] = d
	}
	said := map[string]bool{}
	for i, t := range c.Plan.Tasks() {
		d := newest[t.Drill]
		if d.Edition <= t.Edition || said[t.Drill] {
			continue
		}
		said[t.Drill] = true
		f := NewerEdition{At: OfPlan{"Plan"}.About()[0], Drill: d}
		if i < len(c.Stations) { // stations come first among the tasks
			f.At = stationOf(c.Stations[i]).Station
		}
		for _, change := range coach.Compare(c.in.Drill(t.Drill), d, c.in.Units) {
			if change.What != "Diagram" { // planning does not read it
				f.Changed = append(f.Changed, strings.ToLower(change.What))
			}
		}
		c.find(Note, work.Always, f, mend("Take it", edit.Edition{Task: taskOf(d)}))
	}
}
