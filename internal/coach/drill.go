package coach

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach/say"
)

// Leader says who has to stand at a drill.
type Leader string

const (
	SelfRun   Leader = "none"
	AnyHelper Leader = "helper"
	AnyCoach  Leader = "coach"
	Qualified Leader = "qualified"
)

// String is the need in words.
func (l Leader) String() string {
	return map[Leader]string{SelfRun: "runs itself", AnyHelper: "a helper", AnyCoach: "a coach", Qualified: "a qualified coach"}[l]
}

// Role is what a member is in the club.
type Role string

const (
	RoleLead   Role = "lead"
	RoleCoach  Role = "coach"
	RoleHelper Role = "helper"
)

// Enough reports whether a member of this role may run a drill that needs l. Which coach is qualified is the
// club's own rule; here a lead counts as one.
func (l Leader) Enough(r Role) bool {
	switch l {
	case AnyHelper:
		return r != ""
	case AnyCoach:
		return r == RoleCoach || r == RoleLead
	case Qualified:
		return r == RoleLead
	}
	return true
}

// Drill is a practice task as one edition of it says. Lengths are in metres, times in seconds.
type Drill struct {
	ID        string     `json:"id,omitempty"`
	Edition   int        `json:"edition,omitempty"`
	Name      string     `json:"name"`
	Purpose   string     `json:"purpose"`
	Setup     string     `json:"setup"`
	Skills    []string   `json:"skills"`
	Approach  string     `json:"approach"` // technique-first or game-first
	Practice  string     `json:"practice"` // blocked, varied or random
	Form      string     `json:"form"`     // cooperative, contest or live
	Places    int        `json:"places"`   // how many act at once
	Roles     []string   `json:"roles"`    // feeder, goalkeeper …, filled from the group in turn
	Least     int        `json:"least"`
	Most      int        `json:"most"`
	Pace      float64    `json:"pace"` // repetitions a minute at one place
	Work      int        `json:"work,omitempty"`
	Rest      int        `json:"rest,omitempty"`
	Target    Target     `json:"target"`
	Chance    float64    `json:"chance"` // of one good try, where nothing better is known
	Keys      []string   `json:"keys"`   // coaching points in order
	Leader    Leader     `json:"leader"`
	Length    float64    `json:"length"`
	Width     float64    `json:"width"`
	Clearance float64    `json:"clearance"`
	Hard      bool       `json:"hard"` // leaves players out of breath
	Asks      []string   `json:"asks"` // what a player's limit may forbid: jumping, overhead …
	Kit       []string   `json:"kit"`
	Cautions  []string   `json:"cautions"`
	Fire      float64    `json:"fire,omitempty"`       // metres in which balls fly on beyond the area's far end; 0: nothing is thrown or struck there
	Warms     []string   `json:"warms,omitempty"`      // what it makes ready: shoulder, landing …
	NotBefore []string   `json:"not_before,omitempty"` // drills or warmed things that have to come earlier in the session
	After     []string   `json:"after,omitempty"`      // skills a group should have shown before this step
	Series    int        `json:"series,omitempty"`     // with work and rest: how many turns each
	Minutes   [2]int     `json:"minutes,omitzero"`     // how long it is usually on, from and to
	Suits     string     `json:"suits,omitempty"`      // the stage it suits as it is, by name
	Variants  []Variant  `json:"variants"`             // easiest first
	Easier    int        `json:"easier,omitempty"`     // how many of the variants are easier than the drill as it is
	Moves     string     `json:"moves,omitempty"`      // how players move in it: one of Movements
	Situation string     `json:"situation,omitempty"`  // of the game or routine it serves, in the sport's own words
	Table     [][]string `json:"table,omitempty"`      // signals, calls, a feeding pattern; the first row is its heading
	Forfeits  []string   `json:"forfeits,omitempty"`   // a player picks one after a fault or fall: "5 star jumps"
	Routine   []string   `json:"routine,omitempty"`    // named skills in order: a beam, a rope, a floor routine
	Diagram   *Drawing   `json:"diagram,omitempty"`
	Author    string     `json:"author,omitempty"`
	Licence   string     `json:"licence,omitempty"`
	Origin    *Origin    `json:"origin,omitempty"` // of a copy
	Paced     int        `json:"-"`                // on how many counted rounds the pace rests; 0: it is as written
}

// Scored is how the drill is scored; free practice where there is none.
func (d *Drill) Scored() Target {
	if d == nil {
		return Target{}
	}
	return d.Target
}

// Movements are the ways in which players move in a drill.
var Movements = []string{"in place", "forward and back", "side to side", "turning", "all round"}

// Limits of a drill's table: rows under its heading, columns, letters of a cell.
const (
	MostRows, MostColumns = 8, 6
	mostCell              = 40
	MostSkills            = 20 // of a routine
)

// Forfeit is what one fault costs on average, in repetitions: the mean of the numbers the drill's forfeits begin with,
// one where there is none.
func (d Drill) Forfeit() float64 {
	sum := 0
	for _, s := range d.Forfeits {
		n := 1
		if _, err := fmt.Sscanf(s, "%d", &n); err != nil {
			n = 1
		}
		sum += n
	}
	return float64(sum) / float64(max(1, len(d.Forfeits)))
}

// Origin is where a copy of a drill came from.
type Origin struct {
	Club    string `json:"club"` // its name then
	Drill   string `json:"drill"`
	Edition int    `json:"edition"`
	Name    string `json:"name"`
}

// Variant is an easier or harder form of a drill: it says only what differs, in words and, where it is one, as a
// figure.
type Variant struct {
	Name    string   `json:"name"`
	Changes []Change `json:"changes,omitempty"`
	Differs string   `json:"differs,omitempty"` // what else differs
	Suits   string   `json:"suits"`             // the stage it suits, by name
	Target  int      `json:"target,omitempty"`  // instead of the drill's number
	Against int      `json:"against,omitempty"` // of a race: what the other side plays to then; 0: in proportion
	Chance  float64  `json:"chance,omitempty"`  // and so on; 0: as the drill has it
	Pace    float64  `json:"pace,omitempty"`
	Length  float64  `json:"length,omitempty"`
	Width   float64  `json:"width,omitempty"`
}

// Change is one thing that differs in a variant.
type Change struct {
	What string `json:"what"` // one of Aspects
	Says string `json:"says"`
}

// Aspects are what can differ between an easier and a harder form.
var Aspects = []string{"space", "ball", "speed", "feed", "defenders", "hand", "distance", "target"}

// Says is what differs, in words.
func (v Variant) Says() string {
	var out []string
	for _, c := range v.Changes {
		out = append(out, c.Says)
	}
	if v.Differs != "" {
		out = append(out, v.Differs)
	}
	if v.Target > 0 && len(out) > 0 {
		out = append(out, fmt.Sprintf("to %d", v.Target))
	}
	return strings.Join(out, ", ")
}

// How is what a helper reads who has never seen it: how it is set up, or what it is for where nothing more is written.
func (d Drill) How() string { return cmp.Or(d.Setup, d.Purpose) }

// Sizes is for how many players it is: "3–6", or "4" where no other number will do.
func (d Drill) Sizes() string {
	if d.Least == d.Most {
		return fmt.Sprint(d.Most)
	}
	return fmt.Sprintf("%d–%d", d.Least, d.Most)
}

// Players is Sizes with the word.
func (d Drill) Players() string { return d.Sizes() + " " + say.Of(d.Most, "player") }

// Tidy writes skills in small letters, as criteria have them.
func (d *Drill) Tidy() {
	for _, skills := range [][]string{d.Skills, d.After} {
		for i := range skills {
			skills[i] = strings.ToLower(skills[i])
		}
	}
}

// Among reports whether a word is one of these, in capitals or not.
func Among(word string, words []string) bool {
	return slices.ContainsFunc(words, func(w string) bool { return strings.EqualFold(w, word) })
}

// AsksFor is what of these things the drill asks for, however they are written.
func (d Drill) AsksFor(things []string) (out []string) {
	for _, t := range things {
		if Among(Limited(t), d.Asks) {
			out = append(out, t)
		}
	}
	return out
}

// Readies reports whether the drill is what has to come before another one, however it is written: by its name, or by what
// it makes ready.
func (d Drill) Readies(need string) bool {
	return strings.EqualFold(d.Name, need) || Among(need, d.Warms)
}

// Forms are the variants with the drill as it is in its place among them, easiest first; own is the index of the drill
// as it is, a form without changes that is called "As written".
func (d Drill) Forms() (forms []Variant, own int) {
	own = min(max(0, d.Easier), len(d.Variants))
	return slices.Insert(slices.Clone(d.Variants), own, Variant{Name: AsWritten, Suits: d.Suits}), own
}

// AsWritten is the name of the form that changes nothing.
const AsWritten = "As written"

// As is the drill in one of its forms: the form's figures stand instead of its own.
func (d Drill) As(v Variant) Drill {
	if v.Target > 0 {
		d.Target = d.Target.To(v.Target)
	}
	if v.Against > 0 {
		d.Target.Against = v.Against
	}
	for _, f := range []struct {
		own  *float64
		form float64
	}{{&d.Chance, v.Chance}, {&d.Pace, v.Pace}, {&d.Length, v.Length}, {&d.Width, v.Width}} {
		if f.form > 0 {
			*f.own = f.form
		}
	}
	return d
}

// Try is how long a try takes at one place, feeding and fetching included: the pace says it, and nothing else does.
func (d Drill) Try() time.Duration {
	return time.Duration(60 / max(d.Pace, 0.01) * float64(time.Second))
}

// Trial is what can be wrong with a drill, by the field it is about.
type Trial struct{ Field, Says string }

// Check says what cannot be in a drill, whatever wrote it: a form, a file or another club.
func (d Drill) Check() (out []Trial) {
	bad := func(field, format string, args ...any) { out = append(out, Trial{field, fmt.Sprintf(format, args...)}) }
	number := func(field, what string, x, low, high float64) {
		if !(x >= low && x <= high) { // not a number is neither
			bad(field, "%s: a number from %s to %s.", what, Figure(low), Figure(high))
		}
	}
	text := func(field, s string, most int) {
		if n := len([]rune(s)); n > most {
			bad(field, "That is %d characters; %d are the most.", n, most)
		}
	}
	if strings.TrimSpace(d.Name) == "" {
		bad("name", "What do you call it?")
	}
	text("name", d.Name, 80)
	text("purpose", d.Purpose, 300)
	text("setup", d.Setup, 2000)
	text("author", d.Author, 120)
	text("licence", d.Licence, 120)
	if len(d.Skills) == 0 {
		bad("skills", "At least one skill: it ties the drill to the criteria that can be marked there.")
	}
	for field, list := range map[string][]string{"skills": d.Skills, "keys": d.Keys, "cautions": d.Cautions, "kit": d.Kit, "roles": d.Roles, "asks": d.Asks, "warms": d.Warms, "forfeits": d.Forfeits, "not-before": d.NotBefore, "after": d.After} {
		if len(list) > 12 {
			bad(field, "That is %d lines; 12 are the most.", len(list))
		}
		for _, s := range list {
			text(field, s, 200)
		}
	}
	one := func(field, s string, of ...string) {
		if !slices.Contains(of, s) {
			bad(
				field,
				"%q is not one of %s.",
				s,
				say.List(slices.DeleteFunc(of, func(o string) bool { return o == "" })),
			)
		}
	}
	one("approach", d.Approach, "", "technique-first", "game-first")
	one("practice", d.Practice, "", "blocked", "varied", "random")
	one("form", d.Form, "", "cooperative", "contest", "live")
	one("moves", d.Moves, append([]string{""}, Movements...)...)
	text("situation", d.Situation, 40)
	if len(d.Table) > 1+MostRows {
		bad("table", "That is %d rows; %d under the heading are the most.", len(d.Table)-1, MostRows)
	}
	if len(d.Routine) > MostSkills {
		bad("routine", "That is %d skills; %d are the most.", len(d.Routine), MostSkills)
	}
	for _, skill := range d.Routine {
		text("routine", skill, mostCell)
	}
	for i, row := range d.Table {
		if len(row) > MostColumns {
			bad("table", "Row %d has %d columns; %d are the most.", i+1, len(row), MostColumns)
		}
		for _, cell := range row {
			text("table", cell, mostCell)
		}
	}
	if d.Leader.String() == "" {
		bad("leader", "Choose who has to stand there.")
	}
	number("places", "Places", float64(d.Places), 1, 60)
	number("least", "Players at least", float64(d.Least), 1, 60)
	number("most", "Players at most", float64(d.Most), 1, 60)
	if d.Most < d.Least {
		bad("most", "At most %d is fewer than at least %d.", d.Most, d.Least)
	}
	number("pace", "Repetitions a minute", d.Pace, 0.1, 200)
	number("length", "Length", d.Length, 1, 120)
	number("width", "Width", d.Width, 1, 120)
	number("clearance", "Clear round it", d.Clearance, 0, 20)
	number("fire", "How far it flies on", d.Fire, 0, 60)
	number("chance", "Good ones in 10", d.Chance*10, 0.5, 10)
	number("work", "Seconds of work", float64(d.Work), 0, 600)
	number("rest", "Seconds of rest", float64(d.Rest), 0, 1800)
	number("series", "Turns each", float64(d.Series), 0, 20)
	number("minutes", "Minutes", float64(d.Minutes[0]), 0, 240)
	number("minutes", "Minutes", float64(d.Minutes[1]), float64(d.Minutes[0]), 240)
	d.Target.check(bad)
	d.checkVariants(bad)
	return out
}

func (d Drill) checkVariants(bad func(field, format string, args ...any)) {
	if len(d.Variants) > 8 || d.Easier < 0 || d.Easier > len(d.Variants) {
		bad("variants", "At most 8 easier and harder forms.")
	}
	seen := map[string]bool{AsWritten: true, "-": true, "": true}
	for i, v := range d.Variants {
		switch name := strings.TrimSpace(v.Name); {
		case seen[name]:
			bad("variants", "Form %d needs a name of its own.", i+1)
		case len([]rune(name)) > 40 || len([]rune(v.Says())) > 300:
			bad("variants", "%s: 40 characters for the name and 300 for what differs are the most.", name)
		case v.Says() == "":
			bad("variants", "%s: say what differs.", name)
		case v.Target < 0 || v.Target > 500 || v.Against < 0 || v.Against > 500 || v.Chance < 0 || v.Chance > 1 || v.Pace < 0 || v.Pace > 200 || v.Length < 0 || v.Length > 120 || v.Width < 0 || v.Width > 120:
			bad("variants", "%s: one of its figures cannot be.", name)
		}
		seen[strings.TrimSpace(v.Name)] = true
		for _, c := range v.Changes {
			if !slices.Contains(Aspects, c.What) {
				bad("variants", "%s: %q cannot differ; it can be %s.", v.Name, c.What, say.List(Aspects))
			}
		}
	}
}
