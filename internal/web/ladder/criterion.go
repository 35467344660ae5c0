package ladder

import (
	"cmp"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/say"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// criterionView is a criterion as it is written, with what the change would do.
type criterionView struct {
	Form     *shell.Form
	ID       string
	New      bool
	Program  store.Program
	Stage    coach.Stage
	No       int // of the stage's criteria
	Was      coach.Criterion
	Measures []coach.Measure
	Skills   []string
	Drills   []store.Card // that show it
	Others   []store.Card // that could be said to
	Strict   *strictView
	Effect   effect
	Out      effect // of taking it out
	Editions []edition
	Markers  []evidence.Markers
	Wrong    string // what stands in the way of a drawing

	typed coach.Criterion // as it would be
}

type edition struct {
	No    int
	Says  string
	Since string
	Marks int
}

// find fills in where the criterion stands; an id of a stage means a new criterion of it. K is the criterion as it is
// kept.
func (v *criterionView) find(c *shell.Ctx, tx *store.Tx) (k coach.Criterion, err error) {
	v.ID, v.Measures = c.Param("id"), coach.Measures
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return k, err
	}
	err = store.ErrNone
	for _, p := range programs {
		for _, s := range p.Stages {
			if s.ID == v.ID {
				v.Program, v.Stage, v.New, v.No, err = p, s, true, len(s.Criteria)+1, nil
				k = coach.Criterion{
					StageID:  s.ID,
					Order:    len(s.Criteria) + 1,
					Measure:  coach.Makes,
					Want:     8,
					Of:       10,
					Must:     true,
					ByResult: true,
					Edition:  1,
					Rule:     coach.EvidenceRule{Good: 2, Last: 3, Days: 2, Weeks: 6, People: 1},
				}
			}
			for i, o := range s.Criteria {
				v.Skills = append(v.Skills, o.Skill)
				if o.ID == v.ID {
					v.Program, v.Stage, v.No, k, err = p, s, i+1, o, nil
				}
			}
		}
	}
	slices.Sort(v.Skills)
	v.Skills, v.Was = slices.Compact(v.Skills), k
	return k, err
}

func typedCriterion(k coach.Criterion) url.Values {
	number := func(x float64) string {
		if x == 0 {
			return ""
		}
		return coach.Figure(x)
	}
	f := url.Values{
		"wording":   {k.Wording},
		"skill":     {k.Skill},
		"measure":   {string(k.Measure)},
		"want":      {coach.Figure(k.Want)},
		"of":        {number(k.Of)},
		"tolerance": {number(k.Tolerance)},
		"points": {
			strings.Join(k.Points, "\n"),
		},
		"keys":   {strings.Join(k.Keys, "\n")},
		"must":   {"choose"},
		"judged": {"form"},
		"good":   {strconv.Itoa(k.Rule.Good)},
		"last":   {strconv.Itoa(k.Rule.Last)},
		"days": {
			strconv.Itoa(max(1, k.Rule.Days)),
		},
		"weeks":  {strconv.Itoa(k.Rule.Weeks)},
		"people": {strconv.Itoa(max(1, k.Rule.People))},
	}
	if k.Measure == coach.Distance {
		f.Set("want", k.Units.Length(k.Want))
	}
	if k.Must {
		f.Set("must", "must")
	}
	if k.ByResult {
		f.Set("judged", "result")
	}
	if k.BothSides {
		f.Set("sides", "1")
	}
	if k.Home {
		f.Set("home", "1")
	}
	return f
}

func criterionForm(c *shell.Ctx) error {
	v := criterionView{Form: shell.NewForm(c)}
	err := v.read(c, true, func(k coach.Criterion) coach.Criterion {
		v.Form.Values = typedCriterion(k)
		if !v.New {
			v.Form.Shows(v.written())
		}
		return k
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "criterion-form.html", "Criterion", v)
}

// written is the criterion as it is, wherever in its stage it stands.
func (v *criterionView) written() coach.Criterion {
	k := v.Was
	k.Order = 0
	return k
}

// tryCriterion answers, while a criterion is written, how strict it would be and whose readiness would alter.
func tryCriterion(c *shell.Ctx) error {
	v := criterionView{Form: shell.NewForm(c)}
	err := v.read(c, false, func(k coach.Criterion) coach.Criterion {
		readCriterion(v.Form, &k)
		delete(v.Form.Errors, "wording")
		delete(v.Form.Errors, "skill")
		return k
	})
	if err != nil {
		return err
	}
	return c.Part(pages, "strict", v)
}

// saveCriterion keeps it; when it alters who is ready, that has to have been shown first.
func saveCriterion(c *shell.Ctx) error {
	v := criterionView{Form: shell.NewForm(c)}
	err := v.read(c, true, func(k coach.Criterion) coach.Criterion {
		if !v.New {
			v.Form.Since(v.Was.Wording, v.written())
		}
		readCriterion(v.Form, &k)
		return k
	})
	if err != nil {
		return err
	}
	if v.Form.OK() && v.Effect.Key() != "" && v.Form.Get("seen") != v.Effect.Key() {
		v.Form.Wrong("seen", "This alters who is ready. Look at the list, then save once more.")
	}
	if !v.Form.OK() {
		return c.Page(pages, http.StatusUnprocessableEntity, "criterion-form.html", "Criterion", v)
	}
	err = c.Change("", "Changed a criterion", func(tx *store.Tx) error {
		now := criterionView{}
		if _, err := now.find(c, tx); err != nil {
			return err
		}
		if now.Was.Edition != v.Was.Edition || now.No != v.No {
			return store.ErrChangedSince
		}
		k := v.typed
		if v.New {
			k.ID = store.NewID()
		}
		return tx.PutCriterion(c.Ctx(), k, c.Now)
	})
	if err != nil {
		return err
	}
	return c.To("/stairs/ladder#" + v.Stage.ID)
}

// readCriterion takes the form into k and names what cannot be.
func readCriterion(f *shell.Form, k *coach.Criterion) {
	k.Wording, k.Skill, k.Measure = f.Get("wording"), strings.ToLower(f.Get("skill")), coach.Measure(f.Get("measure"))
	k.Points, k.Keys = f.Lines("points", 10), f.Lines("keys", 10)
	number := func(name string) float64 {
		x, err := strconv.ParseFloat(strings.Replace(f.Get(name), ",", ".", 1), 64)
		if err != nil {
			return math.NaN()
		}
		return x
	}
	was := k.Want
	k.Want, k.Of, k.Tolerance = 0, 0, 0
	switch k.Measure {
	case coach.Check:
	case coach.Distance:
		k.Want = f.Length("want", 0, 100000, was, "The distance that is good enough")
	default:
		k.Want = number("want")
	}
	if k.Measure == coach.Makes || k.Measure == coach.Count {
		k.Of = number("of")
	}
	if k.Measure == coach.Angle {
		k.Tolerance = number("tolerance")
	}
	if k.Measure != coach.Check && k.Measure != coach.Grade {
		k.Points = nil
	}
	k.Must, k.ByResult, k.BothSides = f.Get("must") != "choose", f.Get("judged") == "result", f.Get("sides") != ""
	k.Home = f.Get("home") != ""
	k.Rule = coach.EvidenceRule{
		Good:   whole(f, "good"),
		Last:   whole(f, "last"),
		Days:   whole(f, "days"),
		Weeks:  whole(f, "weeks"),
		People: whole(f, "people"),
	}
	for _, b := range k.Check() {
		f.Wrong(b.Field, "%s", b.Says)
	}
}

// read takes the criterion as it is kept and what bears on it, and works out what it would do as typed makes it; whole
// fills in what stands beside the form as well. Nothing is computed while the database waits.
func (v *criterionView) read(c *shell.Ctx, whole bool, typed func(coach.Criterion) coach.Criterion) error {
	var marks []coach.Mark
	var players []store.Player
	var visits map[string]int
	err := c.In(func(tx *store.Tx) error {
		k, err := v.find(c, tx)
		if err != nil {
			return err
		}
		v.typed = typed(k)
		if marks, err = tx.Marks(c.Ctx(), store.MarkFilter{Ladder: v.Program.ID}); err != nil {
			return err
		}
		if v.Form.OK() && v.typed.Wording != "" {
			if players, err = tx.Players(c.Ctx(), store.PlayerFilter{Stage: v.Stage.ID}); err != nil {
				return err
			}
			if visits, err = tx.Visits(c.Ctx(), v.Program.ID, nil); err != nil {
				return err
			}
		}
		if !whole {
			return nil
		}
		return v.beside(c, tx)
	})
	if err != nil {
		return err
	}
	v.picture(whole)
	if v.Form.OK() && v.typed.Wording != "" {
		v.effects(c, whole, app.Standings(v.Program, players, marks, visits, c.Now), marks)
	}
	if whole && !v.New {
		v.Markers = evidence.Compare(v.Was, marks)
	}
	return nil
}

// picture draws how strict the criterion is, or says why it cannot.
func (v *criterionView) picture(whole bool) {
	for field, says := range v.Form.Errors {
		if field != "wording" && field != "skill" && field != "seen" && field != "shown" { // whatever it is called
			v.Wrong = says
		}
	}
	switch {
	case v.Wrong == "":
		v.Strict = draw(v.typed)
	case whole: // it stands at the field
		v.Wrong = "Drawn as soon as what is typed can be."
	}
}

// effects says for whom the criterion as it is typed, or taking it out, would change anything.
func (v *criterionView) effects(c *shell.Ctx, whole bool, before []app.Standing, marks []coach.Mark) {
	next := v.Stage
	next.Criteria = slices.Clone(next.Criteria)
	if v.New {
		next.Criteria = append(next.Criteria, v.typed)
	} else {
		next.Criteria[v.No-1] = v.typed
	}
	v.Effect = change(before, next, v.No-1, marks, c)
	if whole && !v.New {
		next.Criteria = slices.Delete(slices.Clone(v.Stage.Criteria), v.No-1, v.No)
		v.Out = change(before, next, -1, marks, c)
	}
}

// beside reads what stands beside the form: the editions, and the drills that show it and those that could.
func (v *criterionView) beside(c *shell.Ctx, tx *store.Tx) error {
	if !v.New {
		es, err := tx.CriterionEditions(c.Ctx(), v.ID)
		if err != nil {
			return err
		}
		for _, e := range es {
			v.Editions = append(
				v.Editions,
				edition{
					e.Criterion.Edition,
					e.Criterion.Wording + ": " + e.Criterion.Standard() + "; " + e.Criterion.Rule.String(),
					e.SavedAt.In(c.Loc).Format("2 Jan 2006"),
					e.Marks,
				},
			)
		}
	}
	cards, err := tx.Cards(c.Ctx())
	if err != nil {
		return err
	}
	shows, err := tx.Showing(c.Ctx())
	for _, d := range cards {
		switch said, ok := shows[v.typed.ID][d.ID]; {
		case ok && said, !ok && d.HasSkill(v.typed.Skill):
			v.Drills = append(v.Drills, *d)
		default:
			v.Others = append(v.Others, *d)
		}
	}
	return err
}

// sayShows keeps whether a drill shows a criterion, as a coach says.
func sayShows(c *shell.Ctx) error {
	f := shell.NewForm(c)
	drill, shows := f.Get("drill"), f.Get("shows") == "yes"
	if !store.IsID(drill) {
		return store.ErrNone
	}
	err := c.Change(drill, "Said what a drill shows", func(tx *store.Tx) error {
		v := criterionView{}
		if _, err := v.find(c, tx); err != nil {
			return err
		}
		if _, err := tx.Drill(c.Ctx(), drill); err != nil || v.New {
			return cmp.Or(err, store.ErrNone)
		}
		return tx.SetShows(c.Ctx(), v.ID, drill, &shows)
	})
	if err != nil {
		return err
	}
	if f.Get("back") == "drill" {
		return c.To("/shelf/drill/" + drill + "#counts")
	}
	return c.To("/stairs/criterion/" + c.Param("id") + "#shows")
}

// effect is whose readiness a change alters.
type effect struct {
	Back, On, Lose, Gain []store.Player // drop back, become ready; lose or gain this criterion only
	Players              int
}

// Key stands for those whose readiness alters; empty when nobody's does.
func (e effect) Key() string {
	var ids []string
	for _, p := range append(slices.Clone(e.Back), e.On...) {
		ids = append(ids, p.ID)
	}
	return strings.Join(ids, " ")
}

// change works out everybody's readiness by the stage as it would be. At is the criterion that is changed, of whom it
// is said who would show it or not any more; −1: none.
func change(before []app.Standing, next coach.Stage, at int, marks []coach.Mark, c *shell.Ctx) effect {
	byPlayer := app.MarksOf(marks)
	shown := func(r evidence.Readiness) bool {
		return at >= 0 && at < len(r.Items) && r.Items[at].Status.State == evidence.Shown
	}
	var e effect
	for _, s := range before {
		if s.Stage.ID != next.ID {
			continue
		}
		e.Players++
		after := evidence.Ready(next, byPlayer[s.Player.ID], s.Visits, s.Since, c.Now)
		switch had, has := shown(s.Readiness), shown(after); {
		case s.Readiness.Ready && !after.Ready:
			e.Back = append(e.Back, s.Player)
		case !s.Readiness.Ready && after.Ready:
			e.On = append(e.On, s.Player)
		case had && !has:
			e.Lose = append(e.Lose, s.Player)
		case !had && has:
			e.Gain = append(e.Gain, s.Player)
		}
	}
	return e
}

// strictView is the operating characteristic drawn.
type strictView struct {
	evidence.Strictness
	W, H    float64
	Curves  []curve
	WeakX   float64 // up to here somebody should not pass
	StrongX float64 // from here on somebody should
	XTicks  []tick
	YTicks  []tick
	Axis    string
	Says    []string
	InTerm  string
	Fill    string // the mended fields, for the button that puts them in
	Visits  []visit
}

type curve struct{ D, Class, Label string }

type tick struct {
	At    float64
	Label string
}

// visit is how likely the strong and the weak one have shown it after so many visits.
type visit struct {
	N            int
	Strong, Weak int // in 100
}

const (
	strictLow                                     = 0.4
	strictLeft, strictTop, strictWide, strictHigh = 46.0, 10.0, 560.0, 240.0
)

func draw(k coach.Criterion) *strictView {
	v := &strictView{Strictness: evidence.Judge(k), W: strictLeft + strictWide + 24, H: strictTop + strictHigh + 42}
	v.WeakX, v.StrongX = strictX(math.Max(strictLow, v.Weak)), strictX(math.Max(strictLow, v.Strong))
	for _, p := range []float64{0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1} {
		v.XTicks = append(v.XTicks, tick{strictX(p), fmt.Sprintf("%.0f", 100*p)})
	}
	for _, f := range []float64{0, 0.25, 0.5, 0.75, 1} {
		v.YTicks = append(v.YTicks, tick{strictY(f), fmt.Sprintf("%.0f", 100*f)})
	}
	v.Curves = passing(k)
	v.say(k)
	if v.Mend != nil {
		f := typedCriterion(v.Mend.Criterion)
		for _, name := range []string{"want", "good", "last", "days"} {
			v.Fill += name + "=" + f.Get(name) + ";"
		}
	}
	ahead := min(12, v.After+4)
	s, w := evidence.Passing(k, v.Strong, ahead), evidence.Passing(k, v.Weak, ahead)
	for n := max(1, v.After-1); n <= ahead; n++ {
		v.Visits = append(v.Visits, visit{n, int(math.Round(100 * s[n])), int(math.Round(100 * w[n]))})
	}
	var term []string
	for _, t := range evidence.InATerm {
		term = append(term, fmt.Sprintf("%s %d", t.Rule, t.Early))
	}
	v.InTerm = strings.Join(term, ", ")
	return v
}

// strictX is where a chance stands across the picture, strictY where a share stands up it.
func strictX(p float64) float64 {
	return math.Round((strictLeft+strictWide*(p-strictLow)/(1-strictLow))*10) / 10
}
func strictY(f float64) float64 { return math.Round((strictTop+strictHigh*(1-f))*10) / 10 }

// passing are the curves: two other usual rules, and this one over them.
func passing(k coach.Criterion) (out []curve) {
	line := func(o coach.Criterion) (d string) {
		n := evidence.FullTurn(o.Rule)
		to := "M"
		for i := range 61 {
			p := strictLow + (1-strictLow)*float64(i)/60
			d += fmt.Sprintf("%s%g %g", to, strictX(p), strictY(evidence.Passing(o, p, n)[n]))
			to = "L"
		}
		return d
	}
	for _, o := range []struct {
		good, last   int
		class, label string
	}{{1, 0, "is-once", "once"}, {2, 0, "is-two", "on two days"}, {2, 3, "is-three", "two of the last three"}} {
		if !(k.Rule.Good == o.good && k.Rule.Last == o.last) && len(out) < 2 {
			other := k
			other.Rule = coach.EvidenceRule{Good: o.good, Last: o.last, Days: o.good}
			out = append(out, curve{line(other), o.class, o.label})
		}
	}
	this := k.Rule
	this.Weeks = 0
	return append(out, curve{line(k), "is-this", "this one: " + this.String()})
}

// say puts what the picture shows into two sentences, and names its axis.
func (v *strictView) say(k coach.Criterion) {
	what := "does it"
	v.Axis = "what the player can really do: looks in 100 that meet the standard"
	switch k.Measure {
	case coach.Makes:
		what, v.Axis = "makes", "what the player can really do: good tries in 100"
	case coach.Streak:
		what, v.Axis = "makes", fmt.Sprintf(
			"what the player can really do: good tries in 100 (a mark is taken to rest on %d tries)",
			evidence.StreakTries(k),
		)
	}
	need := "and would need more visits than a season has"
	if !math.IsInf(v.Strictness.Visits, 1) {
		need = fmt.Sprintf("and needs about %s on average", say.Count(int(math.Round(v.Strictness.Visits)), "visit"))
	}
	v.Says = []string{
		fmt.Sprintf(
			"Someone who %s %.0f in 100 has shown it after %s %s, %s.",
			what,
			100*v.Strong,
			say.Count(v.After, "visit"),
			evidence.InHundred(v.StrongPass),
			need,
		),
		fmt.Sprintf("Someone at %.0f in 100 slips through %s.", 100*v.Weak, evidence.InHundred(v.WeakPass)),
	}
}

// Headline says in two words what to think of it.
func (v strictView) Headline() string {
	switch {
	case v.Fair:
		return "Fair to both."
	case v.WeakPass > 0.10 && v.StrongPass < 0.60:
		return "Tells them badly apart."
	case v.WeakPass > 0.10:
		return "Easy to slip through."
	}
	return "Hard on the strong."
}

// moveCriterion puts a criterion one place up or down in its stage.
func moveCriterion(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := criterionView{Form: f}
	err := c.Change("", "Moved a criterion", func(tx *store.Tx) error {
		if _, err := v.find(c, tx); err != nil {
			return err
		}
		to := v.No - 2
		if f.Get("to") == "down" {
			to = v.No
		}
		if v.New || to < 0 || to >= len(v.Stage.Criteria) {
			return nil
		}
		list := slices.Clone(v.Stage.Criteria)
		list[v.No-1], list[to] = list[to], list[v.No-1]
		return tx.OrderCriteria(c.Ctx(), ids(list))
	})
	if err != nil {
		return err
	}
	return c.To("/stairs/ladder#" + v.Stage.ID)
}

func ids(ks []coach.Criterion) (out []string) {
	for _, k := range ks {
		out = append(out, k.ID)
	}
	return out
}
