package exchange

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
	"golang.org/x/text/language"
	"golang.org/x/text/message"

	"gruppo/internal/coach"
	"gruppo/internal/coach/diagram"
	"gruppo/internal/coach/path"
	"gruppo/internal/coach/say"
)

// Pack is a file of drills: docs/pack-file.md describes it, and PackSchema says it for programs.
type Pack struct {
	Format  string      `json:"format"` // gruppo-pack
	Version int         `json:"version"`
	Name    string      `json:"name"`
	Club    string      `json:"club"`
	Made    string      `json:"made"` // the day, as 2026-11-24
	Drills  []PackDrill `json:"drills"`
}

// PackDrill is a drill of a pack. Picture is its diagram as SVG, for programs that show nothing else; reading goes by
// the drill's own figures.
type PackDrill struct {
	ID      string      `json:"id"` // where it was written, a UUID
	Edition int         `json:"edition"`
	Drill   coach.Drill `json:"drill"`
	Links   []PackLink  `json:"links,omitempty"`
	Picture string      `json:"picture,omitempty"`
}

// PackLink leads to another drill, of the pack or of the shelf it comes to.
type PackLink struct {
	Kind path.Kind `json:"kind"`
	To   string    `json:"to"`
}

const (
	packFormat  = "gruppo-pack"
	packVersion = 1
	mostDrills  = 2000
)

// MostPack is the largest pack that is read, in bytes.
const MostPack = 20 << 20

// PackSchema is the JSON Schema of a pack, checked when one is written and when one is read.
//
//go:embed pack.schema.json
var PackSchema []byte

var schema = sync.OnceValue(func() *jsonschema.Schema {
	c := jsonschema.NewCompiler()
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(PackSchema))
	if err == nil {
		err = c.AddResource("pack.schema.json", doc)
	}
	if err != nil {
		panic(err) // the schema is part of the program
	}
	return c.MustCompile("pack.schema.json")
})

// WritePack writes the file. Drills leave without what belongs to this club alone: their ids stand beside them.
func WritePack(w io.Writer, p Pack) error {
	p.Format, p.Version = packFormat, packVersion
	p.Drills = slices.Clone(p.Drills)
	for i := range p.Drills {
		p.Drills[i].Drill.ID, p.Drills[i].Drill.Edition = "", 0
	}
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", " ")
	if err := e.Encode(p); err != nil {
		return err
	}
	if err := validate(b.Bytes()); err != nil {
		return fmt.Errorf("the pack would not be readable: %w", err)
	}
	_, err := w.Write(b.Bytes())
	return err
}

// ReadPack reads a file that WritePack wrote, perhaps elsewhere or long ago, and holds it to the schema and to what can
// be in a drill. The error is a sentence for the coach; with one, nothing of the pack is to be taken.
func ReadPack(b []byte) (p Pack, err error) {
	if len(b) > MostPack {
		return p, sentence("This file is %d MB; a pack is at most %d MB.", len(b)>>20, MostPack>>20)
	}
	if err := head(b, "pack", packFormat, packVersion); err != nil {
		return p, err
	}
	if err := validate(b); err != nil {
		return p, err
	}
	if err := json.Unmarshal(b, &p); err != nil {
		return p, sentence("The file cannot be read: %v.", err)
	}
	if len(p.Drills) > mostDrills {
		return p, sentence("That is %d drills; bring at most %d at a time.", len(p.Drills), mostDrills)
	}
	seen := map[string]int{}
	for i, d := range p.Drills {
		if j := seen[d.ID]; j > 0 {
			return p, sentence("%s has the same id as drill %d.", p.which(i), j)
		}
		seen[d.ID] = i + 1
		p.Drills[i].Drill.Tidy()
		if says := wrong(d.Drill); says != "" {
			return p, sentence("%s: %s", p.which(i), says)
		}
		if script.MatchString(d.Picture) {
			return p, sentence("%s: its picture carries a script. A pack with one is not taken at all.", p.which(i))
		}
		if doc, _ := json.Marshal(d.Drill); script.Match(bytes.ReplaceAll(doc, []byte(`\u003c`), []byte("<"))) {
			return p, sentence("%s: its text carries a script. A pack with one is not taken at all.", p.which(i))
		}
	}
	return p, nil
}

// script finds what a browser might run. Texts are shown as text whatever is in them; a file that tries is not from a
// coach.
var script = regexp.MustCompile(`(?i)<\s*(script|iframe|object|embed|foreignobject)\b|<[^>]*\son\w+\s*=|javascript\s*:`)

// which names the drill of a pack.
func (p Pack) which(i int) string {
	s := "Drill " + strconv.Itoa(i+1)
	if n := p.Drills[i].Drill.Name; n != "" {
		s += ", " + n
	}
	return s
}

// wrong says what cannot be in a drill: the first thing, with where it stands.
func wrong(d coach.Drill) string {
	if bad := d.Check(); len(bad) > 0 {
		slices.SortFunc(bad, func(a, b coach.Trial) int { return strings.Compare(a.Field, b.Field) })
		return bad[0].Field + ": " + bad[0].Says
	}
	if d.Diagram != nil {
		if says := diagram.Check(*d.Diagram); says != "" {
			return "diagram: " + says
		}
	}
	return ""
}

// validate holds a file to the schema; the error says where it first departs from it, and how.
func validate(b []byte) error {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(b))
	if err != nil {
		return sentence("The file cannot be read: %v.", err)
	}
	var bad *jsonschema.ValidationError
	if err := schema().Validate(doc); errors.As(err, &bad) {
		for len(bad.Causes) > 0 {
			bad = bad.Causes[0]
		}
		return sentence("%s: %s. Nothing was taken.", place(doc, bad.InstanceLocation), schemaSays(bad))
	} else if err != nil {
		return err
	}
	return nil
}

func schemaSays(e *jsonschema.ValidationError) string {
	quoted := func(names []string) string {
		out := []string{}
		for _, n := range names {
			out = append(out, fmt.Sprintf("%q", n))
		}
		return say.List(out)
	}
	switch k := e.ErrorKind.(type) {
	case *kind.Required:
		return quoted(k.Missing) + " is missing"
	case *kind.AdditionalProperties:
		return "it has " + quoted(k.Properties) + ", which this program does not know"
	case *kind.Type:
		return fmt.Sprintf("it should be of the kind %s and is %s", say.List(k.Want), k.Got)
	}
	return e.ErrorKind.LocalizedString(message.NewPrinter(language.English))
}

// place says where in a pack something is: "Drill 3, Feint, keys, 2".
func place(doc any, at []string) string {
	if len(at) == 0 {
		return "The pack"
	}
	out := at
	if len(at) > 1 && at[0] == "drills" {
		n, _ := strconv.Atoi(at[1])
		out = append([]string{"Drill " + strconv.Itoa(n+1)}, at[2:]...)
		if drills, ok := doc.(map[string]any)["drills"].([]any); ok && n < len(drills) {
			if d, ok := drills[n].(map[string]any); ok {
				if inner, ok := d["drill"].(map[string]any); ok && inner["name"] != nil {
					out[0] += fmt.Sprintf(", %v", inner["name"])
				}
			}
		}
	}
	return strings.Join(out, ", ")
}

// Meets says how a pack's drill stands to the shelf.
type Meets struct {
	PackDrill
	Ours  *coach.Drill       // the one it meets, if any
	How   Kind               // Add: not there yet; Same: there as it is; Change: there and different
	By    string             // in words, by what it was recognised
	Diffs []coach.Difference // from ours to the pack's
}

// Meet recognises the pack's drills on the shelf: by where they were written, also those that a copy came from, else by
// their names. What differs is said in the club's units.
func (p Pack) Meet(shelf []coach.Drill, u coach.Units) []Meets {
	byID, byName := map[string]*coach.Drill{}, map[string]*coach.Drill{}
	for i, d := range shelf {
		byName[key(d.Name)] = &shelf[i]
		if d.Origin != nil {
			byID[d.Origin.Drill] = &shelf[i]
		}
	}
	for i, d := range shelf {
		byID[d.ID] = &shelf[i]
	}
	out := make([]Meets, len(p.Drills))
	for i, d := range p.Drills {
		m := Meets{PackDrill: d, How: Add}
		if m.Ours = byID[d.ID]; m.Ours != nil {
			m.By = "the same drill"
		} else if m.Ours = byName[key(d.Drill.Name)]; m.Ours != nil {
			m.By = "the same name"
		}
		if m.Ours != nil {
			m.How = Same
			if m.Diffs = coach.Compare(*m.Ours, d.Drill, u); len(m.Diffs) > 0 {
				m.How = Change
			}
		}
		out[i] = m
	}
	return out
}

// DeadLinks names the first drill of the pack that links to one that is neither in the pack nor on the shelf; nil when
// there is none.
func (p Pack) DeadLinks(shelf []coach.Drill) error {
	there := map[string]bool{}
	for _, d := range shelf {
		there[d.ID] = true
		if d.Origin != nil {
			there[d.Origin.Drill] = true
		}
	}
	for _, d := range p.Drills {
		there[d.ID] = true
	}
	for i, d := range p.Drills {
		for _, l := range d.Links {
			if !there[l.To] {
				return sentence(
					"%s %s a drill that is neither in the pack nor on your shelf. Nothing was taken.",
					p.which(i),
					l.Kind,
				)
			}
			if l.To == d.ID {
				return sentence("%s %s itself. Nothing was taken.", p.which(i), l.Kind)
			}
		}
	}
	return nil
}
