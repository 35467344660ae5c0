package planner

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/web/shell"
)

type teamsView struct {
	planView
	Block work.Span
	Match *work.Match
}

// gameOf is the block of games with a number, worked out.
func (v *planView) gameOf(number string) (b work.Span, m *work.Match, err error) {
	n, err := strconv.Atoi(number)
	if err != nil || n < 0 || n >= len(v.Picture.Blocks) || v.Picture.Blocks[n].Kind != doc.Game {
		return b, nil, shell.NotFound("That block is no game.")
	}
	b = v.Picture.Blocks[n]
	return b, v.Input.Match(b), nil
}

// teamsPage is a game's page: who plays with whom, who rests when, and whom the coach puts elsewhere.
func teamsPage(c *shell.Ctx) error {
	base, err := viewOf(c)
	if err != nil {
		return err
	}
	v := teamsView{planView: *base}
	if v.Block, v.Match, err = v.gameOf(c.Param("block")); err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "teams.html", "Teams", &v)
}

// teams deals the sides again, or puts a player on another.
func teams(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var v planView
	var err error
	if v.Loaded, err = loaded(c, nil); err != nil {
		return err
	}
	b, _, err := v.gameOf(c.Param("block"))
	if err != nil {
		return err
	}
	w := edit.Wire{Do: "sides", At: b.ID}
	if f.Get("player") != "" {
		w.Do, w.Value = "side-of", f.Get("player")+" "+f.Get("side")
	}
	c.Back = fmt.Sprintf("/sessions/%s/teams/%d", c.Param("id"), b.Index)
	return keepWire(c, &v.Loaded, w)
}

// keepWire makes one edit as a page sent it, stores it, and goes back.
func keepWire(c *shell.Ctx, l *app.Loaded, w edit.Wire) error {
	e, err := edit.Read(w)
	if err == nil {
		var p doc.Plan
		if p, _, err = edit.Apply(l.Input.Plan, e); err == nil {
			err = keepPlan(c, l, "Plan: "+e.Called(l.Input.Plan), p)
		}
	}
	var in *doc.ErrInput
	if errors.As(err, &in) {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: in.Says}
	}
	if err != nil {
		return err
	}
	return c.To(c.Back)
}

// Games are the blocks of games that have sides, for paper.
func (v *planView) GameBlocks() (out []teamsView) {
	for _, b := range v.Picture.Blocks {
		if m := v.Input.Match(b); m != nil {
			out = append(out, teamsView{*v, b, m})
		}
	}
	return out
}

// Says is what the game comes to.
func (v teamsView) Says() string {
	m := v.Match
	says := fmt.Sprintf("%s, %s for each who is on.", say.Upper(m.Game.String()), v.Program.Units.Square(m.Each))
	if m.Walls > 0 {
		says += fmt.Sprintf(" A wall player has %s.", say.Count(max(1, m.Touches), "touch"))
	}
	gap := 0.0
	for i := 0; i+1 < len(m.Sides); i += 2 {
		gap = max(gap, max(m.Sides[i].Level-m.Sides[i+1].Level, m.Sides[i+1].Level-m.Sides[i].Level))
	}
	switch {
	case gap < 0.15:
		says += " The sides are even in strength."
	case gap < 0.5:
		says += " The sides are nearly even in strength."
	default:
		says += " The sides are uneven in strength: deal again, or put somebody elsewhere."
	}
	return says
}

// Areas pairs the sides, with the neutral players of each area.
func (v teamsView) Areas() (out []gameArea) {
	for i := range v.Match.Areas {
		out = append(out, gameArea{i + 1, v.Match.Sides[2*i : 2*i+2], v.Match.Neutral[i]})
	}
	return out
}

type gameArea struct {
	Number  int
	Sides   []work.Side
	Neutral work.Side
}

// Swaps are when a side swaps, and who for whom.
func (v teamsView) Swaps(s work.Side) (out []string) {
	names := func(of, not []int) string {
		var out []string
		for _, i := range of {
			if !slices.Contains(not, i) {
				out = append(out, s.Players[i].First())
			}
		}
		return strings.Join(out, ", ")
	}
	for i := 1; i < len(s.Stints); i++ {
		was, now := s.Stints[i-1].Rest, s.Stints[i].Rest
		out = append(out, fmt.Sprintf("%s %s for %s", coach.Clock(s.Stints[i].From.Round(time.Second)), names(was, now), names(now, was)))
	}
	return out
}

// Begins is who rests at first: "Ana and Ben rest"; nothing where nobody does.
func (v teamsView) Begins(s work.Side) string {
	var out []string
	for _, i := range s.Stints[0].Rest {
		out = append(out, s.Players[i].First())
	}
	if len(out) == 0 {
		return ""
	}
	return say.List(out) + " " + say.Does(len(out), "rest")
}
