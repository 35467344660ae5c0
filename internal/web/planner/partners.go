package planner

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/partners"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/web/shell"
)

// pairBlock is a partner block with its turns.
type pairBlock struct {
	work.Span
	Turns      []partners.Turn
	Standings  []partners.Standing
	Met        []metRow
	Courts     []court // of the first turn that is not played yet
	Now        int     // that turn
	Wide, High float64 // of their picture
	Ladder     bool    // the pair's own score is carried on
}

// Shared reports whether what is made is the pair's or the team's, and not each player's own.
func (b pairBlock) Shared() bool { return b.Ladder || b.Team > 2 && b.Way != rotate.LoserFeeds }

// court is a numbered court to scale, in a box 100 wide, with who plays there.
type court struct {
	Number     int
	X, Y, W, H float64
	Names      []string
}

// courts draws the courts of the first turn that is not played yet; without a task of a size there are none.
func (v *planView) courts(pb *pairBlock) {
	for pb.Now < len(pb.Turns)-1 && pb.Turns[pb.Now].Played() {
		pb.Now++
	}
	if len(pb.Turns) == 0 {
		return
	}
	turn := pb.Turns[pb.Now]
	spots := v.Input.Courts(pb.Span, len(turn.Teams))
	if len(spots) == 0 {
		return
	}
	left, top, right, bottom := spots[0].X, spots[0].Y, 0.0, 0.0
	for _, s := range spots {
		right, bottom = max(right, s.X+s.Length), max(bottom, s.Y+s.Width)
	}
	k := min(100/(right-left), 60/(bottom-top))
	pb.Wide, pb.High = (right-left)*k, (bottom-top)*k
	for i, s := range spots {
		c := court{i + 1, (s.X - left) * k, (s.Y - top) * k, s.Length * k, s.Width * k, nil}
		for _, p := range turn.Teams[i] {
			c.Names = append(c.Names, p.First())
		}
		pb.Courts = append(pb.Courts, c)
	}
}

// Line is where the n-th of a court's names stands.
func (c court) Line(n int) float64 { return c.Y + c.H*float64(n+1)/float64(len(c.Names)+1) + 1 }

// NoX and NoY are where the court's number stands.
func (c court) NoX() float64 { return c.X + 2.4 }
func (c court) NoY() float64 { return c.Y + 4 }

// Middle is the court's.
func (c court) Middle() float64 { return c.X + c.W/2 }

// Box is what the picture of the courts shows, with an edge.
func (b pairBlock) Box() string { return fmt.Sprintf("-2 -2 %.1f %.1f", b.Wide+4, b.High+4) }

// Scorers are those of a team for whom something is written down: each, or the first for all.
func (b pairBlock) Scorers(team []coach.Player) []coach.Player {
	if b.Shared() {
		return team[:1]
	}
	return team
}

// Numbered reports whether there are fewer courts than pairs, or a picture of them.
func (b pairBlock) Numbered() bool { return len(b.Courts) > 0 || b.Pairs().Courts > 0 }

// Chooser is a player of a block in which partners are chosen, with whom they chose.
type Chooser struct {
	Player coach.Player
	With   string // first name
}

// Choosers are the players of the block, those who have chosen each other side by side.
func (v partnersView) Choosers() (out []Chooser) {
	byID := map[string]coach.Player{}
	for _, p := range v.Input.Players {
		byID[p.ID] = p
	}
	done := map[string]bool{}
	for _, pair := range v.Block.Pairs().Chosen {
		x, okX := byID[pair[0]]
		y, okY := byID[pair[1]]
		if okX && okY {
			out = append(out, Chooser{x, y.First()}, Chooser{y, x.First()})
			done[x.ID], done[y.ID] = true, true
		}
	}
	for _, p := range v.Input.Players {
		if !done[p.ID] {
			out = append(out, Chooser{Player: p})
		}
	}
	return out
}

// choose puts two players together who chose each other, or lets them go.
func choose(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := partnersView{}
	var err error
	if v.Loaded, err = loaded(c, nil); err != nil {
		return err
	}
	if err := v.pick(c); err != nil {
		return err
	}
	c.Back = fmt.Sprintf("/sessions/%s/partners/%d", c.Param("id"), v.Block.Index)
	return keepWire(c, &v.Loaded, edit.Wire{Do: "with", At: v.Block.ID, Value: f.Get("player") + " " + f.Get("partner")})
}

type metRow struct {
	Name  string
	Times []string
}

// PairBlocks are the plan's partner blocks, worked out.
func (v *planView) PairBlocks() (out []pairBlock) {
	for _, b := range v.Picture.Blocks {
		if b.Kind == doc.Look || b.Kind == doc.Pairs {
			out = append(out, v.pairs(b))
		}
	}
	return out
}

// TurnAt is when a turn begins; to the second where turns are no whole minutes.
func (v *planView) TurnAt(b pairBlock, d time.Duration) string {
	if b.Turn%60 == 0 {
		return v.At(d)
	}
	return v.Picture.Start.Add(d).Format(time.TimeOnly)
}

func (v *planView) pairs(b work.Span) pairBlock {
	pb := pairBlock{Span: b, Turns: partners.Turns(v.Input, b.Block, b.From)}
	pb.Standings = partners.Standings(pb.Turns)
	pb.Ladder = b.RallyLadder()
	v.courts(&pb)
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
		row := metRow{Name: x.First()}
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

// Field is what the field of a score is called.
func (partnersView) Field(side, pair int) string { return field(side, pair) }

// Even says at which goals two would win equally often; nothing where they are the same.
func (v partnersView) Even(goals [2]int) string {
	if goals[0] == goals[1] {
		return ""
	}
	return fmt.Sprintf("even at %d : %d", goals[0], goals[1])
}

// PlaysSays says who of three plays more or less than two rallies of three, from what they made before.
func (v partnersView) PlaysSays(team []coach.Player, plays []float64) string {
	var out []string
	for i, share := range plays {
		if share < 0.64 || share > 0.70 {
			out = append(out, fmt.Sprintf("%s plays %.0f in 100", team[i].First(), share*100))
		}
	}
	if len(out) == 0 {
		return ""
	}
	return " " + strings.Join(out, ", ")
}

// TurnSays is how a turn is played: to points, or by time.
func (v partnersView) TurnSays() string {
	p := v.Block.Pairs()
	says := coach.Clock(work.Seconds(v.Block.Turn)) + " a turn"
	if p.To > 0 && !v.Block.Ladder {
		goal := strconv.Itoa(p.To)
		if p.Against > 0 && p.Against != p.To {
			goal += " against " + strconv.Itoa(p.Against)
		}
		says = fmt.Sprintf("to %s, at most %s", goal, says)
		if takes := v.Block.PointsTake(); takes > 0 {
			says += ", about " + coach.Clock(takes.Round(time.Second))
		}
	}
	return says
}

// Wrong is what is wrong with a score's field.
func (v partnersView) Wrong(turn, pair, side int) string {
	if turn != v.Turn {
		return ""
	}
	return v.Form.Errors[field(side, pair)]
}

func field(side, pair int) string { return string("abcdef"[side]) + strconv.Itoa(pair) }

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
	v := partnersView{planView: *base, Turn: -1}
	if err := v.pick(c); err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "partners.html", "Pairings", &v)
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
		made := slices.Repeat([]int{-1}, len(team))
		for side := range made {
			if name := field(side, i); f.Get(name) != "" {
				made[side] = f.Int(name, 0, doc.MostScore, "A score")
			}
		}
		if v.Block.Shared() {
			made = slices.Repeat(made[:1], len(team))
		}
		if !f.OK() {
			continue
		}
		for n, who := range team {
			e := edit.Score{Block: v.Block.ID, Turn: turn, Player: who.ID, Points: made[n]}
			if p, _, err = edit.Apply(p, e); err != nil {
				return err
			}
		}
	}
	if !f.OK() {
		v.Form, v.Turn = f, turn
		return c.Page(pages, http.StatusUnprocessableEntity, "partners.html", "Pairings", &v)
	}
	if err := keepPlan(c, &v.Loaded, "Plan: scores", p); err != nil {
		return err
	}
	return c.To(fmt.Sprintf("/sessions/%s/partners/%d#turn-%d", c.Param("id"), v.Block.Index, turn+1))
}
