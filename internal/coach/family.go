package coach

// Family is a kind of sport: which ladder a new program begins with, which session shapes fit it, and what its hall is
// called.
type Family string

const (
	BallGames Family = "ball"
	NetGames  Family = "net"
	Apparatus Family = "apparatus"
	Athletics Family = "athletics"
)

// Families are all of them, in the order in which they are offered.
var Families = []Family{BallGames, NetGames, Apparatus, Athletics}

// Known reports whether it is one of the families.
func (f Family) Known() bool { return f.String() != "" }

func (f Family) String() string {
	switch f {
	case BallGames:
		return "Ball games"
	case NetGames:
		return "Net and racket games"
	case Apparatus:
		return "Apparatus and routines"
	case Athletics:
		return "Running, jumping, throwing"
	}
	return ""
}

// About says what its ladder and its sessions are like.
func (f Family) About() string {
	switch f {
	case BallGames:
		return "two teams and one ball; sessions end in a game"
	case NetGames:
		return "partners over a net; rallies, points and changing partners"
	case Apparatus:
		return "skills that are held, joined and shown; nobody plays against another"
	case Athletics:
		return "seconds and metres; tries are counted and rested from"
	}
	return ""
}

// Plays reports whether its sessions have sides that play against each other.
func (f Family) Plays() bool { return f != Apparatus && f != Athletics }

// Try is what one repetition is called: a turn where routines and ropes are, a stroke over a net, else a try.
func (f Family) Try() string {
	switch f {
	case Apparatus:
		return "turn"
	case NetGames:
		return "stroke"
	}
	return "try"
}

// Finish is what a session of the family ends in, where others play a game, and what is done then as long as no drill is
// chosen for it.
func (f Family) Finish() (title, does string) {
	switch f {
	case Apparatus:
		return "Show what holds", "Some show at a time what holds by now; the others look for the key of the day."
	case Athletics:
		return "Contest", "Each against their own best: three tries one after another, the best counts."
	}
	return "Game", ""
}
