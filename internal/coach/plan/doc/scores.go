package doc

import (
	"bytes"
	"encoding/json"
	"slices"

	"gruppo/internal/coach"
)

// Made is what was made in a turn of a partner block: by player, so that it stays theirs whoever is missing later.
// Plans of before kept it by the place of the pair in the turn; those are read, and become by player when the turn is
// next kept.
type Made struct {
	By    map[string]int // player → points
	Pairs [][2]int       // of before: by pair what both made; −1: nothing yet
}

// Of is what each of a team made, −1 where nothing is kept yet.
func (m Made) Of(pair int, team []coach.Player) []int {
	out := slices.Repeat([]int{-1}, len(team))
	if m.By == nil && pair < len(m.Pairs) {
		copy(out, m.Pairs[pair][:])
		return out
	}
	for i, p := range team {
		if points, ok := m.By[p.ID]; ok {
			out[i] = points
		}
	}
	return out
}

// Set keeps a player's points, or takes them back when they are negative.
func (m *Made) Set(player string, points int) {
	m.Pairs = nil
	if m.By == nil {
		m.By = map[string]int{}
	}
	if m.By[player] = points; points < 0 {
		delete(m.By, player)
	}
}

func (m Made) sound() bool {
	if len(m.By) > MostMade || len(m.Pairs) > MostMade/2 {
		return false
	}
	for id, n := range m.By {
		if n < 0 || n > MostScore || len(id) > 64 {
			return false
		}
	}
	for _, p := range m.Pairs {
		if min(p[0], p[1]) < -1 || max(p[0], p[1]) > MostScore {
			return false
		}
	}
	return true
}

// MarshalJSON writes the points by player; a turn of before as it was.
func (m Made) MarshalJSON() ([]byte, error) {
	if m.By == nil && m.Pairs != nil {
		return json.Marshal(m.Pairs)
	}
	if m.By == nil {
		return []byte("{}"), nil
	}
	return json.Marshal(m.By)
}

// UnmarshalJSON reads both.
func (m *Made) UnmarshalJSON(b []byte) error {
	*m = Made{}
	switch b = bytes.TrimSpace(b); {
	case bytes.HasPrefix(b, []byte("[")):
		return json.Unmarshal(b, &m.Pairs)
	case bytes.Equal(b, []byte("null")), bytes.Equal(b, []byte("{}")):
		return nil
	}
	return json.Unmarshal(b, &m.By)
}
