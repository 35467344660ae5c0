package edit

import (
	"maps"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Side gives one player something else to do at a station or in a block.
type Side struct {
	Station, Block string // one of them
	Player         string
	Task           doc.Task // its drill empty: sits out
	Back           bool     // does as the others do again
}

func readStationSide(w Wire) (Edit, error) { return readSide(Side{Station: w.At}, w.Value) }
func readBlockSide(w Wire) (Edit, error)   { return readSide(Side{Block: w.At}, w.Value) }

// readSide reads "player drill@edition"; "player -" sits out, "player" alone does as the others do.
func readSide(e Side, value string) (_ Edit, err error) {
	player, what, _ := strings.Cut(value, " ")
	if e.Player = player; player == "" {
		return nil, doc.Input("side", "Choose a player.")
	}
	switch what {
	case "":
		e.Back = true
	case "-":
	default:
		e.Task, err = task(what)
	}
	return e, err
}

func (e Side) apply(p *doc.Plan) (Needs, error) {
	if e.Station != "" {
		s, _, err := station(p, e.Station)
		if err == nil {
			s.Side, err = e.among(s.Side)
		}
		return Nothing, err
	}
	b, err := block(p, e.Block)
	if err == nil {
		b.Side, err = e.among(b.Side)
	}
	return Nothing, err
}

func (e Side) among(sides map[string]doc.Task) (map[string]doc.Task, error) {
	if len(sides) >= doc.MostMade {
		return sides, doc.Input("side", "Choose a player.")
	}
	next := maps.Clone(sides)
	if next == nil {
		next = map[string]doc.Task{}
	}
	if next[e.Player] = e.Task; e.Back {
		delete(next, e.Player)
	}
	return next, nil
}

func (e Side) Called(p doc.Plan) string {
	if e.Station != "" {
		return stationCalled(p, e.Station, "another task for one")
	}
	return blockCalled(p, e.Block, "another task for one")
}
