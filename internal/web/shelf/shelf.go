// Package shelf is the place for the club's drills.
package shelf

import (
	"embed"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/suggest"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Drill shelf", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/shelf", Needs: shell.SeeShelf, Handle: list},
	{Method: "GET", Path: "/shelf/new", Needs: shell.ChangeShelf, Handle: form},
	{Method: "POST", Path: "/shelf/new", Needs: shell.ChangeShelf, Handle: save},
	{Method: "GET", Path: "/shelf/names", Needs: shell.SeeShelf, Handle: names},
	{Method: "GET", Path: "/shelf/path", Needs: shell.SeeShelf, Handle: pathPage},
	{Method: "GET", Path: "/shelf/cards", Needs: shell.SeeShelf, Handle: cards},
	{Method: "POST", Path: "/shelf/gives", Needs: shell.ChangeShelf, Handle: gives},
	{Method: "POST", Path: "/shelf/drawing", Needs: shell.ChangeShelf, Handle: redraw, Body: 1 << 20},
	{Method: "GET", Path: "/shelf/pack", Needs: shell.SeeShelf, Handle: packPage},
	{
		Method: "POST",
		Path:   "/shelf/pack",
		Needs:  shell.ChangeShelf,
		Handle: packRead,
		Body:   exchange.MostPack + 1<<20,
		Heavy:  true,
	},
	{
		Method: "POST",
		Path:   "/shelf/pack/take",
		Needs:  shell.ChangeShelf,
		Handle: packTake,
		Body:   exchange.MostPack + 1<<20,
		Heavy:  true,
	},
	{Method: "GET", Path: "/shelf/pack/file", Needs: shell.SeeShelf, Handle: packFile, Heavy: true},
	{Method: "GET", Path: "/shelf/pack/schema", Needs: shell.SeeShelf, Handle: packSchema},
	{Method: "GET", Path: "/shelf/other/:id", Needs: shell.SeeShelf, Handle: other},
	{Method: "POST", Path: "/shelf/other/:id/copy", Needs: shell.ChangeShelf, Handle: copyOther},
	{Method: "GET", Path: "/shelf/drill/:id", Needs: shell.SeeShelf, Handle: drill},
	{Method: "GET", Path: "/shelf/drill/:id/edit", Needs: shell.ChangeShelf, Handle: form},
	{Method: "POST", Path: "/shelf/drill/:id/edit", Needs: shell.ChangeShelf, Handle: save},
	{Method: "GET", Path: "/shelf/drill/:id/drawing", Needs: shell.ChangeShelf, Handle: drawPage},
	{Method: "POST", Path: "/shelf/drill/:id/drawing", Needs: shell.ChangeShelf, Handle: saveDrawing, Body: 1 << 20},
	{Method: "GET", Path: "/shelf/drill/:id/drawing.svg", Needs: shell.SeeShelf, Handle: drawingFile},
	{Method: "GET", Path: "/shelf/drill/:id/print", Needs: shell.SeeShelf, Handle: printed},
	{Method: "GET", Path: "/shelf/drill/:id/editions", Needs: shell.SeeShelf, Handle: editions},
	{Method: "POST", Path: "/shelf/drill/:id/editions", Needs: shell.ChangeShelf, Handle: again},
	{Method: "GET", Path: "/shelf/drill/:id/put", Needs: shell.ChangePlan, Handle: put},
	{Method: "POST", Path: "/shelf/drill/:id/copy", Needs: shell.ChangeShelf, Handle: copyOwn},
	{Method: "POST", Path: "/shelf/drill/:id/share", Needs: shell.ChangeShelf, Handle: share},
	{Method: "POST", Path: "/shelf/drill/:id/star", Needs: shell.ChangeShelf, Handle: star},
	{Method: "POST", Path: "/shelf/drill/:id/off", Needs: shell.ChangeShelf, Handle: takeOff},
	{Method: "POST", Path: "/shelf/drill/:id/links", Needs: shell.ChangeShelf, Handle: link},
	{Method: "POST", Path: "/shelf/drill/:id/notes", Needs: shell.ChangeShelf, Handle: note},
}

// shown is how many results come at a time.
const shown = 12

type result struct {
	suggest.Suggestion
	store.Card
	Picture *svg.DrawingView
	Words   string // of a form, the last time it was on
}

type listView struct {
	url.Values // what is looked for, as it stands in the form
	All, Found int
	Results    []result
	Next       string // the address of what comes after
	From       int
	Skills     []string
	Stages     []string
	Classes    []store.Class
	Situations []string
	Others     []store.SharedDrill
	Narrowed   bool
	More       bool // one of the folded questions is asked
	Typed      [][]string
	Unknown    []string // words that are nowhere on the shelf
}

// Movements are the ways to move, for choosing one.
func (listView) Movements() []string { return coach.Movements }

// Is reports whether a choice of the form stands.
func (v listView) Is(name, value string) bool { return v.Get(name) == value }

var folded = []string{"class", "form", "approach", "phase", "moves", "situation", "minutes", "kit", "rested"}

// narrowing are all the fields that narrow the list.
var narrowing = append([]string{"q", "players", "leader", "skill", "stage"}, folded...)

func list(c *shell.Ctx) error {
	v := listView{Values: c.Request.URL.Query()}
	v.From, _ = strconv.Atoi(v.Get("from"))
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Get("of") == "others" {
			v.Others, err = tx.SharedDrills(c.Ctx(), "")
			return err
		}
		x, err := tx.Index(c.Ctx())
		if err != nil {
			return err
		}
		v.Typed = x.Typed(v.Get("q"))
		cards := x.Cards(v.Typed, v.Get("of") == "off")
		part := c.Partial() // only the results
		if !part || v.Get("class") != "" {
			if v.Classes, err = tx.Classes(c.Ctx()); err != nil {
				return err
			}
		}
		if !part {
			if v.Stages, err = stageNames(c, tx); err != nil {
				return err
			}
			v.Situations = situationsOf(x)
		}
		look, err := v.look(c, tx)
		if err != nil {
			return err
		}
		return v.find(c, tx, cards, look, part)
	})
	if err != nil {
		return err
	}
	v.Narrowed = v.narrowed(narrowing...) || v.Get("of") != ""
	v.More = v.narrowed(folded...)
	if c.Partial() && v.From > 0 {
		return c.Part(pages, "more-results", v)
	}
	if c.Partial() {
		return c.Part(pages, "results", v)
	}
	return c.Page(pages, http.StatusOK, "shelf.html", "Drill shelf", v)
}

// stageNames are the names of every program's stages, for choosing one.
func stageNames(c *shell.Ctx, tx *store.Tx) (out []string, err error) {
	programs, err := tx.Ladders(c.Ctx())
	for _, p := range programs {
		for _, s := range p.Stages {
			out = append(out, s.Name)
		}
	}
	return out, err
}

// situations are those that the drills of the shelf serve, in the sport's own words.
func situations(c *shell.Ctx, tx *store.Tx) ([]string, error) {
	x, err := tx.Index(c.Ctx())
	if err != nil {
		return nil, err
	}
	return situationsOf(x), nil
}

func situationsOf(x store.Index) (out []string) {
	for _, card := range x.Cards(nil, false) {
		if card.Situation != "" && !slices.Contains(out, card.Situation) {
			out = append(out, card.Situation)
		}
	}
	slices.Sort(out)
	return out
}

func (v listView) narrowed(names ...string) bool {
	return slices.ContainsFunc(names, func(n string) bool { return v.Get(n) != "" })
}

// look is what the form asks for.
func (v *listView) look(c *shell.Ctx, tx *store.Tx) (l suggest.Look, err error) {
	number := func(name string) int {
		n, _ := strconv.Atoi(v.Get(name)) // what is no number narrows nothing
		return max(0, min(n, 500))
	}
	l.Words, l.Skill, l.Stage = v.Typed, v.Get("skill"), v.Get("stage")
	l.Moves, l.Situation = v.Get("moves"), v.Get("situation")
	l.Form, l.Approach, l.Phase = v.Get("form"), v.Get("approach"), suggest.Phase(v.Get("phase"))
	l.Size, l.Minutes, l.Rested = number("players"), number("minutes"), number("rested")
	switch v.Get("leader") {
	case "none":
		l.NoLeader = true
	case "helper":
		l.Leaders = []coach.Role{coach.RoleHelper}
	case "coach":
		l.Leaders = []coach.Role{coach.RoleCoach}
	case "lead":
		l.Leaders = []coach.Role{coach.RoleLead}
	}
	if i := slices.IndexFunc(v.Classes, func(k store.Class) bool { return k.ID == v.Get("class") }); i >= 0 {
		venues, err := tx.Venues(c.Ctx())
		if err != nil {
			return l, err
		}
		for _, p := range venues {
			if p.ID == v.Classes[i].VenueID {
				in := p.Draw(v.Classes[i].Zone).Inside()
				l.Length, l.Width, l.Units = in.Length, in.Width, c.Club.Units
			}
		}
	}
	if v.Get("kit") != "" {
		if l.Kit, err = tx.Kit(c.Ctx()); err != nil {
			return l, err
		}
	}
	if l.Rested > 0 {
		used, err := tx.LastUsed(c.Ctx(), c.Now, 26)
		if err != nil {
			return l, err
		}
		l.Recent = map[string]float64{}
		for id, at := range used {
			l.Recent[id] = c.Now.Sub(at).Hours() / 24 / 7
		}
	}
	return l, nil
}

// find ranks the cards and draws those of this page.
func (v *listView) find(c *shell.Ctx, tx *store.Tx, cards []*store.Card, look suggest.Look, part bool) error {
	byID := map[string]*store.Card{}
	var shelf []*coach.Drill
	v.All = len(cards)
	if !part { // the form that lists them stays
		v.skills(cards)
	}
	for _, k := range cards {
		if v.Get("of") == "star" && !k.Star || v.Get("of") == "mine" && k.Owner != c.Member.ID {
			continue
		}
		byID[k.ID] = k
		shelf = append(shelf, &k.Drill)
	}
	for i, ways := range v.Typed {
		if words := suggest.Words(v.Get("q")); len(ways) == 0 && i < len(words) {
			v.Unknown = append(v.Unknown, words[i])
		}
	}
	found := suggest.Find(shelf, look)
	v.Found = len(found)
	if v.narrowed(narrowing...) {
		v.All = len(shelf)
	}
	// nothing ranks them: the club's favourites first
	if !v.narrowed("q", "players", "leader", "class", "minutes", "kit", "rested") {
		slices.SortStableFunc(found, func(a, b suggest.Suggestion) int {
			return starred(byID[b.Drill.ID]) - starred(byID[a.Drill.ID])
		})
	}
	from := min(max(0, v.From), len(found))
	if from+shown < len(found) {
		next := maps.Clone(v.Values)
		next.Set("from", strconv.Itoa(from+shown))
		v.Next = "/shelf?" + next.Encode()
	}
	return v.results(c, tx, found[from:min(len(found), from+shown)], byID)
}

// skills lists the skills of the shelf, and the one that was asked for.
func (v *listView) skills(cards []*store.Card) {
	skills := map[string]bool{}
	for _, k := range cards {
		for _, s := range k.Skills {
			skills[s] = true
		}
	}
	if s := v.Get("skill"); s != "" {
		skills[s] = true
	}
	v.Skills = slices.Sorted(maps.Keys(skills))
}

// results are the cards of a page, with their drawings.
func (v *listView) results(c *shell.Ctx, tx *store.Tx, page []suggest.Suggestion, byID map[string]*store.Card) error {
	ids := make([]string, len(page))
	for i, s := range page {
		ids[i] = s.Drill.ID
	}
	drawings, err := tx.Drawings(c.Ctx(), ids)
	if err != nil {
		return err
	}
	for _, s := range page {
		r := result{Suggestion: s, Card: *byID[s.Drill.ID]}
		if d := drawings[s.Drill.ID]; d != nil {
			pic := svg.Drawing(*d, c.Club.Units, 230, 150, -1, true)
			r.Picture = &pic
		}
		v.Results = append(v.Results, r)
	}
	return nil
}

func starred(k *store.Card) int {
	if k.Star {
		return 1
	}
	return 0
}

func fields(s string) string { return strings.Join(strings.Fields(s), " ") }
