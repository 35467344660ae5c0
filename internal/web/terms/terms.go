// Package terms is next term: its classes, who is placed in which, who waits, and the lists for the next coach and the
// office.
package terms

import (
	"cmp"
	"embed"
	"errors"
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/places"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Stairs", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/stairs/places", Needs: shell.SeeMarks, Handle: placesPage, Heavy: true},
	{Method: "POST", Path: "/stairs/places/term", Needs: shell.PlanPlaces, Handle: saveTerm},
	{Method: "POST", Path: "/stairs/places/:id/wish", Needs: shell.PlanPlaces, Handle: saveWish, Heavy: true},
	{Method: "POST", Path: "/stairs/places/:id/put", Needs: shell.PlanPlaces, Handle: put, Heavy: true},
	{Method: "POST", Path: "/stairs/places/:id/class", Needs: shell.PlanPlaces, Handle: saveTermClass, Heavy: true},
	{Method: "POST", Path: "/stairs/places/:id/out", Needs: shell.PlanPlaces, Handle: dropTermClass, Heavy: true},
	{Method: "POST", Path: "/stairs/places/:id/take-over", Needs: shell.PlanPlaces, Handle: takeOver, Heavy: true},
	{Method: "GET", Path: "/stairs/office", Needs: shell.SeeMarks, Handle: listPage(officeList)},
	{Method: "GET", Path: "/stairs/office/:file", Needs: shell.SeeMarks, Handle: listFile(officeList), Heavy: true},
	{Method: "GET", Path: "/stairs/class/:id", Needs: shell.SeeMarks, Handle: listPage(classList)},
	{Method: "GET", Path: "/stairs/class/:id/:file", Needs: shell.SeeMarks, Handle: listFile(classList)},
}

// placesView is a term's classes with everybody placed in them.
type placesView struct {
	Programs  []store.Program
	Program   store.Program
	Terms     []season.Term
	Term      season.Term
	Classes   []placeClass
	Waiting   []placeWaiting
	Not       []PlacePlayer // who does not come back
	Best      places.Cost
	Cost      places.Cost
	Extra     string // what the overrides cost
	Gap       int
	Put       int
	Form      *shell.Form
	ClassForm *shell.Form
	Venues    []store.Venue
	MayPlan   bool
	Wrong     string         // an override that cannot be
	Weekdays  []time.Weekday // as the week goes where the club is

	today   day.Day
	typed   store.TermClass // a class as the form that was refused has it
	result  places.Result
	rules   []places.Class
	players []places.Player
	wishes  map[string]store.Wish
	people  map[string]app.Standing
}

type placeClass struct {
	store.TermClass
	Players []PlacePlayer
	Stages  []coach.Stage // all of the program, for the form
	Names   string        // of the stages it takes
	Day     string
}

// Ages is the age band in words; empty when there is none.
func (p placeClass) Ages() string {
	switch {
	case p.AgeFrom > 0 && p.AgeUntil > 0:
		return fmt.Sprintf("%d to %d years", p.AgeFrom, p.AgeUntil)
	case p.AgeFrom > 0:
		return fmt.Sprintf("from %d years", p.AgeFrom)
	case p.AgeUntil > 0:
		return fmt.Sprintf("to %d years", p.AgeUntil)
	}
	return ""
}

type PlacePlayer struct {
	ID, Name, Stage string
	Up              bool // steps up with the term, or did
	Moved, New      bool
	ByHand          bool
	Wish            store.Wish        // in their forms
	Fits            []store.TermClass // classes their stage fits, there
}

// Cannot reports whether a class's time does not suit.
func (p PlacePlayer) Cannot(id string) bool { return slices.Contains(p.Wish.Cannot, id) }

// Likes reports whether a class is the one they would like best.
func (p PlacePlayer) Likes(id string) bool { return len(p.Wish.Likes) > 0 && p.Wish.Likes[0] == id }

type placeWaiting struct {
	PlacePlayer
	No    int
	Why   string
	Frees []string
}

func (v *placesView) load(c *shell.Ctx, tx *store.Tx, program, term string) error {
	var err error
	v.MayPlan, v.today = c.May(shell.PlanPlaces), c.Today()
	if v.Form == nil {
		v.Form = shell.NewForm(c)
	}
	if v.ClassForm == nil {
		v.ClassForm = &shell.Form{Values: url.Values{}, Errors: map[string]string{}}
	}
	v.Weekdays = day.Week(c.Club.TimeZone)
	if v.Programs, err = tx.Ladders(c.Ctx()); err != nil || len(v.Programs) == 0 {
		return err
	}
	v.Program = app.Chosen(v.Programs, program)
	if v.Terms, err = tx.Terms(c.Ctx()); err != nil {
		return err
	}
	_, v.Term = season.TermAt(v.Terms, c.Today())
	for _, t := range v.Terms {
		if t.ID == term {
			v.Term = t
		}
	}
	if v.Venues, err = tx.Venues(c.Ctx()); err != nil || v.Term.ID == "" {
		return err
	}
	all, err := tx.TermClasses(c.Ctx(), v.Term.ID)
	if err != nil {
		return err
	}
	wishes, err := tx.Wishes(c.Ctx(), v.Term.ID)
	if err != nil {
		return err
	}
	v.wishes = map[string]store.Wish{}
	for _, w := range wishes {
		if w.ProgramID == v.Program.ID {
			v.wishes[w.PlayerID] = w
		}
	}
	for _, k := range all {
		if k.ProgramID != v.Program.ID {
			continue
		}
		p := placeClass{TermClass: k, Stages: v.Program.Stages, Day: time.Weekday(k.Weekday).String()}
		var names []string
		for _, s := range v.Program.Stages {
			if slices.Contains(k.StageIDs, s.ID) {
				names = append(names, s.Name)
			}
		}
		p.Names = say.List(names)
		v.Classes = append(v.Classes, p)
		v.rules = append(
			v.rules,
			places.Class{
				ID:     k.ID,
				Name:   k.Name,
				Places: k.Places,
				Stages: k.StageIDs,
				From:   k.AgeFrom,
				Until:  k.AgeUntil,
			},
		)
	}
	return v.who(c, tx)
}

// who gathers the players of the program in order of decision: who was decided about first, then who has been there
// longest.
func (v *placesView) who(c *shell.Ctx, tx *store.Tx) error {
	players, err := tx.Players(c.Ctx(), store.PlayerFilter{})
	if err != nil {
		return err
	}
	enrolled, err := tx.Enrolments(c.Ctx())
	if err != nil {
		return err
	}
	decided, err := tx.Decisions(c.Ctx(), store.DecisionFilter{Program: v.Program.ID, Standing: true})
	if err != nil {
		return err
	}
	last := app.LastOf(decided)
	byClass := map[string]string{}
	for _, k := range v.Classes {
		byClass[k.ClassID] = k.ID
	}
	v.people = map[string]app.Standing{}
	for _, p := range players {
		at, ok := p.In(v.Program.ID)
		if !ok {
			continue
		}
		stage, _ := v.Program.Stage(at.Stage)
		s := app.Standing{Player: p, Program: v.Program, Stage: stage, Since: at.Since, Decided: last[p.ID]}
		if d := s.Decided; d != nil && d.Ahead() && !d.FromOn.After(v.Term.From) { // by then on the next stage
			if next, up := s.Next(); up {
				s.Stage = next
			}
		}
		v.people[p.ID] = s
		w, said := v.wishes[p.ID]
		if said && !w.Returns {
			v.Not = append(v.Not, v.player(p.ID))
			continue
		}
		r := places.Player{
			ID: p.ID, Name: p.Name, Stage: s.Stage.ID, Age: places.Age(p.BirthYear, v.Term.From.Year()), Cannot: w.Cannot, Likes: w.Likes,
			Since: s.Since, Joined: p.Joined,
		}
		if s.Decided != nil {
			r.Since = day.In(s.Decided.At, c.Loc)
		}
		for _, k := range enrolled[p.ID] {
			if id, ok := byClass[k]; ok && r.Now == "" {
				r.Now = id
			}
		}
		for _, k := range p.Keeps {
			if !k.Apart {
				r.Friends = append(r.Friends, k.Player)
			}
		}
		v.players = append(v.players, r)
	}
	places.Order(v.players)
	return nil
}

func (v *placesView) player(id string) PlacePlayer {
	s := v.people[id]
	p := PlacePlayer{
		ID:     id,
		Name:   s.Player.Name,
		Stage:  s.Stage.Name,
		ByHand: v.wishes[id].Put != "",
	}
	p.Up = s.Decided != nil && s.Decided.Kind == deciding.Up &&
		(s.Decided.Ahead() || s.Decided.Done && day.Of(s.Decided.At).After(v.Term.From.Add(-60)))
	return p
}

// wishesOf answers with the forms about one player: they come when the name is opened.
func (v *placesView) wishesOf(c *shell.Ctx, id string) error {
	wish, err := v.wishOf(id)
	if err != nil {
		return err
	}
	p := v.player(id)
	p.Wish = wish
	for _, k := range v.Classes {
		if slices.Contains(k.StageIDs, v.people[id].Stage.ID) {
			p.Fits = append(p.Fits, k.TermClass)
		}
	}
	return c.Part(pages, "place-forms", []any{v, p})
}

// place works out the best placing, and the one with what was put by hand.
func (v *placesView) place() error {
	best, err := places.Assign(v.rules, v.players, nil, places.Steps)
	if err != nil {
		return err
	}
	v.Best, v.result = best.Cost, best
	fixed := map[string]string{}
	for id, w := range v.wishes {
		if w.Put != "" && slices.ContainsFunc(v.players, func(p places.Player) bool { return p.ID == id }) {
			if fixed[id] = w.Put; w.Put == store.OnTheList {
				fixed[id] = ""
			}
		}
	}
	if v.Put = len(fixed); v.Put > 0 {
		r, err := places.Assign(v.rules, v.players, fixed, places.Steps)
		var full *places.ErrFull
		if errors.As(err, &full) {
			v.Wrong = full.Error() + ". What was put by hand is left out until that is settled."
		} else if err != nil {
			return err
		} else {
			v.result = r
			v.Extra = costs(v.Best, r.Cost)
		}
	}
	v.Cost, v.Gap = v.result.Cost, v.result.Gap
	for _, p := range v.players {
		pp := v.player(p.ID)
		at, placed := v.result.In[p.ID]
		if !placed {
			continue
		}
		pp.Moved, pp.New = p.Now != "" && p.Now != at, p.Now == ""
		i := slices.IndexFunc(v.Classes, func(k placeClass) bool { return k.ID == at })
		v.Classes[i].Players = append(v.Classes[i].Players, pp)
	}
	for i := range v.Classes {
		slices.SortStableFunc(
			v.Classes[i].Players,
			func(a, b PlacePlayer) int { return cmp.Or(cmp.Compare(a.Stage, b.Stage), cmp.Compare(a.Name, b.Name)) },
		)
	}
	for i, w := range v.result.Waiting {
		v.Waiting = append(v.Waiting, placeWaiting{v.player(w.Player), i + 1, w.Why, w.Frees})
	}
	return nil
}

// Unmet is what the placing leaves unmet for those who have a place.
func (v *placesView) Unmet() string {
	c := v.Cost
	c.Waiting = 0
	return c.String()
}

// Compromise reports whether some wish of those who have a place is not met.
func (v *placesView) Compromise() bool { return v.Cost.Moved+v.Cost.Unliked+v.Cost.Split > 0 }

// costs says what a placing costs beyond the best one.
func costs(best, now places.Cost) string {
	var out []string
	tell := func(n int, one, many string) {
		if n == 1 {
			out = append(out, "1 more "+one)
		} else if n > 1 {
			out = append(out, fmt.Sprintf("%d more %s", n, many))
		}
	}
	tell(now.Waiting-best.Waiting, "is without a place", "are without a place")
	tell(now.Moved-best.Moved, "changes class", "change class")
	tell(now.Unliked-best.Unliked, "is not in the class they like best", "are not in the class they like best")
	tell(now.Split-best.Split, "pair of friends is split", "pairs of friends are split")
	switch {
	case len(out) > 0:
		return "What you put by hand costs: " + say.List(out) + "."
	case now.Total > best.Total:
		return "What you put by hand goes a little against the wishes."
	}
	return "What you put by hand costs nothing."
}

func placesPage(c *shell.Ctx) error {
	var v placesView
	err := c.In(func(tx *store.Tx) error { return v.load(c, tx, c.Query("program"), c.Query("term")) })
	if err != nil {
		return err
	}
	if player := c.Query("player"); player != "" && v.MayPlan {
		return v.wishesOf(c, player)
	}
	if err := v.place(); err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "places.html", "Places", &v)
}

// Ahead reports whether the term is still to come.
func (v *placesView) Ahead() bool { return v.Term.From.After(v.today) }

// Address is that of this page, for this program and term.
func (v *placesView) Address() string {
	return "/stairs/places?program=" + v.Program.ID + "&term=" + v.Term.ID
}

// saveTerm makes a term with the classes that there are now, or changes its name and days.
func saveTerm(c *shell.Ctx) error {
	f := shell.NewForm(c)
	t := season.Term{ID: f.Get("term"), Name: f.Text("name", 40, "A term needs a name, such as Spring.")}
	t.From, t.Until = f.Day("from", "The first day, please."), f.Day("until", "The last day, please.")
	if !t.From.IsZero() && !t.Until.IsZero() && (!t.Until.After(t.From) || t.Until.Sub(t.From) > 400) {
		f.Wrong("until", "After the first day, and within a year or so.")
	}
	v := placesView{Form: f}
	err := c.Change("", "Planned the term "+t.Name, func(tx *store.Tx) error {
		terms, err := tx.Terms(c.Ctx())
		if err != nil {
			return err
		}
		for _, o := range terms {
			if o.ID == t.ID {
				continue
			}
			if strings.EqualFold(o.Name, t.Name) {
				f.Wrong("name", "There is a term %s already.", o.Name)
			}
			if f.OK() && !o.From.After(t.Until) && !o.Until.Before(t.From) {
				f.Wrong("from", "These days are in the term %s already.", o.Name)
			}
		}
		if !f.OK() {
			return store.ErrChangedSince
		}
		if !slices.ContainsFunc(terms, func(o season.Term) bool { return o.ID == t.ID }) {
			t.ID = store.NewID()
		}
		if err := tx.PutTerm(c.Ctx(), t); err != nil {
			return err
		}
		if !t.From.After(c.Today()) {
			return nil // a term that has begun has the classes that there are
		}
		return app.TakeClassesOver(c.Ctx(), tx, t.ID)
	})
	if !f.OK() {
		err := c.In(func(tx *store.Tx) error { return v.load(c, tx, f.Get("program"), f.Get("term")) })
		if err == nil {
			err = v.place()
		}
		if err != nil {
			return err
		}
		return c.Page(pages, http.StatusUnprocessableEntity, "places.html", "Places", &v)
	}
	if err != nil {
		return err
	}
	return c.To("/stairs/places?program=" + f.Get("program") + "&term=" + t.ID)
}

// inTerm is the page's view for a change to the term of the address; it fails when the term is not there.
func inTerm(c *shell.Ctx, tx *store.Tx, f *shell.Form) (v placesView, err error) {
	if _, err = tx.OneTerm(c.Ctx(), c.Param("id")); err != nil {
		return v, err
	}
	err = v.load(c, tx, f.Get("program"), c.Param("id"))
	return v, err
}

// wishOf is what the player wished so far; somebody who is not of the program is not found.
func (v *placesView) wishOf(player string) (store.Wish, error) {
	if _, ok := v.people[player]; !ok {
		return store.Wish{}, store.ErrNone
	}
	w, ok := v.wishes[player]
	if !ok {
		w = store.Wish{PlayerID: player, ProgramID: v.Program.ID, Returns: true}
	}
	return w, nil
}

func (v *placesView) knows(class string) bool {
	return slices.ContainsFunc(v.Classes, func(k placeClass) bool { return k.ID == class })
}

func saveWish(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var v placesView
	err := c.Change("", "Kept the wishes of a player", func(tx *store.Tx) (err error) {
		if v, err = inTerm(c, tx, f); err != nil {
			return err
		}
		w, err := v.wishOf(f.Get("player"))
		if err != nil {
			return err
		}
		w.Returns, w.Cannot, w.Likes = f.Get("returns") != "no", nil, nil
		for _, k := range f.All("cannot") {
			if v.knows(k) {
				w.Cannot = append(w.Cannot, k)
			}
		}
		if k := f.Get("likes"); v.knows(k) {
			w.Likes = []string{k}
		}
		return tx.PutWish(c.Ctx(), v.Term.ID, w)
	})
	if err != nil {
		return err
	}
	return c.To(v.Address() + "#p-" + f.Get("player"))
}

// facts is what the placing rests on, to find out whether it altered while it was worked out.
func (v *placesView) facts() string {
	return fmt.Sprint(v.Term.ID, v.Term.From, v.Term.Until, v.rules, v.players, v.wishes)
}

// settled stores what was worked out on v, if what it rests on is still the same; else ErrChangedSince.
func (v *placesView) settled(c *shell.Ctx, says string, f func(*store.Tx) error) error {
	return c.Change("", says, func(tx *store.Tx) error {
		now, err := inTerm(c, tx, &shell.Form{Values: url.Values{"program": {v.Program.ID}}})
		if err != nil {
			return err
		}
		if now.facts() != v.facts() {
			return store.ErrChangedSince
		}
		return f(tx)
	})
}

// put puts a player into a class, or on the list, by hand; an empty class leaves it to the wishes again. Nothing at all
// takes back everything put by hand.
func put(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var v placesView
	err := c.In(func(tx *store.Tx) (err error) {
		v, err = inTerm(c, tx, f)
		return err
	})
	if err != nil {
		return err
	}
	if f.Get("player") == "" {
		err := c.Change(
			"",
			"Left everybody to the wishes",
			func(tx *store.Tx) error { return tx.ClearPut(c.Ctx(), v.Term.ID, v.Program.ID) },
		)
		if err != nil {
			return err
		}
		return c.To(v.Address())
	}
	w, err := v.wishOf(f.Get("player"))
	if err != nil {
		return err
	}
	if w.Put = f.Get("to"); w.Put != "" && w.Put != store.OnTheList && !v.knows(w.Put) {
		return store.ErrNone
	}
	next := v
	next.Classes, next.wishes = slices.Clone(v.Classes), maps.Clone(v.wishes)
	next.wishes[w.PlayerID] = w
	if err := next.place(); err != nil {
		return err
	}
	if next.Wrong != "" {
		return &shell.Problem{
			Status: http.StatusUnprocessableEntity,
			Says:   strings.SplitN(next.Wrong, ". ", 2)[0] + ": move somebody out of it first.",
		}
	}
	if err := v.settled(c, "Put a player by hand", func(tx *store.Tx) error { return tx.PutWish(c.Ctx(), v.Term.ID, w) }); err != nil {
		return err
	}
	if next.Extra != "" {
		c.Say(next.Extra)
	}
	return c.To(v.Address())
}

func saveTermClass(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var v placesView
	refused := false
	err := c.Change("", "Changed a class of the term", func(tx *store.Tx) (err error) {
		if v, err = inTerm(c, tx, f); err != nil {
			return err
		}
		k := store.TermClass{ID: store.NewID(), TermID: v.Term.ID, ProgramID: v.Program.ID}
		for _, o := range v.Classes {
			if o.ID == f.Get("class") {
				k = o.TermClass
			}
		}
		k.Name = f.Text("class-name", 60, "A class needs a name.")
		k.Places, k.Minutes = f.Int("places", 1, 500, "Places"), f.Int("minutes", 15, 480, "Minutes")
		k.Weekday = f.Int("weekday", 0, 6, "Weekday")
		if _, err := time.Parse("15:04", f.Get("starts")); err != nil {
			f.Wrong("starts", "When it starts, such as 18:00.")
		}
		k.Starts, k.VenueID, k.StageIDs = f.Get("starts"), f.Get("venue"), nil
		k.AgeFrom, k.AgeUntil = age(f, "age-from"), age(f, "age-until")
		if k.AgeUntil > 0 && k.AgeUntil < k.AgeFrom {
			f.Wrong("age-from", "From %d until %d is nobody.", k.AgeFrom, k.AgeUntil)
		}
		if !slices.ContainsFunc(v.Venues, func(x store.Venue) bool { return x.ID == k.VenueID }) {
			f.Wrong("venue", "Choose a place.")
		}
		for _, s := range v.Program.Stages {
			if slices.Contains(f.All("stage"), s.ID) {
				k.StageIDs = append(k.StageIDs, s.ID)
			}
		}
		if len(k.StageIDs) == 0 {
			f.Wrong("stage", "Which stages does it take?")
		}
		if refused = !f.OK(); refused {
			v.ClassForm, v.typed = f, k
			return store.ErrChangedSince
		}
		return tx.PutTermClass(c.Ctx(), k)
	})
	if refused {
		if err := v.place(); err != nil {
			return err
		}
		return c.Page(pages, http.StatusUnprocessableEntity, "places.html", "Places", &v)
	}
	if err != nil {
		return err
	}
	return c.To(v.Address())
}

// age is a bound of an age band; empty is none.
func age(f *shell.Form, name string) int {
	if f.Get(name) == "" {
		return 0
	}
	return f.Int(name, 0, 120, "An age")
}

func dropTermClass(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var v placesView
	err := c.Change("", "Took a class out of the term", func(tx *store.Tx) (err error) {
		if v, err = inTerm(c, tx, f); err != nil {
			return err
		}
		if !v.knows(f.Get("class")) {
			return store.ErrNone
		}
		return tx.DropTermClass(c.Ctx(), f.Get("class"))
	})
	if err != nil {
		return err
	}
	return c.To(v.Address())
}

// takeOver makes the placing the classes' enrolments, in one step that can be undone.
func takeOver(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var v placesView
	err := c.In(func(tx *store.Tx) (err error) {
		v, err = inTerm(c, tx, f)
		return err
	})
	if err != nil {
		return err
	}
	facts := v
	if err := v.place(); err != nil {
		return err
	}
	if v.Wrong != "" || len(v.Classes) == 0 {
		return &shell.Problem{
			Status: http.StatusUnprocessableEntity,
			Says:   strings.TrimSpace("The places are not settled yet. " + v.Wrong),
		}
	}
	in, n := map[string][]string{}, 0
	for p, k := range v.result.In {
		in[k] = append(in[k], p)
		n++
	}
	for _, ps := range in {
		slices.Sort(ps)
	}
	err = facts.settled(
		c,
		"Took the term’s places over",
		func(tx *store.Tx) error { return tx.TakeOver(c.Ctx(), v.Term.ID, v.Program.ID, in, c.Now) },
	)
	if err != nil {
		return err
	}
	says := fmt.Sprintf("%s enrolled as placed.", say.Count(n, "player"))
	if len(v.Waiting) > 0 {
		says += fmt.Sprintf(" %s on the waiting list.", say.Count(len(v.Waiting), "player"))
	}
	c.Say(says)
	return c.To(v.Address())
}

// Typed is a class as its form shows it: as it is, or as it was typed and refused.
func (v *placesView) Typed(k placeClass, id string) placeClass {
	if !v.ClassForm.OK() && v.ClassForm.Get("class") == id {
		k.TermClass = v.typed
	}
	return k
}

// Blank is a class as the form for a new one begins.
func (v *placesView) Blank() placeClass {
	return placeClass{TermClass: store.TermClass{Weekday: 1, Starts: "18:00", Minutes: 60, Places: 16}}
}
