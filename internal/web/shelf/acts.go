package shelf

import (
	"errors"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strconv"

	"gruppo/internal/coach"
	"gruppo/internal/coach/path"
	"gruppo/internal/coach/say"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

// named reads the drill of the address.
func named(c *shell.Ctx) (d coach.Drill, err error) {
	if !store.IsID(c.Param("id")) {
		return d, store.ErrNone
	}
	err = c.In(func(tx *store.Tx) (err error) {
		d, err = tx.Drill(c.Ctx(), c.Param("id"))
		return err
	})
	return d, err
}

// act changes something about the drill and goes back to its page.
func act(c *shell.Ctx, says func(coach.Drill) string, do func(*store.Tx, coach.Drill) error) error {
	d, err := named(c)
	if err != nil {
		return err
	}
	if err := c.Change("", says(d), func(tx *store.Tx) error { return do(tx, d) }); err != nil {
		return err
	}
	return c.To("/shelf/drill/" + d.ID)
}

// copied is a drill of one's own that keeps where it came from.
func copied(c *shell.Ctx, d coach.Drill, club string) error {
	own := d
	own.ID, own.Name = store.NewID(), d.Name+", own copy"
	if len([]rune(own.Name)) > 80 {
		own.Name = d.Name
	}
	own.Origin = &coach.Origin{Club: club, Drill: d.ID, Edition: d.Edition, Name: d.Name}
	c.Back = "/shelf"
	err := c.Change("", "Made your own copy of "+d.Name, func(tx *store.Tx) error {
		if err := tx.PutDrill(c.Ctx(), own, c.Now); err != nil {
			return err
		}
		return tx.Share(c.Ctx(), own.ID, "private")
	})
	if err != nil {
		return err
	}
	return c.To("/shelf/drill/" + own.ID)
}

func copyOwn(c *shell.Ctx) error {
	d, err := named(c)
	if err != nil {
		return err
	}
	return copied(c, d, c.Club.Name)
}

func share(c *shell.Ctx) error {
	f := shell.NewForm(c)
	with := f.Get("with")
	says := map[string]string{"private": "%s is seen by you alone", "club": "%s is on the club’s shelf", "all": "%s is shared with every club on this server"}[with]
	if says == "" {
		return &shell.Problem{
			Status: http.StatusUnprocessableEntity,
			Says:   "Choose who sees the drill: you alone, the club, or every club.",
		}
	}
	err := act(
		c,
		func(d coach.Drill) string { return fmt.Sprintf(says, d.Name) },
		func(tx *store.Tx, d coach.Drill) error { return tx.Share(c.Ctx(), d.ID, with) },
	)
	if errors.Is(err, store.ErrNone) && store.IsID(c.Param("id")) && with == "private" {
		return &shell.Problem{
			Status: http.StatusUnprocessableEntity,
			Says:   "Only who put a drill on the shelf can take it back for themselves. You can make your own copy.",
		}
	}
	return err
}

func star(c *shell.Ctx) error {
	return act(
		c,
		func(d coach.Drill) string { return "The star of " + d.Name },
		func(tx *store.Tx, d coach.Drill) error { return tx.Star(c.Ctx(), d.ID) },
	)
}

// takeOff takes a drill off the shelf, or puts it back; plans keep it, and it says how many.
func takeOff(c *shell.Ctx) error {
	off := shell.NewForm(c).Get("off") != ""
	d, err := named(c)
	if err != nil {
		return err
	}
	ahead := 0
	err = c.Change("", "", func(tx *store.Tx) error {
		use, err := tx.Use(c.Ctx(), d.ID, c.Now)
		if err != nil {
			return err
		}
		ahead = len(use.Ahead)
		return tx.TakeOff(c.Ctx(), d.ID, off)
	})
	if err != nil {
		return err
	}
	says := d.Name + " is back on the shelf"
	if off {
		says = d.Name + " is off the shelf"
		if ahead > 0 {
			says += fmt.Sprintf("; %s ahead keep it", say.Count(ahead, "plan"))
		}
		c.Back = "/shelf/drill/" + d.ID
	}
	c.Say(says)
	if off {
		return c.To("/shelf")
	}
	return c.To("/shelf/drill/" + d.ID)
}

// link ties the drill to another, or lets it go. A loop of "comes after" is refused, with the loop named.
func link(c *shell.Ctx) error {
	f := shell.NewForm(c)
	l := path.Link{Drill: c.Param("id"), Kind: path.Kind(f.Get("kind")), Other: f.Get("other")}
	d, err := named(c)
	if err != nil {
		return err
	}
	refuse := func(says string) error {
		v, err := read(c)
		if err != nil {
			return err
		}
		v.LinkProblem, v.TypedKind, v.Typed = says, f.Get("kind"), f.Get("name")
		return c.Page(pages, http.StatusUnprocessableEntity, "drill.html", d.Name, v)
	}
	if l.Other == "" {
		err := c.In(func(tx *store.Tx) (err error) {
			l.Other, err = tx.DrillNamed(c.Ctx(), f.Get("name"))
			return err
		})
		if err != nil && !store.IsNone(err) {
			return err
		}
	}
	if !slices.Contains(path.Kinds, l.Kind) || !store.IsID(l.Other) {
		return refuse(fmt.Sprintf("No drill on the shelf is called %q.", f.Get("name")))
	}
	drop := f.Get("drop") != ""
	loop := ""
	says := fmt.Sprintf("%s: link added", d.Name)
	if drop {
		says = fmt.Sprintf("%s: link taken away", d.Name)
	}
	stop := errors.New("refused")
	var round *store.LoopError
	err = c.Change("", says, func(tx *store.Tx) error {
		if drop {
			return tx.DropLink(c.Ctx(), l)
		}
		if _, err := tx.Drill(c.Ctx(), l.Other); err != nil {
			return err
		}
		if l.Other == l.Drill {
			loop = "A drill cannot be linked to itself."
			return stop
		}
		err := tx.PutLink(c.Ctx(), l)
		if errors.As(err, &round) {
			if loop, err = loopSays(c, tx, round.Way); err == nil {
				err = stop
			}
		}
		return err
	})
	if errors.Is(err, stop) {
		return refuse(loop)
	}
	if err != nil {
		return err
	}
	return c.To("/shelf/drill/" + d.ID)
}

// names are the shelf's names, for choosing one.
func names(c *shell.Ctx) error {
	var cards []*store.Card
	err := c.In(func(tx *store.Tx) (err error) {
		cards, err = tx.Cards(c.Ctx())
		return err
	})
	if err != nil {
		return err
	}
	return c.Part(pages, "names", cards[:min(len(cards), 1000)])
}

// loopSays names the drills of a loop in their order.
func loopSays(c *shell.Ctx, tx *store.Tx, way []string) (string, error) {
	cards, err := tx.CardsOf(c.Ctx(), way...)
	if err != nil {
		return "", err
	}
	names := map[string]string{}
	for _, k := range cards {
		names[k.ID] = k.Name
	}
	says := "That would go round in a loop: "
	for i, id := range way {
		if i > 0 {
			says += " comes after "
		}
		if names[id] == "" { // somebody's own
			names[id] = "a drill that only its owner sees"
		}
		says += names[id]
	}
	return says + ". Take one of these links away first.", nil
}

// note keeps what a coach noticed, or takes an own note away.
func note(c *shell.Ctx) error {
	f := shell.NewForm(c)
	d, err := named(c)
	if err != nil {
		return err
	}
	if id := f.Get("drop"); id != "" {
		if !store.IsID(id) {
			return store.ErrNone
		}
		return act(
			c,
			func(coach.Drill) string { return "Note taken away" },
			func(tx *store.Tx, d coach.Drill) error { return tx.DropDrillNote(c.Ctx(), d.ID, id) },
		)
	}
	says := f.Text("says", 500, "What did you notice? A few words are enough.")
	if !f.OK() {
		v, err := read(c)
		if err != nil {
			return err
		}
		v.Note, v.NoteProblem = f.Get("says"), f.Errors["says"]
		return c.Page(pages, http.StatusUnprocessableEntity, "drill.html", d.Name, v)
	}
	return act(c, func(coach.Drill) string { return "Note kept" }, func(tx *store.Tx, d coach.Drill) error {
		return tx.AddDrillNote(c.Ctx(), d.ID, d.Edition, says, c.Now)
	})
}

type editionsView struct {
	Drill    coach.Drill
	Editions []store.EditionInfo
	Was, Now int
	Diffs    []coach.Difference
}

// Several reports whether there are two editions to compare.
func (v editionsView) Several() bool { return len(v.Editions) > 1 }

// editions lists a drill's editions and shows how two of them differ.
func editions(c *shell.Ctx) error {
	d, err := named(c)
	if err != nil {
		return err
	}
	v := editionsView{Drill: d, Now: asked(c, "now", d.Edition, 1, d.Edition)}
	v.Was = asked(c, "was", max(1, v.Now-1), 1, d.Edition)
	err = c.In(func(tx *store.Tx) (err error) {
		if v.Editions, err = tx.Editions(c.Ctx(), d.ID); err != nil {
			return err
		}
		was, err := tx.Edition(c.Ctx(), d.ID, v.Was)
		if err != nil {
			return err
		}
		now, err := tx.Edition(c.Ctx(), d.ID, v.Now)
		v.Diffs = coach.Compare(was, now, c.Club.Units)
		return err
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "editions.html", d.Name, v)
}

// again makes an older edition, or the original of a copy, the newest one.
func again(c *shell.Ctx) error {
	f := shell.NewForm(c)
	d, err := named(c)
	if err != nil {
		return err
	}
	n, err := strconv.Atoi(f.Get("edition"))
	if f.Get("original") == "" && (err != nil || n < 1 || n > math.MaxInt32) {
		return store.ErrNone
	}
	says := fmt.Sprintf("%s is as in edition %d again", d.Name, n)
	if f.Get("original") != "" {
		says = d.Name + " has taken the original’s new edition"
	}
	err = c.Change("", says, func(tx *store.Tx) error {
		if f.Get("original") == "" {
			old, err := tx.Edition(c.Ctx(), d.ID, n)
			if err != nil {
				return err
			}
			return tx.PutDrill(c.Ctx(), old, c.Now)
		}
		v := drillView{Drill: d}
		if err := v.original(c, tx); err != nil {
			return err
		}
		if v.Origin == nil {
			return store.ErrNone
		}
		next := *v.Origin
		next.ID, next.Name, next.Origin = d.ID, d.Name, &coach.Origin{
			Club:    d.Origin.Club,
			Drill:   d.Origin.Drill,
			Edition: v.Origin.Edition,
			Name:    v.Origin.Name,
		}
		return tx.PutDrill(c.Ctx(), next, c.Now)
	})
	if err != nil {
		return err
	}
	return c.To("/shelf/drill/" + d.ID)
}

type putView struct {
	Drill    coach.Drill
	Sessions []store.Session
	When     []string
}

// put lists the sessions ahead that the drill can be put in.
func put(c *shell.Ctx) error {
	d, err := named(c)
	if err != nil {
		return err
	}
	v := putView{Drill: d}
	err = c.In(func(tx *store.Tx) (err error) {
		v.Sessions, err = tx.Sessions(c.Ctx(), store.SessionFilter{From: c.Now, Limit: 12})
		return err
	})
	if err != nil {
		return err
	}
	for _, s := range v.Sessions {
		v.When = append(v.When, s.StartsAt.In(c.Loc).Format("Mon 2 Jan, 15:04"))
	}
	return c.Page(pages, http.StatusOK, "put.html", d.Name, v)
}

type otherView struct {
	Drill   store.SharedDrill
	Picture *svg.DrawingView
	Forms   []coach.Variant
	Own     int
}

// other is a drill that another club shares.
func other(c *shell.Ctx) error {
	d, err := sharedOne(c)
	if err != nil {
		return err
	}
	v := otherView{Drill: d}
	v.Forms, v.Own = d.Forms()
	if d.Diagram != nil {
		pic := svg.Drawing(*d.Diagram, c.Club.Units, 480, 300, -1, false)
		v.Picture = &pic
	}
	return c.Page(pages, http.StatusOK, "other.html", d.Name, v)
}

func copyOther(c *shell.Ctx) error {
	d, err := sharedOne(c)
	if err != nil {
		return err
	}
	return copied(c, d.Drill, d.Club)
}

func sharedOne(c *shell.Ctx) (d store.SharedDrill, err error) {
	if !store.IsID(c.Param("id")) {
		return d, store.ErrNone
	}
	err = c.In(func(tx *store.Tx) error {
		ds, err := tx.SharedDrills(c.Ctx(), c.Param("id"))
		if err == nil && len(ds) == 0 {
			return store.ErrNone
		}
		if err == nil {
			d = ds[0]
		}
		return err
	})
	return d, err
}

// paperDrill is a drill as it is printed.
type paperDrill struct {
	coach.Drill
	Picture *svg.DrawingView
	Steps   []svg.DrawingView
	Forms   []coach.Variant
	Own     int
}

func onPaper(d coach.Drill, units coach.Units, width, height float64, strip bool) paperDrill {
	p := paperDrill{Drill: d}
	p.Forms, p.Own = d.Forms()
	if d.Diagram == nil {
		return p
	}
	pic := svg.Drawing(*d.Diagram, units, width, height, -1, false)
	p.Picture = &pic
	if strip && len(d.Diagram.Steps) > 1 {
		for i := range d.Diagram.Steps {
			s := svg.Drawing(*d.Diagram, units, 300, 190, i, false)
			s.Legend, s.H = nil, s.Field // the large one explains the marks
			p.Steps = append(p.Steps, s)
		}
	}
	return p
}

// printed is one drill on a page.
func printed(c *shell.Ctx) error {
	d, err := named(c)
	if err != nil {
		return err
	}
	return c.Bare(pages, http.StatusOK, "print.html", d.Name, onPaper(d, c.Club.Units, 560, 330, true))
}

// cards are drills four to a sheet: those chosen, else those that are found.
func cards(c *shell.Ctx) error {
	ids := slices.DeleteFunc(slices.Clone(c.QueryArray("id")), func(s string) bool { return !store.IsID(s) })
	if len(ids) == 0 || len(ids) > 60 {
		c.Say("Choose 1 to 60 drills to print as cards.")
		return c.To("/shelf/pack")
	}
	var out []paperDrill
	err := c.In(func(tx *store.Tx) error {
		ds, err := tx.DrillsOf(c.Ctx(), ids)
		for _, d := range ds {
			out = append(out, onPaper(d, c.Club.Units, 300, 170, false))
		}
		return err
	})
	if err != nil {
		return err
	}
	return c.Bare(pages, http.StatusOK, "drill-cards.html", "Drill cards", out)
}
