package planner

import (
	"fmt"
	"math"
	"net/http"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/propose"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

// proposalsView are three plans to choose from, side by side.
type proposalsView struct {
	planView
	Shape propose.Shape
	Aim   string // as the form sends it
	For   string // in words
	Three []offer
}

// offer is one of the plans, with what it comes to.
type offer struct {
	Favour  string // what it has most of
	Figures [6]offered
	Floor   svg.FloorView
	Bars    []offerBar
	Settle  int
}

// offered is a figure of an offer, and whether it is the best of the three.
type offered struct {
	What, Says string
	value      float64 // the more the better
	Best       bool
}

// offerBar is a block on the small picture, in hundredths of the booked time.
type offerBar struct {
	X, W  float64
	Kind  doc.Kind
	Words string // minutes and what is done
}

// proposals shows three plans that differ in what they favour. One of them is taken by asking for it again: the same
// plan comes of the same ask.
func proposals(c *shell.Ctx) error {
	base, err := viewOf(c)
	if err != nil {
		return err
	}
	v := proposalsView{planView: *base, Aim: c.Query("aim")}
	v.Shape = propose.ShapeOf(c.Query("shape"), v.Program.Family)
	kind, value, _ := strings.Cut(v.Aim, " ")
	aim := doc.Aim{Kind: kind, Value: value}
	three, err := propose.Three(v.Input, v.Shape.Key, aim)
	if err != nil {
		return err
	}
	for _, o := range three {
		in := v.Input
		in.Plan = o.Plan
		v.For = o.Plan.Why["shape"]
		v.Three = append(v.Three, v.offer(in, o))
	}
	for i := range v.Three[0].Figures {
		best := v.Three[0].Figures[i].value
		for _, o := range v.Three {
			best = max(best, o.Figures[i].value)
		}
		for k := range v.Three {
			f := &v.Three[k].Figures[i]
			f.Best = f.value != 0 && f.value == best
		}
	}
	return c.Page(pages, http.StatusOK, "proposals.html", "Plans to choose from", &v)
}

// taken is the one of three that was chosen, by its place.
func taken(in work.Input, shape string, aim doc.Aim, place string) (doc.Plan, error) {
	three, err := propose.Three(in, shape, aim)
	if err != nil {
		return in.Plan, err
	}
	i, err := strconv.Atoi(place)
	if err != nil || i < 0 || i >= len(three) {
		return in.Plan, doc.Input("take", "Choose one of the three.")
	}
	return three[i].Plan, nil
}

// offer works a proposal out.
func (v proposalsView) offer(in work.Input, of propose.Offer) offer {
	drills := map[string]coach.Drill{}
	for _, d := range in.Shelf {
		drills[d.ID] = d
	}
	in.Drills = drills
	pic := check.Plan(in)
	o := offer{Favour: of.Called()}
	seen := len(pic.Ledger) - propose.Unseen(pic)
	playing, fewest := propose.Minutes(pic), propose.Fewest(pic, of.Skill)
	marks := "none due"
	due, taken, wait := 0, 0, time.Duration(0)
	for _, r := range pic.Criteria {
		if len(r.Asked) > 0 {
			due++
			taken += min(1, len(r.Stations)+len(r.By))
		}
	}
	if due > 0 {
		marks = fmt.Sprintf("%d of %d", taken, due)
	}
	for _, r := range pic.Ledger {
		wait = max(wait, r.Wait)
	}
	o.Floor = svg.Floor(pic, v.Program.Units)
	o.Figures = [6]offered{
		{What: strings.TrimSuffix(say.Many(v.Program.Family.Try())+" at least, "+of.Skill, ", "), Says: fmt.Sprintf("%.0f", fewest), value: math.Round(fewest)},
		{What: "active", Says: fmt.Sprintf("%.0f %%", pic.Active*100), value: float64(int(pic.Active*100 + 0.5))},
		{What: "seen by the lead", Says: fmt.Sprintf("%d of %d", seen, len(pic.Ledger)), value: float64(seen)},
		{What: "playing", Says: fmt.Sprintf("%.0f min", playing), value: float64(int(playing + 0.5))},
		{What: "longest usual wait", Says: coach.Clock(wait), value: -wait.Seconds()},
		{What: "marks due can be taken", Says: marks, value: float64(taken)},
	}
	for _, f := range pic.Findings {
		if f.Weight != check.Note {
			o.Settle++
		}
	}
	all := max(pic.Booked, pic.Total).Minutes()
	for _, b := range pic.Blocks {
		m := (b.To - b.From).Minutes()
		bar := offerBar{X: 100 * b.From.Minutes() / all, W: 100 * m / all, Kind: b.Kind}
		what := b.Title
		if b.Task != nil {
			what += ": " + b.Task.Name
		}
		if b.Kind == doc.Stations {
			var names []string
			for _, s := range pic.Stations {
				names = append(names, s.Drill.Name)
			}
			what += ": " + say.List(say.Each(names))
		}
		bar.Words = fmt.Sprintf("%.0f min %s", m, what)
		o.Bars = append(o.Bars, bar)
	}
	return o
}
