package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"gruppo/internal/coach"
)

// LadderFile is a ladder of stages as a file: docs/ladder-file.md describes it.
type LadderFile struct {
	Format  string        `json:"format"` // gruppo-ladder
	Version int           `json:"version"`
	Name    string        `json:"name"`
	Stages  []LadderStage `json:"stages"` // from the first
}

// LadderStage is a stage of the file.
type LadderStage struct {
	Name     string            `json:"name"`
	About    string            `json:"about,omitempty"`
	Colour   string            `json:"colour"` // as #2f8a5b
	StepUp   LadderStepUp      `json:"stepUp"`
	Criteria []LadderCriterion `json:"criteria"`
}

// LadderStepUp is what a stage asks besides every must.
type LadderStepUp struct {
	Choose int `json:"choose"`
	Visits int `json:"visits"`
	Weeks  int `json:"weeks"`
}

// LadderCriterion is a criterion of the file.
type LadderCriterion struct {
	Wording   string        `json:"wording"`
	Skill     string        `json:"skill"`
	Measure   coach.Measure `json:"measure"`
	Want      float64       `json:"want,omitempty"`
	Of        float64       `json:"of,omitempty"`
	Tolerance float64       `json:"tolerance,omitempty"`
	Points    []string      `json:"points,omitempty"`
	Must      bool          `json:"must"`
	ByResult  bool          `json:"byResult"`
	BothSides bool          `json:"bothSides,omitempty"`
	Home      bool          `json:"home,omitempty"`
	Evidence  struct {
		Good   int `json:"good"`
		Last   int `json:"last,omitempty"`
		Days   int `json:"days,omitempty"`
		Weeks  int `json:"weeks,omitempty"`
		People int `json:"people,omitempty"`
	} `json:"evidence"`
	Keys []string `json:"keys,omitempty"`
}

const (
	ladderFormat  = "gruppo-ladder"
	ladderVersion = 1
)

// MostLadder is the largest ladder file that is read, in bytes.
const MostLadder = 1 << 20

// WriteLadder writes a ladder without anything that belongs to one club: no ids, no players, no marks.
func WriteLadder(w io.Writer, name string, stages []coach.Stage) error {
	f := LadderFile{Format: ladderFormat, Version: ladderVersion, Name: name, Stages: []LadderStage{}}
	for _, s := range stages {
		out := LadderStage{
			Name:     s.Name,
			About:    s.About,
			Colour:   s.Colour,
			StepUp:   LadderStepUp(s.StepUp),
			Criteria: []LadderCriterion{},
		}
		for _, c := range s.Criteria {
			k := LadderCriterion{
				Wording:   c.Wording,
				Skill:     c.Skill,
				Measure:   c.Measure,
				Want:      c.Want,
				Of:        c.Of,
				Tolerance: c.Tolerance,
				Points:    c.Points,
				Must:      c.Must,
				ByResult:  c.ByResult,
				BothSides: c.BothSides,
				Home:      c.Home,
				Keys:      c.Keys,
			}
			k.Evidence.Good, k.Evidence.Last, k.Evidence.Days, k.Evidence.Weeks, k.Evidence.People = c.Rule.Good, c.Rule.Last, c.Rule.Days, c.Rule.Weeks, c.Rule.People
			out.Criteria = append(out.Criteria, k)
		}
		f.Stages = append(f.Stages, out)
	}
	e := json.NewEncoder(w)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	return e.Encode(f)
}

// ReadLadder reads a file that WriteLadder wrote, or that a person wrote by docs/ladder-file.md. The error is a
// sentence for the coach; with one, nothing of the file is to be taken.
func ReadLadder(b []byte) (name string, stages []coach.Stage, err error) {
	if len(b) > MostLadder {
		return "", nil, sentence("This file is over 1 MB; a ladder is a few kilobytes.")
	}
	if err := head(b, "ladder", ladderFormat, ladderVersion); err != nil {
		return "", nil, err
	}
	var f LadderFile
	d := json.NewDecoder(bytes.NewReader(b))
	d.DisallowUnknownFields()
	if err := d.Decode(&f); err != nil {
		line := 1 + bytes.Count(b[:min(int(d.InputOffset()), len(b))], []byte("\n"))
		var kind *json.UnmarshalTypeError
		if errors.As(err, &kind) {
			return "", nil, sentence(
				"Line %d: %q is not what it should be: %s.",
				1+bytes.Count(b[:min(int(kind.Offset), len(b))], []byte("\n")),
				kind.Field,
				kind.Value,
			)
		}
		return "", nil, sentence(
			"Near line %d: the file has something this program does not know: %s.",
			line,
			strings.TrimPrefix(err.Error(), "json: "),
		)
	}
	switch f.Name = strings.TrimSpace(f.Name); {
	case f.Name == "" || len([]rune(f.Name)) > 40:
		return "", nil, sentence("The ladder needs a name of at most 40 characters.")
	case len(f.Stages) == 0:
		return "", nil, sentence("The ladder has no stages.")
	case len(f.Stages) > 20:
		return "", nil, sentence("That is %d stages; 20 are the most.", len(f.Stages))
	}
	first := func(where string, bad []coach.Trial) error {
		if len(bad) == 0 {
			return nil
		}
		slices.SortFunc(bad, func(a, b coach.Trial) int { return strings.Compare(a.Field, b.Field) })
		return sentence("%s, %s: %s", where, bad[0].Field, bad[0].Says)
	}
	names := map[string]bool{}
	for i, s := range f.Stages {
		out := coach.Stage{
			Order:  i + 1,
			Name:   strings.TrimSpace(s.Name),
			About:  s.About,
			Colour: s.Colour,
			StepUp: coach.StepUp(s.StepUp),
		}
		where := fmt.Sprintf("Stage %d", i+1)
		if err := first(where, out.Check()); err != nil {
			return "", nil, err
		}
		if names[strings.ToLower(out.Name)] {
			return "", nil, sentence("%s: there is a stage %s already.", where, out.Name)
		}
		names[strings.ToLower(out.Name)] = true
		if len(s.Criteria) > 30 {
			return "", nil, sentence("%s, %s: that is %d criteria; 30 are the most.", where, s.Name, len(s.Criteria))
		}
		for j, k := range s.Criteria {
			c := coach.Criterion{
				Order:     j + 1,
				Wording:   k.Wording,
				Skill:     strings.ToLower(k.Skill),
				Measure:   k.Measure,
				Want:      k.Want,
				Of:        k.Of,
				Tolerance: k.Tolerance,
				Points:    k.Points,
				Must:      k.Must,
				ByResult:  k.ByResult,
				BothSides: k.BothSides,
				Home:      k.Home,
				Keys:      k.Keys,
				Rule: coach.EvidenceRule{
					Good:   k.Evidence.Good,
					Last:   k.Evidence.Last,
					Days:   max(1, k.Evidence.Days),
					Weeks:  k.Evidence.Weeks,
					People: max(1, k.Evidence.People),
				},
			}
			if err := first(fmt.Sprintf("%s, %s, criterion %d", where, s.Name, j+1), c.Check()); err != nil {
				return "", nil, err
			}
			out.Criteria = append(out.Criteria, c)
		}
		stages = append(stages, out)
	}
	return f.Name, stages, nil
}
