package plan

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/target"
	"gruppo/internal/day"
)

var start = time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC)

// tuesday is a hall of twelve with three stations, 90 minutes booked.
func tuesday(t *testing.T) Input {
	t.Helper()
	in := Input{Plan: Start(90*time.Minute, coach.BallGames), Booked: 90 * time.Minute, Start: start, Floor: floor.Of("handball", 0, 0), Drills: map[string]coach.Drill{},
		Leaders: []Leader{{ID: "ines", Name: "Ines Okafor", Role: coach.RoleLead}, {ID: "bea", Name: "Bea Lindqvist", Role: coach.RoleHelper, Until: 30 * time.Minute},
			{ID: "kofi", Name: "Kofi Mensah", Role: coach.RoleHelper}}}
	for i := range 12 {
		in.Players = append(in.Players, coach.Player{ID: fmt.Sprint("p", i), Name: fmt.Sprintf("Player %02d", i), Level: float64(i)})
	}
	for i, name := range []string{"wall", "shot", "feint"} {
		in.Drills[name] = coach.Drill{ID: name, Name: name, Skills: []string{name}, Places: 2, Least: 2, Most: 6, Pace: 8, Length: 8, Width: 6, Clearance: 1,
			Chance: 0.8, TrySeconds: 8, Fetch: 4, Leader: coach.SelfRun}
		var err error
		if in.Plan, _, err = in.Plan.Apply(Edit{Do: "add-station", Value: fmt.Sprintf("%s@%d", name, i+1)}); err != nil {
			t.Fatal(err)
		}
	}
	if err := in.Plan.DealOut(in); err != nil {
		t.Fatal(err)
	}
	return in
}

func says(pic Picture, words string) *Finding {
	for i, f := range pic.Findings {
		if strings.Contains(f.Where+": "+f.Says, words) {
			return &pic.Findings[i]
		}
	}
	return nil
}

func TestTimetableAddsUp(t *testing.T) {
	in := tuesday(t)
	pic := Work(in)
	if len(pic.Groups) != 3 || len(pic.Rounds) != 3 {
		t.Fatalf("%d groups, %d rounds", len(pic.Groups), len(pic.Rounds))
	}
	// brief + R·work + (R − 1)·change, and the blocks around it.
	stations := 2*time.Minute + 3*6*time.Minute + 2*pic.Change
	if want := 10*time.Minute + 5*time.Minute + stations + 25*time.Minute + 5*time.Minute; pic.Total != want {
		t.Errorf("the plan takes %v, want %v", pic.Total, want)
	}
	if pic.Rounds[1].From-pic.Rounds[0].To != pic.Change {
		t.Error("the change is not what lies between two rounds")
	}
	// 20 m at 1.2 m/s are 16.7 s, 15 s to settle: 31.7, up to 35.
	if got := ChangeFor(20); got != 35*time.Second {
		t.Errorf("a walk of 20 m takes %v, want 35 s", got)
	}
	// Four players, two places, 8 a minute, three rounds of 6 min: 72 repetitions, 9 min active at the stations.
	row := pic.Ledger[0]
	if math.Abs(row.Reps-72) > 1e-9 || row.Active != 35*time.Minute+9*time.Minute || row.Waiting != 9*time.Minute {
		t.Errorf("ledger: %.1f repetitions, %v active, %v waiting", row.Reps, row.Active, row.Waiting)
	}
}

func TestOneChangeMovesAllThreeViews(t *testing.T) {
	in := tuesday(t)
	before := Work(in)
	in.Plan.Work = 4 * 60
	after := Work(in)
	if after.Total != before.Total-6*time.Minute || after.Ledger[0].Reps >= before.Ledger[0].Reps {
		t.Error("shorter rounds did not reach the clock and the ledger")
	}
	var needs Needs
	var err error
	in.Plan, needs, err = in.Plan.Apply(Edit{Do: "groups", Value: "2"})
	if err != nil || needs != NewDeal {
		t.Fatal("two groups do not ask for a new deal", err)
	}
	if err := in.Plan.DealOut(in); err != nil {
		t.Fatal(err)
	}
	two := Work(in)
	quick := in.Drills["wall"]
	quick.ID, quick.Pace, quick.Length = "quick", 20, 12
	in.Drills["quick"] = quick
	if in.Plan, _, err = in.Plan.Apply(Edit{Do: "drill", At: 1, Value: "quick@1"}); err != nil {
		t.Fatal(err)
	}
	if swapped := Work(in); swapped.Stations[1].Spot.Length != 12 || swapped.Ledger[0].Reps <= two.Ledger[0].Reps || swapped.Change < two.Change {
		t.Error("another drill did not reach the floor and the ledger")
	}
	if len(two.Groups[0].Players) != 6 || two.Ledger[0].Reps >= after.Ledger[0].Reps {
		t.Error("larger groups must mean fewer repetitions each")
	}
}

func TestFindingsSayWhatIsWrongAndMendIt(t *testing.T) {
	in := tuesday(t)
	in.Players[3].Limits = []coach.Limit{{What: "jumping", Until: day.Of(start).Add(3)}}
	d := in.Drills["shot"]
	d.Asks, d.Leader, d.Target = []string{"jumping"}, coach.AnyHelper, coach.Target{Kind: coach.RunOf, N: 10}
	in.Drills["shot"] = d
	in.Plan.Stations[1].Leader = "bea"
	in.Plan.Blocks[3].Minutes = 60
	pic := Work(in)
	for _, want := range []string{"Player 03: No jumping until 27 Nov", "Time: The plan runs", "Station 2: Bea leaves at 18:30", "Station 2: 10 in a row would take"} {
		if says(pic, want) == nil {
			t.Errorf("no finding %q in %+v", want, pic.Findings)
		}
	}
	// Applying the mends settles what they are for.
	for _, words := range []string{"The plan runs", "Bea leaves", "10 in a row"} {
		f := says(pic, words)
		if f == nil || len(f.Mends) == 0 {
			t.Fatalf("no mend for %q", words)
		}
		in = mended(t, in, f.Mends[0])
		pic = Work(in)
		if says(pic, words) != nil {
			t.Errorf("%q stands after its mend: %+v", words, f)
		}
	}
}

func TestChanceComesFromTheNearestMarks(t *testing.T) {
	in := tuesday(t)
	in.Tries = map[string]map[string][]target.Series{"p1": {"wall": {{Made: 19, Tries: 20}}}}
	own, from := in.Chance(in.Players[1], in.Drills["wall"])
	other, from2 := in.Chance(in.Players[2], in.Drills["wall"])
	none, from3 := in.Chance(in.Players[2], in.Drills["shot"])
	if from != "own marks in the skill" || from2 != "the stage's marks" || from3 != "the drill's own guess" {
		t.Errorf("%s, %s, %s", from, from2, from3)
	}
	if own.P < 0.9 || other.P != own.P || none.P != 0.8 {
		t.Errorf("%v, %v, %v", own.P, other.P, none.P)
	}
}

func TestBadEditsSayWhyAndChangeNothing(t *testing.T) {
	p := tuesday(t).Plan
	for _, e := range []Edit{{Do: "work", Value: "soon"}, {Do: "work", Value: "5"}, {Do: "groups", Value: "9"}, {Do: "drill", At: 7, Value: "x@1"}, {Do: "drill", Value: "x"},
		{Do: "minutes", At: 0, Value: "-3"}, {Do: "task", At: 2, Value: "wall@1"}, {Do: "title", At: 0}, {Do: "way", Value: "by star sign"}, {Do: "sing"}, {Do: "split-block", At: 2, Value: "x"}, {Do: "spot", Value: "1 2 45 3 3"}, {Do: "spot", Value: "NaN 2 0 3 3"}, {Do: "score", At: 0, Value: "a"}, {Do: "pin", Value: "station 9"}, {Do: "turn", At: 0, Value: "1"}} {
		if _, _, err := p.Apply(e); err == nil || !strings.HasSuffix(err.Error(), ".") {
			t.Errorf("%+v: %v", e, err)
		}
	}
	if pic := Work(Input{Plan: Start(time.Hour, coach.BallGames), Booked: time.Hour, Floor: floor.Of("hall", 10, 10)}); says(pic, "No drill") == nil || says(pic, "Nobody") == nil {
		t.Error("an empty plan does not say what to do next")
	}
}

// The phone's clock (run.js) is held to the same cases.
func TestRunFollowsTheLeader(t *testing.T) {
	var file struct {
		Segments []struct {
			Kind    string
			Block   int
			Round   int
			Minutes float64
		}
		Cases []struct {
			Name   string
			Events [][2]any
			Bounds []float64
			Ended  bool
			Paused float64
		}
	}
	b, err := os.ReadFile("testdata/run.json")
	if err == nil {
		err = json.Unmarshal(b, &file)
	}
	if err != nil {
		t.Fatal(err)
	}
	minutes := func(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
	var segs []Segment
	for _, s := range file.Segments {
		segs = append(segs, Segment{Kind: s.Kind, Block: s.Block, Round: s.Round, Duration: minutes(s.Minutes)})
	}
	for _, c := range file.Cases {
		var events []Event
		for _, e := range c.Events {
			events = append(events, Event{Do: e[0].(string), At: start.Add(minutes(e[1].(float64)))})
		}
		tl := Fold(segs, events)
		got := []float64{}
		for _, b := range tl.Bounds {
			got = append(got, b.Sub(start).Minutes())
		}
		if !slices.Equal(got, c.Bounds) || tl.Ended != c.Ended || !tl.PausedAt.Equal(map[bool]time.Time{true: start.Add(minutes(c.Paused))}[c.Paused > 0]) {
			t.Errorf("%s: %v, ended %v, paused at %v", c.Name, got, tl.Ended, tl.PausedAt)
		}
	}
}

func TestWhatARoundReallyGave(t *testing.T) {
	pic := Work(tuesday(t))
	segs := pic.Segments()
	first := -1
	for i, s := range segs {
		if s.Kind == "work" && first < 0 {
			first = i
		}
	}
	at := start
	for _, s := range segs[:first] {
		at = at.Add(s.Duration)
	}
	// The first round lasts two minutes more; the second is cut to ten seconds and says nothing.
	second := at.Add(segs[first].Duration + 2*time.Minute + segs[first+1].Duration)
	tl := Fold(segs, []Event{{Do: "start", At: start}, {Do: "more", At: at.Add(time.Minute)}, {Do: "more", At: at.Add(time.Minute)}, {Do: "change", At: second.Add(10 * time.Second)}, {Do: "end", At: second.Add(20 * time.Second)}})
	one := pic.Groups[pic.Stations[0].Visits[0]].Players
	given := pic.Given(tl, func(round int, drill, player string) (int, bool) {
		return 12, drill == pic.Stations[0].Drill.ID && player == one[0].ID
	})
	if len(given) != len(pic.Stations) {
		t.Fatalf("%d rounds at stations; the cut one gives nothing: %+v", len(given), given)
	}
	g := given[0]
	if g.Round != 1 || g.Time != segs[first].Duration+2*time.Minute || g.Players != len(one) || g.Counted != 1 || g.Tries != 12 || g.Planned <= 0 {
		t.Errorf("the first: %+v", g)
	}
}

func TestOnlyWhatIsAheadGives(t *testing.T) {
	pic := Work(tuesday(t))
	words := func(now int) (out string) {
		for _, m := range pic.Gives(6*time.Minute, now) {
			out += m.Words + "; "
		}
		return out
	}
	if all := words(0); !strings.Contains(all, "Rounds of") {
		t.Errorf("in the warm-up the rounds can give: %s", all)
	}
	segs := pic.Segments()
	if late := words(len(segs) - 2); strings.Contains(late, "Rounds of") || strings.Contains(late, "round") {
		t.Errorf("rounds that were run give: %s", late)
	}
	if last := words(len(segs)); last != "" {
		t.Errorf("when all is over: %s", last)
	}
}
