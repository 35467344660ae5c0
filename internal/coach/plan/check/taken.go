package check

import "fmt"

// Taken: somebody else has the place at this time.
type Taken struct {
	OfPlan
	By, From, Until string
}

func (f Taken) Which() string { return f.By }

func (f Taken) Says() string {
	return fmt.Sprintf(
		"%s has this place from %s to %s. Choose another place or zone under What if.",
		f.By,
		f.From,
		f.Until,
	)
}

func taken(c *checking) {
	for _, t := range c.in.Taken {
		if from := max(0, t.From); from < min(c.Booked, t.Until) {
			c.find(Stop, from, Taken{OfPlan{"Place"}, t.What, c.clock(t.From), c.clock(t.Until)})
		}
	}
}
