// Package register says who is coming to a session and who came. Being a guest is another fact: a guest is a guest
// whatever was said.
package register

// Word is what was said about a player in a session's register.
type Word string

const (
	Nothing Word = "" // or what was said was taken back
	Away    Word = "away"
	Present Word = "present"
	Late    Word = "late"
	Absent  Word = "absent"
	Left    Word = "left"
	Hurt    Word = "hurt"
)

// Words are all of them, in the order in which a coach meets them.
var Words = []Word{Nothing, Away, Present, Late, Absent, Left, Hurt}

// Said is all that was said about a player in a session.
type Said struct {
	Word  Word
	Guest bool
	From  int    // late: minutes after the start
	Until int    // left: minutes after the start; 0: not known when
	No    string // a limit for today; hurt without one sits out
}

// Coming reports whether the plan counts on the player: said to stay away, to be absent, gone at a time nobody noted,
// or hurt and sitting out is not.
func (s Said) Coming() bool {
	switch s.Word {
	case Away, Absent:
		return false
	case Left:
		return s.Until > 0
	case Hurt:
		return s.No != ""
	}
	return true
}

// Came reports whether the player was there at all: a visit, for every page and report.
func (s Said) Came() bool {
	switch s.Word {
	case Present, Late, Left, Hurt:
		return true
	}
	return false
}
