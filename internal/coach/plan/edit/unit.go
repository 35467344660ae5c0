package edit

import (
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Unit names a group of a deal: those who train as one, such as the infielders. Without a name it is called by its shape.
type Unit struct {
	Deal  string // empty: the first
	Group int    // counted from 0
	Name  string
}

// readUnit reads "0 Infielders".
func readUnit(w Wire) (Edit, error) {
	first, name, _ := strings.Cut(strings.TrimSpace(w.Value), " ")
	n, err := strconv.Atoi(first)
	name = strings.TrimSpace(name)
	switch {
	case err != nil || n < 0 || n >= doc.Most:
		return nil, doc.Input("unit", "That group is no longer in the plan.")
	case len([]rune(name)) > doc.MostName:
		return nil, doc.Input("unit", "The name of a unit has at most %d letters.", doc.MostName)
	}
	return Unit{w.At, n, name}, nil
}

func (e Unit) apply(p *doc.Plan) (Needs, error) {
	d, err := dealt(p, e.Deal)
	switch {
	case err != nil:
		return Nothing, err
	case e.Group >= max(d.Groups, len(d.Players)):
		return Nothing, doc.Input("unit", "That group is no longer in the plan.")
	}
	for i, name := range d.Names {
		if e.Name != "" && i != e.Group && strings.EqualFold(name, e.Name) {
			return Nothing, doc.Input("unit", "Two units cannot both be called %s.", name)
		}
	}
	d.Names = slices.Clone(d.Names)
	for len(d.Names) <= e.Group {
		d.Names = append(d.Names, "")
	}
	d.Names[e.Group] = e.Name
	return Nothing, nil
}

func (e Unit) Called(doc.Plan) string { return "the name of a unit" }
