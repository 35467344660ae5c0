// Package planner is where a session is planned: floor, strip and ledger, what if, prints, and what happened.
package planner

import (
	"cmp"
	"embed"
	"errors"
	"fmt"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"gruppo/internal/app"
	"gruppo/internal/coach"
	"gruppo/internal/coach/deal"
	"gruppo/internal/coach/plan/check"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/edit"
	"gruppo/internal/coach/plan/propose"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/register"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/coach/say"
	"gruppo/internal/coach/season"
	"gruppo/internal/coach/suggest"
	"gruppo/internal/exchange"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/svg"
)

//go:embed *.html
var files embed.FS

var pages = shell.NewPages("Sessions", files)

// Routes of this place.
var Routes = []shell.Route{
	{Method: "POST", Path: "/sessions/:id/move", Needs: shell.ChangePlan, Handle: move},
	{Method: "POST", Path: "/sessions/:id/off", Needs: shell.ChangePlan, Handle: cancel},
	{Method: "POST", Path: "/sessions/:id/delete", Needs: shell.ChangePlan, Handle: deleteSession},
	{Method: "GET", Path: "/sessions/:id", Needs: shell.SeeSessions, Handle: planPage},
	{Method: "GET", Path: "/sessions/:id/run", Needs: shell.SeeSessions, Handle: runPage},
	{Method: "POST", Path: "/sessions/:id/refused", Needs: shell.ChangePlan, Handle: putAside},
	{Method: "GET", Path: "/sessions/:id/print", Needs: shell.SeeSessions, Handle: printPage},
	{Method: "GET", Path: "/sessions/:id/print/:what", Needs: shell.SeeSessions, Handle: printPage},
	{Method: "GET", Path: "/sessions/:id/unit/:n", Needs: shell.SeeSessions, Handle: unit},
	{Method: "GET", Path: "/sessions/:id/floor.svg", Needs: shell.SeeSessions, Handle: picture},
	{Method: "GET", Path: "/sessions/:id/strip.svg", Needs: shell.SeeSessions, Handle: picture},
	{Method: "GET", Path: "/sessions/:id/plan.json", Needs: shell.SeeSessions, Handle: planFile},
	{
		Method: "POST",
		Path:   "/sessions/:id/plan.json",
		Needs:  shell.ChangePlan,
		Handle: readPlan,
		Body:   exchange.MostPlan + 1<<14,
		Heavy:  true,
	},
	{Method: "GET", Path: "/sessions/:id/more", Needs: shell.ChangePlan, Handle: more},
	{Method: "POST", Path: "/sessions/:id/copy", Needs: shell.ChangePlan, Handle: copyPlan, Heavy: true},
	{Method: "GET", Path: "/sessions/:id/what-if", Needs: shell.ChangePlan, Handle: whatIf},
	{Method: "POST", Path: "/sessions/:id/what-if", Needs: shell.ChangePlan, Handle: whatIf, Heavy: true},
	{Method: "POST", Path: "/sessions/:id/what-if/take", Needs: shell.ChangePlan, Handle: takeWhatIf, Heavy: true},
	{Method: "GET", Path: "/sessions/:id/partners/:block", Needs: shell.SeeSessions, Handle: partnersPage},
	{Method: "POST", Path: "/sessions/:id/partners/:block", Needs: shell.ChangePlan, Handle: scores},
	{Method: "GET", Path: "/sessions/:id/proposals", Needs: shell.ChangePlan, Handle: proposals},
	{Method: "GET", Path: "/sessions/:id/ladder/:block", Needs: shell.SeeSessions, Handle: ladderPage},
	{Method: "POST", Path: "/sessions/:id/ladder/:block", Needs: shell.ChangePlan, Handle: climb},
	{Method: "GET", Path: "/sessions/:id/routine/:block", Needs: shell.SeeSessions, Handle: routinePage},
	{Method: "POST", Path: "/sessions/:id/partners/:block/choose", Needs: shell.ChangePlan, Handle: choose},
	{Method: "GET", Path: "/sessions/:id/teams/:block", Needs: shell.SeeSessions, Handle: teamsPage},
	{Method: "POST", Path: "/sessions/:id/teams/:block", Needs: shell.ChangePlan, Handle: teams},
	{Method: "POST", Path: "/sessions/:id/plan", Needs: shell.ChangePlan, Handle: editPlan},
	{Method: "POST", Path: "/sessions/:id/propose", Needs: shell.ChangePlan, Handle: proposePlan, Heavy: true},
	{Method: "POST", Path: "/sessions/:id/undo", Needs: shell.ChangePlan, Handle: undo},
	{Method: "POST", Path: "/sessions/:id/redo", Needs: shell.ChangePlan, Handle: redo},
	{Method: "GET", Path: "/sessions/:id/live", Needs: shell.SeeSessions, Handle: live},
	{Method: "POST", Path: "/sessions/:id/coming", Needs: shell.ChangePlan, Handle: coming},
	{Method: "POST", Path: "/sessions/:id/leader", Needs: shell.ChangePlan, Handle: leader},
}

type planView struct {
	app.Loaded
	Members []store.Member
	When    string
	Until   string
	Floor   svg.FloorView
	Strip   svg.StripView
	Problem string
	Retry   *edit.Wire // what was asked for on an older plan
	Tab     string     // the only one that is open and has to be filled; "all": each
	Paper   bool       // to be printed: nothing can be moved
	Forms   []stationForm
	Drawn   map[string]coach.Drill // on cards: the drills with their drawings
}

// stationForm is what can be set about a station.
type stationForm struct {
	work.StationAt
	Groups  []groupForm
	Ideas   []suggest.Suggestion
	Reach   string // what the target means for these players
	Chance  string // where that comes from
	Trouble bool
}

// groupForm is the form of a drill that a group does, and the edits that make it easier or harder; empty: there is
// none.
type groupForm struct {
	Group                     work.Group
	Now, Says, Easier, Harder string
}

// Floors are the floor on paper: one for each block of stations.
func (v planView) Floors() []svg.FloorView { return svg.Floors(v.Picture, v.Program.Units) }

// Shows reports whether a tab has to be filled.
func (v planView) Shows(tab string) bool { return v.Tab == "all" || v.Tab == tab }

func (v planView) Shapes() []propose.Shape { return propose.ShapesOf(v.Program.Family) }
func (v planView) Ways() []deal.Way        { return deal.Ways }

// PartnerWays are the ways in which partners can change in a block.
func (v planView) PartnerWays(b work.Span) []rotate.Way {
	return slices.DeleteFunc(
		slices.Clone(rotate.Ways),
		func(w rotate.Way) bool { return w == rotate.WinnerStays && b.RallyLadder() },
	)
}

func (v planView) Kinds() []doc.Kind {
	return slices.DeleteFunc(slices.Clone(doc.Kinds), func(k doc.Kind) bool {
		return k == doc.Game && !v.Program.Family.Plays()
	})
}

// AimSkills lists the skills of the shelf, for choosing what a session is for.
func (v planView) AimSkills() (skills []string) {
	for _, d := range v.Input.Shelf {
		for _, k := range d.Skills {
			if !slices.Contains(skills, k) {
				skills = append(skills, k)
			}
		}
	}
	slices.Sort(skills)
	return skills
}

// ShapeName is the name of the shape the plan was proposed in.
func (v planView) ShapeName() string {
	if v.Picture.Plan.Shape == "" {
		return ""
	}
	return propose.ShapeOf(v.Picture.Plan.Shape, v.Program.Family).Name
}

// AimIs reports whether the plan was proposed for this aim.
// Before it was proposed the aim is the day's theme.
func (v planView) AimIs(kind, value string) bool {
	aim := v.Picture.Plan.Aim
	if aim == (doc.Aim{}) {
		switch v.Theme.Kind {
		case season.Skill:
			aim = doc.Aim{Kind: "skill", Value: v.Theme.Value}
		case season.CleanUp:
			aim = doc.Aim{Kind: "clean"}
		case season.New:
			aim = doc.Aim{Kind: "ahead"}
		}
	}
	return aim == doc.Aim{Kind: kind, Value: value}
}

// Pinned reports whether the plan's part of that name stays when it is proposed again.
func (v planView) Pinned(what string) bool { return slices.Contains(v.Picture.Plan.Pinned, what) }

// GivesFirst reports whether blocks of a kind give first when time is short.
func (v planView) GivesFirst(k doc.Kind) bool {
	g := v.Picture.Plan.Gives
	return len(g) > 0 && g[0] == k
}

// Main is the plan's first block of stations, worked out, and Deal how its players are dealt.
func (v planView) Main() work.Circuit { return v.Picture.Main() }
func (v planView) Deal() *doc.Deal    { return v.Picture.Plan.DealOf(v.Picture.Plan.First()) }

// WorkTime is the length of a round.
func (v planView) WorkTime() string { return coach.Clock(v.Main().Round()) }

// ChangeBy is the change time moved by seconds; from then on it is set, not worked out. (None would ask for it to be
// worked out.)
func (v planView) ChangeBy(seconds int) int {
	return max(5, edit.Toward("change", "", int(v.Main().Change.Seconds()), seconds))
}

// Sees writes in which rounds the lead stands where a player is.
func (v planView) Sees(r work.Row) string {
	var out []string
	for _, n := range r.LeadSees {
		out = append(out, strconv.Itoa(n))
	}
	return strings.Join(out, ", ")
}

// Skills are those that anybody tries today, the most tried first; at most six make columns.
func (v planView) Skills() []string {
	sum := map[string]float64{}
	for _, r := range v.Picture.Ledger {
		for k, n := range r.BySkill {
			sum[k] += n
		}
	}
	var out []string
	for k := range sum {
		out = append(out, k)
	}
	slices.SortFunc(out, func(a, b string) int {
		if sum[a] != sum[b] {
			return int(sum[b]*10) - int(sum[a]*10)
		}
		return strings.Compare(a, b)
	})
	return out[:min(6, len(out))]
}

// Serves is what a player's tries serve on average, and how one moves in them, the most first.
func (v planView) Serves() string {
	n := float64(max(1, len(v.Picture.Ledger)))
	list := func(of func(work.Row) map[string]float64) string {
		sum := map[string]float64{}
		for _, r := range v.Picture.Ledger {
			for k, x := range of(r) {
				sum[k] += x / n
			}
		}
		names := slices.Collect(maps.Keys(sum))
		slices.SortFunc(names, func(a, b string) int { return cmp.Or(cmp.Compare(sum[b], sum[a]), cmp.Compare(a, b)) })
		for i, k := range names {
			names[i] = fmt.Sprintf("%s %.0f", k, sum[k])
		}
		return strings.Join(names, ", ")
	}
	serves, moves := list(func(r work.Row) map[string]float64 { return r.Serves }), list(func(r work.Row) map[string]float64 { return r.Moves })
	says := strings.Trim(serves+" · "+moves, " ·")
	forfeits := 0.0
	for _, r := range v.Picture.Ledger {
		forfeits += r.AfterFaults() / n
	}
	if forfeits >= 0.5 {
		says += fmt.Sprintf(" · after faults about %.0f", forfeits)
	}
	return says
}

// Bad counts the findings that are more than a note.
func (v planView) Bad() (n int) {
	for _, f := range v.Picture.Findings {
		if f.Weight != check.Note {
			n++
		}
	}
	return n
}

// front is how many findings stand on the page: the worst two, and notes only where nothing is to settle. The
// others are opened.
func (v planView) front() int {
	if bad := v.Bad(); bad > 0 {
		return min(2, bad)
	}
	return min(2, len(v.Picture.Findings))
}

// Front are the findings that stand on the page, Rest those that are opened, and RestSays is what they are.
func (v planView) Front() []check.Finding { return v.Picture.Findings[:v.front()] }
func (v planView) Rest() []check.Finding  { return v.Picture.Findings[v.front():] }

func (v planView) RestSays() string {
	bad := max(0, v.Bad()-v.front())
	notes := len(v.Rest()) - bad
	var says []string
	if bad > 0 {
		says = append(says, fmt.Sprint(bad, " more"))
	}
	if notes > 0 {
		says = append(says, say.Count(notes, "note"))
	}
	return strings.Join(says, ", ")
}

// barPart is a stretch of a player's time on the ledger, in hundredths of the session.
type barPart struct {
	Class string
	X, W  float64
}

// Bar is how a player's minutes are spent: at work, waiting, and at rest or on the way.
func (v planView) Bar(r work.Row) (out []barPart) {
	x, all := 0.0, max(v.Picture.Booked, v.Picture.Total).Seconds()
	for _, p := range []struct {
		class string
		time  time.Duration
	}{{"is-works", r.Active}, {"is-waits", r.Waiting}, {"is-rests", r.Resting + r.Moving}} {
		w := 100 * p.time.Seconds() / max(1, all)
		out, x = append(out, barPart{p.class, x, w}), x+w
	}
	return out
}

// TargetBy is a station's target a step lower or higher: ones, and of large targets more at once.
func (v planView) TargetBy(s work.StationAt, by int) int {
	n, step := s.Target.N, 1
	switch {
	case n >= 100:
		step = 10
	case n >= 30:
		step = 5
	case n >= 12:
		step = 2
	}
	return max(1, n+by*step)
}

// ReadOf is what is done in a block, in a line.
func (v planView) ReadOf(b work.Span) string {
	var out []string
	if b.Kind == doc.OneKey && v.Picture.Plan.Key != "" {
		out = append(out, v.Picture.Plan.Key)
	}
	if b.Task != nil && b.Kind != doc.Stations {
		out = append(out, b.Task.Name)
	}
	for _, d := range v.Steps(b) {
		out = append(out, d.Name)
	}
	if b.Cycle != nil {
		for _, d := range v.Exercises(b) {
			out = append(out, d.Name)
		}
	}
	if b.Block.Game != nil {
		out = append(out, b.Block.Game.String())
	}
	if b.Note != "" && !slices.Contains(out, b.Note) {
		out = append(out, b.Note)
	}
	return strings.Join(out, " · ")
}

// Others are the members who are not on the session.
func (v planView) Others() []store.Member {
	var out []store.Member
	for _, m := range v.Members {
		if !slices.ContainsFunc(v.Session.Leaders, func(l store.SessionLeader) bool { return l.Member == m.ID }) {
			out = append(out, m)
		}
	}
	return out
}

// At is a moment of the plan as the clock on the wall shows it; "all through" before the start.
func (v planView) At(d time.Duration) string {
	if d < 0 {
		return ""
	}
	return v.Picture.Start.Add(d).Format("15:04")
}

// Seconds is so many seconds as a duration.
func (v planView) Seconds(n int) time.Duration { return time.Duration(n) * time.Second }

// Toward is a figure moved by a step, for the buttons beside it; at its bound it stays where it is.
func (v planView) Toward(do, what string, now, step int) int { return edit.Toward(do, what, now, step) }

// Length is how long a block takes.
func (v planView) Length(s work.Span) time.Duration { return s.To - s.From }

// RoundTime is how long a round is.
func (v planView) RoundTime(r work.Round) time.Duration { return r.To - r.From }

// ChangeAfter is how long the change after a round takes; 0 where none follows.
func (v planView) ChangeAfter(r work.Round) time.Duration {
	for _, m := range v.Picture.Moments {
		if m.Kind == "change" && m.Round == r.Number {
			return m.To - m.From
		}
	}
	return 0
}

// Rests reports whether a group rests in a round, of all that a route can say.
func (v planView) Rests(station int) bool { return station == rotate.Rest }

// Steps are the drills of a ladder block.
func (v planView) Steps(b work.Span) (out []coach.Drill) {
	for _, t := range b.Steps {
		out = append(out, v.Input.Drills[t.Drill])
	}
	return out
}

// Exercises are the drills of a block of intervals.
func (v planView) Exercises(b work.Span) (out []coach.Drill) {
	for _, e := range b.Intervals.Exercises {
		out = append(out, v.Input.Drill(e.Drill))
	}
	return out
}

// HasSides reports whether there is a game with sides to print.
func (v planView) HasSides() bool {
	return slices.ContainsFunc(v.Picture.Blocks, func(b work.Span) bool { return b.Kind == doc.Game && b.Block.Game != nil })
}

// HasTurns reports whether there is a block of intervals to print.
func (v planView) HasTurns() bool {
	return slices.ContainsFunc(v.Picture.Blocks, func(b work.Span) bool { return b.Cycle != nil })
}

// CycleSays is what a block of intervals comes to: once round all, the rest that is had, the pause that is added, and
// how many need none.
func (v planView) CycleSays(b work.Span) string {
	c := *b.Cycle
	if b.Kind == doc.Run {
		return v.runSays(b)
	}
	says := fmt.Sprintf("%s, %d at once: once round takes %s; each rests %s.",
		say.Count(len(c.Players), "player"), min(c.Places, len(c.Players)), coach.Clock(c.Round), coach.Clock(c.Got+c.Pause))
	if c.Pause > 0 {
		says += fmt.Sprintf(" A pause of %s is added after each time round; %s %s none.",
			coach.Clock(c.Pause), say.Count(c.Full, "player"), say.Does(c.Full, "need"))
	}
	if c.More > 0 {
		says += fmt.Sprintf(" Next time %s.", say.Count(min(max(c.Turns, c.Most), c.Turns+c.More), "turn"))
	}
	return strings.TrimSpace(says + " " + c.SparedSays())
}

// Turns is an exercise of intervals for paper: who works when, time after time round.
func (v planView) Turns(b work.Span, exercise int) (out []turnRow) {
	name := func(i int) string { return b.Cycle.Players[i].Name }
	for _, s := range b.Cycle.Slots {
		row := turnRow{Time: s.Time, At: v.Picture.Start.Add(b.From + b.Cycle.Begins(exercise) + s.From).Format(time.TimeOnly)}
		for _, i := range s.Up {
			if b.Kind == doc.Run { // a line for each, to be judged on
				one := turnRow{Time: row.Time, At: row.At, Up: []string{name(i)}}
				if len(b.Cycle.Judged) > 0 {
					one.Judge = b.Cycle.Judged[i]
				}
				out = append(out, one)
				continue
			}
			row.Up = append(row.Up, name(i))
		}
		if b.Kind == doc.Run {
			continue
		}
		for _, i := range s.Feed {
			row.Feed = append(row.Feed, name(i))
		}
		out = append(out, row)
	}
	return out
}

type turnRow struct {
	At       string
	Time     int
	Up, Feed []string
	Judge    string // of a run-through
}

// Advice says what a block's way of changing partners gives this many players.
func (v planView) Advice(b work.Span) string { return b.Way.Advice(len(v.Input.Players)) }

// Games are ways to put everybody into games on this floor.
func (v planView) Games() []rotate.Game {
	in := v.Input.Floor.Inside()
	games := rotate.Games(len(v.Input.Players), in.Length, in.Width, 2)
	return games[:min(8, len(games))]
}

// GameArea is how large an area of the block's game is; nothing where it is what the floor gives.
func (v planView) GameArea(b work.Span) string {
	if g := b.Block.Game; g.Length > 0 {
		return v.Program.Units.Area(g.Length, g.Width)
	}
	return ""
}

// gameStep is the same players in another game.
type gameStep struct{ Value, Says string }

// GameSteps are the other steps of the block's game: more attack, even, more defence.
func (v planView) GameSteps(b work.Span) (out []gameStep) {
	for i, g := range b.Block.Game.Steps() {
		if g != *b.Block.Game {
			says := []string{"more attack", "even", "more defence"}[i]
			out = append(out, gameStep{edit.GameValue(g), fmt.Sprintf("%d v %d: %s", g.A, g.B, says)})
		}
	}
	return out
}

// GameValue is a game as the edit takes it.
func (v planView) GameValue(g rotate.Game) string { return edit.GameValue(g) }

// State is what the register says about a player.
func (v planView) State(player string) string {
	said := v.Said[player]
	switch {
	case said.State == register.Late && said.FromMinute > 0:
		return "from " + v.At(time.Duration(said.FromMinute)*time.Minute)
	case said.NoWhat != "":
		return "no " + said.NoWhat
	case said.State == register.Present && !said.Guest:
		return ""
	case said.Guest && (said.State == register.Nothing || said.State == register.Present):
		return "guest"
	}
	return string(said.State)
}

// GroupOf is the group a player is in, or −1.
func (v planView) GroupOf(player string) int {
	for _, g := range v.Picture.Groups {
		for _, p := range g.Players {
			if p.ID == player {
				return g.Index
			}
		}
	}
	return -1
}

func planPage(c *shell.Ctx) error {
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	if c.Partial() { // somebody else changed it: the plan as it is now
		return c.Part(pages, "plan", v)
	}
	return c.Page(pages, http.StatusOK, "plan.html", v.Session.ClassName, v)
}

func viewOf(c *shell.Ctx) (v planView, err error) {
	v.Loaded, err = loaded(c, func(tx *store.Tx, _ *app.Loaded) (err error) {
		v.Members, err = tx.Members(c.Ctx(), c.Now)
		return err
	})
	if err != nil {
		return v, err
	}
	if v.Tab = c.Request.FormValue("tab"); v.Tab == "" {
		v.Tab = chosenTab(c)
	}
	v.draw()
	return v, nil
}

// planTabs are the tabs beside a plan, by the id of what they show.
var planTabs = []string{"ledger", "leaders", "kit", "criteria", "stations", "people"}

// chosenTab is the tab that was open last, as the browser keeps it; empty: none was chosen yet.
func chosenTab(c *shell.Ctx) string {
	if tab, err := c.Cookie("tab-plan"); err == nil && slices.Contains(planTabs, tab) {
		return tab
	}
	return ""
}

// First is the tab that is open at first: the one that is filled; the ledger, or the stations where there are none yet.
func (v planView) First() string {
	if slices.Contains(planTabs, v.Tab) {
		return v.Tab
	}
	if len(v.Picture.Stations) == 0 {
		return "stations"
	}
	return "ledger"
}

func (v *planView) draw() {
	v.Tab = or(v.Tab, v.First())
	start := v.Picture.Start
	v.When = start.Format("Mon 2 Jan, 15:04")
	v.Until = start.Add(v.Picture.Booked).Format("15:04")
	v.Floor = svg.Floor(v.Picture, v.Program.Units)
	v.Strip = svg.Strip(v.Picture.Picture)
	if v.Shows("stations") {
		for _, s := range v.Picture.Stations {
			v.Forms = append(v.Forms, v.form(s))
		}
	}
}

func (v *planView) form(s work.StationAt) stationForm {
	f := stationForm{StationAt: s, Trouble: v.Picture.Trouble(s.ID)}
	for _, g := range v.Picture.Groups {
		if len(s.Drill.Variants) == 0 || !slices.Contains(g.Route, s.Index) {
			continue
		}
		gv := groupForm{Group: g, Now: coach.AsWritten}
		if now := s.VariantFor(s.Drill, g.Number, g.Stage); now != nil {
			gv.Now, gv.Says = now.Name, now.Says()
		}
		for by, to := range map[int]*string{-1: &gv.Easier, 1: &gv.Harder} {
			if name, ok := s.Eased(s.Drill, g.Number, g.Stage, by); ok {
				*to = doc.GroupKey(g.Number) + "=" + name
			}
		}
		f.Groups = append(f.Groups, gv)
	}
	in := v.Input.Floor.Inside()
	ask := suggest.For{
		Use:     suggest.Station,
		Lacks:   v.Input.Lacks(),
		Players: len(v.Input.Players),
		Length:  in.Length,
		Width:   in.Width,
		Units:   v.Input.Units,
		Kit:     v.Input.Kit,
		Recent:  v.Input.Recent,
	}
	for _, g := range v.Picture.Groups {
		ask.Size = max(ask.Size, len(g.Players))
	}
	for _, l := range v.Input.Leaders {
		ask.Leaders = append(ask.Leaders, l.Role)
	}
	for _, o := range v.Picture.Stations {
		ask.Chosen = append(ask.Chosen, o.Drill)
	}
	ideas := suggest.Drills(v.Input.Shelf, ask)
	f.Ideas = ideas[:min(3, len(ideas))]
	f.Reach, f.Chance = v.reach(s)
	return f
}

// editPlan makes one change to the plan and answers with the three views as they are then.
func editPlan(c *shell.Ctx) error {
	f := shell.NewForm(c)
	w := edit.Wire{Do: f.Get("do"), At: f.Get("at"), Value: f.Get("value"), Units: c.Club.Units}
	if w.Do == "place" {
		w.Do, w.Value = "spot", placed(f)
	}
	return change(c, w, f.Get("version"))
}

// placed is a typed place as the plan takes it: what is no length stays as it was typed, and is refused there.
func placed(f *shell.Form) string {
	var words []string
	for _, w := range strings.Split(f.Get("value"), "|") {
		if m, ok := f.Units.ParseLength(w); ok && len(words) != 2 { // the turn is no length
			w = strconv.FormatFloat(m, 'f', -1, 64)
		}
		words = append(words, strings.ReplaceAll(strings.TrimSpace(w), " ", "_"))
	}
	return strings.Join(words, " ")
}

// change makes the edit that was sent, or those that mend a finding.
func change(c *shell.Ctx, w edit.Wire, asked string) error {
	return save(c, asked, &w, func(l *app.Loaded) (string, error) {
		if w.Do == "mend" {
			l.Picture = check.Plan(l.Input)
			m := mendOf(l.Picture.Findings, w)
			if m == nil {
				return "", &doc.ErrInput{Says: "That is settled already."}
			}
			return "mended", l.Input.Edit(m.Edits...)
		}
		e, err := edit.Read(w)
		if err != nil {
			return "", err
		}
		if spot, moves := e.(edit.Spot); moves && spot.At != nil { // the others stay where they are seen
			l.Input.Plan = work.Out(l.Input).Stay()
		}
		return e.Called(l.Input.Plan), l.Input.Edit(e)
	})
}

// save makes a change to the plan of the version asked for, which says what it is called, stores it and answers with
// the plan as it then is, worked out once.
func save(c *shell.Ctx, asked string, w *edit.Wire, make func(*app.Loaded) (says string, err error)) error {
	version, _ := strconv.Atoi(asked)
	var v planView
	err := c.In(func(tx *store.Tx) (err error) {
		if v.Loaded, err = app.Read(c.Ctx(), tx, c.Param("id"), c.Now, c.Loc); err == nil {
			v.Members, err = tx.Members(c.Ctx(), c.Now)
		}
		return err
	})
	if err != nil {
		return err
	}
	if v.Session.Version != version {
		return after(c, store.ErrChangedSince, w)
	}
	says, err := make(&v.Loaded)
	if err == nil {
		err = known(v.Input.Plan, v.Input.Shelf, v.Input.Drills)
	}
	if err == nil {
		err = keepPlan(c, &v.Loaded, "Plan: "+says, v.Input.Plan)
	}
	if err != nil {
		return after(c, err, w)
	}
	for _, t := range v.Input.Plan.Tasks() { // drills that came with the change
		if v.Input.Drills[t.Drill].Edition != t.Edition {
			for _, d := range v.Input.Shelf {
				if d.ID == t.Drill && d.Edition == t.Edition {
					v.Input.Drills[d.ID] = d
				}
			}
		}
	}
	v.Session.Plan, v.Session.ChangedBy, v.Undo, v.Redo = v.Input.Plan, c.Member.Name, "Plan: "+says, ""
	v.Picture = check.Plan(v.Input)
	v.Tab = c.Request.FormValue("tab")
	v.draw()
	return answer(c, v)
}

// keepPlan stores a plan that was worked out for the version that l was read in, as one change; else ErrChangedSince.
func keepPlan(c *shell.Ctx, l *app.Loaded, says string, p doc.Plan) error {
	return c.Change(l.Session.ID, says, func(tx *store.Tx) (err error) {
		l.Session.Version, err = tx.SetPlan(c.Ctx(), l.Session.ID, l.Session.Version, p, c.Member.ID, c.Now)
		return err
	})
}

// after answers with the plan as it is now, and with what kept a change from being made.
func after(c *shell.Ctx, err error, w *edit.Wire) error {
	var in *doc.ErrInput
	var clash *deal.Clash
	problem, clashed := "", errors.Is(err, store.ErrChangedSince)
	switch {
	case errors.As(err, &in):
		problem = in.Says
	case errors.As(err, &clash):
		problem = clash.Why
	case err != nil && !clashed:
		return err
	}
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	v.Problem = problem
	if clashed {
		v.Problem = or(v.Session.ChangedBy, "Somebody") + " changed this plan a moment ago; below is how it stands now."
		if w != nil && w.Do != "mend" {
			v.Retry = w
			if e, err := edit.Read(*w); err == nil {
				v.Problem += " You wanted: " + e.Called(v.Input.Plan) + "."
			}
		}
	}
	return answer(c, v)
}

// mendOf finds a mend by its finding's key and its number.
func mendOf(findings []check.Finding, w edit.Wire) *check.Mend {
	n, err := strconv.Atoi(w.At)
	for _, f := range findings {
		if err == nil && f.Key() == w.Value && n >= 0 && n < len(f.Mends) {
			return &f.Mends[n]
		}
	}
	return nil
}

func answer(c *shell.Ctx, v planView) error {
	c.Quiet()         // the plan has its own way back
	if !c.Partial() { // without scripts the whole page comes back
		if v.Problem == "" {
			return c.To("/sessions/" + v.Session.ID)
		}
		return c.Page(pages, http.StatusUnprocessableEntity, "plan.html", v.Session.ClassName, v)
	}
	if v.Problem != "" {
		return c.PartAs(http.StatusUnprocessableEntity, pages, "plan", v)
	}
	return c.Part(pages, "plan", v)
}

func or(s, other string) string {
	if s == "" {
		return other
	}
	return s
}

// known checks that every drill of the plan is on the shelf, in that edition or a newer one.
func known(p doc.Plan, shelf []coach.Drill, planned map[string]coach.Drill) error {
	for _, t := range p.Tasks() {
		d, was := planned[t.Drill]
		if (!was || t.Edition > d.Edition) &&
			!slices.ContainsFunc(shelf, func(d coach.Drill) bool { return d.ID == t.Drill && d.Edition == t.Edition }) {
			return &doc.ErrInput{Field: "drill", Says: "That drill is not on the shelf."}
		}
	}
	return nil
}

// proposePlan makes a whole plan; what is pinned stays.
func proposePlan(c *shell.Ctx) error {
	f := shell.NewForm(c)
	kind, value, _ := strings.Cut(f.Get("aim"), " ")
	return save(c, f.Get("version"), nil, func(l *app.Loaded) (says string, err error) {
		aim := doc.Aim{Kind: kind, Value: value}
		if f.Get("take") == "" {
			l.Input.Plan, err = propose.Plan(l.Input, f.Get("shape"), aim)
		} else {
			l.Input.Plan, err = taken(l.Input, f.Get("shape"), aim, f.Get("take"))
		}
		return "proposed: " + propose.ShapeOf(f.Get("shape"), "").Name, err
	})
}

func undo(c *shell.Ctx) error {
	return back(
		c,
		"There is nothing to take back.",
		func() error { _, err := c.S.Store.UndoLast(c.Ctx(), c.Club.ID, c.Param("id")); return err },
	)
}

func redo(c *shell.Ctx) error {
	return back(
		c,
		"There is nothing to do again.",
		func() error { _, err := c.S.Store.Redo(c.Ctx(), c.Club.ID, c.Param("id")); return err },
	)
}

func back(c *shell.Ctx, none string, do func() error) error {
	err := c.In(func(tx *store.Tx) error {
		_, err := tx.Session(c.Ctx(), c.Param("id"))
		return err
	})
	if err != nil {
		return err
	}
	problem := ""
	switch err := do(); {
	case errors.Is(err, store.ErrNone):
		problem = none
	case errors.Is(err, store.ErrChangedSince):
		problem = "Something was changed again since, so it cannot be done by itself."
	case err != nil:
		return err
	default:
		err := c.In(func(tx *store.Tx) error {
			s, err := tx.Session(c.Ctx(), c.Param("id"))
			if err != nil {
				return err
			}
			return tx.Tell(c.Ctx(), s.ID, fmt.Sprint("plan ", s.Version))
		})
		if err != nil {
			return err
		}
	}
	v, err := viewOf(c)
	if err != nil {
		return err
	}
	v.Problem = problem
	return answer(c, v)
}

// coming says that a player stays away, or comes after all.
func coming(c *shell.Ctx) error {
	f := shell.NewForm(c)
	a, says := store.Attendance{PlayerID: f.Get("player")}, "coming after all"
	if f.Get("away") != "" {
		a.State, says = "away", "stays away"
	}
	if !store.IsID(a.PlayerID) || !store.IsID(c.Param("id")) {
		return store.ErrNone
	}
	err := c.Change(c.Param("id"), or(f.Get("name"), "Player")+" "+says, func(tx *store.Tx) error {
		if _, err := tx.Session(c.Ctx(), c.Param("id")); err != nil {
			return err
		}
		if _, err := tx.SetAttendance(c.Ctx(), c.Param("id"), a, c.Member.ID, c.Now); err != nil {
			return err
		}
		return tx.Tell(c.Ctx(), c.Param("id"), "plan")
	})
	return after(c, err, nil)
}

func leader(c *shell.Ctx) error {
	f := shell.NewForm(c)
	l := store.SessionLeader{Member: f.Get("member")}
	if !store.IsID(l.Member) || !store.IsID(c.Param("id")) {
		return store.ErrNone
	}
	if f.Get("from") != "" {
		l.From = f.Int("from", 0, 480, "Comes after how many minutes")
	}
	if f.Get("until") != "" {
		l.Until = f.Int("until", 1, 480, "Leaves after how many minutes")
	}
	if l.Until > 0 && l.Until <= l.From {
		f.Wrong("until", "Nobody can leave before they come.")
	}
	for _, problem := range f.Errors {
		return after(c, &doc.ErrInput{Says: problem}, nil)
	}
	err := c.Change(c.Param("id"), "Changed who leads", func(tx *store.Tx) error {
		if _, err := tx.Session(c.Ctx(), c.Param("id")); err != nil {
			return err
		}
		if err := tx.SetSessionLeader(c.Ctx(), c.Param("id"), l, f.Get("off") == ""); err != nil {
			return err
		}
		return tx.Tell(c.Ctx(), c.Param("id"), "plan")
	})
	return after(c, err, nil)
}

// live tells an open plan when somebody else changes it.
func live(c *shell.Ctx) error {
	may := func() (version int, err error) {
		err = c.In(func(tx *store.Tx) error {
			s, err := tx.Session(c.Ctx(), c.Param("id"))
			version = s.Version
			return err
		})
		return version, err
	}
	return c.Stream(c.Param("id"), may, func(what string) string { return what })
}

// loaded reads a session, with what more asks for, and works its plan out when the transaction is over.
func loaded(c *shell.Ctx, more func(*store.Tx, *app.Loaded) error) (l app.Loaded, err error) {
	err = c.In(func(tx *store.Tx) (err error) {
		if l, err = app.Read(c.Ctx(), tx, c.Param("id"), c.Now, c.Loc); err == nil && more != nil {
			err = more(tx, &l)
		}
		return err
	})
	if err == nil {
		l.Work()
	}
	return l, err
}
