// Package roster is the place for players: the list, adding and editing one, and bringing a whole list from a file.
package roster

import (
	"embed"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/day"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Roster", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "GET", Path: "/roster", Needs: shell.SeeRoster, Handle: list},
	{Method: "GET", Path: "/roster/new", Needs: shell.ChangeRoster, Handle: form},
	{Method: "POST", Path: "/roster/new", Needs: shell.ChangeRoster, Handle: save},
	{Method: "GET", Path: "/roster/stages", Needs: shell.ChangeRoster, Handle: unplaced},
	{Method: "POST", Path: "/roster/stages", Needs: shell.ChangeRoster, Handle: place},
	{Method: "GET", Path: "/roster/import", Needs: shell.ChangeRoster, Handle: importPage},
	{
		Method: "POST",
		Path:   "/roster/import",
		Needs:  shell.ChangeRoster,
		Handle: preview,
		Body:   exchange.MaxBytes + 2<<20,
		Heavy:  true,
	},
	{
		Method: "POST",
		Path:   "/roster/import/take",
		Needs:  shell.ChangeRoster,
		Handle: take,
		Body:   exchange.MaxBytes + 2<<20,
		Heavy:  true,
	},
	{Method: "GET", Path: "/roster/player/:id", Needs: shell.ChangeRoster, Handle: form},
	{Method: "POST", Path: "/roster/player/:id", Needs: shell.ChangeRoster, Handle: save},
	{Method: "POST", Path: "/roster/player/:id/leave", Needs: shell.ChangeRoster, Handle: leave},
}

const pageSize = 60

type row struct {
	store.Player
	Stages []stageOf
	Age    string
}

type stageOf struct{ Name, Colour string }

type listView struct {
	Rows      []row
	Filter    store.PlayerFilter
	All       int
	Matching  int
	Programs  []store.Program
	Classes   []store.Class
	Earlier   string
	Later     string
	From, To  int
	NoneAtAll bool
	Unplaced  shell.Unplaced
}

func list(c *shell.Ctx) error {
	v := listView{
		Filter: store.PlayerFilter{
			Words: strings.TrimSpace(c.Query("q")),
			Stage: c.Query("stage"),
			Class: c.Query("class"),
			Limit: pageSize,
		},
	}
	for _, id := range []*string{&v.Filter.Stage, &v.Filter.Class} {
		if !store.IsID(*id) {
			*id = ""
		}
	}
	page, _ := strconv.Atoi(c.Query("page"))
	v.Filter.Offset = max(0, page) * pageSize
	var players []store.Player
	err := c.In(func(tx *store.Tx) (err error) {
		if players, err = tx.Players(c.Ctx(), v.Filter); err != nil {
			return err
		}
		if v.All, v.Matching, err = tx.CountPlayers(c.Ctx(), v.Filter); err != nil {
			return err
		}
		if v.Programs, err = tx.Ladders(c.Ctx()); err != nil {
			return err
		}
		if v.Classes, err = tx.Classes(c.Ctx()); err != nil {
			return err
		}
		v.Unplaced, err = c.Unplaced(tx, v.Programs)
		return err
	})
	if err != nil {
		return err
	}
	for _, p := range players {
		v.Rows = append(v.Rows, row{Player: p, Stages: stagesOf(p, v.Programs), Age: age(p.BirthYear, c.Now)})
	}
	v.NoneAtAll = v.All == 0
	v.From, v.To = v.Filter.Offset+1, v.Filter.Offset+len(players)
	at := func(page int) string {
		q := url.Values{"page": {strconv.Itoa(page)}}
		for k, s := range map[string]string{"q": v.Filter.Words, "stage": v.Filter.Stage, "class": v.Filter.Class} {
			if s != "" {
				q.Set(k, s)
			}
		}
		return "/roster?" + q.Encode()
	}
	if page > 0 {
		v.Earlier = at(page - 1)
	}
	if v.To < v.Matching {
		v.Later = at(page + 1)
	}
	if c.Partial() {
		return c.Part(pages, "players", v)
	}
	return c.Page(pages, http.StatusOK, "roster.html", "Roster", v)
}

func stagesOf(p store.Player, programs []store.Program) []stageOf {
	var out []stageOf
	for _, pr := range programs {
		if st, ok := p.In(pr.ID); ok {
			if s, ok := pr.Stage(st.Stage); ok {
				out = append(out, stageOf{s.Name, s.Colour})
			}
		}
	}
	return out
}

// age is how old a player turns this year: no more than a birth year can say.
func age(year int, now time.Time) string {
	if year == 0 {
		return ""
	}
	return strconv.Itoa(now.Year() - year)
}

type limitField struct{ What, Until string }

type formView struct {
	Form     *shell.Form
	ID       string
	Name     string
	Programs []store.Program
	Classes  []store.Class
	Names    []string
	Limits   []limitField
	With     string
	Apart    string
	Twin     string // somebody of that name is there already
}

func (v *formView) load(c *shell.Ctx, tx *store.Tx) error {
	var err error
	if v.Programs, err = tx.Ladders(c.Ctx()); err != nil {
		return err
	}
	if v.Classes, err = tx.Classes(c.Ctx()); err != nil {
		return err
	}
	return nil
}

func form(c *shell.Ctx) error {
	v := formView{Form: shell.NewForm(c), ID: c.Param("id")}
	v.Form.Values = url.Values{}
	err := c.In(func(tx *store.Tx) error {
		if err := v.load(c, tx); err != nil {
			return err
		}
		all, err := tx.Players(c.Ctx(), store.PlayerFilter{Limit: 300})
		if err != nil {
			return err
		}
		for _, p := range all {
			v.Names = append(v.Names, p.Name)
		}
		if v.ID == "" {
			if len(v.Programs) > 0 && len(v.Programs[0].Stages) > 0 {
				v.Form.Values.Set("stage-"+v.Programs[0].ID, v.Programs[0].Stages[0].ID)
			}
			return nil
		}
		p, err := tx.Player(c.Ctx(), v.ID)
		if err != nil {
			return err
		}
		v.Name = p.Name
		f := v.Form.Values
		f.Set("name", p.Name)
		if p.BirthYear > 0 {
			f.Set("year", strconv.Itoa(p.BirthYear))
		}
		f.Set("side", p.Side)
		f.Set("tags", strings.Join(p.Tags, ", "))
		for _, s := range p.Standings {
			f.Set("stage-"+s.Program, s.Stage)
		}
		var with, apart []string
		for _, k := range p.Keeps {
			if k.Apart {
				apart = append(apart, k.Name)
			} else {
				with = append(with, k.Name)
			}
		}
		f.Set("with", strings.Join(with, ", "))
		f.Set("apart", strings.Join(apart, ", "))
		for _, l := range p.Limits {
			v.Limits = append(v.Limits, limitField{l.What, l.Until.String()})
		}
		f["class"], err = tx.ClassesOf(c.Ctx(), v.ID)
		v.Form.Shows(p, f["class"])
		return err
	})
	if err != nil {
		return err
	}
	v.Limits = append(v.Limits, limitField{})
	return c.Page(pages, http.StatusOK, "player-form.html", title(v), v)
}

func title(v formView) string {
	if v.ID == "" {
		return "Add a player"
	}
	return "Edit " + v.Name
}

func save(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v := formView{Form: f, ID: c.Param("id"), Name: f.Get("name")}
	p := typedPlayer(c, f)
	limits := v.typedLimits()
	says := "Added " + p.Name
	if v.ID != "" {
		says = "Changed " + p.Name
	}
	refused := false
	err := c.Change("", says, func(tx *store.Tx) error {
		if err := v.load(c, tx); err != nil {
			return err
		}
		e, err := v.entered(c, tx, &p)
		if err != nil {
			return err
		}
		if refused = !f.OK(); refused {
			return errRefused
		}
		e.limits = limits
		return e.write(c, tx, p)
	})
	if refused {
		return c.Page(pages, http.StatusUnprocessableEntity, "player-form.html", title(v), v)
	}
	if err != nil {
		return err
	}
	if f.Get("again") != "" {
		return c.To("/roster/new")
	}
	return c.To("/roster")
}

// typedPlayer reads who it is.
func typedPlayer(c *shell.Ctx, f *shell.Form) store.Player {
	p := store.Player{
		ID:     c.Param("id"),
		Name:   strings.Join(strings.Fields(f.Text("name", 80, "A name, as it is shown to coaches.")), " "),
		Side:   f.Get("side"),
		Tags:   f.Commas("tags"),
		Joined: c.Today(),
	}
	if y := f.Get("year"); y != "" {
		var why string
		if p.BirthYear, why = exchange.BirthYear(y, c.Now); why != "" {
			f.Wrong("year", "%s", why)
		}
	}
	if !slices.Contains([]string{"", "left", "right", "both"}, p.Side) {
		f.Wrong("side", "A side is left, right or both.")
	}
	return p
}

// typedLimits reads what must not be done; the lines stay as they were typed.
func (v *formView) typedLimits() (limits []store.Limit) {
	f := v.Form
	for i, what := range f.All("limit") {
		until := ""
		if i < len(f.All("until")) {
			until = f.All("until")[i]
		}
		v.Limits = append(v.Limits, limitField{what, until})
		if what = coach.Limited(what); what == "" {
			if until != "" {
				f.Wrong("limit", "What is not to be done until then?")
			}
			continue
		}
		last, err := day.Parse(until)
		if err != nil {
			f.Wrong("limit", "Until when? A date like 2026-12-12, or nothing.")
		}
		if n := len([]rune(what)); n > 60 {
			f.Wrong("limit", "That is %d characters; 60 are the most.", n)
		}
		limits = append(limits, store.Limit{What: what, Until: last})
	}
	if len(limits) > 12 {
		f.Wrong("limit", "That is %d; 12 are the most.", len(limits))
	}
	return limits
}

// entry is what is kept of a player beside who it is.
type entry struct {
	leaves  []string // programs
	pairs   []store.Pair
	classes []string
	limits  []store.Limit
}

// entered reads what rests on the club: where the player stands, with whom, in which classes. A new player gets an id.
func (v *formView) entered(c *shell.Ctx, tx *store.Tx, p *store.Player) (e entry, err error) {
	f := v.Form
	was := store.Player{}
	if p.ID == "" {
		p.ID = store.NewID()
	} else if was, err = tx.Player(c.Ctx(), p.ID); err != nil {
		return e, err
	}
	if e.leaves, err = standings(c, tx, f, v.Programs, was, p); err != nil {
		return e, err
	}
	if v.Twin, err = twin(c, tx, *p, was); err != nil {
		return e, err
	}
	if v.Twin != "" && f.Get("another") == "" {
		f.Wrong("name", "%s", v.Twin)
	}
	if e.pairs, err = pairsOf(c, tx, f, p.ID, p.Name); err != nil {
		return e, err
	}
	if was.ID != "" {
		in, err := tx.ClassesOf(c.Ctx(), was.ID)
		if err != nil {
			return e, err
		}
		f.Since(was.Name, was, in)
	}
	for _, k := range v.Classes {
		if slices.Contains(f.All("class"), k.ID) {
			e.classes = append(e.classes, k.ID)
		}
	}
	return e, nil
}

func (e entry) write(c *shell.Ctx, tx *store.Tx, p store.Player) error {
	if err := tx.PutPlayers(c.Ctx(), []store.Player{p}); err != nil {
		return err
	}
	if err := tx.LeavePrograms(c.Ctx(), p.ID, e.leaves); err != nil {
		return err
	}
	if err := tx.SetKeeps(c.Ctx(), []string{p.ID}, e.pairs); err != nil {
		return err
	}
	if err := tx.SetLimits(c.Ctx(), p.ID, e.limits); err != nil {
		return err
	}
	return tx.EnrolIn(c.Ctx(), p.ID, e.classes)
}

// standings reads on which stages the form puts the player, and which programs it takes them out of. Before anybody has
// marked them in a program that is a correction; from then on who stands where is decided on the Stairs.
func standings(
	c *shell.Ctx,
	tx *store.Tx,
	f *shell.Form,
	programs []store.Program,
	was store.Player,
	p *store.Player,
) (leaves []string, err error) {
	marked := map[string]int{}
	if was.ID != "" {
		if marked, err = tx.HighestMarked(c.Ctx(), was.ID); err != nil {
			return nil, err
		}
	}
	for _, pr := range programs {
		field := "stage-" + pr.ID
		asked := f.Get(field)
		now, in := was.In(pr.ID)
		if asked == "" {
			if in {
				leaves = append(leaves, pr.ID)
			}
			continue
		}
		stage, ok := pr.Stage(asked)
		if !ok {
			f.Wrong(field, "That stage is no longer there.")
			continue
		}
		highest, seen := marked[pr.ID]
		switch {
		case in && now.Stage == asked:
		case seen && in:
			f.Wrong(
				field,
				"%s has been marked here already: another stage is decided on the Stairs, with its reason.",
				was.Name,
			)
			continue
		case seen && stage.Order > highest:
			f.Wrong(
				field,
				"%s was marked here before and comes back to where they were at most: a step up is decided on the Stairs.",
				was.Name,
			)
			continue
		}
		p.Standings = append(p.Standings, store.Standing{Program: pr.ID, Stage: asked, Since: c.Today()})
	}
	return leaves, nil
}

// twin says that somebody of the same name, and perhaps the same birth year, is on the roster already; empty where
// nobody is.
func twin(c *shell.Ctx, tx *store.Tx, p, was store.Player) (string, error) {
	if strings.EqualFold(p.Name, was.Name) && p.BirthYear == was.BirthYear {
		return "", nil
	}
	there, err := tx.Players(c.Ctx(), store.PlayerFilter{Names: []string{p.Name}})
	if err != nil {
		return "", err
	}
	for _, o := range there {
		if o.ID == p.ID || o.BirthYear != 0 && p.BirthYear != 0 && o.BirthYear != p.BirthYear {
			continue
		}
		says := o.Name + " is on the roster already"
		if o.BirthYear != 0 {
			says += fmt.Sprintf(", born %d", o.BirthYear)
		}
		return says + ". If this is another person, say so below; an initial helps to tell them apart.", nil
	}
	return "", nil
}

// errRefused rolls a change back when what was typed is not right; the page says what.
var errRefused = &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "Something typed is not right yet."}

// pairsOf reads the names a player is kept with and apart from.
func pairsOf(c *shell.Ctx, tx *store.Tx, f *shell.Form, id, own string) ([]store.Pair, error) {
	var pairs []store.Pair
	seen := map[string]string{}
	with, apart := f.Commas("with"), f.Commas("apart")
	there, err := tx.Players(c.Ctx(), store.PlayerFilter{Names: append(slices.Clone(with), apart...)})
	if err != nil {
		return nil, err
	}
	for field, names := range map[string][]string{"with": with, "apart": apart} {
		for _, name := range names {
			found := slices.DeleteFunc(
				slices.Clone(there),
				func(p store.Player) bool { return !strings.EqualFold(p.Name, name) || p.ID == id },
			)
			switch {
			case len(found) == 0 && strings.EqualFold(name, own):
				f.Wrong(field, "Nobody is kept with or apart from themselves.")
			case len(found) == 0:
				f.Wrong(field, "Nobody in the roster is called %s. Names are separated by commas.", name)
			case len(found) > 1:
				f.Wrong(field, "%d players are called %s. Give one of them an initial first.", len(found), name)
			case seen[found[0].ID] != "" && seen[found[0].ID] != field:
				f.Wrong(field, "%s is to be kept with and apart at once.", name)
			default:
				seen[found[0].ID] = field
				pairs = append(pairs, store.Pair{A: id, B: found[0].ID, Apart: field == "apart"})
			}
		}
	}
	return pairs, nil
}

func leave(c *shell.Ctx) error {
	var p store.Player
	err := c.In(func(tx *store.Tx) (err error) {
		p, err = tx.Player(c.Ctx(), c.Param("id"))
		return err
	})
	if err != nil {
		return err
	}
	err = c.Change(
		"",
		fmt.Sprintf("%s has left", p.Name),
		func(tx *store.Tx) error { return tx.LeavePlayer(c.Ctx(), p.ID, c.Today()) },
	)
	if err != nil {
		return err
	}
	return c.To("/roster")
}
