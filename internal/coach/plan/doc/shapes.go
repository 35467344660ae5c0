package doc

import (
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach"
)

// Shape is how a group is told from the others: a shape and a colour, never colour alone.
type Shape struct{ Key, Name, Colour string }

// Many is the group within a sentence: "circles".
func (s Shape) Many() string { return strings.ToLower(s.Name) }

// Shapes in the order groups take them.
var Shapes = []Shape{
	{"circle", "Circles", "#0072b2"},
	{"triangle", "Triangles", "#d55e00"},
	{"square", "Squares", "#00795a"},
	{"diamond", "Diamonds", "#8a3b8f"},
	{"pentagon", "Pentagons", "#8a6d00"},
	{"star", "Stars", "#b0265c"},
	{"hexagon", "Hexagons", "#3b3f8f"},
	{"cross", "Crosses", "#4a4a4a"},
}

// VariantFor is the variant of a drill that a group does: what the coach chose for the group, else for its stage, else
// what suits the stage. Nil: the drill as it is.
func (s Station) VariantFor(d coach.Drill, group int, stage string) *coach.Variant {
	name, chosen := s.Variant[GroupKey(group)]
	if !chosen {
		name, chosen = s.Variant[stage]
	}
	if !chosen && strings.EqualFold(d.Suits, stage) {
		return nil
	}
	for i, v := range d.Variants {
		if chosen && v.Name == name || !chosen && strings.EqualFold(v.Suits, stage) && stage != "" {
			return &d.Variants[i]
		}
	}
	return nil
}

// GroupKey names a group, counted from 0, among a station's chosen variants.
func GroupKey(group int) string { return "group " + strconv.Itoa(group+1) }

// IsGroupKey reports whether a word is what GroupKey writes.
func IsGroupKey(word string) bool {
	for g := range Most {
		if word == GroupKey(g) {
			return true
		}
	}
	return false
}

// Eased is the form a group does after a step towards easier (-1) or harder (+1), and whether there is one. The name is
// as an edit takes it: "-" for the drill as it is.
func (s Station) Eased(d coach.Drill, group int, stage string, by int) (name string, ok bool) {
	forms, at := d.Forms()
	own := at
	if v := s.VariantFor(d, group, stage); v != nil {
		at = slices.IndexFunc(forms, func(f coach.Variant) bool { return f.Name == v.Name })
	}
	at += by
	if at < 0 || at >= len(forms) {
		return "", false
	}
	if at == own {
		return "-", true
	}
	return forms[at].Name, true
}
