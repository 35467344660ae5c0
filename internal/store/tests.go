package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"gruppo/internal/coach/season"
	"gruppo/internal/day"
)

// Test is a test of a class that comes back.
type Test struct {
	ID, Class, ClassName, Name string
	season.Test
	Retired bool
}

// TestFilter narrows the tests. Zero fields do not.
type TestFilter struct {
	ID, Class string
	All       bool // those that do not come back any more too
}

// Tests lists tests by class and name.
func (tx *Tx) Tests(ctx context.Context, f TestFilter) ([]Test, error) {
	type row struct {
		ID, Class, ClassName, Name string
		Doc                        []byte
		FromOn                     day.Day
		Retired                    bool
	}
	var w where
	w.and(f.ID != "", `t.id = ?`, f.ID)
	w.and(f.Class != "", `t.class_id = ?`, f.Class)
	w.and(!f.All && f.ID == "", `t.retired_at is null`)
	rows, err := collect[row](ctx, tx, "list tests", `select t.id, t.class_id as class, c.name as class_name, t.name, t.doc,
			t.from_on, t.retired_at is not null as retired from test t join class c on c.id = t.class_id`+w.String()+`
		order by c.name collate names, t.retired_at is not null, t.name collate names, t.id`, w.args...)
	if err != nil {
		return nil, err
	}
	out := make([]Test, len(rows))
	for i, r := range rows {
		out[i] = Test{ID: r.ID, Class: r.Class, ClassName: r.ClassName, Name: r.Name, Retired: r.Retired}
		if err := json.Unmarshal(r.Doc, &out[i].Test); err != nil {
			return nil, fmt.Errorf("read the test: %w", err)
		}
		out[i].From = r.FromOn
	}
	return out, nil
}

// OneTest is a test, or ErrNone.
func (tx *Tx) OneTest(ctx context.Context, id string) (Test, error) {
	all, err := tx.Tests(ctx, TestFilter{ID: id})
	if err == nil && len(all) == 0 {
		err = ErrNone
	}
	if err != nil {
		return Test{}, err
	}
	return all[0], nil
}

// PutTest adds or changes a test.
func (tx *Tx) PutTest(ctx context.Context, t Test, by string) error {
	doc, err := json.Marshal(t.Test)
	if err != nil {
		return err
	}
	return tx.exec(ctx, "keep the test", `insert into test (club_id, id, class_id, name, doc, from_on, by_member)
			values ($1, $2, $3, $4, $5, $6, $7)
		on conflict (club_id, id) do update set name = excluded.name, doc = excluded.doc, from_on = excluded.from_on`,
		tx.Club, t.ID, t.Class, t.Name, doc, t.From, by)
}

// RetireTest says that a test does not come back any more, or that it does after all. Its figures stay.
func (tx *Tx) RetireTest(ctx context.Context, id string, off bool) error {
	tag, err := tx.Exec(ctx, `update test set retired_at = case when $2 then now() end where id = $1`, id, off)
	return touched(tag.RowsAffected(), err, "end the test")
}

// TestFigure is one try of a player.
type TestFigure struct {
	Test, Player string
	On           day.Day
	Measure, Try int      // from 0
	Figure       *float64 // none: taken back
	At           time.Time
}

// TestFigures lists what a test has shown so far, by the day.
func (tx *Tx) TestFigures(ctx context.Context, test string) ([]TestFigure, error) {
	return collect[TestFigure](ctx, tx, "list the test's figures", `select test_id as test, player_id as player, on_day as "on",
			measure, try, figure, said_at as at from test_figure where test_id = $1 and figure is not null
		order by on_day, player_id, measure, try`, test)
}

// SetTestFigure keeps the newest word about a try, by the time it was said.
func (tx *Tx) SetTestFigure(ctx context.Context, f TestFigure, by string) error {
	return tx.exec(ctx, "keep the test's figure", `insert into test_figure as t (club_id, test_id, player_id, on_day, measure,
			try, figure, by_member, said_at) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)
		on conflict (club_id, test_id, player_id, on_day, measure, try) do update set figure = excluded.figure,
			by_member = excluded.by_member, said_at = excluded.said_at where t.said_at <= excluded.said_at`,
		tx.Club, f.Test, f.Player, f.On, f.Measure, f.Try, f.Figure, by, f.At)
}

// Taken are the figures of one measure as the rules read them: a day of a player with all tries.
func Taken(all []TestFigure, measure int) (out []season.Taken) {
	for _, f := range all {
		if f.Measure != measure || f.Figure == nil {
			continue
		}
		if n := len(out); n > 0 && out[n-1].On == f.On && out[n-1].Player == f.Player {
			out[n-1].Tries = append(out[n-1].Tries, *f.Figure)
			continue
		}
		out = append(out, season.Taken{On: f.On, Player: f.Player, Tries: []float64{*f.Figure}})
	}
	return out
}
