package store

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"gruppo/internal/coach"
)

// Program is one sport in a club with its ladder.
type Program struct {
	ID, Name string
	Family   coach.Family
	Units    coach.Units // that the club reads lengths in
	Retired  bool
	Stages   []coach.Stage
}

// Stage finds a stage of the ladder, or returns false.
func (p Program) Stage(id string) (coach.Stage, bool) {
	for _, s := range p.Stages {
		if s.ID == id {
			return s, true
		}
	}
	return coach.Stage{}, false
}

// Next is the stage after the one given; false at the top.
func (p Program) Next(id string) (coach.Stage, bool) {
	for i, s := range p.Stages {
		if s.ID == id && i+1 < len(p.Stages) {
			return p.Stages[i+1], true
		}
	}
	return coach.Stage{}, false
}

// Criterion finds one of the program's by its id.
func (p Program) Criterion(id string) (coach.Criterion, bool) {
	for _, s := range p.Stages {
		for _, k := range s.Criteria {
			if k.ID == id {
				return k, true
			}
		}
	}
	return coach.Criterion{}, false
}

// Ladders lists the club's programs with their stages and criteria, as they are in use.
func (tx *Tx) Ladders(ctx context.Context) ([]Program, error) {
	return tx.keptLadders(ctx, "ladders", false)
}

// AllLadders lists also the programs and stages that were taken out, for what was done in them.
func (tx *Tx) AllLadders(ctx context.Context) ([]Program, error) {
	return tx.keptLadders(ctx, "all ladders", true)
}

func (tx *Tx) keptLadders(ctx context.Context, part string, all bool) ([]Program, error) {
	ps, err := keep(ctx, tx, "setup", part, func() ([]Program, error) { return tx.ladders(ctx, all) })
	ps = slices.Clone(ps)
	for i := range ps {
		ps[i].Stages = slices.Clone(ps[i].Stages)
		for j := range ps[i].Stages {
			ps[i].Stages[j].Criteria = slices.Clone(ps[i].Stages[j].Criteria)
		}
	}
	return ps, err
}

func (tx *Tx) ladders(ctx context.Context, all bool) ([]Program, error) {
	rows, err := tx.Query(ctx, `select p.id, p.name, p.family, p.retired_at is not null, s.id, s.position, s.name,
			s.about, s.colour, s.choose, s.visits, s.weeks,
		c.id, c.position, c.wording, c.skill, c.measure, c.want, c.of, c.tolerance, c.points, c.must, c.by_result,
			c.both_sides,
		c.good, c.last, c.days, c.weeks, c.people, c.keys, c.edition, c.home, (select units from club)
		from program p left join stage s on (s.club_id, s.program_id) = (p.club_id, p.id) and ($1
			or s.retired_at is null)
		left join criterion c on (c.club_id, c.stage_id) = (s.club_id, s.id) and c.retired_at is null
		where $1 or p.retired_at is null
		order by p.position, p.name collate names, p.id, s.position, s.id, c.position`, all)
	if err != nil {
		return nil, fmt.Errorf("list the ladders: %w", err)
	}
	defer rows.Close()
	var out []Program
	for rows.Next() {
		var r ladderRow
		if err := rows.Scan(&r.program.ID, &r.program.Name, &r.program.Family, &r.program.Retired, &r.stage, &r.order, &r.name, &r.about, &r.colour, &r.choose, &r.visits, &r.weeksIn,
			&r.id, &r.position, &r.wording, &r.skill, &r.measure, &r.want, &r.of, &r.tolerance, &r.points, &r.must, &r.byResult, &r.bothSides,
			&r.good, &r.last, &r.days, &r.weeks, &r.people, &r.keys, &r.edition, &r.home, &r.units); err != nil {
			return nil, fmt.Errorf("read the ladders: %w", err)
		}
		out = r.into(out)
	}
	return out, rows.Err()
}

// ladderRow is a criterion with its stage and program; a program without stages and a stage without criteria have a row
// too.
type ladderRow struct {
	program                                            Program
	stage, name, about, colour                         *string
	order, choose, visits, weeksIn                     *int
	id, wording, skill, measure                        *string
	position, good, last, days, weeks, people, edition *int
	want, of, tolerance                                *float64
	must, byResult, bothSides, home                    *bool
	points, keys                                       []string
	units                                              coach.Units
}

func (r ladderRow) into(out []Program) []Program {
	if len(out) == 0 || out[len(out)-1].ID != r.program.ID {
		out = append(out, r.program)
	}
	p := &out[len(out)-1]
	p.Units = r.units
	if r.stage == nil {
		return out
	}
	if len(p.Stages) == 0 || p.Stages[len(p.Stages)-1].ID != *r.stage {
		p.Stages = append(
			p.Stages,
			coach.Stage{
				ID:        *r.stage,
				ProgramID: p.ID,
				Order:     *r.order,
				Name:      *r.name,
				About:     *r.about,
				Colour:    *r.colour,
				StepUp:    coach.StepUp{Choose: *r.choose, Visits: *r.visits, Weeks: *r.weeksIn},
			},
		)
	}
	if r.id == nil {
		return out
	}
	s := &p.Stages[len(p.Stages)-1]
	s.Criteria = append(
		s.Criteria,
		coach.Criterion{
			ID:        *r.id,
			StageID:   s.ID,
			Order:     *r.position,
			Wording:   *r.wording,
			Skill:     *r.skill,
			Measure:   coach.Measure(*r.measure),
			Want:      *r.want,
			Of:        *r.of,
			Tolerance: *r.tolerance,
			Points:    r.points,
			Must:      *r.must,
			ByResult:  *r.byResult,
			BothSides: *r.bothSides,
			Home:      *r.home,
			Rule: coach.EvidenceRule{
				Good:   *r.good,
				Last:   *r.last,
				Days:   *r.days,
				Weeks:  *r.weeks,
				People: *r.people,
			},
			Keys:    r.keys,
			Edition: *r.edition,
			Units:   r.units,
		},
	)
	return out
}

// PutProgram adds or renames a program.
func (tx *Tx) PutProgram(ctx context.Context, id, name string, family coach.Family, position int) error {
	return taken(tx.exec(ctx, "keep the program", `insert into program (club_id, id, name, family, position)
			values ($1, $2, $3, $4, $5)
		on conflict (club_id, id) do update set name = excluded.name,
			family = excluded.family`, tx.Club, id, name, family, position))
}

// PutStage adds or changes a stage, without its criteria.
func (tx *Tx) PutStage(ctx context.Context, s coach.Stage) error {
	return taken(tx.exec(ctx, "keep the stage", `insert into stage (club_id, id, program_id, position, name, about,
			colour, choose, visits, weeks)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)
		on conflict (club_id, id) do update set position = excluded.position, name = excluded.name,
			about = excluded.about, colour = excluded.colour,
			choose = excluded.choose, visits = excluded.visits, weeks = excluded.weeks`,
		tx.Club, s.ID, s.ProgramID, s.Order, s.Name, s.About, s.Colour, s.StepUp.Choose, s.StepUp.Visits,
		s.StepUp.Weeks))
}

// PutCriterion adds or changes a criterion. When marks rest on it already, it becomes a new edition; the one before
// stays to be read.
func (tx *Tx) PutCriterion(ctx context.Context, c coach.Criterion, at time.Time) error {
	err := tx.exec(
		ctx,
		"keep the criterion",
		`insert into criterion (club_id, id, stage_id, position, wording, skill,
			measure, want, of, tolerance, points,
			must, by_result, both_sides, good, last, days, weeks, people, keys, home)
		values (@club, @id, @stage, @position, @wording, @skill, @measure, @want, @of, @tolerance, @points, @must,
			@by_result, @both, @good, @last, @days, @weeks, @people, @keys, @home)
		on conflict (club_id, id) do update set position = excluded.position, wording = excluded.wording,
			skill = excluded.skill, measure = excluded.measure,
			want = excluded.want, of = excluded.of, tolerance = excluded.tolerance, points = excluded.points,
				must = excluded.must, by_result = excluded.by_result,
			both_sides = excluded.both_sides, good = excluded.good, last = excluded.last, days = excluded.days,
				weeks = excluded.weeks, people = excluded.people, keys = excluded.keys, home = excluded.home,
			edition = criterion.edition + (case when exists (select from mark m
				where m.criterion_id = criterion.id) then 1 else 0 end)`,
		pgx.NamedArgs{
			"club":      tx.Club,
			"id":        c.ID,
			"stage":     c.StageID,
			"position":  c.Order,
			"wording":   c.Wording,
			"skill":     c.Skill,
			"measure":   string(c.Measure),
			"want":      c.Want,
			"of":        c.Of,
			"tolerance": c.Tolerance,
			"points":    list(c.Points),
			"must":      c.Must,
			"by_result": c.ByResult,
			"both":      c.BothSides,
			"good":      c.Rule.Good,
			"last":      c.Rule.Last,
			"days":      c.Rule.Days,
			"weeks":     c.Rule.Weeks,
			"people":    c.Rule.People,
			"keys":      list(c.Keys),
			"home":      c.Home,
		},
	)
	if err != nil {
		return err
	}
	return tx.exec(ctx, "keep the criterion's edition", `insert into criterion_edition (club_id, criterion_id,
			edition, doc, saved_at) select club_id, id, edition, to_jsonb(c), $2 from criterion c where id = $1
		on conflict (club_id, criterion_id, edition) do update
			set doc = excluded.doc, saved_at = excluded.saved_at`, c.ID, at)
}

// CriterionEdition is a criterion as it was.
type CriterionEdition struct {
	Criterion coach.Criterion
	SavedAt   time.Time
	Marks     int // taken while it held
}

// CriterionEditions lists the editions of a criterion, the newest first.
func (tx *Tx) CriterionEditions(ctx context.Context, id string) ([]CriterionEdition, error) {
	type doc struct {
		Wording, Skill, Measure         string
		Want, Of, Tolerance             float64
		Points, Keys                    []string
		Must                            bool
		ByResult                        bool `json:"by_result"`
		BothSides                       bool `json:"both_sides"`
		Home                            bool
		Good, Last, Days, Weeks, People int
	}
	type row struct {
		Edition int
		Doc     doc
		SavedAt time.Time
		Marks   int
	}
	rows, err := collect[row](ctx, tx, "list the criterion's editions", `select e.edition, e.doc, e.saved_at,
			(select count(*)::int from mark m where m.criterion_id = e.criterion_id and (e.edition = 1
			or m.at >= e.saved_at)
			and m.at < coalesce((select n.saved_at from criterion_edition n where n.criterion_id = e.criterion_id
				and n.edition = e.edition + 1), 'infinity')) as marks
		from criterion_edition e where e.criterion_id = $1 order by e.edition desc`, id)
	var out []CriterionEdition
	for _, r := range rows {
		d := r.Doc
		out = append(
			out,
			CriterionEdition{
				SavedAt: r.SavedAt,
				Marks:   r.Marks,
				Criterion: coach.Criterion{
					ID:        id,
					Wording:   d.Wording,
					Skill:     d.Skill,
					Measure:   coach.Measure(d.Measure),
					Want:      d.Want,
					Of:        d.Of,
					Tolerance: d.Tolerance,
					Points:    d.Points,
					Keys:      d.Keys,
					Must:      d.Must,
					ByResult:  d.ByResult,
					BothSides: d.BothSides,
					Home:      d.Home,
					Rule: coach.EvidenceRule{
						Good:   d.Good,
						Last:   d.Last,
						Days:   d.Days,
						Weeks:  d.Weeks,
						People: d.People,
					},
					Edition: r.Edition,
				},
			},
		)
	}
	return out, err
}

// AddLadder adds a program with its stages and criteria under new ids, after those there are. Where the name is taken,
// a number follows it.
func (tx *Tx) AddLadder(
	ctx context.Context,
	name string,
	family coach.Family,
	stages []coach.Stage,
	at time.Time,
) (id string, err error) {
	have, err := tx.Ladders(ctx)
	if err != nil {
		return "", err
	}
	free, n := name, 1
	for slices.ContainsFunc(have, func(p Program) bool { return strings.EqualFold(p.Name, free) }) {
		n++
		free = fmt.Sprint(name, " ", n)
	}
	id = NewID()
	if err := tx.PutProgram(ctx, id, free, family, len(have)+1); err != nil {
		return "", err
	}
	for i, s := range stages {
		s.ID, s.ProgramID, s.Order = NewID(), id, i+1
		if err := tx.PutStage(ctx, s); err != nil {
			return "", err
		}
		for j, k := range s.Criteria {
			k.ID, k.StageID, k.Order = NewID(), s.ID, j+1
			if err := tx.PutCriterion(ctx, k, at); err != nil {
				return "", err
			}
		}
	}
	return id, nil
}

// OrderCriteria puts a stage's criteria into the order of the ids.
func (tx *Tx) OrderCriteria(ctx context.Context, ids []string) error {
	return tx.exec(ctx, "order the criteria", `update criterion c set position = x.n
			from unnest($1::uuid[]) with ordinality x (id, n) where c.id = x.id and c.position <> x.n`, ids)
}

// list is never nil, for columns that are not null.
func list[T any](xs []T) []T {
	if xs == nil {
		return []T{}
	}
	return xs
}
