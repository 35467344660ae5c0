package stairs

import (
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

type ladderView struct {
	Programs  []store.Program
	MayChange bool
}

func ladder(c *shell.Ctx) error {
	v := ladderView{MayChange: c.May(shell.ChangeLadder)}
	err := c.In(func(tx *store.Tx) (err error) {
		v.Programs, err = tx.Ladders(c.Ctx())
		return err
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "ladder.html", "Stages", v)
}

type stageView struct {
	Form    *shell.Form
	ID      string // stage id, or program id when New
	New     bool
	Program string
	Name    string
}

// findStage is the stage with its program; an id of a program means a new stage on top of it.
func findStage(c *shell.Ctx, tx *store.Tx, id string) (p store.Program, s coach.Stage, isNew bool, err error) {
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return p, s, false, err
	}
	for _, p := range programs {
		if p.ID == id {
			order := 1
			for _, o := range p.Stages {
				order = max(order, o.Order+1)
			}
			return p, coach.Stage{ProgramID: p.ID, Order: order, Colour: "#2a7f9e"}, true, nil
		}
		if s, ok := p.Stage(id); ok {
			return p, s, false, nil
		}
	}
	return p, s, false, store.ErrNone
}

func stageForm(c *shell.Ctx) error {
	v := stageView{Form: shell.NewForm(c), ID: c.Param("id")}
	err := c.In(func(tx *store.Tx) error {
		p, s, isNew, err := findStage(c, tx, v.ID)
		if err != nil {
			return err
		}
		v.New, v.Program, v.Name = isNew, p.Name, s.Name
		v.Form.Values = url.Values{"name": {s.Name}, "about": {s.About}, "colour": {s.Colour}, "choose": {strconv.Itoa(s.StepUp.Choose)}, "visits": {strconv.Itoa(s.StepUp.Visits)}, "weeks": {strconv.Itoa(s.StepUp.Weeks)}}
		return nil
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "stage-form.html", "Stage", v)
}

func saveStage(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := stageView{Form: f, ID: c.Param("id")}
	name, about := f.Text("name", 40, "A stage needs a name."), f.Text("about", 200, "")
	up := coach.StepUp{Choose: f.Int("choose", 0, 30, "Of those to choose"), Visits: f.Int("visits", 0, 500, "Visits"), Weeks: f.Int("weeks", 0, 200, "Weeks")}
	colour := f.Get("colour")
	if len(colour) != 7 || colour[0] != '#' || strings.Trim(colour[1:], "0123456789abcdefABCDEF") != "" {
		f.Wrong("colour", "Choose a colour.")
	}
	refused := false
	err := c.Change("", "Changed the stage "+name, func(tx *store.Tx) error {
		p, s, isNew, err := findStage(c, tx, v.ID)
		if err != nil {
			return err
		}
		v.New, v.Program, v.Name = isNew, p.Name, s.Name
		if slices.ContainsFunc(p.Stages, func(o coach.Stage) bool { return o.ID != s.ID && strings.EqualFold(o.Name, name) }) {
			f.Wrong("name", "This ladder has a stage %s already.", name)
		}
		if refused = !f.OK(); refused {
			return store.ErrChangedSince
		}
		if isNew {
			s.ID = store.NewID()
		}
		s.Name, s.About, s.Colour, s.StepUp = name, about, colour, up
		return tx.PutStage(c.Ctx(), s)
	})
	if refused {
		return c.Page(pages, http.StatusUnprocessableEntity, "stage-form.html", "Stage", v)
	}
	if err != nil {
		return err
	}
	return c.To("/stairs/ladder")
}

type criterionView struct {
	Form     *shell.Form
	ID       string
	New      bool
	Stage    string
	Measures []coach.Measure
	Skills   []string
}

// findCriterion is the criterion with its stage; an id of a stage means a new criterion of it.
func findCriterion(c *shell.Ctx, tx *store.Tx, id string) (st coach.Stage, k coach.Criterion, isNew bool, skills []string, err error) {
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return st, k, false, nil, err
	}
	err = store.ErrNone
	for _, p := range programs {
		for _, s := range p.Stages {
			if s.ID == id {
				st, isNew, err = s, true, nil
				k = coach.Criterion{StageID: s.ID, Order: len(s.Criteria) + 1, Measure: coach.Makes, Want: 8, Of: 10, Must: true, Rule: coach.EvidenceRule{Good: 2, Last: 3, Days: 2, Weeks: 6, People: 1}}
			}
			for _, o := range s.Criteria {
				skills = append(skills, o.Skill)
				if o.ID == id {
					st, k, err = s, o, nil
				}
			}
		}
	}
	slices.Sort(skills)
	return st, k, isNew, slices.Compact(skills), err
}

func criterionForm(c *shell.Ctx) error {
	v := criterionView{Form: shell.NewForm(c), ID: c.Param("id"), Measures: coach.Measures}
	err := c.In(func(tx *store.Tx) error {
		s, k, isNew, skills, err := findCriterion(c, tx, v.ID)
		if err != nil {
			return err
		}
		v.New, v.Stage, v.Skills = isNew, s.Name, skills
		f := url.Values{"wording": {k.Wording}, "skill": {k.Skill}, "measure": {string(k.Measure)}, "want": {coach.Figure(k.Want)}, "of": {coach.Figure(k.Of)}, "tolerance": {coach.Figure(k.Tolerance)},
			"points": {strings.Join(k.Points, "\n")}, "keys": {strings.Join(k.Keys, "\n")}, "must": {"choose"}, "judged": {"form"}, "good": {strconv.Itoa(k.Rule.Good)}, "last": {strconv.Itoa(k.Rule.Last)},
			"days": {strconv.Itoa(max(1, k.Rule.Days))}, "weeks": {strconv.Itoa(k.Rule.Weeks)}, "people": {strconv.Itoa(max(1, k.Rule.People))}}
		if k.Must {
			f.Set("must", "must")
		}
		if k.ByResult {
			f.Set("judged", "result")
		}
		if k.BothSides {
			f.Set("sides", "1")
		}
		v.Form.Values = f
		return nil
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "criterion-form.html", "Criterion", v)
}

func saveCriterion(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := criterionView{Form: f, ID: c.Param("id"), Measures: coach.Measures}
	refused := false
	err := c.Change("", "Changed a criterion", func(tx *store.Tx) error {
		s, k, isNew, skills, err := findCriterion(c, tx, v.ID)
		if err != nil {
			return err
		}
		v.New, v.Stage, v.Skills = isNew, s.Name, skills
		readCriterion(f, &k)
		if refused = !f.OK(); refused {
			return store.ErrChangedSince
		}
		if isNew {
			k.ID = store.NewID()
		}
		return tx.PutCriterion(c.Ctx(), k)
	})
	if refused {
		return c.Page(pages, http.StatusUnprocessableEntity, "criterion-form.html", "Criterion", v)
	}
	if err != nil {
		return err
	}
	return c.To("/stairs/ladder")
}

// readCriterion takes the form into k and names what cannot be.
func readCriterion(f *shell.Form, k *coach.Criterion) {
	k.Wording, k.Skill = f.Text("wording", 120, "What does the player show?"), strings.ToLower(f.Text("skill", 40, "Which skill? It ties the criterion to drills."))
	k.Measure = coach.Measure(f.Get("measure"))
	if !k.Measure.Known() {
		f.Wrong("measure", "Choose how it is measured.")
	}
	k.Points, k.Keys = f.Lines("points", 10), f.Lines("keys", 10)
	k.Want, k.Of, k.Tolerance = 0, 0, 0
	switch k.Measure {
	case coach.Check:
		if len(k.Points) == 0 {
			f.Wrong("points", "Name the points that must be seen, one a line.")
		}
	case coach.Grade:
		k.Want = f.Float("want", 1, 10, "The grade that is good enough")
		if len(k.Points) < 2 || k.Want > float64(len(k.Points)) {
			f.Wrong("points", "Describe each grade on a line of its own, the lowest first, up to the one asked for at least.")
		}
	case coach.Makes:
		k.Want, k.Of = f.Float("want", 1, 1000, "Good ones"), f.Float("of", 1, 1000, "Tries")
		if k.Want > k.Of {
			f.Wrong("want", "%s good ones out of %s tries cannot be.", coach.Figure(k.Want), coach.Figure(k.Of))
		}
	case coach.Count:
		k.Want, k.Of = f.Float("want", 1, 10000, "How many"), f.Float("of", 1, 3600, "In how many seconds")
	case coach.Angle:
		k.Want, k.Tolerance = f.Float("want", 0, 360, "Degrees"), f.Float("tolerance", 0, 180, "Degrees either way")
	default:
		k.Want = f.Float("want", 0, 100000, "The figure that is good enough")
	}
	k.Must, k.ByResult, k.BothSides = f.Get("must") != "choose", f.Get("judged") == "result", f.Get("sides") != ""
	k.Rule = coach.EvidenceRule{Good: f.Int("good", 1, 20, "Good marks"), Last: f.Int("last", 0, 50, "Out of the last"), Days: f.Int("days", 1, 20, "Days"), Weeks: f.Int("weeks", 0, 104, "Weeks"), People: f.Int("people", 1, 5, "People")}
	if k.Rule.Last > 0 && k.Rule.Last < k.Rule.Good {
		f.Wrong("last", "%d good marks out of the last %d cannot be.", k.Rule.Good, k.Rule.Last)
	}
	if k.Rule.Days > k.Rule.Good || k.Rule.People > k.Rule.Good {
		f.Wrong("good", "%d days and %d people need at least as many good marks.", k.Rule.Days, k.Rule.People)
	}
}

func retireCriterion(c *shell.Ctx) error {
	err := c.Change("", "Took a criterion out", func(tx *store.Tx) error {
		if !store.IsID(c.Param("id")) {
			return store.ErrNone
		}
		return tx.RetireCriterion(c.Ctx(), c.Param("id"))
	})
	if err != nil {
		return err
	}
	return c.To("/stairs/ladder")
}
