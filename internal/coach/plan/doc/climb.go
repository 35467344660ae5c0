package doc

// Climb says who goes up a ladder together.
type Climb string

const (
	ByGroup  Climb = "" // each group at its own pace
	ByPair   Climb = "pair"
	ByPlayer Climb = "player"
)

// String is it in a coach's words.
func (c Climb) String() string {
	return map[Climb]string{ByGroup: "by group", ByPair: "by pair", ByPlayer: "by player"}[c]
}

// MostSteps is how many a ladder has at most.
const MostSteps = 12
