package shelf

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/path"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/say"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

type packView struct {
	Cards   []*store.Card
	Problem string
	Text    string // the pack that was read, on its way to being taken
	Pack    exchange.Pack
	Meets   []exchange.Meets
	Bad     []exchange.BadLine
	Add     int
	Same    int
	Clash   int
}

// packPage is where packs are made and brought.
func packPage(c *shell.Ctx) error { return packs(c, http.StatusOK, packView{}) }

func packs(c *shell.Ctx, status int, v packView) error {
	err := c.In(func(tx *store.Tx) (err error) {
		v.Cards, err = tx.Cards(c.Ctx())
		return err
	})
	if err != nil {
		return err
	}
	return c.Page(pages, status, "pack.html", "Packs", v)
}

// packFile is the pack of the chosen drills, with their links among each other.
func packFile(c *shell.Ctx) error {
	ids := slices.DeleteFunc(slices.Clone(c.QueryArray("id")), func(s string) bool { return !store.IsID(s) })
	if len(ids) == 0 {
		return packs(c, http.StatusUnprocessableEntity, packView{Problem: "Choose at least one drill for the pack."})
	}
	p := exchange.Pack{Name: fields(c.Query("name")), Club: c.Club.Name, Made: c.Now.Format(time.DateOnly)}
	err := c.In(func(tx *store.Tx) error {
		ds, err := tx.DrillsOf(c.Ctx(), ids)
		if err != nil {
			return err
		}
		links, err := tx.Links(c.Ctx())
		for _, d := range ds {
			e := exchange.PackDrill{ID: d.ID, Edition: d.Edition, Drill: d}
			for _, l := range links {
				if l.Drill == d.ID && slices.ContainsFunc(ds, func(o coach.Drill) bool { return o.ID == l.Other }) {
					e.Links = append(e.Links, exchange.PackLink{Kind: l.Kind, To: l.Other})
				}
			}
			if d.Diagram != nil {
				pic, err := c.DrawingText(pages, "diagram", svg.Drawing(*d.Diagram, c.Club.Units, 560, 400, -1, false))
				if err != nil {
					return err
				}
				e.Picture = pic
			}
			p.Drills = append(p.Drills, e)
		}
		return err
	})
	if err != nil {
		return err
	}
	var b bytes.Buffer
	if err := exchange.WritePack(&b, p); err != nil {
		return err
	}
	c.Attach("drills-" + p.Made + ".json")
	c.Data(http.StatusOK, "application/json", b.Bytes())
	return nil
}

func packSchema(c *shell.Ctx) error {
	c.Data(http.StatusOK, "application/schema+json", exchange.PackSchema)
	return nil
}

// brought reads the file or the text of the request: a pack, or a plain list of drills.
func brought(c *shell.Ctx) (v packView, err error) {
	if c.TooLarge {
		v.Problem = fmt.Sprintf("That file is too large: a pack is at most %d MB.", exchange.MostPack>>20)
		return v, nil
	}
	data := []byte(c.Request.PostFormValue("text"))
	if file, head, ferr := c.Request.FormFile("file"); ferr == nil && head.Size > 0 {
		defer file.Close()
		if head.Size > exchange.MostPack {
			v.Problem = fmt.Sprintf(
				"%s is %d MB; a pack is at most %d MB.",
				head.Filename,
				head.Size>>20,
				exchange.MostPack>>20,
			)
			return v, nil
		}
		if data, err = io.ReadAll(file); err != nil {
			return v, err
		}
	}
	v.Text = string(data)
	if len(bytes.TrimSpace(data)) == 0 {
		v.Problem = "Choose a file, or paste a list."
		return v, nil
	}
	var bad error
	if start := bytes.TrimLeft(data, " \t\r\n\ufeff"); bytes.HasPrefix(start, []byte("{")) ||
		bytes.HasPrefix(start, []byte("[")) {
		v.Pack, bad = exchange.ReadPack(data)
	} else {
		n := 0 // the same list gives the same ids, so that looking and taking speak of the same drills
		v.Pack, v.Bad, bad = exchange.ReadDrills(data, func() string { n++; return fmt.Sprintf("00000000-0000-4000-8000-%012d", n) })
	}
	var in *doc.ErrInput
	if errors.As(bad, &in) {
		v.Problem = in.Says
		return v, nil
	}
	if bad != nil {
		return v, bad
	}
	return v, c.In(func(tx *store.Tx) error {
		shelf, err := tx.Drills(c.Ctx())
		if err != nil {
			return err
		}
		if err := v.Pack.DeadLinks(shelf); errors.As(err, &in) {
			v.Problem = in.Says
			return nil
		}
		v.Meets = v.Pack.Meet(shelf, c.Club.Units)
		for _, m := range v.Meets {
			switch m.How {
			case exchange.Add:
				v.Add++
			case exchange.Same:
				v.Same++
			default:
				v.Clash++
			}
		}
		return nil
	})
}

func packRead(c *shell.Ctx) error {
	v, err := brought(c)
	if err != nil {
		return err
	}
	if v.Problem != "" {
		v.Text = ""
		if !strings.HasPrefix(c.Request.PostFormValue("text"), "{") {
			v.Text = c.Request.PostFormValue("text")
		}
		return packs(c, http.StatusUnprocessableEntity, v)
	}
	return c.Page(pages, http.StatusOK, "pack-look.html", "Look over the pack", v)
}

// packTake takes what the coach agreed to: new drills, and of those that clash what was chosen for each. All of it, or
// nothing.
func packTake(c *shell.Ctx) error {
	v, err := brought(c)
	if err != nil {
		return err
	}
	if v.Problem != "" {
		return packs(c, http.StatusUnprocessableEntity, v)
	}
	var taken int
	err = c.Change("", "", func(tx *store.Tx) (err error) {
		var id map[string]string
		if id, taken, err = takeDrills(c, tx, v); err != nil {
			return err
		}
		return takeLinks(c, tx, &v, id)
	})
	if errors.Is(err, errStop) {
		v.Problem += " Nothing was taken."
		return packs(c, http.StatusUnprocessableEntity, v)
	}
	if err != nil {
		return err
	}
	if taken == 0 {
		c.Quiet()
		c.Say("Nothing was taken: everything is there as it is, or was left.")
		return c.To("/shelf/pack")
	}
	c.Back = "/shelf"
	c.Say(fmt.Sprintf("Took %s from the pack", say.Count(taken, "drill")))
	return c.To("/shelf")
}

// errStop takes a pack back that cannot be taken whole.
var errStop = errors.New("refused")

// takeDrills puts the drills that are to be taken on the shelf; id leads from the pack's to the shelf's.
func takeDrills(c *shell.Ctx, tx *store.Tx, v packView) (id map[string]string, taken int, err error) {
	id = map[string]string{}
	for _, m := range v.Meets {
		d := m.PackDrill.Drill
		d.ID = m.ID
		if m.Ours != nil {
			id[m.ID] = m.Ours.ID
		}
		switch do := c.Request.PostFormValue("take-" + m.ID); {
		case m.How == exchange.Same || do == "leave" || m.How == exchange.Change && do == "":
			continue
		case m.How == exchange.Change && do == "edition":
			d.ID = m.Ours.ID
		case m.How == exchange.Change:
			d.ID, d.Name = store.NewID(), d.Name+", from a pack"
			fallthrough
		default:
			if strings.HasPrefix(m.ID, "00000000-0000-4000-8000-") { // of a plain list
				d.ID = store.NewID()
			}
			if d.Origin == nil && v.Pack.Club != "" && v.Pack.Club != c.Club.Name {
				d.Origin = &coach.Origin{
					Club:    v.Pack.Club,
					Drill:   m.ID,
					Edition: m.Edition,
					Name:    m.PackDrill.Drill.Name,
				}
			}
		}
		if len([]rune(d.Name)) > 80 {
			d.Name = string([]rune(d.Name)[:80])
		}
		if foreign, err := tx.Foreign(c.Ctx(), d.ID); err != nil {
			return id, taken, err
		} else if foreign { // a colleague's own drill came by the same way: theirs stays theirs
			d.ID = store.NewID()
		}
		id[m.ID] = d.ID
		if err := tx.PutDrill(c.Ctx(), d, c.Now); err != nil {
			return id, taken, err
		}
		taken++
	}
	return id, taken, tx.Loaded(c.Ctx(), taken)
}

// takeLinks puts the links between drills that are both there; one that would lead round stops everything.
func takeLinks(c *shell.Ctx, tx *store.Tx, v *packView, id map[string]string) error {
	links, err := tx.Links(c.Ctx())
	if err != nil {
		return err
	}
	for _, m := range v.Meets {
		for _, l := range m.Links {
			n := path.Link{Drill: id[m.ID], Kind: l.Kind, Other: id[l.To]}
			if id[l.To] == "" {
				n.Other = l.To
			}
			if n.Drill == "" ||
				id[l.To] == "" &&
					!slices.ContainsFunc(
						links,
						func(o path.Link) bool { return o.Drill == l.To || o.Other == l.To },
					) {
				continue // one of the two was left
			}
			links = append(links, n)
			var round *store.LoopError
			err := tx.PutLink(c.Ctx(), n)
			if errors.As(err, &round) {
				if v.Problem, err = loopSays(c, tx, round.Way); err == nil {
					err = errStop
				}
			}
			if err != nil {
				return err
			}
		}
	}
	return nil
}
