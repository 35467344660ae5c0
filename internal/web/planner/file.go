package planner

import (
	"bytes"
	"errors"
	"io"
	"maps"
	"net/http"
	"slices"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/whatif"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/day"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// planFile answers with the plan as a file.
func planFile(c *shell.Ctx) error {
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	f := exchange.PlanFile{
		Class:   v.Session.ClassName,
		Date:    v.Picture.Start.Format(time.DateOnly),
		Minutes: v.Session.Minutes,
		Plan:    v.Input.Plan,
		Players: map[string]string{},
	}
	for _, t := range v.Input.Plan.Tasks() {
		if d, ok := v.Input.Drills[t.Drill]; ok {
			f.Drills = append(f.Drills, d)
		}
	}
	for _, g := range v.Picture.Groups {
		for _, p := range g.Players {
			f.Players[p.ID] = p.Name
		}
	}
	var b bytes.Buffer
	if err := exchange.WritePlan(&b, f); err != nil {
		return err
	}
	c.Attach(f.Date + "-plan.json")
	c.Data(http.StatusOK, "application/json", b.Bytes())
	return nil
}

type moreView struct {
	planView
	Classes []store.Class
	Form    *shell.Form
	Wrong   string
	Missing []string // drills of the file that the shelf does not have
	Date    string   // proposed for a copy
	Day     string   // when it is now
	Time    string
}

func (v *moreView) load(c *shell.Ctx) (err error) {
	plan, err := viewOf(c)
	if err != nil {
		return err
	}
	v.planView = *plan
	if err := c.In(func(tx *store.Tx) (err error) { v.Classes, err = tx.Classes(c.Ctx()); return err }); err != nil {
		return err
	}
	v.Date = v.Picture.Start.AddDate(0, 0, 7).Format(time.DateOnly)
	v.Day, v.Time = v.Picture.Start.Format(time.DateOnly), v.Picture.Start.Format("15:04")
	return nil
}

// more is where a plan is read from a file, or copied to another class or date.
func more(c *shell.Ctx) error {
	v := moreView{Form: shell.NewForm(c)}
	if err := v.load(c); err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "more.html", "Plans in and out", &v)
}

// readPlan takes a plan from a file: its drills are found on the shelf by id, else by name; its players, leaders and
// places are fitted.
func readPlan(c *shell.Ctx) error {
	v := moreView{}
	again := func(says string) error {
		v.Form = shell.NewForm(c)
		if err := v.load(c); err != nil {
			return err
		}
		v.Wrong = says
		return c.Page(pages, http.StatusUnprocessableEntity, "more.html", "Plans in and out", &v)
	}
	upload, err := c.FormFile("file")
	if c.TooLarge {
		return again("This file is over 1 MB; a plan is a few kilobytes.")
	}
	if err != nil {
		return again("Choose a plan file first.")
	}
	r, err := upload.Open()
	if err != nil {
		return err
	}
	defer r.Close()
	b, err := io.ReadAll(r)
	if err != nil {
		return again("The file could not be read to its end.")
	}
	f, err := exchange.ReadPlan(b)
	if err != nil {
		return again(err.Error())
	}
	c.Back = "/sessions/" + c.Param("id")
	l, err := loaded(c, nil)
	if err != nil {
		return err
	}
	p, missing := onShelf(f, l.Input)
	if v.Missing = missing; len(missing) > 0 && c.PostForm("leave") == "" {
		return again("")
	}
	if err := keepPlan(c, &l, "Plan: read from a file", fitted(&l, p)); err != nil {
		return err
	}
	return c.To(c.Back)
}

// onShelf puts the shelf's drills in place of the file's; what is missing is left out and named.
func onShelf(f exchange.PlanFile, in work.Input) (p doc.Plan, missing []string) {
	p = f.Plan
	names := map[string]string{}
	for _, d := range f.Drills {
		names[d.ID] = d.Name
	}
	find := func(t doc.Task) (doc.Task, bool) {
		if d, ok := in.Drills[t.Drill]; ok && d.Edition == t.Edition {
			return t, true
		}
		for _, d := range in.Shelf {
			if d.ID == t.Drill || names[t.Drill] != "" && strings.EqualFold(d.Name, names[t.Drill]) {
				return doc.Task{Drill: d.ID, Edition: d.Edition}, true
			}
		}
		if name := or(names[t.Drill], "a drill without a name"); !slices.Contains(missing, name) {
			missing = append(missing, name)
		}
		return t, false
	}
	for _, c := range p.Circuits() {
		var stations []doc.Station
		for _, s := range c.Stations {
			if t, ok := find(doc.Task{Drill: s.Drill, Edition: s.Edition}); ok {
				s.Drill, s.Edition = t.Drill, t.Edition
				stations = append(stations, s)
			}
		}
		c.Stations = stations
	}
	for i := range p.Blocks {
		b := &p.Blocks[i]
		if b.Drill != "" {
			t, ok := find(doc.Task{Drill: b.Drill, Edition: b.Edition})
			if !ok {
				t = doc.Task{}
			}
			b.Drill, b.Edition = t.Drill, t.Edition
		}
		var steps []doc.Task
		for _, s := range b.Steps {
			if t, ok := find(s); ok {
				steps = append(steps, t)
			}
		}
		b.Steps = steps
	}
	return p, missing
}

// fitted is a plan from elsewhere as it fits a session.
func fitted(l *app.Loaded, p doc.Plan) doc.Plan {
	for _, t := range p.Tasks() {
		for _, d := range l.Input.Shelf {
			if _, known := l.Input.Drills[t.Drill]; !known && d.ID == t.Drill {
				l.Input.Drills[d.ID] = d
			}
		}
	}
	p, err := whatif.Fit(p, l.Input)
	if err != nil {
		for i := range p.Deals {
			p.Deals[i].Players = nil // the plan page says why nobody is dealt
		}
	}
	return p
}

// copyPlan puts the plan into a session of a class on a date, which is made if there is none.
func copyPlan(c *shell.Ctx) error {
	v := moreView{Form: shell.NewForm(c)}
	f := v.Form
	date, err := time.ParseInLocation(time.DateOnly, f.Get("date"), c.Loc)
	if err != nil || date.Year() < 2000 || date.Year() > 2100 {
		f.Wrong("date", "Which day? Choose a date.")
	}
	again := func() error {
		if err := v.load(c); err != nil {
			return err
		}
		return c.Page(pages, http.StatusUnprocessableEntity, "more.html", "Plans in and out", &v)
	}
	if !f.OK() {
		return again()
	}
	var from, to app.Loaded
	made := false // the session was not there before
	c.Back = "/sessions/" + c.Param("id")
	err = c.Rehearse(func(tx *store.Tx) (err error) {
		if from, err = app.Read(c.Ctx(), tx, c.Param("id"), c.Now, c.Loc); err != nil {
			return err
		}
		var s store.Session
		if s, made, err = sessionOn(c, tx, f.Get("class"), date); err != nil {
			return err
		}
		to, err = app.Read(c.Ctx(), tx, s.ID, c.Now, c.Loc)
		return err
	})
	if err != nil {
		return err
	}
	if to.Session.ID == from.Session.ID {
		f.Wrong("date", "That is this very session.")
		return again()
	}
	maps.Copy(to.Input.Drills, from.Input.Drills) // in the editions they were planned with
	p := fitted(&to, from.Input.Plan)
	err = c.Change("", "Copied the plan", func(tx *store.Tx) error {
		if made {
			if err := tx.AddSession(c.Ctx(), to.Session); err != nil {
				return err
			}
		}
		_, err := tx.SetPlan(c.Ctx(), to.Session.ID, to.Session.Version, p, c.Member.ID, c.Now)
		return err
	})
	if errors.Is(err, store.ErrTaken) {
		return store.ErrChangedSince
	}
	if err != nil {
		return err
	}
	return c.To("/sessions/" + to.Session.ID)
}

// sessionOn is the session of a class on a date; one is made if there is none.
func sessionOn(c *shell.Ctx, tx *store.Tx, class string, date time.Time) (s store.Session, made bool, err error) {
	classes, err := tx.Classes(c.Ctx())
	if err != nil {
		return s, false, err
	}
	i := slices.IndexFunc(classes, func(k store.Class) bool { return k.ID == class })
	if i < 0 {
		return s, false, store.ErrNone
	}
	cl := classes[i]
	at, _, err := day.On(date, cl.Starts, c.Loc)
	if err != nil {
		return s, false, err
	}
	there, err := tx.Sessions(c.Ctx(), store.SessionFilter{Class: cl.ID, From: at, To: at.Add(time.Minute)})
	if err != nil {
		return s, false, err
	}
	if len(there) > 0 {
		return there[0], false, nil
	}
	s = store.Session{
		ID:       store.NewID(),
		ClassID:  cl.ID,
		StartsAt: at,
		Minutes:  cl.Minutes,
		Zone:     cl.Zone,
		Plan:     doc.Start(time.Duration(cl.Minutes)*time.Minute, cl.Family),
	}
	s.Venue.ID = cl.VenueID
	return s, true, tx.AddSession(c.Ctx(), s)
}
