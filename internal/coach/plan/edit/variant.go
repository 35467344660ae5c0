package edit

import (
	"strings"

	"gruppo/internal/coach/plan/doc"
)

// Variant gives a group, or all of a stage, a form of the station's drill.
type Variant struct {
	Station string
	For     string // doc.GroupKey, or a stage's name
	Name    string // "-" for the drill as it is; empty: the one that suits
}

// readVariant reads "group 2=variant" or "stage=variant".
func readVariant(w Wire) (Edit, error) {
	to, name, ok := strings.Cut(w.Value, "=")
	if !ok {
		return nil, doc.Input("variant", "Choose a variant.")
	}
	return Variant{w.At, to, name}, nil
}

func (e Variant) apply(p *doc.Plan) (Needs, error) {
	s, _, err := station(p, e.Station)
	if err != nil {
		return Nothing, err
	}
	s.Aims = nil // they were for the forms before
	if e.Name == "" {
		delete(s.Variant, e.For)
		return Nothing, nil
	}
	if s.Variant == nil {
		s.Variant = map[string]string{}
	}
	s.Variant[e.For] = e.Name
	return Nothing, nil
}

func (e Variant) Called(p doc.Plan) string { return stationCalled(p, e.Station, "variant") }
