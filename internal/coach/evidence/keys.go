package evidence

// KeyHolds is from how many of a hundred of a group a key holds, unless the club says otherwise: common practice, no
// source.
const KeyHolds = 70

// enough is the share of a group that has to have a key before the next one is taught.
const enough = KeyHolds / 100.0

// Teach is the key to teach a group: the first in its order that fewer than 70 % of the players have, and how many lack
// it. It is -1 when the group has them all. Has says of a player and a key whether it is there; what was never looked
// at is not.
func Teach(keys, players []string, has func(player, key string) bool) (at, lack int) {
	for i, k := range keys {
		lack = 0
		for _, p := range players {
			if !has(p, k) {
				lack++
			}
		}
		if len(players) > 0 && float64(len(players)-lack) < enough*float64(len(players)) {
			return i, lack
		}
	}
	return -1, 0
}

// Due reports whether somebody should look at a criterion now: one more good mark would do, what was shown is too long
// ago, or a must was never looked at.
func (i Item) Due() bool {
	return i.Status.State == Nearly || i.Status.State == Stale || i.Status.State == Unseen && i.Criterion.Must
}
