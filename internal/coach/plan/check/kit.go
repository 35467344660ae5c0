package check

import (
	"fmt"

	"gruppo/internal/coach/say"
)

func (pic *checking) checkKit() {
	for _, k := range pic.Kit {
		if k.Short == 0 {
			continue
		}
		says := fmt.Sprintf("%s needed, the club has %d", say.Count(k.Need, k.Name), k.Have)
		if len(k.Using) > 0 {
			says += " and " + say.List(k.Using) + " can stand in"
		}
		pic.find(Settle, "kit "+k.Name, "Kit", k.At, fmt.Sprintf("%s: %d short at %s.", says, k.Short, pic.clock(k.At)))
	}
}
