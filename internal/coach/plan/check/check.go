// Package check says what is wrong with a plan, and what would mend it. Each finding is a type in a file of its own:
// what it is about, how it comes about, its words and its mends. The rules that find them are listed in registry.go.
package check

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/work"
)

// Weight of a finding.
type Weight string

const (
	Stop   Weight = "stop"
	Settle Weight = "settle"
	Note   Weight = "note"
)

// What is what the check noticed: a type for each kind of finding.
type What interface {
	// Says is the sentence.
	Says() string
	// About are the station, block, player or leader it is about; the first is where it stands.
	About() []Subject
}

// Finding is something the check noticed, with what would mend it at once, where there is something.
type Finding struct {
	What
	Weight Weight
	At     time.Duration // when on the session's clock; work.Always: all through
	Mends  []Mend
}

// Mend is edits that settle a finding together.
type Mend struct {
	Words string // the button's
	Edits []edit.Edit
}

// mend is one of a single edit.
func mend(words string, e edit.Edit) Mend { return Mend{words, []edit.Edit{e}} }

// Where names what the finding stands at: "Station 3", a player, "Time".
func (f Finding) Where() string { return f.About()[0].Name }

// Key names the finding, so that it is the same one in another picture of the plan: its kind, what it is about, and
// which of several.
func (f Finding) Key() string {
	words := []string{strings.TrimPrefix(fmt.Sprintf("%T", f.What), "check.")}
	for _, s := range f.About() {
		words = append(words, s.ID)
	}
	if w, ok := f.What.(interface{ Which() string }); ok {
		words = append(words, w.Which())
	}
	return strings.Join(words, " ")
}

// Picture is a plan worked out, with what the check found in it.
type Picture struct {
	work.Picture
	Findings []Finding
}

// Plan works a plan out and checks it; a plan that runs in the hall is not checked any more.
func Plan(in work.Input) Picture {
	pic := work.Out(in)
	if in.Running {
		return Picture{Picture: pic}
	}
	c := checking{Picture: &pic, in: in}
	for _, rule := range rules {
		rule(&c)
	}
	for i := range c.found { // only what can be done is offered
		f := &c.found[i]
		f.Mends = slices.DeleteFunc(f.Mends, func(m Mend) bool {
			_, _, err := edit.Apply(pic.Plan, m.Edits...)
			return err != nil
		})
	}
	order := []Weight{Stop, Settle, Note}
	slices.SortStableFunc(c.found, func(a, b Finding) int {
		return cmp.Compare(slices.Index(order, a.Weight), slices.Index(order, b.Weight))
	})
	return Picture{pic, c.found}
}

// Stops reports whether the plan has a finding that should stop the session from going on like this.
func (pic Picture) Stops() bool {
	return slices.ContainsFunc(pic.Findings, func(f Finding) bool { return f.Weight == Stop })
}

// Trouble reports whether there is more than a note at a station.
func (pic Picture) Trouble(station string) bool {
	return slices.ContainsFunc(pic.Findings, func(f Finding) bool {
		at := f.About()[0]
		return f.Weight != Note && at.Kind == AStation && at.ID == station
	})
}

// checking is a check under way.
type checking struct {
	*work.Picture
	in    work.Input
	found []Finding
}

func (c *checking) find(w Weight, at time.Duration, what What, mends ...Mend) {
	c.found = append(c.found, Finding{what, w, at, mends})
}

// clock is a moment as the clock on the wall shows it.
func (c *checking) clock(at time.Duration) string { return c.Start.Add(at).Format("15:04") }

// begin is when the first round of a station's circuit does.
func (c *checking) begin(s work.StationAt) time.Duration { return c.begins(c.Circuits[s.Circuit]) }

func (c *checking) begins(circuit work.Circuit) time.Duration {
	if rounds := c.RoundsOf(circuit); len(rounds) > 0 {
		return rounds[0].From
	}
	return work.Always
}

// groups are those that come to a station's circuit and do what the station is for.
func (c *checking) groups(s work.StationAt) []work.Group {
	return slices.DeleteFunc(c.GroupsOf(c.Circuits[s.Circuit]), s.HasOwn)
}

// dealt are the groups of a deal.
func (c *checking) dealt(d doc.Deal) (out []work.Group) {
	for _, g := range c.Groups {
		if g.Deal == d.ID {
			out = append(out, g)
		}
	}
	return out
}

// lead is the lead who is there, where one is.
func (c *checking) lead() (id string) {
	for _, l := range c.in.Leaders {
		if l.Role == coach.RoleLead {
			return l.ID
		}
	}
	return ""
}
