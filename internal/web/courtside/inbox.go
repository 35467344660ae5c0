package courtside

import (
	"bytes"
	"encoding/json"
	"errors"
	"net/http"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/marking"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/run"
	"gruppo/internal/coach/register"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// item is one thing a device kept until it could send it: a tally, mark, said, strike, clock, has (a key), looked, note, climb or guest.
type item struct {
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
}

type answer struct {
	ID     string `json:"id"`
	Kept   bool   `json:"kept"`             // it is there, or a newer state of it
	Status int    `json:"status,omitempty"` // 422: it cannot be taken, and need not be sent again
	Why    string `json:"why,omitempty"`
}

// delta is what an inbox changed: every open device takes it over as it comes, without asking for the whole state.
type delta struct {
	By      string          `json:"by"`
	Marks   []mark          `json:"marks,omitempty"`
	Tallies []store.Tally   `json:"tallies,omitempty"`
	Said    []saidWord      `json:"said,omitempty"`
	Events  []event         `json:"events,omitempty"`
	Keys    []store.KeyMark `json:"keys,omitempty"`
	Notes   []store.Note    `json:"notes,omitempty"`
	Climbs  []store.Climb   `json:"climbs,omitempty"`
	Looked  []store.Looking `json:"looked,omitempty"`
	Whole   bool            `json:"-"` // more changed than is said here
}

type saidWord struct {
	Player string `json:"player"`
	State  string `json:"state"`
	Minute int    `json:"minute"`
	No     string `json:"no"`
}

// mostNotice is how much PostgreSQL lets a notice carry, with room to spare.
const mostNotice = 7000

// tell wakes the devices: with what changed, or, where that is too much, to read the whole.
func (d delta) tell(c *shell.Ctx, tx *store.Tx, session string) error {
	b, err := json.Marshal(d)
	if err != nil {
		return err
	}
	if d.Whole || len(b) > mostNotice {
		b = []byte("whole")
	}
	return tx.Tell(c.Ctx(), session, string(b))
}

// forHelper leaves of a notice what a helper may see: the register with the limits of today, the clock and the ladders, and of the rest what they did themselves.
func forHelper(what, me string) string {
	var d delta
	if !strings.HasPrefix(what, "{") || json.Unmarshal([]byte(what), &d) != nil {
		return what
	}
	if d.By != me {
		d.Marks, d.Tallies, d.Keys, d.Notes, d.Looked = nil, nil, nil, nil, nil
	}
	b, err := json.Marshal(d)
	if err != nil {
		return "whole"
	}
	return string(b)
}

// entry is the door through which a device's items come in: the session, and of the rest only what an item asks for.
type entry struct {
	c       *shell.Ctx
	tx      *store.Tx
	session store.Session
	known   map[string]bool // players asked about so far: whether they are in the register
	program *store.Program
	d       delta
}

// enter lets the member in if they may be courtside there: a helper only where they are on it, while it is on.
func enter(c *shell.Ctx, tx *store.Tx) (*entry, error) {
	s, err := tx.Session(c.Ctx(), c.Param("id"))
	if err != nil {
		return nil, err
	}
	return &entry{c: c, tx: tx, session: s, known: map[string]bool{}, d: delta{By: c.Member.ID}}, admitted(c, s, late)
}

// has reports whether a player is in the session's register.
func (e *entry) has(player string) (bool, error) {
	if !store.IsID(player) {
		return false, nil
	}
	in, asked := e.known[player]
	if !asked {
		var err error
		if in, err = e.tx.InRegister(e.c.Ctx(), e.session.ID, player); err != nil {
			return false, err
		}
		e.known[player] = in
	}
	return in, nil
}

// ladder is the session's program.
func (e *entry) ladder() (store.Program, error) {
	if e.program == nil {
		programs, err := e.tx.AllLadders(e.c.Ctx())
		if err != nil {
			return store.Program{}, err
		}
		i := slices.IndexFunc(programs, func(p store.Program) bool { return p.ID == e.session.ProgramID })
		if i < 0 {
			return store.Program{}, store.ErrNone
		}
		e.program = &programs[i]
	}
	return *e.program, nil
}

// shows reports whether a drill shows a criterion.
func (e *entry) shows(k coach.Criterion, drill string) (bool, error) {
	said, err := e.tx.Showing(e.c.Ctx())
	if err != nil {
		return false, err
	}
	ds, err := e.tx.DrillsOf(e.c.Ctx(), []string{drill})
	return len(ds) == 1 && said.Shows(k, ds[0]), err
}

// inbox takes what a device kept: each item once, however often it is sent, in the order it was done, and each for itself. One that cannot be taken is
// answered with the reason, stands in a list that the coach sees, and holds up no other.
func inbox(c *shell.Ctx) error {
	var in struct{ Items []json.RawMessage }
	if err := json.NewDecoder(c.Request.Body).Decode(&in); err != nil || len(in.Items) > mostItems {
		return refuse("What this device sent could not be read.")
	}
	answers := make([]answer, 0, len(in.Items))
	ended := false
	err := c.In(func(tx *store.Tx) error {
		e, err := enter(c, tx)
		if err != nil {
			return err
		}
		for _, raw := range in.Items {
			a, err := e.take(raw)
			if err != nil {
				return err
			}
			answers = append(answers, a)
		}
		ended = slices.ContainsFunc(e.d.Events, func(v event) bool { return v.Do == "end" })
		if err := tx.Heard(c.Ctx(), e.session.ID, c.Member.ID, c.Now); err != nil {
			return err
		}
		return e.d.tell(c, tx, e.session.ID)
	})
	if err == nil && ended {
		err = keepRounds(c)
	}
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, gin.H{"answers": answers})
	return nil
}

// take keeps one item, or says why it cannot be. What it had written by then is taken back.
func (e *entry) take(raw json.RawMessage) (answer, error) {
	var it item
	bad := json.Unmarshal(raw, &it)
	a := answer{ID: it.ID}
	before := e.d
	err := e.tx.Apart(e.c.Ctx(), func() error {
		if bad != nil {
			return refuse("It could not be read.")
		}
		return e.keep(it)
	})
	if err == nil {
		a.Kept = true
		return a, nil
	}
	p, final := shell.Refusal(err)
	if !final {
		return a, err
	}
	e.d = before
	a.Status, a.Why = http.StatusUnprocessableEntity, p.Says
	id := it.ID
	if !store.IsID(id) {
		id = store.NewID()
	}
	if slices.Contains([]string{"clock", "strike", "climb"}, it.Kind) { // nothing was written down that could be lost
		return a, nil
	}
	if bytes.IndexByte(raw, '{') != 0 || !utf8.Valid(raw) || len(raw) > mostKept || !json.Valid(raw) || bytes.Contains(raw, []byte(`\u0000`)) {
		raw = []byte("{}")
	}
	return a, e.tx.AddRefused(e.c.Ctx(), id, e.session.ID, e.c.Member.ID, p.Says, raw, e.c.S.Now())
}

// mostInbox is how many bytes a device sends at once, mostItems how many things, mostKept how many bytes are kept of one that was refused.
const mostInbox, mostItems, mostKept = 4 << 20, 2000, 4 << 10

var clockDoes = []string{"start", "pause", "resume", "more", "less", "change", "skip", "back", "end"}

func (e *entry) keep(it item) error {
	c, tx := e.c, e.tx
	if !store.IsID(it.ID) {
		return refuse("It has no proper number.")
	}
	for _, s := range []string{it.Player, it.Criterion, it.Drill, it.From} {
		if s != "" && !store.IsID(s) {
			return refuse("It speaks of something that is not there.")
		}
	}
	for _, s := range []string{it.State, it.No, it.Note, it.Key, it.What, it.Name, it.Side, it.Do} {
		if !utf8.ValidString(s) || strings.ContainsRune(s, 0) {
			return refuse("Some of its letters cannot be read.")
		}
	}
	if it.Revision < 0 || it.Revision > 1e6 || it.Round < 0 || it.Round > 1000 {
		return refuse("Its numbers cannot be.")
	}
	if now := c.S.Now(); it.At.IsZero() || it.At.After(now) || it.At.Before(now.Add(-late)) { // a device's clock may be wrong
		it.At = now
	}
	it.By = c.Member.ID
	switch it.Kind {
	case "clock":
		return e.keepClock(it)
	case "strike":
		return e.keepStrike(it)
	case "guest":
		return e.keepGuest(it)
	case "climb":
		if it.Block < 0 || it.Block >= len(e.session.Plan.Blocks) || it.Unit < 0 || it.Unit > doc.Most || it.Step < 0 || it.Step > 12 {
			return refuse("That ladder is not in the plan any more.")
		}
		k := store.Climb{ID: it.ID, Block: it.Block, Unit: it.Unit, Step: it.Step, At: it.At, By: it.By}
		e.d.Climbs = append(e.d.Climbs, k)
		return tx.AddClimb(c.Ctx(), e.session.ID, k)
	}
	in, err := e.has(it.Player)
	if err != nil {
		return err
	}
	if !in {
		return refuse("The player is not in this class any more.")
	}
	switch it.Kind {
	case "said":
		return e.keepSaid(it)
	case "has":
		if n := len([]rune(it.Key)); n == 0 || n > 200 {
			return refuse("That key could not be read.")
		}
		k := store.KeyMark{ID: it.ID, Player: it.Player, Key: it.Key, Has: it.Has, Session: e.session.ID, At: it.At, By: it.By}
		e.d.Keys = append(e.d.Keys, k)
		return tx.AddKeyMark(c.Ctx(), k)
	case "looked":
		l := store.Looking{Player: it.Player, By: it.By, ByName: c.Member.Name, At: it.At}
		e.d.Looked = append(e.d.Looked, l)
		return tx.AddLooking(c.Ctx(), it.ID, e.session.ID, l)
	case "note":
		return e.keepNote(it)
	case "tally", "mark":
		return e.keepMark(it)
	}
	return refuse("This program does not know what that is. Load the page again.")
}

// keepClock keeps what was done to the clock; the lead's word counts from when it was given.
func (e *entry) keepClock(it item) error {
	c := e.c
	if c.Member.Role == "helper" {
		return &shell.Problem{Status: http.StatusForbidden, Says: "The clock belongs to the coaches."}
	}
	if !slices.Contains(clockDoes, it.Do) {
		return refuse("The clock does not know that.")
	}
	if err := e.tx.AddEvent(c.Ctx(), it.ID, e.session.ID, it.Do, it.At, c.Member.ID); err != nil {
		return err
	}
	e.d.Events = append(e.d.Events, event{it.ID, it.Do, ms(it.At)})
	if it.Do != "end" {
		e.d.Whole = e.d.Whole || it.Do == "start" // what gives is worked out anew
		return nil
	}
	e.d.Whole = true
	e.session.Ended = true
	return e.closeTallies()
}

// keepRounds works out what every round gave, for the report and for the pace of the next plans.
func keepRounds(c *shell.Ctx) error {
	var l app.Loaded
	var events []run.Event
	var tallies []store.Tally
	err := c.In(func(tx *store.Tx) (err error) {
		if l, err = app.ReadRunning(c.Ctx(), tx, c.Param("id"), c.Now, c.Loc); err != nil {
			return err
		}
		if events, err = tx.Events(c.Ctx(), l.Session.ID); err != nil {
			return err
		}
		tallies, err = tx.Tallies(c.Ctx(), l.Session.ID)
		return err
	})
	if err != nil {
		return err
	}
	l.Work()
	t := run.Fold(l.Picture.Segments(), events)
	given := run.Gave(l.Picture.Picture, t, func(round int, drill, player string) (n int, counted bool) {
		for _, k := range tallies {
			if k.Round == round && k.Player == player && (k.Drill == "" || k.Drill == drill) && k.Tries != "" {
				n, counted = n+len(k.Tries), true
			}
		}
		return n, counted
	})
	return c.In(func(tx *store.Tx) error { return tx.PutRounds(c.Ctx(), l.Session.ID, given) })
}

func (e *entry) keepStrike(it item) error {
	c := e.c
	id, err := e.tx.MarkOf(c.Ctx(), it.ID) // of a series that became another mark when more of it arrived
	if err != nil {
		return err
	}
	marks, err := e.tx.Marks(c.Ctx(), store.MarkFilter{ID: id, Session: e.session.ID})
	if err != nil {
		return err
	}
	if len(marks) == 0 || marks[0].By != c.Member.ID && !c.May(shell.StrikeMarks) {
		return refuse("That mark is not yours to strike out.")
	}
	program, err := e.ladder()
	if err != nil {
		return err
	}
	marks[0].Struck = true
	e.d.Marks = append(e.d.Marks, markOf(program, marks[0]))
	return e.tx.Strike(c.Ctx(), id, c.Member.ID, "taken back courtside", c.S.Now())
}

// keepGuest brings somebody in who is not on the roster; the id is made on the device, so that sent twice they come once. The id of somebody who
// is on the roster already brings them as they are: nothing about them is written anew.
func (e *entry) keepGuest(it item) error {
	c := e.c
	name := strings.Join(strings.Fields(it.Name), " ")
	if c.Member.Role == "helper" || name == "" || len([]rune(name)) > 80 {
		return refuse("What is the guest called? Coaches bring guests in.")
	}
	_, err := e.tx.Player(c.Ctx(), it.ID)
	if store.IsNone(err) {
		p := store.Player{ID: it.ID, Name: name, Tags: []string{"guest"}, Joined: c.Today()}
		program, err := e.ladder()
		if err != nil {
			return err
		}
		if len(program.Stages) > 0 {
			p.Standings = []store.Standing{{Program: program.ID, Stage: program.Stages[0].ID, Since: c.Today()}}
		}
		if err := e.tx.PutPlayers(c.Ctx(), []store.Player{p}); err != nil {
			return err
		}
	} else if err != nil {
		return err
	}
	e.d.Whole, e.known[it.ID] = true, true
	return e.tx.AddGuest(c.Ctx(), e.session.ID, it.ID, register.Present, c.Member.ID, it.At)
}

func (e *entry) keepSaid(it item) error {
	if it.State == "guest" { // of a page from before: they are here, and stay a guest
		it.State = string(register.Present)
	}
	if word := register.Word(it.State); !slices.Contains(register.Words, word) || word == register.Away || it.Minute < 0 || it.Minute > 480 || len([]rune(it.No)) > 60 {
		return refuse("The register does not know that word.")
	}
	a := store.Attendance{PlayerID: it.Player, State: register.Word(it.State), NoWhat: it.No}
	switch a.State {
	case register.Late:
		a.FromMinute = it.Minute
	case register.Left:
		a.UntilMinute = max(1, it.Minute)
	}
	newest, err := e.tx.SetAttendance(e.c.Ctx(), e.session.ID, a, e.c.Member.ID, it.At)
	if newest {
		e.d.Said = append(e.d.Said, saidWord{it.Player, it.State, it.Minute, it.No})
	} else {
		e.d.Whole = true // a newer word stands: whoever sent this one takes it over
	}
	return err
}

func (e *entry) keepNote(it item) error {
	due, bad := day.Parse(it.Due)
	n := store.Note{ID: it.ID, Player: it.Player, Session: e.session.ID, Kind: it.What, Says: strings.TrimSpace(it.Note), Due: due, At: it.At, By: it.By, ByName: e.c.Member.Name}
	if n.Words() == n.Kind || len([]rune(n.Says)) > 500 || n.Kind == "word" && n.Says == "" {
		return refuse("A note has a few words, at most 500 characters.")
	}
	if bad != nil {
		return refuse("The day of the note could not be read.")
	}
	e.d.Notes = append(e.d.Notes, n)
	return e.tx.AddNote(e.c.Ctx(), n)
}

// zones are numbers from 0 to 9 with commas between.
var zones = regexp.MustCompile(`^$|^[0-9](,[0-9])*$`)

func (e *entry) keepMark(it item) error {
	program, err := e.ladder()
	if err != nil {
		return err
	}
	k, ok := criterionOf(program, it.Criterion)
	if it.Criterion != "" && !ok {
		return refuse("That criterion has been taken out of the ladder.")
	}
	if it.Criterion == "" && !slices.ContainsFunc(e.session.Plan.Tasks(), func(t doc.Task) bool { return t.Drill == it.Drill }) {
		return refuse("That drill is not in the plan any more.")
	}
	if !slices.Contains([]string{"", "left", "right", "both"}, it.Side) {
		return refuse("A side is left or right.")
	}
	if ok && it.From != "" {
		shows, err := e.shows(k, it.From)
		if err != nil {
			return err
		}
		if !shows {
			return refuse("This drill does not show “" + k.Wording + "”, so it is no evidence for it.")
		}
	}
	if it.Kind == "tally" {
		if !marking.AreTaps(it.Tries) || len(it.Tries) > 2000 || !zones.MatchString(it.Zones) || len(it.Zones) > 4000 {
			return refuse("The tries could not be read.")
		}
		return e.keepTally(it.Tally)
	}
	m := coach.Mark{ID: it.ID, PlayerID: it.Player, CriterionID: it.Criterion, DrillID: it.Drill, SessionID: e.session.ID, Side: coach.Side(it.Side), Figure: it.Figure, Points: it.Points, At: it.At, By: it.By, ByName: e.c.Member.Name, Note: it.Note}
	switch {
	case ok && k.Measure == coach.Check && len(it.Points) != len(k.Points):
		return refuse("The points of this criterion have changed since.")
	case !(it.Figure >= 0 && it.Figure <= 1e6) || len(it.Note) > 500 || len(it.Points) > 20:
		return refuse("That figure cannot be.")
	}
	if ok {
		m.DrillID = ""
	}
	e.d.Marks = append(e.d.Marks, markOf(program, m))
	return e.tx.AddMark(e.c.Ctx(), m)
}

// keepTally keeps a series as a device counts it. After the end of the session it is closed at once, whole or not: what arrives later still goes on with it.
func (e *entry) keepTally(t store.Tally) error {
	closed := e.session.Ended && !t.Done
	t.Done = t.Done || closed
	return e.putTally(t, closed)
}

// putTally keeps a series; when it is done it becomes a mark with the same id. When what it became a mark of is not what is kept now, that mark is struck
// out and another one taken.
func (e *entry) putTally(t store.Tally, closed bool) error {
	c := e.c
	k, err := e.tx.PutTally(c.Ctx(), e.session.ID, t, closed)
	switch {
	case errors.Is(err, store.ErrFinished):
		return refuse("That series was finished already; count a new one.")
	case err != nil || !k.Stored:
		return err
	}
	e.d.Tallies = append(e.d.Tallies, t)
	if !t.Done || k.MarkID != "" && k.Before == t.Tries {
		return nil
	}
	if k.MarkID != "" {
		if err := e.tx.Strike(c.Ctx(), k.MarkID, t.By, "more of it arrived later", c.S.Now()); err != nil {
			return err
		}
		e.d.Whole = true
	}
	if t.Tries == "" {
		return e.tx.MarkTally(c.Ctx(), t.ID, "")
	}
	program, err := e.ladder()
	if err != nil {
		return err
	}
	m := markOfTally(program, e.session, t)
	if k.MarkID != "" {
		m.ID = store.NewID()
	}
	e.d.Marks = append(e.d.Marks, markOf(program, m))
	if err := e.tx.AddMark(c.Ctx(), m); err != nil {
		return err
	}
	return e.tx.MarkTally(c.Ctx(), t.ID, m.ID)
}

// markOfTally is the mark that a finished series is.
func markOfTally(program store.Program, s store.Session, t store.Tally) coach.Mark {
	m := coach.Mark{ID: t.ID, PlayerID: t.Player, CriterionID: t.Criterion, SessionID: s.ID, Side: coach.Side(t.Side), Tries: len(t.Tries), At: t.At, By: t.By, Note: marking.Zones(t.Zones)}
	for _, p := range s.Leaders {
		if p.Member == t.By {
			m.ByName = p.Name
		}
	}
	if t.Criterion == "" {
		m.DrillID = t.Drill
	}
	k, _ := criterionOf(program, t.Criterion)
	m.Figure = marking.Figure(k.Measure, t.Tries)
	return m
}

// closeTallies makes marks of the series that are still open when the session ends. Their revisions stay: whatever the devices count further is newer.
func (e *entry) closeTallies() error {
	open, err := e.tx.Tallies(e.c.Ctx(), e.session.ID)
	if err != nil {
		return err
	}
	for _, t := range open {
		if t.Done || t.Tries == "" {
			continue
		}
		t.Done = true
		if err := e.putTally(t, true); err != nil {
			return err
		}
	}
	return nil
}
