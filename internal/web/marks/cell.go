package marks

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/say"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// cellView is one player at one criterion: what was seen, what is missing, and the pad to enter more.
type cellView struct {
	Player    store.Player
	Criterion coach.Criterion
	Stage     string
	Status    evidence.Status
	Class     string
	History   []entry // newest first
	Chart     *shell.Chart
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
	var v cellView
	err := c.In(func(tx *store.Tx) (err error) {
		v, err = readCell(c, tx, c.Query("player"), c.Query("criterion"))
		return err
	})
	if err != nil {
		return err
	}
	return c.Part(pages, "cell", v)
}

func readCell(c *shell.Ctx, tx *store.Tx, player, criterion string) (v cellView, err error) {
	if !store.IsID(player) || !store.IsID(criterion) {
		return v, store.ErrNone
	}
	v = cellView{Class: c.Query("class"), Day: c.Query("day"), Side: c.Query("side"), Today: c.Now.Format(time.DateOnly), Typed: map[string]string{}}
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
	v.Chart = shell.DrawChart(v.Criterion, marks, c.Loc, 250, 84)
	for _, m := range marks {
		first := say.First(m.ByName)
		if !m.Struck && !slices.Contains(v.By, first) {
			v.By = append(v.By, first)
		}
		v.History = append(v.History, entry{m, m.Said(v.Criterion), m.At.In(c.Loc).Format("Mon 2 Jan"), evidence.Meets(v.Criterion, m)})
	}
	slices.Reverse(v.History)
	return v, nil
}

// enter keeps a mark that was on paper, or is seen now. A day without a time is noon.
func enter(c *shell.Ctx) error {
	f := shell.NewForm(c)
	var v cellView
	err := c.In(func(tx *store.Tx) (err error) {
		if v, err = readCell(c, tx, f.Get("player"), f.Get("criterion")); err != nil {
			return err
		}
		v.Class, v.Day, v.Side = f.Get("class"), f.Get("day"), f.Get("side")
		m, says := read(f, v.Criterion)
		day, bad := time.ParseInLocation(time.DateOnly, v.Day, c.Loc)
		switch {
		case says != "":
		case bad != nil || day.After(c.Now):
			says = "The day it was seen: today or before."
		}
		if says != "" {
			v.Wrong = says
			for _, k := range []string{"taps", "tries", "figure"} {
				v.Typed[k] = f.Get(k)
			}
			return nil
		}
		m.ID, m.PlayerID, m.CriterionID, m.By, m.Note = store.NewID(), v.Player.ID, v.Criterion.ID, c.Member.ID, "entered at the desk"
		if m.At = c.Now; v.Day != v.Today {
			m.At = day.Add(12 * time.Hour)
		}
		if id := f.Get("id"); store.IsID(id) { // sent twice, it is kept once
			m.ID = id
		}
		if err := tx.AddMark(c.Ctx(), m); err != nil {
			return err
		}
		wasDay, side, class := v.Day, v.Side, v.Class
		v, err = readCell(c, tx, v.Player.ID, v.Criterion.ID)
		v.Day, v.Side, v.Class, v.Kept = wasDay, side, class, true
		return err
	})
	if err != nil {
		return err
	}
	return c.Part(pages, "cell", v)
}

// read reads the figure that was typed or tapped.
func read(f *shell.Form, k coach.Criterion) (m coach.Mark, wrong string) {
	if k.BothSides {
		if m.Side = coach.Side(f.Get("side")); m.Side != coach.Left && m.Side != coach.Right {
			return m, "Which side was it, left or right?"
		}
	}
	number := func(s string) (float64, bool) {
		x, err := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
		return x, err == nil && x >= 0 && x <= 1e6
	}
	switch k.Measure {
	case coach.Makes, coach.Streak:
		typed, taps := f.Get("tries"), f.Get("taps")                                                               // two fields: what is typed is never taken for taps
		if made, of, ok := strings.Cut(strings.ReplaceAll(typed, " ", ""), "of"); ok && k.Measure == coach.Makes { // typed: 8 of 10
			x, okMade := number(made)
			n, okOf := number(of)
			if !okMade || !okOf || n < 1 || x > n || n != math.Trunc(n) || n > 1000 {
				return m, "Good ones of tries, such as 8 of 10."
			}
			m.Figure, m.Tries = x, int(n)
			return m, ""
		}
		if x, ok := number(typed); ok && k.Measure == coach.Streak && x == math.Trunc(x) {
			m.Figure, m.Tries = x, int(x)
			return m, ""
		}
		if typed != "" || taps == "" || strings.Trim(taps, "01") != "" || len(taps) > 1000 {
			return m, "Tap good and miss, or type " + map[bool]string{true: "8 of 10.", false: "the longest run."}[k.Measure == coach.Makes]
		}
		good, best := evidence.Runs(taps)
		m.Tries, m.Figure = len(taps), float64(good)
		if k.Measure == coach.Streak {
			m.Figure = float64(best)
		}
		return m, ""
	case coach.Check:
		for i := range k.Points {
			m.Points = append(m.Points, slices.Contains(f.All("point"), strconv.Itoa(i)))
		}
		return m, ""
	}
	x, ok := number(f.Get("figure"))
	if k.Measure == coach.Distance {
		x, ok = f.Units.ParseLength(f.Get("figure"))
	}
	if !ok || k.Measure == coach.Grade && x != math.Trunc(x) {
		such := coach.Figure(k.Want)
		if k.Measure == coach.Distance {
			such = f.Units.Long(k.Want)
		}
		return m, "A figure, such as " + such + "."
	}
	m.Figure = x
	return m, ""
}
