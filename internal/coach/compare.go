package coach

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"gruppo/internal/coach/say"
)

// Difference is one thing in which two editions of a drill differ, in words: what is out and what is in.
type Difference struct {
	What    string
	Out, In []string
}

// Compare says how a drill differs from an older state of it, in the order of its page and with lengths as the club reads
// them. Of lists only what went and came is said.
func Compare(was, now Drill, u Units) []Difference {
	out := compare(was, now, Metric)
	if said := compare(was, now, u); len(said) == len(out) {
		return said
	}
	return out // what differs by less than half a foot is said in metres
}

func compare(was, now Drill, u Units) (out []Difference) {
	text := func(what, a, b string) {
		if a != b {
			out = append(out, Difference{what, some(a), some(b)})
		}
	}
	list := func(what string, a, b []string) {
		d := Difference{what, without(a, b), without(b, a)}
		if len(d.Out)+len(d.In) == 0 && !slices.Equal(a, b) {
			d.Out, d.In = []string{say.List(a)}, []string{say.List(b)} // the order differs
		}
		if len(d.Out)+len(d.In) > 0 {
			out = append(out, d)
		}
	}
	text("Name", was.Name, now.Name)
	text("What it is for", was.Purpose, now.Purpose)
	text("Setting up", was.Setup, now.Setup)
	list("Skills", was.Skills, now.Skills)
	text("Players", was.Sizes(), now.Sizes())
	text("Work at once", Figure(float64(was.Places)), Figure(float64(now.Places)))
	text("Pace", Figure(was.Pace)+" a minute", Figure(now.Pace)+" a minute")
	text("Area", was.area(u), now.area(u))
	text("Flies on", u.Long(was.Fire), u.Long(now.Fire))
	text("Minutes", was.minutes(), now.minutes())
	text("Scored", was.Target.String(), now.Target.String())
	text("Better ones", was.Target.better(), now.Target.better())
	text("A try", was.try(), now.try())
	text("Work and rest", was.turns(), now.turns())
	list("After a fault", was.Forfeits, now.Forfeits)
	list("Routine", was.Routine, now.Routine)
	list("Keys", was.Keys, now.Keys)
	list("Forms", was.forms(u), now.forms(u))
	list("Mind", was.Cautions, now.Cautions)
	text("Who stands there", was.Leader.String(), now.Leader.String())
	list("Kit", was.Kit, now.Kit)
	list("Roles", was.Roles, now.Roles)
	list("Asks for", was.Asks, now.Asks)
	list("Makes ready", was.Warms, now.Warms)
	list("Not before", was.NotBefore, now.NotBefore)
	list("After these skills", was.After, now.After)
	text("Movement", was.Moves, now.Moves)
	text("Situation", was.Situation, now.Situation)
	list("Table", was.rows(), now.rows())
	text("Approach", was.Approach, now.Approach)
	text("Order of tries", was.Practice, now.Practice)
	text("Form", was.Form, now.Form)
	text("Leaves them out of breath", yes(was.Hard), yes(now.Hard))
	text("Suits", was.Suits, now.Suits)
	text("Author", was.Author, now.Author)
	text("Licence", was.Licence, now.Licence)
	if !reflect.DeepEqual(was.Diagram, now.Diagram) {
		out = append(out, Difference{"Diagram", some(was.Diagram.summary()), some(now.Diagram.summary())})
	}
	return out
}

func some(s string) []string {
	if s == "" {
		return nil
	}
	return []string{s}
}

func without(a, b []string) (out []string) {
	for _, s := range a {
		if !slices.Contains(b, s) {
			out = append(out, s)
		}
	}
	return out
}

func (d Drill) area(u Units) string {
	s := u.Area(d.Length, d.Width)
	if d.Clearance > 0 {
		s += ", " + u.Long(d.Clearance) + " clear round it"
	}
	return s
}

func (d Drill) minutes() string {
	if d.Minutes[1] == 0 {
		return ""
	}
	return fmt.Sprintf("%d–%d min", d.Minutes[0], d.Minutes[1])
}

func (d Drill) try() string { return Figure(d.Chance*10) + " in 10 good" }

func (d Drill) turns() string {
	if d.Work == 0 {
		return ""
	}
	return fmt.Sprintf("%d s of work, %d s of rest, %s each", d.Work, d.Rest, say.Count(max(1, d.Series), "turn"))
}

func (d Drill) rows() (out []string) {
	for _, r := range d.Table {
		out = append(out, strings.Join(r, " | "))
	}
	return out
}

func (d Drill) forms(u Units) (out []string) {
	forms, own := d.Forms()
	for i, v := range forms {
		side := "easier"
		if i > own {
			side = "harder"
		}
		if i != own {
			out = append(out, fmt.Sprintf("%s (%s): %s", v.Name, side, v.differs(u)))
		}
	}
	return out
}

// differs is all that a form has of its own.
func (v Variant) differs(u Units) string {
	var out []string
	for _, c := range v.Changes {
		out = append(out, fmt.Sprintf("%s (%s)", c.Says, c.What))
	}
	out = append(out, some(v.Differs)...)
	figure := func(x float64, format string, write func(float64) string) {
		if x > 0 {
			out = append(out, fmt.Sprintf(format, write(x)))
		}
	}
	figure(float64(v.Target), "to %s", Figure)
	figure(float64(v.Against), "the others to %s", Figure)
	figure(v.Chance*10, "%s in 10 good", Figure)
	figure(v.Pace, "%s a minute", Figure)
	figure(v.Length, "%s long", u.Long)
	figure(v.Width, "%s wide", u.Long)
	if v.Suits != "" {
		out = append(out, "for "+v.Suits)
	}
	return strings.Join(out, ", ")
}

// better is how often a good try of a score is the better one.
func (t Target) better() string {
	if t.Kind != Score || t.Bonus == 0 {
		return ""
	}
	return Figure(t.BonusIn*10) + " in 10 good ones"
}

func yes(b bool) string {
	if b {
		return "yes"
	}
	return "no"
}

func (d *Drawing) summary() string {
	if d == nil {
		return ""
	}
	return fmt.Sprintf("%s, %s", say.Count(len(d.Things), "thing"), say.Count(len(d.Steps), "step"))
}
