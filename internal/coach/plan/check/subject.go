package check

import (
	"fmt"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/work"
)

// Subject is what a finding is about.
type Subject struct {
	Kind Kind
	ID   string
	Name string // as it is shown: "Station 3", a name, "Time"
}

// Kind of a subject.
type Kind int

const (
	APart    Kind = iota // of the plan as a whole: its time, its kit, its groups
	AStation             // by the id in the plan
	ABlock               // by the id in the plan
	APlayer
	ALeader
)

// Has reports whether what a finding is about is still in the picture.
func (pic Picture) Has(s Subject) bool {
	switch s.Kind {
	case AStation:
		return slices.ContainsFunc(pic.Stations, func(o work.StationAt) bool { return o.ID == s.ID })
	case ABlock:
		return slices.ContainsFunc(pic.Blocks, func(b work.Span) bool { return b.ID == s.ID })
	case APlayer:
		return slices.ContainsFunc(pic.Ledger, func(r work.Row) bool { return r.Player.ID == s.ID })
	case ALeader:
		return slices.ContainsFunc(pic.CanLead, func(l work.Leader) bool { return l.ID == s.ID && pic.Covers(l) })
	}
	return true
}

// OfPlan is a finding about a part of the plan as a whole, by its name.
type OfPlan struct{ Part string }

func (f OfPlan) About() []Subject { return []Subject{{APart, f.Part, f.Part}} }

// AtStation is a finding about a station.
type AtStation struct{ Station Subject }

func (f AtStation) About() []Subject { return []Subject{f.Station} }

func stationOf(s work.StationAt) AtStation {
	return AtStation{Subject{AStation, s.ID, fmt.Sprint("Station ", s.Index+1)}}
}

// InBlock is a finding about a block.
type InBlock struct{ Block Subject }

func (f InBlock) About() []Subject { return []Subject{f.Block} }

func blockOf(b work.Span) InBlock { return InBlock{Subject{ABlock, b.ID, b.Title}} }

// OfPlayer is a finding about a player.
type OfPlayer struct{ Player Subject }

func (f OfPlayer) About() []Subject { return []Subject{f.Player} }

func playerOf(p coach.Player) OfPlayer { return OfPlayer{Subject{APlayer, p.ID, p.Name}} }

// OfLeader is a finding about a leader.
type OfLeader struct{ Leader Subject }

func (f OfLeader) About() []Subject { return []Subject{f.Leader} }
