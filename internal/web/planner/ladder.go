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
	"gruppo/internal/coach/path"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// ladderView is a ladder's page: what its steps take, who climbs together, and ways it can be taken from.
type ladderView struct {
	planView
	Block work.Span
	Steps []work.StepAt
	Fit   int
	Ways  []climbWay
}

// climbWay is a way of the shelf from first steps to a drill.
type climbWay struct {
	To    string // the last drill's name
	Steps []string
	Takes time.Duration
	Fit   int    // steps that fit into the block
	Value string // as the edit takes it
}

// mostWays are offered.
const mostWays = 12

// ladderOf is the block of a ladder with a number.
func (v *planView) ladderOf(number string) (work.Span, error) {
	n, err := strconv.Atoi(number)
	if err != nil || n < 0 || n >= len(v.Picture.Blocks) || v.Picture.Blocks[n].Kind != doc.Ladder {
		return work.Span{}, shell.NotFound("That block is no ladder.")
	}
	return v.Picture.Blocks[n], nil
}

func ladderPage(c *shell.Ctx) error {
	v := ladderView{}
	var links []path.Link
	var err error
	v.Loaded, err = loaded(c, func(tx *store.Tx, _ *app.Loaded) (err error) {
		links, err = tx.Links(c.Ctx())
		return err
	})
	if err != nil {
		return err
	}
	v.When = v.Picture.Start.Format("Mon 2 Jan, 15:04")
	if v.Block, err = v.ladderOf(c.Param("block")); err != nil {
		return err
	}
	v.Steps, v.Fit = v.Input.StepTimes(v.Block)
	v.ways(links)
	return c.Page(pages, http.StatusOK, "ladder.html", "Ladder", &v)
}

// ways are those of three steps and more, the longest first, and of them that end in the same the longest alone.
func (v *ladderView) ways(links []path.Link) {
	drills := map[string]coach.Drill{}
	for _, d := range v.Input.Shelf {
		drills[d.ID] = d
	}
	for _, d := range v.Input.Shelf {
		steps := path.Climb(links, d.ID)
		if len(steps) < 3 || len(steps) > doc.MostSteps || slices.ContainsFunc(steps, func(id string) bool {
			_, there := drills[id]
			return !there
		}) {
			continue
		}
		if slices.ContainsFunc(path.Around(links, d.ID).Next, func(id string) bool { _, on := drills[id]; return on }) {
			continue // it goes on from there
		}
		w := climbWay{To: d.Name}
		b := v.Block
		b.Steps = nil
		var values []string
		for _, id := range steps {
			step := drills[id]
			w.Steps = append(w.Steps, step.Name)
			b.Steps = append(b.Steps, doc.Task{Drill: id, Edition: step.Edition})
			values = append(values, fmt.Sprintf("%s@%d", id, step.Edition))
		}
		in := v.Input
		in.Drills = drills
		times, fit := in.StepTimes(b)
		for _, t := range times {
			w.Takes += t.Takes
		}
		w.Fit, w.Value = fit, strings.Join(values, " ")
		v.Ways = append(v.Ways, w)
	}
	slices.SortStableFunc(v.Ways, func(a, b climbWay) int { return len(b.Steps) - len(a.Steps) })
	v.Ways = v.Ways[:min(mostWays, len(v.Ways))]
}

// Says is what the ladder takes, and how much of it fits.
func (v ladderView) Says() string {
	takes := time.Duration(0)
	for _, s := range v.Steps {
		takes += s.Takes
	}
	has := v.Block.To - v.Block.From
	switch {
	case len(v.Steps) == 0:
		return "It has no steps yet."
	case v.Fit == len(v.Steps):
		return fmt.Sprintf("About %s until four in five hold the last step; it has %s.", coach.Minutes(takes), coach.Minutes(has))
	}
	return fmt.Sprintf("About %s for these players; %s %s into the %s.", coach.Minutes(takes),
		say.Count(v.Fit, "step"), say.Verb(v.Fit, "fits", "fit"), coach.Minutes(has))
}

// Together are those who climb together, where groups do not.
func (v ladderView) Together() (out []string) {
	if v.Block.Climb == doc.ByGroup {
		return nil
	}
	for _, c := range v.Input.Climbers(v.Block) {
		var names []string
		for _, p := range c.Players {
			names = append(names, p.Name)
		}
		out = append(out, strings.Join(names, " and "))
	}
	return out
}

// Climbing names a ladder's steps, and who climbs together.
func (v *planView) Climbing(b work.Span) string {
	var names []string
	for _, d := range v.Steps(b) {
		names = append(names, d.Name)
	}
	if len(names) == 0 {
		return b.Climb.String()
	}
	return b.Climb.String() + ": " + strings.Join(names, " → ")
}

// Climbs are the ways to climb together.
func (v ladderView) Climbs() [][2]string {
	return [][2]string{{"group", "by group"}, {"pair", "by pair"}, {"player", "by player"}}
}

// climb takes a way of the shelf for a ladder, moves, adds or drops a step, or sets who climbs together.
func climb(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var v planView
	var err error
	if v.Loaded, err = loaded(c, nil); err != nil {
		return err
	}
	b, err := v.ladderOf(c.Param("block"))
	if err != nil {
		return err
	}
	w := edit.Wire{Do: "steps", At: b.ID, Value: f.Get("steps")}
	switch {
	case f.Get("by") != "":
		w.Do, w.Value = "climb", f.Get("by")
	case f.Get("step") != "":
		w.Do, w.Value = "step", f.Get("step")
	case f.Get("drill") != "" && f.Get("after") == "":
		w.Do, w.Value = "task", f.Get("drill")
	case f.Get("drill") != "":
		w.Do, w.Value = "step", f.Get("after")+" "+f.Get("drill")
	}
	c.Back = fmt.Sprintf("/sessions/%s/ladder/%d", c.Param("id"), b.Index)
	return keepWire(c, &v.Loaded, w)
}
