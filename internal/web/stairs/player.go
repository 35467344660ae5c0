package stairs

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/home"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

type markRow struct {
	coach.Mark
	What, Said, Day string
	Meets           bool
}

// whyView is one player: where they stand and why, and what was decided.
type whyView struct {
	Standing  app.Standing
	Items     []app.Shown
	Marks     []markRow
	Decisions []deciding.Recorded
	Next      *coach.Stage
	Weeks     int
	MayDecide bool
	MayLink   bool
	Deciding  deciding.Choice // as typed
	Wrong     string
	Classes   []store.Class // where the next stage can be tried out
	Term      season.Term   // the next
	Others    []store.Standing
	OtherName map[string]string
	Loc       *time.Location
	Then      bool // a day of the past is shown: nothing is decided there

	// on the player's page
	Keys   []store.KeyMark
	Notes  []store.Note
	Came   store.Attendances
	Home   []homeRow
	Links  []store.GuardianLink
	Fresh  string // the address of a link just made; it is not shown again
	Form   *shell.Form
	Charts []chartView
	Now    time.Time

	ahead    *app.Loaded // the session in which what is missing could be shown next
	marks    []coach.Mark
	programs []store.Program
}

// chartView is one skill over time, also of stages that are past.
type chartView struct {
	Title, Stage, Way string
	Slipping          bool
	Phase             evidence.Phase
	Chart             *svg.ChartView
}

// Over reports whether a last day is past.
func (v whyView) Over(d day.Day) bool { return !d.Holds(day.Of(v.Now)) }

func readWhy(c *shell.Ctx, tx *store.Tx, id, program string) (v whyView, err error) {
	if !store.IsID(id) {
		return v, store.ErrNone
	}
	p, err := tx.Player(c.Ctx(), id)
	if err != nil {
		return v, err
	}
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return v, err
	}
	marks, err := tx.Marks(c.Ctx(), store.MarkFilter{Player: p.ID})
	if err != nil {
		return v, err
	}
	decided, err := tx.Decisions(c.Ctx(), store.DecisionFilter{Player: p.ID})
	if err != nil {
		return v, err
	}
	at := app.Standing{Player: p}
	for _, pr := range programs {
		if _, in := p.In(pr.ID); in && at.Program.ID == "" && (program == "" || program == pr.ID) {
			all, err := app.StandingFrom(c.Ctx(), tx, pr, []store.Player{p}, marks, c.Now)
			if err != nil {
				return v, err
			}
			if len(all) == 1 {
				at = all[0]
			}
		}
	}
	for i := range decided {
		if d := &decided[i]; !d.Superseded && d.ProgramID == at.Program.ID {
			at.Decided = d
		}
	}
	if v, err = whyOf(c, tx, at, programs, marks, false); err == nil {
		v.Decisions = decided
	}
	return v, err
}

// whyOf is the page of a player of whom it is known where they stand, or stood then. Marks are the player's, in order
// of time.
func whyOf(
	c *shell.Ctx,
	tx *store.Tx,
	at app.Standing,
	programs []store.Program,
	marks []coach.Mark,
	then bool,
) (v whyView, err error) {
	v = whyView{
		Standing:  at,
		MayDecide: c.May(shell.Decide),
		MayLink:   c.May(shell.LinkGuardians),
		Loc:       c.Loc,
		Now:       c.Now,
		OtherName: map[string]string{},
		Form:      shell.NewForm(c),
		Then:      then,
	}
	for _, pr := range programs {
		v.OtherName[pr.ID] = pr.Name
	}
	for _, s := range at.Player.Standings {
		if s.Program != at.Program.ID {
			v.Others = append(v.Others, s)
		}
	}
	v.Items, v.marks, v.programs = app.ShownOf(at.Readiness, marks, c.Now, c.Loc), marks, programs
	v.Weeks = c.Today().Sub(at.Since) / 7
	next, up := at.Next()
	if up {
		v.Next = &next
	}
	if then { // nothing is decided on a day of the past
		return v, nil
	}
	if up && v.MayDecide {
		if v.Classes, v.Term, err = deciders(c, tx, at.Program.ID, next.ID); err != nil {
			return v, err
		}
	}
	if at.Stage.ID != "" {
		err = v.whenNext(c, tx, programs)
	}
	return v, err
}

// deciders are what a decision can choose from: the classes that take the next stage, and the next term.
func deciders(c *shell.Ctx, tx *store.Tx, program, stage string) (take []store.Class, next season.Term, err error) {
	classes, err := tx.Classes(c.Ctx())
	if err != nil {
		return nil, next, err
	}
	for _, k := range classes {
		if k.ProgramID == program && slices.Contains(k.StageIDs, stage) {
			take = append(take, k)
		}
	}
	terms, err := tx.Terms(c.Ctx())
	_, next = season.TermAt(terms, c.Today())
	return take, next, err
}

// whenNext reads the first coming session of the player's classes: what is missing could be shown there.
func (v *whyView) whenNext(c *shell.Ctx, tx *store.Tx, programs []store.Program) error {
	if v.Standing.Readiness.Ready {
		return nil
	}
	classes, err := tx.ClassesOf(c.Ctx(), v.Standing.Player.ID)
	if err != nil || len(classes) == 0 {
		return err
	}
	ahead, err := tx.Sessions(c.Ctx(), store.SessionFilter{From: c.Now, To: c.Now.AddDate(0, 0, 28)})
	if err != nil {
		return err
	}
	for _, s := range ahead {
		if s.Ended || s.ProgramID != v.Standing.Program.ID || !slices.Contains(classes, s.ClassID) {
			continue
		}
		l, err := app.ReadSession(c.Ctx(), tx, s, programs, c.Now, c.Loc)
		if err != nil {
			return err
		}
		v.ahead = &l // the first session is what a coach can still do something about
		return nil
	}
	return nil
}

// work says of everything missing where it can be shown next, when the transaction is over.
func (v *whyView) work() {
	if v.ahead == nil {
		return
	}
	v.ahead.Work()
	for i := range v.Items {
		if it := &v.Items[i]; it.Status.State != evidence.Shown {
			it.Next = shownIn(*v.ahead, it.Item, v.marks, v.Standing.Player.ID)
		}
	}
}

// shownIn says where in a session a player can show a criterion, and whose mark would count for it by the rule of the
// evidence; one line for each station.
func shownIn(l app.Loaded, it evidence.Item, marks []coach.Mark, player string) (out []string) {
	group := slices.IndexFunc(l.Picture.Groups, func(g work.Group) bool {
		return slices.ContainsFunc(g.Players, func(p coach.Player) bool { return p.ID == player })
	})
	day := l.Picture.Start.Format("Mon 2 Jan")
	if group < 0 {
		return []string{day + ": not expected there"}
	}
	k := it.Criterion
	counts := func(who work.Leader) bool {
		return who.Role != coach.RoleHelper && evidence.Helps(k, marks, it.Status.Side, l.Picture.Start, who.ID)
	}
	for _, s := range l.Picture.Stations {
		if !l.Input.Shows.Shows(k, s.Drill) {
			continue
		}
		for r, g := range s.Visits {
			if g != group && (r >= len(s.Also) || s.Also[r] != group) {
				continue
			}
			out = append(
				out,
				fmt.Sprintf(
					"%s, round %d, %s, %s",
					day,
					r+1,
					s.Drill.Name,
					markedBy(l, l.Picture.LeaderIn(s, r), counts),
				),
			)
		}
	}
	if len(out) == 0 {
		out = []string{day + ": no station shows it yet"}
	}
	return out
}

// markedBy says who can mark it where somebody stands, or who could instead.
func markedBy(l app.Loaded, there *work.Leader, counts func(work.Leader) bool) string {
	if there != nil && counts(*there) {
		return "by " + there.Name
	}
	var others []string
	for _, o := range l.Input.Leaders {
		if counts(o) {
			others = append(others, o.Name)
		}
	}
	switch {
	case there != nil && there.Role == coach.RoleHelper && len(others) > 0:
		return "counted by " + there.Name + "; " + others[0] + " can mark it"
	case there != nil && there.Role == coach.RoleHelper:
		return "counted by " + there.Name
	case there != nil && len(others) > 0:
		return "not by " + there.Name + ", the rule wants another: " + others[0] + " can mark it"
	case there != nil:
		return "where a mark of that day or by who is there would not count"
	case len(others) > 0:
		return "nobody stands there; " + others[0] + " can mark it"
	}
	return "nobody there who may mark it"
}

func why(c *shell.Ctx) error {
	var v whyView
	err := c.In(func(tx *store.Tx) (err error) {
		v, err = readWhy(c, tx, c.Param("id"), c.Query("program"))
		return err
	})
	if err != nil {
		return err
	}
	v.work()
	return c.Part(pages, "why", v)
}

func player(c *shell.Ctx) error { return playerWith(c, http.StatusOK, nil) }

// playerWith shows the page, with what was typed and what is wrong with it where with says so.
func playerWith(c *shell.Ctx, status int, with func(*whyView)) error {
	var v whyView
	err := c.In(func(tx *store.Tx) (err error) {
		if v, err = readWhy(c, tx, c.Param("id"), c.Query("program")); err != nil {
			return err
		}
		return v.fill(c, tx)
	})
	if err != nil {
		return err
	}
	v.work()
	if with != nil {
		with(&v)
	}
	return c.Page(pages, status, "player.html", v.Standing.Player.Name, v)
}

// fill reads what the player's page shows beside where they stand.
func (v *whyView) fill(c *shell.Ctx, tx *store.Tx) error {
	id := v.Standing.Player.ID
	marks, programs := v.marks, v.programs
	said, err := tx.SaidOf(c.Ctx(), []string{id}, c.Now.AddDate(1, 0, 0))
	if err != nil {
		return err
	}
	v.Keys, v.Notes = said.Keys, said.Notes
	if v.Came, err = tx.Attendances(c.Ctx(), id); err != nil {
		return err
	}
	slices.Reverse(v.Came)
	if v.Home, err = homeRows(c, tx, id); err != nil {
		return err
	}
	if v.MayLink {
		if v.Links, err = tx.GuardianLinks(c.Ctx(), id); err != nil {
			return err
		}
	}
	live, err := inPlay(c, tx, marks)
	if err != nil {
		return err
	}
	v.charts(c, programs, marks, live)
	v.listMarks(c, programs, marks)
	return nil
}

// charts draws each criterion that has marks, those of the stage now first.
func (v *whyView) charts(c *shell.Ctx, programs []store.Program, marks []coach.Mark, live func(coach.Mark) bool) {
	var before []chartView
	for _, pr := range programs {
		for _, s := range pr.Stages {
			for _, k := range s.Criteria {
				ch := svg.Chart(k, marks, c.Loc, 250, 70)
				if ch == nil {
					continue
				}
				ts := evidence.Trends(k, marks, c.Now)
				one := chartView{
					Title:    k.Wording,
					Stage:    s.Name,
					Chart:    ch,
					Way:      ways(k, ts),
					Slipping: evidence.AnySlips(ts),
					Phase:    evidence.PhaseOf(k, marks, c.Now, live),
				}
				if s.Name == v.Standing.Stage.Name {
					v.Charts = append(v.Charts, one)
				} else {
					before = append(before, one)
				}
			}
		}
	}
	v.Charts = append(v.Charts, before...)
}

// listMarks lists every mark, the newest first.
func (v *whyView) listMarks(c *shell.Ctx, programs []store.Program, marks []coach.Mark) {
	criteria := map[string]coach.Criterion{}
	for _, pr := range programs {
		for _, s := range pr.Stages {
			for _, k := range s.Criteria {
				criteria[k.ID] = k
			}
		}
	}
	for _, m := range slices.Backward(marks) {
		k, known := criteria[m.CriterionID]
		r := markRow{Mark: m, Day: m.At.In(c.Loc).Format("Mon 2 Jan"), What: k.Wording, Said: m.Said(k)}
		if known {
			r.Meets = evidence.Meets(k, m)
		} else {
			r.What, r.Said = "a drill’s target", m.Said(coach.Criterion{Measure: coach.Makes})
			if m.Tries == 0 { // a rung, a race: the note says what
				r.Said = coach.Figure(m.Figure)
			}
		}
		v.Marks = append(v.Marks, r)
	}
}

// inPlay tells marks of random or live practice: of a session in which a station with the skill is played that way.
func inPlay(c *shell.Ctx, tx *store.Tx, marks []coach.Mark) (func(coach.Mark) bool, error) {
	skills, err := tx.LiveSkills(c.Ctx(), marks)
	return func(m coach.Mark) bool { return slices.Contains(skills[m.SessionID], m.CriterionID) }, err
}

// ways says how marks go, side by side where two are asked.
func ways(k coach.Criterion, ts []evidence.Trend) string {
	var out []string
	for _, t := range ts {
		if t.Marks == 0 {
			continue
		}
		says := way(k, t)
		if t.Side != coach.AnySide {
			says = string(t.Side) + ": " + says
		}
		out = append(out, says)
	}
	return strings.Join(out, "; ")
}

// way says how marks go.
func way(k coach.Criterion, t evidence.Trend) string {
	figure := func(x float64) string {
		if k.Measure == coach.Makes {
			return fmt.Sprintf("%.0f in 100", 100*x)
		}
		return coach.Figure(x)
	}
	says := fmt.Sprintf("last %s, best %s", figure(t.Last), figure(t.Best))
	if t.Marks >= 4 {
		per := t.PerWeek
		unit := ""
		if k.Measure == coach.Makes {
			per *= 100
			unit = " in 100"
		}
		if math.Abs(per) < 0.05 {
			says += ", level"
		} else {
			says += fmt.Sprintf(", about %s%s a week", strings.Replace(fmt.Sprintf("%+.1f", per), "-", "−", 1), unit)
		}
	}
	return says
}

// homeRow is practice at home with how much of it was done.
type homeRow struct {
	store.HomeTask
	home.Came
	Over bool
	Best string
}

func homeRows(c *shell.Ctx, tx *store.Tx, player string) (out []homeRow, err error) {
	tasks, err := tx.HomeTasks(c.Ctx(), store.HomeFilter{Player: player, On: c.Today().Add(-28), Today: c.Today()})
	if err != nil {
		return nil, err
	}
	ids := []string{}
	for _, t := range tasks {
		ids = append(ids, t.ID)
	}
	all, err := tx.HomeAnswers(c.Ctx(), ids, player)
	for _, t := range tasks {
		answers := store.Of(all, t.ID, player)
		r := homeRow{HomeTask: t, Came: t.Came(answers, t.From, c.Today())}
		r.Over = !t.Until.Holds(c.Today()) || !t.Ends.Holds(c.Today())
		if best, ok := t.Best(answers); ok {
			r.Best = strings.TrimSpace(coach.Figure(best) + " " + t.Unit)
		}
		out = append(out, r)
	}
	return out, err
}

// CameSays sums the attendance up.
func (v whyView) CameSays() string {
	return fmt.Sprintf(
		"came to %s with a word in the register, since %s",
		say.OfLast(v.Came.Visits(), len(v.Came), "session"),
		v.Came[0].StartsAt.In(v.Loc).Format("2 Jan"),
	)
}

// Lacks are the keys of which it was last said that the player lacks them, Has the others.
func (v whyView) Lacks() []string { return v.keys(false) }
func (v whyView) Has() []string   { return v.keys(true) }

func (v whyView) keys(has bool) (out []string) {
	for _, k := range v.Keys {
		if k.Has == has {
			out = append(out, k.Key)
		}
	}
	return out
}

// addLink makes a link for a guardian. Its address is shown once: only the hash of its secret is kept.
func addLink(c *shell.Ctx) error {
	f := shell.NewForm(c)
	weeks := f.Int("weeks", 1, 52, "Weeks")
	label := f.Text("label", 60, "For whom is it? It tells links apart when one is withdrawn.")
	if !f.OK() {
		return playerWith(c, http.StatusUnprocessableEntity, func(v *whyView) { v.Form = f })
	}
	secret := shell.RandomKey(24)
	err := c.In(func(tx *store.Tx) error {
		if _, err := tx.Player(c.Ctx(), c.Param("id")); err != nil {
			return err
		}
		return tx.AddGuardianLink(
			c.Ctx(),
			store.GuardianLink{
				ID:       store.NewID(),
				PlayerID: c.Param("id"),
				Label:    label,
				Own:      f.Get("own") != "",
				MadeAt:   c.Now,
				Until:    c.Today().Add(7 * weeks),
			},
			shell.HashOf(secret),
			c.Member.ID,
		)
	})
	if err != nil {
		return err
	}
	return playerWith(c, http.StatusOK, func(v *whyView) { v.Fresh = c.Whole("/for/" + secret) })
}

func withdrawLink(c *shell.Ctx) error {
	var player string
	err := c.In(func(tx *store.Tx) (err error) {
		player, err = tx.WithdrawGuardianLink(c.Ctx(), c.Param("id"), c.Now)
		return err
	})
	if err != nil {
		return err
	}
	c.Say("Withdrawn: whoever has the link sees nothing any more.")
	return c.To("/players/" + player + "#guardians")
}

// decide records a decision about one player, with the evidence as it is now.
func decide(c *shell.Ctx) error {
	f := shell.NewForm(c)
	ch := deciding.Choice{
		Kind:   deciding.Kind(f.Get("kind")),
		Why:    f.Get("why"),
		From:   f.Get("from"),
		Visits: f.Get("visits"),
		Class:  f.Get("class"),
	}
	var v whyView
	var rules deciding.Rules
	err := c.In(func(tx *store.Tx) (err error) {
		if v, err = readWhy(c, tx, c.Param("id"), f.Get("program")); err != nil {
			return err
		}
		if v.Standing.Stage.ID == "" || v.Standing.Stage.ID != f.Get("stage") {
			return store.ErrChangedSince
		}
		rules, err = app.ReadRules(c.Ctx(), tx, v.Standing.Program.ID, c.Today())
		return err
	})
	if err != nil {
		return err
	}
	d, wrong := app.Decide(rules, v.Standing, v.Items, ch, c.Now, c.Today())
	if wrong != "" {
		return playerWith(c, http.StatusUnprocessableEntity, func(v *whyView) { v.Deciding, v.Wrong = ch, wrong })
	}
	err = c.In(func(tx *store.Tx) error { return tx.AddDecision(c.Ctx(), d, c.Member.ID) })
	if err != nil {
		return err
	}
	c.Say(d.Answer(c.Today()))
	return c.To("/players/" + c.Param("id") + "?program=" + f.Get("program"))
}
