package marks

import (
	"slices"
	"strconv"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/marking"
	"gruppo/internal/coach/say"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

// cellView is one player at one criterion: what was seen, what is missing, and the pad to enter more.
type cellView struct {
	Player    store.Player
	Criterion coach.Criterion
	Stage     string
	Status    evidence.Status
	Class     string
	History   []entry // newest first
	Chart     *svg.ChartView
	By        []string
	Day       string // the day that is entered, as typed
	Today     string
	Side      string
	Wrong     string
	Typed     map[string]string
	Kept      bool // just now
}

type entry struct {
	coach.Mark
	Said, Day string
	Meets     bool
}

func cell(c *shell.Ctx) error {
	v, err := cellOf(c, c.Query("player"), c.Query("criterion"))
	if err != nil {
		return err
	}
	return c.Part(pages, "cell", v)
}

func cellOf(c *shell.Ctx, player, criterion string) (v cellView, err error) {
	err = c.In(func(tx *store.Tx) (err error) {
		v, err = readCell(c, tx, player, criterion)
		return err
	})
	return v, err
}

func readCell(c *shell.Ctx, tx *store.Tx, player, criterion string) (v cellView, err error) {
	if !store.IsID(player) || !store.IsID(criterion) {
		return v, store.ErrNone
	}
	v = cellView{
		Class: c.Query("class"),
		Day:   c.Query("day"),
		Side:  c.Query("side"),
		Today: c.Now.Format(time.DateOnly),
		Typed: map[string]string{},
	}
	if v.Day == "" {
		v.Day = v.Today
	}
	if v.Player, err = tx.Player(c.Ctx(), player); err != nil {
		return v, err
	}
	programs, err := tx.Ladders(c.Ctx())
	if err != nil {
		return v, err
	}
	for _, p := range programs {
		for _, s := range p.Stages {
			for _, k := range s.Criteria {
				if k.ID == criterion {
					v.Criterion, v.Stage = k, s.Name
				}
			}
		}
	}
	if v.Criterion.ID == "" {
		return v, store.ErrNone
	}
	marks, err := tx.Marks(c.Ctx(), store.MarkFilter{Player: player, Criterion: criterion})
	if err != nil {
		return v, err
	}
	v.Status = evidence.Of(v.Criterion, marks, c.Now)
	v.Chart = svg.Chart(v.Criterion, marks, c.Loc, 250, 84)
	for _, m := range marks {
		first := say.First(m.ByName)
		if !m.Struck && !slices.Contains(v.By, first) {
			v.By = append(v.By, first)
		}
		v.History = append(
			v.History,
			entry{m, m.Said(v.Criterion), m.At.In(c.Loc).Format("Mon 2 Jan"), evidence.Meets(v.Criterion, m)},
		)
	}
	slices.Reverse(v.History)
	return v, nil
}

// enter keeps a mark that was on paper, or is seen now. A day without a time is noon.
func enter(c *shell.Ctx) error {
	f := shell.NewForm(c)
	v, err := cellOf(c, f.Get("player"), f.Get("criterion"))
	if err != nil {
		return err
	}
	v.Class, v.Day, v.Side = f.Get("class"), f.Get("day"), f.Get("side")
	m, wrong := marking.Read(v.Criterion, typed(f), f.Units)
	day, bad := time.ParseInLocation(time.DateOnly, v.Day, c.Loc)
	if wrong == "" && (bad != nil || day.After(c.Now)) {
		wrong = "The day it was seen: today or before."
	}
	if wrong != "" {
		v.Wrong = wrong
		for _, k := range []string{"taps", "tries", "figure"} {
			v.Typed[k] = f.Get(k)
		}
		return c.Part(pages, "cell", v)
	}
	m.ID, m.PlayerID, m.CriterionID, m.By, m.Note = store.NewID(), v.Player.ID, v.Criterion.ID, c.Member.ID, "entered at the desk"
	if m.At = c.Now; v.Day != v.Today {
		m.At = day.Add(12 * time.Hour)
	}
	if id := f.Get("id"); store.IsID(id) { // sent twice, it is kept once
		m.ID = id
	}
	if err := c.In(func(tx *store.Tx) error { return tx.AddMark(c.Ctx(), m) }); err != nil {
		return err
	}
	was := v
	if v, err = cellOf(c, was.Player.ID, was.Criterion.ID); err != nil {
		return err
	}
	v.Day, v.Side, v.Class, v.Kept = was.Day, was.Side, was.Class, true
	return c.Part(pages, "cell", v)
}

// typed is what was typed or tapped in the form.
func typed(f *shell.Form) marking.Typed {
	t := marking.Typed{
		Side:   coach.Side(f.Get("side")),
		Taps:   f.Get("taps"),
		Tries:  f.Get("tries"),
		Figure: f.Get("figure"),
	}
	for _, p := range f.All("point") {
		if i, err := strconv.Atoi(p); err == nil {
			t.Points = append(t.Points, i)
		}
	}
	return t
}
