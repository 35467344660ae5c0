package shelf

import (
	"encoding/json"
	"net/http"
	"strconv"

	"gruppo/internal/coach"
	"gruppo/internal/coach/diagram"
	"gruppo/internal/coach/floor"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

type drawView struct {
	Drill   coach.Drill
	Doc     coach.Drawing
	JSON    string
	Picture svg.DrawingView
	Floors  []floor.Floor
	Kinds   []diagram.Kind
	Steps   []coach.DrawnStep
	Problem string
}

// The size of the drawing board, in units.
const boardW, boardH = 760.0, 520.0

func drawPage(c *shell.Ctx) error {
	d, err := named(c)
	if err != nil {
		return err
	}
	doc := coach.Drawing{Floor: "hall", Length: max(4, d.Length+2), Width: max(3, d.Width+2)}
	if d.Diagram != nil {
		doc = *d.Diagram
	}
	doc.Feet = c.Club.Units == coach.Imperial
	return drawing(c, http.StatusOK, d, doc, "")
}

func drawing(c *shell.Ctx, status int, d coach.Drill, doc coach.Drawing, problem string) error {
	v := drawView{
		Drill:   d,
		Doc:     doc,
		Picture: svg.Drawing(doc, c.Club.Units, boardW, boardH, 0, false),
		Floors:  floor.Kinds(),
		Kinds:   diagram.Kinds,
		Problem: problem,
	}
	b, err := json.Marshal(doc)
	if err != nil {
		return err
	}
	v.JSON = string(b)
	return c.Page(pages, status, "draw.html", "Draw "+d.Name, v)
}

// board reads the drawing of the request; says is what cannot be in it.
func board(c *shell.Ctx) (doc coach.Drawing, says string) {
	if err := json.Unmarshal([]byte(c.Request.PostFormValue("doc")), &doc); err != nil {
		return doc, "The drawing could not be read. Nothing was saved; what is on the board stays."
	}
	return doc, diagram.Check(doc)
}

// redraw answers with the drawing as it is on the board, for the step that is shown.
func redraw(c *shell.Ctx) error {
	doc, says := board(c)
	if says != "" {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: says}
	}
	step, err := strconv.Atoi(c.Request.PostFormValue("step"))
	if err != nil {
		step = -1
	}
	return c.Part(pages, "board", drawView{Doc: doc, Picture: svg.Drawing(doc, c.Club.Units, boardW, boardH, step, false)})
}

func saveDrawing(c *shell.Ctx) error {
	d, err := named(c)
	if err != nil {
		return err
	}
	doc, says := board(c)
	if says != "" {
		if _, known := diagram.On(doc); !known || doc.Length < 2 || doc.Width < 2 {
			return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: says}
		}
		return drawing(c, http.StatusUnprocessableEntity, d, doc, says)
	}
	d.Diagram = &doc
	if err := c.Change("", "Drew "+d.Name+" in a new edition", func(tx *store.Tx) error { return tx.PutDrill(c.Ctx(), d, c.Now) }); err != nil {
		return err
	}
	return c.To("/shelf/drill/" + d.ID)
}

// drawingFile is the drawing as a file that stands by itself.
func drawingFile(c *shell.Ctx) error {
	d, err := named(c)
	if err != nil {
		return err
	}
	if d.Diagram == nil {
		return shell.NotFound("This drill has no drawing yet.")
	}
	c.Attach("drawing.svg")
	text, err := c.DrawingText(pages, "diagram", svg.Drawing(*d.Diagram, c.Club.Units, 560, 400, -1, false))
	c.Data(http.StatusOK, "image/svg+xml", []byte(text))
	return err
}
