package planner

import (
	"cmp"
	"fmt"
	"net/http"
	"slices"
	"strconv"
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
func (v *planView) runSays(b work.Span) string {
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
	Went  evidence.RunThroughs
	Rows  []routineRow
	Weak  []weakSkill
}

// routineRow is a player, with what they made on each day.
type routineRow struct {
	Name  string
	Cells []routineCell
}

// routineCell is a player's best run-through of a day; nothing where they made none.
type routineCell struct {
	Made string // "7 of 8"
	Note string // what the judge kept beside it: "1 fall: Side swing"
	More int    // clean skills more than on the day before it; negative: fewer
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
	v := routineView{}
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
	return c.Page(pages, http.StatusOK, "routine.html", "Routine", &v)
}

// compare lays the marks out by day.
func (v *routineView) compare(marks []coach.Mark, loc *time.Location) {
	v.Went = evidence.RunThrough(marks, loc, mostDays)
	for _, p := range v.Players {
		row := routineRow{Name: p.Name}
		var last *coach.Mark
		for _, d := range v.Went.Days {
			var cell routineCell
			if m, ok := v.Went.On(p.ID, d); ok {
				cell.Made, cell.Note = m.Said(coach.Criterion{Measure: coach.Makes}), m.Note
				if last != nil && last.Tries == m.Tries { // as long as it was
					cell.More = int(m.Figure - last.Figure)
				}
				last = &m
			}
			row.Cells = append(row.Cells, cell)
		}
		v.Rows = append(v.Rows, row)
	}
	v.weak()
}

// Class is how much of the routine was clean on each day.
func (v routineView) Class() (out []string) {
	for _, d := range v.Went.Days {
		all := v.Went.All(d)
		out = append(out, fmt.Sprintf("%.0f in 100 clean, %s", 100*all.Share(), say.Count(all.Players, "player")))
	}
	return out
}

// weak lists the skills that were not clean most often on the last day, with how it was on the day before.
func (v *routineView) weak() {
	days := v.Went.Days
	if len(days) == 0 {
		return
	}
	words := func(missed, of int) string {
		if of == 0 {
			return ""
		}
		return fmt.Sprintf("%d of %d", missed, of)
	}
	for i, name := range v.Drill.Routine {
		missed, of := v.Went.Missed(i, days[len(days)-1])
		w := weakSkill{Name: name, Now: words(missed, of), share: float64(missed) / float64(max(1, of))}
		if len(days) > 1 {
			w.Then = words(v.Went.Missed(i, days[len(days)-2]))
		}
		if missed > 0 {
			v.Weak = append(v.Weak, w)
		}
	}
	slices.SortStableFunc(v.Weak, func(a, b weakSkill) int { return cmp.Compare(b.share, a.share) })
}

// Says is how those who were there on both changed from the first to the last day.
func (v routineView) Says() string {
	if len(v.Drill.Routine) == 0 {
		return "Write the routine’s skills down in order on its page: then faults are counted skill by skill."
	}
	if len(v.Went.Days) == 0 {
		return "Nobody has run through it yet. The phone counts faults and falls, skill by skill."
	}
	says := "Best run-through of each day."
	if first, last := v.Went.Change(); last.Players > 0 {
		low, high := evidence.Wilson(last.Skills, last.Of)
		says += fmt.Sprintf(" %s showed it on %s and on %s: %d of %d skills were clean then, now %d of %d (%.0f to %.0f in 100).",
			say.Count(last.Players, "player"), v.Went.Days[0].Short(), v.Went.Days[len(v.Went.Days)-1].Short(),
			first.Skills, first.Of, last.Skills, last.Of, 100*low, 100*high)
	}
	return says
}
