package demo

import (
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach/home"
	"gruppo/internal/coach/season"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// comesBack: the rope for thirty seconds each week, twice: some get better, some only differ, one is tired.
func (l *loader) comesBack() error {
	class := l.classes["Skipping club"]
	t := store.Test{ID: store.NewID(), Class: class.ID, Name: "Rope 30 s", Test: season.Test{
		Measures: []season.Measure{{Name: "Jumps", Unit: "jumps"}, {Name: "Trips", Unit: "trips", Less: true}},
		Tries:    2, Every: 1, Conditions: "After the warm-up, own rope, two minutes apart.",
	}}
	days := season.Dates(class.Weekday, day.Of(l.in(-28)), day.Of(l.in(-1)))
	t.From = days[0]
	if err := l.tx.PutTest(l.ctx, t, l.member["Leila"]); err != nil {
		return err
	}
	for i, p := range l.inClass[class.Name] {
		for w, on := range days {
			for try := range 2 {
				noise := float64((i*7+w*3+try*2)%5) - 2 // of two either way
				jumps := 34 + float64(i*2) + noise
				switch {
				case i%4 == 0:
					jumps += 3 * float64(w)
				case i == 3 && w == len(days)-1:
					jumps -= 7
				}
				trips := float64((i + w + try) % 4)
				for m, x := range []float64{jumps, trips} {
					f := store.TestFigure{Test: t.ID, Player: p, On: on, Measure: m, Try: try, Figure: &x, At: on.Start(l.now.Location())}
					if (i+w)%9 == 8 {
						continue // away
					}
					if err := l.tx.SetTestFigure(l.ctx, f, l.member["Leila"]); err != nil {
						return err
					}
				}
			}
		}
	}
	return nil
}

// atHome: a task for one player, another for a class that grows and opens part by part, and what came back of them.
func (l *loader) atHome() error {
	wall := l.drill["Lob and catch"]
	catching := store.HomeTask{
		ID: store.NewID(), Name: "Catch off the wall", At: l.in(-13),
		Task: home.Task{
			Parts: []home.Part{{What: "Lob and catch", Drill: wall.ID, Count: 20, Each: 4.3, Instead: "a rolled sock, and a wall"}},
			Sets:  3, Days: []time.Weekday{time.Monday, time.Wednesday, time.Friday}, Unit: "catches", Levels: []float64{20, 35, 50},
			From: day.Of(l.in(-13)), Until: day.Of(l.in(14)), Says: "Soft hands, and count the clean ones.",
		},
	}
	if err := l.tx.PutHomeTask(l.ctx, catching, []string{l.special["short"]}, l.member["Tomasz"]); err != nil {
		return err
	}
	feet := store.HomeTask{
		ID: store.NewID(), Name: "Quick feet", Class: l.classes["Tuesday hall"].ID, At: l.in(-20),
		Task: home.Task{
			Parts: []home.Part{
				{What: "Two feet in, two feet out", Seconds: 60, Care: []string{"Land softly, on the front of the foot."}},
				{What: "One foot, change sides", Seconds: 60, Care: []string{"Knee over the toes."}},
				{What: "Lunge to the corners", Seconds: 60, Care: []string{"Toes slightly out in a lunge."}},
			},
			Sets: 3, MoreSets: 1, MostSets: 5, Steps: true,
			From: day.Of(l.in(-20)), Until: day.Of(l.in(20)),
			Days: []time.Weekday{time.Monday, time.Tuesday, time.Thursday, time.Friday, time.Saturday},
		},
	}
	if err := l.tx.PutHomeTask(l.ctx, feet, nil, l.member["Ines"]); err != nil {
		return err
	}
	for i, player := range l.inClass["Tuesday hall"] {
		if i%3 == 2 {
			continue // nothing came back
		}
		for back := 20; back >= 1; back-- {
			on := day.Of(l.in(-back))
			if !feet.On(on) || (back*7+i*5)%10 < 2+i%4 {
				continue
			}
			said := app.HomeSaid{Task: feet.ID, Day: on, Done: true, Felt: home.Felt[(back*3+i*2)%3], At: l.in(-back).UnixMilli()}
			if back == 2 && i == 0 {
				said.Words = "did it twice, with my sister"
			}
			if err := app.TakeHome(l.ctx, l.tx, player, "", said, l.in(-back)); err != nil {
				return err
			}
		}
	}
	for back, caught := range map[int]float64{12: 17, 10: 22, 5: 31, 3: 36} {
		on := day.Of(l.in(-back))
		said := app.HomeSaid{Task: catching.ID, Day: on, Done: true, Figure: &caught, At: l.in(-back).UnixMilli()}
		if err := app.TakeHome(l.ctx, l.tx, l.special["short"], "", said, l.in(-back)); err != nil {
			return err
		}
	}
	return nil
}
