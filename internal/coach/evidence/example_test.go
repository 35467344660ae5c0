package evidence_test

import (
	"fmt"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
)

// Two coaches marked fifty players each: both yes 20 times, both no 15 times. They agree in 70 %, of which half could
// be chance.
func ExampleAgree() {
	a := evidence.Agree([][]int{{20, 5}, {10, 15}})
	fmt.Printf("%d players, agreed in %.0f %%, κ %.1f (%s)\n", a.N, 100*a.Share, a.Kappa, evidence.KappaWords(a.Kappa))
	// Output: 50 players, agreed in 70 %, κ 0.4 (fair)
}

// Bo needs two good marks on different days, and comes twice before the day: one look in each.
func ExampleProspects() {
	tuesday := time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC)
	k := coach.Criterion{
		ID:      "k",
		Wording: "8 of 10 catches",
		Must:    true,
		Measure: coach.Makes,
		Want:    8,
		Of:      10,
		Rule:    coach.EvidenceRule{Good: 2, Days: 2},
	}
	bo := evidence.Candidate{
		ID:       "bo",
		Name:     "Bo",
		Stage:    coach.Stage{Name: "Shore", Criteria: []coach.Criterion{k}},
		Meetings: []int{0, 1},
	}
	shows := func(coach.Criterion) bool { return true }
	meetings := []evidence.Meeting{
		{ID: "1", At: tuesday, By: []string{"ines"}, Shows: shows},
		{ID: "2", At: tuesday.AddDate(0, 0, 7), By: []string{"ines"}, Shows: shows},
	}
	for _, p := range evidence.Prospects([]evidence.Candidate{bo}, meetings, tuesday.AddDate(0, 0, 21)) {
		fmt.Println("could be ready:", p.Could)
		for _, l := range p.Looks {
			fmt.Println(meetings[l.Meeting].At.Format("2 Jan"), l.PlayerName, l.Criterion.Wording, "by", l.By)
		}
	}
	// Output:
	// could be ready: true
	// 24 Nov Bo 8 of 10 catches by ines
	// 1 Dec Bo 8 of 10 catches by ines
}
