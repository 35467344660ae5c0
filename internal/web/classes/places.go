package classes

import (
	"errors"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

type venueView struct {
	Was    store.Venue // as it is kept
	Stays  string      // why it cannot be taken out now
	Form   *shell.Form
	Venues []store.Venue
	Floors []floor.Floor
	ID     string
	Rows   []int
	Floor  svg.FloorView
	Zones  []svg.BoxView
	Source string
}

// Row is the name of a field of a row.
func (v venueView) Row(kind, field string, n int) string {
	return kind + "-" + field + "-" + strconv.Itoa(n)
}

const areaRows = 4 // more than there are of either, always

func venueForm(c *shell.Ctx) error {
	v := venueView{Form: shell.NewForm(c), ID: c.Param("id")}
	f := url.Values{
		"floor":  {"hall"},
		"length": {c.Club.Units.Length(usualLength(c))},
		"width":  {c.Club.Units.Length(usualWidth(c))},
	}
	err := c.In(func(tx *store.Tx) (err error) {
		if err := v.find(c, tx); err != nil || v.ID == "" {
			return err
		}
		rests, err := tx.Rests(c.Ctx(), store.OutVenue, v.ID, c.Now)
		if err != nil {
			return err
		}
		v.Stays = shell.KeepsIn(store.OutVenue, rests)
		p := v.Was
		f.Set("name", p.Name)
		f.Set("floor", p.Floor)
		f.Set("length", c.Club.Units.Length(p.Length))
		f.Set("width", c.Club.Units.Length(p.Width))
		for kind, areas := range map[string][]floor.Area{"zone": p.Zones, "blocked": p.Blocked} {
			for n, a := range areas {
				f.Set(v.Row(kind, "name", n), a.Name)
				f.Set(v.Row(kind, "court", n), a.Kind)
				for field, m := range map[string]float64{"x": a.X, "y": a.Y, "l": a.Length, "w": a.Width} {
					f.Set(v.Row(kind, field, n), c.Club.Units.Length(m))
				}
			}
		}
		return nil
	})
	if err != nil {
		return err
	}
	v.Form.Values = f
	if v.ID != "" {
		v.Form.Shows(v.Was)
	}
	v.draw()
	return c.Page(pages, http.StatusOK, "venue.html", "Place", v)
}

// find reads the place as it is kept; a new one is not.
func (v *venueView) find(c *shell.Ctx, tx *store.Tx) (err error) {
	if v.Venues, err = tx.Venues(c.Ctx()); err != nil || v.ID == "" {
		return err
	}
	i := slices.IndexFunc(v.Venues, func(p store.Venue) bool { return p.ID == v.ID })
	if i < 0 {
		return store.ErrNone
	}
	v.Was = v.Venues[i]
	return nil
}

// lay reads how many courts of which kinds are to be laid out, and puts them in place of those that were; the other
// zones stay.
func lay(f *shell.Form, p *store.Venue) {
	var courts []floor.Courts
	for row := range layRows {
		n, field := 0, fmt.Sprint("lay-n-", row)
		if f.Get(field) != "" {
			n = f.Int(field, 0, 12, "How many")
		}
		if kind := f.Get(fmt.Sprint("lay-kind-", row)); n > 0 && floor.Of(kind, 0, 0).Source == "" {
			f.Wrong(field, "Which court?")
		} else if kind != "" && f.Get(field) == "" {
			f.Wrong(field, "How many?")
		} else if n > 0 {
			courts = append(courts, floor.Courts{Kind: kind, N: n})
		}
	}
	if len(courts) == 0 || !f.OK() {
		return
	}
	areas, ok := floor.Lay(p.Length, p.Width, courts...)
	if !ok {
		hall, most := f.Units.Area(p.Length, p.Width), floor.MostOf(courts[0].Kind, p.Length, p.Width)
		switch {
		case len(courts) > 1:
			f.Wrong("lay-n-0", "They do not all go into %s.", hall)
		case most == 0:
			f.Wrong("lay-n-0", "None go into %s.", hall)
		default:
			f.Wrong("lay-n-0", "At most %d go into %s.", most, hall)
		}
		return
	}
	p.Zones = append(slices.DeleteFunc(p.Zones, func(a floor.Area) bool { return a.Kind != "" }), areas...)
}

const layRows = 2

// LayKinds are the courts that can be laid out in a hall.
func (v venueView) LayKinds() []floor.Floor { return layKinds() }

func layKinds() []floor.Floor {
	return slices.DeleteFunc(floor.Kinds(), func(k floor.Floor) bool { return k.Source == "" })
}

// draw shows the place as it is typed, and enough empty rows.
func (v *venueView) draw() {
	v.Floors = floor.Kinds()
	used := areaRows
	for n := range 40 {
		if v.Form.Get(v.Row("zone", "name", n))+v.Form.Get(v.Row("blocked", "name", n)) != "" {
			used = n + 3
		}
	}
	v.Rows = make([]int, used)
	for i := range v.Rows {
		v.Rows[i] = i
	}
	quiet := shell.Form{Values: v.Form.Values, Errors: map[string]string{}, Units: v.Form.Units}
	p := v.read(&quiet)
	if p.Length >= 3 && p.Width >= 3 {
		f := p.Draw("")
		v.Source = f.Source
		v.Floor = svg.Floor(check.Picture{Picture: work.Picture{Floor: f}}, v.Form.Units)
		for _, z := range p.Zones {
			at := func(m float64) float64 { return m*v.Floor.Scale + v.Floor.Margin }
			v.Zones = append(
				v.Zones,
				svg.BoxView{
					X:    at(z.X),
					Y:    at(z.Y),
					W:    z.Length * v.Floor.Scale,
					H:    z.Width * v.Floor.Scale,
					Name: z.Name,
				},
			)
		}
	}
}

func (v *venueView) read(f *shell.Form) store.Venue {
	p := store.Venue{ID: v.ID, Name: f.Text("name", 60, "What is the place called?"), Floor: f.Get("floor")}
	size(f, &p, v.Was)
	areas := func(kind, what string, was []floor.Area) (out []floor.Area) {
		for n := range 40 {
			name := f.Get(v.Row(kind, "name", n))
			old := floor.Area{}
			if n < len(was) {
				old = was[n]
			}
			if name == "" {
				typed := ""
				for _, field := range []string{"x", "y", "l", "w"} {
					typed += f.Get(v.Row(kind, field, n))
				}
				if n >= len(was) && typed != "" {
					f.Wrong(v.Row(kind, "name", n), "What is it called?")
				}
				continue // one that was there is gone
			}
			from := func(field string, old float64, what string) float64 { // nothing typed is the edge
				if f.Get(v.Row(kind, field, n)) == "" {
					return 0
				}
				return f.Length(v.Row(kind, field, n), 0, 200, old, what)
			}
			a := floor.Area{
				Name:   name,
				Kind:   f.Get(v.Row(kind, "court", n)),
				X:      from("x", old.X, "From the left"),
				Y:      from("y", old.Y, "From the top"),
				Length: f.Length(v.Row(kind, "l", n), 0.1, 200, old.Length, "Length"),
				Width:  f.Length(v.Row(kind, "w", n), 0.1, 200, old.Width, "Width"),
			}
			if k := floor.Of(a.Kind, 0, 0); k.Source == "" ||
				math.Abs(max(a.Length, a.Width)-max(k.Length, k.Width)) > 0.1 ||
				math.Abs(min(a.Length, a.Width)-min(k.Length, k.Width)) > 0.1 {
				a.Kind = "" // no court any more
			}
			if len(name) > 60 {
				f.Wrong(v.Row(kind, "name", n), "A name of at most 60 letters.")
			}
			if a.X+a.Length > p.Length+0.1 || a.Y+a.Width > p.Width+0.1 {
				f.Wrong(
					v.Row(kind, "x", n),
					"%s reaches beyond the floor of %s.",
					what,
					f.Units.Area(p.Length, p.Width),
				)
			}
			if slices.ContainsFunc(out, func(o floor.Area) bool { return o.Name == name }) && kind == "zone" {
				f.Wrong(v.Row(kind, "name", n), "There are two zones of this name.")
			}
			out = append(out, a)
		}
		return out
	}
	p.Zones, p.Blocked = areas("zone", "The zone", v.Was.Zones), areas("blocked", "The spot", v.Was.Blocked)
	return p
}

// size reads what floor a place has, and how large a plain one is; a court has the size of its rule.
func size(f *shell.Form, p *store.Venue, was store.Venue) {
	if !slices.ContainsFunc(floor.Kinds(), func(k floor.Floor) bool { return k.Kind == p.Floor }) {
		f.Wrong("floor", "Choose a floor.")
	} else if k := floor.Of(p.Floor, 0, 0); k.Source != "" {
		p.Length, p.Width = k.Length, k.Width
	} else {
		p.Length, p.Width = f.Length("length", 3, 200, was.Length, "Length"), f.Length("width", 3, 200, was.Width, "Width")
	}
}

// plain is for which floors a form asks for the size.
func plain() string {
	var kinds []string
	for _, k := range floor.Kinds() {
		if k.Source == "" {
			kinds = append(kinds, k.Kind)
		}
	}
	return "floor=" + strings.Join(kinds, "|")
}

// Plain is for which floors the form asks for the size.
func (v venueView) Plain() string { return plain() }

func saveVenue(c *shell.Ctx) error {
	v := venueView{Form: shell.NewForm(c), ID: c.Param("id")}
	if err := c.In(func(tx *store.Tx) error { return v.find(c, tx) }); err != nil {
		return err
	}
	p := v.read(v.Form)
	lay(v.Form, &p)
	again := func() error {
		v.draw()
		return c.Page(pages, http.StatusUnprocessableEntity, "venue.html", "Place", v)
	}
	if !v.Form.OK() {
		return again()
	}
	says := "Changed " + p.Name
	if p.ID == "" {
		p.ID, says, c.Back = store.NewID(), "Set up "+p.Name, "/sessions"
	}
	refused := errors.New("changed meanwhile")
	err := c.Change("", says, func(tx *store.Tx) error {
		now := venueView{ID: v.ID}
		if err := now.find(c, tx); err != nil {
			return err
		}
		if v.ID != "" {
			v.Form.Since(now.Was.Name, now.Was)
		}
		if !v.Form.OK() {
			return refused
		}
		return tx.PutVenue(c.Ctx(), p)
	})
	if errors.Is(err, refused) {
		return again()
	}
	if err != nil {
		return err
	}
	return c.To("/sessions/venue/" + p.ID)
}

type kitView struct {
	Form *shell.Form
	Rows []int
	IDs  []string
}

// Name of a field of a row.
func (v kitView) Field(field string, n int) string { return field + "-" + strconv.Itoa(n) }

func (v *kitView) rows(n int) {
	for i := range n {
		v.Rows = append(v.Rows, i)
	}
}

func kitForm(c *shell.Ctx) error {
	v := kitView{Form: shell.NewForm(c)}
	v.Form.Values = url.Values{}
	err := c.In(func(tx *store.Tx) error {
		kit, err := tx.Kit(c.Ctx())
		for n, k := range kit {
			v.Form.Values.Set(v.Field("id", n), k.ID)
			v.Form.Values.Set(v.Field("name", n), k.Name)
			v.Form.Values.Set(v.Field("count", n), strconv.Itoa(k.Count))
			v.Form.Values.Set(v.Field("stands", n), strings.Join(k.StandsIn, ", "))
		}
		v.Form.Shows(kit)
		v.rows(len(kit) + 3)
		return err
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "kit.html", "Kit", v)
}

func saveKit(c *shell.Ctx) error {
	v := kitView{Form: shell.NewForm(c)}
	f := v.Form
	var kit []coach.Kit
	var gone []string
	var fields []string // where the name of each stands
	rows := 3
	for n := range 300 {
		id, name := f.Get(v.Field("id", n)), f.Text(v.Field("name", n), 60, "")
		if name == "" {
			if store.IsID(id) {
				gone = append(gone, id)
			} else if f.Get(v.Field("count", n))+f.Get(v.Field("stands", n)) != "" {
				rows = n + 3
				f.Wrong(v.Field("name", n), "What is it called?")
			}
			continue
		}
		rows = n + 3
		k := coach.Kit{
			ID:       id,
			Name:     name,
			Count:    f.Int(v.Field("count", n), 0, 10000, "How many"),
			StandsIn: f.Commas(v.Field("stands", n)),
		}
		if !store.IsID(k.ID) {
			k.ID = store.NewID()
		}
		if slices.ContainsFunc(kit, func(o coach.Kit) bool { return strings.EqualFold(o.Name, name) }) {
			f.Wrong(v.Field("name", n), "This stands on the list already.")
		}
		kit, fields = append(kit, k), append(fields, v.Field("name", n))
	}
	again := func() error {
		v.rows(rows)
		return c.Page(pages, http.StatusUnprocessableEntity, "kit.html", "Kit", v)
	}
	if !f.OK() {
		return again()
	}
	err := c.Change("", "Changed the kit list", func(tx *store.Tx) error {
		now, err := tx.Kit(c.Ctx())
		if err != nil {
			return err
		}
		if f.Since("the list", now); !f.OK() {
			return store.ErrChangedSince
		}
		return tx.PutKit(c.Ctx(), kit, gone)
	})
	if !f.OK() {
		return again()
	}
	if errors.Is(err, store.ErrTaken) { // what somebody else has put there meanwhile
		var there []coach.Kit
		if err := c.In(func(tx *store.Tx) (err error) { there, err = tx.Kit(c.Ctx()); return err }); err != nil {
			return err
		}
		there = slices.DeleteFunc(there, func(o coach.Kit) bool {
			return slices.Contains(gone, o.ID) || slices.ContainsFunc(kit, func(k coach.Kit) bool { return k.ID == o.ID })
		})
		for n, k := range kit {
			if slices.ContainsFunc(there, func(o coach.Kit) bool { return o.Name == k.Name }) {
				f.Wrong(fields[n], "This stands on the list already: somebody put it there. Read the page again.")
			}
		}
		return again()
	}
	if err != nil {
		return err
	}
	return c.To("/sessions/kit")
}
