package courtside

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/path"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/partners"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/say"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// state is everything a device needs to go on by itself for the whole session. Times are milliseconds since 1970.
type state struct {
	Now       int64             `json:"now"`
	Session   string            `json:"session"`
	Club      string            `json:"club"`
	Name      string            `json:"name"`
	When      string            `json:"when"`
	Key       string            `json:"key"`
	Zone      string            `json:"zone"`
	Me        me                `json:"me"`
	Events    []event           `json:"events"`
	Segments  []segment         `json:"segments"`
	Stations  []station         `json:"stations"`
	Tasks     []station         `json:"tasks"` // what everybody does in the blocks beside the stations
	Groups    []group           `json:"groups"`
	Players   []player          `json:"players"`
	Criteria  []criterion       `json:"criteria"`
	Tallies   []store.Tally     `json:"tallies"`
	Marks     []mark            `json:"marks"`
	Keys      []store.KeyMark   `json:"keys"`
	Notes     []store.Note      `json:"notes"`
	Climbs    []store.Climb     `json:"climbs"`
	Looked    []store.Looking   `json:"looked"`
	Look      []string          `json:"look"` // what to look for in the first look
	Ladders   []ladder          `json:"ladders"`
	Cycles    []cycle           `json:"cycles"`   // blocks of intervals
	Matches   []match           `json:"matches"`  // blocks of games
	Pairings  []pairing         `json:"pairings"` // blocks in which partners change
	Leads     []string          `json:"leads"`    // member ids of the club's leads who are here
	Crew      map[string]string `json:"crew"`     // names of those who lead here, by member id
	Heard     []heard           `json:"heard"`
	MayRunIt  bool              `json:"mayRun"`
	Crossings []store.Crossing  `json:"crossings"` // of gates
	Feedback  []store.Feedback  `json:"feedback"`
	Points    []store.Point     `json:"points"` // of pairs and teams
	Hows      []store.How       `json:"hows"`   // the kinds of feedback with their words
	Holds     int               `json:"holds"`  // from how many of a hundred a key holds
	Itself    bool              `json:"itself"` // nobody ended it
	ClipDays  int               `json:"-"`      // for how many days a mirror keeps a clip
	Tests     []testDue         `json:"tests"`  // that come back today
	Starts    int64             `json:"starts"`
	BookedEnd int64             `json:"bookedEnd"`
	Over      int               `json:"over"`  // seconds past the booked end, as it runs now
	Gives     []string          `json:"gives"` // what could give then
}

// testDue is a test of today with its page.
type testDue struct {
	Name string `json:"name"`
	Path string `json:"path"`
}

type me struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Role string `json:"role"`
}

type event struct {
	ID string `json:"id"`
	Do string `json:"do"`
	At int64  `json:"at"`
}

type heard struct {
	Name string `json:"name"`
	At   int64  `json:"at"`
}

type segment struct {
	Kind    string `json:"kind"`
	Label   string `json:"label"`
	Round   int    `json:"round"`
	Seconds int    `json:"seconds"`
	Block   int    `json:"block"`
	What    string `json:"what"`
	Turns   []int  `json:"turns,omitempty"` // seconds, where players take turns in it
}

type station struct {
	Name     string            `json:"name"`
	Block    int               `json:"block"` // of a task of everybody
	Drill    string            `json:"drill"`
	Setup    string            `json:"setup"` // HTML that carries nothing but text
	Target   string            `json:"target"`
	Written  string            `json:"written"` // what the drill asks for, where the plan asks for something else
	Kind     string            `json:"kind"`
	N        int               `json:"n"`
	Of       int               `json:"of"` // skills of a set
	Back     string            `json:"back"`
	Seconds  int               `json:"seconds"`
	Against  int               `json:"against"`
	Swap     string            `json:"swap"`
	Minus    int               `json:"minus"` // of a score
	Bonus    int               `json:"bonus"`
	Better   string            `json:"better"`
	Opens    string            `json:"opens"` // what comes when a gate opens
	Table    [][]string        `json:"table"`
	Forfeits []string          `json:"forfeits"` // to choose from after a fault
	About    string            `json:"about"`    // which situation it serves, and how they move
	Routine  []string          `json:"routine"`  // skills in order
	Work     int               `json:"work"`
	Rest     int               `json:"rest"`
	Each     int               `json:"each"` // tries each in a round, as planned
	Key      string            `json:"key"`  // the one in force, as the plan has it
	Keys     []string          `json:"keys"`
	Cautions []string          `json:"cautions"`
	Criteria []string          `json:"criteria"` // ids of those it shows
	Leader   string            `json:"leader"`
	Who      string            `json:"who"`
	Visits   []int             `json:"visits"`
	Forms    []form            `json:"forms"` // what each group does here
	Own      []ownTask         `json:"own"`   // of groups that do something else here
	Drawn    bool              `json:"drawn"`
	Aside    map[string]string `json:"aside"`  // players who do something else here, and what
	Zones    bool              `json:"zones"`  // there is a goal or target to hit
	Bridge   string            `json:"bridge"` // the name of a bridge before it
}

// ownTask is what a group does at a station instead of what it is for.
type ownTask struct {
	Group int     `json:"group"`
	Task  station `json:"task"`
}

// form is the form of a drill that a group does, and whether there is an easier or harder one.
type form struct {
	Name    string `json:"name"`
	Says    string `json:"says"`
	Easier  bool   `json:"easier"`
	Harder  bool   `json:"harder"`
	Target  string `json:"target,omitempty"` // in words, where its number is not the station's
	N       int    `json:"n,omitempty"`
	Against int    `json:"against,omitempty"`
	Each    int    `json:"each"` // tries each in a round, as planned
}

// ofTarget fills in what is asked of a group at a station, where that is its own, and how many tries a round gives them.
func (f *form) ofTarget(pic work.Picture, s work.StationAt, g work.Group) {
	f.Each = int(math.Round(pic.Each(s, g)))
	if t, own := s.TargetFor(g); own {
		f.Target, f.N, f.Against = t.String(), t.N, t.Against
	}
}

type group struct {
	Shape   string   `json:"shape"`
	Name    string   `json:"name"`
	Path    string   `json:"path"`
	Players []string `json:"players"`
	Route   []int    `json:"route"`
}

type player struct {
	ID     string   `json:"id"`
	Name   string   `json:"name"`
	Called string   `json:"called"` // the short name that tells them from the others
	Stage  string   `json:"stage"`
	StName string   `json:"stageName"`
	Limits []string `json:"limits"`
	Said   string   `json:"said"`
	Guest  bool     `json:"guest"`
	Minute int      `json:"minute"` // late from, left at
	No     string   `json:"no"`     // hurt: what must not be done
	Due    []string `json:"due"`    // criteria that somebody should look at
	Notes  []string `json:"before"` // open notes of earlier sessions
	Home   string   `json:"home"`   // how often they practised at home lately

	Cue    string            `json:"cue"`    // their own word for a key
	Short  []string          `json:"short"`  // criteria of which one more good mark would show the stage
	Lately map[string]string `json:"lately"` // of a criterion, what the last marks said
	Lacks  []string          `json:"lacks"`  // where one side is behind the other
	Zones  []int             `json:"zones"`  // good ones that went high left, high middle … low right
}

type criterion struct {
	ID        string   `json:"id"`
	Stage     string   `json:"stage"`
	StName    string   `json:"stageName"`
	Wording   string   `json:"wording"`
	Skill     string   `json:"skill"`
	Measure   string   `json:"measure"`
	Standard  string   `json:"standard"`
	Want      float64  `json:"want"`
	Of        float64  `json:"of"`
	Tolerance float64  `json:"tolerance"`
	Feet      bool     `json:"feet"` // a distance is read and stepped in feet
	Points    []string `json:"points"`
	Sides     bool     `json:"sides"`
}

type mark struct {
	ID        string `json:"id"`
	Player    string `json:"player"`
	Criterion string `json:"criterion"`
	Drill     string `json:"drill"`
	Side      string `json:"side"`
	Said      string `json:"said"`
	Meets     bool   `json:"meets"`
	By        string `json:"by"`
	ByName    string `json:"byName"`
	Struck    bool   `json:"struck"`
	At        int64  `json:"at"`
}

// ladder is a block of tasks that are climbed one by one.
type ladder struct {
	Block int       `json:"block"`
	Steps []step    `json:"steps"`
	Units []climber `json:"units"` // who climbs together
}

// climber is a group, a pair or a player on a ladder.
type climber struct {
	Unit    int      `json:"unit"`   // of a group
	Player  string   `json:"player"` // the first of a pair
	Players []string `json:"players"`
	Name    string   `json:"name"`
	Shape   string   `json:"shape"`
	Path    string   `json:"path"`
}

// cycle is a block of intervals: who works when, in each of its exercises.
type cycle struct {
	Block  int      `json:"block"`
	Names  []string `json:"names"` // first names, in the order in which they work
	IDs    []string `json:"ids"`
	Slots  []slot   `json:"slots"`  // of an exercise
	Times  int      `json:"times"`  // round all
	Light  string   `json:"light"`  // what those who rest do
	Judges []string `json:"judges"` // of a run-through: who judges each
	Says   string   `json:"says"`
}

// match is a block of games: who plays on which side, and who of them rests when.
type match struct {
	Block int    `json:"block"`
	Sides []side `json:"sides"`
}

type side struct {
	No     int      `json:"no"` // over all areas; -1: with both sides
	IDs    []string `json:"ids"`
	Name   string   `json:"name"` // "Circles", or what those do who play with both
	Shape  string   `json:"shape"`
	Path   string   `json:"path"`
	Area   int      `json:"area"` // from 1
	Names  []string `json:"names"`
	Stints []stint  `json:"stints"`
}

// stint is a stretch of a game in which the same of a side rest; seconds from its beginning.
type stint struct {
	From int   `json:"from"`
	Rest []int `json:"rest"`
}

func matchOf(index int, m work.Match) match {
	v := match{Block: index}
	for i, s := range slices.Concat(m.Sides, m.Neutral) {
		if len(s.Players) == 0 {
			continue
		}
		o := side{No: s.Number, Name: s.Shape.Name, Shape: s.Shape.Key, Path: shell.ShapePath(s.Shape.Key), Area: s.Area + 1}
		if i >= len(m.Sides) {
			o.Name = "With both sides"
		}
		o.Names = called(s.Players)
		for _, p := range s.Players {
			o.IDs = append(o.IDs, p.ID)
		}
		for _, t := range s.Stints {
			o.Stints = append(o.Stints, stint{int(t.From.Seconds()), t.Rest})
		}
		v.Sides = append(v.Sides, o)
	}
	return v
}

// pairing is a block in which partners change: who is with whom in each turn, as far as it is known.
type pairing struct {
	Block int        `json:"block"`
	Turn  int        `json:"turn"` // seconds
	Way   string     `json:"way"`
	Says  string     `json:"says"`
	Where string     `json:"where"` // what a pair's number is that of: a court, where there are so many, or a place
	Names []string   `json:"names"` // short names
	IDs   []string   `json:"ids"`
	Turns []pairTurn `json:"turns"`
}

// pairTurn is a turn: the teams, court by court, and who rests, by their places in the list of names.
type pairTurn struct {
	Teams [][]int `json:"teams"`
	Rests []int   `json:"rests"`
}

func pairingOf(in work.Input, b work.Span) pairing {
	v := pairing{Block: b.Index, Turn: b.Turn, Way: string(b.Way), Names: called(in.Players)}
	p := b.Pairs()
	if p.To > 0 {
		v.Says = fmt.Sprintf("to %d", p.To)
	}
	v.Where = "place"
	if p.Courts > 0 {
		v.Where = "court"
	}
	at := map[string]int{}
	for i, p := range in.Players {
		v.IDs = append(v.IDs, p.ID)
		at[p.ID] = i
	}
	places := func(players []coach.Player) (out []int) {
		for _, p := range players {
			out = append(out, at[p.ID])
		}
		return out
	}
	for _, t := range partners.Turns(in, b.Block, 0) {
		turn := pairTurn{Rests: places(t.Rests)}
		for _, team := range t.Teams {
			turn.Teams = append(turn.Teams, places(team))
		}
		v.Turns = append(v.Turns, turn)
	}
	return v
}

// called are the players' short names.
func called(players []coach.Player) (out []string) {
	for _, p := range players {
		out = append(out, p.First())
	}
	return out
}

// slot is a stretch of an exercise in which the same players work; seconds from its beginning.
type slot struct {
	From int   `json:"from"`
	To   int   `json:"to"`
	Time int   `json:"time"`
	Up   []int `json:"up"`
	Feed []int `json:"feed"`
}

func cycleOf(b work.Span) cycle {
	c := b.Cycle
	v := cycle{Block: b.Index, Times: c.Turns, Names: called(c.Players), Judges: c.Judged}
	for _, p := range c.Players {
		v.IDs = append(v.IDs, p.ID)
	}
	for _, s := range c.Slots {
		v.Slots = append(v.Slots, slot{int(s.From.Seconds()), int(s.To.Seconds()), s.Time, s.Up, s.Feed})
	}
	if c.Light != nil {
		v.Light = c.Light.Name
	}
	if b.Kind == doc.Run {
		v.Says = fmt.Sprintf("%s, %d at once, %d s each", say.Count(len(c.Players), "player"), min(c.Places, len(c.Players)), c.Work)
		return v
	}
	v.Says = fmt.Sprintf("%s, %d at once: %d s work, %d s rest",
		say.Count(len(c.Players), "player"), min(c.Places, len(c.Players)), c.Work, int((c.Got + c.Pause).Seconds()))
	if spared := c.SparedSays(); spared != "" {
		v.Says += ". " + spared
	}
	return v
}

type step struct {
	Name   string `json:"name"`
	Target string `json:"target"`
	Key    string `json:"key"`
	Next   string `json:"next"`   // the harder form, for who is fast
	Bridge string `json:"bridge"` // what stands between, for who is slow
	Kind   string `json:"kind"`   // of the target
	N      int    `json:"n"`
	Of     int    `json:"of"` // skills of a set, tries of few faults
	Back   string `json:"back"`
	Minus  int    `json:"minus"`
	Takes  int    `json:"takes"` // seconds until four in five hold it, as planned; 0: not known
}

func ms(t time.Time) int64 {
	if t.IsZero() {
		return 0
	}
	return t.UnixMilli()
}

// read gathers the state. Reading it says that a device of the member is in touch.
func read(c *shell.Ctx) (st state, err error) {
	var l app.Loaded
	var h store.Hall
	var marks []coach.Mark
	var links []path.Link
	names := map[string]string{} // of drills, where a ladder names its bridges
	err = c.In(func(tx *store.Tx) (err error) {
		if l, err = mine(c, tx, after); err != nil {
			return err
		}
		ids := []string{}
		for _, p := range l.Players {
			ids = append(ids, p.ID)
		}
		if h, err = tx.Hall(c.Ctx(), l.Session.ID, c.Member.ID, ids, c.Now); err != nil {
			return err
		}
		if marks, err = tx.Marks(c.Ctx(), store.MarkFilter{Session: l.Session.ID}); err != nil {
			return err
		}
		if !slices.ContainsFunc(l.Session.Plan.Blocks, func(b doc.Block) bool { return b.Kind == doc.Ladder }) {
			return nil
		}
		if links, err = tx.Links(c.Ctx()); err != nil {
			return err
		}
		cards, err := tx.Cards(c.Ctx())
		for _, k := range cards {
			names[k.ID] = k.Name
		}
		return err
	})
	if err != nil {
		return st, err
	}
	l.Work()
	st.Tallies, st.Keys, st.Climbs, st.Looked = h.Tallies, h.Keys, h.Climbs, h.Looked
	st.Crossings, st.Points, st.Feedback, st.Itself = h.Crossings, h.Points, h.Feedback, h.Itself
	st.ClipDays = h.ClipDays
	st.Hows, st.Holds = store.Hows, cmp.Or(h.Holds, evidence.KeyHolds)
	for _, k := range h.Heard {
		if k.Member != c.Member.ID {
			st.Heard = append(st.Heard, heard{k.Name, ms(k.At)})
		}
	}
	st.ladders(l, links, names)
	st.fill(c, l, h, marks, l.Marks)
	for i := range st.Stations {
		for _, b := range h.Bridges {
			if b[0] == st.Stations[i].Drill && st.Stations[i].Bridge == "" {
				st.Stations[i].Bridge = b[1]
			}
		}
	}
	if c.May(shell.EnterMarks) {
		st.fromHome(h, day.In(l.Session.StartsAt, c.Loc))
	}
	shell.Lists(&st)
	return st, nil
}

// fromHome puts in who practised at home, and the tests of the day.
func (st *state) fromHome(h store.Hall, on day.Day) {
	came := app.HomeLately(h.AtHome, on)
	for i := range st.Players {
		if days, asked := came[st.Players[i].ID]; asked {
			st.Players[i].Home = "at home " + days.String()
		}
	}
	for _, t := range h.Tests {
		st.Tests = append(st.Tests, testDue{t[1], "/season/tests/" + t[0] + "/pad?day=" + on.String()})
	}
}

func (st *state) fill(c *shell.Ctx, l app.Loaded, h store.Hall, marks, shown []coach.Mark) {
	pic := l.Picture
	helper := c.Member.Role == "helper"
	st.Now, st.Zone = ms(c.S.Now()), c.Loc.String()
	st.Session, st.Club, st.Name, st.Key = l.Session.ID, c.Club.ID, l.Session.ClassName, pic.Plan.Key
	st.When = pic.Start.Format("Mon 2 Jan, 15:04")
	st.Starts, st.BookedEnd = ms(l.Session.StartsAt), ms(l.Session.Ends())
	st.Me = me{c.Member.ID, c.Member.Name, c.Member.Role}
	st.MayRunIt = !helper
	st.Events = []event{}
	for _, e := range h.Events {
		st.Events = append(st.Events, event{e.ID, e.Do, ms(e.At)})
	}
	for _, s := range pic.Segments() {
		v := segment{
			Kind: s.Kind, Label: s.Label, Round: s.Round, Seconds: int(s.Duration.Seconds()), Block: s.Block, What: string(s.What),
		}
		for _, d := range s.Turns {
			v.Turns = append(v.Turns, int(d.Seconds()))
		}
		st.Segments = append(st.Segments, v)
	}
	st.Crew = map[string]string{}
	for _, m := range l.Session.Leaders {
		st.Crew[m.Member] = m.Name
		if m.Role == "lead" {
			st.Leads = append(st.Leads, m.Member)
		}
	}
	if !helper {
		over, offers := l.Late(h.Events, c.Now)
		st.Over = int(over.Seconds())
		for _, m := range offers {
			st.Gives = append(st.Gives, m.Words)
		}
	}
	st.places(l)
	st.dealt(pic.Picture)
	for _, b := range pic.Blocks {
		if b.Kind == doc.Look && b.Task != nil && len(st.Look) == 0 {
			st.Look = b.Task.Keys[:min(4, len(b.Task.Keys))]
		}
	}
	names := st.ladderOf(l, helper)
	st.players(c, l, names, shown, h)
	st.Marks = []mark{}
	if helper { // what others saw is not theirs to read
		others := func(by string) bool { return by != c.Member.ID }
		marks = slices.DeleteFunc(marks, func(m coach.Mark) bool { return others(m.By) })
		st.Tallies = slices.DeleteFunc(st.Tallies, func(t store.Tally) bool { return others(t.By) })
		st.Keys = slices.DeleteFunc(st.Keys, func(k store.KeyMark) bool { return others(k.By) })
		st.Feedback = slices.DeleteFunc(st.Feedback, func(f store.Feedback) bool { return others(f.By) })
		st.Looked = slices.DeleteFunc(st.Looked, func(l store.Looking) bool { return others(l.By) })
		st.Heard = nil
	}
	for _, m := range marks {
		st.Marks = append(st.Marks, markOf(l.Program, m))
	}
}

func stationOf(pic work.Picture, s work.StationAt) station {
	d := s.Drill
	v := station{
		Name:     d.Name,
		Drill:    d.ID,
		Setup:    string(shell.Markdown(d.How())),
		Target:   s.Target.String(),
		Written:  s.Changed(),
		Kind:     string(s.Target.Kind),
		N:        s.Target.N,
		Of:       s.Target.Skills,
		Back:     s.Target.Back,
		Seconds:  s.Target.Seconds,
		Against:  s.Target.Against,
		Swap:     s.Target.Swap,
		Minus:    s.Target.Minus,
		Bonus:    s.Target.Bonus,
		Better:   s.Target.Better,
		Opens:    s.Target.Opens,
		Table:    d.Table,
		Forfeits: d.Forfeits,
		About:    strings.Trim(d.Situation+" · "+d.Moves, " ·"),
		Routine:  d.Routine,
		Work:     d.Work,
		Rest:     d.Rest,
		Key:      pic.KeyFor(&d),
		Keys:     d.Keys,
		Cautions: d.Cautions,
		Visits:   s.Visits,
		Aside:    map[string]string{},
		Drawn:    d.Diagram != nil,
	}
	if d.Diagram != nil {
		v.Zones = slices.ContainsFunc(
			d.Diagram.Things,
			func(t coach.Thing) bool { return t.Kind == "goal" || t.Kind == "target" },
		)
	}
	if s.Leader != nil {
		v.Leader, v.Who = s.Leader.ID, s.Leader.Name
	}
	for _, g := range pic.Groups {
		f := form{}
		if s.ID != "" {
			f.ofTarget(pic, s, g)
		}
		if va := s.VariantFor(d, g.Number, g.Stage); va != nil {
			f.Name, f.Says = va.Name, va.Says()
		} else if len(d.Variants) > 0 {
			f.Name = coach.AsWritten
		}
		_, f.Easier = s.Eased(d, g.Number, g.Stage, -1)
		_, f.Harder = s.Eased(d, g.Number, g.Stage, 1)
		v.Forms = append(v.Forms, f)
	}
	return v
}

// places fills in what is done where: the tasks of blocks, and the stations.
func (st *state) places(l app.Loaded) {
	pic := l.Picture
	shows := func(d coach.Drill) (ids []string) {
		for _, stage := range l.Program.Stages {
			for _, k := range stage.Criteria {
				if l.Input.Shows.Shows(k, d) {
					ids = append(ids, k.ID)
				}
			}
		}
		return ids
	}
	for _, b := range pic.Blocks {
		if b.Kind == doc.Stations || b.Kind == doc.Ladder {
			continue
		}
		if b.Cycle != nil {
			st.exercises(pic.Picture, b, shows)
			continue
		}
		if m := l.Input.Match(b); m != nil {
			st.Matches = append(st.Matches, matchOf(b.Index, *m))
		}
		if b.Kind.Partners() && b.Turn > 0 {
			st.Pairings = append(st.Pairings, pairingOf(l.Input, b))
		}
		v := station{Block: b.Index, Key: pic.KeyFor(nil), Aside: map[string]string{}}
		if b.Task != nil {
			v = stationOf(pic.Picture, work.StationAt{Drill: *b.Task, Target: b.Task.Target})
			v.Block, v.Each, v.Criteria, v.Forms = b.Index, 0, shows(*b.Task), nil
		}
		if p := b.Pairs(); b.Kind.Partners() && p.To > 0 && !b.RallyLadder() {
			if v.N = p.To; b.Task.Scored().Kind != coach.MatchTheShot {
				v.Kind, v.Against = string(coach.Race), p.Against
			}
		}
		what, how := b.Does()
		v.Name, v.Setup = what, string(shell.Markdown(how))
		for _, o := range pic.Instead {
			if o.Do == "block-side" && o.At == b.ID {
				v.Aside[o.Player.ID] = o.Does
			}
		}
		st.Tasks = append(st.Tasks, v)
	}
	for _, s := range pic.Stations {
		v := stationOf(pic.Picture, s)
		v.Criteria = shows(s.Drill)
		for _, g := range pic.GroupsOf(pic.Circuits[s.Circuit]) {
			if d := s.For(g); s.HasOwn(g) && d != nil {
				own := stationOf(pic.Picture, work.StationAt{Drill: *d, Target: d.Target, Leader: s.Leader})
				own.Each = int(math.Round(pic.Each(s, g)))
				own.Criteria, own.Visits, own.Forms, own.Drawn = shows(*d), s.Visits, nil, false
				v.Own = append(v.Own, ownTask{g.Index, own})
			}
		}
		for _, o := range pic.Instead {
			if o.Do == "side" && o.At == s.ID {
				v.Aside[o.Player.ID] = o.Does
			}
		}
		st.Stations = append(st.Stations, v)
	}
}

// exercises fills in what is done in intervals: a task for each exercise, and who works when.
func (st *state) exercises(pic work.Picture, b work.Span, shows func(coach.Drill) []string) {
	for i, d := range b.Cycle.Drills {
		v := stationOf(pic, work.StationAt{Drill: d, Target: d.Target})
		v.Block, v.Criteria, v.Forms, v.Work, v.Rest = b.Index, shows(d), nil, 0, 0
		v.Name, v.Each = b.Cycle.Called(i), b.Cycle.Tries(i)*b.Cycle.Turns
		for _, o := range pic.Instead {
			if o.Do == "block-side" && o.At == b.ID {
				v.Aside[o.Player.ID] = o.Does
			}
		}
		st.Tasks = append(st.Tasks, v)
	}
	st.Cycles = append(st.Cycles, cycleOf(b))
}

// dealt fills in who goes together, and where.
func (st *state) dealt(pic work.Picture) {
	for _, g := range pic.Groups {
		v := group{
			Shape:   g.Shape.Key,
			Name:    g.Shape.Name,
			Path:    shell.ShapePath(g.Shape.Key),
			Route:   g.Route,
			Players: []string{},
		}
		for _, p := range g.Players {
			v.Players = append(v.Players, p.ID)
		}
		st.Groups = append(st.Groups, v)
	}
}

// ladderOf fills the criteria in; a helper gets those that can be shown where they stand. It returns the stages' names.
func (st *state) ladderOf(l app.Loaded, helper bool) map[string]string {
	names := map[string]string{}
	for _, s := range l.Program.Stages {
		names[s.ID] = s.Name
		for _, k := range s.Criteria {
			if helper &&
				!slices.ContainsFunc(st.Stations, func(at station) bool { return slices.Contains(at.Criteria, k.ID) }) {
				continue
			}
			points := k.Points
			if points == nil {
				points = []string{}
			}
			st.Criteria = append(
				st.Criteria,
				criterion{
					k.ID,
					s.ID,
					s.Name,
					k.Wording,
					k.Skill,
					string(k.Measure),
					k.Standard(),
					k.Want,
					k.Of,
					k.Tolerance,
					k.Units == coach.Imperial,
					points,
					k.BothSides,
				},
			)
		}
	}
	return names
}

func (st *state) players(c *shell.Ctx, l app.Loaded, stages map[string]string, shown []coach.Mark, h store.Hall) {
	looks := h.Looks.ByPlayer()
	helper := c.Member.Role == "helper"
	for _, p := range l.Players {
		cp := p.Coach(l.Program)
		said := l.Said[p.ID]
		v := player{
			ID:     p.ID,
			Name:   p.Name,
			Called: p.Called,
			Stage:  cp.Stage,
			StName: stages[cp.Stage],
			Said:   string(said.State),
			Guest:  said.Guest,
			Minute: max(said.FromMinute, said.UntilMinute),
			No:     said.NoWhat,
			Limits: limitsOf(c, l, cp, said),
			Due:    []string{},
			Notes:  []string{},
			Short:  []string{},
			Lately: map[string]string{},
			Lacks:  []string{},
			Zones:  []int{},
		}
		if helper {
			v.Name, v.StName = p.Called, "" // all that a helper needs
		} else {
			v.forCoach(c, l, shown, looks[p.ID], h)
		}
		st.Players = append(st.Players, v)
	}
	st.Notes = slices.DeleteFunc(
		h.Notes,
		func(n store.Note) bool { return n.Session != l.Session.ID || helper && n.By != c.Member.ID },
	)
}

// limitsOf are what a player must not do, or does instead, today.
func limitsOf(c *shell.Ctx, l app.Loaded, p coach.Player, said store.Attendance) []string {
	out := []string{}
	for _, lim := range p.Limits {
		if lim.Until.Holds(c.Today()) {
			out = append(out, "no "+lim.What)
		}
	}
	for _, o := range l.Picture.Instead {
		if o.Do == "block-side" && o.Player.ID == p.ID {
			out = append(out, o.Where+": "+o.Does)
		}
	}
	if said.NoWhat != "" {
		out = append(out, "today no "+said.NoWhat)
	}
	return out
}

// forCoach adds what a helper does not see: what is due to be marked, what they tend to do, and notes of days before.
func (v *player) forCoach(c *shell.Ctx, l app.Loaded, shown []coach.Mark, looks []string, h store.Hall) {
	if stage, ok := l.Program.Stage(v.Stage); ok {
		var own []coach.Mark
		for _, m := range shown {
			if m.PlayerID == v.ID {
				own = append(own, m)
			}
		}
		ready := evidence.Ready(stage, own, 0, c.Today(), c.Now)
		for _, it := range ready.Items {
			if it.Due() || slices.Contains(looks, it.Criterion.ID) {
				v.Due = append(v.Due, it.Criterion.ID)
			}
		}
		for _, k := range ready.Last() {
			v.Short = append(v.Short, k.ID)
		}
		tends := evidence.PatternsOf(stage, own, c.Now)
		v.Lately, v.Lacks = tends.Lately, append(v.Lacks, tends.Lacks...)
	}
	for _, z := range h.Zones {
		if z.Player == v.ID && z.Zone <= goalZones {
			if len(v.Zones) == 0 {
				v.Zones = make([]int, goalZones)
			}
			v.Zones[z.Zone-1] += z.N
		}
	}
	for _, n := range h.Notes { // the newest first
		switch {
		case n.Player != v.ID:
		case n.Kind == "cue":
			v.Cue = cmp.Or(v.Cue, n.Says)
		case n.Session != l.Session.ID:
			v.Notes = append(v.Notes, strings.TrimSuffix(n.Words()+": "+n.Says, ": "))
		}
	}
}

// goalZones are the parts of a goal that are tapped: high and low, left, middle and right.
const goalZones = 6

func (st *state) ladders(l app.Loaded, links []path.Link, names map[string]string) {
	for i, b := range l.Picture.Blocks {
		if b.Kind != doc.Ladder {
			continue
		}
		v := ladder{Block: i}
		for _, c := range l.Input.Climbers(b) {
			u := climber{Unit: c.Unit, Player: c.Lead, Name: strings.Join(called(c.Players), " and ")}
			if c.Lead == "" {
				u.Name, u.Shape, u.Path = c.Shape.Name, c.Shape.Key, shell.ShapePath(c.Shape.Key)
			}
			for _, p := range c.Players {
				u.Players = append(u.Players, p.ID)
			}
			v.Units = append(v.Units, u)
		}
		times, _ := l.Input.StepTimes(b)
		for i, t := range b.Steps {
			d, ok := l.Input.Drills[t.Drill]
			if !ok {
				continue
			}
			s := step{
				Name: d.Name, Target: d.Target.String(), Kind: string(d.Target.Kind), N: d.Target.N,
				Of: max(d.Target.Skills, d.Target.Of), Back: d.Target.Back, Minus: d.Target.Minus,
			}
			if i < len(times) {
				s.Takes = int(times[i].Takes.Seconds())
			}
			s.Key = l.Picture.KeyFor(&d)
			if d.Easier < len(d.Variants) {
				s.Next = d.Variants[d.Easier].Name + ": " + d.Variants[d.Easier].Says()
			}
			for _, id := range path.Around(links, d.ID).Bridges {
				s.Bridge = names[id]
			}
			v.Steps = append(v.Steps, s)
		}
		st.Ladders = append(st.Ladders, v)
	}
}

// markOf is a mark as devices show it.
func markOf(p store.Program, m coach.Mark) mark {
	v := mark{
		ID:        m.ID,
		Player:    m.PlayerID,
		Criterion: m.CriterionID,
		Drill:     m.DrillID,
		Side:      string(m.Side),
		By:        m.By,
		ByName:    m.ByName,
		Struck:    m.Struck,
		At:        ms(m.At),
	}
	if k, ok := app.CriterionOf(p, m.CriterionID); ok {
		v.Said, v.Meets = m.Said(k), evidence.Meets(k, m)
	} else if m.Tries > 0 {
		v.Said = m.Said(coach.Criterion{Measure: coach.Makes})
		if len(m.Points) > 0 && m.Note != "" { // of a routine: where they fell
			v.Said += ", " + m.Note
		}
	} else {
		v.Said = m.Note
		if v.Said == "" {
			v.Said = coach.Figure(m.Figure)
		}
	}
	return v
}
