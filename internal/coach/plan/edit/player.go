package edit

import (
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Player puts a player into another group; the size is the coach's own choice then.
type Player struct {
	Deal   string // empty: the first
	Player string
	Group  int // of the deal, counted from 0
}

// readPlayer reads "player group".
func readPlayer(w Wire) (Edit, error) {
	id, to, _ := strings.Cut(w.Value, " ")
	g, err := strconv.Atoi(to)
	if err != nil {
		return nil, doc.Input("player", "That group is no longer in the plan.")
	}
	return Player{w.At, id, g}, nil
}

func (e Player) apply(p *doc.Plan) (Needs, error) {
	d, err := dealt(p, e.Deal)
	if err != nil {
		return Nothing, err
	}
	if e.Group < 0 || e.Group >= len(d.Players) {
		return Nothing, doc.Input("player", "That group is no longer in the plan.")
	}
	for i := range d.Players {
		d.Players[i] = slices.DeleteFunc(d.Players[i], func(o string) bool { return o == e.Player })
	}
	d.Players[e.Group] = append(d.Players[e.Group], e.Player)
	return Nothing, nil
}

func (e Player) Called(doc.Plan) string { return "a player to another group" }
