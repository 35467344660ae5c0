package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"gruppo/internal/coach/say"
)

// Retirable is a kind of thing that can be taken out and put back; what rests on it is kept.
type Retirable string

const (
	OutProgram   Retirable = "program"
	OutStage     Retirable = "stage"
	OutCriterion Retirable = "criterion"
	OutClass     Retirable = "class"
	OutVenue     Retirable = "venue"
)

// Known reports whether it is one of them: its name becomes part of a statement.
func (k Retirable) Known() bool {
	switch k {
	case OutProgram, OutStage, OutCriterion, OutClass, OutVenue:
		return true
	}
	return false
}

// SetOut takes a thing out, or puts it back. ErrTaken where its name has been given to another meanwhile.
func (tx *Tx) SetOut(ctx context.Context, kind Retirable, id string, out bool) error {
	if !kind.Known() {
		return ErrNone
	}
	tag, err := tx.Exec(ctx, fmt.Sprintf(`update %s set retired_at = case when $2 then now() end where id = $1
			and (retired_at is null) = $2`, kind), id, out)
	return touched(tag.RowsAffected(), taken(err), "take it out")
}

// Resting is what rests on a thing: what is kept of it when it is out, and what keeps it in.
type Resting struct {
	Marks, Decisions, Sessions int
	Players                    []string // who stand there now
	Classes                    []string // that are held there, or in it
	Ahead                      int      // sessions that are planned and have not begun
}

// Kept says what is kept of a thing that is taken out; empty where nothing rests on it.
func (r Resting) Kept() string {
	var parts []string
	for _, p := range []struct {
		n    int
		what string
	}{{r.Marks, "mark"}, {r.Decisions, "decision"}, {r.Sessions, "session"}} {
		if p.n > 0 {
			parts = append(parts, say.Count(p.n, p.what))
		}
	}
	return say.List(parts)
}

// Rests reads what rests on a thing.
func (tx *Tx) Rests(ctx context.Context, kind Retirable, id string, now time.Time) (Resting, error) {
	criteria := map[Retirable]string{
		OutCriterion: `select $1::uuid`,
		OutStage:     `select id from criterion where stage_id = $1`,
		OutProgram:   `select c.id from criterion c join stage s on s.id = c.stage_id where s.program_id = $1`,
	}[kind]
	if criteria == "" {
		criteria = `select null::uuid where $1::uuid is null`
	}
	players, decisions := `false`, `false`
	switch kind {
	case OutStage:
		players, decisions = `s.stage_id = $1`, `d.from_stage = $1 or d.to_stage = $1`
	case OutProgram:
		players, decisions = `s.program_id = $1`, `d.program_id = $1`
	}
	held := map[Retirable]string{OutProgram: `k.program_id = $1`, OutStage: `$1 = any(k.stage_ids)`, OutVenue: `k.venue_id = $1`, OutClass: `k.id = $1`}[kind]
	if held == "" {
		held = `false`
	}
	return one[Resting](ctx, tx, "read what rests on it", `select
		(select count(*)::int from mark m where m.criterion_id in (`+criteria+`)) as marks,
		(select count(*)::int from decision d where `+decisions+`) as decisions,
		(select count(*)::int from session s join class k on k.id = s.class_id where (`+held+`) and exists (select
			from run_event r where r.session_id = s.id)) as sessions,
		array(select p.name from standing s join player p on p.id = s.player_id where p.left_on is null and (`+players+`) order by p.name collate names) as players,
		array(select k.name from class k where k.retired_at is null and (`+held+`) order by k.name collate names) as classes,
		(select count(*)::int from session s join class k on k.id = s.class_id where (`+held+`) and s.starts_at > $2
			and not exists (select from run_event r where r.session_id = s.id)) as ahead`, id, now)
}

// Out is something that was taken out.
type Out struct {
	Kind     Retirable
	ID, Name string
	Of       string // the program or stage it was in; empty where it was in none
}

// TakenOut lists what was taken out of the ladders, or of classes and places.
func (tx *Tx) TakenOut(ctx context.Context, kinds ...Retirable) ([]Out, error) {
	return collect[Out](ctx, tx, "list what was taken out", `select kind, id, name, of from (
		select 'program' as kind, id, name, '' as of, retired_at from program union all
		select 'stage', s.id, s.name, p.name, s.retired_at from stage s join program p on p.id = s.program_id
			where p.retired_at is null union all
		select 'criterion', c.id, c.wording, s.name, c.retired_at from criterion c join stage s on s.id = c.stage_id
			join program p on p.id = s.program_id where s.retired_at is null and p.retired_at is null union all
		select 'class', id, name, '', retired_at from class union all
		select 'venue', id, name, '', retired_at from venue) x
		where retired_at is not null and kind = any($1) order by retired_at desc, name`, kinds)
}

// Cancel says that a session does not take place, or that it does after all.
func (tx *Tx) Cancel(ctx context.Context, session string, off bool) error {
	tag, err := tx.Exec(ctx, `update session set cancelled_at = case when $2 then now() end,
			date_changes = date_changes + 1 where id = $1
			and (cancelled_at is null) = $2`, session, off)
	return touched(tag.RowsAffected(), err, "cancel the session")
}

// ErrRun is returned for a session that cannot be deleted: it was run, or something was marked or noted in it.
var ErrRun = fmt.Errorf("the session was run")

// DeleteSession deletes a session of which nothing has been run, marked or noted.
func (tx *Tx) DeleteSession(ctx context.Context, id string) error {
	var run bool
	err := tx.QueryRow(ctx, `select exists (select from run_event where session_id = $1) or exists (select from mark
			where session_id = $1) or exists (select from tally where session_id = $1)
		or exists (select from key_mark where session_id = $1) or exists (select from player_note
			where session_id = $1) or exists (select from looked where session_id = $1)
			or exists (select from feedback where session_id = $1) or exists (select from point where session_id = $1)
			or exists (select from crossing where session_id = $1)
		or exists (select from refused where session_id = $1) or exists (select from climb where session_id = $1)
			or exists (select from member where for_session = $1)
		or exists (select from attendance where session_id = $1 and has_come(state))`, id).Scan(&run)
	if err != nil {
		return fmt.Errorf("look at the session: %w", err)
	}
	if run {
		return ErrRun
	}
	for _, of := range []string{"session_code", "round_done", "look", "attendance", "session_member"} {
		if err := tx.exec(ctx, "delete what belongs to the session", `delete from `+of+` where session_id = $1`, id); err != nil {
			return err
		}
	}
	tag, err := tx.Exec(ctx, `delete from session where id = $1`, id)
	return touched(tag.RowsAffected(), err, "delete the session")
}

// DropAhead deletes the sessions of a class that have not begun, and says how many; one in which something was noted
// already stays.
func (tx *Tx) DropAhead(ctx context.Context, class string, now time.Time) (int, error) {
	rows, err := collect[struct{ ID string }](ctx, tx, "list the sessions ahead", `select id from session s
			where class_id = $1 and starts_at > $2
		and not exists (select from run_event r where r.session_id = s.id)`, class, now)
	n := 0
	for _, r := range rows {
		switch err := tx.DeleteSession(ctx, r.ID); {
		case errors.Is(err, ErrRun):
		case err != nil:
			return 0, err
		default:
			n++
		}
	}
	return n, err
}

// NameOf is what a thing is called, or ErrNone.
func (tx *Tx) NameOf(ctx context.Context, kind Retirable, id string) (name string, err error) {
	column := "name"
	if kind == OutCriterion {
		column = "wording"
	}
	if !kind.Known() || !IsID(id) {
		return "", ErrNone
	}
	row, err := one[struct{ Name string }](ctx, tx, "find what it is called", fmt.Sprintf(`select %s as name from %s
			where id = $1`, column, kind), id)
	return row.Name, err
}
