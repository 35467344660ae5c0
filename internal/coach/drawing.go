package coach

// Drawing is a diagram of a drill, to scale, as figures: package diagram has its rules. Lengths are metres from the top
// left corner of the floor.
type Drawing struct {
	Floor  string      `json:"floor"` // a kind of package floor, whose lines are drawn
	X      float64     `json:"x"`     // the part of it that is shown
	Y      float64     `json:"y"`
	Length float64     `json:"l"`
	Width  float64     `json:"w"`
	Feet   bool        `json:"feet,omitempty"` // distances are said in feet
	Things []Thing     `json:"things"`         // as they stand at the start
	Marks  []Trace     `json:"marks,omitempty"`
	Steps  []DrawnStep `json:"steps,omitempty"`
}

// Thing is something that stands or lies there. X and Y are its middle.
type Thing struct {
	Kind   string  `json:"kind"` // player, coach, ball, cone, hoop, mat, goal, beam, target, box, area
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Turn   int     `json:"turn,omitempty"` // degrees clockwise
	Length float64 `json:"l,omitempty"`    // of those that have a size; 0: the usual
	Width  float64 `json:"w,omitempty"`
	No     int     `json:"no,omitempty"`   // of a player
	Says   string  `json:"says,omitempty"` // a player's role, or what it is for
}

// Trace is a line through points: a way that somebody or a ball takes, a line on the floor, or a distance.
type Trace struct {
	Kind   string       `json:"kind"` // run, carry, pass, shot, lift; among the marks: line, distance
	Points [][2]float64 `json:"points"`
	Says   string       `json:"says,omitempty"`
}

// DrawnStep is what happens at a time.
type DrawnStep struct {
	Says   string  `json:"says,omitempty"`
	Traces []Trace `json:"traces"`
}
