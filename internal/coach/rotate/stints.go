package rotate

import "time"

// Stint is a stretch of a game in which the same players of a side rest.
type Stint struct {
	From, To time.Duration
	Rest     []int // counted from 0
}

// Stints shares a game of so long among m players of a side, of whom on play at once: those who rest change so often
// that in the end everybody has played as long as everybody else. With a signal every so often instead, they change at
// the signal, and playing times differ by one stint at most. Nobody rests twice in a row where at most half of the side
// rest at a time. Those who rest together follow one another in the order of the players.
func Stints(m, on int, d, every time.Duration) []Stint {
	rest := m - on
	if rest <= 0 || on <= 0 || d <= 0 {
		return []Stint{{To: d}}
	}
	n, long := m/gcd(m, rest), every
	if every <= 0 {
		long = d / time.Duration(n)
	} else {
		n = int((d + every - 1) / every)
	}
	out := make([]Stint, n)
	for i := range out {
		s := Stint{From: time.Duration(i) * long, To: min(d, time.Duration(i+1)*long)}
		for k := range rest {
			s.Rest = append(s.Rest, (i*rest+k)%m)
		}
		out[i] = s
	}
	out[n-1].To = d
	return out
}

func gcd(a, b int) int {
	for b > 0 {
		a, b = b, a%b
	}
	return a
}
