package store

import (
	"context"
	"fmt"

	"gruppo/internal/coach"
	"gruppo/internal/day"
)

// Player is a player as the roster keeps them.
type Player struct {
	ID        string
	Name      string
	Called    string `db:"-"` // among those of a session: how they are told apart
	BirthYear int
	Side      string
	Tags      []string
	Joined    day.Day
	Left      day.Day    // none: still there
	Standings []Standing `db:"-"`
	Keeps     []Keep     `db:"-"`
	Limits    []Limit    `db:"-"`
}

// Standing says on which stage of a program a player is, since when.
type Standing struct {
	Program string  `json:"program"`
	Stage   string  `json:"stage"`
	Since   day.Day `json:"since"` // the day the stage was reached
}

// Keep is another player to be kept with or apart from.
type Keep struct {
	Player string `json:"player"`
	Name   string `json:"name"`
	Apart  bool   `json:"apart"`
}

// Limit is something the player must not do for a while.
type Limit struct {
	ID    string  `json:"id"`
	What  string  `json:"what"`
	Until day.Day `json:"until"` // through that day; none: until it is taken away
}

// In is the player's standing in the program.
func (p Player) In(program string) (Standing, bool) {
	for _, s := range p.Standings {
		if s.Program == program {
			return s, true
		}
	}
	return Standing{}, false
}

// Coach is the player as the rules see them, standing in the program. Level is the stage's order.
func (p Player) Coach(program Program) coach.Player {
	c := coach.Player{ID: p.ID, Name: p.Name, Called: p.Called, BirthYear: p.BirthYear, Side: coach.Side(p.Side), Tags: p.Tags}
	if st, ok := p.In(program.ID); ok {
		if stage, ok := program.Stage(st.Stage); ok {
			c.Stage, c.Level = stage.ID, float64(stage.Order)
		}
	}
	for _, k := range p.Keeps {
		if k.Apart {
			c.Apart = append(c.Apart, k.Player)
		} else {
			c.With = append(c.With, k.Player)
		}
	}
	c.Positions = p.Tags // a tag such as goalkeeper says where somebody plays
	for _, l := range p.Limits {
		c.Limits = append(c.Limits, coach.Limit{What: l.What, Until: l.Until})
	}
	return c
}

// PlayerFilter narrows the roster. The zero value is everybody who has not left.
type PlayerFilter struct {
	IDs    []string // only these, when not nil
	Names  []string // of one of these names, whatever the letters' size, when not nil
	Words  string   // in the name or a tag
	Stage  string
	Class  string
	Also   []string // with Class: these as well
	Limit  int      // 0: all
	Offset int
}

const playerColumns = `p.id, p.name, coalesce(p.birth_year, 0) as birth_year, p.side, p.tags, p.joined_on as joined,
			p.left_on as left`

// Players lists players by name.
func (tx *Tx) Players(ctx context.Context, f PlayerFilter) ([]Player, error) {
	var w where
	w.and(f.IDs != nil, `p.id = any(?::uuid[])`, f.IDs)
	w.and(f.IDs == nil, `p.left_on is null`)
	w.and(f.Words != "", `(p.name ilike '%' || ?::text || '%' or exists (select from unnest(p.tags) t
		where t ilike '%' || ?::text || '%'))`, escapeLike(f.Words), escapeLike(f.Words))
	w.and(f.Stage != "", `exists (select from standing s where s.player_id = p.id and s.stage_id = ?)`, f.Stage)
	w.and(f.Class != "", `(p.id in (select c.player_id from class_player c where c.class_id = ?)
		or p.id = any(?::uuid[]))`, f.Class, f.Also)
	w.and(f.Names != nil, `lower(p.name) = any(select lower(n) from unnest(?::text[]) n)`, f.Names)
	order := " order by p.name collate names, p.id"
	if f.Limit > 0 {
		order += fmt.Sprint(" limit ", f.Limit)
	}
	if f.Offset > 0 {
		order += fmt.Sprint(" offset ", f.Offset)
	}
	ps, err := collect[Player](ctx, tx, "list players", `select `+playerColumns+` from player p`+w.String()+order, w.args...)
	if err != nil {
		return nil, err
	}
	return ps, tx.fill(ctx, ps)
}

// fill reads where the players stand, whom they keep with, and what they must not do.
func (tx *Tx) fill(ctx context.Context, ps []Player) error {
	if len(ps) == 0 {
		return nil
	}
	ids, at := make([]string, len(ps)), make(map[string]*Player, len(ps))
	for i := range ps {
		ids[i], at[ps[i].ID] = ps[i].ID, &ps[i]
	}
	var player string
	var st Standing
	var k Keep
	var l Limit
	return tx.together(ctx, "read what players have",
		each(func() { at[player].Standings = append(at[player].Standings, st) }, into{&player, &st.Program, &st.Stage, &st.Since},
			`select player_id, program_id, stage_id, since from standing where player_id = any($1::uuid[])`, ids),
		each(func() { at[player].Keeps = append(at[player].Keeps, k) }, into{&player, &k.Player, &k.Name, &k.Apart},
			`select x.player, o.id, o.name, x.apart from (
				select a as player, b as other, apart from keep where a = any($1::uuid[])
				union all select b, a, apart from keep where b = any($1::uuid[])) x
			join player o on o.id = x.other order by o.name collate names`, ids),
		each(func() { at[player].Limits = append(at[player].Limits, l) }, into{&player, &l.ID, &l.What, &l.Until},
			`select player_id, id, what, until from player_limit where player_id = any($1::uuid[]) order by what`, ids))
}

func escapeLike(s string) string {
	out := make([]rune, 0, len(s))
	for _, r := range s {
		if r == '%' || r == '_' || r == '\\' {
			out = append(out, '\\')
		}
		out = append(out, r)
	}
	return string(out)
}

// CountPlayers is how many players the club has, and how many match the filter.
func (tx *Tx) CountPlayers(ctx context.Context, f PlayerFilter) (all, matching int, err error) {
	err = tx.QueryRow(ctx, `select count(*), count(*) filter (where
			($1 = '' or p.name ilike '%' || $1 || '%' or exists (select from unnest(p.tags) t
				where t ilike '%' || $1 || '%'))
			and ($2::uuid is null or exists (select from standing s where s.player_id = p.id and s.stage_id = $2))
			and ($3::uuid is null or exists (select from class_player c where c.player_id = p.id and c.class_id = $3)))
		from player p where left_on is null`, escapeLike(f.Words), null(f.Stage), null(f.Class)).Scan(&all, &matching)
	return all, matching, err
}

// Player is one player, also one who has left.
func (tx *Tx) Player(ctx context.Context, id string) (Player, error) {
	p, err := one[Player](ctx, tx, "find the player", `select `+playerColumns+` from player p where p.id = $1`, id)
	if err != nil {
		return p, err
	}
	found := []Player{p}
	err = tx.fill(ctx, found)
	return found[0], err
}

// PutPlayers adds or changes players, with their standings; keeps and limits have calls of their own.
// All go in a few statements, however many there are.
func (tx *Tx) PutPlayers(ctx context.Context, players []Player) error {
	var ids, names, sides, tags []string
	var years []*int
	var joined []day.Day
	var sp, sprog, sstage []string
	var since []day.Day
	for _, p := range players {
		ids, names, sides = append(ids, p.ID), append(names, p.Name), append(sides, p.Side)
		var year *int
		if p.BirthYear != 0 {
			y := p.BirthYear
			year = &y
		}
		years, joined, tags = append(years, year), append(joined, p.Joined), append(tags, joinTags(p.Tags))
		for _, s := range p.Standings {
			sp, sprog, sstage, since = append(sp, p.ID), append(sprog, s.Program), append(sstage, s.Stage), append(
				since,
				s.Since,
			)
		}
	}
	err := tx.exec(ctx, "keep the players", `insert into player (club_id, id, name, birth_year, side, tags, joined_on)
		select $1, id, name, year, side, case when tags = '' then '{}' else string_to_array(tags, E'\x1f') end, joined
		from unnest($2::uuid[], $3::text[], $4::int[], $5::text[], $6::text[], $7::date[]) as x (id, name, year, side,
			tags, joined)
		on conflict (club_id, id) do update set name = excluded.name, birth_year = excluded.birth_year,
			side = excluded.side, tags = excluded.tags`,
		tx.Club, ids, names, years, sides, tags, joined)
	if err != nil {
		return err
	}
	return tx.exec(ctx, "keep the stages of the players", `insert into standing (club_id, player_id, program_id,
			stage_id, since)
		select $1, * from unnest($2::uuid[], $3::uuid[], $4::uuid[], $5::date[])
		on conflict (club_id, player_id, program_id) do update set stage_id = excluded.stage_id, since = excluded.since
			where standing.stage_id <> excluded.stage_id`, tx.Club, sp, sprog, sstage, since)
}

// LeavePrograms takes a player out of programs; what they showed there stays.
func (tx *Tx) LeavePrograms(ctx context.Context, player string, programs []string) error {
	return tx.exec(ctx, "take the player out of programs", `delete from standing where player_id = $1
			and program_id = any($2::uuid[])`, player, list(programs))
}

// Unplaced lists who stands nowhere and can be put on a stage of the program: who is on no stage at all, or comes to
// one of its classes without being on one of its stages. Whoever was marked in the program before is not among them:
// their stage is decided.
func (tx *Tx) Unplaced(ctx context.Context, program string) ([]Player, error) {
	rows, err := collect[struct{ ID string }](ctx, tx, "list who is on no stage", `select p.id from player p
			where p.left_on is null
		and not exists (select from standing s where s.player_id = p.id and s.program_id = $1)
		and (not exists (select from standing s where s.player_id = p.id)
			or exists (select from class_player e join class k on k.id = e.class_id where e.player_id = p.id
				and k.program_id = $1))
		and not exists (select from mark m join criterion c on c.id = m.criterion_id
			join stage s on s.id = c.stage_id where m.player_id = p.id and s.program_id = $1)`, program)
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	ids := []string{}
	for _, r := range rows {
		ids = append(ids, r.ID)
	}
	return tx.Players(ctx, PlayerFilter{IDs: ids})
}

// Place puts players on a stage of a program in which they are on none.
func (tx *Tx) Place(ctx context.Context, players []string, program, stage string, since day.Day) error {
	return tx.exec(ctx, "put players on a stage", `insert into standing (club_id, player_id, program_id, stage_id,
			since)
		select $1, id, $3, $4, $5 from unnest($2::uuid[]) as x (id)
			on conflict do nothing`, tx.Club, players, program, stage, since)
}

// HighestMarked is, by program, the order of the highest stage at which the player was marked or to which they were
// decided up. Programs in which nobody has marked them yet are missing.
func (tx *Tx) HighestMarked(ctx context.Context, player string) (map[string]int, error) {
	all, err := tx.Marked(ctx, []string{player})
	return all[player], err
}

// Marked is HighestMarked for many players.
func (tx *Tx) Marked(ctx context.Context, players []string) (map[string]map[string]int, error) {
	type row struct {
		PlayerID, ProgramID string
		Highest             int
	}
	rows, err := collect[row](ctx, tx, "read where players were marked", `select player_id, program_id,
			max(position) as highest from (
			select m.player_id, s.program_id, s.position from mark m join criterion c on c.id = m.criterion_id
				join stage s on s.id = c.stage_id
				where ($1::uuid[] is null or m.player_id = any($1)) and not exists (select from strike x
					where x.mark_id = m.id)
			union all select d.player_id, d.program_id, s.position from decision d
				join step_up u on u.decision_id = d.id join stage s on s.id = d.to_stage where $1::uuid[] is null
				or d.player_id = any($1)
		) x group by 1, 2`, players)
	out := map[string]map[string]int{}
	for _, r := range rows {
		if out[r.PlayerID] == nil {
			out[r.PlayerID] = map[string]int{}
		}
		out[r.PlayerID][r.ProgramID] = r.Highest
	}
	return out, err
}

func joinTags(tags []string) string {
	out := ""
	for i, t := range tags {
		if i > 0 {
			out += "\x1f"
		}
		out += t
	}
	return out
}

// Pair is two players kept together or apart.
type Pair struct {
	A, B  string
	Apart bool
}

// SetKeeps makes the pairs hold and takes back every other pair of the players in whom.
func (tx *Tx) SetKeeps(ctx context.Context, whom []string, pairs []Pair) error {
	var as, bs []string
	var apart []bool
	seen := map[[2]string]bool{}
	for _, p := range pairs {
		a, b := min(p.A, p.B), max(p.A, p.B)
		if a == b || seen[[2]string{a, b}] {
			continue
		}
		seen[[2]string{a, b}] = true
		as, bs, apart = append(as, a), append(bs, b), append(apart, p.Apart)
	}
	err := tx.exec(ctx, "take back keeps", `delete from keep where (a = any($1::uuid[]) or b = any($1::uuid[]))
		and not exists (select from unnest($2::uuid[], $3::uuid[], $4::bool[]) as x (a, b, apart)
			where (x.a, x.b, x.apart) = (keep.a, keep.b, keep.apart))`, whom, list(as), list(bs), apart)
	if err != nil || len(as) == 0 {
		return err
	}
	return tx.exec(ctx, "keep the keeps", `insert into keep (club_id, a, b, apart) select $1, *
			from unnest($2::uuid[], $3::uuid[], $4::bool[])
		on conflict (club_id, a, b) do update set apart = excluded.apart
			where keep.apart <> excluded.apart`, tx.Club, as, bs, apart)
}

// SetLimits replaces the player's limits.
func (tx *Tx) SetLimits(ctx context.Context, player string, limits []Limit) error {
	if err := tx.exec(ctx, "take back limits", `delete from player_limit where player_id = $1`, player); err != nil {
		return err
	}
	for _, l := range limits {
		if err := tx.exec(ctx, "keep the limit", `insert into player_limit (club_id, id, player_id, what, until)
			values ($1, $2, $3, $4, $5::date)`,
			tx.Club, NewID(), player, l.What, l.Until); err != nil {
			return err
		}
	}
	return nil
}

// LeavePlayer says the player has left: out of the roster and all classes, with everything they showed kept.
func (tx *Tx) LeavePlayer(ctx context.Context, id string, on day.Day) error {
	if err := tx.exec(ctx, "take the player out of classes", `delete from class_player
			where player_id = $1`, id); err != nil {
		return err
	}
	return tx.exec(ctx, "note that the player left", `update player set left_on = $2 where id = $1`, id, on)
}
