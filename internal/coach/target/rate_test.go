package target

import (
	"encoding/json"
	"math"
	"os"
	"testing"

	"gonum.org/v1/gonum/mathext"

	"gruppo/internal/coach"
)

// rateCase is a case that the phone is held to too.
type rateCase struct {
	Kind                      coach.TargetKind `json:"kind"`
	N, Good, Tries, Run, Left int
	Is                        float64 `json:"is"`
}

// Every way in which the tries to come can go, each with the probability that the Beta function gives it under
// Jeffreys' prior (the beta-binomial distribution): the cases of the file are what comes out.
func TestTheRateIsThatOfEveryWay(t *testing.T) {
	text, err := os.ReadFile("testdata/rate.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []rateCase
	if err := json.Unmarshal(text, &cases); err != nil || len(cases) < 10 {
		t.Fatal(err, len(cases))
	}
	for _, c := range cases {
		a, b := float64(c.Good)+0.5, float64(c.Tries-c.Good)+0.5
		sum := 0.0
		for way := range 1 << c.Left {
			good, run, best := 0, c.Run, c.Run
			for i := range c.Left {
				if way>>i&1 == 1 {
					good, run = good+1, run+1
				} else {
					run = 0
				}
				best = max(best, run)
			}
			if c.Kind == coach.RunOf && best >= c.N || c.Kind == coach.Total && c.Good+good >= c.N {
				sum += math.Exp(mathext.Lbeta(a+float64(good), b+float64(c.Left-good)) - mathext.Lbeta(a, b))
			}
		}
		got := Reaches(c.Kind, c.N, c.Good, c.Tries, c.Run, c.Left)
		if math.Abs(got-sum) > 1e-9 || math.Abs(got-c.Is) > 5e-5 {
			t.Errorf("%+v: %.5f, by enumeration %.5f", c, got, sum)
		}
	}
	if Reaches(coach.Race, 3, 3, 3, 3, 9) != 0 || Reaches(coach.RunOf, 3, 3, 3, 3, 0) != 1 {
		t.Error("what is no such target, and what is reached already")
	}
}
