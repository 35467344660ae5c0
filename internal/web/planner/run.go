package planner

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/run"
	"gruppo/internal/coach/register"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

type runView struct {
	app.Loaded
	When     string
	Started  string // when it really began and ended
	Ended    string // empty: it is still on
	Shift    string // how far the start was off
	Parts    []runPart
	Stations []runStation
	Where    []runGroup
	Register []runWord
	Keys     []runKey
	Seen     string // how many were
	Unseen   []string
	Notes    []store.Note
	Refused  []store.Refused // what devices sent and could not be taken
	Marks    int
	By       []string
	Climbed  []runClimb
	Results  []runResult
	People   []runPerson
	Feedback string // how often each kind was given
	Asked    []string
	Itself   bool // nobody ended it
}

// runPerson is what a player did: tries that were counted, what was shown, the keys they have and lack.
type runPerson struct {
	Name      string
	Tries     int
	Marks     []string
	Has, Lack []string
	Heard     int // feedback to them alone
}

// runPart is a block as it was planned and as it went.
type runPart struct {
	run.Part
	Name, At            string
	Width, PlannedWidth float64 // of a hundred
}

// runWord is who had the same word in the register.
type runWord struct {
	Word  string
	Names []string
}

// runKey is what was said of a key on the day.
type runKey struct {
	Key       string
	Has, Lack []string
}

// runGroup is who moved together, and where they were, round by round.
type runGroup struct {
	Shape   doc.Shape
	Players []string
	At      []string
}

// runStation is what a station gave, beside what was planned.
type runStation struct {
	run.Sum
	Name, Says string
}

// runPage is what really happened, beside the plan.
func runPage(c *shell.Ctx) error {
	var v runView
	var h store.Hall
	var marks []coach.Mark
	var given []run.Given
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Loaded, err = app.ReadRunning(c.Ctx(), tx, c.Param("id"), c.Now, c.Loc); err != nil {
			return err
		}
		ids := []string{}
		for _, p := range v.Players {
			ids = append(ids, p.ID)
		}
		if h, err = tx.Hall(c.Ctx(), v.Session.ID, "", ids, c.Now); err != nil {
			return err
		}
		if marks, err = tx.Marks(c.Ctx(), store.MarkFilter{Session: v.Session.ID}); err != nil {
			return err
		}
		if v.Refused, err = tx.Refusals(c.Ctx(), v.Session.ID); err != nil {
			return err
		}
		given, err = tx.Rounds(c.Ctx(), v.Session.ID)
		return err
	})
	if err != nil {
		return err
	}
	v.Work()
	v.parts(run.Fold(v.Picture.Segments(), h.Events), c)
	v.stations(given)
	v.where(given)
	v.seen(v.SeenBy(h, marks), marks)
	v.register()
	v.keys(h.Keys)
	v.climbed(h.Climbs)
	v.results(h.Points)
	v.people(h, marks)
	v.feedback(h.Feedback)
	v.Itself = h.Itself
	v.Notes = slices.DeleteFunc(h.Notes, func(n store.Note) bool { return n.Session != v.Session.ID })
	v.When = v.Picture.Start.Format("Mon 2 Jan, 15:04")
	return c.Page(pages, http.StatusOK, "run.html", "What happened", v)
}

// Sent says in a few words what a device sent: what it was, about whom, and when.
func (v runView) Sent(r store.Refused) string {
	kind, _ := r.Item["kind"].(string)
	what := map[string]string{"tally": "Counted tries", "mark": "A mark", "said": "The register", "note": "A note", "has": "A key", "clock": "The clock", "strike": "A mark taken back", "climb": "A step of the ladder", "looked": "A first look", "guest": "A guest", "feedback": "Feedback", "point": "A point", "carry": "A first look the next time"}[kind]
	if what == "" {
		what = "Something"
	}
	for _, p := range v.Players {
		if p.ID == r.Item["player"] {
			what += " of " + p.Name
		}
	}
	return what + ", " + r.At.In(v.Picture.Start.Location()).Format("15:04")
}

// putAside says that what was refused of the session's devices has been seen.
func putAside(c *shell.Ctx) error {
	err := c.In(func(tx *store.Tx) error {
		if _, err := tx.Session(c.Ctx(), c.Param("id")); err != nil {
			return err
		}
		return tx.PutAside(c.Ctx(), c.Param("id"), c.Now)
	})
	if err != nil {
		return err
	}
	return c.To("/sessions/" + c.Param("id") + "/run")
}

// parts puts the blocks side by side, and says when it really began and ended.
func (v *runView) parts(t run.Timeline, c *shell.Ctx) {
	if !t.Started {
		return
	}
	v.Started = t.Bounds[0].In(c.Loc).Format("15:04")
	if t.Ended {
		v.Ended = t.EndedAt.In(c.Loc).Format("15:04")
	}
	off := t.Bounds[0].Sub(v.Session.StartsAt).Round(time.Minute)
	if began := day.In(t.Bounds[0], c.Loc); began != day.In(v.Session.StartsAt, c.Loc) {
		v.Shift = "on " + began.Format("Mon 2 Jan")
	} else if off > 0 {
		v.Shift = coach.Minutes(off) + " late"
	} else if off < 0 {
		v.Shift = coach.Minutes(-off) + " early"
	}
	most := time.Minute
	for _, p := range t.Parts(v.Picture.Segments(), c.Now) {
		most = max(most, p.Planned, p.Real)
		v.Parts = append(v.Parts, runPart{
			Part: p,
			Name: v.Picture.Plan.Blocks[p.Block].Title,
			At:   p.From.In(c.Loc).Format("15:04"),
		})
	}
	for i := range v.Parts {
		p := &v.Parts[i]
		p.Width, p.PlannedWidth = 100*p.Real.Seconds()/most.Seconds(), 100*p.Planned.Seconds()/most.Seconds()
	}
}

// stations says what the rounds gave by station. Where nobody was counted nothing is said.
func (v *runView) stations(given []run.Given) {
	sums := run.Sums(given)
	for _, s := range v.Picture.Stations {
		sum, ok := sums[s.Index]
		if !ok {
			continue
		}
		r := runStation{Sum: sum, Name: s.Drill.Name, Says: "nobody was counted"}
		if sum.Counted > 0 {
			r.Says = fmt.Sprintf("%d of %s counted", sum.Counted, say.Count(sum.Players, "player"))
			if sum.Counted*2 < sum.Players {
				r.Says += ": too few to learn the pace from"
			}
		}
		v.Stations = append(v.Stations, r)
	}
}

// where says who was where: of every round that was run, the group's station.
func (v *runView) where(given []run.Given) {
	for _, g := range v.Picture.Groups {
		r := runGroup{Shape: g.Shape}
		for _, p := range g.Players {
			r.Players = append(r.Players, p.Name)
		}
		for _, k := range given {
			if k.Group == g.Index && k.Station < len(v.Picture.Stations) {
				r.At = append(r.At, fmt.Sprintf("round %d %s", k.Round, v.Picture.Stations[k.Station].Drill.Name))
			}
		}
		if len(r.At) > 0 {
			v.Where = append(v.Where, r)
		}
	}
}

// register says who was there, by what was said; with the minutes of those who came late or left.
func (v *runView) register() {
	words := []struct {
		word  register.Word
		words string
	}{{register.Present, "Here"}, {register.Late, "Came late"}, {register.Left, "Left"}, {register.Hurt, "Hurt"}, {register.Absent, "Not there"}, {register.Away, "Said to stay away"}, {register.Nothing, "Nothing was said of"}}
	for _, w := range words {
		r := runWord{Word: w.words}
		for _, p := range v.Players {
			said := v.Said[p.ID].Said()
			if said.Word != w.word {
				continue
			}
			name := p.Name
			if m := max(said.From, said.Until); m > 0 {
				name += " " + v.Picture.Start.Add(time.Duration(m)*time.Minute).Format("15:04")
			}
			if said.No != "" {
				name += ", no " + said.No
			}
			if said.Guest {
				name += ", a guest"
			}
			r.Names = append(r.Names, name)
		}
		if len(r.Names) > 0 {
			v.Register = append(v.Register, r)
		}
	}
}

// keys says who has and who lacks a key, of those of whom it was said in this session.
func (v *runView) keys(newest []store.KeyMark) {
	at := map[string]int{}
	for _, p := range v.Players {
		for _, k := range newest {
			if k.Player != p.ID || k.Session != v.Session.ID {
				continue
			}
			i, ok := at[k.Key]
			if !ok {
				i, v.Keys = len(v.Keys), append(v.Keys, runKey{Key: k.Key})
				at[k.Key] = i
			}
			if k.Has {
				v.Keys[i].Has = append(v.Keys[i].Has, p.Name)
			} else {
				v.Keys[i].Lack = append(v.Keys[i].Lack, p.Name)
			}
		}
	}
}

// seen says who was seen by nobody, and how many marks each made.
func (v *runView) seen(seen map[string][]string, marks []coach.Mark) {
	by := map[string]int{}
	for _, m := range marks {
		if !m.Struck {
			by[m.ByName]++
			v.Marks++
		}
	}
	for _, p := range v.Input.Players {
		if len(seen[p.ID]) == 0 {
			v.Unseen = append(v.Unseen, p.Name)
		}
	}
	came := len(v.Input.Players)
	v.Seen = fmt.Sprintf("%d of %d seen", came-len(v.Unseen), came)
	for n, k := range by {
		v.By = append(v.By, fmt.Sprintf("%s %d", n, k))
	}
	slices.Sort(v.By)
}

// people says of each player who was there what was counted, marked and said.
func (v *runView) people(h store.Hall, marks []coach.Mark) {
	for _, p := range v.Input.Players {
		r := runPerson{Name: p.Name}
		for _, t := range h.Tallies {
			if t.Player == p.ID {
				r.Tries += len(t.Tries)
			}
		}
		for _, t := range h.Points { // of a pair both have tried
			if !t.Undone && (t.Player == p.ID || strings.Contains(t.Whose, p.ID)) {
				r.Tries++
			}
		}
		for _, m := range marks {
			if m.PlayerID != p.ID || m.Struck {
				continue
			}
			if k, ok := app.CriterionOf(v.Program, m.CriterionID); ok {
				r.Marks = append(r.Marks, k.Wording+" "+m.Said(k))
			} else if m.DrillID != "" && m.Tries == 0 && m.Note != "" { // what a pair, a team or a side came to
				r.Marks = append(r.Marks, v.Input.Drill(m.DrillID).Name+" "+m.Note)
			}
		}
		for _, k := range h.Keys {
			switch {
			case k.Player != p.ID || k.Session != v.Session.ID:
			case k.Has:
				r.Has = append(r.Has, k.Key)
			default:
				r.Lack = append(r.Lack, k.Key)
			}
		}
		for _, f := range h.Feedback {
			if f.Player == p.ID {
				r.Heard++
			}
		}
		if r.Tries+len(r.Marks)+len(r.Has)+len(r.Lack)+r.Heard > 0 {
			v.People = append(v.People, r)
		}
	}
}

// feedback says how often each kind was given, and what a group that was asked answered.
func (v *runView) feedback(given []store.Feedback) {
	n := map[string]int{}
	for _, f := range given {
		n[f.How]++
		if f.How == "asked" && f.Said != "" {
			v.Asked = append(v.Asked, "“"+f.Key+"”: "+f.Said+" knew")
		}
	}
	var words, never []string
	for _, h := range store.Hows {
		if n[h.How] > 0 {
			words = append(words, fmt.Sprint(h.Words, " ", n[h.How]))
		} else {
			never = append(never, h.Words)
		}
	}
	if len(words) == 0 {
		return
	}
	v.Feedback = say.Upper(strings.Join(words, ", ")) + "."
	if len(never) > 0 {
		v.Feedback += " Never " + say.List(never) + "."
	}
}
