package courtside

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"gruppo/internal/coach"
	"gruppo/internal/coach/evidence"
	"gruppo/internal/coach/plan"
	"gruppo/internal/store"
	"gruppo/internal/web/sessions"
	"gruppo/internal/web/shell"
)

// item is one thing a device kept until it could send it: a tally, mark, said, strike, clock, has (a key), note, climb or guest.
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
}

type answer struct {
	ID   string `json:"id"`
	Kept bool   `json:"kept"`
	Why  string `json:"why,omitempty"`
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

// forHelper leaves of a notice what a helper may see: the register, the clock and the ladders, and of the rest what they did themselves.
func forHelper(what, me string) string {
	var d delta
	if !strings.HasPrefix(what, "{") || json.Unmarshal([]byte(what), &d) != nil {
		return what
	}
	if d.By != me {
		d.Marks, d.Tallies, d.Keys, d.Notes = nil, nil, nil, nil
		for i := range d.Said {
			d.Said[i].No = ""
		}
	}
	b, err := json.Marshal(d)
	if err != nil {
		return "whole"
	}
	return string(b)
}

// inbox takes what a device kept: each item once, however often it is sent, in the order it was done. One that cannot be right is refused with the
// reason, and does not hold up the others.
func inbox(c *shell.Ctx) error {
	var in struct{ Items []item }
	if err := json.NewDecoder(io.LimitReader(c.Request.Body, 4<<20)).Decode(&in); err != nil || len(in.Items) > 2000 {
		return refuse("What this device sent could not be read.")
	}
	answers := make([]answer, 0, len(in.Items))
	err := c.In(func(tx *store.Tx) error {
		l, err := mine(c, tx, late)
		if err != nil {
			return err
		}
		d := delta{By: c.Member.ID}
		for _, it := range in.Items {
			err := keep(c, tx, l, it, &d)
			var p *shell.Problem
			if err != nil && !errors.As(err, &p) {
				return err
			}
			a := answer{ID: it.ID, Kept: err == nil}
			if p != nil {
				a.Why = p.Says
			}
			answers = append(answers, a)
		}
		if err := tx.Heard(c.Ctx(), l.Session.ID, c.Member.ID, c.Now); err != nil {
			return err
		}
		return d.tell(c, tx, l.Session.ID)
	})
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, gin.H{"answers": answers})
	return nil
}

var clockDoes = []string{"start", "pause", "resume", "more", "less", "change", "skip", "back", "end"}

func keep(c *shell.Ctx, tx *store.Tx, l sessions.Loaded, it item, d *delta) error {
	if !store.IsID(it.ID) {
		return refuse("It has no proper number.")
	}
	if now := c.S.Now(); it.At.IsZero() || it.At.After(now) || it.At.Before(now.Add(-late)) { // a device's clock may be wrong
		it.At = now
	}
	it.By = c.Member.ID
	switch it.Kind {
	case "clock":
		return keepClock(c, tx, l, it, d)
	case "strike":
		return keepStrike(c, tx, l, it, d)
	case "guest":
		return keepGuest(c, tx, l, it, d)
	case "climb":
		if it.Block < 0 || it.Block >= len(l.Session.Plan.Blocks) || it.Unit < 0 || it.Unit > plan.Most || it.Step < 0 || it.Step > 12 {
			return refuse("That ladder is not in the plan any more.")
		}
		k := store.Climb{ID: it.ID, Block: it.Block, Unit: it.Unit, Step: it.Step, At: it.At, By: it.By}
		d.Climbs = append(d.Climbs, k)
		return tx.AddClimb(c.Ctx(), l.Session.ID, k)
	}
	if !slices.ContainsFunc(l.Players, func(p store.Player) bool { return p.ID == it.Player }) {
		return refuse("The player is not in this class any more.")
	}
	switch it.Kind {
	case "said":
		return keepSaid(c, tx, l, it, d)
	case "has":
		if n := len([]rune(it.Key)); n == 0 || n > 200 {
			return refuse("That key could not be read.")
		}
		k := store.KeyMark{ID: it.ID, Player: it.Player, Key: it.Key, Has: it.Has, Session: l.Session.ID, At: it.At, By: it.By}
		d.Keys = append(d.Keys, k)
		return tx.AddKeyMark(c.Ctx(), k)
	case "note":
		return keepNote(c, tx, l, it, d)
	case "tally", "mark":
		return keepMark(c, tx, l, it, d)
	}
	return refuse("This program does not know what that is. Load the page again.")
}

// keepClock keeps what was done to the clock; the lead's word counts from when it was given.
func keepClock(c *shell.Ctx, tx *store.Tx, l sessions.Loaded, it item, d *delta) error {
	if c.Member.Role == "helper" {
		return &shell.Problem{Status: http.StatusForbidden, Says: "The clock belongs to the coaches."}
	}
	if !slices.Contains(clockDoes, it.Do) {
		return refuse("The clock does not know that.")
	}
	if err := tx.AddEvent(c.Ctx(), it.ID, l.Session.ID, it.Do, it.At, c.Member.ID); err != nil {
		return err
	}
	d.Events = append(d.Events, event{it.ID, it.Do, ms(it.At)})
	if it.Do != "end" {
		d.Whole = d.Whole || it.Do == "start" // what gives is worked out anew
		return nil
	}
	d.Whole = true
	if err := closeTallies(c, tx, l, d); err != nil {
		return err
	}
	return keepRounds(c, tx, l)
}

// keepRounds works out what every round gave, for the report and for the pace of the next plans.
func keepRounds(c *shell.Ctx, tx *store.Tx, l sessions.Loaded) error {
	events, err := tx.Events(c.Ctx(), l.Session.ID)
	if err != nil {
		return err
	}
	tallies, err := tx.Tallies(c.Ctx(), l.Session.ID)
	if err != nil {
		return err
	}
	t := plan.Fold(l.Picture.Segments(), events)
	return tx.PutRounds(c.Ctx(), l.Session.ID, l.Picture.Given(t, func(round int, drill, player string) (n int, counted bool) {
		for _, k := range tallies {
			if k.Round == round && k.Player == player && (k.Drill == "" || k.Drill == drill) && k.Tries != "" {
				n, counted = n+len(k.Tries), true
			}
		}
		return n, counted
	}))
}

func keepStrike(c *shell.Ctx, tx *store.Tx, l sessions.Loaded, it item, d *delta) error {
	marks, err := tx.Marks(c.Ctx(), store.MarkFilter{ID: it.ID, Session: l.Session.ID})
	if err != nil {
		return err
	}
	if len(marks) == 0 || marks[0].By != c.Member.ID && !c.May(shell.StrikeMarks) {
		return refuse("That mark is not yours to strike out.")
	}
	marks[0].Struck = true
	d.Marks = append(d.Marks, markOf(l.Program, marks[0]))
	return tx.Strike(c.Ctx(), it.ID, c.Member.ID, "taken back courtside", c.S.Now())
}

// keepGuest brings somebody in who is not on the roster; the id is made on the device, so that sent twice they come once.
func keepGuest(c *shell.Ctx, tx *store.Tx, l sessions.Loaded, it item, d *delta) error {
	name := strings.Join(strings.Fields(it.Name), " ")
	if c.Member.Role == "helper" || name == "" || len([]rune(name)) > 80 {
		return refuse("What is the guest called? Coaches bring guests in.")
	}
	d.Whole = true
	if !slices.ContainsFunc(l.Players, func(p store.Player) bool { return p.ID == it.ID }) {
		p := store.Player{ID: it.ID, Name: name, Tags: []string{"guest"}, Joined: c.Now}
		if len(l.Program.Stages) > 0 {
			p.Standings = []store.Standing{{Program: l.Program.ID, Stage: l.Program.Stages[0].ID, Since: c.Now.Format(time.DateOnly)}}
		}
		if err := tx.PutPlayers(c.Ctx(), []store.Player{p}); err != nil {
			return err
		}
	}
	return tx.SetAttendance(c.Ctx(), l.Session.ID, store.Attendance{PlayerID: it.ID, State: "guest"}, c.Member.ID, it.At)
}

func keepSaid(c *shell.Ctx, tx *store.Tx, l sessions.Loaded, it item, d *delta) error {
	if it.State != "" && !slices.Contains([]string{"present", "late", "absent", "left", "hurt", "guest"}, it.State) || it.Minute < 0 || it.Minute > 480 || len([]rune(it.No)) > 60 {
		return refuse("The register does not know that word.")
	}
	a := store.Attendance{PlayerID: it.Player, State: it.State, NoWhat: it.No}
	switch it.State {
	case "late":
		a.FromMinute = it.Minute
	case "left":
		a.UntilMinute = max(1, it.Minute)
	}
	d.Said = append(d.Said, saidWord{it.Player, it.State, it.Minute, it.No})
	return tx.SetAttendance(c.Ctx(), l.Session.ID, a, c.Member.ID, it.At)
}

func keepNote(c *shell.Ctx, tx *store.Tx, l sessions.Loaded, it item, d *delta) error {
	n := store.Note{ID: it.ID, Player: it.Player, Session: l.Session.ID, Kind: it.What, Says: strings.TrimSpace(it.Note), Due: it.Due, At: it.At, By: it.By, ByName: c.Member.Name}
	if n.Words() == n.Kind || len([]rune(n.Says)) > 500 || n.Kind == "word" && n.Says == "" {
		return refuse("A note has a few words, at most 500 characters.")
	}
	if _, err := time.Parse(time.DateOnly, n.Due); n.Due != "" && err != nil {
		return refuse("The day of the note could not be read.")
	}
	d.Notes = append(d.Notes, n)
	return tx.AddNote(c.Ctx(), n)
}

// zones are numbers from 0 to 9 with commas between.
var zones = regexp.MustCompile(`^$|^[0-9](,[0-9])*$`)

func keepMark(c *shell.Ctx, tx *store.Tx, l sessions.Loaded, it item, d *delta) error {
	k, ok := criterionOf(l.Program, it.Criterion)
	if it.Criterion != "" && !ok {
		return refuse("That criterion has been taken out of the ladder.")
	}
	if it.Criterion == "" && !slices.ContainsFunc(l.Session.Plan.Tasks(), func(t plan.Task) bool { return t.Drill == it.Drill }) {
		return refuse("That drill is not in the plan any more.")
	}
	if !slices.Contains([]string{"", "left", "right", "both"}, it.Side) {
		return refuse("A side is left or right.")
	}
	if it.Kind == "tally" {
		if strings.Trim(it.Tries, "01") != "" || len(it.Tries) > 2000 || !zones.MatchString(it.Zones) || len(it.Zones) > 4000 {
			return refuse("The tries could not be read.")
		}
		return keepTally(c, tx, l, it.Tally, false, d)
	}
	m := coach.Mark{ID: it.ID, PlayerID: it.Player, CriterionID: it.Criterion, DrillID: it.Drill, SessionID: l.Session.ID, Side: coach.Side(it.Side), Figure: it.Figure, Points: it.Points, At: it.At, By: c.Member.ID, ByName: c.Member.Name, Note: it.Note}
	switch {
	case ok && k.Measure == coach.Check && len(it.Points) != len(k.Points):
		return refuse("The points of this criterion have changed since.")
	case !(it.Figure >= 0 && it.Figure <= 1e6) || len(it.Note) > 500:
		return refuse("That figure cannot be.")
	}
	if ok {
		m.DrillID = ""
	}
	d.Marks = append(d.Marks, markOf(l.Program, m))
	return tx.AddMark(c.Ctx(), m)
}

// keepTally keeps a series; when it is done it becomes a mark with the same id. One that the end of the session closed before all of it had
// arrived is marked anew, and the mark that fell short is struck out.
func keepTally(c *shell.Ctx, tx *store.Tx, l sessions.Loaded, t store.Tally, closed bool, d *delta) error {
	stored, again, err := tx.PutTally(c.Ctx(), l.Session.ID, t, closed)
	if err != nil || !stored {
		return err
	}
	d.Tallies = append(d.Tallies, t)
	if !t.Done || t.Tries == "" {
		return nil
	}
	m := coach.Mark{ID: t.ID, PlayerID: t.Player, CriterionID: t.Criterion, SessionID: l.Session.ID, Side: coach.Side(t.Side), Tries: len(t.Tries), At: t.At, By: t.By, Note: where(t)}
	for _, p := range l.Session.Leaders {
		if p.Member == t.By {
			m.ByName = p.Name
		}
	}
	if t.Criterion == "" {
		m.DrillID = t.Drill
	}
	good, best := evidence.Runs(t.Tries)
	m.Figure = float64(good)
	if k, ok := criterionOf(l.Program, t.Criterion); ok && k.Measure == coach.Streak {
		m.Figure = float64(best)
	}
	if again {
		if err := tx.Strike(c.Ctx(), t.ID, t.By, "more of it arrived later", c.S.Now()); err != nil {
			return err
		}
		m.ID, d.Whole = store.NewID(), true
	}
	d.Marks = append(d.Marks, markOf(l.Program, m))
	return tx.AddMark(c.Ctx(), m)
}

// zoneWords name the zones of a goal as a thrower sees it, row by row.
var zoneWords = []string{"", "high left", "high middle", "high right", "low left", "low middle", "low right"}

// where says where the good ones went.
func where(t store.Tally) string {
	count := map[int]int{}
	for _, z := range strings.Split(t.Zones, ",") {
		if n, err := strconv.Atoi(z); err == nil && n > 0 && n < len(zoneWords) {
			count[n]++
		}
	}
	var out []string
	for n := 1; n < len(zoneWords); n++ {
		if count[n] > 0 {
			out = append(out, fmt.Sprintf("%s %d", zoneWords[n], count[n]))
		}
	}
	return strings.Join(out, ", ")
}

// closeTallies makes marks of the series that are still open when the session ends.
func closeTallies(c *shell.Ctx, tx *store.Tx, l sessions.Loaded, d *delta) error {
	open, err := tx.Tallies(c.Ctx(), l.Session.ID)
	if err != nil {
		return err
	}
	for _, t := range open {
		if t.Done || t.Tries == "" {
			continue
		}
		t.Done, t.Revision = true, t.Revision+1
		if err := keepTally(c, tx, l, t, true, d); err != nil {
			return err
		}
	}
	return nil
}
