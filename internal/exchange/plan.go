package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
)

// PlanFile is a plan as a file: docs/plan-file.md describes it. Drills are those the plan uses, in the editions it was
// made with; Players are the names of those dealt, so that a person can read the file.
type PlanFile struct {
	Format  string            `json:"format"` // gruppo-plan
	Version int               `json:"version"`
	Class   string            `json:"class"`
	Date    string            `json:"date"`
	Minutes int               `json:"minutes"`
	Plan    doc.Plan          `json:"plan"`
	Drills  []coach.Drill     `json:"drills"`
	Players map[string]string `json:"players"`
}

const (
	planFormat  = "gruppo-plan"
	planVersion = 2
)

// MostPlan is the largest plan file that is read, in bytes.
const MostPlan = 1 << 20

// WritePlan writes the file.
func WritePlan(w io.Writer, f PlanFile) error {
	f.Format, f.Version = planFormat, planVersion
	e := json.NewEncoder(w)
	e.SetIndent("", "  ")
	return e.Encode(f)
}

// ReadPlan reads a file that WritePlan wrote, perhaps elsewhere or long ago. The error is a sentence for the coach.
func ReadPlan(b []byte) (f PlanFile, err error) {
	if len(b) > MostPlan {
		return f, sentence("This file is over 1 MB; a plan is a few kilobytes.")
	}
	if err := head(b, "plan", planFormat, planVersion); err != nil {
		return f, err
	}
	d := json.NewDecoder(bytes.NewReader(b))
	d.DisallowUnknownFields()
	var raw struct {
		PlanFile
		Plan json.RawMessage `json:"plan"`
	}
	err = d.Decode(&raw)
	if f = raw.PlanFile; err == nil && raw.Plan != nil {
		f.Plan, err = doc.Read(raw.Plan)
	}
	if err != nil {
		var kind *json.UnmarshalTypeError
		if errors.As(err, &kind) {
			return f, sentence("The file's %q is not what it should be.", strings.TrimPrefix(kind.Field, "PlanFile."))
		}
		return f, sentence("The file has something this program does not know: %s.", err)
	}
	if err := f.Plan.Check(); err != nil {
		return f, sentence("The plan in the file cannot be: %v", err)
	}
	if len(f.Drills) > 60 {
		return f, sentence("The file carries more drills than a plan can use.")
	}
	return f, nil
}

// head reads what a file says it is, and refuses what is not one of that format in a version up to newest.
func head(b []byte, what, format string, newest int) error {
	var h struct {
		Format  string `json:"format"`
		Version int    `json:"version"`
	}
	if err := json.Unmarshal(b, &h); err != nil {
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			return sentence(
				"This is not a %s file: it breaks off or is damaged at line %d.",
				what,
				1+bytes.Count(b[:min(int(syntax.Offset), len(b))], []byte("\n")),
			)
		}
		return sentence("This is not a %s file.", what)
	}
	switch {
	case h.Format != format:
		return sentence("This is not a %s file: it does not say that it is one.", what)
	case h.Version > newest:
		return sentence(
			"This %s was written by a newer Gruppo (file version %d; this one reads up to %d).",
			what,
			h.Version,
			newest,
		)
	case h.Version < 1:
		return sentence("This %s file does not say its version.", what)
	}
	return nil
}

// sentence is an error that says to the coach what is wrong with the file.
func sentence(format string, args ...any) error {
	return &doc.ErrInput{Says: fmt.Sprintf(format, args...)}
}
