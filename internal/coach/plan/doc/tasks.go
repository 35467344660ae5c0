package doc

import (
	"maps"
	"slices"
)

// Tasks lists every drill of the plan, stations first.
func (p Plan) Tasks() (out []Task) {
	all := p.Clone()
	all.Retask(func(t Task) (Task, bool) {
		out = append(out, t)
		return t, true
	})
	return out
}

// Tasks are what everybody does in a block beside stations, one after the other.
func (b Block) Tasks() (out []Task) {
	if b.Drill != "" && b.Kind != Stations {
		out = append(out, Task{b.Drill, b.Edition})
	}
	out = append(out, b.Steps...)
	if b.Intervals != nil {
		for _, e := range b.Intervals.Exercises {
			out = append(out, e.Task)
		}
	}
	return out
}

// Retask puts another task in the place of each of the plan's. Where it says no, the station, step or exercise goes, a
// block is left without a task, and a player who had one of their own sits out.
func (p *Plan) Retask(another func(Task) (Task, bool)) {
	for _, c := range p.Circuits() {
		var kept []Station
		for _, s := range c.Stations {
			if t, ok := another(Task{s.Drill, s.Edition}); ok {
				s.Drill, s.Edition = t.Drill, t.Edition
				kept = append(kept, s)
			}
		}
		c.Stations = kept
	}
	one := func(t Task) Task {
		if t.Drill == "" {
			return t
		}
		t, ok := another(t)
		if !ok {
			return Task{}
		}
		return t
	}
	for i := range p.Blocks {
		b := &p.Blocks[i]
		if b.Kind != Stations {
			t := one(Task{b.Drill, b.Edition})
			b.Drill, b.Edition = t.Drill, t.Edition
		}
		var steps []Task
		for _, s := range b.Steps {
			if s = one(s); s.Drill != "" {
				steps = append(steps, s)
			}
		}
		b.Steps = steps
		if n := b.Intervals; n != nil {
			var kept []Exercise
			for _, e := range n.Exercises {
				if e.Task = one(e.Task); e.Drill != "" {
					kept = append(kept, e)
				}
			}
			n.Exercises, n.Light = kept, one(n.Light)
		}
	}
	aside := func(sides map[string]Task) {
		for _, player := range slices.Sorted(maps.Keys(sides)) {
			sides[player] = one(sides[player])
		}
	}
	for _, c := range p.Circuits() {
		for _, s := range c.Stations {
			aside(s.Own)
			aside(s.Side)
		}
	}
	for _, b := range p.Blocks {
		aside(b.Side)
	}
}
