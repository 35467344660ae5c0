package planner

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// runSays is what a run-through comes to: how many after one another, how long, and who judges.
func (v planView) runSays(b work.Span) string {
	c := b.Cycle
	says := fmt.Sprintf("%s, %d at once, %s each: %s in all.", say.Count(len(c.Players), "player"),
		min(c.Places, len(c.Players)), coach.Clock(work.Seconds(c.Work)), coach.Clock(c.Takes))
	var judges []string
	for _, j := range c.Judged {
		if !slices.Contains(judges, j) {
			judges = append(judges, j)
		}
	}
	switch {
	case c.Judges == doc.Partners:
		says += " Whoever comes next judges."
	case len(judges) > 0:
		says += " " + say.List(judges) + " " + say.Verb(len(judges), "judges", "judge") + "."
	}
	return says
}

// routineView compares a routine week by week: for each player, and for the class.
type routineView struct {
	planView
	Block work.Span
	Drill coach.Drill
	Days  []string // of the last run-throughs, the newest last
	Rows  []routineRow
	Class []string // how many skills were clean on average, by day
	Weak  []weakSkill
}

// routineRow is a player, with what they made on each day.
type routineRow struct {
	Name  string
	Cells []routineCell
}

// routineCell is a player's best run-through of a day; nothing where they made none.
type routineCell struct {
	Made  string // "7 of 8"
	Falls string // "1 fall"
	More  int    // clean skills more than on the day before it; negative: fewer
	First bool
}

// weakSkill is a skill with how often it was not clean on the last day, and before.
type weakSkill struct {
	Name      string
	Now, Then string
	share     float64
}

// mostDays are compared.
const mostDays = 6

func routinePage(c *shell.Ctx) error {
	var v routineView
	var marks []coach.Mark
	var err error
	v.Loaded, err = loaded(c, func(tx *store.Tx, l *app.Loaded) (err error) {
		n, err := strconv.Atoi(c.Param("block"))
		if err != nil || n < 0 || n >= len(l.Session.Plan.Blocks) || l.Session.Plan.Blocks[n].Kind != doc.Run {
			return shell.NotFound("That block is no run-through.")
		}
		tasks := l.Session.Plan.Blocks[n].Tasks()
		if len(tasks) == 0 {
			return nil
		}
		ids := []string{}
		for _, p := range l.Players {
			ids = append(ids, p.ID)
		}
		marks, err = tx.Marks(c.Ctx(), store.MarkFilter{Drill: tasks[0].Drill, Players: ids})
		return err
	})
	if err != nil {
		return err
	}
	n, _ := strconv.Atoi(c.Param("block"))
	v.Block = v.Picture.Blocks[n]
	if tasks := v.Block.Block.Tasks(); len(tasks) > 0 {
		v.Drill = v.Input.Drill(tasks[0].Drill)
		v.compare(marks, c.Loc)
	}
	return c.Page(pages, http.StatusOK, "routine.html", "Routine", v)
}

// compare lays the marks out by day. Of several run-throughs of a day the best counts.
func (v *routineView) compare(marks []coach.Mark, loc *time.Location) {
	best := map[string]map[string]coach.Mark{} // by player, by day
	var days []string
	for _, m := range marks {
		if m.Struck || m.Tries == 0 {
			continue
		}
		day := m.At.In(loc).Format(time.DateOnly)
		if !slices.Contains(days, day) {
			days = append(days, day)
		}
		if best[m.PlayerID] == nil {
			best[m.PlayerID] = map[string]coach.Mark{}
		}
		if was, had := best[m.PlayerID][day]; !had || m.Figure > was.Figure {
			best[m.PlayerID][day] = m
		}
	}
	slices.Sort(days)
	days = days[max(0, len(days)-mostDays):]
	for _, d := range days {
		at, _ := time.Parse(time.DateOnly, d)
		v.Days = append(v.Days, at.Format("2 Jan"))
		sum, n := 0.0, 0
		for _, of := range best {
			if m, ok := of[d]; ok {
				sum, n = sum+m.Figure/float64(m.Tries), n+1
			}
		}
		v.Class = append(v.Class, fmt.Sprintf("%.0f in 100 clean, %s", 100*sum/float64(max(1, n)), say.Count(n, "player")))
	}
	for _, p := range v.Players {
		row := routineRow{Name: p.Name}
		last := -1.0
		for _, d := range days {
			m, ok := best[p.ID][d]
			if !ok {
				row.Cells = append(row.Cells, routineCell{})
				continue
			}
			cell := routineCell{Made: m.Said(coach.Criterion{Measure: coach.Makes}), First: last < 0}
			if falls, _, _ := strings.Cut(m.Note, ":"); strings.Contains(falls, "fall") {
				cell.Falls = falls
			}
			if last >= 0 {
				cell.More = int(m.Figure - last)
			}
			last = m.Figure
			row.Cells = append(row.Cells, cell)
		}
		v.Rows = append(v.Rows, row)
	}
	v.weak(best, days)
}

// weak lists the skills that were not clean most often on the last day, with how it was on the day before.
func (v *routineView) weak(best map[string]map[string]coach.Mark, days []string) {
	share := func(skill int, day string) (missed, of int) {
		for _, marks := range best {
			if m, ok := marks[day]; ok && skill < len(m.Points) {
				of++
				if !m.Points[skill] {
					missed++
				}
			}
		}
		return missed, of
	}
	words := func(missed, of int) string {
		if of == 0 {
			return ""
		}
		return fmt.Sprintf("%d of %d", missed, of)
	}
	if len(days) == 0 {
		return
	}
	for i, name := range v.Drill.Routine {
		missed, of := share(i, days[len(days)-1])
		w := weakSkill{Name: name, Now: words(missed, of), share: float64(missed) / float64(max(1, of))}
		if len(days) > 1 {
			w.Then = words(share(i, days[len(days)-2]))
		}
		if missed > 0 {
			v.Weak = append(v.Weak, w)
		}
	}
	slices.SortStableFunc(v.Weak, func(a, b weakSkill) int {
		switch {
		case a.share > b.share:
			return -1
		case a.share < b.share:
			return 1
		}
		return 0
	})
}

// Says is the class's way from the first to the last day, where it is more than noise.
func (v routineView) Says() string {
	if len(v.Drill.Routine) == 0 {
		return "Write the routine’s skills down in order on its page: then faults are counted skill by skill."
	}
	if len(v.Days) == 0 {
		return "Nobody has run through it yet. The phone counts faults and falls, skill by skill."
	}
	var then, now, tries float64
	for _, r := range v.Rows {
		if len(r.Cells) > 0 {
			then, now, tries = then+made(r.Cells[0]), now+made(r.Cells[len(r.Cells)-1]), tries+1
		}
	}
	says := "Best run-through of each day."
	if len(v.Days) > 1 && tries > 0 {
		low, high := evidence.Wilson(int(now), int(tries*float64(len(v.Drill.Routine))))
		says += fmt.Sprintf(" On the last day %.0f skills were clean, on the first %.0f: between %.0f and %.0f in 100 now.",
			now, then, 100*low, 100*high)
	}
	return says
}

func made(c routineCell) float64 {
	n := 0.0
	fmt.Sscanf(c.Made, "%f", &n)
	return n
}
