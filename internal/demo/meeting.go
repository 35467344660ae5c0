package demo

import (
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deciding"
	"gruppo/internal/coach/register"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// triesOut is the player who tries out the squad.
const triesOut = 40

// in is a number of days from now; before it where negative.
func (l *loader) in(days int) time.Time { return l.now.AddDate(0, 0, days) }

// deciding is what a meeting leaves behind: two terms, a try-out, a task for home, a criterion that was made harder,
// and players marked by two people side by side.
func (l *loader) deciding() error {
	for _, step := range []func() error{l.terms, l.season, l.tryOut, l.harder, l.sideBySide} {
		if err := step(); err != nil {
			return err
		}
	}
	if err := l.comesBack(); err != nil {
		return err
	}
	return l.atHome()
}

// season: a cup and a break, and what each class was and will be about: skills and cleaning up by turns, the last days open.
func (l *loader) season() error {
	for _, d := range []store.DayOff{
		{Kind: store.Holiday, Name: "Term break", From: day.Of(l.in(14)), Until: day.Of(l.in(18))},
		{Kind: store.OnShow, Name: "Harbour cup", From: day.Of(l.in(22)), Until: day.Of(l.in(22))},
	} {
		d.ID = store.NewID()
		if err := l.tx.PutDayOff(l.ctx, d); err != nil {
			return err
		}
	}
	classes, err := l.tx.Classes(l.ctx)
	if err != nil {
		return err
	}
	skills := map[coach.Family][]string{
		coach.BallGames: {"catching", "shooting", "defending", "passing", "footwork"},
		coach.Apparatus: {"rope rhythm", "rope control"},
	}
	for i, k := range classes {
		of := skills[k.Family]
		for w, on := range season.Dates(k.Weekday, day.Of(l.in(-84)), day.Of(l.in(8))) {
			t := season.Theme{Kind: season.Skill, Value: of[(w/2+i)%len(of)]}
			if w%2 == 1 {
				t = season.Theme{Kind: season.CleanUp, Says: "What we know already, cleaner than last week."}
			}
			if err := l.tx.PutTheme(l.ctx, store.Theme{Class: k.ID, On: on, Theme: t}); err != nil {
				return err
			}
		}
	}
	return nil
}

// terms: this one and the next, with who can come to what in the next.
func (l *loader) terms() error {
	autumn, winter := season.Term{
		ID:    store.NewID(),
		Name:  "Autumn",
		From:  day.Of(l.in(-84)),
		Until: day.Of(l.in(24)),
	}, season.Term{
		ID:    store.NewID(),
		Name:  "Winter",
		From:  day.Of(l.in(25)),
		Until: day.Of(l.in(115)),
	}
	for _, t := range []season.Term{autumn, winter} {
		if err := l.tx.PutTerm(l.ctx, t); err != nil {
			return err
		}
	}
	if err := app.TakeClassesOver(l.ctx, l.tx, winter.ID); err != nil {
		return err
	}
	classes, err := l.tx.TermClasses(l.ctx, winter.ID)
	if err != nil {
		return err
	}
	next := map[string]store.TermClass{}
	for _, k := range classes {
		if k.Name == "Thursday hall" { // half of the hall is somebody else's then
			k.Places = 11
			if err := l.tx.PutTermClass(l.ctx, k); err != nil {
				return err
			}
		}
		next[k.Name] = k
	}
	return l.wishes(winter, next)
}

func (l *loader) wishes(winter season.Term, next map[string]store.TermClass) error {
	for _, w := range []struct {
		player        int
		cannot, likes string
		leaves        bool
	}{
		{player: 16, cannot: "Thursday hall"},
		{player: 25, likes: "Thursday hall"},
		{player: 30, cannot: "Tuesday hall"},
		{player: 4, likes: "Saturday Shore"},
		{player: 10, cannot: "Tuesday hall"},
		{player: 66, leaves: true},
	} {
		wish := store.Wish{PlayerID: l.players[w.player].ID, ProgramID: l.programs[0].ID, Returns: !w.leaves}
		if w.cannot != "" {
			wish.Cannot = []string{next[w.cannot].ID}
		}
		if w.likes != "" {
			wish.Likes = []string{next[w.likes].ID}
		}
		if err := l.tx.PutWish(l.ctx, winter.ID, wish); err != nil {
			return err
		}
	}
	return nil
}

// tryOut lets a player try the squad, whom one mark still keeps from it.
func (l *loader) tryOut() error {
	handball := l.programs[0]
	tide, deep := handball.Stages[2], handball.Stages[3]
	tries := deciding.Decision{
		ID:        store.NewID(),
		PlayerID:  l.players[triesOut].ID,
		ProgramID: handball.ID,
		Kind:      deciding.Try,
		FromStage: tide.ID,
		ToStage:   deep.ID,
		Why:       "strong in the game, shots still come and go",
		At:        l.in(-10),
		Visits:    2,
		ClassID:   l.classes["Saturday squad"].ID,
		Evidence: deciding.Evidence{
			Stage:   tide.Name,
			Missing: []string{"Jump shots on target: one more good mark by another person"},
			Items: []deciding.EvidenceOfItem{
				{
					Wording:  "Jump shots on target",
					Standard: "7 of 10; 2 good of the last 4, on 2 days, by 2 people",
					State:    "nearly",
					Marks:    []string{"8 of 10, Tomasz Brandt"},
				},
				{
					Wording:  "Passes on the run, in a row",
					Standard: "15 in a row; 2 good of the last 3, on 2 days",
					State:    "shown",
					Marks:    []string{"16 in a row, Leila Haddad", "17 in a row, Tomasz Brandt"},
				},
				{
					Wording:  "Side steps along the line",
					Standard: "24 in 20 s; 2 good of the last 3, on 2 days",
					State:    "shown",
					Marks:    []string{"25, Leila Haddad", "24, Tomasz Brandt"},
				},
			},
		},
	}
	if err := l.tx.RecordDecision(l.ctx, tries, l.member["Ines"]); err != nil {
		return err
	}
	squad, err := l.tx.Sessions(
		l.ctx,
		store.SessionFilter{Class: tries.ClassID, From: l.in(-8), To: l.now, Newest: true, Limit: 1},
	)
	if err != nil {
		return err
	}
	for _, s := range squad {
		if err := l.tx.AddGuest(l.ctx, s.ID, tries.PlayerID, register.Present, l.member["Ines"], s.StartsAt); err != nil {
			return err
		}
	}
	return nil
}

// harder: a criterion asks for more than it did, since some weeks ago.
func (l *loader) harder() error {
	criterion := l.programs[0].Stages[1].Criteria[1].ID
	for _, edit := range []struct {
		sql  string
		args []any
	}{
		{`update criterion_edition set edition = 2, saved_at = $2 where criterion_id = $1`, []any{criterion, l.in(-45)}},
		{`update criterion set edition = 2 where id = $1`, []any{criterion}},
		{`insert into criterion_edition (club_id, criterion_id, edition, doc, saved_at)
			select club_id, criterion_id, 1, jsonb_set(jsonb_set(doc, '{want}', '8'), '{good}', '1'), $2
			from criterion_edition where criterion_id = $1`, []any{criterion, l.in(-160)}},
	} {
		if _, err := l.tx.Exec(l.ctx, edit.sql, edit.args...); err != nil {
			return err
		}
	}
	return nil
}

// sideBySide: on a Thursday Tomasz and Leila marked the same players, and saw one thing differently.
func (l *loader) sideBySide() error {
	tide := l.programs[0].Stages[2]
	thursday, err := l.tx.Sessions(
		l.ctx,
		store.SessionFilter{Class: l.classes["Thursday hall"].ID, To: l.now.AddDate(0, 0, -14), Newest: true, Limit: 1},
	)
	if err != nil || len(thursday) == 0 {
		return err
	}
	s := thursday[0]
	for i := range 11 {
		for j, who := range []string{"Tomasz", "Leila"} {
			grade := 1 + float64((i*2+j*(i%3))%4) // alike for every third, else a step or two apart
			fouls := float64(2 + (i+i/4)%3)       // alike but for one
			if i == 7 && j == 1 {
				fouls = 1
			}
			for k, figure := range map[int]float64{3: grade, 4: fouls} {
				m := coach.Mark{
					ID:          store.NewID(),
					PlayerID:    l.players[32+i].ID,
					CriterionID: tide.Criteria[k].ID,
					SessionID:   s.ID,
					Figure:      figure,
					At:          s.StartsAt.Add(time.Duration(50+j) * time.Minute),
					By:          l.member[who],
				}
				if err := l.tx.AddMark(l.ctx, m); err != nil {
					return err
				}
			}
		}
	}
	return nil
}
