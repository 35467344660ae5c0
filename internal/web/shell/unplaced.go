package shell

import "gruppo/internal/store"

// Unplaced is how many players stand on no stage of a program: they are on no sheet and no step, and the page says so.
// Template "unplaced" shows it.
type Unplaced struct {
	Players int
	Program store.Program
	MaySet  bool
}

// Unplaced counts them in the first of the programs that has any.
func (c *Ctx) Unplaced(tx *store.Tx, programs []store.Program) (Unplaced, error) {
	for _, p := range programs {
		players, err := tx.Unplaced(c.Ctx(), p.ID)
		if err != nil || len(players) > 0 {
			return Unplaced{len(players), p, c.May(ChangeRoster)}, err
		}
	}
	return Unplaced{}, nil
}
