// Package stairs is where everybody stands on their stage: the picture of all, and the page of one.
package stairs

import (
	"cmp"
	"embed"
	"fmt"
	"html"
	"html/template"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Stairs", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/stairs", Needs: shell.SeeMarks, Handle: picture},
	{Method: "GET", Path: "/stairs/why/:id", Needs: shell.SeeMarks, Handle: why},
	{Method: "GET", Path: "/players/:id", Needs: shell.SeeMarks, Handle: player},
	{Method: "POST", Path: "/players/:id/decide", Needs: shell.Decide, Handle: decide},
	{Method: "POST", Path: "/players/:id/link", Needs: shell.LinkGuardians, Handle: addLink},
	{Method: "POST", Path: "/links/:id/withdraw", Needs: shell.LinkGuardians, Handle: withdrawLink},
	{Method: "POST", Path: "/notes/:id/done", Needs: shell.SeeMarks, Handle: noteDone},
	{Method: "POST", Path: "/marks/:id/strike", Needs: shell.StrikeMarks, Handle: strike},
}

type token struct {
	*app.Standing
	X, Y     float64
	Initials string
	Label    string
	Why      []string // what the filters say of this player
	Dashed   bool
	Here     bool
	Faint    bool // not what was asked for
	TryOut   bool
}

type step struct {
	Stage         coach.Stage
	X, Y, W, Edge float64
	Players       int
	Ready         int
}

// only are the filters of the picture, in the order a coach asks them.
var only = []struct{ Key, Words string }{
	{"ready", "ready"},
	{"short", "one mark short"},
	{"stale", "stale"},
	{"slipping", "slipping"},
	{"stuck", "stuck"},
	{"new", "new"},
	{"tryout", "try-out"},
}

type pictureView struct {
	Programs      []store.Program
	Program       store.Program
	Unplaced      shell.Unplaced
	Classes       []store.Class // of the program
	Markers       [][2]string   // id and name
	Class, Marker string
	Only          string
	Weeks         int // after which somebody is called stuck
	Back, Season  int // days back from today, and how far one can go
	On            time.Time
	Filters       []filter
	W, H, R       float64
	Floor         float64
	Steps         []step
	Tokens        []token
	Players       int
	Ready         int
	NotSeen       int
	Chosen        *whyView
	Here          string
	MayDecide     bool
	Waiting       int // decisions that wait for a second signature
	query         url.Values
}

type filter struct {
	Key, Words string
	Count      int
	On         bool
	To         string
}

// EdgeAt is where the shaded edge begins.
func (s step) EdgeAt() float64 { return s.X + s.W - s.Edge }

// Drop is from a height down to the floor.
func (v pictureView) Drop(y float64) float64 { return v.Floor - y }

// To is the page's address with one thing changed; empty takes it out.
func (v pictureView) To(name, value string) string { return "/stairs?" + v.asked(name, value) }

// Part is the picture's address without the day.
func (v pictureView) Part() string { return v.To("back", "") }

func (v pictureView) asked(name, value string) string {
	q := url.Values{}
	for k, vs := range v.query {
		if len(vs) > 0 && vs[0] != "" && k != "player" && k != "list" {
			q.Set(k, vs[0])
		}
	}
	if q.Set(name, value); value == "" {
		q.Del(name)
	}
	return q.Encode()
}

// Small reports whether initials do not fit into the tokens.
func (v pictureView) Small() bool { return v.R < 8.5 }

func picture(c *shell.Ctx) error {
	v := pictureView{
		W:         740,
		H:         560,
		query:     c.Request.URL.Query(),
		MayDecide: c.May(shell.Decide),
		Only:      c.Query("only"),
		Class:     c.Query("class"),
		Marker:    c.Query("by"),
	}
	if v.Weeks, _ = strconv.Atoi(c.Query("weeks")); v.Weeks < 2 || v.Weeks > 26 {
		v.Weeks = 6
	}
	v.Back, _ = strconv.Atoi(c.Query("back"))
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Programs, err = tx.Ladders(c.Ctx()); err != nil || len(v.Programs) == 0 {
			return err
		}
		v.Program = app.Chosen(v.Programs, c.Query("program"))
		if v.Unplaced, err = c.Unplaced(tx, []store.Program{v.Program}); err != nil {
			return err
		}
		return v.load(c, tx)
	})
	if err != nil {
		return err
	}
	switch {
	case c.Partial() && c.Query("list") != "":
		return c.Part(pages, "picture-rows", v)
	case c.Partial():
		return c.Part(pages, "picture", v)
	}
	return c.Page(pages, http.StatusOK, "stairs.html", "Stairs", v)
}

func (v *pictureView) load(c *shell.Ctx, tx *store.Tx) error {
	which, err := v.classOf(c, tx)
	if err != nil {
		return err
	}
	players, err := tx.Players(c.Ctx(), which)
	if err != nil {
		return err
	}
	marks, err := tx.Marks(c.Ctx(), store.MarkFilter{Ladder: v.Program.ID})
	if err != nil {
		return err
	}
	if len(marks) > 0 {
		v.Season = min(400, int(c.Now.Sub(marks[0].At).Hours()/24))
	}
	v.Back = max(0, min(v.Back, v.Season))
	v.On = c.Now.AddDate(0, 0, -v.Back)
	all, err := v.standing(c, tx, players, marks)
	if err != nil {
		return err
	}
	byPlayer := v.marksUntil(marks)
	all = v.markedByOne(all, byPlayer)
	v.choose(c, all)
	v.draw(all, byPlayer)
	if v.Only != "" && c.Query("player") == "" {
		v.chooseFirstAskedFor()
	}
	if i := slices.IndexFunc(all, func(s app.Standing) bool { return s.Player.ID == v.Here }); i >= 0 {
		w, err := whyOf(c, tx, all[i], v.Programs, byPlayer[v.Here], v.Back > 0)
		if err != nil {
			return err
		}
		v.Chosen = &w
	}
	return nil
}

// classOf reads the program's classes, and whom to show: those of the class that was asked for, else everybody.
func (v *pictureView) classOf(c *shell.Ctx, tx *store.Tx) (which store.PlayerFilter, err error) {
	classes, err := tx.Classes(c.Ctx())
	if err != nil {
		return which, err
	}
	for _, k := range classes {
		if k.ProgramID != v.Program.ID {
			continue
		}
		v.Classes = append(v.Classes, k)
		if k.ID == v.Class {
			which.Class = v.Class
		}
	}
	v.Class = which.Class
	return which, nil
}

// standing is where everybody stood on the day that is shown; today with what is decided of them.
func (v *pictureView) standing(c *shell.Ctx, tx *store.Tx, players []store.Player, marks []coach.Mark) (
	[]app.Standing, error,
) {
	if v.Back > 0 {
		return app.StoodOn(c.Ctx(), tx, v.Program, players, marks, v.On)
	}
	decided, err := tx.Decisions(c.Ctx(), store.DecisionFilter{Program: v.Program.ID, Standing: true})
	if err != nil {
		return nil, err
	}
	all, err := app.StandingFrom(c.Ctx(), tx, v.Program, players, marks, c.Now)
	if err != nil {
		return nil, err
	}
	last := app.LastOf(decided)
	for i := range all {
		if all[i].Decided = last[all[i].Player.ID]; all[i].Decided != nil && all[i].Decided.Waits() {
			v.Waiting++
		}
	}
	return all, nil
}

// marksUntil are the marks up to the day that is shown, by player, and lists who took them.
func (v *pictureView) marksUntil(marks []coach.Mark) map[string][]coach.Mark {
	byPlayer := map[string][]coach.Mark{}
	names := map[string]string{}
	for _, m := range marks {
		if !m.At.After(v.On) {
			byPlayer[m.PlayerID] = append(byPlayer[m.PlayerID], m)
			names[m.By] = m.ByName
		}
	}
	for id, n := range names {
		v.Markers = append(v.Markers, [2]string{id, n})
	}
	slices.SortFunc(v.Markers, func(a, b [2]string) int { return cmp.Compare(a[1], b[1]) })
	if names[v.Marker] == "" {
		v.Marker = ""
	}
	return byPlayer
}

// markedByOne leaves those whose stage has a mark by the marker that was asked for; everybody where none was.
func (v *pictureView) markedByOne(all []app.Standing, byPlayer map[string][]coach.Mark) []app.Standing {
	if v.Marker == "" {
		return all
	}
	return slices.DeleteFunc(all, func(s app.Standing) bool {
		return !slices.ContainsFunc(byPlayer[s.Player.ID], func(m coach.Mark) bool {
			return m.By == v.Marker &&
				slices.ContainsFunc(s.Stage.Criteria, func(k coach.Criterion) bool { return k.ID == m.CriterionID })
		})
	})
}

// choose is who the page is about: whom the address names, else the first who is ready, so that the page answers its
// own question.
func (v *pictureView) choose(c *shell.Ctx, all []app.Standing) {
	if v.Here = c.Query("player"); v.Here != "" {
		return
	}
	for _, s := range all {
		if _, up := s.Next(); s.Readiness.Ready && up && s.Free() {
			v.Here = s.Player.ID
			return
		}
	}
}

// chooseFirstAskedFor lets the page be about the first of those that a filter leaves.
func (v *pictureView) chooseFirstAskedFor() {
	v.Here = ""
	for i := range v.Tokens {
		t := &v.Tokens[i]
		if t.Here = !t.Faint && v.Here == ""; t.Here {
			v.Here = t.Player.ID
		}
	}
}

// draw puts every player on their step: across it by how much is shown, at its edge when everything is. Where there are
// many, the tokens shrink until all fit.
func (v *pictureView) draw(all []app.Standing, marks map[string][]coach.Mark) {
	v.Floor = v.H - 6
	on := v.byStage(all)
	for size := 25.0; !v.place(on, size) && size > 7; size-- {
	}
	counts := map[string]int{}
	for i := range v.Tokens {
		v.tell(&v.Tokens[i], marks[v.Tokens[i].Player.ID], counts)
	}
	v.Players, v.Ready = len(v.Tokens), counts["ready"]
	for _, f := range only {
		to := f.Key
		if v.Only == f.Key {
			to = ""
		}
		v.Filters = append(v.Filters, filter{f.Key, f.Words, counts[f.Key], v.Only == f.Key, v.To("only", to)})
	}
}

// byStage are the players of each stage, those furthest from its end first.
func (v *pictureView) byStage(all []app.Standing) [][]*app.Standing {
	on := make([][]*app.Standing, len(v.Program.Stages))
	for i, s := range v.Program.Stages {
		for j := range all {
			if all[j].Stage.ID == s.ID {
				on[i] = append(on[i], &all[j])
			}
		}
		slices.SortStableFunc(on[i], func(a, b *app.Standing) int {
			return cmp.Or(
				cmp.Compare(a.Readiness.Progress, b.Readiness.Progress),
				cmp.Compare(a.Player.Name, b.Player.Name),
			)
		})
	}
	return on
}

// place draws the steps with tokens of a size, and reports whether all fit under the picture's upper edge.
func (v *pictureView) place(on [][]*app.Standing, size float64) (fits bool) {
	const gap, top, lowest = 6.0, 120.0, 60.0
	n := max(1, len(v.Program.Stages))
	w := (v.W - 20 - gap*float64(n-1)) / float64(n)
	rise := math.Min(110, (v.H-top-lowest-6)/float64(max(1, n-1)))
	v.Steps, v.Tokens, v.R = nil, v.Tokens[:0], size*0.46
	fits = true
	for i, s := range v.Program.Stages {
		st := step{
			Stage:   s,
			X:       10 + float64(i)*(w+gap),
			Y:       v.Floor - lowest - float64(i)*rise,
			W:       w,
			Edge:    w * 0.22,
			Players: len(on[i]),
		}
		fits = v.stand(&st, on[i], size) && fits
		v.Steps = append(v.Steps, st)
	}
	return fits
}

// stand puts a step's players into columns of tokens: those who are ready at its edge, a column that is full leans on
// its lowest neighbour.
func (v *pictureView) stand(st *step, players []*app.Standing, size float64) (fits bool) {
	high := map[int]int{} // tokens in a column
	per, edge := max(1, int((st.W-st.Edge-8)/size)), max(1, int((st.Edge-2)/size))
	fits = true
	for _, p := range players {
		col := min(per-1, int(p.Readiness.Progress*float64(per)))
		from, nth := st.X+6, col
		if _, up := p.Next(); p.Readiness.Ready && up {
			st.Ready++
			nth = st.Ready % edge
			col, from = per+nth, st.X+st.W-st.Edge+2
		} else if high[col] > 0 && (float64(high[col])+1)*size > st.Y-14 {
			for c := range per {
				if high[c] < high[col] {
					col = c
				}
			}
			nth = col
		}
		high[col]++
		fits = fits && float64(high[col])*size < st.Y-10
		v.Tokens = append(v.Tokens, token{
			Standing: p,
			X:        from + size/2 + float64(nth)*size,
			Y:        st.Y - 8 - size*(float64(high[col])-0.5),
		})
	}
	return fits
}

// tell gives a token its words and its looks, and counts it under the filters it answers to.
func (v *pictureView) tell(t *token, marks []coach.Mark, counts map[string]int) {
	t.Initials, t.Dashed, t.Here = shell.Initials(t.Player.Name), t.Readiness.Unmarked(v.On), t.Player.ID == v.Here
	t.TryOut = t.Decided != nil && t.Decided.Kind == deciding.Try && !t.Decided.Superseded
	t.Why = says(*t.Standing, marks, v.Weeks, v.On)
	shown := fmt.Sprintf("%d in 100 shown", int(math.Round(100*t.Readiness.Progress)))
	if t.Readiness.Ready {
		shown = "everything shown"
	}
	t.Label = t.Player.Name + ", " + t.Stage.Name + ", " + shown
	if t.Dashed {
		v.NotSeen++
		t.Label += ", not marked for six weeks"
	}
	for _, f := range only {
		if slices.Contains(t.Why, f.Key) {
			counts[f.Key]++
			if f.Key != "ready" && f.Key != "stale" {
				t.Label += ", " + f.Words
			}
		}
	}
	t.Faint = v.Only != "" && !slices.Contains(t.Why, v.Only)
}

// Drawn are the tokens. There may be hundreds, and all but the names are figures of ours: they are written as they are,
// not through a template.
func (v pictureView) Drawn() template.HTML {
	var b strings.Builder
	fixed := func(x float64) string { return strconv.FormatFloat(math.Round(x*100)/100, 'f', -1, 64) }
	r, small, to := fixed(v.R), v.Small(), html.EscapeString(v.To("player", placeholder))
	for _, t := range v.Tokens {
		class := "who"
		for _, c := range []struct {
			is   bool
			name string
		}{
			{t.Readiness.Ready, " is-ready"},
			{t.Dashed, " is-dashed"},
			{t.Here, " is-here"},
			{t.Faint, " is-faint"},
			{t.TryOut, " is-try"},
		} {
			if c.is {
				class += c.name
			}
		}
		x, y, label := fixed(t.X), fixed(t.Y), html.EscapeString(t.Label)
		fmt.Fprintf(&b, `<a class="%s" id="t-%s" href="%s" data-step="%s"`, class, t.Player.ID,
			strings.Replace(to, placeholder, t.Player.ID, 1), t.Stage.ID)
		if v.Back == 0 {
			fmt.Fprintf(&b, ` data-why="/stairs/why/%s?program=%s"`, t.Player.ID, v.Program.ID)
		}
		fmt.Fprintf(&b, ` aria-label="%s"><circle cx="%s" cy="%s" r="%s"/>`, label, x, y, r)
		if !small {
			fmt.Fprintf(&b, `<text x="%s" y="%s" dy="4">%s</text>`, x, y, html.EscapeString(t.Initials))
		}
		fmt.Fprintf(&b, "<title>%s</title></a>\n", label)
	}
	return template.HTML(b.String())
}

// placeholder stands for a player's id in an address that is the same for all but for that.
const placeholder = "PLAYER"

// says are the filters that a player answers to.
func says(s app.Standing, marks []coach.Mark, weeks int, at time.Time) (out []string) {
	if _, up := s.Next(); s.Readiness.Ready && up && s.Free() {
		out = append(out, "ready")
	}
	for _, r := range evidence.Remarks(s.Stage, marks, s.Readiness, weeks, at) {
		out = append(out, string(r))
	}
	if s.Decided != nil && s.Decided.Kind == deciding.Try {
		out = append(out, "tryout")
	}
	return out
}
