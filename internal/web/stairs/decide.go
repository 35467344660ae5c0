package stairs

import (
	"net/http"
	"slices"
	"strconv"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// choice is a decision as it is typed.
type choice struct {
	Kind, Why string
	From      string // "term", or now
	Visits    string // of a try-out
	Class     string
}

// ground is what every decision rests on beside the player.
type ground struct {
	Classes []store.Class
	Term    store.Term
	TwoSign bool
}

func readGround(c *shell.Ctx, tx *store.Tx, program string) (g ground, err error) {
	classes, err := tx.Classes(c.Ctx())
	if err != nil {
		return g, err
	}
	for _, k := range classes {
		if k.ProgramID == program {
			g.Classes = append(g.Classes, k)
		}
	}
	terms, err := tx.Terms(c.Ctx())
	if err != nil {
		return g, err
	}
	_, g.Term = store.TermAt(terms, c.Today())
	g.TwoSign, err = tx.TwoSign(c.Ctx())
	return g, err
}

// Takes are the classes that take a stage.
func (g ground) Takes(stage string) (out []store.Class) {
	for _, k := range g.Classes {
		if slices.Contains(k.StageIDs, stage) {
			out = append(out, k)
		}
	}
	return out
}

// decision makes one of a choice, or says what is wrong with it.
func (g ground) decision(c *shell.Ctx, s app.Standing, items []itemView, ch choice) (d store.Decision, wrong string) {
	next, up := s.Next()
	d = store.Decision{ID: store.NewID(), PlayerID: s.Player.ID, ProgramID: s.Program.ID, Kind: ch.Kind, FromStage: s.Stage.ID, ToStage: s.Stage.ID, Why: ch.Why, Evidence: keepEvidence(s, items), At: c.S.Now(), FromOn: c.Today()}
	if len([]rune(ch.Why)) > 500 {
		return d, "A reason of at most 500 characters, please."
	}
	if ch.Kind != store.Stay && !up {
		return d, s.Stage.Name + " is the highest stage."
	}
	switch ch.Kind {
	case store.Up:
		if !s.Readiness.Ready && ch.Why == "" {
			return d, "Not everything is shown yet. To move up all the same, give the reason: it is kept with the decision."
		}
		d.ToStage, d.TwoSign = next.ID, g.TwoSign
		if ch.From == "term" {
			if g.Term.ID == "" {
				return d, "No term is planned after today; plan one under Places, or decide from now."
			}
			d.FromOn = g.Term.From
		}
	case store.Try:
		d.ToStage = next.ID
		n, err := strconv.Atoi(ch.Visits)
		if d.Visits = n; err != nil || n < 1 || n > 12 {
			return d, "A try-out has 1 to 12 visits."
		}
		takes := g.Takes(next.ID)
		if !slices.ContainsFunc(takes, func(k store.Class) bool { return k.ID == ch.Class }) {
			if len(takes) == 0 {
				return d, "No class takes " + next.Name + ", so it cannot be tried out."
			}
			return d, "Choose the class in which " + next.Name + " is tried out."
		}
		d.ClassID = ch.Class
	case store.Stay:
		if ch.Why == "" {
			return d, "Give the reason: the player and the next coach will want to know."
		}
	default:
		return d, "Choose what is decided."
	}
	return d, ""
}

// decide records a decision about one player, with the evidence as it is now.
func decide(c *shell.Ctx) error {
	f := shell.NewForm(c)
	ch := choice{f.Get("kind"), f.Get("why"), f.Get("from"), f.Get("visits"), f.Get("class")}
	var wrong, says string
	err := c.In(func(tx *store.Tx) error {
		v, err := readWhy(c, tx, c.Param("id"), f.Get("program"))
		if err != nil {
			return err
		}
		if v.Standing.Stage.ID == "" || v.Standing.Stage.ID != f.Get("stage") {
			return store.ErrChangedSince
		}
		g, err := readGround(c, tx, v.Standing.Program.ID)
		if err != nil {
			return err
		}
		var d store.Decision
		if d, wrong = g.decision(c, v.Standing, v.Items, ch); wrong != "" {
			return nil
		}
		says = g.recorded(d, c.Today())
		return tx.AddDecision(c.Ctx(), d, c.Member.ID)
	})
	if err != nil {
		return err
	}
	if wrong != "" {
		return playerWith(c, http.StatusUnprocessableEntity, func(v *whyView) { v.Deciding, v.Wrong = ch, wrong })
	}
	c.Say(says)
	return c.To("/players/" + c.Param("id") + "?program=" + f.Get("program"))
}

// recorded says what a decision does now.
func (g ground) recorded(d store.Decision, today day.Day) string {
	switch {
	case d.Kind == store.Up && d.TwoSign:
		return "Recorded, with the evidence as it is today. It waits for a second signature."
	case d.Kind == store.Up && d.FromOn.After(today):
		return "Recorded, with the evidence as it is today. It holds from " + d.FromOn.Format("2 Jan") + "."
	}
	return "Recorded, with the evidence as it is today."
}

// decideView is everybody who may be decided about, in one list.
type decideView struct {
	ground
	Programs []store.Program
	Program  store.Program
	Rows     []decideRow
	Others   []app.Standing // who could be added to the list
	Sign     []store.Recorded
	From     string
	Wrong    int
	May      bool // decide, not only sign
}

type decideRow struct {
	app.Standing
	Next   coach.Stage
	Items  []itemView
	Choice choice
	Wrong  string
	Over   bool // a try-out that is over
	Takes  []store.Class
}

// Against reports whether moving up would be against the evidence.
func (r decideRow) Against() bool { return !r.Readiness.Ready }

func (v *decideView) load(c *shell.Ctx, tx *store.Tx, program string, with []string) error {
	var err error
	v.May = c.May(shell.Decide)
	if v.Programs, err = tx.Ladders(c.Ctx()); err != nil || len(v.Programs) == 0 {
		return err
	}
	v.Program = app.Chosen(v.Programs, program)
	if v.ground, err = readGround(c, tx, v.Program.ID); err != nil {
		return err
	}
	all, byPlayer, err := app.Everybody(c.Ctx(), tx, v.Program, c.Now)
	if err != nil {
		return err
	}
	decided, err := tx.Decisions(c.Ctx(), store.DecisionFilter{Program: v.Program.ID, Standing: true})
	if err != nil {
		return err
	}
	last := app.LastOf(decided)
	v.Sign = slices.DeleteFunc(slices.Clone(decided), func(d store.Recorded) bool { return !d.Waits() })
	for _, s := range all {
		s.Decided = last[s.Player.ID]
		next, up := s.Next()
		over := s.Decided != nil && s.Decided.TryOver()
		switch {
		case !up || s.Decided != nil && (s.Decided.Waits() || s.Decided.Ahead()):
		case s.Readiness.Ready && s.Free() || over || slices.Contains(with, s.Player.ID):
			r := decideRow{Standing: s, Next: next, Items: itemsOf(s.Readiness, byPlayer[s.Player.ID], c.Now, c.Loc), Over: over, Takes: v.Takes(next.ID), Choice: choice{Visits: "2"}}
			if s.Readiness.Ready {
				r.Choice.Kind = store.Up
			}
			v.Rows = append(v.Rows, r)
		default:
			v.Others = append(v.Others, s)
		}
	}
	return nil
}

func deciding(c *shell.Ctx) error {
	var v decideView
	err := c.In(func(tx *store.Tx) error { return v.load(c, tx, c.Query("program"), c.QueryArray("with")) })
	if err != nil {
		return err
	}
	return c.Page(pages, http.StatusOK, "decide.html", "Decide", v)
}

// decideMany records what was chosen for everybody in the list, all of it or, when something is not right, nothing.
func decideMany(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var v decideView
	status, n := http.StatusUnprocessableEntity, 0
	err := c.In(func(tx *store.Tx) error {
		with := f.All("player")
		add := f.Get("add")
		if add != "" {
			with = append(with, add)
		}
		if err := v.load(c, tx, f.Get("program"), with); err != nil {
			return err
		}
		var all []store.Decision
		v.From = f.Get("from")
		for i := range v.Rows {
			r := &v.Rows[i]
			id := r.Player.ID
			if !slices.Contains(f.All("player"), id) {
				continue // came into the list since, or was just added
			}
			if r.Choice = (choice{f.Get("kind-" + id), f.Get("why-" + id), v.From, f.Get("visits-" + id), f.Get("class-" + id)}); r.Choice.Kind == "" {
				continue
			}
			if r.Stage.ID != f.Get("stage-"+id) {
				r.Wrong = "Somebody moved " + r.Player.Name + " in the meantime."
			} else {
				var d store.Decision
				d, r.Wrong = v.decision(c, r.Standing, r.Items, r.Choice)
				all = append(all, d)
			}
			if r.Wrong != "" {
				v.Wrong++
			}
		}
		if f.Values.Has("more") { // only the list grows
			v.Wrong, status = 0, http.StatusOK
			for i := range v.Rows {
				v.Rows[i].Wrong = ""
			}
			return nil
		}
		if v.Wrong > 0 {
			return nil
		}
		n = len(all)
		for _, d := range all {
			if err := tx.AddDecision(c.Ctx(), d, c.Member.ID); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return err
	}
	if v.Wrong > 0 || f.Values.Has("more") {
		return c.Page(pages, status, "decide.html", "Decide", v)
	}
	if n == 0 {
		c.Say("Nothing was chosen, so nothing is recorded.")
		return c.To("/stairs/decide?program=" + v.Program.ID)
	}
	says := say.Count(n, "decision") + " recorded, with the evidence as it is today."
	if v.TwoSign {
		says += " Steps up wait for a second signature."
	}
	c.Say(says)
	return c.To("/stairs/record?program=" + v.Program.ID)
}

// recordView is the list of decisions.
type recordView struct {
	Programs []store.Program
	Program  store.Program // empty: all
	Rows     []store.Recorded
	MaySign  bool
	Me       string
	Loc      *time.Location
	More     bool
}

// Day writes a day of the club.
func (v recordView) Day(t time.Time) string { return t.In(v.Loc).Format("2 Jan 2006") }

const recordPage = 200

func record(c *shell.Ctx) error {
	v := recordView{Loc: c.Loc, MaySign: c.May(shell.Sign), Me: c.Member.ID}
	f := store.DecisionFilter{Limit: recordPage}
	if c.Query("all") != "" {
		f.Limit = 0
	}
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Programs, err = tx.Ladders(c.Ctx()); err != nil {
			return err
		}
		for _, p := range v.Programs {
			if p.ID == c.Query("program") {
				v.Program, f.Program = p, p.ID
			}
		}
		v.Rows, err = tx.Decisions(c.Ctx(), f)
		return err
	})
	if err != nil {
		return err
	}
	v.More = len(v.Rows) == recordPage && f.Limit > 0
	return c.Page(pages, http.StatusOK, "record.html", "Decisions", v)
}

func sign(c *shell.Ctx) error {
	var name string
	err := c.In(func(tx *store.Tx) error {
		ds, err := tx.Decisions(c.Ctx(), store.DecisionFilter{ID: c.Param("id")})
		if err != nil {
			return err
		}
		if len(ds) == 0 {
			return store.ErrNone
		}
		if name = ds[0].PlayerName; ds[0].ByID == c.Member.ID {
			return &shell.Problem{Status: http.StatusUnprocessableEntity, Says: "The second signature has to be somebody else’s."}
		}
		return tx.Sign(c.Ctx(), c.Param("id"), c.Member.ID, c.S.Now())
	})
	if err != nil {
		return err
	}
	c.Say("Signed: " + name + ".")
	return c.To(back(shell.NewForm(c), "/stairs/record"))
}
