package doc

import "time"

// Kind of a block.
type Kind string

const (
	Together Kind = "together"
	Look     Kind = "look"      // a first look, in changing pairs
	OneKey   Kind = "key"       // one key shown and tried
	Stations Kind = "stations"  // or a part of their rounds
	Ladder   Kind = "ladder"    // tasks one after another, each until it holds
	Pairs    Kind = "pairs"     // partners or small teams that change
	Turns    Kind = "intervals" // work and rest in turns
	Run      Kind = "run"       // a routine run through before judges, everybody once
	Game     Kind = "game"
	Break    Kind = "break"
	Close    Kind = "close"
)

// Kinds lists the blocks in the order of a session.
var Kinds = []Kind{Together, Look, OneKey, Stations, Ladder, Pairs, Turns, Run, Game, Break, Close}

var kindNames = map[Kind]string{
	Together: "Warm-up",
	Look:     "First look",
	OneKey:   "One key",
	Stations: "Stations",
	Ladder:   "Mastery ladder",
	Pairs:    "Partners",
	Turns:    "Intervals",
	Run:      "Run-through",
	Game:     "Game",
	Break:    "Drink break",
	Close:    "Close",
}

// String is the block's plain name; empty for a kind that is not known.
func (k Kind) String() string { return kindNames[k] }

// Active reports whether the players move in a block of this kind; explaining, drinking and closing are neither work
// nor waiting.
func (k Kind) Active() bool {
	return k == Together || k == Look || k == Game || k == Ladder || k == Pairs || k.InTurns()
}

// InTurns reports whether players work in turns in a block of this kind, and rest or watch meanwhile.
func (k Kind) InTurns() bool { return k == Turns || k == Run }

// Partners reports whether players change partners in a block of this kind.
func (k Kind) Partners() bool { return k == Look || k == Pairs }

// Usual is the minutes a block begins with; none for stations, whose minutes follow from their rounds. Those of
// intervals follow from who is there, once there is an exercise.
func (k Kind) Usual() int {
	switch k {
	case Together:
		return 10
	case Look:
		return 8
	case Ladder, Game:
		return 15
	case Pairs, Turns, Run:
		return 12
	case Break:
		return 3
	case OneKey, Close:
		return 5
	}
	return 0
}

// partnerChange is how long finding the next partner takes, inside the turn (common practice, no source).
const partnerChange = 10 * time.Second

// PartnerChange is what a turn of the block spends on finding the next partner, half of the turn at most.
func (b Block) PartnerChange() time.Duration {
	change := partnerChange
	if s := b.Pairs().Change; s > 0 {
		change = time.Duration(s) * time.Second
	}
	return min(change, time.Duration(b.Turn)*time.Second/2)
}

// ChangeOver is how much of a time in a partner block goes into finding the next partner.
func (b Block) ChangeOver(d time.Duration) time.Duration {
	turn := time.Duration(b.Turn) * time.Second
	if turn <= 0 {
		return 0
	}
	return time.Duration(float64(d) * float64(b.PartnerChange()) / float64(turn))
}
