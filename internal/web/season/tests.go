package season

import (
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// testView is a test: what the last time showed against the time before.
type testView struct {
	store.Test
	At      int // the measure that is shown
	Days    []day.Day
	Day     day.Day
	Changes []changeRow
	Noise   season.Noise
	Today   day.Day
	Next    day.Day
}

// Shown is the measure that is shown.
func (v testView) Shown() season.Measure { return v.Measures[v.At] }

// NoiseSays is what is known of the noise, in the measure's unit.
func (v testView) NoiseSays() string { return v.Noise.Says(v.Shown().Unit) }

// changeRow is a player's change, with where its dots stand: a part of the width, the best at the right.
type changeRow struct {
	season.Change
	Name         string
	LastX, ThisX float64 // percent
	Spark        string  // the curve, in a space of 100 by 24
}

// Said is the change with its sign.
func (r changeRow) Said() string {
	switch {
	case !r.Had:
		return ""
	case math.Abs(r.By) < 0.05:
		return "0"
	case r.By < 0:
		return "−" + coach.Figure(math.Round(-r.By*10)/10)
	}
	return "+" + coach.Figure(math.Round(r.By*10)/10)
}

// Figure is what was shown this time.
func (r changeRow) Figure() string { return coach.Figure(math.Round(r.This*10) / 10) }

// Moved are the changes that count, and Same how many were as before.
func (v testView) Moved() testView {
	v.Changes = slices.DeleteFunc(slices.Clone(v.Changes), func(r changeRow) bool { return !r.Likely })
	return v
}

// Same is how many were as before.
func (v testView) Same() int { return len(v.Changes) - len(v.Moved().Changes) }

func showTest(c *shell.Ctx) error {
	var v testView
	err := c.In(func(tx *store.Tx) (err error) {
		v, err = readTest(c, tx, c.Param("id"))
		return err
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "test.html", v.Name, v)
}

func readTest(c *shell.Ctx, tx *store.Tx, id string) (v testView, err error) {
	if v.Test, err = tx.OneTest(c.Ctx(), id); err != nil {
		return v, err
	}
	figures, err := tx.TestFigures(c.Ctx(), id)
	if err != nil {
		return v, err
	}
	ids := []string{}
	for _, f := range figures {
		if len(v.Days) == 0 || v.Days[len(v.Days)-1] != f.On {
			v.Days = append(v.Days, f.On)
		}
		ids = append(ids, f.Player)
	}
	players, err := tx.Players(c.Ctx(), store.PlayerFilter{IDs: ids})
	if err != nil {
		return v, err
	}
	v.Today, v.Next = c.Today(), v.next(c.Today())
	if n, err := strconv.Atoi(c.Query("measure")); err == nil && n > 0 && n < len(v.Measures) {
		v.At = n
	}
	if len(v.Days) > 0 {
		v.Day = v.Days[len(v.Days)-1]
	}
	if d, err := day.Parse(c.Query("day")); err == nil && slices.Contains(v.Days, d) {
		v.Day = d
	}
	v.compare(store.Taken(figures, v.At), players)
	return v, nil
}

// next is the next day on which the test comes, from a day on.
func (v testView) next(from day.Day) day.Day {
	d := v.From
	for d.Before(from) {
		d = d.Add(7 * max(1, v.Every))
	}
	return d
}

func (v *testView) compare(all []season.Taken, players []store.Player) {
	names, ids := map[string]string{}, []string{}
	for _, p := range players {
		names[p.ID] = p.Name
		ids = append(ids, p.ID)
	}
	v.Noise = season.NoiseOf(all)
	low, high := math.Inf(1), math.Inf(-1)
	for _, t := range all {
		low, high = math.Min(low, t.Mean()), math.Max(high, t.Mean())
	}
	part := func(x float64) float64 {
		if high == low {
			return 50
		}
		if v.Shown().Less {
			return 100 * (high - x) / (high - low)
		}
		return 100 * (x - low) / (high - low)
	}
	for _, ch := range season.Changes(v.Shown(), all, v.Day, ids) {
		r := changeRow{Change: ch, Name: names[ch.Player], LastX: part(ch.Last), ThisX: part(ch.This)}
		for i, t := range ch.Curve {
			x := 100.0
			if len(ch.Curve) > 1 {
				x = 4 + 92*float64(i)/float64(len(ch.Curve)-1)
			}
			r.Spark += fmt.Sprintf("%.1f,%.1f ", x, 22-0.2*part(t.Mean()))
		}
		v.Changes = append(v.Changes, r)
	}
}

type testForm struct {
	Form    *shell.Form
	ID      string
	Classes []store.Class
	Rows    []int
	Retired bool
}

// Typed is a field of a measure.
func (v testForm) Typed(field string, row int) string { return v.Form.Get(fmt.Sprint(field, "-", row)) }

func testFormPage(c *shell.Ctx) error {
	v := testForm{Form: shell.NewForm(c), ID: c.Param("id")}
	f := map[string][]string{"tries": {"2"}, "every": {"1"}, "from": {c.Today().String()}, "class": {c.Query("class")}}
	v.Form.Values = f
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Classes, err = tx.Classes(c.Ctx()); err != nil || v.ID == "" {
			return err
		}
		t, err := tx.OneTest(c.Ctx(), v.ID)
		if err != nil {
			return err
		}
		v.Retired = t.Retired
		v.Form.Values = map[string][]string{
			"name": {t.Name}, "class": {t.Class}, "tries": {strconv.Itoa(t.Tries)}, "every": {strconv.Itoa(t.Every)},
			"from": {t.From.String()}, "conditions": {t.Conditions},
		}
		for i, m := range t.Measures {
			v.Form.Values.Set(fmt.Sprint("measure-", i), m.Name)
			v.Form.Values.Set(fmt.Sprint("unit-", i), m.Unit)
			if m.Less {
				v.Form.Values.Set(fmt.Sprint("less-", i), "1")
			}
		}
		v.Form.Shows(t)
		return nil
	})
	if err != nil {
		return err
	}
	return v.show(c, http.StatusOK)
}

func (v testForm) show(c *shell.Ctx, status int) error {
	for i := range season.MostMeasures {
		if i == 0 || v.Typed("measure", i-1) != "" || v.Typed("measure", i) != "" {
			v.Rows = append(v.Rows, i)
		}
	}
	return c.Page(pages, status, "test-form.html", "A test", v)
}

func saveTest(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := testForm{Form: f, ID: c.Param("id")}
	t := store.Test{ID: v.ID, Class: f.Get("class"), Name: f.Text("name", 60, "What is the test called?")}
	t.Tries = f.Int("tries", 1, season.MostTries, "Tries")
	t.Every = f.Int("every", 1, 26, "Every how many weeks")
	t.From, t.Conditions = f.Day("from", "When is it first?"), f.Text("conditions", 300, "")
	for i := range season.MostMeasures {
		at := func(field string) string { return fmt.Sprint(field, "-", i) }
		if m := f.Text(at("measure"), 40, ""); m != "" {
			t.Measures = append(t.Measures, season.Measure{Name: m, Unit: f.Text(at("unit"), 20, ""), Less: f.Get(at("less")) != ""})
		}
	}
	if len(t.Measures) == 0 && f.OK() { // one measure has the test's name
		t.Measures = []season.Measure{{Name: t.Name, Unit: f.Text("unit-0", 20, ""), Less: f.Get("less-0") != ""}}
	}
	for _, b := range t.Check() {
		f.Wrong(b.Field, "%s", b.Says)
	}
	says, refused := "Changed "+t.Name, false
	if t.ID == "" {
		t.ID, says = store.NewID(), "Set up "+t.Name
	}
	c.Back = "/season"
	err := c.Change("", says, func(tx *store.Tx) (err error) {
		if v.Classes, err = tx.Classes(c.Ctx()); err != nil {
			return err
		}
		if v.ID != "" {
			was, err := tx.OneTest(c.Ctx(), v.ID)
			if err != nil {
				return err
			}
			f.Since(was.Name, was)
			if t.Class = was.Class; len(t.Measures) < len(was.Measures) {
				f.Wrong("measures", "A measure that figures were taken of stays; a new test can leave it out.")
			}
		} else if !slices.ContainsFunc(v.Classes, func(k store.Class) bool { return k.ID == t.Class }) {
			f.Wrong("class", "Choose the class.")
		}
		if refused = !f.OK(); refused {
			return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "Something typed is not right yet."}
		}
		return tx.PutTest(c.Ctx(), t, c.Member.ID)
	})
	if refused {
		return v.show(c, http.StatusUnprocessableEntity)
	}
	if err != nil {
		return err
	}
	return c.To("/season/tests/" + t.ID)
}

func endTest(c *shell.Ctx) error {
	off := shell.NewForm(c).Get("back") == ""
	says := "The test comes back again"
	if off {
		says = "The test does not come back any more"
	}
	if err := c.Change("", says, func(tx *store.Tx) error { return tx.RetireTest(c.Ctx(), c.Param("id"), off) }); err != nil {
		return err
	}
	return c.To("/season/tests/" + c.Param("id"))
}

// padView is where figures are entered: a row for each player of the class.
type padView struct {
	store.Test
	Day     day.Day
	Players []padRow
	Key     string // by which a phone keeps its own
	Wrong   map[string]string
	Tried   []int
}

type padRow struct {
	store.Player
	Cells [][]padCell // by measure, then try
}

type padCell struct {
	Measure, Try int
	Field, Typed string
	Last         string // of the time before
}

func pad(c *shell.Ctx) error { return padWith(c, nil) }

func padWith(c *shell.Ctx, f *shell.Form) error {
	v := padView{Day: c.Today()}
	if d, err := day.Parse(c.Query("day")); err == nil && !d.IsZero() {
		v.Day = d
	}
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Test, err = tx.OneTest(c.Ctx(), c.Param("id")); err != nil {
			return err
		}
		figures, err := tx.TestFigures(c.Ctx(), v.ID)
		if err != nil {
			return err
		}
		players, err := tx.Players(c.Ctx(), store.PlayerFilter{Class: v.Class})
		for _, p := range players {
			v.Players = append(v.Players, v.row(p, figures, f))
		}
		return err
	})
	if err != nil {
		return err
	}
	v.Key = v.ID + " " + v.Day.String()
	for i := range v.Tries {
		v.Tried = append(v.Tried, i+1)
	}
	status := http.StatusOK
	if f != nil {
		v.Wrong, status = f.Errors, http.StatusUnprocessableEntity
	}
	return c.Page(pages, status, "test-pad.html", v.Name, v)
}

func (v padView) row(p store.Player, figures []store.TestFigure, f *shell.Form) (r padRow) {
	r.Player = p
	for m := range v.Measures {
		var cells []padCell
		for try := range v.Tries {
			k := padCell{Measure: m, Try: try, Field: fmt.Sprint(p.ID, " ", m, " ", try)}
			for _, x := range figures {
				if x.Player != p.ID || x.Measure != m {
					continue
				}
				if x.On == v.Day && x.Try == try {
					k.Typed = coach.Figure(*x.Figure)
				}
				if x.On.Before(v.Day) {
					k.Last = coach.Figure(*x.Figure)
				}
			}
			if f != nil {
				k.Typed = f.Get(k.Field)
			}
			cells = append(cells, k)
		}
		r.Cells = append(r.Cells, cells)
	}
	return r
}

// figureSaid is one try as a page sends it.
type figureSaid struct {
	ID      string   `json:"id"`
	Day     day.Day  `json:"day"`
	Player  string   `json:"player"`
	Measure int      `json:"measure"`
	Try     int      `json:"try"`
	Figure  *float64 `json:"figure"`
	At      int64    `json:"at"`
}

// check says what cannot be.
func (it figureSaid) check(t store.Test, today day.Day) string {
	switch {
	case it.Day.IsZero(), it.Day.After(today), it.Day.Before(t.From.Add(-366)):
		return "On which day was that?"
	case it.Measure < 0 || it.Measure >= len(t.Measures), it.Try < 0 || it.Try >= t.Tries, !store.IsID(it.Player):
		return "The test has no such try."
	case it.Figure != nil && !(math.Abs(*it.Figure) <= season.MostFigure):
		return "A number up to 1000000."
	}
	return ""
}

// mostSaid are said at once.
const mostSaid = 1000

// takeFigures takes what a pad kept, maybe without network.
func takeFigures(c *shell.Ctx) error {
	var in struct{ Items []figureSaid }
	if err := json.NewDecoder(c.Request.Body).Decode(&in); err != nil || len(in.Items) > mostSaid {
		return &shell.Problem{Status: http.StatusBadRequest, Says: "What this page sent could not be read."}
	}
	type answer struct {
		ID   string `json:"id"`
		Kept bool   `json:"kept"`
		Why  string `json:"why,omitempty"`
	}
	answers := make([]answer, 0, len(in.Items))
	err := c.In(func(tx *store.Tx) error {
		whys, err := keepFigures(c, tx, in.Items)
		for i, why := range whys {
			answers = append(answers, answer{in.Items[i].ID, why == "", why})
		}
		return err
	})
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, map[string]any{"answers": answers})
	return nil
}

// keepFigures keeps what can be kept, and says of each why not.
func keepFigures(c *shell.Ctx, tx *store.Tx, said []figureSaid) (whys []string, err error) {
	t, err := tx.OneTest(c.Ctx(), c.Param("id"))
	if err != nil {
		return nil, err
	}
	players, err := tx.Players(c.Ctx(), store.PlayerFilter{})
	if err != nil {
		return nil, err
	}
	for _, it := range said {
		why := it.check(t, c.Today())
		if why == "" && !slices.ContainsFunc(players, func(p store.Player) bool { return p.ID == it.Player }) {
			why = "That player is not there any more."
		}
		if whys = append(whys, why); why != "" {
			continue
		}
		at := c.Now
		if said := time.UnixMilli(it.At); it.At > 0 && said.Before(at) {
			at = said
		}
		err := tx.SetTestFigure(c.Ctx(), store.TestFigure{
			Test: t.ID, Player: it.Player, On: it.Day, Measure: it.Measure, Try: it.Try, Figure: it.Figure, At: at,
		}, c.Member.ID)
		if err != nil {
			return whys, err
		}
	}
	return whys, nil
}

// takePad takes the whole pad from a form, for a browser without scripts: all of it, or nothing.
func takePad(c *shell.Ctx) error {
	f := shell.NewForm(c)
	on := f.Day("day", "On which day?")
	if !f.OK() {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: f.Errors["day"]}
	}
	var said []figureSaid
	for field := range f.Values {
		parts := strings.Fields(field)
		if len(parts) != 3 || !store.IsID(parts[0]) {
			continue
		}
		measure, err := strconv.Atoi(parts[1])
		try, err2 := strconv.Atoi(parts[2])
		if err != nil || err2 != nil {
			continue
		}
		it := figureSaid{Day: on, Player: parts[0], Measure: measure, Try: try}
		if f.Get(field) != "" {
			x := f.Float(field, -season.MostFigure, season.MostFigure, "A figure")
			it.Figure = &x
		}
		said = append(said, it)
	}
	if !f.OK() {
		return padWith(c, f)
	}
	err := c.In(func(tx *store.Tx) error {
		whys, err := keepFigures(c, tx, said)
		for _, why := range whys {
			if why != "" && err == nil {
				err = &shell.Problem{Status: http.StatusUnprocessableEntity, Says: why}
			}
		}
		return err
	})
	if err != nil {
		return err
	}
	return c.To("/season/tests/" + c.Param("id"))
}
