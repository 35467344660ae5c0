package planner

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

func printPage(c *shell.Ctx) error {
	name, ok := map[string]string{"": "print.html", "cards": "cards.html", "pairings": "pairings.html", "turns": "turns.html", "teams": "teams-print.html", "kit": "kit-list.html"}[c.Param("what")]
	if !ok {
		return store.ErrNone
	}
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	v.Paper = true
	if name == "cards.html" { // with the drawings, which planning does not read
		err := c.In(func(tx *store.Tx) (err error) {
			v.Drawn, err = tx.PlanDrills(c.Ctx(), v.Input.Plan)
			return err
		})
		if err != nil {
			return err
		}
	}
	return c.Bare(pages, http.StatusOK, name, v.Session.ClassName, v)
}

// picture answers with the Floor or the Strip as a file that stands by itself.
func picture(c *shell.Ctx) error {
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	what := strings.TrimSuffix(c.Request.URL.Path[strings.LastIndexByte(c.Request.URL.Path, '/')+1:], ".svg")
	v.Paper, v.Floor = true, v.Floors()[0]
	c.Attach(v.Picture.Start.Format(time.DateOnly) + "-" + what + ".svg")
	return c.Drawing(pages, what, v)
}

// Drawing is a station's drawing for its card, or nil.
func (v *planView) Drawing(s work.StationAt) *svg.DrawingView {
	d := v.Drawn[s.Drill.ID].Diagram
	if d == nil {
		return nil
	}
	pic := svg.Drawing(*d, v.Program.Units, 300, 190, -1, false)
	return &pic
}

// cardVisit is who comes to a station when.
type cardVisit struct {
	At      string
	Shapes  []doc.Shape
	Variant string
	Leader  string
}

// Visits lists who comes to a station, round by round.
func (v *planView) Visits(s work.StationAt) (out []cardVisit) {
	for r := range s.Visits {
		c := cardVisit{At: v.At(v.Picture.Rounds[r].From)}
		for _, g := range []int{s.Visits[r], s.Also[r]} {
			if g < 0 {
				continue
			}
			group := v.Picture.Groups[g]
			c.Shapes = append(c.Shapes, group.Shape)
			if s.HasOwn(group) {
				c.Variant = s.For(group).Name
			} else if va := s.Form(group); va != nil {
				c.Variant = va.Name + ": " + va.Says()
			}
			if n := s.Aims[doc.GroupKey(group.Number)]; n > 0 {
				c.Variant = strings.TrimPrefix(fmt.Sprintf("%s, today to %d", c.Variant, n), ", ")
			}
			if l := v.Picture.LeaderIn(s, r); l != nil && v.Picture.Circuits[s.Circuit].Move {
				c.Leader = l.First()
			}
		}
		out = append(out, c)
	}
	return out
}

// Key is the one key at a station.
func (v *planView) Key(s work.StationAt) string { return v.Picture.KeyFor(&s.Drill) }

// KeyOf is the one key of a drill.
func (v *planView) KeyOf(d coach.Drill) string { return v.Picture.KeyFor(&d) }

// Balls is how many a feeder needs in reach for one player's turn in a round; 0 where nobody feeds.
func (v *planView) Balls(s work.StationAt) int {
	if !slices.Contains(s.Drill.Roles, "feeder") {
		return 0
	}
	size := 1
	for _, g := range v.Picture.Groups {
		size = max(size, len(g.Players))
	}
	return load.Of(s.Drill).Balls(size, v.Picture.Circuits[s.Circuit].Round())
}

// Mini is the floor's outline with one station, in a box 100 wide: x, y, width, height, and the floor's height without
// and with its edge.
func (v *planView) Mini(s work.StationAt) [6]float64 {
	k := 100 / v.Picture.Floor.Length
	return [6]float64{
		s.Spot.X * k,
		s.Spot.Y * k,
		s.Spot.Length * k,
		s.Spot.Width * k,
		v.Picture.Floor.Width * k,
		v.Picture.Floor.Width*k + 2,
	}
}

// Stops counts the findings to stop for. What is handed to helpers says how many, and not about whom.
func (v *planView) Stops() (n int) {
	for _, f := range v.Picture.Findings {
		if f.Weight == check.Stop {
			n++
		}
	}
	return n
}
