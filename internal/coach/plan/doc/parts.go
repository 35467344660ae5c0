package doc

// The rounds of stations may be split: the first block holds the circuit, the blocks after it name the one they go on
// with.

// Owner is the block that holds the stations of a block: itself, or the one it goes on with. Nil where the block is of
// another kind.
func (p Plan) Owner(b *Block) *Block {
	switch {
	case b.Kind != Stations:
		return nil
	case b.Circuit != nil:
		return b
	}
	return p.Block(b.After)
}

// PartOf are the places in the plan of the blocks that hold rounds of a circuit, counted from 0.
func (p Plan) PartOf(owner string) (at []int) {
	for i, b := range p.Blocks {
		if b.Kind == Stations && (b.ID == owner || b.After == owner && b.Circuit == nil) {
			at = append(at, i)
		}
	}
	return at
}

// Own lets the first part of every circuit hold it, after blocks were moved or taken out.
func (p *Plan) Own() {
	for i := range p.Blocks {
		c := p.Blocks[i].Circuit
		if c == nil {
			continue
		}
		parts := p.PartOf(p.Blocks[i].ID)
		if parts[0] == i {
			continue
		}
		first := &p.Blocks[parts[0]]
		first.Circuit, first.After, p.Blocks[i].Circuit = c, "", nil
		for _, at := range parts[1:] {
			p.Blocks[at].After = first.ID
		}
	}
}

// Dealt counts the players who are in groups.
func (d Deal) Dealt() (n int) {
	for _, g := range d.Players {
		n += len(g)
	}
	return n
}

// RoundsDue is how many rounds a circuit has for so many groups: as it says, else until every group was everywhere.
func (c Circuit) RoundsDue(groups int) int {
	if c.Rounds > 0 || len(c.Stations) == 0 {
		return c.Rounds
	}
	room := len(c.Stations)
	for _, s := range c.Stations {
		if s.Double {
			room++
		}
	}
	return max(len(c.Stations), (groups*len(c.Stations)+room-1)/room)
}

// Due is how many rounds a circuit has in this plan.
func (p Plan) Due(c *Circuit) int { return c.RoundsDue(len(p.DealOf(c).Players)) }

// Shares are the rounds that each block holds of a circuit's: what it says, within what is left; one that says nothing
// holds what those after it leave, and the last part the rest.
func (p Plan) Shares(owner string, rounds int) map[int]int {
	parts, out, later := p.PartOf(owner), map[int]int{}, 0
	for _, i := range parts {
		later += p.Blocks[i].Rounds
	}
	for n, i := range parts {
		says := p.Blocks[i].Rounds
		later -= says
		switch {
		case n == len(parts)-1:
			out[i] = rounds
		case says > 0:
			out[i] = min(says, rounds)
		default:
			out[i] = max(0, rounds-later)
		}
		rounds -= out[i]
	}
	return out
}
