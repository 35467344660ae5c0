// Package deciding is who may be decided and how: a step up, a try-out or a stay, with the evidence it rests on; what
// became of it; and who stood where on a day of the past.
package deciding

import (
	"fmt"
	"strings"
	"time"

	"gruppo/internal/coach/say"
	"gruppo/internal/day"
)

// Kind of a decision.
type Kind string

const (
	Up   Kind = "up"
	Try  Kind = "try" // so many visits to the next stage, then decided
	Stay Kind = "stay"
)

// Decision is a step up, a try-out or a stay, with the evidence as it was then. It is only ever added; a later one
// about the same player and program supersedes it.
type Decision struct {
	ID, PlayerID, ProgramID string
	Kind                    Kind
	FromStage, ToStage      string // ids; names where decisions are listed
	Why                     string
	Evidence                Evidence
	By                      string // name
	At                      time.Time
	FromOn                  day.Day // it holds from
	Visits                  int     // of a try-out
	ClassID                 string  // where it is tried out
	TwoSign                 bool    // waits for a second signature
}

// Recorded is a decision as the record shows it.
type Recorded struct {
	Decision
	PlayerName, ProgramName, ClassName string
	ByID                               string
	Signed                             string // who signed as the second; empty: nobody
	SignedAt                           *time.Time
	Done                               bool // the player stepped up
	Superseded                         bool // by a later one, or because the player is no longer where it was decided from
	Came                               int  // visits so far, of a try-out
}

// Waits reports whether a second signature is still missing.
func (r Recorded) Waits() bool { return r.TwoSign && r.Signed == "" && !r.Superseded && !r.Done }

// Ahead reports whether a step up is decided and signed but its day has not come.
func (r Recorded) Ahead() bool { return r.Kind == Up && !r.Done && !r.Superseded && !r.Waits() }

// TryOver reports whether the visits of a try-out are made and nothing was decided after.
func (r Recorded) TryOver() bool { return r.Kind == Try && !r.Superseded && r.Came >= r.Visits }

// Open reports whether a try-out goes on.
func (r Recorded) Open() bool { return r.Kind == Try && !r.Superseded && r.Came < r.Visits }

// Words is the decision in words: "Reef → Tide", "tries out Tide: 2 visits to Thursday hall", "stays in Reef".
func (r Recorded) Words() string {
	switch r.Kind {
	case Up:
		return r.FromStage + " → " + r.ToStage
	case Try:
		return fmt.Sprintf("tries out %s: %s to %s", r.ToStage, say.Count(r.Visits, "visit"), r.ClassName)
	}
	return "stays in " + r.FromStage
}

// Stands is what became of it, in words; empty when it was simply carried out.
func (r Recorded) Stands() string {
	var out []string
	if r.Signed != "" {
		out = append(out, "signed by "+r.Signed)
	}
	switch {
	case r.Waits():
		out = append(out, "waits for a second signature")
	case r.Ahead():
		out = append(out, "from "+r.FromOn.Format("2 Jan 2006"))
	case r.TryOver():
		out = append(out, "try-out over: decide now")
	case r.Open():
		out = append(out, "came "+say.TimesOf(r.Came, r.Visits))
	case r.Superseded && !r.Done:
		out = append(out, "no longer holds")
	}
	return strings.Join(out, " · ")
}

// Evidence is what a decision rested on, in words and figures, kept as it was.
type Evidence struct {
	Stage   string           `json:"stage"`
	Ready   bool             `json:"ready"`
	Missing []string         `json:"missing"`
	Items   []EvidenceOfItem `json:"items"`
}

// EvidenceOfItem is one criterion with the marks that counted.
type EvidenceOfItem struct {
	Wording  string   `json:"wording"`
	Standard string   `json:"standard"`
	State    string   `json:"state"`
	Marks    []string `json:"marks"`
	Edition  int      `json:"edition,omitempty"`
}

// EvidenceSays is the evidence in a few words: "5 of 6 shown".
func (r Recorded) EvidenceSays() string {
	n := 0
	for _, it := range r.Evidence.Items {
		if it.State == "shown" {
			n++
		}
	}
	return fmt.Sprintf("%d of %d shown", n, len(r.Evidence.Items))
}
