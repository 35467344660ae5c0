package places

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
)

// made is a seeded case: classes of one or two stages, players with times that do not suit, likes and friends.
func made(rng *rand.Rand, players, classes, roomy int) ([]Class, []Player) {
	var cs []Class
	for i := range classes {
		c := Class{
			ID:     fmt.Sprint("c", i),
			Name:   fmt.Sprint("class ", i),
			Places: 1 + rng.IntN(roomy),
			Stages: []string{fmt.Sprint("s", i%3)},
		}
		if rng.IntN(2) == 0 {
			c.Stages = append(c.Stages, fmt.Sprint("s", (i+1)%3))
		}
		cs = append(cs, c)
	}
	var ps []Player
	for i := range players {
		p := Player{ID: fmt.Sprint("p", i), Name: fmt.Sprint("player ", i), Stage: fmt.Sprint("s", rng.IntN(3))}
		if rng.IntN(3) > 0 {
			p.Now = cs[rng.IntN(classes)].ID
		}
		for _, c := range cs {
			if rng.IntN(5) == 0 {
				p.Cannot = append(p.Cannot, c.ID)
			}
		}
		if rng.IntN(2) == 0 {
			p.Likes = []string{cs[rng.IntN(classes)].ID}
		}
		if i > 0 && rng.IntN(3) == 0 {
			p.Friends = []string{fmt.Sprint("p", rng.IntN(i))}
		}
		ps = append(ps, p)
	}
	return cs, ps
}

// all tries every placing that fits, and gives the least cost.
func all(cs []Class, ps []Player, fixed map[string]string) int {
	best := -1
	in, count := map[string]string{}, map[string]int{}
	var try func(int)
	try = func(i int) {
		if i == len(ps) {
			if c := CostOf(cs, ps, in).Total; best < 0 || c < best {
				best = c
			}
			return
		}
		p := ps[i]
		for _, c := range cs {
			if count[c.ID] == c.Places || !fits(c, p) || fixed[p.ID] != "" && fixed[p.ID] != c.ID {
				continue
			}
			in[p.ID] = c.ID
			count[c.ID]++
			try(i + 1)
			count[c.ID]--
			delete(in, p.ID)
		}
		if fixed[p.ID] == "" {
			try(i + 1)
		}
	}
	try(0)
	return best
}

func TestNothingIsBetterThanTryingAll(t *testing.T) {
	split := 0
	for seed := range uint64(50) {
		rng := rand.New(rand.NewPCG(seed, 41))
		cs, ps := made(rng, 4+int(seed%4), 2+int(seed%3), 3)
		fixed := map[string]string{}
		if seed%3 == 0 {
			for _, c := range cs {
				if fits(c, ps[0]) {
					fixed[ps[0].ID] = c.ID
				}
			}
		}
		r, err := Assign(cs, ps, fixed, 0)
		if err != nil {
			t.Fatal(err)
		}
		if want := all(cs, ps, fixed); r.Cost.Total != want || r.Gap != 0 {
			t.Errorf("case %d: cost %d (%s), gap %d; trying all gives %d", seed, r.Cost.Total, r.Cost, r.Gap, want)
		}
		split += r.Cost.Split
		count := map[string]int{}
		for _, p := range ps {
			if at, ok := r.In[p.ID]; ok {
				count[at]++
				if i := slices.IndexFunc(cs, func(c Class) bool { return c.ID == at }); !fits(cs[i], p) ||
					count[at] > cs[i].Places {
					t.Errorf("case %d: %s does not fit %s", seed, p.ID, at)
				}
			}
		}
	}
	if split == 0 {
		t.Error("no case parted friends: they test nothing about them")
	}
}

func TestTheListIsInOrderOfDecisionAndSaysWhatWouldFreeAPlace(t *testing.T) {
	cs := []Class{
		{ID: "tue", Name: "Tuesday hall", Places: 2, Stages: []string{"reef"}},
		{ID: "thu", Name: "Thursday hall", Places: 5, Stages: []string{"reef", "tide"}},
	}
	late := func(id string) Player { return Player{ID: id, Name: id, Stage: "reef", Cannot: []string{"thu"}} }
	ps := []Player{
		{ID: "Mina", Name: "Mina", Stage: "reef", Now: "tue", Cannot: []string{"thu"}},
		late("first"),
		late("second"),
		late("third"),
		{ID: "lost", Stage: "deep"},
	}
	r, err := Assign(cs, ps, nil, 0)
	if err != nil {
		t.Fatal(err)
	}
	var list []string
	for _, w := range r.Waiting {
		list = append(list, w.Player)
	}
	if fmt.Sprint(list) != "[second third lost]" || r.In["first"] != "tue" {
		t.Fatalf("waiting %v, placed %v", list, r.In)
	}
	if said := strings.Join(r.Waiting[0].Frees, "; "); !strings.Contains(
		said,
		"second group beside Tuesday hall would take 2",
	) ||
		!strings.Contains(said, "Mina could go to Thursday hall") {
		t.Errorf("what would free a place: %s", said)
	}
	if r.Waiting[2].Why != "no class takes this stage and age" {
		t.Errorf("why: %s", r.Waiting[2].Why)
	}
	// Putting the second there by hand costs the first, who was decided about earlier, the place.
	if r, err = Assign(cs, ps, map[string]string{"second": "tue"}, 0); err != nil || r.In["second"] != "tue" ||
		r.In["first"] != "" {
		t.Errorf("by hand: %v, %v", r.In, err)
	}
	var full *ErrFull
	if _, err = Assign(cs, ps, map[string]string{"first": "tue", "second": "tue", "third": "tue"}, 0); !errors.As(
		err,
		&full,
	) ||
		full.Class != "Tuesday hall" {
		t.Errorf("three by hand into two places: %v", err)
	}
}

func ExampleAssign() {
	classes := []Class{
		{ID: "tue", Name: "Tuesday", Places: 2, Stages: []string{"reef"}},
		{ID: "thu", Name: "Thursday", Places: 2, Stages: []string{"reef"}},
	}
	players := []Player{
		{ID: "Ivo", Stage: "reef", Now: "tue"},
		{ID: "Gita", Stage: "reef", Now: "tue", Likes: []string{"thu"}},
		{ID: "Hugo", Stage: "reef", Friends: []string{"Ivo"}},
	}
	r, _ := Assign(classes, players, nil, 0)
	fmt.Println(r.In["Ivo"], r.In["Gita"], r.In["Hugo"], "-", r.Cost)
	// Output: tue thu tue - 1 changes class
}

func TestAChildIsNotPutAmongAdults(t *testing.T) {
	cs := []Class{
		{ID: "adults", Places: 5, Stages: []string{"shore"}, From: 18},
		{ID: "children", Places: 1, Stages: []string{"shore"}, Until: 17},
	}
	r, err := Assign(
		cs,
		[]Player{
			{ID: "nine", Stage: "shore", Age: 9},
			{ID: "ten", Stage: "shore", Age: 10},
			{ID: "forty", Stage: "shore", Age: 40},
			{ID: "unknown", Stage: "shore"},
		},
		nil,
		0,
	)
	if err != nil || r.In["nine"] != "children" || r.In["ten"] != "" || r.In["forty"] != "adults" ||
		r.In["unknown"] != "adults" {
		t.Errorf("%v, %v", r.In, err)
	}
}

// 500 players into 40 classes, with 25 pairs of friends.
func BenchmarkAssign(b *testing.B) {
	rng := rand.New(rand.NewPCG(3, 500))
	cs, ps := made(rng, 500, 40, 24)
	for i := range ps {
		if i%6 > 0 {
			ps[i].Friends = nil
		}
	}
	gap := 0
	for b.Loop() {
		r, err := Assign(cs, ps, nil, Steps)
		if err != nil {
			b.Fatal(err)
		}
		gap = r.Gap
	}
	b.ReportMetric(float64(gap), "gap")
}
