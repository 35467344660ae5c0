// Package demo fills a database with the club that examples, screenshots and the demo show. All of it is invented; its
// dates are relative to now, the rest is always the same.
package demo

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/path"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
)

// The demo's club and its accounts, all with the same password.
const (
	ClubName = "Saltmarsh Sports School"
	Password = "saltmarsh-demo"
)

// Members of the demo club.
var Members = []store.Member{
	{Name: "Ines Okafor", Email: "ines@saltmarsh.example", Role: "lead"},
	{Name: "Tomasz Brandt", Email: "tomasz@saltmarsh.example", Role: "coach"},
	{Name: "Leila Haddad", Email: "leila@saltmarsh.example", Role: "coach"},
	{Name: "Bea Lindqvist", Email: "bea@saltmarsh.example", Role: "helper"},
	{Name: "Kofi Mensah", Email: "kofi@saltmarsh.example", Role: "helper"},
	{Name: "Yuki Tanabe", Email: "yuki@saltmarsh.example", Role: "helper"},
}

type loader struct {
	content
	ctx      context.Context
	tx       *store.Tx
	now      time.Time
	rng      *rand.Rand
	member   map[string]string // first name → id
	members  map[string]store.Member
	inboxes  map[string]*app.Inbox // session and member → what they see there
	programs []store.Program
	players  []store.Player
	ability  map[string]float64 // player → how good, about 0.4 to 1
	drill    map[string]coach.Drill
	showing  coach.Showing
	classes  map[string]store.Class
	inClass  map[string][]string
	special  map[string]string // what is told of somebody → player id
}

// Load makes the demo club unless it is there.
func Load(ctx context.Context, st *store.Store, now time.Time, passwordHash string) error {
	there, err := st.Accounts(ctx, Members[0].Email)
	if err != nil {
		return fmt.Errorf("look for the demo club: %w", err)
	}
	if len(there) > 0 {
		return nil
	}
	lisbon, err := time.LoadLocation("Europe/Lisbon")
	if err != nil {
		return err
	}
	shows, err := readContent()
	if err != nil {
		return err
	}
	club := store.NewID()
	return st.In(ctx, club, func(tx *store.Tx) error {
		l := &loader{
			ctx: ctx, tx: tx, content: shows, now: now.In(lisbon), rng: rand.New(rand.NewPCG(7, 1917)),
			member: map[string]string{}, members: map[string]store.Member{}, inboxes: map[string]*app.Inbox{}, ability: map[string]float64{}, drill: map[string]coach.Drill{}, showing: coach.Showing{},
			classes: map[string]store.Class{}, inClass: map[string][]string{}, special: map[string]string{},
		}
		if err := tx.AddClub(ctx, store.Club{Name: ClubName, TimeZone: "Europe/Lisbon"}); err != nil {
			return err
		}
		for _, m := range Members {
			m.ID, m.PasswordHash = store.NewID(), passwordHash
			l.member[strings.Fields(m.Name)[0]], l.members[m.ID] = m.ID, m
			if err := tx.AddMember(ctx, m); err != nil {
				return err
			}
		}
		for _, step := range []func() error{l.ladders, l.shelf, l.shows, l.roster, l.week, l.history, l.ahead, l.used, l.deciding} {
			if err := step(); err != nil {
				return fmt.Errorf("load the demo club: %w", err)
			}
		}
		return tx.Loaded(ctx, len(l.drill)+len(l.players))
	})
}

// shows says which drills show less than their skill suggests: seven throws at a wall are no shots from nine metres.
func (l *loader) shows() error {
	not := false
	for _, s := range l.programs[0].Stages {
		for _, k := range s.Criteria {
			for _, d := range l.drill {
				if d.Name == "Seven throws" && strings.HasPrefix(k.Wording, "Shots from") {
					if err := l.tx.SetShows(l.ctx, k.ID, d.ID, &not); err != nil {
						return err
					}
					l.showing.Say(k.ID, d.ID, false)
				}
			}
		}
	}
	return nil
}

func (l *loader) ladders() error {
	ladders, err := readLadders()
	if err != nil {
		return err
	}
	for i, p := range ladders {
		pr := store.Program{ID: store.NewID(), Name: p.name}
		if err := l.tx.PutProgram(l.ctx, pr.ID, pr.Name, p.family, i+1); err != nil {
			return err
		}
		for j, s := range p.stages {
			s.ID, s.ProgramID, s.Order = store.NewID(), pr.ID, j+1
			s.Criteria = slices.Clone(s.Criteria)
			if err := l.tx.PutStage(l.ctx, s); err != nil {
				return err
			}
			for k := range s.Criteria {
				c := &s.Criteria[k]
				c.ID, c.StageID, c.Order = store.NewID(), s.ID, k+1
				if err := l.tx.PutCriterion(l.ctx, *c, l.now.AddDate(0, 0, -160)); err != nil {
					return err
				}
			}
			pr.Stages = append(pr.Stages, s)
		}
		l.programs = append(l.programs, pr)
	}
	return nil
}

// shelf puts the drills up, one of them as it grew over three editions, with links, stars and notes; one is Tomasz's
// alone so far.
func (l *loader) shelf() error {
	p, err := exchange.ReadPack(pack)
	if err != nil {
		return err
	}
	for _, e := range p.Drills {
		d := e.Drill
		d.ID = e.ID
		l.tx.Member = l.member["Ines"]
		if d.Name == "Jump-shot approach" {
			first := d
			first.Setup, first.Keys, first.Most, first.Variants, first.Easier = "Markers two metres apart. Balls on the left.", d.Keys[:2], 8, d.Variants[:1], 1
			second := d
			second.Most, second.Cautions = 8, d.Cautions[:1]
			for i, older := range []coach.Drill{first, second} {
				if err := l.put(older, i+1); err != nil {
					return err
				}
			}
			d.Edition = 3
		}
		if d.Name == "Match the throw" {
			l.tx.Member = l.member["Tomasz"]
		}
		if err := l.put(d, max(1, d.Edition)); err != nil {
			return err
		}
		d.Edition = max(1, d.Edition)
		l.drill[d.Name] = d
	}
	l.tx.Member = ""
	for _, e := range p.Drills {
		for _, k := range e.Links {
			if err := l.tx.PutLink(l.ctx, path.Link{Drill: e.ID, Kind: k.Kind, Other: k.To}); err != nil {
				return err
			}
		}
	}
	for _, name := range l.content.Stars {
		if err := l.tx.Star(l.ctx, l.drill[name].ID); err != nil {
			return err
		}
	}
	for i, n := range l.content.Notes {
		l.tx.Member = l.member[n.By]
		if err := l.tx.AddDrillNote(l.ctx, l.drill[n.Drill].ID, l.drill[n.Drill].Edition, n.Says, l.now.AddDate(0, 0, -9*(i+1))); err != nil {
			return err
		}
	}
	l.tx.Member = l.member["Tomasz"]
	if err := l.tx.Share(l.ctx, l.drill["Match the throw"].ID, "private"); err != nil {
		return err
	}
	l.tx.Member = ""
	return nil
}

// put saves an edition with a date in the past, so that it stands before the sessions that used it.
func (l *loader) put(d coach.Drill, edition int) error {
	return l.tx.PutDrill(l.ctx, d, l.now.AddDate(0, 0, -160+50*edition))
}
