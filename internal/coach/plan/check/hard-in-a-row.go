package check

import (
	"fmt"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
)

// HardInARow: a group comes to two hard stations one after the other.
type HardInARow struct {
	OfPlan
	Round int // the first of the two
}

func (f HardInARow) Says() string {
	return fmt.Sprintf("Two hard stations in a row, rounds %d and %d.", f.Round, f.Round+1)
}

func hardInARow(c *checking) {
	for _, g := range c.Groups {
		for r := 1; r < len(g.Route); r++ {
			a, b := g.Route[r-1], g.Route[r]
			if a < 0 || b < 0 || !c.Stations[a].Drill.Hard || !c.Stations[b].Drill.Hard ||
				c.Rounds[r].Block != c.Rounds[r-1].Block {
				continue
			}
			block := c.Blocks[c.Rounds[r].Block]
			split := edit.SplitBlock{Block: block.ID, After: r - block.First}
			c.find(Note, c.Rounds[r].From, HardInARow{OfPlan{g.Shape.Name}, r},
				Mend{"Drink between", []edit.Edit{split, edit.AddBlock{Kind: doc.Break, After: block.ID}}})
			return
		}
	}
}
