package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"gruppo/internal/coach/deciding"
	"gruppo/internal/day"
)

// AddDecision records a decision and carries it out when it holds from today and needs no second signature. It returns
// ErrChangedSince when the player is no longer on the stage it was decided from.
func (tx *Tx) AddDecision(ctx context.Context, d deciding.Decision, by string) error {
	tag, err := tx.Exec(ctx, `select from standing where player_id = $1 and program_id = $2
			and stage_id = $3 for update`, d.PlayerID, d.ProgramID, d.FromStage)
	if err != nil {
		return fmt.Errorf("find the player's stage: %w", err)
	}
	if tag.RowsAffected() == 0 {
		return ErrChangedSince
	}
	if err := tx.insertDecision(ctx, d, by); err != nil {
		return err
	}
	return tx.exec(ctx, "carry the decision out", `select step_up_due($1, $2)`, d.At, tx.Club)
}

// RecordDecision writes down a decision of the past that was carried out then.
func (tx *Tx) RecordDecision(ctx context.Context, d deciding.Decision, by string) error {
	if err := tx.insertDecision(ctx, d, by); err != nil || d.Kind != deciding.Up {
		return err
	}
	return tx.exec(ctx, "record the step up", `insert into step_up (club_id, decision_id, at)
			values ($1, $2, $3)`, tx.Club, d.ID, d.At)
}

func (tx *Tx) insertDecision(ctx context.Context, d deciding.Decision, by string) error {
	doc, err := json.Marshal(d.Evidence)
	if err != nil {
		return err
	}
	return tx.exec(ctx, "record the decision", `insert into decision (club_id, id, player_id, program_id, kind,
			from_stage, to_stage, why, evidence, by_member, at, from_on, visits, class_id, two_sign)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, coalesce($12::date, `+dayOf("$11::timestamptz")+`),
			$13, $14, $15)`,
		tx.Club, d.ID, d.PlayerID, d.ProgramID, d.Kind, d.FromStage, d.ToStage, d.Why, doc, by, d.At, d.FromOn,
		d.Visits, null(d.ClassID), d.TwoSign)
}

// Sign puts the second signature under a decision and carries it out if its day has come; ErrChangedSince when it is
// signed or superseded already, or was made by the same person.
func (tx *Tx) Sign(ctx context.Context, decision, by string, at time.Time) error {
	tag, err := tx.Exec(ctx, `insert into signature (club_id, decision_id, by_member, at)
			select d.club_id, d.id, $2, $3 from decision d where d.id = $1 and d.two_sign and d.by_member <> $2
		and not exists (select from decision n where (n.player_id, n.program_id) = (d.player_id, d.program_id)
			and (n.at, n.id) > (d.at, d.id)) on conflict do nothing`, decision, by, at)
	if err != nil {
		return fmt.Errorf("sign the decision: %w", err)
	}
	if tag.RowsAffected() == 0 {
		return ErrChangedSince
	}
	return tx.exec(ctx, "carry the decision out", `select step_up_due($1, $2)`, at, tx.Club)
}

// StepUpDue carries out the decisions of every club whose day has come.
func (s *Store) StepUpDue(ctx context.Context, at time.Time) (n int, err error) {
	if err = s.Pool.QueryRow(ctx, `select step_up_due($1)`, at).Scan(&n); err != nil {
		err = fmt.Errorf("carry out the decisions that are due: %w", err)
	}
	return n, err
}

// DecisionFilter narrows the record. Zero fields do not.
type DecisionFilter struct {
	Player, Program, ID string
	Players             []string
	Standing            bool // only the last about each player and program
	Limit               int
}

// Decisions lists decisions, the newest first.
func (tx *Tx) Decisions(ctx context.Context, f DecisionFilter) ([]deciding.Recorded, error) {
	limit := ""
	if f.Limit > 0 {
		limit = fmt.Sprint(" limit ", f.Limit)
	}
	type row struct {
		ID, PlayerID, ProgramID, Kind, FromStage, ToStage, Why string
		Evidence                                               deciding.Evidence
		By, ByID                                               string
		At                                                     time.Time
		FromOn                                                 day.Day
		Visits                                                 int
		ClassID, PlayerName, ProgramName, ClassName, Signed    string
		TwoSign, Done, Superseded                              bool
		SignedAt                                               *time.Time
		Came                                                   int
	}
	var w where
	w.and(f.Player != "", `d.player_id = ?`, f.Player)
	w.and(f.Program != "", `d.program_id = ?`, f.Program)
	w.and(f.ID != "", `d.id = ?`, f.ID)
	w.and(f.Players != nil, `d.player_id = any(?::uuid[])`, f.Players)
	w.and(f.Standing, `l.id = d.id`)
	rows, err := collect[row](ctx, tx, "list decisions", `select d.id, d.player_id, d.program_id, d.kind,
			f.name as from_stage, t.name as to_stage, d.why, d.evidence, m.name as by, m.id as by_id, d.at, d.from_on,
			d.visits,
			coalesce(d.class_id::text, '') as class_id, p.name as player_name, g.name as program_name,
				coalesce(k.name, '') as class_name, coalesce(b.name, '') as signed, x.at as signed_at, d.two_sign,
				u.decision_id is not null as done,
			l.id <> d.id or d.kind = 'up' and u.decision_id is null and not exists (select from standing s
				where (s.player_id, s.program_id, s.stage_id) = (d.player_id, d.program_id,
				d.from_stage)) as superseded, coalesce(o.came, 0) as came
		from decision d join stage f on f.id = d.from_stage join stage t on t.id = d.to_stage
			join member m on m.id = d.by_member join player p on p.id = d.player_id
			join program g on g.id = d.program_id
			left join class k on k.id = d.class_id left join signature x on x.decision_id = d.id left
				join member b on b.id = x.by_member left join step_up u on u.decision_id = d.id left
				join open_tryout o on o.id = d.id
			join lateral (select id from decision n where (n.player_id, n.program_id) = (d.player_id, d.program_id)
				order by n.at desc, n.id desc limit 1) l on true`+w.String()+`
		order by d.at desc, d.id desc`+limit, w.args...)
	out := make([]deciding.Recorded, len(rows))
	for i, r := range rows {
		out[i] = deciding.Recorded{
			Decision: deciding.Decision{
				ID:        r.ID,
				PlayerID:  r.PlayerID,
				ProgramID: r.ProgramID,
				Kind:      deciding.Kind(r.Kind),
				FromStage: r.FromStage,
				ToStage:   r.ToStage,
				Why:       r.Why,
				Evidence:  r.Evidence,
				By:        r.By,
				At:        r.At,
				FromOn:    r.FromOn,
				Visits:    r.Visits,
				ClassID:   r.ClassID,
				TwoSign:   r.TwoSign,
			},
			PlayerName:  r.PlayerName,
			ProgramName: r.ProgramName,
			ClassName:   r.ClassName,
			ByID:        r.ByID,
			Signed:      r.Signed,
			SignedAt:    r.SignedAt,
			Done:        r.Done,
			Superseded:  r.Superseded,
			Came:        r.Came,
		}
	}
	return out, err
}

// Step is a step up that was carried out.
type Step struct {
	PlayerID, FromStage string
	FromOn              day.Day
}

// Steps lists the steps up of a program that were carried out, the newest first.
func (tx *Tx) Steps(ctx context.Context, program string) ([]Step, error) {
	return collect[Step](ctx, tx, "list the steps up", `select d.player_id, d.from_stage, d.from_on from decision d
			join step_up u on u.decision_id = d.id where d.program_id = $1 order by d.from_on desc, d.at desc`, program)
}

// TwoSign reports whether the club wants a second signature under a step up.
func (tx *Tx) TwoSign(ctx context.Context) (on bool, err error) {
	err = tx.QueryRow(ctx, `select two_sign from club`).Scan(&on)
	return on, err
}

// SetTwoSign says whether it does.
func (tx *Tx) SetTwoSign(ctx context.Context, on bool) error {
	return tx.exec(ctx, "keep the setting", `update club set two_sign = $1`, on)
}

// Look is a mark that is to be taken in a session.
type Look struct {
	SessionID, PlayerID, CriterionID, Side string
	By                                     string // member; empty: anybody
}

// Looks lists the looks that are planned for sessions, and not taken yet.
func (tx *Tx) Looks(ctx context.Context, sessions []string) ([]Look, error) {
	return collect[Look](ctx, tx, "list the planned looks", `select l.session_id, l.player_id, l.criterion_id, l.side,
			coalesce(l.by_member::text, '') as by from look l where l.session_id = any($1::uuid[])
		and not exists (select from mark m where m.session_id = l.session_id and m.player_id = l.player_id
			and m.criterion_id = l.criterion_id and (l.side = '' or m.side = l.side))
			order by l.player_id, l.criterion_id, l.side`, list(sessions))
}

// PutLooks plans looks into a program's sessions, in place of all that were planned in those that end after a time:
// also where none is left.
func (tx *Tx) PutLooks(ctx context.Context, program string, after time.Time, looks []Look) error {
	if err := tx.exec(ctx, "clear the planned looks", `delete from look where session_id in (select s.id
			from session s join class c on c.id = s.class_id
		where c.program_id = $1 and s.starts_at + make_interval(mins => s.minutes) > $2)`, program, after); err != nil {
		return err
	}
	for _, l := range looks {
		if err := tx.exec(ctx, "plan the look", `insert into look (club_id, session_id, player_id, criterion_id, side,
			by_member) values ($1, $2, $3, $4, $5, $6) on conflict do nothing`,
			tx.Club, l.SessionID, l.PlayerID, l.CriterionID, l.Side, null(l.By)); err != nil {
			return err
		}
	}
	return nil
}

// GuardianLink is a link that shows one child.
type GuardianLink struct {
	ID, PlayerID, Label string
	Own                 bool // of the grown-up player themselves
	ByName              string
	MadeAt              time.Time
	Until               day.Day // through that day
	WithdrawnAt, SeenAt *time.Time
}

// GuardianLinks lists the links of a player, the newest first.
func (tx *Tx) GuardianLinks(ctx context.Context, player string) ([]GuardianLink, error) {
	return collect[GuardianLink](ctx, tx, "list the guardian's links", `select g.id, g.player_id, g.label, g.own,
			m.name as by_name, g.made_at, g.until_on as until, g.withdrawn_at, g.seen_at from guardian_link g
			join member m on m.id = g.by_member
		where g.player_id = $1 order by g.made_at desc`, player)
}

// AddGuardianLink keeps a link by the hash of its secret.
func (tx *Tx) AddGuardianLink(ctx context.Context, g GuardianLink, hash, by string) error {
	return tx.exec(ctx, "keep the guardian's link", `insert into guardian_link (club_id, id, player_id, hash, label,
			by_member, made_at, until_on, own) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
		tx.Club, g.ID, g.PlayerID, hash, g.Label, by, g.MadeAt, g.Until, g.Own)
}

// WithdrawGuardianLink ends a link at once, and says whose it was.
func (tx *Tx) WithdrawGuardianLink(ctx context.Context, id string, at time.Time) (player string, err error) {
	type row struct{ PlayerID string }
	r, err := one[row](ctx, tx, "withdraw the guardian's link", `update guardian_link
			set withdrawn_at = coalesce(withdrawn_at, $2) where id = $1 returning player_id`, id, at)
	return r.PlayerID, err
}

// SetLinkMail keeps where a link's reminders go, with the key that ends them and the program's own address; nowhere:
// they end.
func (tx *Tx) SetLinkMail(ctx context.Context, link, to, key, base string) error {
	return tx.exec(ctx, "keep where reminders go", `update guardian_link set mail = $2, base = $4,
			mail_key = case when $2 <> '' then $3 end where id = $1`, link, to, key, base)
}

// Shown is the child that a guardian's link shows.
type Shown struct {
	Club     Club
	Link     string
	PlayerID string
	Until    day.Day
	Own      bool   // its reader is the player
	Mail     string // where reminders go
}

// ByGuardianLink is what the link with that hash shows, across clubs; ErrNone when it is unknown, withdrawn or over.
func (s *Store) ByGuardianLink(ctx context.Context, hash string, at time.Time) (Shown, error) {
	var g Shown
	rows, err := s.Pool.Query(ctx, `select club_id, club, time_zone, units, link, player_id, until,
			own, mail from guardian_page($1, $2)`, hash, at)
	if err != nil {
		return g, fmt.Errorf("open the guardian's link: %w", err)
	}
	defer rows.Close()
	if !rows.Next() {
		if rows.Err() != nil {
			return g, rows.Err()
		}
		return g, ErrNone
	}
	err = rows.Scan(&g.Club.ID, &g.Club.Name, &g.Club.TimeZone, &g.Club.Units, &g.Link, &g.PlayerID, &g.Until, &g.Own, &g.Mail)
	return g, err
}
