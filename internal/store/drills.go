package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"golang.org/x/text/unicode/norm"
	"gruppo/internal/coach"
	"gruppo/internal/coach/path"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/suggest"
	"gruppo/internal/day"
)

// mine is the condition of a drill d that who asks may see: $1 is the member.
const mine = `(d.shared <> 'private' or d.owner_id = nullif($1, '')::uuid)`

const newestEdition = `from drill d join drill_edition e on (e.club_id, e.drill_id, e.edition) = (d.club_id, d.id,
			d.edition)`

// Drills lists the drills on the shelf in their newest edition.
func (tx *Tx) Drills(ctx context.Context) ([]coach.Drill, error) {
	return tx.drills(
		ctx,
		`select d.id, e.edition, e.doc `+newestEdition+` where d.off_at is null and `+mine+` order by d.name collate names, d.id`,
		tx.Member,
	)
}

// Drill is a drill in its newest edition, also one that was taken off the shelf.
func (tx *Tx) Drill(ctx context.Context, id string) (coach.Drill, error) {
	return only(
		tx.drills(ctx, `select d.id, e.edition, e.doc `+newestEdition+` where d.id = $2 and `+mine, tx.Member, id),
	)
}

// Edition is a drill in one of its editions.
func (tx *Tx) Edition(ctx context.Context, id string, edition int) (coach.Drill, error) {
	return only(tx.drills(ctx, `select d.id, e.edition, e.doc from drill d join drill_edition e on (e.club_id,
			e.drill_id) = (d.club_id, d.id) where d.id = $2 and e.edition = $3 and `+mine, tx.Member, id, edition))
}

func only(ds []coach.Drill, err error) (coach.Drill, error) {
	if err == nil && len(ds) == 0 {
		err = fmt.Errorf("find the drill: %w", ErrNone)
	}
	if err != nil {
		return coach.Drill{}, err
	}
	return ds[0], nil
}

// Shelf lists the drills on the shelf in their newest edition, and by id those of a plan in the editions it was made
// with. They come without their drawings. They are everybody's: nobody may change what they hold.
func (tx *Tx) Shelf(ctx context.Context, p doc.Plan) (newest []coach.Drill, planned map[string]coach.Drill, err error) {
	x, err := tx.Index(ctx)
	if err != nil {
		return nil, nil, err
	}
	cards := x.Cards(nil, false)
	want := make([]edition, 0, len(cards))
	for _, c := range cards {
		want = append(want, edition{c.ID, c.Edition})
	}
	for _, t := range p.Tasks() {
		want = append(want, edition{t.Drill, t.Edition})
	}
	all, err := tx.editions(ctx, x, want)
	if err != nil {
		return nil, nil, err
	}
	newest = make([]coach.Drill, 0, len(cards))
	for _, c := range cards {
		if d := all[edition{c.ID, c.Edition}]; d != nil {
			newest = append(newest, *d)
		}
	}
	planned = map[string]coach.Drill{}
	for _, t := range p.Tasks() {
		if d := all[edition{t.Drill, t.Edition}]; d != nil {
			planned[d.ID] = *d
		}
	}
	return newest, planned, nil
}

// edition names a drill as it was at a time.
type edition struct {
	drill  string
	number int
}

// editions reads drills, those of which this version of the shelf has none in memory.
func (tx *Tx) editions(ctx context.Context, x Index, want []edition) (map[edition]*coach.Drill, error) {
	out := make(map[edition]*coach.Drill, len(want))
	ids, numbers := []string{}, []int{}
	for _, e := range want {
		if kept, ok := x.drills.Load(e); ok {
			out[e] = kept.(*coach.Drill)
		} else if e.drill != "" {
			ids, numbers = append(ids, e.drill), append(numbers, e.number)
		}
	}
	if len(ids) == 0 {
		return out, nil
	}
	read, err := tx.drills(ctx, `select drill_id as id, edition, doc - 'diagram' as doc from drill_edition
		where (drill_id, edition) in (select * from unnest($1::uuid[], $2::int[]))`, ids, numbers)
	for i := range read {
		e := edition{read[i].ID, read[i].Edition}
		x.drills.Store(e, &read[i])
		out[e] = &read[i]
	}
	return out, err
}

type editionRow struct {
	ID      string
	Edition int
	Doc     []byte
}

func (tx *Tx) drills(ctx context.Context, sql string, args ...any) ([]coach.Drill, error) {
	rows, err := collect[editionRow](ctx, tx, "list drills", sql, args...)
	if err != nil {
		return nil, err
	}
	out := make([]coach.Drill, len(rows))
	for i, r := range rows {
		if out[i], err = r.drill(); err != nil {
			return nil, err
		}
	}
	return out, nil
}

func (r editionRow) drill() (d coach.Drill, err error) {
	if err = json.Unmarshal(r.Doc, &d); err != nil {
		return d, fmt.Errorf("read drill %s: %w", r.ID, err)
	}
	d.ID, d.Edition = r.ID, r.Edition
	return d, nil
}

// PutDrill saves a new edition of a drill, or its first, as of a moment. Older editions stay for the plans made with
// them.
func (tx *Tx) PutDrill(ctx context.Context, d coach.Drill, at time.Time) error {
	words := shelfWords(d)
	suits := []string{d.Suits} // its own first, also when it is none
	for _, v := range d.Variants {
		if v.Suits != "" && !slices.Contains(suits, v.Suits) {
			suits = append(suits, v.Suits)
		}
	}
	err := tx.QueryRow(ctx, `insert into drill (club_id, id, name, owner_id, purpose, skills, least, most, leader,
			length, width, form, approach, practice, minutes, kit, suits, words, moves, situation)
		values (@club, @id, @name, @owner, @purpose, @skills, @least, @most, @leader, @length, @width, @form,
			@approach, @practice, @minutes, @kit, @suits, @words, @moves, @situation)
		on conflict (club_id, id) do update set name = excluded.name, edition = drill.edition + 1,
			purpose = excluded.purpose, skills = excluded.skills, least = excluded.least, most = excluded.most,
			leader = excluded.leader, length = excluded.length, width = excluded.width, form = excluded.form,
				approach = excluded.approach, practice = excluded.practice, minutes = excluded.minutes,
			kit = excluded.kit, suits = excluded.suits, words = excluded.words, moves = excluded.moves,
			situation = excluded.situation, off_at = null
			where drill.shared <> 'private' or drill.owner_id = @owner -- a colleague's own stays theirs
		returning edition`, pgx.NamedArgs{
		"club":      tx.Club,
		"id":        d.ID,
		"name":      d.Name,
		"owner":     null(tx.Member),
		"purpose":   d.Purpose,
		"skills":    list(d.Skills),
		"least":     d.Least,
		"most":      d.Most,
		"leader":    string(d.Leader),
		"length":    d.Length,
		"width":     d.Width,
		"form":      d.Form,
		"approach":  d.Approach,
		"practice":  d.Practice,
		"minutes":   d.Minutes[:],
		"kit":       list(d.Kit),
		"suits":     suits,
		"words":     words,
		"moves":     d.Moves,
		"situation": d.Situation,
	}).Scan(&d.Edition)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNone
	}
	if err != nil {
		return fmt.Errorf("keep the drill: %w", err)
	}
	doc, err := json.Marshal(d)
	if err != nil {
		return err
	}
	return tx.exec(ctx, "keep the edition", `insert into drill_edition (club_id, drill_id, edition, doc, by_member,
			saved_at) values ($1, $2, $3, $4, $5, $6)`, tx.Club, d.ID, d.Edition, doc, null(tx.Member), at)
}

// shelfWords are what a drill is found by.
func shelfWords(d coach.Drill) []string {
	text := []string{d.Name, d.Purpose, d.Setup, d.Author, d.Moves, d.Situation}
	for _, row := range d.Table {
		text = append(text, row...)
	}
	for _, l := range [][]string{d.Skills, d.Keys, d.Cautions, d.Kit, d.Roles} {
		text = append(text, l...)
	}
	for _, v := range d.Variants {
		text = append(text, v.Name, v.Says())
	}
	return list(suggest.Words(norm.NFD.String(strings.Join(text, " "))))
}

// Card is a drill as the shelf lists it: what it is found by, not how it is done.
type Card struct {
	coach.Drill
	Star   bool
	Shared string
	Off    bool
	Owner  string // the member who put it there, if known
}

// HasSkill reports whether the drill trains a skill.
func (c Card) HasSkill(skill string) bool { return slices.Contains(c.Skills, skill) }

const cardColumns = `d.id, d.edition, d.name, d.purpose, d.skills, d.least, d.most, d.leader, d.length, d.width, d.form, d.approach, d.practice, d.minutes, d.kit, d.suits, d.moves, d.situation, d.star, d.shared, coalesce(d.owner_id::text, ''), d.off_at is not null`

func (c *Card) scan(rows pgx.Rows, more ...any) error {
	var minutes []int
	var suits []string
	err := rows.Scan(
		append(
			[]any{
				&c.ID,
				&c.Edition,
				&c.Name,
				&c.Purpose,
				&c.Skills,
				&c.Least,
				&c.Most,
				&c.Leader,
				&c.Length,
				&c.Width,
				&c.Form,
				&c.Approach,
				&c.Practice,
				&minutes,
				&c.Kit,
				&suits,
				&c.Moves,
				&c.Situation,
				&c.Star,
				&c.Shared,
				&c.Owner,
				&c.Off,
			},
			more...)...)
	if err != nil {
		return fmt.Errorf("read the shelf: %w", err)
	}
	copy(c.Minutes[:], minutes)
	for i, s := range suits {
		if i == 0 {
			c.Suits = s
			continue
		}
		c.Variants = append(c.Variants, coach.Variant{Suits: s})
	}
	return nil
}

// Cards lists the drills on the shelf by name, with what they are found by.
func (tx *Tx) Cards(ctx context.Context) ([]*Card, error) {
	x, err := tx.Index(ctx)
	if err != nil {
		return nil, err
	}
	return x.Cards(nil, false), nil
}

// CardsOf lists the named drills by name, also those that are off the shelf.
func (tx *Tx) CardsOf(ctx context.Context, ids ...string) (out []Card, err error) {
	rows, err := tx.Query(
		ctx,
		`select `+cardColumns+` from drill d where d.id = any($2::uuid[]) and `+mine+` order by d.name collate names, d.id`,
		tx.Member,
		ids,
	)
	if err != nil {
		return nil, fmt.Errorf("list cards: %w", err)
	}
	defer rows.Close()
	for rows.Next() {
		var c Card
		if err := c.scan(rows); err != nil {
			return nil, err
		}
		out = append(out, c)
	}
	return out, rows.Err()
}

// Card is one drill's card, on the shelf or off it.
func (tx *Tx) Card(ctx context.Context, id string) (Card, error) {
	cards, err := tx.CardsOf(ctx, id)
	if err == nil && len(cards) == 0 {
		err = fmt.Errorf("find the drill: %w", ErrNone)
	}
	if err != nil {
		return Card{}, err
	}
	return cards[0], nil
}

// Share says who sees a drill: private, club or all. Only who put it there may make it private.
func (tx *Tx) Share(ctx context.Context, id, with string) error {
	tag, err := tx.Exec(ctx, `update drill d set shared = $3, owner_id = coalesce(owner_id, nullif($1, '')::uuid)
			where d.id = $2 and ($3 <> 'private' or owner_id is null or d.owner_id = nullif($1, '')::uuid)
			and `+mine, tx.Member, id, with)
	return touched(tag.RowsAffected(), err, "share the drill")
}

// Star sets or takes the club's star.
func (tx *Tx) Star(ctx context.Context, id string) error {
	tag, err := tx.Exec(ctx, `update drill d set star = not star where d.id = $2 and `+mine, tx.Member, id)
	return touched(tag.RowsAffected(), err, "star the drill")
}

// TakeOff takes a drill off the shelf, or puts it back. It stays in the plans that use it.
func (tx *Tx) TakeOff(ctx context.Context, id string, off bool) error {
	tag, err := tx.Exec(ctx, `update drill d set off_at = case when $3 then now() end where d.id = $2
			and `+mine, tx.Member, id, off)
	return touched(tag.RowsAffected(), err, "take the drill off the shelf")
}

func touched(n int64, err error, doing string) error {
	if err == nil && n == 0 {
		err = ErrNone
	}
	if err != nil {
		return fmt.Errorf("%s: %w", doing, err)
	}
	return nil
}

// EditionInfo is when an edition was saved, and by whom.
type EditionInfo struct {
	Edition int
	At      time.Time
	By      string
}

// Editions lists a drill's editions, the newest first.
func (tx *Tx) Editions(ctx context.Context, id string) ([]EditionInfo, error) {
	return collect[EditionInfo](ctx, tx, "list editions", `select e.edition, e.saved_at as at, coalesce(m.name,
			'') as by from drill_edition e left join member m on m.id = e.by_member where e.drill_id = $1
			order by e.edition desc`, id)
}

// Links lists how the drills on the shelf are linked.
func (tx *Tx) Links(ctx context.Context) ([]path.Link, error) {
	return collect[path.Link](ctx, tx, "list links", `select l.drill_id as drill, l.kind, l.other_id as other
			from drill_link l
		join drill d on d.id = l.drill_id join drill o on o.id = l.other_id
		where d.off_at is null and o.off_at is null and `+mine+` and `+strings.ReplaceAll(mine, "d.", "o.")+` order by l.drill_id, l.kind, l.other_id`, tx.Member)
}

// LockShelf holds the shelf's links until the transaction ends: whoever else would change them waits.
func (tx *Tx) LockShelf(ctx context.Context) error {
	return tx.exec(ctx, "lock the shelf", `select pg_advisory_xact_lock(hashtextextended('links of ' || $1::text,
			0))`, tx.Club)
}

// AllLinks lists every link of the club, also those of drills that are off the shelf or somebody's own: what closes a
// loop there closes it for all, as soon as such a drill is back.
func (tx *Tx) AllLinks(ctx context.Context) ([]path.Link, error) {
	return collect[path.Link](ctx, tx, "list all links", `select drill_id as drill, kind, other_id as other
			from drill_link order by 1, 2, 3`)
}

// LoopError is returned for a link that would lead round in a loop; Way names the drills, the first again at the end.
type LoopError struct{ Way []string }

func (e *LoopError) Error() string { return "the links would go round in a loop" }

// PutLink adds a link under the shelf's lock, or returns a LoopError; one that is there already stays. DropLink takes
// one away.
func (tx *Tx) PutLink(ctx context.Context, l path.Link) error {
	if err := tx.LockShelf(ctx); err != nil {
		return err
	}
	links, err := tx.AllLinks(ctx)
	if err != nil {
		return err
	}
	if way := path.Loop(links, l); way != nil {
		return &LoopError{way}
	}
	return tx.exec(ctx, "link the drills", `insert into drill_link (club_id, drill_id, kind, other_id)
			values ($1, $2, $3, $4) on conflict do nothing`, tx.Club, l.Drill, string(l.Kind), l.Other)
}

// Foreign reports whether an id is a drill of the club that the member may not see.
func (tx *Tx) Foreign(ctx context.Context, id string) (is bool, err error) {
	err = tx.QueryRow(ctx, `select exists (select from drill d where d.id = $2 and not `+mine+`)`, tx.Member, id).
		Scan(&is)
	return is, err
}

// DropLink takes a link away.
func (tx *Tx) DropLink(ctx context.Context, l path.Link) error {
	return tx.exec(ctx, "take the link away", `delete from drill_link where drill_id = $1 and kind = $2
			and other_id = $3`, l.Drill, string(l.Kind), l.Other)
}

// DrillNote is what a coach noticed after using a drill.
type DrillNote struct {
	ID, Says, By string
	Edition      int
	At           time.Time
	Mine         bool
}

// DrillNotes lists the notes on a drill, newest first.
func (tx *Tx) DrillNotes(ctx context.Context, drill string) ([]DrillNote, error) {
	return collect[DrillNote](ctx, tx, "list notes", `select n.id, n.says, m.name as by, n.edition, n.at,
			n.by_member is not distinct from nullif($1, '')::uuid as mine from drill_note n
			join member m on m.id = n.by_member
		where n.drill_id = $2 order by n.at desc limit 50`, tx.Member, drill)
}

// AddDrillNote keeps a note.
func (tx *Tx) AddDrillNote(ctx context.Context, drill string, edition int, says string, at time.Time) error {
	return tx.exec(ctx, "keep the note", `insert into drill_note (club_id, id, drill_id, edition, says, by_member,
			at) values ($1, $2, $3, $4, $5, $6, $7)`, tx.Club, NewID(), drill, edition, says, tx.Member, at)
}

// DropDrillNote takes one's own note away.
func (tx *Tx) DropDrillNote(ctx context.Context, drill, id string) error {
	tag, err := tx.Exec(ctx, `delete from drill_note where drill_id = $1 and id = $2
			and by_member = $3`, drill, id, tx.Member)
	return touched(tag.RowsAffected(), err, "take the note away")
}

// DrillUse is how a drill was used, and what the marks on it say.
type DrillUse struct {
	Times int        // sessions so far that had it
	Last  *time.Time // the last of them
	Ahead []struct { // plans to come that have it
		ID    string    `json:"id"`
		Class string    `json:"class"`
		At    time.Time `json:"at"`
		Old   bool      `json:"old"` // in an older edition
	}
	Rates []struct { // makes of tries by the day they were marked
		On    day.Day `json:"on"`
		Made  float64 `json:"made"`
		Tries float64 `json:"tries"`
	}
}

// inPlan is whether session s has the drill $1 in its plan.
const inPlan = `jsonb_path_exists(s.plan, '$.**.drill ? (@ == $d)', jsonb_build_object('d', $1::text))`

// Use reads it in one question.
func (tx *Tx) Use(ctx context.Context, drill string, now time.Time) (DrillUse, error) {
	return one[DrillUse](ctx, tx, "read the drill's use", `with u as (select s.id, s.starts_at, c.name, s.plan, `+inPlan+` as uses from session s
			join class c on c.id = s.class_id)
		select (select count(*) from u where uses and starts_at < $2)::int as times, (select max(starts_at) from u
			where uses and starts_at < $2) as last,
		(select coalesce(json_agg(json_build_object('id', id, 'class', name, 'at', starts_at, 'old',
			jsonb_path_exists(plan, '$.** ? (@.drill == $d && @.edition < $e)',
			(select jsonb_build_object('d', $1::text, 'e', edition) from drill where id = $1::uuid)))
				order by starts_at), '[]') from u where uses and starts_at >= $2) as ahead,
		(select coalesce(json_agg(r order by r."on"), '[]')
			from (select `+dayOf("m.at")+` as "on", sum(m.figure) as made, sum(m.tries) as tries from mark m left
			join strike x on x.mark_id = m.id
			where m.drill_id = $1::uuid and m.tries > 0 and m.figure <= m.tries and x.mark_id is null
				group by 1) r) as rates`,
		drill, now)
}

// LastUsed is when each drill was last in a session of the weeks before now.
func (tx *Tx) LastUsed(ctx context.Context, now time.Time, weeks int) (map[string]time.Time, error) {
	type row struct {
		Drill string
		Last  time.Time
	}
	rows, err := collect[row](ctx, tx, "read when drills were used", `select x.drill_id as drill, max(s.starts_at) as last
			from session s join session_drill x on x.session_id = s.id
		where s.starts_at < $1 and s.starts_at > $1 - make_interval(weeks => $2) group by 1`, now, weeks)
	out := map[string]time.Time{}
	for _, r := range rows {
		out[r.Drill] = r.Last
	}
	return out, err
}

// SharedDrill is a drill that another club on this server shares with all.
type SharedDrill struct {
	coach.Drill
	Club string
}

// SharedDrills lists what other clubs share; with an id only that one.
func (tx *Tx) SharedDrills(ctx context.Context, id string) ([]SharedDrill, error) {
	type row struct {
		editionRow
		Club string
	}
	rows, err := collect[row](ctx, tx, "list what other clubs share", `select id, edition, doc, club
			from shared_drills($1)`, null(id))
	if err != nil {
		return nil, err
	}
	out := make([]SharedDrill, len(rows))
	for i, r := range rows {
		d, err := r.drill()
		if err != nil {
			return nil, err
		}
		out[i] = SharedDrill{d, r.Club}
	}
	return out, nil
}

// Drawings are the diagrams of drills in their newest editions, by id.
func (tx *Tx) Drawings(ctx context.Context, ids []string) (map[string]*coach.Drawing, error) {
	ds, err := tx.drills(ctx, `select d.id, e.edition, jsonb_build_object('diagram',
			e.doc->'diagram') as doc `+newestEdition+` where d.id = any($2::uuid[]) and `+mine, tx.Member, ids)
	out := map[string]*coach.Drawing{}
	for _, d := range ds {
		out[d.ID] = d.Diagram
	}
	return out, err
}

// NearLink is a link with the names at both ends.
type NearLink struct {
	path.Link
	DrillName, OtherName string
}

// LinksOf lists the links of a drill, either way.
func (tx *Tx) LinksOf(ctx context.Context, id string) ([]NearLink, error) {
	return collect[NearLink](ctx, tx, "list the drill's links", `select l.drill_id as drill, l.kind,
			l.other_id as other, d.name as drill_name, o.name as other_name from drill_link l
		join drill d on d.id = l.drill_id join drill o on o.id = l.other_id
		where (l.drill_id = $2 or l.other_id = $2) and d.off_at is null and o.off_at is null and `+mine+` and `+strings.ReplaceAll(mine, "d.", "o.")+` order by d.name collate names, o.name collate names`, tx.Member, id)
}

// DrillsOf are the named drills in their newest editions, in the order of the names.
func (tx *Tx) DrillsOf(ctx context.Context, ids []string) ([]coach.Drill, error) {
	return tx.drills(
		ctx,
		`select d.id, e.edition, e.doc `+newestEdition+` where d.id = any($2::uuid[]) and `+mine+` order by d.name collate names, d.id`,
		tx.Member,
		ids,
	)
}

// DrillNamed is the id of the drill on the shelf with that name, large and small letters alike; ErrNone where there is
// none.
func (tx *Tx) DrillNamed(ctx context.Context, name string) (id string, err error) {
	err = tx.QueryRow(ctx, `select d.id from drill d where d.off_at is null and lower(d.name) = lower($2) and `+mine+` order by d.id limit 1`, tx.Member, strings.Join(strings.Fields(name), " ")).
		Scan(&id)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNone
	}
	return id, err
}
