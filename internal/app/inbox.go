package app

import (
	"cmp"
	"context"
	"errors"
	"regexp"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"gruppo/internal/coach"
	"gruppo/internal/coach/marking"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/run"
	"gruppo/internal/coach/register"
	"gruppo/internal/coach/seen"
	"gruppo/internal/day"
	"gruppo/internal/store"
)

// Late is how long after it was done a device's word about the time is believed.
const Late = 48 * time.Hour

// Beside is what the number of a block is set off by on devices, where stations are counted from 0.
const Beside = seen.Beside

// mostCount is how much one tap adds to a gate.
const mostCount = 50

// counts reports whether a place has a gate: a station, or what everybody does in a block.
func (b *Inbox) counts(place int) bool {
	p := b.Session.Plan
	if at := place - Beside; at >= 0 {
		return at < len(p.Blocks)
	}
	return place >= 0 && place < len(p.Stations())
}

// Item is one thing a device kept until it could send it: a tally, mark, said, strike, clock, has (a key), looked,
// note, climb, count (at a gate), guest, feedback, point (of a pair or team) or carry (to the next session).
type Item struct {
	Kind string `json:"kind"`
	store.Tally
	State  string  `json:"state"`
	Minute int     `json:"minute"`
	No     string  `json:"no"`
	Figure float64 `json:"figure"`
	Points []bool  `json:"points"`
	Note   string  `json:"note"`
	Do     string  `json:"do"`
	Key    string  `json:"key"`
	Has    bool    `json:"has"`
	What   string  `json:"what"` // the kind of a note
	Due    string  `json:"due"`
	Block  int     `json:"block"`
	Unit   int     `json:"unit"`
	Step   int     `json:"step"`
	Name   string  `json:"name"`
	From   string  `json:"from"` // the drill at which a criterion was marked
	Turn   string  `json:"turn"`
	Whose  string  `json:"whose"`
	Good   bool    `json:"good"`
	Undone bool    `json:"undone"`
}

// SaidWord is what was said of a player in the register.
type SaidWord struct {
	Player string `json:"player"`
	State  string `json:"state"`
	Minute int    `json:"minute"`
	No     string `json:"no"`
}

// Done is what was done to the clock.
type Done struct {
	ID, Do string
	At     time.Time
}

// Changes are what items changed. Whole: more than is said here.
type Changes struct {
	Marks   []coach.Mark
	Tallies []store.Tally
	Said    []SaidWord
	Clock   []Done
	Keys    []store.KeyMark
	Notes   []store.Note
	Climbs  []store.Climb
	Looked  []store.Looking

	Feedback []store.Feedback
	Points   []store.Point
	Whole    bool
}

// Inbox is the door through which what was done in the hall comes into a session, whether a phone sends it or the demo
// plays it: the session, and of the rest only what an item asks for.
type Inbox struct {
	Session   store.Session
	By        store.Member // whose items they are
	MayStrike bool         // marks of others too
	Now       time.Time    // in the club's zone: what is kept without a time belongs to its day
	Changed   Changes

	ctx     context.Context
	tx      *store.Tx
	known   map[string]bool // players asked about so far: whether they are in the register
	program *store.Program
}

// OpenInbox opens it for a session and a member, now in the club's zone.
func OpenInbox(ctx context.Context, tx *store.Tx, s store.Session, by store.Member, now time.Time) *Inbox {
	return &Inbox{Session: s, By: by, Now: now, ctx: ctx, tx: tx, known: map[string]bool{}}
}

// has reports whether a player is in the session's register.
func (b *Inbox) has(player string) (bool, error) {
	if !store.IsID(player) {
		return false, nil
	}
	in, asked := b.known[player]
	if !asked {
		var err error
		if in, err = b.tx.InRegister(b.ctx, b.Session.ID, player); err != nil {
			return false, err
		}
		b.known[player] = in
	}
	return in, nil
}

// keepCount adds to what all have counted at a gate.
func (b *Inbox) keepCount(it Item) error {
	if !b.counts(it.Block) || it.Step == 0 || it.Step < -mostCount || it.Step > mostCount {
		return doc.Input("", "That gate is not in the plan any more.")
	}
	return b.addClimb(store.Climb{Unit: store.Everybody}, it)
}

// keepClimb puts a group, a pair or a player on a step of a ladder.
func (b *Inbox) keepClimb(it Item) error {
	if it.Block < 0 || it.Block >= len(b.Session.Plan.Blocks) || it.Unit < 0 || it.Unit > doc.Most || it.Step < 0 ||
		it.Step > doc.MostSteps {
		return doc.Input("", "That ladder is not in the plan any more.")
	}
	if it.Player != "" {
		if in, err := b.has(it.Player); err != nil || !in {
			return cmp.Or(err, doc.Input("", "That player is not in this session."))
		}
	}
	return b.addClimb(store.Climb{Unit: it.Unit, Player: it.Player}, it)
}

func (b *Inbox) addClimb(k store.Climb, it Item) error {
	k.ID, k.Block, k.Step, k.At, k.By = it.ID, it.Block, it.Step, it.At, it.By
	b.Changed.Climbs = append(b.Changed.Climbs, k)
	return b.tx.AddClimb(b.ctx, b.Session.ID, k)
}

// Program is the session's, with its ladder.
func (b *Inbox) Program() (store.Program, error) {
	if b.program == nil {
		programs, err := b.tx.AllLadders(b.ctx)
		if err != nil {
			return store.Program{}, err
		}
		i := slices.IndexFunc(programs, func(p store.Program) bool { return p.ID == b.Session.ProgramID })
		if i < 0 {
			return store.Program{}, store.ErrNone
		}
		b.program = &programs[i]
	}
	return *b.program, nil
}

// shows reports whether a drill shows a criterion.
func (b *Inbox) shows(k coach.Criterion, drill string) (bool, error) {
	said, err := b.tx.Showing(b.ctx)
	if err != nil {
		return false, err
	}
	ds, err := b.tx.DrillsOf(b.ctx, []string{drill})
	return len(ds) == 1 && said.Shows(k, ds[0]), err
}

var clockDoes = []string{"start", "pause", "resume", "more", "less", "change", "skip", "back", "next", "again", "shorter", "end"}

// Take keeps one item, once however often it comes. Errors that are final are of type *doc.ErrInput.
func (b *Inbox) Take(it Item) error {
	if !store.IsID(it.ID) {
		return doc.Input("", "It has no proper number.")
	}
	for _, s := range []string{it.Player, it.Criterion, it.Drill, it.From} {
		if s != "" && !store.IsID(s) {
			return doc.Input("", "It speaks of something that is not there.")
		}
	}
	for _, s := range []string{it.State, it.No, it.Note, it.Key, it.What, it.Name, it.Side, it.Do, it.Turn, it.Whose, it.Form} {
		if !utf8.ValidString(s) || strings.ContainsRune(s, 0) {
			return doc.Input("", "Some of its letters cannot be read.")
		}
	}
	if len([]rune(it.Form)) > 40 {
		return doc.Input("", "The name of that form is too long.")
	}
	if it.Revision < 0 || it.Revision > 1e6 || it.Round < 0 || it.Round > 1000 {
		return doc.Input("", "Its numbers cannot be.")
	}
	// a device's clock may be wrong
	if now := b.Now; it.At.IsZero() || it.At.After(now) || it.At.Before(now.Add(-Late)) {
		it.At = now
	}
	it.By = b.By.ID
	switch it.Kind {
	case "clock":
		return b.keepClock(it)
	case "strike":
		return b.keepStrike(it)
	case "guest":
		return b.keepGuest(it)
	case "count":
		return b.keepCount(it)
	case "climb":
		return b.keepClimb(it)
	case "point":
		return b.keepPoint(it)
	case "feedback":
		if it.Player == "" {
			return b.keepFeedback(it)
		}
	}
	in, err := b.has(it.Player)
	if err != nil {
		return err
	}
	if !in {
		return doc.Input("", "The player is not in this class any more.")
	}
	switch it.Kind {
	case "said":
		return b.keepSaid(it)
	case "has":
		if n := len([]rune(it.Key)); n == 0 || n > 200 {
			return doc.Input("", "That key could not be read.")
		}
		k := store.KeyMark{
			ID:      it.ID,
			Player:  it.Player,
			Key:     it.Key,
			Has:     it.Has,
			Session: b.Session.ID,
			At:      it.At,
			By:      it.By,
		}
		b.Changed.Keys = append(b.Changed.Keys, k)
		return b.tx.AddKeyMark(b.ctx, k)
	case "looked":
		l := store.Looking{Player: it.Player, By: it.By, ByName: b.By.Name, At: it.At}
		b.Changed.Looked = append(b.Changed.Looked, l)
		return b.tx.AddLooking(b.ctx, it.ID, b.Session.ID, l)
	case "note":
		return b.keepNote(it)
	case "feedback":
		return b.keepFeedback(it)
	case "carry":
		return b.carry(it)
	case "tally", "mark":
		return b.keepMark(it)
	}
	return doc.Input("", "This program does not know what that is. Load the page again.")
}

// keepClock keeps what was done to the clock; the lead's word counts from when it was given.
func (b *Inbox) keepClock(it Item) error {
	if b.By.Role == string(coach.RoleHelper) {
		return doc.Input("", "The clock belongs to the coaches.")
	}
	if id, undo := strings.CutPrefix(it.Do, run.Undo); !slices.Contains(clockDoes, it.Do) && !(undo && store.IsID(id)) {
		return doc.Input("", "The clock does not know that.")
	}
	if err := b.tx.AddEvent(b.ctx, it.ID, b.Session.ID, it.Do, it.At, b.By.ID); err != nil {
		return err
	}
	b.Changed.Clock = append(b.Changed.Clock, Done{it.ID, it.Do, it.At})
	if it.Do != "end" {
		b.Changed.Whole = b.Changed.Whole || it.Do == "start" // what gives is worked out anew
		return nil
	}
	b.Changed.Whole = true
	b.Session.Ended = true
	return b.closeTallies()
}

func (b *Inbox) keepStrike(it Item) error {
	id, err := b.tx.MarkOf(b.ctx, it.ID) // of a series that became another mark when more of it arrived
	if err != nil {
		return err
	}
	marks, err := b.tx.Marks(b.ctx, store.MarkFilter{ID: id, Session: b.Session.ID})
	if err != nil {
		return err
	}
	if len(marks) == 0 || marks[0].By != b.By.ID && !b.MayStrike {
		return doc.Input("", "That mark is not yours to strike out.")
	}
	marks[0].Struck = true
	b.Changed.Marks = append(b.Changed.Marks, marks[0])
	return b.tx.Strike(b.ctx, id, b.By.ID, "taken back courtside", b.Now)
}

// keepGuest brings somebody in who is not on the roster; the id is made on the device, so that sent twice they come
// once. The id of somebody who is on the roster already brings them as they are: nothing about them is written anew.
func (b *Inbox) keepGuest(it Item) error {
	name := strings.Join(strings.Fields(it.Name), " ")
	if b.By.Role == string(coach.RoleHelper) || name == "" || len([]rune(name)) > 80 {
		return doc.Input("", "What is the guest called? Coaches bring guests in.")
	}
	_, err := b.tx.Player(b.ctx, it.ID)
	if store.IsNone(err) {
		p := store.Player{ID: it.ID, Name: name, Tags: []string{"guest"}, Joined: day.Of(b.Now)}
		program, err := b.Program()
		if err != nil {
			return err
		}
		if len(program.Stages) > 0 {
			p.Standings = []store.Standing{{Program: program.ID, Stage: program.Stages[0].ID, Since: day.Of(b.Now)}}
		}
		if err := b.tx.PutPlayers(b.ctx, []store.Player{p}); err != nil {
			return err
		}
	} else if err != nil {
		return err
	}
	b.Changed.Whole, b.known[it.ID] = true, true
	return b.tx.AddGuest(b.ctx, b.Session.ID, it.ID, register.Present, b.By.ID, it.At)
}

func (b *Inbox) keepSaid(it Item) error {
	if it.State == "guest" { // of a page from before: they are here, and stay a guest
		it.State = string(register.Present)
	}
	if word := register.Word(it.State); !slices.Contains(register.Words, word) || word == register.Away ||
		it.Minute < 0 ||
		it.Minute > 480 ||
		len([]rune(it.No)) > 60 {
		return doc.Input("", "The register does not know that word.")
	}
	a := store.Attendance{PlayerID: it.Player, State: register.Word(it.State), NoWhat: coach.Limited(it.No)}
	switch a.State {
	case register.Late:
		a.FromMinute = it.Minute
	case register.Left:
		a.UntilMinute = max(1, it.Minute)
	}
	newest, err := b.tx.SetAttendance(b.ctx, b.Session.ID, a, b.By.ID, it.At)
	if newest {
		b.Changed.Said = append(b.Changed.Said, SaidWord{it.Player, it.State, it.Minute, a.NoWhat})
	} else {
		b.Changed.Whole = true // a newer word stands: whoever sent this one takes it over
	}
	return err
}

func (b *Inbox) keepNote(it Item) error {
	due, bad := day.Parse(it.Due)
	n := store.Note{
		ID:      it.ID,
		Player:  it.Player,
		Session: b.Session.ID,
		Kind:    it.What,
		Says:    strings.TrimSpace(it.Note),
		Due:     due,
		At:      it.At,
		By:      it.By,
		ByName:  b.By.Name,
	}
	if n.Words() == n.Kind || len([]rune(n.Says)) > 500 || n.Kind == "word" && n.Says == "" {
		return doc.Input("", "A note has a few words, at most 500 characters.")
	}
	if bad != nil {
		return doc.Input("", "The day of the note could not be read.")
	}
	b.Changed.Notes = append(b.Changed.Notes, n)
	return b.tx.AddNote(b.ctx, n)
}

// zones are numbers from 0 to 9 with commas between.
var zones = regexp.MustCompile(`^$|^[0-9](,[0-9])*$`)

func (b *Inbox) keepMark(it Item) error {
	var k coach.Criterion
	ok := false
	if it.Criterion != "" {
		program, err := b.Program()
		if err != nil {
			return err
		}
		if k, ok = CriterionOf(program, it.Criterion); !ok {
			return doc.Input("", "That criterion has been taken out of the ladder.")
		}
	}
	if it.Criterion == "" &&
		!slices.ContainsFunc(b.Session.Plan.Tasks(), func(t doc.Task) bool { return t.Drill == it.Drill }) {
		return doc.Input("", "That drill is not in the plan any more.")
	}
	if !slices.Contains([]string{"", "left", "right", "both"}, it.Side) {
		return doc.Input("", "A side is left or right.")
	}
	if ok && it.From != "" {
		shows, err := b.shows(k, it.From)
		if err != nil {
			return err
		}
		if !shows {
			return doc.Input("", "This drill does not show “%s”, so it is no evidence for it.", k.Wording)
		}
	}
	if it.Kind == "tally" {
		if !marking.AreTaps(it.Tries) || len(it.Tries) > 2000 || !zones.MatchString(it.Zones) || len(it.Zones) > 4000 {
			return doc.Input("", "The tries could not be read.")
		}
		return b.keepTally(it.Tally)
	}
	m := coach.Mark{
		ID:          it.ID,
		PlayerID:    it.Player,
		CriterionID: it.Criterion,
		DrillID:     it.Drill,
		SessionID:   b.Session.ID,
		Side:        coach.Side(it.Side),
		Figure:      it.Figure,
		Points:      it.Points,
		At:          it.At,
		By:          it.By,
		ByName:      b.By.Name,
		Note:        it.Note,
	}
	switch {
	case ok && k.Measure == coach.Check && len(it.Points) != len(k.Points):
		return doc.Input("", "The points of this criterion have changed since.")
	case !(it.Figure >= 0 && it.Figure <= 1e6) || len(it.Note) > 500 || len(it.Points) > 20:
		return doc.Input("", "That figure cannot be.")
	}
	if ok {
		m.DrillID = ""
	} else if len(it.Points) > 0 { // a routine: of so many skills these were clean
		m.Tries, m.Figure = len(it.Points), 0
		for _, clean := range it.Points {
			if clean {
				m.Figure++
			}
		}
	}
	b.Changed.Marks = append(b.Changed.Marks, m)
	return b.tx.AddMark(b.ctx, m)
}

// keepTally keeps a series as a device counts it. After the end of the session it is closed at once, whole or not: what
// arrives later still goes on with it.
func (b *Inbox) keepTally(t store.Tally) error {
	closed := b.Session.Ended && !t.Done
	t.Done = t.Done || closed
	return b.putTally(t, closed)
}

// putTally keeps a series; when it is done it becomes a mark with the same id. When what it became a mark of is not
// what is kept now, that mark is struck out and another one taken.
func (b *Inbox) putTally(t store.Tally, closed bool) error {
	k, err := b.tx.PutTally(b.ctx, b.Session.ID, t, closed)
	switch {
	case errors.Is(err, store.ErrFinished):
		return doc.Input("", "That series was finished already; count a new one.")
	case err != nil || !k.Stored:
		return err
	}
	b.Changed.Tallies = append(b.Changed.Tallies, t)
	if !t.Done || k.MarkID != "" && k.Before == t.Tries {
		return nil
	}
	if k.MarkID != "" {
		if err := b.tx.Strike(b.ctx, k.MarkID, t.By, "more of it arrived later", b.Now); err != nil {
			return err
		}
		b.Changed.Whole = true
	}
	if t.Tries == "" {
		return b.tx.MarkTally(b.ctx, t.ID, "")
	}
	program, err := b.Program()
	if err != nil {
		return err
	}
	m := markOfTally(program, b.Session, t)
	if k.MarkID != "" {
		m.ID = store.NewID()
	}
	b.Changed.Marks = append(b.Changed.Marks, m)
	if err := b.tx.AddMark(b.ctx, m); err != nil {
		return err
	}
	return b.tx.MarkTally(b.ctx, t.ID, m.ID)
}

// markOfTally is the mark that a finished series is.
func markOfTally(program store.Program, s store.Session, t store.Tally) coach.Mark {
	m := coach.Mark{
		ID:          t.ID,
		PlayerID:    t.Player,
		CriterionID: t.Criterion,
		SessionID:   s.ID,
		Side:        coach.Side(t.Side),
		Tries:       len(t.Tries),
		At:          t.At,
		By:          t.By,
		Note:        strings.Trim(t.Form+", "+marking.Zones(t.Zones), ", "),
	}
	for _, p := range s.Leaders {
		if p.Member == t.By {
			m.ByName = p.Name
		}
	}
	if t.Criterion == "" {
		m.DrillID = t.Drill
	}
	k, _ := CriterionOf(program, t.Criterion)
	m.Figure = marking.Figure(k.Measure, t.Tries)
	return m
}

// closeTallies makes marks of the series that are still open when the session ends. Their revisions stay: whatever the
// devices count further is newer.
func (b *Inbox) closeTallies() error {
	open, err := b.tx.Tallies(b.ctx, b.Session.ID)
	if err != nil {
		return err
	}
	for _, t := range open {
		if t.Done || t.Tries == "" {
			continue
		}
		t.Done = true
		if err := b.putTally(t, true); err != nil {
			return err
		}
	}
	return nil
}

// CriterionOf finds a criterion in a program's ladder.
func CriterionOf(p store.Program, id string) (coach.Criterion, bool) {
	for _, s := range p.Stages {
		for _, k := range s.Criteria {
			if k.ID == id {
				return k, true
			}
		}
	}
	return coach.Criterion{}, false
}
