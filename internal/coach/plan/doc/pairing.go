package doc

import (
	"slices"

	"gruppo/internal/coach/rotate"
)

// Pairing is how partners play their turns, where it is more than a time; its zero value is nothing more.
type Pairing struct {
	To      int         `json:"to,omitempty"`      // points a turn is played to; 0: by its time alone
	Against int         `json:"against,omitempty"` // what the other plays to; 0: the same
	Change  int         `json:"change,omitempty"`  // seconds to change over; 0: the usual
	Courts  int         `json:"courts,omitempty"`  // where pairs play at once; 0: enough for all
	Chosen  [][2]string `json:"chosen,omitempty"`  // pairs that the players chose, for the day
}

// MostCourts and MostTo are the most courts, and the most points of a turn.
const (
	MostCourts = 30
	MostTo     = 99
)

func (p Pairing) sound() bool {
	seen := map[string]bool{}
	for _, pair := range p.Chosen {
		for _, id := range pair {
			if id == "" || len(id) > 64 || seen[id] {
				return false
			}
			seen[id] = true
		}
	}
	return between(p.To, 0, MostTo) && between(p.Against, 0, MostTo) && between(p.Change, 0, 120) &&
		between(p.Courts, 0, MostCourts) && len(p.Chosen) <= MostMade/2
}

// Together puts two players together by their own choice, and lets go whom they were with; with no partner it only lets
// go.
func (p *Pairing) Together(player, partner string) {
	p.Chosen = slices.DeleteFunc(slices.Clone(p.Chosen), func(pair [2]string) bool {
		return slices.Contains(pair[:], player) || partner != "" && slices.Contains(pair[:], partner)
	})
	if partner != "" && partner != player {
		p.Chosen = append(p.Chosen, [2]string{player, partner})
	}
}

// TeamSize is how many are together in a turn of the block.
func (b Block) TeamSize() int {
	if b.Way == rotate.LoserFeeds {
		return 3
	}
	return max(2, b.Team)
}

// Pairs are how partners play in the block.
func (b Block) Pairs() Pairing {
	if b.Pairing == nil {
		return Pairing{}
	}
	return *b.Pairing
}
