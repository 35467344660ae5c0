package coach

import (
	"math"
	"strconv"
	"strings"
)

// Units are those a club reads and types lengths in; inside everything is metres. The zero value is metric.
type Units string

const (
	Metric   Units = "metric"
	Imperial Units = "imperial"
)

// Foot and Yard are exact by definition (international yard and pound agreement of 1959).
const (
	Foot = 0.3048
	Yard = 0.9144
	inch = Foot / 12
)

// lengths are what may follow a number, in metres.
var lengths = map[string]float64{
	"m": 1, "metre": 1, "metres": 1, "meter": 1, "meters": 1, "cm": 0.01, "mm": 0.001, "km": 1000,
	"ft": Foot, "foot": Foot, "feet": Foot, "'": Foot, "′": Foot, "’": Foot,
	"in": inch, "inch": inch, "inches": inch, `"`: inch, "″": inch, "”": inch,
	"yd": Yard, "yds": Yard, "yard": Yard, "yards": Yard, "y": Yard,
}

// unit is what a bare number counts.
func (u Units) unit() float64 {
	if u == Imperial {
		return Foot
	}
	return 1
}

// ParseLength reads a length as people write it, in any club: "7", "7,5 m", "25 yd", "30 ft", "5 ft 6 in", 5'6". A bare
// number is in the club's own unit.
func (u Units) ParseLength(text string) (metres float64, ok bool) {
	rest := strings.ToLower(strings.TrimSpace(text))
	if rest == "" {
		return 0, false
	}
	for first := true; rest != ""; first = false {
		end := 0
		for end < len(rest) && strings.ContainsRune("0123456789.,", rune(rest[end])) || end == 0 && first && rest[0] == '-' {
			end++
		}
		n, err := strconv.ParseFloat(strings.Replace(rest[:end], ",", ".", 1), 64)
		if err != nil {
			return 0, false
		}
		rest = strings.TrimLeft(rest[end:], " \u00a0")
		end = strings.IndexFunc(rest, func(r rune) bool { return r >= '0' && r <= '9' })
		if end < 0 {
			end = len(rest)
		}
		word := strings.TrimSuffix(strings.TrimSpace(rest[:end]), ".")
		rest = rest[end:]
		size, known := lengths[word]
		if word == "" && first && rest == "" {
			size, known = u.unit(), true
		}
		if !known {
			return 0, false
		}
		metres += n * size
	}
	return metres, true
}

// Length is a length as the club reads it, without its unit: metres to a tenth, feet to a half.
func (u Units) Length(metres float64) string {
	if u == Imperial {
		return Figure(math.Round(metres/Foot*2) / 2)
	}
	return Figure(math.Round(metres*100) / 100)
}

// Short is the unit after a figure.
func (u Units) Short() string {
	if u == Imperial {
		return "ft"
	}
	return "m"
}

// Word is the unit in words, of several.
func (u Units) Word() string {
	if u == Imperial {
		return "feet"
	}
	return "metres"
}

// Long is a length with its unit: "7 m", "23 ft".
func (u Units) Long(metres float64) string { return u.Length(metres) + " " + u.Short() }

// Area is a length and a width: "40 × 20 m".
func (u Units) Area(length, width float64) string { return u.Length(length) + " × " + u.Long(width) }

// Square is an area in square metres as the club reads it: "171 m²", "1840 ft²".
func (u Units) Square(squareMetres float64) string {
	if u == Imperial {
		return Figure(math.Round(squareMetres/(Foot*Foot)/10)*10) + " ft²"
	}
	return Figure(math.Round(squareMetres)) + " m²"
}

// Step is the grid that things snap to and arrows move by, in metres: half a metre, or a foot.
func (u Units) Step() float64 {
	if u == Imperial {
		return Foot
	}
	return 0.5
}
