package planner

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach/load"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/partners"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
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
func (v planView) Drawing(s work.StationAt) *svg.DrawingView {
	d := v.Drawn[s.Drill.ID].Diagram
	if d == nil {
		return nil
	}
	pic := svg.Drawing(*d, 300, 190, -1, false)
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
func (v planView) Visits(s work.StationAt) (out []cardVisit) {
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
			} else if va := s.VariantFor(s.Drill, group.Number, group.Stage); va != nil {
				c.Variant = va.Name + ": " + va.Says()
			}
			if l := v.Picture.LeaderIn(s, r); l != nil && v.Picture.Circuits[s.Circuit].Move {
				c.Leader = say.First(l.Name)
			}
		}
		out = append(out, c)
	}
	return out
}

// Key is the one key at a station: the day's, where the drill has it, else the drill's first.
func (v planView) Key(s work.StationAt) string {
	for _, k := range s.Drill.Keys {
		if k == v.Picture.Plan.Key {
			return k
		}
	}
	if len(s.Drill.Keys) > 0 {
		return s.Drill.Keys[0]
	}
	return v.Picture.Plan.Key
}

// Balls is how many a feeder needs in reach for one player's turn in a round; 0 where nobody feeds.
func (v planView) Balls(s work.StationAt) int {
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
func (v planView) Mini(s work.StationAt) [6]float64 {
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
func (v planView) Stops() (n int) {
	for _, f := range v.Picture.Findings {
		if f.Weight == check.Stop {
			n++
		}
	}
	return n
}

// pairBlock is a partner block with its turns.
type pairBlock struct {
	work.Span
	Turns     []partners.Turn
	Standings []partners.Standing
	Met       []metRow
	Ladder    bool // the pair's own score is carried on
}

type metRow struct {
	Name  string
	Times []string
}

// PairBlocks are the plan's partner blocks, worked out.
func (v planView) PairBlocks() (out []pairBlock) {
	for _, b := range v.Picture.Blocks {
		if b.Kind == doc.Look || b.Kind == doc.Pairs {
			out = append(out, v.pairs(b))
		}
	}
	return out
}

// TurnAt is when a turn begins; to the second where turns are no whole minutes.
func (v planView) TurnAt(b pairBlock, d time.Duration) string {
	if b.Turn%60 == 0 {
		return v.At(d)
	}
	return v.Picture.Start.Add(d).Format(time.TimeOnly)
}

func (v planView) pairs(b work.Span) pairBlock {
	pb := pairBlock{Span: b, Turns: partners.Turns(v.Input, b.Block, b.From)}
	pb.Standings = partners.Standings(pb.Turns)
	pb.Ladder = b.RallyLadder()
	times := map[[2]string]int{}
	for _, t := range pb.Turns {
		for _, team := range t.Teams {
			for _, x := range team {
				for _, y := range team {
					times[[2]string{x.ID, y.ID}]++
				}
			}
		}
	}
	for _, x := range v.Input.Players {
		row := metRow{Name: x.Name}
		for _, y := range v.Input.Players {
			n := times[[2]string{x.ID, y.ID}]
			switch {
			case x.ID == y.ID:
				row.Times = append(row.Times, "")
			case n == 0:
				row.Times = append(row.Times, "·")
			default:
				row.Times = append(row.Times, strconv.Itoa(n))
			}
		}
		pb.Met = append(pb.Met, row)
	}
	return pb
}

type partnersView struct {
	planView
	Block pairBlock
	Form  *shell.Form // what was typed into a turn that could not be kept
	Turn  int         // that turn; −1: none
}

// Typed is what stands in a score's field: what was typed there, or what is kept.
func (v partnersView) Typed(turn, pair, side, kept int) string {
	if turn == v.Turn {
		return v.Form.Get(field(side, pair))
	}
	if kept < 0 {
		return ""
	}
	return strconv.Itoa(kept)
}

// Wrong is what is wrong with a score's field.
func (v partnersView) Wrong(turn, pair, side int) string {
	if turn != v.Turn {
		return ""
	}
	return v.Form.Errors[field(side, pair)]
}

func field(side, pair int) string { return string("ab"[side]) + strconv.Itoa(pair) }

func (v *partnersView) pick(c *shell.Ctx) error {
	n, err := strconv.Atoi(c.Param("block"))
	if err != nil || n < 0 || n >= len(v.Picture.Blocks) ||
		v.Picture.Blocks[n].Kind != doc.Look && v.Picture.Blocks[n].Kind != doc.Pairs {
		return shell.NotFound("That block has no partners.")
	}
	v.Block = v.pairs(v.Picture.Blocks[n])
	return nil
}

// partnersPage is a partner block's page: the pairings, turn by turn, with room for what was made.
func partnersPage(c *shell.Ctx) error {
	base, err := viewOf(c)
	if err != nil {
		return err
	}
	v := partnersView{planView: base, Turn: -1}
	if err := v.pick(c); err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "partners.html", "Pairings", v)
}

// scores keeps what was made in one turn.
func scores(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := partnersView{}
	turn, _ := strconv.Atoi(f.Get("turn"))
	var err error
	if v.Loaded, err = loaded(c, nil); err != nil {
		return err
	}
	if err := v.pick(c); err != nil {
		return err
	}
	if turn < 0 || turn >= len(v.Block.Turns) {
		return shell.NotFound("That turn is no longer in the plan.")
	}
	p := v.Input.Plan
	for i, team := range v.Block.Turns[turn].Teams {
		made := [2]int{-1, -1}
		for side := range made {
			if name := field(side, i); f.Get(name) != "" {
				made[side] = f.Int(name, 0, doc.MostScore, "A score")
			}
		}
		if v.Block.Ladder || v.Block.Team > 2 {
			made[1] = made[0]
		}
		if !f.OK() {
			continue
		}
		for n, who := range team {
			e := edit.Score{Block: v.Block.ID, Turn: turn, Player: who.ID, Points: made[min(n, 1)]}
			if p, _, err = edit.Apply(p, e); err != nil {
				return err
			}
		}
	}
	if !f.OK() {
		v.Form, v.Turn = f, turn
		return c.Page(pages, http.StatusUnprocessableEntity, "partners.html", "Pairings", v)
	}
	if err := keepPlan(c, &v.Loaded, "Plan: scores", p); err != nil {
		return err
	}
	return c.To(fmt.Sprintf("/sessions/%s/partners/%d#turn-%d", c.Param("id"), v.Block.Index, turn+1))
}
