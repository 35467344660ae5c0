package check_test

import (
	"encoding/json"
	"errors"
	"slices"
	"testing"
	"time"

	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/work"
)

func document(t *testing.T, p doc.Plan) string {
	t.Helper()
	b, err := json.Marshal(p)
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}

// held works a plan out and says what cannot be in any: time that is lost or made, rounds that no part holds, players
// in two groups.
func held(t *testing.T, in work.Input, what any) check.Picture {
	t.Helper()
	defer func() {
		if r := recover(); r != nil {
			t.Fatalf("%v: working it out panics: %v\n%s", what, r, document(t, in.Plan))
		}
	}()
	in.Running = true
	check.Plan(in)
	in.Running = false
	pic := check.Plan(in)
	parts, rounds, at := 0, 0, time.Duration(0)
	for _, b := range pic.Blocks {
		if b.From != at || b.To < b.From {
			t.Errorf("%v: %s begins at %v and ends at %v after %v", what, b.Title, b.From, b.To, at)
		}
		at = b.To
		if b.Kind == doc.Stations {
			parts, rounds = parts+1, rounds+b.Count
		}
	}
	if at != pic.Total || parts > 0 && rounds != len(pic.Rounds) {
		t.Errorf(
			"%v: %v of %v, %d of %d rounds: %s",
			what,
			at,
			pic.Total,
			rounds,
			len(pic.Rounds),
			document(t, in.Plan),
		)
	}
	for _, row := range pic.Ledger {
		sum := row.Active + row.Waiting + row.Resting + row.Moving + row.Away
		if sum > pic.Total+time.Second || row.Active < 0 || row.Waiting < 0 || row.Resting < 0 || row.Moving < 0 ||
			row.Away < 0 ||
			row.Reps < 0 {
			t.Errorf("%v: %s is busy for %v of %v: %+v", what, row.Player.Name, sum, pic.Total, row)
		}
	}
	for _, f := range pic.Findings {
		for _, m := range f.Mends {
			p := in.Plan
			for _, e := range m.Edits {
				next, _, err := edit.Apply(p, e)
				if err != nil {
					t.Errorf("%v: the mend %q of %q cannot be made: %v", what, m.Words, f.Says(), err)
					break
				}
				p = next
			}
		}
	}
	return pic
}

// newDeal are the edits after which the players are dealt anew.
var newDeal = []string{"groups", "way", "deal", "positions"}

// Any sound plan can be worked out, edited in every way and worked out again; what is edited stays sound, keeps its
// rounds, and nothing reaches back into the plan before.
func TestAnyPlanCanBeWorkedOutAndEdited(t *testing.T) {
	for seed := range uint64(120) {
		in := plantest.Input(seed)
		if err := in.Plan.Check(); err != nil {
			t.Fatalf("seed %d: not sound: %v", seed, err)
		}
		pic := held(t, in, seed)
		if seed%7 > 0 { // every edit of every one takes a while
			continue
		}
		before := document(t, in.Plan)
		for _, w := range plantest.Edits(in) {
			after := in
			e, err := edit.Read(w)
			if err == nil {
				err = after.Edit(e)
			}
			if document(t, in.Plan) != before {
				t.Fatalf("seed %d: %+v changed the plan it was made on", seed, w)
			}
			var says *doc.ErrInput
			var clash *deal.Clash
			if errors.As(err, &says) || errors.As(err, &clash) {
				continue
			}
			if err != nil || after.Plan.Check() != nil {
				t.Fatalf("seed %d: %+v: %v, %v", seed, w, err, after.Plan.Check())
			}
			d, other := after.Plan.Deals[0], after.Plan.Deals[0].Groups != in.Plan.Deals[0].Groups
			if (slices.Contains(newDeal, w.Do) || other) && len(d.Players) != d.Groups {
				t.Errorf("seed %d: %+v asks for %d groups, %d are dealt", seed, w, d.Groups, len(d.Players))
			}
			was, now := len(pic.Rounds), 0
			for _, b := range held(t, after, w).Blocks {
				if b.Kind == doc.Stations {
					now += b.Count
				}
			}
			moves := slices.Contains([]string{"split-block", "drop-block", "move-block", "add-block"}, w.Do)
			if moves &&
				was > 0 &&
				now != was &&
				len(in.Plan.Circuits()) == len(after.Plan.Circuits()) {
				t.Errorf("seed %d: %+v makes %d rounds of %d", seed, w, now, was)
			}
		}
	}
}
