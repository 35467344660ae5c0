package work

import (
	"strings"

	"gruppo/internal/coach"
)

// KeyFor is the one key in force for a task: the plan's key of the day where the drill has it, else the drill's own first
// one. Where it has none, and where no drill says what is done, the day's.
func (pic *Picture) KeyFor(d *coach.Drill) string {
	if d == nil {
		return pic.Plan.Key
	}
	for _, k := range d.Keys {
		if strings.EqualFold(k, pic.Plan.Key) {
			return k
		}
	}
	if len(d.Keys) > 0 {
		return d.Keys[0]
	}
	return pic.Plan.Key
}
