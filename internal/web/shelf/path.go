package shelf

import (
	"fmt"
	"maps"
	"net/http"
	"slices"

	"gruppo/internal/coach"
	"gruppo/internal/coach/path"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

type pathView struct {
	Skill  string
	Skills []string
	Of     string // the drill whose path it is
	Name   string
	W, H   float64
	Nodes  []node
	Edges  []edge
	Longer bool // than is drawn
}

type node struct {
	store.Card
	X, Y         float64
	Line, More   string // the name on two lines
	Here, Beside bool   // Beside: of another skill, next to one of this
}

type edge struct {
	D, Kind, Says string
}

const (
	nodeW, nodeH, gapX, gapY = 134.0, 46.0, 30.0, 14.0
	mostNodes                = 120
)

// pathPage draws how drills lead to one another: those of a skill, or all that belong with one drill.
func pathPage(c *shell.Ctx) error {
	v := pathView{Skill: c.Query("skill"), Of: c.Query("drill")}
	err := c.In(func(tx *store.Tx) error {
		cards, err := tx.Cards(c.Ctx())
		if err != nil {
			return err
		}
		links, err := tx.Links(c.Ctx())
		if err != nil {
			return err
		}
		ladders, err := tx.Ladders(c.Ctx())
		if err != nil {
			return err
		}
		v.draw(cards, links, skills(ladders))
		return nil
	})
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "path.html", "Path", v)
}

// skills are those that the ladders ask for.
func skills(ladders []store.Program) (out []string) {
	for _, p := range ladders {
		for _, s := range p.Stages {
			for _, cr := range s.Criteria {
				out = append(out, cr.Skill)
			}
		}
	}
	return out
}

func (v *pathView) draw(cards []*store.Card, links []path.Link, ladder []string) {
	byID := map[string]*store.Card{}
	for _, k := range cards {
		byID[k.ID] = k
	}
	v.asked(cards, byID, ladder)
	in := v.belongs(cards, byID, links)
	var ids []string
	for _, k := range cards { // in the order of their names
		if in[k.ID] && len(ids) < mostNodes {
			ids = append(ids, k.ID)
		}
	}
	v.Longer = len(in) > len(ids)
	var shown []path.Link
	for _, l := range links {
		if slices.Contains(ids, l.Drill) && slices.Contains(ids, l.Other) {
			shown = append(shown, l)
		}
	}
	cells, ways := path.Lay(shown, ids)
	at := v.boxes(cells, byID)
	for i, l := range shown {
		w := ways[i]
		a, okA := at[w.From]
		b, okB := at[w.To]
		if okA && okB {
			says := byID[l.Drill].Name + " " + l.Kind.String() + " " + byID[l.Other].Name
			v.Edges = append(v.Edges, edge{bend(a, b, w.Through), string(l.Kind), says})
		}
		for _, p := range w.Through {
			v.H = max(v.H, cellY(p.Row)+nodeH+6)
		}
	}
}

// asked lists the skills. Where neither a skill nor a drill was asked for it takes, of those on a ladder or else of all, the
// skill with the most drills.
func (v *pathView) asked(cards []*store.Card, byID map[string]*store.Card, ladder []string) {
	count := map[string]int{}
	for _, k := range cards {
		for _, s := range k.Skills {
			count[s]++
		}
	}
	v.Skills = slices.Sorted(maps.Keys(count))
	if byID[v.Of] == nil {
		v.Of = ""
	}
	if v.Skill != "" || v.Of != "" {
		return
	}
	among := slices.DeleteFunc(slices.Clone(v.Skills), func(s string) bool { return !coach.Among(s, ladder) })
	if len(among) == 0 {
		among = v.Skills
	}
	for _, s := range among {
		if v.Skill == "" || count[s] > count[v.Skill] {
			v.Skill = s
		}
	}
}

// belongs are the drills on a drill's path; or those of a skill, and what these come after, bridge or ease directly.
func (v *pathView) belongs(cards []*store.Card, byID map[string]*store.Card, links []path.Link) map[string]bool {
	in := map[string]bool{}
	if v.Of != "" {
		v.Name = byID[v.Of].Name
		for _, id := range path.Line(links, v.Of) {
			in[id] = true
		}
		return in
	}
	for _, k := range cards {
		if k.HasSkill(v.Skill) {
			in[k.ID] = true
		}
	}
	for _, l := range links {
		if byID[l.Drill] == nil || byID[l.Other] == nil {
			continue
		}
		if byID[l.Drill].HasSkill(v.Skill) && l.Kind != path.Hardens {
			in[l.Other] = true
		}
		if byID[l.Other].HasSkill(v.Skill) && l.Kind == path.Bridge {
			in[l.Drill] = true
		}
	}
	return in
}

// boxes draws a box for each drill, and returns them by its id.
func (v *pathView) boxes(cells []path.Cell, byID map[string]*store.Card) map[string]node {
	at := map[string]node{}
	columns, rows := 0, 0
	for _, l := range cells {
		columns, rows = max(columns, l.Column), max(rows, l.Row)
		k := byID[l.ID]
		n := node{
			Card:   *k,
			X:      cellX(l.Column),
			Y:      cellY(l.Row),
			Here:   l.ID == v.Of,
			Beside: v.Of == "" && !k.HasSkill(v.Skill),
		}
		n.Line, n.More = twoLines(k.Name, 17)
		at[l.ID] = n
		v.Nodes = append(v.Nodes, n)
	}
	v.W, v.H = 12+float64(columns+1)*(nodeW+gapX)-gapX, 12+float64(rows+1)*(nodeH+gapY)-gapY
	return at
}

func cellX(column int) float64 { return 6 + float64(column)*(nodeW+gapX) }
func cellY(row int) float64    { return 6 + float64(row)*(nodeH+gapY) }

// bend is a line from one box to another: out of its right side, level through the rows kept free for it, into the
// other's left; or down where they stand in one column.
func bend(a, b node, through []path.Cell) string {
	if a.X == b.X {
		if a.Y > b.Y {
			a, b = b, a
		}
		return fmt.Sprintf("M%g %gL%g %g", a.X+nodeW/2, a.Y+nodeH, b.X+nodeW/2, b.Y)
	}
	x, y := a.X+nodeW, a.Y+nodeH/2
	d := fmt.Sprintf("M%g %g", x, y)
	to := func(nx, ny float64) {
		d += fmt.Sprintf("C%g %g %g %g %g %g", x+gapX*0.6, y, nx-gapX*0.6, ny, nx, ny)
		x, y = nx, ny
	}
	for _, c := range through {
		to(cellX(c.Column), cellY(c.Row)+nodeH/2)
		x += nodeW
		d += fmt.Sprintf("H%g", x)
	}
	to(b.X, b.Y+nodeH/2)
	return d
}

// twoLines breaks a name so that it fits a box, at a space where there is one.
func twoLines(name string, letters int) (string, string) {
	r := []rune(name)
	if len(r) <= letters {
		return name, ""
	}
	cut := letters
	for i := letters; i > 4; i-- {
		if r[i] == ' ' {
			cut = i
			break
		}
	}
	rest := r[cut:]
	if rest[0] == ' ' {
		rest = rest[1:]
	}
	if len(rest) > letters {
		rest = append(rest[:letters-1:letters-1], '…')
	}
	return string(r[:cut]), string(rest)
}
