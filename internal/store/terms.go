package store

import (
	"context"
	"slices"
	"time"

	"gruppo/internal/coach/register"
	"gruppo/internal/coach/season"

	"github.com/jackc/pgx/v5"
)

// Terms lists the terms by their first day.
func (tx *Tx) Terms(ctx context.Context) ([]season.Term, error) {
	ts, err := keep(ctx, tx, "setup", "terms", func() ([]season.Term, error) {
		return collect[season.Term](ctx, tx, "list terms", `select id, name, from_on as "from", until_on as until,
			taken_over_at as taken_over from term order by from_on, name`)
	})
	return slices.Clone(ts), err
}

// PutTerm adds or changes a term; ErrTaken when the name is another's.
func (tx *Tx) PutTerm(ctx context.Context, t season.Term) error {
	return taken(tx.exec(ctx, "keep the term", `insert into term (club_id, id, name, from_on, until_on)
			values ($1, $2, $3, $4, $5)
		on conflict (club_id, id) do update set name = excluded.name, from_on = excluded.from_on,
			until_on = excluded.until_on`, tx.Club, t.ID, t.Name, t.From, t.Until))
}

// TermClass is a class as it will be in a term.
type TermClass struct {
	ID, TermID, ProgramID string
	ClassID               string // the class it goes on from; empty: a new one
	Name                  string
	Weekday               int
	Starts                string
	Minutes               int
	VenueID, VenueName    string
	Places                int
	StageIDs              []string
	AgeFrom, AgeUntil     int // 0: no bound
}

// TermClasses lists a term's classes through the week from Monday.
func (tx *Tx) TermClasses(ctx context.Context, term string) ([]TermClass, error) {
	return collect[TermClass](ctx, tx, "list the term's classes", `select c.id, c.term_id, c.program_id,
			coalesce(c.class_id::text, '') as class_id, c.name, c.weekday, to_char(c.starts, 'HH24:MI') as starts,
			c.minutes, c.venue_id, v.name as venue_name,
		c.places, c.stage_ids::text[] as stage_ids, c.age_from, c.age_until from term_class c
			join venue v on v.id = c.venue_id where c.term_id = $1 order by (c.weekday + 6) % 7, c.starts, c.name`, term)
}

// PutTermClass adds or changes a class of a term.
func (tx *Tx) PutTermClass(ctx context.Context, c TermClass) error {
	return tx.exec(ctx, "keep the term's class", `insert into term_class (club_id, id, term_id, program_id, class_id,
			name, weekday, starts, minutes, venue_id, places, stage_ids, age_from, age_until)
		values ($1, $2, $3, $4, $5, $6, $7, $8::text::time, $9, $10, $11, $12::uuid[], $13, $14)
		on conflict (club_id, id) do update set name = excluded.name, weekday = excluded.weekday,
			starts = excluded.starts, minutes = excluded.minutes, venue_id = excluded.venue_id,
			places = excluded.places, stage_ids = excluded.stage_ids,
			age_from = excluded.age_from, age_until = excluded.age_until`,
		tx.Club, c.ID, c.TermID, c.ProgramID, null(c.ClassID), c.Name, c.Weekday, c.Starts, c.Minutes,
		c.VenueID, c.Places, list(c.StageIDs), c.AgeFrom, c.AgeUntil)
}

// ClassAges are the ages of the players in a class, in the year a term begins.
type ClassAges struct {
	ClassID          string
	Youngest, Oldest int
}

// AgesIn lists the ages in the classes, of players whose year of birth is known.
func (tx *Tx) AgesIn(ctx context.Context, term string) ([]ClassAges, error) {
	return collect[ClassAges](ctx, tx, "read the ages in classes", `select e.class_id,
			(extract(year from t.from_on) - max(p.birth_year))::int as youngest, (extract(year
				from t.from_on) - min(p.birth_year))::int as oldest
		from class_player e join player p on p.id = e.player_id join term t on t.id = $1
		where p.birth_year is not null group by e.class_id, t.from_on`, term)
}

// DropTermClass takes a class out of a term, and out of everybody's wishes for it.
func (tx *Tx) DropTermClass(ctx context.Context, id string) error {
	if err := tx.exec(ctx, "take the class out of wishes", `update wish set cannot = array_remove(cannot, $1),
			likes = array_remove(likes, $1), put = case when put = $1::text then '' else put end
		where $1 = any(cannot) or $1 = any(likes) or put = $1::text`, id); err != nil {
		return err
	}
	return tx.exec(ctx, "take the class out of the term", `delete from term_class where id = $1`, id)
}

// Wish is what a player wishes for a term, and where a coach put them by hand.
type Wish struct {
	PlayerID, ProgramID string
	Returns             bool
	Cannot, Likes       []string // classes of the term
	Put                 string   // a class of the term, or OnTheList; empty: nobody put them anywhere
}

// OnTheList keeps a player without a place by hand.
const OnTheList = "list"

// Wishes lists what is wished for a term; who wished nothing is not in it, and comes back.
func (tx *Tx) Wishes(ctx context.Context, term string) ([]Wish, error) {
	return collect[Wish](ctx, tx, "list the wishes", `select player_id, program_id, returns, cannot::text[] as cannot,
			likes::text[] as likes, put from wish where term_id = $1`, term)
}

// PutWish keeps a player's wishes for a term.
func (tx *Tx) PutWish(ctx context.Context, term string, w Wish) error {
	return tx.exec(ctx, "keep the wish", `insert into wish (club_id, term_id, player_id, program_id, returns, cannot,
			likes, put) values ($1, $2, $3, $4, $5, $6::uuid[], $7::uuid[], $8)
		on conflict (club_id, term_id, player_id, program_id) do update
			set returns = excluded.returns, cannot = excluded.cannot, likes = excluded.likes, put = excluded.put`,
		tx.Club, term, w.PlayerID, w.ProgramID, w.Returns, list(w.Cannot), list(w.Likes), w.Put)
}

// ClearPut takes back everything that was put by hand for a program in a term.
func (tx *Tx) ClearPut(ctx context.Context, term, program string) error {
	return tx.exec(ctx, "take back what was put by hand", `update wish set put = '' where term_id = $1
			and program_id = $2 and put <> ''`, term, program)
}

// TakeOver makes the term's classes of a program the club's own, with the players placed in them: a class that goes on
// changes, a new one is made, and one that the term does not have keeps nobody. In gives the players by class of the
// term.
func (tx *Tx) TakeOver(ctx context.Context, term, program string, in map[string][]string, at time.Time) error {
	plan, err := tx.TermClasses(ctx, term)
	if err != nil {
		return err
	}
	now, err := tx.Classes(ctx)
	if err != nil {
		return err
	}
	byID := map[string]Class{}
	for _, c := range now {
		byID[c.ID] = c
	}
	kept := map[string]bool{}
	for _, c := range plan {
		if c.ProgramID != program {
			continue
		}
		k := byID[c.ClassID] // its zone and its people go on
		if k.ID == "" {
			k = Class{ID: NewID(), ProgramID: program}
		}
		if k.VenueID != c.VenueID {
			k.Zone = ""
		}
		kept[k.ID] = true
		k.Name, k.Weekday, k.Starts, k.Minutes, k.VenueID, k.Places, k.StageIDs = c.Name, c.Weekday, c.Starts, c.Minutes, c.VenueID, c.Places, c.StageIDs
		if err := tx.PutClass(ctx, k); err != nil {
			return err
		}
		if err := tx.exec(ctx, "tie the term's class to it", `update term_class set class_id = $2
			where id = $1`, c.ID, k.ID); err != nil {
			return err
		}
		if err := tx.Enrol(ctx, k.ID, in[c.ID]); err != nil {
			return err
		}
	}
	for _, c := range now {
		if c.ProgramID == program && !kept[c.ID] {
			if err := tx.Enrol(ctx, c.ID, nil); err != nil {
				return err
			}
		}
	}
	return tx.exec(ctx, "note that the term was taken over", `update term set taken_over_at = $2
			where id = $1`, term, at)
}

// Enrolments are the classes of every player, by player.
func (tx *Tx) Enrolments(ctx context.Context) (map[string][]string, error) {
	rows, err := tx.Query(ctx, `select player_id::text, array_agg(class_id::text order by class_id) from class_player
			group by player_id`)
	if err != nil {
		return nil, err
	}
	out := map[string][]string{}
	var player string
	var classes []string
	_, err = pgx.ForEachRow(rows, []any{&player, &classes}, func() error {
		out[player] = append([]string(nil), classes...)
		return nil
	})
	return out, err
}

// Came is how a player came to a session.
type Came struct {
	SessionID, ClassName string
	State                register.Word
	StartsAt             time.Time
}

// Attendances are how a player came to their last sessions, the newest first: what every page and report counts from.
type Attendances []Came

// Visits is how many of them the player came to.
func (a Attendances) Visits() (n int) {
	for _, c := range a {
		if (register.Said{Word: c.State}).Came() {
			n++
		}
	}
	return n
}

// lastSessions is how far back attendance is told.
const lastSessions = 16

// Attendances lists what the register said of a player in their last sessions.
func (tx *Tx) Attendances(ctx context.Context, player string) (Attendances, error) {
	return collect[Came](ctx, tx, "list the player's attendance", `select a.session_id, c.name as class_name, a.state,
			s.starts_at from attendance a join session s on s.id = a.session_id join class c on c.id = s.class_id
		where a.player_id = $1 and a.state <> '' order by s.starts_at desc, a.session_id limit $2`, player, lastSessions)
}

// OneTerm is a term by its id, or ErrNone.
func (tx *Tx) OneTerm(ctx context.Context, id string) (season.Term, error) {
	if !IsID(id) {
		return season.Term{}, ErrNone
	}
	terms, err := tx.Terms(ctx)
	if err != nil {
		return season.Term{}, err
	}
	for _, t := range terms {
		if t.ID == id {
			return t, nil
		}
	}
	return season.Term{}, ErrNone
}
