package shelf

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/load"
	"gruppo/internal/coach/path"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/suggest"
	"gruppo/internal/coach/target"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

type sizeRow struct {
	N     int
	Share load.Share
	Here  bool
	Rest  time.Duration // with work and rest: what is had
	Add   time.Duration // and the pause to add
}

type targetRow struct {
	N     int
	Tries float64
	Width float64 // of the bar, 0 to 100
	Asked bool
	Fits  bool
}

type linked struct{ ID, Name string }

// counts is a criterion that can be shown in the drill.
type counts struct{ ID, Stage, Wording string }

type drillView struct {
	store.Card
	Drill                                      coach.Drill // as it is written
	As                                         coach.Drill // in the form that is looked at
	paced                                      coach.Drill // at the pace that the class's rounds showed
	Forms                                      []coach.Variant
	Own, At                                    int // of Forms: as written, and the one that is looked at
	Picture                                    *svg.DrawingView
	Classes                                    []store.Class
	Class                                      store.Class
	Venue                                      store.Venue
	Players                                    []coach.Player
	Minutes                                    int
	Size                                       int
	Sizes                                      []sizeRow
	OneMore                                    string // what one more place would give
	Targets                                    []targetRow
	Fit                                        string
	Says                                       string // where the chance comes from
	Chance                                     float64
	Low                                        float64
	High                                       float64
	Long                                       *curve
	Strict                                     *curve
	Asked                                      string // of a target that is not one player's own
	Kit                                        []coach.KitRow
	Balls                                      int
	Room                                       string
	RoomBad                                    bool
	Back                                       []linked
	Next                                       []linked
	Bridges                                    []linked
	Over                                       []linked
	Easier                                     []linked
	Harder                                     []linked
	Counts, Not                                []counts // the criteria it shows, and those of its skills that a coach said it does not
	MayLadder                                  bool
	Use                                        store.DrillUse
	Notes                                      []store.DrillNote
	Rates                                      string // what the marks say
	Editions                                   int
	Note                                       string // typed and not taken, with why
	NoteProblem, Typed, TypedKind, LinkProblem string
	OwnLinks                                   []ownLink
	Origin                                     *coach.Drill // the newer edition of what this is a copy of
	Diffs                                      []coach.Difference
}

// Ask is the page's address with one question changed; the others stay, but a target typed for another form does not.
func (v drillView) Ask(name, value string) string {
	q := url.Values{}
	q.Set("class", v.Class.ID)
	q.Set("min", strconv.Itoa(v.Minutes))
	q.Set("group", strconv.Itoa(v.Size))
	q.Set(name, value)
	return "/shelf/drill/" + v.Drill.ID + "?" + q.Encode()
}

type ownLink struct {
	path.Link
	Name string
}

func drill(c *shell.Ctx) error {
	v, err := read(c)
	if err != nil {
		return err
	}
	if c.Partial() {
		return c.Part(pages, "worked", v)
	}
	return c.Page(pages, http.StatusOK, "drill.html", v.Drill.Name, v)
}

// read loads a drill's page for the class, form, target, minutes and size that the address names.
func read(c *shell.Ctx) (v drillView, err error) {
	id := c.Param("id")
	if !store.IsID(id) {
		return v, store.ErrNone
	}
	in := work.Input{}
	err = c.In(func(tx *store.Tx) (err error) {
		if v.Drill, err = tx.Drill(c.Ctx(), id); err != nil {
			return err
		}
		if v.Card, err = tx.Card(c.Ctx(), id); err != nil {
			return err
		}
		if v.Classes, err = tx.Classes(c.Ctx()); err != nil {
			return err
		}
		v.MayLadder = shell.May(c.Member.Role, shell.ChangeLadder)
		programs, err := tx.Ladders(c.Ctx())
		if err != nil {
			return err
		}
		shows, err := tx.Showing(c.Ctx())
		if err != nil {
			return err
		}
		for _, p := range programs {
			for _, s := range p.Stages {
				for _, k := range s.Criteria {
					if shows.Shows(k, v.Drill) {
						v.Counts = append(v.Counts, counts{k.ID, s.Name, k.Wording})
					} else if slices.Contains(v.Drill.Skills, k.Skill) {
						v.Not = append(v.Not, counts{k.ID, s.Name, k.Wording})
					}
				}
			}
		}
		if err := v.class(c, tx, programs, &in); err != nil {
			return err
		}
		near, err := tx.LinksOf(c.Ctx(), id)
		if err != nil {
			return err
		}
		v.linked(near)
		if v.Use, err = tx.Use(c.Ctx(), id, c.Now); err != nil {
			return err
		}
		if v.Notes, err = tx.DrillNotes(c.Ctx(), id); err != nil {
			return err
		}
		return v.original(c, tx)
	})
	if err != nil {
		return v, err
	}
	v.Editions = v.Drill.Edition
	if v.Drill.Diagram != nil {
		pic := svg.Drawing(*v.Drill.Diagram, c.Club.Units, 500, 350, -1, false)
		v.Picture = &pic
	}
	v.form(c)
	v.work(c, in)
	v.rates()
	return v, nil
}

// original looks for a newer edition of the drill that this one was copied from, where its club still shares it.
func (v *drillView) original(c *shell.Ctx, tx *store.Tx) error {
	o := v.Drill.Origin
	if o == nil {
		return nil
	}
	var now coach.Drill
	if own, err := tx.Drill(c.Ctx(), o.Drill); err == nil {
		now = own
	} else if !store.IsNone(err) {
		return err
	} else if shared, err := tx.SharedDrills(c.Ctx(), o.Drill); err != nil {
		return err
	} else if len(shared) > 0 {
		now = shared[0].Drill
	}
	if now.Edition > o.Edition {
		v.Origin, v.Diffs = &now, coach.Compare(v.Drill, now, c.Club.Units)
	}
	return nil
}

// class chooses whose figures are worked out: the class asked for, else the first that trains a skill of the drill's
// stages, else the first.
func (v *drillView) class(c *shell.Ctx, tx *store.Tx, programs []store.Program, in *work.Input) error {
	if len(v.Classes) == 0 {
		return nil
	}
	stages := map[string]string{}
	for _, p := range programs {
		for _, s := range p.Stages {
			stages[s.ID] = s.Name
		}
	}
	suits := func(k store.Class) bool {
		return slices.ContainsFunc(
			k.StageIDs,
			func(s string) bool { return stages[s] == v.Drill.Suits && v.Drill.Suits != "" },
		)
	}
	i := slices.IndexFunc(v.Classes, func(k store.Class) bool { return k.ID == c.Query("class") })
	if i < 0 {
		i = max(0, slices.IndexFunc(v.Classes, suits))
	}
	v.Class = v.Classes[i]
	players, err := tx.Players(c.Ctx(), store.PlayerFilter{Class: v.Class.ID})
	if err != nil {
		return err
	}
	var ids []string
	for _, p := range programs {
		if p.ID != v.Class.ProgramID {
			continue
		}
		for _, pl := range players {
			v.Players = append(v.Players, pl.Coach(p))
			ids = append(ids, pl.ID)
		}
	}
	in.Players, in.Drills = v.Players, map[string]coach.Drill{v.Drill.ID: v.Drill}
	if in.Tries, err = tx.Tries(c.Ctx(), ids, c.Now); err != nil {
		return err
	}
	if in.Kit, err = tx.Kit(c.Ctx()); err != nil {
		return err
	}
	venues, err := tx.Venues(c.Ctx())
	if err != nil {
		return err
	}
	for _, p := range venues {
		if p.ID == v.Class.VenueID {
			v.Venue = p
		}
	}
	in.Floor = v.Venue.Draw(v.Class.Zone)
	v.paced, err = tx.Paced(c.Ctx(), v.Class.ID, v.Drill, c.Now)
	return err
}

func (v *drillView) linked(near []store.NearLink) {
	names, links := map[string]string{}, []path.Link{}
	for _, n := range near {
		links = append(links, n.Link)
		names[n.Link.Drill], names[n.Link.Other] = n.DrillName, n.OtherName
		if n.Link.Drill == v.Drill.ID {
			v.OwnLinks = append(v.OwnLinks, ownLink{n.Link, n.OtherName})
		}
	}
	w := path.Around(links, v.Drill.ID)
	for to, ids := range map[*[]linked][]string{&v.Back: w.Back, &v.Next: w.Next, &v.Bridges: w.Bridges, &v.Over: w.Over, &v.Easier: w.Easier, &v.Harder: w.Harder} {
		for _, id := range ids {
			*to = append(*to, linked{id, names[id]})
		}
	}
}

// form is the form of the drill that is looked at: the one asked for, else the one that suits the class.
func (v *drillView) form(c *shell.Ctx) {
	v.Forms, v.Own = v.Drill.Forms()
	v.At = v.Own
	if asked, ok := c.GetQuery("form"); ok {
		if i := slices.IndexFunc(v.Forms, func(f coach.Variant) bool { return f.Name == asked }); i >= 0 {
			v.At = i
		}
	}
	v.As = v.Drill.As(v.Forms[v.At])
	if v.paced.Paced > 0 && v.Drill.Pace > 0 { // a form that is slower or quicker stays so
		v.As.Pace, v.As.Paced = v.As.Pace*v.paced.Pace/v.Drill.Pace, v.paced.Paced
	}
	if n, err := strconv.Atoi(c.Query("n")); err == nil && n >= 1 && n <= 500 && v.As.Target.Kind != "" {
		v.As.Target.N = n
	}
}

// fed reports whether balls are fed: by somebody of the group, or turn by turn out of a box.
func fed(d coach.Drill) bool {
	return slices.Contains(d.Roles, "feeder") ||
		d.Work > 0 &&
			slices.ContainsFunc(
				coach.Needs(d.Kit),
				func(n coach.Need) bool { return strings.HasSuffix(n.Name, "ball") },
			)
}

func asked(c *shell.Ctx, name string, usual, low, high int) int {
	if n, err := strconv.Atoi(c.Query(name)); err == nil {
		return min(high, max(low, n))
	}
	return usual
}

// work fills in the figures for the class.
func (v *drillView) work(c *shell.Ctx, in work.Input) {
	d := v.As
	usual := 6
	if m := d.Minutes; m[1] > 0 {
		usual = (m[0] + m[1]) / 2
	}
	v.Minutes = asked(c, "min", usual, 1, 60)
	v.Size = asked(c, "group", min(d.Most, max(d.Least, (d.Least+d.Most)/2)), 1, 60)
	round := time.Duration(v.Minutes) * time.Minute
	st := load.Of(d)
	v.sizes(st, round)
	now := st.At(v.Size, round)
	st.Places++
	if more := st.At(v.Size, round); more.AtOnce > now.AtOnce {
		v.OneMore = fmt.Sprintf(
			"One place more would give %s instead of %.0f.",
			say.Count(int(math.Round(more.Reps)), "try"),
			now.Reps,
		)
	}
	v.Kit = coach.Pack(coach.Needs(d.Kit), v.Size, in.Kit)
	if fed(d) {
		v.Balls = load.Of(d).Balls(v.Size, round)
	}
	v.room(c.Club.Units, in.Floor.Inside())
	v.targets(in, now)
}

// sizes compares up to eight sizes of a group, the one that is looked at among them.
func (v *drillView) sizes(st load.Station, round time.Duration) {
	d := v.As
	step := max(1, (d.Most+2-d.Least)/5)
	sizes := []int{v.Size}
	for n := max(1, d.Least); n <= d.Most+step && len(sizes) < 7; n += step {
		if !slices.Contains(sizes, n) {
			sizes = append(sizes, n)
		}
	}
	slices.Sort(sizes)
	for _, n := range sizes {
		row := sizeRow{N: n, Share: st.At(n, round), Here: n == v.Size}
		if d.Work > 0 && d.Rest > 0 {
			row.Rest, row.Add = st.RestFor(n)
		}
		v.Sizes = append(v.Sizes, row)
	}
}

// room says whether the form fits the class's floor; without a class, how much it takes.
func (v *drillView) room(u coach.Units, inside floor.Spot) {
	d := v.As
	takes, clear := u.Area(d.Length, d.Width), u.Long(d.Clearance)
	if v.Venue.ID == "" {
		v.Room = "It takes " + takes
		if d.Clearance > 0 {
			v.Room += " and " + clear + " clear round it"
		}
		v.Room += "."
		return
	}
	wide := coach.Drill{Length: d.Length + 2*d.Clearance, Width: d.Width + 2*d.Clearance}
	where := fmt.Sprintf("%s (%s)", v.Venue.Name, u.Area(inside.Length, inside.Width))
	v.RoomBad = true
	switch {
	case suggest.Fits(wide, inside.Length, inside.Width):
		v.Room = fmt.Sprintf("%s and %s clear round it: room enough in %s.", takes, clear, where)
		v.RoomBad = false
	case suggest.Fits(d, inside.Length, inside.Width):
		v.Room = fmt.Sprintf("%s fits %s, but not with %s clear round it.", takes, where, clear)
	default:
		v.Room = fmt.Sprintf("%s does not fit %s.", takes, where)
	}
}

// targets works out what the target asks of these players: tries, minutes, how likely, and which number fits.
func (v *drillView) targets(in work.Input, round load.Share) {
	d := v.As
	chances := v.chances(in)
	who := chances
	if len(in.Players) == 0 { // as many as the group would have
		who = slices.Repeat(chances, v.Size)
	}
	tries := target.Tries(round.Reps)
	if a, ok := target.Ask(d.Target, target.Players{
		Who:    target.Alike(who, tries),
		AtOnce: round.AtOnce,
		Try:    d.Try(),
		Round:  time.Duration(v.Minutes) * time.Minute,
	}); ok {
		v.asked(a)
		return
	}
	if _, has := target.For(d.Target, v.Chance); !has || v.Chance <= 0 {
		return
	}
	triers := target.Alike(chances, tries)
	fit, ok := target.Fit(d.Target, triers, d.Try())
	if ok {
		v.Fit = strconv.Itoa(fit.N)
	}
	largest := 0.0
	for _, n := range around(d.Target.N, fit.N, ok) {
		t := d.Target
		t.N = n
		chain, _ := target.For(t, v.Chance)
		tries, err := chain.Tries()
		if err != nil {
			return
		}
		v.Targets = append(v.Targets, targetRow{N: n, Tries: tries, Asked: n == d.Target.N, Fits: ok && n == fit.N})
		largest = max(largest, tries)
	}
	for i := range v.Targets {
		v.Targets[i].Width = 100 * v.Targets[i].Tries / largest
	}
	chain, _ := target.For(d.Target, v.Chance)
	v.Long = howLong(chain, d.Try(), time.Duration(tries)*d.Try())
	v.Strict = howStrict(d.Target, triers)
}

// chances are the players' chances of a good try in the form that is looked at, and says where they come from; without
// players it is the drill's own guess.
func (v *drillView) chances(in work.Input) (out []float64) {
	from := map[string]int{}
	for _, p := range in.Players {
		r, f := in.Chance(p, v.As)
		out = append(out, r.P)
		from[f]++
	}
	if len(out) == 0 {
		out = []float64{v.As.Chance}
		from["the drill’s own guess"] = 1
	}
	v.Low, v.High = min(1, slices.Min(out)), min(1, slices.Max(out))
	for i := range out {
		if len(in.Players) > 0 {
			out[i] = min(0.99, out[i])
		}
		v.Chance += out[i] / float64(len(out))
	}
	names := slices.Collect(maps.Keys(from))
	slices.SortFunc(names, func(a, b string) int { return cmp.Or(from[b]-from[a], cmp.Compare(a, b)) })
	if len(names) > 1 {
		for i, n := range names {
			names[i] = fmt.Sprintf("%s for %d", n, from[n])
		}
	}
	v.Says = say.List(names)
	return out
}

// asked says what a target asks that is not one player's own, and for a race and a go within faults how strict it is.
func (v *drillView) asked(a target.Asked) {
	v.Asked = a.Says
	if a.Better > 0 {
		v.Asked += fmt.Sprintf(" With %d: %s.", a.Better, a.Why)
	}
	t := v.As.Target
	switch t.Kind {
	case coach.Race:
		v.Strict = strict(target.Race{To: t.N, Against: cmp.Or(t.Against, t.N)}.Wins, target.PointChance(0, 0), "points")
		v.Strict.Says = "How often the first side wins, by how many points in 10 it takes."
	case coach.FewFaults:
		v.Strict = strict(target.Faults{Most: t.N, Of: t.Of}.Stays, v.Chance, "tries")
		v.Strict.Says = "How often a go stays within its faults, by how many tries in 10 are good."
	}
}

// around are up to eight numbers to compare a target with: itself, easier ones, one harder, and the one that fits.
func around(own, fit int, fits bool) []int {
	step := max(1, (own+4)/5)
	ns := []int{own}
	for n := step; n <= own+step && len(ns) < 7; n += step {
		if !slices.Contains(ns, n) {
			ns = append(ns, n)
		}
	}
	if fits && !slices.Contains(ns, fit) {
		ns = append(ns, fit)
	}
	slices.Sort(ns)
	return ns
}

// rates says what the marks on the drill show: how many tries, how often good, and whether it rises.
func (v *drillView) rates() {
	var made, tries float64
	var weeks, shares []float64
	for _, r := range v.Use.Rates {
		made, tries = made+r.Made, tries+r.Tries
		weeks = append(weeks, float64(r.On.Sub(v.Use.Rates[0].On))/7)
		shares = append(shares, 100*r.Made/r.Tries)
	}
	if tries == 0 {
		return
	}
	low, high := evidence.Wilson(int(made), int(tries))
	v.Rates = fmt.Sprintf(
		"%.0f of %.0f tries were good: %.0f in 100, surely between %.0f and %.0f.",
		made,
		tries,
		100*made/tries,
		100*low,
		100*high,
	)
	if len(weeks) < 4 {
		return
	}
	switch slope := evidence.Slope(weeks, shares); {
	case slope >= 0.5:
		v.Rates += fmt.Sprintf(" They rise by about %.1f in 100 a week.", slope)
	case slope <= -0.5:
		v.Rates += fmt.Sprintf(" They fall by about %.1f in 100 a week.", -slope)
	default:
		v.Rates += " They stay about the same from week to week."
	}
}

// curve is a line drawn in a box of 300 by 120, with the axis under it.
type curve struct {
	D      string
	Ticks  []tick
	Marks  []tick // on the line: a chance, a player
	Now    float64
	NowSay string
	Says   string
	Rows   [][2]string // the table behind it
}

type tick struct {
	X, Y  float64
	Label string
}

const curveW, curveH = 300.0, 110.0

func line(points [][2]float64) string {
	var b strings.Builder
	to := "M"
	for _, p := range points {
		fmt.Fprintf(&b, "%s%.1f %.1f", to, p[0]*curveW, (1-p[1])*curveH)
		to = "L"
	}
	return b.String()
}

// howLong is the chance to be done by each moment, up to when nearly all are.
func howLong(chain target.Chain, try, own time.Duration) *curve {
	by := chain.By(try, 0.5, 0.8, 0.95)
	end := max(own*5/4, by[2]*21/20, time.Minute)
	if by[2] == 0 || end > 3*max(own, time.Minute) {
		end = 3 * max(own, time.Minute)
	}
	moments := make([]time.Duration, 61)
	for i := range moments {
		moments[i] = end * time.Duration(i) / 60
	}
	c := &curve{Now: curveW * own.Seconds() / end.Seconds(), NowSay: coach.Clock(own)}
	var points [][2]float64
	for i, p := range chain.Curve(try, moments) {
		points = append(points, [2]float64{float64(i) / 60, p})
	}
	c.D = line(points)
	step := time.Minute
	for _, s := range []time.Duration{2, 5, 10, 20, 30, 60} {
		if end/step > 6 {
			step = s * time.Minute
		}
	}
	for t := step; t <= end; t += step {
		c.Ticks = append(c.Ticks, tick{curveW * t.Seconds() / end.Seconds(), curveH, coach.Figure(t.Minutes())})
	}
	for i, q := range []float64{0.5, 0.8, 0.95} {
		label := fmt.Sprintf("%.0f in 100", q*100)
		if by[i] == 0 {
			c.Rows = append(c.Rows, [2]string{label, "not within 4 hours"})
			continue
		}
		c.Rows = append(c.Rows, [2]string{label, coach.Clock(by[i])})
		if by[i] <= end {
			c.Marks = append(
				c.Marks,
				tick{curveW * by[i].Seconds() / end.Seconds(), (1 - q) * curveH, coach.Clock(by[i])},
			)
		}
	}
	return c
}

// howStrict is the chance to be done in the tries that each has in the round, by how often a try is good; the players of
// the class stand on it.
func howStrict(t coach.Target, who []target.Trier) *curve {
	c := &curve{}
	reach := func(p float64) float64 { return target.Reach(t, []target.Trier{{P: p, Tries: who[0].Tries}}) }
	at := func(p float64) float64 { return (p - 0.3) / 0.7 }
	var points [][2]float64
	for p := 0.3; p < 1.001; p += 0.02 {
		y := reach(min(p, 0.999))
		points = append(points, [2]float64{at(p), y})
	}
	c.D = line(points)
	for _, p := range []float64{0.4, 0.6, 0.8, 1} {
		c.Ticks = append(c.Ticks, tick{at(p) * curveW, curveH, coach.Figure(p * 10)})
		c.Rows = append(
			c.Rows,
			[2]string{coach.Figure(p*10) + " in 10", fmt.Sprintf("%.0f in 100", 100*reach(min(p, 0.999)))},
		)
	}
	seen := map[float64]int{}
	all := 0.0
	for _, one := range who {
		p := math.Round(one.P*50) / 50
		y := reach(p)
		all += y
		beside := 4 * float64(seen[p]) // several of one chance: into the picture, not out of it
		if y < 0.5 {
			beside = -beside
		}
		c.Marks = append(c.Marks, tick{max(0, at(p)) * curveW, min(curveH, max(0, (1-y)*curveH+beside)), ""})
		seen[p]++
	}
	c.Says = fmt.Sprintf(
		"%.0f in 100 of them get there in the %s each has.",
		100*all/float64(len(who)),
		say.Count(who[0].Tries, "try"),
	)
	return c
}

// strict is how often something holds, by how many of its points or tries in 10 are good; these players stand at now.
func strict(holds func(p float64) float64, now float64, of string) *curve {
	c := &curve{Now: now * curveW, NowSay: fmt.Sprintf("%.0f in 100", now*100)}
	var points [][2]float64
	for x := 0.0; x < 1.001; x += 0.02 {
		points = append(points, [2]float64{x, holds(min(x, 1))})
	}
	c.D = line(points)
	for _, x := range []float64{0.2, 0.4, 0.6, 0.8} {
		c.Ticks = append(c.Ticks, tick{x * curveW, curveH, coach.Figure(x * 10)})
		c.Rows = append(c.Rows, [2]string{coach.Figure(x*10) + " in 10 " + of, fmt.Sprintf("%.0f in 100", 100*holds(x))})
	}
	return c
}
