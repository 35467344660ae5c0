package plantest

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/propose"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/target"
)

// Mended is the input with a mend applied as the page applies it.
func Mended(t testing.TB, in work.Input, m check.Mend) work.Input {
	t.Helper()
	if err := in.Edit(m.Edits...); err != nil {
		t.Fatalf("mend %q: %v", m.Words, err)
	}
	for _, task := range in.Plan.Tasks() { // what the page reads from the shelf
		for _, d := range in.Shelf {
			if d.ID == task.Drill {
				in.Drills[d.ID] = d
			}
		}
	}
	return in
}

// Marks is the same count of a skill for everybody.
func Marks(in *work.Input, skill string, made, of float64) map[string]map[string][]target.Series {
	out := map[string]map[string][]target.Series{}
	for _, p := range in.Players {
		out[p.ID] = map[string][]target.Series{skill: {{Made: made, Tries: of}}}
	}
	return out
}

// List is what was found, a line each.
func List(pic check.Picture) string {
	var out []string
	for _, f := range pic.Findings {
		out = append(out, f.Where()+": "+f.Says())
	}
	return strings.Join(out, "\n")
}

// Hall is 30 players, 6 leaders and a shelf: the size that the plan has to be quick at.
func Hall(players int) work.Input {
	in := work.Input{
		Booked:  90 * time.Minute,
		Start:   Start,
		Floor:   floor.Of("handball", 0, 0),
		Stages:  map[string]string{"s0": "Shore", "s1": "Reef"},
		Missing: map[string][]coach.Criterion{},
		Kit: []coach.Kit{
			{Name: "ball", Count: 40},
			{Name: "cone", Count: 40},
		},
		Plan: doc.Start(90*time.Minute, coach.BallGames),
	}
	skills := []string{"passing", "catching", "shooting", "footwork", "balance", "defending", "dribbling"}
	for i := range players {
		p := coach.Player{
			ID:    fmt.Sprintf("p%02d", i),
			Name:  fmt.Sprintf("Player %02d", i),
			Level: float64(i%9) / 4,
			Stage: fmt.Sprint("s", i%2),
		}
		in.Players = append(in.Players, p)
		for j := range 3 {
			k := skills[(i+j)%5]
			in.Missing[p.ID] = append(
				in.Missing[p.ID],
				coach.Criterion{ID: k + p.Stage, StageID: p.Stage, Wording: k, Skill: k, Keys: []string{"key of " + k}},
			)
		}
	}
	in.Tries = Marks(&in, "passing", 7, 10)
	for i := range 40 {
		d := coach.Drill{
			ID:        fmt.Sprintf("d%02d", i),
			Edition:   1,
			Name:      fmt.Sprintf("Drill %02d", i),
			Skills:    []string{skills[i%7]},
			Places:    1 + i%4,
			Least:     2,
			Most:      8,
			Pace:      4 + float64(i%9),
			Length:    6 + float64(i%4),
			Width:     5 + float64(i%3),
			Clearance: 1,
			Chance:    0.6 + float64(i%4)/10,
			Leader:    []coach.Leader{coach.SelfRun, coach.AnyHelper, coach.AnyCoach}[i%3],
			Kit:       []string{"4 balls", "4 cones"},
			Approach:  "technique-first",
			Practice:  "blocked",
			Target: coach.Target{
				Kind: []coach.TargetKind{coach.RunOf, coach.Total, coach.RallyLadder}[i%3],
				N:    8,
			},
			Hard: i%6 == 5,
		}
		switch {
		case i%10 == 7:
			d.Approach, d.Form, d.Most = "game-first", "live", 30
		case i%10 == 8:
			d.Skills, d.Most, d.Leader, d.Warms = []string{"movement"}, 30, coach.SelfRun, []string{"shoulder"}
		case i%10 == 9:
			d.Work, d.Rest = 10, 60
		}
		in.Shelf = append(in.Shelf, d)
	}
	for i, role := range []coach.Role{coach.RoleLead, coach.RoleCoach, coach.RoleCoach, coach.RoleHelper, coach.RoleHelper, coach.RoleHelper} {
		in.Leaders = append(
			in.Leaders,
			work.Leader{ID: fmt.Sprint("l", i), Name: fmt.Sprintf("Leader%d X", i), Role: role},
		)
	}
	return in
}

// Proposed is the input with a plan proposed for it.
func Proposed(t testing.TB, in work.Input, shape string, aim doc.Aim) work.Input {
	t.Helper()
	p, err := propose.Plan(in, shape, aim)
	if err != nil {
		t.Fatal(err)
	}
	in.Plan, in.Drills = p, map[string]coach.Drill{}
	for _, d := range in.Shelf {
		in.Drills[d.ID] = d
	}
	return in
}

// Tuesday is a hall of twelve with three stations, 90 minutes booked.
func Tuesday(t *testing.T) work.Input {
	t.Helper()
	in := work.Input{
		Plan:   doc.Start(90*time.Minute, coach.BallGames),
		Booked: 90 * time.Minute,
		Start:  Start,
		Floor:  floor.Of("handball", 0, 0),
		Drills: map[string]coach.Drill{},
		Leaders: []work.Leader{
			{ID: "ines", Name: "Ines Okafor", Role: coach.RoleLead},
			{ID: "bea", Name: "Bea Lindqvist", Role: coach.RoleHelper, Until: 30 * time.Minute},
			{ID: "kofi", Name: "Kofi Mensah", Role: coach.RoleHelper},
		},
	}
	for i := range 12 {
		in.Players = append(
			in.Players,
			coach.Player{ID: fmt.Sprint("p", i), Name: fmt.Sprintf("Player %02d", i), Level: float64(i)},
		)
	}
	for i, name := range []string{"wall", "shot", "feint"} {
		in.Drills[name] = coach.Drill{
			ID:        name,
			Name:      name,
			Skills:    []string{name},
			Places:    2,
			Least:     2,
			Most:      6,
			Pace:      8,
			Length:    8,
			Width:     6,
			Clearance: 1,
			Chance:    0.8,
			Leader:    coach.SelfRun,
		}
		var err error
		if in.Plan, _, err = edit.Apply(in.Plan, edit.AddStation{Task: doc.Task{Drill: name, Edition: i + 1}}); err != nil {
			t.Fatal(err)
		}
	}
	if err := in.DealOut(); err != nil {
		t.Fatal(err)
	}
	return in
}

// Says is the finding that says these words; nil: there is none.
func Says(pic check.Picture, words string) *check.Finding {
	for i, f := range pic.Findings {
		if strings.Contains(f.Where()+": "+f.Says(), words) {
			return &pic.Findings[i]
		}
	}
	return nil
}

// Adults is so many players without a stage.
func Adults(n int) work.Input {
	in := work.Input{Stages: map[string]string{}}
	for i := range n {
		in.Players = append(in.Players, coach.Player{ID: fmt.Sprint("p", i), Name: fmt.Sprintf("Player %02d", i)})
	}
	return in
}
