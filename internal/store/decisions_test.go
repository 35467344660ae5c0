package store_test

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"

	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/demo"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
)

// do runs something in the club and fails the test when it fails.
func do(t testing.TB, st *store.Store, club string, f func(*store.Tx) error) {
	t.Helper()
	if err := st.In(ctx, club, f); err != nil {
		t.Fatal(err)
	}
}

// A step up that holds from a day is carried out when that day begins where the club is, and once.
func TestAStepUpWaitsForItsDayInTheClubsZone(t *testing.T) {
	st, _ := open(t)
	member, program := store.NewID(), ""
	clubs := map[string]string{"Pacific/Auckland": store.NewID(), "America/Los_Angeles": store.NewID()}
	who := map[string]string{}
	today := time.Date(2026, 12, 19, 0, 0, 0, 0, time.UTC)
	for zone, club := range clubs {
		who[zone] = store.NewID()
		do(t, st, club, func(tx *store.Tx) (err error) {
			if err := tx.AddClub(ctx, store.Club{Name: zone, TimeZone: zone}); err != nil {
				return err
			}
			if err := tx.AddMember(ctx, store.Member{ID: member, Name: "Lead", Email: zone + "@club.example", Role: "lead", PasswordHash: "x"}); err != nil {
				return err
			}
			stages, err := exchange.Starter(coach.BallGames)
			if err != nil {
				return err
			}
			if program, err = tx.AddLadder(ctx, "Judo", coach.BallGames, stages, today); err != nil {
				return err
			}
			ladders, err := tx.Ladders(ctx)
			if err != nil {
				return err
			}
			first, second := ladders[0].Stages[0].ID, ladders[0].Stages[1].ID
			if err := tx.PutPlayers(ctx, []store.Player{{ID: who[zone], Name: "Mina", Joined: day.Of(today), Standings: []store.Standing{{Program: program, Stage: first, Since: day.New(2026, 9, 1)}}}}); err != nil {
				return err
			}
			d := deciding.Decision{
				ID:        store.NewID(),
				PlayerID:  who[zone],
				ProgramID: program,
				Kind:      deciding.Up,
				FromStage: first,
				ToStage:   second,
				At:        today.AddDate(0, 0, -20),
				FromOn:    day.Of(today),
			}
			if err := tx.AddDecision(ctx, d, member); err != nil {
				return err
			}
			d.ID, d.FromStage = store.NewID(), second
			if err := tx.AddDecision(ctx, d, member); !errors.Is(err, store.ErrChangedSince) {
				t.Errorf("decided from a stage where nobody stands: %v", err)
			}
			return nil
		})
	}
	for _, c := range []struct {
		at   string
		want int
	}{{"2026-12-18T10:30:00Z", 0}, // still the 18th in both
		{"2026-12-18T11:30:00Z", 1}, // half past midnight in Auckland
		{"2026-12-19T07:30:00Z", 0}, // an hour before it in Los Angeles
		{"2026-12-19T08:30:00Z", 1}, {"2026-12-30T00:00:00Z", 0}} {
		at, _ := time.Parse(time.RFC3339, c.at)
		if n, err := st.StepUpDue(ctx, at); err != nil || n != c.want {
			t.Errorf("at %s %d stepped up, want %d (%v)", c.at, n, c.want, err)
		}
	}
}

// What the database counts by days it counts by the club's: an evening in Los Angeles is the next day in UTC already, a
// morning in Auckland still the day before.
func TestTheDatabaseCountsTheClubsDays(t *testing.T) {
	st, club, _ := withDemo(t)
	_, member, err := account(st, demo.Members[0].Email)
	if err != nil {
		t.Fatal(err)
	}
	for _, zone := range []string{"Pacific/Auckland", "America/Los_Angeles"} {
		loc, err := time.LoadLocation(zone)
		if err != nil {
			t.Fatal(err)
		}
		do(t, st, club, func(tx *store.Tx) error {
			if err := tx.SetClub(ctx, store.Club{Name: "Away", TimeZone: zone, Units: "metric"}); err != nil {
				return err
			}
			classes, err := tx.Classes(ctx)
			if err != nil {
				return err
			}
			program := classes[0].ProgramID
			for _, hour := range []string{"01:00", "23:00"} {
				if _, err := tx.Exec(ctx, `update session
					set starts_at = ((starts_at at time zone $1)::date + $2::text::time) at time zone $1`, zone, hour); err != nil {
					return err
				}
				if classes, err = tx.Classes(ctx); err != nil {
					return err
				}
				for _, c := range classes {
					var first time.Time
					if err := tx.QueryRow(ctx, `select min(starts_at) from session where class_id = $1`, c.ID).Scan(&first); err != nil {
						return err
					}
					if c.Began == nil || *c.Began != day.Of(first.In(loc)) {
						t.Errorf("%s, %s: %s began on %s, its first session was at %s", zone, hour, c.Name, c.Began, first.In(loc))
					}
				}
				if err := notesComeBack(t, tx, classes[0].ID, member, loc); err != nil {
					return err
				}
				if err := daysOfTheSeason(t, tx, classes[0].ID, loc); err != nil {
					return err
				}
				if err := daysOfTries(t, tx, loc); err != nil {
					return err
				}
				came, err := tx.CameOn(ctx, program)
				if err != nil {
					return err
				}
				for who, on := range came {
					slices.SortFunc(on, time.Time.Compare)
					third := day.Of(on[max(0, len(on)-3)].In(loc))
					if _, err := tx.Exec(ctx, `update standing set since = $2 where player_id = $1`, who, third); err != nil {
						return err
					}
				}
				visits, err := tx.Visits(ctx, program, nil)
				if err != nil {
					return err
				}
				for who, on := range came {
					if visits[who] != min(3, len(on)) {
						t.Errorf("%s, %s: %d visits since the day of the third last, of %d", zone, hour, visits[who], len(on))
						break
					}
				}
			}
			return nil
		})
	}
}

// notesComeBack checks that a note for the day of a session is seen in it, and one for the day after is not: in its
// plan and in the hall.
func notesComeBack(t *testing.T, tx *store.Tx, class, by string, loc *time.Location) error {
	sessions, err := tx.Sessions(ctx, store.SessionFilter{Class: class})
	if err != nil {
		return err
	}
	s := sessions[len(sessions)-1]
	players, _, err := tx.Expected(ctx, s)
	if err != nil {
		return err
	}
	that := day.Of(s.StartsAt.In(loc))
	due := map[string]day.Day{store.NewID(): that, store.NewID(): that.Add(1)}
	for id, on := range due {
		n := store.Note{ID: id, Player: players[0].ID, Kind: "follow", Says: "ask", Due: on, At: s.StartsAt.AddDate(0, -6, 0), By: by}
		if err := tx.AddNote(ctx, n); err != nil {
			return err
		}
	}
	ground, err := tx.Ground(ctx, s)
	if err != nil {
		return err
	}
	hall, err := tx.Hall(ctx, s.ID, "", []string{players[0].ID}, s.StartsAt)
	if err != nil {
		return err
	}
	for where, notes := range map[string][]store.Note{"plan": ground.Notes, "hall": hall.Notes} {
		for id, on := range due {
			seen := slices.ContainsFunc(notes, func(n store.Note) bool { return n.ID == id })
			if seen != (on == that) {
				t.Errorf("%s, %s: the %s of a session on %s shows a note for %s: %t", loc, s.StartsAt.In(loc).Format("15:04"), where, that, on, seen)
			}
		}
	}
	return nil
}

// daysOfTheSeason checks that each session stands on its day, with the theme of that day, and that a season that begins
// or ends then has it.
func daysOfTheSeason(t *testing.T, tx *store.Tx, class string, loc *time.Location) error {
	sessions, err := tx.Sessions(ctx, store.SessionFilter{Class: class})
	if err != nil {
		return err
	}
	for _, s := range []store.Session{sessions[0], sessions[len(sessions)-1]} {
		that := day.Of(s.StartsAt.In(loc))
		for on, theme := range map[day.Day]string{that.Add(-1): "the day before", that: "the day", that.Add(1): "the day after"} {
			if err := tx.PutTheme(ctx, store.Theme{Class: class, On: on, Theme: season.Theme{Kind: "words", Value: theme}}); err != nil {
				return err
			}
		}
		ground, err := tx.Ground(ctx, s)
		if err != nil {
			return err
		}
		if ground.Theme == nil || ground.Theme.Value != "the day" {
			t.Errorf("%s: the session at %s has the theme %+v", loc, s.StartsAt.In(loc), ground.Theme)
		}
		had, err := tx.Practised(ctx, that, that)
		if err != nil {
			return err
		}
		met, err := tx.Meetings(ctx, that, that)
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(had, func(p store.Practised) bool { return p.Session == s.ID && p.On == that }) {
			t.Errorf("%s: what was practised on %s lacks the session at %s", loc, that, s.StartsAt.In(loc))
		}
		if s.Ended && !slices.ContainsFunc(met, func(m store.Meeting) bool { return m.Class == class && m.On == that }) {
			t.Errorf("%s: what was run on %s lacks the session at %s", loc, that, s.StartsAt.In(loc))
		}
	}
	return nil
}

// daysOfTries checks that a drill's tries stand on the days they were marked.
func daysOfTries(t *testing.T, tx *store.Tx, loc *time.Location) error {
	rows, err := tx.Query(ctx, `select drill_id, at from mark where tries > 0 and figure <= tries
			and drill_id = (select drill_id from mark where drill_id is not null and tries > 0 limit 1)
			and not exists (select from strike where mark_id = mark.id)`)
	if err != nil {
		return err
	}
	marks, err := pgx.CollectRows(rows, pgx.RowToStructByPos[struct {
		Drill string
		At    time.Time
	}])
	if err != nil || len(marks) == 0 {
		return errors.Join(err, errors.New("the demo has tries at a drill"))
	}
	days := map[day.Day]bool{}
	for _, m := range marks {
		days[day.Of(m.At.In(loc))] = true
	}
	use, err := tx.Use(ctx, marks[0].Drill, marks[0].At)
	if err != nil {
		return err
	}
	for _, r := range use.Rates {
		if !days[r.On] {
			t.Errorf("%s: tries on %s, when nobody marked one", loc, r.On)
		}
	}
	if len(use.Rates) != len(days) {
		t.Errorf("%s: tries on %d days, marked on %d", loc, len(use.Rates), len(days))
	}
	return nil
}

// Changing a criterion that marks rest on makes an edition; one that nothing rests on is only written better.
func TestEditionsOfACriterion(t *testing.T) {
	st, club, _ := withDemo(t)
	do(t, st, club, func(tx *store.Tx) error {
		ladders, err := tx.Ladders(ctx)
		if err != nil {
			return err
		}
		used := ladders[0].Stages[0].Criteria[0]
		used.Want = 9
		fresh := coach.Criterion{
			ID:      store.NewID(),
			StageID: used.StageID,
			Order:   9,
			Wording: "Rolls a ball",
			Skill:   "rolling",
			Measure: coach.Streak,
			Want:    3,
			Rule:    coach.EvidenceRule{Good: 1, Days: 1, People: 1},
		}
		for _, k := range []coach.Criterion{used, fresh, fresh} {
			if err := tx.PutCriterion(ctx, k, time.Now()); err != nil {
				return err
			}
		}
		was, err := tx.CriterionEditions(ctx, used.ID)
		if err != nil {
			return err
		}
		if len(was) != 2 || was[0].Criterion.Want != 9 || was[1].Criterion.Want != 7 || was[1].Marks == 0 ||
			was[0].Marks != 0 ||
			was[1].Criterion.Standard() != "7 of 10" {
			t.Errorf("editions %+v", was)
		}
		if es, err := tx.CriterionEditions(ctx, fresh.ID); err != nil || len(es) != 1 || es[0].Criterion.Edition != 1 {
			t.Errorf("nothing rests on it: %+v, %v", es, err)
		}
		return nil
	})
}

// A term is taken over: a class goes on under new times, a new one is made, one that does not run keeps nobody; and all
// of it is undone.
func TestATermIsTakenOver(t *testing.T) {
	st, club, _ := withDemo(t)
	_, member, _ := account(st, demo.Members[0].Email)
	var term season.Term
	var classes []store.TermClass
	var program string
	seen := func() (out string) {
		do(t, st, club, func(tx *store.Tx) error {
			ks, err := tx.Classes(ctx)
			for _, k := range ks {
				out += fmt.Sprintln(k.Name, k.Starts, k.Places, k.Enrolled, len(k.Members))
			}
			return err
		})
		return out
	}
	do(t, st, club, func(tx *store.Tx) (err error) {
		terms, err := tx.Terms(ctx)
		if err != nil {
			return err
		}
		now, next := season.TermAt(terms, day.Of(time.Now()))
		if now.Name != "Autumn" || next.Name != "Winter" {
			t.Errorf("now %s, next %s", now.Name, next.Name)
		}
		if last, none := season.TermAt(terms, next.Until); last.Name != "Winter" || none.ID != "" {
			t.Errorf("on its last day: %s, then %s", last.Name, none.Name)
		}
		term = next
		classes, err = tx.TermClasses(ctx, term.ID)
		return err
	})
	at := func(name string) store.TermClass {
		return classes[slices.IndexFunc(classes, func(k store.TermClass) bool { return k.Name == name })]
	}
	if a, c := at("Adult beginners"), at("Saturday Shore"); a.AgeFrom != 18 || a.AgeUntil != 0 || c.AgeFrom != 0 ||
		c.AgeUntil != 17 {
		t.Errorf("ages: %+v %+v", a, c)
	}
	tuesday := at("Tuesday hall")
	program = tuesday.ProgramID
	tuesday.Starts, tuesday.Places = "18:30", 24
	fresh := store.TermClass{
		ID:        store.NewID(),
		TermID:    term.ID,
		ProgramID: program,
		Name:      "Friday Tide",
		Weekday:   5,
		Starts:    "17:00",
		Minutes:   60,
		VenueID:   tuesday.VenueID,
		Places:    12,
	}
	before := seen()
	var some []store.Player
	do(t, st, club, func(tx *store.Tx) (err error) {
		some, err = tx.Players(ctx, store.PlayerFilter{Limit: 3})
		return err
	})
	id, err := st.Change(ctx, club, member, "", "Took over", func(tx *store.Tx) error {
		for _, k := range []store.TermClass{tuesday, fresh} {
			if err := tx.PutTermClass(ctx, k); err != nil {
				return err
			}
		}
		if err := tx.DropTermClass(ctx, at("Saturday squad").ID); err != nil {
			return err
		}
		return tx.TakeOver(
			ctx,
			term.ID,
			program,
			map[string][]string{tuesday.ID: {some[0].ID, some[1].ID}, fresh.ID: {some[2].ID}},
			time.Now(),
		)
	})
	if err != nil {
		t.Fatal(err)
	}
	after := seen()
	for _, want := range []string{"Tuesday hall 18:30 24 2 4\n", "Friday Tide 17:00 12 1 0\n", "Saturday squad 11:30 16 0 2\n", "Skipping club 12:30 18 "} {
		if !strings.Contains(after, want) {
			t.Errorf("after it there is no %q in\n%s", want, after)
		}
	}
	if _, err := st.Undo(ctx, club, member, id); err != nil {
		t.Fatal(err)
	}
	if undone := seen(); undone != before {
		t.Errorf("undone:\n%s\nwas:\n%s", undone, before)
	}
}

// Marks of a session with a live station in the skill are of live practice, others are not.
func TestLivePracticeIsReadFromThePlan(t *testing.T) {
	st, club, _ := withDemo(t)
	do(t, st, club, func(tx *store.Tx) error {
		marks, err := tx.Marks(ctx, store.MarkFilter{})
		if err != nil {
			return err
		}
		live, err := tx.LiveSkills(ctx, marks)
		if err != nil || len(live) == 0 {
			t.Fatalf("no live practice in twelve weeks: %v", err)
		}
		ladders, err := tx.Ladders(ctx)
		if err != nil {
			return err
		}
		skill := map[string]string{}
		for _, p := range ladders {
			for _, s := range p.Stages {
				for _, k := range s.Criteria {
					skill[k.ID] = k.Skill
				}
			}
		}
		for id, criteria := range live {
			s, err := tx.Session(ctx, id)
			if err != nil {
				return err
			}
			drills, err := tx.PlanDrills(ctx, s.Plan)
			if err != nil {
				return err
			}
			for _, k := range criteria {
				shows := false
				for _, x := range s.Plan.Stations() {
					d := drills[x.Drill]
					shows = shows || (d.Practice == "random" || d.Form == "live") && slices.Contains(d.Skills, skill[k])
				}
				if !shows {
					t.Errorf(
						"%s is called live on %s without such a station",
						skill[k],
						s.StartsAt.Format(time.DateOnly),
					)
				}
			}
		}
		return nil
	})
}
