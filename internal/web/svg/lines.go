package svg

import (
	"fmt"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
)

// CourtLine is a line of the floor.
type CourtLine struct {
	D      string
	Dashed bool
}

// courtLines draws the lines of a floor: x and y place metres in the drawing, of k units a metre. What stands along or
// across, things can be snapped to: xs and ys, in metres.
func courtLines(lines []floor.Line, x, y func(float64) float64, k float64) (out []CourtLine, xs, ys string) {
	var along, across []string
	for _, l := range lines {
		to := fmt.Sprintf("L%g %g", x(l.X2), y(l.Y2))
		switch {
		case l.Arc:
			sweep, r := 0, toTenth(l.Radius*k)
			if l.Sweep {
				sweep = 1
			}
			to = fmt.Sprintf("A%g %g 0 0 %d %g %g", r, r, sweep, x(l.X2), y(l.Y2))
		case l.X1 == l.X2:
			along = append(along, coach.Figure(l.X1))
		case l.Y1 == l.Y2:
			across = append(across, coach.Figure(l.Y1))
		}
		out = append(out, CourtLine{fmt.Sprintf("M%g %g", x(l.X1), y(l.Y1)) + to, l.Dashed})
	}
	return out, strings.Join(along, " "), strings.Join(across, " ")
}
