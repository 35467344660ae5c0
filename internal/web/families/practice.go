package families

import (
	"net/http"
	"slices"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/home"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

// practiceRow is a task in the list.
type practiceRow struct {
	store.HomeTask
	Days string
	home.Came
	Over bool
}

// For says whom it is for.
func (r practiceRow) Whom() string {
	if r.Class != "" {
		return r.ClassName + ", " + say.Count(len(r.For), "player")
	}
	var names []string
	for _, p := range r.For {
		names = append(names, p.Name)
	}
	return say.Few(names)
}

type practiceListView struct {
	Rows []practiceRow
	Most int // minutes a day of those under 16
}

func listPractice(c *shell.Ctx) error {
	var v practiceListView
	err := c.In(func(tx *store.Tx) error {
		tasks, err := tx.HomeTasks(c.Ctx(), store.HomeFilter{Today: c.Today()})
		if err != nil {
			return err
		}
		var ids []string
		for _, t := range tasks {
			ids = append(ids, t.ID)
		}
		most, err := app.HomeMost(c.Ctx(), tx)
		if err != nil {
			return err
		}
		v.Most = int(most.Minutes())
		all, err := tx.HomeAnswers(c.Ctx(), ids, "")
		for _, t := range tasks {
			v.Rows = append(v.Rows, practiceRowOf(c, t, all))
		}
		return err
	})
	if err != nil {
		return err
	}
	slices.SortStableFunc(v.Rows, func(a, b practiceRow) int {
		switch {
		case a.Over == b.Over:
			return 0
		case a.Over:
			return 1
		}
		return -1
	})
	return c.Page(seasonPages, http.StatusOK, "practice.html", "Practice at home", v)
}

func practiceRowOf(c *shell.Ctx, t store.HomeTask, all []store.HomeAnswer) practiceRow {
	today := c.Today()
	r := practiceRow{HomeTask: t, Days: t.InWords(first(c)), Over: !t.Until.Holds(today) || !t.Ends.Holds(today)}
	for _, p := range t.For {
		came := t.Came(store.Of(all, t.ID, p.Player), t.From, today)
		r.Done, r.Of = r.Done+came.Done, r.Of+came.Of
	}
	return r
}

// first is the day that the week begins with where the club is.
func first(c *shell.Ctx) time.Weekday { return day.Week(c.Club.TimeZone)[0] }

// weeks are so many weeks of days up to and with the one that a day is in, as weeks go where the club is.
func weeks(c *shell.Ctx, until day.Day, n int) (out [][]day.Day) {
	from := until.Add(-day.InWeek(c.Club.TimeZone, until.Weekday()) - 7*(n-1))
	for w := range n {
		var days []day.Day
		for d := range 7 {
			days = append(days, from.Add(7*w+d))
		}
		out = append(out, days)
	}
	return out
}

// shownWeeks are how many weeks back a task's page shows.
const shownWeeks = 3

type practiceView struct {
	store.HomeTask
	Days    string
	Weeks   [][]day.Day
	Players []practisingView
	Parts   []PartView
	About   *coach.Criterion // that figures are about
	Over    bool
	Today   day.Day
	Dose    home.Dose // as it begins
	Most    int
}

// PartView is a part with what its drill says.
type PartView struct {
	home.Part
	Drill   *coach.Drill
	Picture *svg.DrawingView
}

// Cautions are those of the drill and of the part.
func (p PartView) Cautions() []string {
	if p.Drill == nil {
		return p.Care
	}
	return append(slices.Clone(p.Care), p.Drill.Cautions...)
}

// How says how the part's drill is set up, in the coach's own words; empty for words of the task alone.
func (p PartView) How() string {
	if p.Drill == nil {
		return ""
	}
	return p.Drill.How()
}

// Keys are what to look for in it.
func (p PartView) Keys() []string {
	if p.Drill == nil {
		return nil
	}
	return p.Drill.Keys
}

// Forms are the easier and harder ways to do it, easiest first, each in a line.
func (p PartView) Forms() (out []string) {
	if p.Drill == nil {
		return nil
	}
	for i, v := range p.Drill.Variants {
		word := "Harder"
		if i < p.Drill.Easier {
			word = "Easier"
		}
		out = append(out, word+": "+v.Name+", "+v.Says())
	}
	return out
}

// Against is what somebody must not do that the part's drill asks for.
func (p PartView) Against(spares []string) (out []string) {
	if p.Drill != nil {
		out = p.Drill.AsksFor(spares)
	}
	return out
}

// practisingView is somebody with a task: what they do by now, and what came back.
type practisingView struct {
	store.HomePlayer
	Cells [][]practiceDay // by week
	Came  home.Came
	Open  int
	ToGo  int
	Mixed bool
	Dose  home.Dose
	Words []dayWords
	Best  string // figure, with its level

	Called    string   // among those who have it
	Spares    []string // what they must not do
	LeavesOut []string // the parts that ask for it
}

// practiceDay is a player's cell of a day: how it looks, what it says to those who do not see it, and both in words.
type practiceDay struct {
	Look, Says, Title string
}

func practised(on day.Day, asked, ahead bool, a home.Answer) practiceDay {
	var c practiceDay
	switch {
	case a.Done:
		c.Look, c.Says = " is-done", "done"
		if a.Felt != "" {
			c.Says = "done, " + a.Felt
		}
		if a.Felt == home.Easy || a.Felt == home.Hard {
			c.Look = " is-done is-" + a.Felt
		}
	case asked && ahead:
		c.Look, c.Says = " is-asked is-ahead", "asked"
	case asked:
		c.Look, c.Says = " is-asked", "not done"
	}
	c.Title = on.Format("Mon 2 Jan")
	if c.Says != "" {
		c.Title += ": " + c.Says
	}
	return c
}

type dayWords struct {
	On   day.Day
	Says string
}

func onePractice(c *shell.Ctx) error {
	var v practiceView
	err := c.In(func(tx *store.Tx) (err error) {
		v, err = readPractice(c, tx)
		return err
	})
	if err != nil {
		return err
	}
	return c.Page(seasonPages, http.StatusOK, "practice-one.html", v.Name, v)
}

func readPractice(c *shell.Ctx, tx *store.Tx) (v practiceView, err error) {
	v.Today = c.Today()
	if v.HomeTask, err = tx.HomeTask(c.Ctx(), c.Param("id"), v.Today); err != nil {
		return v, err
	}
	all, err := tx.HomeAnswers(c.Ctx(), []string{v.ID}, "")
	if err != nil {
		return v, err
	}
	most, err := app.HomeMost(c.Ctx(), tx)
	if err != nil {
		return v, err
	}
	v.Most, v.Days = int(most.Minutes()), v.InWords(first(c))
	v.Over = !v.Until.Holds(v.Today) || !v.Ends.Holds(v.Today)
	v.Dose = v.Task.Dose(len(v.Task.Parts), 0, 0)
	last := v.Today
	for _, end := range []day.Day{v.Until, v.Ends} {
		if !end.IsZero() && end.Before(last) {
			last = end
		}
	}
	if v.From.After(last) {
		last = v.From
	}
	v.Weeks = weeks(c, last, shownWeeks)
	v.Weeks = slices.DeleteFunc(v.Weeks, func(w []day.Day) bool { return w[6].Before(v.From) })
	if v.Parts, err = Parts(c, tx, v.Task.Parts, 420, 260); err != nil {
		return v, err
	}
	var names []string
	for _, p := range v.For {
		v.Players = append(v.Players, v.player(p, store.Of(all, v.ID, p.Player), most))
		names = append(names, p.Name)
	}
	for i, called := range say.Called(names) {
		v.Players[i].Called = called
	}
	v.About, err = criterion(c, tx, v.Criterion)
	return v, err
}

// Columns are those of the table: who, how much of it, and the days.
func (v practiceView) Columns() int { return 2 + 7*len(v.Weeks) }

func (v practiceView) player(p store.HomePlayer, answers []home.Answer, most time.Duration) practisingView {
	x := practisingView{
		HomePlayer: p,
		Came:       v.Came(answers, v.From, v.Today),
		Open:       v.Open(answers, p.Opened),
		ToGo:       v.ToNext(answers, p.Opened),
		Dose:       app.DoseOf(v.HomeTask, p, answers, v.Today, most),
		Spares:     home.Spares(p.Limits),
	}
	for _, part := range v.Parts {
		if len(part.Against(x.Spares)) > 0 {
			x.LeavesOut = append(x.LeavesOut, part.What)
		}
	}
	x.Mixed = v.Mixed(answers, x.Open)
	for _, w := range v.Weeks {
		var cells []practiceDay
		for _, d := range w {
			var said home.Answer
			for _, a := range answers {
				if a.On == d {
					said = a
				}
			}
			cells = append(cells, practised(d, v.On(d), !d.Before(v.Today), said)) // today is not over
		}
		x.Cells = append(x.Cells, cells)
	}
	for _, a := range slices.Backward(answers) {
		if a.Words != "" && len(x.Words) < 3 {
			x.Words = append(x.Words, dayWords{a.On, a.Words})
		}
	}
	if best, ok := v.Best(answers); ok {
		x.Best = coach.Figure(best) + " " + v.Unit
		if n := v.Level(best); n > 0 {
			x.Best += ", level " + coach.Figure(float64(n))
		}
	}
	return x
}

// Parts are a task's parts with what the drills of the shelf say, drawn for a space of width by height.
func Parts(c *shell.Ctx, tx *store.Tx, parts []home.Part, width, height float64) (out []PartView, err error) {
	ids := []string{}
	for _, p := range parts {
		if p.Drill != "" {
			ids = append(ids, p.Drill)
		}
	}
	drills, err := tx.DrillsOf(c.Ctx(), ids)
	if err != nil {
		return nil, err
	}
	for _, p := range parts {
		v := PartView{Part: p}
		for i := range drills {
			if drills[i].ID == p.Drill {
				v.Drill = &drills[i]
			}
		}
		if v.Drill != nil && v.Drill.Diagram != nil {
			pic := svg.Drawing(*v.Drill.Diagram, c.Club.Units, width, height, -1, false)
			v.Picture = &pic
		}
		out = append(out, v)
	}
	return out, nil
}

func criterion(c *shell.Ctx, tx *store.Tx, id string) (*coach.Criterion, error) {
	if id == "" {
		return nil, nil
	}
	programs, err := tx.Ladders(c.Ctx())
	for _, p := range programs {
		if k, ok := p.Criterion(id); ok {
			return &k, err
		}
	}
	return nil, err
}

// endPractice ends a task today, or lets it go on.
func endPractice(c *shell.Ctx) error {
	after, says := c.Today(), "Ended the practice"
	if shell.NewForm(c).Get("back") != "" {
		after, says = day.Day{}, "It goes on"
	}
	err := c.Change("", says, func(tx *store.Tx) error { return tx.EndHomeTask(c.Ctx(), c.Param("id"), after) })
	if err != nil {
		return err
	}
	return c.To("/season/home/" + c.Param("id"))
}

// openPart opens the next part for somebody.
func openPart(c *shell.Ctx) error {
	f := shell.NewForm(c)
	parts := f.Int("parts", 1, home.MostParts, "Parts")
	if !f.OK() || !store.IsID(f.Get("player")) {
		return store.ErrNone
	}
	err := c.Change("", "Opened the next part", func(tx *store.Tx) error {
		t, err := tx.HomeTask(c.Ctx(), c.Param("id"), c.Today())
		if err != nil {
			return err
		}
		if _, has := t.Whom(f.Get("player")); !has || parts > len(t.Parts) {
			return store.ErrNone
		}
		return tx.OpenHomePart(c.Ctx(), t.ID, f.Get("player"), parts)
	})
	if err != nil {
		return err
	}
	return c.To("/season/home/" + c.Param("id"))
}

// practiceSheet is a task on paper, with boxes to tick: a sheet for each player.
func practiceSheet(c *shell.Ctx) error {
	var v practiceView
	err := c.In(func(tx *store.Tx) (err error) {
		v, err = readPractice(c, tx)
		return err
	})
	if err != nil {
		return err
	}
	if only := c.Query("player"); only != "" {
		v.Players = slices.DeleteFunc(v.Players, func(p practisingView) bool { return p.Player != only })
	}
	last := v.sheetUntil()
	ahead := weeks(c, last, 1)[0][0].Sub(weeks(c, v.Today, 1)[0][0]) / 7
	v.Weeks = weeks(c, last, ahead+1)
	return c.Bare(seasonPages, http.StatusOK, "practice-sheet.html", v.Name, v)
}

// sheetUntil is the last day that stands on paper: three weeks ahead, or the task's last.
func (v practiceView) sheetUntil() day.Day {
	until := v.Today.Add(21)
	if !v.Until.IsZero() && v.Until.Before(until) {
		until = v.Until
	}
	if until.Before(v.Today) {
		return v.Today
	}
	return until
}
