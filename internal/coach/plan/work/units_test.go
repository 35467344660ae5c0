package work_test

import (
	"slices"
	"testing"

	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
)

// Units share a place and do other things there: each has the tries of its own task, the one that skips it rests while
// the others are there, and what a unit's own task asks for is held against its own players.
func TestUnitsHaveTheirOwnTasks(t *testing.T) {
	in := plantest.Tuesday(t)
	do := func(w edit.Wire) {
		t.Helper()
		e, err := edit.Read(w)
		if err == nil {
			err = in.Edit(e)
		}
		if err != nil {
			t.Fatalf("%+v: %v", w, err)
		}
	}
	do(edit.Wire{Do: "unit", Value: "0 Infielders"})
	do(edit.Wire{Do: "own", At: "s1", Value: "group 1=feint@1"})
	do(edit.Wire{Do: "own", At: "s1", Value: "group 2=-"})
	pic := work.Out(in)
	own, skips, others := pic.Groups[0], pic.Groups[1], pic.Groups[2]
	if own.Shape.Name != "Infielders" || others.Shape.Name != doc.Shapes[2].Name {
		t.Errorf("called %s and %s", own.Shape.Name, others.Shape.Name)
	}
	row := func(p coach.Player) work.Row {
		return pic.Ledger[slices.IndexFunc(pic.Ledger, func(r work.Row) bool { return r.Player.ID == p.ID })]
	}
	a, b, c := row(own.Players[0]), row(skips.Players[0]), row(others.Players[0])
	if a.BySkill["wall"] != 0 || a.BySkill["feint"] != 2*c.BySkill["feint"] || c.BySkill["wall"] == 0 {
		t.Errorf("tries by skill: %v, the others %v", a.BySkill, c.BySkill)
	}
	if !slices.Contains(skips.Route, rotate.Rest) || b.Resting-c.Resting != pic.Main().Round() || b.BySkill["wall"] != 0 {
		t.Errorf("the unit that skips it: %v, rests %v", skips.Route, b.Resting)
	}
	d := in.Drills["feint"]
	d.Asks = []string{"jumping"}
	in.Drills["feint"] = d
	in.There = map[string]work.There{own.Players[0].ID: {No: "jumping"}}
	if plantest.Says(check.Plan(in), "1 feint") == nil {
		t.Errorf("its own task is not held against a limit: %s", plantest.List(check.Plan(in)))
	}
	do(edit.Wire{Do: "own", At: "s1", Value: "group 1="})
	if pic = work.Out(in); pic.Stations[0].HasOwn(pic.Groups[0]) {
		t.Error("it does as the others do again")
	}
}

// A second block of stations has groups of its own: the first block's are not dealt again with it.
func TestStationsForUnitsLater(t *testing.T) {
	in := plantest.Tuesday(t)
	before := in.Plan.Clone().Deals[0].Players
	if err := in.Edit(edit.AddBlock{Kind: doc.Stations, After: "b3"}); err != nil {
		t.Fatal(err)
	}
	second := in.Plan.Blocks[3]
	if err := in.Edit(edit.AddStation{Block: second.ID, Task: doc.Task{Drill: "wall", Edition: 1}}); err != nil {
		t.Fatal(err)
	}
	if err := in.Edit(edit.Groups{Deal: second.Circuit.Deal, Count: 2}); err != nil {
		t.Fatal(err)
	}
	pic := work.Out(in)
	if len(in.Plan.Deals) != 2 || len(in.Plan.Deals[1].Players) != 2 || len(pic.Circuits) != 2 || len(pic.Groups) != 5 {
		t.Errorf("%d deals, %d circuits, %d groups", len(in.Plan.Deals), len(pic.Circuits), len(pic.Groups))
	}
	for i := range before {
		if !slices.Equal(before[i], in.Plan.Deals[0].Players[i]) {
			t.Errorf("group %d was dealt again", i+1)
		}
	}
}
