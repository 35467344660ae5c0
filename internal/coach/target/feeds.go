package target

// FeedShares is how much of a game of three each of them plays, where the loser of a rally feeds the next one and
// beats[i][j] is the chance that i wins a rally against j: in the long run, from the chain of who feeds (the weights of
// the trees that lead to each of its states; A. D. Leighton and R. L. Rivest, IEEE Transactions on Information Theory 32
// (1986) 733–742, from memory). Between equals everybody plays two rallies of three.
func FeedShares(beats [3][3]float64) (plays [3]float64) {
	var next [3][3]float64 // from who feeds to who feeds then
	for f := range next {
		i, j := (f+1)%3, (f+2)%3
		next[f][j], next[f][i] = beats[i][j], beats[j][i]
	}
	var feeds [3]float64
	sum := 0.0
	for f := range feeds {
		i, j := (f+1)%3, (f+2)%3
		feeds[f] = next[i][f]*next[j][f] + next[i][j]*next[j][f] + next[j][i]*next[i][f]
		sum += feeds[f]
	}
	for f := range plays {
		if plays[f] = 2.0 / 3; sum > 0 {
			plays[f] = 1 - feeds[f]/sum
		}
	}
	return plays
}
