package target

// Letters is a game in which one shows a shot and the other has to make it too. Whoever shows goes on until they miss,
// then the other shows; whoever does not match gets a letter, and with To letters is out.
type Letters struct{ To int }

// Plays is the chance that the player who shows first wins, and the expected shots of both until it is over, when they
// make a shot with chances p and q. Both are 0 when nobody ever makes one: nobody gets a letter then.
func (l Letters) Plays(p, q float64) (wins, shots float64) {
	if p <= 0 && q <= 0 {
		return 0, 0
	}
	n := max(1, l.To)
	type state struct{ wins, shots [2]float64 } // where the first shows, and where the other does
	at := make([][]state, n+1)
	for i := range at {
		at[i] = make([]state, n+1)
	}
	for j := range n {
		at[j][n] = state{wins: [2]float64{1, 1}} // the other is out
	}
	for i := n - 1; i >= 0; i-- {
		for j := n - 1; j >= 0; j-- {
			// The first shows: a miss passes the showing on; a shot that is matched changes nothing.
			other, own := at[i][j+1], at[i+1][j]
			letter, back := p*(1-q), q*(1-p)
			stay := 1 - p*q
			solve := func(x, y float64) (float64, float64) { // f·stay = x + (1−p)·g and g·stay = y + (1−q)·f
				f := (x*stay + (1-p)*y) / (stay*stay - (1-p)*(1-q))
				return f, (y + (1-q)*f) / stay
			}
			s := &at[i][j]
			s.wins[0], s.wins[1] = solve(letter*other.wins[0], back*own.wins[1])
			s.shots[0], s.shots[1] = solve(1+p+letter*other.shots[0], 1+q+back*own.shots[1])
		}
	}
	return at[0][0].wins[0], at[0][0].shots[0]
}
