package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"gruppo/internal/coach/home"
	"gruppo/internal/day"

	"github.com/jackc/pgx/v5"
)

// HomeTask is practice at home, for a class or for players by name.
type HomeTask struct {
	ID, Name  string
	Class     string // whoever is in it; empty: none
	ClassName string // its name
	For       []HomePlayer
	home.Task
	Criterion string // that its figures are about; empty: none
	ByID, By  string
	At        time.Time
}

// HomePlayer is somebody who has a task.
type HomePlayer struct {
	Player    string   `json:"player"`
	Name      string   `json:"name"`
	BirthYear int      `json:"born"`
	Opened    int      `json:"opened"` // parts that the coach opened
	Named     bool     `json:"named"`  // else of the class
	Limits    []string `json:"limits"` // what they must not do these days
}

// Whom is the player of a task with that id; ok is false where they do not have it.
func (t HomeTask) Whom(player string) (p HomePlayer, ok bool) {
	for _, p := range t.For {
		if p.Player == player {
			return p, true
		}
	}
	return HomePlayer{}, false
}

// HomeFilter narrows the tasks. Zero fields do not.
type HomeFilter struct {
	ID, Player string
	Class      []string // for these classes, or somebody who is in one of them
	On         day.Day  // that are asked for on this day or later
	Today      day.Day  // on which limits hold
}

// HomeTasks lists tasks, the newest first, each with whom it is for.
func (tx *Tx) HomeTasks(ctx context.Context, f HomeFilter) ([]HomeTask, error) {
	type row struct {
		ID, Name, Class, Of, Criterion, ByID, ByName string
		Doc                                          []byte
		FromOn, Until, EndedOn                       day.Day
		At                                           time.Time
		Whom                                         []HomePlayer
	}
	var w where
	w.and(f.ID != "", `t.id = ?`, f.ID)
	w.and(!f.On.IsZero(), `coalesce(least(t.until, t.ended_on), 'infinity') >= ?::date`, f.On)
	w.and(f.Player != "", `t.id in (select o.task_id from home_of o where o.player_id = ?)`, f.Player)
	w.and(f.Class != nil, `t.id in (select o.task_id from home_of o join class_player e on e.player_id = o.player_id
		where e.class_id = any(?::uuid[]))`, f.Class)
	w.args = append(w.args, f.Today)
	rows, err := collect[row](ctx, tx, "list practice at home", `select t.id, t.name, coalesce(t.class_id::text, '') as class,
			coalesce(c.name, '') as of, coalesce(t.criterion_id::text, '') as criterion, m.id as by_id,
			m.name as by_name, t.doc, t.from_on, t.until, t.ended_on, t.at,
			(select coalesce(json_agg(json_build_object('player', p.id, 'name', p.name, 'born', coalesce(p.birth_year, 0),
				'opened', coalesce(h.opened, 0), 'named', coalesce(h.named, false), 'limits', coalesce((select json_agg(l.what
					order by l.what) from player_limit l where l.player_id = p.id
					and coalesce(l.until, 'infinity') >= `+fmt.Sprintf("$%d", len(w.args))+`::date), '[]'))
				order by p.name collate names), '[]') from home_of o join player p on p.id = o.player_id
				left join home_for h on (h.task_id, h.player_id) = (t.id, p.id) where o.task_id = t.id) as whom
		from home_task t join member m on m.id = t.by_member left join class c on c.id = t.class_id`+w.String()+`
		order by t.ended_on is not null, t.at desc, t.id limit 200`, w.args...)
	if err != nil {
		return nil, err
	}
	out := make([]HomeTask, len(rows))
	for i, r := range rows {
		t := HomeTask{ID: r.ID, Name: r.Name, Class: r.Class, ClassName: r.Of, For: r.Whom, Criterion: r.Criterion, ByID: r.ByID, By: r.ByName, At: r.At}
		if err := json.Unmarshal(r.Doc, &t.Task); err != nil {
			return nil, fmt.Errorf("read practice at home: %w", err)
		}
		t.From, t.Until, t.Ends = r.FromOn, r.Until, r.EndedOn
		out[i] = t
	}
	return out, nil
}

// HomeTask is one of them, or ErrNone.
func (tx *Tx) HomeTask(ctx context.Context, id string, today day.Day) (HomeTask, error) {
	all, err := tx.HomeTasks(ctx, HomeFilter{ID: id, Today: today})
	if err == nil && len(all) == 0 {
		err = ErrNone
	}
	if err != nil {
		return HomeTask{}, err
	}
	return all[0], nil
}

// PutHomeTask adds or changes a task; those named are in place of those before.
func (tx *Tx) PutHomeTask(ctx context.Context, t HomeTask, named []string, by string) error {
	doc, err := json.Marshal(t.Task)
	if err != nil {
		return err
	}
	err = tx.exec(ctx, "keep practice at home", `insert into home_task (club_id, id, name, class_id, criterion_id, doc, from_on,
			until, by_member, at) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)
		on conflict (club_id, id) do update set name = excluded.name, class_id = excluded.class_id,
			criterion_id = excluded.criterion_id, doc = excluded.doc, from_on = excluded.from_on, until = excluded.until`,
		tx.Club, t.ID, t.Name, null(t.Class), null(t.Criterion), doc, t.From, t.Until, by, t.At)
	if err != nil {
		return err
	}
	err = tx.exec(ctx, "take practice at home from somebody", `update home_for set named = false
			where task_id = $1 and named and player_id <> all($2::uuid[])`, t.ID, list(named))
	if err != nil {
		return err
	}
	return tx.exec(ctx, "give practice at home to somebody", `insert into home_for (club_id, task_id, player_id)
			select $1, $2, unnest($3::uuid[]) on conflict (club_id, task_id, player_id) do update set named = true
			where not home_for.named`, tx.Club, t.ID, list(named))
}

// EndHomeTask ends a task after a day; no day: it goes on after all.
func (tx *Tx) EndHomeTask(ctx context.Context, id string, after day.Day) error {
	tag, err := tx.Exec(ctx, `update home_task set ended_on = $2 where id = $1`, id, after)
	return touched(tag.RowsAffected(), err, "end practice at home")
}

// OpenHomePart opens parts of a task for somebody.
func (tx *Tx) OpenHomePart(ctx context.Context, task, player string, parts int) error {
	return tx.exec(ctx, "open the next part", `insert into home_for (club_id, task_id, player_id, named, opened)
			values ($1, $2, $3, false, $4) on conflict (club_id, task_id, player_id) do update set opened = excluded.opened`,
		tx.Club, task, player, parts)
}

// HomeAnswer is what came back of a task from somebody.
type HomeAnswer struct {
	Task, Player string
	home.Answer
	At   time.Time
	Mark string // that its figure became
}

// HomeAnswers lists what came back of tasks, by the day; of one player where one is named.
func (tx *Tx) HomeAnswers(ctx context.Context, tasks []string, player string) (out []HomeAnswer, err error) {
	rows, err := tx.Query(ctx, `select task_id::text, player_id::text, on_day, part, done, felt, figure, words, said_at,
			coalesce(mark_id::text, '') from home_day where task_id = any($1::uuid[])
		and ($2 = '' or player_id::text = $2) order by on_day, said_at`, list(tasks), player)
	if err != nil {
		return nil, fmt.Errorf("list what came back from home: %w", err)
	}
	return pgx.CollectRows(rows, func(row pgx.CollectableRow) (a HomeAnswer, err error) {
		err = row.Scan(&a.Task, &a.Player, &a.On, &a.Part, &a.Done, &a.Felt, &a.Figure, &a.Words, &a.At, &a.Mark)
		return a, err
	})
}

// Of are the answers of a player to a task.
func Of(all []HomeAnswer, task, player string) (out []home.Answer) {
	for _, a := range all {
		if a.Task == task && a.Player == player {
			out = append(out, a.Answer)
		}
	}
	return out
}

// SetHomeAnswer keeps the newest word about a day, by the time it was said, and says which mark the word before had
// become; ErrChangedSince where a newer one is there.
func (tx *Tx) SetHomeAnswer(ctx context.Context, a HomeAnswer, link string) (mark string, err error) {
	err = tx.QueryRow(ctx, `insert into home_day as h (club_id, task_id, player_id, on_day, part, done, felt, figure, words,
			said_at, link_id) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)
		on conflict (club_id, task_id, player_id, on_day) do update set part = excluded.part, done = excluded.done,
			felt = excluded.felt, figure = excluded.figure, words = excluded.words, said_at = excluded.said_at,
			link_id = excluded.link_id
		where h.said_at <= excluded.said_at returning coalesce(mark_id::text, '')`,
		tx.Club, a.Task, a.Player, a.On, a.Part, a.Done, a.Felt, a.Figure, a.Words, a.At, null(link)).Scan(&mark)
	if errors.Is(err, pgx.ErrNoRows) {
		return "", ErrChangedSince
	}
	if err != nil {
		return "", fmt.Errorf("keep what came back from home: %w", err)
	}
	return mark, nil
}

// SetHomeMark says which mark the figure of a day became; none: it became none.
func (tx *Tx) SetHomeMark(ctx context.Context, a HomeAnswer, mark string) error {
	return tx.exec(ctx, "keep the mark from home", `update home_day set mark_id = $4
			where task_id = $1 and player_id = $2 and on_day = $3`, a.Task, a.Player, a.On, null(mark))
}
