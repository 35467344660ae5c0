// Package shelf is the place for the club's drills.
package shelf

import (
	"embed"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/target"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Drill shelf", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/shelf", Needs: shell.SeeShelf, Handle: list},
	{Method: "GET", Path: "/shelf/new", Needs: shell.ChangeShelf, Handle: form},
	{Method: "POST", Path: "/shelf/new", Needs: shell.ChangeShelf, Handle: save},
	{Method: "GET", Path: "/shelf/drill/:id", Needs: shell.SeeShelf, Handle: drill},
	{Method: "GET", Path: "/shelf/drill/:id/edit", Needs: shell.ChangeShelf, Handle: form},
	{Method: "POST", Path: "/shelf/drill/:id/edit", Needs: shell.ChangeShelf, Handle: save},
}

type listView struct {
	Words  string
	Skill  string
	Skills []string
	Drills []coach.Drill
	All    int
}

func list(c *shell.Ctx) error {
	v := listView{Words: strings.TrimSpace(c.Query("q")), Skill: c.Query("skill")}
	var all []coach.Drill
	err := c.In(func(tx *store.Tx) (err error) {
		all, err = tx.Drills(c.Ctx())
		return err
	})
	if err != nil {
		return err
	}
	v.All = len(all)
	for _, d := range all {
		v.Skills = append(v.Skills, d.Skills...)
		text := strings.ToLower(d.Name + " " + d.Purpose + " " + strings.Join(d.Skills, " ") + " " + strings.Join(d.Keys, " "))
		if (v.Skill == "" || slices.Contains(d.Skills, v.Skill)) && strings.Contains(text, strings.ToLower(v.Words)) {
			v.Drills = append(v.Drills, d)
		}
	}
	slices.Sort(v.Skills)
	v.Skills = slices.Compact(v.Skills)
	if c.GetHeader("HX-Request") != "" {
		return c.Part(pages, "drills", v)
	}
	return c.Page(pages, http.StatusOK, "shelf.html", "Drill shelf", v)
}

type sizeRow struct {
	N     int
	Share load.Share
}

type targetRow struct {
	N     int
	Tries float64
	Width float64 // of the bar, 0 to 100
	Asked bool
}

type drillView struct {
	Drill   coach.Drill
	Minutes int
	Sizes   []sizeRow
	Targets []targetRow
	Fit     string
}

func drill(c *shell.Ctx) error {
	if !store.IsID(c.Param("id")) {
		return store.ErrNone
	}
	v := drillView{Minutes: 6}
	err := c.In(func(tx *store.Tx) (err error) {
		v.Drill, err = tx.Drill(c.Ctx(), c.Param("id"))
		return err
	})
	if err != nil {
		return err
	}
	v.work()
	return c.Page(pages, http.StatusOK, "drill.html", v.Drill.Name, v)
}

// work fills in the figures: who works and who waits by group size, and what the target asks.
func (v *drillView) work() {
	d := v.Drill
	st := load.Station{Places: d.Places, Roles: len(d.Roles), Pace: d.Pace}
	for n := max(2, d.Least); n <= d.Most+2 && len(v.Sizes) < 7; n++ {
		v.Sizes = append(v.Sizes, sizeRow{n, st.At(n, time.Duration(v.Minutes)*time.Minute)})
	}
	if _, has := target.For(d.Target, d.Chance); !has || d.Chance <= 0 {
		return
	}
	step := max(1, d.Target.N/5)
	largest := 0.0
	for n := step; n <= d.Target.N+step && len(v.Targets) < 8; n += step {
		t := d.Target
		t.N = n
		chain, _ := target.For(t, d.Chance)
		tries, err := chain.Tries()
		if err != nil {
			return
		}
		largest = max(largest, tries)
		v.Targets = append(v.Targets, targetRow{N: n, Tries: tries, Asked: n == d.Target.N})
	}
	for i := range v.Targets {
		v.Targets[i].Width = 100 * v.Targets[i].Tries / largest
	}
	own := st.At(max(1, (d.Least+d.Most)/2), time.Duration(v.Minutes)*time.Minute).Active
	seconds := func(s float64) time.Duration { return time.Duration(s * float64(time.Second)) }
	if a, ok := target.Fit(d.Target, []float64{d.Chance}, own, seconds(d.TrySeconds), seconds(d.Fetch)); ok {
		v.Fit = strconv.Itoa(a.N)
	}
}

type formView struct {
	Form *shell.Form
	ID   string
	Name string
}

func form(c *shell.Ctx) error {
	v := formView{Form: shell.NewForm(c), ID: c.Param("id")}
	f := url.Values{}
	v.Form.Values = f
	d := coach.Drill{Places: 2, Least: 3, Most: 6, Pace: 6, Length: 8, Width: 6, Clearance: 1, Chance: 0.7, TrySeconds: 6, Fetch: 4, Leader: coach.SelfRun}
	if v.ID != "" {
		if !store.IsID(v.ID) {
			return store.ErrNone
		}
		err := c.In(func(tx *store.Tx) (err error) {
			d, err = tx.Drill(c.Ctx(), v.ID)
			return err
		})
		if err != nil {
			return err
		}
		v.Name = d.Name
	}
	for k, s := range map[string]string{"name": d.Name, "purpose": d.Purpose, "setup": d.Setup, "skills": strings.Join(d.Skills, ", "), "leader": string(d.Leader), "target": string(d.Target.Kind),
		"keys": strings.Join(d.Keys, "\n"), "cautions": strings.Join(d.Cautions, "\n"), "kit": strings.Join(d.Kit, ", "), "asks": strings.Join(d.Asks, ", "), "roles": strings.Join(d.Roles, ", "),
		"warms": strings.Join(d.Warms, ", "), "not-before": strings.Join(d.NotBefore, ", "), "after": strings.Join(d.After, ", "), "practice": d.Practice} {
		f.Set(k, s)
	}
	for k, x := range map[string]float64{"places": float64(d.Places), "least": float64(d.Least), "most": float64(d.Most), "pace": d.Pace, "length": d.Length, "width": d.Width, "clearance": d.Clearance,
		"chance": d.Chance * 10, "try": d.TrySeconds, "fetch": d.Fetch, "n": float64(d.Target.N), "fire": d.Fire} {
		f.Set(k, coach.Figure(x))
	}
	for k, n := range map[string]int{"work": d.Work, "rest": d.Rest, "series": d.Series, "against": d.Target.Against} {
		if n > 0 {
			f.Set(k, strconv.Itoa(n))
		}
	}
	if d.Hard {
		f.Set("hard", "1")
	}
	return c.Page(pages, http.StatusOK, "drill-form.html", "Drill", v)
}

func save(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := formView{Form: f, ID: c.Param("id"), Name: f.Get("name")}
	var d coach.Drill
	if v.ID != "" { // what this form does not show stays as it is
		if !store.IsID(v.ID) {
			return store.ErrNone
		}
		err := c.In(func(tx *store.Tx) (err error) {
			d, err = tx.Drill(c.Ctx(), v.ID)
			return err
		})
		if err != nil {
			return err
		}
	}
	d.Name, d.Purpose, d.Setup = f.Text("name", 80, "What do you call it?"), f.Text("purpose", 300, ""), f.Text("setup", 1000, "")
	d.Skills, d.Kit, d.Asks, d.Roles = f.Commas("skills"), f.Commas("kit"), f.Commas("asks"), f.Commas("roles")
	if len(d.Skills) == 0 {
		f.Wrong("skills", "At least one skill: it ties the drill to the criteria that can be marked there.")
	}
	for i := range d.Skills {
		d.Skills[i] = strings.ToLower(d.Skills[i])
	}
	d.Places, d.Least, d.Most = f.Int("places", 1, 60, "Places"), f.Int("least", 1, 60, "Players at least"), f.Int("most", 1, 60, "Players at most")
	if d.Most < d.Least {
		f.Wrong("most", "At most %d is fewer than at least %d.", d.Most, d.Least)
	}
	d.Pace = f.Float("pace", 0.1, 200, "Repetitions a minute")
	d.Length, d.Width, d.Clearance = f.Float("length", 1, 120, "Length"), f.Float("width", 1, 120, "Width"), f.Float("clearance", 0, 20, "Clear round it")
	d.Chance, d.TrySeconds, d.Fetch = f.Float("chance", 0.5, 10, "Good ones in 10")/10, f.Float("try", 0.5, 600, "Seconds a try"), f.Float("fetch", 0, 120, "Seconds a miss costs")
	d.Fire, d.Warms, d.NotBefore, d.After = f.Float("fire", 0, 60, "How far balls fly on"), f.Commas("warms"), f.Commas("not-before"), f.Commas("after")
	optional := func(name string, high int, what string) int {
		if f.Get(name) == "" {
			return 0
		}
		return f.Int(name, 0, high, what)
	}
	d.Work, d.Rest, d.Series = optional("work", 600, "Seconds of work"), optional("rest", 1800, "Seconds of rest"), optional("series", 20, "Turns each")
	if d.Practice = f.Get("practice"); d.Practice != "blocked" && d.Practice != "varied" && d.Practice != "random" {
		d.Practice = "blocked"
	}
	d.Keys, d.Cautions = f.Lines("keys", 8), f.Lines("cautions", 8)
	d.Hard = f.Get("hard") != ""
	d.Leader = coach.Leader(f.Get("leader"))
	if d.Leader.String() == "" {
		f.Wrong("leader", "Choose who has to stand there.")
	}
	d.Target.Kind = coach.TargetKind(f.Get("target"))
	if d.Target.Kind != coach.NoTarget {
		d.Target.N = f.Int("n", 1, 500, "How many")
		if d.Target.Kind == coach.InATime {
			d.Target.Seconds = max(30, d.Target.Seconds)
		}
		d.Target.Against = 0
		if d.Target.Kind == coach.Race {
			d.Target.Against = optional("against", 500, "What the other side plays to")
		}
		if d.Target.Kind == coach.SetOfStreaks {
			d.Target.Skills = max(3, d.Target.Skills)
		}
	}
	if !f.OK() {
		return c.Page(pages, http.StatusUnprocessableEntity, "drill-form.html", "Drill", v)
	}
	says := "Saved a new edition of " + d.Name
	if d.ID == "" {
		d.ID, says, c.Back = store.NewID(), "Added "+d.Name, "/shelf"
	}
	if err := c.Change("", says, func(tx *store.Tx) error { return tx.PutDrill(c.Ctx(), d) }); err != nil {
		return err
	}
	return c.To("/shelf/drill/" + d.ID)
}
