package stairs

import (
	"cmp"
	"embed"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"gruppo/internal/coach"
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
	{Method: "POST", Path: "/notes/:id/done", Needs: shell.SeeMarks, Handle: noteDone},
	{Method: "POST", Path: "/marks/:id/strike", Needs: shell.StrikeMarks, Handle: strike},
	{Method: "GET", Path: "/stairs/ladder", Needs: shell.SeeMarks, Handle: ladder},
	{Method: "GET", Path: "/stairs/stage/:id", Needs: shell.ChangeLadder, Handle: stageForm},
	{Method: "POST", Path: "/stairs/stage/:id", Needs: shell.ChangeLadder, Handle: saveStage},
	{Method: "GET", Path: "/stairs/criterion/:id", Needs: shell.ChangeLadder, Handle: criterionForm},
	{Method: "POST", Path: "/stairs/criterion/:id", Needs: shell.ChangeLadder, Handle: saveCriterion},
	{Method: "POST", Path: "/stairs/criterion/:id/out", Needs: shell.ChangeLadder, Handle: retireCriterion},
}

type token struct {
	Standing
	X, Y     float64
	Initials string
	Label    string
	Dashed   bool
	Here     bool
}

type step struct {
	Stage         coach.Stage
	X, Y, W, Edge float64
	Players       int
	Ready         int
}

type pictureView struct {
	Programs []store.Program
	Program  store.Program
	W, H     float64
	Floor    float64
	Steps    []step
	Tokens   []token
	Players  int
	Ready    int
	NotSeen  int
	Chosen   *whyView
	Rows     []Standing
}

// EdgeAt is where the shaded edge begins.
func (s step) EdgeAt() float64 { return s.X + s.W - s.Edge }

// Drop is from a height down to the floor.
func (v pictureView) Drop(y float64) float64 { return v.Floor - y }

func picture(c *shell.Ctx) error {
	v := pictureView{W: 740, H: 560}
	chosen := c.Query("player")
	var all []Standing
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Programs, err = tx.Ladders(c.Ctx()); err != nil || len(v.Programs) == 0 {
			return err
		}
		v.Program = v.Programs[0]
		for _, p := range v.Programs {
			if p.ID == c.Query("program") {
				v.Program = p
			}
		}
		if all, err = All(c.Ctx(), tx, v.Program, c.Now); err != nil {
			return err
		}
		if chosen == "" {
			for _, s := range all { // the first who is ready, so that the page answers its own question
				if _, up := s.Next(); s.Readiness.Ready && up {
					chosen = s.Player.ID
					break
				}
			}
		}
		if i := slices.IndexFunc(all, func(s Standing) bool { return s.Player.ID == chosen }); i >= 0 {
			w, err := whyOf(c, tx, all[i], v.Programs)
			if err != nil {
				return err
			}
			v.Chosen = &w
		}
		return nil
	})
	if err != nil {
		return err
	}
	v.Rows = all
	v.draw(all, chosen, c.Now)
	return c.Page(pages, http.StatusOK, "stairs.html", "Stairs", v)
}

// draw puts every player on their step: across it by how much is shown, at its edge when everything is.
func (v *pictureView) draw(all []Standing, chosen string, now time.Time) {
	n := max(1, len(v.Program.Stages))
	const gap, top = 6.0, 130.0
	w := (v.W - 20 - gap*float64(n-1)) / float64(n)
	rise := math.Min(110, (v.H-top-90)/float64(max(1, n-1)))
	v.Floor = v.H - 6
	const size = 25.0
	for i, s := range v.Program.Stages {
		st := step{Stage: s, X: 10 + float64(i)*(w+gap), Y: v.Floor - 60 - float64(i)*rise, W: w, Edge: w * 0.2}
		columns := map[int]int{}
		per := max(1, int((w-st.Edge-8)/size))
		edge := max(1, int((st.Edge-2)/size))
		mine := slices.DeleteFunc(slices.Clone(all), func(a Standing) bool { return a.Stage.ID != s.ID })
		slices.SortStableFunc(mine, func(a, b Standing) int { return cmp.Compare(a.Readiness.Progress, b.Readiness.Progress) })
		for _, p := range mine {
			st.Players++
			col := min(per-1, int(p.Readiness.Progress*float64(per)))
			x := st.X + 6 + size/2 + float64(col)*size
			if _, up := p.Next(); p.Readiness.Ready && up {
				st.Ready++
				col = per + st.Ready%edge
				x = st.X + st.W - st.Edge + 2 + size/2 + float64(st.Ready%edge)*size
			}
			columns[col]++
			most := int((st.Y - 16) / size)
			high := float64(min(columns[col], max(1, most)))
			t := token{Standing: p, X: x, Y: st.Y - 8 - size*(high-0.5), Initials: shell.Initials(p.Player.Name), Dashed: p.NotMarked(now), Here: p.Player.ID == chosen}
			t.Label = fmt.Sprintf("%s, %s, %d in 100 shown", p.Player.Name, s.Name, int(math.Round(100*p.Readiness.Progress)))
			if p.Readiness.Ready {
				t.Label = p.Player.Name + ", " + s.Name + ", everything shown"
			}
			if t.Dashed {
				v.NotSeen++
				t.Label += ", not marked for six weeks"
			}
			v.Tokens = append(v.Tokens, t)
		}
		v.Players += st.Players
		v.Ready += st.Ready
		v.Steps = append(v.Steps, st)
	}
}

type markRow struct {
	coach.Mark
	What, Said, Day string
	Meets           bool
}

type whyView struct {
	Standing  Standing
	Items     []itemView
	Marks     []markRow
	Decisions []store.Decision
	Next      *coach.Stage
	Weeks     int
	MayDecide bool
	Wrong     string
	WrongKind string
	Typed     string
	Others    []store.Standing
	OtherName map[string]string
	Loc       *time.Location
	Keys      []store.KeyMark // had and lacked, on the player's page
	Notes     []store.Note
}

// Day writes a decision's day.
func (v whyView) Day(t time.Time) string { return t.In(v.Loc).Format("2 Jan 2006") }

func readWhy(c *shell.Ctx, tx *store.Tx, id, program string) (v whyView, err error) {
	if !store.IsID(id) {
		return v, store.ErrNone
	}
	p, err := tx.Player(c.Ctx(), id)
	if err != nil {
		return v, err
	}
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return v, err
	}
	at := Standing{Player: p}
	for _, pr := range programs {
		if _, in := p.In(pr.ID); in && at.Program.ID == "" && (program == "" || program == pr.ID) {
			all, err := Of(c.Ctx(), tx, pr, []store.Player{p}, c.Now)
			if err != nil {
				return v, err
			}
			if len(all) == 1 {
				at = all[0]
			}
		}
	}
	return whyOf(c, tx, at, programs)
}

// whyOf is the page of a player of whom it is known where they stand.
func whyOf(c *shell.Ctx, tx *store.Tx, at Standing, programs []store.Program) (v whyView, err error) {
	p := at.Player
	marks, err := tx.Marks(c.Ctx(), store.MarkFilter{Player: p.ID})
	if err != nil {
		return v, err
	}
	if v.Decisions, err = tx.Decisions(c.Ctx(), p.ID); err != nil {
		return v, err
	}
	v.Standing, v.MayDecide, v.Loc = at, c.May(shell.Decide), c.Loc
	criteria := map[string]coach.Criterion{}
	v.OtherName = map[string]string{}
	for _, pr := range programs {
		v.OtherName[pr.ID] = pr.Name
		for _, s := range pr.Stages {
			for _, k := range s.Criteria {
				criteria[k.ID] = k
			}
		}
	}
	for _, s := range p.Standings {
		if s.Program != v.Standing.Program.ID {
			v.Others = append(v.Others, s)
		}
	}
	v.Items = itemsOf(v.Standing.Readiness, marks, c.Loc)
	v.Weeks = int(c.Now.Sub(v.Standing.Since).Hours() / 24 / 7)
	if next, ok := v.Standing.Next(); ok {
		v.Next = &next
	}
	slices.Reverse(marks)
	for _, m := range marks {
		k, known := criteria[m.CriterionID]
		r := markRow{Mark: m, Day: m.At.In(c.Loc).Format("Mon 2 Jan"), What: k.Wording, Said: m.Said(k.Measure)}
		if known {
			r.Meets = evidence.Meets(k, m)
		} else {
			r.What, r.Said = "a drill’s target", m.Said(coach.Makes)
			if m.Tries == 0 { // a rung, a race: the note says what
				r.Said = coach.Figure(m.Figure)
			}
		}
		v.Marks = append(v.Marks, r)
	}
	return v, nil
}

func why(c *shell.Ctx) error {
	var v whyView
	err := c.In(func(tx *store.Tx) (err error) {
		v, err = readWhy(c, tx, c.Param("id"), c.Query("program"))
		return err
	})
	if err != nil {
		return err
	}
	return c.Part(pages, "why", v)
}

func player(c *shell.Ctx) error { return playerWith(c, http.StatusOK, "", "", "") }

func playerWith(c *shell.Ctx, status int, kind, wrong, typed string) error {
	var v whyView
	err := c.In(func(tx *store.Tx) (err error) {
		if v, err = readWhy(c, tx, c.Param("id"), c.Query("program")); err != nil {
			return err
		}
		h, err := tx.Hall(c.Ctx(), store.NoSession, "", []string{v.Standing.Player.ID}, c.Now.AddDate(1, 0, 0))
		v.Keys, v.Notes = h.Keys, h.Notes
		return err
	})
	if err != nil {
		return err
	}
	v.WrongKind, v.Wrong, v.Typed = kind, wrong, typed
	return c.Page(pages, status, "player.html", v.Standing.Player.Name, v)
}

// decide records a decision with the evidence as it is now.
func decide(c *shell.Ctx) error {
	f := shell.NewForm(c)
	kind, reason := f.Get("kind"), f.Get("why")
	if len([]rune(reason)) > 500 {
		return playerWith(c, http.StatusUnprocessableEntity, kind, "A reason of at most 500 characters, please.", reason)
	}
	var wrong string
	err := c.In(func(tx *store.Tx) error {
		v, err := readWhy(c, tx, c.Param("id"), f.Get("program"))
		if err != nil {
			return err
		}
		s := v.Standing
		d := store.Decision{ID: store.NewID(), PlayerID: s.Player.ID, ProgramID: s.Program.ID, Kind: kind, FromStage: s.Stage.ID, ToStage: s.Stage.ID, Why: reason,
			Evidence: keepEvidence(s, v.Items), At: c.S.Now()}
		switch {
		case s.Stage.ID == "" || s.Stage.ID != f.Get("stage"):
			return store.ErrChangedSince
		case kind == "up" && v.Next == nil:
			wrong = s.Stage.Name + " is the highest stage."
		case kind == "up" && !s.Readiness.Ready && reason == "":
			wrong = "Not everything is shown yet. To move up all the same, give the reason: it is kept with the decision."
		case kind == "stay" && reason == "":
			wrong = "Give the reason: the player and the next coach will want to know."
		case kind != "up" && kind != "stay":
			wrong = "Choose what is decided."
		}
		if wrong != "" {
			return nil
		}
		if kind == "up" {
			d.ToStage = v.Next.ID
		}
		return tx.AddDecision(c.Ctx(), d, c.Member.ID)
	})
	if err != nil {
		return err
	}
	if wrong != "" {
		return playerWith(c, http.StatusUnprocessableEntity, kind, wrong, reason)
	}
	c.Say("Recorded, with the evidence as it is today.")
	return c.To("/players/" + c.Param("id"))
}

// noteDone ticks a note off, and goes back to where it was read.
func noteDone(c *shell.Ctx) error {
	if !store.IsID(c.Param("id")) {
		return store.ErrNone
	}
	if err := c.Change("", "Ticked the note off", func(tx *store.Tx) error { return tx.NoteDone(c.Ctx(), c.Param("id"), c.Now) }); err != nil {
		return err
	}
	return c.To(back(shell.NewForm(c), "/"))
}

// back is the page that a form was on, if it names one of ours.
func back(f *shell.Form, or string) string {
	if to := f.Get("to"); strings.HasPrefix(to, "/") && !strings.HasPrefix(to, "//") {
		return to
	}
	return or
}

func strike(c *shell.Ctx) error {
	f := shell.NewForm(c)
	if !store.IsID(c.Param("id")) {
		return store.ErrNone
	}
	reason := f.Text("why", 200, "Say why: the mark stays to be seen, with your reason.")
	var m coach.Mark
	err := c.In(func(tx *store.Tx) error {
		ms, err := tx.Marks(c.Ctx(), store.MarkFilter{ID: c.Param("id")})
		if err != nil {
			return err
		}
		if len(ms) == 0 {
			return store.ErrNone
		}
		if m = ms[0]; !f.OK() {
			return nil
		}
		return tx.Strike(c.Ctx(), m.ID, c.Member.ID, reason, c.S.Now())
	})
	if err != nil {
		return err
	}
	if !f.OK() {
		return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: f.Errors["why"]}
	}
	c.Say("Struck out. It stays to be seen, and counts for nothing.")
	return c.To(back(f, "/players/"+m.PlayerID))
}
